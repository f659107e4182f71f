//! Holes for what is fixed in the vehicle: against a great many marks drawn at random, and by hand.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::furniture::read;
use rand::SeedableRng;
use rand_distr::{Distribution, Normal};
use rstest::rstest;
use serde_json::{Value, json};

/// The box van's deck with a mark on its first panel.
fn with(mark: Value) -> Value {
    let mut doc = box_van();
    doc["transfers"] = json!({"t": mark});
    doc
}

fn mark(left: f64, low: f64) -> Value {
    json!({"name": "ring", "board": "deck/panel-1", "left": left, "low": low, "bolt": 8, "sd": 0.7})
}

/// By hand: root of -2 ln 0.05 is 2.448; times 0.7 is 1.71; 8 and twice that is 11.43, drilled 11.5.
#[test]
fn the_hole_is_as_large_as_the_mark_is_unsure() {
    let p = plan(&with(mark(200.0, 150.0)));
    let t = &p.transferred[0];
    assert!(
        (t.off.value - 1.7134).abs() < 1e-3 && t.hole.value == 11.5,
        "{t:?}"
    );
    assert!(t.wrong.is_none() && finding(&p, "transferred").is_none());
    let part = p.parts.iter().find(|p| p.id == "deck/panel-1").unwrap();
    let hole = part.features.iter().find(|f| f.kind == "hole").unwrap();
    assert_eq!(
        (hole.at, hole.diameter.as_ref().unwrap().value),
        ([200.0, 150.0], 11.5)
    );
    assert!(
        part.then
            .iter()
            .any(|t| t.contains("hole of 11.5 mm for the ring (8 mm)"))
    );
    // It goes through the board: less of it is left, by the circle's area.
    let plain = plan(&box_van());
    let before = plain.parts.iter().find(|p| p.id == "deck/panel-1").unwrap();
    let less = before.outline.area() - part.outline.area();
    let circle = std::f64::consts::PI * 5.75_f64.powi(2);
    assert!((less - circle).abs() < 0.02 * circle, "{less} {circle}");
}

/// In inches a drill of the next sixteenth: 11.43 mm are 0.45 in, so half an inch.
#[test]
fn a_drill_of_the_other_system() {
    let mut doc = with(mark(200.0, 150.0));
    doc["units"] = json!({"system": "in"});
    let t = plan(&doc).transferred.remove(0);
    assert_eq!((t.hole.inch.as_str(), t.hole.value), ("1/2", 12.7));
}

/// Twenty thousand marks, both numbers with that noise: the bolt goes through the hole in 95 of 100.
#[rstest]
#[case(0.3)]
#[case(0.7)]
#[case(2.0)]
fn nineteen_of_twenty_bolts_go_through(#[case] sd: f64) {
    let mut doc = with(mark(200.0, 150.0));
    doc["transfers"]["t"]["sd"] = json!(sd);
    let off = plan(&doc).transferred[0].off.value;
    let mut rng = rand_chacha::ChaCha8Rng::seed_from_u64(11);
    let noise = Normal::new(0.0, sd).unwrap();
    let through = (0..20_000).filter(|_| {
        let (x, y): (f64, f64) = (noise.sample(&mut rng), noise.sample(&mut rng));
        x.hypot(y) <= off
    });
    let share = through.count() as f64 / 20_000.0;
    assert!((share - 0.95).abs() < 0.006, "{share}");
}

#[test]
fn what_cannot_be_drilled_is_told() {
    let told = |m: Value| {
        let p = plan(&with(m));
        let holes = p
            .parts
            .iter()
            .flat_map(|p| &p.features)
            .filter(|f| f.kind == "hole")
            .count();
        let f = finding(&p, "transferred.t").unwrap();
        (f.level, f.sentence.clone(), holes)
    };
    let (level, words, holes) = told(mark(3.0, 150.0));
    assert!(level == Severity::Stop && words.contains("does not lie on its board") && holes == 0);
    let (level, words, holes) = told(mark(9.0, 150.0));
    assert!(level == Severity::Look && words.contains("less than 8 mm of wood") && holes == 1);
    let mut gone = mark(200.0, 150.0);
    gone["board"] = json!("deck/panel-99");
    let (level, words, _) = told(gone);
    assert!(level == Severity::Stop && words.contains("no longer there"));
    let mut half = mark(200.0, 150.0);
    half["low"] = json!(null);
    let (level, words, _) = told(half);
    assert!(level == Severity::Look && words.contains("one is missing"));
}

#[rstest]
#[case("bolt", json!(0))]
#[case("sd", json!(-1))]
#[case("left", json!(1e9))]
#[case("low", json!(-5))]
fn numbers_that_cannot_be_are_refused_at_their_field(#[case] field: &str, #[case] value: Value) {
    let mut doc = with(mark(200.0, 150.0));
    doc["transfers"]["t"][field] = value;
    assert_eq!(
        read(doc).unwrap_err().pointer,
        format!("/transfers/t/{field}")
    );
}
