//! The deck in a bay whose numbers can be worked by hand, and the judgements on it.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::geometry::distance_to_segment;
use jigfit_core::geometry::region::Region;
use jigfit_core::plan::Plan;
use jigfit_core::project::deck::Split;
use proptest::prelude::*;
use rstest::rstest;
use serde_json::{Value, json};

/// Width and height of the exact board with that mark.
fn board(p: &Plan, mark: &str) -> (f64, f64) {
    let board = p.boards.iter().find(|b| b.mark == mark).unwrap();
    board.outline.size()
}

/// By hand: readings of 1 mm noise that say a wall is straight leave about 1 mm of doubt along it. The
/// clearance is 2.3 times that and 0.2 mm of finish; beside it each edge leans in by 0.7 times its doubt.
#[test]
fn clearance_is_the_doubt_and_the_finish() {
    let p = plan(&box_van());
    let deck = &p.decks[0];
    let c = deck.clearance.total.value;
    assert!(c > 1.5 && c < 3.3, "{c}");
    // Nothing is known better than to 0.4 mm or worse than to 2: the lean lies between 0.3 and 1.4.
    let area = |lean: f64| (2000.0 - 2.0 * c - lean) * (1400.0 - 2.0 * (c + lean));
    assert!(
        deck.area < area(0.3) && deck.area > area(1.4),
        "{}",
        deck.area
    );
    // 1400 is wider than a sheet: two pieces of half the width each, lengthwise.
    assert_eq!(deck.split, Split::Lengthwise);
    let lean = (1400.0 - 2.0 * c) / 2.0 - board(&p, "D1").1;
    assert!(lean > 0.3 && lean < 1.4, "{lean}");
    assert_eq!(level(&p, "clearance."), Some(Severity::Fine));
}

/// By hand: wells 700 + 2 x clearance long and 200 deep come off. The far end of a well is the sum of
/// two readings of 1 mm, so its doubt is sqrt(1 + 1) mm and the cut-out keeps 3 x 1.414 + 0.2 = 4.443.
#[test]
fn wells_are_cut_out_with_their_own_clearance() {
    let mut doc = with_wells(box_van());
    doc["modules"]["deck"]["choices"]["internal_radius"] = json!(0);
    let p = plan(&doc);
    let deck = &p.decks[0];
    let c = 3.0 * 2.0_f64.sqrt() + 0.2;
    let all = deck.clearance.total.value;
    // Of the clearance 2.3 parts are doubt; 0.7 parts more are the lean of the walls' edges.
    let edge = all + 0.7 * (all - 0.2) / 2.3;
    let notch = (700.0 + 2.0 * c) * (200.0 - edge + c);
    let whole = (2000.0 - all - edge) * (1400.0 - 2.0 * edge);
    // Within a millimetre all along the edge, which is 6,800 mm long: the doubt differs along it.
    assert!(
        (deck.area - (whole - 2.0 * notch)).abs() < 6800.0,
        "{}",
        deck.area
    );
    // Every corner of every panel keeps clear of the well.
    for well in &deck.obstacles {
        for p in deck.panels.iter().flat_map(|r| &r.outer) {
            let n = well.outer.len();
            let d = (0..n)
                .map(|i| distance_to_segment(*p, well.outer[i], well.outer[(i + 1) % n]))
                .fold(f64::INFINITY, f64::min);
            assert!(d > c - 0.01, "{p:?} is {d} from the well");
        }
    }
}

#[test]
fn a_deck_over_the_wells_is_whole() {
    let mut doc = with_wells(box_van());
    doc["modules"]["deck"]["choices"]["underside"] = json!(420.0);
    let p = plan(&doc);
    assert!(p.decks[0].obstacles.is_empty());
    assert_eq!(p.decks[0].below.len(), 2);
    // 402 passes 2 over a well known to 1.4 mm: too close to call.
    doc["modules"]["deck"]["choices"]["underside"] = json!(402.0);
    assert_eq!(level(&plan(&doc), "well-top."), Some(Severity::Look));
}

/// By hand for one simple span of 1978.6 between the outer frames: far beyond the limits; the
/// automatic number of supports is within them.
#[test]
fn supports_are_as_few_as_the_sag_allows() {
    let auto = plan(&box_van());
    assert_eq!(level(&auto, "sag.knee"), Some(Severity::Fine));
    assert_eq!(level(&auto, "sag.sleepers"), Some(Severity::Fine));
    let n = auto.decks[0].lines.len();
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["supports"] = json!({"lines": n - 1});
    let p = plan(&doc);
    assert_eq!(level(&p, "sag.knee"), Some(Severity::Stop));
    let offers = &finding(&p, "sag.knee").unwrap().offers;
    assert!(offers.iter().any(|o| o.label == "Add a support"));
    assert!(offers.iter().any(|o| o.label.contains("18 mm board")));
    // The offer settles it.
    let patched = after(&doc, &offers[0].patch);
    assert_eq!(level(&plan(&patched), "sag.knee"), Some(Severity::Fine));
}

/// P L^3 / 48 E I (tabulated) for the knee on a single span of 600: 80 kg, 400 x 15 mm birch.
#[test]
fn the_knee_is_the_tabulated_case() {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["to"] = json!(618.2);
    doc["modules"]["deck"]["choices"]["supports"] = json!({"lines": 2});
    let p = plan(&doc);
    let span = p.decks[0].span.as_ref().unwrap().value;
    assert!((span - 600.0).abs() < 4.0, "{span}");
    let tabulated =
        80.0 * 9.80665 * span.powi(3) / (48.0 * 10316.0 * 400.0 * 15.0_f64.powi(3) / 12.0);
    let sag = finding(&p, "sag.knee").unwrap().numbers[1]
        .figure
        .as_ref()
        .unwrap()
        .value;
    assert!((sag - tabulated).abs() < 1e-6, "{sag} {tabulated}");
}

#[test]
fn a_small_door_asks_for_smaller_pieces() {
    let mut doc = box_van();
    for (key, typed) in [("r01", "560"), ("r02", "560"), ("r03", "500")] {
        doc["survey"]["readings"][key]["typed"] = json!(typed);
    }
    doc["modules"]["deck"]["choices"]["split"] = json!("whole");
    let p = plan(&doc);
    assert_eq!(level(&p, "door."), Some(Severity::Stop));
    assert_eq!(level(&p, "sheet."), Some(Severity::Stop));
    let offer = &finding(&p, "door.").unwrap().offers[0];
    let patched = after(&doc, &offer.patch);
    let p = plan(&patched);
    assert_ne!(level(&p, "door."), Some(Severity::Stop));
    doc["modules"]["deck"]["choices"]["split"] = json!("auto");
    assert_ne!(level(&plan(&doc), "door."), Some(Severity::Stop));
}

/// A floor 120 higher from 1200 on: legs there are 120 shorter.
#[test]
fn legs_follow_the_floor() {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["supports"] = json!({"manner": "legs"});
    doc["modules"]["deck"]["choices"]["leg_regions"] =
        json!({"seat": {"from": 1200, "to": 2000, "floor": 120}});
    let p = plan(&doc);
    let mut lengths: Vec<f64> = p
        .parts
        .iter()
        .filter(|p| p.mark.starts_with('L'))
        .map(|p| p.w.value)
        .collect();
    lengths.sort_by(f64::total_cmp);
    lengths.dedup_by(|a, b| (*a - *b).abs() < 0.01);
    // Under a 70 mm rail: 300 - 70, and 120 less.
    assert_eq!(lengths, vec![110.0, 230.0]);
}

#[rstest]
#[case("frames", 'F')]
#[case("legs", 'L')]
#[case("ledgers", 'G')]
fn each_manner_of_support_has_its_parts(#[case] manner: &str, #[case] letter: char) {
    let mut doc = with_wells(box_van());
    doc["modules"]["deck"]["choices"]["supports"] = json!({"manner": manner});
    let p = plan(&doc);
    assert!(p.parts.iter().any(|p| p.mark.starts_with(letter)));
    assert!(p.parts.iter().all(|p| p.w.value > 0.0 && p.mass > 0.0));
    if manner == "ledgers" {
        // 1400 from wall to wall on a rail 70 deep, and a ledger cannot run through a well.
        assert!(finding(&p, "sag.rail").is_some());
        let ledgers = p
            .parts
            .iter()
            .filter(|p| p.mark.starts_with('G'))
            .map(|p| p.count)
            .sum::<u32>();
        assert_eq!(ledgers, 4);
    }
}

/// A frame stands on the floor, ends under the deck, and clears walls by the clearance; where it is doubted
/// more low down, by that.
#[test]
fn frames_fill_the_section() {
    let p = plan(&box_van());
    let f = p.parts.iter().find(|p| p.mark == "F1").unwrap();
    let (width, height) = board(&p, "F1");
    assert!((height - 300.0).abs() < 0.01, "{height}");
    let c = p.decks[0].clearance.total.value;
    let edge = c + 0.7 * (c - 0.2) / 2.3;
    assert!(
        // Steps lower than a millimetre are taken off its ends.
        (width - (1400.0 - 2.0 * edge)).abs() < 0.6,
        "{width} {edge}"
    );
    assert!(f.features.iter().any(|f| f.kind == "window"));
    assert_eq!(f.outline.holes.len(), 2);
}

/// By hand: carpet of 6 mm on the left edge and foam of 10 in front take just that off the board, and its card says so.
#[test]
fn what_goes_round_an_edge_comes_off_the_board() {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["split"] = json!("whole");
    let bare = board(&plan(&doc), "D1");
    doc["modules"]["deck"]["choices"]["covers"] = json!({"left": 6, "front": 10});
    let p = plan(&doc);
    let covered = board(&p, "D1");
    assert!(
        (bare.0 - covered.0 - 10.0).abs() < 0.01,
        "{bare:?} {covered:?}"
    );
    assert!(
        (bare.1 - covered.1 - 6.0).abs() < 0.01,
        "{bare:?} {covered:?}"
    );
    let card = serde_json::to_string(p.parts.iter().find(|p| p.mark == "D1").unwrap()).unwrap();
    assert!(card.contains("covering on the edge"));
    doc["modules"]["deck"]["choices"]["covers"] = json!({"right": 60});
    let refused = jigfit_core::furniture::read(doc).unwrap_err();
    assert_eq!(refused.pointer, "/modules/deck/choices/covers/right");
}

/// A wall read by a tape to 5 mm is unsure by more than 2 mm (4 at two standard deviations), and by no more than the tape and its
/// three readings leave; one read to 1 mm is not.
#[test]
fn an_unsure_edge_wants_a_master() {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["split"] = json!("whole");
    assert!(finding(&plan(&doc), "master").is_none());
    doc["survey"]["sd"] = json!(5.0);
    let p = plan(&doc);
    let f = finding(&p, "master").unwrap();
    assert!(
        f.sentence.contains("of card or thin ply first"),
        "{}",
        f.sentence
    );
    let sd = f.numbers[0].figure.as_ref().unwrap().value;
    assert!(sd > 2.0 && sd < 7.0, "{sd}");
}

/// By hand: 70 wide slats at 110 over 1393.6: twelve whole ones with 11 gaps take 1280, 13 take 1390.
#[test]
fn slats_share_the_width() {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["top"] = json!("slats");
    doc["modules"]["deck"]["choices"]["split"] = json!("whole");
    let p = plan(&doc);
    let slats: u32 = p
        .parts
        .iter()
        .filter(|p| p.mark.starts_with('S'))
        .map(|p| p.count)
        .sum();
    assert_eq!(slats, 13);
    assert!(finding(&p, "air.").unwrap().sentence.contains("36 %"));
}

/// Twelve 32 mm holes in 60 x 80 in (common practice, no source).
#[test]
fn vents_by_area_and_clear_of_supports() {
    let p = plan(&box_van());
    let deck = &p.decks[0];
    let wanted = (deck.area / (60.0 * 80.0 * 25.4 * 25.4) * 12.0).ceil() as usize;
    assert!(deck.vents.len() >= wanted);
    for v in &deck.vents {
        assert!(deck.lines.iter().all(|x| (x - v[0]).abs() >= 44.0));
    }
}

#[test]
fn gear_and_people_are_judged() {
    let mut doc = box_van();
    doc["gear"] = json!({
        "low": {"name": "Low", "w": 400, "d": 300, "h": 280, "lid_clearance": 10},
        "tall": {"name": "Tall", "w": 200, "d": 300, "h": 500},
        "long": {"name": "Long", "w": 1900, "d": 800, "h": 100},
    });
    doc["people"] =
        json!({"a": {"name": "A", "stature": 1700}, "b": {"name": "B", "stature": 1950}});
    doc["mattress"] = json!({"thickness": 50, "sag": 20});
    let p = plan(&doc);
    assert_eq!(level(&p, "height.tall"), Some(Severity::Stop));
    assert!(finding(&p, "height.low").is_none());
    assert_eq!(level(&p, "between.long"), Some(Severity::Stop));
    assert!(finding(&p, "between.low").is_none());
    // Roof 1200 - (300 + 15 + 50 - 20) = 855 from the seat; 0.523 x 1700 = 889.1.
    assert_eq!(level(&p, "sits.a"), Some(Severity::Stop));
    // 2000 - 6.4 along is less than 1950 + 120.
    assert_eq!(level(&p, "bed.b"), Some(Severity::Look));
    assert!(finding(&p, "bed.a").is_none());
    // Worst first.
    assert!(p.findings.windows(2).all(|w| w[0].level <= w[1].level));
}

/// Whatever the tool offers, it can do: the patch applies, the result is a project, and the plan
/// still stands.
#[rstest]
#[case(demo("moth"))]
#[case(demo("kingfisher"))]
#[case(demo("moth-whole"))]
#[case(box_van())]
fn every_offer_works(#[case] doc: Value) {
    let mut doc = project(&doc).to_json().unwrap();
    doc["people"]["x"] = json!({"name": "X", "stature": 1990});
    let mut seen = 0;
    let before = plan(&doc);
    for f in before.findings.clone() {
        assert!(!f.sentence.is_empty() && !f.source.contains("NaN") && !f.sentence.contains("NaN"));
        for offer in f.offers {
            let patched = after(&doc, &offer.patch);
            jigfit_core::furniture::read(patched.clone())
                .unwrap_or_else(|p| panic!("{}: {p}", offer.label));
            let after = plan(&patched);
            let stands = |p: &jigfit_core::plan::Plan| {
                p.findings
                    .iter()
                    .any(|g| g.id == f.id && g.sentence == f.sentence)
            };
            // Either the finding is settled or changed, or the numbers that settle it are asked for.
            assert!(
                !stands(&after) || after.asks.len() > before.asks.len(),
                "{} changes nothing",
                offer.label
            );
            seen += 1;
        }
    }
    assert!(seen > 0);
}

/// Same project, same plan, byte for byte; and no number that is none.
#[rstest]
#[case("moth")]
#[case("kingfisher")]
fn solve_is_deterministic(#[case] name: &str) {
    let doc = demo(name);
    let text = |d: &Value| serde_json::to_string(&plan(d)).unwrap();
    let once = text(&doc);
    assert_eq!(once, text(&doc));
    let round: Value =
        serde_json::from_str(&serde_json::to_string(&project(&doc)).unwrap()).unwrap();
    assert_eq!(once, text(&round));
    // A sum that is not a number would be written as null.
    let p: Value = serde_json::from_str(&once).unwrap();
    assert!(p["mass"].as_f64().unwrap() > 1.0);
    for part in p["parts"].as_array().unwrap() {
        assert!(part["w"]["value"].is_f64() && part["mass"].is_f64());
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]
    /// Whatever the walls, wells and choices: no panic, and panels lie inside the bay.
    #[test]
    fn panels_lie_inside_the_bay(
        walls in proptest::collection::vec(60.0..1200.0_f64, 6),
        start in 50.0..1700.0_f64, long in 50.0..900.0_f64, wide in 1.0..600.0_f64, high in 10.0..700.0_f64,
        underside in 0.0..900.0_f64, radius in 0.0..20.0_f64, manner in 0..3_usize, slats: bool,
    ) {
        let mut doc = with_wells(box_van());
        for (i, w) in walls.iter().enumerate() {
            doc["survey"]["readings"][format!("r{:02}", i + 5)]["typed"] = json!(format!("{w:.1}"));
        }
        for (dim, v) in [("start", start), ("length", long), ("width", wide), ("height", high)] {
            doc["survey"]["readings"][format!("wl-{dim}")]["typed"] = json!(format!("{v:.1}"));
        }
        doc["modules"]["deck"]["choices"]["underside"] = json!(underside);
        doc["modules"]["deck"]["choices"]["internal_radius"] = json!(radius);
        doc["modules"]["deck"]["choices"]["top"] = json!(if slats { "slats" } else { "solid" });
        doc["modules"]["deck"]["choices"]["supports"] = json!({"manner": (["frames", "legs", "ledgers"][manner])});
        let p = plan(&doc);
        for deck in &p.decks {
            let bay = &deck.bay;
            for panel in &deck.panels {
                let outside: f64 = panel.minus(std::slice::from_ref(bay)).iter().map(|r| r.area()).sum();
                prop_assert!(outside < 1.0, "{outside} mm2 outside");
                for o in &deck.obstacles {
                    let inside: f64 = panel.and(o).iter().map(|r| r.area()).sum();
                    prop_assert!(inside < 1.0, "{inside} mm2 in the way");
                }
            }
        }
    }
}

/// A folded seat, 3 in high, entered as two halves that meet at the centre, from 1200 on.
/// A front that runs askew, 10 mm further in at the left wall than at the right: the foremost rail stands so far back that the
/// deck lies on all of it, not on the half where there is more room.
#[rstest]
#[case(1995, 2005)]
#[case(2005, 1995)]
#[case(2000, 2000)]
fn before_a_front_askew_a_support_is_whole(#[case] left: u32, #[case] right: u32) {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["supports"]["manner"] = json!("legs");
    for (z, n) in [(0, "a"), (300, "b")] {
        for (y, mm) in [(600, left), (-600, right)] {
            let id = format!("{n}{}", y + 1000);
            let length = json!({"of": "length", "z": z, "y": y});
            doc["survey"]["readings"][id] = reading(length, &mm.to_string());
        }
    }
    let p = plan(&doc);
    let rails = p.boards.iter().filter(|b| b.role == "rail");
    let rails: Vec<(f64, f64)> = rails
        .map(|b| (b.poses["drive"].origin[0], b.outline.size().0))
        .collect();
    let (first, last) = (rails[0], rails[rails.len() - 1]);
    assert!(last.1 > 0.95 * first.1, "{rails:?}");
    // The front is at 1994 at the nearest; doubt, clearance and the rail come off that.
    assert!(last.0 > 1955.0, "{rails:?}");
}

fn with_folded_seat(mut doc: Value) -> Value {
    for (id, side, high) in [("sl", "left", "3 in"), ("sr", "right", "70")] {
        doc["survey"]["things"][id] =
            json!({"kind": "folded_seat", "side": side, "name": format!("{side} seat back")});
        for (dim, typed) in [
            ("start", "1200"),
            ("end", "2000"),
            ("face", "0"),
            ("height", high),
        ] {
            doc["survey"]["readings"][format!("{id}-{dim}")] = reading(thing(id, dim), typed);
        }
    }
    doc
}

/// By hand: legs 230 long on the floor (300 less the rail of 70), 230 - 76.2 = 153.8, which is 153 on a tape, on the left
/// half of the seat, 160 on the right; none stands half on the seam, and none overlaps another.
#[test]
fn legs_stand_on_what_is_there() {
    let mut doc = with_folded_seat(box_van());
    doc["modules"]["deck"]["choices"]["supports"] = json!({"manner": "legs", "lines": 4});
    let p = plan(&doc);
    let mut lengths: Vec<(i64, u32)> = Vec::new();
    for l in p.parts.iter().filter(|p| p.mark.starts_with('L')) {
        lengths.push(((l.w.value * 10.0).round() as i64, l.count));
        assert_eq!(
            l.places.len(),
            l.count as usize,
            "each leg says where it goes"
        );
    }
    lengths.sort_unstable();
    let total: u32 = lengths.iter().map(|l| l.1).sum();
    assert_eq!(total, 12, "{lengths:?}");
    assert_eq!(
        lengths.iter().map(|l| l.0).collect::<Vec<_>>(),
        [1530, 1600, 2300]
    );
    assert_eq!(lengths[2].1, 6, "two lines on the floor");
    // Footprints of one line lie side by side.
    let feet: Vec<_> = p.decks[0]
        .supports
        .iter()
        .filter(|r| r.size().1 < 100.0)
        .collect();
    assert_eq!(feet.len(), 12);
    for (i, a) in feet.iter().enumerate() {
        assert!(
            feet[..i].iter().all(|b| a.and(b).is_empty()),
            "two legs in one place"
        );
    }
    assert!(finding(&p, "stand.").is_none());
}

/// By hand: a seat's back 76.2 and 70 high at its front end, 2000 in, that falls 3 degrees to the rear, is 41.9 lower at its rear end. A foot
/// stands on it with its forward edge: that much over the floor, the leg that much shorter, and it is told how much is planed off.
#[test]
fn feet_stand_on_a_slope() {
    let mut doc = with_folded_seat(box_van());
    for id in ["sl", "sr"] {
        doc["survey"]["things"][id]["slope"] = json!(3.0);
    }
    let tangent = 3f64.to_radians().tan();
    doc["modules"]["deck"]["choices"]["supports"] = json!({"manner": "legs", "lines": 4});
    let p = plan(&doc);
    let legs = p.boards.iter().filter(|b| b.role == "leg");
    let on_seat: Vec<_> = legs.map(|b| (b, ends(b, "drive"))).collect();
    let on_seat: Vec<_> = on_seat.iter().filter(|(_, e)| e.0[0] > 1200.0).collect();
    assert!(on_seat.len() >= 6, "{}", on_seat.len());
    for (leg, (low, high)) in on_seat {
        let top = if low[1] > -30.0 { 76.2 } else { 70.0 };
        let foot = top - (2000.0 - high[0]) * tangent;
        assert!(
            (low[2] - foot).abs() < 0.01,
            "{} stands at {}, seat at {foot}",
            leg.id,
            low[2]
        );
    }
    let part = p
        .parts
        .iter()
        .find(|p| p.places.iter().any(|s| s.contains("seat back")))
        .unwrap();
    assert!(
        part.then
            .iter()
            .any(|t| t.contains("slopes: plane the foot")),
        "{:?}",
        part.then
    );

    doc["modules"]["deck"]["choices"]["supports"] = json!({"manner": "frames", "lines": 4});
    let p = plan(&doc);
    let frames = p
        .boards
        .iter()
        .filter(|b| b.role == "frame")
        .map(|b| ends(b, "drive"));
    let (low, high) = frames
        .into_iter()
        .find(|e| e.0[0] > 1250.0 && e.1[0] < 1500.0)
        .unwrap();
    let foot = 70.0 - (2000.0 - high[0]) * tangent;
    assert!((low[2] - foot).abs() < 0.1, "{} {foot}", low[2]);

    // What a deck must clear is the slope, not a box round it: at 60 high it is cut out only where the seat is higher.
    doc["modules"]["deck"]["choices"]["underside"] = json!(60.0);
    doc["modules"]["deck"]["choices"]["supports"] = json!({"manner": "ledgers"});
    let p = plan(&doc);
    let cut: Vec<_> = p.decks[0].obstacles.iter().map(|o| o.bounds()).collect();
    let begins = 2000.0 - (76.2 - 60.0) / tangent;
    assert!(
        cut.iter().any(|b| (b.0 - begins).abs() < 0.5),
        "{cut:?} {begins}"
    );

    // A well is not stood on: its slope does not count. And a foot slips on more than 30 degrees.
    for id in ["sl", "sr"] {
        doc["survey"]["things"][id]["kind"] = json!("wheel_well");
    }
    let p = plan(&doc);
    assert!(
        p.decks[0]
            .obstacles
            .iter()
            .all(|o| (o.bounds().0 - 1200.0).abs() < 0.5)
    );
    doc["survey"]["things"]["sl"]["slope"] = json!(31.0);
    let problem = jigfit_core::project::Project::read(doc).unwrap_err();
    assert_eq!(problem.pointer, "/survey/things/sl/slope");
}

/// A frame over the seat is cut to it, left and right differ, and it touches both: by hand 300 - 76.2 and
/// 300 - 70 high.
#[test]
fn frames_are_cut_to_what_they_stand_on() {
    let mut doc = with_folded_seat(box_van());
    doc["modules"]["deck"]["choices"]["supports"] = json!({"manner": "frames", "lines": 4});
    let p = plan(&doc);
    let f = p
        .parts
        .iter()
        .find(|p| p.name.contains("frame, 13"))
        .unwrap();
    assert!((f.h.value - 230.0).abs() < 0.1, "{}", f.h.value);
    // On the left half, which lies to the right on the card, it is 6.2 shorter below.
    let low = |from: f64, to: f64| {
        let own = f
            .corners
            .iter()
            .filter(|c| c.u.value > from && c.u.value < to);
        own.map(|c| c.v.value).fold(f64::INFINITY, f64::min)
    };
    let middle = f.way.centre.unwrap()[0][0];
    assert!(low(-1.0, middle - 10.0).abs() < 0.1);
    // 6.2 and up to the next mark: the frame has to lie over the seat.
    assert_eq!(low(middle + 10.0, 1e9), 7.0);
}

/// Where something stands that carries nothing the leg moves aside, and where there is no room at all it is
/// told.
#[test]
fn what_cannot_be_stood_on_is_not() {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["supports"] = json!({"manner": "legs", "lines": 2});
    doc["survey"]["things"]["box"] =
        json!({"kind": "power_box", "side": "left", "name": "power box", "form": "free"});
    let dims = [
        ("start", "0"),
        ("end", "200"),
        ("face", "-60"),
        ("far", "60"),
        ("height", "90"),
    ];
    for (dim, typed) in dims {
        doc["survey"]["readings"][format!("b-{dim}")] = reading(thing("box", dim), typed);
    }
    let p = plan(&doc);
    let middle = p.decks[0]
        .supports
        .iter()
        .filter(|r| r.bounds().0 < 50.0 && r.size().1 < 100.0)
        .map(Region::bounds)
        .min_by(|a, b| (a.1 + a.3).abs().total_cmp(&(b.1 + b.3).abs()))
        .unwrap();
    assert!(middle.1 > 60.0 || middle.3 < -60.0, "{middle:?}");
    for (dim, typed) in [("face", "-690"), ("far", "690")] {
        doc["survey"]["readings"][format!("b-{dim}")] = reading(thing("box", dim), typed);
    }
    let p = plan(&doc);
    assert_eq!(level(&p, "stand.deck"), Some(Severity::Stop));
}

/// Every part says which face is seen and what lies along its edges; two that look alike say so, and the
/// frame whose notch fits only one way has its centre line.
#[test]
fn parts_say_which_way_round_they_go() {
    let p = plan(&with_wells(box_van()));
    for part in &p.parts {
        assert!(!part.way.face.is_empty(), "{}", part.name);
        let sides = [
            &part.way.left,
            &part.way.right,
            &part.way.top,
            &part.way.bottom,
        ];
        assert!(sides.iter().any(|s| !s.is_empty()), "{}", part.name);
        assert!(part.then[0].contains(&part.mark), "{}", part.then[0]);
    }
    let left = p
        .parts
        .iter()
        .find(|p| p.name.contains("left half"))
        .unwrap();
    assert_eq!(
        (left.way.top.as_str(), left.way.bottom.as_str()),
        ("left wall", "joint to the right piece")
    );
    assert_eq!(
        (left.way.left.as_str(), left.way.right.as_str()),
        ("rear: threshold", "front")
    );
    let frames: Vec<_> = p.parts.iter().filter(|p| p.mark.starts_with('F')).collect();
    // By hand: the bay is symmetrical, so the centre line halves a frame.
    for f in &frames {
        let centre = f.way.centre.unwrap()[0][0];
        assert!(
            (centre - f.w.value / 2.0).abs() <= 1.0,
            "{centre} of {}",
            f.w.value
        );
    }
    assert!(
        frames
            .iter()
            .any(|f| f.then.iter().any(|t| t.contains("looks like")))
    );
}

/// By hand: frames 60 wide round two windows leave 300 - 120 = 180 high and under 610 wide. A box 170 high
/// goes through, one 250 high does not and is not called fine; on legs it is.
#[test]
fn what_cannot_get_in_is_not_fine() {
    let mut doc = box_van();
    doc["gear"] = json!({
        "low": {"name": "Low bin", "w": 400, "d": 300, "h": 170},
        "tall": {"name": "Tall bin", "w": 400, "d": 300, "h": 250},
    });
    let p = plan(&doc);
    let fine = finding(&p, "heights-fit").unwrap();
    assert!(
        fine.sentence.contains("Low bin") && !fine.sentence.contains("Tall bin"),
        "{}",
        fine.sentence
    );
    let shut = finding(&p, "way-in.deck").unwrap();
    assert_eq!(shut.level, Severity::Look);
    assert!(
        shut.sentence.starts_with("Tall bin stands"),
        "{}",
        shut.sentence
    );
    doc["gear"]["other"] = json!({"name": "Other bin", "w": 400, "d": 300, "h": 250});
    let p = plan(&doc);
    let said: Vec<_> = p
        .findings
        .iter()
        .filter(|f| f.id.starts_with("way-in"))
        .collect();
    assert_eq!(said.len(), 1, "one cause is told once");
    assert!(said[0].sentence.contains("Tall bin") && said[0].sentence.contains("Other bin"));
    doc["gear"].as_object_mut().unwrap().remove("other");
    doc["modules"]["deck"]["choices"]["supports"] = json!({"manner": "ledgers"});
    doc["gear"]["tall"]["h"] = json!(229);
    let p = plan(&doc);
    assert!(
        finding(&p, "heights-fit")
            .unwrap()
            .sentence
            .contains("Tall bin")
    );
    assert!(finding(&p, "way-in.").is_none());
}

/// A bin 250 high goes in by a door in a wall where 300 are free under the deck; not over a sill of 100, nor where the door is
/// narrower than the bin.
#[rstest]
#[case(800, 0, true)]
#[case(800, 100, false)]
#[case(240, 0, false)]
fn things_go_in_by_a_door_in_a_wall(#[case] wide: u32, #[case] sill: u32, #[case] goes: bool) {
    let mut doc = box_van();
    doc["gear"] = json!({"tall": {"name": "Tall bin", "w": 400, "d": 300, "h": 250}});
    doc["survey"]["openings"]["s"] =
        json!({"name": "side door", "side": "right", "from": 600, "sill": sill});
    let sizes = [("width_floor", wide), ("width_top", wide), ("height", 1000)];
    for (dim, v) in sizes {
        doc["survey"]["readings"][dim] = json!({
            "quantity": {"of": "opening", "dim": dim, "id": "s"}, "typed": v.to_string(), "unit": "mm",
        });
    }
    assert_eq!(finding(&plan(&doc), "way-in.deck").is_none(), goes);
}

/// By hand: 1400 less two borders, the post and clearances leave under 610 for each of two windows. A bin 700 wide and as long
/// moves the posts aside: its window is 710, the other keeps the rest. One 900 wide would leave too little wood over it: told.
#[rstest]
#[case(700.0, Some(710.0))]
#[case(900.0, None)]
fn windows_are_made_for_what_goes_through_them(#[case] wide: f64, #[case] window: Option<f64>) {
    let mut doc = box_van();
    doc["gear"] = json!({"wide": {"name": "Wide bin", "w": wide, "d": wide, "h": 170}});
    let p = plan(&doc);
    assert_eq!(finding(&p, "way-in.deck").is_none(), window.is_some());
    let windows = |p: &Plan| -> Vec<f64> {
        let frame = p.parts.iter().find(|p| p.mark == "F1").unwrap();
        let sizes = frame.features.iter().filter_map(|f| f.size.as_ref());
        sizes.map(|s| s.0.value).collect()
    };
    let mut widths = windows(&p);
    widths.sort_by(f64::total_cmp);
    assert_eq!(widths.len(), 2, "{widths:?}");
    match window {
        Some(w) => {
            assert_eq!(widths[1], w);
            // Both windows and the post between take up what two equal ones took.
            doc["gear"] = json!({});
            let plain = plan(&doc);
            let both: f64 = windows(&plain).iter().sum();
            assert!(
                (widths[0] + widths[1] - both).abs() <= 1.0,
                "{widths:?} {both}"
            );
        }
        None => assert!((widths[0] - widths[1]).abs() <= 1.0, "{widths:?}"),
    }
}

/// By hand: wells 200 deep on both sides of 1400 leave 1000 less clearances: under 600 each for two, which
/// is told, and enough for one.
#[test]
fn the_width_between_wells_is_told() {
    let mut doc = with_wells(box_van());
    doc["people"] =
        json!({"a": {"name": "A", "stature": 1700}, "b": {"name": "B", "stature": 1700}});
    let p = plan(&doc);
    assert_eq!(level(&p, "sleep.deck"), Some(Severity::Look));
    let numbers = &finding(&p, "sleep.deck").unwrap().numbers;
    let left = numbers[2].figure.as_ref().unwrap().value;
    assert!(left > 985.0 && left < 996.0, "{left}");
    doc["people"] = json!({"a": {"name": "A", "stature": 1700}});
    assert_eq!(level(&plan(&doc), "sleep.deck"), Some(Severity::Fine));
    assert!(finding(&plan(&box_van()), "sleep.").is_none());
}

/// A bed of 2000 for one of 1950, who wants 2070: a seat that goes 150 forward makes room for what bridges 70 and more (what the
/// front keeps off), one that goes 40 does not.
#[rstest]
#[case(150.0, "it can be: something 7")]
#[case(40.0, "all the way forward it becomes 20")]
fn a_seat_slid_forward_makes_the_bed_longer(#[case] travel: f64, #[case] says: &str) {
    let mut doc = box_van();
    doc["people"] = json!({"a": {"name": "A", "stature": 1950}});
    let told = |doc: &Value| finding(&plan(doc), "bed.a").unwrap().sentence.clone();
    assert!(!told(&doc).contains("forward"));
    doc["survey"]["seats"] = json!({"p": {"name": "passenger seat", "travel": travel}});
    assert!(
        told(&doc).contains(says) && told(&doc).contains("315 mm high"),
        "{}",
        told(&doc)
    );
}

/// A gap of some 73 before a deck whose face lies 315 high: of what is stowed a box of 70 by 300 by 312 is named, turned as it has
/// to be; one that is too low, too high, too long, or so short that no mattress bridges the rest, is not.
#[rstest]
#[case([300.0, 70.0, 312.0], true)]
#[case([70.0, 300.0, 312.0], true)]
#[case([300.0, 70.0, 280.0], false)]
#[case([300.0, 70.0, 330.0], false)]
#[case([300.0, 90.0, 312.0], false)]
#[case([300.0, 10.0, 312.0], false)]
fn what_is_stowed_fills_the_gap(#[case] size: [f64; 3], #[case] does: bool) {
    let [w, d, h] = size;
    let mut doc = box_van();
    doc["people"] = json!({"a": {"name": "A", "stature": 1950}});
    doc["survey"]["seats"] = json!({"p": {"name": "passenger seat", "travel": 150}});
    doc["gear"] = json!({"box": {"name": "chart box", "w": w, "d": d, "h": h}});
    let told = finding(&plan(&doc), "bed.a").unwrap().sentence.clone();
    let named = "chart box, 70 mm long and 312 mm high, stood before it bridges the gap";
    assert_eq!(told.contains(named), does, "{told}");
    assert_eq!(told.contains("something 7"), !does, "{told}");
}

/// In a cuddy whose hull comes in towards the bow, the outer slats of the front half find nothing at their front ends: two lie on one
/// support only and are left out, others stick out by less than the 407.5 from support to support, and that is told.
#[test]
fn slats_that_hang_in_the_air_are_told() {
    let p = plan(&demo("kingfisher"));
    let out = finding(&p, "left-out.deck").unwrap();
    assert!(out.sentence.starts_with("2 slats"), "{}", out.sentence);
    let f = finding(&p, "overhang.deck").unwrap();
    let mm: f64 = f
        .sentence
        .split(" mm")
        .next()
        .unwrap()
        .rsplit(' ')
        .next()
        .unwrap()
        .parse()
        .unwrap();
    assert!(mm > 120.0 && mm < 407.5, "{}", f.sentence);
    // A deck that ends sooner has nothing left that sticks out.
    let shorter = plan(&after(&demo("kingfisher"), &f.offers[0].patch));
    assert!(
        finding(&shorter, "overhang.deck").is_none(),
        "{:?}",
        finding(&shorter, "overhang.deck")
    );
    assert!(finding(&plan(&box_van()), "overhang.").is_none());
}

/// Two pieces that meet over one edge of 15 mm have 7.5 mm each to lie on.
#[test]
fn pieces_on_one_thin_edge_are_told() {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["split"] = json!("across");
    let p = plan(&doc);
    let f = finding(&p, "rest.deck").unwrap();
    assert!(f.sentence.contains("7.5 mm"), "{}", f.sentence);
    // Strips on both faces of that support: 7.5 + 15 mm each, and nothing more to tell.
    let then = plan(&after(&doc, &f.offers[0].patch));
    assert!(finding(&then, "rest.").is_none());
    assert_eq!(then.boards.iter().filter(|b| b.role == "lip").count(), 2);
    assert!(then.boards.iter().filter(|b| b.role == "panel").all(|d| {
        let on = then
            .joints
            .iter()
            .filter(|j| j.a == d.id && j.b.contains("/lip-"));
        on.count() == 1
    }));
    doc["modules"]["deck"]["choices"]["supports"] = json!({"thickness": 27});
    assert!(finding(&plan(&doc), "rest.").is_none());
}

/// 15 mm is not 9/16: a board is called what it is sold as, and worked out as thick as it is. Stock in
/// inches serves choices in millimetres where a seller would say it is the same board.
#[rstest]
#[case("5/8 in", 15.1, 15.0, "5/8 in birch ply")]
#[case("15 mm", 14.6, 15.875, "15 mm birch ply")]
#[case("18 mm", 18.3, 15.0, "15 mm birch ply")]
fn boards_have_a_name_and_a_thickness(
    #[case] name: &str,
    #[case] measured: f64,
    #[case] wanted: f64,
    #[case] called: &str,
) {
    let mut doc = box_van();
    doc["units"] = json!({"system": "in", "tape": "in"});
    doc["modules"]["deck"]["choices"]["thickness"] = json!(wanted);
    doc["modules"]["deck"]["choices"]["supports"] = json!({"thickness": wanted});
    doc["stock"] = json!({"s": {"material": "birch-ply", "name": name, "thickness": measured, "w": 2440, "h": 1220}});
    let p = plan(&doc);
    let d = p.parts.iter().find(|p| p.mark == "D1").unwrap();
    assert_eq!(d.stuff, called);
    let same = (measured - d.thickness.value).abs() < 1e-9;
    assert_eq!(same, name != "18 mm", "an 18 mm board is no 15 mm board");
    assert_eq!(p.sheets[0].assumed, name == "18 mm");
}

/// Wells stand in the ladder, each at its side and as high as the tape says.
#[test]
fn wells_stand_in_the_ladder() {
    let p = plan(&with_wells(box_van()));
    let fixed = p.ladder.expect("a ladder").fixed;
    let tops: Vec<(String, f64, f64)> = fixed
        .iter()
        .map(|f| (format!("{:?}", f.side), f.from, f.top.value))
        .collect();
    assert_eq!(tops.len(), 2, "{tops:?}");
    assert!(tops.iter().any(|t| t.0 == "Left") && tops.iter().any(|t| t.0 == "Right"));
    assert!(
        tops.iter().all(|t| t.1 == 0.0 && (t.2 - 400.0).abs() < 0.5),
        "{tops:?}"
    );
}

/// Walls that come nearer to each other towards the front by 180 on 2000 to each side: a frame of 15 mm is 1.35 mm wider at its rear face,
/// arctan(180 / 2000) = 5.1°. Where they part, at its front face; along straight walls nothing is tilted.
#[rstest]
#[case("520", Some("rear"))]
#[case("880", Some("front"))]
#[case("700", None)]
fn frames_between_walls_that_narrow_may_be_tilted(
    #[case] front: &str,
    #[case] larger: Option<&str>,
) {
    let mut doc = box_van();
    let readings = doc["survey"]["readings"].as_object_mut().unwrap();
    let middle = ((front.parse::<f64>().unwrap() + 700.0) / 2.0).to_string();
    for r in readings.values_mut() {
        let q = &r["quantity"];
        if q["of"] == "wall" {
            let typed = match q["x"].as_f64().unwrap() {
                0.0 => "700",
                1000.0 => &middle,
                _ => front,
            };
            r["typed"] = json!(typed);
        }
    }
    let p = plan(&doc);
    let frames: Vec<_> = p.parts.iter().filter(|p| p.mark.starts_with('F')).collect();
    assert!(frames.len() >= 3);
    // How far out the last one goes the front decides.
    for f in &frames[..frames.len() - 1] {
        let Some(larger) = larger else {
            assert!(f.bevels.is_empty(), "{:?}", f.bevels);
            continue;
        };
        // Both its ends, from the floor up to the deck.
        assert_eq!(f.bevels.len(), 2, "{} {:?}", f.name, f.bevels);
        for b in &f.bevels {
            assert_eq!((b.deg, b.larger.as_str()), (5.0, larger));
            let ends = [b.along[0], b.along[b.along.len() - 1]];
            assert!((ends[0][1] - ends[1][1]).abs() > 290.0, "{ends:?}");
        }
        let told = f.then.iter().filter(|t| t.contains("tilt the saw 5°"));
        let told: Vec<_> = told.collect();
        assert_eq!(told.len(), 2);
        assert!(
            told.iter().all(|t| t.contains("1.3") || t.contains("1.4")),
            "{told:?}"
        );
    }
}

/// Walls that lean by 60 over 300, by hand: arctan(0.2) = 11.3 degrees; sawn square a board of 15 leaves 3 open at the face that
/// is nearer to the wider end.
#[rstest]
#[case("760", Some("upper"))]
#[case("640", Some("lower"))]
#[case("705", None)]
fn where_walls_lean_the_saw_may_be_tilted(#[case] above: &str, #[case] larger: Option<&str>) {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["underside"] = json!(150);
    for r in doc["survey"]["readings"]
        .as_object_mut()
        .unwrap()
        .values_mut()
    {
        if r["quantity"]["of"] == "wall" && r["quantity"]["z"] == 300.0 {
            r["typed"] = json!(above);
        }
    }
    let p = plan(&doc);
    let boards = p.parts.iter().filter(|p| p.mark.starts_with('D'));
    let bevels: Vec<_> = boards
        .clone()
        .flat_map(|p| p.bevels.iter().map(move |b| (p, b)))
        .collect();
    let Some(larger) = larger else {
        assert!(bevels.is_empty());
        return;
    };
    // Along both walls, whatever the deck is split into.
    let long: f64 = bevels
        .iter()
        .flat_map(|(_, b)| b.along.windows(2))
        .map(|w| (w[1][0] - w[0][0]).hypot(w[1][1] - w[0][1]))
        .sum();
    assert!(long > 2.0 * 1900.0 && long < 2.0 * 2001.0, "{long}");
    for (part, b) in &bevels {
        assert_eq!((b.deg, b.larger.as_str()), (11.0, larger));
        // It lies on the part's own outline.
        for end in b.along.iter().copied() {
            let ring = &part.outline.outer;
            let n = ring.len();
            let off = (0..n)
                .map(|i| {
                    jigfit_core::geometry::distance_to_segment(end, ring[i], ring[(i + 1) % n])
                })
                .fold(f64::INFINITY, f64::min);
            assert!(off < 1.5, "{off}");
        }
        let words = part.then.iter().find(|t| t.contains("tilt the saw 11°"));
        let words = words.unwrap();
        assert!(
            words.contains(&format!("stay open at the {larger} face")),
            "{words}"
        );
        let open: f64 = words
            .split("sawn square ")
            .nth(1)
            .and_then(|w| w.split(' ').next())
            .and_then(|w| w.parse().ok())
            .unwrap();
        assert!((open - 3.0).abs() < 0.2, "{open}");
    }
}

/// A cabinet in the middle of the van under a deck 400 up, `gap` lower than it: supports on both sides of it, none over it.
fn over_a_cabinet(gap: f64, along: f64) -> Value {
    let mut doc = read_up_to(box_van(), 500.0);
    doc["modules"]["deck"]["choices"]["underside"] = json!(400);
    doc["modules"]["deck"]["choices"]["supports"] = json!({"manner": "frames", "lines": 4});
    doc["modules"]["deck"]["choices"]["split"] = json!("whole");
    doc["modules"]["c"] = json!({"kind": "cabinet", "place": {"along": along, "across": "centred"},
        "choices": {"width": 600, "depth": 500, "height": 400.0 - gap, "rows": 1, "columns": 1, "lip": 0}});
    doc["people"] = json!({"a": {"name": "A", "stature": 1700, "mass": 80}});
    doc
}

/// A frame beside furniture is in two pieces, one on each side, also where the floor lies lower than the furniture's feet.
#[test]
fn both_sides_of_a_thing_are_carried() {
    // The floor falls by 4 mm over the first metre: the cabinet stands level on its higher end.
    let mut doc = over_a_cabinet(20.0, 500.0);
    for (id, x, z) in [
        ("f1", 0, "0"),
        ("f2", 600, "-2"),
        ("f3", 1300, "-4"),
        ("f4", 2000, "-4"),
    ] {
        doc["survey"]["readings"][id] = reading(json!({"of": "floor", "x": x, "y": 0}), z);
    }
    let p = plan(&doc);
    let at = |x: f64| {
        let frames = p
            .boards
            .iter()
            .filter(|b| b.role == "frame")
            .map(|b| ends(b, "drive"));
        let mut here: Vec<_> = frames.filter(|e| (e.0[0] - x).abs() < 40.0).collect();
        here.sort_by(|a, b| a.0[1].total_cmp(&b.0[1]));
        here
    };
    let pieces = at(660.0);
    assert_eq!(pieces.len(), 2, "{pieces:?}");
    let sides =
        ["c/carcass-right", "c/carcass-left"].map(|id| ends(crate::common::board(&p, id), "drive"));
    assert!(
        pieces[0].0[1] < -650.0 && (2.0..3.5).contains(&(sides[0].0[1] - pieces[0].1[1])),
        "{pieces:?} {sides:?}"
    );
    assert!(
        pieces[1].1[1] > 650.0 && (2.0..3.5).contains(&(pieces[1].0[1] - sides[1].1[1])),
        "{pieces:?} {sides:?}"
    );
}

/// By hand: lines at 8, 668, 1328 and 1988 in; the cabinet from 500 to 1000 takes the one at 668 over 604 mm. Across: P L^3 / 48 E I, 785 N
/// on 400 mm of board. Along: from 8 to 1329, which bends more. A cabinet that reaches up to the deck carries it.
#[test]
fn what_a_deck_bridges_over_furniture_is_judged() {
    let doc = over_a_cabinet(20.0, 500.0);
    let p = plan(&doc);
    let f = finding(&p, "bridge.deck").unwrap();
    let deck = &p.decks[0];
    let material = project(&doc).material("birch-ply").unwrap().clone();
    let thick = deck.thickness.value;
    let e = material
        .modulus(thick, jigfit_core::mechanics::material::Grain::Across)
        .unwrap();
    let by_hand = 80.0 * 9.80665 * 604f64.powi(3) / (48.0 * e * 400.0 * thick.powi(3) / 12.0);
    let told = f
        .numbers
        .iter()
        .find(|n| n.label == "sag under a knee")
        .unwrap();
    assert!(
        (told.figure.as_ref().unwrap().value - by_hand).abs() < 0.02 * by_hand,
        "{} {by_hand}",
        told.figure.as_ref().unwrap().value
    );
    assert!(
        f.sentence.contains("cabinet") && f.sentence.contains("across"),
        "{}",
        f.sentence
    );
    assert_eq!(f.level == Severity::Stop, by_hand > 5.0);

    // At the rear edge nothing is behind it: only across.
    let rear = plan(&over_a_cabinet(20.0, 0.0));
    assert!(
        finding(&rear, "bridge.deck")
            .unwrap()
            .sentence
            .contains("across")
    );

    // A cabinet as high as the deck's underside carries it; so does a frame that passes over one that is lower.
    for gap in [0.0, 100.0] {
        let p = plan(&over_a_cabinet(gap, 500.0));
        assert!(finding(&p, "bridge.deck").is_none(), "{gap}");
    }
}

/// Shelves on four posts that reach up to the deck carry it at their posts only, 500 and 985 in: at the line between, 668 in, it bridges them. A
/// cabinet of the same size carries it all over. Slats at the rear edge, with nothing behind them, hang in the air: a stop with an offer.
#[test]
fn posts_carry_where_they_stand() {
    let mut doc = over_a_cabinet(0.0, 500.0);
    assert!(finding(&plan(&doc), "bridge.deck").is_none());
    doc["modules"]["c"] = json!({"kind": "shelves", "name": "rack", "place": {"along": 500, "across": "centred"},
        "choices": {"width": 600, "depth": 500, "height": 400, "levels": 1}});
    let p = plan(&doc);
    let f = finding(&p, "bridge.deck").unwrap();
    assert!(
        f.sentence.starts_with("Over the rack") && f.sentence.contains("668 mm from the threshold"),
        "{}",
        f.sentence
    );

    let mut doc = over_a_cabinet(20.0, 0.0);
    doc["modules"]["deck"]["choices"]["top"] = json!("slats");
    let p = plan(&doc);
    let f = finding(&p, "bridge.hangs.deck").unwrap();
    assert_eq!(f.level, Severity::Stop);
    let lower = plan(&after(&doc, &f.offers[0].patch));
    assert!(finding(&lower, "bridge.hangs.deck").is_none());
}

/// A drawer that comes out to the rear under a frame takes it away over its own width, as what stands there does; one that is 60 lower does not.
#[test]
fn what_opens_under_a_frame_takes_it_away() {
    for (height, told) in [(360.0, true), (320.0, false)] {
        let mut doc = over_a_cabinet(20.0, 500.0);
        doc["modules"]["c"] = json!({"kind": "drawer", "name": "chest", "place": {"along": 760, "across": "centred"},
            "choices": {"width": 600, "depth": 450, "height": height}});
        let p = plan(&doc);
        let f = finding(&p, "bridge.deck");
        let about = f.is_some_and(|f| {
            f.sentence.starts_with("Over the chest")
                && f.sentence.contains("668 mm from the threshold")
        });
        assert_eq!(about, told, "{height} {f:?}");
    }
}

/// A stop of it offers to lower the furniture until a frame passes over it, and the board that is thick enough.
#[test]
fn a_bridge_that_bends_has_offers() {
    let mut doc = over_a_cabinet(20.0, 500.0);
    doc["modules"]["c"]["choices"]["width"] = json!(1000);
    let p = plan(&doc);
    let f = finding(&p, "bridge.deck").unwrap();
    assert_eq!(f.level, Severity::Stop, "{}", f.sentence);
    assert_eq!(f.offers.len(), 2);
    // 60 of wood has to be left over it: 380 - 41 = 339 high.
    let lower = after(&doc, &f.offers[0].patch);
    assert_eq!(lower["modules"]["c"]["choices"]["height"], json!(339.0));
    assert!(finding(&plan(&lower), "bridge.deck").is_none());
    let thicker = plan(&after(&doc, &f.offers[1].patch));
    let f = finding(&thicker, "bridge.deck").unwrap();
    assert_ne!(f.level, Severity::Stop, "{}", f.sentence);
}

/// A cabinet across the whole bay, flush under the deck and an inch from the threshold, carries its rear edge.
#[test]
fn a_carcass_an_inch_from_the_edge_carries_it() {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["underside"] = json!(400.0);
    doc["modules"]["c"] = json!({"kind": "cabinet", "name": "chest", "place": {"along": 25.4, "across": "centred"},
        "choices": {"opens": "rear", "width": 1380, "depth": 500, "height": 400}});
    let p = plan(&doc);
    assert!(p.boards.iter().any(|b| b.module == "c"));
    let f = finding(&p, "bridge.");
    assert!(f.is_none(), "{:?}", f.map(|f| &f.sentence));
}

/// On sheets of 1500 x 1350 the two pieces of a deck 1400 across and 2000 long, parted across, lie only with their grain across the bay:
/// they are turned, and no sheet is too small.
#[test]
fn a_piece_that_fits_turned_is_turned() {
    let mut doc = box_van();
    doc["stock"]["s"] = json!({"material": "birch-ply", "thickness": 15, "w": 1500, "h": 1350});
    doc["modules"]["deck"]["choices"]["split"] = json!("across");
    let p = plan(&doc);
    assert!(
        finding(&p, "sheet.").is_none(),
        "{:?}",
        finding(&p, "sheet.")
    );
    let panels: Vec<_> = p
        .parts
        .iter()
        .filter(|q| q.boards.iter().any(|b| b.contains("panel")))
        .collect();
    assert!(!panels.is_empty());
    for part in panels {
        assert_eq!(
            part.grain,
            jigfit_core::mechanics::material::PartGrain::Across,
            "{}",
            part.mark
        );
    }
    assert!(p.sheets.iter().all(|g| g.problem.is_none()));
}
