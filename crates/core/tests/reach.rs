//! What must be in reach, and lies in a piece of furniture. By hand in a bay 2000 long: an arm reaches 700.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::plan::Plan;
use rstest::rstest;
use serde_json::{Value, json};

/// A box 700 long with a lid that begins so far in, and a lamp in it.
fn boxed(along: f64, reach: &str) -> Value {
    let mut doc = bare();
    doc["modules"]["b"] = json!({"kind": "box_seat", "place": {"along": along, "across": "left_wall"},
        "choices": {"length": 700, "depth": 450, "height": 280}});
    doc["gear"]["lamp"] = json!({"name": "Lamp", "w": 150, "d": 150, "h": 120, "reach": reach});
    doc
}

fn told(p: &Plan) -> Option<(Severity, &str)> {
    let f = p.findings.iter().find(|f| f.id == "reach.lamp")?;
    Some((f.level, f.sentence.as_str()))
}

/// Its front end 2000 - 800 = 1200 behind the seats, or 2000 - 1600 = 400; its rear end 100 in, or 900.
#[rstest]
#[case(100.0, "driving", Severity::Look, "which is 1200 mm behind the seats.")]
#[case(
    900.0,
    "driving",
    Severity::Fine,
    "is in reach while driving, in the box seat."
)]
#[case(
    100.0,
    "outside",
    Severity::Fine,
    "is in reach from outside, in the box seat."
)]
#[case(
    900.0,
    "outside",
    Severity::Look,
    "which is 900 mm from the nearest door."
)]
fn a_box_with_a_lid(
    #[case] along: f64,
    #[case] reach: &str,
    #[case] level: Severity,
    #[case] words: &str,
) {
    let p = plan(&boxed(along, reach));
    let (is, says) = told(&p).unwrap();
    assert_eq!(is, level, "{says}");
    assert!(says.ends_with(words), "{says}");
}

/// A door in the left wall from 1000 to 1700: the box stands at that wall.
#[test]
fn by_a_side_door() {
    let mut doc = boxed(900.0, "outside");
    doc["survey"]["openings"]["side"] =
        json!({"name": "side door", "side": "left", "from": 1000, "sill": 0});
    for (dim, typed) in [("width_floor", "700"), ("height", "900")] {
        doc["survey"]["readings"][format!("s{dim}")] =
            reading(json!({"of": "opening", "dim": dim, "id": "side"}), typed);
    }
    assert_eq!(told(&plan(&doc)).unwrap().0, Severity::Fine);
}

/// While no door is measured nobody knows whether it is had from outside.
#[test]
fn without_a_door_nothing_is_said() {
    let mut doc = boxed(100.0, "outside");
    let readings = doc["survey"]["readings"].as_object_mut().unwrap();
    readings.retain(|_, r| r["quantity"]["of"] != "opening");
    assert_eq!(told(&plan(&doc)), None);
}

/// Without a bed nobody asks. With one in front of the box, 1100 to 2000 in, it is near; one that begins 1600 in is 800 off.
#[rstest]
#[case(None, None)]
#[case(Some(1100.0), Some(Severity::Fine))]
#[case(Some(1600.0), Some(Severity::Look))]
fn from_the_bed(#[case] from: Option<f64>, #[case] level: Option<Severity>) {
    let mut doc = boxed(100.0, "asleep");
    if let Some(from) = from {
        doc["modules"]["deck"] =
            json!({"kind": "deck", "choices": {"underside": 300, "from": from}});
    }
    let p = plan(&doc);
    assert_eq!(told(&p).map(|t| t.0), level, "{:?}", told(&p));
}

/// A drawer below the bed is drawn out past the rear: had from outside, not at night.
#[rstest]
#[case("outside", Severity::Fine, "in the drawer.")]
#[case(
    "asleep",
    Severity::Look,
    "which is drawn out past the rear, which is shut at night."
)]
fn a_drawer(#[case] reach: &str, #[case] level: Severity, #[case] words: &str) {
    let mut doc = boxed(100.0, reach);
    doc["gear"]["lamp"]["h"] = json!(60);
    let modules = doc["modules"].as_object_mut().unwrap();
    modules.clear();
    modules.insert(
        "deck".into(),
        json!({"kind": "deck", "choices": {"underside": 400}}),
    );
    add(
        &mut doc,
        "drawer",
        &[("across", "centred"), ("along", "50")],
    )
    .unwrap();
    let p = plan(&doc);
    let (is, says) = told(&p).unwrap();
    assert_eq!(is, level, "{says}");
    assert!(says.ends_with(words), "{says}");
}
