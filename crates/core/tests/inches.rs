//! A project in inches reads inches throughout: stock, hardware, places, sizes, refusals, masses.

use crate::common::*;
use jigfit_core::compute;
use jigfit_core::furniture::KINDS;
use jigfit_core::project::{Project, Units, VehicleKind};
use jigfit_core::units::figure::System;
use rstest::rstest;
use serde_json::{Value, json};

fn inches() -> Value {
    let mut doc = bare();
    let start = Project::start(
        "In inches",
        VehicleKind::Van,
        serde_json::from_value::<Units>(json!({"system": "in", "tape": "in"})).unwrap(),
    );
    assert_eq!(start.units.system, System::In);
    let full = serde_json::to_value(start).unwrap();
    for field in ["units", "stock"] {
        doc[field] = full[field].clone();
    }
    doc
}

/// A multiple of `step` inches.
fn round(mm: f64, step: f64) -> bool {
    let n = mm / 25.4 / step;
    (n - n.round()).abs() < 1e-6
}

/// A new project in inches is asked at round inches, has sheets as they are sold by the inch, and its deck is one of them.
#[test]
fn it_begins_in_inches() {
    let units: Units = serde_json::from_value(json!({"system": "in", "tape": "in"})).unwrap();
    let p = Project::start("New", VehicleKind::Pickup, units);
    assert!(p.survey.levels.values().all(|l| round(l.z, 1.0)));
    assert!(
        p.survey
            .levels
            .values()
            .all(|l| !l.name.contains("mm") && !l.name.contains("250"))
    );
    // Nominal and measured, in: sanded plywood is 1/32 thinner than its name (from memory).
    for (name, is) in [
        ("1/4 in", 7.0),
        ("3/8 in", 11.0),
        ("1/2 in", 15.0),
        ("3/4 in", 23.0),
    ] {
        let sheet = p.stock.values().find(|s| s.name == name).unwrap();
        assert!((sheet.thickness - is / 32.0 * 25.4).abs() < 1e-9);
        assert!((sheet.w - 2438.4).abs() < 1e-6 && (sheet.h - 1219.2).abs() < 1e-6);
    }
    let deck = &p.modules["deck"].choices;
    assert!(round(deck["thickness"].as_f64().unwrap(), 0.25));
}

/// Whatever is added has boards sold by the inch and sizes in quarters; what is cut is as thick as the calliper says; nothing that is
/// said or bought names millimetres.
#[test]
fn what_is_added_is_in_inches() {
    for k in KINDS {
        let mut doc = inches();
        let (id, module) = add(&mut doc, k.name(), &[]).unwrap();
        for field in ["width", "depth", "height", "length"] {
            if let Some(mm) = module.choices.get(field).and_then(Value::as_f64) {
                assert!(round(mm, 0.25), "{} {field} {mm}", k.name());
            }
        }
        let thick = module
            .choices
            .get("thickness")
            .and_then(Value::as_f64)
            .unwrap();
        assert!(round(thick, 0.125), "{} {thick}", k.name());
        let p = plan(&doc);
        let sold = [7.0, 11.0, 15.0, 23.0].map(|n| n / 32.0 * 25.4);
        for b in p
            .boards
            .iter()
            .filter(|b| b.module == id && !b.bought && !b.metal)
        {
            let is = sold.iter().any(|t| (t - b.thickness).abs() < 1e-6);
            assert!(is, "{} {} {}", k.name(), b.id, b.thickness);
        }
        // A form shows the board by the name it is sold by.
        let form = &p.modules.iter().find(|m| m.id == id).unwrap().form;
        let own = form
            .iter()
            .find(|f| f.pointer.ends_with("choices/thickness"))
            .unwrap();
        let shown = serde_json::to_value(&own.value).unwrap();
        assert_eq!(shown["now"]["value"].as_f64(), Some(thick));
        for line in &p.hardware {
            let words = format!("{} {}", line.what, line.size);
            // A cup is bored with a bit of 35 mm wherever it is sold.
            let metric = words.contains(" mm") && !words.contains("cup hinge");
            assert!(!metric && !words.contains("M6"), "{}: {words}", k.name());
        }
        for f in &p.findings {
            assert!(!f.sentence.contains(" mm"), "{}: {}", k.name(), f.sentence);
        }
    }
}

/// A reading that cannot be is refused in inches: 100 mm and 30 m are 3 15/16 in and 1181 1/8 in.
#[test]
fn refusals_are_in_inches() {
    let mut doc = inches();
    doc["survey"]["readings"]["r00"] =
        json!({"quantity": {"of": "length", "z": 0}, "typed": "2", "unit": "in"});
    let refused = jigfit_core::furniture::read(doc).unwrap_err();
    assert_eq!(
        refused.allowed.as_deref(),
        Some("3 15/16 in to 1181 1/8 in")
    );
    assert!(refused.detail.starts_with("2 in"));
}

/// What the scale says comes back as it was typed, whatever is stored between: 1 lb is 0.45359237 kg (NIST SP 811).
#[rstest]
#[case("215")]
#[case("30")]
#[case("150.3")]
#[case("12.5")]
fn masses_are_kept_as_typed(#[case] pounds: &str) {
    let read = |entry: &str, system: &str| {
        compute::run("mass", json!({"entry": entry, "system": system}))
            .unwrap()
            .unwrap()
    };
    let kg = read(pounds, "in")["kg"].as_f64().unwrap();
    assert!((kg / 0.453_592_37 - pounds.parse::<f64>().unwrap()).abs() < 1e-9);
    // Through a document, and shown again.
    let mut doc = inches();
    doc["people"]["p"] = json!({"name": "Ada", "mass": kg});
    let text = serde_json::to_string(&project(&doc)).unwrap();
    let back: Value = serde_json::from_str(&text).unwrap();
    let kg = back["people"]["p"]["mass"].as_f64().unwrap();
    assert_eq!(
        read(&format!("{kg} kg"), "in")["says"],
        format!("{pounds} lb")
    );
}
