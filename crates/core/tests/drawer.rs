//! Drawers: sizes against figures of practice (common practice, no source) and worked by hand.

use jigfit_core::compute;
use proptest::prelude::*;
use rstest::rstest;
use serde_json::{Value, json};

fn drawer(input: Value) -> Value {
    compute::run("drawer", input).unwrap().unwrap()
}

fn part<'a>(out: &'a Value, name: &str) -> &'a Value {
    let parts = out["parts"].as_array().unwrap();
    parts.iter().find(|p| p["name"] == name).unwrap()
}

/// The bench drawer of practice (common practice, no source): sides 16 x 55 cm of 15 mm, front and back
/// between them = opening less both slides less 2 x 15; bottom of 9 mm in 5 mm grooves = front + 1 cm wide and
/// side less 2 cm long.
#[test]
fn the_drawer_of_the_bench() {
    let out = drawer(json!({"opening": {"w": 420, "h": 164, "d": 560}, "finish": 0}));
    let (side, front, bottom) = (
        part(&out, "side"),
        part(&out, "front"),
        part(&out, "bottom"),
    );
    assert_eq!(
        (side["w"].as_f64(), side["h"].as_f64()),
        (Some(550.0), Some(160.0))
    );
    let width = 420.0 - 2.0 * 12.7 - 30.0;
    assert!((front["w"].as_f64().unwrap() - width).abs() < 1e-9);
    assert!((bottom["w"].as_f64().unwrap() - (width + 10.0)).abs() < 1e-9);
    assert!((bottom["h"].as_f64().unwrap() - 530.0).abs() < 1e-9);
    assert_eq!(side["count"], 2);
}

/// By hand, opening 420 x 260 x 700 with finish 0.2 a face.
#[rstest]
#[case("side_slides", [394.2, 256.0, 690.0])]
#[case("locking_slides", [394.2, 256.0, 690.0])]
#[case("strips", [415.6, 252.0, 690.0])]
#[case("bare", [415.6, 258.0, 690.0])]
fn the_box_by_motion(#[case] motion: &str, #[case] size: [f64; 3]) {
    let out = drawer(json!({"opening": {"w": 420, "h": 260, "d": 700}, "motion": motion}));
    for (k, v) in ["w", "h", "d"].iter().zip(size) {
        assert!(
            (out["box"][k].as_f64().unwrap() - v).abs() < 1e-9,
            "{}",
            out["box"]
        );
    }
}

/// By hand: the bottom under the sides takes its 9 mm off them; in a rabbet it is 5 mm wider each way.
#[rstest]
#[case("pocket", 247.0, [394.2, 690.0])]
#[case("groove_box", 256.0, [374.2, 670.0])]
#[case("rabbet", 256.0, [374.2, 670.0])]
fn the_bottom_by_joint(#[case] joint: &str, #[case] side: f64, #[case] bottom: [f64; 2]) {
    let out = drawer(json!({"opening": {"w": 420, "h": 260, "d": 700}, "joint": joint}));
    assert!((part(&out, "side")["h"].as_f64().unwrap() - side).abs() < 1e-9);
    let b = part(&out, "bottom");
    assert!((b["w"].as_f64().unwrap() - bottom[0]).abs() < 1e-9, "{b}");
    assert!((b["h"].as_f64().unwrap() - bottom[1]).abs() < 1e-9, "{b}");
    assert!((out["inside"]["h"].as_f64().unwrap() - 247.0).abs() < 1e-9);
}

/// A pull-out board above takes its height off box and face; an inset face shortens the box.
#[test]
fn faces() {
    let opening = json!({"w": 420, "h": 260, "d": 700});
    let out = drawer(json!({"opening": opening, "above": 40,
        "face": {"kind": "overlay", "overlap": 10, "gap": 2, "thickness": 18}}));
    let face = part(&out, "face");
    assert_eq!(
        (face["w"].as_f64(), face["h"].as_f64()),
        (Some(440.0), Some(240.0))
    );
    assert!((out["box"]["h"].as_f64().unwrap() - 216.0).abs() < 1e-9);
    let out =
        drawer(json!({"opening": opening, "face": {"kind": "inset", "gap": 2, "thickness": 18}}));
    let face = part(&out, "face");
    assert_eq!(
        (face["w"].as_f64(), face["h"].as_f64()),
        (Some(416.0), Some(256.0))
    );
    assert!((out["box"]["d"].as_f64().unwrap() - 672.0).abs() < 1e-9);
}

/// Statics by hand: 20 kg at friction 0.25 pull with 0.25 x 20 x 9.80665 = 49.03 N. Pulled 200 mm off its
/// middle over 690 mm: the couple is P x 200, each guide pushes with P x 200 / 690 and drags a quarter of it
/// twice: 0.145 of the pull; a drawer of 90 mm depth jams.
#[rstest]
#[case(700.0, 0.144_927_5, true)]
#[case(100.0, 1.111_111_1, false)]
fn pull_and_jam(#[case] d: f64, #[case] ratio: f64, #[case] ok: bool) {
    let out = drawer(json!({"opening": {"w": 420, "h": 260, "d": d}, "pull_offset": 200}));
    assert!((out["pull_force"].as_f64().unwrap() - 49.033_25).abs() < 1e-9);
    assert!((out["jam"]["ratio"].as_f64().unwrap() - ratio).abs() < 1e-6);
    assert_eq!(out["jam"]["ok"], ok);
}

proptest! {
    /// Put together, the boards make the box: sides and front across, front, back and inside along.
    #[test]
    fn the_boards_make_the_box(w in 100.0..1200.0, h in 60.0..500.0, d in 100.0..1600.0, sides in 6.0..20.0) {
        let out = drawer(json!({"opening": {"w": w, "h": h, "d": d}, "sides": sides}));
        let across = 2.0 * part(&out, "side")["t"].as_f64().unwrap() + part(&out, "front")["w"].as_f64().unwrap();
        prop_assert!((across - out["box"]["w"].as_f64().unwrap()).abs() < 1e-9);
        let along = part(&out, "front")["t"].as_f64().unwrap() + part(&out, "back")["t"].as_f64().unwrap()
            + out["inside"]["d"].as_f64().unwrap();
        prop_assert!((along - part(&out, "side")["w"].as_f64().unwrap()).abs() < 1e-9);
        prop_assert!(out["box"]["w"].as_f64().unwrap() < w && out["box"]["h"].as_f64().unwrap() < h);
    }
}

#[rstest]
#[case(json!({}), "/opening")]
#[case(json!({"opening": {"w": 40, "h": 260, "d": 700}}), "/opening/w")]
#[case(json!({"opening": {"w": 420, "h": 12, "d": 700}}), "/opening/h")]
#[case(json!({"opening": {"w": 420, "h": 260, "d": 30}}), "/opening/d")]
#[case(json!({"opening": {"w": 420, "h": 260, "d": -1}}), "/opening/d")]
#[case(json!({"opening": {"w": 420, "h": 260, "d": 700}, "groove": 15}), "/groove")]
#[case(json!({"opening": {"w": 420, "h": 260, "d": 700}, "motion": "magnets"}), "/motion")]
#[case(json!({"opening": {"w": 420, "h": 260, "d": 700}, "face": {"kind": "inset", "gap": 300}}), "/face")]
#[case(json!({"opening": {"w": 420, "h": 260, "d": 700}, "colour": 1}), "/colour")]
fn bad_input_is_named(#[case] input: Value, #[case] pointer: &str) {
    let problem = compute::run("drawer", input).unwrap().unwrap_err();
    assert_eq!(problem.pointer, pointer, "{problem}");
}
