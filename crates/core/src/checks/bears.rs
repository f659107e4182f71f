//! What does each support of a bed carry, and do its legs, posts and ledgers bear that?

use super::{Ctx, Finding, PlatformCtx, Severity};
use crate::furniture::platform::gaps::BORDER;
use crate::furniture::platform::span::{SLEEPER_WIDTH, runs};
use crate::furniture::platform::{Dial, Manner, Worked};
use crate::mechanics::beam::{Beam, Load};
use crate::mechanics::column::{buckles_at, weak};
use crate::mechanics::material::Grain;
use crate::project::stock::thicker;
use crate::solids::Solid;
use crate::units::GRAVITY;

/// Posts are loaded with no more than this share of what makes them give way (a choice).
const SHARE: f64 = 1.0 / 3.0;
/// An angle is so much weaker about its weakest axis than square to a leg (40 x 4: 1.86 to 4.47 cm4, from memory).
const ANGLE: f64 = 0.4;
/// A post of one piece with what is above and below it gives way as one so much shorter with free ends does (0.65: the value
/// recommended for ends held fast, from memory).
const HELD: f64 = 0.65;
/// Short ones are crushed before they bend, at so much, N/mm2 (at the low end of what EN 12369-1 gives for compression in the
/// plane of plywood, from memory).
const CRUSHED: f64 = 15.0;
/// What a fixing of a ledger is counted for while nobody drives, N (a choice: M8 in an insert, across).
const FIXING: f64 = 1000.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let all = ctx.platforms.iter();
    all.filter_map(|d| judged(ctx, d)).collect()
}

/// What presses on one post: a leg, or what stands between two windows of a frame.
struct Post {
    name: &'static str,
    /// Its line, mm in.
    x: f64,
    /// What it carries, N.
    force: f64,
    /// Where it would give way, N.
    most: f64,
    /// On how much floor it stands, mm2.
    foot: f64,
}

/// What the lines of supports carry, from the rear, N: all sleepers lying along it, and the boards themselves.
fn shares(ctx: &Ctx, d: &PlatformCtx, worked: &Worked) -> Option<Vec<f64>> {
    let surface = &d.platform.surface;
    let material = ctx.project.material(&surface.material)?;
    let (first, last) = (worked.lines.first()?, worked.lines.last()?);
    let people = ctx.project.people.len().max(1) as f64;
    let mass = worked.plan.area * surface.thickness * material.density * 1e-9;
    let q = worked.burden.q * people + mass * GRAVITY / (last - first).max(1.0);
    let mut out = vec![0.0; worked.lines.len()];
    let mut at = 0;
    for spans in runs(&worked.lines, &worked.parting.xs) {
        let total: f64 = spans.iter().sum();
        let beam = Beam {
            width: SLEEPER_WIDTH * people,
            depth: surface.thickness,
            e: material.modulus(surface.thickness, Grain::Along)?,
            loads: vec![Load::Uniform {
                q,
                from: 0.0,
                to: total,
            }],
            spans,
        };
        let reactions = beam.bend()?.reactions;
        for (i, r) in reactions.iter().enumerate() {
            *out.get_mut(at + i)? += r;
        }
        at += reactions.len().saturating_sub(1);
    }
    Some(out)
}

/// The posts of a line, a knee right over each.
fn posts(ctx: &Ctx, d: &PlatformCtx, worked: &Worked, (i, n): (usize, f64)) -> Vec<Post> {
    let stands = &d.platform.stands;
    let Some(material) = ctx.project.material(&stands.material) else {
        return vec![];
    };
    let Some(e) = material.modulus(stands.thickness, Grain::Along) else {
        return vec![];
    };
    let (x, knee) = (worked.lines[i], worked.burden.knee);
    let metal = material.bar.is_some_and(|b| b.metal);
    let own = ctx.boards.iter().filter(|b| b.module == d.id);
    let here = own.map(|b| Solid::at(b, b.shut));
    let here: Vec<Solid> = here
        .filter(|s| s.low[0] < x + 1.0 && s.high[0] > x - 1.0)
        .collect();
    let size = |s: &Solid| [0, 1, 2].map(|k: usize| s.high[k] - s.low[k]);
    match stands.manner {
        Manner::Legs => {
            let legs: Vec<_> = here.iter().filter(|s| s.board.role == "leg").collect();
            let each = n / legs.len().max(1) as f64 + knee;
            let post = |s: &&Solid| {
                let [a, b, high] = size(s);
                let ei = match metal {
                    true => e * stands.thickness * stands.deep.powi(3) / 12.0 * ANGLE,
                    false => weak(e, a, b),
                };
                let bent = buckles_at(ei, high)?;
                Some(Post {
                    name: "leg",
                    x,
                    force: each,
                    most: if metal {
                        bent
                    } else {
                        bent.min(CRUSHED * a * b)
                    },
                    foot: if metal { f64::NAN } else { a * b },
                })
            };
            legs.iter().filter_map(post).collect()
        }
        Manner::Frames => {
            let ways = worked.ways.get(i).map_or(&[][..], |w| &w[..]);
            let frames = here.iter().filter(|s| s.board.role == "frame").count();
            // Each window leaves one more to stand beside it.
            let count = (ways.len() + frames).max(1) as f64;
            let high = ways.iter().map(|w| w.1).fold(0.0, f64::max);
            let foot = BORDER * stands.thickness;
            let post = |bent: f64| Post {
                name: "post of a frame",
                x,
                force: n / count + knee,
                most: bent.min(CRUSHED * foot),
                foot,
            };
            let most = buckles_at(weak(e, BORDER, stands.thickness), HELD * high);
            most.map(post).into_iter().collect()
        }
        Manner::Ledgers => vec![],
    }
}

fn judged(ctx: &Ctx, d: &PlatformCtx) -> Option<Finding> {
    let worked = d.worked?;
    let shares = shares(ctx, d, worked)?;
    let force = |n: f64| ctx.w.force(n);
    let name = &d.platform.name;
    let each: Vec<String> = shares.iter().map(|n| force(*n)).collect();
    let carry = format!(
        "From the rear the supports of the {name} carry {} under all sleepers",
        each.join(", ")
    );
    let knee = worked.burden.knee;
    let rule = "boards as beams over their supports; a knee right over what is judged; a post carries a third of what makes it give way, pi^2 E I / h^2 or 15 N/mm2";
    let finding = |level, sentence| {
        Finding::new(format!("bears.{}", d.id), level, "layout", sentence)
            .rule(
                rule,
                "Euler-Bernoulli beam; Euler's column; EN 12369-1, from memory; the third is a choice",
            )
            .show("layout", d.id.to_string())
    };
    if d.platform.stands.manner == Manner::Ledgers {
        let most = shares.iter().copied().fold(0.0, f64::max);
        // Half of the rail, a knee at its end, and the two fixings beside it.
        let fixing = (most / 2.0 + knee) / 2.0;
        let (level, but) = match fixing > FIXING {
            true => (
                Severity::Look,
                format!(", more than the {} it is counted for", force(FIXING)),
            ),
            false => (Severity::Fine, String::new()),
        };
        let sentence = format!(
            "{carry}; with a knee at the end of a rail a fixing of its ledger holds {}{but}.",
            force(fixing)
        );
        let mut f = finding(level, sentence);
        if level == Severity::Look {
            f = f.offer(
                "Stand it on legs".into(),
                "the walls carry nothing".into(),
                d.set(Dial::Manner, "legs".into()),
            );
        }
        return Some(f);
    }
    let all = shares.iter().copied().enumerate();
    let all = all.flat_map(|line| posts(ctx, d, worked, line));
    let worst = all.max_by(|a, b| (a.force / a.most).total_cmp(&(b.force / b.most)))?;
    let bad = worst.force > SHARE * worst.most;
    let floor = match worst.foot.is_finite() {
        true => format!(
            ", and presses {:.1} N/mm2 on the floor",
            worst.force / worst.foot
        ),
        false => String::new(),
    };
    let sentence = format!(
        "{carry}; with a knee right over it the {} {} from the threshold carries {}{floor}: it gives way at {}.",
        worst.name,
        ctx.w.say(worst.x),
        force(worst.force),
        force(worst.most),
    );
    if !bad {
        return Some(finding(Severity::Fine, sentence));
    }
    let mut f = finding(
        Severity::Stop,
        format!("{sentence} That is not three times as much."),
    );
    // What bends goes with the third power of the thickness.
    let t = d.platform.stands.thickness;
    let holds = |n: f64| SHARE * worst.most * (n / t).powi(3) >= worst.force;
    let sold = thicker(ctx.w.system, t);
    if let Some(n) = sold.into_iter().find(|n| holds(*n)) {
        f = f.offer(
            format!("Supports {} thick", ctx.w.say(n)),
            format!("{:.0} % heavier", 100.0 * (n / t - 1.0)),
            d.set(Dial::Supports, n.into()),
        );
    }
    // Frames are cut from sheets.
    let sheet = ctx.project.material(&d.platform.stands.material);
    let sheet = sheet.is_some_and(|m| m.bar.is_none());
    if d.platform.stands.manner == Manner::Legs && sheet {
        f = f.offer(
            "Frames instead of rails and legs".into(),
            "they divide the room below".into(),
            d.set(Dial::Manner, "frames".into()),
        );
    }
    Some(f)
}
