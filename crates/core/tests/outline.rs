//! Panels against an independent polygon library (clipper2-rust: booleans and mitred offsets).

use clipper2_rust::{
    ClipType, EndType, FillRule, JoinType, PathsD, PointD, area_paths, boolean_op_d,
    inflate_paths_d,
};
use jigfit_core::compute;
use jigfit_core::geometry::region::Region;
use jigfit_core::template::outline::{Bounds, outline};
use proptest::prelude::*;
use rstest::rstest;
use serde_json::{Value, json};

fn paths(regions: &[Region]) -> PathsD {
    let ring = |r: &Vec<[f64; 2]>| r.iter().map(|p| PointD::new(p[0], p[1])).collect();
    regions
        .iter()
        .flat_map(|r| std::iter::once(&r.outer).chain(&r.holes).map(ring))
        .collect()
}

/// The other library's answer: difference, then offset inwards with mitres.
fn other(bay: &Region, obstacles: &[Region], clearance: f64) -> PathsD {
    let free = boolean_op_d(
        ClipType::Difference,
        FillRule::NonZero,
        &paths(std::slice::from_ref(bay)),
        &paths(obstacles),
        5,
    );
    inflate_paths_d(
        &free,
        -clearance,
        JoinType::Miter,
        EndType::Polygon,
        5.0,
        5,
        0.0,
    )
}

fn differs(a: &PathsD, b: &PathsD) -> f64 {
    let xor = boolean_op_d(ClipType::Xor, FillRule::NonZero, a, b, 5);
    area_paths(&xor).abs()
}

fn van() -> Region {
    Region {
        outer: vec![
            [0.0, -700.0],
            [600.0, -722.0],
            [1200.0, -715.0],
            [1800.0, -690.0],
            [1800.0, 688.0],
            [1200.0, 712.0],
            [600.0, 728.0],
            [0.0, 705.0],
        ],
        holes: vec![],
    }
}

fn wells() -> Vec<Region> {
    vec![
        Region::rectangle(500.0, 512.0, 1200.0, 900.0),
        Region::rectangle(490.0, -900.0, 1195.0, -520.0),
    ]
}

#[test]
fn a_bay_with_wells_is_what_the_other_library_says() {
    let bounds = Bounds {
        bay: van(),
        obstacles: wells(),
        clearance: 3.4,
        ..Bounds::default()
    };
    let ours = outline(&bounds);
    let theirs = other(&van(), &wells(), 3.4);
    assert_eq!(ours.panels.len(), 1);
    assert!(differs(&paths(&ours.panels), &theirs) < 5.0);
    assert!((ours.area - area_paths(&theirs)).abs() < 5.0);
}

/// A square with a square hole: by hand (200 - 20)^2 - (40 + 20)^2.
#[test]
fn holes_grow_as_the_outside_shrinks() {
    let out = compute::run(
        "outline",
        json!({"bay": {"outer": [[0,0],[200,0],[200,200],[0,200]]},
            "obstacles": [{"outer": [[80,80],[120,80],[120,120],[80,120]], "holes": []}],
            "clearance": 10}),
    )
    .unwrap()
    .unwrap();
    assert_eq!(out["pieces"], 1);
    assert!((out["area"].as_f64().unwrap() - (32_400.0 - 3_600.0)).abs() < 0.1);
    assert!((out["lost_area"].as_f64().unwrap() - (38_400.0 - 28_800.0)).abs() < 0.1);
}

/// By hand: 100 x 100, 2 all round but 10 at the bottom: 96 x 88.
#[test]
fn one_edge_with_its_own_clearance() {
    let out = compute::run(
        "outline",
        json!({"bay": {"outer": [[0,0],[100,0],[100,100],[0,100]]}, "clearance": 2,
            "edge_clearance": [{"near": [[0,0],[100,0]], "clearance": 10}]}),
    )
    .unwrap()
    .unwrap();
    assert!((out["area"].as_f64().unwrap() - 96.0 * 88.0).abs() < 0.1);
}

#[test]
fn relief_takes_away_and_never_adds() {
    let bounds = |r| Bounds {
        bay: van(),
        obstacles: wells(),
        clearance: 2.0,
        internal_radius: r,
        ..Bounds::default()
    };
    let (square, relieved) = (outline(&bounds(0.0)), outline(&bounds(6.0)));
    assert!(relieved.area < square.area);
    let outside = boolean_op_d(
        ClipType::Difference,
        FillRule::NonZero,
        &paths(&relieved.panels),
        &paths(&square.panels),
        5,
    );
    assert!(area_paths(&outside).abs() < 1.0);
    // Two corners at each well.
    let lost = square.area - relieved.area;
    assert!(lost > 0.0 && lost < 4.0 * std::f64::consts::PI * 36.0);
}

#[rstest]
#[case(json!([2440, 1220]), 2)]
#[case(json!([1220, 2440]), 2)]
#[case(json!([2440, 1500]), 1)]
#[case(json!([1000, 800]), 4)]
fn split_only_when_larger_than_the_sheet(#[case] max_size: Value, #[case] pieces: usize) {
    let out = compute::run(
        "outline",
        json!({"bay": {"outer": [[0,0],[1800,0],[1800,1400],[0,1400]]}, "max_size": max_size, "thickness": 18}),
    )
    .unwrap()
    .unwrap();
    assert_eq!(out["pieces"], pieces);
    assert!((out["area"].as_f64().unwrap() - 1800.0 * 1400.0).abs() < 1.0);
}

#[test]
fn leaning_walls_give_bevels_on_wall_edges_only() {
    let out = compute::run(
        "outline",
        json!({"bay": {"outer": [[0,0],[1000,0],[1000,800],[0,800]]},
            "obstacles": [{"outer": [[400,-10],[600,-10],[600,200],[400,200]], "holes": []}],
            "clearance": 3, "thickness": 18, "wall_slope_deg": 7}),
    )
    .unwrap()
    .unwrap();
    let bevels = out["bevels"].as_array().unwrap();
    // Bottom wall in two stretches, and the three other walls.
    assert_eq!(bevels.len(), 5, "{bevels:?}");
    assert!(bevels.iter().all(|b| b["deg"] == 7.0));
}

#[rstest]
#[case(json!({"bay": {"outer": [[0,0],[1,0]]}}), "/bay/outer")]
#[case(json!({"bay": {"outer": [[0,0],[100,100],[100,0],[0,100]]}}), "/bay/outer")]
#[case(json!({"bay": {"outer": [[0,0],[100,0],[100,1e7]]}}), "/bay/outer/2/1")]
#[case(json!({"bay": {"outer": [[0,0],[100,0],[100,100]]}, "clearance": -1}), "/clearance")]
#[case(json!({"bay": {"outer": [[0,0],[100,0],[100,100]]}, "max_size": [0, 5]}), "/max_size/0")]
#[case(json!({"bay": {"outer": [[0,0],[100,0],[100,100]], "inner": []}}), "/bay/inner")]
#[case(json!({"bay": {"outer": [[0,0],[100,0],[100,"x"]]}}), "/bay/outer/2/1")]
fn bad_input_is_named(#[case] input: Value, #[case] pointer: &str) {
    assert_eq!(
        compute::run("outline", input).unwrap().unwrap_err().pointer,
        pointer
    );
}

#[test]
fn nothing_left_is_said() {
    let out = compute::run(
        "outline",
        json!({"bay": {"outer": [[0,0],[100,0],[100,100],[0,100]]}, "clearance": 60}),
    )
    .unwrap()
    .unwrap();
    assert_eq!(out["pieces"], 0);
    assert!(!out["warnings"].as_array().unwrap().is_empty());
}

prop_compose! {
    /// A bay that bulges and tapers: stations with independent left and right walls.
    fn bay()(walls in proptest::collection::vec((300.0..800.0_f64, 300.0..800.0_f64), 3..9)) -> Region {
        let step = 350.0;
        let right = walls.iter().enumerate().map(|(i, w)| [i as f64 * step, -w.0]);
        let left = walls.iter().enumerate().rev().map(|(i, w)| [i as f64 * step, w.1]);
        Region { outer: right.chain(left).collect(), holes: vec![] }
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(120))]
    /// The panel is the other library's panel, and lies inside the bay.
    #[test]
    fn random_bays_agree(bay in bay(), x in 100.0..600.0_f64, w in 100.0..500.0_f64, y in 50.0..250.0_f64, c in 0.5..25.0_f64) {
        let obstacles = vec![Region::rectangle(x, y, x + w, 2000.0)];
        let ours = outline(&Bounds { bay: bay.clone(), obstacles: obstacles.clone(), clearance: c, ..Bounds::default() });
        let theirs = other(&bay, &obstacles, c);
        // Crumbs below 400 mm2 are dropped on purpose.
        prop_assert!(differs(&paths(&ours.panels), &theirs) < 450.0);
        let outside = boolean_op_d(ClipType::Difference, FillRule::NonZero, &paths(&ours.panels), &paths(&[bay]), 5);
        prop_assert!(area_paths(&outside).abs() < 0.5);
    }
}
