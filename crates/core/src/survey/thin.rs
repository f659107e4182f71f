//! Surveys of very many readings: the work of solving grows with the cube of their number, so a scan is
//! thinned evenly before it is solved. Repeats become one, neighbours on a wall become their mean, with
//! the weight of all of them. Before that, and after, each reading is judged by itself, so that a slip
//! does not hide in a mean.

use std::collections::{BTreeMap, BTreeSet};

use super::blunder::{Blunder, CRITICAL};
use super::field::{Equation, Field};
use super::signal::{Ridges, Signal, Term};

/// The most readings solved together.
pub const MOST: usize = 180;
/// Neighbours are put together in leaves no smaller than this, mm.
const LEAF: f64 = 40.0;
/// A leaf longer than this is drawn together to two places instead of one, so that the bow of the wall in
/// it counts, mm.
const BOWED: f64 = 110.0;
/// The mean of many is never surer than this, mm: a scan is placed by hand (a choice).
const SURE: f64 = 0.3;
/// Among thousands of readings a sharper limit keeps false alarms as rare as among fifty.
const SHARPER: f64 = 4.6;
/// Less than this is no slip worth naming, mm (a choice).
const WORTH: f64 = 6.0;
/// From this many repeats on, their median tells which of them is wrong.
const MEDIAN: usize = 3;
/// Heights count double: walls bend more upwards than along.
const UP: f64 = 2.0;
/// Deviations from the median absolute one, for normal noise (1 / 0.6745).
const NORMAL: f64 = 1.4826;

/// A leaf: its equation, and the readings in it.
#[derive(Debug, Clone)]
struct Leaf {
    whole: Equation,
    of: Vec<Equation>,
}

/// Thinned readings and what judging them one by one found.
pub struct Thinned {
    /// At most about `MOST`.
    pub equations: Vec<Equation>,
    /// Wrong ones.
    pub blunders: Vec<Blunder>,
}

/// Thins what is too much. `newest` always count by themselves.
pub fn thin(all: Vec<Equation>, newest: &BTreeSet<String>, ridges: &Ridges) -> Thinned {
    let (once, mut blunders) = repeats(all, newest);
    let mut leaves = leaves(once, newest);
    if leaves.iter().any(|l| l.of.len() > 1) {
        // A leaf with a slip in it is drawn aside with all that is in it: first everything doubtful goes,
        // then what suits the rest comes back.
        let doubtful: BTreeSet<String> = {
            let field = Field::fitted(wholes(&leaves), ridges.clone());
            let off = lone(&field, &leaves, CRITICAL / 2.0);
            off.into_iter().map(|b| b.reading).collect()
        };
        if !doubtful.is_empty() {
            let kept = without(&leaves, &doubtful);
            let field = Field::fitted(wholes(&kept), ridges.clone());
            let wrong = lone(&field, &leaves, SHARPER);
            let names: BTreeSet<String> = wrong.iter().map(|b| b.reading.clone()).collect();
            leaves = without(&leaves, &names);
            blunders.extend(wrong);
        }
    }
    blunders.sort_by(|a, b| b.w.abs().total_cmp(&a.w.abs()));
    Thinned {
        equations: wholes(&leaves),
        blunders,
    }
}

fn wholes(leaves: &[Leaf]) -> Vec<Equation> {
    leaves.iter().map(|l| l.whole.clone()).collect()
}

fn median(mut v: Vec<f64>) -> f64 {
    v.sort_by(f64::total_cmp);
    let n = v.len();
    if n.is_multiple_of(2) {
        (v[n / 2 - 1] + v[n / 2]) / 2.0
    } else {
        v[n / 2]
    }
}

/// Repeats as one equation each, those that their group's median shows to be wrong taken out. Two that
/// do not agree stay two: nothing tells which is wrong.
fn repeats(all: Vec<Equation>, newest: &BTreeSet<String>) -> (Vec<Equation>, Vec<Blunder>) {
    let mut groups: BTreeMap<String, Vec<Equation>> = BTreeMap::new();
    for e in all {
        groups.entry(e.key.clone()).or_default().push(e);
    }
    let mut out = Vec::new();
    let mut blunders = Vec::new();
    for (key, mut group) in groups {
        if group.len() >= MEDIAN {
            let middle = median(group.iter().map(|e| e.value).collect());
            // The median of n is surer than one reading by sqrt(2 n / pi).
            let share = std::f64::consts::FRAC_PI_2 / group.len() as f64;
            let noise = |e: &Equation| e.sd * (1.0 + share).sqrt();
            group.retain(|e| {
                let w = (middle - e.value) / noise(e);
                if w.abs() > CRITICAL {
                    blunders.push(Blunder {
                        reading: e.reading.clone(),
                        key: key.clone(),
                        says: e.value,
                        others: middle,
                        w,
                        alike: vec![],
                    });
                }
                w.abs() <= CRITICAL
            });
        }
        let apart = group.len() == 2
            && (group[0].value - group[1].value).abs() > CRITICAL * group[0].sd.hypot(group[1].sd);
        let own = |e: &Equation| apart || newest.contains(&e.reading);
        let (single, rest): (Vec<_>, Vec<_>) = group.into_iter().partition(own);
        out.extend(single);
        out.extend(mean(&rest));
    }
    (out, blunders)
}

/// Equations of the same thing as one: mean and weight of them all.
fn mean(group: &[Equation]) -> Option<Equation> {
    let first = group.first()?;
    let weight: f64 = group.iter().map(|e| e.sd.powi(-2)).sum();
    let sum: f64 = group.iter().map(|e| e.value * e.sd.powi(-2)).sum();
    Some(Equation {
        value: sum / weight,
        sd: weight.powf(-0.5).max(SURE.min(first.sd)),
        of: group.iter().map(|e| e.of).sum(),
        ..first.clone()
    })
}

fn place(e: &Equation) -> Option<(Signal, f64, f64)> {
    match e.terms.as_slice() {
        [
            Term {
                by: 1.0,
                signal: Signal::Wall(side),
                u,
                v,
            },
        ] => Some((Signal::Wall(*side), *u, UP * v)),
        _ => None,
    }
}

/// Wall readings in leaves: the largest is halved until there are as many as may be.
fn leaves(all: Vec<Equation>, newest: &BTreeSet<String>) -> Vec<Leaf> {
    let (walls, single): (Vec<_>, Vec<_>) = all
        .into_iter()
        .partition(|e| place(e).is_some() && !newest.contains(&e.reading));
    let mut open: Vec<Vec<Equation>> = Vec::new();
    for e in walls {
        let side = e.terms[0].signal;
        match open.iter_mut().find(|l| l[0].terms[0].signal == side) {
            Some(list) => list.push(e),
            None => open.push(vec![e]),
        }
    }
    let room = MOST.saturating_sub(single.len()).max(MOST / 2);
    let mut done: Vec<Vec<Equation>> = Vec::new();
    while done.len() + open.len() < room {
        let sizes = open.iter().map(|l| extent(l).0);
        let largest = sizes.enumerate().max_by(|a, b| a.1.total_cmp(&b.1));
        let Some((i, size)) = largest else { break };
        let list = open.swap_remove(i);
        if list.len() < 2 || size < LEAF {
            done.push(list);
            continue;
        }
        let (_, along, middle) = extent(&list);
        let at = |e: &Equation| place(e).map_or(0.0, |p| if along { p.1 } else { p.2 });
        let (low, high): (Vec<_>, Vec<_>) = list.into_iter().partition(|e| at(e) <= middle);
        open.extend([low, high].into_iter().filter(|l| !l.is_empty()));
    }
    done.extend(open);
    let leaf = |of: Vec<Equation>| {
        Some(Leaf {
            whole: whole(&of)?,
            of,
        })
    };
    let single = single.into_iter().map(|e| Leaf {
        whole: e.clone(),
        of: vec![e],
    });
    single.chain(done.into_iter().filter_map(leaf)).collect()
}

/// How far a leaf reaches, whether most along the bay, and the middle of that.
fn extent(list: &[Equation]) -> (f64, bool, f64) {
    let span = |pick: fn((Signal, f64, f64)) -> f64| {
        let all = list.iter().filter_map(place).map(pick);
        all.fold((f64::INFINITY, f64::NEG_INFINITY), |(a, b), v| {
            (a.min(v), b.max(v))
        })
    };
    let (x, z) = (span(|p| p.1), span(|p| p.2));
    let (dx, dz) = (x.1 - x.0, z.1 - z.0);
    if dx >= dz {
        (dx, true, (x.0 + x.1) / 2.0)
    } else {
        (dz, false, (z.0 + z.1) / 2.0)
    }
}

/// The mean of a leaf as one equation: its places drawn together to a few, each with its share.
fn whole(of: &[Equation]) -> Option<Equation> {
    let one = mean(of)?;
    if of.len() < 2 {
        return Some(one);
    }
    let weight = |e: &Equation| e.sd.powi(-2);
    let all: f64 = of.iter().map(weight).sum();
    let (size, along, _) = extent(of);
    let mut sorted: Vec<&Equation> = of.iter().collect();
    let at = |e: &Equation| place(e).map_or(0.0, |p| if along { p.1 } else { p.2 });
    sorted.sort_by(|a, b| at(a).total_cmp(&at(b)));
    let each = sorted.len().div_ceil(if size > BOWED { 2 } else { 1 });
    let terms = sorted.chunks(each).map(|chunk| {
        let share: f64 = chunk.iter().map(|e| weight(e)).sum();
        let mean = |pick: fn(&Term) -> f64| -> f64 {
            chunk
                .iter()
                .map(|e| pick(&e.terms[0]) * weight(e))
                .sum::<f64>()
                / share
        };
        Term::new(
            share / all,
            sorted[0].terms[0].signal,
            mean(|t| t.u),
            mean(|t| t.v),
        )
    });
    Some(Equation {
        terms: terms.collect(),
        ..one
    })
}

fn without(leaves: &[Leaf], names: &BTreeSet<String>) -> Vec<Leaf> {
    let kept = leaves.iter().filter_map(|l| {
        if !l.of.iter().any(|e| names.contains(&e.reading)) {
            return Some(l.clone());
        }
        let of: Vec<Equation> =
            l.of.iter()
                .filter(|e| !names.contains(&e.reading))
                .cloned()
                .collect();
        Some(Leaf {
            whole: whole(&of)?,
            of,
        })
    });
    kept.collect()
}

/// Readings of leaves that are further from the solution than `limit` times their doubt.
fn lone(field: &Field, leaves: &[Leaf], limit: f64) -> Vec<Blunder> {
    /// An even share of so many tells how well the field follows the wall.
    const SHARE: usize = 150;
    let each = leaves.iter().filter(|l| place(&l.of[0]).is_some());
    let each: Vec<&Equation> = each.flat_map(|l| &l.of).collect();
    let judge = |e: &Equation| {
        let (mm, sd) = field.at(&e.terms);
        (mm, (mm - e.value) / sd.hypot(e.sd))
    };
    // The course between leaves is not exactly what the field makes of it: that is no slip.
    let step = each.len().div_ceil(SHARE).max(1);
    let share = each.iter().step_by(step).map(|e| judge(e).1.abs());
    let scale = (NORMAL * median(share.chain([0.0]).collect())).max(1.0);
    // The doubt is only worked out where the value alone is far enough off.
    let far = each
        .into_iter()
        .filter(|e| (field.value(&e.terms) - e.value).abs() > WORTH);
    far.map(|e| (e, judge(e)))
        .filter(|(_, (_, w))| w.abs() > limit * scale)
        .map(|(e, (mm, w))| Blunder {
            reading: e.reading.clone(),
            key: e.key.clone(),
            says: e.value,
            others: mm,
            w,
            alike: vec![],
        })
        .collect()
}
