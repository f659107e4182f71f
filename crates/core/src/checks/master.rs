//! Is a cheap master worth its hour? Where an edge along the vehicle is unsure and the board is large, it is tried in thin
//! stuff first.

use super::{Ctx, Finding, Severity};
use crate::parts::Part;
use crate::testfit::edge::{Lying, Unsure, unsure};

/// An edge that may be further off than this at two standard deviations is tried first, mm (a choice: a strip fills more, but
/// shows), if so much of it is.
const OFF: f64 = 4.0;
const LONG: f64 = 300.0;
/// Smaller boards are cut again without regret, mm2, and thinner ones are cheap themselves, mm (choices).
const LARGE: f64 = 0.15e6;
const THICK: f64 = 9.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut found: Vec<(&Part, Unsure)> = ctx
        .parts
        .iter()
        .filter_map(|p| Some((p, edge(ctx, p)?)))
        .collect();
    // The worst first.
    found.sort_by(|a, b| b.1.sd.total_cmp(&a.1.sd));
    let Some((first, worst)) = found.first() else {
        return vec![];
    };
    let w = ctx.w;
    let marks: Vec<String> = found.iter().map(|(p, _)| p.mark.clone()).collect();
    let alike = match first.boards.len() {
        1 => String::new(),
        n => format!(" One master serves all {n} of {}.", first.mark),
    };
    let sentence = format!(
        "The {} of {} may lie up to {} off along the {}. Measure there once more, or cut {} of card or thin ply first, hold that in place, and cut the board after it.{alike}",
        if marks.len() == 1 { "edge" } else { "edges" },
        marks.join(", "),
        w.say(2.0 * worst.sd),
        worst.of.word(),
        if marks.len() == 1 { "it" } else { "each" },
    );
    let numbers = found.iter().map(|(p, u)| {
        let label = format!("{}: doubt along the {}", p.mark, u.of.word());
        w.step("", label, u.sd)
    });
    let finding = Finding::new("master", Severity::Look, "parts", sentence)
        .numbers(numbers.collect())
        .rule(
            format!(
                "large boards whose edge may be {} off are tried in thin stuff first",
                w.say(OFF)
            ),
            "1/4 in before 3/4 in: common practice, no source; the limit is a choice",
        )
        .show("parts", first.mark.clone());
    vec![finding]
}

/// The unsure edge of a part that is worth a master. What was held in place once has been its own.
fn edge(ctx: &Ctx, part: &Part) -> Option<Unsure> {
    let mut own = ctx.fits.iter().filter(|f| f.rounds.is_empty());
    let board = own.find(|f| part.boards.contains(&f.board))?;
    if board.outline.area() < LARGE || part.thickness.value < THICK {
        return None;
    }
    let lying = Lying {
        outline: &board.fresh.outline,
        thickness: part.thickness.value,
        pose: &board.fresh.pose,
    };
    unsure(lying, OFF / 2.0, ctx.model).filter(|u| u.long >= LONG)
}
