//! What is asked next, and why.

use crate::common::*;
use jigfit_core::plan::Plan;
use jigfit_core::project::{Project, Units, VehicleKind};
use jigfit_core::protocol::{Ask, Target};
use rstest::rstest;
use serde_json::{Value, json};

fn start(kind: VehicleKind, protocol: &str) -> Value {
    let mut doc = Project::start("New", kind, Units::default())
        .to_json()
        .unwrap();
    doc["survey"]["protocol"] = json!(protocol);
    doc
}

fn ask<'a>(plan: &'a Plan, key: &str) -> Option<&'a Ask> {
    plan.asks.iter().find(|a| a.key == key)
}

fn keys(plan: &Plan) -> Vec<&str> {
    plan.asks.iter().map(|a| a.key.as_str()).collect()
}

/// A bay read at three stations on three heights, each wall as `y` says.
fn bay(protocol: &str, y: impl Fn(f64, f64) -> f64) -> Value {
    let mut doc = start(VehicleKind::BoxTrailer, protocol);
    let mut add = |id: String, quantity: Value, mm: f64| {
        doc["survey"]["readings"][id] = reading(quantity, &format!("{mm:.1}"));
    };
    for (z, y) in [(0.0, 0.0), (0.0, 550.0), (0.0, -550.0), (500.0, 0.0)] {
        let length = json!({"of": "length", "z": z, "y": y});
        add(format!("length{z}.{y}"), length, 2000.0);
    }
    for (dim, mm) in [
        ("width_floor", 1200.0),
        ("width_top", 1100.0),
        ("height", 1100.0),
    ] {
        add(dim.into(), json!({"of": "opening", "dim": dim}), mm);
    }
    add("roof".into(), json!({"of": "roof", "x": 1000.0}), 1250.0);
    for side in ["left", "right"] {
        for x in [0.0, 650.0, 1350.0, 1980.0] {
            for z in [0.0, 250.0, 500.0] {
                add(format!("{side}{x}-{z}"), wall(side, x, z), y(x, z));
            }
        }
    }
    doc
}

/// Before there is a length there are no places: what is asked can be answered all the same.
#[rstest]
fn the_first_questions_need_nothing(
    #[values(VehicleKind::Van, VehicleKind::Boat, VehicleKind::VNoseTrailer)] kind: VehicleKind,
    #[values("quick", "full")] protocol: &str,
) {
    let p = plan(&start(kind, protocol));
    assert_eq!(p.asks[0].key, "length.0");
    assert!(
        p.asks.iter().all(|a| !a.key.starts_with("wall")),
        "{:?}",
        keys(&p)
    );
    assert!(p.asks[0].needed && p.asks[0].minutes > 0.0);
    assert!(!p.asks[0].how.is_empty() && !p.asks[0].why.is_empty());
}

/// No question comes twice, whatever has been read.
#[rstest]
#[case(demo("moth"))]
#[case(demo("kingfisher"))]
#[case(bay("full", |_, _| 700.0))]
#[case(with_wells(box_van()))]
fn no_question_comes_twice(#[case] doc: Value) {
    let p = plan(&doc);
    let mut all = keys(&p);
    let before = all.len();
    all.sort_unstable();
    all.dedup();
    assert_eq!(all.len(), before);
    // What the plan waits for comes first.
    let first_offer = p.asks.iter().position(|a| !a.needed).unwrap_or(before);
    let survey = p.asks[first_offer..].iter().filter(|a| a.stage == "survey");
    assert!(survey.into_iter().all(|a| !a.needed));
}

/// Only a V nose is asked where it begins.
#[rstest]
#[case(VehicleKind::VNoseTrailer, true)]
#[case(VehicleKind::BoxTrailer, false)]
#[case(VehicleKind::Van, false)]
fn the_nose(#[case] kind: VehicleKind, #[case] asked: bool) {
    let mut doc = start(kind, "full");
    doc["survey"]["readings"]["r"] = reading(json!({"of": "length", "z": 0}), "3000");
    let p = plan(&doc);
    let nose = ask(&p, "ridge.nose");
    assert_eq!(nose.is_some(), asked);
    if let Some(a) = nose {
        assert!(matches!(&a.target, Target::Ridge { id } if id == "nose"));
    }
}

/// A wall is expected where its neighbours put it: half way between 700 and 680 is 690.
#[test]
fn what_is_expected() {
    let mut doc = bay("full", |x, _| 700.0 - x / 100.0);
    let readings = doc["survey"]["readings"].as_object_mut().unwrap();
    readings.remove("left650-0");
    let p = plan(&doc);
    let a = ask(&p, "wall.left.650.0").unwrap();
    let e = a.expected.as_ref().unwrap();
    assert!((e.figure.value - 693.5).abs() < 1.0, "{}", e.figure.value);
    assert!(e.plus_minus.value > 3.0 && e.plus_minus.value < 60.0);
    // Nothing is foretold of what nothing is known of.
    let doc = start(VehicleKind::Van, "full");
    assert!(plan(&doc).asks.iter().all(|a| a.expected.is_none()));
}

/// What is skipped is not asked again; what was read is not either, unless it disagrees.
#[test]
fn skipped_and_read_are_done() {
    let mut doc = bay("full", |_, _| 700.0);
    let p = plan(&doc);
    let roof = p
        .asks
        .iter()
        .find(|a| a.key.starts_with("roof"))
        .unwrap()
        .key
        .clone();
    doc["survey"]["skipped"][&roof] = json!("cannot be reached");
    let p = plan(&doc);
    assert!(ask(&p, &roof).is_none());
    assert!(keys(&p).iter().all(|k| !k.starts_with("wall.left.650.0")));
}

/// Two readings of the roof 40 apart, which nothing else tells of: asked again while the person still
/// stands there, before anything else.
#[test]
fn a_contradiction_is_asked_at_once() {
    let mut doc = bay("full", |_, _| 700.0);
    let readings = doc["survey"]["readings"].as_object_mut().unwrap();
    readings.remove("height");
    doc["survey"]["readings"]["roof2"] = reading(json!({"of": "roof", "x": 1000.0}), "1290");
    let p = plan(&doc);
    assert_eq!(p.asks[0].key, "again.roof.1000", "{:?}", keys(&p));
    assert!(p.asks[0].again && p.asks[0].needed);
    // The next question waits behind it.
    assert!(ask(&p, "opening.height").is_some_and(|a| a.needed));
}

/// Wall to wall 40 off left and right, both of which suit their neighbours: nothing to ask, the wide
/// one is named.
#[test]
fn what_the_neighbours_settle_is_not_asked() {
    let mut doc = bay("full", |_, _| 700.0);
    doc["survey"]["readings"]["w"] =
        reading(json!({"of": "width", "x": 650.0, "z": 250.0}), "1440");
    let p = plan(&doc);
    assert!(finding(&p, "blunder.width.650.250").is_some());
    assert!(
        keys(&p).iter().all(|k| !k.starts_with("again.w")),
        "{:?}",
        keys(&p)
    );
}

/// Three more readings of a contradiction, then it is the user's to settle: the same question does
/// not come for ever.
#[test]
fn a_contradiction_is_not_asked_for_ever() {
    let mut doc = bay("full", |_, _| 700.0);
    for (i, mm) in ["1440", "1400", "1441", "1399"].iter().enumerate() {
        doc["survey"]["readings"][format!("w{i}")] =
            reading(json!({"of": "width", "x": 650.0, "z": 250.0}), mm);
    }
    assert!(ask(&plan(&doc), "again.width.650.250").is_none());
}

/// A dent in a wall of twelve readings is a surprise: asked again, not called wrong. The same dent in both walls is how the
/// vehicle is.
#[test]
fn a_dent_is_a_question_not_a_verdict() {
    let dent = |doc: &mut Value, side: &str| {
        doc["survey"]["readings"][format!("{side}650-250")]["typed"] = json!("670.0");
    };
    let mut doc = bay("full", |_, _| 700.0);
    dent(&mut doc, "left");
    let p = plan(&doc);
    assert!(ask(&p, "again.wall.left.650.250").is_some());
    assert!(p.findings.iter().all(|f| !f.id.starts_with("blunder")));
    dent(&mut doc, "right");
    let p = plan(&doc);
    assert!(
        keys(&p).iter().all(|k| !k.starts_with("again.wall.")),
        "{:?}",
        keys(&p)
    );
}

/// With few readings a wall says little of itself, and a bow is no surprise.
#[test]
fn few_readings_surprise_nobody() {
    let mut doc = start(VehicleKind::Estate, "full");
    doc["survey"]["readings"]["l"] = reading(json!({"of": "length", "z": 0}), "1700");
    for (x, mm) in [(0.0, "520"), (850.0, "645"), (1680.0, "620")] {
        doc["survey"]["readings"][format!("x{x}")] = reading(wall("left", x, 0.0), mm);
    }
    let p = plan(&doc);
    assert!(
        keys(&p).iter().all(|k| !k.starts_with("again.")),
        "{:?}",
        keys(&p)
    );
}

/// The front's place at every crease is asked only where three heights do not lie in a line.
#[rstest]
#[case("1990", false)]
#[case("1930", true)]
fn creases_of_the_front(#[case] middle: &str, #[case] asked: bool) {
    let mut doc = start(VehicleKind::Boat, "full");
    for (id, z, ridge) in [
        ("a", 100, true),
        ("b", 240, true),
        ("c", 360, true),
        ("d", 500, false),
    ] {
        doc["survey"]["levels"][id] = json!({"z": z, "name": id, "ridge": ridge});
    }
    doc["survey"]["levels"]
        .as_object_mut()
        .unwrap()
        .retain(|id, l| id.len() == 1 || l["z"] == 0.0);
    for (z, mm) in [(0, "2000"), (240, middle), (500, "1979")] {
        doc["survey"]["readings"][format!("l{z}")] = reading(json!({"of": "length", "z": z}), mm);
    }
    let p = plan(&doc);
    assert_eq!(ask(&p, "length.100").is_some(), asked, "{:?}", keys(&p));
    assert_eq!(ask(&p, "length.360").is_some(), asked);
}

/// Beside the centre line the tape passes what stands there, and is laid once.
#[test]
fn the_front_is_read_beside_the_wells() {
    let mut doc = with_wells(bay("full", |_, _| 700.0));
    let readings = doc["survey"]["readings"].as_object_mut().unwrap();
    readings.retain(|_, r| r["quantity"]["of"] != "length" || r["quantity"]["y"] == 0.0);
    let beside = |p: &Plan| -> Vec<String> {
        let all = p.asks.iter().filter(|a| a.key.starts_with("length.0."));
        all.map(|a| a.key.clone()).collect()
    };
    // 0.8 x 700 = 560 is behind the wells' faces at 500: 20 off them, to 50.
    assert_eq!(beside(&plan(&doc)), ["length.0.450", "length.0.-450"]);
    doc["survey"]["readings"]["front"] =
        reading(json!({"of": "length", "z": 0.0, "y": 300.0}), "2000");
    assert_eq!(beside(&plan(&doc)), ["length.0.-450"]);
}

/// A quick survey is content with fewer readings than a full one, and says so.
#[test]
fn quick_asks_for_less() {
    let needed = |protocol: &str| {
        let p = plan(&bay(protocol, |x, z| 700.0 - x / 50.0 - z / 20.0));
        p.asks
            .iter()
            .filter(|a| a.needed && a.stage == "survey")
            .count()
    };
    assert!(needed("quick") < needed("full"));
}

/// Of walls as straight as a board nothing more is worth measuring; of a wild one, a good deal.
#[test]
fn worth_depends_on_the_wall() {
    let offered = |y: fn(f64, f64) -> f64| {
        let p = plan(&bay("full", y));
        p.asks.iter().filter(|a| a.gain.is_some()).count()
    };
    let straight = offered(|x, _| 700.0 - x / 100.0);
    let wild = offered(|x, z| 650.0 + 60.0 * (x / 300.0).sin() * (1.0 + z / 300.0));
    assert!(straight < wild, "{straight} and {wild}");
}

/// What is offered says what it is worth, best first.
#[test]
fn gains_are_told() {
    let p = plan(&bay("full", |x, z| {
        650.0 + 40.0 * (x / 400.0).sin() + z / 10.0
    }));
    let gains: Vec<f64> = p
        .asks
        .iter()
        .filter_map(|a| a.gain.as_ref().map(|g| g.value))
        .collect();
    assert!(
        !gains.is_empty() && gains.iter().all(|g| *g > 0.5),
        "{gains:?}"
    );
    let (first, last) = (gains[0], gains[gains.len() - 1]);
    assert!(first > last, "{gains:?}");
}

/// Another way to the same number is named, and is no way once it was taken.
#[test]
fn other_ways_are_named() {
    let mut doc = bay("full", |_, _| 700.0);
    let readings = doc["survey"]["readings"].as_object_mut().unwrap();
    readings.remove("left650-0");
    let p = plan(&doc);
    let a = ask(&p, "wall.left.650.0").unwrap();
    assert_eq!(a.instead.len(), 1);
    assert_eq!(a.instead[0].quantity.key(), "width.650.0");
    doc["survey"]["readings"]["w"] = reading(json!({"of": "width", "x": 650.0, "z": 0.0}), "1400");
    let p = plan(&doc);
    assert!(ask(&p, "wall.left.650.0").is_none_or(|a| a.instead.is_empty()));
}
