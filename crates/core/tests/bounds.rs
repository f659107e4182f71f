//! How much a project may hold: bounded by what comes of it, before it is built.

use crate::common::*;
use jigfit_core::furniture::{KINDS, kind, read};
use serde_json::{Value, json};

/// A piece of that kind with the largest whole numbers that its choices take.
fn extreme(name: &str) -> (Value, String) {
    let mut doc = bare();
    // A high and long vehicle, so that nothing is left out for want of room.
    doc["survey"]["readings"]["r04"] = reading(json!({"of": "roof", "x": 700}), "2400");
    let (id, _) = add(&mut doc, name, &[]).unwrap();
    let full = serde_json::to_value(project(&doc)).unwrap();
    doc["modules"] = full["modules"].clone();
    let counts: Vec<String> = doc["modules"][&id]["choices"]
        .as_object()
        .unwrap()
        .iter()
        .filter(|(_, v)| v.is_u64())
        .map(|(k, _)| k.clone())
        .collect();
    for field in counts {
        for n in (1..=20).rev() {
            let mut with = doc.clone();
            with["modules"][&id]["choices"][&field] = json!(n);
            if read(with.clone()).is_ok() {
                doc = with;
                break;
            }
        }
    }
    (doc, id)
}

/// What a kind says it is made of at the most is no less than what it is made of; and sixty pieces with the most columns, rows and
/// levels are refused at the choice, with the count, or are no more than the bound.
#[test]
fn sixty_of_anything_are_bounded() {
    for k in KINDS {
        let (doc, id) = extreme(k.name());
        let project = read(doc.clone()).unwrap();
        let amount = kind(KINDS, k.name()).unwrap().amount(&project.modules[&id]);
        let p = plan(&doc);
        let own = p.boards.iter().filter(|b| b.module == id).count();
        assert!(own > 0, "{}", k.name());
        assert!(own <= amount.boards, "{}: {own} of {amount:?}", k.name());
        let mut many = doc.clone();
        for n in 0..59 {
            many["modules"][format!("m{n}")] = doc["modules"][&id].clone();
        }
        let all = 60 * amount.boards;
        match read(many) {
            Ok(_) => assert!(all <= 2000, "{}", k.name()),
            Err(refused) => {
                assert!(all > 2000, "{}: {refused}", k.name());
                assert!(refused.pointer.starts_with("/modules/"), "{refused}");
                assert!(refused.detail.contains(&all.to_string()), "{refused}");
            }
        }
    }
}
