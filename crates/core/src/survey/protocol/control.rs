//! Readings to be taken again: those that disagree, and those that nothing checks.

use super::Ask;
use super::words::Words;
use crate::project::survey::{Quantity, Side, ThingDim, Thoroughness};

/// An error larger than this would have to be found, mm (Baarda's reliability, a choice of size).
pub const FOUND: f64 = 15.0;

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
    // Asked at most twice more: then the disagreement is the user's to settle.
    out.retain(|a| count(p, &a.key) < 4);
    out
}

/// Readings in which an error would go unnoticed; in a quick survey that is accepted.
pub fn unchecked(p: &Words) -> Vec<Ask> {
    let needed = p.project.survey.protocol == Thoroughness::Full;
    let mut out: Vec<Ask> = Vec::new();
    let loose = |key: &str| {
        let mut own = p.model.judged.control.iter().filter(|(_, k, _)| k == key);
        own.any(|(_, _, found)| *found > FOUND)
    };
    for (_, key, found) in &p.model.judged.control {
        if *found <= FOUND || out.iter().any(|a| a.key == *key) {
            continue;
        }
        let Some(k) = p.model.known.get(key) else {
            continue;
        };
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

fn count(p: &Words, key: &str) -> usize {
    p.model.known.get(key).map_or(0, |k| k.readings.len())
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
