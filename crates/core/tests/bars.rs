//! Lumber and metal angle: what is sold by length carries a deck, is cut to length only, and metal is bolted.

use crate::common::*;
use jigfit_core::geometry::Point;
use jigfit_core::mechanics::beam::{Beam, Load};
use jigfit_core::mechanics::material::{Grain, built_in};
use jigfit_core::parts::Part;
use jigfit_core::plan::Plan;
use rstest::rstest;
use serde_json::{Value, json};

fn deck(supports: Value) -> Value {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["supports"] = supports;
    doc
}

fn carried(supports: Value) -> Plan {
    plan(&deck(supports))
}

/// An angle of 40 x 40 x 4 bends as its second moment of area says, 4.47 cm4 (EN 10056-1, from memory), in steel of 210 GPa: under
/// 1 N/mm over 1200 mm 5 x 1200^4 / (384 x 210000 x 44700) = 2.876 mm. It weighs 2.42 kg/m. EN 338 class C24: 11 GPa.
#[test]
fn bars_are_as_stiff_as_the_tables_say() {
    let angle = built_in("steel-angle-40").unwrap();
    let bent = |m: &jigfit_core::mechanics::material::Material| {
        let (depth, width) = m.section().unwrap();
        let beam = Beam {
            spans: vec![1200.0],
            width,
            depth,
            e: m.modulus(depth, Grain::Along).unwrap(),
            loads: vec![Load::Uniform {
                q: 1.0,
                from: 0.0,
                to: 1200.0,
            }],
        };
        beam.bend().unwrap().max_deflection
    };
    assert!((bent(&angle) - 2.876).abs() < 0.001, "{}", bent(&angle));
    assert!((angle.density * 40.0 * 40.0 * 1e-6 - 2.42).abs() < 1e-9);
    // 38 deep, 89 wide: 38^3 x 89 / 12 = 406 967 mm4.
    let spruce = built_in("spruce-38x89").unwrap();
    assert!(
        (bent(&spruce) - 5.0 * 1200.0_f64.powi(4) / (384.0 * 11000.0 * 406_967.0)).abs() < 0.001
    );
}

/// Legs of lumber 38 thick and 89 wide under rails of the same; the chain is shorter by the deeper rail: 300 - 89.
#[test]
fn legs_of_lumber() {
    let p = carried(json!({"manner": "legs", "material": "spruce-38x89"}));
    let part = |role: &str| {
        let id = p.boards.iter().find(|b| b.role == role).unwrap().id.clone();
        p.parts.iter().find(|q| q.boards.contains(&id)).unwrap()
    };
    let (leg, rail) = (part("leg"), part("rail"));
    assert!((leg.w.value - 211.0).abs() < 1e-6 && (leg.h.value - 89.0).abs() < 1e-6);
    assert!((leg.thickness.value - 38.0).abs() < 1e-6 && (rail.h.value - 89.0).abs() < 1e-6);
    let group = p
        .sheets
        .iter()
        .find(|g| g.material == "spruce-38x89")
        .unwrap();
    // Cut to length only: no cut runs along the bar, none is trimmed.
    for s in &group.sheets {
        assert_eq!((s.w.value, s.h.value), (2400.0, 89.0));
        assert!(s.cuts.iter().all(|c| c.axis == "x"), "{:?}", s.cuts);
        assert!(s.first.is_empty());
    }
    // By hand: no more bars than lengths and kerfs fill, with a bar for each rail at the most.
    let long: f64 = p
        .parts
        .iter()
        .filter(|q| q.material == "spruce-38x89")
        .map(|q| (q.w.value + 3.0) * f64::from(q.count))
        .sum();
    let rails = p.boards.iter().filter(|b| b.role == "rail").count();
    let used = group.nest.sheets_used;
    assert!(
        used >= (long / 2400.0).ceil() as usize && used <= rails,
        "{used}: {long}"
    );
    assert!(
        p.findings
            .iter()
            .any(|f| f.id.starts_with("nest.spruce") && f.sentence.contains("bars"))
    );
}

/// Ledgers of angle along both walls, 2 m less their clearance: five fixings (five on 80 in: common practice, no source); rails
/// bolted to them; the deck screwed on from below, no further apart than four on a bar of 5 ft (common practice, no
/// source): three over half the width.
#[test]
fn ledgers_of_angle() {
    let p = carried(json!({"manner": "ledgers", "material": "steel-angle-40", "lines": 5}));
    let ledger = p
        .parts
        .iter()
        .find(|q| q.name.starts_with("ledger"))
        .unwrap();
    assert!(
        ledger
            .then
            .iter()
            .any(|t| t.starts_with("5 holes, 50 mm from each end")),
        "{:?}",
        ledger.then
    );
    let joint = |a: &str, b: &str| {
        let own = p.joints.iter().find(|j| j.a.contains(a) && j.b.contains(b));
        own.map(|j| j.words.clone()).unwrap_or_default()
    };
    assert_eq!(
        joint("/rail", "/ledger"),
        "2 x bolt with washers and lock nut M8 x 25 mm, through a plate 80 mm x 40 mm x 4 mm"
    );
    let on = joint("/panel", "/rail");
    // 15 + 4 - 3 = 16 mm: it does not come out on top.
    assert!(
        on.ends_with("through holes drilled in the metal 4 x 16 mm") && on.starts_with("3 x "),
        "{on}"
    );
    // 2.42 kg for each metre.
    let metres = ledger.w.value / 1000.0;
    assert!(
        (ledger.mass - 2.42 * metres).abs() < 0.02,
        "{} {metres}",
        ledger.mass
    );
    assert!(finding(&p, "rattle").is_some_and(|f| f.sentence.contains("creaks")));
    // A rail of 40 mm sags by its own stiffness, not by that of ply.
    let f = finding(&p, "sag.rail.deck").unwrap();
    assert!(f.sentence.contains("40 mm deep"), "{}", f.sentence);
}

/// A rail meets a ledger end to side: a plate 80 long, a bolt 20 off the joint in each, down through the legs that lie level, and the
/// board over them bored for both heads: 40 apart, wider than a washer of 16 (ISO 7089, from memory).
#[test]
fn rails_of_angle_are_bolted_to_plates() {
    let p = carried(json!({"manner": "ledgers", "material": "steel-angle-40", "lines": 5}));
    let part = |name: &str| p.parts.iter().find(|q| q.name.starts_with(name)).unwrap();
    let bolts = |q: &Part| -> Vec<Point> {
        let rows = q.screws.iter().filter(|r| r.what.starts_with("bolt"));
        rows.inspect(|r| assert!(r.words.contains("in the middle of the leg that lies level")))
            .flat_map(|r| r.at.clone())
            .collect()
    };
    let rail = part("rail");
    let mut ends: Vec<f64> = bolts(rail).iter().map(|at| at[0]).collect();
    ends.sort_by(f64::total_cmp);
    assert!((ends[0] - 20.0).abs() <= 1.0, "{ends:?}");
    assert!((rail.w.value - ends[ends.len() - 1] - 20.0).abs() <= 1.0);
    assert_eq!(bolts(part("ledger")).len(), 5);
    let joints = p
        .joints
        .iter()
        .filter(|j| j.a.contains("/rail") && j.b.contains("/ledger"));
    let plate = p
        .hardware
        .iter()
        .find(|h| h.what.starts_with("steel plate"))
        .unwrap();
    assert_eq!(plate.count as usize, joints.count());
    let bores: Vec<Point> = p
        .parts
        .iter()
        .filter(|q| q.name.starts_with("deck"))
        .flat_map(|q| &q.screws)
        .filter(|r| r.what == "from below, 8 mm deep: room for a bolt's head")
        .flat_map(|r| {
            assert_eq!(r.diameter.as_ref().unwrap().value, 20.0);
            r.at.clone()
        })
        .collect();
    assert_eq!(bores.len() as u32, 2 * plate.count);
    let nearest = |a: &Point| {
        let others = bores.iter().filter(|b| *b != a);
        others
            .map(|b| (a[0] - b[0]).hypot(a[1] - b[1]))
            .fold(f64::INFINITY, f64::min)
    };
    assert!(
        bores.iter().all(|b| (nearest(b) - 40.0).abs() <= 1.5),
        "{bores:?}"
    );
}

/// A post of angle under a rail: the plate stands behind both, no head is on top.
#[test]
fn posts_of_angle_are_bolted_to_plates() {
    let p = carried(json!({"manner": "legs", "material": "steel-angle-40"}));
    let leg = p.parts.iter().find(|q| q.name.starts_with("leg")).unwrap();
    let bolt = leg
        .screws
        .iter()
        .find(|r| r.what.starts_with("bolt"))
        .unwrap();
    assert!(
        (leg.w.value - bolt.at[0][0] - 20.0).abs() <= 1.0,
        "{}",
        bolt.words
    );
    assert!((bolt.at[0][1] - 20.0).abs() <= 1.0, "{}", bolt.words);
    let panels = p.parts.iter().filter(|q| q.name.starts_with("deck"));
    assert!(panels.flat_map(|q| &q.screws).next().is_none());
}

/// In inches a bar is not ripped for what the marks round off.
#[test]
fn bars_in_inches() {
    let mut doc = deck(json!({"manner": "legs", "material": "steel-angle-40"}));
    doc["units"] = json!({"system": "in", "tape": "in"});
    let p = plan(&doc);
    let group = p
        .sheets
        .iter()
        .find(|g| g.material == "steel-angle-40")
        .unwrap();
    assert!(
        group
            .sheets
            .iter()
            .flat_map(|s| &s.cuts)
            .all(|c| c.axis == "x")
    );
    assert!(p.joints.iter().any(|j| j.words.contains("5/16 x 1 in")));
}

#[rstest]
#[case(json!({"supports": {"manner": "frames", "material": "steel-angle-40"}}), "/supports/manner")]
#[case(json!({"material": "spruce-38x89"}), "/material")]
fn boards_are_cut_from_sheets(#[case] choices: Value, #[case] at: &str) {
    let mut doc = box_van();
    for (k, v) in choices.as_object().unwrap() {
        doc["modules"]["deck"]["choices"][k] = v.clone();
    }
    let problem = jigfit_core::furniture::read(doc).unwrap_err();
    assert_eq!(problem.pointer, format!("/modules/deck/choices{at}"));
    let mut doc = bare();
    doc["modules"]["c"] = json!({"kind": "cabinet", "choices": {"material": "spruce-38x89"}});
    assert_eq!(
        jigfit_core::furniture::read(doc).unwrap_err().pointer,
        "/modules/c/choices/material"
    );
}

/// A bar of one's own is a material like any other; two thicknesses, no width or a length of nothing are refused at the field.
#[rstest]
#[case(json!({"width": 0, "length": 2000}), 1, "/bar/width")]
#[case(json!({"width": 40, "length": 1}), 1, "/bar/length")]
#[case(json!({"width": 40, "length": 2000}), 2, "/grades")]
fn bars_of_ones_own(#[case] bar: Value, #[case] grades: usize, #[case] at: &str) {
    let own = |bar: Value, n: usize| {
        let grades: Vec<Value> = (0..n)
            .map(|i| json!({"thickness": 30 + i, "e_along": 9000, "e_across": 300, "f_along": 20, "f_across": 2}))
            .collect();
        let mut doc = deck(json!({"manner": "legs", "material": "batten"}));
        doc["materials"] = json!({"batten": {"name": "batten", "density": 450, "has_grain": true, "source": "ours", "grades": grades, "bar": bar}});
        doc
    };
    let problem = jigfit_core::furniture::read(own(bar, grades)).unwrap_err();
    assert_eq!(problem.pointer, format!("/materials/batten{at}"));
    let p = plan(&own(json!({"width": 60, "length": 2000}), 1));
    assert!(
        p.parts
            .iter()
            .any(|q| (q.h.value - 60.0).abs() < 1e-6 && (q.thickness.value - 30.0).abs() < 1e-6)
    );
}

/// Wells from 600 to 1300 on both walls, higher than the deck: no ledger runs there, and no rail stands between two of them. The third
/// of five, at 1000, stands in front of them instead, its 40 mm whole on a ledger each.
#[test]
fn rails_stand_beside_wells() {
    let doc = deck(json!({"manner": "ledgers", "material": "steel-angle-40", "lines": 5}));
    let p = plan(&with_wells(doc));
    let rails: Vec<_> = p.boards.iter().filter(|b| b.role == "rail").collect();
    let mut at: Vec<f64> = rails.iter().map(|b| b.poses["drive"].origin[0]).collect();
    at.sort_by(f64::total_cmp);
    assert_eq!(rails.len(), 5, "{at:?}");
    assert!((1300.0..1320.0).contains(&at[2]), "{at:?}");
    for r in &rails {
        let joints = p.joints.iter();
        let hung = joints.filter(|j| j.a == r.id && j.b.contains("/ledger"));
        assert_eq!(hung.count(), 2, "{}", r.id);
    }
    assert!(finding(&p, "stand").is_none());
}

/// A joint between the wells asks for a rail where no ledger is: told, with a change that helps.
#[test]
fn a_rail_without_a_ledger_is_told() {
    let mut doc = deck(json!({"manner": "ledgers", "material": "steel-angle-40"}));
    doc["modules"]["deck"]["choices"]["change"] = json!("slide");
    doc["modules"]["deck"]["choices"]["joint"] = json!(1000.0);
    let doc = with_wells(doc);
    let p = plan(&doc);
    let f = finding(&p, "stand").unwrap();
    let words =
        "A rail of the deck has no ledger to hang on here: 1000 mm from the threshold, left";
    assert!(f.sentence.starts_with(words), "{}", f.sentence);
    let offer = &f.offers[0];
    assert_eq!(offer.label, "Carry it on legs");
    let helped = plan(&after(&doc, &offer.patch));
    assert!(finding(&helped, "stand").is_none());
}
