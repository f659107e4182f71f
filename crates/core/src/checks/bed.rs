//! Beds that are no decks: are they made for the night, and for whom are they long and wide enough?

use std::collections::BTreeSet;

use super::{Ctx, Finding, Severity};
use crate::cushions::{Cushion, cushions};
use crate::furniture::built::Bed;
use crate::furniture::platform::span::SLEEPER_WIDTH;
use crate::geometry::region::Region;
use crate::input::escape;
use crate::project::states::asleep;
use crate::solids::Solid;

/// A bed is longer than who lies in it by so much, mm (common practice, no source), less in a pinch.
const OVER: f64 = 120.0;
/// Narrower than this nobody sleeps well, mm (a choice: about shoulder width).
const NARROW: f64 = 480.0;

/// All beds: module and bed.
pub(super) fn beds(ctx: &Ctx) -> Vec<(String, Bed)> {
    let all = ctx.built.iter();
    let own = all.flat_map(|(m, b)| b.beds.iter().map(move |bed| (m.clone(), bed.clone())));
    let own: Vec<(String, Bed)> = own.collect();
    if own.is_empty() && ctx.platforms.iter().all(|d| d.worked.is_none()) {
        return together(ctx).into_iter().collect();
    }
    own
}

/// What is lain on at night: its least and greatest corner in plan, and the height of the mattress's face.
pub(super) fn lain_on(ctx: &Ctx) -> Vec<([f64; 2], [f64; 2], f64)> {
    let decks = ctx.platforms.iter().filter_map(|d| {
        let (underside, stack, worked) = d.whole()?;
        let top = stack.at(underside).sleep_surface;
        let panels = worked.plan.panels.iter().map(Region::bounds);
        Some(panels.map(move |(x0, y0, x1, y1)| ([x0, y0], [x1, y1], top)))
    });
    let thick = ctx.project.mattress.thickness.unwrap_or(0.0);
    let others = beds(ctx)
        .into_iter()
        .map(|(_, b)| (b.low, b.high, b.top + thick));
    decks.flatten().chain(others).collect()
}

/// Pieces so far from each other are one bed, mm (a choice: a mattress bridges it).
const GAP: f64 = 60.0;

/// Surfaces at one height that nearly make a bed together: told what keeps them apart.
fn apart(ctx: &Ctx) -> Option<Finding> {
    /// Further apart nobody meant them as one bed, mm (a choice).
    const FAR: f64 = 450.0;
    if ctx.platforms.iter().any(|d| d.worked.is_some()) || !beds(ctx).is_empty() {
        return None;
    }
    let night = asleep(&ctx.project.states);
    let all = cushions(ctx.project, ctx.boards, night);
    let end = |c: &Cushion, k: usize| c.at[k] + c.size[k];
    // How far apart two are along each axis, less than nothing where they lie beside each other.
    let open =
        |a: &Cushion, b: &Cushion| [0, 1].map(|k| (a.at[k] - end(b, k)).max(b.at[k] - end(a, k)));
    let pairs = all
        .iter()
        .enumerate()
        .flat_map(|(i, a)| all[i + 1..].iter().map(move |b| (a, b)));
    let near = pairs
        .filter(|(a, b)| a.on.0 != b.on.0)
        .filter_map(|(a, b)| {
            let [x, y] = open(a, b);
            let (gap, beside) = (x.max(y), x.min(y));
            (gap > GAP && gap <= FAR && beside < 0.0).then_some((gap, a, b))
        });
    let (gap, a, b) = near.min_by(|p, q| p.0.total_cmp(&q.0))?;
    let called = |c: &Cushion| {
        let module = ctx.project.modules.get(&c.on.0);
        module.map_or(c.on.0.clone(), |m| m.called())
    };
    let sentence = format!(
        "At night the {} and the {} lie at one height, {} apart: that is too far to be one bed. Move one nearer, make it wider, or bridge it.",
        called(a),
        called(b),
        ctx.w.say(gap)
    );
    let mut f = Finding::new("bed.apart", Severity::Look, "layout", sentence)
        .rule(format!("a mattress bridges {}", ctx.w.say(GAP)), "a choice")
        .show("layout", a.on.0.clone());
    f.subject = a.on.0.clone();
    f.state = Some(night.into());
    Some(f)
}

/// What several pieces make together at night: benches and a table that is lowered between them.
fn together(ctx: &Ctx) -> Option<(String, Bed)> {
    /// A rectangle is filled to this share at least, or its sides say nothing of the bed (a choice).
    const FILLED: f64 = 0.8;
    /// What lies level with it, mm.
    const LEVEL: f64 = 5.0;
    let all = cushions(ctx.project, ctx.boards, asleep(&ctx.project.states));
    let end = |c: &Cushion, k: usize| c.at[k] + c.size[k];
    let touch = |a: &Cushion, b: &Cushion| {
        (0..2).all(|k| a.at[k] < end(b, k) + GAP && b.at[k] < end(a, k) + GAP)
    };
    // From the largest on.
    let area = |c: &Cushion| c.size[0] * c.size[1];
    let first = (0..all.len()).max_by(|a, b| area(&all[*a]).total_cmp(&area(&all[*b])))?;
    let mut bed = vec![first];
    while let Some(next) =
        (0..all.len()).find(|i| !bed.contains(i) && bed.iter().any(|b| touch(&all[*b], &all[*i])))
    {
        bed.push(next);
    }
    let own: Vec<&Cushion> = bed.iter().map(|i| &all[*i]).collect();
    let pieces: BTreeSet<&str> = own.iter().map(|c| c.on.0.as_str()).collect();
    if pieces.len() < 2 {
        return None;
    }
    let top = own.iter().map(|c| c.height);
    let top = top.fold(f64::NEG_INFINITY, f64::max);
    // Strips behind lids are lain on too, though no cushion is cut for them.
    let state = asleep(&ctx.project.states);
    let boards = ctx.boards.iter();
    let boards = boards.filter(|b| pieces.contains(b.module.as_str()));
    let level = boards
        .filter_map(|b| Solid::new(b, state))
        .filter(|s| (s.high[2] - top).abs() < LEVEL);
    let nothing = ([f64::INFINITY; 2], [f64::NEG_INFINITY; 2]);
    let (low, high) = level.fold(nothing, |(low, high), s| {
        (
            [0, 1].map(|k: usize| s.low[k].min(low[k])),
            [0, 1].map(|k: usize| s.high[k].max(high[k])),
        )
    });
    let filled: f64 = own.iter().map(|c| area(c)).sum();
    if filled < FILLED * (high[0] - low[0]) * (high[1] - low[1]) {
        return None;
    }
    let called = |id: &&str| {
        ctx.project
            .modules
            .get(*id)
            .map_or((*id).into(), |m| m.called())
    };
    let names: Vec<String> = pieces.iter().map(called).collect();
    let (last, before) = names.split_last()?;
    let bed = Bed {
        name: format!("bed of {} and {last}", before.join(", ")),
        body: None,
        low,
        high,
        top,
        sat: None,
    };
    Some((own[0].on.0.clone(), bed))
}

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let all = beds(ctx);
    all.iter()
        .map(|(module, bed)| match shut(ctx, module, bed) {
            Some(finding) => finding,
            None => sizes(ctx, module, bed),
        })
        .chain(apart(ctx))
        .collect()
}

/// It is pulled out for the night, or it is not.
fn shut(ctx: &Ctx, module: &str, bed: &Bed) -> Option<Finding> {
    let night = asleep(&ctx.project.states);
    let state = ctx.project.states.get(night)?;
    let body = format!("{module}/{}", bed.body?);
    // What it rides on is moved too: a leaf lies down behind a seat that was slid out.
    let chain = ctx.bodies.chain(&body);
    let shut = chain.iter().filter(|b| state.open(&b.id) <= 1.0 - 1e-6);
    let moves: Vec<serde_json::Value> = shut
        .map(|b| {
            let at = format!("/states/{}/open/{}", escape(night), escape(&b.id));
            serde_json::json!({ "op": "add", "path": at, "value": 1.0 })
        })
        .collect();
    if moves.is_empty() {
        return None;
    }
    let name = &bed.name;
    let words = format!("In the state \"{}\" the {name} is not made up.", state.name);
    let mut f = Finding::new(format!("bed.{module}"), Severity::Look, "layout", words)
        .rule("what makes a bed is moved for the night", "a choice")
        .show("layout", module)
        .offer(
            "Make it up for the night".into(),
            String::new(),
            serde_json::Value::from(moves),
        );
    f.state = Some(night.into());
    Some(f)
}

fn sizes(ctx: &Ctx, module: &str, bed: &Bed) -> Finding {
    let [along, across] = [0, 1].map(|k| bed.high[k] - bed.low[k]);
    let (long, wide) = (along.max(across), along.min(across));
    let people = ctx.project.people.values();
    let short: Vec<String> = people
        .filter_map(|p| Some((&p.name, p.stature?)))
        .filter(|(_, s)| long < s + OVER)
        .map(|(name, s)| format!("{name} wants {}", ctx.w.say(s + OVER)))
        .collect();
    let tallest = ctx.project.people.values().filter_map(|p| p.stature);
    let tallest = tallest.fold(0.0, f64::max);
    let places = ((wide / SLEEPER_WIDTH).floor() as usize).max(1);
    let wanted = ctx.project.people.len();
    let mut words = format!(
        "Made up the {} is {} long and {} wide: for {}",
        bed.name,
        ctx.w.say(long),
        ctx.w.say(wide),
        if places == 1 {
            "one".into()
        } else {
            format!("{places}")
        }
    );
    if !short.is_empty() {
        words.push_str(&format!("; {}", short.join(", ")));
    }
    let level = if long < tallest || wide < NARROW {
        Severity::Stop
    } else if !short.is_empty() || places < wanted {
        Severity::Look
    } else {
        Severity::Fine
    };
    Finding::new(
        format!("bed.{module}"),
        level,
        "layout",
        format!("{words}."),
    )
    .rule(
        format!(
            "stature and {}, less in a pinch; {} for each sleeper, shoulders have no room under {}",
            ctx.w.say(OVER),
            ctx.w.say(SLEEPER_WIDTH),
            ctx.w.say(NARROW)
        ),
        "common practice, no source; choices",
    )
    .numbers(vec![
        ctx.w.step("", "length", long),
        ctx.w.step("", "width", wide),
    ])
    .show("layout", module)
}
