//! A thing comes out of its bay: what is before it and above it, by hand in a bay 1400 wide under a roof at 1200.

use crate::common::*;
use jigfit_core::checks::Severity;
use rstest::rstest;
use serde_json::{Value, json};

/// A cool box 400 deep and 300 high on a slide of 20, in a bench of 455 along the left wall that opens to the right.
fn bench(lid: f64) -> Value {
    let mut doc = bare();
    doc["gear"] = json!({"cold": {"name": "Cool box", "w": 482.6, "d": 400, "h": 300, "slide": 20, "air": 25, "lid_clearance": lid}});
    doc["modules"]["b"] = json!({"kind": "bench", "place": {"along": 25, "across": "left_wall"},
        "choices": {"opens": "right", "width": 1200, "depth": 455, "height": 400, "bays": 2, "appliance": "cold"}});
    doc
}

/// Across from it a bench that leaves more or less than the 400 that it is deep.
#[rstest]
#[case(500.0, true)]
#[case(600.0, false)]
fn what_stands_across_is_in_its_way(#[case] depth: f64, #[case] comes: bool) {
    let mut doc = bench(0.0);
    doc["modules"]["c"] = json!({"kind": "bench", "place": {"along": 25, "across": "right_wall"},
        "choices": {"opens": "left", "width": 1200, "depth": depth, "height": 400, "bays": 2}});
    let p = plan(&doc);
    let least = |id: &str| {
        let own = p.boards.iter().filter(|b| b.module == id);
        own.map(|b| ends(b, "drive").0[1])
            .fold(f64::INFINITY, f64::min)
    };
    let most = |id: &str| {
        let own = p.boards.iter().filter(|b| b.module == id);
        own.map(|b| ends(b, "drive").1[1])
            .fold(f64::NEG_INFINITY, f64::max)
    };
    let between = least("b") - most("c");
    assert!(
        (between - (1400.0 - 455.0 - depth)).abs() < 40.0,
        "{between}"
    );
    let f = finding(&p, "comes-out.b.cold").unwrap();
    assert_eq!(f.level == Severity::Fine, comes, "{}", f.sentence);
    if !comes {
        let said = format!("after {between:.1} mm there is the bench");
        let round = format!("after {between:.0} mm there is the bench");
        assert!(
            f.sentence.contains(&said) || f.sentence.contains(&round),
            "{said}: {}",
            f.sentence
        );
    }
}

/// Its lid wants 600 over it, 15 + 20 + 300 + 600 = 935 in all, under a roof at 1200; 900 it has not.
#[rstest]
#[case(600.0, true)]
#[case(900.0, false)]
fn its_lid_opens_where_it_stands_out(#[case] lid: f64, #[case] comes: bool) {
    let p = plan(&bench(lid));
    let f = finding(&p, "comes-out.b.cold").unwrap();
    assert_eq!(f.level == Severity::Fine, comes, "{}", f.sentence);
    assert_eq!(f.sentence.contains("the roof"), !comes, "{}", f.sentence);
}

/// 600 off the left wall and 455 deep it opens 345 before the right one, less what it keeps off the left: 400 are needed.
#[test]
fn a_wall_is_in_its_way() {
    let mut doc = bench(0.0);
    doc["modules"]["b"]["place"]["gap"] = json!(600);
    let p = plan(&doc);
    let f = finding(&p, "comes-out.b.cold").unwrap();
    assert_eq!(f.level, Severity::Look, "{}", f.sentence);
    assert!(f.sentence.contains("the right wall"), "{}", f.sentence);
}
