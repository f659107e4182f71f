//! Where a handle catches while it is pulled: at what holds, or is built against. Ribs and other fixings, walls, uprights and
//! level boards of the other pieces.

use std::collections::BTreeMap;

use serde::Serialize;
use utoipa::ToSchema;

use super::round;
use crate::furniture::Site;
use crate::furniture::built::{Built, Vec3};
use crate::furniture::cross::Cross;
use crate::project::survey::Side;

/// A board is thin along an axis if it is no thicker than this, mm.
const THIN: f64 = 60.0;
/// Catches nearer than this to each other are one, mm: the first that is named.
const APART: f64 = 4.0;
/// No further off than this, mm, and no more of them.
const FAR: f64 = 1500.0;
const MOST: usize = 24;

/// A number of a handle at which what is pulled meets something.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Catch {
    /// The number, mm.
    pub value: f64,
    /// What is there: `rib, left`, `frame of the deck`.
    pub what: String,
}

/// What moves along an axis: at which planes, in the middle of what, and how far for one mm of the number that is `value` now.
pub(super) struct Pulled<'a> {
    pub value: f64,
    pub axis: usize,
    pub at: Vec3,
    pub planes: &'a [f64],
    pub per: f64,
}

/// The planes along an axis at which something is that holds, with its name: what the vehicle has first.
fn planes(site: &Site, others: &BTreeMap<String, Built>, p: &Pulled) -> Vec<(f64, String)> {
    let survey = &site.project.survey;
    let fixings = survey.fixings.values();
    let mut out: Vec<(f64, String)> = fixings.map(|f| (f.at[p.axis], f.name.clone())).collect();
    match p.axis {
        1 => {
            let free = Cross::new(site, None, 0.0, p.at[2]);
            let wall = |side: Side| {
                let mm = free.wall(side, p.at[0].max(0.0), p.at[2].max(0.0))?;
                Some((side.sign() * mm, format!("{} wall", side.word())))
            };
            out.extend(Side::BOTH.into_iter().filter_map(wall));
        }
        2 => out.extend(survey.datums.values().map(|d| (d.z, d.name.clone()))),
        _ => {}
    }
    let called = |id: &str| {
        let module = site.project.modules.get(id);
        module.map_or(String::new(), |m| m.called())
    };
    for (id, built) in others.iter().filter(|(id, _)| *id != site.id) {
        for b in &built.boards {
            let (low, high) = round(b);
            if high[p.axis] - low[p.axis] > THIN {
                continue;
            }
            let name = format!("{} of the {}", b.role, called(id));
            // Its faces, and its middle: boards meet over the middle of what carries them.
            let middle = f64::midpoint(low[p.axis], high[p.axis]);
            for mm in [middle, low[p.axis], high[p.axis]] {
                out.push((mm, name.clone()));
            }
        }
    }
    out
}

/// Where it catches, from the nearest on.
pub(super) fn catches(site: &Site, others: &BTreeMap<String, Built>, p: &Pulled) -> Vec<Catch> {
    let all = planes(site, others, p);
    let mut out: Vec<Catch> = Vec::new();
    for (mm, what) in all {
        for own in p.planes {
            let by = mm - own;
            let value = p.value + by / p.per;
            // Where it is already it need not go.
            let there = by.abs() < 0.5 || by.abs() > FAR || !value.is_finite() || value <= 0.0;
            let near = |c: &Catch| ((c.value - value) * p.per).abs() < APART;
            if !there && !out.iter().any(near) {
                let value = (value * 10.0).round() / 10.0;
                let what = what.clone();
                out.push(Catch { value, what });
            }
        }
    }
    out.sort_by(|a, b| {
        (a.value - p.value)
            .abs()
            .total_cmp(&(b.value - p.value).abs())
    });
    out.truncate(MOST);
    out
}
