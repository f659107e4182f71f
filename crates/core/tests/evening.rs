//! States and moves: where things lie by day and by night, in what order they are moved, what is in the way.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::furniture::built::{Board, Body, Built, Claim, FIXED, Motion, Pose};
use jigfit_core::furniture::{Field, KINDS, Kind, Site, Wanted, read};
use jigfit_core::geometry::region::Region;
use jigfit_core::mechanics::material::PartGrain;
use jigfit_core::plan::{Plan, solve_with};
use jigfit_core::problem::Problem;
use jigfit_core::project::Project;
use jigfit_core::project::module::Module;
use rstest::rstest;
use serde_json::{Map, Value, json};

/// A tray behind a flap: the flap turns down on its lower front edge, then the tray slides out over it. The tray
/// comes first in the list, so that the order has to be found.
struct Hatch;

impl Kind for Hatch {
    fn name(&self) -> &'static str {
        "hatch"
    }
    fn purpose(&self) -> &'static str {
        "To try moves on."
    }
    fn schema(&self) -> Value {
        json!({})
    }
    fn check(&self, _: &Project, _: &Module) -> Result<(), Problem> {
        Ok(())
    }
    fn complete(&self, choices: &Map<String, Value>) -> Map<String, Value> {
        choices.clone()
    }
    fn defaults(&self, _: &Site, wanted: &Wanted) -> Result<Module, Problem> {
        Ok(wanted.module("hatch", &json!({})))
    }
    fn form(&self, _: &Module, _: &Site) -> Vec<Field> {
        vec![]
    }
    fn claim(&self, _: &Module, _: &Site) -> Option<Claim> {
        None
    }
    fn work(&self, _: &Module, site: &Site) -> Option<Built> {
        let board = |id: &str, x: f64, shape: Region, body: &str| Board {
            name: id.into(),
            thickness: 18.0,
            grain: PartGrain::Across,
            body: body.into(),
            ..Board::new(id, "board", "H", shape, Pose::across(x))
        };
        let body = |id: &str, motion| Body {
            parent: None,
            id: format!("{}/{id}", site.id),
            name: id.into(),
            motion,
            eases: vec![],
            change: None,
        };
        Some(Built {
            boards: vec![
                board(
                    "tray",
                    500.0,
                    Region::rectangle(-100.0, 30.0, 100.0, 200.0),
                    "tray",
                ),
                board(
                    "flap",
                    560.0,
                    Region::rectangle(-120.0, 0.0, 120.0, 220.0),
                    "flap",
                ),
                board(
                    "still",
                    300.0,
                    Region::rectangle(-120.0, 0.0, 120.0, 220.0),
                    FIXED,
                ),
            ],
            bodies: vec![
                body(
                    "tray",
                    Motion::Slide {
                        along: [1.0, 0.0, 0.0],
                        travel: 300.0,
                    },
                ),
                body(
                    "flap",
                    Motion::Turn {
                        at: [578.0, 0.0, 0.0],
                        about: [0.0, 1.0, 0.0],
                        most: 90.0,
                    },
                ),
            ],
            ..Built::default()
        })
    }
}

fn hatch(open: &[(&str, &str, f64)]) -> Plan {
    let mut doc = box_van();
    doc["modules"] = json!({"h": {"kind": "hatch"}});
    for (state, body, share) in open {
        doc["states"][state]["open"][format!("h/{body}")] = json!(share);
    }
    for (order, id) in ["drive", "day", "night"].iter().enumerate() {
        doc["states"][id]["name"] = json!(id);
        doc["states"][id]["order"] = json!(order);
    }
    let kinds: Vec<&dyn Kind> = KINDS.iter().copied().chain([&Hatch as &dyn Kind]).collect();
    solve_with(&Project::read(doc).unwrap(), &kinds)
}

fn words(p: &Plan, i: usize) -> Vec<&str> {
    p.evening.moves[i]
        .steps
        .iter()
        .map(|s| s.words.as_str())
        .collect()
}

#[test]
fn with_everything_shut_there_is_nothing_to_do() {
    let p = hatch(&[]);
    let names: Vec<_> = p.evening.states.iter().map(|s| s.name.as_str()).collect();
    assert_eq!(names, ["drive", "day", "night"]);
    assert!(
        p.evening
            .moves
            .iter()
            .all(|m| m.steps.is_empty() && m.seconds == 0)
    );
    for b in &p.boards {
        assert_eq!(b.poses["drive"], b.poses["day"]);
        assert_eq!(b.poses["drive"], b.poses["night"]);
    }
    assert!(finding(&p, "evening.").is_none() && finding(&p, "open.").is_none());
}

/// By hand: the tray is 300 further forward; the flap, turned a quarter about its lower front edge (578, 0, 0), lies
/// 18 thick on the floor from 578 to 798.
#[test]
fn boards_lie_where_the_motion_takes_them() {
    let p = hatch(&[("night", "tray", 1.0), ("night", "flap", 1.0)]);
    let at = |id: &str, state: &str, corner: [f64; 3]| {
        let b = p.boards.iter().find(|b| b.id == format!("h/{id}")).unwrap();
        b.poses[state].at(corner[0], corner[1], corner[2])
    };
    let near = |a: [f64; 3], b: [f64; 3]| {
        assert!((0..3).all(|i| (a[i] - b[i]).abs() < 1e-9), "{a:?} {b:?}");
    };
    near(at("tray", "day", [0.0, 0.0, 0.0]), [500.0, -100.0, 30.0]);
    near(at("tray", "night", [0.0, 0.0, 0.0]), [800.0, -100.0, 30.0]);
    near(at("flap", "night", [0.0, 0.0, 0.0]), [578.0, -120.0, 18.0]);
    near(
        at("flap", "night", [240.0, 220.0, 18.0]),
        [798.0, 120.0, 0.0],
    );
    near(
        at("still", "night", [0.0, 0.0, 0.0]),
        at("still", "drive", [0.0; 3]),
    );
    // What is drawn of it: from above it covers what it lies on, from the side a bar 18 high.
    let night = &p.evening.states[2].scene;
    let flap = night.side.iter().find(|s| s.board == "h/flap").unwrap();
    let (x0, z0, x1, z1) = flap.outline.bounds();
    near([x0, z0, 0.0], [578.0, 0.0, 0.0]);
    near([x1, z1, 0.0], [798.0, 18.0, 0.0]);
    assert_eq!(night.above.len(), 2);
}

/// By hand: boards of one thickness weigh as their areas, 34,000, 52,800 and 52,800 mm2; their middles lie 509, 569 and
/// 309 in and 115, 110, 110 up.
#[test]
fn the_weight_lies_in_its_middle() {
    let p = hatch(&[]);
    let f = finding(&p, "weight").unwrap();
    let at: Vec<f64> = f
        .numbers
        .iter()
        .map(|s| s.figure.as_ref().unwrap().value)
        .collect();
    let by_hand = [
        (34_000.0 * 509.0 + 52_800.0 * (569.0 + 309.0)) / 139_600.0,
        0.0,
        (34_000.0 * 115.0 + 52_800.0 * 220.0) / 139_600.0,
    ];
    assert!(
        at.iter().zip(by_hand).all(|(a, b)| (a - b).abs() < 1e-6),
        "{at:?} {by_hand:?}"
    );
    assert!(
        f.sentence
            .contains("456 mm from the threshold, on the centre line, 111 mm over the floor"),
        "{}",
        f.sentence
    );
}

/// The flap first, then the tray; back again the other way round. Nothing is in the way.
#[test]
fn the_order_is_found() {
    let p = hatch(&[("day", "tray", 1.0), ("day", "flap", 1.0)]);
    assert_eq!(words(&p, 0), ["flap: open to 90°", "tray: out 300 mm"]);
    assert_eq!(words(&p, 1), ["push the tray in", "shut the flap"]);
    let steps = p.evening.moves.iter().flat_map(|m| &m.steps);
    assert!(steps.clone().all(|s| s.meets.is_none() && s.persons == 1));
    let seconds: u32 = steps.map(|s| s.seconds).sum();
    assert_eq!(
        seconds,
        p.evening.moves.iter().map(|m| m.seconds).sum::<u32>()
    );
    assert!(finding(&p, "evening.").is_none());
    // The first bead shows the flap down and the tray still in.
    let first = &p.evening.moves[0].steps[0].scene;
    assert_eq!(
        first
            .above
            .iter()
            .map(|s| s.board.as_str())
            .collect::<Vec<_>>(),
        ["h/flap"]
    );
}

/// By hand: from 518 to the flap at 560 are 42 mm; followed in steps of 20 it stops after the second.
#[test]
fn a_step_says_what_it_meets() {
    let p = hatch(&[("night", "tray", 1.0)]);
    let step = &p.evening.moves[1].steps[0];
    let flap = p.boards.iter().find(|b| b.id == "h/flap").unwrap();
    assert_eq!(
        step.meets.as_deref(),
        Some(format!("{} at 40 mm", flap.mark).as_str())
    );
    let f = finding(&p, "evening.night.h/tray").unwrap();
    assert_eq!(
        (f.level, f.state.as_deref()),
        (Severity::Stop, Some("night"))
    );
    assert_eq!(f.subject, "h/tray");
    assert!(
        f.sentence
            .starts_with("From day to night: tray: out 300 mm, but it meets"),
        "{}",
        f.sentence
    );
    let ids: Vec<_> = p.findings.iter().map(|f| &f.id).collect();
    assert_eq!(
        ids.iter().filter(|i| i.starts_with("evening.")).count(),
        1,
        "{ids:?}"
    );
}

/// A tray that is out by day over its flap, which is up by night: what shuts has no offer to leave it shut; what opens has.
#[test]
fn only_what_opens_can_be_left_shut() {
    let p = hatch(&[("day", "tray", 1.0)]);
    let opens = finding(&p, "evening.day.h/tray").unwrap();
    assert_eq!(opens.offers.len(), 1);
    let shuts = finding(&p, "evening.night.h/tray").unwrap();
    assert!(shuts.offers.is_empty());
}

/// Open on the road is a stop; the offer shuts it.
#[test]
fn everything_is_shut_on_the_road() {
    let mut doc = demo("moth");
    let body = jigfit_core::plan::solve(&project(&doc)).evening.states[0].bodies[0]
        .id
        .clone();
    doc["states"] = json!({"drive": {"name": "drive", "order": 1, "open": {&body: 0.5}}});
    let p = plan(&doc);
    let f = finding(&p, &format!("open.{body}")).unwrap();
    assert_eq!(
        (f.level, f.state.as_deref()),
        (Severity::Stop, Some("drive"))
    );
    let patch: json_patch::Patch = serde_json::from_value(f.offers[0].patch.clone()).unwrap();
    json_patch::patch(&mut doc, &patch).unwrap();
    assert!(finding(&plan(&doc), "open.").is_none());
}

#[rstest]
#[case(json!({}), "/states")]
#[case(json!({"drive": {"name": "drive", "open": {"a/b": 1.5}}}), "/states/drive/open/a~1b")]
#[case(json!({"drive": {"name": "drive", "open": {"a/b": -0.1}}}), "/states/drive/open/a~1b")]
#[case(json!({"drive": {"name": "dri\u{7}ve"}}), "/states/drive/name")]
#[case(json!({"drive": {"name": "drive", "opened": {}}}), "/states/drive/opened")]
fn bad_states_are_refused(#[case] states: Value, #[case] pointer: &str) {
    let mut doc = box_van();
    doc["states"] = states;
    let problem = read(doc).unwrap_err();
    assert_eq!(problem.pointer, pointer);
}

/// What is open but no longer there is no matter: furniture may be taken out.
#[test]
fn unknown_bodies_are_left_alone() {
    let mut doc = box_van();
    doc["states"] = json!({"drive": {"name": "drive", "open": {"gone/lid": 1.0}}});
    assert!(finding(&plan(&doc), "open.").is_none());
}

/// What a demo says is open in a state is there, and something moves from one state to the next.
#[rstest]
#[case("moth")]
#[case("moth-whole")]
#[case("wren")]
fn a_demo_moves_what_it_has(#[case] name: &str) {
    let project = project(&demo(name));
    let p = plan(&demo(name));
    let bodies: Vec<&str> = p
        .modules
        .iter()
        .flat_map(|m| &m.bodies)
        .map(|b| b.id.as_str())
        .collect();
    for (state, s) in &project.states {
        for id in s.open.keys() {
            assert!(bodies.contains(&id.as_str()), "{name}, {state}: {id}");
        }
    }
    assert!(p.evening.moves.iter().any(|m| !m.steps.is_empty()));
}

/// The supper table of *Kingfisher*'s variant comes down between the benches without touching them, and with the berth before
/// them that is one bed, from 20 mm in to within 60 mm of the front.
#[test]
fn the_supper_table_makes_the_bed() {
    let project = project(&demo("kingfisher"));
    let own = project.furnished(&project.variants["supper"]);
    let p = plan(&own.to_json().unwrap());
    let down = p.evening.moves.iter().flat_map(|m| &m.steps);
    let down: Vec<_> = down.filter(|s| s.body == "supper/top").collect();
    assert_eq!(down.len(), 1);
    assert_eq!(down[0].meets, None);
    let bed = p.findings.iter().find(|f| f.check == "bed").unwrap();
    assert_eq!(bed.level, Severity::Look, "{}", bed.sentence);
    let long = bed.numbers[0].figure.as_ref().unwrap().value;
    let front = p.survey.length.as_ref().unwrap().value;
    assert!(
        (front - 80.0..front - 20.0).contains(&long),
        "{long} of {front}"
    );
}
