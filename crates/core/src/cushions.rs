//! One mattress, cut so that the bed can be taken apart: a cushion on each piece that moves by itself, or belongs to
//! another piece of furniture.

use std::collections::BTreeMap;

use crate::boards::BoardView;
use crate::cutting::nest::{Cut, NestIn, NestPart, NestSheet};
use crate::furniture::built::Vec3;
use crate::mechanics::material::{PartGrain, SheetGrain};
use crate::project::Project;
use crate::solids::Solid;

/// Surfaces whose heights differ by no more than this are one bed, mm (a choice: foam bridges it).
const LEVEL: f64 = 30.0;
/// A cushion is so much smaller than what it lies on, mm (a choice: covers, and it is to be pulled out by hand).
const PLAY: f64 = 5.0;
/// What is smaller than this carries no cushion, mm.
const LEAST: f64 = 150.0;
/// A cushion whose surface fills less than this share of its rectangle is cut to shape.
const SHAPED: f64 = 0.97;

/// A cushion.
#[derive(Debug, Clone, PartialEq)]
pub struct Cushion {
    /// The module on which it lies, and the body within it.
    pub on: (String, String),
    /// Marks of the boards below it.
    pub marks: Vec<String>,
    /// Along the vehicle, and across it, mm.
    pub size: [f64; 2],
    /// From the threshold, and from the centre line, mm.
    pub at: [f64; 2],
    /// Height of what it lies on, mm.
    pub height: f64,
    /// It is no rectangle.
    pub shaped: bool,
}

/// What comes of a mattress.
#[derive(Debug, Clone, PartialEq)]
pub struct CutUp {
    /// Where it is cut, in order: across its length, or along it, at which place, mm.
    pub cuts: Vec<(bool, f64)>,
    /// What is left over, larger first, mm.
    pub left: Vec<[f64; 2]>,
    /// Cushions for which it does not suffice.
    pub short: Vec<usize>,
}

/// The cushions of the bed in a state: level surfaces of one height, the widest height there is.
/// Their sizes are marks that a tape has.
pub fn cushions(project: &Project, boards: &[BoardView], state: &str) -> Vec<Cushion> {
    let step = project.units.marks().mm();
    let marked = |mm: f64| ((mm / step) + 1e-9).floor() * step;
    struct Top<'a> {
        solid: Solid<'a>,
        area: f64,
    }
    let tops: Vec<Top> = boards
        .iter()
        .filter(|b| ["panel", "slat", "top", "lid", "table"].contains(&b.role.as_str()))
        .filter_map(|b| Solid::new(b, state))
        .filter(|s| s.pose.w()[2].abs() > 1.0 - 1e-9)
        .map(|solid| Top {
            // A hatch in it is lain on too.
            area: solid.board.outline.filled(),
            solid,
        })
        .collect();
    let level = |z: f64| {
        let near = tops
            .iter()
            .filter(move |t| (t.solid.high[2] - z).abs() <= LEVEL);
        near.map(|t| t.area).sum::<f64>()
    };
    let heights = tops.iter().map(|t| t.solid.high[2]);
    let Some(bed) = heights.max_by(|a, b| level(*a).total_cmp(&level(*b))) else {
        return vec![];
    };
    let mut by: BTreeMap<(String, String), Vec<&Top>> = BTreeMap::new();
    for t in tops
        .iter()
        .filter(|t| (t.solid.high[2] - bed).abs() <= LEVEL)
    {
        let key = (t.solid.board.module.clone(), t.solid.board.body.clone());
        by.entry(key).or_default().push(t);
    }
    let mut out: Vec<Cushion> = by
        .into_iter()
        .map(|(on, own)| {
            let end = |pick: fn(&Solid) -> Vec3, k: usize, least: bool| {
                let all = own.iter().map(|t| pick(&t.solid)[k]);
                match least {
                    true => all.fold(f64::INFINITY, f64::min),
                    false => all.fold(f64::NEG_INFINITY, f64::max),
                }
            };
            let low = [0, 1].map(|k| end(|s| s.low, k, true));
            let high = [0, 1].map(|k| end(|s| s.high, k, false));
            let whole = (high[0] - low[0]) * (high[1] - low[1]);
            // Slats count with what lies between them: only their ends say whether it is a rectangle.
            let slats = own.iter().any(|t| t.solid.board.role == "slat");
            let filled: f64 = own.iter().map(|t| t.area).sum();
            Cushion {
                marks: own.iter().map(|t| t.solid.board.mark.clone()).collect(),
                size: [0, 1].map(|k| marked(high[k] - low[k] - PLAY)),
                at: low,
                height: end(|s| s.high, 2, false),
                shaped: !slats && filled < SHAPED * whole,
                on,
            }
        })
        .collect();
    out.retain(|c| c.size.iter().all(|s| *s >= LEAST));
    // Nobody lies on what is under something else.
    let tops = out.clone();
    out.retain(|c| !tops.iter().any(|o| covers(o, c)));
    out.sort_by(|a, b| {
        a.at[0]
            .total_cmp(&b.at[0])
            .then(a.at[1].total_cmp(&b.at[1]))
    });
    out
}

/// One lies higher and over a good part of the other.
fn covers(upper: &Cushion, lower: &Cushion) -> bool {
    /// So much of it.
    const PART: f64 = 0.3;
    let common = |k: usize| {
        let end = |c: &Cushion| c.at[k] + c.size[k];
        (end(upper).min(end(lower)) - upper.at[k].max(lower.at[k])).max(0.0)
    };
    upper.height > lower.height + 1.0
        && common(0) * common(1) > PART * lower.size[0] * lower.size[1]
}

/// A mattress of that length and width cut into the cushions.
pub fn cut_up(project: &Project, cushions: &[Cushion]) -> Option<CutUp> {
    let (long, wide) = (project.mattress.length?, project.mattress.width?);
    let mut wanted: Vec<usize> = (0..cushions.len()).collect();
    let mut short = Vec::new();
    loop {
        let nest = NestIn {
            sheets: vec![NestSheet {
                id: "mattress".into(),
                w: long,
                h: wide,
                count: Some(1),
                cost: 1.0,
                grain: SheetGrain::default(),
            }],
            kerf: 0.0,
            trim: 0.0,
            cut: Cut::Guillotine,
            parts: wanted
                .iter()
                .map(|i| NestPart {
                    id: i.to_string(),
                    w: cushions[*i].size[0],
                    h: cushions[*i].size[1],
                    count: 1,
                    grain: PartGrain::Free,
                })
                .collect(),
            effort: 0.3,
            seed: 1,
        };
        if wanted.is_empty() {
            return Some(CutUp {
                cuts: vec![],
                left: vec![[long, wide]],
                short,
            });
        }
        let found = nest.solve().ok().and_then(|n| n.layouts.into_iter().next());
        if let Some(layout) = found {
            let mut left: Vec<[f64; 2]> = layout.offcuts.iter().map(|o| [o.w, o.h]).collect();
            left.sort_by(|a, b| (b[0] * b[1]).total_cmp(&(a[0] * a[1])));
            let cuts = layout.cuts.iter().map(|c| (c.axis == "x", c.at));
            return Some(CutUp {
                cuts: cuts.collect(),
                left,
                short,
            });
        }
        // The largest has to come from elsewhere.
        let area = |i: &usize| cushions[*i].size[0] * cushions[*i].size[1];
        let largest = wanted
            .iter()
            .copied()
            .max_by(|a, b| area(a).total_cmp(&area(b)))?;
        wanted.retain(|i| *i != largest);
        short.push(largest);
    }
}
