//! Joints that leave no narrow tongue: every figure by hand.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::geometry::region::Region;
use jigfit_core::geometry::split::{lies_on, split_to};
use jigfit_core::geometry::tips::{Cut, about, weak_tip, without_tips};
use jigfit_core::plan::Plan;
use rstest::rstest;
use serde_json::{Value, json};

fn board(corners: &[[f64; 2]]) -> Region {
    Region {
        outer: corners.to_vec(),
        holes: vec![],
    }
}

/// 1000 x 600 with a notch from y = 400 up, between x = 300 and 500.
fn notched() -> Region {
    board(&[
        [0.0, 0.0],
        [1000.0, 0.0],
        [1000.0, 600.0],
        [500.0, 600.0],
        [500.0, 400.0],
        [300.0, 400.0],
        [300.0, 600.0],
        [0.0, 600.0],
    ])
}

/// Beside a notch 200 deep a joint leaves a tongue as wide as it is off the notch, and 200 long; from 60 mm on that is a
/// board, and in the notch or along its side there is none.
#[rstest]
#[case(Cut::AtX, 260.0, Some((40.0, 200.0)))]
#[case(Cut::AtX, 239.0, None)]
#[case(Cut::AtX, 241.0, Some((59.0, 200.0)))]
#[case(Cut::AtX, 300.0, None)]
#[case(Cut::AtX, 400.0, None)]
#[case(Cut::AtX, 535.0, Some((35.0, 200.0)))]
#[case(Cut::AtX, 561.0, None)]
#[case(Cut::AtY, 370.0, Some((30.0, 200.0)))]
#[case(Cut::AtY, 400.0, None)]
#[case(Cut::AtY, 500.0, None)]
// Along the outer edge all of it is one tongue; the notch leaves 300 and 500 of it.
#[case(Cut::AtY, 560.0, Some((40.0, 500.0)))]
#[case(Cut::AtX, 30.0, Some((30.0, 600.0)))]
fn a_tongue_beside_a_notch(
    #[case] cut: Cut,
    #[case] at: f64,
    #[case] expected: Option<(f64, f64)>,
) {
    let tip = weak_tip(&[notched()], cut, at);
    match (tip, expected) {
        (None, None) => {}
        (Some(tip), Some((width, length))) => {
            assert!((tip.width - width).abs() < 0.01, "{tip:?}");
            // Seen every 2 mm.
            assert!((tip.length() - length).abs() <= 4.0, "{tip:?}");
        }
        other => panic!("{other:?}"),
    }
}

/// A tongue shorter than it may be wide is a corner, not a tongue; the same beside a hole.
#[rstest]
#[case(50.0, false)]
#[case(80.0, true)]
fn beside_a_hole(#[case] long: f64, #[case] weak: bool) {
    let mut region = Region::rectangle(0.0, 0.0, 1000.0, 600.0);
    region.holes = vec![vec![
        [400.0, 200.0],
        [400.0, 200.0 + long],
        [600.0, 200.0 + long],
        [600.0, 200.0],
    ]];
    assert_eq!(weak_tip(&[region], Cut::AtX, 370.0).is_some(), weak);
}

/// A joint that meets an edge at an angle leaves a point: narrower than 60 mm over 60 / tan(angle). At 45 degrees that
/// is 60, so sharper points are weak and blunter ones are not.
#[rstest]
#[case(30.0, true)]
#[case(43.0, true)]
#[case(47.0, false)]
#[case(60.0, false)]
fn a_sharp_point_is_a_tip(#[case] deg: f64, #[case] weak: bool) {
    let top = 1000.0 * (90.0_f64 - deg).to_radians().tan();
    // Its slanting edge runs at `deg` to every joint at one x.
    let region = board(&[
        [0.0, 0.0],
        [1000.0, top],
        [1000.0, top + 900.0],
        [0.0, top + 900.0],
    ]);
    let tip = weak_tip(&[region], Cut::AtX, 500.0);
    assert_eq!(tip.is_some(), weak, "{tip:?}");
    if let Some(tip) = tip {
        let long = 60.0 / deg.to_radians().tan();
        // Seen every 2 mm, or at 4,096 places.
        assert!((tip.length() - long).abs() < 5.0, "{tip:?} {long}");
    }
}

/// What is not there has no tips, and nothing that is not a number hangs or panics.
#[test]
fn odd_regions() {
    let nothing = board(&[]);
    assert_eq!(weak_tip(&[nothing], Cut::AtX, 0.0), None);
    assert_eq!(weak_tip(&[notched()], Cut::AtX, -500.0), None);
    assert_eq!(weak_tip(&[notched()], Cut::AtY, f64::NAN), None);
    let far = Region::rectangle(0.0, 0.0, 1e9, 1e9);
    assert_eq!(weak_tip(&[far], Cut::AtX, 5e8), None);
    assert_eq!(without_tips(&[notched()], Cut::AtX, &[]), None);
}

/// The nearest place without a tip: beside the notch 60 off it or along its side, whichever comes first.
#[rstest]
#[case(270.0, 300.0)]
#[case(250.0, 240.0)]
#[case(520.0, 500.0)]
#[case(700.0, 700.0)]
fn moved_as_little_as_does(#[case] from: f64, #[case] to: f64) {
    let places = about(from, (0.0, 1000.0));
    assert_eq!(without_tips(&[notched()], Cut::AtX, &places), Some(to));
}

/// 1000 in two pieces of at most 600 meets at 500, in the middle. A notch that begins at 530 moves that to its side, a
/// notch from 460 to 480 (500 is 20 off) to 480; where each piece can be 505 long only, nothing can be moved.
#[rstest]
#[case(530.0, 700.0, 600.0, 530.0)]
#[case(460.0, 480.0, 600.0, 480.0)]
#[case(530.0, 700.0, 505.0, 500.0)]
#[case(700.0, 800.0, 600.0, 500.0)]
fn a_panel_is_parted_beside_its_notch(
    #[case] from: f64,
    #[case] to: f64,
    #[case] most: f64,
    #[case] at: f64,
) {
    let region = board(&[
        [0.0, 0.0],
        [1000.0, 0.0],
        [1000.0, 500.0],
        [to, 500.0],
        [to, 300.0],
        [from, 300.0],
        [from, 500.0],
        [0.0, 500.0],
    ]);
    let pieces = split_to(&region, most, 500.0);
    assert!(pieces.iter().all(|p| lies_on(p, most, 500.0)));
    let joint = pieces.iter().map(|p| p.bounds().2).fold(f64::MAX, f64::min);
    assert!((joint - at).abs() < 0.01, "{joint}");
}

/// The box van with wells that begin so far in, its deck parted across.
fn across_doc(well_from: f64, more: Value) -> Value {
    let mut doc = with_wells(box_van());
    for id in ["wl", "wr"] {
        doc["survey"]["readings"][format!("{id}-start")]["typed"] = json!(well_from.to_string());
    }
    let choices = &mut doc["modules"]["deck"]["choices"];
    choices["split"] = json!("across");
    for (field, value) in more.as_object().into_iter().flatten() {
        choices[field] = value.clone();
    }
    doc
}

fn across(well_from: f64, more: Value) -> Plan {
    plan(&across_doc(well_from, more))
}

/// Where two pieces of the deck meet.
fn joint(p: &Plan) -> f64 {
    let panels = p.boards.iter().filter(|b| b.role == "panel");
    panels.map(|b| ends(b, "day").1[0]).fold(f64::MAX, f64::min)
}

/// Supports at 10, 668.5, 1326.5 and 1985: 668.5 is the inner one nearest the middle, by half a millimetre. Where the
/// wells begin at 700, a joint there would leave a tongue of some 28 mm over the well's 200 on either side: the other
/// inner support is taken, which lies within the wells' length.
#[test]
fn a_deck_is_parted_where_no_tongue_is_left() {
    let p = across(600.0, json!({}));
    assert_eq!(p.decks[0].lines, [10.0, 668.5, 1326.5, 1985.0]);
    let near = |a: f64, b: f64| assert!((a - b).abs() <= 1.0, "{a} {b}");
    near(joint(&p), 668.5);
    let moved = across(700.0, json!({}));
    near(joint(&moved), 1326.5);
    assert!(finding(&moved, "tips.").is_none());
}

/// Where a person wants the joint it stays, and what it leaves is told: how wide and how long, less the clearance round
/// the well, and a way out that leaves none.
#[test]
fn a_wanted_joint_stays_and_is_told() {
    let doc = across_doc(700.0, json!({"joint": 668.5}));
    let p = plan(&doc);
    assert!((joint(&p) - 668.5).abs() <= 1.0);
    let f = finding(&p, "tips.deck").unwrap();
    assert_eq!((f.level, f.subject.as_str()), (Severity::Look, "deck"));
    let said: Vec<f64> = f
        .sentence
        .split(" mm")
        .filter_map(|s| s.rsplit(' ').next()?.parse().ok())
        .collect();
    let [wide, long] = said[..] else {
        panic!("{}", f.sentence)
    };
    assert!(wide > 24.0 && wide < 31.5, "{wide}");
    assert!(long > 185.0 && long < 202.0, "{long}");
    assert!(!f.offers.is_empty());
    for offer in &f.offers {
        let then = plan(&after(&doc, &offer.patch));
        assert!(finding(&then, "tips.").is_none(), "{}", offer.label);
    }
}
