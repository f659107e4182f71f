//! Hostile input: every leaf of every valid input in turn replaced by something it should not be.
//! Nothing may panic, and what is answered is made of numbers.

use crate::common::*;
use jigfit_core::compute;
use jigfit_core::plan::solve;
use proptest::prelude::*;
use rstest::rstest;
use serde_json::{Value, json};

fn poisons() -> Vec<Value> {
    vec![
        Value::Null,
        json!(true),
        json!(0),
        json!(-1),
        json!(-0.0),
        json!(1e-300),
        json!(1e308),
        json!(-1e308),
        json!(u64::MAX),
        json!(i64::MIN),
        json!(""),
        json!("NaN"),
        json!("\u{0}\u{202e}💥"),
        json!([]),
        json!({}),
        json!([[[]]]),
        json!({"": {"": ""}}),
        json!([1, "two", null]),
    ]
}

/// Pointers of every value below the top.
fn places(v: &Value, at: &str, out: &mut Vec<String>) {
    let mut go = |key: String, v: &Value| {
        let here = format!("{at}/{}", key.replace('~', "~0").replace('/', "~1"));
        out.push(here.clone());
        places(v, &here, out);
    };
    match v {
        Value::Array(items) => items
            .iter()
            .enumerate()
            .for_each(|(i, v)| go(i.to_string(), v)),
        Value::Object(map) => map.iter().for_each(|(k, v)| go(k.clone(), v)),
        _ => {}
    }
}

fn valid(name: &str) -> Value {
    match name {
        "tape" => json!({"entries": ["23 3/16", "7' 2 1/2\""], "unit": "in", "denominator": 16}),
        "heights" => {
            json!({"floor_to_roof": 1180, "deck": 18, "mattress": {"thickness": 100, "sag": 20}, "finish": 2,
            "head_clearance": 5, "gear": [{"name": "a", "h": 200, "lid_clearance": 10}],
            "people": [{"name": "p", "stature": 1700, "sitting_height": null}]})
        }
        "pass" => {
            json!({"panel": [1400, 900], "thickness": 18, "opening": [1200, 800], "depth_behind": 1500, "clear": 2})
        }
        "beam" => {
            json!({"spans": [600, 500], "width": 400, "thickness": 18, "material": "birch-ply", "grain": "along",
            "loads": [{"kind": "uniform", "n_per_mm": 0.5, "from": 0, "to": 900}, {"kind": "point", "n": 800, "at": 300}], "moisture": "dry"})
        }
        "outline" => json!({"bay": {"outer": [[0,0],[2000,10],[1990,1400],[5,1380]], "holes": []},
            "obstacles": [{"outer": [[500,-10],[900,-10],[900,200],[500,200]], "holes": []}], "clearance": 3,
            "edge_clearance": [{"near": [[0,0],[2000,10]], "clearance": 8}], "internal_radius": 6,
            "max_size": [2440,1220], "thickness": 18, "wall_slope_deg": 4}),
        "nest" => {
            json!({"sheets": [{"id": "a", "w": 2440, "h": 1220, "count": null, "cost": 60, "grain": "w"}], "kerf": 3, "trim": 2,
            "cut": "guillotine", "parts": [{"id": "p", "w": 700, "h": 400, "count": 2, "grain": "along"}], "effort": 0.1, "seed": 1})
        }
        "adjust" => {
            json!({"points": {"A": {"xy": [0, 0], "fixed": true}, "B": {"xy": [1000, 0], "fixed_y": true}, "C": {"xy": [900, 700]}},
            "readings": [{"id": "1", "kind": "distance", "from": "A", "to": "B", "value": 1001.2, "sd": 1},
                {"id": "2", "kind": "distance", "from": "A", "to": "C", "value": 1140, "sd": 1},
                {"id": "3", "kind": "offset", "line": ["A", "B"], "point": "C", "value": 699, "sd": 1},
                {"id": "4", "kind": "along", "line": ["A", "B"], "point": "C", "value": 901, "sd": 1},
                {"id": "5", "kind": "x", "point": "C", "value": 903, "sd": 1}]})
        }
        "load" => {
            json!({"items": [{"name": "a", "mass": 10, "at": [1, 2, 3]}], "axles": [0, 2500], "hitch": 5000, "track": 1500,
            "restraint": {"forward_g": 0.8, "side_g": 0.5, "rear_g": 0.5}})
        }
        "pull" => {
            json!({"slide_rating": 45, "length": 600, "extension": 600, "self_mass": 6, "load": [{"mass": 10, "at": 400}],
            "fixings": {"n": 4, "spacing": 150}, "carcass": {"mass": 30, "cg": 300, "anchored": false}})
        }
        "panel" => json!({"project": box_van(), "height": 320, "clearance": 3}),
        other => panic!("{other}"),
    }
}

/// Numbers that are none are written as null: no fixed field of an answer may be.
fn made_of_numbers(v: &Value, may_be_null: &[&str]) -> Result<(), String> {
    let mut all = Vec::new();
    places(v, "", &mut all);
    for at in all {
        let last = at.rsplit('/').next().unwrap();
        if v.pointer(&at).unwrap().is_null() && !may_be_null.contains(&last) {
            return Err(at);
        }
    }
    Ok(())
}

#[rstest]
#[case("tape")]
#[case("heights")]
#[case("pass")]
#[case("beam")]
#[case("outline")]
#[case("nest")]
#[case("adjust")]
#[case("load")]
#[case("pull")]
#[case("panel")]
fn every_leaf_poisoned(#[case] name: &str) {
    let good = valid(name);
    assert!(
        compute::run(name, good.clone()).unwrap().is_ok(),
        "the valid input is valid"
    );
    let mut all = Vec::new();
    places(&good, "", &mut all);
    let (mut refused, mut answered) = (0, 0);
    for at in &all {
        for poison in poisons() {
            let mut bad = good.clone();
            *bad.pointer_mut(at).unwrap() = poison.clone();
            match compute::run(name, bad).unwrap() {
                Ok(answer) => {
                    answered += 1;
                    // A beam without load has no ratio; nothing is ever turned inside; without a hitch nothing hangs on it.
                    let none = ["span_over", "turned_inside", "hitch_kg", "hitch_percent"];
                    made_of_numbers(&answer, &none)
                        .unwrap_or_else(|e| panic!("{name} with {poison} at {at}: null at {e}"));
                }
                Err(problem) => {
                    refused += 1;
                    assert!(!problem.title.is_empty() && !problem.detail.is_empty());
                    // The pointer is the place or lies around it.
                    let near = at.starts_with(&problem.pointer)
                        || problem.pointer.starts_with(at.as_str())
                        || problem.pointer.starts_with('/');
                    assert!(near, "{name} with {poison} at {at}: {}", problem.pointer);
                }
            }
        }
        // Taken away altogether.
        let mut less = good.clone();
        let (parent, key) = at.rsplit_once('/').unwrap();
        if let Some(map) = less.pointer_mut(parent).and_then(Value::as_object_mut) {
            map.remove(key);
            let _ = compute::run(name, less).unwrap();
        }
    }
    assert!(
        refused > answered,
        "{name}: {refused} refused, {answered} answered"
    );
}

#[rstest]
#[case("tape")]
#[case("heights")]
#[case("pass")]
#[case("beam")]
#[case("outline")]
#[case("nest")]
fn what_is_no_object_is_refused(#[case] name: &str) {
    for poison in poisons().into_iter().filter(|p| !p.is_array()) {
        assert!(compute::run(name, poison).unwrap().is_err());
    }
    assert_eq!(compute::run(name, json!([])).unwrap().unwrap(), json!([]));
    let batch = compute::run(name, json!(poisons())).unwrap().unwrap();
    assert_eq!(batch.as_array().unwrap().len(), poisons().len());
}

/// A poisoned project is refused, or it is a project and its plan is worked out.
#[rstest]
#[case("moth", 7)]
#[case("kingfisher", 11)]
fn poisoned_projects(#[case] name: &str, #[case] stride: usize) {
    let good = project(&demo(name)).to_json().unwrap();
    let mut all = Vec::new();
    places(&good, "", &mut all);
    let mut tried = 0;
    // A share of all places, a different poison at each: together they cover every kind of field.
    for (i, at) in all.iter().enumerate().step_by(stride) {
        for (j, poison) in poisons().into_iter().enumerate() {
            if !(i / stride + j).is_multiple_of(4) {
                continue;
            }
            let mut bad = good.clone();
            *bad.pointer_mut(at).unwrap() = poison;
            if let Ok(p) = jigfit_core::furniture::read(bad) {
                let plan = solve(&p);
                assert!(plan.mass.is_finite() && plan.cost.is_finite());
            }
            tried += 1;
        }
    }
    assert!(tried > 150, "{tried}");
}

/// Every leaf of a captured curve laid into the vehicle, and of a board held in place, poisoned in turn.
#[test]
fn poisoned_curves_and_rounds() {
    let mut good = box_van();
    good["templates"] = json!({"c": {"name": "card", "way": "ordinates", "apart": 1000.0, "stations": {
        "s1": {"a": 0.0, "b": 90.0}, "s2": {"a": 500.0, "b": 95.0}, "s3": {"a": 1000.0, "b": 99.0}},
        "place": {"of": "left", "plane": "level", "at": 300.0, "aside": false, "landmarks": {
            "1": {"a": 0.0, "b": 0.0, "u": 500.0, "v": 608.0}, "2": {"a": 1000.0, "b": 0.0, "u": 1500.0, "v": 605.0}}}}});
    let first = plan(&good);
    let board = first.fits.iter().find(|f| f.seen == "above").unwrap();
    good["fits"] = json!({"r": board.fresh});
    let begun = plan(&good);
    let round = begun.fits.iter().flat_map(|f| &f.rounds).next().unwrap();
    for (i, p) in round.places.iter().take(3).enumerate() {
        let mut answer = serde_json::to_value(&p.answer).unwrap();
        answer["mm"] = json!(2.0 + i as f64);
        good["fits"]["r"]["places"][&p.key] = answer;
    }
    let mut all = Vec::new();
    for part in ["templates", "fits"] {
        places(&good[part], &format!("/{part}"), &mut all);
    }
    let (mut refused, mut solved) = (0, 0);
    for (i, at) in all.iter().enumerate() {
        for (j, poison) in poisons().into_iter().enumerate() {
            if !(i + j).is_multiple_of(3) {
                continue;
            }
            let mut bad = good.clone();
            *bad.pointer_mut(at).unwrap() = poison;
            match jigfit_core::furniture::read(bad) {
                Ok(p) => {
                    let plan = solve(&p);
                    assert!(plan.mass.is_finite() && plan.cost.is_finite());
                    let told = plan.findings.iter().all(|f| !f.sentence.contains("NaN"));
                    assert!(told, "{at}");
                    solved += 1;
                }
                Err(problem) => {
                    assert!(!problem.detail.is_empty());
                    refused += 1;
                }
            }
        }
    }
    assert!(refused > 200 && solved > 20, "{refused} {solved}");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(120))]
    /// Readings at random, of the right kind but without sense: a plan comes out all the same.
    #[test]
    fn senseless_readings_give_a_plan(values in proptest::collection::vec(0.0..5000.0_f64, 11), wells in proptest::collection::vec(0.0..3000.0_f64, 8), underside in 0.0..2000.0_f64) {
        let mut doc = with_wells(box_van());
        for (i, v) in values.iter().enumerate() {
            let v = if i == 0 { v.max(100.0) } else { *v };
            doc["survey"]["readings"][format!("r{i:02}")]["typed"] = json!(format!("{v:.1}"));
        }
        let keys = ["wl-start", "wl-length", "wl-width", "wl-height", "wr-start", "wr-length", "wr-width", "wr-height"];
        for (k, v) in keys.iter().zip(&wells) {
            doc["survey"]["readings"][*k]["typed"] = json!(format!("{v:.1}"));
        }
        doc["modules"]["deck"]["choices"]["underside"] = json!(underside);
        let p = plan(&doc);
        for part in &p.parts {
            prop_assert!(part.w.value.is_finite() && part.h.value > 0.0 && part.mass >= 0.0);
        }
        for f in &p.findings {
            prop_assert!(!f.sentence.contains("NaN") && !f.sentence.contains("inf"), "{}", f.sentence);
        }
    }
}
