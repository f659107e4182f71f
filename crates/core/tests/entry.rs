//! Boards that come in while they can. By hand: a whole deck is 1390 wide; through 1194 by what is left over its frames (1100 less
//! the underside, less 6 of doubt) it goes turned if that is 740 at the least (Carver 1957), so up to an underside of some 350.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::plan::Plan;
use rstest::rstest;
use serde_json::{Value, json};

fn whole_deck(underside: f64) -> Value {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["split"] = json!("whole");
    doc["modules"]["deck"]["choices"]["underside"] = json!(underside);
    doc
}

fn told(p: &Plan) -> Vec<&str> {
    let all = p.findings.iter().filter(|f| f.check == "entry");
    all.map(|f| f.sentence.as_str()).collect()
}

#[rstest]
#[case(250.0, true)]
#[case(320.0, true)]
#[case(400.0, false)]
#[case(500.0, false)]
fn a_whole_deck_over_its_frames(#[case] underside: f64, #[case] comes: bool) {
    let p = plan(&whole_deck(underside));
    // Before anything stands it goes in, turned.
    assert_eq!(level(&p, "door.deck/panel"), Some(Severity::Look));
    let told = told(&p);
    assert_eq!(told.is_empty(), comes, "{told:?}");
    if let Some(words) = told.first() {
        // The first frame that is put up is in its way already.
        assert!(
            words.starts_with("D1 of the deck no longer comes in once F"),
            "{words}"
        );
    }
}

/// In two along the bay each is 695 wide and goes in flat, as long as there is a slit over the frames.
#[test]
fn halves_go_in_flat() {
    let mut doc = whole_deck(500.0);
    doc["modules"]["deck"]["choices"]["split"] = json!("lengthwise");
    assert_eq!(told(&plan(&doc)), Vec::<&str>::new());
}

/// A door in the wall longer than the deck, which is 1990 long at the most: it goes in there, flat.
#[test]
fn another_door_will_do() {
    let mut doc = whole_deck(500.0);
    doc["survey"]["openings"]["side"] =
        json!({"name": "side door", "side": "left", "from": 0, "sill": 0});
    for (dim, typed) in [
        ("width_floor", "2020"),
        ("width_top", "2020"),
        ("height", "900"),
    ] {
        doc["survey"]["readings"][format!("s{dim}")] =
            reading(json!({"of": "opening", "dim": dim, "id": "side"}), typed);
    }
    assert_eq!(told(&plan(&doc)), Vec::<&str>::new());
}
