//! An accepted layout against today's parts: what is still right, what has changed, what is cut already. And from a
//! layout to what is stored when it is accepted.

use std::collections::{BTreeMap, BTreeSet};

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::nest::{CutLine, Layout, Offcut, Placement};
use super::sheets::{SheetGroup, SheetView};
use crate::geometry::{Point, distance_to_segment, sides};
use crate::parts::Part;
use crate::project::Project;
use crate::project::accepted::{
    Accepted, AcceptedCut, AcceptedPart, AcceptedPlace, AcceptedSheet, Axis,
};
use crate::project::stock::trim;
use crate::units::figure::Writer;

/// Cuts and sides that lie within this are one, mm.
const SAME: f64 = 0.01;

/// How a part on an accepted sheet stands against the plan of today.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Standing {
    /// As it is wanted.
    #[default]
    Right,
    /// The plan wants it otherwise now.
    Changed,
    /// It changed, and another sheet has it as the plan wants it now.
    Replaced,
    /// Nothing wants it any more.
    Gone,
}

/// How a part on an accepted sheet stands. `step` is the marking step, mm.
pub fn standing(
    accepted: &Accepted,
    sheet: &AcceptedSheet,
    place: &AcceptedPlace,
    parts: &[Part],
    step: f64,
) -> Standing {
    let (Some(then), Some(now)) = (
        accepted.parts.get(place.kept()),
        parts.iter().find(|p| p.id == place.part),
    ) else {
        return Standing::Gone;
    };
    if place.like.is_some() {
        return Standing::Replaced;
    }
    match of_sheet(now, sheet) && apart(then, now) <= step / 2.0 {
        true => Standing::Right,
        false => Standing::Changed,
    }
}

/// A part is of the material and thickness of a sheet.
pub fn of_sheet(part: &Part, sheet: &AcceptedSheet) -> bool {
    sheet.material == part.material && one_thickness(sheet.thickness, part.thickness.value)
}

/// How far the marked outline of today lies from the accepted one at the worst corner, mm. Corners are compared one by
/// one; where their number differs each is compared with the other outline.
pub fn apart(then: &AcceptedPart, now: &Part) -> f64 {
    let corners: Vec<Point> = now.corners.iter().map(|c| [c.u.value, c.v.value]).collect();
    if corners.len() == then.corners.len() {
        let each = corners.iter().zip(&then.corners);
        let off = each.map(|(a, b)| (a[0] - b[0]).hypot(a[1] - b[1]));
        return off.fold(0.0, f64::max);
    }
    let from = |points: &[Point], ring: &[Point]| {
        let off = points.iter().map(|p| {
            let sides = sides(ring).map(|(a, b)| distance_to_segment(*p, a, b));
            sides.fold(f64::INFINITY, f64::min)
        });
        off.fold(0.0, f64::max)
    };
    from(&corners, &then.corners).max(from(&then.corners, &corners))
}

/// Boards of two thicknesses are the same stock, mm.
pub fn one_thickness(a: f64, b: f64) -> bool {
    /// Less than callipers tell apart, mm.
    const CALLIPER: f64 = 0.05;
    (a - b).abs() < CALLIPER
}

/// Says on the card of every part how an accepted sheet has it, where the plan wants it otherwise now.
pub fn tell(project: &Project, parts: &mut [Part], w: &Writer) {
    let Some(accepted) = &project.cutting.accepted else {
        return;
    };
    let mut told: Vec<(usize, String)> = Vec::new();
    for (sheet, s) in &accepted.sheets {
        for place in &s.parts {
            let at = parts.iter().position(|p| p.id == place.part);
            let (Some(at), Some(then)) = (at, accepted.parts.get(place.kept())) else {
                continue;
            };
            let once = told.iter().all(|(n, _)| *n != at);
            let step = project.units.marks().mm();
            if !once || standing(accepted, s, place, parts, step) != Standing::Changed {
                continue;
            }
            let now = &parts[at];
            let same = (then.w - now.w.value).abs() < SAME && (then.h - now.h.value).abs() < SAME;
            let other = match same {
                true => "in another shape".to_string(),
                false => format!("{} x {}", w.bare(then.w), w.say(then.h)),
            };
            let words = match is_cut(project, sheet, s, place) {
                true => format!(
                    "it was cut from sheet {sheet}, {other}: take the change back, or cut it again"
                ),
                false => format!(
                    "sheet {sheet} was accepted with this board {other}; lay the sheets out again before cutting it"
                ),
            };
            told.push((at, words));
        }
    }
    for (at, words) in told {
        parts[at].then.insert(0, words);
    }
}

/// A part as it would be accepted.
fn of_today(p: &Part) -> AcceptedPart {
    AcceptedPart {
        mark: p.mark.clone(),
        w: p.w.value,
        h: p.h.value,
        corners: p.corners.iter().map(|c| [c.u.value, c.v.value]).collect(),
    }
}

/// What names a cut for ticking off: sheet and number.
pub fn key(sheet: &str, n: usize) -> String {
    format!("{sheet}.{n}")
}

/// A cut of that sheet was ticked off.
pub fn is_begun(project: &Project, sheet: &str, s: &AcceptedSheet) -> bool {
    (1..=s.cuts.len()).any(|n| project.cutting.ticked.contains_key(&key(sheet, n)))
}

/// The part is free: every cut that bounds it was ticked off.
pub fn is_cut(project: &Project, sheet: &str, s: &AcceptedSheet, place: &AcceptedPlace) -> bool {
    let [x, y, w, h] = place.at;
    let bounds = |c: &AcceptedCut| {
        let near = |a: f64, b: f64| (a - b).abs() < SAME;
        let (low, high, from, to) = match c.axis {
            Axis::X => (x, x + w, y, y + h),
            Axis::Y => (y, y + h, x, x + w),
        };
        let beside = near(c.at + s.kerf, low) || near(c.at, high);
        beside && c.from < to - SAME && c.to > from + SAME
    };
    let own = s.cuts.iter().enumerate().filter(|(_, c)| bounds(c));
    let mut all = own.map(|(i, _)| project.cutting.ticked.contains_key(&key(sheet, i + 1)));
    // A part that needs no cut at all is a whole sheet.
    is_begun(project, sheet, s) && all.all(|ticked| ticked)
}

/// What is stored of a layout when it is accepted: all sheets of `groups`.
pub fn accept(groups: &[SheetGroup], parts: &[Part], project: &Project) -> Accepted {
    let mut out = Accepted::default();
    let before = project.cutting.accepted.as_ref();
    let step = project.units.marks().mm();
    let fresh: BTreeSet<&str> = groups
        .iter()
        .flat_map(|g| &g.sheets)
        .filter(|s| !s.accepted)
        .flat_map(|s| s.parts.iter().map(|p| p.part.as_str()))
        .collect();
    for g in groups {
        for s in &g.sheets {
            // What was begun stays as it is, with its parts as they were.
            let kept = before
                .filter(|_| s.accepted)
                .and_then(|a| Some((a, a.sheets.get(&s.mark)?)));
            if let Some((a, sheet)) = kept {
                let mut sheet = sheet.clone();
                let stands = sheet.parts.iter();
                let stands = stands.map(|p| standing(a, &sheet, p, parts, step));
                let stands: Vec<Standing> = stands.collect();
                for (p, stands) in sheet.parts.iter_mut().zip(stands) {
                    let Some(then) = a.parts.get(p.kept()) else {
                        continue;
                    };
                    // It changed and was laid out anew: both are kept. Other copies of a part that did not change may lie
                    // on a fresh sheet while this one is still needed.
                    if stands == Standing::Changed && fresh.contains(p.part.as_str()) {
                        p.like = Some(format!("{}@{}", p.part, s.mark));
                    }
                    out.parts.insert(p.kept().to_string(), then.clone());
                }
                out.sheets.insert(s.mark.clone(), sheet);
                continue;
            }
            let Some(layout) = g.nest.layouts.get(s.layout) else {
                continue;
            };
            for p in &layout.placements {
                if let Some(part) = parts.iter().find(|q| q.id == p.part) {
                    out.parts.insert(p.part.clone(), of_today(part));
                }
            }
            let sheet = AcceptedSheet {
                order: s.order,
                stock: layout.sheet.clone(),
                material: g.material.clone(),
                thickness: g.thickness.value,
                w: s.w.value,
                h: s.h.value,
                grain: s.grain,
                kerf: project.cutting.kerf,
                trim: trim(project, &g.material),
                parts: layout
                    .placements
                    .iter()
                    .map(|p| AcceptedPlace {
                        part: p.part.clone(),
                        like: None,
                        at: [p.x, p.y, p.w, p.h],
                        rotated: p.rotated,
                    })
                    .collect(),
                cuts: layout
                    .cuts
                    .iter()
                    .map(|c| AcceptedCut {
                        axis: if c.axis == "x" { Axis::X } else { Axis::Y },
                        at: c.at,
                        from: c.from,
                        to: c.to,
                    })
                    .collect(),
                offcuts: layout
                    .offcuts
                    .iter()
                    .map(|o| [o.x, o.y, o.w, o.h])
                    .collect(),
            };
            out.sheets.insert(s.mark.clone(), sheet);
        }
    }
    out
}

/// The ticks that still mean something with that layout: those of sheets that stay, and of cuts that were ticked
/// before layouts were accepted.
pub fn ticks(project: &Project, groups: &[SheetGroup]) -> BTreeMap<String, String> {
    let ticked = &project.cutting.ticked;
    let sheets = || groups.iter().flat_map(|g| &g.sheets);
    let cuts = sheets().flat_map(|s| &s.cuts).filter_map(|c| {
        let when = ticked.get(&c.key).filter(|_| c.done);
        let when = when.or_else(|| ticked.get(&c.former))?;
        Some((c.key.clone(), when.clone()))
    });
    // What is done to a sheet before its first cut: `S1.first.1`.
    let before = |key: &str| {
        let stays = |s: &&SheetView| {
            key.strip_prefix(&s.mark)
                .is_some_and(|k| k.starts_with(".first."))
        };
        sheets().filter(|s| s.accepted).any(|s| stays(&s))
    };
    let first = ticked.iter().filter(|(key, _)| before(key));
    cuts.chain(first.map(|(k, v)| (k.clone(), v.clone())))
        .collect()
}

impl AcceptedSheet {
    /// As the search tells a layout; copies of a part are numbered in order.
    pub fn layout(&self) -> Layout {
        let mut copies: BTreeMap<&str, u32> = BTreeMap::new();
        let placements = self.parts.iter().map(|p| {
            let n = copies.entry(&p.part).or_default();
            *n += 1;
            let [x, y, w, h] = p.at;
            Placement {
                part: p.part.clone(),
                n: *n - 1,
                x,
                y,
                rotated: p.rotated,
                w,
                h,
            }
        });
        let cuts = self.cuts.iter().zip(1..).map(|(c, n)| CutLine {
            n,
            axis: match c.axis {
                Axis::X => "x",
                Axis::Y => "y",
            },
            at: c.at,
            from: c.from,
            to: c.to,
        });
        let offcuts = self.offcuts.iter().map(|[x, y, w, h]| Offcut {
            x: *x,
            y: *y,
            w: *w,
            h: *h,
        });
        Layout {
            sheet: self.stock.clone(),
            placements: placements.collect(),
            cuts: cuts.collect(),
            offcuts: offcuts.collect(),
        }
    }
}
