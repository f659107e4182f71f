//! What rides on what moves: a drawer within a drawer, a face that drops down. Sizes by hand.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::furniture::built::Motion;
use jigfit_core::plan::Plan;
use jigfit_core::sweep::sweep;
use rstest::rstest;
use serde_json::{Value, json};

fn drawer(choices: Value, open: Value) -> Plan {
    let mut doc = bare();
    doc["states"] = json!({
        "drive": {"name": "drive", "order": 0, "open": {}},
        "day": {"name": "day", "order": 1, "open": open},
    });
    let mut all = json!({"width": 450, "depth": 600, "height": 200});
    for (k, v) in choices.as_object().unwrap() {
        all[k] = v.clone();
    }
    doc["modules"]["d"] = json!({"kind": "drawer", "name": "Drawer",
        "place": {"along": 25, "across": "centred"}, "choices": all});
    plan(&doc)
}

fn size(p: &Plan, id: &str) -> (f64, f64) {
    board(p, id).outline.size()
}

/// Bay less two slides is the outer one, what is clear in that less two slides the inner one (common practice, no source).
/// By hand: 450 - 30 = 420; less 25.4 and 0.4 of finish 394.2; less two sides of 12: 370.2; less 25.8: 344.4; its front
/// between its own sides 320.4. The face covers the carcass as without: 420 + 26 by 170 + 26.
#[test]
fn widths_come_off_twice() {
    let p = drawer(json!({"inner": "nested"}), json!({}));
    assert!((size(&p, "d/outer-carcass-top").1 - 394.2).abs() < 1e-6);
    assert!((size(&p, "d/box-front").0 - 320.4).abs() < 1e-6);
    let face = size(&p, "d/face");
    assert!(
        (face.0 - 446.0).abs() < 1e-6 && (face.1 - 196.0).abs() < 1e-6,
        "{face:?}"
    );
    // As deep: 600 - 15 - 15 - 10 = 560; less a back of 12 and 10 of air, 538.
    assert!((size(&p, "d/outer-carcass-right").0 - 560.0).abs() < 1e-6);
    assert!((size(&p, "d/box-right").0 - 538.0).abs() < 1e-6);
    let slides = p
        .hardware
        .iter()
        .filter(|h| h.what.starts_with("pair of slides"));
    assert_eq!(slides.map(|h| h.count).sum::<u32>(), 2);
}

/// The inner one goes where the outer one goes, and from there on by itself.
#[test]
fn it_rides_along() {
    let shut = drawer(json!({"inner": "nested"}), json!({}));
    let both = drawer(
        json!({"inner": "nested"}),
        json!({"d/outer": 1, "d/drawer": 0.5}),
    );
    let at = |p: &Plan, id: &str| ends(board(p, id), "day").0[0];
    let moved = |id: &str| at(&shut, id) - at(&both, id);
    assert!((moved("d/outer-carcass-back") - 560.0).abs() < 1e-6);
    assert!((moved("d/box-back") - (560.0 + 269.0)).abs() < 1e-6);
    assert!(moved("d/carcass-top").abs() < 1e-9);
    let words: Vec<&str> = both.evening.moves[0]
        .steps
        .iter()
        .map(|s| s.words.as_str())
        .collect();
    assert_eq!(words.len(), 2);
    for body in ["d/outer", "d/drawer"] {
        assert_eq!(
            level(&both, &format!("moves.{body}")),
            Some(Severity::Fine),
            "{body}"
        );
    }
}

/// What lies in the inner one is pulled with the outer one too.
#[test]
fn the_outer_one_carries_the_load() {
    let mut doc = bare();
    doc["gear"] = json!({"case": {"name": "Case", "w": 250, "d": 300, "h": 80, "mass": 20}});
    doc["modules"]["d"] = json!({"kind": "drawer", "name": "Drawer",
        "place": {"along": 25, "across": "centred"},
        "choices": {"width": 450, "depth": 600, "height": 200, "inner": "nested"}});
    let p = plan(&doc);
    for body in ["d/outer", "d/drawer"] {
        let f = finding(&p, &format!("pull.{body}")).unwrap();
        assert!(f.sentence.contains("20 kg"), "{}", f.sentence);
    }
}

/// A face that drops: its lower outer edge stays where it is, and it lies level before that; the box is low in front.
#[rstest]
#[case("overlay", 196.0)]
#[case("inset", 166.0)]
fn a_face_that_drops(#[case] face: &str, #[case] high: f64) {
    let p = drawer(
        json!({"front": "drops", "face": face}),
        json!({"d/drawer-face": 1}),
    );
    let (low, top) = ends(board(&p, "d/face"), "drive");
    let (down, up) = ends(board(&p, "d/face"), "day");
    assert!((top[2] - low[2] - high).abs() < 1e-6);
    assert!((up[0] - low[0]).abs() < 1e-6 && (down[2] - low[2]).abs() < 1e-6);
    assert!((up[2] - down[2] - 15.0).abs() < 1e-6 && (up[0] - down[0] - high).abs() < 1e-6);
    assert!((size(&p, "d/box-front").1 - 50.0).abs() < 1e-6);
    let body = p.modules[0]
        .bodies
        .iter()
        .find(|b| b.id == "d/drawer-face")
        .unwrap();
    assert!(matches!(body.motion, Motion::Turn { most, .. } if most == 90.0));
    assert_eq!(body.parent.as_deref(), Some("d/drawer"));
    // Down it rides with the drawer.
    let out = drawer(
        json!({"front": "drops", "face": face}),
        json!({"d/drawer-face": 1, "d/drawer": 1}),
    );
    let (far, _) = ends(board(&out, "d/face"), "day");
    let travel = 600.0 - 15.0 - 15.0 - 10.0;
    assert!(
        (down[0] - far[0] - travel).abs() < 1e-6,
        "{}",
        down[0] - far[0]
    );
}

/// What cannot go together is refused at the choice.
#[rstest]
#[case(json!({"inner": "nested", "motion": "strips"}))]
#[case(json!({"inner": "nested", "table": 15}))]
fn refused(#[case] choices: Value) {
    let mut doc = bare();
    doc["modules"]["d"] = json!({"kind": "drawer", "choices": choices});
    let problem = jigfit_core::furniture::read(doc).unwrap_err();
    assert_eq!(problem.pointer, "/modules/d/choices/inner", "{problem}");
}

/// All the way of a drawer with a face that drops, drawn: out by its 560, and the face, 196 high, lies before it; each body by
/// itself, so no more.
#[test]
fn all_its_way_is_drawn() {
    let p = drawer(json!({"front": "drops"}), json!({}));
    let all = sweep(&p.boards, &p.modules[0]);
    let (low, _) = ends(board(&p, "d/face"), "drive");
    let least = |k: usize, shapes: &[jigfit_core::projection::Shape]| {
        let points = shapes.iter().flat_map(|s| &s.outline.outer);
        points.map(|q| q[k]).fold(f64::INFINITY, f64::min)
    };
    assert!((least(0, &all.above) - (low[0] - 560.0)).abs() < 1e-6);
    let face: Vec<_> = all
        .side
        .iter()
        .filter(|s| s.board == "d/face")
        .cloned()
        .collect();
    // Four places of the drawer, six of the face as it drops.
    assert_eq!(face.len(), 4 + 6);
    // Nothing of the carcass moves.
    assert!(all.above.iter().all(|s| !s.board.contains("carcass")));
}
