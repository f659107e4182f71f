//! Do lids, shelves, drawer bottoms and boards that are pulled out bend too far?

use std::collections::BTreeMap;

use super::{Ctx, Finding, Severity, set};
use crate::furniture::built::{Span, Under};
use crate::furniture::platform::span::{KNEE_WIDTH, burden};
use crate::input::escape;
use crate::mechanics::beam::{Beam, Load, overhang};
use crate::mechanics::material::Grain;
use crate::units::GRAVITY;

/// Limits (choices): under one who sits or kneels, mm; a shelf over its sag; a board that is pulled out.
const SEAT: f64 = 5.0;
const SHELF_OVER: f64 = 200.0;
const END_OVER: f64 = 60.0;
/// What is put on the free end of a board that is pulled out, kg (a choice: an elbow and a plate).
const ON_END: f64 = 10.0;

/// How far a board bends, and how far it may, mm.
struct Bends {
    by: f64,
    most: f64,
    /// What bends it, in words.
    under: String,
}

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for (module, built) in ctx.built {
        let mut good: BTreeMap<&str, f64> = BTreeMap::new();
        for span in &built.spans {
            let Some(board) = built.boards.iter().find(|b| b.id == span.board) else {
                continue;
            };
            let grain = if span.along {
                Grain::Along
            } else {
                Grain::Across
            };
            let material = ctx.project.material(&board.material);
            let Some(e) = material.and_then(|m| m.modulus(board.thickness, grain)) else {
                continue;
            };
            let Some(bends) = bends(ctx, span, board.thickness, e) else {
                continue;
            };
            if bends.by <= bends.most {
                let worst = good.entry(&span.name).or_insert(0.0);
                *worst = worst.max(bends.by);
                continue;
            }
            out.push(too_far(ctx, module, span, &bends));
        }
        if good.is_empty() {
            continue;
        }
        let list: Vec<String> = good
            .iter()
            .map(|(name, by)| format!("{name} {}", ctx.w.say((by * 10.0).round() / 10.0)))
            .collect();
        out.push(
            rule(Finding::new(
                format!("bends.{module}"),
                Severity::Fine,
                "layout",
                format!("Bends little enough: {}.", list.join(", ")),
            ))
            .show("layout", module),
        );
    }
    out
}

fn rule(f: Finding) -> Finding {
    f.rule(
        format!(
            "{SEAT:.0} mm under one who sits or kneels, a {SHELF_OVER:.0}th of the span under things, a {END_OVER:.0}th of what is pulled out under {ON_END:.0} kg"
        ),
        "continuous beam over its supports, Euler-Bernoulli; P a^2 (L + a) / 3 E I at a free end, handbook, from memory; limits are choices",
    )
}

fn too_far(ctx: &Ctx, module: &str, span: &Span, bends: &Bends) -> Finding {
    let mut f = rule(Finding::new(
        format!("bend.{module}.{}", span.board),
        Severity::Stop,
        "layout",
        format!(
            "The {} bends {} {}: {} is the most.",
            span.name,
            ctx.w.say((bends.by * 10.0).round() / 10.0),
            bends.under,
            ctx.w.say((bends.most * 10.0).round() / 10.0)
        ),
    ))
    .numbers(vec![
        ctx.w.step("", "longest stretch", longest(span)),
        ctx.w.step("", "width that carries", span.width),
        ctx.w.step("", "bends", bends.by),
    ])
    .show("layout", module);
    f.subject = format!("{module}/{}", span.board);
    for ease in &span.eases {
        let at = format!("/modules/{}{}", escape(module), ease.pointer);
        let patch = set(at, ease.value.clone());
        f = f.offer(ease.label.clone(), ease.cost.clone(), patch);
    }
    f
}

fn longest(span: &Span) -> f64 {
    span.spans.iter().copied().fold(0.0, f64::max)
}

fn bends(ctx: &Ctx, span: &Span, depth: f64, e: f64) -> Option<Bends> {
    let all: f64 = span.spans.iter().sum();
    let depth = match span.under {
        Under::Edge(high) => high,
        _ => depth,
    };
    let beam = |width: f64, loads: Vec<Load>| Beam {
        spans: span.spans.clone(),
        width,
        depth,
        e,
        loads,
    };
    match span.under {
        Under::Seat | Under::Edge(_) => {
            let knee = burden(ctx.project).knee;
            let mut at = 0.0;
            let mut worst: f64 = 0.0;
            for s in &span.spans {
                let n = Load::Point {
                    n: knee,
                    at: at + s / 2.0,
                };
                let bent = beam(span.width.min(KNEE_WIDTH), vec![n]).bend()?;
                worst = worst.max(bent.max_deflection);
                at += s;
            }
            Some(Bends {
                by: worst,
                most: SEAT,
                under: "under one who sits or kneels on it".into(),
            })
        }
        Under::Things(kg) => {
            let q = kg * GRAVITY / all.max(1.0);
            let load = Load::Uniform {
                q,
                from: 0.0,
                to: all,
            };
            let bent = beam(span.width, vec![load]).bend()?;
            Some(Bends {
                by: bent.max_deflection,
                most: longest(span) / SHELF_OVER,
                under: format!("under {}", ctx.w.mass(kg.round())),
            })
        }
        Under::End(held) => {
            let by = overhang(ON_END * GRAVITY, (held, all), (span.width, depth), e);
            Some(Bends {
                by,
                most: all / END_OVER,
                under: format!("with {} at its end", ctx.w.mass(ON_END)),
            })
        }
    }
}
