//! Other ways to furnish the same vehicle: read, refused at their own place, and the same plan as if they stood there.

use crate::common::*;
use jigfit_core::furniture;
use jigfit_core::plan::solve;
use rstest::rstest;
use serde_json::{Value, json};

fn two() -> Value {
    let mut doc = box_van();
    doc["variants"] = json!({"v1": {"name": "box only", "modules": {
        "b": {"kind": "box_seat", "place": {"along": 100, "across": "left_wall"},
              "choices": {"length": 700, "depth": 450, "height": 280}}}}});
    doc
}

/// A variant changes nothing of the plan; furnished with it the plan is that of a project that has its furniture.
#[test]
fn a_variant_is_the_same_as_its_furniture() {
    let with = furniture::read(two()).unwrap();
    let without = furniture::read(box_van()).unwrap();
    assert_eq!(solve(&with), solve(&without));
    let mut own = bare();
    own["modules"] = two()["variants"]["v1"]["modules"].clone();
    let own = furniture::read(own).unwrap();
    let furnished = with.furnished(&with.variants["v1"]);
    assert_eq!(solve(&furnished), solve(&own));
    // What was not chosen is filled in, as in the furniture that is worked on.
    assert!(
        with.variants["v1"].modules["b"]
            .choices
            .contains_key("thickness")
    );
    let again = furniture::read(with.to_json().unwrap()).unwrap();
    assert_eq!(again, with);
}

#[rstest]
#[case("/variants/v1/modules/b/kind", json!("throne"))]
#[case("/variants/v1/modules/b/choices/length", json!(-1))]
#[case("/variants/v1/modules/b/place/along", json!(1e9))]
#[case("/variants/v1/name", json!("\u{7}"))]
fn what_cannot_be_is_refused_there(#[case] pointer: &str, #[case] wrong: Value) {
    let mut doc = two();
    *doc.pointer_mut(pointer).unwrap() = wrong;
    assert_eq!(furniture::read(doc).unwrap_err().pointer, pointer);
}

#[test]
fn not_without_end() {
    let mut doc = two();
    let one = doc["variants"]["v1"].clone();
    for i in 0..20 {
        doc["variants"][format!("x{i}")] = one.clone();
    }
    assert_eq!(furniture::read(doc).unwrap_err().pointer, "/variants");
}
