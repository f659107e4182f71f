//! Does each board still come in when its turn comes, past what stands there by then?

use std::collections::BTreeMap;

use super::exits::{Rectangle, from_its_sill, largest, width};
use super::{Ctx, Finding, Severity};
use crate::geometry::pass::through;
use crate::project::survey::REAR;
use crate::solids::Solid;
use crate::survey::doors::{Doorway, doorways};
use crate::template::fill::SIGMAS;

/// What only touches the way of a board is not in it, mm.
const TOUCH: f64 = 0.5;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let doors = doorways(ctx.project, ctx.model);
    if !doors.iter().any(|d| d.id == REAR) {
        return vec![];
    }
    let ways: Vec<Way> = doors.iter().map(|d| Way::new(ctx, d)).collect();
    let order = order(ctx);
    let (mut out, mut told) = (Vec::new(), Vec::new());
    for (i, board) in order.iter().enumerate() {
        let comes = |there: &[Solid]| ways.iter().any(|w| w.comes(board, there));
        if comes(&order[..i]) || !comes(&[]) {
            continue;
        }
        // The more stands there, the less comes in: the first after which it does not is the one to wait with.
        let before: Vec<usize> = (0..i).collect();
        let first = before.partition_point(|n| comes(&order[..=*n]));
        let blocks = &order[first.min(i - 1)];
        let (own, other) = (mark(ctx, board), mark(ctx, blocks));
        if told.contains(&own) {
            continue;
        }
        let module = |s: &Solid| ctx.project.modules.get(&s.board.module);
        let name = |s: &Solid| module(s).map_or(String::new(), |m| m.called());
        out.push(
            Finding::new(
                format!("entry.{}", board.board.id),
                Severity::Look,
                "layout",
                format!(
                    "{own} of the {} no longer comes in once {other} of the {} stands: bring it in before, and lay it aside until its turn.",
                    name(board),
                    name(blocks),
                ),
            )
            .rule(
                "in the order of the steps: straight in through an opening, as far as its place, past all that stands there; its way from there is not followed",
                "rectangle in rectangle: Carver 1957, Wetzel 2000",
            )
            .show("parts", part(ctx, board)),
        );
        told.push(own);
    }
    out
}

/// All boards as they are put in: what comes out last goes in first; each piece in its own steps.
fn order<'a>(ctx: &Ctx<'a>) -> Vec<Solid<'a>> {
    let mut by_module: BTreeMap<&str, Vec<Solid>> = BTreeMap::new();
    for b in ctx.boards {
        let own = by_module.entry(&b.module).or_default();
        own.push(Solid::at(b, b.shut));
    }
    let mut steps: BTreeMap<&str, usize> = BTreeMap::new();
    let all = ctx.assembly.iter().flat_map(|a| &a.steps);
    for (n, id) in all.flat_map(|s| &s.boards).enumerate() {
        steps.insert(id, n);
    }
    let mut out = Vec::new();
    for step in ctx.holds.out.steps.iter().rev() {
        let mut own = by_module.remove(step.module.as_str()).unwrap_or_default();
        own.sort_by_key(|s| steps.get(s.board.id.as_str()).copied());
        out.extend(own);
    }
    out
}

/// What is written on it, or what it is called.
fn mark(ctx: &Ctx, s: &Solid) -> String {
    let own = ctx.parts.iter().find(|p| p.boards.contains(&s.board.id));
    own.map_or(s.board.mark.clone(), |p| p.mark.clone())
}

fn part(ctx: &Ctx, s: &Solid) -> String {
    let own = ctx.parts.iter().find(|p| p.boards.contains(&s.board.id));
    own.map_or(s.board.id.clone(), |p| p.id.clone())
}

/// An opening, and how things lie behind it.
struct Way<'a> {
    door: &'a Doorway,
    /// The coordinate through it, and the one along it.
    through: usize,
    along: usize,
    /// Where it is, and which way is in.
    at: f64,
    inwards: f64,
    /// Room behind it, mm.
    depth: f64,
    /// Doubt of its sizes, mm.
    doubt: f64,
}

impl<'a> Way<'a> {
    fn new(ctx: &Ctx, door: &'a Doorway) -> Way<'a> {
        let middle = door.sill + door.outline.last().map_or(0.0, |n| n.0) / 2.0;
        let doubt = 2.0 * SIGMAS * ctx.model.sd;
        let out = |side| {
            let mm = ctx.model.offset(side, door.middle.max(0.0), middle);
            mm.unwrap_or(0.0)
        };
        match door.side {
            None => Way {
                door,
                through: 0,
                along: 1,
                at: 0.0,
                inwards: 1.0,
                depth: ctx.model.length(0.0).unwrap_or(0.0),
                doubt,
            },
            Some(side) => Way {
                door,
                through: 1,
                along: 0,
                at: side.sign() * out(side),
                inwards: -side.sign(),
                depth: out(side) + out(side.other()),
                doubt,
            },
        }
    }

    /// How far in the near and the far end of it are, mm.
    fn reach(&self, s: &Solid) -> (f64, f64) {
        let ends = [s.low, s.high].map(|p| (p[self.through] - self.at) * self.inwards);
        (ends[0].min(ends[1]), ends[0].max(ends[1]))
    }

    /// It comes straight in as far as its place, past what stands there.
    fn comes(&self, board: &Solid, there: &[Solid]) -> bool {
        let (w, h) = board.board.outline.size();
        let mut dims = [w, h, board.board.thickness];
        // The longest side goes first, mostly.
        dims.sort_by(|a, b| b.total_cmp(a));
        (0..3).any(|leads| {
            let cross = (dims[(leads + 1) % 3], dims[(leads + 2) % 3]);
            let good = |w: f64, h: f64| {
                through(
                    cross,
                    ((w - self.doubt).max(0.0), (h - self.doubt).max(0.0)),
                )
                .is_some()
            };
            let deep = dims[leads].max(self.reach(board).1);
            dims[leads] <= self.depth && self.leaves(there, deep, &good)
        })
    }

    /// What stands nearer than this leaves a rectangle that is good enough.
    fn leaves(&self, there: &[Solid], deep: f64, good: &dyn Fn(f64, f64) -> bool) -> bool {
        let outline = &self.door.outline;
        let Some(top) = outline.last().map(|n| n.0) else {
            return false;
        };
        let near = || there.iter().filter(|s| self.reach(s).0 < deep - TOUCH);
        // Over all of it, mostly; looked at first, for the rest takes a while.
        let highest = near().map(|s| s.high[2]).fold(self.door.sill, f64::max);
        let over = highest - self.door.sill;
        let wide = width(outline, over).min(width(outline, top));
        let nodes = outline.iter().filter(|n| n.0 > over).map(|n| n.1);
        if over < top && good(nodes.fold(wide, f64::min), top - over) {
            return true;
        }
        let taken = near().map(|s| {
            let span = |k: usize| [s.low[k] + TOUCH, s.high[k] - TOUCH];
            (span(self.along), span(2))
        });
        let taken = from_its_sill(outermost(taken.collect()), self.door);
        let (w, h) = largest(outline, &taken, good);
        good(w, h)
    }
}

/// Those that lie in no other: a frame hides what stands behind it.
fn outermost(mut all: Vec<Rectangle>) -> Vec<Rectangle> {
    let area = |(a, b): &Rectangle| (a[1] - a[0]) * (b[1] - b[0]);
    all.sort_by(|a, b| area(b).total_cmp(&area(a)));
    let inside = |a: [f64; 2], b: [f64; 2]| a[0] >= b[0] && a[1] <= b[1];
    let mut out: Vec<Rectangle> = Vec::new();
    for r in all {
        if !out.iter().any(|o| inside(r.0, o.0) && inside(r.1, o.1)) {
            out.push(r);
        }
    }
    out
}
