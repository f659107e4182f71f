//! What it weighs, and what one person should not lift alone.

use super::{Ctx, Finding, Severity};
use crate::weight::of_all;

/// A load one person handles close to the body: guideline figure 25 kg of manual handling advice
/// (from memory); less is right for many.
const ONE_PERSON: f64 = 25.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let bought = ctx.boards.iter().filter(|b| b.bought);
    let bought: f64 = bought.map(|b| b.mass).sum();
    if ctx.parts.is_empty() && bought <= 0.0 {
        return vec![];
    }
    let deck: f64 = ctx.parts.iter().map(|p| p.mass * f64::from(p.count)).sum();
    let gear: f64 = ctx
        .project
        .gear
        .values()
        .map(|g| g.mass.unwrap_or(0.0) * f64::from(g.count))
        .sum();
    let unknown = ctx
        .project
        .gear
        .values()
        .filter(|g| g.mass.is_none())
        .count();
    let heaviest = ctx.parts.iter().max_by(|a, b| a.mass.total_cmp(&b.mass));
    let mut sentence = format!("The build weighs {}", ctx.w.mass(deck.round()));
    if bought > 0.0 {
        sentence.push_str(&format!(", what is bought {}", ctx.w.mass(bought.round())));
    }
    if gear > 0.0 {
        sentence.push_str(&format!(", the stow list {}", ctx.w.mass(gear.round())));
    }
    if unknown > 0 && !ctx.project.gear.is_empty() {
        let things = if unknown == 1 { "thing" } else { "things" };
        sentence.push_str(&format!(" ({unknown} {things} not weighed)"));
    }
    sentence.push('.');
    let mut numbers = vec![];
    if let Some([x, y, z]) = of_all(ctx.boards).map(|c| c.at) {
        let side = match y.round() {
            0.0 => "on the centre line".to_string(),
            y if y > 0.0 => format!("{} left of the centre line", ctx.w.say(y)),
            y => format!("{} right of the centre line", ctx.w.say(-y)),
        };
        sentence.push_str(&format!(
            " The middle of its weight lies {} from the threshold, {side}, {} over the floor.",
            ctx.w.say(x.round()),
            ctx.w.say(z.round())
        ));
        numbers = vec![
            ctx.w.step("", "in from the threshold", x),
            ctx.w.step("", "left of the centre line", y),
            ctx.w.step("", "over the floor", z),
        ];
    }
    let mut out =
        vec![Finding::new("weight", Severity::Fine, "parts", sentence).numbers(numbers).rule(
        "area x thickness x density of the material; stay within the vehicle's own load limits",
        "densities: see materials",
    )];
    if let Some(p) = heaviest.filter(|p| p.mass > ONE_PERSON) {
        out.push(
            Finding::new(
                "lift",
                Severity::Look,
                "parts",
                format!(
                    "{} weighs {}: lift it with two.",
                    p.mark,
                    ctx.w.mass(p.mass.round())
                ),
            )
            .rule(
                format!("more than {} is for two", ctx.w.mass(ONE_PERSON)),
                "manual handling guideline figure, from memory",
            )
            .show("parts", p.id.clone()),
        );
    }
    out
}
