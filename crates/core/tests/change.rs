//! A bed of two boards that gives the seats back for the road. Figures by hand in a bay of 2000 x 1400.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::furniture::built::Fasten;
use jigfit_core::plan::Plan;
use rstest::rstest;
use serde_json::{Value, json};

/// The box van's deck, changed that way, its boards meeting at `joint`; on the road the front board lies back.
fn bed(change: &str, joint: f64) -> Value {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["change"] = json!(change);
    doc["modules"]["deck"]["choices"]["joint"] = json!(joint);
    doc["states"] = json!({
        "drive": {"name": "drive", "order": 1, "open": {"deck/front": 1.0}},
        "night": {"name": "night", "order": 2, "open": {}},
    });
    doc
}

/// Least and greatest coordinates of all boards of the front body in a state.
fn front(p: &Plan, state: &str) -> ([f64; 3], [f64; 3]) {
    let own = p.boards.iter().filter(|b| b.body == "deck/front");
    let (mut low, mut high) = ([f64::INFINITY; 3], [f64::NEG_INFINITY; 3]);
    for b in own {
        for q in &b.outline.outer {
            for t in [0.0, b.thickness] {
                let at = b.poses[state].at(q[0], q[1], t);
                for k in 0..3 {
                    low[k] = low[k].min(at[k]);
                    high[k] = high[k].max(at[k]);
                }
            }
        }
    }
    (low, high)
}

/// By hand: at night it lies from 1300 to the front, 300 to 315 up; on the road 15 higher and as far back as it is long,
/// so that all in front of 1300 is free.
#[test]
fn it_is_lifted_and_slid_back() {
    let p = plan(&bed("slide", 1300.0));
    let (night, drive) = (front(&p, "night"), front(&p, "drive"));
    assert!((night.0[0] - 1300.0).abs() < 0.6, "{night:?}");
    assert!(night.1[0] > 1990.0 && night.1[0] < 2000.0, "{night:?}");
    assert_eq!((night.0[2], night.1[2]), (300.0, 315.0));
    assert_eq!((drive.0[2], drive.1[2]), (315.0, 330.0));
    assert!((drive.1[0] - night.0[0]).abs() < 1e-6, "{drive:?}");
    assert!((drive.0[0] - (2.0 * night.0[0] - night.1[0])).abs() < 1e-6);
    let free = finding(&p, "change.deck/front").unwrap();
    assert_eq!(free.level, Severity::Fine);
    assert!(free.sentence.contains("69"), "{}", free.sentence);
    assert!(p.findings.iter().all(|f| f.check != "clash"));
    // The evening says it in one step.
    let steps = &p.evening.moves[0].steps;
    assert_eq!(steps.len(), 1);
    assert!(
        steps[0].words.starts_with("bedding off"),
        "{}",
        steps[0].words
    );
    assert!(steps[0].meets.is_none());
}

/// Where bores of the fixed boards, or of the front ones, lie in a state, mm in and from the centre line.
fn bores(p: &Plan, front: bool, state: &str) -> Vec<[f64; 2]> {
    let mut out = Vec::new();
    for part in &p.parts {
        for b in p.boards.iter().filter(|b| part.boards.contains(&b.id)) {
            let own = part.features.iter().filter(|f| f.kind == "bore");
            for f in own.filter(|_| (b.body == "deck/front") == front) {
                let at = b.poses[state].at(f.centre.0.value, f.centre.1.value, 0.0);
                out.push([at[0], at[1]]);
            }
        }
    }
    out.sort_by(|a, b| a[1].total_cmp(&b[1]));
    out
}

/// By hand: two pins go through the front board into the middle of the strip below, 15 before the joint, 60 from its sides; slid back
/// their holes lie over two in the rear board, as far as both are marked to the millimetre.
#[test]
fn drop_pins_have_their_holes() {
    let p = plan(&bed("slide", 1300.0));
    let (low, high) = front(&p, "night");
    let night = bores(&p, true, "night");
    let (drive, rear) = (bores(&p, true, "drive"), bores(&p, false, "drive"));
    assert_eq!((night.len(), rear.len()), (2, 2), "{night:?} {rear:?}");
    for (at, y) in night.iter().zip([low[1] + 60.0, high[1] - 60.0]) {
        assert!((at[0] - 1315.0).abs() < 1.1, "{at:?}");
        assert!((at[1] - y).abs() < 1.6, "{at:?} {y}");
    }
    for (a, b) in drive.iter().zip(&rear) {
        assert!(
            (a[0] - b[0]).abs() < 1.6 && (a[1] - b[1]).abs() < 1.6,
            "{a:?} {b:?}"
        );
    }
    let pin = p
        .hardware
        .iter()
        .find(|h| h.what.starts_with("drop pin"))
        .unwrap();
    assert_eq!((pin.size.as_str(), pin.count), ("8 mm", 4));
    // Folded there is nothing to pin, and in slats no place for it.
    assert!(bores(&plan(&bed("fold", 1300.0)), true, "night").is_empty());
}

/// Turned over by hand it comes to lie as if it were folded, without hinges; by hand: the pins' holes, 15 before the joint, lie 15 behind it
/// then, over two in the rear board.
#[test]
fn it_is_turned_over_loose() {
    let p = plan(&bed("flip", 1300.0));
    let folded = plan(&bed("fold", 1300.0));
    let lies = |p: &Plan| front(p, "drive");
    assert_eq!(lies(&p), lies(&folded));
    let bought = |what: &str| p.hardware.iter().any(|h| h.what.contains(what));
    assert!(bought("drop pin") && !bought("hinge"), "{:?}", p.hardware);
    let (drive, rear) = (bores(&p, true, "drive"), bores(&p, false, "drive"));
    assert_eq!((drive.len(), rear.len()), (2, 2));
    for (a, b) in drive.iter().zip(&rear) {
        assert!((b[0] - 1285.0).abs() < 1.1, "{b:?}");
        assert!(
            (a[0] - b[0]).abs() < 1.6 && (a[1] - b[1]).abs() < 1.6,
            "{a:?} {b:?}"
        );
    }
    let steps = p.evening.moves.iter().flat_map(|m| &m.steps);
    let words: Vec<&str> = steps.map(|s| s.words.as_str()).collect();
    assert!(
        words
            .iter()
            .any(|w| w.contains("pins out, turn the front board")),
        "{words:?}"
    );
}

/// A rear board of 600 carries no more than 600 of a front board of 1400.
#[test]
fn it_goes_back_no_further_than_the_rear() {
    let p = plan(&bed("slide", 600.0));
    let drive = front(&p, "drive");
    assert!(drive.0[0] > -0.1 && drive.0[0] < 10.0, "{drive:?}");
    assert_eq!(level(&p, "change.rear."), None);
}

/// Folded by half a turn about its joint it lies upside down on the rear board.
#[test]
fn it_folds_over() {
    let p = plan(&bed("fold", 1300.0));
    let (night, drive) = (front(&p, "night"), front(&p, "drive"));
    assert!((drive.0[2] - 315.0).abs() < 1e-6 && (drive.1[2] - 330.0).abs() < 1e-6);
    assert!((drive.1[0] - 1300.0).abs() < 0.6 && drive.0[0] > 600.0);
    assert!((night.0[1] - drive.0[1]).abs() < 1e-6, "across it stays");
    let board = p.boards.iter().find(|b| b.body == "deck/front").unwrap();
    assert!(board.poses["drive"].w()[2] < -0.999, "upside down");
    assert_eq!(level(&p, "change.deck/front"), Some(Severity::Fine));
    // By hand: 700 mm stand up to 1015, under the roof of 1200. A roof at 900 ends it: asin(585/700) = 56.7 degrees.
    let mut low = bed("fold", 1300.0);
    for r in low["survey"]["readings"]
        .as_object_mut()
        .unwrap()
        .values_mut()
    {
        if r["quantity"]["of"] == "roof" {
            r["typed"] = json!("900");
        }
    }
    let p = plan(&low);
    let met = finding(&p, "change.deck/front").unwrap();
    assert_eq!(met.level, Severity::Stop);
    assert!(met.sentence.contains("the roof"), "{}", met.sentence);
    let deg: f64 = met
        .sentence
        .split("at ")
        .nth(1)
        .unwrap()
        .split('°')
        .next()
        .unwrap()
        .parse()
        .unwrap();
    assert!((deg - 56.7).abs() < 2.0, "{deg}");
    // What is offered helps.
    let p = plan(&after(&low, &met.offers[0].patch));
    assert_eq!(level(&p, "change.deck/front"), Some(Severity::Fine));
}

/// A rear board of 800 stands up to 1115, under the roof of 1200; one of 1300 meets it: asin(885 / 1300) = 42.9 degrees.
#[rstest]
#[case(800.0, Severity::Fine, 180.0)]
#[case(1300.0, Severity::Stop, 42.9)]
fn the_rear_board_lifts(#[case] joint: f64, #[case] level: Severity, #[case] deg: f64) {
    let mut doc = bed("lift", joint);
    doc["states"]["drive"]["open"] = json!({});
    let p = plan(&doc);
    let f = finding(&p, "moves.deck/rear").unwrap();
    assert_eq!(f.level, level, "{}", f.sentence);
    let to = f.sentence.split("opens to ").nth(1);
    let to: f64 = to.map_or(180.0, |t| t.split('°').next().unwrap().parse().unwrap());
    assert!((to - deg).abs() < 2.0, "{to}");
    // What is lifted is not screwed down, and what stays is.
    let rear: Vec<&str> = p
        .boards
        .iter()
        .filter(|b| b.body == "deck/rear")
        .map(|b| b.id.as_str())
        .collect();
    let held = p.joints.iter().filter(|j| rear.contains(&j.a.as_str()));
    assert!(!rear.is_empty() && held.clone().count() > 0);
    assert!(held.clone().all(|j| j.how == Fasten::Lies));
    assert!(
        p.hardware
            .iter()
            .any(|h| h.what == "butt hinge" && h.count >= 2)
    );
    // It is no bed that ought to lie back on the road.
    assert_eq!(finding(&p, "change.").map(|f| f.id.clone()), None);
}

/// Folded back a board of 1200 on one of 800 hangs out of the door; what is offered ends that.
#[test]
fn past_the_rear_the_door_does_not_shut() {
    let doc = bed("fold", 800.0);
    let p = plan(&doc);
    let f = finding(&p, "change.rear.deck/front").unwrap();
    assert_eq!(f.level, Severity::Stop);
    assert!(!f.offers.is_empty());
    for offer in &f.offers {
        let p = plan(&after(&doc, &offer.patch));
        assert_eq!(level(&p, "change.rear."), None, "{}", offer.label);
    }
}

/// Wells 200 deep and 400 high stand over the deck: the front board is cut as narrow as its way between them, or does
/// not go back.
#[rstest]
#[case("narrow", Severity::Fine, 985.0, 1000.0)]
#[case("full", Severity::Stop, 1385.0, 1400.0)]
fn the_way_back_is_looked_at(
    #[case] pass: &str,
    #[case] level: Severity,
    #[case] least: f64,
    #[case] most: f64,
) {
    let mut doc = with_wells(bed("slide", 1300.0));
    doc["modules"]["deck"]["choices"]["pass"] = json!(pass);
    let p = plan(&doc);
    let f = finding(&p, "change.deck/front").unwrap();
    assert_eq!(f.level, level, "{}", f.sentence);
    let (low, high) = front(&p, "night");
    let wide = high[1] - low[1];
    assert!(wide > least && wide < most, "{wide}");
}

/// Strips on both faces of the support under the joint: each board has 22.5 mm to lie on, and the front one is not screwed.
#[rstest]
#[case("frames")]
#[case("legs")]
fn both_boards_lie_on_strips(#[case] manner: &str) {
    let mut doc = bed("slide", 1300.0);
    doc["modules"]["deck"]["choices"]["supports"] = json!({"manner": manner});
    let p = plan(&doc);
    let lips: Vec<f64> = p
        .boards
        .iter()
        .filter(|b| b.role == "lip")
        .map(|b| {
            assert!((b.poses["drive"].origin[2] + 50.0 - 300.0).abs() < 1e-6);
            b.poses["drive"].origin[0]
        })
        .collect();
    assert_eq!(lips, [1277.5, 1307.5]);
    assert_eq!(level(&p, "rest."), None);
    let loose = |id: &str| {
        p.boards
            .iter()
            .any(|b| b.id == id && b.body == "deck/front")
    };
    let held: Vec<_> = p
        .joints
        .iter()
        .filter(|j| loose(&j.a) || loose(&j.b))
        .collect();
    assert!(held.len() >= 3);
    assert!(held.iter().all(|j| j.how == Fasten::Lies));
    assert!(p.joints.iter().any(|j| j.how == Fasten::Butt && j.apart));
    assert!(
        p.hardware
            .iter()
            .any(|h| h.what.starts_with("drop pin") && h.count == 4)
    );
}

/// Not moved back for the road it is said and offered.
#[test]
fn on_the_road_it_is_back() {
    let mut doc = bed("slide", 1300.0);
    doc["states"]["drive"]["open"] = json!({});
    let p = plan(&doc);
    let f = finding(&p, "change.road.deck/front").unwrap();
    assert_eq!(f.state.as_deref(), Some("drive"));
    let p = plan(&after(&doc, &f.offers[0].patch));
    assert_eq!(level(&p, "change.road."), None);
    // A bed is no drawer that was left open.
    assert_eq!(level(&p, "open.deck/front"), None);
}

#[rstest]
#[case(json!({"change": "slide", "split": "whole"}), "/modules/deck/choices/split")]
#[case(json!({"change": "fold", "split": "lengthwise"}), "/modules/deck/choices/split")]
#[case(json!({"change": "fold", "top": "slats"}), "/modules/deck/choices/top")]
#[case(json!({"change": "vanish"}), "/modules/deck/choices")]
#[case(json!({"joint": -1.0}), "/modules/deck/choices/joint")]
fn what_cannot_be_is_refused(#[case] choices: Value, #[case] pointer: &str) {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"] = choices;
    let problem = jigfit_core::furniture::read(doc).unwrap_err();
    assert!(problem.pointer.starts_with(pointer), "{problem:?}");
}

/// A joint wished for where there can be none is as near to it as a board of some length allows.
#[rstest]
#[case(0.0, 200.0)]
#[case(9000.0, 1800.0)]
fn boards_keep_some_length(#[case] wished: f64, #[case] about: f64) {
    let p = plan(&bed("slide", wished));
    let (low, _) = front(&p, "night");
    assert!((low[0] - about).abs() < 10.0, "{low:?}");
}

/// The two lengths of a sentence "A by B mm on ...": the first pairs in it.
fn pairs(words: &str) -> Vec<(f64, f64)> {
    let mut out = Vec::new();
    let text = words.replace(" mm", "");
    let tokens: Vec<&str> = text.split(' ').collect();
    for w in tokens.windows(3).filter(|w| w[1] == "by") {
        let number = |s: &str| s.trim_end_matches(['.', ',', ';']).parse::<f64>();
        if let (Ok(a), Ok(b)) = (number(w[0]), number(w[2])) {
            out.push((a, b));
        }
    }
    out
}

/// Two boards that meet at 1300: a cushion on each, 5 smaller each way; cut from 2000 by 1400 what is left over is what the two
/// leave. From 1500 the larger one does not come out any more.
#[test]
fn one_mattress_for_two_boards() {
    let mut doc = bed("slide", 1300.0);
    doc["mattress"] = json!({"thickness": 100, "sag": 20, "length": 2000, "width": 1400});
    let p = plan(&doc);
    let (low, high) = front(&p, "night");
    let f = finding(&p, "cushions").unwrap();
    assert_eq!(f.level, Severity::Fine);
    let found = pairs(&f.sentence);
    let [rear, fore, left] = [found[0], found[1], found[2]];
    // Down to a whole millimetre, as a tape has it.
    assert_eq!(fore.0, (high[0] - low[0] - 5.0 + 1e-6).floor(), "{found:?}");
    assert_eq!(fore.1, (high[1] - low[1] - 5.0 + 1e-6).floor(), "{found:?}");
    // The rear board begins within a clearance of the threshold.
    assert!(rear.0 > 1280.0 && rear.0 < 1295.0, "{found:?}");
    // Side by side along the mattress, a strip beside them.
    assert!(f.sentence.contains("Cut across at"), "{}", f.sentence);
    let strip = (2000.0 - rear.0 - fore.0, 1400.0);
    let beside = (2000.0, 1400.0 - rear.1.max(fore.1));
    let near = |a: (f64, f64)| (left.0 - a.0).abs() < 1.0 && (left.1 - a.1).abs() < 20.0;
    assert!(near(strip) || near(beside), "{found:?}");

    doc["mattress"]["length"] = json!(1500);
    let p = plan(&doc);
    let f = finding(&p, "cushions").unwrap();
    assert_eq!(f.level, Severity::Look);
    assert!(
        f.sentence
            .contains(&format!("does not suffice for {}", rear.0)),
        "{}",
        f.sentence
    );
    // Nothing said of its size: nothing to cut.
    doc["mattress"] = json!({"thickness": 100, "sag": 20});
    let p = plan(&doc);
    let f = finding(&p, "cushions").unwrap();
    assert!(f.level == Severity::Fine && !f.sentence.contains("Cut"));
    // A bed in one piece is no question.
    let mut whole = box_van();
    whole["mattress"] = json!({"thickness": 100, "sag": 20});
    assert!(finding(&plan(&whole), "cushions").is_none());
}

/// By hand: a box whose lid lies as high as the deck's top, 315, carries a cushion of its own: 100 thick, 20 down: sat on at 395.
#[test]
fn a_seat_gets_its_part_of_the_mattress() {
    let mut doc = box_van();
    doc["mattress"] = json!({"thickness": 100, "sag": 20});
    doc["modules"]["deck"]["choices"]["from"] = json!(600);
    doc["modules"]["seat"] = json!({
        "kind": "box_seat",
        "place": {"along": 30, "across": "left_wall"},
        "choices": {"length": 500, "depth": 400, "height": 315},
    });
    let p = plan(&doc);
    let f = finding(&p, "cushions").unwrap();
    assert!(f.sentence.contains("box seat, lid"), "{}", f.sentence);
    let seat = f
        .numbers
        .iter()
        .find(|n| n.label.contains("sat on"))
        .unwrap();
    assert_eq!(seat.figure.as_ref().unwrap().value, 395.0);
    // Its lid lies lower than the bed: no part of it.
    doc["modules"]["seat"]["choices"]["height"] = json!(250);
    assert!(finding(&plan(&doc), "cushions").is_none());
}

/// What may stay on it: over the rear board the front one's face is 300 + 2 x 15 = 330 up, the roof 1200, less 20 of air: 850. Turned
/// over, nothing stays on either.
#[rstest]
#[case(
    "slide",
    Some("what lies on the front board, up to 850 mm high may stay")
)]
#[case("fold", None)]
#[case("flip", None)]
fn what_may_stay_on_it_is_told(#[case] change: &str, #[case] words: Option<&str>) {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["change"] = json!(change);
    doc["states"] = json!({
        "night": {"name": "night", "order": 1},
        "drive": {"name": "drive", "order": 2, "open": {"deck/front": 1}},
    });
    let p = plan(&doc);
    let step = &p.evening.moves[0].steps[0].words;
    match words {
        Some(words) => assert!(step.contains(words), "{step}"),
        None => assert!(!step.contains("may stay"), "{step}"),
    }
    let off = if change == "slide" {
        "off the rear"
    } else {
        "off both"
    };
    assert!(step.contains(off), "{step}");
}
