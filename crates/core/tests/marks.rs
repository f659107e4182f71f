//! Shapes in marks that a tape has, and shapes that can be sawn.

use crate::common::*;
use clipper2_rust::{ClipType, FillRule, PathsD, PointD, area_paths, boolean_op_d};
use jigfit_core::geometry::grid::inside;
use jigfit_core::geometry::region::Region;
use jigfit_core::geometry::sawn::{ACROSS, sawable};
use jigfit_core::geometry::{Point, distance_to_segment};
use proptest::prelude::*;
use rstest::rstest;
use serde_json::json;

fn region(outer: &[Point]) -> Region {
    Region {
        outer: outer.to_vec(),
        holes: vec![],
    }
}

/// Area of `a` outside `b`, by another polygon library.
fn outside(a: &Region, b: &Region) -> f64 {
    let paths =
        |r: &Region| -> PathsD { vec![r.outer.iter().map(|p| PointD::new(p[0], p[1])).collect()] };
    let rest = boolean_op_d(
        ClipType::Difference,
        FillRule::NonZero,
        &paths(a),
        &paths(b),
        6,
    );
    area_paths(&rest).abs()
}

/// A board cut to walls: nearly straight sides with a few corners of some tenths each.
fn board() -> impl Strategy<Value = Region> {
    let side = || proptest::collection::vec(0.0..6.0_f64, 2..6);
    (300.0..2200.0_f64, 90.0..1200.0_f64, side(), side()).prop_map(|(w, h, low, high)| {
        let run = |list: &[f64], y: f64| -> Vec<Point> {
            let n = list.len() as f64 - 1.0;
            let at = |(i, d): (usize, &f64)| [w * i as f64 / n, y + d];
            list.iter().enumerate().map(at).collect()
        };
        let mut outer = run(&low, 0.0);
        outer.extend(run(&high, h).into_iter().rev());
        region(&outer)
    })
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 400, failure_persistence: None, ..ProptestConfig::default() })]

    /// On the grid, nowhere outside, and no corner more than a step from the exact outline an axis.
    #[test]
    fn marked_boards_lie_inside_by_a_step(exact in board(), step in prop_oneof![Just(1.0), Just(0.5), Just(1.5875), Just(0.79375)]) {
        let (corner, marked) = inside(&exact, step).unwrap();
        for p in &marked.outer {
            for v in p {
                let n = v / step;
                prop_assert!((n - n.round()).abs() < 1e-6, "{v} is no mark");
            }
        }
        let placed = marked.moved(corner[0], corner[1]);
        prop_assert!(outside(&placed, &exact) < 0.01, "{}", outside(&placed, &exact));
        let far = placed.outer.iter().map(|p| {
            let n = exact.outer.len();
            let near = (0..n).map(|i| distance_to_segment(*p, exact.outer[i], exact.outer[(i + 1) % n]));
            near.fold(f64::INFINITY, f64::min)
        });
        let far = far.fold(0.0, f64::max);
        prop_assert!(far <= step * 2.0_f64.sqrt() + 1e-6, "{far}");
        let (a, b) = (exact.size(), marked.size());
        // Where the nearest mark lies beside a corner of two leaning edges, what they lean within a mark comes to it.
        let lean = exact.outer.iter().zip(exact.outer.iter().cycle().skip(1)).map(|(p, q)| {
            let (dx, dy) = ((p[0] - q[0]).abs(), (p[1] - q[1]).abs());
            dx.min(dy) / dx.max(dy)
        });
        let most = 2.0 * step * (1.0 + lean.fold(0.0, f64::max));
        prop_assert!(a.0 - b.0 <= most && a.1 - b.1 <= most, "{a:?} {b:?}");
    }

    /// Only material goes, and only a little.
    #[test]
    fn sawable_boards_lie_inside(exact in board()) {
        let sawn = sawable(&exact);
        prop_assert!(outside(&sawn, &exact) < 0.01);
        let (w, h) = exact.size();
        prop_assert!(exact.area() - sawn.area() <= 6.0 * ACROSS * (w + h), "{}", exact.area() - sawn.area());
    }
}

#[rstest]
// A plain rectangle keeps what is whole and loses the tenths.
#[case(&[[0.3, 0.2], [712.4, 0.2], [712.4, 290.1], [0.3, 290.1]], (712.0, 289.0), 4)]
// An edge level within less than a mark is marked level: 0.3 mm over 2 m is no slope.
#[case(&[[0.0, 0.0], [2000.0, 0.3], [2000.0, 500.0], [0.0, 500.0]], (2000.0, 499.0), 4)]
// A slope of 7 mm stays one.
#[case(&[[0.0, 0.0], [1000.0, 7.0], [1000.0, 400.0], [0.0, 400.0]], (1000.0, 400.0), 4)]
fn rectangles_in_millimetres(
    #[case] outer: &[Point],
    #[case] size: (f64, f64),
    #[case] corners: usize,
) {
    let (_, marked) = inside(&region(outer), 1.0).unwrap();
    assert_eq!(marked.size(), size);
    assert_eq!(marked.outer.len(), corners);
}

/// Horns 4.6 mm wide and 0.3 high at the feet of a frame: gone. One of 30 mm by 12, and a notch for a well: kept.
#[test]
fn horns_go_and_feet_stay() {
    let horned = region(&[
        [0.0, 0.0],
        [4.6, 0.0],
        [4.6, 0.3],
        [995.0, 0.3],
        [995.0, 0.0],
        [1000.0, 0.0],
        [1000.0, 250.0],
        [0.0, 250.0],
    ]);
    let sawn = sawable(&horned);
    assert_eq!(sawn.outer.len(), 4, "{:?}", sawn.outer);
    assert_eq!(sawn.bounds(), (0.0, 0.3, 1000.0, 250.0));
    let footed = region(&[
        [0.0, 0.0],
        [30.0, 0.0],
        [30.0, 12.0],
        [800.0, 12.0],
        [800.0, 150.0],
        [1000.0, 150.0],
        [1000.0, 250.0],
        [0.0, 250.0],
    ]);
    assert_eq!(sawable(&footed), footed);
}

/// Over a well that ends 0.7 mm below the top of a board a wedge runs out by 235, straight or in steps: it goes, and the long upper edge, on
/// which something lies, stays where it is.
#[rstest]
#[case(&[])]
#[case(&[[405.0, 234.47]])]
#[case(&[[500.0, 234.6]])]
#[case(&[[405.0, 234.8], [639.0, 234.9]])]
#[case(&[[639.0, 234.31]])]
#[case(&[[405.0, 234.47], [405.0, 234.6]])]
fn a_low_wedge_goes_before_the_edge_over_it(#[case] steps: &[[f64; 2]]) {
    let mut ring = vec![[0.0, 0.0], [405.6, 0.0], [405.3, 117.8], [405.0, 234.3]];
    ring.extend(steps);
    ring.extend([[640.0, 235.0], [0.0, 235.0]]);
    for _ in 0..ring.len() {
        ring.rotate_left(1);
        let sawn = sawable(&region(&ring));
        assert_eq!(sawn.bounds(), (0.0, 0.0, 405.6, 235.0), "{:?}", sawn.outer);
        let top = sawn.outer.iter().filter(|p| p[1] == 235.0);
        let reach = top.map(|p| p[0]).fold(0.0, f64::max);
        assert!((404.9..=405.01).contains(&reach), "{:?}", sawn.outer);
    }
}

/// A step of half a millimetre in a long edge is sawn straight; one of 3 mm is not.
#[rstest]
#[case(0.5, 4)]
#[case(3.0, 6)]
fn low_steps_are_sawn_straight(#[case] step: f64, #[case] corners: usize) {
    let stepped = region(&[
        [0.0, 0.0],
        [600.0, 0.0],
        [600.0, step],
        [900.0, step],
        [900.0, 300.0],
        [0.0, 300.0],
    ]);
    let sawn = sawable(&stepped);
    assert_eq!(sawn.outer.len(), corners, "{:?}", sawn.outer);
    assert!(sawn.area() <= stepped.area());
}

/// What is left over a well that ends 0.4 mm below the top of a board is a strip of 0.4 mm that runs out to nothing: no saw follows it. Where it is
/// 3 mm high at its root it stays.
#[rstest]
#[case(0.4, 408.0)]
#[case(3.0, 610.0)]
fn strips_that_run_out_are_taken_off(#[case] high: f64, #[case] wide: f64) {
    let end = region(&[
        [0.0, 0.0],
        [408.0, 0.0],
        [408.0, 288.0 - high],
        [610.0, 288.0],
        [0.0, 288.0],
    ]);
    let mirrored = region(&[
        [0.0, 0.0],
        [0.0, 288.0],
        [-610.0, 288.0],
        [-408.0, 288.0 - high],
        [-408.0, 0.0],
    ]);
    for board in [end, mirrored] {
        let sawn = sawable(&board);
        assert!((sawn.size().0 - wide).abs() < 0.01, "{:?}", sawn.outer);
        assert!((sawn.size().1 - 288.0).abs() < 1e-9 && sawn.area() <= board.area());
    }
}

/// Every number of every part of the demos is a mark: in whole millimetres, half ones, sixteenths.
#[rstest]
#[case("1 mm", 1.0)]
#[case("1/2 mm", 0.5)]
#[case("1/16 in", 1.5875)]
#[case("1/32 in", 0.79375)]
fn parts_are_in_marks(
    #[values("moth", "kingfisher", "moth-whole")] name: &str,
    #[case] marks: &str,
    #[case] step: f64,
) {
    let mut doc = demo(name);
    doc["units"]["marks"] = json!(marks);
    let p = plan(&doc);
    let is_mark = |v: f64| ((v / step) - (v / step).round()).abs() < 1e-6;
    for part in &p.parts {
        let what = format!("{} {}", part.id, part.name);
        assert!(
            is_mark(part.w.value) && is_mark(part.h.value),
            "{what} {}",
            part.w.value
        );
        for c in &part.corners {
            assert!(is_mark(c.u.value) && is_mark(c.v.value), "{what} {c:?}");
        }
        for d in &part.dims {
            assert!(is_mark(d.figure.value), "{what} {d:?}");
        }
        // Centres of windows and grooves follow from their edges: half a mark.
        for f in part.features.iter().filter(|f| f.kind != "relief") {
            assert!(
                is_mark(2.0 * f.at[0]) && is_mark(2.0 * f.at[1]),
                "{what} {f:?}"
            );
        }
    }
    // Slats that differed by tenths are one part now.
    if name == "kingfisher" && step == 1.0 {
        assert!(p.parts.len() < p.boards.len());
    }
}
