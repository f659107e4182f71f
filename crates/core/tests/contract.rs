//! The calculators as others rely on them: every fixed field of the contract, with its kind, and
//! answers that can be checked by hand.

use crate::common::*;
use jigfit_core::compute::run;
use rstest::rstest;
use serde_json::{Value, json};

fn answer(name: &str, input: Value) -> Value {
    run(name, input).unwrap().unwrap_or_else(|p| panic!("{p}"))
}

/// What a field must be.
#[derive(Clone, Copy, Debug)]
enum Is {
    Number,
    Text,
    Flag,
    List,
    /// `[x, y]`.
    Pair,
    Region,
    /// A number or null.
    Perhaps,
}

fn is(v: &Value, kind: Is) -> bool {
    let pair = |p: &Value| {
        p.as_array()
            .is_some_and(|a| a.len() == 2 && a.iter().all(Value::is_number))
    };
    let ring = |r: &Value| {
        r.as_array()
            .is_some_and(|a| a.len() >= 3 && a.iter().all(pair))
    };
    match kind {
        Is::Number => v.as_f64().is_some_and(f64::is_finite),
        Is::Text => v.as_str().is_some_and(|s| !s.is_empty()),
        Is::Flag => v.is_boolean(),
        Is::List => v.is_array(),
        Is::Pair => pair(v),
        Is::Region => {
            ring(&v["outer"]) && v["holes"].as_array().is_some_and(|h| h.iter().all(ring))
        }
        Is::Perhaps => v.is_null() || v.is_number(),
    }
}

const ADJUST: &str = r#"{"points": {"A": {"xy": [0,0], "fixed": true}, "B": {"xy": [1000,0], "fixed_y": true},
    "C": {"xy": [900,700]}}, "readings": [
    {"id": "r1", "kind": "distance", "from": "A", "to": "B", "value": 1001.2, "sd": 1.0},
    {"id": "r2", "kind": "x", "point": "C", "value": 903, "sd": 1},
    {"id": "r3", "kind": "offset", "line": ["A","B"], "point": "C", "value": 699, "sd": 1},
    {"id": "r4", "kind": "along", "line": ["A","B"], "point": "C", "value": 901, "sd": 1}]}"#;
const TAPE: &str = r#"{"entries": ["23 3/16", "x"], "unit": "in", "denominator": 16}"#;
const PASS: &str = r#"{"panel": [1400, 900], "thickness": 18, "opening": [1200, 800], "depth_behind": null, "clear": 0}"#;
const BEAM: &str = r#"{"spans": [600, 600], "width": 400, "thickness": 18, "material": "birch-ply", "grain": "along",
    "loads": [{"kind": "uniform", "n_per_mm": 0.5, "from": 0, "to": 1200}], "moisture": "dry"}"#;
const OUTLINE: &str = r#"{"bay": {"outer": [[0,0],[2000,0],[2000,1400],[0,1400]], "holes": []},
    "obstacles": [{"outer": [[600,0],[1300,0],[1300,200],[600,200]], "holes": []}], "clearance": 3,
    "edge_clearance": [{"near": [[0,0],[0,1400]], "clearance": 8}], "internal_radius": 0,
    "max_size": [2440,1420], "thickness": 18, "wall_slope_deg": 5}"#;
const HEIGHTS: &str = r#"{"floor_to_roof": 1180, "deck": 18, "mattress": {"thickness": 100, "sag": 20}, "finish": 0,
    "head_clearance": 0, "gear": [{"name": "bin", "h": 300, "lid_clearance": 10}],
    "people": [{"name": "one", "stature": 1620, "sitting_height": null}]}"#;
const NEST: &str = r#"{"sheets": [{"id":"a","w":2440,"h":1220,"count":null,"cost":60,"grain":"w"}], "kerf": 3, "trim": 0,
    "cut": "guillotine", "parts": [{"id":"p","w":700,"h":400,"count":2,"grain":"along"}], "effort": 0.2, "seed": 1}"#;

/// The fixed fields of each answer, and what they are.
#[rstest]
#[case("tape", TAPE, &[("/results/0/mm", Is::Number), ("/results/0/in", Is::Number), ("/results/0/nearest", Is::Text),
    ("/results/0/off_mm", Is::Number), ("/results/1/error/title", Is::Text), ("/results/1/error/detail", Is::Text),
    ("/results/1/error/pointer", Is::Text)])]
#[case("adjust", ADJUST, &[("/points/C/xy", Is::Pair), ("/points/C/sd", Is::Pair), ("/points/C/ellipse/a", Is::Number),
    ("/points/C/ellipse/b", Is::Number), ("/points/C/ellipse/angle", Is::Number), ("/readings/0/id", Is::Text),
    ("/readings/0/residual", Is::Number), ("/readings/0/standardized", Is::Number), ("/readings/0/redundancy", Is::Number),
    ("/dof", Is::Number), ("/variance_factor", Is::Number), ("/suspects", Is::List), ("/iterations", Is::Number)])]
#[case("pass", PASS, &[("/fits", Is::Flag), ("/how", Is::Text), ("/leads", Is::Number), ("/angle_deg", Is::Number),
    ("/spare", Is::Number), ("/why", Is::Text)])]
#[case("beam", BEAM, &[("/max_deflection", Is::Number), ("/at", Is::Number), ("/span_over", Is::Number),
    ("/reactions/0", Is::Number), ("/reactions/2", Is::Number), ("/max_moment", Is::Number), ("/max_stress", Is::Number),
    ("/sag_by_span/0", Is::Number), ("/sag_by_span/1", Is::Number)])]
#[case("outline", OUTLINE, &[("/panels/0", Is::Region), ("/area", Is::Number), ("/pieces", Is::Number),
    ("/lost_area", Is::Number), ("/bevels/0/edge/0", Is::Pair), ("/bevels/0/edge/1", Is::Pair), ("/bevels/0/deg", Is::Number),
    ("/warnings", Is::List)])]
#[case("heights", HEIGHTS, &[("/rungs/0/deck_underside", Is::Number), ("/rungs/0/deck_top", Is::Number),
    ("/rungs/0/sleep_surface", Is::Number), ("/rungs/0/seat", Is::Number), ("/rungs/0/headroom", Is::Number),
    ("/rungs/0/fits", Is::List), ("/rungs/0/sits", Is::List), ("/trace", Is::List)])]
#[case("nest", NEST, &[("/layouts/0/sheet", Is::Text), ("/layouts/0/placements/0/part", Is::Text),
    ("/layouts/0/placements/0/n", Is::Number), ("/layouts/0/placements/0/x", Is::Number),
    ("/layouts/0/placements/0/y", Is::Number), ("/layouts/0/placements/0/rotated", Is::Flag),
    ("/layouts/0/cuts/0/n", Is::Number), ("/layouts/0/cuts/0/axis", Is::Text), ("/layouts/0/cuts/0/at", Is::Number),
    ("/layouts/0/cuts/0/from", Is::Number), ("/layouts/0/cuts/0/to", Is::Number), ("/layouts/0/offcuts/0/x", Is::Number),
    ("/layouts/0/offcuts/0/w", Is::Number), ("/sheets_used", Is::Number), ("/cost", Is::Number), ("/used_area", Is::Number),
    ("/lower_bound", Is::Perhaps), ("/proven", Is::Flag)])]
fn fixed_fields(#[case] name: &str, #[case] input: &str, #[case] fields: &[(&str, Is)]) {
    let a = answer(name, serde_json::from_str(input).unwrap());
    for (pointer, kind) in fields {
        let v = a
            .pointer(pointer)
            .unwrap_or_else(|| panic!("{pointer} is missing in {a}"));
        assert!(is(v, *kind), "{pointer} is {v}, not {kind:?}");
    }
}

#[test]
fn a_panel_from_a_project() {
    let a = answer(
        "panel",
        json!({"project": box_van(), "height": 0, "clearance": 3}),
    );
    assert!(
        is(&a["panels"][0], Is::Region)
            && is(&a["suspects"], Is::List)
            && is(&a["sd_max"], Is::Number)
    );
}

/// A typing error in a field is an error that names it, for every calculator.
#[rstest]
fn unknown_fields_are_refused(
    #[values(("tape", TAPE), ("adjust", ADJUST), ("pass", PASS), ("beam", BEAM), ("outline", OUTLINE),
        ("heights", HEIGHTS), ("nest", NEST))]
    case: (&str, &str),
) {
    let mut input: Value = serde_json::from_str(case.1).unwrap();
    input["clearence"] = json!(3);
    let p = run(case.0, input).unwrap().unwrap_err();
    let told = format!("{} {}", p.pointer, p.detail);
    assert!(told.contains("clearence"), "{told}");
}

/// The entries of the contract, by hand from 25.4 mm to the inch (NIST SP 811): 23.1875 in, 86.5 in,
/// 612 mm, 23.9375 in.
#[test]
fn the_entries_of_the_contract() {
    let a = answer(
        "tape",
        json!({"entries": ["23 3/16", "7' 2 1/2\"", "61.2 cm", "48/2 - 1/16"], "unit": "in", "denominator": 16}),
    );
    let mm: Vec<f64> = a["results"]
        .as_array()
        .unwrap()
        .iter()
        .map(|r| r["mm"].as_f64().unwrap())
        .collect();
    for (got, want) in mm.iter().zip([588.9625, 2197.1, 612.0, 608.0125]) {
        assert!((got - want).abs() < 1e-9, "{got}");
    }
    assert_eq!(a["results"][0]["nearest"], "23 3/16");
    assert_eq!(a["results"][0]["off_mm"], 0.0);
    // 612 mm is 24.0945 in: 24 1/8 is 612.775, 24 1/16 is 611.188.
    assert_eq!(a["results"][2]["nearest"], "24 1/8");
    assert!((a["results"][2]["off_mm"].as_f64().unwrap().abs() - 0.775).abs() < 1e-9);
}

/// A batch: as many answers as questions, the failed one alone.
#[rstest]
#[case("pass", PASS, json!({"panel": [1, 1], "thickness": 18, "opening": [1, 1]}))]
#[case("beam", BEAM, json!({"spans": [600], "width": 400, "thickness": 18, "material": "cheese", "loads": []}))]
#[case("heights", HEIGHTS, json!({"floor_to_roof": -1}))]
fn batches(#[case] name: &str, #[case] good: &str, #[case] bad: Value) {
    let good: Value = serde_json::from_str(good).unwrap();
    let a = answer(name, json!([good, bad, good]));
    let list = a.as_array().unwrap();
    assert_eq!(list.len(), 3);
    assert_eq!(list[0], list[2]);
    assert_eq!(list[0], answer(name, good));
    if name != "pass" {
        assert!(list[1]["error"]["pointer"].is_string(), "{}", list[1]);
    }
    assert_eq!(answer(name, json!([])), json!([]));
}

/// Rectangle in rectangle, by hand. Flat on the sill 900 x 18 leads with 1400 through 1200 x 800: 900
/// is below 1200. Through 850 x 800 only turned: the diagonal is 1167.
#[rstest]
#[case([1400.0, 900.0], [1200.0, 800.0], Value::Null, true, "straight")]
#[case([1400.0, 900.0], [850.0, 800.0], Value::Null, true, "tilted")]
#[case([1400.0, 1180.0], [850.0, 800.0], Value::Null, false, "no")]
// With 1300 behind the opening 900 has to lead: 1400 x 18 within the diagonal of 1442.
#[case([1400.0, 900.0], [1200.0, 800.0], json!(1300), true, "tilted")]
#[case([1400.0, 900.0], [1200.0, 800.0], json!(800), false, "no")]
#[case([1400.0, 1190.0], [1200.0, 800.0], json!(1400), true, "straight")]
fn passing(
    #[case] panel: [f64; 2],
    #[case] opening: [f64; 2],
    #[case] depth: Value,
    #[case] fits: bool,
    #[case] how: &str,
) {
    let a = answer(
        "pass",
        json!({"panel": panel, "thickness": 18, "opening": opening, "depth_behind": depth, "clear": 0}),
    );
    assert_eq!(
        (a["fits"].as_bool(), a["how"].as_str()),
        (Some(fits), Some(how)),
        "{a}"
    );
}

/// The panel of the outline by hand: 2000 x 1400 less 8 at the threshold, 3 elsewhere, less a well of
/// 700 x 200 with 3 round it.
#[test]
fn the_outline_by_hand() {
    let a = answer("outline", serde_json::from_str(OUTLINE).unwrap());
    let whole = (2000.0 - 8.0 - 3.0) * (1400.0 - 6.0);
    let cut = (700.0 + 6.0) * (200.0 + 3.0 - 3.0);
    let area = a["area"].as_f64().unwrap();
    assert!((area - (whole - cut)).abs() < 1.0, "{area}");
    assert_eq!(a["pieces"], 1);
    // Counter-clockwise: positive by the shoelace.
    let ring: Vec<[f64; 2]> = serde_json::from_value(a["panels"][0]["outer"].clone()).unwrap();
    let n = ring.len();
    let twice: f64 = (0..n)
        .map(|i| ring[i][0] * ring[(i + 1) % n][1] - ring[(i + 1) % n][0] * ring[i][1])
        .sum();
    assert!((twice / 2.0 - area).abs() < 1.0);
}

/// The ladder by hand: the bin needs 310 under the deck; 1.62 m sits 847.3 high (0.523), so the seat
/// may be at 332.7 and the underside at 332.7 - 98.
#[test]
fn the_ladder_by_hand() {
    let a = answer("heights", serde_json::from_str(HEIGHTS).unwrap());
    let rungs = a["rungs"].as_array().unwrap();
    let at: Vec<f64> = rungs
        .iter()
        .map(|r| r["deck_underside"].as_f64().unwrap())
        .collect();
    assert_eq!(at.len(), 2, "{at:?}");
    assert!(
        (at[0] - 234.74).abs() < 0.01 && (at[1] - 310.0).abs() < 1e-9,
        "{at:?}"
    );
    assert_eq!(
        (&rungs[0]["sits"], &rungs[0]["fits"]),
        (&json!(["one"]), &json!([]))
    );
    assert_eq!(
        (&rungs[1]["sits"], &rungs[1]["fits"]),
        (&json!([]), &json!(["bin"]))
    );
    assert!((rungs[1]["seat"].as_f64().unwrap() - 408.0).abs() < 1e-9);
}
