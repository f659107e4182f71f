//! Straight runs with their corners, and points from three pins: against triangles worked by hand and places that are known.

use crate::common::*;
use jigfit_core::compute;
use jigfit_core::curves::view::TemplateView;
use rand::SeedableRng;
use rand_distr::{Distribution, Normal};
use rstest::rstest;
use serde_json::{Value, json};

type Point = [f64; 2];

/// The van with one curve of runs: what is given of each, and what else is said of the curve.
fn runs(stations: Value, more: Value) -> TemplateView {
    let list = stations.as_array().unwrap().iter().enumerate();
    let stations: serde_json::Map<String, Value> =
        list.map(|(i, s)| (format!("s{i}"), s.clone())).collect();
    let mut doc = bare();
    doc["templates"] =
        json!({"nose": {"name": "nose", "way": "runs", "stations": stations, "clearance": 0}});
    for (k, v) in more.as_object().unwrap() {
        doc["templates"]["nose"][k] = v.clone();
    }
    plan(&doc).templates.remove(0)
}

fn close(a: Point, b: Point) -> bool {
    (a[0] - b[0]).hypot(a[1] - b[1]) < 1e-6
}

/// 3, 4 and 5 make a right angle (Euclid I.48). With the wall at the left the corner of a room turns right; one that stands out
/// turns left. 5, 5 and 8: half of the angle between has the sine 4/5, so the second run ends at (8, 0) turned back by that.
#[rstest]
#[case(json!([{"a": 300, "b": 500}, {"a": 400}]), "left", [300.0, -400.0])]
#[case(json!([{"a": 300, "b": -500}, {"a": 400}]), "left", [300.0, 400.0])]
#[case(json!([{"a": 300, "b": 500}, {"a": 400}]), "right", [300.0, 400.0])]
#[case(json!([{"a": 300, "angle": 90}, {"a": 400}]), "left", [300.0, -400.0])]
// The angle goes before the third side.
#[case(json!([{"a": 300, "b": 400, "angle": 90}, {"a": 400}]), "left", [300.0, -400.0])]
#[case(json!([{"a": 500, "b": 800}, {"a": 500}]), "left", [640.0, -480.0])]
fn the_third_side_gives_the_corner(
    #[case] stations: Value,
    #[case] surface: &str,
    #[case] end: Point,
) {
    let t = runs(stations, json!({"surface": surface}));
    assert_eq!(t.missing, 0);
    assert!(t.wrong.is_none(), "{:?}", t.wrong);
    assert!(
        close(t.edge[0], [0.0, 0.0]) && close(*t.edge.last().unwrap(), end),
        "{:?}",
        t.edge
    );
    assert_eq!(t.marks.len(), 2);
    assert!(close(t.marks[1].p, end));
}

/// Four right angles of equal walls close.
#[test]
fn a_square_closes_but_for_its_last_wall() {
    let side = json!({"a": 1000, "b": 1_414.213_562_373_095});
    let t = runs(json!([side, side, side, {"a": 1000}]), json!({}));
    let end = *t.edge.last().unwrap();
    assert!(end[0].hypot(end[1]) < 1e-6, "{end:?}");
}

/// By hand: 500, a right angle with radius 100, 400: the arc begins at 400 and ends 100 down, its middle at (400, -100).
#[test]
fn corners_are_rounded() {
    let t = runs(
        json!([{"a": 500, "angle": 90, "radius": 100}, {"a": 400}]),
        json!({}),
    );
    let middle = [400.0, -100.0];
    let arc: Vec<&Point> = t
        .edge
        .iter()
        .filter(|p| p[0] > 400.0 - 1e-6 && p[1] > -100.0 - 1e-6)
        .collect();
    assert!(arc.len() > 8);
    for p in &arc {
        let r = (p[0] - middle[0]).hypot(p[1] - middle[1]);
        assert!((r - 100.0).abs() < 1e-6, "{r}");
    }
    // Chords leave an arc by r (1 - cos(half the angle between)).
    for pair in arc.windows(2) {
        let half = (pair[1][0] - pair[0][0]).hypot(pair[1][1] - pair[0][1]) / 2.0;
        assert!(100.0 - (100.0_f64.powi(2) - half * half).sqrt() < 0.05);
    }
    assert!(close(*t.edge.last().unwrap(), [500.0, -400.0]));
    let t = runs(
        json!([{"a": 500, "angle": 90, "radius": 450}, {"a": 400}]),
        json!({}),
    );
    assert!(
        t.wrong
            .unwrap()
            .contains("take 450 mm of it, it is 400 mm long")
    );
}

/// A shell 20 behind its lining, by hand: both walls 20 further out, and the corner with them.
#[test]
fn the_shell_lies_behind_its_lining() {
    let t = runs(
        json!([{"a": 300, "angle": 90}, {"a": 400}]),
        json!({"behind": 20}),
    );
    let on = |p: &Point| {
        (p[1] - 20.0).abs() < 1e-6 && p[0] < 320.001 || (p[0] - 320.0).abs() < 1e-6 && p[1] < 20.001
    };
    assert!(t.edge.iter().all(on), "{:?}", t.edge);
    assert!(t.edge.iter().any(|p| close(*p, [320.0, 20.0])));
}

#[test]
fn what_is_missing_or_cannot_be_is_told() {
    // The corner of the first run, and the length of the third.
    let t = runs(json!([{"a": 300}, {"a": 400, "b": 500}, {}]), json!({}));
    assert_eq!(t.missing, 2);
    assert!(t.edge.is_empty() && t.marks.is_empty());
    let t = runs(json!([{"a": 300, "b": 750}, {"a": 400}]), json!({}));
    assert!(
        t.wrong
            .unwrap()
            .contains("make no triangle: the third side lies between 100 mm and 700 mm")
    );
    // In an inch project in inches: 100 mm are 3 15/16.
    let mut doc = bare();
    doc["units"] = json!({"system": "in"});
    doc["templates"] =
        json!({"n": {"way": "runs", "stations": {"s1": {"a": 300, "b": 750}, "s2": {"a": 400}}}});
    let wrong = plan(&doc).templates.remove(0).wrong.unwrap();
    assert!(
        wrong.contains("between 3 15/16 in and 27 9/16 in"),
        "{wrong}"
    );
    // A corner nearly straight on is poorly known from three sides, and well by its angle.
    let nearly = 690.0;
    let t = runs(
        json!([{"a": 300, "b": nearly}, {"a": 400}]),
        json!({"sd": 1}),
    );
    assert!(
        t.warnings
            .iter()
            .any(|w| w.contains("Corner 1 is known to")),
        "{:?}",
        t.warnings
    );
    let t = runs(
        json!([{"a": 300, "angle": 15}, {"a": 400}]),
        json!({"sd": 1}),
    );
    assert!(t.warnings.is_empty());
    // One run is a line.
    assert_eq!(runs(json!([{"a": 300}]), json!({})).edge.len(), 2);
    // And of the numbers that cannot be the field is named.
    let mut doc = bare();
    doc["templates"] = json!({"n": {"way": "runs", "stations": {"s": {"a": 1, "angle": 171}}}});
    let problem = jigfit_core::furniture::read(doc).unwrap_err();
    assert_eq!(problem.pointer, "/templates/n/stations/s/angle");
}

/// The doubt that is told, by turning a corner with noisy readings four thousand times.
#[test]
fn the_doubt_of_a_corner_is_what_noise_makes_of_it() {
    let t = runs(json!([{"a": 300, "b": 690}, {"a": 400}]), json!({"sd": 1}));
    let told = t.warnings[0].split("known to ").nth(1).unwrap();
    let told: f64 = told.split(' ').next().unwrap().parse().unwrap();
    let mut rng = rand_chacha::ChaCha8Rng::seed_from_u64(3);
    let noise = Normal::new(0.0, 1.0).unwrap();
    let angles: Vec<f64> = (0..4000)
        .map(|_| {
            let c: f64 = 690.0 + noise.sample(&mut rng);
            let cos: f64 = (300.0_f64.powi(2) + 400.0_f64.powi(2) - c * c) / (2.0 * 300.0 * 400.0);
            cos.clamp(-1.0, 1.0).acos().to_degrees()
        })
        .collect();
    let mean = angles.iter().sum::<f64>() / 4000.0;
    let sd = (angles.iter().map(|a| (a - mean).powi(2)).sum::<f64>() / 3999.0).sqrt();
    assert!((told - sd).abs() < 0.1 * sd + 0.05, "{told} {sd}");
}

/// Points on an arc, seen from three pins.
fn seen(noise: f64, seed: u64) -> (Vec<Point>, [Point; 3], Vec<[f64; 3]>) {
    let mut rng = rand_chacha::ChaCha8Rng::seed_from_u64(seed);
    let normal = Normal::new(0.0, noise.max(1e-12)).unwrap();
    let pins = [[0.0, 0.0], [1000.0, 0.0], [450.0, -600.0]];
    let points: Vec<Point> = (0..=20)
        .map(|i| {
            let x = 50.0 * f64::from(i);
            [x, 300.0 + 0.0004 * x * (1000.0 - x)]
        })
        .collect();
    let read = points
        .iter()
        .map(|p| {
            pins.map(|q| {
                let d: f64 = (p[0] - q[0]).hypot(p[1] - q[1]);
                d + if noise > 0.0 {
                    normal.sample(&mut rng)
                } else {
                    0.0
                }
            })
        })
        .collect();
    (points, pins, read)
}

fn edge(pins: [Point; 3], read: &[[f64; 3]], three: bool, sd: f64) -> Value {
    let readings: Vec<Value> = read
        .iter()
        .map(|[a, b, c]| match three {
            true => json!({"a": a, "b": b, "c": c}),
            false => json!({"a": a, "b": b}),
        })
        .collect();
    let mut input = json!({"method": "two_pin", "pins": [pins[0], pins[1]], "readings": readings, "surface": "left", "sd": sd});
    if three {
        input["third"] = json!(pins[2]);
    }
    compute::run("edge", input).unwrap().unwrap()
}

/// How far the points lie off an edge, root mean square.
fn off(edge: &Value, points: &[Point]) -> f64 {
    let line: Vec<Point> = serde_json::from_value(edge["edge"].clone()).unwrap();
    let one = |p: &Point| {
        line.windows(2)
            .map(|s| {
                let (d, e) = (
                    [s[1][0] - s[0][0], s[1][1] - s[0][1]],
                    [p[0] - s[0][0], p[1] - s[0][1]],
                );
                let t = ((e[0] * d[0] + e[1] * d[1]) / (d[0] * d[0] + d[1] * d[1])).clamp(0.0, 1.0);
                (e[0] - t * d[0]).hypot(e[1] - t * d[1])
            })
            .fold(f64::INFINITY, f64::min)
    };
    (points.iter().map(|p| one(p).powi(2)).sum::<f64>() / points.len() as f64).sqrt()
}

#[test]
fn three_pins_are_surer_than_two() {
    let (points, pins, read) = seen(0.0, 0);
    assert!(off(&edge(pins, &read, true, 0.0), &points) < 0.05);
    let (mut two, mut three) = (0.0, 0.0);
    for seed in 0..30 {
        let (points, pins, read) = seen(0.5, seed);
        two += off(&edge(pins, &read, false, 0.5), &points).powi(2);
        three += off(&edge(pins, &read, true, 0.5), &points).powi(2);
    }
    assert!(three < 0.9 * two, "{three} {two}");
}

/// A slip in one of three distances is seen at once; two alone cannot tell.
#[test]
fn a_slip_shows_where_arcs_miss_each_other() {
    let (mut found, mut alarms) = (0, 0);
    for seed in 0..40 {
        let (_, pins, mut read) = seen(0.5, seed);
        let clean = edge(pins, &read, true, 0.5)["warnings"].to_string();
        alarms += u32::from(clean.contains("miss each other"));
        read[7][(seed % 3) as usize] += if seed % 2 == 0 { 8.0 } else { -8.0 };
        let told = edge(pins, &read, true, 0.5)["warnings"].to_string();
        found += u32::from(told.contains("At reading 8 the three arcs miss each other"));
    }
    // 840 readings at one in a thousand.
    assert!(found >= 38 && alarms <= 3, "{found} {alarms}");
}
