//! The project's parts on the project's sheets, one task for each material and thickness.

use serde::Serialize;
use utoipa::ToSchema;

use super::nest::{Cut, NestIn, NestOut, NestPart, NestSheet, SheetGrain};
use crate::parts::Part;
use crate::project::Project;
use crate::project::stock::usual_sheet;
use crate::units::figure::{Figure, Writer};

/// Search effort inside a plan: it is worked out at every edit.
const EFFORT: f64 = 0.05;

/// All sheets of one material and thickness.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SheetGroup {
    /// Material and thickness in words.
    pub stuff: String,
    /// Material identifier.
    pub material: String,
    /// Thickness.
    pub thickness: Figure,
    /// The sheets used, in order, with their sizes.
    pub sheets: Vec<SheetView>,
    /// The whole answer.
    pub nest: NestOut,
    /// The stock has no such sheet: a usual one was assumed.
    pub assumed: bool,
    /// Why there is no layout.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub problem: Option<String>,
    /// Share of the sheets that becomes parts, percent.
    pub used_percent: f64,
}

/// One sheet and how it is cut.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SheetView {
    /// Its name: `S1`.
    pub mark: String,
    /// Width.
    pub w: Figure,
    /// Height.
    pub h: Figure,
    /// Which way its grain runs.
    pub grain: SheetGrain,
    /// Parts on it.
    pub parts: Vec<PlacedView>,
    /// What is done before the first cut: factory edges trimmed off.
    pub first: Vec<String>,
    /// The cuts in order, in words.
    pub cuts: Vec<CutView>,
    /// What is left, named.
    pub offcuts: Vec<OffcutView>,
    /// Which layout of the answer it is.
    pub layout: usize,
}

/// A part on a sheet.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PlacedView {
    /// Part identifier.
    pub part: String,
    /// Its mark.
    pub mark: String,
    /// Lower left corner, mm.
    pub x: f64,
    /// Lower left corner, mm.
    pub y: f64,
    /// Size as it lies, mm.
    pub w: f64,
    /// Size as it lies, mm.
    pub h: f64,
    /// Turned by 90 degrees.
    pub rotated: bool,
}

/// A cut to tick off.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CutView {
    /// Names this cut for ticking off: another layout has other keys.
    pub key: String,
    /// It was ticked off.
    pub done: bool,
    /// Its number.
    pub n: u32,
    /// `x` or `y`: the axis along which `at` is measured.
    pub axis: String,
    /// Where the kerf begins.
    pub at: Figure,
    /// Start of the run, mm.
    pub from: f64,
    /// End of the run, mm.
    pub to: f64,
    /// Length of the run.
    pub length: Figure,
    /// Which fence setting: from the edge of the piece being cut.
    pub set: Figure,
    /// In words.
    pub text: String,
}

/// An offcut worth keeping.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct OffcutView {
    /// Its name: `S1-a`.
    pub mark: String,
    /// Lower left corner, mm.
    pub x: f64,
    /// Lower left corner, mm.
    pub y: f64,
    /// Width.
    pub w: Figure,
    /// Height.
    pub h: Figure,
}

/// Lays all parts out.
pub fn groups(project: &Project, parts: &[Part]) -> Vec<SheetGroup> {
    let mut kinds: Vec<(&str, f64)> = Vec::new();
    for p in parts {
        let kind = (p.material.as_str(), p.thickness.value);
        if !kinds.contains(&kind) {
            kinds.push(kind);
        }
    }
    let mut number = 0;
    kinds
        .into_iter()
        .map(|(material, thickness)| {
            let own: Vec<&Part> = parts
                .iter()
                .filter(|p| p.material == material && p.thickness.value == thickness)
                .collect();
            group(project, material, thickness, &own, &mut number)
        })
        .collect()
}

fn task(project: &Project, material: &str, thickness: f64, parts: &[&Part]) -> (NestIn, bool) {
    let stock = project.stock.iter().filter(|(_, s)| {
        s.material == material && (s.thickness - thickness).abs() < 0.05 && s.count != Some(0)
    });
    let mut sheets: Vec<NestSheet> = stock
        .map(|(id, s)| NestSheet {
            id: id.clone(),
            w: s.w,
            h: s.h,
            count: s.count,
            cost: s.cost.unwrap_or(0.0),
            grain: s.grain,
        })
        .collect();
    let assumed = sheets.is_empty();
    if assumed {
        let (w, h) = usual_sheet(project);
        sheets.push(NestSheet {
            id: "usual".into(),
            w,
            h,
            count: None,
            cost: 0.0,
            grain: SheetGrain::W,
        });
    }
    let parts = parts.iter().map(|p| NestPart {
        id: p.id.clone(),
        w: p.w.value,
        h: p.h.value,
        count: p.count,
        grain: p.grain,
    });
    let task = NestIn {
        sheets,
        kerf: project.cutting.kerf,
        trim: project.cutting.trim,
        cut: Cut::Guillotine,
        parts: parts.collect(),
        effort: EFFORT,
        seed: 1,
    };
    (task, assumed)
}

/// Factory edges are trimmed off first; all places are counted from the trimmed ones.
fn trimming(trim: f64, w: &Writer) -> Vec<String> {
    if trim <= 0.0 {
        return vec![];
    }
    ["left", "lower", "right", "upper"]
        .map(|edge| format!("trim {} off the {edge} edge", w.say(trim)))
        .to_vec()
}

fn group(
    project: &Project,
    material: &str,
    thickness: f64,
    parts: &[&Part],
    number: &mut usize,
) -> SheetGroup {
    let w = project.writer();
    let (task, assumed) = task(project, material, thickness, parts);
    let mut out = SheetGroup {
        stuff: parts.first().map_or(String::new(), |p| p.stuff.clone()),
        material: material.into(),
        thickness: w.figure(thickness),
        sheets: vec![],
        nest: NestOut::default(),
        assumed,
        problem: None,
        used_percent: 0.0,
    };
    let nest = match task.solve() {
        Ok(nest) => nest,
        Err(problem) => {
            out.problem = Some(problem.detail);
            return out;
        }
    };
    let mut bought = 0.0;
    for (layout, l) in nest.layouts.iter().enumerate() {
        let Some(sheet) = task.sheets.iter().find(|s| s.id == l.sheet) else {
            continue;
        };
        bought += sheet.w * sheet.h;
        *number += 1;
        let mark = format!("S{number}");
        let placed = l.placements.iter().map(|p| PlacedView {
            part: p.part.clone(),
            mark: parts
                .iter()
                .find(|q| q.id == p.part)
                .map_or(String::new(), |q| q.mark.clone()),
            x: p.x,
            y: p.y,
            w: p.w,
            h: p.h,
            rotated: p.rotated,
        });
        let (length, width) = (sheet.w - task.trim, sheet.h - task.trim);
        let mut before: Option<(String, f64)> = None;
        // A piece being cut begins at the trimmed edge or behind an earlier kerf.
        let starts = |axis: &str, at: f64, from: f64, n: u32| {
            l.cuts
                .iter()
                .filter(|c| {
                    c.n < n && c.axis == axis && c.at < at && c.from <= from + 0.01 && from < c.to
                })
                .map(|c| c.at + task.kerf)
                .fold(task.trim, f64::max)
        };
        let cuts = l.cuts.iter().map(|c| {
            let set = c.at - starts(c.axis, c.at, c.from, c.n);
            let (direction, edge, run) = if c.axis == "x" {
                ("across", "left", width)
            } else {
                ("along", "lower", length)
            };
            // From the sheet's own edge, or the edge that an earlier cut made.
            let own = (c.at - set - task.trim).abs() < 0.01;
            let edge = if own {
                format!("the trimmed {edge} edge")
            } else {
                format!("the {edge} edge of this piece")
            };
            let same = before
                .as_ref()
                .is_some_and(|(axis, s)| *axis == c.axis && (s - set).abs() < 0.05);
            before = Some((c.axis.to_string(), set));
            let fence = if same { " (fence as before)" } else { "" };
            // Straight through the whole sheet: what a shop does in a minute.
            let through = c.from <= task.trim + 1.0 && c.to >= run - 1.0;
            let shop = if through {
                "; a shop can do this one"
            } else {
                ""
            };
            let key = format!(
                "{material}.{thickness}.{mark}.{}{}.{:.1}.{:.1}",
                c.axis, c.n, c.at, c.to
            );
            CutView {
                done: project.cutting.ticked.contains_key(&key),
                key,
                n: c.n,
                axis: c.axis.into(),
                at: w.figure(c.at),
                from: c.from,
                to: c.to,
                length: w.figure(c.to - c.from),
                set: w.figure(set),
                text: format!(
                    "{direction}: {} from {edge}{fence}, {} long{shop}",
                    w.say(set),
                    w.say(c.to - c.from)
                ),
            }
        });
        let cuts = cuts.collect();
        let keep = l.offcuts.iter().filter(|o| o.w.min(o.h) >= 50.0);
        let offcuts = keep.enumerate().map(|(i, o)| OffcutView {
            mark: format!("{mark}-{}", char::from(b'a' + (i % 26) as u8)),
            x: o.x,
            y: o.y,
            w: w.figure(o.w),
            h: w.figure(o.h),
        });
        let offcuts = offcuts.collect();
        out.sheets.push(SheetView {
            mark,
            w: w.figure(sheet.w),
            h: w.figure(sheet.h),
            grain: sheet.grain,
            parts: placed.collect(),
            first: trimming(task.trim, &w),
            cuts,
            offcuts,
            layout,
        });
    }
    out.used_percent = if bought > 0.0 {
        100.0 * nest.used_area / bought
    } else {
        0.0
    };
    out.nest = nest;
    out
}
