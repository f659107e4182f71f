//! Lids by hand, and the gas struts that suit them: against the energy of lid and strut, whose slope is what a hand has to do.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::mechanics::lid::Lid;
use jigfit_core::mechanics::strut::{FORCES, HAND, SIZES, Under, choose};
use jigfit_core::plan::Plan;
use proptest::prelude::*;
use serde_json::{Value, json};

const G: f64 = 9.80665;

/// What is bought for the lid: what, size, count.
fn bought<'a>(p: &'a Plan, what: &str) -> Option<(&'a str, u32)> {
    let item = p.hardware.iter().find(|h| h.what == what)?;
    Some((item.size.as_str(), item.count))
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]
    /// Potential energy of the lid less what the struts have pushed: its slope over the angle is the moment of the hand.
    #[test]
    fn a_strut_that_was_chosen_suits(
        mass in 1.0..14.0, length in 250.0..900.0, down in 150.0..600.0, wall in 20.0..120.0, pair: bool,
    ) {
        let lid = Lid {
            length,
            thickness: 0.0,
            mass,
            cg: length / 2.0,
            wall_distance: wall,
            mattress: None,
            strut: None,
        };
        let under = Under { deep: length - 15.0, down, face: 15.0, pair };
        let Some(c) = choose(&lid, under) else {
            // A light lid in a roomy box always finds one.
            prop_assert!(!(mass > 3.0 && mass < 8.0 && length > 400.0 && length < 600.0 && down > 350.0));
            return Ok(());
        };
        prop_assert!(SIZES.contains(&(c.strut.closed, c.strut.open)));
        prop_assert!(FORCES.contains(&c.strut.force));
        prop_assert_eq!(c.strut.count, if pair { 2.0 } else { 1.0 });
        // Both ends are in the box.
        for [x, y] in [c.strut.lid_at, c.strut.frame_at] {
            prop_assert!(x > 0.0 && x < under.deep && y < -15.0 && y > -down, "{x} {y}");
        }
        let long = |deg: f64| {
            let (s, k) = deg.to_radians().sin_cos();
            let [x, y] = c.strut.lid_at;
            let (dx, dy) = (x * k - y * s - c.strut.frame_at[0], x * s + y * k - c.strut.frame_at[1]);
            (dx * dx + dy * dy).sqrt()
        };
        let energy = |deg: f64| {
            mass * G * length / 2.0 * deg.to_radians().sin() - c.strut.force * c.strut.count * long(deg)
        };
        let hand = |deg: f64| {
            let d = 0.01_f64;
            (energy(deg + d) - energy(deg - d)) / (2.0 * d.to_radians()) / length
        };
        prop_assert!(c.opens >= 75.0 && c.opens <= 105.0, "{}", c.opens);
        let mut deg = 0.0;
        while deg < c.opens - 0.1 {
            let n = hand(deg);
            prop_assert!(n.abs() <= HAND + 1.0, "{n} at {deg}");
            prop_assert!(long(deg) >= c.strut.closed - 0.01 && long(deg) <= c.strut.open + 0.01);
            // It stays up once it is up, and lies when it is shut.
            prop_assert!(deg < 50.0 || n < 0.0, "{n} at {deg}");
            deg += 1.0;
        }
        prop_assert!(hand(0.02) > 0.0);
        // The strut's end stops it, or its free corner in the wall.
        let wall_at = (-wall / length).acos().to_degrees();
        prop_assert!(c.opens <= wall_at + 0.01);
        prop_assert!((long(c.opens) - c.strut.open).abs() < 0.01 || (c.opens - wall_at).abs() < 0.01);
    }
}

/// A lid 700 long and 450 less 50 deep of 15 mm birch, by hand: 0.7 x 0.4 x 0.015 x 680 = 2.86 kg, half of whose weight lies
/// at the edge: 14 N.
#[test]
fn a_light_lid_is_lifted_by_a_hand() {
    let mut doc = bare();
    let sets = [("length", "700"), ("depth", "450"), ("height", "400")];
    add(&mut doc, "box_seat", &sets).unwrap();
    let p = plan(&doc);
    let f = finding(&p, "lift").unwrap();
    assert_eq!(f.level, Severity::Fine);
    assert!(f.sentence.contains("lid 14 N, a prop"), "{}", f.sentence);
    let (size, count) = bought(&p, "wooden prop with a stop screw").unwrap();
    let long: f64 = size.split(' ').next().unwrap().parse().unwrap();
    // It lies down in a box 385 deep inside.
    assert!(count == 1 && long > 80.0 && long < 350.0, "{size}");
    assert!(bought(&p, "gas strut").is_none());
    doc["modules"]["box_seat"]["choices"]["stay"] = json!("strut");
    let p = plan(&doc);
    let (size, count) = bought(&p, "gas strut").unwrap();
    // Longer than half a metre along its hinge: one on each side.
    assert_eq!(count, 2);
    assert!(
        size.contains(" N, ") && size.contains("below the lid"),
        "{size}"
    );
    assert!(bought(&p, "wooden prop with a stop screw").is_none());
    doc["modules"]["box_seat"]["choices"]["stay"] = json!("strap");
    assert!(bought(&plan(&doc), "strap or clip that holds the lid to the wall").is_some());
}

/// With the first offer of a finding taken.
fn taken(doc: &Value, p: &Plan, id: &str) -> (Value, Plan) {
    let doc = after(doc, &finding(p, id).unwrap().offers[0].patch);
    let p = plan(&doc);
    (doc, p)
}

/// A lid too heavy for a hand gets struts; one over a box too low for struts goes back to a prop. By hand: 1.9 x 0.6 x 0.03 x
/// 680 = 23 kg: 114 N.
#[test]
fn what_is_too_heavy_or_too_low_is_told() {
    let mut doc = bare();
    let sets = [
        ("length", "1900"),
        ("depth", "650"),
        ("height", "450"),
        ("thickness", "30"),
    ];
    add(&mut doc, "box_seat", &sets).unwrap();
    let p = plan(&doc);
    let f = finding(&p, "lift.box_seat/lid").unwrap();
    assert!(
        f.level == Severity::Look && f.sentence.contains("114 N"),
        "{}",
        f.sentence
    );
    let (_, p) = taken(&doc, &p, "lift.box_seat/lid");
    assert!(finding(&p, "lift.box_seat/lid").is_none());
    assert!(bought(&p, "gas strut").is_some());

    let mut low = bare();
    let sets = [
        ("length", "500"),
        ("depth", "260"),
        ("height", "150"),
        ("stay", "strut"),
    ];
    add(&mut low, "box_seat", &sets).unwrap();
    let p = plan(&low);
    assert!(
        finding(&p, "lift.box_seat/lid")
            .unwrap()
            .sentence
            .starts_with("No gas strut")
    );
    // It says that it gets a prop, and it does.
    assert!(bought(&p, "wooden prop with a stop screw").is_some());
    let (low, p) = taken(&low, &p, "lift.box_seat/lid");
    assert_eq!(low["modules"]["box_seat"]["choices"]["stay"], "prop");
    assert!(finding(&p, "lift.box_seat/lid").is_none());
}
