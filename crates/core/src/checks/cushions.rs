//! The mattress of a bed that comes apart: which cushions it is cut into, and what is left of it.

use super::bed::beds;
use super::{Ctx, Finding, Severity};
use crate::cushions::{Cushion, CutUp, cushions, cut_up};
use crate::furniture::built::FIXED;
use crate::project::states::asleep;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    if ctx.platforms.iter().all(|d| d.worked.is_none()) && beds(ctx).is_empty() {
        return vec![];
    }
    let all = cushions(ctx.project, ctx.boards, asleep(&ctx.project.states));
    let cut = cut_up(ctx.project, &all);
    // A bed in one piece with a mattress of which only the thickness is known is no question.
    if all.is_empty() || all.len() == 1 && cut.is_none() {
        return vec![];
    }
    let names: Vec<String> = all.iter().map(|c| named(ctx, c)).collect();
    let w = ctx.w;
    let mut words = match all.len() {
        1 => format!("The mattress lies on {} in one piece.", names[0]),
        n => format!("The bed comes apart: {n} cushions, {}.", names.join("; ")),
    };
    let short = cut.as_ref().is_some_and(|c| !c.short.is_empty());
    if let Some(c) = &cut {
        words.push_str(&told(ctx, c, &names));
    }
    let level = if short {
        Severity::Look
    } else {
        Severity::Fine
    };
    let thick = ctx.project.mattress.thickness.unwrap_or(0.0);
    let sag = ctx.project.mattress.sag.unwrap_or(0.0);
    let seats = all.iter().filter(|c| thick > 0.0 && is_seat(ctx, c));
    let numbers = seats.map(|c| {
        let name = format!("seat on {}, sat on", called(ctx, c));
        w.step("", name, c.height + thick - sag)
    });
    vec![
        Finding::new("cushions", level, "stow", words)
            .numbers(numbers.collect())
            .rule(
                "a cushion for each piece that moves or belongs to other furniture, 5 mm smaller each way; the mattress is cut right across each time",
                "a choice",
            ),
    ]
}

/// How the mattress is cut, in words.
fn told(ctx: &Ctx, c: &CutUp, names: &[String]) -> String {
    let w = ctx.w;
    let mut out = String::new();
    let places = |across: bool| {
        let own = c.cuts.iter().filter(|k| k.0 == across);
        own.map(|k| w.say(k.1)).collect::<Vec<_>>().join(", ")
    };
    let (across, along) = (places(true), places(false));
    if !across.is_empty() {
        out.push_str(&format!(" Cut across at {across} of its length."));
    }
    if !along.is_empty() {
        out.push_str(&format!(" Cut along at {along} of its width."));
    }
    if let Some([a, b]) = c.left.first() {
        out.push_str(&format!(" Left over: {} by {}.", w.bare(*a), w.say(*b)));
    }
    for i in &c.short {
        out.push_str(&format!(" It does not suffice for {}.", names[*i]));
    }
    out
}

fn is_seat(ctx: &Ctx, c: &Cushion) -> bool {
    let deck = ctx.platforms.iter().any(|d| d.id == c.on.0);
    !deck && c.on.1.contains("lid")
}

/// The piece on which it lies.
fn called(ctx: &Ctx, c: &Cushion) -> String {
    let module = ctx.project.modules.get(&c.on.0);
    let name = module.map_or(c.on.0.clone(), |m| m.called());
    let fixed = format!("{}/{FIXED}", c.on.0);
    if c.on.1 == fixed {
        return format!("the {name}");
    }
    let built = ctx.built.get(&c.on.0);
    let body = built.and_then(|b| b.bodies.iter().find(|b| b.id == c.on.1));
    body.map_or(format!("the {name}"), |b| format!("the {}", b.name))
}

fn named(ctx: &Ctx, c: &Cushion) -> String {
    let shape = if c.shaped { ", cut to its shape" } else { "" };
    format!(
        "{} by {} on {}{shape}",
        ctx.w.bare(c.size[0]),
        ctx.w.say(c.size[1]),
        called(ctx, c)
    )
}
