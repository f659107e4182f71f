//! What a hand takes hold of: holes of 32 mm, two of them joined for a slot (common practice, no source).

use crate::common::*;
use jigfit_core::furniture::Site;
use jigfit_core::furniture::built::{Board, Pose};
use jigfit_core::furniture::kit::grip::Grip;
use jigfit_core::geometry::region::Region;
use jigfit_core::parts::Part;
use jigfit_core::plan::Plan;
use jigfit_core::project::Project;
use jigfit_core::survey::model::Model;
use rstest::rstest;
use serde_json::{Value, json};
use std::collections::BTreeMap;

fn with(kind: &str, choices: Value) -> Plan {
    let mut doc = box_van();
    doc["modules"] = json!({"m": {"kind": kind, "choices": choices}});
    plan(&doc)
}

fn part<'a>(p: &'a Plan, words: &str) -> &'a Part {
    p.parts.iter().find(|q| q.name.ends_with(words)).unwrap()
}

/// A hole: its middle and how wide it is.
type Round = ([f64; 2], f64);

/// Middles and widths of its holes, and the sizes of its windows.
fn cut(part: &Part) -> (Vec<Round>, Vec<[f64; 2]>) {
    let own = |kind: &str| {
        part.features
            .iter()
            .filter(move |f| f.kind == kind)
            .collect()
    };
    let (holes, windows): (Vec<_>, Vec<_>) = (own("hole"), own("window"));
    (
        holes
            .iter()
            .map(|f| (f.at, f.diameter.as_ref().unwrap().value))
            .collect(),
        windows
            .iter()
            .map(|f| f.size.as_ref().map(|(u, v)| [u.value, v.value]).unwrap())
            .collect(),
    )
}

/// By hand: a lid 700 long is slotted in its middle, 50 from the edge that opens: two holes 70 apart, 32 by 70 sawn out between. What
/// is gone is that window and one whole circle.
#[test]
fn a_slot_in_a_lid() {
    let of = |grip: &str| {
        let set = json!({"length": 700, "depth": 420, "height": 300, "grip": grip});
        let mut doc = box_van();
        doc["modules"] = json!({"m": {"kind": "box_seat", "choices": set,
            "place": {"along": 100, "across": "left_wall"}}});
        plan(&doc)
    };
    let (slot, plain) = (of("slot"), of("handle"));
    let (a, b) = (part(&slot, "lid"), part(&plain, "lid"));
    let (holes, windows) = cut(a);
    let mut along: Vec<f64> = holes.iter().map(|h| h.0[0]).collect();
    along.sort_by(f64::total_cmp);
    assert_eq!(along, [315.0, 385.0]);
    let deep = a.h.value;
    // At the left wall the lid opens from the right: its free edge is the lower one in plan.
    assert!(
        holes
            .iter()
            .all(|h| (h.0[1] - 50.0).abs() < 0.6 && h.1 == 32.0),
        "{holes:?} of {deep}"
    );
    assert_eq!(windows, [[70.0, 32.0]]);
    let gone = b.outline.area() - a.outline.area();
    let by_hand = 70.0 * 32.0 + std::f64::consts::PI * 16.0 * 16.0;
    assert!((gone - by_hand).abs() < 0.02 * by_hand, "{gone} {by_hand}");
    assert!(cut(b).0.is_empty());
}

/// A hand reaches through a drawer's face and the front of its box: the slots lie behind each other, and no handle is bought.
#[rstest]
#[case("slot", 2)]
#[case("hole", 1)]
fn through_face_and_front(#[case] grip: &str, #[case] n: usize) {
    let p = with(
        "drawer",
        json!({"width": 450, "depth": 600, "height": 250, "grip": grip}),
    );
    let at = |words: &str| -> Vec<[f64; 3]> {
        let q = part(&p, words);
        let board = p.boards.iter().find(|b| q.boards.contains(&b.id)).unwrap();
        let (holes, _) = cut(q);
        let pose = board.poses.values().next().unwrap();
        let mut all: Vec<_> = holes.iter().map(|h| pose.at(h.0[0], h.0[1], 0.0)).collect();
        all.sort_by(|a, b| a[1].total_cmp(&b[1]));
        all
    };
    let marked = |v: f64| (v - v.round()).abs() < 1e-9;
    for q in ["drawer, face", "drawer, front"] {
        let (holes, _) = cut(part(&p, q));
        assert!(holes.iter().flat_map(|h| h.0).all(marked), "{q}: {holes:?}");
    }
    let (face, front) = (at("drawer, face"), at("drawer, front"));
    assert_eq!((face.len(), front.len()), (n, n));
    for (a, b) in face.iter().zip(&front) {
        assert!(
            (a[1] - b[1]).abs() < 1.1 && (a[2] - b[2]).abs() < 1.1,
            "{a:?} {b:?}"
        );
    }
    let handle = |p: &Plan| p.hardware.iter().any(|h| h.what == "handle");
    assert!(!handle(&p));
    assert!(handle(&with("drawer", json!({}))));
}

/// A door opens at the edge it does not hang on.
#[test]
fn doors_at_their_free_edge() {
    let of = |width: f64| {
        with(
            "cabinet",
            json!({"width": width, "height": 450, "rows": 1, "front": "doors", "grip": "slot"}),
        )
    };
    let p = of(600.0);
    let door = part(&p, "door");
    let (holes, _) = cut(door);
    let from_edge = |h: &Round| h.0[0].min(door.w.value - h.0[0]);
    assert!(holes.len() == 2 && holes.iter().all(|h| (from_edge(h) - 50.0).abs() < 0.6));
    assert!(door.then.iter().any(|t| t.starts_with("hand slot")));
}

/// Round a slot of 102 by 32 stay 15 mm of wood: 132 by 62. A board a millimetre smaller either way is left as it is.
#[rstest]
#[case([132.5, 62.5], true)]
#[case([131.0, 62.5], false)]
#[case([132.5, 61.0], false)]
fn no_slot_without_wood(#[case] size: [f64; 2], #[case] goes: bool) {
    let shape = Region::rectangle(0.0, 0.0, size[0], size[1]);
    let mut board = Board::new("b", "lid", "B", shape, Pose::level(0.0));
    let project: Project = serde_json::from_value(box_van()).unwrap();
    let (model, claims) = (Model::new(&project), BTreeMap::new());
    let site = Site {
        project: &project,
        model: &model,
        id: "m",
        claims: &claims,
        w: project.writer(),
    };
    let at = [size[0] / 2.0, size[1] / 2.0];
    assert_eq!(Grip::Slot.cut(&mut board, at, true, &site), goes);
    assert_eq!(board.holes.len(), if goes { 2 } else { 0 });
    assert_eq!(board.then.is_empty(), !goes);
}
