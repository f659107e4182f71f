//! Loads on axles and drawers pulled out, against equilibrium solved as a system of equations and examples worked by
//! hand.

use jigfit_core::compute;
use nalgebra::{Matrix2, Vector2};
use proptest::prelude::*;
use rstest::rstest;
use serde_json::{Value, json};

fn run(name: &str, input: Value) -> Value {
    compute::run(name, input).unwrap().unwrap()
}

fn number(v: &Value, at: &str) -> f64 {
    v.pointer(at).and_then(Value::as_f64).unwrap_or(f64::NAN)
}

/// By hand: 300 kg a quarter of the way from the axle at 0 to the one at 2,000: three quarters on the first.
/// 100 mm left of the middle of a track of 1,500: 150 + 300 x 100 / 1500 = 170 kg left. Braking at 0.8 g:
/// 300 x 9.80665 x 0.8 = 2353.596 N.
#[test]
fn a_load_by_hand() {
    let out = run(
        "load",
        json!({"items": [{"name": "slab", "mass": 300, "at": [500, 100, 400]}], "axles": [0, 2000], "hitch": null, "track": 1500,
               "restraint": {"forward_g": 0.8, "side_g": 0.5, "rear_g": 0.5}}),
    );
    for (at, is) in [
        ("/axle_kg/0", 225.0),
        ("/axle_kg/1", 75.0),
        ("/left_kg", 170.0),
        ("/right_kg", 130.0),
        ("/total_kg", 300.0),
        ("/items/0/forward_n", 2353.596),
        ("/items/0/side_n", 1470.9975),
        ("/centre/2", 400.0),
    ] {
        assert!(
            (number(&out, at) - is).abs() < 1e-9,
            "{at}: {}",
            number(&out, at)
        );
    }
    assert!(out["hitch_kg"].is_null() && out["hitch_percent"].is_null());
}

/// A trailer by hand: axles at 1,500 and 2,100 count as one at 1,800, the hitch at 5,000. 800 kg at 2,120: a tenth of
/// the way to the hitch, so 80 kg on it, 10 %; 360 kg on each axle.
#[test]
fn a_hitch_by_hand() {
    let out = run(
        "load",
        json!({"items": [{"name": "a", "mass": 800, "at": [2120, 0, 0]}], "axles": [1500, 2100], "hitch": 5000, "track": 1800,
               "restraint": {"forward_g": 0.8, "side_g": 0.5, "rear_g": 0.5}}),
    );
    assert!((number(&out, "/hitch_kg") - 80.0).abs() < 1e-9);
    assert!((number(&out, "/hitch_percent") - 10.0).abs() < 1e-9);
    assert!((number(&out, "/axle_kg/0") - 360.0).abs() < 1e-9);
    assert!((number(&out, "/axle_kg/1") - 360.0).abs() < 1e-9);
}

#[rstest]
#[case(json!({"axles": [0, 0]}), "/axles/1")]
#[case(json!({"axles": [0, 1000, 2000]}), "/axles")]
#[case(json!({"axles": [0]}), "/axles")]
#[case(json!({"axles": []}), "/axles")]
#[case(json!({"hitch": 500, "axles": [0, 1000]}), "/hitch")]
#[case(json!({"track": 0}), "/track")]
#[case(json!({"items": []}), "/items")]
#[case(json!({"items": [{"name": "x", "mass": 0, "at": [0, 0, 0]}]}), "/items")]
#[case(json!({"items": [{"name": "x", "mass": -1, "at": [0, 0, 0]}]}), "/items/0/mass")]
#[case(json!({"items": [{"name": "x", "mass": 1, "at": [0, 1e9, 0]}]}), "/items/0/at/1")]
#[case(json!({"restraint": {"forward_g": -1, "side_g": 0, "rear_g": 0}}), "/restraint/forward_g")]
#[case(json!({"brakes": 2}), "/brakes")]
fn a_load_that_cannot_be(#[case] change: Value, #[case] at: &str) {
    let mut input = json!({"items": [{"name": "a", "mass": 10, "at": [1, 2, 3]}], "axles": [0, 2500], "hitch": null, "track": 1500});
    for (k, v) in change.as_object().unwrap() {
        input[k] = v.clone();
    }
    let problem = compute::run("load", input).unwrap().unwrap_err();
    assert_eq!(problem.pointer, at, "{problem}");
}

/// By hand: 60 cm drawer all the way out, 10 kg 40 cm from its back and 6 kg of its own: 10 x 400 + 6 x 300 = 5,800 kg mm,
/// times g. Slides rated for 45 kg spread over it: 45 x 300 = 13,500: 43 %. Four fixings 150 apart: 225 and 75 from their
/// middle, squares 112,500: each slide 5800 g / 2 x 225 / 112500. A carcass of 30 kg with its middle 30 cm in holds 9,000.
#[test]
fn a_pull_by_hand() {
    const G: f64 = 9.80665;
    let out = run("pull", pull());
    assert!((number(&out, "/moment_nmm") - 5800.0 * G).abs() < 1e-6);
    assert!((number(&out, "/rating_nmm") - 13_500.0 * G).abs() < 1e-6);
    assert!((number(&out, "/use_percent") - 42.962_962_962).abs() < 1e-6);
    assert!((number(&out, "/fixing_n") - 5.8 * G).abs() < 1e-9);
    assert_eq!(out["tips"], false);
    let mut light = pull();
    light["carcass"]["mass"] = json!(15);
    assert_eq!(run("pull", light.clone())["tips"], true);
    light["carcass"]["anchored"] = json!(true);
    assert_eq!(run("pull", light)["tips"], false);
    // Half out, what lies behind the edge holds it back: 10 x 100 + 6 x 0.
    let mut half = pull();
    half["extension"] = json!(300);
    assert!((number(&run("pull", half), "/moment_nmm") - 1000.0 * G).abs() < 1e-6);
}

fn pull() -> Value {
    json!({"slide_rating": 45, "length": 600, "extension": 600, "self_mass": 6, "load": [{"mass": 10, "at": 400}],
           "fixings": {"n": 4, "spacing": 150}, "carcass": {"mass": 30, "cg": 300, "anchored": false}})
}

#[rstest]
#[case("/slide_rating", json!(0))]
#[case("/length", json!(-600))]
#[case("/extension", json!(1201))]
#[case("/load/0/at", json!(601))]
#[case("/load/0/mass", json!(-1))]
#[case("/fixings/n", json!(1))]
#[case("/fixings/spacing", json!(0))]
#[case("/carcass/cg", json!("far"))]
fn a_pull_that_cannot_be(#[case] at: &str, #[case] v: Value) {
    let mut input = pull();
    *input.pointer_mut(at).unwrap() = v;
    let problem = compute::run("pull", input).unwrap().unwrap_err();
    assert_eq!(problem.pointer, at, "{problem}");
}

proptest! {
    /// Equilibrium as two equations in two unknowns: forces add up, moments about the origin add up.
    #[test]
    fn supports_are_in_equilibrium(
        items in prop::collection::vec((0.1..400.0_f64, -3000.0..6000.0_f64, -900.0..900.0_f64), 1..12),
        a in -1000.0..1000.0_f64, apart in 500.0..5000.0_f64, track in 800.0..2200.0_f64,
    ) {
        let list: Vec<Value> = items.iter().map(|(m, x, y)| json!({"name": "i", "mass": m, "at": [x, y, 0]})).collect();
        let out = run("load", json!({"items": list, "axles": [a, a + apart], "hitch": null, "track": track}));
        let mass: f64 = items.iter().map(|i| i.0).sum();
        let solve = |p: f64, q: f64, moment: f64| {
            Matrix2::new(1.0, 1.0, p, q).lu().solve(&Vector2::new(mass, moment)).unwrap()
        };
        let along = solve(a, a + apart, items.iter().map(|i| i.0 * i.1).sum());
        let across = solve(-track / 2.0, track / 2.0, items.iter().map(|i| i.0 * i.2).sum());
        let near = |at: &str, v: f64| (number(&out, at) - v).abs() < 1e-6 * mass.max(1.0);
        prop_assert!(near("/axle_kg/0", along[0]) && near("/axle_kg/1", along[1]));
        prop_assert!(near("/right_kg", across[0]) && near("/left_kg", across[1]));
    }

    /// Fixings as equal springs on a rigid slide: turned by an angle each pulls with its distance from the middle; the
    /// angle follows from the moment they have to hold, found by halving.
    #[test]
    fn fixings_are_springs(n in 2_u32..9, spacing in 30.0..300.0, mass in 1.0..60.0, at in 0.0..800.0) {
        let out = run("pull", json!({"slide_rating": 50, "length": 800, "extension": 800, "self_mass": 0,
            "load": [{"mass": mass, "at": at}], "fixings": {"n": n, "spacing": spacing},
            "carcass": {"mass": 10, "cg": 1, "anchored": true}}));
        let wanted = mass * 9.80665 * at / 2.0;
        let places: Vec<f64> = (0..n).map(|i| f64::from(i) * spacing).collect();
        let middle = places.iter().sum::<f64>() / f64::from(n);
        let held = |angle: f64| places.iter().map(|p| angle * (p - middle) * (p - middle)).sum::<f64>();
        let (mut low, mut high) = (0.0, 1e6);
        for _ in 0..200 {
            let m = (low + high) / 2.0;
            if held(m) < wanted { low = m } else { high = m }
        }
        let worst = places.iter().map(|p| (low * (p - middle)).abs()).fold(0.0, f64::max);
        prop_assert!((number(&out, "/fixing_n") - worst).abs() <= 1e-6 * worst.max(1e-3), "{} {worst}", out["fixing_n"]);
    }
}
