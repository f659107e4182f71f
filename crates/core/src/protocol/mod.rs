//! What to measure, in which order, how to hold the tape, and what it is for. First what the plan
//! cannot do without, then what disagrees, then whatever takes most doubt off the panels' edges per
//! minute of work, then checks for readings that nothing checks yet.

mod around;
mod basic;
mod control;
mod words;
mod worth;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::project::survey::{Build, Form, Quantity, Survey, Thing, Thoroughness};
use crate::project::{Project, VehicleKind};
use crate::survey::model::Model;
use crate::survey::place::Place;
use crate::units::figure::Figure;

/// One number to be taken.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Ask {
    /// Stage to which it belongs.
    pub stage: String,
    /// Key, stable between plans.
    pub key: String,
    /// What to measure, in a few words.
    pub prompt: String,
    /// How to hold the tape.
    pub how: String,
    /// What the number decides.
    pub why: String,
    /// What the other readings lead one to expect.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub expected: Option<Expected>,
    /// Between these an answer is stored at once; outside them it is asked back once. Wider than
    /// `expected`, and there too where that is not shown.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub believed: Option<(Figure, Figure)>,
    /// What the answer is written to.
    pub target: Target,
    /// Where to hold which end.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub place: Option<Place>,
    /// The plan waits for it; otherwise it is a refinement.
    pub needed: bool,
    /// It was read before, and is to be read again.
    #[serde(default)]
    pub again: bool,
    /// Minutes it takes.
    #[serde(default)]
    pub minutes: f64,
    /// What it takes off the doubt of the panels' edges where it helps most.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub gain: Option<Figure>,
    /// Other measurements that would do.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub instead: Vec<Instead>,
}

/// Another way to the same number.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Instead {
    /// What to measure, in a few words.
    pub prompt: String,
    /// Of what.
    pub quantity: Quantity,
}

/// A value foreseen.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Expected {
    /// The value.
    pub figure: Figure,
    /// Plus or minus, mm.
    pub plus_minus: Figure,
}

/// Where an answer goes.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "to", rename_all = "snake_case")]
pub enum Target {
    /// A new reading of this quantity.
    Reading {
        /// Of what.
        quantity: Quantity,
        /// Whether one may have measured against something that gives.
        may_be_soft: bool,
    },
    /// A new station with a ridge, at the distance typed.
    Ridge {
        /// Its identifier.
        id: String,
    },
    /// A number of the document.
    Field {
        /// JSON Pointer.
        pointer: String,
    },
}

impl Ask {
    /// Asks for a number of the document that no reading stands behind.
    pub fn field(stage: &str, pointer: String, prompt: String, how: &str, why: &str) -> Ask {
        Ask {
            stage: stage.into(),
            key: pointer.clone(),
            prompt,
            how: how.into(),
            why: why.into(),
            expected: None,
            believed: None,
            target: Target::Field { pointer },
            place: None,
            needed: true,
            again: false,
            minutes: 0.5,
            gain: None,
            instead: vec![],
        }
    }
}

/// How far the survey is.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Progress {
    /// Largest doubt along the panels' edges, two standard deviations.
    pub edges: Option<Figure>,
    /// The doubt at which more measuring is not worth it.
    pub goal: Figure,
    /// Readings still wanted.
    pub left: usize,
    /// Minutes they take.
    pub minutes: f64,
    /// In a sentence.
    pub sentence: String,
    /// More measuring is not worth it.
    pub enough: bool,
    /// How many readings a full survey of such a vehicle takes, in a few words.
    pub full: String,
    /// How many a quick one takes.
    pub quick: String,
}

/// How many readings surveys of such a vehicle take, from and to: full, quick. From surveys of the
/// virtual vehicles (`make bench-survey`), not from a formula.
pub fn counts(project: &Project) -> [(usize, usize); 2] {
    let sloped = |t: &&Thing| t.form == Form::Sloped;
    let odd = project.survey.things.values().filter(sloped).count();
    let (mut full, mut quick) = match project.vehicle.kind {
        VehicleKind::Boat => ((52, 68), (27, 38)),
        _ => ((38, 52), (21, 30)),
    };
    full = (full.0 + 3 * odd, full.1 + 9 * odd);
    quick = (quick.0 + 3 * odd, quick.1 + 8 * odd);
    if project.survey.build == Build::High {
        full = (full.0, full.1 + 8);
    }
    [full, quick]
}

/// Doubt of a panel's edge at which a survey ends, mm (one standard deviation).
pub fn goal(of: Thoroughness) -> f64 {
    match of {
        Thoroughness::Quick => 3.1,
        Thoroughness::Full => 1.6,
    }
}

/// So many more are asked for where the doubt is still twice the goal: a hull bent in all ways.
const MORE: usize = 12;

/// How many refinements a survey has room for.
struct Room {
    usual: usize,
    most: usize,
}

/// How many things of odd form stand in it: neither boxes nor round.
fn odd(survey: &Survey) -> usize {
    let plain = |t: &&Thing| matches!(t.form, Form::Box | Form::Rounded);
    survey.things.values().filter(|t| !plain(t)).count()
}

/// A plain vehicle: no hull, bent in all ways, and nothing of odd form that hides its walls at some heights and not at others. The
/// walls of such a one tell of each other, and fewer readings do.
fn is_plain(project: &Project) -> bool {
    project.vehicle.kind != VehicleKind::Boat && odd(&project.survey) == 0
}

/// Readings after which refinements are no longer asked for, only offered.
pub fn budget(survey: &Survey) -> usize {
    let odd = odd(survey);
    match survey.protocol {
        Thoroughness::Quick => 34 + 4 * odd.min(3),
        // Things of odd form take some more.
        Thoroughness::Full => 60 + 6 * odd.min(3),
    }
}

/// All numbers of the survey still to be taken, the most needed first, and how far it is.
pub fn asks(project: &Project, model: &Model) -> (Vec<Ask>, Progress) {
    let p = words::Words::new(project, model);
    let mut all = basic::asks(&p);
    all.retain(|a| p.open(a));
    // Without a length there are no places to measure at.
    let begun = model.length(0.0).is_some();
    if !begun {
        all.truncate(6);
    }
    let mut edges = None;
    if begun {
        let mut first = control::again(&p);
        first.extend(all);
        all = first;
        if !all.iter().any(|a| a.needed) {
            let checks = control::unchecked(&p);
            let spent = project
                .survey
                .readings
                .values()
                .filter(|r| !r.aside)
                .count();
            // Walls come to check each other as more of them are read; the rest never does.
            let owed = checks
                .iter()
                .filter(|a| a.needed && !a.key.contains("wall") && !a.key.contains("width."));
            let owed = owed.count();
            let room = Room {
                usual: budget(&project.survey).saturating_sub(spent + owed),
                most: (budget(&project.survey) + MORE).saturating_sub(spent + owed),
            };
            let (more, worst) = worth::asks(&p, room);
            edges = worst;
            all.extend(more);
            all.extend(checks);
        } else {
            edges = worth::worst(&p);
        }
    }
    let mut seen = std::collections::BTreeSet::new();
    all.retain(|a| seen.insert(a.key.clone()));
    all.sort_by_key(|a| !a.needed);
    let progress = progress(&p, &all, edges);
    (all, progress)
}

fn progress(p: &words::Words, asks: &[Ask], edges: Option<f64>) -> Progress {
    let goal = 2.0 * goal(p.project.survey.protocol);
    let needed = || asks.iter().filter(|a| a.needed);
    let (left, minutes) = (needed().count(), needed().map(|a| a.minutes).sum::<f64>());
    let enough = left == 0 && edges.is_some_and(|e| 2.0 * e <= 1.4 * goal);
    let sentence = match edges {
        None => "Not enough yet to draw the bay.".to_string(),
        Some(e) if enough => format!(
            "All panel edges are known to ±{}. More measuring is not worth it.",
            p.w.say(2.0 * e)
        ),
        Some(e) if left == 0 => format!(
            "Panel edges are known to ±{}. The readings offered next would make them surer.",
            p.w.say(2.0 * e)
        ),
        Some(e) => format!(
            "Panel edges are known to ±{}; {left} more {} about {:.0} min.",
            p.w.say(2.0 * e),
            if left == 1 {
                "reading takes"
            } else {
                "readings take"
            },
            minutes.max(1.0)
        ),
    };
    let [full, quick] = counts(p.project);
    let words = |(from, to)| format!("{from} to {to} readings");
    Progress {
        edges: edges.map(|e| p.w.figure(2.0 * e)),
        goal: p.w.figure(goal),
        left,
        minutes,
        sentence,
        enough,
        full: words(full),
        quick: words(quick),
    }
}
