//! What is bought and slid in: nobody cuts it, but it is in the way, weighs, carries, and has to come through a door.

use crate::common::{add, after, bare, box_van, ends, finding, level, plan};
use jigfit_core::checks::Severity;
use rstest::rstest;
use serde_json::{Value, json};

/// The box van with a cabinet of 500 x 600 x `height` in its middle, 500 in.
fn with(mut doc: Value, height: f64, more: Value) -> Value {
    let mut choices = json!({"width": 600, "depth": 500, "height": height, "mass": 14});
    for (k, v) in more.as_object().unwrap() {
        choices[k] = v.clone();
    }
    doc["modules"]["c"] = json!({"kind": "bought", "name": "drawer unit",
        "place": {"along": 500, "across": "centred"}, "choices": choices});
    doc
}

/// A deck at 400 under which it stands; frames 400 apart at the most.
fn under_a_deck(height: f64) -> Value {
    let mut doc = with(box_van(), height, json!({}));
    doc["modules"]["deck"]["choices"] = json!({"underside": 400.0, "thickness": 15});
    doc["people"] = json!({"a": {"name": "A", "stature": 1700, "mass": 80}});
    doc
}

/// Its box by hand: 500 to 1000 in, 300 to each side, on a board of 12 mm.
#[test]
fn only_the_board_below_it_is_cut() {
    let p = plan(&with(bare(), 350.0, json!({})));
    let cut: Vec<(&str, f64, f64, f64)> = p
        .parts
        .iter()
        .map(|p| (p.id.as_str(), p.w.value, p.h.value, p.thickness.value))
        .collect();
    assert_eq!(cut, [("c/base", 500.0, 600.0, 12.0)]);
    assert_eq!(p.boards.len(), 1);
    let [unit] = &p.bought[..] else {
        panic!("{:?}", p.bought)
    };
    let (low, high) = ends(unit, "drive");
    assert_eq!((low, high), ([500.0, -300.0, 12.0], [1000.0, 300.0, 350.0]));
    let bill = |what: &str| p.hardware.iter().find(|h| h.what.contains(what)).cloned();
    assert_eq!(
        bill("drawer unit").unwrap().size,
        "600 mm x 500 mm x 338 mm"
    );
    assert!(bill("angle bracket").is_some());
    // It is drawn like any other.
    for view in [&p.views.above, &p.views.side, &p.views.behind] {
        assert!(view.iter().any(|s| s.board == "c/unit"));
    }

    let p = plan(&with(bare(), 350.0, json!({"base": "bare"})));
    assert!(p.parts.is_empty() && p.assembly.is_empty());
    assert_eq!(ends(&p.bought[0], "night").0[2], 0.0);
}

/// At the deck's underside it carries the deck, as a cabinet of boards does; 40 mm lower a frame has no room over it, and nothing carries.
#[rstest]
#[case(400.0, true)]
#[case(398.5, true)]
#[case(360.0, false)]
fn a_deck_lies_on_it(#[case] height: f64, #[case] carries: bool) {
    let p = plan(&under_a_deck(height));
    let f = finding(&p, "bridge.deck");
    assert_eq!(f.is_none(), carries, "{f:?}");
    if let Some(f) = f {
        assert!(
            f.sentence.starts_with("Over the drawer unit"),
            "{}",
            f.sentence
        );
    }
}

/// 14 kg beside its board of 0.0036 m3: the sentence names both, and the middle of all of it lies over the middle of the cabinet,
/// (14 kg at 181 mm + 2.45 kg at 6 mm) / 16.45 kg up.
#[test]
fn it_weighs() {
    let doc = with(bare(), 350.0, json!({}));
    let p = plan(&doc);
    let f = finding(&p, "weight").unwrap();
    assert!(
        f.sentence.contains("what is bought 14 kg"),
        "{}",
        f.sentence
    );
    let at: Vec<f64> = f
        .numbers
        .iter()
        .map(|n| n.figure.as_ref().unwrap().value)
        .collect();
    let board = crate::common::project(&doc)
        .material("birch-ply")
        .unwrap()
        .density
        * 0.5
        * 0.6
        * 0.012;
    let up = (14.0 * 181.0 + board * 6.0) / (14.0 + board);
    assert!((at[0] - 750.0).abs() < 0.01 && at[1].abs() < 0.01, "{at:?}");
    assert!((at[2] - up).abs() < 0.01, "{at:?} {up}");
}

/// Another piece that is put into it by hand is told by its name.
#[test]
fn it_is_in_the_way() {
    let mut doc = with(bare(), 350.0, json!({}));
    doc["modules"]["b"] = json!({"kind": "box_seat", "name": "chest", "place": {"along": 900, "across": "centred"},
        "choices": {"length": 500, "depth": 400, "height": 350}});
    let p = plan(&doc);
    let f = finding(&p, "clash").unwrap();
    assert_eq!(f.level, Severity::Stop);
    assert!(f.sentence.contains("drawer unit"), "{}", f.sentence);
    // One that is added finds its own place.
    let mut doc = with(bare(), 350.0, json!({}));
    add(&mut doc, "box_seat", &[]).unwrap();
    assert!(finding(&plan(&doc), "clash").is_none());
}

/// Through an opening of 1200 x 1100: 600 x 500 goes in straight, 1180 x 1150 x 600 lying on its side, 1300 x 1250 x 1200 not at all.
#[rstest]
#[case([600.0, 500.0, 350.0], Severity::Fine)]
#[case([1180.0, 1150.0, 600.0], Severity::Fine)]
#[case([1300.0, 1250.0, 1190.0], Severity::Stop)]
fn it_comes_through_the_door(#[case] size: [f64; 3], #[case] says: Severity) {
    let [w, d, h] = size;
    let doc = with(bare(), h, json!({"width": w, "depth": d, "base": "bare"}));
    let p = plan(&doc);
    assert_eq!(
        level(&p, "door.c/unit"),
        Some(says),
        "{:?}",
        finding(&p, "door")
    );
}

/// With its inside told, gear is stowed in it; the way of its drawers is kept free.
#[test]
fn gear_goes_in_and_drawers_come_out() {
    let inside =
        json!({"inside_width": 560, "inside_depth": 450, "inside_height": 300, "reach": 400});
    let mut doc = with(bare(), 350.0, inside);
    doc["gear"] = json!({"e": {"name": "eyepiece case", "w": 500, "d": 400, "h": 250}});
    let p = plan(&doc);
    assert_eq!(p.stowed, ["eyepiece case"]);
    doc["gear"]["e"]["h"] = json!(310);
    assert!(plan(&doc).stowed.is_empty());

    // Nothing is added in the 400 mm before it.
    add(
        &mut doc,
        "box_seat",
        &[("length", "500"), ("depth", "300"), ("height", "300")],
    )
    .unwrap();
    let p = plan(&doc);
    for b in p.boards.iter().filter(|b| b.module != "c") {
        let (low, high) = ends(b, "drive");
        let before = low[0] < 499.0 && high[0] > 101.0 && low[1] < 299.0 && high[1] > -299.0;
        assert!(!before, "{} {low:?} {high:?}", b.id);
    }
}

/// Its choices are asked for, its mass as a mass, and an edit of them is one press to take back.
#[test]
fn its_form_asks_for_a_mass() {
    let doc = with(bare(), 350.0, json!({}));
    let p = plan(&doc);
    let form = serde_json::to_value(&p.modules[0].form).unwrap();
    let mass = form.as_array().unwrap().iter();
    let mass: Vec<&Value> = mass.filter(|f| f["value"]["kind"] == "mass").collect();
    assert_eq!(mass.len(), 1);
    assert_eq!(mass[0]["pointer"], "/modules/c/choices/mass");
    assert_eq!(mass[0]["value"]["now"], 14.0);
    let heavier = after(
        &doc,
        &json!([{"op": "replace", "path": "/modules/c/choices/mass", "value": 30}]),
    );
    let f = plan(&heavier);
    assert!(finding(&f, "weight").unwrap().sentence.contains("30 kg"));
}
