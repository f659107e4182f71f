//! What changed between two states of a project, in words: by hand.

use crate::common::*;
use jigfit_core::compare::compare;
use rstest::rstest;
use serde_json::{Value, json};

/// The choices that changed, in the words that are shown.
fn told(before: &Value, after: &Value) -> Vec<String> {
    let [(a, p), (b, q)] = [before, after].map(|d| (project(d), plan(d)));
    let all = compare((&a, &p), (&b, &q));
    let choices = all.into_iter().filter(|c| c.kind == "choice");
    choices.map(|c| c.sentence).collect()
}

/// One field each: what lies in an entry is told by all that leads to it there.
#[rstest]
#[case("/modules/deck/choices/thickness", json!(18), "deck, thickness: 18 mm, was 15 mm.")]
#[case("/modules/deck/choices/supports/manner", json!("legs"), "deck, supports manner: legs, was frames.")]
#[case("/modules/deck/choices/covers/left", json!(3), "deck, covers left: 3 mm, was 0 mm.")]
#[case("/modules/deck/choices/limits/span_over", json!(300), "deck, limits span over: 300, was 250.")]
fn a_choice(#[case] pointer: &str, #[case] value: Value, #[case] words: &str) {
    let mut before = box_van();
    let choices = &mut before["modules"]["deck"]["choices"];
    choices["thickness"] = json!(15);
    choices["covers"] = json!({"left": 0});
    choices["supports"] = json!({"manner": "frames"});
    choices["limits"] = json!({"span_over": 250});
    let after = after(
        &before,
        &json!([{"op": "add", "path": pointer, "value": value}]),
    );
    assert_eq!(told(&before, &after), [words]);
}

#[test]
fn an_entry_comes_and_goes() {
    let bare = box_van();
    let mut with = bare.clone();
    with["gear"]["lamp"] = json!({"name": "Lamp"});
    assert_eq!(told(&bare, &with), ["Lamp is new."]);
    assert_eq!(told(&with, &bare), ["Lamp is gone."]);
    assert_eq!(told(&bare, &bare), Vec::<String>::new());
}
