//! Forms: every field takes what it shows, and shows what it takes.

use crate::common::*;
use jigfit_core::furniture::{FieldValue, KINDS, kind, read};
use jigfit_core::plan::Plan;
use jigfit_core::project::Project;
use serde_json::{Value, json};

/// What a field shows, as it would be sent.
fn shown(value: &FieldValue) -> Value {
    match value {
        FieldValue::Length { now } => now.as_ref().map_or(Value::Null, |f| json!(f.value)),
        FieldValue::Count { now } => json!(now),
        FieldValue::Mass { now } => json!(now),
        FieldValue::Text { now } => json!(now),
        FieldValue::Choice { now, .. } => json!(now),
        FieldValue::Material { now, .. } => json!(now),
    }
}

fn stored(p: &Project) -> Value {
    serde_json::to_value(&p.modules).unwrap()
}

/// Sends every field of a plan's forms as it is shown.
fn sends_back(doc: &Value, p: &Plan) {
    let before = read(doc.clone()).unwrap();
    let full = serde_json::to_value(&before).unwrap();
    for m in &p.modules {
        for f in &m.form {
            let patch = json!([{ "op": "add", "path": f.pointer, "value": shown(&f.value) }]);
            // A place for the relation that says "none" is stored as none.
            let after = read(after(&full, &patch)).unwrap_or_else(|e| panic!("{}: {e}", f.pointer));
            assert_eq!(
                stored(&after),
                stored(&before),
                "{} {}",
                doc["name"],
                f.pointer
            );
            if let FieldValue::Choice { now, options } = &f.value {
                let offered = options.iter().any(|o| o.0 == *now);
                assert!(offered, "{} shows {now:?} of {options:?}", f.pointer);
            }
        }
    }
}

#[test]
fn what_is_shown_changes_nothing() {
    for name in ["moth", "kingfisher", "wren", "moth-whole"] {
        let doc = demo(name);
        sends_back(&doc, &plan(&doc));
    }
    for seed in 0..60 {
        let doc = random::random(seed);
        sends_back(&doc, &plan(&doc));
    }
}

/// Of each kind, one in a plain van.
#[test]
fn what_every_kind_shows_changes_nothing() {
    for k in KINDS {
        let mut doc = bare();
        let Ok((id, _)) = add(&mut doc, k.name(), &[]) else {
            panic!("no room for a {}", k.name());
        };
        let p = plan(&doc);
        assert!(p.modules.iter().any(|m| m.id == id && m.form.len() > 5));
        assert!(kind(KINDS, k.name()).is_some());
        sends_back(&doc, &p);
    }
}

/// A sofa's height is that of its seat: what is typed is stored, and shown again.
#[test]
fn the_height_of_a_sofa_is_its_seat() {
    let mut doc = bare();
    let (id, module) = add(&mut doc, "slide_seat", &[("height", "400")]).unwrap();
    assert_eq!(module.choices["height"], json!(400.0));
    let p = plan(&doc);
    let form = &p.modules.iter().find(|m| m.id == id).unwrap().form;
    let own = form
        .iter()
        .find(|f| f.pointer.ends_with("/choices/height"))
        .unwrap();
    assert_eq!(shown(&own.value), json!(400.0));
    // 150 is lower than anybody sits, and is refused with the least height of the seat itself.
    doc["modules"][&id]["choices"]["height"] = json!(150.0);
    let refused = read(doc).unwrap_err();
    assert!(refused.pointer.ends_with("/choices/height"));
    assert!(refused.allowed.unwrap().starts_with("260"));
}
