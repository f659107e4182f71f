//! Is there room for a driver at every screw while a piece is put together: cabinets by hand.

use crate::common::*;
use jigfit_core::plan::Plan;
use rstest::rstest;
use serde_json::{Value, json};

fn cabinet(own: Value) -> Plan {
    plan(&document(own))
}

fn document(own: Value) -> Value {
    let mut choices =
        json!({"width": 700, "depth": 300, "height": 600, "rows": 1, "columns": 1, "lip": 0});
    for (k, v) in own.as_object().unwrap() {
        choices[k] = v.clone();
    }
    let mut doc = bare();
    doc["modules"]["c"] =
        json!({"kind": "cabinet", "place": {"along": 25, "across": "centred"}, "choices": choices});
    doc
}

fn told(p: &Plan) -> Vec<&String> {
    p.assembly
        .iter()
        .flat_map(|a| &a.steps)
        .flat_map(|s| &s.tools)
        .collect()
}

/// Two shelves at one height on both sides of a board between them: the second cannot be screwed through it any more. In grooves, or
/// with pocket screws from below (bays 277 high are more than the 180 of a driver), they can be made.
#[rstest]
#[case("butt", true)]
#[case("groove", false)]
#[case("pocket", false)]
fn shelves_on_both_sides_of_a_board(#[case] join: &str, #[case] stuck: bool) {
    let p = cabinet(json!({"rows": 2, "columns": 2, "join": join}));
    let found = finding(&p, "tool.c");
    assert_eq!(found.is_some(), stuck, "{:?}", told(&p));
    if let Some(f) = found {
        assert!(f.sentence.contains("is in the way"), "{}", f.sentence);
        // Both of what is offered help.
        assert_eq!(f.offers.len(), 2);
        let doc = document(json!({"rows": 2, "columns": 2, "join": join}));
        for o in &f.offers {
            assert!(finding(&plan(&after(&doc, &o.patch)), "tool.").is_none());
        }
    }
}

/// One bay: all screws go in from outside.
#[test]
fn one_bay_is_screwed_from_outside() {
    assert!(told(&cabinet(json!({"rows": 2}))).is_empty());
}

/// A lip is screwed on from below its shelf. Between boards of 15 mm in 600: two bays of 277 leave room for a driver of 180, four of
/// (570 - 45) / 4 = 131 for one that turns the corner (70).
#[rstest]
#[case(2, "")]
#[case(4, "with an angle driver")]
fn lips_are_screwed_from_below(#[case] rows: u32, #[case] want: &str) {
    let p = cabinet(json!({"rows": rows, "lip": 20}));
    let all = told(&p);
    match want {
        "" => assert!(all.is_empty(), "{all:?}"),
        w => assert!(all.iter().any(|t| t.contains(w)), "{all:?}"),
    }
    assert!(finding(&p, "tool.").is_none());
}
