//! What lies under something that opens is reached when that is open.

use std::sync::Arc;

use crate::common::*;
use jigfit_core::checks::{Finding, Offer, Severity};
use jigfit_core::curves::view::templates;
use jigfit_core::plan::Plan;
use jigfit_core::project::Project;
use jigfit_core::remedies::remedies;
use jigfit_core::survey::model::Model;
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
    let f = lid(&p);
    assert_eq!(f.level, Severity::Fine, "{}", f.sentence);
    assert!(
        f.sentence.contains("with the rear board of the deck open"),
        "{}",
        f.sentence
    );
}

/// What is found against a lid under a fixed deck: among others that the deck lifts there.
#[test]
fn that_is_what_helps() {
    let p = chest("fixed");
    let project = project(&document("fixed"));
    let known = |p: &Project| Some((Arc::new(Model::new(p)), Arc::new(templates(p))));
    let offers = remedies(&project, &known, &lid(&p).id, &|| true).unwrap();
    let lifts = |o: &Offer| o.patch.to_string().contains("lift");
    assert!(offers.iter().any(lifts), "{offers:?}");
}
