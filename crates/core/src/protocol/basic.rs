//! What a survey cannot do without, by kind of vehicle and thoroughness.

use super::words::Words;
use super::{Ask, around};
use crate::project::VehicleKind;
use crate::project::survey::{
    Form, Level, OpeningDim, Quantity, REAR, Side, ThingDim, Thoroughness,
};
use crate::survey::known::Known;
use crate::survey::places::{CLOSE, places_at};

/// The front is read this share of the half width off the centre line, rounded to 50 mm.
pub const BESIDE: f64 = 0.8;
/// and high up where the front is wider there by this factor.
const WIDER: f64 = 1.15;
/// The front's place at a crease is read if it is not known to this, mm (one standard deviation).
const FRONT_SD: f64 = 2.5;
/// A wall was read up to the front when a reading is this near to it, mm.
const AT_FRONT: f64 = 120.0;
/// The tape is kept this far from what it passes, mm.
pub const PASSING: f64 = 20.0;

/// The wells of two sides are taken as a check on each other while they differ by no more, mm: a slip of
/// an inch shows. Left and right differ by a few millimetres in most vehicles.
pub const ALIKE: f64 = 12.0;

/// All of them, read or not.
pub fn asks(p: &Words) -> Vec<Ask> {
    let full = p.project.survey.protocol == Thoroughness::Full;
    let wells = !p.project.survey.things.is_empty();
    let mut all = lengths(p, full);
    let opening = [
        (OpeningDim::WidthFloor, full || !wells),
        (OpeningDim::WidthTop, full),
        (OpeningDim::Height, full || !wells),
    ];
    let open = opening.map(|(d, needed)| p.ask(Quantity::rear(d), needed));
    all.extend(open);
    all.extend(outlines(p));
    if p.project.vehicle.kind == VehicleKind::VNoseTrailer {
        all.push(p.ridge(
            "nose",
            "Where the nose begins",
            "From the rear threshold forward to where the side walls turn in to the V.",
            "Up to here the walls are straight; the shelf in the nose begins here.",
        ));
    }
    // Things first: where they stand, no wall can be read.
    all.extend(things(p, full));
    all.extend(around::length(p));
    all.extend(walls(p, full));
    all.extend(roofs(p, full, wells));
    all.extend(front(p));
    all
}

/// The other openings, and where an outline was asked for its widths between.
fn outlines(p: &Words) -> Vec<Ask> {
    let mut out = Vec::new();
    for (id, opening) in &p.project.survey.openings {
        let rear = id == REAR;
        if !rear {
            let dims = [OpeningDim::WidthFloor, OpeningDim::Height];
            out.extend(dims.map(|dim| p.ask(Quantity::opening(id, dim), false)));
        }
        out.extend(opening.heights.iter().map(|z| {
            let width = Quantity::Opening {
                dim: OpeningDim::Width,
                id: id.clone(),
                z: Some(*z),
            };
            p.ask(width, rear)
        }));
    }
    out
}

/// Along the centre line, at the floor and where the front may lean: seat back, bulkhead, bow.
fn lengths(p: &Words, full: bool) -> Vec<Ask> {
    let mut zs: Vec<f64> = p.levels.iter().map(|l| l.z).collect();
    zs.push(0.0);
    zs.sort_by(f64::total_cmp);
    zs.dedup_by(|a, b| (*a - *b).abs() < 1.0);
    let at = |z: &f64| Quantity::Length { z: *z, y: 0.0 };
    // The lowest that can be had, and the highest: fronts lean.
    let had = |z: &&f64| !p.project.survey.skipped.contains_key(&at(z).key());
    let lowest = zs.iter().find(had).map(at);
    // A front that bends at a crease just under the highest level is read at both; in a plain vehicle only if the lower one does not
    // tell the upper.
    let plain = full && super::is_plain(p.project);
    let last = zs.last().copied();
    let upper = [uppermost(&p.levels), last.filter(|_| !plain)]
        .into_iter()
        .flatten();
    let mut upper: Vec<f64> = upper.filter(|z| *z > 0.0).collect();
    upper.dedup();
    let highest = upper.into_iter().map(|z| at(&z));
    let middle = crease(p).map(|z| at(&z));
    let first = lowest.into_iter().chain(highest).chain(middle);
    let mut out: Vec<Ask> = first.map(|q| p.ask(q, true)).collect();
    // A front that is straight over these three is not read at every crease of the walls.
    let open = |a: &Ask| p.open(a);
    if full && !out.iter().any(open) {
        let creases = p.levels.iter().filter(|l| l.ridge);
        let unsure = |z: f64| p.model.front(0.0, z).is_none_or(|f| f.1 > FRONT_SD);
        let heights = creases.map(|l| l.z).chain(last.filter(|_| plain));
        let unsure = heights.filter(|z| unsure(*z)).map(|z| at(&z));
        out.extend(unsure.map(|q| p.ask(q, true)));
    }
    out
}

/// The highest level; but a crease just under it tells more of the vehicle than the highest itself.
fn uppermost(levels: &[Level]) -> Option<f64> {
    let highest = levels.last()?.z;
    let under = levels
        .iter()
        .rev()
        .find(|l| l.ridge && highest - l.z <= CLOSE);
    Some(under.map_or(highest, |l| l.z))
}

/// The crease nearest half way up, for surveys that take only one.
fn crease(p: &Words) -> Option<f64> {
    let all = || p.levels.iter();
    let highest = all().map(|l| l.z).fold(0.0, f64::max);
    let inner = all().filter(|l| l.ridge && l.z < highest).map(|l| l.z);
    let off = |z: &f64| (z - highest / 2.0).abs();
    inner.min_by(|a, b| off(a).total_cmp(&off(b)))
}

fn walls(p: &Words, full: bool) -> Vec<Ask> {
    let levels = &p.levels;
    let (lowest, highest) = match (levels.first(), levels.last()) {
        (Some(a), Some(b)) => (a.z, b.z),
        _ => return vec![],
    };
    // Just under the highest a crease tells more of the wall than the highest itself.
    let under = levels
        .iter()
        .rev()
        .find(|l| l.ridge && highest - l.z <= CLOSE);
    let highest = under.map_or(highest, |l| l.z);
    let crease = crease(p);
    let plain = super::is_plain(p.project);
    let mut out: Vec<(f64, Ask)> = Vec::new();
    for level in levels {
        for side in Side::BOTH
            .into_iter()
            .filter(|s| level.side.is_none_or(|l| l == *s))
        {
            let xs = places_at(p.project, p.model, Some(side), level.z);
            let free: Vec<f64> = xs
                .iter()
                .copied()
                .filter(|x| !blocked(p, side, *x, level.z))
                .collect();
            let end = |x: f64| Some(&x) == xs.first() || Some(&x) == xs.last();
            let ridge = |x: f64| p.model.ridges_at(side).iter().any(|r| (r - x).abs() < 1.0);
            // At the lowest and the highest level one wall as a whole; the other bends much as that one does, so its ends,
            // its ridges and one between tell how far it differs. Between them one reading to tell how walls bend upwards.
            // The rest is asked by its worth. A quick survey takes both walls at the top, and below only the ends, and the
            // middle one of the creases.
            let between = free.get(free.len() / 2).copied();
            let some = |x: f64| end(x) || ridge(x);
            // A hull is bent in all ways: both as a whole.
            let hull = p.project.vehicle.kind == VehicleKind::Boat;
            let second = side == Side::Right && full && !hull;
            let wanted = |x: &f64| match level.z {
                z if z == highest || z == lowest && full => {
                    !second || some(*x) || Some(*x) == between
                }
                z if z == lowest => some(*x),
                // In a plain vehicle the other wall bends upwards as that one does, or its worth tells.
                z => !(second && plain) && Some(*x) == between && (full || Some(z) == crease),
            };
            let at = |x: f64| Quantity::Wall {
                side,
                x,
                z: level.z,
            };
            let asked = free.iter().filter(|x| wanted(x));
            out.extend(asked.map(|x| (*x, p.ask(at(*x), true))));
        }
    }
    // What is seen from one stand is asked for before walking on: up one wall, up the other.
    out.sort_by(|a, b| a.0.total_cmp(&b.0));
    out.into_iter().map(|(_, ask)| ask).collect()
}

/// A thing stands before the wall there.
pub fn blocked(p: &Words, side: Side, x: f64, z: f64) -> bool {
    p.model.things().any(|o| {
        o.side == side
            && o.far.is_none()
            && x > o.x.0 - 15.0
            && x < o.x.1 + 15.0
            && z < o.z.1 + 5.0
            && z >= o.z.0
    })
}

fn things(p: &Words, full: bool) -> Vec<Ask> {
    let mut out = Vec::new();
    for (id, t) in &p.project.survey.things {
        let read = |dim| p.model.get(&Quantity::thing(id, dim)).is_some();
        let mut dims = vec![ThingDim::Start];
        dims.push(if read(ThingDim::Length) {
            ThingDim::Length
        } else {
            ThingDim::End
        });
        dims.push(if read(ThingDim::Width) {
            ThingDim::Width
        } else {
            ThingDim::Face
        });
        dims.push(ThingDim::Height);
        if t.form == Form::Free {
            dims.push(ThingDim::Far);
        }
        if !t.ends.are_square() {
            dims.extend([ThingDim::FaceStart, ThingDim::FaceEnd, ThingDim::Shoulder]);
        }
        out.extend(
            dims.into_iter()
                .map(|d| p.ask(Quantity::thing(id, d), true)),
        );
        if t.form == Form::Sloped
            && let Some(top) = p.model.number(id, ThingDim::Height, None)
        {
            // A little below the very top, where there still is a face to measure to.
            let z = Some((top.0 - 10.0).max(1.0).round());
            let mut dims = vec![ThingDim::Start, ThingDim::End, ThingDim::Face];
            if t.form == Form::Free {
                dims.push(ThingDim::Far);
            }
            let asked = p.model.thing_heights(id);
            let high = asked
                .last()
                .copied()
                .filter(|a| z.is_some_and(|z| (a - z).abs() < 30.0));
            let mut heights = if full { t.heights.clone() } else { vec![] };
            heights.extend(high.or(z));
            for z in heights {
                let at = |dim| Quantity::Thing {
                    id: id.clone(),
                    dim,
                    z: Some(z),
                };
                out.extend(dims.iter().map(|dim| p.ask(at(*dim), true)));
            }
        }
    }
    out
}

fn roofs(p: &Words, full: bool, wells: bool) -> Vec<Ask> {
    let Some(length) = p.model.length(0.0) else {
        return vec![];
    };
    let round = |share: f64| (share * length / 50.0).round() * 50.0;
    let roof = |s: f64, needed| {
        p.ask(
            Quantity::Roof {
                x: round(s),
                y: 0.0,
            },
            needed,
        )
    };
    let read = p.model.lowest_roof().is_some();
    // One to plan by; more of them tell where the roof is lowest.
    let mut out = if read {
        vec![]
    } else {
        vec![roof(0.5, full || !wells)]
    };
    out.extend([0.25, 0.75].map(|s| roof(s, false)));
    out.extend([1.0 / 3.0, 2.0 / 3.0].map(|s| {
        p.ask(
            Quantity::Floor {
                x: round(s),
                y: 0.0,
            },
            false,
        )
    }));
    out
}

/// The front beside the centre line, where it is widest: at the floor, or high up in a hull. In a V
/// the walls are the front.
fn front(p: &Words) -> Vec<Ask> {
    // The tape begins at the threshold and runs along the whole bay: it has to be free all the way.
    let narrowest = |p: &Words, side: Side, z: f64| {
        let length = p.model.length(z).unwrap_or(0.0);
        let along = (0..=4).map(|i| length * f64::from(i) / 4.0);
        let walls = along.filter_map(|x| p.model.offset(side, (x - 20.0).max(0.0), z));
        walls.fold(f64::INFINITY, f64::min)
    };
    // Before the walls were read up to the front, at that height or at two others, nobody knows how wide it is there.
    let half = |side: Side, z: f64| {
        let length = p.model.length(z)?;
        let at_front = |k: &Known| match k.quantity {
            Quantity::Wall { side: s, x, z } if s == side && x > length - AT_FRONT => Some(z),
            _ => None,
        };
        let heights: Vec<f64> = p.model.known.values().filter_map(at_front).collect();
        let lowest = heights.iter().copied().fold(f64::INFINITY, f64::min);
        let read = heights
            .iter()
            .any(|h| (h - z).abs() <= CLOSE || h - lowest > CLOSE);
        read.then(|| p.model.offset(side, length - 20.0, z))
            .flatten()
    };
    let highest = p.levels.iter().map(|l| l.z);
    let highest = highest.fold(0.0, f64::max);
    let mut out = Vec::new();
    for side in Side::BOTH {
        let beside =
            |k: &Known| matches!(k.quantity, Quantity::Length { y, .. } if y * side.sign() > 0.0);
        // Its place would wander with every reading of the wall.
        if p.model.known.values().any(beside) {
            continue;
        }
        let (Some(low), Some(high)) = (half(side, 0.0), half(side, highest)) else {
            continue;
        };
        // Where the front is widest; where something stands in the tape's way, at the other height.
        let mut places = [(0.0, low), (highest, high)];
        if high > WIDER * low {
            places.reverse();
        }
        let at = places.into_iter().filter_map(|(z, half)| {
            // The tape passes what stands on that side.
            let things = p
                .model
                .things()
                .filter(|o| o.side == side && o.z.0 <= z && z <= o.z.1);
            let free = things
                .map(|o| o.face - PASSING)
                .fold(half * BESIDE, f64::min)
                .min(narrowest(p, side, z) - PASSING);
            let y = (free / 50.0).floor() * 50.0;
            let q = Quantity::Length {
                z,
                y: side.sign() * y,
            };
            (y >= 100.0).then_some(q)
        });
        let had = |q: &Quantity| !p.project.survey.skipped.contains_key(&q.key());
        out.extend(at.into_iter().find(had).map(|q| p.ask(q, true)));
    }
    out
}
