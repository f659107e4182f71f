//! From readings to the bay: what is asked, what disagrees, what is between.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::project::survey::Side;
use jigfit_core::project::{Project, Units, VehicleKind};
use jigfit_core::protocol::Target;
use jigfit_core::survey::model::Model;
use rstest::rstest;
use serde_json::{Value, json};

fn apply(doc: &mut Value, patch: &Value) {
    let patch: json_patch::Patch = serde_json::from_value(patch.clone()).unwrap();
    json_patch::patch(doc, &patch).unwrap();
}

#[test]
fn an_empty_project_asks_for_the_length_first() {
    let empty = Project::start("New", VehicleKind::Van, Units::default());
    let plan = jigfit_core::plan::solve(&empty);
    assert_eq!(plan.asks[0].key, "length.0");
    assert!(plan.decks.is_empty() && plan.parts.is_empty() && plan.ladder.is_none());
    assert_eq!(plan.stages[0].state, "needs");
}

/// Answering what is asked, one after the other, leads to a finished survey for every kind of
/// vehicle in a bearable number of readings.
#[rstest]
fn the_protocol_ends(
    #[values(
        VehicleKind::Van,
        VehicleKind::Estate,
        VehicleKind::Pickup,
        VehicleKind::BoxTrailer,
        VehicleKind::VNoseTrailer,
        VehicleKind::Caravan,
        VehicleKind::Boat
    )]
    kind: VehicleKind,
    #[values("quick", "full")] protocol: &str,
) {
    let mut doc = Project::start("New", kind, Units::default())
        .to_json()
        .unwrap();
    doc["survey"]["protocol"] = json!(protocol);
    let mut taken = 0;
    loop {
        let plan = plan(&doc);
        let Some(ask) = plan.asks.iter().find(|a| a.stage == "survey" && a.needed) else {
            break;
        };
        let quantity = match &ask.target {
            Target::Reading { quantity, .. } => quantity,
            Target::Ridge { id } => {
                doc["survey"]["stations"][id] = json!({"x": 1500.0, "ridge": true});
                continue;
            }
            Target::Field { .. } => panic!(),
        };
        let key = ask.key.trim_start_matches("again.");
        let typed = match key {
            k if k.starts_with("length") => "1900",
            k if k.starts_with("wall") => "650",
            k if k.starts_with("width") => "1300",
            k if k.starts_with("thing") && k.ends_with("end") => "420",
            k if k.starts_with("thing") => "210",
            k if k.starts_with("roof") => "1150",
            _ => "1100",
        };
        doc["survey"]["readings"][format!("r{taken}")] =
            json!({"quantity": quantity, "typed": typed, "unit": "mm"});
        taken += 1;
        assert!(taken < 75, "still asking: {}", ask.prompt);
    }
    let usual = if protocol == "quick" {
        10..=24
    } else {
        // Flat walls that are alike ask for the least.
        26..=70
    };
    assert!(usual.contains(&taken), "{taken} readings");
    assert!(!plan(&doc).survey.bays.is_empty());
}

#[test]
fn what_cannot_be_reached_is_not_asked_again() {
    let mut doc = Project::start("New", VehicleKind::Van, Units::default())
        .to_json()
        .unwrap();
    doc["survey"]["skipped"]["length.0"] = json!("cannot be reached");
    assert_ne!(plan(&doc).asks[0].key, "length.0");
}

/// By hand: walls 700 at the floor and 600 at 400 up, so 650 at 200, where the vehicle is smooth.
#[test]
fn walls_run_on_between_heights() {
    let mut doc = box_van();
    let at_300 = |r: &Value| r["quantity"]["of"] == "wall" && r["quantity"]["z"] == 300.0;
    let readings = doc["survey"]["readings"].as_object_mut().unwrap();
    readings.retain(|_, r| !at_300(r));
    for x in [0.0, 1000.0, 2000.0] {
        doc["survey"]["readings"][format!("up{x}")] = reading(wall("left", x, 400.0), "600");
    }
    let model = Model::new(&project(&doc));
    let at = |x, z| model.wall(Side::Left, x, z).unwrap().0;
    assert!((at(0.0, 200.0) - 650.0).abs() < 0.2);
    // Past the highest measured the wall keeps its lean: 500 at 800 up, doubted by 1 mm for every 100 at
    // the least, and the model says so. A wall read at one height has no lean to keep.
    assert!((at(0.0, 800.0) - 500.0).abs() < 1.0);
    assert!(model.wall(Side::Left, 0.0, 800.0).unwrap().1 >= 4.0);
    assert!((model.wall(Side::Right, 0.0, 800.0).unwrap().0 - 700.0).abs() < 0.2);
    assert!(model.is_beyond(900.0));
    // The right side is not mirrored from the left, nor moved by it.
    assert!((model.wall(Side::Right, 0.0, 200.0).unwrap().0 - 700.0).abs() < 0.2);
}

/// A marked ridge is kept sharp: straight runs to either side. By hand: from 700 down to 600 over
/// the last 500 mm is 650 half way, and 700 right up to the ridge.
#[test]
fn a_ridge_stays_sharp() {
    let mut doc = box_van();
    for x in [250.0, 500.0, 750.0, 1250.0, 1500.0] {
        doc["survey"]["readings"][format!("more{x}")] = reading(wall("left", x, 0.0), "700");
    }
    doc["survey"]["readings"]["r09"] = reading(wall("left", 2000.0, 0.0), "600");
    let smooth = Model::new(&project(&doc));
    doc["survey"]["stations"]["bend"] = json!({"x": 1500, "side": "left", "ridge": true});
    let sharp = Model::new(&project(&doc));
    let off = |m: &Model, x: f64, truth: f64| (m.wall(Side::Left, x, 0.0).unwrap().0 - truth).abs();
    assert!(
        off(&sharp, 1400.0, 700.0) < 0.3,
        "{}",
        off(&sharp, 1400.0, 700.0)
    );
    assert!(
        off(&sharp, 1750.0, 650.0) < 0.8,
        "{}",
        off(&sharp, 1750.0, 650.0)
    );
    assert!(off(&smooth, 1400.0, 700.0) > 2.0);
}

/// Doubt is least at a reading and grows away from it.
#[test]
fn doubt_grows_between_readings() {
    let mut doc = box_van();
    // A wall that bends: neighbours then say less of each other.
    doc["survey"]["readings"]["r07"] = reading(wall("left", 1000.0, 0.0), "760");
    let model = Model::new(&project(&doc));
    let sd = |x: f64| model.wall(Side::Left, x, 0.0).unwrap().1;
    assert!(sd(0.0) <= 1.0 && sd(1000.0) <= 1.0);
    assert!(sd(250.0) > 2.0 * sd(0.0), "{} {}", sd(250.0), sd(0.0));
    assert!(sd(500.0) > sd(150.0));
}

/// Of two readings that contradict each other nothing tells which is wrong, unless their neighbours
/// do. 25 mm out on a straight wall: they do, and the reading is named and left out.
#[rstest]
#[case("725", true)]
#[case("702.5", false)]
fn repeats(#[case] typed: &str, #[case] disagrees: bool) {
    let mut doc = box_van();
    for x in [250.0, 500.0, 750.0, 1250.0, 1500.0] {
        doc["survey"]["readings"][format!("more{x}")] = reading(wall("left", x, 0.0), "700");
    }
    doc["survey"]["readings"]["again"] = reading(wall("left", 1000.0, 0.0), typed);
    let p = plan(&doc);
    assert_eq!(level(&p, "blunder.wall.left.1000.0").is_some(), disagrees);
    let model = Model::new(&project(&doc));
    assert!((model.wall(Side::Left, 1000.0, 0.0).unwrap().0 - 700.0).abs() < 1.5);
    if disagrees {
        assert_eq!(model.judged.blunders[0].reading, "again");
        // Setting it aside settles it.
        let f = finding(&p, "blunder.").unwrap();
        apply(&mut doc, &f.offers[0].patch);
        assert!(finding(&plan(&doc), "blunder.").is_none());
    }
}

/// Repeats with a noise of 1: the noise of their difference is 1.41, three times that 4.24.
#[rstest]
#[case("704.1", None)]
#[case("704.4", Some("2 times, 4.4 mm apart"))]
#[case("725", None)]
fn repeats_further_apart_than_their_noise(#[case] typed: &str, #[case] words: Option<&str>) {
    let mut doc = box_van();
    doc["survey"]["readings"]["again"] = reading(wall("left", 1000.0, 0.0), typed);
    let p = plan(&doc);
    let f = finding(&p, "apart.wall.left.1000.0");
    assert_eq!(f.map(|f| f.level), words.map(|_| Severity::Look));
    if let (Some(f), Some(words)) = (f, words) {
        assert!(f.sentence.contains(words), "{}", f.sentence);
    }
    // So far apart that one is wrong: that is said instead.
    let wrong = p.findings.iter().any(|f| f.id.starts_with("blunder."));
    assert_eq!(wrong, typed == "725");
}

/// Two readings of an opening, 25 mm apart: both are named, and a third is asked for, which decides.
#[test]
fn two_against_each_other_ask_for_a_third() {
    let mut doc = box_van();
    let height = json!({"of": "opening", "dim": "height"});
    doc["survey"]["readings"]["h2"] = reading(height.clone(), "1125");
    let p = plan(&doc);
    let f = finding(&p, "blunder.opening.height").unwrap();
    assert!(f.sentence.contains("Nothing tells"), "{}", f.sentence);
    assert_eq!(f.offers.len(), 2);
    let ask = &p.asks[0];
    assert!(
        ask.again && ask.key == "again.opening.height",
        "{}",
        ask.key
    );
    doc["survey"]["readings"]["h3"] = reading(height, "1100.5");
    let model = Model::new(&project(&doc));
    let named: Vec<_> = model
        .judged
        .blunders
        .iter()
        .map(|b| b.reading.as_str())
        .collect();
    assert_eq!(named, ["h2"]);
    assert!((model.opening().unwrap().1 - 1100.25).abs() < 0.01);
}

#[test]
fn of_three_readings_the_odd_one_is_named() {
    let mut doc = box_van();
    doc["survey"]["readings"]["b"] = reading(wall("left", 1000.0, 0.0), "700.5");
    doc["survey"]["readings"]["c"] = reading(wall("left", 1000.0, 0.0), "725");
    let p = plan(&doc);
    let f = finding(&p, "blunder.").unwrap();
    assert!(f.sentence.contains("725"), "{}", f.sentence);
    let path = f.offers[0].patch[0]["path"].as_str().unwrap();
    assert!(path.contains("/c/"));
}

/// 700 + 700 against a wall to wall of 1425: one of the three is out by 25. The width's neighbours
/// say nothing of it, but those of the walls do: the width is the wrong one.
#[test]
fn wall_to_wall_checks_left_plus_right() {
    let mut doc = box_van();
    doc["survey"]["readings"]["w"] = reading(json!({"of": "width", "x": 1000, "z": 0}), "1403");
    assert!(finding(&plan(&doc), "blunder.").is_none());
    doc["survey"]["readings"]["w"]["typed"] = json!("1425");
    assert_eq!(level(&plan(&doc), "blunder."), Some(Severity::Stop));
}

/// Left and right exchanged at one station of an uneven bay: the repair is offered, and repairs.
#[test]
fn exchanged_sides_are_offered_back() {
    let mut doc = box_van();
    for (i, x) in [0.0, 250.0, 500.0, 750.0, 1000.0, 1250.0, 1500.0, 2000.0]
        .iter()
        .enumerate()
    {
        doc["survey"]["readings"][format!("l{i}")] = reading(wall("left", *x, 0.0), "740");
        doc["survey"]["readings"][format!("r{i}x")] = reading(wall("right", *x, 0.0), "680");
    }
    for key in ["r05", "r06", "r07", "r08", "r09", "r10"] {
        doc["survey"]["readings"]
            .as_object_mut()
            .unwrap()
            .remove(key);
    }
    assert!(finding(&plan(&doc), "swapped.").is_none());
    doc["survey"]["readings"]["l3"]["typed"] = json!("680");
    doc["survey"]["readings"]["r3x"]["typed"] = json!("740");
    let p = plan(&doc);
    let f = finding(&p, "swapped.wall.left.750.0").unwrap();
    apply(&mut doc, &f.offers[0].patch);
    let p = plan(&doc);
    assert!(finding(&p, "swapped.").is_none() && finding(&p, "again.").is_none());
}

/// 27.5 typed in centimetres where inches were read (698.5 mm): the unit is offered.
#[test]
fn inches_for_centimetres_are_offered_back() {
    let mut doc = box_van();
    for x in [250.0, 500.0, 750.0, 1250.0, 1500.0] {
        doc["survey"]["readings"][format!("more{x}")] = reading(wall("left", x, 0.0), "700");
    }
    doc["survey"]["readings"]["r07"] =
        json!({"quantity": wall("left", 1000.0, 0.0), "typed": "27.5", "unit": "cm"});
    let p = plan(&doc);
    let f = finding(&p, "again.wall.left.1000.0").unwrap();
    let offer = f
        .offers
        .iter()
        .find(|o| o.label.contains("inches"))
        .unwrap();
    assert_eq!(offer.patch[0]["value"], "in");
}

/// Noise falls with the root of the number of readings (law of the mean), the more so as the rest of
/// the wall has its say.
#[test]
fn repeats_make_a_reading_surer() {
    let mut doc = box_van();
    for i in 0..3 {
        doc["survey"]["readings"][format!("again{i}")] = reading(wall("left", 1000.0, 0.0), "700");
    }
    let model = Model::new(&project(&doc));
    let sd = model.wall(Side::Left, 1000.0, 0.0).unwrap().1;
    assert!(sd <= 0.5 + 1e-9 && sd > 0.3, "{sd}");
}

/// A height taken down from a roof tube at 1250: 150 down is 1100. Soft points are worth less.
#[test]
fn heights_hang_from_their_datum() {
    let mut doc = box_van();
    doc["survey"]["datums"]["tube"] = json!({"name": "tube", "kind": "roof_tube", "z": 1250});
    doc["survey"]["readings"]["r03"]["typed"] = json!("150");
    doc["survey"]["readings"]["r03"]["datum"] = json!("tube");
    let model = Model::new(&project(&doc));
    assert!((model.opening().unwrap().1 - 1100.0).abs() < 0.01);
    doc["survey"]["readings"]["r03"]["datum"] = json!("none");
    let refused = jigfit_core::furniture::read(doc).unwrap_err();
    assert_eq!(refused.pointer, "/survey/readings/r03/datum");
}

/// A vehicle on a slope: the level says 12 mm in a metre on the threshold and 17 on the floor, so the
/// floor rises 5 in a metre against the vehicle. Without the reading on the threshold, nothing is said.
#[test]
fn a_level_is_converted_to_the_vehicle() {
    let mut doc = box_van();
    doc["survey"]["readings"]["s1"] = reading(json!({"of": "slope", "x": 1000}), "17");
    let alone = Model::new(&project(&doc)).floor(1000.0);
    assert!(alone.abs() < 0.1, "{alone}");
    doc["survey"]["readings"]["s2"] = reading(json!({"of": "slope"}), "12");
    let rise = Model::new(&project(&doc)).floor(1000.0);
    assert!((rise - 5.0).abs() < 0.7, "{rise}");
}

/// A diagonal by hand: 3-4-5 from the right corner: 1200 along and 1600 across (800 + 800) is 2000.
#[test]
fn diagonals_check_both_walls() {
    let mut doc = box_van();
    for x in [0.0, 400.0, 800.0, 1200.0, 1600.0, 2000.0] {
        for side in ["left", "right"] {
            doc["survey"]["readings"][format!("{side}{x}")] = reading(wall(side, x, 0.0), "800");
        }
    }
    for key in ["r05", "r06", "r07", "r08", "r09", "r10"] {
        doc["survey"]["readings"]
            .as_object_mut()
            .unwrap()
            .remove(key);
    }
    let diagonal = json!({"of": "diagonal", "side": "left", "x": 1200, "z": 0});
    doc["survey"]["readings"]["d"] = reading(diagonal.clone(), "2000");
    let model = Model::new(&project(&doc));
    assert!(model.judged.blunders.is_empty() && model.judged.surprises.is_empty());
    doc["survey"]["readings"]["d"] = reading(diagonal, "2025");
    let model = Model::new(&project(&doc));
    let surprised = model.judged.surprises.iter().any(|s| s.reading == "d");
    assert!(surprised || model.judged.blunders.iter().any(|b| b.reading == "d"));
}

#[test]
fn a_lining_is_soft() {
    let mut doc = box_van();
    doc["survey"]["readings"]["r04"]["soft"] = json!(true);
    let p = plan(&doc);
    assert_eq!(level(&p, "soft-roof"), Some(Severity::Look));
    assert!(p.ladder.unwrap().soft);
}

#[test]
fn inches_and_millimetres_meet() {
    let mut doc = box_van();
    // 27 9/16 in is 700.0875 mm.
    doc["survey"]["readings"]["again"] =
        json!({"quantity": wall("left", 1000.0, 0.0), "typed": "27 9/16", "unit": "in"});
    let p = plan(&doc);
    assert!(finding(&p, "blunder.").is_none());
    let mark = p
        .survey
        .marks
        .iter()
        .find(|m| m.key == "wall.left.1000.0")
        .unwrap();
    assert_eq!(mark.readings.len(), 2);
    assert!((mark.figure.value - 700.04375).abs() < 1e-9);
}

#[test]
fn crossed_walls_and_lone_readings_do_not_break_the_plan() {
    let mut doc = box_van();
    doc["survey"]["readings"]["r05"]["typed"] = json!("0");
    doc["survey"]["readings"]["r06"]["typed"] = json!("0");
    let _ = plan(&doc);
    let upper = (12..=17).map(|i| format!("r{i}"));
    for key in ["r07", "r08", "r09", "r10"]
        .map(String::from)
        .into_iter()
        .chain(upper)
    {
        doc["survey"]["readings"][&key]["typed"] = json!("0");
    }
    let p = plan(&doc);
    assert!(p.decks.is_empty());
}

/// A fuse box under the deck must stay reachable: told, and the offer cuts the deck out round it. A belt
/// anchor is a safety part and says so.
#[test]
fn what_must_be_reached_is_told() {
    let mut doc = box_van();
    doc["survey"]["things"]["fuse"] = json!({"kind": "power_box", "side": "left", "name": "fuse box", "form": "free", "cover": "reach"});
    doc["survey"]["things"]["belt"] =
        json!({"kind": "belt", "side": "right", "name": "belt anchor"});
    for (dim, typed) in [
        ("start", "800"),
        ("length", "200"),
        ("face", "300"),
        ("far", "450"),
        ("height", "120"),
    ] {
        doc["survey"]["readings"][format!("fuse-{dim}")] = reading(thing("fuse", dim), typed);
    }
    let p = plan(&doc);
    let f = finding(&p, "cover.deck.fuse")
        .unwrap_or_else(|| panic!("{:?}", p.findings.iter().map(|f| &f.id).collect::<Vec<_>>()));
    assert!(
        finding(&p, "thing-caution.belt")
            .unwrap()
            .sentence
            .contains("vehicle maker")
    );
    let before = p.decks[0].area;
    apply(&mut doc, &f.offers[0].patch);
    let p = plan(&doc);
    assert!(finding(&p, "cover.").is_none());
    // By hand: 200 x 150 and a clearance round it come off.
    let off = before - p.decks[0].area;
    assert!(off > 200.0 * 150.0 && off < 215.0 * 165.0, "{off}");
}

/// Bolts seen from both faces, by hand: the underside is measured from a jacking point at (400, -300)
/// and turned by a quarter.
#[test]
fn landmarks_tie_the_underside() {
    let mut doc = box_van();
    for (id, inside, outside) in [
        ("a", [400.0, -300.0], [0.0, 0.0]),
        ("b", [400.0, 200.0], [500.0, 0.0]),
        ("c", [100.0, 200.0], [500.0, 300.0]),
    ] {
        doc["survey"]["landmarks"][id] = json!({"name": id, "inside": inside, "outside": outside});
    }
    let tie = plan(&doc).survey.tie.unwrap();
    assert!((tie.deg - 90.0).abs() < 1e-9 && tie.worst < 1e-9);
    assert!((tie.shift[0] - 400.0).abs() < 1e-9 && (tie.shift[1] + 300.0).abs() < 1e-9);
    // One of them mistaken by 30 mm does not agree with the others.
    doc["survey"]["landmarks"]["c"]["inside"][0] = json!(130.0);
    assert!(plan(&doc).survey.tie.unwrap().worst > 8.0);
    // One alone ties nothing.
    for id in ["b", "c"] {
        doc["survey"]["landmarks"]
            .as_object_mut()
            .unwrap()
            .remove(id);
    }
    assert!(plan(&doc).survey.tie.is_none());
}

/// A well with sloping sides is smaller higher up; an arched one is gone at its top. By hand half way.
#[test]
fn things_have_form() {
    let mut doc = with_wells(box_van());
    doc["modules"]["deck"]["choices"]["underside"] = json!(200.0);
    let area = |doc: &Value| plan(doc).decks[0].area;
    let upright = area(&doc);
    doc["survey"]["things"]["wl"]["form"] = json!("sloped");
    for (dim, typed) in [("start", "700"), ("end", "1200"), ("face", "600")] {
        let mut q = thing("wl", dim);
        q["z"] = json!(400);
        doc["survey"]["readings"][format!("top-{dim}")] = reading(q, typed);
    }
    // At 200 of 400: 100 shorter and 50 further out.
    let gained = area(&doc) - upright;
    let by_hand = 700.0 * 200.0 - 600.0 * 150.0;
    assert!((gained - by_hand).abs() < 1500.0, "{gained}");
    doc["survey"]["things"]["wl"]["form"] = json!("rounded");
    let arched = area(&doc) - upright;
    assert!(arched > 0.0);
}

/// Thousands of readings (a fine scan) are thinned, not refused, and still say where the wall is.
#[test]
fn a_flood_of_readings_is_thinned() {
    let mut doc = box_van();
    for i in 0..1500 {
        let x = f64::from(i) + 300.0;
        doc["survey"]["readings"][format!("s{i}")] = reading(wall("left", x, 300.0), "702");
    }
    let model = Model::new(&project(&doc));
    assert!(model.field.equations().len() <= 600);
    assert!((model.wall(Side::Left, 900.0, 300.0).unwrap().0 - 702.0).abs() < 0.5);
}

/// What a reading is said to be worth is what it turns out to be worth: the doubt left does not depend
/// on what it says. Foreseen against a model that has the reading.
#[test]
fn worth_is_foreseen_rightly() {
    let mut doc = box_van();
    doc["survey"]["readings"]["r07"] = reading(wall("left", 1000.0, 0.0), "740");
    let before = Model::new(&project(&doc));
    let term = |x: f64| {
        vec![jigfit_core::survey::signal::Term::new(
            1.0,
            jigfit_core::survey::signal::Signal::Wall(Side::Left),
            x,
            0.0,
        )]
    };
    let (targets, points) = ([term(400.0), term(1700.0)], [term(500.0), term(1500.0)]);
    let mut outlook = before.field.outlook(&targets, &points);
    outlook.take(0, 1.0);
    outlook.take(1, 1.0);
    let mut equations = before.field.equations().to_vec();
    for (i, p) in points.iter().enumerate() {
        equations.push(jigfit_core::survey::field::Equation {
            reading: format!("new{i}"),
            key: format!("new{i}"),
            value: 700.0,
            sd: 1.0,
            terms: p.clone(),
            of: 1,
            body: false,
        });
    }
    let ridges = jigfit_core::survey::observe::ridges(&project(&doc));
    let after = jigfit_core::survey::field::Field::new(equations, ridges, before.field.bend());
    let worst = targets.iter().map(|t| after.at(t).1).fold(0.0, f64::max);
    assert!(
        (outlook.worst() - worst).abs() < 1e-3 * worst,
        "{} {worst}",
        outlook.worst()
    );
}
