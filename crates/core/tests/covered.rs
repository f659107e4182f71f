//! Carpet or foam on the edges of a piece, and edges along walls that lean: by hand.

use crate::common::*;
use jigfit_core::furniture::built::Vec3;
use jigfit_core::furniture::read;
use jigfit_core::plan::Plan;
use rstest::rstest;
use serde_json::{Value, json};

/// The box round all boards of `m`.
fn extent(p: &Plan) -> (Vec3, Vec3) {
    let own = p.boards.iter().filter(|b| b.id.starts_with("m/"));
    let mut out = ([f64::INFINITY; 3], [f64::NEG_INFINITY; 3]);
    for b in own {
        let (low, high) = ends(b, "drive");
        for k in 0..3 {
            (out.0[k], out.1[k]) = (out.0[k].min(low[k]), out.1[k].max(high[k]));
        }
    }
    out
}

fn with(kind: &str, across: &str, covers: Value) -> Value {
    let mut doc = bare();
    doc["modules"]["m"] = json!({"kind": kind, "place": {"along": 100, "across": across}, "covers": covers, "choices": {}});
    doc
}

/// What covers the edge along a wall keeps the piece so much further off it, and off no other.
#[rstest]
#[case("box_seat", "left_wall", "left", 1)]
#[case("box_seat", "right_wall", "right", 1)]
#[case("cabinet", "left_wall", "left", 1)]
#[case("shelves", "right_wall", "right", 1)]
#[case("locker", "left_wall", "left", 1)]
fn a_cover_keeps_it_off_its_wall(
    #[case] kind: &str,
    #[case] across: &str,
    #[case] own: &str,
    #[case] axis: usize,
) {
    let bare = extent(&plan(&with(kind, across, json!({}))));
    let other = if own == "left" { "right" } else { "left" };
    let same = extent(&plan(&with(kind, across, json!({other: 20}))));
    let covered = extent(&plan(&with(kind, across, json!({own: 20}))));
    let at = |e: &(Vec3, Vec3)| if own == "left" { e.1[axis] } else { -e.0[axis] };
    assert!(at(&bare) > 600.0, "{bare:?}");
    assert!((at(&bare) - at(&same)).abs() < 1e-6);
    assert!(
        (at(&bare) - at(&covered) - 20.0).abs() < 1e-6,
        "{bare:?} {covered:?}"
    );
}

/// A bay 2000 long: a box 800 long from 1190 ends 10 before the front, which is enough without a cover and not with one of
/// 20; from 1168 it ends 32 before it, 12 before the cover.
#[rstest]
#[case(1190, 0, true)]
#[case(1190, 20, false)]
#[case(1168, 20, true)]
fn a_cover_at_the_front_wants_its_room(
    #[case] along: u32,
    #[case] front: u32,
    #[case] stands: bool,
) {
    let mut doc = with("box_seat", "left_wall", json!({"front": front}));
    doc["modules"]["m"]["place"]["along"] = json!(along);
    doc["modules"]["m"]["choices"] = json!({"length": 800, "height": 280});
    let p = plan(&doc);
    let own = p.boards.iter().any(|b| b.id.starts_with("m/"));
    assert_eq!(own, stands);
}

#[rstest]
#[case("box_seat", json!({"left": 51}), "/modules/m/covers/left")]
#[case("box_seat", json!({"front": -1}), "/modules/m/covers/front")]
#[case("box_seat", json!({"rear": 3}), "/modules/m/covers")]
#[case("deck", json!({"left": 3}), "/modules/m/covers")]
fn what_cannot_cover_is_named(#[case] kind: &str, #[case] covers: Value, #[case] at: &str) {
    let problem = read(with(kind, "left_wall", covers)).unwrap_err();
    assert!(problem.pointer.starts_with(at), "{problem:?}");
}

/// It is chosen in the form, and found by name at the command line.
#[test]
fn covers_are_chosen() {
    let mut doc = bare();
    let (id, module) = add(
        &mut doc,
        "cabinet",
        &[("across", "left_wall"), ("covers.left", "8")],
    )
    .unwrap();
    assert_eq!(module.covers.left, 8.0);
    let p = plan(&doc);
    let form = &p.modules.iter().find(|m| m.id == id).unwrap().form;
    for edge in ["left", "right", "front"] {
        let at = format!("/modules/{id}/covers/{edge}");
        assert!(form.iter().any(|f| f.pointer == at), "{at}");
    }
}

/// A wall that leans by 60 over 300, by hand: arctan(0.2) = 11.3 degrees, 3 mm over a board of 15. The bottom of a box that
/// is cut to it may be sawn tilted, its upper face the larger one where it leans out; where the wall is upright nothing is
/// said, and nothing of its ends, which stand across a wall that is straight forward.
#[rstest]
#[case("760", Some("upper"))]
#[case("640", Some("lower"))]
#[case("700", None)]
fn a_box_at_a_leaning_wall_may_be_tilted(#[case] above: &str, #[case] larger: Option<&str>) {
    let mut doc = with("box_seat", "left_wall", json!({}));
    doc["modules"]["m"]["choices"] = json!({"height": 280, "thickness": 15});
    for r in doc["survey"]["readings"]
        .as_object_mut()
        .unwrap()
        .values_mut()
    {
        if r["quantity"]["of"] == "wall" && r["quantity"]["z"] == 300.0 {
            r["typed"] = json!(above);
        }
    }
    let p = plan(&doc);
    let own = p.parts.iter().filter(|q| q.module == "m");
    let tilted: Vec<_> = own.filter(|q| !q.bevels.is_empty()).collect();
    let names: Vec<&str> = tilted.iter().map(|q| q.name.as_str()).collect();
    let Some(larger) = larger else {
        assert!(names.is_empty(), "{names:?}");
        return;
    };
    assert!(names.contains(&"box seat, bottom"), "{names:?}");
    assert!(names.iter().all(|n| !n.contains("end")), "{names:?}");
    for part in tilted {
        for b in &part.bevels {
            assert_eq!((b.deg, b.larger.as_str()), (11.0, larger));
        }
        let told = part.then.iter().find(|t| t.contains("tilt the saw 11°"));
        let open = told.unwrap().split("sawn square ").nth(1).unwrap();
        let open: f64 = open.split(' ').next().unwrap().parse().unwrap();
        assert!((open - 3.0).abs() <= 0.1, "{told:?}");
    }
}
