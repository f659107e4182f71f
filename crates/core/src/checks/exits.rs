//! Does a sleeper get out? What furniture leaves free of the openings at night.

use super::bed::{beds, lain_on};
use super::{Ctx, Finding, Severity};
use crate::project::states::{asleep, in_order};
use crate::project::survey::Side;
use crate::solids::Solid;
use crate::survey::doors::{Doorway, doorways};

/// A body goes through no less: the shorter side, mm, and the area, mm2 (ISO 9094, escape hatches that are not round; from
/// memory).
const SIDE: f64 = 380.0;
const AREA: f64 = 180_000.0;
/// What stands nearer to an opening is in its way, mm (a choice: less than a body needs to turn aside).
const NEAR: f64 = 350.0;

/// From and to across and up, mm.
pub(super) type Rectangle = ([f64; 2], [f64; 2]);

/// What is free of an opening at night.
struct Free {
    name: String,
    size: (f64, f64),
    /// The bed comes up to it.
    bed: bool,
}

impl Free {
    fn passes(&self) -> bool {
        let (w, h) = self.size;
        w.min(h) >= SIDE && w * h >= AREA
    }
}

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    if ctx.platforms.iter().all(|d| d.worked.is_none()) && beds(ctx).is_empty() {
        return vec![];
    }
    let ways = doorways(ctx.project, ctx.model).into_iter().map(|door| {
        let (taken, bed) = in_the_way(ctx, &door);
        let size = largest(&door.outline, &taken, &|w, h| w.min(h) >= SIDE);
        let name = door.name;
        Free { name, size, bed }
    });
    let ways: Vec<Free> = ways.collect();
    let Some(first) = ways.first() else {
        return vec![];
    };
    let (level, sentence) = if let Some(way) = ways.iter().find(|w| w.passes()) {
        let shut = match (std::ptr::eq(way, first), &first.name) {
            (true, _) => String::new(),
            (false, name) => format!(" The {name} is not enough."),
        };
        (
            Severity::Fine,
            format!(
                "At night {} by {} of the {} stay free{}: a sleeper gets out.{shut}",
                ctx.w.bare(way.size.0),
                ctx.w.say(way.size.1),
                way.name,
                if way.bed { " over the bed" } else { "" },
            ),
        )
    } else {
        let left = ways.iter().map(|way| {
            let (w, h) = way.size;
            let left = if w * h > 0.0 {
                format!("no more than {} by {}", ctx.w.bare(w), ctx.w.say(h))
            } else {
                "nothing".into()
            };
            format!("{left} of the {}", way.name)
        });
        (
            Severity::Look,
            format!(
                "At night furniture leaves {}: too little for a body in a hurry. There has to be another way out that opens from inside.",
                left.collect::<Vec<_>>().join(" and ")
            ),
        )
    };
    vec![
        Finding::new("exits", level, "layout", sentence).rule(
            format!(
                "a body needs the area of {} by {}, and no side shorter; nearer than {} to an opening furniture is in the way; a door has to open from inside",
                ctx.w.bare(SIDE),
                ctx.w.say(AREA / SIDE),
                ctx.w.say(NEAR)
            ),
            "ISO 9094, from memory; the distance is a choice",
        ),
    ]
}

/// A door in a wall leaves room for something on the road, below a height, past all that stands there.
pub(super) fn lets_in(ctx: &Ctx, below: f64, good: &dyn Fn(f64, f64) -> bool) -> bool {
    let Some((road, _)) = in_order(&ctx.project.states).first().copied() else {
        return false;
    };
    let doors = doorways(ctx.project, ctx.model).into_iter();
    doors.filter(|d| d.side.is_some()).any(|door| {
        let mut taken = At::new(ctx, &door).stands(road);
        taken.push(([f64::NEG_INFINITY, f64::INFINITY], [below, f64::INFINITY]));
        let (w, h) = largest(&door.outline, &from_its_sill(taken, &door), good);
        good(w, h)
    })
}

/// What of an opening is taken at night, and whether the bed comes up to it.
fn in_the_way(ctx: &Ctx, door: &Doorway) -> (Vec<Rectangle>, bool) {
    let at = At::new(ctx, door);
    let mut taken = at.stands(asleep(&ctx.project.states));
    let bed = at.lain();
    let comes = !bed.is_empty();
    taken.extend(bed);
    (from_its_sill(taken, door), comes)
}

/// From an opening's own middle and sill.
pub(super) fn from_its_sill(mut taken: Vec<Rectangle>, door: &Doorway) -> Vec<Rectangle> {
    for (across, up) in &mut taken {
        *across = across.map(|v| v - door.middle);
        *up = up.map(|v| v - door.sill);
    }
    taken
}

/// The place of an opening in the vehicle.
struct At<'a> {
    ctx: &'a Ctx<'a>,
    side: Option<Side>,
    /// The coordinate along it, and the one through it.
    along: usize,
    through: usize,
    /// What reaches between these is near.
    near: (f64, f64),
}

impl<'a> At<'a> {
    fn new(ctx: &'a Ctx<'a>, door: &Doorway) -> At<'a> {
        let middle = door.sill + door.outline.last().map_or(0.0, |n| n.0) / 2.0;
        let wall = |side: Side| {
            let out = ctx.model.offset(side, door.middle.max(0.0), middle);
            side.sign() * out.unwrap_or(0.0)
        };
        let at = door.side.map_or(0.0, wall);
        At {
            ctx,
            side: door.side,
            along: usize::from(door.side.is_none()),
            through: usize::from(door.side.is_some()),
            near: (at - NEAR, at + NEAR),
        }
    }

    fn near(&self, low: f64, high: f64) -> bool {
        low < self.near.1 && high > self.near.0
    }

    /// Boards near it in a state, and what of the vehicle is in it.
    fn stands(&self, state: &str) -> Vec<Rectangle> {
        let boards = self.ctx.boards.iter();
        let solids = boards.filter_map(|b| Solid::new(b, state));
        let near = solids.filter(|s| self.near(s.low[self.through], s.high[self.through]));
        let own = near.map(|s| {
            let k = self.along;
            ([s.low[k], s.high[k]], [s.low[2], s.high[2]])
        });
        let things = self.ctx.model.things();
        let things = things.filter(|o| Some(o.side) == self.side);
        own.chain(things.map(|o| ([o.x.0, o.x.1], [o.z.0, o.z.1])))
            .collect()
    }

    /// A bed takes what lies over it up to the mattress's face.
    fn lain(&self) -> Vec<Rectangle> {
        lain_on(self.ctx)
            .into_iter()
            .filter(|(low, high, _)| self.near(low[self.through], high[self.through]))
            .map(|(low, high, top)| {
                (
                    [low[self.along], high[self.along]],
                    [f64::NEG_INFINITY, top],
                )
            })
            .collect()
    }
}

/// The largest rectangle that is free within an outline `(height, width)`, preferring one that is good.
pub(super) fn largest(
    outline: &[(f64, f64)],
    taken: &[Rectangle],
    good: &dyn Fn(f64, f64) -> bool,
) -> (f64, f64) {
    let Some(top) = outline.last().map(|n| n.0) else {
        return (0.0, 0.0);
    };
    let marks = |ends: &mut Vec<f64>, low: f64, high: f64| {
        ends.retain(|z| *z >= low && *z <= high);
        ends.sort_by(f64::total_cmp);
        ends.dedup_by(|a, b| (*a - *b).abs() < 1.0);
    };
    let mut zs: Vec<f64> = taken.iter().flat_map(|t| t.1).collect();
    zs.extend(outline.iter().map(|n| n.0));
    marks(&mut zs, 0.0, top);
    let mut best = (0.0, 0.0);
    for (i, low) in zs.iter().enumerate() {
        for high in &zs[i + 1..] {
            let here = outline.iter().filter(|n| n.0 >= *low && n.0 <= *high);
            let ends = [*low, *high].map(|z| width(outline, z));
            let half = here.map(|n| n.1).chain(ends).fold(f64::INFINITY, f64::min) / 2.0;
            // What stands there leaves gaps from side to side.
            let mut stands: Vec<[f64; 2]> = taken
                .iter()
                .filter(|t| t.1[0] < high - 0.5 && t.1[1] > low + 0.5)
                .map(|t| t.0)
                .collect();
            stands.sort_by(|a, b| a[0].total_cmp(&b[0]));
            let (mut from, mut wide) = (-half, 0.0_f64);
            for [a, b] in stands {
                wide = wide.max(a.min(half) - from);
                from = from.max(b);
            }
            wide = wide.max(half - from);
            let better =
                |(w, h): (f64, f64), (v, k): (f64, f64)| (good(w, h), w * h) > (good(v, k), v * k);
            if wide > 0.0 && better((wide, high - low), best) {
                best = (wide, high - low);
            }
        }
    }
    best
}

/// How wide an outline is at a height, straight between its nodes.
pub(super) fn width(outline: &[(f64, f64)], z: f64) -> f64 {
    let above = outline.iter().find(|n| n.0 >= z);
    let below = outline.iter().rev().find(|n| n.0 <= z);
    match (below, above) {
        (Some(a), Some(b)) if b.0 - a.0 > 1e-9 => a.1 + (b.1 - a.1) * (z - a.0) / (b.0 - a.0),
        (Some(a), _) => a.1,
        (None, Some(b)) => b.1,
        (None, None) => 0.0,
    }
}
