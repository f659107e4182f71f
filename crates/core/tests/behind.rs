//! What stays behind a shorter drawer: by hand from the sizes of its carcass.

use crate::common::*;
use jigfit_core::boards::BoardView;
use jigfit_core::checks::Severity;
use jigfit_core::geometry::region::Region;
use serde_json::{Value, json};

/// Two drawers beside each other, 640 outside, 700 with their face, boards of 15; the left one 420 long.
fn drawers(height: f64) -> Value {
    let mut doc = bare();
    doc["modules"]["d"] = json!({"kind": "drawer", "place": {"along": 100, "across": "centred"},
        "choices": {"width": 640, "depth": 700, "height": height, "columns": 2, "short": 420}});
    doc
}

/// Each bay is (640 - 3 x 15) / 2 = 297.5 wide, 250 - 2 x 15 = 220 high, 700 - 15 - 15 = 670 deep: 250 are free behind 420. With 30 of the
/// back left all round the opening is 237.5 by 160.
#[test]
fn what_is_free_is_told() {
    let p = plan(&drawers(250.0));
    let f = finding(&p, "behind.d.drawer-2").unwrap();
    assert_eq!(f.level, Severity::Fine);
    let words = "Behind drawer, drawer 2 250 mm stay free, 297.5 mm wide and 220 mm high: reached from the front, through an opening of 237.5 mm by 160 mm in the back.";
    assert_eq!(f.sentence, words);
    assert!(finding(&p, "behind.d.drawer-1").is_none());
    let back = board(&p, "d/carcass-back");
    let holes: Vec<f64> = back
        .outline
        .holes
        .iter()
        .map(|h| {
            let ring = Region {
                outer: h.clone(),
                holes: vec![],
            };
            ring.area().abs()
        })
        .collect();
    assert_eq!(holes.len(), 1);
    assert!((holes[0] - 237.5 * 160.0).abs() < 1.0, "{holes:?}");
}

/// A box 100 before the back: no hand gets in, and a drawer as long as the others leaves nothing behind it.
#[test]
fn what_no_hand_reaches_is_told() {
    let mut doc = drawers(250.0);
    doc["modules"]["b"] = json!({"kind": "box_seat", "place": {"along": 900, "across": "centred"},
        "choices": {"length": 500, "depth": 700, "height": 280}});
    let p = plan(&doc);
    let f = finding(&p, "behind.d.drawer-2").unwrap();
    assert_eq!(f.level, Severity::Look);
    assert!(
        f.sentence
            .contains(" after 100 mm. It is reached with the drawer taken out."),
        "{}",
        f.sentence
    );
    let helped = plan(&after(&doc, &f.offers[0].patch));
    assert!(finding(&helped, "behind.d.drawer-2").is_none());
    assert!(board(&helped, "d/carcass-back").outline.holes.is_empty());
}

/// 145 high: its bay is 115, less twice 30 leaves no opening for a hand.
#[test]
fn a_low_drawer_has_no_opening() {
    let p = plan(&drawers(145.0));
    let f = finding(&p, "behind.d.drawer-2").unwrap();
    assert!(
        f.level == Severity::Look && f.sentence.contains("too little for an opening"),
        "{}",
        f.sentence
    );
    assert!(board(&p, "d/carcass-back").outline.holes.is_empty());
}

/// A frame of a deck stands before the opening: its window lets a hand through, where it has one.
#[test]
fn a_hand_goes_through_a_window() {
    let mut doc = drawers(250.0);
    doc["modules"]["deck"] =
        json!({"kind": "deck", "choices": {"underside": 300, "supports": {"lines": 3}}});
    let p = plan(&doc);
    // The middle frame stands some 1000 in, 200 past the drawers' back, all across, with windows.
    let before = |b: &&BoardView| {
        let x = b.poses["drive"].origin[0];
        b.role == "frame" && (800.0..1100.0).contains(&x)
    };
    let frames: Vec<_> = p.boards.iter().filter(before).collect();
    assert!(
        frames.iter().any(|f| !f.outline.holes.is_empty()),
        "{frames:?}"
    );
    assert_eq!(level(&p, "behind.d.drawer-2"), Some(Severity::Fine));
}
