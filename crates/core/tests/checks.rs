//! Each judgement on both sides of its limit. Figures by hand, on a bay of 2000 x 1400.

use crate::common::*;
use jigfit_core::checks::Severity::{self, Fine, Look, Stop};
use rstest::rstest;
use serde_json::{Value, json};

/// The document with other values at some places.
fn with(mut doc: Value, changes: &[(&str, Value)]) -> Value {
    for (pointer, value) in changes {
        let (parent, key) = pointer.rsplit_once('/').unwrap();
        let mut at = &mut doc;
        for part in parent.split('/').skip(1) {
            at = &mut at[part];
        }
        at[key] = value.clone();
    }
    doc
}

fn deck(changes: &[(&str, Value)]) -> Value {
    with(box_van(), changes)
}

/// Stature 1700 sits 889.1 high (0.523, ratio of published means, from memory). Seat on a deck of 15
/// with 30 of mattress: underside + 45. Roof 1200: room at an underside of 265.9.
#[rstest]
#[case(255.0, Fine, "10.9 mm to spare.")]
#[case(264.0, Look, "1.9 mm to spare: less than the tape's doubt")]
#[case(270.0, Stop, "cannot sit up: 4.1 mm too little.")]
fn sitting_up(#[case] underside: f64, #[case] expected: Severity, #[case] words: &str) {
    let doc = deck(&[
        ("/modules/deck/choices/underside", json!(underside)),
        ("/people", json!({"a": {"name": "A", "stature": 1700}})),
        ("/mattress", json!({"thickness": 50, "sag": 20})),
    ]);
    let p = plan(&doc);
    let f = finding(&p, "sits.a").unwrap();
    assert_eq!(f.level, expected, "{}", f.sentence);
    assert!(f.sentence.contains(words), "{}", f.sentence);
}

/// A person's own sitting height counts, not the ratio.
#[test]
fn the_own_sitting_height_counts() {
    let doc = deck(&[
        ("/modules/deck/choices/underside", json!(255.0)),
        (
            "/people",
            json!({"a": {"name": "A", "stature": 1700, "sitting_height": 920}}),
        ),
        ("/mattress", json!({"thickness": 50, "sag": 20})),
    ]);
    // 1200 - (255 + 45) - 920 = -20.
    let p = plan(&doc);
    assert!(
        finding(&p, "sits.a")
            .unwrap()
            .sentence
            .contains("20 mm too little")
    );
}

/// The bed lies along: about 1993 long. Stature and 120 (common practice, no source).
#[rstest]
#[case(1860.0, None)]
#[case(1900.0, Some(Look))]
#[case(2010.0, Some(Stop))]
fn bed_length(#[case] stature: f64, #[case] expected: Option<Severity>) {
    let doc = deck(&[("/people", json!({"a": {"name": "A", "stature": stature}}))]);
    assert_eq!(level(&plan(&doc), "bed.a"), expected);
}

/// Height with what it wants above, against an underside of 300.
#[rstest]
#[case(json!({"name": "Box", "h": 290, "lid_clearance": 10}), None)]
#[case(json!({"name": "Box", "h": 291, "lid_clearance": 10}), Some(Stop))]
#[case(json!({"name": "Cool box", "h": 280, "slide": 15, "air": 6}), Some(Stop))]
#[case(json!({"name": "Cool box", "h": 280, "slide": 15, "air": 5}), None)]
#[case(json!({"name": "Chairs", "h": 900, "under_deck": false}), None)]
fn gear_under_the_deck(#[case] gear: Value, #[case] expected: Option<Severity>) {
    let doc = deck(&[("/gear", json!({ "g": gear }))]);
    assert_eq!(level(&plan(&doc), "height.g"), expected);
}

/// A tall thing may lie on its side: 500 high, 200 wide goes under 300 lying.
#[test]
fn laying_a_thing_down_is_offered_and_works() {
    let doc = deck(&[(
        "/gear",
        json!({"g": {"name": "Tall", "w": 200, "d": 400, "h": 500}}),
    )]);
    let p = plan(&doc);
    let offers = &finding(&p, "height.g").unwrap().offers;
    let lay = offers
        .iter()
        .find(|o| o.label.contains("on its side"))
        .unwrap();
    let mut laid = doc.clone();
    let patch: json_patch::Patch = serde_json::from_value(json!(lay.patch)).unwrap();
    json_patch::patch(&mut laid, &patch).unwrap();
    assert_eq!(laid["gear"]["g"]["h"], json!(200.0));
    assert_eq!(laid["gear"]["g"]["w"], json!(500.0));
    assert!(finding(&plan(&laid), "height.g").is_none());
    // What slides out stays upright: a cool box is not offered to lie.
    let doc = deck(&[(
        "/gear",
        json!({"g": {"name": "Cool box", "w": 200, "d": 400, "h": 500, "slide": 20}}),
    )]);
    let p = plan(&doc);
    let offers = &finding(&p, "height.g").unwrap().offers;
    assert!(offers.iter().all(|o| !o.label.contains("on its side")));
}

/// Footprints over free floor: the bay less the supports' own thickness.
#[rstest]
#[case(2, Fine)]
#[case(6, Look)]
#[case(8, Stop)]
fn the_floor_fills_up(#[case] count: u32, #[case] expected: Severity) {
    // Each takes 600 x 700 = 0.42 m2 of about 2.7 m2.
    let gear = json!({"name": "Crate", "w": 600, "d": 700, "h": 200, "count": count});
    let doc = deck(&[
        ("/gear", json!({ "g": gear })),
        (
            "/modules/deck/choices/supports",
            json!({"manner": "legs", "lines": 3}),
        ),
    ]);
    let p = plan(&doc);
    let f = finding(&p, "floor.deck").unwrap();
    assert_eq!(f.level, expected, "{}", f.sentence);
}

/// Past all of the floor it is said what would have to go: the smallest thing whose absence is enough, and
/// taking the offer is enough.
#[test]
fn what_would_have_to_go_is_said() {
    let crates =
        |n: u32| json!({"name": format!("{n} crates"), "w": 600, "d": 700, "h": 200, "count": n});
    let mut doc = deck(&[
        (
            "/gear",
            json!({ "a": crates(4), "b": crates(2), "c": crates(1) }),
        ),
        (
            "/modules/deck/choices/supports",
            json!({"manner": "legs", "lines": 3}),
        ),
    ]);
    let p = plan(&doc);
    let f = finding(&p, "floor.deck").unwrap();
    assert_eq!(f.level, Stop);
    assert!(
        f.sentence.contains("Without 1 crates it is "),
        "{}",
        f.sentence
    );
    let patch: json_patch::Patch = serde_json::from_value(f.offers[0].patch.clone()).unwrap();
    json_patch::patch(&mut doc, &patch).unwrap();
    assert_eq!(level(&plan(&doc), "floor.deck"), Some(Look));
}

#[rstest]
#[case("never", None)]
#[case("asleep", Some("with the bed made"))]
#[case("driving", Some("while driving"))]
fn reach(#[case] when: &str, #[case] words: Option<&str>) {
    let gear = json!({"name": "Water", "w": 200, "d": 200, "h": 200, "reach": when});
    let p = plan(&deck(&[("/gear", json!({ "g": gear }))]));
    let f = finding(&p, "reach.g");
    assert_eq!(f.is_some(), words.is_some());
    if let (Some(f), Some(words)) = (f, words) {
        assert!(
            f.level == Look && f.sentence.contains(words),
            "{}",
            f.sentence
        );
    }
}

/// A clearance smaller than three times the doubt is told; the user's choice stands all the same.
#[rstest]
#[case(json!(1.0), Look)]
#[case(json!(12.0), Fine)]
#[case(json!(null), Fine)]
fn clearance(#[case] own: Value, #[case] expected: Severity) {
    let p = plan(&deck(&[("/modules/deck/choices/clearance", own.clone())]));
    assert_eq!(level(&p, "clearance.deck"), Some(expected));
    if let Some(own) = own.as_f64() {
        let (x0, _, x1, _) = p.decks[0].panels[0].bounds();
        // Clear at both ends, over a bay of 2000.
        // The front leans in by 0.7 times its doubt, which is no more than 4 mm here.
        let lean = 2000.0 - 2.0 * own - (x1 - x0);
        assert!(lean > -0.1 && lean < 2.8, "{lean}");
    }
}

#[test]
fn a_deck_above_the_measured_walls_asks_for_them() {
    // The walls were read at the floor and 300 up.
    let p = plan(&deck(&[("/modules/deck/choices/underside", json!(400.0))]));
    let held = finding(&p, "held.deck").unwrap();
    assert_eq!(held.level, Look);
    // Well past them it is no longer a matter of looking again.
    let p = plan(&deck(&[("/modules/deck/choices/underside", json!(500.0))]));
    assert_eq!(level(&p, "beyond.deck"), Some(Stop));
    let doc = deck(&[
        ("/modules/deck/choices/underside", json!(500.0)),
        (
            "/survey/readings/h1",
            reading(wall("left", 0.0, 500.0), "690"),
        ),
        (
            "/survey/readings/h2",
            reading(wall("right", 0.0, 500.0), "690"),
        ),
        (
            "/survey/readings/h3",
            reading(wall("left", 2000.0, 500.0), "690"),
        ),
        (
            "/survey/readings/h4",
            reading(wall("right", 2000.0, 500.0), "690"),
        ),
    ]);
    assert!(finding(&plan(&doc), "held.deck").is_none());
}

#[test]
fn no_room_is_a_stop() {
    let p = plan(&deck(&[
        ("/modules/deck/choices/clearance", json!(99.0)),
        ("/modules/deck/choices/to", json!(150.0)),
    ]));
    // 150 long, 99 off the threshold and a free end: 51 are left.
    assert!(finding(&p, "no-room.deck").is_none());
    let p = plan(&deck(&[
        ("/modules/deck/choices/clearance", json!(99.0)),
        ("/modules/deck/choices/to", json!(90.0)),
    ]));
    assert_eq!(level(&p, "no-room.deck"), Some(Stop));
    assert!(p.parts.is_empty());
}

/// Two wells from wall to wall but for 2 mm leave two pieces of floor.
#[test]
fn a_bay_cut_in_two_is_told() {
    let mut doc = with_wells(box_van());
    for id in ["wl", "wr"] {
        doc["survey"]["readings"][format!("{id}-width")] = reading(thing(id, "width"), "699");
    }
    let p = plan(&doc);
    assert_eq!(level(&p, "pieces.deck"), Some(Look));
}

/// A deck 1 mm over a well: less than three times the doubt of its height.
#[rstest]
#[case(401.0, Some(Look))]
#[case(412.0, None)]
fn close_over_a_well(#[case] underside: f64, #[case] expected: Option<Severity>) {
    let doc = with(
        with_wells(box_van()),
        &[("/modules/deck/choices/underside", json!(underside))],
    );
    assert_eq!(level(&plan(&doc), "well-top.deck"), expected);
}

#[test]
fn a_wall_with_one_station_is_told() {
    let mut doc = box_van();
    assert!(finding(&plan(&doc), "one-station").is_none());
    let readings = doc["survey"]["readings"].as_object_mut().unwrap();
    readings.retain(|_, r| {
        r["quantity"]["of"] != "wall"
            || r["quantity"]["side"] == "right"
            || r["quantity"]["x"] == 0.0
    });
    let p = plan(&doc);
    assert_eq!(level(&p, "one-station"), Some(Look));
    assert!(!p.decks.is_empty(), "the plan goes on all the same");
}

/// Slats 70 wide with gaps of 40: 40 of 110 are open.
#[test]
fn slats_breathe() {
    let p = plan(&deck(&[("/modules/deck/choices/top", json!("slats"))]));
    let f = finding(&p, "air.deck").unwrap();
    assert!(
        f.level == Fine && f.sentence.contains("36 % open"),
        "{}",
        f.sentence
    );
}

/// Birch ply of 680 kg/m3 (see materials): 2 x 1.4 m of 30 mm is over 25 kg in one piece.
#[rstest]
#[case("whole", true)]
#[case("quarters", false)]
fn heavy_pieces_are_for_two(#[case] split: &str, #[case] heavy: bool) {
    let doc = deck(&[
        ("/modules/deck/choices/thickness", json!(18.0)),
        ("/modules/deck/choices/split", json!(split)),
    ]);
    let p = plan(&doc);
    assert_eq!(finding(&p, "lift").is_some(), heavy);
    let weight = finding(&p, "weight").unwrap();
    assert!(weight.sentence.starts_with("The build weighs"));
}

#[test]
fn what_was_not_weighed_is_counted() {
    let doc = deck(&[(
        "/gear",
        json!({"a": {"name": "Mount", "h": 100, "mass": 7.5, "count": 2}, "b": {"name": "Rug", "h": 50}}),
    )]);
    let sentence = finding(&plan(&doc), "weight").unwrap().sentence.clone();
    assert!(
        sentence.contains("the stow list 15 kg (1 thing not weighed)"),
        "{sentence}"
    );
}

/// A panel of 1990 x 1390 lies on no sheet of 1525 x 1525.
#[test]
fn a_piece_larger_than_the_sheet() {
    let doc = deck(&[
        ("/modules/deck/choices/split", json!("whole")),
        (
            "/stock",
            json!({"s": {"material": "birch-ply", "thickness": 15.0, "w": 1525.0, "h": 1525.0}}),
        ),
    ]);
    let p = plan(&doc);
    let f = finding(&p, "sheet.deck").unwrap();
    assert_eq!(f.level, Stop);
    let auto = f
        .offers
        .iter()
        .find(|o| o.label.starts_with("Part it as"))
        .unwrap();
    let mut parted = doc.clone();
    let patch: json_patch::Patch = serde_json::from_value(json!(auto.patch)).unwrap();
    json_patch::patch(&mut parted, &patch).unwrap();
    assert!(finding(&plan(&parted), "sheet.deck").is_none());
}

/// Findings come worst first, say something, and name their rule and its source.
#[rstest]
#[case(demo("moth"))]
#[case(demo("kingfisher"))]
#[case(demo("moth-whole"))]
#[case(with_wells(box_van()))]
fn findings_are_complete(#[case] doc: Value) {
    let p = plan(&doc);
    assert!(p.findings.windows(2).all(|w| w[0].level <= w[1].level));
    let mut ids: Vec<&str> = p.findings.iter().map(|f| f.id.as_str()).collect();
    ids.sort_unstable();
    assert!(ids.windows(2).all(|w| w[0] != w[1]), "{ids:?}");
    for f in &p.findings {
        assert!(
            f.sentence.ends_with('.') || f.sentence.ends_with('?'),
            "{}",
            f.sentence
        );
        assert!(!f.rule.is_empty() && !f.source.is_empty(), "{}", f.id);
        assert!(
            !f.sentence.contains("NaN") && !f.sentence.contains("inf "),
            "{}",
            f.sentence
        );
    }
}

/// By hand: the opening is 1200 by 1100; a bed at 300 + 15 + 100 leaves 685 of its height, one at 700 no more than 285. A bed
/// that begins further in leaves all of it, and a tall box in the way what is beside it.
#[test]
fn a_sleeper_gets_out() {
    let mut doc = box_van();
    doc["mattress"] = json!({"thickness": 100, "sag": 20});
    let said = |doc: &Value| {
        let p = plan(doc);
        let f = finding(&p, "exits").unwrap();
        (f.level, f.sentence.clone())
    };
    let (level, words) = said(&doc);
    assert_eq!(level, Severity::Fine);
    assert!(
        words.contains("1200 by 685 mm of the rear opening stay free over the bed"),
        "{words}"
    );
    doc["modules"]["deck"]["choices"]["underside"] = json!(700);
    let (level, words) = said(&doc);
    assert_eq!(level, Severity::Look);
    assert!(words.contains("no more than 1200 by 285 mm"), "{words}");
    doc["modules"]["deck"]["choices"]["from"] = json!(500);
    assert!(
        said(&doc)
            .1
            .contains("1200 by 1100 mm of the rear opening stay free:")
    );
    // From its inner face to the opening's left edge at 600.
    doc["modules"] = json!({"deck": {"kind": "deck", "choices": {"underside": 300, "from": 500}}});
    doc["modules"]["tall"] = json!({
        "kind": "box_seat",
        "place": {"along": 20, "across": "right_wall"},
        "choices": {"length": 400, "depth": 400, "height": 1000},
    });
    let (_, words) = said(&doc);
    let wide: f64 = words
        .split("At night ")
        .nth(1)
        .and_then(|w| w.split(' ').next())
        .and_then(|w| w.parse().ok())
        .unwrap();
    let p = plan(&doc);
    let front = p.boards.iter().find(|b| b.id == "tall/front").unwrap();
    let pose = front.poses["drive"];
    let face = [0.0, front.thickness].map(|t| pose.at(0.0, 0.0, t)[1]);
    let left = 600.0 - face[0].max(face[1]);
    assert!(
        (wide - left).abs() < 0.1 && words.contains("by 1100 mm"),
        "{words} {left}"
    );
    // Nothing slept on, nothing to say.
    assert!(finding(&plan(&bare()), "exits").is_none());
}

/// By hand: a door 800 wide and 1100 high in the left wall over a sill of 50, from 600 in; the bed's face at 415 takes 365 of
/// its height and leaves 735. With a box 700 high in all of it too little is left.
#[test]
fn a_sleeper_gets_out_by_the_side() {
    let mut doc = read_up_to(box_van(), 1000.0);
    doc["mattress"] = json!({"thickness": 100, "sag": 20});
    // The rear is shut by a box.
    doc["modules"]["tall"] = json!({
        "kind": "box_seat",
        "place": {"along": 20, "across": "left_wall"},
        "choices": {"length": 300, "depth": 1150, "height": 1000},
    });
    doc["modules"]["deck"]["choices"]["from"] = json!(500);
    let said = |doc: &Value| {
        let p = plan(doc);
        let f = finding(&p, "exits").unwrap();
        (f.level, f.sentence.clone())
    };
    assert_eq!(said(&doc).0, Severity::Look);
    doc["survey"]["openings"]["s"] = json!({"name": "side door"});
    for (k, dim, v) in [
        ("a", "width_floor", "800"),
        ("b", "width_top", "800"),
        ("c", "height", "1100"),
    ] {
        doc["survey"]["readings"][format!("s{k}")] =
            json!({"quantity": {"of": "opening", "dim": dim, "id": "s"}, "typed": v, "unit": "mm"});
    }
    // Somewhere: it does not count before its place is known.
    assert_eq!(said(&doc).0, Severity::Look);
    let door = &mut doc["survey"]["openings"]["s"];
    (door["side"], door["from"], door["sill"]) = (json!("left"), json!(600), json!(50));
    let (level, words) = said(&doc);
    assert_eq!(level, Severity::Fine, "{words}");
    assert!(
        words.contains("800 by 735 mm of the side door stay free over the bed"),
        "{words}"
    );
    let p = plan(&doc);
    let door = &p.survey.doors[0];
    assert_eq!(door.line.map(|p| p[0].round()), [600.0, 1400.0]);
    assert_eq!(
        door.outline.first().map(|p| p.map(f64::round)),
        Some([600.0, 50.0])
    );
    doc["modules"]["wall"] = json!({
        "kind": "box_seat",
        "place": {"along": 620, "across": "left_wall", "up": 430},
        "choices": {"length": 700, "depth": 300, "height": 500},
    });
    let (level, words) = said(&doc);
    assert_eq!(level, Severity::Look, "{words}");
    assert!(words.contains("of the rear opening and"), "{words}");
}

/// By hand: legs 500 less a rail of 70 are 430; 301 down and 301 along make a diagonal of 425.7. Low legs keep their angle.
#[test]
fn tall_legs_want_a_diagonal() {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"] = json!({"underside": 500, "supports": {"manner": "legs"}});
    let p = plan(&doc);
    let f = finding(&p, "racking.deck").unwrap();
    assert!(
        f.sentence.contains("430 mm high") && f.sentence.contains("diagonal of 425.7 mm"),
        "{}",
        f.sentence
    );
    doc["modules"]["deck"]["choices"]["underside"] = json!(230);
    assert!(finding(&plan(&doc), "racking").is_none());
    doc["modules"]["deck"]["choices"] = json!({"underside": 500});
    assert!(finding(&plan(&doc), "racking").is_none());
}

/// A crate of 350 stands under the deck at 400, not under the one at 250: no stop, and only the deck under which it stands is charged
/// with its floor.
#[test]
fn gear_stands_under_one_of_two_decks() {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"] = json!({"underside": 250.0, "to": 1000.0});
    doc["modules"]["high"] = json!({"kind": "deck", "name": "high deck", "choices": {"underside": 400.0, "from": 1010.0}});
    doc["gear"] = json!({
        "crate": {"name": "Crate", "w": 400, "d": 300, "h": 350, "lid_clearance": 0, "count": 1},
        "flat": {"name": "Flat box", "w": 400, "d": 300, "h": 150, "lid_clearance": 0, "count": 1},
    });
    let p = plan(&doc);
    assert!(finding(&p, "height.crate").is_none());
    // It fits there by its height; whether it goes in from behind is another judgement on the same deck.
    let told = |deck: &str, name: &str| {
        let ids = [format!("heights-fit.{deck}"), format!("way-in.{deck}")];
        let own = |id: &String| ids.contains(id);
        let all = p.findings.iter().filter(|f| own(&f.id));
        all.into_iter().any(|f| f.sentence.contains(name))
    };
    assert!(told("high", "Crate") && !told("deck", "Crate"));
    assert!(told("deck", "Flat box") && !told("high", "Flat box"));
    // By hand: 400 x 300 on each floor, a few percent; with both on one it would be twice as much.
    let share = |id: &str| finding(&p, id).unwrap().sentence.clone();
    assert!(!share("floor.high").is_empty() && !share("floor.deck").is_empty());
    doc["gear"]["crate"]["h"] = json!(420);
    let p = plan(&doc);
    assert_eq!(
        p.findings.iter().filter(|f| f.id == "height.crate").count(),
        1
    );
}

/// A cupboard that hangs from 900 up takes nothing of the floor under a deck at 300; one that stands on it does.
#[rstest]
#[case(Some(900.0), true)]
#[case(None, false)]
fn what_hangs_takes_no_floor(#[case] from: Option<f64>, #[case] same: bool) {
    let mut doc = box_van();
    doc["gear"] = json!({"a": {"name": "Box", "w": 400, "d": 300, "h": 150, "lid_clearance": 0}});
    let share = |doc: &Value| finding(&plan(doc), "floor.deck").unwrap().sentence.clone();
    let before = share(&doc);
    let form = if from.is_some() { "free" } else { "box" };
    doc["survey"]["things"]["c"] =
        json!({"kind": "other", "side": "left", "name": "cupboard", "form": form});
    let own = [
        ("start", 200.0),
        ("length", 700.0),
        ("face", 300.0),
        ("height", 1100.0),
    ];
    for (dim, mm) in own.into_iter().chain(from.map(|z| ("bottom", z))) {
        doc["survey"]["readings"][format!("c{dim}")] = reading(thing("c", dim), &format!("{mm}"));
    }
    assert_eq!(share(&doc) == before, same, "{before}: {}", share(&doc));
}

/// The roof is read from the floor where one stands. Where that lies 40 under the threshold, 1200 read there is 1160 over it: 40 less
/// over the head.
#[test]
fn heights_count_from_one_floor() {
    let over = |floor: f64| {
        let mut doc = box_van();
        doc["people"]["p"] = json!({"name": "Ada", "stature": 1620});
        doc["mattress"] = json!({"thickness": 80, "sag": 20});
        for x in [0.0, 700.0, 2000.0] {
            let q = json!({"of": "floor", "x": x});
            doc["survey"]["readings"][format!("f{x}")] = reading(q, &format!("{floor}"));
        }
        let p = plan(&doc);
        let f = finding(&p, "sits.p").unwrap();
        f.numbers.last().unwrap().figure.clone().unwrap().value
    };
    let less = over(0.0) - over(-40.0);
    assert!((less - 40.0).abs() < 1.5, "{less}");
}

/// Names decide nothing: a piece called like a screw is no screw, and no spare of it is bought.
#[test]
fn names_decide_nothing() {
    let hardware = |name: &str| {
        let mut doc = bare();
        doc["modules"]["m"] =
            json!({"kind": "bought", "name": name, "place": {"along": 100, "across": "centred"}});
        let p = plan(&doc);
        let lines = p
            .hardware
            .iter()
            .map(|h| (h.what.replace(name, ""), h.count, h.spare));
        lines.collect::<std::collections::BTreeSet<_>>()
    };
    assert_eq!(hardware("screw box"), hardware("tool box"));
    // What was typed comes back as it was typed.
    let mut doc = bare();
    doc["modules"]["m"] =
        json!({"kind": "cabinet", "choices": {"thickness": "map of integers, null"}});
    let refused = jigfit_core::furniture::read(doc).unwrap_err();
    assert!(
        refused.detail.contains("\"map of integers, null\""),
        "{}",
        refused.detail
    );
}
