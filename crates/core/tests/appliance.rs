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

/// A bench of 1500 with three bays, 15 boards: the first 350 wide by choice, the second as the cool box and 25.4 for fingers need,
/// 482.6 + 25.4 = 508, the third what is left: 1500 - 4 x 15 - 350 - 508 = 582.
fn unequal(second: Value) -> Value {
    let mut doc = bench(0.0);
    doc["gear"]["cold"]["lid_clearance"] = json!(300);
    doc["modules"]["b"]["choices"] = json!({"opens": "right", "width": 1500, "depth": 455, "height": 400, "bays": 3,
        "each": {"1": {"name": "boots", "width": 350}, "2": second}});
    doc
}

#[test]
fn bays_are_as_wide_as_said() {
    let p = plan(&unequal(json!({"gear": "cold", "above": "open"})));
    let at = |id: &str| ends(board(&p, id), "drive");
    let uprights = [
        "b/carcass-right",
        "b/carcass-divider-1",
        "b/carcass-divider-2",
        "b/carcass-left",
    ]
    .map(at);
    // The front looks to the right: its right end, seen from there, is towards the rear or the front of the vehicle.
    let mut xs: Vec<(f64, f64)> = uprights.iter().map(|(a, b)| (a[0], b[0])).collect();
    if xs[0].0 > xs[3].0 {
        xs.reverse();
        let clear: Vec<f64> = xs.windows(2).map(|w| w[1].0 - w[0].1).collect();
        for (is, want) in clear.iter().zip([582.0, 508.0, 350.0]) {
            assert!((is - want).abs() < 1e-6, "{clear:?}");
        }
        return;
    }
    let clear: Vec<f64> = xs.windows(2).map(|w| w[1].0 - w[0].1).collect();
    for (is, want) in clear.iter().zip([350.0, 508.0, 582.0]) {
        assert!((is - want).abs() < 1e-6, "{clear:?}");
    }
}

/// A bay that is open above has a front and no lid, the others have their own; the cool box comes out upwards, and its lid opens
/// where the roof at 1200 leaves room: 15 + 20 + 300 + 300 over the floor.
#[test]
fn a_bay_opens_upwards() {
    let p = plan(&unequal(json!({"gear": "cold", "above": "open"})));
    let lids: Vec<&str> = p
        .boards
        .iter()
        .filter(|b| b.role == "lid")
        .map(|b| b.id.as_str())
        .collect();
    assert_eq!(lids, ["b/lid-1", "b/lid-3"]);
    assert_eq!(p.boards.iter().filter(|b| b.role == "front").count(), 1);
    let f = finding(&p, "comes-out.b.cold").unwrap();
    assert_eq!(f.level, Severity::Fine, "{}", f.sentence);
    // A deck over the bench at 420 leaves 5 over its lids: the box does not come out.
    let mut doc = unequal(json!({"gear": "cold", "above": "open"}));
    doc["modules"]["deck"] = json!({"kind": "deck", "choices": {"underside": 420.0}});
    let f = finding(&plan(&doc), "comes-out.b.cold").cloned().unwrap();
    assert_eq!(f.level, Severity::Look, "{}", f.sentence);
}

/// An open bay in the middle parts the front in two; holes for air are bored where they are asked for only.
#[test]
fn fronts_and_holes_follow_each_bay() {
    let p = plan(&unequal(
        json!({"gear": "cold", "front": "open", "above": "top", "air": "back"}),
    ));
    let fronts: Vec<f64> = p
        .boards
        .iter()
        .filter(|b| b.role == "front")
        .map(|b| b.outline.size().0)
        .collect();
    // 350 + 2 x 15 and 582 + 2 x 15.
    assert_eq!(fronts.len(), 2);
    assert!(
        (fronts[0] - 380.0).abs() < 1e-6 && (fronts[1] - 612.0).abs() < 1e-6,
        "{fronts:?}"
    );
    let holes = |id: &str| {
        let part = p
            .parts
            .iter()
            .find(|q| q.boards.iter().any(|b| b == id))
            .unwrap();
        part.features.iter().filter(|f| f.kind == "vent").count()
    };
    // 508 wide, 50 off each end: 408 in four steps of at least 100, five holes in each of two rows.
    assert_eq!(holes("b/carcass-back"), 10);
    assert_eq!(holes("b/front"), 0);
    assert_eq!(p.boards.iter().filter(|b| b.id == "b/top").count(), 1);
}

/// What does not go into the width is refused at the field with the least that does.
#[rstest]
#[case(json!({"1": {"width": 900}, "2": {"width": 700}}), "/modules/b/choices/width")]
#[case(json!({"1": {"width": -5}}), "/modules/b/choices/each/1/width")]
#[case(json!({"9": {"width": 300}}), "/modules/b/choices/each/9")]
#[case(json!({"1": {"gear": "nothing"}}), "/modules/b/choices/each/1/gear")]
fn bays_that_cannot_be_are_refused(#[case] each: Value, #[case] pointer: &str) {
    let mut doc = unequal(json!({}));
    doc["modules"]["b"]["choices"]["each"] = each;
    let problem = jigfit_core::furniture::read(doc).unwrap_err();
    assert_eq!(problem.pointer, pointer, "{problem}");
}

/// The bottom of an ordinary bench, 465 by 1500, lies on a sheet of 2440 x 1220: nobody sees which way its grain runs.
#[test]
fn a_long_bench_lies_on_a_sheet() {
    let mut doc = bench(0.0);
    doc["modules"]["b"]["choices"] =
        json!({"opens": "right", "width": 1500, "depth": 480, "height": 400, "bays": 3});
    let p = plan(&doc);
    assert!(p.sheets.iter().all(|g| g.problem.is_none()));
    // One lid over one bay of 1400 has its grain from front to back, 1400 across it: turned on request it lies on a sheet.
    doc["modules"]["b"]["choices"] =
        json!({"opens": "right", "width": 1400, "depth": 480, "height": 400, "bays": 1});
    let doc = serde_json::to_value(project(&doc)).unwrap();
    let p = plan(&doc);
    let f = finding(&p, "nest.").unwrap();
    assert_eq!(f.level, Severity::Stop, "{}", f.sentence);
    let turned = plan(&after(&doc, &f.offers[0].patch));
    assert!(turned.sheets.iter().all(|g| g.problem.is_none()));
}
