//! What lies under something that opens is reached when that is open.

use crate::common::*;
use jigfit_core::checks::{Finding, Offer, Severity};
use jigfit_core::plan::Plan;
use serde_json::{Value, json};

/// A low chest at the left wall under a deck whose rear half lifts, or does not.
fn document(change: &str) -> Value {
    let mut doc = bare();
    doc["modules"]["deck"] = json!({"kind": "deck", "name": "deck", "choices": {
        "underside": 300, "change": change, "joint": 1000}});
    doc["modules"]["chest"] = json!({"kind": "box_seat", "name": "chest",
        "place": {"along": 150, "across": "left_wall"},
        "choices": {"length": 500, "depth": 350, "height": 280}});
    doc
}

fn chest(change: &str) -> Plan {
    plan(&document(change))
}

fn lid(p: &Plan) -> &Finding {
    let all = p.findings.iter();
    let mut lids = all.filter(|f| f.id.starts_with("moves.chest/"));
    lids.next().unwrap()
}

/// The lid opens right over, with that opened first.
fn opens(p: &Plan, first: &str) {
    let f = lid(p);
    assert_eq!(f.level, Severity::Fine, "{}", f.sentence);
    assert!(f.sentence.contains(first), "{}", f.sentence);
}

/// A deck that stays lies right over the lid: it does not open, and what is in there cannot be reached.
#[test]
fn a_fixed_deck_keeps_it_shut() {
    let p = chest("fixed");
    assert_eq!(lid(&p).level, Severity::Stop, "{}", lid(&p).sentence);
}

/// Where the rear board lifts out of its way the lid opens, and that is said with it.
#[test]
fn the_board_over_it_is_lifted_first() {
    let p = chest("lift");
    let board = p
        .findings
        .iter()
        .find(|f| f.id.starts_with("change.") || f.id.starts_with("moves.deck/"));
    assert!(
        board.is_some_and(|f| f.level != Severity::Stop),
        "{board:?}"
    );
    opens(&p, "with the rear board of the deck open");
}

/// What is found against a lid under a fixed deck: among others that the deck lifts there.
#[test]
fn that_is_what_helps() {
    let p = chest("fixed");
    let offers = asked(&document("fixed"), &lid(&p).id);
    let lifts = |o: &Offer| o.patch.to_string().contains("lift");
    assert!(offers.iter().any(lifts), "{offers:?}");
}

/// A hatch is put away before the lid under it is lifted: held 150 mm over its hole, at 450, it would be in the way of one of
/// 220 that reaches 500.
#[test]
fn a_hatch_is_put_away() {
    let mut doc = document("fixed");
    let deck = &mut doc["modules"]["deck"]["choices"];
    deck["joint"] = Value::Null;
    deck["hatches"] = json!("bays");
    deck["hatch_length"] = json!(500);
    deck["hatch_width"] = json!(500);
    let chest = &mut doc["modules"]["chest"];
    chest["place"]["along"] = json!(800);
    chest["choices"]["length"] = json!(400);
    chest["choices"]["hinge"] = json!(130);
    let p = plan(&doc);
    let (low, high) = ends(board(&p, "chest/lid"), "drive");
    assert!((high[1] - low[1] - 220.0).abs() < 1e-6, "{low:?} {high:?}");
    opens(&p, "with the hatch 2 of the deck open");
}
