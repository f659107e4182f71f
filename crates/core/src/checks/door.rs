//! Does every piece come through the rear opening?

use super::{Ctx, Finding, Severity, set};
use crate::build::joint::try_way;
use crate::geometry::pass::way_in;
use crate::project::deck::Split;

const SOURCE: &str = "rectangle in rectangle: Carver 1957, Wetzel 2000";

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for d in ctx.decks {
        let Some(worked) = d.worked else { continue };
        let Some(opening) = worked.demands.opening else {
            continue;
        };
        for (part, piece) in worked
            .parts
            .iter()
            .filter(|p| p.mark.starts_with('D'))
            .zip(&worked.parting.pieces)
        {
            let (w, h) = piece.size();
            let dims = [w, h, d.deck.thickness];
            let rule = format!(
                "its cross-section through {} x {} (readings' doubt taken off), what leads at most {} deep",
                ctx.w.say(opening.0),
                ctx.w.say(opening.1),
                ctx.w.say(worked.demands.depth)
            );
            let id = format!("door.{}.{}", d.id, part.id);
            let Some(way) = way_in(dims, opening, Some(worked.demands.depth)) else {
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
                for (how, word) in [
                    (Split::Lengthwise, "two, along"),
                    (Split::Across, "two, across"),
                    (Split::Quarters, "four"),
                ] {
                    let other = try_way(&[whole(worked)], &worked.lines, how, &worked.demands);
                    if other.through && other.on_sheet && how != worked.parting.how {
                        f = f.offer(
                            format!("Part it in {word}"),
                            format!("{} pieces, a joint to carry", other.pieces.len()),
                            set(d.at("split"), serde_json::to_value(how).unwrap_or_default()),
                        );
                    }
                }
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

/// The pieces put together again, as their common bounding shape.
fn whole(worked: &crate::build::deck::Worked) -> crate::geometry::region::Region {
    let (x0, y0, x1, y1) = crate::build::joint::bounds(&worked.parting.pieces);
    crate::geometry::region::Region::rectangle(x0, y0, x1, y1)
}
