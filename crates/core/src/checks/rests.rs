//! Does a piece that stands on another have it under its feet?

use serde_json::json;

use super::{Ctx, Finding, Severity};
use crate::input::escape;
use crate::solids::Solid;

/// What reaches up to the feet within this carries them, mm.
const TOUCH: f64 = 5.0;
/// Feet may stand so far beyond what carries them, mm (a choice: as a board beyond its last support).
const BEYOND: f64 = 120.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let modules = ctx.project.modules.iter();
    let on = modules.filter_map(|(id, m)| Some((id.as_str(), m.called(), m.place.on.as_deref()?)));
    let all: Vec<Solid> = ctx.boards.iter().map(|b| Solid::at(b, b.shut)).collect();
    on.filter_map(|(id, name, host)| one(ctx, &all, (id, &name), host))
        .collect()
}

fn one(ctx: &Ctx, all: &[Solid], (id, name): (&str, &str), host: &str) -> Option<Finding> {
    let own = || all.iter().filter(|s| s.board.module == id);
    let foot = own().map(|s| s.low[2]).reduce(f64::min)?;
    let feet = around(own().filter(|s| s.low[2] < foot + TOUCH))?;
    let carries = |s: &&Solid| {
        let under = (0..2).all(|k| s.low[k] < feet[k][1] && s.high[k] > feet[k][0]);
        s.board.module != id && (s.high[2] - foot).abs() <= TOUCH && under
    };
    let host = ctx.project.modules.get(host).map(|m| m.called())?;
    let (level, words) = match around(all.iter().filter(carries)) {
        None => (
            Severity::Stop,
            format!(
                "The {name} is to stand on the {host}, but nothing is under it there: it would hang in the air."
            ),
        ),
        Some(below) => {
            let over = |k: usize| (below[k][0] - feet[k][0]).max(feet[k][1] - below[k][1]);
            let beyond = over(0).max(over(1));
            let middle = |k: usize| f64::midpoint(feet[k][0], feet[k][1]);
            let tips = (0..2).any(|k| !(below[k][0]..=below[k][1]).contains(&middle(k)));
            if !tips && beyond <= BEYOND {
                return None;
            }
            let beyond = ctx.w.say(beyond.round());
            match tips {
                true => (
                    Severity::Stop,
                    format!(
                        "The {name} stands {beyond} beyond what carries it, its middle too: it tips off the {host}."
                    ),
                ),
                false => (
                    Severity::Look,
                    format!("The {name} stands {beyond} beyond what carries it on the {host}."),
                ),
            }
        }
    };
    let floor = json!([{ "op": "remove", "path": format!("/modules/{}/place/on", escape(id)) }]);
    let f = Finding::new(format!("rests.{id}"), level, "layout", words)
        .rule(
            format!(
                "feet stand on boards that reach up to them, their middle over those, no more than {} beyond",
                ctx.w.say(BEYOND)
            ),
            "a choice",
        )
        .show("layout", id)
        .offer("Put it on the floor".into(), String::new(), floor);
    Some(f)
}

/// The rectangle round them in plan: least and greatest along, and across.
fn around<'s, 'b: 's>(of: impl Iterator<Item = &'s Solid<'b>>) -> Option<[[f64; 2]; 2]> {
    let one = |s: &Solid| [0, 1].map(|k| [s.low[k], s.high[k]]);
    of.map(one)
        .reduce(|a, b| [0, 1].map(|k: usize| [a[k][0].min(b[k][0]), a[k][1].max(b[k][1])]))
}
