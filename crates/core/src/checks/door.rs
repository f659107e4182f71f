//! Does every piece of a deck, and what is bought, come through an opening?

use super::tips::parted_otherwise;
use super::{Ctx, Finding, Severity};
use crate::boards::BoardView;
use crate::furniture::deck::SIGMAS;
use crate::geometry::pass::best_way;
use crate::project::deck::Top;
use crate::project::survey::REAR;

const SOURCE: &str = "rectangle in rectangle: Carver 1957, Wetzel 2000";

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = bought(ctx);
    for d in ctx.decks {
        let Some(worked) = d.worked else { continue };
        let openings = &worked.demands.opening;
        if openings.is_empty() {
            continue;
        }
        // One panel for each piece, in the same order; slats go in singly.
        let panels = ctx.parts.iter();
        let panels = panels.filter(|p| p.module == d.id && p.id.contains("/panel-"));
        for (part, piece) in panels
            .filter(|_| d.deck.top == Top::Solid)
            .zip(&worked.parting.pieces)
        {
            let (w, h) = piece.size();
            let dims = [w, h, d.deck.thickness];
            let way = best_way(dims, openings, Some(worked.demands.depth));
            let opening = way.map_or(openings[0], |w| w.1);
            let rule = format!(
                "its cross-section through {} x {} (readings' doubt taken off), what leads at most {} deep",
                ctx.w.say(opening.0),
                ctx.w.say(opening.1),
                ctx.w.say(worked.demands.depth)
            );
            let id = format!("door.{}.{}", d.id, part.id);
            let Some((way, _)) = way else {
                if let Some(by) = other_door(ctx, dims) {
                    out.push(
                        Finding::new(
                            id,
                            Severity::Look,
                            "layout",
                            format!(
                                "{} does not come through the rear opening; {by}.",
                                part.mark
                            ),
                        )
                        .rule(rule, SOURCE)
                        .show("parts", part.id.clone()),
                    );
                    continue;
                }
                let mut f = Finding::new(
                    id,
                    Severity::Stop,
                    "layout",
                    format!(
                        "{} ({} x {}) does not come through the rear opening, upright or turned.",
                        part.mark,
                        ctx.w.say(w),
                        ctx.w.say(h)
                    ),
                )
                .rule(rule, SOURCE)
                .show("parts", part.id.clone());
                f.offers = parted_otherwise(d, worked, &|_| true);
                out.push(f);
                continue;
            };
            let (level, how) = if way.through.tilted {
                (
                    Severity::Look,
                    format!("only turned by {:.0}°", way.through.angle_deg),
                )
            } else {
                (Severity::Fine, "straight".to_string())
            };
            out.push(
                Finding::new(
                    id,
                    level,
                    "layout",
                    format!(
                        "{} passes the rear opening {how}, {} to spare.",
                        part.mark,
                        ctx.w.say(way.through.spare)
                    ),
                )
                .rule(rule, SOURCE)
                .show("parts", part.id.clone()),
            );
        }
    }
    out
}

/// What is bought goes in as it is.
fn bought(ctx: &Ctx) -> Vec<Finding> {
    let doubt = 2.0 * SIGMAS * ctx.model.sd;
    let openings = ctx.model.ways_through(REAR, doubt);
    if openings.is_empty() {
        return vec![];
    }
    let one = |b: &BoardView| {
        let (d, w) = b.outline.size();
        let dims = [w, d, b.thickness];
        let (level, how) = match best_way(dims, &openings, ctx.model.length(0.0)) {
            Some((way, _)) if way.through.tilted => {
                let how = format!(
                    "passes the rear opening only turned by {:.0}°",
                    way.through.angle_deg
                );
                (Severity::Look, how)
            }
            Some((way, _)) => {
                let spare = ctx.w.say(way.through.spare);
                let how = format!("passes the rear opening straight, {spare} to spare");
                (Severity::Fine, how)
            }
            None => match other_door(ctx, dims) {
                Some(by) => {
                    let how = format!("does not come through the rear opening; {by}");
                    (Severity::Look, how)
                }
                None => (
                    Severity::Stop,
                    "does not come through any door that was measured, whichever way it is held"
                        .into(),
                ),
            },
        };
        let [w, d, h] = dims.map(|mm| ctx.w.say(mm));
        let sentence = format!("The {} ({w} x {d} x {h}) {how}.", b.mark);
        Finding::new(format!("door.{}", b.id), level, "layout", sentence)
            .rule(
                "one of its three cross-sections through the opening, the readings' doubt taken off",
                SOURCE,
            )
            .show("layout", b.module.clone())
    };
    ctx.boards.iter().filter(|b| b.bought).map(one).collect()
}

/// Another door that a piece comes through, in words.
fn other_door(ctx: &Ctx, dims: [f64; 3]) -> Option<String> {
    let doubt = 2.0 * SIGMAS * ctx.model.sd;
    let openings = &ctx.project.survey.openings;
    openings
        .iter()
        .filter(|(id, _)| *id != REAR)
        .find_map(|(id, o)| {
            let (way, _) = best_way(dims, &ctx.model.ways_through(id, doubt), o.depth)?;
            let how = if way.through.tilted {
                format!("turned by {:.0}°", way.through.angle_deg)
            } else {
                "straight".into()
            };
            let first = if o.seat_first {
                ", a seat moved first"
            } else {
                ""
            };
            Some(format!("it comes in by the {} {how}{first}", o.name))
        })
}
