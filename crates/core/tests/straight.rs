//! What a shop cuts in straight lines: by the kinds' own shapes.

use crate::common::*;
use rstest::rstest;
use serde_json::{Value, json};

/// A box and two shelves on cleats are rectangles; a pipe takes a notch out of each shelf; a short drawer opens the back of its carcass.
/// Of bars nothing is told.
#[rstest]
#[case(json!({"kind": "box_seat", "place": {"along": 100, "across": "centred"}}), "All 7 boards have four square corners", "")]
#[case(json!({"kind": "shelves", "choices": {"levels": 2, "pipe": 22, "pipe_at": 90}}), " boards have four square corners", "At home, with jigsaw or guide rail: H")]
#[case(json!({"kind": "drawer", "choices": {"width": 640, "depth": 700, "height": 250, "columns": 2, "short": 420}}), " boards have four square corners", "At home, with jigsaw or guide rail: C4.")]
fn a_shop_cuts_rectangles(#[case] piece: Value, #[case] shop: &str, #[case] home: &str) {
    let mut doc = bare();
    doc["modules"]["m"] = piece;
    let p = plan(&doc);
    let f = finding(&p, "straight").unwrap();
    assert!(f.sentence.contains(shop), "{}", f.sentence);
    assert!(f.sentence.contains(home), "{}", f.sentence);
    assert_eq!(
        home.is_empty(),
        !f.sentence.contains("jigsaw"),
        "{}",
        f.sentence
    );
}

/// The boards of Wren's bed follow its walls and wells; all else of it, lips and legs and boxes, is rectangles.
#[test]
fn what_follows_walls_is_for_home() {
    let p = plan(&demo("wren"));
    let f = finding(&p, "straight").unwrap();
    let decks = p.parts.iter().filter(|q| q.name.starts_with("deck"));
    let marks: Vec<&str> = decks.map(|q| q.mark.as_str()).collect();
    assert!(marks.len() > 2);
    let home = format!("At home, with jigsaw or guide rail: {}.", marks.join(", "));
    assert!(f.sentence.ends_with(&home), "{}", f.sentence);
}

/// Where everything follows walls, that is said: a deck whose legs are bars has no other boards.
#[test]
fn nothing_is_for_a_shop() {
    let mut doc = demo("moth");
    doc["modules"] = json!({"deck": doc["modules"]["deck"]});
    doc["modules"]["deck"]["choices"]["supports"] =
        json!({"manner": "legs", "material": "spruce-38x89"});
    let p = plan(&doc);
    let f = finding(&p, "straight").unwrap();
    assert!(f.sentence.starts_with("None of 2 boards"), "{}", f.sentence);
}
