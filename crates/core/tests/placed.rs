//! Captured curves laid into vehicles whose shape is written down in closed form, and boards held in place there.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::plan::{Plan, solve};
use jigfit_core::project::survey::Side;
use jigfit_core::survey::model::Model;
use rstest::rstest;
use serde_json::{Value, json};

/// A curve of points in the frame of the plane itself, turned and shifted into a frame of its own as a card lies on a
/// bench, with two landmarks.
fn capture(points: &[[f64; 2]], place: Value, landmarks: [[f64; 2]; 2], sign: f64) -> Value {
    // By hand: turned by 3-4-5, shifted.
    let card = |p: [f64; 2]| {
        let (x, y) = (p[0] - 100.0, p[1] - 40.0);
        [0.8 * x + 0.6 * y, -0.6 * x + 0.8 * y]
    };
    let mut stations = json!({});
    for (i, p) in points.iter().enumerate() {
        let [a, b] = card(*p);
        stations[format!("s{i:03}")] = json!({"a": a, "b": b});
    }
    let tie = |p: [f64; 2]| {
        let [a, b] = card(p);
        // A level plane is told forward and off the middle, one across up and off the middle.
        let (u, v) = match place["plane"] == "across" {
            true => (p[1], sign * p[0]),
            false => (p[0], sign * p[1]),
        };
        json!({"a": a, "b": b, "u": u, "v": v})
    };
    let ties = json!({"1": tie(landmarks[0]), "2": tie(landmarks[1])});
    let mut place = place.clone();
    place["landmarks"] = ties;
    json!({"name": "card", "way": "offset_block", "offset": 0.0, "sd": 0.3, "stations": stations, "place": place})
}

fn steps(from: f64, to: f64, n: usize) -> impl Iterator<Item = f64> {
    (0..=n).map(move |i| from + (to - from) * i as f64 / n as f64)
}

/// A van of which one wall was not read in the middle.
fn without_the_middle(side: &str) -> Value {
    let mut doc = box_van();
    let read = doc["survey"]["readings"].as_object_mut().unwrap();
    read.retain(|_, r| {
        let q = &r["quantity"];
        !(q["of"] == "wall" && q["side"] == side && q["x"] == 1000.0)
    });
    doc
}

/// A level curve, right wall: a bulge of 12 mm that no reading shows. y = -(700 + 12 (1 - t2)2), t over the bulge.
#[test]
fn a_bulge_of_the_right_wall() {
    let y = |x: f64| {
        let t = ((x - 1000.0) / 400.0).clamp(-1.0, 1.0);
        700.0 + 12.0 * (1.0 - t * t).powi(2)
    };
    let points: Vec<_> = steps(500.0, 1500.0, 40).map(|x| [x, -y(x)]).collect();
    let mut doc = without_the_middle("right");
    doc["templates"] = json!({"c": capture(
        &points,
        json!({"of": "right", "at": 300.0}),
        [[500.0, -600.0], [1500.0, -600.0]],
        -1.0,
    )});
    let m = Model::new(&project(&doc));
    for x in steps(550.0, 1450.0, 30) {
        let (mm, sd) = m.wall(Side::Right, x, 300.0).unwrap();
        assert!(
            (mm - y(x)).abs() < 0.8 && sd < 1.3,
            "{x}: {mm} {sd} {}",
            y(x)
        );
        // Where it was not read the other wall is suspected of the same, and doubted by more than that.
        let (mm, sd) = m.wall(Side::Left, x, 300.0).unwrap();
        assert!(
            (mm - 700.0).abs() < 2.0 * sd && mm < 700.6,
            "{x}: {mm} {sd}"
        );
    }
    assert!((m.wall(Side::Left, 1000.0, 300.0).unwrap().0 - 700.0).abs() < 0.6);
    // The deck's edge follows.
    let at = |doc: &Value| {
        let plan = plan(doc);
        // Where the outlines cross x = 1000, furthest right.
        let crossed = plan.decks[0].panels.iter().flat_map(|p| {
            let n = p.outer.len();
            (0..n).filter_map(move |i| {
                let (a, b) = (p.outer[i], p.outer[(i + 1) % n]);
                let t = (1000.0 - a[0]) / (b[0] - a[0]);
                (0.0..1.0).contains(&t).then(|| a[1] + t * (b[1] - a[1]))
            })
        });
        crossed.fold(f64::INFINITY, f64::min)
    };
    let before = {
        let mut doc = doc.clone();
        doc["templates"] = json!({});
        at(&doc)
    };
    assert!((-700.0..-680.0).contains(&before), "{before}");
    assert!(at(&doc) < -705.0, "{}", at(&doc));
}

/// A card held upright across the vehicle: a wall that bows out by 15 mm between 0 and 300.
#[test]
fn a_card_across() {
    let y = |z: f64| 700.0 + 15.0 * (1.0 - ((z - 150.0) / 150.0).powi(2));
    let points: Vec<_> = steps(0.0, 300.0, 20).map(|z| [y(z), z]).collect();
    let mut doc = box_van();
    doc["templates"] = json!({"c": capture(
        &points,
        json!({"of": "left", "plane": "across", "at": 1000.0}),
        [[600.0, 0.0], [600.0, 300.0]],
        1.0,
    )});
    let m = Model::new(&project(&doc));
    for z in steps(20.0, 280.0, 13) {
        let mm = m.wall(Side::Left, 1000.0, z).unwrap().0;
        assert!((mm - y(z)).abs() < 0.9, "{z}: {mm} {}", y(z));
    }
}

/// A front that bows by 30 mm in the middle: x = 2000 - 30 (y / 600)2, of which the survey read the middle only.
#[test]
fn a_bowed_front() {
    let x = |y: f64| 2000.0 - 30.0 * (y / 600.0).powi(2);
    let points: Vec<_> = steps(-600.0, 600.0, 40).map(|y| [x(y), y]).collect();
    let mut doc = box_van();
    doc["templates"] = json!({"c": capture(
        &points,
        json!({"of": "front", "at": 300.0}),
        [[1800.0, -600.0], [1800.0, 600.0]],
        1.0,
    )});
    let m = Model::new(&project(&doc));
    for y in steps(-580.0, 580.0, 20) {
        let mm = m.front(y, 300.0).unwrap().0;
        assert!((mm - x(y)).abs() < 1.2, "{y}: {mm} {}", x(y));
    }
}

/// A corner of the curve stays one: the wall turns inwards by 0.2 at 1000.
#[test]
fn a_corner_stays() {
    let y = |x: f64| 700.0 - 0.25 * f64::max(x - 1000.0, 0.0);
    let points: Vec<_> = steps(600.0, 1400.0, 60).map(|x| [x, y(x)]).collect();
    let mut doc = box_van();
    // What was read of the wall forward of the corner is not this wall.
    for r in doc["survey"]["readings"]
        .as_object_mut()
        .unwrap()
        .values_mut()
    {
        let q = &r["quantity"];
        if q["of"] == "wall" && q["side"] == "left" && q["x"] == 2000.0 {
            r["typed"] = json!("450");
        }
    }
    doc["templates"] = json!({"c": capture(
        &points,
        json!({"of": "left", "at": 300.0}),
        [[600.0, 500.0], [1400.0, 500.0]],
        1.0,
    )});
    let p = project(&doc);
    assert_eq!(
        solve(&p).templates[0]
            .placed
            .as_ref()
            .unwrap()
            .corners
            .len(),
        1
    );
    let m = Model::new(&p);
    for x in steps(900.0, 1100.0, 20) {
        let mm = m.wall(Side::Left, x, 300.0).unwrap().0;
        assert!((mm - y(x)).abs() < 0.9, "{x}: {mm} {}", y(x));
    }
}

/// What is missing, or cannot be, is told in words and does no harm.
#[rstest]
#[case(json!({"/at": null}), "at which height")]
#[case(json!({"/landmarks/2": {}}), "one point was found")]
#[case(json!({"/landmarks": {}}), "no point of it was found")]
fn what_a_place_needs(#[case] edits: Value, #[case] words: &str) {
    let mut doc = with_card();
    for (at, v) in edits.as_object().unwrap() {
        *doc.pointer_mut(&format!("/templates/c/place{at}")).unwrap() = v.clone();
    }
    let plan = plan(&doc);
    let t = &plan.templates[0];
    assert!(t.placed.is_none());
    assert!(
        t.unplaced.as_ref().unwrap().contains(words),
        "{:?}",
        t.unplaced
    );
    let mut plain = doc.clone();
    plain["templates"] = json!({});
    assert_eq!(plan.decks, self::plan(&plain).decks);
}

fn with_card() -> Value {
    let points: Vec<_> = steps(500.0, 1500.0, 20).map(|x| [x, 700.0]).collect();
    let mut doc = box_van();
    doc["templates"] = json!({"c": capture(
        &points,
        json!({"of": "left", "at": 300.0}),
        [[500.0, 600.0], [1500.0, 600.0]],
        1.0,
    )});
    doc
}

/// Landmarks that lie together give no direction; two that are further apart in the vehicle than on the card are told
/// with both distances; of three the wrong one is named.
#[test]
fn landmarks_that_do_not_agree() {
    let mut doc = with_card();
    doc["templates"]["c"]["place"]["landmarks"]["2"] =
        doc["templates"]["c"]["place"]["landmarks"]["1"].clone();
    let together = plan(&doc).templates[0].unplaced.clone().unwrap();
    assert!(together.contains("lie at one place"), "{together}");

    let mut doc = with_card();
    doc["templates"]["c"]["place"]["landmarks"]["2"]["u"] = json!(1520.0);
    let t = &plan(&doc).templates[0];
    assert!(!t.placed.as_ref().unwrap().counts);
    let told = t
        .warnings
        .iter()
        .any(|w| w.contains("1000 mm") && w.contains("1020 mm"));
    assert!(told, "{:?}", t.warnings);

    let mut third = doc["templates"]["c"]["place"]["landmarks"]["1"].clone();
    // By hand: the point (1000, 600) on the turned card.
    third["a"] = json!(0.8 * 900.0 + 0.6 * 560.0);
    third["b"] = json!(-0.6 * 900.0 + 0.8 * 560.0);
    third["u"] = json!(1000.0);
    doc["templates"]["c"]["place"]["landmarks"]["3"] = third;
    doc["templates"]["c"]["place"]["landmarks"]["3"]["v"] = json!(640.0);
    doc["templates"]["c"]["place"]["landmarks"]["2"]["u"] = json!(1500.0);
    let t = &plan(&doc).templates[0];
    assert!(
        t.warnings.iter().any(|w| w.contains("Landmark 3")),
        "{:?}",
        t.warnings
    );
}

/// Two captures of one stretch are merged by their doubt: of two that differ by 2 mm the surer one counts more.
#[test]
fn two_captures_merge() {
    let card = |off: f64, sd: f64| {
        let points: Vec<_> = steps(500.0, 1500.0, 20).map(|x| [x, 700.0 + off]).collect();
        let mut c = capture(
            &points,
            json!({"of": "left", "at": 300.0}),
            [[500.0, 600.0], [1500.0, 600.0]],
            1.0,
        );
        c["sd"] = json!(sd);
        c
    };
    let at = |a: Value, b: Value| {
        let mut doc = without_the_middle("left");
        doc["templates"] = json!({"a": a, "b": b});
        Model::new(&project(&doc))
            .wall(Side::Left, 1000.0, 300.0)
            .unwrap()
            .0
            - 700.0
    };
    let (first, second) = (
        at(card(2.0, 0.4), card(0.0, 2.0)),
        at(card(2.0, 2.0), card(0.0, 0.4)),
    );
    assert!(first > second + 0.1, "{first} {second}");
    assert!((0.0..2.0).contains(&first) && (0.0..2.0).contains(&second));
}

/// Boards are held in place: nothing said changes nothing; a touch all round draws the walls in to them, though the two
/// halves of the deck are pushed together and reach one wall each.
#[test]
fn a_touch_all_round() {
    let mut doc = box_van();
    // Cut so close that readings of 1 mm do not say that it lies wrong.
    doc["modules"]["deck"]["choices"]["clearance"] = json!(1.5);
    let before = plan(&doc);
    let halves: Vec<_> = before.fits.iter().filter(|f| f.seen == "above").collect();
    assert_eq!(halves.len(), 2);
    for (i, board) in halves.iter().enumerate() {
        doc["fits"][format!("r{i}")] = json!(board.fresh);
    }
    let begun = plan(&doc);
    assert_eq!(begun.decks, before.decks);
    for (i, board) in halves.iter().enumerate() {
        let now = begun.fits.iter().find(|f| f.board == board.board).unwrap();
        let round = &now.rounds[0];
        assert!((6..=40).contains(&round.places.len()));
        for p in &round.places {
            let mut answer = serde_json::to_value(&p.answer).unwrap();
            answer["says"] = json!("touches");
            doc["fits"][format!("r{i}")]["places"][&p.key] = answer;
        }
    }
    let held = plan(&doc);
    let wide = |p: &Plan| {
        let all = p.decks[0].panels.iter().map(|r| r.bounds());
        let reach = all.fold((f64::INFINITY, 0.0_f64), |s, b| {
            (s.0.min(b.1), s.1.max(b.3))
        });
        reach.1 - reach.0
    };
    let cut = wide(&before);
    // They were cut so many mm narrower than 1400 and touch on both sides: that is how far the walls are apart.
    let m = Model::new(&project(&doc));
    let apart = |x: f64| {
        Side::BOTH
            .iter()
            .map(|s| m.wall(*s, x, 300.0).unwrap().0)
            .sum::<f64>()
    };
    for x in [200.0, 1000.0, 1800.0] {
        assert!((apart(x) - cut).abs() < 1.0, "{x}: {} {cut}", apart(x));
    }
    assert!(wide(&held) < cut - 1.0, "{cut} {}", wide(&held));
    let said = finding(&held, "fit.r").unwrap();
    assert!(
        said.level == Severity::Look && said.sentence.contains("ake off"),
        "{}",
        said.sentence
    );
    // Set aside they count for nothing.
    for i in 0..2 {
        doc["fits"][format!("r{i}")]["aside"] = json!(true);
    }
    assert_eq!(plan(&doc).decks, before.decks);
}

/// A card may be turned over where both walls are the same, and then lies as well on the other; where they differ it says
/// by how much and where.
#[test]
fn turned_over() {
    let mut doc = with_card();
    let first = plan(&doc);
    let over = &first.over[0];
    assert!(
        over.words.contains("right wall is the same within"),
        "{}",
        over.words
    );
    doc["templates"]["d"] = json!(over.template.as_ref().unwrap());
    let p = project(&doc);
    let both = plan(&doc);
    let [c, d] = [0, 1].map(|i| both.templates[i].placed.clone().unwrap());
    assert!(d.counts && c.line.len() == d.line.len());
    for (a, b) in c.line.iter().zip(&d.line) {
        assert!(
            (a[0] - b[0]).abs() < 1e-6 && (a[1] + b[1]).abs() < 1e-6,
            "{a:?} {b:?}"
        );
    }
    assert!(Model::new(&p).judged.bodies.is_empty());

    // The right wall of this one stands 8 mm further out in the middle.
    let mut doc = with_card();
    for r in doc["survey"]["readings"]
        .as_object_mut()
        .unwrap()
        .values_mut()
    {
        let q = &r["quantity"];
        if q["of"] == "wall" && q["side"] == "right" && q["x"] == 1000.0 {
            r["typed"] = json!("708");
        }
    }
    let differs = plan(&doc).over.remove(0);
    assert!(differs.template.is_none());
    assert!(
        differs.words.contains("differs by up to")
            && differs.words.contains("capture it by itself")
    );
    // Where they differ most is where the walls were read to differ, and the two places lie that far apart.
    let [own, other] = differs.worst;
    let apart = (own[0] - other[0]).hypot(own[1] - other[1]);
    assert!((apart - differs.differs.value).abs() < 1e-6 && apart > 5.0);
    // The place on the curve is on the curve, in its own frame.
    let plan = plan(&doc);
    let near = |line: &[[f64; 2]], p: [f64; 2]| {
        let far = |s: &[[f64; 2]]| {
            let (d, e) = (
                [s[1][0] - s[0][0], s[1][1] - s[0][1]],
                [p[0] - s[0][0], p[1] - s[0][1]],
            );
            let t = (e[0] * d[0] + e[1] * d[1]) / (d[0] * d[0] + d[1] * d[1]);
            let t = t.clamp(0.0, 1.0);
            (e[0] - t * d[0]).hypot(e[1] - t * d[1])
        };
        line.windows(2).map(far).fold(f64::INFINITY, f64::min)
    };
    assert!(near(&plan.templates[0].edge, own) < 3.0);
    assert!(near(&differs.line, other) < 1e-6);
}

/// What is still to be read of a curve is asked for, one number after the other, where it belongs.
#[test]
fn missing_numbers_are_asked_for() {
    let mut doc = box_van();
    doc["templates"] = json!({"c": {"name": "Wall", "way": "ordinates", "stations": {
        "s1": {"a": 0.0, "b": 90.0}, "s2": {"a": 320.0, "b": null}, "s3": {}}}});
    let plan = plan(&doc);
    let own: Vec<_> = plan
        .asks
        .iter()
        .filter(|a| a.stage == "templates")
        .collect();
    assert_eq!(own.len(), 2);
    assert_eq!(own[0].prompt, "Wall: depth at 320 mm along");
    assert_eq!(own[0].key, "/templates/c/stations/s2/b");
    assert_eq!(own[1].prompt, "Wall: reading 3, along the straight edge");
    let stage = plan.stages.iter().find(|s| s.id == "templates").unwrap();
    assert_eq!((stage.state.as_str(), stage.needs), ("needs", 2));
}

/// However many rounds there are, what is solved together stays bounded: the newest count.
#[test]
fn very_many_rounds() {
    let mut doc = box_van();
    let first = plan(&doc);
    let board = first.fits.iter().find(|f| f.seen == "above").unwrap();
    let mut places = json!({});
    for k in 0..150 {
        places[format!("p{k}")] = json!({"of": "left", "at": [10.0 * f64::from(k), 600.0], "out": [0.0, 1.0], "says": "gap", "mm": 3.0});
    }
    for i in 0..120 {
        let mut fit = json!(board.fresh);
        fit["when"] = json!(format!("2026-01-01T00:{:02}:{:02}Z", i / 60, i % 60));
        fit["places"] = places.clone();
        doc["fits"][format!("r{i:03}")] = fit;
    }
    let p = project(&doc);
    let m = Model::new(&p);
    let own = m.field.equations().iter().filter(|e| e.body);
    let own: Vec<&str> = own.map(|e| e.key.as_str()).collect();
    assert!(own.len() <= 240 + 3 * 24, "{}", own.len());
    assert!(
        own.iter().any(|k| k.starts_with("fit.r119."))
            && !own.iter().any(|k| k.starts_with("fit.r000."))
    );
}

/// A reading that is not there yet makes nothing surer.
#[test]
fn half_a_reading_tells_nothing() {
    let sure = |doc: &Value| {
        let m = Model::new(&project(doc));
        m.wall(Side::Left, 1000.0, 300.0).unwrap()
    };
    let mut doc = with_card();
    let whole = sure(&doc);
    for k in 0..60 {
        doc["templates"]["c"]["stations"][format!("t{k}")] = json!({"a": 10.0 * f64::from(k)});
    }
    let half = sure(&doc);
    assert!((whole.0 - half.0).abs() < 1e-9 && (whole.1 - half.1).abs() < 1e-9);
}
