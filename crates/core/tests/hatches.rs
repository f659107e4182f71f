//! Hatches in a deck, and a kitchen bay: sizes by hand, what can be reached, what must stay free.

use crate::common::*;
use jigfit_core::boards::BoardView;
use jigfit_core::checks::Severity;
use jigfit_core::plan::Plan;
use rstest::rstest;
use serde_json::{Value, json};

fn hatched(choices: Value) -> Value {
    let mut doc = box_van();
    let deck = &mut doc["modules"]["deck"]["choices"];
    deck["hatches"] = json!("bays");
    for (k, v) in choices.as_object().unwrap() {
        deck[k] = v.clone();
    }
    doc
}

/// Holes of 300 x 400 less 2 all round; the hatch lies at the deck's own height, on cleats 15 below it which reach 18 into
/// the hole on either side.
#[test]
fn a_hatch_lies_in_its_hole() {
    let p = plan(&hatched(json!({})));
    let hatches: Vec<&BoardView> = p.boards.iter().filter(|b| b.role == "hatch").collect();
    assert!(!hatches.is_empty());
    for h in &hatches {
        let (l, w) = h.outline.size();
        assert!((l - 296.0).abs() < 1e-6 && (w - 396.0).abs() < 1e-6);
        let pose = h.poses["drive"];
        assert!((pose.origin[2] - 300.0).abs() < 1e-9);
        let n = h.id.trim_start_matches("deck/");
        let cleats: Vec<&BoardView> = p
            .boards
            .iter()
            .filter(|b| b.id.starts_with(&format!("deck/{n}-cleat")))
            .collect();
        assert_eq!(cleats.len(), 4);
        let hole = [pose.origin[1] - 2.0, pose.origin[1] + 398.0];
        for c in cleats {
            let low = c.poses["drive"].origin;
            let (_, w) = c.outline.size();
            assert!((low[2] - 285.0).abs() < 1e-9);
            let inside = if low[1] < hole[0] {
                low[1] + w - hole[0]
            } else {
                hole[1] - low[1]
            };
            assert!((inside - 18.0).abs() < 1e-6, "{inside}");
        }
        let moves = finding(&p, &format!("moves.{}", h.id)).unwrap();
        assert_eq!(moves.level, Severity::Fine);
        assert!(moves.sentence.ends_with("lifts out."), "{}", moves.sentence);
    }
    assert_eq!(level(&p, "hatch.deck"), Some(Severity::Fine));
    // A mattress is cut for the deck as if there were none.
    let area = |p: &Plan| {
        p.boards
            .iter()
            .filter(|b| b.role == "panel")
            .map(|b| b.outline.area())
            .sum::<f64>()
    };
    let less = area(&plan(&box_van())) - area(&p);
    assert!(less > 0.9 * 300.0 * 400.0 * hatches.len() as f64, "{less}");
}

/// The evening lifts it out and lays it back: it is no drawer.
#[test]
fn a_hatch_is_lifted_and_laid_back() {
    let mut doc = hatched(json!({}));
    doc["states"] = json!({
        "drive": {"name": "drive", "order": 0, "open": {}},
        "day": {"name": "day", "order": 1, "open": {"deck/hatch-1": 1}},
        "night": {"name": "night", "order": 2, "open": {}},
    });
    let moves = plan(&doc).evening.moves;
    for (m, end) in moves
        .iter()
        .zip(["of the deck: lifted out", "of the deck: laid back in"])
    {
        assert!(m.steps[0].words.ends_with(end), "{}", m.steps[0].words);
    }
}

/// A bin 250 high does not pass the rear frame; it is let down through a hatch, and the finding that it does not go in
/// offers that.
#[test]
fn things_go_in_through_a_hatch() {
    let mut doc = box_van();
    doc["gear"] = json!({"tall": {"name": "Tall bin", "w": 400, "d": 300, "h": 250}});
    let shut = plan(&doc);
    let f = finding(&shut, "way-in.deck").unwrap();
    let offer = f
        .offers
        .iter()
        .find(|o| o.label == "Hatches in the deck")
        .unwrap();
    let p = plan(&after(&doc, &offer.patch));
    assert!(finding(&p, "way-in.deck").is_none());
    assert!(
        finding(&p, "heights-fit")
            .unwrap()
            .sentence
            .contains("Tall bin")
    );
    // One that is larger than the hole both ways is not.
    doc["gear"]["tall"]["w"] = json!(450);
    doc["gear"]["tall"]["d"] = json!(450);
    let p = plan(&after(&doc, &offer.patch));
    assert!(finding(&p, "way-in.deck").is_some());
}

/// No hole where there is no rim for it.
#[rstest]
#[case(json!({"hatch_length": 1000}))]
#[case(json!({"hatch_width": 1000, "split": "lengthwise"}))]
#[case(json!({"top": "slats"}))]
fn no_room_is_told(#[case] choices: Value) {
    let p = plan(&hatched(choices));
    assert!(p.boards.iter().all(|b| b.role != "hatch"));
    assert_eq!(level(&p, "hatch.deck"), Some(Severity::Look));
}

/// A hatch in a board that lifts up goes with it; a front board that slides over the rear one has none, for its cleats would
/// lie on that.
#[test]
fn a_hatch_rides_on_its_board() {
    let mut doc = hatched(json!({"change": "lift", "joint": 1000, "hatch_length": 200}));
    doc["states"] = json!({"drive": {"name": "drive", "order": 0, "open": {"deck/rear": 0.5}}});
    let there = plan(&doc);
    doc["states"]["drive"]["open"] = json!({});
    let here = plan(&doc);
    let riding: Vec<&str> = here.modules[0]
        .bodies
        .iter()
        .filter(|b| b.parent.as_deref() == Some("deck/rear"))
        .map(|b| b.id.as_str())
        .collect();
    assert!(!riding.is_empty());
    let at = |p: &Plan, id: &str| board(p, id).poses["drive"].origin;
    let front = here
        .boards
        .iter()
        .find(|b| b.body == "deck/rear" && b.role == "panel")
        .unwrap();
    let slides = plan(&hatched(
        json!({"change": "slide", "joint": 1000, "hatch_length": 200}),
    ));
    let hatches = slides.boards.iter().filter(|b| b.role == "hatch");
    assert!(hatches.clone().count() > 0);
    assert!(hatches.clone().all(|b| b.shut.origin[0] < 1000.0));
    // Turned about the hinge both keep their places to each other.
    let apart = |p: &Plan, id: &str| {
        let (a, b) = (at(p, id), at(p, &front.id));
        (0..3).map(|k| (a[k] - b[k]).powi(2)).sum::<f64>().sqrt()
    };
    for id in riding {
        assert!(at(&there, id)[2] > at(&here, id)[2] + 100.0);
        assert!((apart(&there, id) - apart(&here, id)).abs() < 1e-6);
    }
}

fn kitchen(choices: Value) -> Value {
    let mut doc = bare();
    doc["gear"] = json!({"can": {"name": "Water", "w": 200, "d": 300, "h": 400, "mass": 20}});
    let mut all =
        json!({"width": 900, "depth": 420, "height": 600, "water": "can", "opens": "right"});
    for (k, v) in choices.as_object().unwrap() {
        all[k] = v.clone();
    }
    doc["modules"]["k"] = json!({"kind": "kitchen", "name": "Kitchen",
        "place": {"along": 300, "across": "left_wall"}, "choices": all});
    doc
}

/// The water's bay is 200 and an inch for fingers (common practice, no source); the two others share 900 - 60 - 225.4.
/// The bin: 307.3 less two slides of 12.7 and finish of 0.2 a side.
#[test]
fn a_kitchen_by_hand() {
    let p = plan(&kitchen(json!({})));
    let right = board(&p, "k/carcass-right").poses["drive"].origin;
    let first = board(&p, "k/carcass-divider-1").poses["drive"].origin;
    let apart = (right[0] - first[0]).abs() - 15.0;
    assert!((apart - 225.4).abs() < 1e-6, "{apart}");
    let front = board(&p, "k/bin-box-front").outline.size();
    assert!(
        (front.0 - (307.3 - 25.4 - 0.4 - 24.0)).abs() < 1e-6,
        "{front:?}"
    );
    assert_eq!(level(&p, "made-for.k.can"), Some(Severity::Fine));
    // A hole of 32 for the hose, one of 20 for a wire.
    for (id, mm) in [("k/carcass-top", 32.0), ("k/carcass-divider-1", 20.0)] {
        let hole = &board(&p, id).outline.holes[0];
        let wide = hole.iter().map(|q| q[0]).fold(f64::MIN, f64::max)
            - hole.iter().map(|q| q[0]).fold(f64::MAX, f64::min);
        assert!((wide - mm).abs() < 0.2, "{wide}");
    }
}

/// Above the stove so much stays free as was said: the roof at 1200 over a worktop at 600, a cabinet in between, or nothing.
#[test]
fn above_a_stove() {
    let of = |over: f64, above: bool| {
        let mut doc = kitchen(json!({"over": over}));
        if above {
            doc["modules"]["box"] = json!({"kind": "cabinet", "place": {"along": 300, "across": "left_wall", "up": 850},
                "choices": {"opens": "right", "width": 900, "depth": 300, "height": 300, "rows": 1}});
        }
        plan(&doc)
    };
    let f = finding(&of(590.0, false), "keep.k.stove").unwrap().clone();
    assert_eq!(f.level, Severity::Look);
    assert!(
        f.sentence.contains("carbon-monoxide alarm"),
        "{}",
        f.sentence
    );
    let p = of(620.0, false);
    let f = finding(&p, "keep.k.stove").unwrap();
    assert_eq!(f.level, Severity::Stop);
    assert!(f.sentence.contains("the roof"), "{}", f.sentence);
    let p = of(500.0, true);
    let f = finding(&p, "keep.k.stove").unwrap();
    assert_eq!(f.level, Severity::Stop);
    assert!(
        f.sentence.contains("only 250 mm are free"),
        "{}",
        f.sentence
    );
}

fn placed(places: Value) -> Value {
    hatched(json!({"hatches": "placed", "hatch_places": places}))
}

/// A hatch is where it is wanted: its hole 300 long and 280 wide, its middle 350 left of the centre line, less 2 round it.
#[test]
fn a_hatch_is_where_it_is_wanted() {
    // Frames of the deck: where they stand is said by the plan; the hole is in the middle of a bay.
    let lines = plan(&box_van()).decks[0].lines.clone();
    let middle = ((lines[0] + lines[1]) / 2.0 - 150.0).round();
    let doc = placed(json!({"a": {"along": middle, "across": 350, "length": 300, "width": 280}}));
    let p = plan(&doc);
    let h = board(&p, "deck/hatch-1");
    let (low, high) = ends(h, "drive");
    for (is, want) in [
        (low[0], middle + 2.0),
        (high[0], middle + 298.0),
        (low[1], 212.0),
        (high[1], 488.0),
    ] {
        assert!((is - want).abs() < 1e-6, "{is} {want}");
    }
    assert!(finding(&p, "hatch-place.").is_none());
    assert_eq!(level(&p, "hatch.deck"), Some(Severity::Fine));
}

/// Over a support it cannot be: the finding says so, and its offer moves it where it can.
#[test]
fn a_hatch_over_a_support_is_moved() {
    let lines = plan(&box_van()).decks[0].lines.clone();
    let doc = placed(
        json!({"a": {"along": lines[1] - 100.0, "across": 350, "length": 250, "width": 250}}),
    );
    let p = plan(&doc);
    assert!(p.boards.iter().all(|b| b.role != "hatch"));
    let f = finding(&p, "hatch-place.deck.a").unwrap();
    assert_eq!(f.level, Severity::Look);
    let p = plan(&after(&doc, &f.offers[0].patch));
    assert!(finding(&p, "hatch-place.").is_none());
    assert!(p.boards.iter().any(|b| b.role == "hatch"));
}

/// On hinges its free edge rises, whichever edge they are at: opened by 90 degrees it stands above the deck.
#[rstest]
#[case("front")]
#[case("rear")]
#[case("left")]
#[case("right")]
fn a_hatch_on_hinges_turns_up(#[case] opens: &str) {
    let lines = plan(&box_van()).decks[0].lines.clone();
    let middle = ((lines[0] + lines[1]) / 2.0 - 150.0).round();
    let mut doc = placed(
        json!({"a": {"along": middle, "across": 350, "length": 300, "width": 300, "opens": opens}}),
    );
    doc["states"] = json!({"drive": {"name": "drive", "order": 1}, "day": {"name": "day", "order": 2, "open": {"deck/hatch-1": 0.5}}});
    let p = plan(&doc);
    let h = board(&p, "deck/hatch-1");
    let (shut, open) = (ends(h, "drive"), ends(h, "day"));
    assert!((shut.1[2] - 315.0).abs() < 1e-6);
    assert!(open.1[2] > 315.0 + 290.0, "{:?}", open);
    assert!(open.0[2] > 290.0, "{:?}", open);
    assert!(p.hardware.iter().any(|i| i.what.starts_with("butt hinge")));
}
