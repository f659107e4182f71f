//! Readings to be taken again: those that disagree, and those that nothing checks.

use std::collections::BTreeSet;

use super::Ask;
use super::basic::ALIKE;
use super::words::Words;
use crate::project::survey::{Quantity, Side, ThingDim, Thoroughness};
use crate::survey::blunder::Control;
use crate::survey::witness::Origin;

/// An error larger than this would have to be found, mm (Baarda's reliability, a choice of size).
pub const FOUND: f64 = 15.0;

/// A reading suits its neighbours when they expect it to within this, mm, and it lies this near to that, mm:
/// a slip of 25 mm would leave it further off in 97 of 100 (choices).
const SUITS: f64 = 9.0;
const SUITED: f64 = 8.0;
/// Things of one kind that begin this near to each other stand opposite, mm.
const OPPOSITE: f64 = 60.0;

/// What disagrees, in the order of how badly.
pub fn again(p: &Words) -> Vec<Ask> {
    let judged = &p.model.judged;
    let mut out = Vec::new();
    for b in judged.blunders.iter().filter(|b| !b.alike.is_empty()) {
        let why = format!(
            "{} does not agree with another reading, and nothing tells which is wrong. A new reading decides.",
            p.w.say(b.says)
        );
        out.extend(repeat(p, &b.key, why));
    }
    for s in &judged.surprises {
        let why = format!(
            "It says {}; its neighbours lead one to expect {}. A dent, or a slip of the tape?",
            p.w.say(s.says),
            p.w.say(s.expected)
        );
        out.extend(repeat(p, &s.key, why));
    }
    out.extend(held(p));
    // Asked at most twice more: then the disagreement is the user's to settle.
    out.retain(|a| count(p, &a.key) < 4);
    out
}

/// Nothing would show a slip in it: neither a check, nor that it suits its neighbours so well that a slip of
/// an inch cannot be in it.
fn is_loose(c: &Control) -> bool {
    c.found > FOUND && !(c.doubt <= SUITS && c.off.abs() <= SUITED)
}

/// Readings in which an error would go unnoticed; in a quick survey that is accepted.
pub fn unchecked(p: &Words) -> Vec<Ask> {
    let needed = p.project.survey.protocol == Thoroughness::Full;
    let mut out: Vec<Ask> = Vec::new();
    let open: BTreeSet<&str> = p
        .model
        .judged
        .control
        .iter()
        .filter(|c| is_loose(c))
        .map(|c| c.key.as_str())
        .collect();
    let loose = |key: &str| open.contains(key);
    for key in open.iter().copied() {
        let Some(k) = p.model.known.get(key) else {
            continue;
        };
        if alike(p, &k.quantity) {
            continue;
        }
        let check = match &k.quantity {
            Quantity::Wall { side, x, z } => {
                let far = Quantity::Wall {
                    side: side.other(),
                    x: *x,
                    z: *z,
                }
                .key();
                let across = Quantity::Width { x: *x, z: *z };
                // Across checks both at once; it is asked from the left one.
                (loose(&far)
                    && p.model.get(&across).is_none()
                    && !Side::BOTH
                        .iter()
                        .any(|s| super::basic::blocked(p, *s, *x, *z)))
                .then_some(across)
            }
            Quantity::Thing {
                id,
                dim: ThingDim::Start | ThingDim::Length | ThingDim::End,
                z,
            } => {
                let third = [ThingDim::Start, ThingDim::Length, ThingDim::End];
                let third = third.map(|dim| Quantity::Thing {
                    id: id.clone(),
                    dim,
                    z: *z,
                });
                third.into_iter().find(|q| p.model.get(q).is_none())
            }
            _ => None,
        };
        let ask = match check {
            Some(q) if !p.project.survey.skipped.contains_key(&q.key()) => {
                let mut ask = p.ask(q, needed);
                ask.why = "Checks two readings at once: a slip in any of the three shows.".into();
                Some(ask)
            }
            _ => repeat(
                p,
                key,
                "Nothing checks this reading yet. Lay the tape afresh and read it again.".into(),
            )
            .map(|a| Ask { needed, ..a }),
        };
        if let Some(a) = ask
            && !out.iter().any(|o| o.key == a.key)
        {
            out.push(a);
        }
    }
    out
}

/// The same dimension of the thing opposite agrees: a slip in either would show.
fn alike(p: &Words, q: &Quantity) -> bool {
    let Quantity::Thing { id, dim, z } = q else {
        return false;
    };
    let things = &p.project.survey.things;
    let Some(own) = things.get(id) else {
        return false;
    };
    let number = |id: &str, dim, z| p.model.number(id, dim, z).map(|n| n.0);
    let opposite = things
        .iter()
        .filter(|(_, t)| t.kind == own.kind && t.side != own.side);
    let near = |a: Option<f64>, b: Option<f64>, mm: f64| {
        a.zip(b).is_some_and(|(a, b)| (a - b).abs() <= mm)
    };
    // Tops are read a little under each thing's own height.
    let theirs = |id: &str| -> Vec<Option<f64>> {
        match z {
            None => vec![None],
            Some(_) => p.model.thing_heights(id).into_iter().map(Some).collect(),
        }
    };
    opposite
        .filter(|(other, _)| {
            let start = |id: &str| number(id, ThingDim::Start, None);
            near(start(id), start(other), OPPOSITE)
        })
        .any(|(other, _)| {
            theirs(other).into_iter().any(|at| {
                let same_height = near(at.or(Some(0.0)), z.or(Some(0.0)), OPPOSITE / 3.0);
                same_height && near(number(id, *dim, *z), number(other, *dim, at), ALIKE)
            })
        })
}

fn count(p: &Words, key: &str) -> usize {
    p.model.known.get(key).map_or(0, |k| k.readings.len())
}

/// Where a board held in place says something else than the survey, the wall is read.
fn held(p: &Words) -> Vec<Ask> {
    let judged = p.model.judged.bodies.iter();
    let asks = judged.filter_map(|b| {
        let fit = (b.origin == Origin::Fit).then(|| p.project.fits.get(&b.id))??;
        let place = fit.places.get(b.mark.as_ref()?)?;
        let at = fit.pose.at(place.at[0], place.at[1], 0.0).map(f64::round);
        let quantity = Quantity::Wall {
            side: place.of.side()?,
            x: at[0],
            z: at[2],
        };
        let mut ask = p.ask(quantity, true);
        ask.why = format!(
            "{} held in place says {} here, the survey {}. A reading decides.",
            fit.mark,
            p.w.say(b.says),
            p.w.say(b.others)
        );
        p.open(&ask).then_some(ask)
    });
    asks.collect()
}

fn repeat(p: &Words, key: &str, why: String) -> Option<Ask> {
    let k = p.model.known.get(key)?;
    let skipped = format!("again.{key}");
    if p.project.survey.skipped.contains_key(&skipped) {
        return None;
    }
    let mut ask = p.ask(k.quantity.clone(), true);
    ask.prompt = format!(
        "Again: {}",
        crate::survey::drawing::what(p.project, &k.quantity)
    );
    ask.key = skipped;
    ask.why = why;
    ask.again = true;
    ask.minutes = 0.5;
    // Expecting the value just read would only invite reading it again the same way.
    ask.expected = None;
    Some(ask)
}
