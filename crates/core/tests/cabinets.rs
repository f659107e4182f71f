//! How a cabinet is made, and what doors and lids hang on and are shut with: by hand.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::plan::Plan;
use rstest::rstest;
use serde_json::{Value, json};

fn cabinet(own: Value) -> Plan {
    let mut choices =
        json!({"width": 600, "depth": 350, "height": 450, "rows": 1, "columns": 1, "lip": 0});
    for (k, v) in own.as_object().unwrap() {
        choices[k] = v.clone();
    }
    let mut doc = bare();
    doc["modules"]["c"] =
        json!({"kind": "cabinet", "place": {"along": 25, "across": "centred"}, "choices": choices});
    plan(&doc)
}

/// Length, width and height of the box round a board, mm.
fn size(p: &Plan, id: &str) -> [f64; 3] {
    let (low, high) = ends(board(p, id), "drive");
    std::array::from_fn(|i| ((high[i] - low[i]) * 1e6).round() / 1e6)
}

/// How many of what, of which size.
fn bought(p: &Plan, what: &str) -> Vec<(String, u32)> {
    let own = p.hardware.iter().filter(|h| h.what == what);
    own.map(|h| (h.size.clone(), h.count)).collect()
}

fn joint<'a>(p: &'a Plan, a: &str, b: &str) -> &'a str {
    let found = p.joints.iter().find(|j| j.a == a && j.b == b);
    &found.unwrap_or_else(|| panic!("{a} {b}")).words
}

/// Between sides of 15 mm a shelf of 600 - 30 is 10 mm wider where it lies in grooves of 5 (common practice, no source: 5 mm),
/// half way up: 15 + (420 - 15) / 2 = 217.5.
#[test]
fn shelves_in_grooves() {
    let p = cabinet(json!({"rows": 2, "join": "groove"}));
    assert_eq!(size(&p, "c/carcass-shelf-1-1"), [341.0, 580.0, 15.0]);
    assert_eq!(
        size(&cabinet(json!({"rows": 2})), "c/carcass-shelf-1-1"),
        [341.0, 570.0, 15.0]
    );
    for side in ["c/carcass-right", "c/carcass-left"] {
        let pocket = &board(&p, side).pockets[0];
        assert!((pocket.depth - 5.0).abs() < 1e-9);
        let (low, _) = ends(board(&p, "c/carcass-shelf-1-1"), "drive");
        assert!((low[2] - 217.5).abs() < 1e-6);
        assert!(joint(&p, side, "c/carcass-shelf-1-1").starts_with("in its groove"));
    }
    // It is marked on the part.
    let part = p
        .parts
        .iter()
        .find(|q| q.boards.contains(&"c/carcass-right".to_string()));
    assert!(part.unwrap().features.iter().any(|f| f.kind == "groove"));
}

/// A frame of 40: stiles as high as the cabinet, rails of 600 - 80 between them, 15 off the depth; what goes in passes
/// 520 x 370.
#[test]
fn a_frame_before_the_edges() {
    let p = cabinet(json!({"rim": "frame"}));
    assert_eq!(size(&p, "c/stile-1"), [15.0, 40.0, 450.0]);
    assert_eq!(size(&p, "c/stile-2"), [15.0, 40.0, 450.0]);
    assert_eq!(size(&p, "c/frame-rail-1-0"), [15.0, 520.0, 40.0]);
    assert_eq!(size(&p, "c/carcass-top"), [335.0, 600.0, 15.0]);
    assert!(joint(&p, "c/frame-rail-1-0", "c/stile-1").starts_with("2 x pocket screw"));
    let mut doc = bare();
    doc["modules"]["c"] = json!({"kind": "cabinet", "place": {"along": 25, "across": "centred"},
        "choices": {"width": 600, "depth": 350, "height": 450, "rows": 1, "columns": 1, "lip": 0, "rim": "frame"}});
    let goes = |w: f64| {
        let mut doc = doc.clone();
        doc["gear"] = json!({"case": {"name": "Case", "w": w, "d": 300, "h": 368, "mass": 2}});
        plan(&doc).stowed.contains(&"Case".to_string())
    };
    assert!(goes(519.0) && !goes(523.0));
}

/// A plinth of 60 lifts it: its bottom lies at 60, its top stays at 450; the front stands 40 back, between ends of 350 - 40.
#[test]
fn what_it_stands_on() {
    let p = cabinet(json!({"foot": "plinth"}));
    let (low, _) = ends(board(&p, "c/carcass-bottom"), "drive");
    let (_, high) = ends(board(&p, "c/carcass-top"), "drive");
    assert!((low[2] - 60.0).abs() < 1e-6 && (high[2] - 450.0).abs() < 1e-6);
    assert_eq!(size(&p, "c/plinth-left"), [310.0, 15.0, 60.0]);
    assert_eq!(size(&p, "c/plinth-front"), [15.0, 570.0, 60.0]);
    let (front, _) = ends(board(&p, "c/plinth-front"), "drive");
    assert!((front[0] - low[0] - 40.0).abs() < 1e-6);
    let p = cabinet(json!({"foot": "feet", "lift": 100}));
    let feet = p.boards.iter().filter(|b| b.id.starts_with("c/foot-"));
    assert_eq!(feet.count(), 4);
    assert!(joint(&p, "c/carcass-bottom", "c/foot-back-left").starts_with("1 x wood screw"));
}

/// Slats of 60 over a depth of 350, no more than 80 apart: (350 - 60) / 140 up is 3, and one: four, 36.67 apart.
#[test]
fn slats_are_lighter() {
    let p = cabinet(json!({"bottom": "slats"}));
    let slats: Vec<f64> = (1..=4)
        .map(|i| ends(board(&p, &format!("c/carcass-bottom-{i}")), "drive").0[0])
        .collect();
    assert!(p.boards.iter().all(|b| b.id != "c/carcass-bottom-5"));
    for pair in slats.windows(2) {
        assert!((pair[1] - pair[0] - 60.0 - 110.0 / 3.0).abs() < 1e-6);
    }
    assert!(p.mass < cabinet(json!({})).mass);
    // Each is screwed to both uprights.
    assert!(joint(&p, "c/carcass-bottom-4", "c/carcass-left").starts_with("1 x wood screw"));
}

/// A rail of 60 in front and one behind, 350 - 60 further in, as long as the cabinet is wide, instead of the whole top: by weight
/// 2 x 60 of 350 of it is left. Each is screwed to both uprights.
#[test]
fn rails_instead_of_a_top() {
    let p = cabinet(json!({"top": "rails"}));
    for (id, at) in [("c/carcass-top-1", 25.0), ("c/carcass-top-2", 25.0 + 290.0)] {
        let (low, high) = ends(board(&p, id), "drive");
        assert!(
            (low[0] - at).abs() < 1e-6 && (high[0] - at - 60.0).abs() < 1e-6,
            "{low:?}"
        );
        assert_eq!(size(&p, id), [60.0, 600.0, 15.0]);
        assert!(joint(&p, id, "c/carcass-left").starts_with("1 x wood screw"));
    }
    assert!(
        p.boards
            .iter()
            .all(|b| b.id != "c/carcass-top-3" && b.id != "c/carcass-top")
    );
    let whole = cabinet(json!({}));
    let mass = |p: &Plan, part: &str| -> f64 {
        let own = p.boards.iter().filter(|b| b.id.starts_with(part));
        own.map(|b| b.outline.area() * b.thickness).sum()
    };
    let share = mass(&p, "c/carcass-top") / mass(&whole, "c/carcass-top");
    assert!((share - 120.0 / 350.0).abs() < 1e-6, "{share}");
}

/// Two joints over a whole bottom of 350, and two over the top: two corners each and one more past 300: three times four.
#[test]
fn blocks_and_brackets() {
    let p = cabinet(json!({"join": "blocks"}));
    assert!(joint(&p, "c/carcass-top", "c/carcass-left").starts_with("3 x corner block"));
    // With the back, 420 high on both sides: 3 each.
    assert_eq!(bought(&p, "corner block, from offcuts")[0].1, 4 * 3 + 2 * 3);
    let p = cabinet(json!({"join": "brackets"}));
    let words = joint(&p, "c/carcass-top", "c/carcass-left");
    assert!(
        words.starts_with("3 x angle bracket 40 mm, 12 x wood screw"),
        "{words}"
    );
    // They come apart again.
    assert!(words.ends_with("no glue"), "{words}");
    // The back is too thin for a bracket's screws: none is bought for it.
    let back = joint(&p, "c/carcass-left", "c/carcass-back");
    assert!(back.contains("too thin for screws"), "{back}");
    assert_eq!(bought(&p, "angle bracket")[0].1, 4 * 3);
}

/// A hinge's leaf of 2 mm and 1 mm of wood before the point: up to 16 mm (common practice, no source) in 15, 12 in 12 and 11, nothing in 9.
#[rstest]
#[case(18.0, Some("3.5 x 16 mm"))]
#[case(15.0, Some("3.5 x 16 mm"))]
#[case(12.0, Some("3.5 x 12 mm"))]
#[case(11.0, Some("3.5 x 12 mm"))]
#[case(9.0, None)]
fn no_screw_comes_through(#[case] thickness: f64, #[case] size: Option<&str>) {
    let p = cabinet(json!({"front": "doors", "hinges": "butt", "thickness": thickness}));
    let small: Vec<&str> = p
        .hardware
        .iter()
        .filter(|h| h.what == "wood screw, countersunk" && h.size.starts_with("3.5 x 1"))
        .map(|h| h.size.as_str())
        .collect();
    assert_eq!(small, Vec::from_iter(size));
    let told = finding(&p, "pierce.c").map(|f| f.level);
    assert_eq!(told, size.is_none().then_some(Severity::Look));
}

/// A flush hinge's leaf of 2 mm keeps a door off the carcass, which is so much shallower; a long one is cut to the door: 450 - 30 + 12.
#[test]
fn what_doors_hang_on() {
    let depth = |hinges: &str| {
        let p = cabinet(json!({"front": "doors", "hinges": hinges}));
        assert!(p.findings.iter().all(|f| f.check != "clash"));
        (size(&p, "c/carcass-top")[0], p)
    };
    assert!((depth("butt").0 - 335.0).abs() < 1e-6);
    assert!((depth("flush").0 - 333.0).abs() < 1e-6);
    let (_, p) = depth("long");
    assert_eq!(
        bought(&p, "long hinge"),
        vec![("cut to 432 mm".to_string(), 1)]
    );
    // A screw every 60 mm in both leaves: 8 up, and one: 9 each; four in the latch.
    let small = p.hardware.iter().find(|h| h.size == "3.5 x 16 mm").unwrap();
    assert_eq!(small.count, 18 + 4);
    // Three butt hinges only where a door is long.
    assert_eq!(bought(&depth("butt").1, "butt hinge")[0].1, 2);
}

/// A lid of 2.86 kg (0.7 x 0.4 x 0.015 x 680): half of half its weight wants to lift it on a bump of 1.5 g: 7 N. The latch
/// bought for it is the next that is sold; one for a heavy drawer is stronger than what it is said to hold.
#[test]
fn latches_as_strong_as_what_they_hold() {
    let mut doc = bare();
    let sets = [
        ("length", "700"),
        ("depth", "450"),
        ("height", "400"),
        ("hinges", "long"),
    ];
    add(&mut doc, "box_seat", &sets).unwrap();
    let p = plan(&doc);
    let latch = "latch that holds it shut on the road";
    assert_eq!(
        bought(&p, latch),
        vec![("for at least 20 N".to_string(), 1)]
    );
    assert_eq!(
        bought(&p, "long hinge"),
        vec![("cut to 700 mm".to_string(), 1)]
    );
    doc["modules"].as_object_mut().unwrap().clear();
    doc["modules"]["d"] = json!({"kind": "drawer", "place": {"along": 25, "across": "centred"},
        "choices": {"width": 800, "depth": 900, "height": 250}});
    let p = plan(&doc);
    let said = &finding(&p, "latch").unwrap().sentence;
    let number = |s: &str| {
        s.split(" N")
            .next()
            .unwrap()
            .rsplit(' ')
            .next()
            .unwrap()
            .parse::<f64>()
            .unwrap()
    };
    let (size, _) = &bought(&p, latch)[0];
    assert!(
        number(size) >= number(said) && number(size) < 2.5 * number(said),
        "{size}: {said}"
    );
}

fn shelves(own: Value) -> Plan {
    let mut choices =
        json!({"width": 600, "depth": 300, "height": 600, "levels": 2, "thickness": 12, "lip": 40});
    for (k, v) in own.as_object().unwrap() {
        choices[k] = v.clone();
    }
    let mut doc = bare();
    doc["modules"]["s"] =
        json!({"kind": "shelves", "place": {"along": 25, "across": "centred"}, "choices": choices});
    plan(&doc)
}

/// Rows of holes 25 apart from 50 (1 in from 2 in where one measures in inches: common practice, no source for 1/4 in at 1 in): even
/// heights 30 and 315 are nearest to the holes at 50 and 325 (or 300, as near), on pins of 6 mm. What they carry is the same.
#[test]
fn shelves_on_pins_go_where_one_wants_them() {
    let p = shelves(json!({"on": "pins"}));
    let z = |id: &str| ends(board(&p, id), "drive").0[2];
    assert!((z("s/shelf-1") - 53.0).abs() < 1e-6, "{}", z("s/shelf-1"));
    assert!((z("s/shelf-2") - 328.0).abs() < 1e-6, "{}", z("s/shelf-2"));
    assert_eq!(bought(&p, "shelf pin"), vec![("6 mm".to_string(), 8)]);
    // 600 - 100 is twenty pitches: 21 holes, at the same heights in all posts, which are one part.
    let posts: Vec<_> = p.parts.iter().filter(|q| q.id.contains("post")).collect();
    assert_eq!(posts.iter().map(|q| q.count).sum::<u32>(), 4);
    for part in posts {
        let holes: Vec<f64> = part.features.iter().map(|f| f.at[1]).collect();
        assert_eq!(holes.len(), 21);
        assert!((holes[1] - holes[0]).abs() - 25.0 < 1e-6);
    }
    // Its lip goes with it.
    assert!(joint(&p, "s/lip-2", "s/shelf-2").ends_with("glue"));
    let mut doc = bare();
    doc["units"] = json!({"system": "in", "tape": "in"});
    doc["modules"]["s"] = json!({"kind": "shelves", "place": {"along": 25, "across": "centred"}, "choices": {"on": "pins", "levels": 1}});
    let p = plan(&doc);
    let (low, _) = ends(board(&p, "s/shelf-1"), "drive");
    assert!((low[2] - 50.0 - 3.175).abs() < 1e-6);
}

/// In two pieces: three posts of 12 leave 564, 282 each, 6.35 less: 275.65. Twice the cleats, and a post between.
#[test]
fn shelves_in_two_pieces() {
    let p = shelves(json!({"pieces": 2}));
    assert_eq!(size(&p, "s/shelf-1-1"), [276.0, 275.65, 12.0]);
    assert_eq!(size(&p, "s/shelf-2-2"), [276.0, 275.65, 12.0]);
    assert_eq!(
        p.boards
            .iter()
            .filter(|b| b.id.starts_with("s/post"))
            .count(),
        6
    );
    assert_eq!(
        p.boards
            .iter()
            .filter(|b| b.id.starts_with("s/cleat"))
            .count(),
        8
    );
    assert!(p.findings.iter().all(|f| f.check != "clash"));
}

/// A pipe of 50 with 5 all round, its middle 200 from the right: a notch from 170 to 230, 55 deep; the rail at the back stops
/// there: 170 - 12 and 600 - 12 - 230 long.
#[test]
fn shelves_round_a_pipe() {
    let p = shelves(json!({"pipe": 50, "pipe_at": 200, "bins": 150}));
    assert_eq!(size(&p, "s/rail-1-back-right")[1], 158.0);
    assert_eq!(size(&p, "s/rail-1-back-left")[1], 358.0);
    let whole = 276.0 * 569.65;
    let area = board(&p, "s/shelf-1").outline.area();
    // Reliefs in its two corners take a little more.
    assert!(
        area < whole - 60.0 * 55.0 && area > whole - 60.0 * 55.0 - 120.0,
        "{area}"
    );
    // 569.65 / 150 is three bins on each of two shelves, two washers for each.
    assert_eq!(bought(&p, "wide washer under a screw")[0].1, 12);
}
