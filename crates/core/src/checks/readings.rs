//! Readings that contradict each other, readings that do not suit their neighbours, and what most
//! likely happened: two sides swapped, inches typed for centimetres.

use serde_json::json;

use super::{Ctx, Finding, Severity, set};
use crate::input::escape;
use crate::project::survey::{Quantity, Reading, Side};
use crate::survey::blunder::{Blunder, CRITICAL, Surprise};
use crate::survey::drawing::what;
use crate::survey::known::Known;
use crate::units::{Unit, tape};

const RULE: &str = "a reading stands out when it is further from what the others make of it than 3.9 times the noise of that difference";
const SOURCE: &str =
    "data snooping (Baarda 1968); the critical value for a whole survey is a choice";
/// A repair explains a reading if it brings it this close to the others, in standard deviations.
const EXPLAINS: f64 = 3.5;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out: Vec<Finding> = Vec::new();
    let mut told: Vec<&str> = Vec::new();
    for b in &ctx.model.judged.blunders {
        if told.contains(&b.reading.as_str()) {
            continue;
        }
        told.push(&b.reading);
        told.extend(b.alike.iter().map(String::as_str));
        out.extend(blunder(ctx, b));
    }
    out.extend(
        ctx.model
            .judged
            .surprises
            .iter()
            .filter_map(|s| surprise(ctx, s)),
    );
    out.extend(apart(ctx));
    out.extend(swapped(ctx));
    out.extend(sides(ctx));
    out
}

/// Repeats that are further apart than their noise explains, but not so far that one is wrong.
fn apart(ctx: &Ctx) -> Vec<Finding> {
    const TIMES: f64 = 3.0;
    let named = |id: &String| {
        let all = &ctx.model.judged.blunders;
        all.iter().any(|b| b.reading == *id || b.alike.contains(id))
    };
    let doubtful = ctx.model.known.values().filter_map(|k| {
        let n = k.readings.len();
        // Of readings equally good, the noise of a difference of two.
        let noise = k.sd * (n as f64).sqrt() * 2.0_f64.sqrt();
        (n >= 2 && k.spread > TIMES * noise && !k.readings.iter().any(named)).then_some((k, noise))
    });
    let finding = |(k, noise): (&Known, f64)| {
        let key = k.quantity.key();
        Finding::new(
            format!("apart.{key}"),
            Severity::Look,
            "survey",
            format!(
                "{} was read {} times, {} apart. The mean is used; one more reading makes it sure.",
                what(ctx.project, &k.quantity),
                k.readings.len(),
                ctx.w.say(k.spread)
            ),
        )
        .rule(
            "repeats agree within three times the noise of their difference",
            "a choice",
        )
        .numbers(vec![
            ctx.w.step("", "largest less smallest", k.spread),
            ctx.w.step("", "noise of a difference", noise),
        ])
        .show("survey", key)
    };
    doubtful.map(finding).collect()
}

fn read<'a>(ctx: &'a Ctx, id: &str) -> Option<(&'a Reading, f64)> {
    let r = ctx.project.survey.readings.get(id)?;
    Some((r, tape::parse(&r.typed, r.unit).ok()?))
}

fn name(ctx: &Ctx, id: &str) -> Option<(String, f64)> {
    let (r, mm) = read(ctx, id)?;
    Some((what(ctx.project, &r.quantity), mm))
}

fn blunder(ctx: &Ctx, b: &Blunder) -> Option<Finding> {
    let (r, _) = read(ctx, &b.reading)?;
    let own = what(ctx.project, &r.quantity);
    let repeats = ctx.model.get(&r.quantity).map_or(0, |k| k.readings.len());
    let sentence = if b.alike.is_empty() {
        format!(
            "{own}: this reading says {}, everything else says {}. It is left out.",
            ctx.w.say(b.says),
            ctx.w.say(b.others)
        )
    } else {
        let others: Vec<String> = b
            .alike
            .iter()
            .filter_map(|id| name(ctx, id))
            .map(|(n, mm)| format!("{n} ({})", ctx.w.say(mm)))
            .collect();
        if b.alike
            .iter()
            .all(|id| name(ctx, id).is_some_and(|n| n.0 == own))
        {
            let others: Vec<String> = b
                .alike
                .iter()
                .filter_map(|id| Some(ctx.w.say(name(ctx, id)?.1)))
                .collect();
            format!(
                "{own} was read again and the readings do not agree: {} and {}. Nothing tells which is wrong: read it once more.",
                ctx.w.say(b.says),
                others.join(" and ")
            )
        } else {
            format!(
                "{own} ({}) does not agree with {}. Nothing tells which is wrong: read {} again.",
                ctx.w.say(b.says),
                others.join(" and "),
                if repeats > 1 { "it" } else { "either" }
            )
        }
    };
    let mut f = Finding::new(
        format!("blunder.{}", b.key),
        Severity::Stop,
        "survey",
        sentence,
    )
    .rule(RULE, SOURCE)
    .numbers(vec![
        ctx.w.step("", "this reading", b.says),
        ctx.w.step("-", "what the others make of it", b.others),
        ctx.w.step("=", "difference", b.says - b.others),
        ctx.w.note(format!(
            "{:.1} times its noise; {CRITICAL} allowed",
            b.w.abs()
        )),
    ])
    .show("survey", b.key.clone());
    f = repair(ctx, f, &b.reading, b.others);
    for id in std::iter::once(&b.reading).chain(&b.alike) {
        let Some((n, mm)) = name(ctx, id) else {
            continue;
        };
        let label = if repeats > 1 {
            format!("Set aside {}", ctx.w.say(mm))
        } else {
            format!("Set aside {n}, {}", ctx.w.say(mm))
        };
        f = f.offer(
            label,
            "kept, but not counted".into(),
            set(aside(id), true.into()),
        );
    }
    Some(f)
}

fn aside(id: &str) -> String {
    format!("/survey/readings/{}/aside", escape(id))
}

fn surprise(ctx: &Ctx, s: &Surprise) -> Option<Finding> {
    let (r, _) = read(ctx, &s.reading)?;
    let sentence = format!(
        "{} says {}; its neighbours lead one to expect about {}. Read it again before cutting: a dent, or a slip.",
        what(ctx.project, &r.quantity),
        ctx.w.say(s.says),
        ctx.w.say(s.expected)
    );
    let f = Finding::new(
        format!("again.{}", s.key),
        Severity::Look,
        "survey",
        sentence,
    )
    .rule(
        "walls run on between readings as smoothly as the rest of them",
        SOURCE,
    )
    .numbers(vec![
        ctx.w.step("", "this reading", s.says),
        ctx.w.step("-", "expected from its neighbours", s.expected),
        ctx.w.step("=", "difference", s.says - s.expected),
    ])
    .show("survey", s.key.clone());
    Some(repair(ctx, f, &s.reading, s.expected))
}

/// Slips that explain a reading: the wrong unit.
fn repair(ctx: &Ctx, f: Finding, id: &str, others: f64) -> Finding {
    let Some((r, mm)) = read(ctx, id) else {
        return f;
    };
    let sd = r.sd.unwrap_or(ctx.project.survey.sd);
    let doubt = EXPLAINS * sd.max(1.0) + 0.02 * others.abs();
    let units = [
        (Unit::In, "in", "inches"),
        (Unit::Cm, "cm", "centimetres"),
        (Unit::Mm, "mm", "millimetres"),
    ];
    let best = units
        .iter()
        .filter(|(u, ..)| *u != r.unit)
        .filter_map(|(u, code, word)| Some((tape::parse(&r.typed, *u).ok()?, code, word)))
        .filter(|(v, ..)| (v - mm).abs() > doubt && (v - others).abs() < doubt)
        .min_by(|a, b| (a.0 - others).abs().total_cmp(&(b.0 - others).abs()));
    let Some((v, code, word)) = best else {
        return f;
    };
    f.offer(
        format!("Read \"{}\" as {word}", r.typed),
        format!("{}, close to the others", ctx.w.say(v)),
        set(format!("/survey/readings/{}/unit", escape(id)), json!(code)),
    )
}

/// Two surprises at one place, left and right, that fit when exchanged.
fn swapped(ctx: &Ctx) -> Vec<Finding> {
    let all = &ctx.model.judged.surprises;
    let mut out = Vec::new();
    for l in all {
        let Some((lr, lmm)) = read(ctx, &l.reading) else {
            continue;
        };
        let Quantity::Wall {
            side: Side::Left,
            x,
            z,
        } = lr.quantity
        else {
            continue;
        };
        let right = Quantity::Wall {
            side: Side::Right,
            x,
            z,
        };
        let Some(r) = all.iter().find(|s| s.key == right.key()) else {
            continue;
        };
        let Some((rr, rmm)) = read(ctx, &r.reading) else {
            continue;
        };
        let better = |says: f64, other: f64, expected: f64| {
            (other - expected).abs() < 0.4 * (says - expected).abs()
        };
        if !better(lmm, rmm, l.expected) || !better(rmm, lmm, r.expected) {
            continue;
        }
        let path = |id: &str| format!("/survey/readings/{}/quantity", escape(id));
        let (lq, rq) = (json!(lr.quantity), json!(rr.quantity));
        out.push(
            Finding::new(
                format!("swapped.{}", l.key),
                Severity::Stop,
                "survey",
                format!(
                    "{} from the threshold, left ({}) and right ({}) look exchanged: each suits the other side.",
                    ctx.w.say(x),
                    ctx.w.say(lmm),
                    ctx.w.say(rmm)
                ),
            )
            .rule("each side against its own neighbours", SOURCE)
            .show("survey", l.key.clone())
            .offer(
                "Exchange left and right".into(),
                "both then suit their neighbours".into(),
                json!([
                    {"op": "add", "path": path(&l.reading), "value": rq},
                    {"op": "add", "path": path(&r.reading), "value": lq},
                ]),
            ),
        );
    }
    out
}

/// How far the two sides differ where both were measured, by what all readings that count say of them: a reminder not to
/// mirror a template.
fn sides(ctx: &Ctx) -> Vec<Finding> {
    let mut worst: Option<(f64, f64, f64)> = None;
    for l in ctx.model.known.values() {
        let Quantity::Wall {
            side: Side::Left,
            x,
            z,
        } = l.quantity
        else {
            continue;
        };
        let right = Quantity::Wall {
            side: Side::Right,
            x,
            z,
        };
        if ctx.model.get(&right).is_none() {
            continue;
        }
        let wall = |side| ctx.model.offset(side, x, z);
        let Some(d) = wall(Side::Left)
            .zip(wall(Side::Right))
            .map(|(l, r)| (l - r).abs())
        else {
            continue;
        };
        if worst.is_none_or(|w| d > w.0) {
            worst = Some((d, x, z));
        }
    }
    let Some((d, x, z)) = worst.filter(|w| w.0 > EXPLAINS * ctx.model.sd) else {
        return vec![];
    };
    let left = Quantity::Wall {
        side: Side::Left,
        x,
        z,
    };
    vec![
        Finding::new(
            "sides",
            Severity::Look,
            "survey",
            format!(
                "Left and right differ by up to {}, {}. Do not mirror one template.",
                ctx.w.say(d),
                match x < 0.5 {
                    true => "at the threshold".to_string(),
                    false => format!("{} from the threshold", ctx.w.say(x)),
                }
            ),
        )
        .rule(
            "both sides measured, never mirrored",
            "common practice, no source",
        )
        .numbers(vec![ctx.w.step("", "largest difference of the walls", d)])
        .show("survey", left.key()),
    ]
}
