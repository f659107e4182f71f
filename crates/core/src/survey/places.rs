//! Where walls are to be measured: at which heights and at which stations along the bay.

use super::known::Known;
use super::model::Model;
use crate::project::Project;
use crate::project::survey::{Build, Level, Quantity, Side, Thoroughness};

/// Stations of the first round as shares of the length, rounded to 50 mm.
const FULL: [f64; 4] = [0.0, 1.0 / 3.0, 2.0 / 3.0, 1.0];
const QUICK: [f64; 3] = [0.0, 0.5, 1.0];
/// Under a roof this much is left free of wall readings, mm: the lining bends in there.
const UNDER_ROOF: f64 = 100.0;
/// Up high is asked for at so much where no roof tells, mm.
const HIGH: f64 = 950.0;
/// Levels closer than this are one, mm.
pub const CLOSE: f64 = 60.0;

/// The heights at which walls are to be measured, ascending: the user's own, creases, and where panels are
/// wanted.
pub fn levels(project: &Project, model: &Model) -> Vec<Level> {
    let survey = &project.survey;
    let plain = |z: f64| Level {
        z,
        name: if z < 0.5 {
            "floor".into()
        } else {
            format!("{} over the floor", project.writer().say(z))
        },
        side: None,
        ridge: false,
    };
    let mut out: Vec<Level> = survey.levels.values().cloned().collect();
    let mut wanted = survey.heights.clone();
    if !wanted.is_empty() {
        // Heights were named: the usual ones give way to them, the floor and creases up to them stay.
        let top = wanted.iter().copied().fold(0.0, f64::max);
        out.retain(|l| l.ridge && l.z < top + CLOSE || l.z < 0.5);
    }
    let roof = model.roof().map(|z| z - UNDER_ROOF);
    let highest = out.iter().map(|l| l.z).fold(0.0, f64::max);
    if survey.build == Build::High && survey.heights.is_empty() {
        let high = roof.map_or(HIGH, |r| (r / 50.0).floor() * 50.0);
        if high > highest + 2.0 * CLOSE {
            wanted.push(high);
            wanted.push(((highest + high) / 20.0).round() * 10.0);
        }
    }
    for (_, d) in project.decks() {
        let top = d.underside.map(|u| u + d.thickness);
        wanted.extend(top.filter(|t| *t > highest + CLOSE));
    }
    for z in wanted {
        if out.iter().all(|l| (l.z - z).abs() > CLOSE) {
            out.push(plain(z.round()));
        }
    }
    out.sort_by(|a, b| a.z.total_cmp(&b.z));
    out
}

/// The stations at which walls are to be measured, ascending: the usual ones and the user's own.
pub fn stations(project: &Project, model: &Model) -> Vec<f64> {
    places(project, model, None)
}

/// Those of one side, or of both.
fn places(project: &Project, model: &Model, side: Option<Side>) -> Vec<f64> {
    places_at(project, model, side, 0.0)
}

/// Those at a height: the front may lean.
pub fn places_at(project: &Project, model: &Model, side: Option<Side>, z: f64) -> Vec<f64> {
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
