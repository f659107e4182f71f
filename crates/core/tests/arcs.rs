//! Chains of short lines as lines and arcs, against circles and curves in closed form.

use jigfit_core::geometry::arcs::{Vertex, fit, unfold};
use jigfit_core::geometry::{Point, distance_to_segment};
use proptest::prelude::*;

fn off(p: Point, line: &[Point]) -> f64 {
    let each = line.windows(2).map(|w| distance_to_segment(p, w[0], w[1]));
    each.fold(f64::INFINITY, f64::min)
}

/// Both ways: no point of one lies further from the other.
fn between(a: &[Point], b: &[Point]) -> f64 {
    let one = a.iter().map(|p| off(*p, b)).fold(0.0, f64::max);
    let other = b.iter().map(|p| off(*p, a)).fold(0.0, f64::max);
    one.max(other)
}

/// A quarter circle of radius 100, counter-clockwise: one arc, its bulge the tangent of 90 / 4 degrees.
#[test]
fn a_quarter_circle_is_one_arc() {
    let ring: Vec<Point> = (0..=90)
        .map(|d| f64::from(d).to_radians())
        .map(|t| [100.0 * t.cos(), 100.0 * t.sin()])
        .collect();
    let arcs = fit(&ring, false, 0.02);
    assert_eq!(arcs.len(), 2);
    assert!(
        (arcs[0].bulge - 22.5_f64.to_radians().tan()).abs() < 1e-3,
        "{arcs:?}"
    );
    // The other way round it is clockwise.
    let back: Vec<Point> = ring.iter().rev().copied().collect();
    assert!((fit(&back, false, 0.02)[0].bulge + 22.5_f64.to_radians().tan()).abs() < 1e-3);
}

/// A rectangle stays four lines; a slot with round ends is two lines and arcs.
#[test]
fn corners_stay() {
    let square: Vec<Point> = vec![
        [0.0, 0.0],
        [50.0, 0.0],
        [100.0, 0.0],
        [100.0, 60.0],
        [0.0, 60.0],
    ];
    let arcs = fit(&square, true, 0.05);
    assert_eq!(
        arcs.iter().map(|v| v.at).collect::<Vec<_>>(),
        [[0.0, 0.0], [100.0, 0.0], [100.0, 60.0], [0.0, 60.0]]
    );
    assert!(arcs.iter().all(|v| v.bulge == 0.0));
    let mut slot: Vec<Point> = vec![[0.0, 0.0], [100.0, 0.0]];
    slot.extend(
        (-89..90)
            .map(|d| f64::from(d).to_radians())
            .map(|t| [100.0 + 20.0 * t.cos(), 20.0 + 20.0 * t.sin()]),
    );
    slot.extend([[100.0, 40.0], [0.0, 40.0]]);
    let arcs = fit(&slot, true, 0.02);
    assert!(arcs.len() <= 6, "{arcs:?}");
    assert!(between(&unfold(&arcs, true, 0.005), &closed(&slot)) < 0.03);
}

fn closed(ring: &[Point]) -> Vec<Point> {
    ring.iter().chain(ring.first()).copied().collect()
}

/// Nothing, one point, the same point again, a way back over itself: no panic, nothing lost.
#[test]
fn hardly_a_line() {
    assert!(fit(&[], true, 0.1).is_empty());
    assert!(fit(&[[1.0, 2.0]], true, 0.1).is_empty());
    assert_eq!(
        fit(&[[1.0, 2.0]], false, 0.1),
        [Vertex {
            at: [1.0, 2.0],
            bulge: 0.0
        }]
    );
    assert_eq!(
        fit(&[[0.0, 0.0], [0.0, 0.0], [5.0, 0.0]], false, 0.1).len(),
        2
    );
    let there_and_back = [[0.0, 0.0], [100.0, 0.0], [40.0, 0.0]];
    let arcs = fit(&there_and_back, false, 0.1);
    assert!(arcs.iter().any(|v| v.at == [100.0, 0.0]), "{arcs:?}");
}

proptest! {
    /// Curves as bodies have them, in chords of 0.02 mm: within the tolerance of it both ways, with far fewer points.
    #[test]
    fn close_and_few(a in 5.0_f64..80.0, b in 0.0_f64..30.0, l in 400.0_f64..1500.0) {
        let tau = std::f64::consts::TAU;
        let y = |x: f64| a * (tau * x / l).sin() + b * (tau * x / (0.4 * l)).cos();
        let line: Vec<Point> = (0..=2000).map(|i| f64::from(i) * 0.5).map(|x| [x, y(x)]).collect();
        let arcs = fit(&line, false, 0.05);
        prop_assert!(arcs.len() < 120, "{}", arcs.len());
        prop_assert!(between(&unfold(&arcs, false, 0.005), &line) < 0.06);
        prop_assert_eq!(arcs[0].at, line[0]);
        prop_assert_eq!(arcs[arcs.len() - 1].at, line[line.len() - 1]);
    }
}
