//! What one sits at and what doors hang on: numbers by hand.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::plan::Plan;
use rstest::rstest;
use serde_json::{Value, json};

/// A box seat at the left wall, its lid up at 400, and a table of 18 mm before it.
fn at_table(height: f64, along: f64) -> Value {
    let mut doc = bare();
    doc["modules"]["seat"] = json!({"kind": "box_seat", "name": "Seat", "place": {"along": 300, "across": "left_wall"},
        "choices": {"length": 600, "depth": 450, "height": 400}});
    doc["modules"]["table"] = json!({"kind": "table", "name": "Table", "place": {"along": along, "across": "right_wall"},
        "choices": {"width": 500, "depth": 500, "height": height, "opens": "left", "top": 18}});
    doc
}

/// By hand: a table 700 high leaves 700 - 18 - 400 = 282 for thighs and lies 300 over the seat; 590 leaves 172; 780 lies
/// 380 over it. Far off it is not this seat's.
#[rstest]
#[case(700.0, Some((Severity::Fine, "282 mm under it")))]
#[case(590.0, Some((Severity::Look, "only 172 mm are under it")))]
#[case(780.0, Some((Severity::Look, "it lies 380 mm over the seat")))]
fn knees_under_a_table(#[case] height: f64, #[case] said: Option<(Severity, &str)>) {
    let doc = at_table(height, 300.0);
    let f = finding(&plan(&doc), "knee.").cloned();
    let said = said.unwrap();
    let f = f.unwrap();
    assert_eq!(f.level, said.0);
    assert!(f.sentence.contains(said.1), "{}", f.sentence);
    // What is offered makes it right.
    if f.level != Severity::Fine {
        let then = plan(&after(&doc, &f.offers[0].patch));
        assert_eq!(level(&then, "knee."), Some(Severity::Fine));
    }
    assert!(finding(&plan(&at_table(height, 1480.0)), "knee.").is_none());
}

fn cabinet(choices: Value) -> Plan {
    let mut doc = bare();
    let mut all = json!({"width": 630, "depth": 350, "height": 630, "rows": 1, "columns": 1, "front": "doors", "hinges": "cup", "opens": "right"});
    for (k, v) in choices.as_object().unwrap() {
        all[k] = v.clone();
    }
    doc["modules"]["c"] =
        json!({"kind": "cabinet", "place": {"along": 300, "across": "left_wall"}, "choices": all});
    plan(&doc)
}

/// Cups of 35 mm, their rim 3 mm from the edge, 4 1/2 in from the ends (common practice, no source): middles 20.5 and 114.3
/// in, to the marks that a tape has. A door of 630 - 30 + 2 x 6 = 612, the other end alike; a flap has them along its lower edge.
#[rstest]
#[case("doors", [[20.0, 114.0], [20.0, 498.0]])]
#[case("flaps", [[114.0, 20.0], [498.0, 20.0]])]
fn cups_of_hinges(#[case] front: &str, #[case] want: [[f64; 2]; 2]) {
    let p = cabinet(json!({"front": front}));
    let part = p
        .parts
        .iter()
        .find(|p| p.features.iter().any(|f| f.kind == "bore"))
        .unwrap();
    let (w, h) = (part.w.value, part.h.value);
    let bores: Vec<[f64; 2]> = part
        .features
        .iter()
        .filter(|f| f.kind == "bore")
        .map(|f| f.at)
        .collect();
    assert_eq!(bores.len(), 2);
    for b in &bores {
        // From whichever side it turns on.
        let near = |a: [f64; 2]| {
            want.iter()
                .any(|q| (a[0] - q[0]).abs() <= 1.5 && (a[1] - q[1]).abs() <= 1.5)
        };
        assert!(near(*b) || near([w - b[0], b[1]]), "{b:?} of {w} x {h}");
    }
    // They do not go through.
    assert!(part.outline.holes.is_empty());
    assert!(
        p.hardware
            .iter()
            .any(|h| h.what.starts_with("cup hinge") && h.count == 2)
    );
    let body = &p.modules[0].bodies[0];
    assert!(body.motion.whole() <= 110.0);
}
