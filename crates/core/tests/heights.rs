//! The ladder against common practice and published proportions.

use jigfit_core::compute;
use rstest::rstest;
use serde_json::{Value, json};

fn rungs(input: Value) -> Vec<Value> {
    compute::run("heights", input).unwrap().unwrap()["rungs"]
        .as_array()
        .unwrap()
        .clone()
}

const IN: f64 = 25.4;

/// Common practice, no source: bins of 6 1/2 in and of just under 7 in with the lid on need 7 in.
#[test]
fn two_bins_need_seven_inches() {
    let r = rungs(
        json!({"floor_to_roof": 1000, "deck": 18, "mattress": {"thickness": 100},
        "gear": [{"name": "low", "h": 6.5 * IN}, {"name": "lidded", "h": 7.0 * IN}]}),
    );
    let both = r
        .iter()
        .find(|r| r["fits"].as_array().unwrap().len() == 2)
        .unwrap();
    assert!((both["deck_underside"].as_f64().unwrap() - 7.0 * IN).abs() < 1e-9);
    assert_eq!(r[0]["fits"], json!(["low"]));
}

/// Common practice, no source: side 385 + top 18 + cushion 50 that gives 0 to 33 -> seat 420 to 453.
#[rstest]
#[case(0.0, 453.0)]
#[case(33.0, 420.0)]
fn bench_seat(#[case] gives: f64, #[case] seat: f64) {
    let r = rungs(
        json!({"floor_to_roof": 1500, "deck": 18, "mattress": {"thickness": 50, "sag": gives},
        "gear": [{"name": "side", "h": 385}]}),
    );
    assert!((r[0]["seat"].as_f64().unwrap() - seat).abs() < 1e-9);
}

/// Common practice, no source: an appliance of 19 in with 1 in left for it -> 20 in upright.
#[test]
fn appliance_with_its_inch() {
    let r = rungs(
        json!({"floor_to_roof": 1500, "deck": 18, "mattress": {"thickness": 0},
        "gear": [{"name": "fridge", "h": 19.0 * IN, "lid_clearance": IN}]}),
    );
    assert!((r[0]["deck_underside"].as_f64().unwrap() - 20.0 * IN).abs() < 1e-9);
}

/// Sitting height from stature (ratio of published means, from memory) and the person's own number.
/// By hand: 1180 roof - 0.523 x 1840 = 217.68 seat; - 100 + 20 - 18 = 119.68 underside.
#[test]
fn sitting_headroom() {
    let base = json!({"floor_to_roof": 1180, "deck": 18, "mattress": {"thickness": 100, "sag": 20},
        "people": [{"name": "tall", "stature": 1840}]});
    let r = rungs(base.clone());
    assert!((r[0]["deck_underside"].as_f64().unwrap() - 119.68).abs() < 1e-9);
    assert_eq!(r[0]["sits"], json!(["tall"]));
    let mut own = base;
    own["people"][0]["sitting_height"] = json!(900);
    // 1180 - 900 - 98 = 182
    assert!((rungs(own)[0]["deck_underside"].as_f64().unwrap() - 182.0).abs() < 1e-9);
}

#[test]
fn rungs_are_where_answers_change_lowest_first() {
    let r = rungs(
        json!({"floor_to_roof": 1180, "deck": 18, "mattress": {"thickness": 80, "sag": 25},
        "finish": 4, "head_clearance": 10,
        "gear": [{"name": "a", "h": 200, "lid_clearance": 10}, {"name": "b", "h": 210}, {"name": "high", "h": 1300}],
        "people": [{"name": "p", "stature": 1620}]}),
    );
    let u: Vec<f64> = r
        .iter()
        .map(|r| r["deck_underside"].as_f64().unwrap())
        .collect();
    // 210 serves both a and b; by hand for p: 1180 - 4 - 10 - 847.26 + 25 - 80 - 18 = 245.74.
    assert_eq!(u.len(), 2);
    assert!((u[0] - 210.0).abs() < 1e-9 && (u[1] - 245.74).abs() < 1e-9);
    assert_eq!(r[0]["fits"], json!(["a", "b"]));
    assert_eq!(r[1]["sits"], json!(["p"]));
    // The headroom is from seat to lining.
    let top = r[1]["headroom"].as_f64().unwrap();
    assert!((top - (847.26 + 10.0)).abs() < 1e-9);
}

#[rstest]
#[case(json!({"deck": 18, "mattress": {"thickness": 1}}), "/floor_to_roof")]
#[case(json!({"floor_to_roof": 0, "deck": 18, "mattress": {"thickness": 1}}), "/floor_to_roof")]
#[case(json!({"floor_to_roof": 900, "deck": 18, "mattress": {"thickness": 10, "sag": 11}}), "/mattress/sag")]
#[case(json!({"floor_to_roof": 900, "deck": 18, "mattress": {"thickness": 10}, "gear": [{"name": "x", "h": -1}]}), "/gear/0/h")]
#[case(json!({"floor_to_roof": 900, "deck": 18, "mattress": {"thickness": 10}, "people": [{"name": "x"}]}), "/people/0/stature")]
fn bad_input_is_named(#[case] input: Value, #[case] pointer: &str) {
    assert_eq!(
        compute::run("heights", input).unwrap().unwrap_err().pointer,
        pointer
    );
}

#[test]
fn a_batch_answers_in_order_and_keeps_going() {
    let good = json!({"floor_to_roof": 900, "deck": 18, "mattress": {"thickness": 10}});
    let out = compute::run("heights", json!([good, {"deck": 1}, good]))
        .unwrap()
        .unwrap();
    let out = out.as_array().unwrap();
    assert_eq!(out.len(), 3);
    assert!(out[0].get("rungs").is_some() && out[2].get("rungs").is_some());
    assert_eq!(out[1]["error"]["title"], "Missing");
    assert!(compute::run("horoscope", json!({})).is_none());
}
