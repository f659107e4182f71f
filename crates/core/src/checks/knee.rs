//! Do knees go under a table, where there is a seat before it?

use super::{Ctx, Finding, Severity, set};
use crate::boards::BoardView;
use crate::furniture::built::{Motion, Under};
use crate::input::escape;
use crate::solids::Solid;

/// So much room a thigh wants between seat and table, mm (from memory: a tall man's thigh is about 175 mm high, ISO 7250
/// tables; and a finger).
const THIGH: f64 = 190.0;
/// The table's upper face lies so far over the seat where elbows rest well, mm (from memory: 270 to 320 is usual).
const ELBOW: (f64, f64) = (230.0, 340.0);
/// A seat further off, level, is not this table's, mm (a choice).
const FAR: f64 = 450.0;

/// A seat's upper face.
struct Seat<'a> {
    module: &'a str,
    solid: Solid<'a>,
}

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let seats: Vec<Seat> = ctx
        .built
        .iter()
        .flat_map(|(m, b)| {
            let sat = b.spans.iter().filter(|s| s.under == Under::Seat);
            sat.filter_map(move |s| {
                let board = view(ctx, m, &s.board)?;
                // A table that is lowered and a hatch carry a knee, but are no seats.
                let seat = ["lid", "top", "slat"].contains(&board.role.as_str());
                seat.then(|| Seat {
                    module: m,
                    solid: Solid::at(board, board.shut),
                })
            })
        })
        .collect();
    let tables = ctx.boards.iter().filter(|b| b.role == "table");
    let each = tables.filter_map(|t| {
        let table = used(ctx, t);
        let near = seats.iter().filter(|s| s.module != t.module);
        let near = near.map(|s| (apart(&table, &s.solid), s));
        let (_, seat) = near
            .filter(|(d, _)| *d <= FAR)
            .min_by(|a, b| a.0.total_cmp(&b.0))?;
        judge(ctx, t, &table, seat)
    });
    each.collect()
}

fn view<'a>(ctx: &'a Ctx, module: &str, board: &str) -> Option<&'a BoardView> {
    let id = format!("{module}/{board}");
    ctx.boards.iter().find(|b| b.id == id)
}

/// The table where one sits at it: pulled out, if it is pulled out; not lowered.
fn used<'a>(ctx: &Ctx, table: &'a BoardView) -> Solid<'a> {
    let body = ctx.bodies.get(&table.body).filter(|b| b.change.is_none());
    match body.map(|b| b.motion) {
        Some(motion @ Motion::Slide { .. }) => {
            let by = ctx.stops.get(&table.body).and_then(|f| f.stop.as_ref());
            let by = by.map_or(motion.whole(), |s| s.by);
            Solid::at(table, motion.carried(&table.shut, by))
        }
        _ => Solid::at(table, table.shut),
    }
}

/// How far two things are from each other in plan, mm.
fn apart(a: &Solid, b: &Solid) -> f64 {
    let gap = |k: usize| (a.low[k] - b.high[k]).max(b.low[k] - a.high[k]).max(0.0);
    gap(0).hypot(gap(1))
}

fn judge(ctx: &Ctx, t: &BoardView, table: &Solid, seat: &Seat) -> Option<Finding> {
    let over = seat.solid.high[2];
    let (thigh, elbow) = (table.low[2] - over, table.high[2] - over);
    // A shelf over a bench, or a low table before a high box, is not sat at.
    if !(0.0..=2.0 * ELBOW.1).contains(&elbow) {
        return None;
    }
    let name = |id: &str| {
        ctx.project
            .modules
            .get(id)
            .map_or(String::new(), |m| m.called())
    };
    let (table_name, seat_name) = (name(&t.module), name(seat.module));
    let w = &ctx.w;
    let (level, words) = if thigh < THIGH {
        (
            Severity::Look,
            format!(
                "only {} are under it for thighs, {} are wanted",
                w.say(thigh),
                w.say(THIGH)
            ),
        )
    } else if elbow > ELBOW.1 {
        (
            Severity::Look,
            format!(
                "it lies {} over the seat: elbows want no more than {}",
                w.say(elbow),
                w.say(ELBOW.1)
            ),
        )
    } else {
        (
            Severity::Fine,
            format!(
                "{} under it for thighs, {} from seat to table",
                w.say(thigh),
                w.say(elbow)
            ),
        )
    };
    let id = format!("knee.{}.{}", t.id, seat.module);
    let sentence = format!("At the {table_name} on the {seat_name}: {words}, without a cushion.");
    let mut f = Finding::new(id, level, "layout", sentence)
        .rule(
            format!(
                "{} for thighs; the table {} to {} over the seat",
                w.say(THIGH),
                w.say(ELBOW.0),
                w.say(ELBOW.1)
            ),
            "from memory: body sizes as in ISO 7250 tables",
        )
        .numbers(vec![
            w.step("", "table, from below", table.low[2]),
            w.step("-", "seat", over),
            w.step("=", "for thighs", thigh),
        ])
        .show("layout", t.module.clone());
    f.subject.clone_from(&t.id);
    let height = ctx.project.modules.get(&t.module);
    let height = height.and_then(|m| m.choices.get("height")?.as_f64());
    if let (Severity::Look, Some(now)) = (level, height) {
        let better = now + (ELBOW.0 + ELBOW.1) / 2.0 - elbow;
        let better = better.max(now + THIGH - thigh).round();
        f = f.offer(
            format!("Make it {} high", w.say(better)),
            "look what else it meets then".into(),
            set(
                format!("/modules/{}/choices/height", escape(&t.module)),
                better.into(),
            ),
        );
    }
    Some(f)
}
