//! The lid against plain trial (turning it in small steps until a corner of a fine outline is in the wall)
//! and against statics worked by hand.

use jigfit_core::compute;
use proptest::prelude::*;
use rstest::rstest;
use serde_json::{Value, json};

fn lid(input: Value) -> Value {
    compute::run("lid", input).unwrap().unwrap()
}

fn plain(length: f64, thickness: f64, wall: f64) -> Value {
    json!({"length": length, "thickness": thickness, "mass": 14, "cg": length / 2.0, "wall_distance": wall})
}

fn number(v: &Value, at: &str) -> f64 {
    v.pointer(at).and_then(Value::as_f64).unwrap_or(f64::NAN)
}

/// Independent of the formula: turn the points of the lid's outline by steps of a hundredth of a degree.
fn by_trial(length: f64, depth: f64, wall: f64) -> f64 {
    let edge: Vec<[f64; 2]> = (0..=50)
        .flat_map(|i| {
            let t = f64::from(i) / 50.0;
            [
                [length * t, 0.0],
                [length * t, depth],
                [0.0, depth * t],
                [length, depth * t],
            ]
        })
        .collect();
    let hits = |deg: f64| {
        let (s, c) = deg.to_radians().sin_cos();
        edge.iter().any(|p| p[0] * c - p[1] * s < -wall - 1e-9)
    };
    (0..=18_000)
        .map(|i| f64::from(i) / 100.0)
        .take_while(|deg| !hits(*deg))
        .last()
        .unwrap_or(0.0)
}

proptest! {
    #[test]
    fn the_wall_stops_it_where_trial_says(
        length in 50.0..1500.0, thickness in 3.0..40.0, wall in 0.0..2000.0, mattress in 0.0..150.0,
    ) {
        let mut input = plain(length, thickness, wall);
        input["mattress"] = json!({"mass": 5, "thickness": mattress});
        let out = lid(input);
        let trial = by_trial(length, thickness + mattress, wall);
        let most = number(&out, "/max_opening_deg");
        prop_assert!((most - trial).abs() < 0.02, "{most} {trial}");
        let by = out["limited_by"].as_str().unwrap();
        prop_assert_eq!(by, if trial < 179.99 { "wall" } else { "none" });
    }

    /// Moments about the hinge from the points themselves, by virtual work: what the hand does over a small
    /// turn is what the weights rise less what the strut gives.
    #[test]
    fn the_hand_does_the_work_that_is_left(deg in 1.0..60.0_f64, force in 0.0..400.0_f64) {
        let input = json!({"length": 900, "thickness": 18, "mass": 12, "cg": 430, "wall_distance": 3000,
            "mattress": {"mass": 6, "thickness": 80},
            "strut": {"force": force, "count": 2, "closed": 100, "open": 2000, "lid_at": [420, -25], "frame_at": [90, -170]}});
        let deg = (deg / 5.0_f64).floor() * 5.0;
        let out = lid(input);
        let row = out["hand_force"].as_array().unwrap().iter().find(|h| h["deg"] == json!(deg)).unwrap().clone();
        let d = 1e-4_f64;
        let at = |p: [f64; 2], deg: f64| -> [f64; 2] {
            let (s, c) = deg.to_radians().sin_cos();
            [p[0] * c - p[1] * s, p[0] * s + p[1] * c]
        };
        let rise = |p: [f64; 2]| -> f64 { at(p, deg + d)[1] - at(p, deg - d)[1] };
        let strut = |deg: f64| -> f64 {
            let p = at([420.0, -25.0], deg);
            (p[0] - 90.0_f64).hypot(p[1] + 170.0)
        };
        let work: f64 = 9.80665 * (12.0 * rise([430.0, 9.0]) + 6.0 * rise([450.0, 58.0]))
            - 2.0 * force * (strut(deg + d) - strut(deg - d));
        let path = 900.0 * (2.0 * d).to_radians();
        let n: f64 = row["n"].as_f64().unwrap();
        prop_assert!((n - work / path).abs() < 1e-3, "{n} {}", work / path);
    }
}

/// By hand: 14 kg at the middle of 1200: half the weight at the edge, 14 x 9.80665 / 2 = 68.647 N; at 60
/// degrees its lever is 600 cos 60 - 9 sin 60 = 292.2 of 1200: 33.43 N.
#[test]
fn weight_alone() {
    let out = lid(plain(1200.0, 18.0, 2000.0));
    let hand = out["hand_force"].as_array().unwrap();
    assert_eq!(hand.len(), 37);
    assert!((number(&hand[0], "/n") - 68.646_55).abs() < 1e-4);
    assert!((number(&hand[12], "/n") - 33.431).abs() < 2e-3);
    // Its weight is over the hinge where tan of the opening is 600 / 9: 89.14 degrees.
    assert!((number(&out, "/stays_open_from_deg") - 89.1406).abs() < 1e-3);
    assert_eq!(out["strut_ok"], true);
    assert!(out["strut_length"].is_null());
}

/// A hinge right at the wall: the back edge's own thickness meets it at once. 25 mm forward of it a board of
/// 18 mm stands up and leans back until its free edge touches.
#[rstest]
#[case(0.0, 0.0)]
#[case(9.0, 30.0)]
fn too_near_the_wall(#[case] wall: f64, #[case] deg: f64) {
    let out = lid(plain(1200.0, 18.0, wall));
    assert!((number(&out, "/max_opening_deg") - deg).abs() < 1e-9);
    assert_eq!(out["limited_by"], "wall");
    assert!(out["stays_open_from_deg"].is_null());
}

/// By hand: a strut between (300, 0) on the lid and (0, -400) is 500 long shut (3-4-5) and at 90 degrees,
/// from (0, 300), 700. One of 600 at most stops it where cos(90 + a) = (300^2 + 400^2 - 600^2) / (2 x 300 x 400).
#[test]
fn the_strut_ends_it() {
    let mut input = plain(800.0, 18.0, 2000.0);
    input["strut"] = json!({"force": 100, "count": 1, "closed": 450, "open": 600, "lid_at": [300, 0], "frame_at": [0, -400]});
    let out = lid(input.clone());
    let a = (-110_000.0_f64 / 240_000.0).acos().to_degrees() - 90.0;
    assert!((number(&out, "/max_opening_deg") - a).abs() < 1e-6);
    assert_eq!(out["limited_by"], "strut");
    assert!((number(&out, "/strut_length/shut") - 500.0).abs() < 1e-9);
    assert!((number(&out, "/strut_length/open") - 600.0).abs() < 1e-6);
    // One that is too long to be put in with the lid shut is told.
    input["strut"]["closed"] = json!(520);
    let out = lid(input);
    assert_eq!(out["strut_ok"], false);
    assert!(
        out["warnings"]
            .to_string()
            .contains("Shut, the strut would be 500")
    );
}

#[rstest]
#[case(json!({"length": 0, "thickness": 18, "mass": 1, "cg": 0, "wall_distance": 1}), "/length")]
#[case(json!({"length": 100, "thickness": 18, "mass": 1, "cg": 101, "wall_distance": 1}), "/cg")]
#[case(json!({"length": 100, "thickness": 18, "mass": -1, "cg": 1, "wall_distance": 1}), "/mass")]
#[case(json!({"length": 100, "thickness": 18, "mass": 1, "cg": 1, "wall_distance": -1}), "/wall_distance")]
#[case(json!({"length": 100, "thickness": 18, "mass": 1, "cg": 1}), "/wall_distance")]
#[case(json!({"length": 100, "thickness": 18, "mass": 1, "cg": 1, "wall_distance": 1, "hinge": 2}), "/hinge")]
#[case(json!({"length": 100, "thickness": 18, "mass": 1, "cg": 1, "wall_distance": 1, "strut": {"force": 1, "closed": 300, "open": 200, "lid_at": [1, 1], "frame_at": [0, 0]}}), "/strut/open")]
fn bad_input_is_named(#[case] input: Value, #[case] pointer: &str) {
    let problem = compute::run("lid", input).unwrap().unwrap_err();
    assert_eq!(problem.pointer, pointer, "{problem}");
}
