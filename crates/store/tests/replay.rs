//! Any sequence of edits, undos and redos, against a plain stack that does the same in memory.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

use jigfit_core::project::{Project, Units, VehicleKind};
use jigfit_store::{Store, StoreError};
use json_patch::Patch;
use proptest::prelude::*;
use serde_json::{Value, json};

#[derive(Debug, Clone)]
enum Act {
    Set(u8, u16),
    Remove(u8),
    Undo,
    Redo,
}

fn act() -> impl Strategy<Value = Act> {
    prop_oneof![
        4 => (0..4_u8, 1..900_u16).prop_map(|(k, v)| Act::Set(k, v)),
        1 => (0..4_u8).prop_map(Act::Remove),
        2 => Just(Act::Undo),
        2 => Just(Act::Redo),
    ]
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]
    #[test]
    fn the_store_is_a_stack_that_forgets_nothing(acts in proptest::collection::vec(act(), 1..40)) {
        let start = Project::start("Moth", VehicleKind::Van, Units::default());
        let mut store = Store::in_memory().unwrap();
        store.create("m", &start, "t").unwrap();
        let mut now: Value = start.to_json().unwrap();
        let (mut past, mut future): (Vec<Value>, Vec<Value>) = (vec![], vec![]);
        let mut every = vec![now.clone()];
        for a in acts {
            let base = store.head("m").unwrap().revision;
            match a {
                Act::Set(k, v) => {
                    let gear = json!({"name": format!("g{k}"), "h": v});
                    let patch: Patch = serde_json::from_value(json!([{"op": "add", "path": format!("/gear/g{k}"), "value": gear}])).unwrap();
                    store.edit("m", base, &patch, "t").unwrap();
                    past.push(now.clone());
                    future.clear();
                    now["gear"][format!("g{k}")] = gear;
                }
                Act::Remove(k) => {
                    let key = format!("g{k}");
                    let there = now["gear"].get(&key).is_some();
                    let patch: Patch = serde_json::from_value(json!([{"op": "remove", "path": format!("/gear/{key}")}])).unwrap();
                    let done = store.edit("m", base, &patch, "t");
                    prop_assert_eq!(done.is_ok(), there);
                    if there {
                        past.push(now.clone());
                        future.clear();
                        now["gear"].as_object_mut().unwrap().remove(&key);
                    }
                }
                Act::Undo => match past.pop() {
                    Some(before) => {
                        store.undo("m", "t").unwrap();
                        future.push(std::mem::replace(&mut now, before));
                    }
                    None => prop_assert!(matches!(store.undo("m", "t"), Err(StoreError::Nothing(_)))),
                },
                Act::Redo => match future.pop() {
                    Some(after) => {
                        store.redo("m", "t").unwrap();
                        past.push(std::mem::replace(&mut now, after));
                    }
                    None => prop_assert!(matches!(store.redo("m", "t"), Err(StoreError::Nothing(_)))),
                },
            }
            let head = store.head("m").unwrap();
            prop_assert_eq!(&head.document, &now);
            prop_assert_eq!(head.can_undo, !past.is_empty());
            prop_assert_eq!(head.can_redo, !future.is_empty());
            if head.revision as usize > every.len() {
                every.push(now.clone());
            }
        }
        // Every state there ever was can still be read.
        for (i, state) in every.iter().enumerate() {
            prop_assert_eq!(&store.at("m", i as u32 + 1).unwrap(), state);
        }
    }
}
