//! Which readings are wrong. Two judgements are kept apart: what direct checks prove (a repeat, wall
//! to wall, a length against its two ends), and what only the shape of the vehicle suggests. The
//! first are suspects and are left out; the second are asked again, for a dent may be real.

use std::collections::BTreeSet;

use super::field::{Equation, Field};
use super::signal::{Bend, Ridges, Signal};
use super::thin::{MOST, thin};
use super::witness::Fault;

/// Critical value of a standardised residual in a survey. Sharper than for a single network (3.29):
/// with some forty checks, one clean survey in two hundred or so is questioned in vain.
pub const CRITICAL: f64 = 3.9;
/// Standardised residuals correlated beyond this cannot be told apart by the checks.
const SAME: f64 = 0.98;
/// Redundancy below which a reading is not checked directly.
const UNCHECKED: f64 = 0.02;
/// A reading this many standard deviations from what its neighbours lead one to expect is asked again.
pub const SURPRISE: f64 = 3.29;
/// and by at least this much, mm: less is not worth a second reading (a choice).
const WORTH: f64 = 4.0;
/// A wall tells what to expect of it from this many readings on.
const TELLS: usize = 6;
/// Non-centrality for a test at 0.001 with power 0.80 (Baarda 1968, from memory).
pub const POWER: f64 = 4.13;

/// A wrong reading.
#[derive(Debug, Clone, PartialEq)]
pub struct Blunder {
    /// The reading.
    pub reading: String,
    /// Key of its quantity.
    pub key: String,
    /// What it says, mm.
    pub says: f64,
    /// What the others say in its place, mm.
    pub others: f64,
    /// Standardised residual.
    pub w: f64,
    /// Readings as suspect as this one: reading any of them again decides.
    pub alike: Vec<String>,
}

/// A reading that does not suit its neighbours.
#[derive(Debug, Clone, PartialEq)]
pub struct Surprise {
    /// The reading.
    pub reading: String,
    /// Key of its quantity.
    pub key: String,
    /// What it says, mm.
    pub says: f64,
    /// What its neighbours lead one to expect, mm.
    pub expected: f64,
}

/// The readings as judged.
#[derive(Debug, Clone, Default)]
pub struct Judged {
    /// Proved wrong, most suspect first.
    pub blunders: Vec<Blunder>,
    /// Read again.
    pub surprises: Vec<Surprise>,
    /// How each reading is checked by the others.
    pub control: Vec<Control>,
    /// The same of captured curves and boards held in place: which of their marks are wrong.
    pub bodies: Vec<Fault>,
}

/// How a reading is checked by the others.
#[derive(Debug, Clone, PartialEq)]
pub struct Control {
    /// The reading.
    pub reading: String,
    /// Key of its quantity.
    pub key: String,
    /// The smallest error in it that would be found, mm.
    pub found: f64,
    /// What the others lead one to expect less what it says, mm.
    pub off: f64,
    /// Standard deviation of that difference, mm.
    pub doubt: f64,
}

/// Judges all readings as long as `go_on` says so; the field returned is without the suspects. Of very
/// many readings the `newest` count by themselves.
pub fn judge(
    all: Vec<Equation>,
    newest: &BTreeSet<String>,
    ridges: &Ridges,
    go_on: &dyn Fn() -> bool,
) -> Option<(Field, Judged)> {
    let mut judged = Judged::default();
    let mut left = all;
    if left.len() > MOST {
        let thinned = thin(left, newest, ridges);
        left = thinned.equations;
        judged.blunders = thinned.blunders;
    }
    loop {
        if !go_on() {
            return None;
        }
        let direct = Field::new(left.clone(), ridges.clone(), Bend::FREE);
        let standings = direct.standings();
        let worst = (0..left.len())
            .filter(|i| standings[*i].redundancy > UNCHECKED)
            .filter(|i| standings[*i].w.abs() > CRITICAL)
            .max_by(|a, b| standings[*a].w.abs().total_cmp(&standings[*b].w.abs()));
        let Some(worst) = worst else { break };
        let correlations = direct.alike(worst);
        let group: Vec<usize> = (0..left.len())
            .filter(|j| standings[*j].redundancy > UNCHECKED && correlations[*j].abs() > SAME)
            .collect();
        let (out, alike) = settle(&left, ridges, &group, worst);
        for i in &out {
            let s = standings[*i];
            judged.blunders.push(Blunder {
                reading: left[*i].reading.clone(),
                key: left[*i].key.clone(),
                says: left[*i].value,
                others: left[*i].value + s.off,
                w: s.w,
                alike: if alike {
                    names(&left, &out, *i)
                } else {
                    vec![]
                },
            });
        }
        let gone: Vec<String> = out.iter().map(|i| left[*i].reading.clone()).collect();
        if alike {
            // Nothing tells which: all stay out but the one its neighbours like best, in which the
            // plan has to trust for now.
            left.retain(|e| !gone[1..].contains(&e.reading));
        } else {
            left.retain(|e| !gone.contains(&e.reading));
        }
    }
    let field = Field::fitted(left, ridges.clone());
    look(&field, &mut judged);
    Some((field, judged))
}

fn names(all: &[Equation], group: &[usize], except: usize) -> Vec<String> {
    group
        .iter()
        .filter(|j| **j != except)
        .map(|j| all[*j].reading.clone())
        .collect()
}

/// Of readings that only contradict each other, the one that its neighbours contradict too. If they
/// do not say clearly, the whole group, the best liked first, and `true`.
fn settle(all: &[Equation], ridges: &Ridges, group: &[usize], worst: usize) -> (Vec<usize>, bool) {
    if group.len() < 2 {
        return (vec![worst], false);
    }
    // Against the rest of the survey, each alone.
    let rest: Vec<Equation> = all
        .iter()
        .enumerate()
        .filter(|(i, _)| !group.contains(i))
        .map(|(_, e)| e.clone())
        .collect();
    let field = Field::fitted(rest, ridges.clone());
    let mut by: Vec<(f64, usize)> = group
        .iter()
        .map(|i| {
            let e = &all[*i];
            let (mm, sd) = field.at(&e.terms);
            ((e.value - mm).abs() / sd.hypot(e.sd), *i)
        })
        .collect();
    by.sort_by(|a, b| a.0.total_cmp(&b.0));
    let (first, last) = (by[by.len() - 2].0, by[by.len() - 1]);
    if last.0 > CRITICAL && first < 0.5 * last.0 && first < SURPRISE {
        return (vec![last.1], false);
    }
    (by.into_iter().map(|(_, i)| i).collect(), true)
}

/// What the shape of the vehicle says of the readings that are left.
fn look(field: &Field, judged: &mut Judged) {
    let standings = field.standings();
    let count = |key: &str| field.equations().iter().filter(|e| e.key == key).count();
    let of = |signal: Signal| {
        let own = |e: &&Equation| e.terms.iter().any(|t| t.signal == signal);
        field.equations().iter().filter(own).count()
    };
    let tells = |e: &Equation| {
        let mut walls = e.terms.iter().map(|t| t.signal);
        walls.all(|s| !matches!(s, Signal::Wall(_)) || of(s) >= TELLS)
    };
    for (e, s) in field.equations().iter().zip(&standings) {
        let doubt = e.sd / s.redundancy.max(1e-9).sqrt();
        judged.control.push(Control {
            reading: e.reading.clone(),
            key: e.key.clone(),
            found: POWER * doubt,
            off: s.off,
            doubt,
        });
        if e.of == 1 && s.w.abs() > SURPRISE && s.off.abs() > WORTH && count(&e.key) < 2 && tells(e)
        {
            judged.surprises.push(Surprise {
                reading: e.reading.clone(),
                key: e.key.clone(),
                says: e.value,
                expected: e.value + s.off,
            });
        }
    }
    let size = |s: &Surprise| (s.says - s.expected).abs();
    judged.surprises.sort_by(|a, b| size(b).total_cmp(&size(a)));
}
