//! A piece that stands on another, figures by hand.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::solids::boxes;
use rstest::rstest;
use serde_json::{Value, json};

/// A cabinet 500 along and 350 deep at the left wall from 600 in, and another of the same size on it, from `along` in.
fn stacked(along: f64) -> Value {
    let mut doc = bare();
    let cabinet = |along: f64| {
        json!({"kind": "cabinet", "place": {"along": along, "across": "left_wall"},
            "choices": {"opens": "right", "width": 500, "depth": 350, "height": 400, "rows": 1, "columns": 1, "front": "open"}})
    };
    doc["modules"] = json!({"low": cabinet(600.0), "high": cabinet(along)});
    doc["modules"]["high"]["place"]["on"] = json!("low");
    doc
}

/// Beyond by 0, 100, 200 (its middle, 250 from its end, is still over the lower one), 300 (it is not), and past its end.
#[rstest]
#[case(600.0, None, "")]
#[case(700.0, None, "")]
#[case(800.0, Some(Severity::Look), "200 mm beyond")]
#[case(400.0, Some(Severity::Look), "200 mm beyond")]
#[case(
    900.0,
    Some(Severity::Stop),
    "300 mm beyond what carries it, its middle too"
)]
#[case(1200.0, Some(Severity::Stop), "hang in the air")]
fn it_has_something_under_its_feet(
    #[case] along: f64,
    #[case] level: Option<Severity>,
    #[case] says: &str,
) {
    let doc = stacked(along);
    let p = plan(&doc);
    let f = finding(&p, "rests.high");
    assert_eq!(f.map(|f| f.level), level);
    let Some(f) = f else { return };
    assert!(f.sentence.contains(says), "{}", f.sentence);
    let doc: Value = project(&doc).to_json().unwrap();
    let then = plan(&after(&doc, &f.offers[0].patch));
    assert!(finding(&then, "rests.high").is_none());
    let lowest = boxes(&then.boards)["high"].0[2];
    assert!(lowest < 50.0, "{lowest}");
}
