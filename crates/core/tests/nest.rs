//! Layouts against a checker that knows nothing of the search: it saws the sheet by the cut list.

use jigfit_core::compute;
use proptest::prelude::*;
use rstest::rstest;
use serde_json::{Value, json};

const EPS: f64 = 1e-4;

fn nest(input: &Value) -> Value {
    compute::run("nest", input.clone()).unwrap().unwrap()
}

fn num(v: &Value, k: &str) -> f64 {
    v[k].as_f64().unwrap_or_else(|| panic!("{k} in {v}"))
}

type Piece = (f64, f64, f64, f64);

/// Saws the trimmed sheet; panics unless every cut is right across one present piece.
fn saw(input: &Value, layout: &Value) -> Vec<Piece> {
    let (kerf, trim) = (num(input, "kerf"), num(input, "trim"));
    let sheets = input["sheets"].as_array().unwrap();
    let sheet = sheets.iter().find(|s| s["id"] == layout["sheet"]).unwrap();
    let mut pieces = vec![(trim, trim, num(sheet, "w") - trim, num(sheet, "h") - trim)];
    for cut in layout["cuts"].as_array().unwrap() {
        let (at, from, to) = (num(cut, "at"), num(cut, "from"), num(cut, "to"));
        let x = cut["axis"] == "x";
        let hit = pieces.iter().position(|p| {
            let (lo, hi, a, b) = if x {
                (p.0, p.2, p.1, p.3)
            } else {
                (p.1, p.3, p.0, p.2)
            };
            at > lo - EPS && at < hi + EPS && (a - from).abs() < EPS && (b - to).abs() < EPS
        });
        let p = pieces.remove(hit.unwrap_or_else(|| panic!("no piece for {cut}")));
        let (one, two) = if x {
            ((p.0, p.1, at, p.3), (at + kerf, p.1, p.2, p.3))
        } else {
            ((p.0, p.1, p.2, at), (p.0, at + kerf, p.2, p.3))
        };
        for piece in [one, two] {
            if piece.2 - piece.0 > EPS && piece.3 - piece.1 > EPS {
                pieces.push(piece);
            }
        }
    }
    pieces
}

fn check(input: &Value, out: &Value) {
    let (kerf, trim) = (num(input, "kerf"), num(input, "trim"));
    let parts = input["parts"].as_array().unwrap();
    let mut seen = Vec::new();
    for layout in out["layouts"].as_array().unwrap() {
        let sheet = input["sheets"]
            .as_array()
            .unwrap()
            .iter()
            .find(|s| s["id"] == layout["sheet"])
            .unwrap();
        let mut placed: Vec<Piece> = Vec::new();
        for p in layout["placements"].as_array().unwrap() {
            let part = parts.iter().find(|q| q["id"] == p["part"]).unwrap();
            let rotated = p["rotated"].as_bool().unwrap();
            let (w, h) = if rotated {
                (num(part, "h"), num(part, "w"))
            } else {
                (num(part, "w"), num(part, "h"))
            };
            let (x, y) = (num(p, "x"), num(p, "y"));
            assert!(x >= trim - EPS && y >= trim - EPS);
            assert!(x + w <= num(sheet, "w") - trim + EPS && y + h <= num(sheet, "h") - trim + EPS);
            match (
                part["grain"].as_str().unwrap_or("free"),
                sheet["grain"].as_str().unwrap_or("w"),
            ) {
                ("along", "w") | ("across", "h") => assert!(!rotated),
                ("across", "w") | ("along", "h") => assert!(rotated),
                _ => {}
            }
            for q in &placed {
                let apart = x >= q.2 + kerf - EPS
                    || q.0 >= x + w + kerf - EPS
                    || y >= q.3 + kerf - EPS
                    || q.1 >= y + h + kerf - EPS;
                assert!(apart, "{p} overlaps {q:?}");
            }
            placed.push((x, y, x + w, y + h));
            seen.push((p["part"].clone(), p["n"].as_u64().unwrap()));
        }
        // After all cuts the pieces are the parts and the offcuts, and nothing else.
        let mut pieces = saw(input, layout);
        let offcuts = layout["offcuts"].as_array().unwrap().iter();
        let offcuts = offcuts.map(|o| {
            (
                num(o, "x"),
                num(o, "y"),
                num(o, "x") + num(o, "w"),
                num(o, "y") + num(o, "h"),
            )
        });
        for want in placed.into_iter().chain(offcuts) {
            let hit = pieces.iter().position(|p| {
                (p.0 - want.0).abs() < EPS
                    && (p.1 - want.1).abs() < EPS
                    && (p.2 - want.2).abs() < EPS
                    && (p.3 - want.3).abs() < EPS
            });
            pieces.remove(hit.unwrap_or_else(|| panic!("{want:?} is not a piece")));
        }
        assert!(pieces.is_empty(), "left over: {pieces:?}");
    }
    let wanted: u64 = parts.iter().map(|p| p["count"].as_u64().unwrap_or(1)).sum();
    seen.sort_by_key(|s| (s.0.to_string(), s.1));
    seen.dedup();
    assert_eq!(seen.len() as u64, wanted);
    let area: f64 = parts
        .iter()
        .map(|p| num(p, "w") * num(p, "h") * p["count"].as_f64().unwrap_or(1.0))
        .sum();
    assert!((num(out, "used_area") - area).abs() < 1e-3);
    assert!(num(out, "cost") + 1e-9 >= num(out, "lower_bound"));
}

#[test]
fn halves_of_a_sheet_lose_the_kerf() {
    // Common practice, no source: half a 48 in sheet is just shy of 24 in.
    let task = |w: f64| {
        json!({"sheets": [{"id": "s", "w": 2440, "h": 1219.2, "count": null, "cost": 60, "grain": "none"}],
        "kerf": 3, "trim": 0, "cut": "guillotine", "parts": [{"id": "half", "w": w, "h": 2440, "count": 2, "grain": "free"}]})
    };
    let just_shy = task(608.0);
    let out = nest(&just_shy);
    check(&just_shy, &out);
    assert_eq!(out["sheets_used"], 1);
    assert_eq!(out["proven"], true);
    assert_eq!(nest(&task(609.6))["sheets_used"], 2);
}

#[test]
fn a_sheet_that_can_be_filled_exactly_is() {
    // By hand: 2 x 2 parts of 1218.5 x 608.5 with 3 mm kerfs are exactly 2440 x 1220.
    let input = json!({"sheets": [{"id": "s", "w": 2440, "h": 1220, "count": null, "cost": 1, "grain": "w"}],
        "kerf": 3, "trim": 0, "parts": [{"id": "q", "w": 1218.5, "h": 608.5, "count": 4, "grain": "along"}]});
    let out = nest(&input);
    check(&input, &out);
    assert_eq!(out["sheets_used"], 1);
    assert!(out["layouts"][0]["offcuts"].as_array().unwrap().is_empty());
}

#[test]
fn the_cheaper_kind_is_taken() {
    let input = json!({"sheets": [
            {"id": "full", "w": 2440, "h": 1220, "count": null, "cost": 60, "grain": "w"},
            {"id": "half", "w": 1220, "h": 1220, "count": null, "cost": 34, "grain": "w"}],
        "kerf": 3, "trim": 5, "parts": [{"id": "p", "w": 700, "h": 400, "count": 2, "grain": "along"}]});
    let out = nest(&input);
    check(&input, &out);
    assert_eq!(out["layouts"][0]["sheet"], "half");
    assert_eq!(out["cost"], 34.0);
}

#[test]
fn same_seed_same_layout() {
    let input = json!({"sheets": [{"id": "s", "w": 2440, "h": 1220, "count": null, "cost": 60, "grain": "w"}],
        "kerf": 3, "trim": 0, "seed": 7, "parts": (0..12).map(|i| json!({"id": format!("p{i}"), "w": 300 + 61 * i, "h": 200 + 37 * (i % 5)})).collect::<Vec<_>>()});
    assert_eq!(nest(&input), nest(&input));
}

#[rstest]
#[case(json!({"sheets": [], "parts": []}), "/sheets")]
#[case(json!({"sheets": [{"id": "s", "w": 100, "h": 100}], "parts": [{"id": "p", "w": 101, "h": 5}]}), "/parts/0")]
#[case(json!({"sheets": [{"id": "s", "w": 100, "h": 50, "grain": "w"}], "parts": [{"id": "p", "w": 10, "h": 80, "grain": "along"}]}), "/parts/0")]
#[case(json!({"sheets": [{"id": "s", "w": 100, "h": 100, "count": 1}], "parts": [{"id": "p", "w": 90, "h": 90, "count": 2}]}), "/sheets")]
#[case(json!({"sheets": [{"id": "s", "w": 100, "h": 100}], "parts": [{"id": "p", "w": 5, "h": 5, "count": 4000000000_u32}]}), "/parts/0/count")]
#[case(json!({"sheets": [{"id": "s", "w": 100, "h": 100}], "parts": [{"id": "p", "w": 5, "h": 5, "count": -1}]}), "/parts/0/count")]
#[case(json!({"sheets": [{"id": "s", "w": 100, "h": 100}], "kerf": -1, "parts": []}), "/kerf")]
#[case(json!({"sheets": [{"id": "s", "w": 100, "h": 100}, {"id": "s", "w": 9, "h": 9}], "parts": []}), "/sheets/1/id")]
fn bad_input_is_named(#[case] input: Value, #[case] pointer: &str) {
    let problem = compute::run("nest", input).unwrap().unwrap_err();
    assert_eq!(problem.pointer, pointer, "{problem}");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]
    #[test]
    fn every_layout_can_be_sawn(
        parts in proptest::collection::vec((40.0..1150.0_f64, 40.0..1150.0_f64, 1_u32..4, 0..3_usize), 1..12),
        kerf in 0.0..6.0_f64, trim in 0.0..12.0_f64, grain in 0..3_usize, seed in 0_u64..1000,
    ) {
        let parts: Vec<_> = parts.iter().enumerate().map(|(i, (w, h, n, g))| {
            json!({"id": format!("p{i}"), "w": w, "h": h, "count": n, "grain": (["along", "across", "free"][*g])})
        }).collect();
        let input = json!({"sheets": [
                {"id": "a", "w": 2440, "h": 1220, "count": null, "cost": 60, "grain": (["w", "h", "none"][grain])},
                {"id": "b", "w": 1250, "h": 1250, "count": 2, "cost": 35, "grain": "w"}],
            "kerf": kerf, "trim": trim, "cut": "guillotine", "parts": parts, "effort": 0.05, "seed": seed});
        check(&input, &nest(&input));
    }
}
