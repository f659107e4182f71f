//! Accepted sheets: they stay where they are, what no longer matches is told, what is cut freezes.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::cutting::accepted::{Standing, accept, ticks};
use jigfit_core::cutting::nest::Tried;
use jigfit_core::cutting::sheets::{Keep, SheetView, lay_out};
use jigfit_core::plan::Plan;
use rstest::rstest;
use serde_json::{Value, json};

/// The document with its sheets as they lie accepted.
fn accepted(mut doc: Value) -> Value {
    let project = project(&doc);
    let p = plan(&doc);
    let layout = accept(&p.sheets, &p.parts, &project);
    doc["cutting"]["ticked"] = serde_json::to_value(ticks(&project, &p.sheets)).unwrap();
    doc["cutting"]["accepted"] = serde_json::to_value(layout).unwrap();
    doc
}

fn sheets(p: &Plan) -> Vec<&SheetView> {
    p.sheets.iter().flat_map(|g| &g.sheets).collect()
}

/// Where every part lies, and every cut.
fn layout(p: &Plan) -> Value {
    let all = sheets(p);
    let each = all.iter().map(|s| {
        let parts: Vec<_> = s
            .parts
            .iter()
            .map(|p| (&p.part, p.x, p.y, p.w, p.h))
            .collect();
        let cuts: Vec<_> = s
            .cuts
            .iter()
            .map(|c| (c.n, &c.text, c.from, c.to))
            .collect();
        json!([s.mark, parts, cuts])
    });
    each.collect()
}

fn tick(doc: &mut Value, keys: impl IntoIterator<Item = String>) {
    for key in keys {
        doc["cutting"]["ticked"][key] = json!("2026-11-20T09:00:00Z");
    }
}

#[rstest]
#[case("moth")]
#[case("kingfisher")]
fn accepting_moves_nothing(#[case] name: &str) {
    let doc = demo(name);
    let before = plan(&doc);
    let after = plan(&accepted(doc));
    assert_eq!(layout(&before), layout(&after));
    assert!(sheets(&after).iter().all(|s| s.accepted));
    assert_eq!(before.parts, after.parts);
    assert_eq!(before.cost, after.cost);
    assert_eq!(level(&after, "accepted"), Some(Severity::Fine));
    assert_eq!(level(&before, "accepted"), None);
}

/// A change that moves a part on fresh sheets leaves accepted ones alone: the parts that differ are told by name.
#[test]
fn a_change_is_told_and_moves_nothing() {
    let mut doc = accepted(demo("moth"));
    let before = layout(&plan(&doc));
    doc["modules"]["drawer"]["choices"]["width"] = json!(400.0);
    let p = plan(&doc);
    assert_eq!(before, layout(&p));
    let changed: Vec<&str> = sheets(&p)
        .iter()
        .flat_map(|s| &s.parts)
        .filter(|p| p.standing == Standing::Changed)
        .map(|p| p.part.as_str())
        .collect();
    // By hand: all that is as wide as the drawer; sides keep their length and height.
    for (part, is) in [
        ("drawer/carcass-bottom", true),
        ("drawer/face", true),
        ("drawer/box-front", true),
        ("drawer/box-right", false),
        ("drawer/carcass-left", false),
        ("deck/panel-1", false),
    ] {
        assert_eq!(changed.contains(&part), is, "{part} {changed:?}");
        // Its card says so too: nobody cuts one by the other.
        let holds = |q: &&jigfit_core::parts::Part| q.boards.iter().any(|b| b == part);
        let card = p.parts.iter().find(holds).unwrap();
        let told = card
            .then
            .iter()
            .any(|t| t.contains("was accepted with this board"));
        assert_eq!(told, is, "{part} {:?}", card.then);
    }
    // The face was as wide as the drawer, less what is wanted now.
    let face = p.parts.iter().find(|q| q.id == "drawer/face").unwrap();
    let then = plan(&demo("moth"));
    let then = then.parts.iter().find(|q| q.id == "drawer/face").unwrap();
    let words = format!("{} x {} mm", then.w.mm, then.h.mm);
    assert!(face.then[0].contains(&words), "{} {words}", face.then[0]);
    assert!(face.w.value != then.w.value);
    let f = finding(&p, "accepted.changed").unwrap();
    assert_eq!((f.level, f.check.as_str()), (Severity::Stop, "accepted"));
}

/// What is added goes on a sheet of its own, first fit, and so do the two pieces into which its way out parts a frame of the deck; what is
/// taken away stays drawn as not needed.
#[test]
fn new_and_needless_parts_are_told() {
    let mut doc = accepted(demo("moth"));
    let before = sheets(&plan(&doc)).len();
    let mut extra = doc["modules"]["drawer"].clone();
    extra["place"]["along"] = json!(700.0);
    doc["modules"]["second"] = extra;
    let p = plan(&doc);
    let all = sheets(&p);
    assert!(all.len() > before);
    let fresh: Vec<_> = all.iter().filter(|s| !s.accepted).collect();
    assert!(
        fresh
            .iter()
            .flat_map(|s| &s.parts)
            .all(|p| p.part.starts_with("second/") || p.part.starts_with("deck/frame-2-"))
    );
    // Names go on; none is used twice.
    let mut names: Vec<&str> = all.iter().map(|s| s.mark.as_str()).collect();
    names.sort_unstable();
    names.dedup();
    assert_eq!(names.len(), all.len());
    assert_eq!(level(&p, "accepted.new"), Some(Severity::Look));
    doc["modules"].as_object_mut().unwrap().remove("second");
    doc["modules"].as_object_mut().unwrap().remove("drawer");
    let p = plan(&doc);
    assert_eq!(sheets(&p).iter().filter(|s| s.accepted).count(), before);
    assert_eq!(level(&p, "accepted.gone"), Some(Severity::Look));
}

/// A part is cut once all cuts that bound it are ticked; then a change of it is a stop of its own.
#[test]
fn a_cut_part_freezes() {
    let mut doc = accepted(demo("moth"));
    let face = |p: &Plan| {
        let all = sheets(p);
        let (s, part) = all
            .iter()
            .flat_map(|s| s.parts.iter().map(move |p| (*s, p)))
            .find(|(_, p)| p.part == "drawer/face")
            .unwrap();
        (
            s.mark.clone(),
            part.cut,
            s.cuts.iter().map(|c| c.key.clone()).collect::<Vec<_>>(),
        )
    };
    let (_, cut, keys) = face(&plan(&doc));
    assert!(!cut && !keys.is_empty());
    // All but the last cut that bounds it: still in the sheet. One after the other, until it is free.
    let mut needed = 0;
    for key in &keys {
        tick(&mut doc, [key.clone()]);
        needed += 1;
        if face(&plan(&doc)).1 {
            break;
        }
    }
    assert!(
        face(&plan(&doc)).1 && needed > 1,
        "{needed} of {}",
        keys.len()
    );
    // Whatever else changes is no matter; the face is.
    assert!(finding(&plan(&doc), "cut.").is_none());
    doc["modules"]["drawer"]["choices"]["width"] = json!(400.0);
    let p = plan(&doc);
    let f = finding(&p, "cut.drawer/face").unwrap();
    assert_eq!(f.level, Severity::Stop);
    let card = &p.parts.iter().find(|q| q.id == "drawer/face").unwrap().then[0];
    assert!(
        card.starts_with("it was cut from sheet") && card.contains("416 x 196 mm"),
        "{card}"
    );
    assert!(
        f.sentence
            .contains("is cut, 416 x 196 mm: the plan wants 396 x 196 mm now"),
        "{}",
        f.sentence
    );
    // A part that only lies on the sheet is told with the rest.
    assert!(finding(&p, "accepted.changed").is_some());
}

/// Laid out again, sheets that were begun stay; the rest is laid out anew, and what changed with it.
#[test]
fn begun_sheets_stay_when_the_rest_is_laid_out_again() {
    let mut doc = accepted(demo("moth"));
    let first = sheets(&plan(&doc))[0].clone();
    tick(&mut doc, [first.cuts[0].key.clone()]);
    doc["modules"]["drawer"]["choices"]["width"] = json!(400.0);
    let project = project(&doc);
    let p = plan(&doc);
    let again = lay_out(&project, &p.parts, Keep::Begun, 0.05, &mut |_| true).unwrap();
    let all: Vec<&SheetView> = again.iter().flat_map(|g| &g.sheets).collect();
    assert_eq!(all.iter().filter(|s| s.accepted).count(), 1);
    let kept = all.iter().find(|s| s.mark == first.mark).unwrap();
    assert_eq!(kept.cuts.len(), first.cuts.len());
    assert!(kept.cuts[0].done);
    // Every part of the plan is there as it is wanted.
    for part in &p.parts {
        let places = all
            .iter()
            .flat_map(|s| &s.parts)
            .filter(|q| q.part == part.id);
        let right = places.filter(|q| q.standing == Standing::Right).count();
        assert_eq!(right, part.count as usize, "{}", part.id);
    }
    // Accepted, it is the plan.
    let stored = accept(&again, &p.parts, &project);
    doc["cutting"]["accepted"] = serde_json::to_value(&stored).unwrap();
    doc["cutting"]["ticked"] = serde_json::to_value(ticks(&project, &again)).unwrap();
    let p = plan(&doc);
    assert!(finding(&p, "accepted.changed").is_none());
    assert!(finding(&p, "accepted.new").is_none());
    assert_eq!(
        sheets(&p)
            .iter()
            .flat_map(|s| &s.cuts)
            .filter(|c| c.done)
            .count(),
        1
    );
}

/// A search is told how far it is, and stops when nobody waits.
#[test]
fn a_search_is_followed_and_stopped() {
    let doc = demo("moth");
    let (project, p) = (project(&doc), plan(&doc));
    let mut seen: Vec<Tried> = Vec::new();
    let found = lay_out(&project, &p.parts, Keep::Begun, 0.3, &mut |t| {
        seen.push(t);
        true
    });
    let better = found
        .unwrap()
        .iter()
        .map(|g| g.nest.sheets_used)
        .sum::<usize>();
    let usual = p.sheets.iter().map(|g| g.nest.sheets_used).sum::<usize>();
    assert!(better <= usual);
    assert!(seen.iter().any(|t| t.done > 0) && seen.iter().all(|t| t.done <= t.of));
    let mut asked = 0;
    let stopped = lay_out(&project, &p.parts, Keep::Begun, 20.0, &mut |_| {
        asked += 1;
        asked < 5
    });
    assert!(stopped.is_none());
    assert_eq!(asked, 5);
}

/// Ticks made before layouts were accepted go over to the accepted one.
#[test]
fn former_ticks_are_taken_over() {
    let mut doc = demo("moth");
    let p = plan(&doc);
    let first = &sheets(&p)[0].cuts[0];
    tick(&mut doc, [first.former.clone()]);
    assert!(sheets(&plan(&doc))[0].cuts[0].done);
    let doc = accepted(doc);
    assert_eq!(
        doc["cutting"]["ticked"],
        json!({ &first.key: "2026-11-20T09:00:00Z" })
    );
    assert!(sheets(&plan(&doc))[0].cuts[0].done);
}

#[rstest]
#[case("/cutting/accepted/sheets/S1/w", json!(-1))]
#[case("/cutting/accepted/sheets/S1/kerf", json!(1e9))]
#[case("/cutting/accepted/sheets/S1/parts/0/part", json!("nothing"))]
#[case("/cutting/accepted/sheets/S1/parts/0/at/2", json!(-5))]
#[case("/cutting/accepted/sheets/S1/cuts/0/to", json!(1e12))]
#[case("/cutting/accepted/sheets/S1/cuts/0/axis", json!("z"))]
#[case("/cutting/accepted/parts/deck~1panel-1/h", json!(0))]
#[case("/cutting/accepted/parts/deck~1panel-1/mark", json!("a\u{7}"))]
fn bad_layouts_are_refused(#[case] pointer: &str, #[case] value: Value) {
    let mut doc = accepted(demo("moth"));
    *doc.pointer_mut(pointer).unwrap() = value;
    let problem = jigfit_core::furniture::read(doc).unwrap_err();
    assert_eq!(problem.pointer, pointer, "{problem}");
}

/// What has changed, by part.
fn changed(p: &Plan) -> Vec<String> {
    let placed = sheets(p).into_iter().flat_map(|s| &s.parts);
    let other = placed.filter(|p| p.standing != Standing::Right);
    let mut ids: Vec<String> = other.map(|p| p.part.clone()).collect();
    ids.dedup();
    ids
}

/// Written to a file and read again.
fn stored(doc: &Value) -> Value {
    serde_json::from_str(&serde_json::to_string(doc).unwrap()).unwrap()
}

/// Accepted, saved and loaded, nothing is changed, whatever the system of units; and where one part is another than was
/// accepted, by three marking steps at one corner, it is that part alone.
fn stays(doc: Value) {
    let doc = stored(&accepted(doc));
    let p = plan(&doc);
    assert_eq!(changed(&p), [] as [&str; 0], "{}", doc["name"]);
    for id in [
        "accepted.changed",
        "accepted.gone",
        "accepted.new",
        "accepted.replaced",
        "cut.",
    ] {
        assert!(finding(&p, id).is_none(), "{id} {}", doc["name"]);
    }
    let step = project(&doc).units.marks().mm();
    let Some(part) = p.parts.iter().find(|q| q.corners.len() == 4) else {
        return;
    };
    for (steps, told) in [(0.4, false), (3.0, true)] {
        let mut doc = doc.clone();
        let then = &mut doc["cutting"]["accepted"]["parts"][&part.id]["corners"][2][0];
        *then = json!(then.as_f64().unwrap() + steps * step);
        let p = plan(&stored(&doc));
        let want: Vec<&str> = if told { vec![part.id.as_str()] } else { vec![] };
        assert_eq!(changed(&p), want, "{} {steps}", doc["name"]);
        assert_eq!(finding(&p, "accepted.changed").is_some(), told);
    }
}

#[rstest]
fn accepted_sheets_of_the_demos_stay(
    #[values("moth", "kingfisher", "wren")] name: &str,
    #[values("mm", "in")] system: &str,
) {
    let mut doc = demo(name);
    doc["units"] = json!({"system": system, "tape": system});
    stays(doc);
}

#[test]
fn accepted_sheets_of_projects_at_random_stay() {
    for seed in 0..200 {
        stays(crate::common::random::random(seed));
    }
}

/// A change of one millimetre is no stop; one of twenty is.
#[rstest]
#[case(1.0, Severity::Look)]
#[case(20.0, Severity::Stop)]
fn a_small_change_is_no_stop(#[case] by: f64, #[case] level: Severity) {
    let mut doc = accepted(demo("moth"));
    let width = doc["modules"]["drawer"]["choices"]["width"]
        .as_f64()
        .unwrap();
    doc["modules"]["drawer"]["choices"]["width"] = json!(width - by);
    let p = plan(&doc);
    assert_eq!(finding(&p, "accepted.changed").unwrap().level, level);
}

/// Some copies of a part lie on a sheet that was begun, the others on one that is laid out anew: none of them is needless,
/// and what is no longer wanted counts for nothing in the yield.
#[test]
fn copies_on_a_begun_sheet_are_still_needed() {
    let mut doc = accepted(demo("moth"));
    let first = sheets(&plan(&doc))[0].clone();
    tick(&mut doc, [first.cuts[0].key.clone()]);
    let width = doc["modules"]["drawer"]["choices"]["width"]
        .as_f64()
        .unwrap();
    doc["modules"]["drawer"]["choices"]["width"] = json!(width - 20.0);
    let project = project(&doc);
    let p = plan(&doc);
    let again = lay_out(&project, &p.parts, Keep::Begun, 0.05, &mut |_| true).unwrap();
    doc["cutting"]["accepted"] = serde_json::to_value(accept(&again, &p.parts, &project)).unwrap();
    doc["cutting"]["ticked"] = serde_json::to_value(ticks(&project, &again)).unwrap();
    let p = plan(&stored(&doc));
    assert!(finding(&p, "accepted.gone").is_none());
    for part in &p.parts {
        let right = sheets(&p).into_iter().flat_map(|s| &s.parts);
        let right = right.filter(|q| q.part == part.id && q.standing == Standing::Right);
        assert_eq!(right.count(), part.count as usize, "{}", part.id);
    }
    for g in &p.sheets {
        let placed = || g.sheets.iter().flat_map(|s| &s.parts);
        let dead = |s: Standing| matches!(s, Standing::Gone | Standing::Replaced);
        let needed: f64 = placed()
            .filter(|p| !dead(p.standing))
            .map(|p| p.w * p.h)
            .sum();
        assert!((g.nest.used_area - needed).abs() < 1.0, "{}", g.stuff);
    }
}
