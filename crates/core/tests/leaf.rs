//! A leaf at a deck's front end: where it lies on the road and at night by hand, what the seat before it gives, how long
//! the bed becomes.

use crate::common::*;
use jigfit_core::checks::Severity;
use rstest::rstest;
use serde_json::{Value, json};

/// The box van with a deck at 300, a leaf of 250 and two front seats that slide so far.
fn van(travel: f64, leaf: &str) -> Value {
    let mut doc = read_up_to(box_van(), 600.0);
    let deck = &mut doc["modules"]["deck"]["choices"];
    deck["leaf"] = json!(leaf);
    deck["leaf_length"] = json!(250);
    doc["survey"]["seats"] = json!({
        "a": {"name": "left seat", "travel": travel},
        "b": {"name": "right seat", "travel": travel},
    });
    doc["states"] = json!({
        "drive": {"name": "drive", "order": 1},
        "night": {"name": "night", "order": 2, "open": {"deck/leaf": 1}},
    });
    doc
}

/// On the road it lies on the deck's upper face, flush with its front end; at night it goes on from there at the deck's own
/// height, a millimetre before it (twice what the pin stands off).
#[rstest]
#[case("both")]
#[case("left")]
#[case("right")]
fn it_goes_on_where_the_deck_ends(#[case] leaf: &str) {
    let p = plan(&van(300.0, leaf));
    let panels = || p.boards.iter().filter(|b| b.role == "panel");
    let front = panels().map(|b| ends(b, "drive").1[0]).fold(0.0, f64::max);
    let wide = |k: usize| {
        let all = panels().map(|b| [ends(b, "drive").0[1], ends(b, "drive").1[1]][k]);
        all.reduce(if k == 0 { f64::min } else { f64::max })
            .unwrap()
    };
    let own = board(&p, "deck/leaf");
    let (low, high) = ends(own, "drive");
    let near = |a: f64, b: f64| assert!((a - b).abs() < 0.01, "{a} {b}");
    // On one half only that half is cut straight for it.
    match leaf {
        "both" => near(high[0], front),
        _ => assert!((0.0..20.0).contains(&(front - high[0]))),
    }
    let front = high[0];
    near(low[0], front - 250.0);
    near(low[2], 315.0);
    near(high[2], 330.0);
    let (out, far) = ends(own, "night");
    near(out[0], front + 1.0);
    near(far[0], front + 251.0);
    near(out[2], 300.0);
    near(far[2], 315.0);
    // 5 mm inside the edge, 2.5 + 5 off the middle.
    match leaf {
        "left" => near(low[1], 7.5),
        _ => assert!((low[1] - wide(0) - 5.0).abs() < 3.0),
    }
    match leaf {
        "right" => near(high[1], -7.5),
        _ => assert!((high[1] - wide(1) + 5.0).abs() < 3.0),
    }
    // It goes all its way though the front of the bay is read where it swings.
    assert_eq!(level(&p, "change.deck/leaf"), Some(Severity::Fine));
    assert_eq!(level(&p, "leaf.deck"), Some(Severity::Fine));
    let back = panels()
        .map(|b| ends(b, "drive").0[0])
        .fold(front, f64::min);
    let bed = finding(&p, "bed.deck").unwrap();
    near(
        bed.numbers[0].figure.as_ref().unwrap().value,
        front + 251.0 - back,
    );
    let legs = p.hardware.iter().find(|h| h.what.starts_with("leg"));
    let legs = legs.unwrap();
    assert_eq!((legs.count, legs.size.as_str()), (2, "300 mm"));
}

/// The floor behind the seats lies 80 below the load floor.
#[test]
fn its_legs_reach_the_floor_there() {
    let mut doc = van(300.0, "both");
    doc["modules"]["deck"]["choices"]["leaf_floor"] = json!(-80);
    let p = plan(&doc);
    let legs = p.hardware.iter().find(|h| h.what.starts_with("leg"));
    assert_eq!(legs.unwrap().size, "380 mm");
}

/// A seat that slides 200 leaves no room for 250; one of 200 is offered, and fits.
#[test]
fn the_seat_has_to_give_as_much() {
    let doc = van(200.0, "both");
    let p = plan(&doc);
    let f = finding(&p, "leaf.deck").unwrap();
    assert_eq!(f.level, Severity::Stop);
    let p = plan(&after(&doc, &f.offers[0].patch));
    assert_eq!(level(&p, "leaf.deck"), Some(Severity::Fine));
    let (low, high) = ends(board(&p, "deck/leaf"), "night");
    assert!((high[0] - low[0] - 200.0).abs() < 0.01);
}

/// Over the whole width both seats have to give: with one of them known it is asked, with one that slides 200 it is a stop. On one half
/// one that slides 300 does.
#[test]
fn over_the_whole_width_both_seats_give() {
    let seats = |leaf: &str, seats: Value| {
        let mut doc = van(300.0, leaf);
        doc["survey"]["seats"] = seats;
        level(&plan(&doc), "leaf.deck")
    };
    let one = json!({"a": {"name": "left seat", "travel": 300}});
    let two = json!({"a": {"name": "left seat", "travel": 300}, "b": {"name": "right seat", "travel": 200}});
    assert_eq!(seats("both", one.clone()), Some(Severity::Look));
    assert_eq!(seats("both", two.clone()), Some(Severity::Stop));
    assert_eq!(seats("left", one), Some(Severity::Fine));
    assert_eq!(seats("right", two), Some(Severity::Fine));
}

/// Nobody measured how far a seat slides.
#[test]
fn how_far_a_seat_slides_is_asked() {
    let mut doc = van(200.0, "both");
    doc["survey"]["seats"] = json!({});
    assert_eq!(level(&plan(&doc), "leaf.deck"), Some(Severity::Look));
}

/// Somebody of 2050 wants 2170: the bay's 2000 are too short, a leaf is offered, and with it nothing is missing any more.
#[test]
fn it_is_offered_to_who_is_too_long() {
    let mut doc = van(300.0, "none");
    doc["people"] = json!({"p": {"name": "P", "stature": 2050}});
    let p = plan(&doc);
    let f = finding(&p, "bed.p").unwrap();
    assert_ne!(f.level, Severity::Fine);
    let offer = f.offers.iter().find(|o| o.label.contains("leaf")).unwrap();
    let p = plan(&after(&doc, &offer.patch));
    assert!(finding(&p, "bed.p").is_none());
    assert!(p.boards.iter().any(|b| b.id == "deck/leaf"));
}

/// Left folded back at night it is no bed for who needs it: the offer makes it up.
#[test]
fn it_is_folded_out_for_the_night() {
    let mut doc = van(300.0, "both");
    doc["states"]["night"]["open"] = json!({});
    let f = plan(&doc);
    let f = finding(&f, "bed.deck").unwrap();
    assert!(f.sentence.contains("not made up"), "{}", f.sentence);
    let p = plan(&after(&doc, &f.offers[0].patch));
    let bed = finding(&p, "bed.deck").unwrap();
    assert!(bed.sentence.starts_with("Made up"), "{}", bed.sentence);
}

/// In a bay whose front is a nose there is no straight edge, and in a deck of 200 no room to fold it back: told, and
/// nothing is cut.
#[test]
fn where_it_does_not_go_it_says_so() {
    let mut doc = van(300.0, "both");
    let deck = &mut doc["modules"]["deck"]["choices"];
    deck["from"] = json!(1800);
    let p = plan(&doc);
    assert!(p.boards.iter().all(|b| b.role != "leaf"));
    assert_eq!(level(&p, "leaf.deck"), Some(Severity::Look));
}
