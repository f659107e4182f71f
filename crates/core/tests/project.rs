//! What is impossible is refused at its field; what is merely missing is not.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

mod common;

use common::*;
use jigfit_core::project::Project;
use rstest::rstest;
use serde_json::{Value, json};

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
#[case("/modules/deck/thickness", json!(-15), "/modules/deck/thickness")]
#[case("/modules/deck/material", json!("cheese"), "/modules/deck/material")]
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
    let (parent, key) = place.rsplit_once('/').unwrap();
    doc.pointer_mut(parent).unwrap()[key] = value;
    let problem = Project::read(doc).unwrap_err();
    assert_eq!(problem.pointer, pointer, "{problem}");
    assert!(!problem.detail.is_empty());
}

#[test]
fn a_reading_of_a_thing_that_is_not_there_is_named() {
    let mut doc = box_van();
    doc["survey"]["readings"]["x"] = reading(thing("ghost", "width"), "100");
    assert_eq!(
        Project::read(doc).unwrap_err().pointer,
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
    assert!(Project::read(doc).is_err());
}

#[test]
fn what_is_written_reads_back_the_same() {
    for name in ["moth", "kingfisher"] {
        let p = project(&demo(name));
        let again = Project::read(p.to_json().unwrap()).unwrap();
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
    doc["modules"]["deck"]["supports"] = json!({"lines": 5});
    let before = sag(&doc);
    doc["materials"] = json!({"birch-ply": {"name": "my birch", "density": 700, "source": "test piece",
        "has_grain": true, "grades": [{"thickness": 15, "e_along": 5158, "e_across": 3592, "f_along": 30, "f_across": 20}]}});
    assert!((sag(&doc) / before - 2.0).abs() < 1e-9);
}
