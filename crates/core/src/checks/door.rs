//! Does every board, and what is bought, come through an opening?

use super::tips::parted_otherwise;
use super::{Ctx, Finding, Severity};
use crate::boards::BoardView;
use crate::geometry::pass::{WayIn, best_way};
use crate::parts::Part;
use crate::project::survey::REAR;
use crate::template::fill::SIGMAS;

const SOURCE: &str = "rectangle in rectangle: Carver 1957, Wetzel 2000";

/// A rectangle that an opening leaves free, mm.
type Opening = (f64, f64);

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let doubt = 2.0 * SIGMAS * ctx.model.sd;
    let openings = ctx.model.ways_through(REAR, doubt);
    if openings.is_empty() {
        return vec![];
    }
    let mut out = bought(ctx, &openings);
    for (id, module) in &ctx.project.modules {
        let parts = ctx.parts.iter().filter(|p| p.module == *id);
        let mut tightest: Option<(&Part, WayIn, Opening)> = None;
        let told = out.len();
        for part in parts {
            let (w, h) = part.outline.size();
            let dims = [w, h, part.thickness.value];
            match best_way(dims, &openings, ctx.model.length(0.0)) {
                Some((way, opening)) if !way.through.tilted => {
                    let least = tightest.map_or(f64::INFINITY, |t| t.1.through.spare);
                    if way.through.spare < least {
                        tightest = Some((part, way, opening));
                    }
                }
                Some((way, opening)) => {
                    let sentence = format!(
                        "{} passes the rear opening only turned by {:.0}°, its lower edge in a lower corner, {} to spare.",
                        part.mark,
                        way.through.angle_deg,
                        ctx.w.say(way.through.spare)
                    );
                    out.push(finding(ctx, part, Severity::Look, opening, sentence));
                }
                None => match ctx
                    .model
                    .turned_through(REAR, doubt, dims, ctx.model.length(0.0))
                {
                    // No rectangle inside the outline holds it, the outline itself does.
                    Some(deg) => {
                        let sentence = format!(
                            "{} passes the rear opening only turned by {deg:.0}°, its lower edge in a lower corner.",
                            part.mark
                        );
                        out.push(finding(ctx, part, Severity::Look, openings[0], sentence));
                    }
                    None => out.push(stuck(ctx, part, dims, openings[0])),
                },
            }
        }
        if let Some((part, way, opening)) = tightest {
            let sentence = format!(
                "{} boards of the {} pass the rear opening straight, the tightest, {}, with {} to spare.",
                if out.len() == told {
                    "All"
                } else {
                    "The other"
                },
                module.called(),
                part.mark,
                ctx.w.say(way.through.spare)
            );
            let mut f = finding(ctx, part, Severity::Fine, opening, sentence);
            f.id = format!("door.{id}");
            f.subject.clone_from(id);
            out.push(f);
        }
    }
    out
}

fn finding(ctx: &Ctx, part: &Part, level: Severity, to: Opening, sentence: String) -> Finding {
    let depth = ctx.model.length(0.0).unwrap_or_default();
    let rule = format!(
        "its cross-section through {} x {} (readings' doubt taken off), what leads at most {} deep",
        ctx.w.say(to.0),
        ctx.w.say(to.1),
        ctx.w.say(depth)
    );
    Finding::new(format!("door.{}", part.id), level, "layout", sentence)
        .rule(rule, SOURCE)
        .show("parts", part.id.clone())
}

/// A board that does not come through the rear opening: another door, or smaller pieces.
fn stuck(ctx: &Ctx, part: &Part, dims: [f64; 3], to: Opening) -> Finding {
    let mark = &part.mark;
    if let Some(by) = other_door(ctx, dims) {
        let sentence = format!("{mark} does not come through the rear opening; {by}.");
        return finding(ctx, part, Severity::Look, to, sentence);
    }
    let sentence = format!(
        "{mark} ({} x {}) does not come through the rear opening, upright or turned.",
        ctx.w.say(dims[0]),
        ctx.w.say(dims[1])
    );
    let mut f = finding(ctx, part, Severity::Stop, to, sentence);
    let lain_on = |b: &BoardView| b.role == "panel" && part.boards.contains(&b.id);
    let platform = ctx.platforms.iter().find(|d| d.id == part.module);
    if let Some((d, worked)) = platform.and_then(|d| Some((d, d.worked?)))
        && ctx.boards.iter().any(lain_on)
    {
        f.offers = parted_otherwise(d, worked, &|_| true);
    }
    f
}

/// What is bought goes in as it is.
fn bought(ctx: &Ctx, openings: &[Opening]) -> Vec<Finding> {
    let one = |b: &BoardView| {
        let (d, w) = b.outline.size();
        let dims = [w, d, b.thickness];
        let (level, how) = match best_way(dims, openings, ctx.model.length(0.0)) {
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
