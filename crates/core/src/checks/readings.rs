//! Readings that contradict each other: repeats, wall to wall, width of a well against its face.

use super::{Ctx, Finding, Severity, set};
use crate::input::escape;
use crate::project::survey::{Quantity, Side, ThingDim};
use crate::survey::drawing::what;
use crate::survey::known::{Disagreement, LIMIT};

const RULE: &str = "a reading may differ from the others by three times its noise";
const SOURCE: &str = "three standard deviations, a choice";

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = repeats(ctx);
    out.extend(across(ctx));
    out.extend(wells(ctx));
    out.extend(sides(ctx));
    out
}

/// Repeats of one quantity. Of two readings neither is known to be the wrong one.
fn repeats(ctx: &Ctx) -> Vec<Finding> {
    let mut out: Vec<Finding> = Vec::new();
    let mut seen: Vec<String> = Vec::new();
    for d in &ctx.model.disagree {
        let key = d.quantity.key();
        if seen.contains(&key) {
            continue;
        }
        let all: Vec<&Disagreement> = ctx
            .model
            .disagree
            .iter()
            .filter(|o| o.quantity.key() == key)
            .collect();
        // With three or more readings the one furthest from the rest is the suspect.
        let Some(worst) = all.iter().max_by(|a, b| {
            (a.says - a.others)
                .abs()
                .total_cmp(&(b.says - b.others).abs())
        }) else {
            continue;
        };
        let count = ctx.model.get(&d.quantity).map_or(0, |k| k.readings.len());
        let sentence = if count == 2 {
            format!(
                "{} was read twice and the readings do not agree: {} and {}. Measure it again.",
                what(ctx.project, &d.quantity),
                ctx.w.say(worst.says),
                ctx.w.say(worst.others)
            )
        } else {
            format!(
                "{}: one reading says {}, the others {}.",
                what(ctx.project, &d.quantity),
                ctx.w.say(worst.says),
                ctx.w.say(worst.others)
            )
        };
        let mut finding = Finding::new(format!("repeat.{key}"), Severity::Stop, "survey", sentence)
            .rule(RULE, SOURCE)
            .numbers(vec![
                ctx.w.step("", "this reading", worst.says),
                ctx.w.step("", "the others", worst.others),
                ctx.w.step("", "allowed difference", LIMIT * worst.sd),
            ])
            .show("survey", key.clone());
        let suspects: Vec<&Disagreement> = if count == 2 { all } else { vec![*worst] };
        for s in suspects {
            finding = finding.offer(
                format!("Set aside {}", ctx.w.say(s.says)),
                format!("{} counts", ctx.w.say(s.others)),
                set(
                    format!("/survey/readings/{}/aside", escape(&s.reading)),
                    true.into(),
                ),
            );
        }
        out.push(finding);
        seen.push(key);
    }
    out
}

/// Wall to wall against left plus right.
fn across(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for k in ctx.model.known.values() {
        let Quantity::Width { x, z } = k.quantity else {
            continue;
        };
        let wall = |side| ctx.model.get(&Quantity::Wall { side, x, z });
        let (Some(l), Some(r)) = (wall(Side::Left), wall(Side::Right)) else {
            continue;
        };
        let difference = k.mm - (l.mm + r.mm);
        let allowed = LIMIT * l.sd.hypot(r.sd).hypot(k.sd);
        if difference.abs() <= allowed {
            continue;
        }
        out.push(
            Finding::new(
                format!("across.{}", k.quantity.key()),
                Severity::Stop,
                "survey",
                format!(
                    "{} in, left and right make {}, but wall to wall reads {}. One of the three is wrong: measure each again.",
                    ctx.w.say(x),
                    ctx.w.say(l.mm + r.mm),
                    ctx.w.say(k.mm)
                ),
            )
            .rule("left + right = wall to wall, within three times the noise of all three", SOURCE)
            .numbers(vec![
                ctx.w.step("", "left", l.mm),
                ctx.w.step("+", "right", r.mm),
                ctx.w.step("-", "wall to wall", k.mm),
                ctx.w.step("=", "difference", -difference),
                ctx.w.step("", "allowed", allowed),
            ])
            .show("survey", k.quantity.key()),
        );
    }
    out
}

/// A well's width from the wall against its face from the centre line.
fn wells(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for o in ctx.model.things() {
        let get = |dim| {
            ctx.model.get(&Quantity::Thing {
                id: o.id.clone(),
                dim,
            })
        };
        let (Some(width), Some(face)) = (get(ThingDim::Width), get(ThingDim::Face)) else {
            continue;
        };
        let middle = (o.x.0 + o.x.1) / 2.0;
        let Some((wall, sd)) = ctx.model.wall(o.side, middle, o.z.0) else {
            continue;
        };
        let difference = wall - width.mm - face.mm;
        let allowed = LIMIT * sd.hypot(width.sd).hypot(face.sd);
        if difference.abs() > allowed {
            out.push(
                Finding::new(
                    format!("well.{}", o.id),
                    Severity::Look,
                    "survey",
                    format!(
                        "The {}: wall less width puts its face {} from the centre, measured from the centre it is {}.",
                        o.name,
                        ctx.w.say(wall - width.mm),
                        ctx.w.say(face.mm)
                    ),
                )
                .rule("wall - width = face, within three times the noise of all three", SOURCE)
                .numbers(vec![
                    ctx.w.step("", format!("{} wall there", o.side.word()), wall),
                    ctx.w.step("-", "width", width.mm),
                    ctx.w.step("-", "face from centre", face.mm),
                    ctx.w.step("=", "difference", difference),
                ])
                .show("survey", face.quantity.key()),
            );
        }
    }
    out
}

/// How far the two sides differ: a reminder not to mirror a template.
fn sides(ctx: &Ctx) -> Vec<Finding> {
    let mut worst: Option<(f64, f64, f64)> = None;
    for x in ctx.model.stations(Side::Left) {
        for z in ctx.model.levels(Side::Left) {
            let get = |side| ctx.model.get(&Quantity::Wall { side, x, z });
            if let (Some(l), Some(r)) = (get(Side::Left), get(Side::Right)) {
                let d = (l.mm - r.mm).abs();
                if worst.is_none_or(|w| d > w.0) {
                    worst = Some((d, x, z));
                }
            }
        }
    }
    let Some((d, x, z)) = worst.filter(|w| w.0 > LIMIT * ctx.model.sd) else {
        return vec![];
    };
    vec![
        Finding::new(
            "sides",
            Severity::Look,
            "survey",
            format!(
                "Left and right differ by up to {}, {} in. Do not mirror one template.",
                ctx.w.say(d),
                ctx.w.say(x)
            ),
        )
        .rule(
            "both sides measured, never mirrored",
            "common practice, no source",
        )
        .show(
            "survey",
            Quantity::Wall {
                side: Side::Left,
                x,
                z,
            }
            .key(),
        ),
    ]
}
