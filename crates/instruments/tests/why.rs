//! Every explanation in a plan comes from the arithmetic that made the number: its lines give its total, and they
//! end at surveyed places, things, choices and named constants that say the same elsewhere.
use crate::common::*;
use jigfit_core::plan::{Plan, solve};
use jigfit_core::project::Project;
use jigfit_core::project::survey::Side;
use jigfit_core::survey::model::Model;
use jigfit_core::units::figure::{Step, Why};
use jigfit_core::units::value::{Source, Surface};
use rand::SeedableRng;
use rstest::rstest;
use serde_json::Value;

/// Lines give their totals to this, mm.
const EXACT: f64 = 0.001;
/// The constants that explanations may end at.
const RULES: [&str; 49] = [
    "marking",
    "deck/joint",
    "deck/rail",
    "deck/bar",
    "drawer/groove",
    "drawer/rim",
    "drawer/least-overlap",
    "drawer/gap",
    "drawer/strip",
    "drawer/play",
    "drawer/below",
    "drawer/back-gap",
    "drawer/between",
    "table/strip",
    "lid/gap",
    "box_seat/follow",
    "table/gap",
    "shelves/post",
    "shelves/cleat",
    "shelves/play",
    "shelves/round",
    "drawer/low-front",
    "comb/gap",
    "pull_bed/play",
    "pull_bed/rail",
    "pull_bed/glide",
    "pull_bed/leg",
    "deck/hatch-gap",
    "deck/leaf-cut",
    "deck/leaf-inset",
    "deck/leaf-middle",
    "kitchen/fingers",
    "kitchen/slide",
    "kitchen/sides",
    "carcass/groove",
    "carcass/slat",
    "plinth/toes",
    "foot/width",
    "frame/rim",
    "hinge/leaf",
    "deck/lip",
    "deck/cleat",
    "table/low",
    "table/rail",
    "kitchen/bottom",
    "slide_seat/play",
    "slide_seat/rail",
    "slide_seat/glide",
    "slide_seat/keel",
];

struct Reader<'a> {
    doc: Value,
    model: &'a Model,
    what: String,
    leaves: usize,
}

impl Reader<'_> {
    /// What the lines come to.
    fn sum(&mut self, steps: &[Step]) -> f64 {
        steps
            .iter()
            .map(|s| {
                let figure = s.figure.as_ref().unwrap().value;
                let one = if s.steps.is_empty() {
                    let one = figure / s.times;
                    self.leaf(s.source.as_ref().unwrap(), one);
                    one
                } else {
                    assert!(s.source.is_none());
                    self.sum(&s.steps)
                };
                let own = s.times * one;
                assert!(
                    (own - figure).abs() < EXACT,
                    "{}: {} is {own}, not {figure}",
                    self.what,
                    s.label
                );
                match s.op.as_str() {
                    "-" => -figure,
                    "" | "+" => figure,
                    other => panic!("{other}"),
                }
            })
            .sum()
    }

    /// A leaf says what its source says.
    fn leaf(&mut self, source: &Source, mm: f64) {
        self.leaves += 1;
        let model = self.model;
        let place = |surface: &Surface, at: &[f64; 2]| match surface {
            Surface::LeftWall => model.wall(Side::Left, at[0], at[1]).unwrap(),
            Surface::RightWall => model.wall(Side::Right, at[0], at[1]).unwrap(),
            Surface::Front => model.front(at[0], at[1]).unwrap(),
            Surface::Floor => (model.floor_at(at[0], at[1]), 0.0),
            Surface::Roof => (model.lowest_roof().unwrap().mm, 0.0),
        };
        let (says, within) = match source {
            // Between two places the floor under a frame is taken as straight.
            Source::Place {
                surface: Surface::Floor,
                at,
            } => (place(&Surface::Floor, at).0, 0.5),
            Source::Place { surface, at } => (place(surface, at).0, EXACT),
            Source::Doubt {
                surface: Surface::Front,
                at,
            } => {
                // The front shares its largest doubt.
                let own = place(&Surface::Front, at).1;
                assert!(mm > 0.0 && mm < own + 1.0, "{}: {mm} {own}", self.what);
                return;
            }
            Source::Doubt { surface, at } => (place(surface, at).1, EXACT),
            Source::Thing { id, .. } => {
                assert!(model.things().any(|o| o.id == *id), "{}: {id}", self.what);
                return;
            }
            Source::Choice { pointer } => {
                let found = self.doc.pointer(pointer);
                let found = found.unwrap_or_else(|| panic!("{}: nothing at {pointer}", self.what));
                (found.as_f64().unwrap_or(0.0), 1e-9)
            }
            Source::Rule { name } => {
                assert!(RULES.contains(&name.as_str()), "{}: {name}", self.what);
                return;
            }
        };
        assert!(
            (says - mm).abs() <= within,
            "{}: {source:?} says {says}, not {mm}",
            self.what
        );
    }
}

/// Checks all explanations of a plan; how many leaves they end at.
fn explained(project: &Project, plan: &Plan, what: &str) -> usize {
    let model = Model::new(project);
    let mut reader = Reader {
        doc: project.to_json().unwrap(),
        model: &model,
        what: String::new(),
        leaves: 0,
    };
    let mut check = |why: &Why, at: &str| {
        reader.what = format!("{what}, {at}: {}", why.about);
        let sum = reader.sum(&why.steps);
        assert!(
            (sum - why.total.value).abs() < EXACT,
            "{}: {sum} {:?}",
            reader.what,
            why.total
        );
    };
    for part in &plan.parts {
        for why in &part.why {
            check(why, &part.id);
            // The marked number of the card.
            if ["length", "width", "height"].contains(&why.about.as_str()) {
                let card = [part.w.value, part.h.value];
                let said = card.iter().any(|v| (v - why.total.value).abs() < EXACT);
                assert!(said, "{what}, {}: {} {card:?}", part.id, why.about);
            }
        }
    }
    for d in &plan.decks {
        check(&d.clearance, &d.id);
    }
    if let Some(ladder) = &plan.ladder {
        for i in &ladder.items {
            let about = "height it needs".into();
            check(
                &Why {
                    about,
                    total: i.needs.clone(),
                    steps: i.why.clone(),
                },
                &i.id,
            );
        }
        for p in ladder.people.iter().filter(|p| p.spare.is_some()) {
            let about = "air over the head".into();
            let total = p.spare.clone().unwrap();
            check(
                &Why {
                    about,
                    total,
                    steps: p.why.clone(),
                },
                &p.id,
            );
        }
    }
    reader.leaves
}

#[rstest]
#[case("moth", 0)]
#[case("kingfisher", 0)]
#[case("wren", 0)]
#[case("moth-whole", 0)]
fn the_demos_explain_themselves(#[case] name: &str, #[case] silent: usize) {
    let path = format!("{}/../server/demo/{name}.json", env!("CARGO_MANIFEST_DIR"));
    let doc = serde_json::from_slice(&std::fs::read(path).unwrap()).unwrap();
    let project = jigfit_core::furniture::read(doc).unwrap();
    let plan = solve(&project);
    let leaves = explained(&project, &plan, name);
    assert!(leaves > 50, "{leaves}");
    // Parts of which no number says how it was made.
    let without = plan.parts.iter().filter(|p| p.why.is_empty());
    let without: Vec<&str> = without.map(|p| p.id.as_str()).collect();
    assert!(without.len() <= silent, "{without:?}");
}

/// Two hundred random projects: random furniture in vehicles of known shape.
#[rstest]
fn random_projects_explain_themselves(#[values(0, 1, 2, 3, 4, 5, 6, 7, 8)] i: usize) {
    let v = vehicle(ALL[i]);
    let base = surveyed(&v, 20 + i as u64);
    let model = Model::new(&base);
    let mut rng = rand_chacha::ChaCha8Rng::seed_from_u64(i as u64);
    let mut explained_ones = 0;
    for n in 0..30 {
        let mut p = base.clone();
        let kinds = [
            ["deck", "drawer"],
            ["box_seat", "deck"],
            ["drawer", "box_seat"],
        ][n % 3];
        let mut added = 0;
        for kind in kinds {
            let sets = sets(kind, &mut rng);
            added += usize::from(add(&mut p, &model, kind, &sets));
        }
        if added == 0 {
            continue;
        }
        explained_ones += 1;
        let leaves = explained(&p, &solve(&p), &format!("{} {n}", v.name));
        assert!(leaves > 4);
    }
    // Nine vehicles: two hundred in all.
    assert!(explained_ones >= 23, "{explained_ones}");
}

/// Both lengths of every part of every kind, at its own choices and at random ones, are explained but for a few: those that a
/// curve cut short, or other furniture beside them.
#[rstest]
fn both_lengths_of_a_part_are_explained(
    #[values(
        "box_seat",
        "drawer",
        "deck",
        "cabinet",
        "shelves",
        "pull_out",
        "bench",
        "locker",
        "table",
        "pull_bed",
        "kitchen",
        "slide_seat",
        "bought"
    )]
    kind: &str,
) {
    let mut rng = rand_chacha::ChaCha8Rng::seed_from_u64(77);
    let (mut all, mut silent) = (0, std::collections::BTreeMap::<String, usize>::new());
    for name in ALL {
        let v = vehicle(name);
        let base = surveyed(&v, 31);
        let model = Model::new(&base);
        for n in 0..3 {
            let mut p = base.clone();
            let sets = if n == 0 { vec![] } else { sets(kind, &mut rng) };
            if !add(&mut p, &model, kind, &sets) {
                continue;
            }
            let plan = solve(&p);
            if n > 0 {
                explained(&p, &plan, &format!("{} {sets:?}", v.name));
            }
            for part in &plan.parts {
                let whole = part
                    .why
                    .iter()
                    .filter(|w| ["length", "width", "height"].contains(&w.about.as_str()));
                let lacking = 2 - whole.count().min(2);
                all += 2;
                if lacking > 0 {
                    let role = part.name.split(", ").nth(1).unwrap_or(&part.name);
                    *silent.entry(role.to_string()).or_default() += lacking;
                }
            }
        }
    }
    let lacking: usize = silent.values().sum();
    // What ends beside other furniture, before a front that comes in, or over a curve, is told by the drawing only.
    let most = match kind {
        "deck" => 90,
        "box_seat" | "locker" => 25,
        _ => 0,
    };
    assert!(
        lacking * 1000 <= all * most,
        "{lacking} of {all}: {silent:?}"
    );
}

/// What can be measured on the finished thing is named by its board and what it is (`deck/panel-1/length`): each once, and the same when a
/// reading comes out another way.
#[rstest]
fn what_can_be_measured_keeps_its_name(#[values("moth", "kingfisher", "moth-whole")] name: &str) {
    let path = format!("{}/../server/demo/{name}.json", env!("CARGO_MANIFEST_DIR"));
    let doc: serde_json::Value = serde_json::from_slice(&std::fs::read(path).unwrap()).unwrap();
    let names = |doc: &serde_json::Value| -> Vec<String> {
        let plan = solve(&jigfit_core::furniture::read(doc.clone()).unwrap());
        let all = plan.parts.iter().flat_map(|p| {
            let own = ["length", "width", "height"];
            let whole = p
                .why
                .iter()
                .filter(move |w| own.contains(&w.about.as_str()));
            whole.flat_map(|w| p.boards.iter().map(move |b| format!("{b}/{}", w.about)))
        });
        all.collect()
    };
    let before = names(&doc);
    assert!(before.len() > 20, "{}", before.len());
    let once: std::collections::BTreeSet<&String> = before.iter().collect();
    assert_eq!(once.len(), before.len());
    let mut other = doc.clone();
    let readings = other["survey"]["readings"].as_object_mut().unwrap();
    let typed = |r: &serde_json::Value| r["typed"].as_str()?.parse::<f64>().ok();
    let mut plain = readings.values_mut().filter(|r| typed(r).is_some());
    let wall = plain.find(|r| r["quantity"]["of"] == "wall").unwrap();
    wall["typed"] = format!("{}", typed(wall).unwrap() - 1.0).into();
    let after: std::collections::BTreeSet<String> = names(&other).into_iter().collect();
    assert_eq!(after, before.into_iter().collect());
}
