//! Labels through booleans, insets, splits and straightened curves: every edge that comes out knows the edge it
//! comes from, checked by where it lies.

use jigfit_core::geometry::inset::inset;
use jigfit_core::geometry::labelled::{Label, Labelled, Rank};
use jigfit_core::geometry::region::Region;
use jigfit_core::geometry::split::part_at;
use jigfit_core::geometry::{Point, distance};
use proptest::prelude::*;
use proptest::test_runner::{Config, TestRunner};
use rstest::rstest;

/// A star-shaped region: no two of its edges lie in one line.
fn star() -> impl Strategy<Value = Region> {
    proptest::collection::vec(200.0..900.0_f64, 5..14).prop_map(|radii| {
        let n = radii.len() as f64;
        let at = |(i, r): (usize, &f64)| {
            let t = std::f64::consts::TAU * (i as f64 + 0.13) / n;
            [1000.0 + r * t.cos(), 700.0 + r * t.sin()]
        };
        Region {
            outer: radii.iter().enumerate().map(at).collect(),
            holes: vec![],
        }
    })
}

fn boxes() -> impl Strategy<Value = Vec<Region>> {
    let one = (
        0.0..2000.0_f64,
        0.0..1400.0_f64,
        30.0..400.0_f64,
        30.0..400.0_f64,
    );
    let one = one.prop_map(|(x, y, w, h)| Region::rectangle(x, y, x + w, y + h));
    proptest::collection::vec(one, 0..4)
}

/// Every edge under its own number; the list of them.
fn numbered(region: &Region, rank: Rank, list: &mut Vec<(Point, Point)>) -> Labelled {
    Labelled::with(region, &mut |a, b| {
        list.push((a, b));
        Label {
            rank,
            number: list.len() as u32 - 1,
        }
    })
}

/// Distance of `p` from the line through `a` and `b`, left of it positive.
fn left_of((a, b): (Point, Point), p: Point) -> f64 {
    ((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])) / distance(a, b)
}

#[test]
fn every_edge_of_a_thousand_regions_knows_its_source() {
    let mut runner = TestRunner::new(Config {
        failure_persistence: None,
        ..Config::with_cases(1000)
    });
    let input = (star(), boxes(), 1.0..12.0_f64, 1.0..12.0_f64);
    let law = |(region, others, near, far): (Region, Vec<Region>, f64, f64)| {
        let mut walls = Vec::new();
        let mut things = Vec::new();
        let bay = numbered(&region, Rank::Wall, &mut walls);
        let others_labelled: Vec<Labelled> = others
            .iter()
            .map(|r| numbered(r, Rank::Thing, &mut things))
            .collect();
        let source = |label: Label| match label.rank {
            Rank::Wall => walls[label.number as usize],
            Rank::Thing => {
                // Regions lie left of their edges: of what is taken away the edge runs the other way.
                let (a, b) = things[label.number as usize];
                (b, a)
            }
            _ => panic!("an edge without a source"),
        };
        // A boolean: every edge lies on its source.
        let free = bay.minus(&others_labelled);
        for (a, b, label) in free.iter().flat_map(Labelled::edges) {
            prop_assert!(left_of(source(label), a).abs() < 0.005, "{a:?} {label:?}");
            prop_assert!(left_of(source(label), b).abs() < 0.005, "{b:?} {label:?}");
        }
        // The same area as the booleans of the polygon library that regions use otherwise.
        let area = |list: &[Region]| list.iter().map(Region::area).sum::<f64>();
        let plain: Vec<Region> = free.iter().map(Labelled::region).collect();
        prop_assert!((area(&plain) - area(&region.minus(&others))).abs() < 1.0);
        // Moved in: every edge lies its own clearance to the left of its source, or closes a sharp mitre.
        let off = |label: Label| {
            if label.number.is_multiple_of(2) {
                near
            } else {
                far
            }
        };
        let moved = inset(&free, &off);
        for (a, b, label) in moved.iter().flat_map(Labelled::edges) {
            let d = [a, b].map(|p| left_of(source(label), p) - off(label));
            let cap = d[0].abs().max(d[1].abs()) > 0.005;
            prop_assert!(
                !cap || distance(a, b) <= 12.0 * near.max(far),
                "{d:?} {label:?}"
            );
        }
        Ok(())
    };
    runner.run(&input, law).unwrap();
}

#[test]
fn a_thing_stays_over_a_wall_and_a_wall_over_a_cut_line() {
    let square = Region::rectangle(0.0, 0.0, 100.0, 100.0);
    let bay = Labelled::new(&square, Label::wall(7));
    // The thing's right edge lies on the wall; the cut line on the threshold.
    let thing = Labelled::new(&Region::rectangle(60.0, 40.0, 100.0, 60.0), Label::thing(3));
    let band = Labelled::new(&Region::rectangle(0.0, -5.0, 50.0, 105.0), Label::cut(0));
    let both = bay.and(&band);
    let at = |x: f64| {
        let mut edges = both[0].edges();
        let found = edges.find(|(a, b, _)| (a[0] - x).abs() < 1e-6 && (b[0] - x).abs() < 1e-6);
        found.map(|e| e.2)
    };
    assert_eq!(at(0.0), Some(Label::wall(7)));
    assert_eq!(at(50.0), Some(Label::cut(0)));
    let free = bay.minus(std::slice::from_ref(&thing));
    let count = |label| free[0].edges().filter(|e| e.2 == label).count();
    // Three sides of the notch are the thing's; the wall is in two pieces on that side and three whole ones.
    assert_eq!((count(Label::thing(3)), count(Label::wall(7))), (3, 5));
}

#[rstest]
#[case(0.4, 3)]
#[case(2.0, 1)]
fn a_straightened_curve_tells_its_ends(#[case] near: f64, #[case] edges_along: usize) {
    // A flat arch of three edges, its middle 1 mm up, over a deep box.
    let mut list = Vec::new();
    let region = Region {
        outer: vec![
            [0.0, 0.0],
            [300.0, 0.0],
            [300.0, 100.0],
            [200.0, 101.0],
            [100.0, 101.0],
            [0.0, 100.0],
        ],
        holes: vec![],
    };
    let labelled = numbered(&region, Rank::Wall, &mut list);
    let mut seen = Vec::new();
    let simple = labelled.simplified(near, &mut |from, to| {
        seen.push((from, to));
        Label::wall(99)
    });
    let top = simple
        .edges()
        .filter(|(a, b, _)| a[1] > 50.0 && b[1] > 50.0);
    assert_eq!(top.count(), edges_along);
    if edges_along == 1 {
        let [(from, to)] = seen[..] else {
            panic!("{seen:?}");
        };
        assert_eq!(from, ([300.0, 100.0], Label::wall(2)));
        assert_eq!(to, ([0.0, 100.0], Label::wall(4)));
    }
}

#[test]
fn a_joint_is_labelled_and_the_rest_keeps_its_labels() {
    let square = Region::rectangle(0.0, 0.0, 100.0, 60.0);
    let pieces = part_at(
        &Labelled::new(&square, Label::wall(1)),
        &[40.0],
        &[],
        Label::cut(5),
    );
    assert_eq!(pieces.len(), 2);
    for piece in &pieces {
        let joints = piece.edges().filter(|e| e.2 == Label::cut(5));
        let joints: Vec<_> = joints.collect();
        assert_eq!(joints.len(), 1);
        assert!(joints.iter().all(|(a, b, _)| a[0] == 40.0 && b[0] == 40.0));
        assert_eq!(piece.edges().filter(|e| e.2 == Label::wall(1)).count(), 3);
    }
}
