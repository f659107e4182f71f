//! A rectangle through a rectangle, at and around the boundary of the published inequality
//! (Carver 1957; Wetzel 2000), and against plain trial of every angle.

use jigfit_core::compute;
use jigfit_core::geometry::pass::through;
use proptest::prelude::*;
use rstest::rstest;
use serde_json::{Value, json};

fn pass(input: Value) -> Value {
    compute::run("pass", input).unwrap().unwrap()
}

/// Independent of the formula: is there an angle at which the turned rectangle's own bounding box
/// lies in the opening?
fn some_angle(p: f64, q: f64, a: f64, b: f64, slack: f64) -> bool {
    (0..=20_000).any(|i| {
        let t = std::f64::consts::FRAC_PI_2 * f64::from(i) / 20_000.0;
        p * t.cos() + q * t.sin() <= a + slack && p * t.sin() + q * t.cos() <= b + slack
    })
}

/// Hand-worked on the inequality's boundary: with a = 8, q = 1, p = sqrt(65) the root is
/// sqrt(65 + 1 - 64) = sqrt 2, and b must be (16 sqrt 65 + 64 sqrt 2) / 66.
#[rstest]
#[case(1e-6, true)]
#[case(-1e-6, false)]
fn at_the_boundary(#[case] more: f64, #[case] fits: bool) {
    let p = 65.0_f64.sqrt();
    let b = (16.0 * p + 64.0 * 2.0_f64.sqrt()) / 66.0;
    assert_eq!(through((p, 1.0), (8.0, b + more)).is_some(), fits);
    // The trial steps in angle, so it is asked a hundredth further from the boundary.
    assert_eq!(some_angle(p, 1.0, 8.0, b + more.signum() * 0.01, 0.0), fits);
}

/// Wetzel's condition: a strip wider than the opening is high never goes, however long the diagonal.
#[test]
fn q_must_not_exceed_b() {
    assert!(through((1300.0, 610.0), (1290.0, 600.0)).is_none());
}

#[test]
fn straight_is_preferred_and_spare_is_what_is_left() {
    let out = pass(
        json!({"panel": [1400, 900], "thickness": 18, "opening": [1200, 1000], "depth_behind": null}),
    );
    assert_eq!(out["how"], "straight");
    assert_eq!(out["leads"], 0);
    // 900 x 18 goes through 1200: 300 left.
    assert!((out["spare"].as_f64().unwrap() - 300.0).abs() < 1e-9);
    assert_eq!(out["angle_deg"], 0.0);
}

#[test]
fn a_wide_panel_goes_turned() {
    // 1250 is deeper than the 1150 behind, so 1100 leads and 1250 x 18 must go through 1200 x 900.
    let out = pass(
        json!({"panel": [1100, 1250], "thickness": 18, "opening": [1200, 900], "depth_behind": 1150}),
    );
    assert_eq!(out["fits"], true, "{out}");
    assert_eq!(out["how"], "tilted");
    assert_eq!(out["leads"], 0);
    let angle = out["angle_deg"].as_f64().unwrap().to_radians();
    assert!(1250.0 * angle.cos() + 18.0 * angle.sin() <= 1200.0 + 1e-6);
    assert!(1250.0 * angle.sin() + 18.0 * angle.cos() <= 900.0 + 1e-6);
}

#[test]
fn depth_behind_limits_what_leads_and_clear_narrows() {
    let base = json!({"box": [2000, 500, 400], "opening": [600, 600], "depth_behind": 900});
    let out = pass(base.clone());
    assert_eq!(out["fits"], false);
    assert!(out["why"].as_str().unwrap().contains("depth"));
    let mut open = base.clone();
    open["depth_behind"] = Value::Null;
    assert_eq!(pass(open.clone())["fits"], true);
    open["clear"] = json!(60);
    assert_eq!(
        pass(open)["fits"],
        false,
        "600 less 2 x 60 is less than 500"
    );
}

#[rstest]
#[case(json!({"opening": [1, 1]}), "/panel")]
#[case(json!({"panel": [1, 1], "opening": [1, 1]}), "/thickness")]
#[case(json!({"panel": [1, 1], "box": [1, 1, 1], "opening": [1, 1]}), "/box")]
#[case(json!({"panel": [1, -1], "thickness": 1, "opening": [1, 1]}), "/panel/1")]
#[case(json!({"panel": [1, 1], "thickness": 1, "opening": [1]}), "/opening")]
#[case(json!({"panel": [1, 1], "thickness": 1, "opening": [1, 1e9]}), "/opening/1")]
fn bad_input_is_named(#[case] input: Value, #[case] pointer: &str) {
    assert_eq!(
        compute::run("pass", input).unwrap().unwrap_err().pointer,
        pointer
    );
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]
    /// The formula and the trial of every angle agree away from the boundary.
    #[test]
    fn agrees_with_trial(p in 10.0..2000.0_f64, q in 1.0..1200.0_f64, a in 50.0..1500.0_f64, b in 50.0..1500.0_f64) {
        let (p, q) = (p.max(q), p.min(q));
        let (a, b) = (a.max(b), a.min(b));
        match through((p, q), (a, b)) {
            Some(_) => prop_assert!(some_angle(p, q, a, b, 0.5)),
            None => prop_assert!(!some_angle(p, q, a, b, -0.5)),
        }
    }

    /// Spare means: that much longer still goes turned, a little more does not.
    #[test]
    fn spare_is_the_boundary(q in 5.0..300.0_f64, a in 400.0..1500.0_f64, b in 300.0..900.0_f64, over in 1.0..200.0_f64) {
        let (a, b) = (a.max(b), a.min(b));
        let p = a + over;
        if let Some(t) = through((p, q), (a, b)) {
            prop_assert!(some_angle(p + t.spare, q, a, b, 0.5));
            prop_assert!(!some_angle(p + t.spare + 2.0, q, a, b, -0.1));
        }
    }
}
