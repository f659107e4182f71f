//! From what a reading is a reading of to its equation over the signals.

use std::collections::{BTreeMap, BTreeSet};

use super::field::{Equation, Field};
use super::known::value;
use super::signal::{Ridges, Signal, Term};
use crate::project::Project;
use crate::project::survey::{DatumKind, Quantity, Reading, Side, ThingDim};

/// Half the length of a level, mm: its slope is the floor's over that span.
const LEVEL_HALF: f64 = 300.0;

/// The single numbers of a survey, by key.
#[derive(Debug, Clone, Default)]
pub struct Numbers(BTreeMap<String, usize>);

impl Numbers {
    /// The signal of the number of that key.
    pub fn signal(&self, key: &str) -> Option<Signal> {
        self.0.get(key).map(|i| Signal::Number(*i))
    }

    /// The number of that key as a term; a new one if there was none.
    pub(super) fn of(&mut self, key: String) -> Term {
        let next = self.0.len();
        let i = *self.0.entry(key).or_insert(next);
        Term::new(1.0, Signal::Number(i), 0.0, 0.0)
    }
}

/// Where a wall is, by rough guess: what readings are linearised at.
pub type Guess<'a> = &'a dyn Fn(Side, f64, f64) -> Option<f64>;

/// Ridges as the user marked them.
pub fn ridges(project: &Project) -> Ridges {
    let s = &project.survey;
    let beside = |r: &Reading| matches!(r.quantity, Quantity::Length { y, .. } if y != 0.0);
    Ridges {
        square: !s.readings.values().any(|r| !r.aside && beside(r)),
        bowed: false,
        apart: project.vehicle.kind == crate::project::VehicleKind::Boat,
        x: s.stations
            .values()
            .filter(|s| s.ridge)
            .map(|s| (s.side, s.x))
            .collect(),
        z: s.levels
            .values()
            .filter(|l| l.ridge)
            .map(|l| (l.side, l.z))
            .collect(),
    }
}

/// So many of the newest readings count by themselves, however many there are.
const NEWEST: usize = 16;

/// The readings taken last.
pub fn newest(project: &Project) -> BTreeSet<String> {
    let counted = project.survey.readings.iter().filter(|(_, r)| !r.aside);
    let mut all: Vec<(&String, &String)> = counted
        .filter(|(_, r)| !r.when.is_empty())
        .map(|(id, r)| (&r.when, id))
        .collect();
    all.sort();
    let last = all.into_iter().rev().take(NEWEST);
    last.map(|(_, id)| id.clone()).collect()
}

/// The equations of all readings that count, and the numbers they name.
pub fn equations(project: &Project, first: Option<&Field>) -> (Vec<Equation>, Numbers) {
    let mut numbers = Numbers::default();
    let guess = |side, x, z| {
        let field = first?;
        Some(field.value(&[Term::new(1.0, Signal::Wall(side), x, z)]))
    };
    let mut out = Vec::new();
    for (id, r) in project.survey.readings.iter().filter(|(_, r)| !r.aside) {
        let Some((mm, sd)) = value(project, r) else {
            continue;
        };
        let (mm, sd) = from_datum(project, r, mm, sd);
        if let Some((terms, mm)) = terms(project, &r.quantity, mm, &mut numbers, &guess) {
            out.push(Equation {
                reading: id.clone(),
                key: r.quantity.key(),
                value: mm,
                sd,
                terms,
                of: 1,
                body: false,
            });
        }
    }
    (out, numbers)
}

/// A height taken from a datum, turned into one over the floor.
pub fn from_datum(project: &Project, r: &Reading, mm: f64, sd: f64) -> (f64, f64) {
    let Some(d) = r.datum.as_ref().and_then(|d| project.survey.datums.get(d)) else {
        return (mm, sd);
    };
    let sd = if d.hard {
        sd
    } else {
        sd.hypot(super::known::SOFT_SD)
    };
    match d.kind {
        DatumKind::RoofTube => (d.z - mm, sd),
        _ => (d.z + mm, sd),
    }
}

/// Terms of a quantity, and the value they add up to when it reads `mm`.
pub fn terms(
    project: &Project,
    q: &Quantity,
    mm: f64,
    numbers: &mut Numbers,
    guess: Guess,
) -> Option<(Vec<Term>, f64)> {
    let one = |signal, u, v| (vec![Term::new(1.0, signal, u, v)], mm);
    Some(match q {
        Quantity::Length { z, y } => one(Signal::Front, *y, *z),
        Quantity::Wall { side, x, z } => one(Signal::Wall(*side), *x, *z),
        Quantity::Floor { x, y } => one(Signal::Floor, *x, *y),
        Quantity::Roof { x, y } => one(Signal::Roof, *x, *y),
        Quantity::Width { x, z } => (
            Side::BOTH
                .map(|s| Term::new(1.0, Signal::Wall(s), *x, *z))
                .to_vec(),
            mm,
        ),
        Quantity::Diagonal { side, x, z } => {
            let other = side.other();
            let (far, near) = (guess(*side, *x, *z)?, guess(other, 0.0, *z)?);
            let across = far + near;
            let length = across.hypot(*x);
            let share = across / length;
            // d = |(x, far + near)|, straight in its two walls near the guess.
            (
                vec![
                    Term::new(share, Signal::Wall(*side), *x, *z),
                    Term::new(share, Signal::Wall(other), 0.0, *z),
                ],
                mm - length + share * across,
            )
        }
        Quantity::Slope { x: None } => (vec![numbers.of("slope.datum".into())], mm),
        Quantity::Slope { x: Some(x) } => {
            let per = 1000.0 / (2.0 * LEVEL_HALF);
            let datum = numbers.of("slope.datum".into());
            (
                vec![
                    Term::new(per, Signal::Floor, x + LEVEL_HALF, 0.0),
                    Term::new(-per, Signal::Floor, x - LEVEL_HALF, 0.0),
                    datum,
                ],
                mm,
            )
        }
        Quantity::Opening { .. } => (vec![numbers.of(q.key())], mm),
        Quantity::Thing { id, dim, z } => thing(project, id, *dim, *z, mm, numbers)?,
    })
}

fn thing(
    project: &Project,
    id: &str,
    dim: ThingDim,
    z: Option<f64>,
    mm: f64,
    numbers: &mut Numbers,
) -> Option<(Vec<Term>, f64)> {
    let key = |dim| {
        Quantity::Thing {
            id: id.into(),
            dim,
            z,
        }
        .key()
    };
    let minus = |t: Term| Term { by: -t.by, ..t };
    Some(match dim {
        // Ends are the numbers; a length is their difference.
        ThingDim::Length => {
            let start = numbers.of(key(ThingDim::Start));
            (vec![numbers.of(key(ThingDim::End)), minus(start)], mm)
        }
        // A width hangs on the wall behind it, half way along.
        ThingDim::Width => {
            let side = project.survey.things.get(id)?.side;
            let face = numbers.of(key(ThingDim::Face));
            let x = middle(project, id)?;
            let wall = Term::new(1.0, Signal::Wall(side), x, z.unwrap_or(0.0));
            (vec![wall, minus(face)], mm)
        }
        other => (vec![numbers.of(key(other))], mm),
    })
}

/// Half way along a thing, from its readings as typed.
fn middle(project: &Project, id: &str) -> Option<f64> {
    let read = |dim| {
        let q = Quantity::thing(id, dim);
        let mut all = project.survey.readings.values();
        let r = all.find(|r| !r.aside && r.quantity == q)?;
        Some(value(project, r)?.0)
    };
    let start = read(ThingDim::Start)?;
    let end = read(ThingDim::End).or_else(|| Some(start + read(ThingDim::Length)?))?;
    Some((start + end) / 2.0)
}
