//! A sofa whose seat slides out and whose back lies down behind it: by hand.

use crate::common::*;
use jigfit_core::checks::Severity;
use serde_json::{Value, json};

/// 560 deep, a strip of 65 and 2 of play: a seat of 493; a leaf of 420 makes a bed 980 wide.
fn sofa(choices: Value) -> Value {
    let mut doc = bare();
    let mut all = json!({"opens": "right", "width": 1900, "depth": 560, "height": 380, "leaf": 420, "strip": 65});
    for (k, v) in choices.as_object().unwrap() {
        all[k] = v.clone();
    }
    let state = |order: u32| json!({"name": "s", "order": order, "open": {}});
    doc["states"] = json!({"drive": state(0), "night": state(1)});
    doc["people"] = json!({"s": {"name": "Sleeper", "stature": 1700}});
    doc["modules"] = json!({"s": {"kind": "slide_seat", "place": {"along": 50, "across": "left_wall"}, "choices": all}});
    doc
}

/// By day the leaf stands on the strip behind the seat; at night it lies where the seat was, level with it, and all of it lies on the
/// uprights: nothing stands in another at either time.
#[test]
fn the_leaf_lies_where_the_seat_was() {
    let mut doc = sofa(json!({}));
    let p = plan(&doc);
    let at = |p: &jigfit_core::plan::Plan, id: &str, state: &str| ends(board(p, id), state);
    let (low, high) = at(&p, "s/seat", "drive");
    assert!((high[1] - low[1] - 493.0).abs() < 1e-6);
    assert!((high[2] - 380.0).abs() < 1e-6);
    let (leaf, top) = at(&p, "s/leaf", "drive");
    assert!((leaf[2] - 380.0).abs() < 1e-6 && (top[2] - 800.0).abs() < 1e-6);
    // It is not made up for the night; one offer moves both, the seat first.
    let f = finding(&p, "bed.s").unwrap();
    assert!(
        f.level == Severity::Look && f.sentence.contains("not made up"),
        "{}",
        f.sentence
    );
    doc = after(&doc, &f.offers[0].patch);
    let p = plan(&doc);
    let (seat_low, seat_high) = at(&p, "s/seat", "night");
    let (leaf_low, leaf_high) = at(&p, "s/leaf", "night");
    // To the right, away from the wall on the left.
    assert!((low[1] - seat_low[1] - 420.0).abs() < 1e-6);
    assert!((leaf_low[1] - seat_high[1]).abs() < 1e-6);
    assert!((leaf_high[1] - leaf_low[1] - 420.0).abs() < 1e-6);
    assert!((leaf_high[2] - 380.0).abs() < 1e-6 && (leaf_low[2] - 362.0).abs() < 1e-6);
    let f = finding(&p, "bed.s").unwrap();
    let sizes: Vec<f64> = f
        .numbers
        .iter()
        .map(|n| n.figure.as_ref().unwrap().value)
        .collect();
    assert!(
        (sizes[0] - 1900.0).abs() < 1e-6 && (sizes[1] - 980.0).abs() < 1e-6,
        "{sizes:?}"
    );
    assert!(
        p.findings.iter().all(|f| f.check != "clash"),
        "{:?}",
        p.findings
    );
    // In the evening the seat goes first: the leaf would fall on the strip.
    let steps: Vec<&str> = p
        .evening
        .moves
        .iter()
        .flat_map(|m| &m.steps)
        .map(|s| s.body.as_str())
        .collect();
    let first = |id: &str| steps.iter().position(|s| *s == id).unwrap();
    assert!(first("s/seat") < first("s/leaf"), "{steps:?}");
}

/// Boards carry it no further apart than 600: (1900 - 15) / 4 is 471.25, five of them.
#[test]
fn what_carries_it() {
    let p = plan(&sofa(json!({})));
    let uprights: Vec<_> = p.boards.iter().filter(|b| b.role == "upright").collect();
    assert_eq!(uprights.len(), 5);
    let x = |i: usize| ends(uprights[i], "drive").0[0];
    assert!(
        ((x(0) - x(1)).abs() - 471.25).abs() < 1e-6,
        "{}",
        (x(0) - x(1)).abs()
    );
    // Their depth: 560 less apron, play and rail before them and the back behind: 560 - 15 - 2 - 15 - 15.
    let (low, high) = ends(uprights[0], "drive");
    assert!((high[1] - low[1] - 513.0).abs() < 1e-6);
    // By the cube of its thickness and E along the grain, a leaf of 12 mm bends (18 / 12)^3 x 10048 / 10719 = 3.16 times as far.
    let bends = |p: &jigfit_core::plan::Plan| -> f64 {
        let f = finding(p, "bends.s").unwrap();
        let after = f.sentence.split("leaf of the slide seat ").nth(1).unwrap();
        after.split(' ').next().unwrap().parse().unwrap()
    };
    let (thick, thin) = (bends(&p), bends(&plan(&sofa(json!({"top": 12})))));
    // Both are said to 0.1 mm.
    assert!(
        (thin - 3.16 * thick).abs() <= 0.05 + 3.16 * 0.05,
        "{thin} {thick}"
    );
}
