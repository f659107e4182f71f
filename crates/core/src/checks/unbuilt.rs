//! Furniture of which no board can be made: without a word it would only be missing from the drawing.

use super::{Ctx, Finding, Severity};

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    // Without a bay nothing is built, and the survey asks for it.
    if ctx.model.length(0.0).is_none() {
        return vec![];
    }
    // A deck whose height is not chosen yet is asked for.
    let open = |id: &str| {
        let deck = ctx.platforms.iter().find(|d| d.id == id);
        deck.is_some_and(|d| d.platform.underside.is_none())
    };
    let made = |id: &str| {
        let built = ctx.built.get(id);
        built.is_some_and(|b| !b.boards.is_empty() || !b.bought.is_empty())
    };
    let all = ctx.project.modules.iter();
    all.filter(|(id, _)| !made(id) && !open(id))
        .map(|(id, m)| {
            Finding::new(
                format!("unbuilt.{id}"),
                Severity::Stop,
                "layout",
                format!(
                    "Of the {} nothing can be built: it does not go in where it is to stand. Make it smaller or move it.",
                    m.called()
                ),
            )
            .rule(
                "a piece lies between the walls, the floor and the front, less its clearances",
                "the survey",
            )
            .show("layout", id.clone())
        })
        .collect()
}
