//! Coats on faces that pass each other: what is left of the gap, by hand.

use crate::common::*;
use jigfit_core::checks::Severity;
use rstest::rstest;
use serde_json::{Value, json};

fn coated(finish: f64) -> Value {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["hatches"] = json!("bays");
    doc["modules"]["deck"]["finish"] = json!(finish);
    doc
}

/// A hatch has 2 mm all round. Two coats of 0.2, one on each face, leave 1.6, of 0.7 they leave 0.6: more than half a
/// millimetre. Of 0.8 they leave 0.4, of 1.5 nothing: it sticks.
#[rstest]
#[case(0.2, None)]
#[case(0.7, None)]
#[case(0.8, Some("leave 0.4 mm of the 2 mm"))]
#[case(1.5, Some("leave nothing of the 2 mm"))]
fn coats_make_a_hatch_stick(#[case] finish: f64, #[case] words: Option<&str>) {
    let doc = coated(finish);
    let p = plan(&doc);
    assert!(p.boards.iter().any(|b| b.role == "hatch"));
    let f = finding(&p, "tight.deck");
    assert_eq!(f.is_some(), words.is_some());
    if let (Some(f), Some(words)) = (f, words) {
        assert_eq!(f.level, Severity::Look);
        assert!(f.sentence.contains(words), "{}", f.sentence);
        // (2 - 0.5) / 2 = 0.75: coats of 0.7.
        assert_eq!(f.offers[0].label, "Coats of 0.7 mm");
        assert!(finding(&plan(&after(&doc, &f.offers[0].patch)), "tight.deck").is_none());
    }
}

/// What does not move has no fit: a deck in one with its supports, however thick its coat.
#[test]
fn what_stays_does_not_stick() {
    let mut doc = coated(1.5);
    doc["modules"]["deck"]["choices"]["hatches"] = json!("none");
    assert!(finding(&plan(&doc), "tight.deck").is_none());
}
