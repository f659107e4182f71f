//! From readings to the bay: what is asked, what disagrees, what is between.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

mod common;

use common::*;
use jigfit_core::checks::Severity;
use jigfit_core::project::survey::Side;
use jigfit_core::project::{Project, Units, VehicleKind};
use jigfit_core::survey::model::Model;
use jigfit_core::survey::protocol::Target;
use rstest::rstest;
use serde_json::json;

#[test]
fn an_empty_project_asks_for_the_length_first() {
    let empty = Project::start("New", VehicleKind::Van, Units::default());
    let plan = jigfit_core::plan::solve(&empty);
    assert_eq!(plan.asks[0].key, "length.0");
    assert!(plan.decks.is_empty() && plan.parts.is_empty() && plan.ladder.is_none());
    assert_eq!(plan.stages[0].state, "needs");
}

/// Answering what is asked, one after the other, leads to a finished survey for every kind of
/// vehicle in a bearable number of readings.
#[rstest]
#[case(VehicleKind::Van)]
#[case(VehicleKind::Estate)]
#[case(VehicleKind::Pickup)]
#[case(VehicleKind::BoxTrailer)]
#[case(VehicleKind::Caravan)]
#[case(VehicleKind::Boat)]
fn the_protocol_ends(#[case] kind: VehicleKind) {
    let mut doc = Project::start("New", kind, Units::default())
        .to_json()
        .unwrap();
    let mut taken = 0;
    loop {
        let plan = plan(&doc);
        let Some(ask) = plan.asks.iter().find(|a| a.stage == "survey" && a.needed) else {
            break;
        };
        let Target::Reading { quantity, .. } = &ask.target else {
            panic!()
        };
        let typed = match &ask.key {
            k if k.starts_with("length") => "1900",
            k if k.starts_with("wall") => "650",
            k if k.starts_with("thing") => "210",
            k if k.starts_with("roof") => "1150",
            _ => "1100",
        };
        doc["survey"]["readings"][format!("r{taken}")] =
            json!({"quantity": quantity, "typed": typed, "unit": "mm"});
        taken += 1;
        assert!(taken < 60, "still asking: {}", ask.prompt);
    }
    assert!((12..=40).contains(&taken), "{taken} readings");
    assert!(!plan(&doc).survey.bays.is_empty());
}

#[test]
fn what_cannot_be_reached_is_not_asked_again() {
    let mut doc = Project::start("New", VehicleKind::Van, Units::default())
        .to_json()
        .unwrap();
    doc["survey"]["skipped"]["length.0"] = json!("cannot be reached");
    assert_ne!(plan(&doc).asks[0].key, "length.0");
}

/// By hand: walls 700 at the floor and 600 at 400 up, so 650 at 200; 700 and 740 at 0 and 1000
/// along, so 710 at 250.
#[test]
fn walls_are_linear_between_heights_and_stations() {
    let mut doc = box_van();
    for x in [0.0, 1000.0, 2000.0] {
        doc["survey"]["readings"][format!("up{x}")] = reading(wall("left", x, 400.0), "600");
    }
    doc["survey"]["readings"]["r07"] = reading(wall("left", 1000.0, 0.0), "740");
    let model = Model::new(&project(&doc));
    let at = |x, z| model.wall(Side::Left, x, z).unwrap().0;
    assert!((at(0.0, 200.0) - 650.0).abs() < 1e-9);
    assert!((at(250.0, 0.0) - 710.0).abs() < 1e-9);
    // Beyond the highest measured the wall is held, and the bay says so.
    assert!((at(0.0, 900.0) - 600.0).abs() < 1e-9);
    assert!(model.bay(900.0).unwrap().held.is_some());
    // The right side is not mirrored from the left.
    assert!((model.wall(Side::Right, 0.0, 200.0).unwrap().0 - 700.0).abs() < 1e-9);
}

/// A repeat that differs by more than three times its noise is a finding; within it is not.
#[rstest]
#[case("703.5", true)]
#[case("702.5", false)]
fn repeats(#[case] typed: &str, #[case] disagrees: bool) {
    let mut doc = box_van();
    doc["survey"]["readings"]["again"] = reading(wall("left", 1000.0, 0.0), typed);
    let p = plan(&doc);
    assert_eq!(level(&p, "repeat.wall.left.1000.0").is_some(), disagrees);
    if disagrees {
        // Setting one aside settles it.
        doc["survey"]["readings"]["again"]["aside"] = json!(true);
        assert!(finding(&plan(&doc), "repeat.").is_none());
    }
}

#[test]
fn of_three_readings_the_odd_one_is_named() {
    let mut doc = box_van();
    doc["survey"]["readings"]["b"] = reading(wall("left", 1000.0, 0.0), "700.5");
    doc["survey"]["readings"]["c"] = reading(wall("left", 1000.0, 0.0), "725");
    let p = plan(&doc);
    let f = finding(&p, "repeat.").unwrap();
    assert!(f.sentence.contains("725"), "{}", f.sentence);
    assert_eq!(f.offers.len(), 1);
    assert!(
        f.offers[0].patch[0]["path"]
            .as_str()
            .unwrap()
            .contains("/c/")
    );
}

/// 700 + 700 against a wall to wall of 1425: one of the three is out by 25.
#[test]
fn wall_to_wall_checks_left_plus_right() {
    let mut doc = box_van();
    doc["survey"]["readings"]["w"] = reading(json!({"of": "width", "x": 1000, "z": 0}), "1403");
    assert!(finding(&plan(&doc), "across.").is_none());
    doc["survey"]["readings"]["w"]["typed"] = json!("1425");
    assert_eq!(level(&plan(&doc), "across."), Some(Severity::Stop));
}

/// Noise falls with the root of the number of readings (law of the mean).
#[test]
fn repeats_make_a_reading_surer() {
    let mut doc = box_van();
    for i in 0..3 {
        doc["survey"]["readings"][format!("again{i}")] = reading(wall("left", 1000.0, 0.0), "700");
    }
    let model = Model::new(&project(&doc));
    let sd = model.wall(Side::Left, 1000.0, 0.0).unwrap().1;
    assert!((sd - 0.5).abs() < 1e-9);
}

#[test]
fn a_lining_is_soft() {
    let mut doc = box_van();
    doc["survey"]["readings"]["r04"]["soft"] = json!(true);
    let p = plan(&doc);
    assert_eq!(level(&p, "soft-roof"), Some(Severity::Look));
    assert!(p.ladder.unwrap().soft);
}

#[test]
fn inches_and_millimetres_meet() {
    let mut doc = box_van();
    // 27 9/16 in is 700.0875 mm.
    doc["survey"]["readings"]["again"] =
        json!({"quantity": wall("left", 1000.0, 0.0), "typed": "27 9/16", "unit": "in"});
    let p = plan(&doc);
    assert!(finding(&p, "repeat.").is_none());
    let mark = p
        .survey
        .marks
        .iter()
        .find(|m| m.key == "wall.left.1000.0")
        .unwrap();
    assert_eq!(mark.readings.len(), 2);
    assert!((mark.figure.value - 700.04375).abs() < 1e-9);
}

#[test]
fn crossed_walls_and_lone_readings_do_not_break_the_plan() {
    let mut doc = box_van();
    doc["survey"]["readings"]["r05"]["typed"] = json!("0");
    doc["survey"]["readings"]["r06"]["typed"] = json!("0");
    let _ = plan(&doc);
    for key in ["r07", "r08", "r09", "r10"] {
        doc["survey"]["readings"][key]["typed"] = json!("0");
    }
    let p = plan(&doc);
    assert!(p.decks.is_empty());
}
