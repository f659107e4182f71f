//! What can be pulled at in the drawing: where it is, and that it moves as it says.

use crate::common::*;
use jigfit_core::furniture::KINDS;
use jigfit_core::handles::{Handle, handles};
use jigfit_core::plan::Plan;
use jigfit_core::survey::model::Model;
use rstest::rstest;
use serde_json::{Value, json};

fn of(doc: &Value, piece: &str) -> Vec<Handle> {
    let project = project(doc);
    let model = Model::new(&project);
    handles(&project, &model, KINDS, piece).unwrap()
}

/// Least and greatest coordinate of boards along an axis, from their corners in the plan.
fn ends(plan: &Plan, axis: usize, which: impl Fn(&str) -> bool) -> [f64; 2] {
    let boards = plan.boards.iter().filter(|b| which(&b.id));
    let corners = boards.flat_map(|b| {
        let pose = b.poses["drive"];
        let ring = b.outline.outer.iter();
        ring.flat_map(move |p| [0.0, b.thickness].map(|t| pose.at(p[0], p[1], t)[axis]))
            .collect::<Vec<_>>()
    });
    corners.fold([f64::INFINITY, f64::NEG_INFINITY], |[lo, hi], v| {
        [lo.min(v), hi.max(v)]
    })
}

fn bench() -> Value {
    let mut doc = bare();
    doc["modules"]["b"] = json!({
        "kind": "bench", "place": {"along": 300, "across": "left_wall"},
        "choices": {"width": 900, "depth": 400, "height": 400, "bays": 2, "opens": "right"},
    });
    doc
}

/// By hand: 900 long from 300 to 1200 in, 400 high; pulled at the far end it grows, at the top it gets higher, in its middle it goes
/// along.
#[test]
fn a_bench_is_pulled_at() {
    let doc = bench();
    let found = of(&doc, "b");
    let get = |field: &str| found.iter().find(|h| h.pointer.ends_with(field)).unwrap();
    let far = get("/choices/width");
    assert!(
        (far.axis, far.per) == (0, 1.0) && (far.at[0] - 1200.0).abs() < 1.5,
        "{far:?}"
    );
    let top = get("/choices/height");
    assert!(
        (top.axis, top.per) == (2, 1.0) && (top.at[2] - 400.0).abs() < 1.5,
        "{top:?}"
    );
    let whole = get("/place/along");
    assert!(
        (whole.axis, whole.per) == (0, 1.0) && (whole.at[0] - 750.0).abs() < 1.5,
        "{whole:?}"
    );
    // A thickness is not pulled at.
    assert!(
        !found.iter().any(|h| h.pointer.ends_with("thickness")),
        "{found:?}"
    );
}

/// What is pulled goes where the handle says: the plan with the changed number, board by board.
#[rstest]
#[case("width", 60.0)]
#[case("depth", 45.0)]
#[case("height", 30.0)]
fn it_moves_as_it_says(#[case] field: &str, #[case] by: f64) {
    let doc = bench();
    let pointer = format!("/choices/{field}");
    let found = of(&doc, "b");
    let h = found
        .iter()
        .find(|h| h.pointer.ends_with(&pointer))
        .unwrap();
    let mut then = doc.clone();
    then["modules"]["b"]["choices"][field] = json!(h.value + by);
    let own = |id: &str| id.starts_with("b/");
    let (was, is) = (
        ends(&plan(&doc), h.axis, own),
        ends(&plan(&then), h.axis, own),
    );
    let end = usize::from((was[1] - h.at[h.axis]).abs() < (was[0] - h.at[h.axis]).abs());
    assert!((was[end] - h.at[h.axis]).abs() < 1.5, "{was:?} {h:?}");
    assert!(
        (is[end] - was[end] - by * h.per).abs() < 1.5,
        "{was:?} {is:?} {h:?}"
    );
    assert!((is[1 - end] - was[1 - end]).abs() < 1.5, "{was:?} {is:?}");
}

/// A board within: where two boards of a deck meet they are pulled, and the deck ends where it did.
#[test]
fn where_boards_meet_is_pulled_at() {
    let doc = demo("moth-whole");
    let found = of(&doc, "deck");
    let h = found.iter().find(|h| h.label == "The boards meet").unwrap();
    let mut then = doc.clone();
    *then.pointer_mut(&h.pointer).unwrap() = json!(h.value + 30.0);
    let (was, is) = (plan(&doc), plan(&then));
    let panels = |id: &str| id.starts_with("deck/panel");
    let (all, still) = (ends(&was, 0, panels), ends(&is, 0, panels));
    assert!(
        (0..2).all(|k| (all[k] - still[k]).abs() < 1.5),
        "{all:?} {still:?}"
    );
    let moved = was.boards.iter().filter(|b| panels(&b.id)).filter(|b| {
        let (a, z) = (
            ends(&was, 0, |id| id == b.id),
            ends(&is, 0, |id| id == b.id),
        );
        (0..2).any(|k| (z[k] - a[k] - 30.0 * h.per).abs() < 1.5)
    });
    assert!(moved.count() >= 2, "{h:?}");
}

/// A deck that is told neither where it ends nor where its boards meet is pulled at both all the same: it goes on from what
/// it chose itself.
#[test]
fn what_is_left_empty_is_pulled_at_too() {
    let doc = box_van();
    let was = plan(&doc);
    let panels = |id: &str| id.starts_with("deck/panel");
    let found = of(&doc, "deck");
    let get = |field: &str| {
        let own = found.iter().find(|h| h.pointer.ends_with(field));
        own.unwrap_or_else(|| panic!("{field}: {found:?}"))
    };
    assert!(doc["modules"]["deck"]["choices"].get("to").is_none());
    let end = get("/choices/to");
    // The bay is 2000 long: the deck ends a clearance before that.
    assert!(
        (1980.0..2000.0).contains(&end.value) && end.axis == 0,
        "{end:?}"
    );
    let mut shorter = doc.clone();
    shorter["modules"]["deck"]["choices"]["to"] = json!(end.value - 120.0);
    let (a, b) = (ends(&was, 0, panels), ends(&plan(&shorter), 0, panels));
    assert!((a[1] - b[1] - 120.0).abs() < 1.5, "{a:?} {b:?}");
    // A number that stands for nothing that is seen, such as the clearance, is not pulled at.
    assert!(
        !found.iter().any(|h| h.pointer.ends_with("clearance")),
        "{found:?}"
    );
}

#[test]
fn no_such_piece() {
    let doc = bench();
    let project = project(&doc);
    let model = Model::new(&project);
    let told = handles(&project, &model, KINDS, "x").unwrap_err();
    assert_eq!(told.pointer, "/piece");
    // Nothing measured, nothing to pull at.
    let mut doc = doc;
    doc["survey"]["readings"] = json!({});
    assert!(of(&doc, "b").is_empty());
}

/// Where the boards of a bed that changes meet, left to the tool, is pulled at too: over the middle one of its supports; typed there,
/// nothing moves, pulled to 200 further in the joint is there.
#[test]
fn a_joint_left_empty_is_pulled_at() {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["change"] = json!("slide");
    let found = of(&doc, "deck");
    let h = found.iter().find(|h| h.pointer.ends_with("/choices/joint"));
    let h = h.unwrap_or_else(|| panic!("{found:?}"));
    assert!(h.axis == 0 && (h.per - 1.0).abs() < 0.1, "{h:?}");
    // The boards in front of the joint begin there.
    let meets = |doc: &Value| {
        let p = plan(doc);
        let panels = p.boards.iter().filter(|b| b.role == "panel");
        let begins = panels.map(|b| ends(&p, 0, |id| id == b.id)[0]);
        begins.fold(0.0, f64::max)
    };
    let before = meets(&doc);
    assert!((before - h.value).abs() < 1.5, "{before} {h:?}");
    doc["modules"]["deck"]["choices"]["joint"] = json!(h.value);
    assert!((meets(&doc) - before).abs() < 0.6);
    doc["modules"]["deck"]["choices"]["joint"] = json!(h.value + 200.0);
    assert!((meets(&doc) - before - 200.0).abs() < 1.0);
}

/// Pulled it catches at what holds, by hand: a bench from 300 to 1200 in whose far end comes to a rib 1000 in when it is 700 long,
/// and to the near end of another bench at 1500 when it is 1200 long; moved as a whole it has an end at the rib at 100 and at 1000.
/// The wall is 700 out: its clearance before that.
#[test]
fn it_catches_at_what_holds() {
    let mut doc = bench();
    doc["survey"]["fixings"]["r"] =
        json!({"name": "rib", "kind": "rib", "at": [1000, 690, 300], "thread": "M8"});
    doc["modules"]["c"] = doc["modules"]["b"].clone();
    doc["modules"]["c"]["place"]["along"] = json!(1500);
    doc["modules"]["c"]["choices"]["width"] = json!(400);
    let found = of(&doc, "b");
    let values = |field: &str, what: &str| -> Vec<f64> {
        let own = found.iter().find(|h| h.pointer.ends_with(field)).unwrap();
        let here = own.catches.iter().filter(|c| c.what.contains(what));
        here.map(|c| c.value).collect()
    };
    let has = |all: &[f64], mm: f64, within: f64| all.iter().any(|v| (v - mm).abs() < within);
    assert!(
        has(&values("/choices/width", "rib"), 700.0, 0.2),
        "{found:?}"
    );
    assert!(has(&values("/choices/width", "of the bench"), 1200.0, 0.2));
    let along = values("/place/along", "rib");
    assert!(
        has(&along, 100.0, 0.2) && has(&along, 1000.0, 0.2),
        "{along:?}"
    );
    // What it is built of itself is nothing to catch at.
    let count = |h: &Handle| h.catches.len();
    let mut alone = doc.clone();
    alone["modules"].as_object_mut().unwrap().remove("c");
    alone["survey"]["fixings"] = json!({});
    let walls = of(&alone, "b");
    let along = walls.iter().find(|h| h.axis == 0).unwrap();
    assert_eq!(count(along), 0, "{along:?}");
    // Each leads there: the plan with the number has a board's face at the rib.
    let h = found
        .iter()
        .find(|h| h.pointer.ends_with("/choices/width"))
        .unwrap();
    let rib = h.catches.iter().find(|c| c.what == "rib").unwrap();
    let mut then = doc.clone();
    *then.pointer_mut(&h.pointer).unwrap() = json!(rib.value);
    let [_, far] = ends(&plan(&then), 0, |id| id.starts_with("b/"));
    assert!((far - 1000.0).abs() < 0.2, "{far}");
}
