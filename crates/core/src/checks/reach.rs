//! Can it be got at with the bed made, from the seats, or from outside?

use super::bed::lain_on;
use super::stowed::behind;
use super::{Ctx, Finding, Severity, set};
use crate::furniture::built::{Body, Motion, Vec3};
use crate::project::gear::{Gear, Reach};
use crate::solids::Solid;
use crate::survey::doors::doorways;

/// An arm reaches so far, mm (a choice: the forward reach of a small adult is some 700, from memory).
const ARM: f64 = 700.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let away = behind(ctx);
    let mut out: Vec<Finding> = away
        .iter()
        .filter_map(|(id, module, opens)| stowed(ctx, id, module, *opens))
        .collect();
    for d in ctx.platforms.iter().filter(|d| d.worked.is_some()) {
        let under = ctx.project.gear.iter();
        let under = under.filter(|(id, g)| g.under_deck && away.iter().all(|a| a.0 != *id));
        for (id, g) in under {
            let when = match g.reach {
                // It is drawn out from behind.
                Reach::Never | Reach::Outside => continue,
                Reach::Driving => "while driving",
                Reach::Asleep => "with the bed made",
            };
            out.push(
                Finding::new(
                    format!("reach.{id}"),
                    Severity::Look,
                    "stow",
                    format!(
                        "{} must be in reach {when}, but stands under the {}: from behind only. Put it beside the bed or nearest to you.",
                        g.name, d.platform.name
                    ),
                )
                .rule("what stands under a closed deck is reached from its ends", "common practice, no source")
                .show("stow", id.clone())
                .offer(
                    format!("Keep {} beside the bed", g.name),
                    "it no longer takes room under the deck".into(),
                    set(format!("/gear/{}/under_deck", crate::input::escape(id)), false.into()),
                ),
            );
        }
    }
    out
}

/// What is lain on: its least and greatest corner in plan, and how high.
type Bed = ([f64; 2], [f64; 2], f64);

/// Where a hand gets at what lies in a piece.
struct Hold<'a> {
    low: Vec3,
    high: Vec3,
    /// What is opened for it.
    opens: Option<&'a Body>,
}

impl<'a> Hold<'a> {
    /// The face of what opens, a drawer's drawn out; where nothing does, the piece as a whole.
    fn new(ctx: &Ctx, module: &str, opens: Option<&'a Body>) -> Option<Hold<'a>> {
        let own = ctx.boards.iter().filter(|b| match opens {
            Some(body) => ctx.bodies.goes_with(&b.body, &body.id),
            None => b.module == module,
        });
        let (mut low, mut high) = ([f64::INFINITY; 3], [f64::NEG_INFINITY; 3]);
        for s in own.map(|b| Solid::at(b, b.shut)) {
            for k in 0..3 {
                low[k] = low[k].min(s.low[k]);
                high[k] = high[k].max(s.high[k]);
            }
        }
        if let Some(Motion::Slide { along, travel }) = opens.map(|o| &o.motion) {
            for k in 0..3 {
                match along[k] {
                    a if a > 0.5 => (low[k], high[k]) = (high[k], high[k] + travel),
                    a if a < -0.5 => (low[k], high[k]) = (low[k] - travel, low[k]),
                    _ => {}
                }
            }
        }
        let found = low[0] <= high[0];
        found.then_some(Hold { low, high, opens })
    }

    fn drawn_out(&self) -> bool {
        self.opens
            .is_some_and(|o| matches!(o.motion, Motion::Slide { .. }))
    }

    /// From the front seats: how far behind the front end, where that is too far.
    fn driving(&self, ctx: &Ctx) -> Option<String> {
        let front = ctx.model.length(self.low[2].max(0.0))?;
        let off = front - self.high[0];
        (off > ARM).then(|| format!("{} behind the seats", ctx.w.say(off.round())))
    }

    /// From the bed: what is in the way of it.
    fn asleep(&self, ctx: &Ctx, beds: &[Bed]) -> Option<String> {
        // Drawn out past the rear, through a door that is shut at night.
        if self.drawn_out() && self.low[0] < 0.0 {
            return Some("is drawn out past the rear, which is shut at night".into());
        }
        let over = |(low, high, top): &Bed| {
            let lies = (0..2).all(|k| low[k] < self.high[k] - 1.0 && high[k] > self.low[k] + 1.0);
            lies && self.high[2] < *top + 1.0
        };
        let lid = self.opens.is_some_and(|o| match o.motion {
            Motion::Turn { about, .. } => about[2].abs() < 0.5,
            _ => false,
        });
        if lid && beds.iter().any(over) {
            return Some("has the bed over its lid".into());
        }
        let off = |(low, high, _): &Bed| {
            let gap = |k: usize| (low[k] - self.high[k]).max(self.low[k] - high[k]).max(0.0);
            gap(0).hypot(gap(1))
        };
        let off = beds.iter().map(off).reduce(f64::min)?;
        (off > ARM).then(|| format!("is {} from the bed", ctx.w.say(off.round())))
    }

    /// By the rear opening or another door: how far off the nearest is, where that is too far.
    fn outside(&self, ctx: &Ctx) -> Option<String> {
        let doors = doorways(ctx.project, ctx.model);
        let off = doors.iter().map(|d| {
            let Some(side) = d.side else {
                return self.low[0].max(0.0);
            };
            let wall = ctx.model.offset(side, d.middle.max(0.0), d.sill.max(0.0));
            let out = match side.sign() > 0.0 {
                true => self.high[1],
                false => -self.low[1],
            };
            let (from, to) = d.span();
            let beside = (from - self.high[0]).max(self.low[0] - to).max(0.0);
            (wall.unwrap_or(out) - out).max(0.0).hypot(beside)
        });
        let off = off.reduce(f64::min)?;
        (off > ARM).then(|| format!("{} from the nearest door", ctx.w.say(off.round())))
    }
}

/// What lies in a piece, when it must be in reach.
fn stowed(ctx: &Ctx, id: &str, module: &str, opens: Option<&Body>) -> Option<Finding> {
    let g: &Gear = ctx.project.gear.get(id)?;
    let hold = Hold::new(ctx, module, opens)?;
    let (when, but) = match g.reach {
        Reach::Never => return None,
        Reach::Driving => (
            "while driving",
            hold.driving(ctx).map(|d| format!("is {d}")),
        ),
        Reach::Asleep => {
            let beds = lain_on(ctx);
            if beds.is_empty() {
                return None;
            }
            ("with the bed made", hold.asleep(ctx, &beds))
        }
        // While no door is measured nothing is known of it.
        Reach::Outside if doorways(ctx.project, ctx.model).is_empty() => return None,
        Reach::Outside => ("from outside", hold.outside(ctx).map(|d| format!("is {d}"))),
    };
    let name = ctx.project.modules.get(module)?.called();
    let (level, sentence) = match but {
        Some(but) => (
            Severity::Look,
            format!(
                "{} must be in reach {when}, but lies in the {name}, which {but}.",
                g.name
            ),
        ),
        None => (
            Severity::Fine,
            format!("{} is in reach {when}, in the {name}.", g.name),
        ),
    };
    Some(
        Finding::new(format!("reach.{id}"), level, "stow", sentence)
            .rule(
                format!(
                    "an arm reaches {}; a lid under the bed stays shut, and so does the rear at night",
                    ctx.w.say(ARM)
                ),
                "a choice: forward reach of a small adult, from memory",
            )
            .show("layout", module),
    )
}
