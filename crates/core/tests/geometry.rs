//! Laws of the geometry layer.

use jigfit_core::geometry::labelled::{Label, Labelled};
use jigfit_core::geometry::region::Region;
use jigfit_core::geometry::relief::{reliefs, relieve};
use jigfit_core::geometry::split::{lies_on, part_at, split_to};
use jigfit_core::geometry::{distance_to_segment, interpolate};
use proptest::prelude::*;
use rstest::rstest;

fn l_shape() -> Region {
    Region {
        outer: vec![
            [0.0, 0.0],
            [300.0, 0.0],
            [300.0, 100.0],
            [100.0, 100.0],
            [100.0, 300.0],
            [0.0, 300.0],
        ],
        holes: vec![],
    }
}

#[rstest]
#[case(-5.0, Some(10.0))]
#[case(0.0, Some(10.0))]
#[case(50.0, Some(15.0))]
#[case(150.0, Some(10.0))]
#[case(999.0, Some(0.0))]
fn between_points_straight_beyond_them_held(#[case] x: f64, #[case] y: Option<f64>) {
    assert_eq!(
        interpolate(&[(0.0, 10.0), (100.0, 20.0), (200.0, 0.0)], x),
        y
    );
}

#[test]
fn nothing_to_interpolate() {
    assert_eq!(interpolate(&[], 1.0), None);
    assert_eq!(interpolate(&[(5.0, 2.0)], 99.0), Some(2.0));
    // Two readings at one place do not divide by zero.
    assert!(
        interpolate(&[(0.0, 1.0), (0.0, 3.0), (10.0, 3.0)], 5.0)
            .unwrap()
            .is_finite()
    );
}

/// 3-4-5 triangle: the foot of the perpendicular, and the nearer end beyond it.
#[test]
fn distance_to_a_segment() {
    assert!((distance_to_segment([0.0, 5.0], [-10.0, 0.0], [10.0, 0.0]) - 5.0).abs() < 1e-12);
    assert!((distance_to_segment([13.0, 4.0], [-10.0, 0.0], [10.0, 0.0]) - 5.0).abs() < 1e-12);
    assert!((distance_to_segment([3.0, 4.0], [0.0, 0.0], [0.0, 0.0]) - 5.0).abs() < 1e-12);
}

/// A gentle bow of 4 mm over 1000 by straight runs: few corners, none of them off by more than asked.
/// An arc of sagitta s by n runs is off by s / n2: 4 / 9 = 0.44 by three of them.
#[test]
fn a_bow_is_simplified() {
    let mut outer: Vec<[f64; 2]> = (0..=50)
        .map(|i| {
            let t = f64::from(i) / 25.0 - 1.0;
            [20.0 * f64::from(i), -4.0 * (1.0 - t * t)]
        })
        .collect();
    outer.extend([[1000.0, 300.0], [0.0, 300.0]]);
    let bow = Region {
        outer,
        holes: vec![],
    };
    let simple = bow.simplified(0.5);
    let low = simple.outer.iter().filter(|p| p[1] < 100.0).count();
    assert!((4..=6).contains(&low), "{low} corners");
    for p in &bow.outer {
        let n = simple.outer.len();
        let off = (0..n)
            .map(|i| distance_to_segment(*p, simple.outer[i], simple.outer[(i + 1) % n]))
            .fold(f64::INFINITY, f64::min);
        assert!(off <= 0.5 + 1e-6, "{off}");
    }
    // Nothing is taken off what has corners only.
    assert_eq!(l_shape().simplified(0.5).outer.len(), l_shape().outer.len());
}

#[test]
fn an_l_has_one_internal_corner() {
    let corners: Vec<_> = reliefs(&l_shape(), 0.0).iter().map(|r| r.corner).collect();
    assert_eq!(corners, vec![[100.0, 100.0]]);
    assert!(reliefs(&Region::rectangle(0.0, 0.0, 10.0, 10.0), 0.0).is_empty());
    // Going round the other way makes no difference once it is a region.
    let mut turned = l_shape();
    turned.outer.reverse();
    let again = Region::from_polygon(&turned.polygon()).unwrap();
    assert_eq!(reliefs(&again, 0.0).len(), 1);
}

#[test]
fn a_gentle_curve_is_not_relieved() {
    // A hollow of large radius in chords of about 3 degrees.
    let mut outer = vec![[0.0, 0.0], [1000.0, 0.0], [1000.0, 500.0]];
    outer.extend((1..20).map(|i| {
        let t = f64::from(i) / 20.0;
        [
            1000.0 - 1000.0 * t,
            500.0 - 80.0 * (std::f64::consts::PI * t).sin(),
        ]
    }));
    outer.push([0.0, 500.0]);
    let r = Region {
        outer,
        holes: vec![],
    };
    assert!(reliefs(&r, 0.0).is_empty());
}

/// The square corner of the thing behind still fits: the corner point itself is cut free, and a
/// drill of that radius passes there.
#[test]
fn a_relief_frees_the_corner() {
    let r = &relieve(&l_shape(), 8.0)[0];
    let lost = l_shape().area() - r.area();
    // Two circular segments beside a right-angled notch: r^2 (pi/4 - 1/2) each (by hand).
    let by_hand = 2.0 * 64.0 * (std::f64::consts::PI / 4.0 - 0.5);
    assert!(
        (lost - by_hand).abs() < 0.05 * by_hand,
        "{lost} against {by_hand}"
    );
    assert_eq!(relieve(&l_shape(), 0.0), vec![l_shape()]);
}

#[rstest]
#[case(300.0, 300.0, true)]
#[case(300.0, 299.0, false)]
#[case(299.0, 400.0, false)]
fn lies_on_a_sheet(#[case] w: f64, #[case] h: f64, #[case] fits: bool) {
    assert_eq!(lies_on(&l_shape(), w, h), fits);
}

/// A strip lying askew fits its own width when turned along its edge.
#[test]
fn a_strip_askew_is_turned() {
    let (c, s) = (30.0_f64.to_radians().cos(), 30.0_f64.to_radians().sin());
    let turn = |[x, y]: [f64; 2]| [x * c - y * s, x * s + y * c];
    let strip = Region::rectangle(0.0, 0.0, 1000.0, 100.0).map(turn);
    assert!(lies_on(&strip, 1001.0, 101.0));
    assert!(!lies_on(&strip, 990.0, 101.0));
}

#[test]
fn split_only_when_needed_and_in_equal_pieces() {
    let r = Region::rectangle(0.0, 0.0, 1000.0, 400.0);
    assert_eq!(split_to(&r, 1000.0, 400.0).len(), 1);
    let pieces = split_to(&r, 400.0, 500.0);
    assert_eq!(pieces.len(), 2, "turned by 90 degrees two pieces of 500 do");
    assert!(pieces.iter().all(|p| lies_on(p, 400.0, 500.0)));
}

#[test]
fn impossible_regions_are_named() {
    let bad = |outer: Vec<[f64; 2]>| {
        Region {
            outer,
            holes: vec![],
        }
        .check("/r")
        .unwrap_err()
        .pointer
    };
    assert_eq!(bad(vec![]), "/r/outer");
    assert_eq!(
        bad(vec![[0.0, 0.0], [f64::NAN, 0.0], [1.0, 1.0]]),
        "/r/outer/1/0"
    );
    assert_eq!(
        bad(vec![[0.0, 0.0], [1.0, f64::INFINITY], [1.0, 1.0]]),
        "/r/outer/1/1"
    );
    assert_eq!(bad(vec![[0.0, 0.0], [1.0, 1.0], [2.0, 2.0]]), "/r/outer");
    let outside = Region {
        outer: Region::rectangle(0.0, 0.0, 10.0, 10.0).outer,
        holes: vec![Region::rectangle(20.0, 20.0, 30.0, 30.0).outer],
    };
    assert!(outside.check("/r").is_err());
}

/// A line across an L with a hole in its foot: by hand.
#[rstest]
#[case(-1.0, &[])]
#[case(0.0, &[(0.0, 300.0)])]
#[case(50.0, &[(0.0, 20.0), (40.0, 300.0)])]
#[case(200.0, &[(0.0, 100.0)])]
#[case(300.0, &[])]
fn a_line_across(#[case] x: f64, #[case] lies: &[(f64, f64)]) {
    let mut l = l_shape();
    l.holes = vec![vec![[40.0, 20.0], [40.0, 40.0], [60.0, 40.0], [60.0, 20.0]]];
    assert_eq!(l.line(x), lies);
}

proptest! {
    /// Law: a thin band holds as much as the line in its middle is long, by the boolean of `geo`.
    #[test]
    fn a_line_is_a_thin_band(x in 1.0..299.0_f64, lean in -0.3..0.3_f64) {
        let l = l_shape().map(|p| [p[0], p[1] + lean * p[0]]);
        prop_assume!((x - 100.0).abs() > 0.1);
        let wide = 0.02;
        let band = l.and(&Region::rectangle(x - wide / 2.0, -500.0, x + wide / 2.0, 500.0));
        let held: f64 = band.iter().map(Region::area).sum();
        let long: f64 = l.line(x).iter().map(|s| s.1 - s.0).sum();
        prop_assert!((held / wide - long).abs() < 0.05, "{} {long}", held / wide);
    }

    /// Law: parting loses nothing, wherever the joints are.
    #[test]
    fn parting_keeps_the_area(xs in proptest::collection::vec(-50.0..350.0_f64, 0..4), ys in proptest::collection::vec(-50.0..350.0_f64, 0..4)) {
        let pieces = part_at(&Labelled::new(&l_shape(), Label::default()), &xs, &ys, Label::default());
        let sum: f64 = pieces.iter().map(|p| p.region().area()).sum();
        prop_assert!((sum - l_shape().area()).abs() < 0.5, "{sum}");
    }

    /// Law: every piece lies on the sheet it was split for.
    #[test]
    fn pieces_lie_on_the_sheet(w in 60.0..500.0_f64, h in 60.0..500.0_f64) {
        for piece in split_to(&l_shape(), w, h) {
            prop_assert!(lies_on(&piece, w, h));
        }
    }

    /// Law: difference and intersection share the region out.
    #[test]
    fn minus_and_and_are_complements(x in -50.0..320.0_f64, y in -50.0..320.0_f64, w in 10.0..300.0_f64, h in 10.0..300.0_f64) {
        let other = Region::rectangle(x, y, x + w, y + h);
        let sum: f64 = l_shape().minus(std::slice::from_ref(&other)).iter().chain(&l_shape().and(&other)).map(Region::area).sum();
        prop_assert!((sum - l_shape().area()).abs() < 0.5);
    }
}

proptest! {
    /// Against another library's booleans: what of a rectangle lies outside a region with a hole. An area below 0.1 mm2 may be either.
    #[test]
    fn a_rectangle_lies_within_or_not(
        radii in proptest::collection::vec(150.0..400.0_f64, 5..12),
        at in (-300.0..300.0_f64, -300.0..300.0_f64), size in (5.0..300.0_f64, 5.0..300.0_f64),
        hole in (-50.0..50.0_f64, -50.0..50.0_f64, 10.0..30.0_f64),
    ) {
        use geo::{Area, BooleanOps};
        let n = radii.len() as f64;
        let outer = radii.iter().enumerate().map(|(i, r)| {
            let t = std::f64::consts::TAU * i as f64 / n;
            [r * t.cos(), r * t.sin()]
        });
        let (x, y, half) = hole;
        let region = Region {
            outer: outer.collect(),
            holes: vec![vec![[x, y], [x, y + half], [x + half, y + half], [x + half, y]]],
        };
        let b = (at.0, at.1, at.0 + size.0, at.1 + size.1);
        let box_ = Region::rectangle(b.0, b.1, b.2, b.3);
        let out = box_.polygon().difference(&region.polygon()).unsigned_area();
        let held = region.holds_box(b);
        prop_assert!(if held { out < 0.1 } else { out > 0.0 }, "{held} {out}");
        // The same area and bounds as that library says.
        let polygon = region.polygon();
        prop_assert!((region.area() - polygon.unsigned_area()).abs() < 1e-6);
    }
}

/// A card of 1600 x 350 with a notch, turned by any angle, is 1600 x 350 in its own direction, its points turned and not mirrored.
#[test]
fn a_card_is_as_large_as_it_was_cut() {
    let card = [
        [0.0, 0.0],
        [1600.0, 0.0],
        [1600.0, 350.0],
        [900.0, 350.0],
        [800.0, 300.0],
        [700.0, 350.0],
        [0.0, 350.0],
    ];
    let area = |ring: &[[f64; 2]]| -> f64 {
        let next = ring.iter().skip(1).chain(ring.first());
        ring.iter()
            .zip(next)
            .map(|(a, b)| (a[0] * b[1] - b[0] * a[1]) / 2.0)
            .sum()
    };
    for deg in [0.0, 11.0, 45.0, 90.0, 133.0, 201.0, 300.0] {
        let (sin, cos) = f64::to_radians(deg).sin_cos();
        let turned: Vec<[f64; 2]> = card
            .iter()
            .map(|p| [40.0 + cos * p[0] - sin * p[1], sin * p[0] + cos * p[1]])
            .collect();
        let (laid, (w, h)) = jigfit_core::geometry::least::laid(&turned).unwrap();
        assert!(
            (w - 1600.0).abs() < 1e-6 && (h - 350.0).abs() < 1e-6,
            "{deg}: {w} {h}"
        );
        assert!((area(&laid) - area(&card)).abs() < 1e-3, "{deg}");
        let low = laid
            .iter()
            .fold([f64::INFINITY; 2], |m, p| [m[0].min(p[0]), m[1].min(p[1])]);
        assert!(low[0].abs() < 1e-9 && low[1].abs() < 1e-9);
    }
    assert!(jigfit_core::geometry::least::laid(&[[0.0, 0.0], [1.0, 1.0], [2.0, 2.0]]).is_none());
}
