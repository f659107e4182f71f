//! Does a thing come out of the bay that was made for it, and can its door and lid open?

use super::{Ctx, Finding, Severity};
use crate::furniture::built::{MadeFor, Vec3};
use crate::project::gear::Gear;
use crate::project::survey::Side;
use crate::solids::Solid;

/// What only touches its way is not in it, mm.
const TOUCH: f64 = 0.5;
/// The vehicle is looked at every so many mm of its way.
const EVERY: f64 = 10.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let all = ctx.built.iter();
    let all = all.flat_map(|(m, b)| b.made_for.iter().map(move |p| (m.as_str(), p)));
    all.filter_map(|(module, place)| judged(ctx, module, place))
        .collect()
}

/// What has to stay free before a bay: its near face along an axis, which way out, and the box across that.
struct Way {
    axis: usize,
    sign: f64,
    from: f64,
    low: Vec3,
    high: Vec3,
}

impl Way {
    fn new(place: &MadeFor, g: &Gear) -> Option<Way> {
        let axis = (0..2).find(|k| place.out[*k].abs() > 0.5)?;
        let sign = place.out[axis].signum();
        let ends = |pick: fn(f64, f64) -> f64| -> Vec3 {
            std::array::from_fn(|k| pick(place.bay[0][k], place.bay[1][k]))
        };
        let (mut low, mut high) = (ends(f64::min), ends(f64::max));
        let from = if sign > 0.0 { high[axis] } else { low[axis] };
        // As wide as the thing, in the middle of its bay; as high as it is with what opens above it.
        let (other, w) = (1 - axis, g.w?);
        let middle = f64::midpoint(low[other], high[other]);
        (low[other], high[other]) = (middle - w / 2.0, middle + w / 2.0);
        high[2] = low[2] + g.slide + g.h? + g.lid_clearance;
        Some(Way {
            axis,
            sign,
            from,
            low,
            high,
        })
    }

    /// How far before the bay a board begins that is in the way.
    fn before(&self, s: &Solid) -> Option<f64> {
        let off = match self.sign > 0.0 {
            true => s.low[self.axis] - self.from,
            false => self.from - s.high[self.axis],
        };
        let beside = (0..3).filter(|k| *k != self.axis);
        let mut across =
            beside.map(|k| s.low[k] < self.high[k] - TOUCH && s.high[k] > self.low[k] + TOUCH);
        (off > -TOUCH && across.all(|a| a)).then_some(off.max(0.0))
    }

    /// What of the vehicle is met within so many mm, and how far before the bay.
    fn vehicle(&self, ctx: &Ctx, most: f64) -> Option<(f64, String)> {
        let n = (most / EVERY).ceil().clamp(1.0, 400.0) as usize;
        let other = 1 - self.axis;
        (1..=n).find_map(|i| {
            let by = most * i as f64 / n as f64;
            let mut corners = [self.low[other] + TOUCH, self.high[other] - TOUCH]
                .into_iter()
                .flat_map(|o| [self.low[2] + TOUCH, self.high[2] - TOUCH].map(|z| (o, z)));
            let what = corners.find_map(|(o, z)| {
                let mut p = [0.0, 0.0, z];
                p[self.axis] = self.from + self.sign * by;
                p[other] = o;
                met(ctx, p)
            })?;
            Some((most * (i - 1) as f64 / n as f64, what))
        })
    }
}

/// What of the vehicle a point is in.
fn met(ctx: &Ctx, [x, y, z]: Vec3) -> Option<String> {
    // Behind the threshold it is outside.
    if x < 0.0 {
        return None;
    }
    let side = if y >= 0.0 { Side::Left } else { Side::Right };
    if ctx.model.offset(side, x, z).is_some_and(|w| y.abs() > w) {
        return Some(format!("the {} wall", side.word()));
    }
    if ctx.model.reach(y, z).is_some_and(|f| x > f) {
        return Some("the front".into());
    }
    let roof = ctx.model.floor_to_roof(x).map(|r| r + ctx.model.floor(x));
    if roof.is_some_and(|r| z > r) {
        return Some("the roof".into());
    }
    let mut things = ctx.model.things();
    let thing = things.find(|o| o.holds([x, y, z]));
    thing.map(|o| format!("the {}", o.name))
}

fn judged(ctx: &Ctx, module: &str, place: &MadeFor) -> Option<Finding> {
    let g = ctx.project.gear.get(&place.gear)?;
    let (way, need) = (Way::new(place, g)?, g.d?);
    let called = |id: &str| {
        let m = ctx.project.modules.get(id);
        m.map_or(String::new(), |m| m.called())
    };
    // What is before the bay in its own piece is opened first: a door.
    let others = ctx.boards.iter().filter(|b| b.module != module);
    let others = others.map(|b| Solid::at(b, b.shut));
    let boards = others.filter_map(|s| {
        let off = way.before(&s)?;
        Some((
            off,
            format!("the {} ({})", called(&s.board.module), s.board.mark),
        ))
    });
    let all = boards.chain(way.vehicle(ctx, need));
    let first = all
        .filter(|m| m.0 < need - TOUCH)
        .min_by(|a, b| a.0.total_cmp(&b.0));
    let (name, thing) = (called(module), &g.name);
    let [needs, high] = [need, way.high[2] - way.low[2]].map(|mm| ctx.w.say(mm));
    let (level, sentence) = match first {
        None => (
            Severity::Fine,
            format!(
                "{thing} comes all out of its bay of the {name}: {needs} are free before it, {high} high."
            ),
        ),
        Some((free, what)) => (
            Severity::Look,
            format!(
                "{thing} does not come all out of its bay of the {name}: it needs {needs} before it, {high} high, and after {} there is {what}. It is not lifted out there, and its door or lid opens no further.",
                ctx.w.say(free)
            ),
        ),
    };
    let f = Finding::new(
        format!("comes-out.{module}.{}", place.gear),
        level,
        "layout",
        sentence,
    );
    Some(
        f.rule(
            "its own depth before the bay, as high as it is on its slide and what opens above it",
            "a choice: so it can be filled, and lifted out",
        )
        .numbers(vec![ctx.w.step("", "wanted before the bay", need)])
        .show("layout", module),
    )
}
