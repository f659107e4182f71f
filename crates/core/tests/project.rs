//! What is impossible is refused at its field; what is merely missing is not.

use crate::common::*;
use rstest::rstest;
use serde_json::{Value, json};

fn set(doc: &mut Value, place: &str, value: Value) {
    let (parent, key) = place.rsplit_once('/').unwrap();
    let parent = parent.split('/').skip(1);
    parent.fold(doc, |at, part| &mut at[part])[key] = value;
}

#[rstest]
#[case("/survey/readings/r00/typed", json!("3 km"), "/survey/readings/r00/typed")]
#[case("/survey/readings/r00/typed", json!("3000 m"), "/survey/readings/r00/typed")]
#[case("/survey/readings/r00/typed", json!("-20"), "/survey/readings/r00/typed")]
#[case("/survey/readings/r05/quantity/x", json!(-1), "/survey/readings/r05/quantity/x")]
#[case("/survey/sd", json!(0), "/survey/sd")]
#[case("/name", json!("  "), "/name")]
#[case("/name", json!("x".repeat(3000)), "/name")]
#[case("/version", json!(99), "/version")]
#[case("/format", json!("other"), "/format")]
#[case("/modules/deck/choices/thickness", json!(-15), "/modules/deck/choices/thickness")]
#[case("/modules/deck/choices/material", json!("cheese"), "/modules/deck/choices/material")]
#[case("/gear/a", json!({"name": "A", "h": 1e9}), "/gear/a/h")]
#[case("/gear/a", json!({"name": "A", "count": 0}), "/gear/a/count")]
#[case("/gear/a", json!({"name": "A", "colour": "red"}), "/gear/a/colour")]
#[case("/gear/a", json!({"name": 5}), "/gear/a/name")]
#[case("/gear/a", json!({}), "/gear/a/name")]
#[case("/people/a", json!({"name": "A", "stature": 40}), "/people/a/stature")]
#[case("/mattress", json!({"thickness": 50, "sag": 80}), "/mattress/sag")]
#[case("/cutting", json!({"kerf": 900}), "/cutting/kerf")]
#[case("/stock/s", json!({"material": "birch-ply", "thickness": 15, "w": 0, "h": 5}), "/stock/s/w")]
#[case("/materials/m", json!({"name": "m", "density": 500, "grades": [], "source": "", "has_grain": true}), "/materials/m/grades")]
#[case("/colour", json!(1), "/colour")]
#[case("/vehicle/kind", json!("spaceship"), "/vehicle/kind")]
fn refused_at_the_field(#[case] place: &str, #[case] value: Value, #[case] pointer: &str) {
    let mut doc = with_wells(box_van());
    doc["gear"] = json!({});
    doc["people"] = json!({});
    doc["stock"] = json!({});
    doc["materials"] = json!({});
    set(&mut doc, place, value);
    let problem = jigfit_core::furniture::read(doc).unwrap_err();
    assert_eq!(problem.pointer, pointer, "{problem}");
    assert!(!problem.detail.is_empty());
}

// Ranges in the units of the tape: 500 mm = 19.685 in, a mass of 2000 kg = 4409.2 lb (NIST SP 811).
#[rstest]
#[case("mm", "/headroom/finish", json!(900), "900 mm is not possible here.", "0 mm to 500 mm")]
#[case("in", "/headroom/finish", json!(762), "30 in is not possible here.", "0 in to 19 11/16 in")]
#[case("in", "/gear/a", json!({"name": "A", "mass": 3000}), "6613.9 lb is not possible here.", "0 lb to 4409.2 lb")]
#[case("in", "/gear/a", json!({"name": "A", "count": 0}), "0 is not possible here.", "1 to 100")]
fn ranges_are_said_as_the_tape_says_them(
    #[case] system: &str,
    #[case] place: &str,
    #[case] value: Value,
    #[case] detail: &str,
    #[case] allowed: &str,
) {
    let mut doc = box_van();
    doc["units"] = json!({ "system": system });
    doc["gear"] = json!({});
    set(&mut doc, place, value);
    let refused = jigfit_core::furniture::read(doc).unwrap_err();
    assert_eq!(refused.detail, detail);
    assert_eq!(refused.allowed.as_deref(), Some(allowed));
}

#[rstest]
#[case("/gear/a", json!({"name": "A", "count": "two"}), "a whole number from 0 on")]
#[case("/gear/a", json!({"name": "A", "count": -2}), "a whole number from 0 on")]
#[case("/gear/a", json!({"name": ["A"]}), "a text")]
#[case("/survey", json!(7), "an object with fields")]
#[case("/headroom/finish", json!("thick"), "a number")]
fn the_wrong_kind_of_value_is_said_in_plain_words(
    #[case] place: &str,
    #[case] value: Value,
    #[case] belongs: &str,
) {
    let mut doc = box_van();
    doc["gear"] = json!({});
    set(&mut doc, place, value);
    let detail = jigfit_core::furniture::read(doc).unwrap_err().detail;
    assert!(
        detail.contains(&format!("{belongs} belongs here")),
        "{detail}"
    );
    for word in ["u32", "f64", "struct", "invalid", "expected"] {
        assert!(!detail.contains(word), "{detail}");
    }
}

#[test]
fn a_reading_of_a_thing_that_is_not_there_is_named() {
    let mut doc = box_van();
    doc["survey"]["readings"]["x"] = reading(thing("ghost", "width"), "100");
    assert_eq!(
        jigfit_core::furniture::read(doc).unwrap_err().pointer,
        "/survey/readings/x/quantity/id"
    );
}

#[rstest]
#[case(json!(null))]
#[case(json!([]))]
#[case(json!("jigfit-project"))]
#[case(json!({"format": "jigfit-project"}))]
#[case(json!({"format": "jigfit-project", "version": "1"}))]
fn other_documents_are_refused(#[case] doc: Value) {
    assert!(jigfit_core::furniture::read(doc).is_err());
}

#[test]
fn what_is_written_reads_back_the_same() {
    for name in ["moth", "kingfisher", "wren", "moth-whole"] {
        let p = project(&demo(name));
        let again = jigfit_core::furniture::read(p.to_json().unwrap()).unwrap();
        assert_eq!(p, again);
    }
}

/// The user's own material takes the place of the built-in one: half the stiffness, twice the sag.
#[test]
fn own_materials_count() {
    let sag = |doc: &Value| {
        let p = plan(doc);
        finding(&p, "sag.knee").unwrap().numbers[1]
            .figure
            .as_ref()
            .unwrap()
            .value
    };
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["supports"] = json!({"lines": 5});
    let before = sag(&doc);
    doc["materials"] = json!({"birch-ply": {"name": "my birch", "density": 700, "source": "test piece",
        "has_grain": true, "grades": [{"thickness": 15, "e_along": 5158, "e_across": 3592, "f_along": 30, "f_across": 20}]}});
    assert!((sag(&doc) / before - 2.0).abs() < 1e-9);
}
