//! What is marked on the board: a person with a rule and a pencil gets the same part back.

use crate::common::*;
use geo::{Area, Contains, Coord, LineString, Point, Polygon};
use jigfit_core::parts::Part;
use rstest::rstest;
use serde_json::{Value, json};

/// The polygon a person draws from the table of corners.
fn drawn(part: &Part) -> Polygon<f64> {
    let ring = part.corners.iter().map(|c| Coord {
        x: c.u.value,
        y: c.v.value,
    });
    Polygon::new(LineString::new(ring.collect()), vec![])
}

fn holes_area(part: &Part) -> f64 {
    part.features
        .iter()
        .map(|f| match (&f.kind[..], &f.diameter, &f.size) {
            ("vent", Some(d), _) => std::f64::consts::PI * d.value * d.value / 4.0,
            ("window", _, Some((w, h))) => w.value * h.value,
            _ => 0.0,
        })
        .sum()
}

fn all_parts() -> Vec<Part> {
    let mut doc = with_wells(box_van());
    let mut parts = plan(&doc).parts;
    for manner in ["legs", "ledgers"] {
        doc["modules"]["deck"]["choices"]["supports"] = json!({"manner": manner});
        parts.extend(plan(&doc).parts);
    }
    parts.extend(plan(&demo("moth")).parts);
    parts.extend(plan(&demo("kingfisher")).parts);
    parts
}

#[test]
fn the_corners_are_the_part() {
    for part in all_parts() {
        let marked = drawn(&part).unsigned_area();
        // Round holes are drawn as polygons of 32 sides, 0.6 % short; reliefs take a little more.
        let reliefs = part.features.iter().filter(|f| f.kind == "relief").count() as f64;
        let relief = 12.0_f64.powi(2);
        let cut = part.outline.area();
        let most = marked - 0.98 * holes_area(&part) + 1.0;
        let least = marked - holes_area(&part) - reliefs * relief - 1.0;
        assert!(
            cut <= most && cut >= least,
            "{}: {least} <= {cut} <= {most}",
            part.name
        );
    }
}

#[test]
fn everything_is_counted_from_the_lower_left_of_the_blank() {
    for part in all_parts() {
        let us = part.corners.iter().map(|c| c.u.value);
        let vs = part.corners.iter().map(|c| c.v.value);
        assert!(us.clone().fold(f64::MAX, f64::min).abs() < 1e-6);
        assert!(vs.clone().fold(f64::MAX, f64::min).abs() < 1e-6);
        assert!((us.fold(0.0, f64::max) - part.w.value).abs() < 1e-6);
        assert!((vs.fold(0.0, f64::max) - part.h.value).abs() < 1e-6);
        // The overall dimensions come first.
        assert_eq!(part.dims[0].figure, part.w);
        assert_eq!(part.dims[1].figure, part.h);
    }
}

#[test]
fn letters_go_round_the_part_once() {
    for part in all_parts() {
        let letters: Vec<&str> = part.corners.iter().map(|c| c.letter.as_str()).collect();
        assert_eq!(letters[0], "A");
        let mut sorted = letters.clone();
        sorted.sort_by_key(|l| (l.len(), (*l).to_string()));
        sorted.dedup();
        assert_eq!(sorted, letters, "{}", part.name);
    }
}

#[test]
fn holes_lie_inside_with_wood_round_them() {
    for part in all_parts() {
        let shape = drawn(&part);
        for f in part.features.iter().filter(|f| f.kind != "relief") {
            assert!(
                shape.contains(&Point::new(f.at[0], f.at[1])),
                "{} of {}",
                f.kind,
                part.name
            );
        }
        assert_eq!(
            part.outline.holes.len(),
            // Grooves do not go through.
            part.features
                .iter()
                .filter(|f| f.kind != "relief" && f.kind != "groove")
                .count(),
            "{}: a hole broke out at the edge",
            part.name
        );
    }
}

/// Mass is area x thickness x density: birch ply 680 kg/m3 (Handbook of Finnish Plywood, from memory).
#[test]
fn mass_by_hand() {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["supports"] = json!({"manner": "legs"});
    let p = plan(&doc);
    let leg = p.parts.iter().find(|p| p.name == "leg").unwrap();
    // 230 x 70 x 15 mm.
    assert!((leg.mass - 0.230 * 0.070 * 0.015 * 680.0).abs() < 1e-9);
    assert_eq!(leg.w.mm, "230");
    assert_eq!(leg.h.mm, "70");
    // Three to each support line, all alike.
    assert_eq!(leg.count as usize, 3 * p.decks[0].lines.len());
}

#[test]
fn every_part_says_why_and_what_then() {
    for doc in [demo("moth"), with_wells(box_van())] {
        for part in plan(&doc).parts {
            assert!(!part.then.is_empty(), "{}", part.name);
            for why in &part.why {
                assert!(!why.steps.is_empty());
                // Where every step is a length, they add up to the total.
                let sum = why.steps.iter().try_fold(0.0, |sum, s| {
                    let v = s.figure.as_ref()?.value;
                    match s.op.as_str() {
                        "" | "+" => Some(sum + v),
                        "-" => Some(sum - v),
                        _ => None,
                    }
                });
                if let Some(sum) = sum {
                    assert!(
                        (sum - why.total.value).abs() < 0.06,
                        "{}: {} is {sum}, not {}",
                        part.name,
                        why.about,
                        why.total.value
                    );
                }
            }
        }
    }
}

/// A wheel well's cut-out starts where the well starts, less its clearance.
#[test]
fn the_notch_is_where_the_well_is() {
    let p = plan(&with_wells(box_van()));
    let d = p
        .parts
        .iter()
        .find(|p| p.name.contains("right half"))
        .unwrap();
    let c = 3.0 * 2.0_f64.sqrt() + 0.2;
    let all = p.decks[0].clearance.total.value;
    let board = p.boards.iter().find(|b| b.id == d.boards[0]).unwrap();
    let has = |u: f64, v: f64| {
        let exact = &board.outline.outer;
        exact
            .iter()
            .any(|k| (k[0] + all - u).abs() < 0.1 && (k[1] - v).abs() < 0.5)
            // On the card it is the next mark inside.
            && d.corners
                .iter()
                .any(|k| (k.u.value + all - u).abs() < 1.1 && (k.v.value - v).abs() < 1.5)
    };
    // Blank's lower edge is the right wall less clearance and lean; the well stands 200 in from the wall.
    let up = 200.0 - all - 0.7 * (all - 0.2) / 2.3 + c;
    assert!(has(600.0 - c, up) && has(1300.0 + c, up), "{:?}", d.corners);
}

/// In inches the figures are the same lengths to the nearest sixteenth.
#[rstest]
#[case("in", 16)]
#[case("in", 32)]
#[case("mm", 16)]
fn both_systems_tell_one_length(#[case] system: &str, #[case] denominator: u32) {
    let mut doc: Value = box_van();
    doc["units"] = json!({"system": system, "tape": system, "denominator": denominator});
    for part in plan(&doc).parts {
        for f in [&part.w, &part.h, &part.thickness] {
            let mm: f64 = f.mm.parse().unwrap();
            assert!((mm - f.value).abs() <= 0.05 + 1e-9);
            let inch =
                jigfit_core::units::tape::parse(&f.inch, jigfit_core::units::Unit::In).unwrap();
            assert!((inch - f.value).abs() <= 25.4 / f64::from(denominator) / 2.0 + 1e-9);
        }
    }
}
