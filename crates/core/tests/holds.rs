//! What holds furniture to the vehicle: statics worked by hand, bolt lengths by adding up, and what a fixing is never
//! used for.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::holds::{HoldView, Load, thread};
use jigfit_core::plan::Plan;
use rstest::rstest;
use serde_json::{Value, json};

fn held<'a>(p: &'a Plan, id: &str) -> &'a HoldView {
    p.holds.iter().find(|h| h.module == id).unwrap()
}

/// A box 700 long against the left wall, from 100 in.
fn boxed() -> Value {
    let mut doc = bare();
    doc["modules"]["b"] = json!({"kind": "box_seat", "place": {"along": 100, "across": "left_wall"},
        "choices": {"length": 700, "depth": 450, "height": 280}});
    doc
}

fn fixing(doc: &mut Value, id: &str, kind: &str, at: [f64; 3], more: Value) {
    let mut f = json!({"name": format!("the {id}"), "kind": kind, "at": at});
    for (k, v) in more.as_object().unwrap() {
        f[k] = v.clone();
    }
    doc["survey"]["fixings"][id] = f;
}

/// 60 kg, its middle 900 over its feet in the middle of 1000, two places 50 in and two 950 in, by hand. Braking: 60 x
/// 9.80665 x 0.8 = 470.7 N, 117.7 each. Tipping over the front edge: 470.7 x 900 - 588.4 x 500 = 129,448 N mm; it pulls
/// at the rear two in proportion to 950, at the front two to 50: 129,448 x 950 / (2 x 950^2 + 2 x 50^2) = 67.9 N.
/// Together at the rear: sqrt(117.7^2 + 67.9^2) = 135.9 N.
#[test]
fn braking_by_hand() {
    let load = Load {
        mass: 60.0,
        at: [500.0, 0.0, 900.0],
        low: [0.0, -300.0, 0.0],
        high: [1000.0, 300.0, 1800.0],
        walls: [true, true],
    };
    let places = [
        [50.0, -250.0, 0.0],
        [50.0, 250.0, 0.0],
        [950.0, -250.0, 0.0],
        [950.0, 250.0, 0.0],
    ];
    let takes = load.takes(&places);
    assert!((takes[0] - 135.9).abs() < 0.1, "{takes:?}");
    assert!((takes[1] - 135.9).abs() < 0.1);
    // At the front: 117.7 and 3.6 upwards.
    assert!((takes[2] - 117.8).abs() < 0.1, "{takes:?}");
    // Low and long it does not tip: each holds its share.
    let low = Load {
        at: [500.0, 0.0, 200.0],
        ..load
    };
    assert!(low.takes(&places).iter().all(|n| (n - 117.68).abs() < 0.01));
    // Away from its walls it can go sideways too: half of g at 600 wide and 900 high tips it. 294.2 x 900 - 588.4 x 300
    // = 88,260 N mm over 2 x 550^2 + 2 x 50^2: 79.6 up and 73.5 along, 108.3 together: less than braking brings.
    let free = Load {
        walls: [false, false],
        ..load
    };
    assert!((free.takes(&places)[0] - 135.9).abs() < 0.1);
    assert!((free.takes(&places)[3] - 117.8).abs() < 0.1);
    // All in a row at the front edge: nothing holds it down.
    let front = [[1000.0, -100.0, 0.0], [1000.0, 100.0, 0.0]];
    assert!(load.takes(&front).iter().all(|n| n.is_infinite()));
}

/// Whatever is held, the places together bring the force and the moment that tips: an equilibrium nobody wrote into the
/// code for these places.
#[test]
fn forces_and_moments_balance() {
    let mut looked = 0;
    for seed in 0..200_u32 {
        let r = |k: u32| f64::from((seed * 7919 + k * 104_729) % 1000) / 1000.0;
        let load = Load {
            mass: 5.0 + 100.0 * r(1),
            at: [300.0 + 400.0 * r(2), 0.0, 200.0 + 900.0 * r(3)],
            low: [0.0, -300.0, 0.0],
            high: [1000.0, 300.0, 1500.0],
            walls: [true, true],
        };
        let places: Vec<[f64; 3]> = (4..8).map(|k| [900.0 * r(k), 0.0, 0.0]).collect();
        let takes = load.takes(&places);
        let force = load.mass * 9.80665 * 0.8;
        // Setting off, half of g, may bring more at places near the front; only where braking rules is it checked.
        let up: Vec<f64> = takes
            .iter()
            .map(|n| (n.powi(2) - (force / 4.0).powi(2)).max(0.0).sqrt())
            .collect();
        let moment: f64 = up
            .iter()
            .zip(&places)
            .map(|(u, p)| u * (1000.0 - p[0]))
            .sum();
        let tips = force * load.at[2] - load.mass * 9.80665 * (1000.0 - load.at[0]);
        let back = force / 0.8 * 0.5 * load.at[2] - load.mass * 9.80665 * load.at[0];
        if tips > 0.0 && back <= 0.0 {
            looked += 1;
            assert!(
                (moment - tips).abs() < 1e-6 * tips.max(1.0),
                "{seed}: {moment} {tips}"
            );
        }
    }
    assert!(looked >= 50, "{looked}");
}

#[rstest]
#[case("M8", Some((8.0, false)))]
#[case(" m6 ", Some((6.0, false)))]
#[case("M10x1.25", Some((10.0, false)))]
#[case("5/16", Some((7.9375, true)))]
#[case("5/16-18", Some((7.9375, true)))]
#[case("1/4 UNC", Some((6.35, true)))]
#[case("", None)]
#[case("M", None)]
#[case("bolt", None)]
#[case("M80", None)]
#[case("0/0", None)]
fn threads(#[case] text: &str, #[case] read: Option<(f64, bool)>) {
    assert_eq!(thread(text), read);
}

/// A ring takes a turnbuckle. A thread beside a side of 15 mm: washer 2 + 15 + a diameter of 8 = 25 mm at least. Bolts of
/// seats are never used, nor a fixing at the other end of the bay.
#[test]
fn anchors_first() {
    let mut doc = boxed();
    let p = plan(&doc);
    assert!(held(&p, "b").nothing);
    assert_eq!(level(&p, "restraint"), Some(Severity::Look));
    fixing(
        &mut doc,
        "seat bolt",
        "seat_bolt",
        [100.0, 500.0, 20.0],
        json!({"thread": "M10"}),
    );
    fixing(&mut doc, "far", "tie_down", [1900.0, 500.0, 0.0], json!({}));
    assert!(held(&plan(&doc), "b").nothing);

    fixing(&mut doc, "ring", "tie_down", [60.0, 500.0, 0.0], json!({}));
    let one = plan(&doc);
    assert!(!held(&one, "b").holds);
    assert_eq!(held(&one, "b").points.len(), 1);
    assert!(
        finding(&one, "restraint.b")
            .unwrap()
            .sentence
            .contains("it turns about it")
    );

    // The end board that stands at 800 in: a thread at its face.
    fixing(
        &mut doc,
        "thread",
        "threaded_hole",
        [803.0, 500.0, 100.0],
        json!({"thread": "M8", "depth": 20}),
    );
    let p = plan(&doc);
    let b = held(&p, "b");
    assert!(b.holds, "{}", b.words);
    let bolt = b.points.iter().find(|p| p.name == "the thread").unwrap();
    assert!(
        bolt.words.starts_with("bolt M8 x 25 mm through "),
        "{}",
        bolt.words
    );
    let ring = b.points.iter().find(|p| p.name == "the ring").unwrap();
    assert!(ring.words.starts_with("turnbuckle"), "{}", ring.words);
    for (what, size) in [
        ("bolt with washer, medium thread locker", "M8 x 25 mm"),
        ("turnbuckle with hook and eye", ""),
    ] {
        let line = p.hardware.iter().find(|h| h.what == what).unwrap();
        assert_eq!((line.size.as_str(), line.count), (size, 1));
    }
    assert!(
        finding(&p, "restraint.held")
            .unwrap()
            .sentence
            .contains("box seat")
    );
    assert!(finding(&p, "restraint.b").is_none());

    // 5 mm of thread do not hold an M8.
    doc["survey"]["fixings"]["thread"]["depth"] = json!(5);
    let p = plan(&doc);
    let bolt = held(&p, "b")
        .points
        .iter()
        .find(|p| p.name == "the thread")
        .unwrap();
    assert!(bolt.words.starts_with("too shallow"), "{}", bolt.words);
    assert!(!held(&p, "b").holds);
    // Without a thread that can be read it is said what is missing.
    doc["survey"]["fixings"]["thread"]["thread"] = json!("rusty");
    let p = plan(&doc);
    let bolt = held(&p, "b")
        .points
        .iter()
        .find(|p| p.name == "the thread")
        .unwrap();
    assert!(bolt.words.contains("note its thread"), "{}", bolt.words);
}

/// A cargo bolt beside the end board: the steel of a bracket 3, a washer 2, a diameter of 8: 13, so M8 x 16. Under a floor of 12 or 20
/// mm it is longer by that (25, 33: M8 x 25 and 35), and strong (ISO 898-1, from memory): it stands in the floor. Its thread is as far off.
#[rstest]
#[case(0.0, "bolt M8 x 16 mm through an angle bracket")]
#[case(
    12.0,
    "bolt M8 x 25 mm of class 8.8 or better through an angle bracket"
)]
#[case(
    20.0,
    "bolt M8 x 35 mm of class 8.8 or better through an angle bracket"
)]
fn a_floor_lies_between(#[case] floor: f64, #[case] words: &str) {
    let mut doc = boxed();
    let more = json!({"thread": "M8", "depth": 30});
    fixing(&mut doc, "bolt", "cargo_bolt", [850.0, 500.0, -floor], more);
    let p = plan(&doc);
    let bolt = held(&p, "b").points.first().unwrap();
    assert!(bolt.words.starts_with(words), "{}", bolt.words);
    assert_eq!(bolt.words.contains("of floor over it"), floor > 0.0);
    let strong = p
        .hardware
        .iter()
        .any(|h| h.what.starts_with("bolt of class 8.8"));
    assert_eq!(strong, floor > 0.0);
}

/// In inches: 5/16 through 15 mm and a washer of 2 needs 25 mm, an inch bolt is the next.
#[test]
fn bolts_in_inches() {
    let mut doc = boxed();
    doc["units"] = json!({"tape": "in", "system": "in", "denominator": 16});
    fixing(
        &mut doc,
        "a",
        "threaded_hole",
        [803.0, 500.0, 100.0],
        json!({"thread": "5/16-18", "depth": 19}),
    );
    let p = plan(&doc);
    let words = &held(&p, "b").points[0].words;
    assert!(words.starts_with("bolt 5/16 x 1 in through "), "{words}");
    assert!(
        held(&p, "b").forward.ends_with(" lbf"),
        "{}",
        held(&p, "b").forward
    );
}

/// Behind a rib lies the skin: an insert for M8 is 18 mm long (from memory) and stays a millimetre off it, so 19 mm are enough and
/// 18 are not. The bolt, 15 + 2 and at least 8 of thread, ends before it too.
#[test]
fn an_insert_stays_off_the_skin() {
    let words = |depth: Value| {
        let mut doc = boxed();
        let more = json!({"thread": "M8", "depth": depth});
        fixing(&mut doc, "r", "rib", [803.0, 500.0, 100.0], more);
        let p = plan(&doc);
        let point = held(&p, "b").points[0].clone();
        let bought = p.hardware.iter().any(|h| h.what == "blind threaded insert");
        (point.words, bought)
    };
    let (text, bought) = words(json!(19));
    assert!(
        text.starts_with("blind insert, bolt M8 x 25 mm through ")
            && text.contains("19 mm to the skin"),
        "{text}"
    );
    assert!(bought);
    let (text, bought) = words(json!(18));
    assert!(
        text.starts_with("only 18 mm behind it to the skin") && !bought,
        "{text}"
    );
    let (text, _) = words(Value::Null);
    assert!(text.contains("look behind before drilling"), "{text}");
}

/// One fixing holds one piece: two boxes do not count the same ring twice.
#[test]
fn a_fixing_holds_one_piece() {
    let mut doc = boxed();
    doc["modules"]["c"] = json!({"kind": "box_seat", "place": {"along": 850, "across": "left_wall"},
        "choices": {"length": 700, "depth": 450, "height": 280}});
    fixing(
        &mut doc,
        "between",
        "tie_down",
        [825.0, 500.0, 0.0],
        json!({}),
    );
    fixing(&mut doc, "rear", "tie_down", [80.0, 500.0, 0.0], json!({}));
    let p = plan(&doc);
    let all: Vec<&str> = p
        .holds
        .iter()
        .flat_map(|h| &h.points)
        .map(|p| p.name.as_str())
        .collect();
    assert_eq!(all.iter().filter(|n| **n == "the between").count(), 1);
    assert_eq!(p.holds.iter().filter(|h| h.holds).count(), 0);
    fixing(
        &mut doc,
        "front",
        "tie_down",
        [1600.0, 500.0, 0.0],
        json!({}),
    );
    fixing(
        &mut doc,
        "second",
        "tie_down",
        [790.0, 500.0, 0.0],
        json!({}),
    );
    assert_eq!(plan(&doc).holds.iter().filter(|h| h.holds).count(), 2);
}

/// Screws into the floor: the thickness is asked for, and no screw is longer than bracket and floor less a millimetre.
#[test]
fn screws_into_the_floor() {
    let mut doc = boxed();
    doc["modules"]["b"]["held"] = json!({"by": "floor"});
    let p = plan(&doc);
    assert!(!held(&p, "b").holds);
    assert!(p.asks.iter().any(|a| a.key == "/modules/b/held/floor"));
    doc["modules"]["b"]["held"]["floor"] = json!(12);
    let p = plan(&doc);
    let b = held(&p, "b");
    assert!(b.holds, "{}", b.words);
    // 3 + 12 - 1 = 14: 12 mm.
    assert!(
        b.points
            .iter()
            .all(|p| p.words.contains("5 x 12 mm into the floor")),
        "{:?}",
        b.points
    );
    // Its weight is shared: two to twelve places, each on a board that stands on the floor.
    assert!((2..=12).contains(&b.points.len()));
    assert!(!p.asks.iter().any(|a| a.key == "/modules/b/held/floor"));
    doc["modules"]["b"]["held"]["floor"] = json!(4);
    assert!(!held(&plan(&doc), "b").holds, "1 mm of screw holds nothing");
}

/// A box of some 12 kg on strips of 25 by 100 mm, under edges of 15 mm: 15 x 100 x 0.03 = 45 N each, where its flat bottom reaches the
/// floor 75 N. Braking brings 0.8 x 9.80665 N for each kilogram, so three or four do; with a hundred kilograms on it no dozen does. Nothing
/// is bored.
#[test]
fn strips_hold_what_is_light() {
    let mut doc = boxed();
    doc["modules"]["b"]["held"] = json!({"by": "strips"});
    let p = plan(&doc);
    let h = held(&p, "b");
    assert!(h.holds, "{}", h.words);
    let strips: u32 = p
        .hardware
        .iter()
        .filter(|l| l.what == "adhesive strip")
        .map(|l| l.count)
        .sum();
    assert_eq!(strips as usize, h.points.len());
    let pulls: f64 = h.forward.trim_end_matches(" N").parse().unwrap();
    assert!(f64::from(strips) * 75.0 >= pulls, "{strips} {pulls}");
    assert!((2..=6).contains(&strips), "{strips} {pulls}");
    let words = &h.points[0].words;
    assert!(
        words.starts_with("adhesive strip ") && words.contains("x 100 mm under "),
        "{words}"
    );
    let joined = p.parts.iter().flat_map(|q| &q.screws);
    assert!(joined.clone().all(|r| !r.to.contains("floor")));
    doc["gear"] = json!({"g": {"name": "bricks", "w": 300, "d": 300, "h": 200, "mass": 100}});
    let heavy = plan(&doc);
    let h = held(&heavy, "b");
    assert!(!h.holds, "{}: {}", h.weighs, h.words);
}

/// Four posts of 60 under a deck, by hand: a screw of 4 mm wants 40 mm to itself, so one goes into each, and a post alone has no room for the
/// two that a piece is held by at the least. To a board that lifts nothing is screwed.
#[test]
fn posts_share_the_screws() {
    let mut doc = demo("moth-whole");
    let offered = |p: &Plan| {
        p.findings.iter().any(|f| {
            f.offers
                .iter()
                .any(|o| o.label.starts_with("Screw the shelves"))
        })
    };
    assert!(!offered(&plan(&doc)));
    doc["modules"]["deck"]["choices"]["change"] = json!("fixed");
    let p = plan(&doc);
    let offers = p.findings.iter().flat_map(|f| &f.offers);
    let offer = offers
        .into_iter()
        .find(|o| o.label == "Screw the shelves to the deck");
    let whole = serde_json::to_value(jigfit_core::furniture::read(doc.clone()).unwrap()).unwrap();
    let after = plan(&after(&whole, &offer.unwrap().patch));
    let shelves = held(&after, "shelves");
    assert!(
        shelves.holds && shelves.words.starts_with("2 screws"),
        "{}",
        shelves.words
    );
}

/// Screwed to another piece: its load goes there; what hangs in a circle, on nothing, or does not touch is told.
#[test]
fn one_piece_holds_another() {
    let mut doc = read_up_to(boxed(), 900.0);
    doc["modules"]["s"] = json!({"kind": "shelves", "place": {"along": 100, "across": "left_wall", "on": "b"},
        "choices": {"width": 600, "depth": 300, "height": 450, "levels": 2}});
    for (n, x) in [60.0, 400.0, 840.0].into_iter().enumerate() {
        fixing(
            &mut doc,
            &format!("r{n}"),
            "tie_down",
            [x, 480.0, 0.0],
            json!({}),
        );
    }
    let alone = plan(&doc);
    assert!(held(&alone, "b").holds);
    assert!(!held(&alone, "s").holds);
    // What is offered helps.
    let f = alone
        .findings
        .iter()
        .find(|f| f.id.starts_with("restraint") && !f.offers.is_empty())
        .unwrap();
    let offer = f
        .offers
        .iter()
        .find(|o| o.label.contains("to the box seat"))
        .unwrap();
    let patch: json_patch::Patch = serde_json::from_value(offer.patch.clone()).unwrap();
    let mut whole =
        serde_json::to_value(jigfit_core::furniture::read(doc.clone()).unwrap()).unwrap();
    json_patch::patch(&mut whole, &patch).unwrap();
    let p = plan(&whole);
    assert!(held(&p, "s").holds, "{}", held(&p, "s").words);
    assert!(held(&p, "b").holds);
    let newtons = |v: &HoldView| v.forward.trim_end_matches(" N").parse::<f64>().unwrap();
    let sum = newtons(held(&alone, "b")) + newtons(held(&alone, "s"));
    assert!(
        (newtons(held(&p, "b")) - sum).abs() <= 1.0,
        "both pull at the lower one"
    );
    // In the order out what hangs on another comes first.
    let order: Vec<&str> = p.out.steps.iter().map(|s| s.module.as_str()).collect();
    assert_eq!(order, ["s", "b"]);

    whole["modules"]["b"]["held"] = json!({"by": "piece", "to": "s"});
    let p = plan(&whole);
    assert!(
        p.holds
            .iter()
            .all(|h| !h.holds && h.words.contains("holds itself"))
    );
    whole["modules"]["b"]["held"] = json!({"by": "piece", "to": "nobody"});
    assert!(!held(&plan(&whole), "b").holds);
    whole["modules"]["b"]["held"] = json!({"by": "piece", "to": "b"});
    assert!(!held(&plan(&whole), "b").holds);
    whole["modules"]["b"]["held"] = json!({"by": "weight"});
    let p = plan(&whole);
    assert!(
        held(&p, "b").words.contains("Friction"),
        "{}",
        held(&p, "b").words
    );
}

#[rstest]
#[case(json!({"by": "glue"}), "/modules/b/held/by")]
#[case(json!({"floor": -1}), "/modules/b/held/floor")]
#[case(json!({"floor": 1e9}), "/modules/b/held/floor")]
#[case(json!({"to": 7}), "/modules/b/held/to")]
#[case(json!({"too": "b"}), "/modules/b/held/too")]
fn what_cannot_be(#[case] wrong: Value, #[case] pointer: &str) {
    let mut doc = boxed();
    doc["modules"]["b"]["held"] = wrong;
    let refused = jigfit_core::furniture::read(doc).unwrap_err();
    assert_eq!(refused.pointer, pointer);
}

/// Nothing brakes on the water: no piece of a boat is judged by the road, none asks for bolts.
#[test]
fn a_boat_does_not_brake() {
    let mut doc = boxed();
    fixing(&mut doc, "ring", "tie_down", [60.0, 500.0, 0.0], json!({}));
    doc["vehicle"]["kind"] = json!("boat");
    let p = plan(&doc);
    assert!(p.holds.is_empty() && p.out.steps.len() == 1);
    assert!(
        p.findings
            .iter()
            .all(|f| f.check != "restraint" && f.check != "latch")
    );
    assert!(!p.hardware.iter().any(|h| h.what.contains("turnbuckle")));
}

/// A hole of a part in the vehicle: the first board's pose from the part's own corner.
fn there(p: &Plan, to: &str) -> Vec<([f64; 3], f64)> {
    let mut out = Vec::new();
    for part in &p.parts {
        let pose = board(p, &part.boards[0]).poses["drive"];
        for row in part.screws.iter().filter(|r| r.to == to) {
            let wide = row.diameter.as_ref().unwrap().value;
            for at in &row.at {
                let point = |k: usize| part.at[k] + at[0] * pose.u[k] + at[1] * pose.v[k];
                out.push((std::array::from_fn(point), wide));
            }
        }
    }
    out
}

/// What is bolted to the vehicle is bored where the survey found the thread: 500 to the left and 100 up, to the nearest mark; 9 mm for M8,
/// 6.6 for M6 (ISO 273, medium, from memory). Through a bracket, or where the thread is too shallow, nothing is bored.
#[rstest]
#[case([803.0, 500.0, 100.0], json!({"thread": "M8", "depth": 20}), Some(9.0))]
#[case([803.0, 400.0, 60.0], json!({"thread": "M6", "depth": 20}), Some(6.6))]
#[case([803.0, 500.0, 100.0], json!({"thread": "M8", "depth": 2}), None)]
#[case([850.0, 500.0, 100.0], json!({"thread": "M8", "depth": 30}), None)]
// 3 mm off the lower edge there is no wood all round.
#[case([803.0, 500.0, 3.0], json!({"thread": "M8", "depth": 20}), None)]
fn a_bolt_to_the_vehicle_is_marked(
    #[case] at: [f64; 3],
    #[case] more: Value,
    #[case] wide: Option<f64>,
) {
    let mut doc = boxed();
    fixing(&mut doc, "thread", "threaded_hole", at, more);
    let p = plan(&doc);
    let holes = there(&p, "the thread");
    assert_eq!(holes.len(), usize::from(wide.is_some()));
    if let (Some((found, d)), Some(wide)) = (holes.first(), wide) {
        assert!((found[1] - at[1]).abs() <= 0.5 && (found[2] - at[2]).abs() <= 0.5);
        assert!((d - wide).abs() < 1e-9);
    }
}

/// In the demo every ring has its eye bolt in the frame of the deck it pulls at, and every cargo bolt its hole in the bench, right over it.
#[test]
fn the_demo_is_bored_for_its_fixings() {
    let doc = demo("moth-whole");
    let p = plan(&doc);
    for (_, f) in doc["survey"]["fixings"].as_object().unwrap() {
        let name = f["name"].as_str().unwrap();
        let at: Vec<f64> = serde_json::from_value(f["at"].clone()).unwrap();
        let holes = there(&p, name);
        match f["kind"].as_str().unwrap() {
            "cargo_bolt" => {
                let (found, d) = holes[0];
                assert!((d - 9.0).abs() < 1e-9, "{name}");
                assert!((found[0] - at[0]).hypot(found[1] - at[1]) <= 0.8, "{name}");
            }
            "tie_down" => {
                let (found, d) = holes[0];
                assert!((d - 6.6).abs() < 1e-9, "{name}");
                // A turnbuckle leads from the ring to it.
                let far = (found[1] - at[1]).hypot(found[2] - at[2]);
                assert!(far <= 200.0, "{name}: {far}");
            }
            _ => assert!(holes.is_empty(), "{name}"),
        }
    }
}
