//! Which boards can a shop cut on its saw, in straight lines from the list, and which are left for jigsaw or guide rail at home?

use super::{Ctx, Finding, Severity};
use crate::parts::Part;

/// A corner is square if the board fills its blank but for so much, mm2: what marks are rounded by.
const SAME: f64 = 2.0;
/// No more marks are named.
const NAMED: usize = 12;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let wood = ctx.parts.iter().filter(|p| !sold_by_length(ctx, p));
    let (shop, home): (Vec<&Part>, Vec<&Part>) = wood.partition(|p| straight(p));
    let count = |parts: &[&Part]| parts.iter().map(|p| p.count).sum::<u32>();
    let (n, all) = (count(&shop), count(&shop) + count(&home));
    if all == 0 {
        return vec![];
    }
    let mut words = match n {
        0 => format!("None of {all} boards has four square corners: a shop cuts strips at most."),
        n if n == all => format!(
            "All {all} boards have four square corners: a shop can cut them from the list in straight lines."
        ),
        n => format!(
            "{n} of {all} boards have four square corners: a shop can cut them from the list in straight lines."
        ),
    };
    if !home.is_empty() {
        let marks: Vec<&str> = home.iter().map(|p| p.mark.as_str()).take(NAMED).collect();
        let more = match home.len().saturating_sub(NAMED) {
            0 => String::new(),
            n => format!(" and {n} more"),
        };
        words.push_str(&format!(
            " At home, with jigsaw or guide rail: {}{more}.",
            marks.join(", ")
        ));
    }
    let f = Finding::new("straight", Severity::Fine, "cut", words).rule(
        "four square corners, no opening, no edge sawn at an angle; grooves and round holes are made afterwards",
        "common practice, no source",
    );
    vec![f]
}

/// Lumber and angle are cut to length only.
fn sold_by_length(ctx: &Ctx, p: &Part) -> bool {
    let material = ctx.project.material(&p.material);
    material.is_some_and(|m| m.bar.is_some())
}

/// It fills its blank, and nothing is sawn out of it.
fn straight(p: &Part) -> bool {
    let (w, h) = p.outline.size();
    let sawn = |kind: &str| matches!(kind, "window" | "relief");
    let whole = !p.features.iter().any(|f| sawn(&f.kind));
    whole && p.bevels.is_empty() && w * h - p.outline.filled() < SAME
}
