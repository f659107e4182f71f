//! What a survey cannot do without, by kind of vehicle and thoroughness.

use super::Ask;
use super::words::Words;
use crate::project::survey::{Form, Level, OpeningDim, Quantity, Side, ThingDim, Thoroughness};
use crate::project::{Project, VehicleKind};
use crate::survey::known::Known;
use crate::survey::model::Model;

/// Stations of the first round as shares of the length, rounded to 50 mm.
const FULL: [f64; 4] = [0.0, 1.0 / 3.0, 2.0 / 3.0, 1.0];
const QUICK: [f64; 3] = [0.0, 0.5, 1.0];
/// The front is read this share of the half width off the centre line, rounded to 50 mm.
const BESIDE: f64 = 0.7;

/// The stations at which walls are to be measured, ascending: the usual ones and the user's own.
pub fn stations(project: &Project, model: &Model) -> Vec<f64> {
    places(project, model, None)
}

/// Those of one side, or of both.
fn places(project: &Project, model: &Model, side: Option<Side>) -> Vec<f64> {
    places_at(project, model, side, 0.0)
}

/// Those at a height: the front may lean.
fn places_at(project: &Project, model: &Model, side: Option<Side>, z: f64) -> Vec<f64> {
    let own = project.survey.stations.values();
    let mut xs: Vec<f64> = own
        .filter(|s| side.is_none() || s.side.is_none() || s.side == side)
        .map(|s| s.x)
        .collect();
    let Some(length) = model.length(z) else {
        return xs;
    };
    // Where this height was read already, if only because the length was thought to be another.
    let near = |k: &&Known| match k.quantity {
        Quantity::Wall { side: s, z: h, .. } => side.is_none_or(|o| o == s) && (h - z).abs() < 1.0,
        _ => false,
    };
    let read: Vec<f64> = model
        .known
        .values()
        .filter(near)
        .filter_map(|k| match k.quantity {
            Quantity::Wall { x, .. } => Some(x),
            _ => None,
        })
        .collect();
    xs.retain(|x| *x <= length + 1.0);
    let shares: &[f64] = match project.survey.protocol {
        Thoroughness::Full => &FULL,
        Thoroughness::Quick => &QUICK,
    };
    for s in shares {
        let x = if *s == 0.0 || *s == 1.0 {
            // Just short of the front, where the wall still is.
            (s * length - if *s == 1.0 { 20.0 } else { 0.0 }).round()
        } else {
            (s * length / 50.0).round() * 50.0
        };
        // A usual one gives way to the user's own close by.
        let taken = |o: &f64| (o - x).abs() <= 60.0;
        if xs.iter().any(taken) {
            continue;
        }
        let there = read
            .iter()
            .copied()
            .filter(taken)
            .min_by(|a, b| (a - x).abs().total_cmp(&(b - x).abs()));
        xs.push(there.unwrap_or(x).max(0.0));
    }
    xs.sort_by(f64::total_cmp);
    xs.dedup_by(|a, b| (*a - *b).abs() < 1.0);
    xs
}

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
    for id in p
        .project
        .survey
        .openings
        .keys()
        .filter(|id| *id != crate::project::survey::REAR)
    {
        all.extend([OpeningDim::WidthFloor, OpeningDim::Height].map(|dim| {
            p.ask(
                Quantity::Opening {
                    dim,
                    id: id.clone(),
                },
                false,
            )
        }));
    }
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
    all.extend(walls(p, full));
    all.extend(roofs(p, full, wells));
    if full {
        all.extend(front(p));
    }
    all
}

/// Along the centre line, at the floor and where the front may lean: seat back, bulkhead, bow.
fn lengths(p: &Words, full: bool) -> Vec<Ask> {
    let mut zs: Vec<f64> = p.project.survey.levels.values().map(|l| l.z).collect();
    zs.push(0.0);
    zs.sort_by(f64::total_cmp);
    zs.dedup_by(|a, b| (*a - *b).abs() < 1.0);
    let at = |z: &f64| Quantity::Length { z: *z, y: 0.0 };
    // The lowest that can be had, and the highest: fronts lean.
    let had = |z: &&f64| !p.project.survey.skipped.contains_key(&at(z).key());
    let lowest = zs.iter().find(had).map(at);
    let highest = zs.last().filter(|z| **z > 0.0).map(at);
    let levels = p.project.survey.levels.values();
    let creases = levels.filter(|l| full && l.ridge).map(|l| at(&l.z));
    let mut out: Vec<Ask> = lowest.into_iter().map(|q| p.ask(q, true)).collect();
    out.extend(highest.into_iter().chain(creases).map(|q| p.ask(q, true)));
    out
}

fn walls(p: &Words, full: bool) -> Vec<Ask> {
    let mut levels: Vec<&Level> = p.project.survey.levels.values().collect();
    levels.sort_by(|a, b| a.z.total_cmp(&b.z));
    let (lowest, highest) = match (levels.first(), levels.last()) {
        (Some(a), Some(b)) => (a.z, b.z),
        _ => return vec![],
    };
    // A quick survey takes one height between.
    let half = (lowest + highest) / 2.0;
    let inner = levels
        .iter()
        .map(|l| l.z)
        .filter(|z| *z > lowest && *z < highest);
    let middle = inner.min_by(|a, b| (a - half).abs().total_cmp(&(b - half).abs()));
    let mut out = Vec::new();
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
            // At the lowest and the highest level the whole wall, between them one reading to tell
            // how it bends upwards; the rest is asked by its worth.
            let between = free.get(free.len() / 2).copied();
            let wanted = |x: &f64| match level.z {
                z if z == highest => true,
                z if z == lowest => full || end(*x) || ridge(*x),
                z => Some(*x) == between && (full || Some(z) == middle),
            };
            let at = |x: f64| Quantity::Wall {
                side,
                x,
                z: level.z,
            };
            out.extend(
                free.iter()
                    .filter(|x| wanted(x))
                    .map(|x| p.ask(at(*x), true)),
            );
        }
    }
    out
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
        dims.push(if read(ThingDim::End) {
            ThingDim::End
        } else {
            ThingDim::Length
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
            let mut heights = t.heights.clone();
            heights.extend(high.or(z));
            for z in heights {
                let at = |dim| Quantity::Thing {
                    id: id.clone(),
                    dim,
                    z: Some(z),
                };
                // A quick survey takes it as upright from its foot.
                out.extend(dims.iter().map(|dim| p.ask(at(*dim), full)));
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

/// The front beside the centre line. In a V the walls are the front.
fn front(p: &Words) -> Vec<Ask> {
    let Some(length) = p.model.length(0.0) else {
        return vec![];
    };
    let half = Side::BOTH.map(|s| p.model.offset(s, length - 20.0, 0.0).unwrap_or(0.0));
    let mut out = Vec::new();
    for side in Side::BOTH {
        let y = (half[side as usize] * BESIDE / 50.0).floor() * 50.0;
        if y >= 100.0 {
            let y = side.sign() * y;
            out.push(p.ask(Quantity::Length { z: 0.0, y }, true));
        }
    }
    out
}
