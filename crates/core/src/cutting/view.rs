//! A layout as it is shown: parts, cuts in words, offcuts with names.

use super::accepted::{Standing, apart, is_cut, key, of_sheet, standing};
use super::nest::{CutLine, Layout, SheetGrain};
use super::sheets::{CutView, OffcutView, PlacedView, SheetView};
use crate::parts::Part;
use crate::project::Project;
use crate::project::accepted::{Accepted, AcceptedSheet};
use crate::units::figure::Writer;

/// Offcuts narrower than this are not worth a name, mm.
const KEEP: f64 = 50.0;

/// Factory edges are trimmed off first; all places are counted from the trimmed ones.
fn trimming(trim: f64, w: &Writer) -> Vec<String> {
    if trim <= 0.0 {
        return vec![];
    }
    ["left", "lower", "right", "upper"]
        .map(|edge| format!("trim {} off the {edge} edge", w.say(trim)))
        .to_vec()
}

/// The sheet that a layout is of.
pub struct SheetOf<'a> {
    /// Its name and place in the order of cutting.
    pub name: (String, u32),
    /// Width, height, grain.
    pub size: (f64, f64, SheetGrain),
    /// Width of the cut, and what is trimmed off.
    pub saw: (f64, f64),
    /// The accepted layout that it is of.
    pub accepted: Option<(&'a Accepted, &'a AcceptedSheet)>,
}

impl SheetOf<'_> {
    /// As it is shown; `layout` is its number in the answer.
    pub fn show(&self, project: &Project, parts: &[Part], l: &Layout, layout: usize) -> SheetView {
        let w = project.writer();
        let (mark, order) = (&self.name.0, self.name.1);
        let (long, high, grain) = self.size;
        let step = project.units.marks().mm();
        let placed = l.placements.iter().enumerate().map(|(i, p)| {
            let mut view = PlacedView {
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
                standing: Standing::Right,
                cut: false,
                off: 0.0,
            };
            if let Some((accepted, sheet)) = self.accepted
                && let Some(place) = sheet.parts.get(i)
            {
                view.standing = standing(accepted, sheet, place, parts, step);
                view.cut = is_cut(project, mark, sheet, place);
                // What is written on the board is what was accepted.
                if let Some(then) = accepted.parts.get(place.kept()) {
                    let now = parts.iter().find(|q| q.id == p.part);
                    let now = now.filter(|q| of_sheet(q, sheet));
                    view.off = now.map_or(f64::INFINITY, |q| apart(then, q));
                    view.mark.clone_from(&then.mark);
                }
            }
            view
        });
        let keep = l.offcuts.iter().filter(|o| o.w.min(o.h) >= KEEP);
        let offcuts = keep.enumerate().map(|(i, o)| OffcutView {
            mark: format!("{mark}-{}", char::from(b'a' + (i % 26) as u8)),
            x: o.x,
            y: o.y,
            w: w.figure(o.w),
            h: w.figure(o.h),
        });
        SheetView {
            parts: placed.collect(),
            offcuts: offcuts.collect(),
            cuts: self.cuts(project, parts, l, &w),
            first: trimming(self.saw.1, &w),
            mark: mark.clone(),
            w: w.figure(long),
            h: w.figure(high),
            grain,
            layout,
            order,
            accepted: self.accepted.is_some(),
        }
    }

    /// The cuts in order, in words.
    fn cuts(&self, project: &Project, parts: &[Part], l: &Layout, w: &Writer) -> Vec<CutView> {
        let mark = &self.name.0;
        let (kerf, trim) = self.saw;
        let (length, width) = (self.size.0 - trim, self.size.1 - trim);
        let first = l.placements.first();
        let of = first.and_then(|p| parts.iter().find(|q| q.id == p.part));
        let former = of.map_or(String::new(), |p| {
            format!("{}.{}", p.material, p.thickness.value)
        });
        let mut before: Option<(String, f64)> = None;
        // A piece being cut begins at the trimmed edge or behind an earlier kerf.
        let starts = |c: &CutLine| {
            let earlier = l.cuts.iter().filter(|o| {
                o.n < c.n
                    && o.axis == c.axis
                    && o.at < c.at
                    && o.from <= c.from + 0.01
                    && c.from < o.to
            });
            earlier.map(|o| o.at + kerf).fold(trim, f64::max)
        };
        let view = |c: &CutLine| {
            let set = c.at - starts(c);
            let (direction, edge, run) = if c.axis == "x" {
                ("across", "left", width)
            } else {
                ("along", "lower", length)
            };
            // From the sheet's own edge, or the edge that an earlier cut made.
            let own = (c.at - set - trim).abs() < 0.01;
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
            let through = c.from <= trim + 1.0 && c.to >= run - 1.0;
            let shop = if through {
                "; a shop can do this one"
            } else {
                ""
            };
            let key = key(mark, c.n as usize);
            let former = format!("{former}.{mark}.{}{}.{:.1}.{:.1}", c.axis, c.n, c.at, c.to);
            let ticked = |key: &String| project.cutting.ticked.contains_key(key);
            CutView {
                done: if self.accepted.is_some() {
                    ticked(&key)
                } else {
                    ticked(&former)
                },
                former,
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
        };
        l.cuts.iter().map(view).collect()
    }
}
