//! How captured curves bend: against curvature in closed form and shapes whose radii were given.

use crate::common::curves::*;
use crate::common::*;
use jigfit_core::curves::bends::{Bends, bends};
use jigfit_core::curves::view::TemplateView;
use jigfit_core::geometry::{Point, distance};
use jigfit_core::units::figure::{System, Writer};
use rstest::rstest;
use serde_json::{Value, json};

/// A captured curve in the van, with what was read of it.
fn captured(template: Value) -> TemplateView {
    let mut doc = bare();
    doc["templates"] = json!({"c": template});
    plan(&doc).templates.remove(0)
}

/// Straight through points that lie on a curve, as exact as they are.
fn drawn(curve: &True, surface: &str) -> TemplateView {
    let n = (curve.long / 5.0) as usize;
    let stations: serde_json::Map<String, Value> = (0..=n)
        .map(|i| {
            let p = (curve.at)(i as f64 / n as f64);
            (format!("s{i:04}"), json!({"a": p[0], "b": p[1]}))
        })
        .collect();
    captured(
        json!({"name": "c", "way": "drawn", "stations": stations, "surface": surface, "sd": 0}),
    )
}

fn radius(b: &Bends, hollow: bool) -> Option<(f64, Point)> {
    let one = b.tightest.iter().find(|t| t.hollow == hollow);
    one.map(|t| (t.radius.value, t.p))
}

/// An arc bends everywhere by one radius: walked to the left about its middle, a surface on the left is in the wall's side of
/// that middle and so bulges to the board; on the right it is hollow.
#[rstest]
#[case(300.0, "left", false)]
#[case(300.0, "right", true)]
#[case(60.0, "right", true)]
#[case(2500.0, "right", true)]
fn an_arc(#[case] r: f64, #[case] surface: &str, #[case] hollow: bool) {
    let t = drawn(&arc(r, 60.0), surface);
    let b = t.bends.unwrap();
    let (found, _) = radius(&b, hollow).unwrap();
    assert!((found / r - 1.0).abs() < 0.02, "{found}");
    assert_eq!(radius(&b, !hollow), None);
    // All hairs are as long, square to the arc and away from its middle.
    for h in &b.hairs {
        let (p, d) = (h.p, h.to);
        let out = (p[0] * d[0] + p[1] * d[1]) / p[0].hypot(p[1]);
        assert!((out - 1.0).abs() < 0.06, "{h:?}");
    }
    assert!(
        b.words.starts_with(if hollow { "Hollow" } else { "Round" }),
        "{}",
        b.words
    );
}

/// An ellipse bends most at the ends of its long axis, to a radius of b2/a, and least at those of the short one, to a2/b
/// (standard result; from memory).
#[test]
fn an_ellipse() {
    let (a, b) = (500.0, 180.0);
    let t = drawn(&ellipse(a, b), "right").bends.unwrap();
    let (r, at) = radius(&t, true).unwrap();
    assert!((r / (b * b / a) - 1.0).abs() < 0.03, "{r}");
    assert!(
        (at[0].abs() - a).abs() < 3.0 && at[1].abs() < 25.0,
        "{at:?}"
    );
    let flat = t
        .hairs
        .iter()
        .min_by(|p, q| p.p[0].abs().total_cmp(&q.p[0].abs()))
        .unwrap();
    let share = flat.to[0].hypot(flat.to[1]);
    assert!(
        (share / ((b * b / a) / (a * a / b)) - 1.0).abs() < 0.05,
        "{share}"
    );
}

/// Walls with a rounded corner inwards and a sharp one outwards: the radius that was given, and the corner where they meet.
#[test]
fn walls_with_corners() {
    let t = captured(
        json!({"name": "nose", "way": "runs", "surface": "left", "stations": {
        "s0": {"a": 300, "angle": 90, "radius": 40}, "s1": {"a": 400, "angle": -60}, "s2": {"a": 300}}}),
    );
    let b = t.bends.unwrap();
    let (r, at) = radius(&b, true).unwrap();
    assert!((r - 40.0).abs() < 1.5, "{r}");
    // The arc lies round the corner at (300, 0), 40 before it and after it.
    assert!(distance(at, [260.0, -40.0]) < 41.0, "{at:?}");
    assert_eq!(radius(&b, false), None);
    assert_eq!(b.corners.len(), 1);
    assert!(distance(b.corners[0], [300.0, -400.0]) < 1e-6);
    assert!(b.words.ends_with("One corner."), "{}", b.words);
    // Along the walls no hair has a length: they are straight.
    let straight = b.hairs.iter().filter(|h| h.p[0] < 240.0 || h.p[1] < -70.0);
    assert!(straight.clone().count() > 20);
    assert!(straight.clone().all(|h| h.to[0].hypot(h.to[1]) < 1e-6));
}

/// A wave A sin(2 pi x / l) bends most at its crests, to a radius of (l / 2 pi)2 / A, hollow and round by turns.
#[test]
fn a_wave() {
    let (amplitude, l) = (12.0, 600.0);
    let wave = True {
        at: Box::new(move |s| {
            let x = 900.0 * s;
            [x, 60.0 + amplitude * (std::f64::consts::TAU * x / l).sin()]
        }),
        long: 900.0,
    };
    let b = drawn(&wave, "left").bends.unwrap();
    let expected = (l / std::f64::consts::TAU).powi(2) / amplitude;
    for (hollow, x) in [(true, vec![150.0, 750.0]), (false, vec![450.0])] {
        let (r, at) = radius(&b, hollow).unwrap();
        assert!((r / expected - 1.0).abs() < 0.02, "{r} {expected}");
        assert!(x.iter().any(|x| (at[0] - x).abs() < 15.0), "{at:?}");
    }
    assert!(
        b.words.ends_with("It changes from one to the other twice."),
        "{}",
        b.words
    );
}

#[test]
fn straight_is_said_to_be_straight() {
    let t = captured(
        json!({"name": "c", "way": "ordinates", "apart": 900, "stations": {
        "s0": {"a": 0, "b": 50}, "s1": {"a": 400, "b": 54}, "s2": {"a": 900, "b": 59}}}),
    );
    let b = t.bends.unwrap();
    assert!(b.tightest.is_empty() && b.hairs.is_empty() && b.corners.is_empty());
    assert_eq!(
        b.words,
        "Straight, or nearly: nowhere tighter than a radius of 10000 mm."
    );
}

/// Read with half a millimetre of noise every 25 mm, walls of a vehicle are said to bend at the tightest by what they do, within
/// a sixth, nineteen times in twenty: nothing of the noise is taken for a bend. The truth is worked out on the wall itself.
#[test]
fn noise_is_no_bend() {
    let w = Writer {
        system: System::Mm,
        denominator: 16,
    };
    let within = (0..60)
        .filter(|seed| {
            let wall = body(*seed);
            let read = capture("ordinates", &wall, 25.0, 0.5, seed + 1000);
            let e = jigfit_core::compute::run("edge", read).unwrap().unwrap();
            let edge: Vec<Point> = serde_json::from_value(e["edge"].clone()).unwrap();
            let b = bends(&edge, 1.0, &[], &w).unwrap();
            let found = b
                .tightest
                .iter()
                .map(|t| t.radius.value)
                .fold(f64::INFINITY, f64::min);
            // By three places of the wall: the circle through them.
            let true_radius = (1..400)
                .map(|i| {
                    let p = [-0.5, 0.0, 0.5].map(|d| (wall.at)((f64::from(i) + d) / 400.0));
                    let (a, b, c) = (
                        distance(p[0], p[1]),
                        distance(p[1], p[2]),
                        distance(p[0], p[2]),
                    );
                    let area = ((p[1][0] - p[0][0]) * (p[2][1] - p[0][1])
                        - (p[1][1] - p[0][1]) * (p[2][0] - p[0][0]))
                        .abs()
                        / 2.0;
                    a * b * c / (4.0 * area).max(1e-9)
                })
                .fold(f64::INFINITY, f64::min);
            let ratio = found / true_radius;
            (0.85..1.2).contains(&ratio)
        })
        .count();
    assert!(within >= 57, "{within} of 60");
}

#[test]
fn nothing_of_nothing() {
    let w = Writer {
        system: System::Mm,
        denominator: 16,
    };
    assert!(bends(&[], 1.0, &[], &w).is_none());
    assert!(bends(&[[0.0, 0.0]], 1.0, &[], &w).is_none());
    // The same place twice has no direction, and breaks nothing.
    let b = bends(&[[0.0, 0.0], [0.0, 0.0], [9.0, 0.0]], 1.0, &[], &w).unwrap();
    assert!(b.hairs.iter().all(|h| h.to.iter().all(|v| v.is_finite())));
}
