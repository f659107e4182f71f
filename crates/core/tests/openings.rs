//! What comes through which door. Figures by hand.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::geometry::pass::{best_way, through, turned_in};
use jigfit_core::project::survey::{OpeningDim, Quantity, REAR};
use jigfit_core::survey::model::Model;
use rstest::rstest;
use serde_json::{Value, json};

fn width(id: &str, z: f64) -> Value {
    json!({"of": "opening", "dim": "width", "id": id, "z": z})
}

/// 1200 wide at the floor, 1150 at 700 up, 800 at the top, 1100 high.
fn barn() -> Value {
    let mut doc = box_van();
    doc["survey"]["openings"]["rear"] = json!({"name": "rear opening", "heights": [700.0]});
    doc["survey"]["readings"]["r02"] = reading(json!({"of": "opening", "dim": "width_top"}), "800");
    doc["survey"]["readings"]["rw"] = reading(width("rear", 700.0), "1150");
    doc
}

fn near(a: &[(f64, f64)], b: &[(f64, f64)]) {
    assert_eq!(a.len(), b.len(), "{a:?}");
    for (p, q) in a.iter().zip(b) {
        let off = (p.0 - q.0).abs().max((p.1 - q.1).abs());
        assert!(off < 0.1, "{a:?} is not {b:?}");
    }
}

#[test]
fn an_outline_leaves_several_rectangles() {
    let model = Model::new(&project(&barn()));
    near(
        &model.opening_outline(REAR).unwrap(),
        &[(0.0, 1200.0), (700.0, 1150.0), (1100.0, 800.0)],
    );
    // Low and wide, or all the height and narrow; between 700 and the top nothing better.
    near(
        &model.ways_through(REAR, 0.0),
        &[(1150.0, 700.0), (800.0, 1100.0)],
    );
    near(
        &model.ways_through(REAR, 6.0),
        &[(1144.0, 694.0), (794.0, 1094.0)],
    );
    let (w, h) = model.opening().unwrap();
    assert!((w - 800.0).abs() < 0.1 && (h - 1100.0).abs() < 0.1);
}

/// A door that is widest half way up: what is carried over the sill passes there.
#[test]
fn a_narrow_foot_does_not_count_half_way_up() {
    let mut doc = barn();
    doc["survey"]["readings"]["r01"] =
        reading(json!({"of": "opening", "dim": "width_floor"}), "700");
    let model = Model::new(&project(&doc));
    near(
        &model.ways_through(REAR, 0.0),
        &[(700.0, 1100.0), (800.0, 400.0)],
    );
}

#[test]
fn what_was_not_measured_is_as_wide_as_next_to_it() {
    let mut doc = barn();
    for r in ["r01", "r02"] {
        doc["survey"]["readings"].as_object_mut().unwrap().remove(r);
    }
    let model = Model::new(&project(&doc));
    near(&model.ways_through(REAR, 0.0), &[(1150.0, 1100.0)]);
    doc["survey"]["readings"]
        .as_object_mut()
        .unwrap()
        .remove("r03");
    let model = Model::new(&project(&doc));
    assert!(model.ways_through(REAR, 0.0).is_empty(), "no height");
}

/// The deck is about 1390 x 1990: through 600 x 1100 it comes neither upright nor turned
/// (the diagonal is 1253), through a side door of 1500 x 900 it does.
#[rstest]
#[case(None, false, Severity::Stop, "does not come through")]
#[case(Some(2100.0), false, Severity::Look, "by the side door straight")]
#[case(Some(2100.0), true, Severity::Look, "a seat moved first")]
#[case(Some(900.0), false, Severity::Stop, "does not come through")]
fn another_door_may_do(
    #[case] depth: Option<f64>,
    #[case] seat: bool,
    #[case] level: Severity,
    #[case] words: &str,
) {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["split"] = json!("whole");
    for (r, dim) in [("r01", "width_floor"), ("r02", "width_top")] {
        doc["survey"]["readings"][r] = reading(json!({"of": "opening", "dim": dim}), "600");
    }
    if let Some(depth) = depth {
        doc["survey"]["openings"]["side"] =
            json!({"name": "side door", "depth": depth, "seat_first": seat});
        for (dim, typed) in [("width_floor", "1500"), ("height", "900")] {
            doc["survey"]["readings"][format!("s{dim}")] =
                reading(json!({"of": "opening", "dim": dim, "id": "side"}), typed);
        }
    }
    let plan = plan(&doc);
    let found = finding(&plan, "door.deck").unwrap();
    assert_eq!(found.level, level, "{}", found.sentence);
    assert!(found.sentence.contains(words), "{}", found.sentence);
}

#[test]
fn outlines_are_asked_for() {
    let mut doc = barn();
    doc["survey"]["readings"]
        .as_object_mut()
        .unwrap()
        .remove("rw");
    doc["survey"]["openings"]["side"] = json!({"name": "side door", "heights": [450.0]});
    let plan = plan(&doc);
    let ask = |key: &str| plan.asks.iter().find(|a| a.key == key);
    let rear = ask("opening.width.700").unwrap();
    assert!(rear.needed && rear.prompt == "Rear opening, width 700 mm over the floor");
    // Other doors are offered: nothing waits for them.
    assert!(!ask("opening.side.width.450").unwrap().needed);
}

#[rstest]
#[case("opening.width.700", REAR, Some(700.0))]
#[case("opening.side.width.450", "side", Some(450.0))]
#[case("opening.height", REAR, None)]
#[case("opening.side.widthfloor", "side", None)]
fn keys_of_openings_read_back(#[case] key: &str, #[case] of: &str, #[case] at: Option<f64>) {
    let q = Quantity::from_key(key).unwrap();
    assert_eq!(q.key(), key);
    let Quantity::Opening { id, z, dim } = q else {
        panic!()
    };
    assert_eq!((id.as_str(), z), (of, at));
    assert_eq!(dim == OpeningDim::Width, at.is_some());
}

#[rstest]
#[case(json!({"of": "opening", "dim": "width"}), "z")]
#[case(json!({"of": "opening", "dim": "height", "z": 300.0}), "z")]
#[case(json!({"of": "opening", "dim": "width", "z": 9000.0}), "z")]
#[case(json!({"of": "opening", "dim": "height", "id": "none"}), "id")]
fn impossible_openings_name_the_field(#[case] quantity: Value, #[case] field: &str) {
    let mut doc = box_van();
    doc["survey"]["readings"]["bad"] = reading(quantity, "700");
    let problem = jigfit_core::furniture::read(doc).unwrap_err();
    assert_eq!(
        problem.pointer,
        format!("/survey/readings/bad/quantity/{field}")
    );
}

#[test]
fn heights_of_an_outline_have_limits() {
    let mut doc = box_van();
    doc["survey"]["openings"]["rear"] = json!({"name": "rear", "heights": [300.0, -5.0]});
    let problem = jigfit_core::furniture::read(doc.clone()).unwrap_err();
    assert_eq!(problem.pointer, "/survey/openings/rear/heights/1");
    doc["survey"]["openings"]["rear"]["heights"] = json!(vec![300.0; 21]);
    let problem = jigfit_core::furniture::read(doc).unwrap_err();
    assert_eq!(problem.pointer, "/survey/openings/rear/heights");
}

/// The rear opening is 1200 wide at the floor, 1150 at 700 up and 800 at the top, 1100 high: no upright rectangle in it holds a board
/// of 1430 (the better diagonals are 1360 and 1346), but from a lower corner to the opposite upper one there are, by hand,
/// hypot(600 + 400, 1100) = 1486, less the doubt and the corners of a board 15 thick.
#[rstest]
#[case(1430.0, true)]
#[case(1500.0, false)]
fn a_board_goes_from_corner_to_corner_of_the_outline(#[case] wide: f64, #[case] goes: bool) {
    let model = Model::new(&project(&barn()));
    let dims = [wide, 1900.0, 15.0];
    let depth = model.length(0.0);
    assert!(best_way(dims, &model.ways_through(REAR, 6.0), depth).is_none());
    let deg = model.turned_through(REAR, 6.0, dims, depth);
    assert_eq!(deg.is_some(), goes, "{deg:?}");
    if let Some(deg) = deg {
        // The longest line lies at atan(1100 / 1000) = 47.7 degrees; a shorter board has a range of angles about it.
        assert!((deg - 47.7).abs() < 10.0, "{deg}");
    }
}

/// In a rectangle the outline says the same as the published inequality (Carver 1957), which another function works out.
#[test]
fn in_a_rectangle_both_rules_agree() {
    for p in [900.0, 1200.0, 1300.0, 1400.0, 1500.0, 1559.0, 1570.0] {
        for q in [9.0, 18.0, 200.0, 500.0] {
            let ring = [
                [-600.0, 0.0],
                [600.0, 0.0],
                [600.0, 1000.0],
                [-600.0, 1000.0],
            ];
            // Half a degree of 1500 is 7 mm across: what passes by less may be missed, what does not never passes.
            let clearly = through((p, q), (1190.0, 990.0)).is_some();
            let at_all = through((p, q), (1200.0, 1000.0)).is_some();
            let found = turned_in((p, q), &ring).is_some();
            assert!(!clearly || found, "{p} {q}");
            assert!(!found || at_all, "{p} {q}");
        }
    }
}
