//! Do the sheets that were accepted, and the parts that are cut, still match the plan?

use std::collections::BTreeMap;

use super::{Ctx, Finding, Severity};
use crate::cutting::accepted::Standing;
use crate::cutting::sheets::PlacedView;

/// A part that differs by no more than this still fits where it was meant for, mm (a choice: the least gap that a deck
/// keeps from a wall).
const SMALL: f64 = 2.0;
/// So many parts are named in a sentence.
const NAMED: usize = 6;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let Some(accepted) = &ctx.project.cutting.accepted else {
        return vec![];
    };
    let sheets = || ctx.sheets.iter().flat_map(|g| &g.sheets);
    let on = |stays: bool| {
        let own = sheets().filter(move |s| s.accepted == stays);
        own.flat_map(|s| s.parts.iter().map(move |p| (s, p)))
    };
    let mut out = Vec::new();
    // A part that is cut is as it is: each by itself.
    let mut cut: BTreeMap<&str, &PlacedView> = BTreeMap::new();
    for (_, p) in on(true).filter(|(_, p)| p.cut && p.standing == Standing::Changed) {
        cut.insert(&p.part, p);
    }
    for (id, p) in &cut {
        let now = ctx.parts.iter().find(|q| q.id == *id);
        let then = sizes(p);
        let now = now.map(|q| (q.w.value, q.h.value));
        let words = match now {
            Some((w, h)) if (w - then.0).abs() > 1e-6 || (h - then.1).abs() > 1e-6 => {
                format!("the plan wants {} x {} now", ctx.w.bare(w), ctx.w.say(h))
            }
            _ => "the plan wants another shape of it now".into(),
        };
        let sentence = format!(
            "{} is cut, {} x {}: {words}. Take the change back, or cut it again.",
            p.mark,
            ctx.w.bare(then.0),
            ctx.w.say(then.1)
        );
        let level = grave(p.off);
        out.push(
            Finding::new(format!("cut.{id}"), level, "cut", sentence)
                .rule("a part that is cut stays as it is", "the accepted sheets")
                .show("cut", (*id).to_string()),
        );
    }
    let marks = |standing: Standing| {
        let own = on(true)
            .filter(|(_, p)| p.standing == standing && !(p.cut && standing == Standing::Changed));
        names(own.map(|(s, p)| format!("{} on {}", p.mark, s.mark)))
    };
    let mut told = |id: &str, level: Severity, sentence: String| {
        out.push(
            Finding::new(id, level, "cut", sentence)
                .rule(
                    "accepted sheets stay until others are accepted; sheets that were begun stay then, too",
                    "the accepted sheets",
                )
                .show("cut", ""),
        );
    };
    if let Some(list) = marks(Standing::Changed) {
        let changed = on(true).filter(|(_, p)| p.standing == Standing::Changed && !p.cut);
        let most = changed.map(|(_, p)| p.off).fold(0.0, f64::max);
        let by = match most.is_finite() {
            true => format!(
                "by up to {}",
                ctx.w.say(most.max(ctx.project.units.marks().mm()))
            ),
            false => "to another board".into(),
        };
        let words = format!(
            "Changed since the sheets were accepted, {by}: {list}. Lay the sheets out again before you cut them."
        );
        told("accepted.changed", grave(most), words);
    }
    if let Some(list) = marks(Standing::Replaced) {
        let words = format!(
            "Another sheet has these as the plan wants them now: {list}. Do not cut the old ones."
        );
        told("accepted.replaced", Severity::Look, words);
    }
    if let Some(list) = marks(Standing::Gone) {
        let words = format!("The plan no longer has these parts: {list}.");
        told("accepted.gone", Severity::Look, words);
    }
    if let Some(list) = names(on(false).map(|(_, p)| p.mark.clone())) {
        let words = format!("On no accepted sheet yet: {list}.");
        told("accepted.new", Severity::Look, words);
    }
    if out.is_empty() {
        let n = accepted.sheets.len();
        let sheets = if n == 1 { "sheet is" } else { "sheets are" };
        let words = format!("The {n} accepted {sheets} as the plan wants them.");
        out.push(Finding::new("accepted", Severity::Fine, "cut", words).rule(
            "every part on them is as it was accepted",
            "the accepted sheets",
        ));
    }
    out
}

/// A change by so much, mm.
fn grave(off: f64) -> Severity {
    if off > SMALL {
        Severity::Stop
    } else {
        Severity::Look
    }
}

/// Width and height of a part as it stands on its card.
fn sizes(p: &PlacedView) -> (f64, f64) {
    if p.rotated { (p.h, p.w) } else { (p.w, p.h) }
}

/// Each once, the first few by name.
fn names(all: impl Iterator<Item = String>) -> Option<String> {
    let mut list: Vec<String> = all.collect();
    list.dedup();
    if list.is_empty() {
        return None;
    }
    let more = list.len().saturating_sub(NAMED);
    list.truncate(NAMED);
    let list = list.join(", ");
    Some(if more > 0 {
        format!("{list} and {more} more")
    } else {
        list
    })
}
