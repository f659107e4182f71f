//! What a further reading is worth: by how much it would take down the doubt along the edges of the
//! panels, per minute. Found without taking it: the doubt left does not depend on what it will say.

use super::words::{Words, minutes};
use super::{Ask, Room, goal};
use crate::project::VehicleKind;
use crate::project::survey::{Build, Quantity, Side, Thoroughness};
use crate::survey::signal::{Signal, Term};

/// Places at which a panel's edge is looked at along each wall.
const ALONG: usize = 13;
/// The most further readings proposed at once.
const MOST: usize = 12;
/// A gap shorter than this is not halved, mm.
const GAP: f64 = 120.0;

/// Readings are needed until no doubt is this many times the goal (a choice).
const STOP: f64 = 1.2;

/// What is not needed is offered where it takes so much off the doubt, mm (one standard deviation; a choice).
const WORTH: f64 = 0.25;

/// Of more stations than this, an even share is looked at.
const STATIONS: usize = 24;

/// A place on a wall.
type Place = (Side, f64, f64);

/// The heights of panels: the decks' own, or while none is chosen the measured levels.
fn heights(p: &Words) -> Vec<f64> {
    let own: Vec<f64> = p
        .project
        .decks()
        .into_iter()
        .filter_map(|(_, d)| Some([d.underside?, d.underside? + d.thickness]))
        .flatten()
        .collect();
    if !p.project.survey.heights.is_empty() {
        return p.project.survey.heights.clone();
    }
    if own.is_empty() {
        return levels(p, 100.0);
    }
    // With something up high the walls above the bed are wanted too.
    let mut own = own;
    if p.project.survey.build == Build::High {
        let bed = own.iter().copied().fold(0.0, f64::max);
        own.extend(levels(p, 140.0).into_iter().filter(|z| *z > bed));
    }
    own
}

/// The measured heights, and half way between them where they are further apart than `gap`.
fn levels(p: &Words, gap: f64) -> Vec<f64> {
    let mut zs: Vec<f64> = p.levels.iter().map(|l| l.z).collect();
    zs.sort_by(f64::total_cmp);
    let between = zs.windows(2).filter(|w| w[1] - w[0] > gap);
    let halves: Vec<f64> = between
        .map(|w| ((w[0] + w[1]) / 20.0).round() * 10.0)
        .collect();
    zs.extend(halves);
    zs.sort_by(f64::total_cmp);
    zs
}

fn edges(p: &Words) -> Vec<Place> {
    let mut out = Vec::new();
    for z in heights(p) {
        let Some(length) = p.model.length(z) else {
            continue;
        };
        let highest = |s| p.model.levels(s).iter().copied().fold(0.0_f64, f64::max);
        for side in Side::BOTH {
            // Above the highest reading the wall is held; that is a finding of its own.
            let z = z.min(highest(side));
            for i in 0..ALONG {
                let x = length * (i as f64 + 0.5) / ALONG as f64;
                if !super::basic::blocked(p, side, x, z) {
                    out.push((side, x, z));
                }
            }
        }
    }
    out
}

fn term((side, x, z): &Place) -> Vec<Term> {
    vec![Term::new(1.0, Signal::Wall(*side), *x, *z)]
}

/// Largest standard deviation along the panels' edges, mm.
pub fn worst(p: &Words) -> Option<f64> {
    if Side::BOTH.iter().any(|s| p.model.stations(*s).is_empty()) {
        return None;
    }
    let all = edges(p);
    let sds = all.iter().map(|e| p.model.at(&term(e)).1);
    sds.reduce(f64::max)
}

/// The readings worth taking, best first, and the largest doubt now, mm.
///
/// They are needed while the survey has `room` for them beside the checks it still owes.
pub fn asks(p: &Words, room: Room) -> (Vec<Ask>, Option<f64>) {
    let Some(now) = worst(p) else {
        return (vec![], None);
    };
    let goal = goal(p.project.survey.protocol);
    // Nothing is gained below the goal.
    if now <= goal {
        return (vec![], Some(now));
    }
    let full = p.project.survey.protocol == Thoroughness::Full;
    let hull = p.project.vehicle.kind == VehicleKind::Boat;
    let plain = super::is_plain(p.project);
    let named = !p.project.survey.heights.is_empty();
    // Up high a hull is less sure than lower down: where a height is named there, all of the goal is asked for.
    let stop = if hull && named { goal } else { STOP * goal };
    let edges = edges(p);
    let targets: Vec<Vec<Term>> = edges.iter().map(term).collect();
    let places = candidates(p);
    let points: Vec<Vec<Term>> = places.iter().map(term).collect();
    let mut field = p.model.field.outlook(&targets, &points);
    let noise = p.model.sd;
    let mut out = Vec::new();
    while out.len() < MOST {
        let before = field.worst();
        // In a plain vehicle what is asked for at all counts first, else all of the goal does.
        let enough = if before > stop && plain { stop } else { goal };
        // Doubt within what is asked for counts for nothing.
        let best = (0..points.len())
            .map(|c| {
                (
                    c,
                    field.gain(c, noise, enough) / minutes(&quantity(&places[c])),
                )
            })
            .max_by(|a, b| a.1.total_cmp(&b.1));
        let Some((c, _)) = best.filter(|b| b.1 > 1e-3) else {
            break;
        };
        let excess = before > stop;
        let (here, then) = field.helped(c, noise);
        field.take(c, noise);
        let room = if before > 2.0 * goal {
            room.most
        } else {
            room.usual
        };
        let needed = excess && (full || before > 1.5 * goal) && out.len() < room;
        if !needed && here - then < WORTH {
            break;
        }
        let mut ask = p.ask(quantity(&places[c]), needed);
        ask.why = format!(
            "Panel edges here are known to ±{}; this takes that to ±{}.",
            p.w.say(2.0 * here),
            p.w.say(2.0 * then)
        );
        ask.gain = Some(p.w.figure(2.0 * (here - then).max(0.0)));
        out.push(ask);
    }
    (out, Some(now))
}

fn quantity((side, x, z): &Place) -> Quantity {
    Quantity::Wall {
        side: *side,
        x: *x,
        z: *z,
    }
}

/// Half way between neighbours, and what was left out at the measured heights.
fn candidates(p: &Words) -> Vec<Place> {
    let mut zs = levels(p, 140.0);
    for (_, d) in p.project.decks() {
        zs.extend(d.underside);
    }
    zs.sort_by(f64::total_cmp);
    zs.dedup_by(|a, b| (*a - *b).abs() < 20.0);
    let mut out = Vec::new();
    for side in Side::BOTH {
        let mut xs = p.model.stations(side).to_vec();
        if xs.len() > STATIONS {
            let each = xs.len().div_ceil(STATIONS);
            xs = xs.into_iter().step_by(each).collect();
        }
        let halves: Vec<f64> = xs
            .windows(2)
            .filter(|w| w[1] - w[0] > GAP)
            .map(|w| ((w[0] + w[1]) / 20.0).round() * 10.0)
            .collect();
        xs.extend(halves);
        for z in &zs {
            let length = p.model.length(*z).unwrap_or(0.0) - 15.0;
            for x in xs.iter().filter(|x| **x >= 0.0 && **x <= length) {
                let q = Quantity::Wall { side, x: *x, z: *z };
                let known = p.model.get(&q).is_some();
                let skipped = p.project.survey.skipped.contains_key(&q.key());
                if !known && !skipped && !super::basic::blocked(p, side, *x, *z) {
                    out.push((side, *x, *z));
                }
            }
        }
    }
    out
}
