//! The project's sheets: a person follows the cut list with a fence and gets the parts.

use crate::common::*;
use jigfit_core::cutting::sheets::SheetView;
use jigfit_core::mechanics::material::PartGrain;
use jigfit_core::plan::Plan;
use jigfit_core::project::stock::usable;
use rstest::rstest;
use serde_json::{Value, json};

fn sheets(p: &Plan) -> Vec<&SheetView> {
    p.sheets.iter().flat_map(|g| &g.sheets).collect()
}

/// Follows the fence settings, not the places: every cut is set from the edge of some present piece
/// and leaves exactly the parts among its pieces.
fn follow(sheet: &SheetView, kerf: f64, trim: f64) -> Vec<(f64, f64, f64, f64)> {
    let mut pieces = vec![(trim, trim, sheet.w.value - trim, sheet.h.value - trim)];
    for c in &sheet.cuts {
        let x = c.axis == "x";
        let i = pieces
            .iter()
            .position(|p| {
                let (lo, hi, from, to) = if x {
                    (p.0, p.2, p.1, p.3)
                } else {
                    (p.1, p.3, p.0, p.2)
                };
                (from - c.from).abs() < 0.01
                    && (to - c.to).abs() < 0.01
                    && c.at.value > lo
                    && c.at.value < hi
                    && (lo + c.set.value - c.at.value).abs() < 0.01
            })
            .unwrap_or_else(|| panic!("cut {} of {}: {} has no piece", c.n, sheet.mark, c.text));
        let p = pieces.remove(i);
        assert!((c.length.value - (c.to - c.from)).abs() < 1e-9);
        let at = c.at.value;
        if x {
            pieces.push((p.0, p.1, at, p.3));
            pieces.push((at + kerf, p.1, p.2, p.3));
        } else {
            pieces.push((p.0, p.1, p.2, at));
            pieces.push((p.0, at + kerf, p.2, p.3));
        }
    }
    pieces
}

#[rstest]
#[case("moth")]
#[case("kingfisher")]
fn the_fence_settings_lead_to_the_parts(#[case] name: &str) {
    let p = plan(&demo(name));
    let mut cut = 0;
    for sheet in sheets(&p) {
        let mut pieces = follow(sheet, 3.0, 5.0);
        for part in &sheet.parts {
            let i = pieces
                .iter()
                .position(|q| {
                    (q.0 - part.x).abs() < 0.01
                        && (q.1 - part.y).abs() < 0.01
                        && (q.2 - q.0 - part.w).abs() < 0.01
                        && (q.3 - q.1 - part.h).abs() < 0.01
                })
                .unwrap_or_else(|| panic!("{} is not free on {}", part.mark, sheet.mark));
            pieces.remove(i);
            cut += 1;
        }
    }
    assert_eq!(cut, p.parts.iter().map(|p| p.count).sum::<u32>());
}

#[test]
fn grain_is_kept() {
    let p = plan(&demo("moth"));
    for sheet in sheets(&p) {
        for placed in &sheet.parts {
            let part = p.parts.iter().find(|q| q.id == placed.part).unwrap();
            // A part that asks for its grain asks for it along its width here, and so has the sheet.
            assert!(
                !placed.rotated || part.grain == PartGrain::Free,
                "{}",
                part.mark
            );
        }
    }
}

#[test]
fn without_stock_a_usual_sheet_is_assumed_and_said() {
    let p = plan(&box_van());
    assert!(p.sheets[0].assumed);
    assert!(finding(&p, "nest.").unwrap().sentence.contains("assumed"));
    assert_eq!(
        usable(&project(&box_van()), "birch-ply", 15.0),
        (2430.0, 1210.0)
    );
}

#[test]
fn the_users_sheet_decides_where_the_deck_is_parted() {
    let mut doc = box_van();
    doc["stock"] = json!({"big": {"material": "birch-ply", "thickness": 15, "w": 3050, "h": 1525, "cost": 120}});
    // 1993.6 x 1393.6 lies on 3040 x 1515 whole, and 1393.6 turned goes through 1200 x 1100.
    let p = plan(&doc);
    assert_eq!(
        p.parts.iter().filter(|p| p.mark.starts_with('D')).count(),
        1
    );
    assert!(p.cost >= 120.0);
    doc["stock"]["big"]["thickness"] = json!(18);
    assert_eq!(
        plan(&doc)
            .parts
            .iter()
            .filter(|p| p.mark.starts_with('D'))
            .count(),
        2
    );
}

#[test]
fn too_few_sheets_are_told_not_ignored() {
    let mut doc = box_van();
    doc["stock"] = json!({"one": {"material": "birch-ply", "thickness": 15, "w": 2440, "h": 1220, "count": 1}});
    let p = plan(&doc);
    assert!(
        p.sheets[0]
            .problem
            .as_ref()
            .unwrap()
            .contains("more sheets")
    );
    assert_eq!(
        level(&p, "nest."),
        Some(jigfit_core::checks::Severity::Stop)
    );
}

#[test]
fn two_thicknesses_are_two_tasks() {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["supports"] = json!({"thickness": 12, "manner": "legs"});
    let p = plan(&doc);
    let mut stuff: Vec<&str> = p.sheets.iter().map(|g| g.thickness.mm.as_str()).collect();
    stuff.sort_unstable();
    assert_eq!(stuff, ["12", "15"]);
    // Marks run on over both.
    let marks: Vec<&str> = sheets(&p).iter().map(|s| s.mark.as_str()).collect();
    for (i, mark) in marks.iter().enumerate() {
        assert_eq!(*mark, format!("S{}", i + 1));
    }
}

#[test]
fn offcuts_are_named_and_are_what_is_left() {
    let p = plan(&demo("moth"));
    for sheet in sheets(&p) {
        let parts: f64 = sheet.parts.iter().map(|p| p.w * p.h).sum();
        let kept: f64 = sheet.offcuts.iter().map(|o| o.w.value * o.h.value).sum();
        assert!(parts + kept <= sheet.w.value * sheet.h.value);
        for (i, o) in sheet.offcuts.iter().enumerate() {
            assert_eq!(
                o.mark,
                format!("{}-{}", sheet.mark, char::from(b'a' + i as u8))
            );
        }
    }
}

#[test]
fn stages_say_how_they_stand() {
    let by = |p: &Plan, id: &str| p.stages.iter().find(|s| s.id == id).unwrap().clone();
    let p = plan(&demo("moth"));
    // The demo's survey is good enough to plan by; checks are still owed before cutting by it.
    assert_eq!(by(&p, "survey").state, "needs");
    assert!(by(&p, "cut").note.ends_with(" sheets"));
    let mut doc: Value = box_van();
    doc["gear"] = json!({"a": {"name": "A"}});
    let p = plan(&doc);
    // Height, width and depth of the one thing.
    assert_eq!(
        (by(&p, "stow").state.as_str(), by(&p, "stow").needs),
        ("needs", 3)
    );
    doc["modules"]["deck"]["choices"]["underside"] = Value::Null;
    let p = plan(&doc);
    assert_eq!(by(&p, "heights").state, "needs");
    assert_eq!(by(&p, "parts").state, "empty");
}
