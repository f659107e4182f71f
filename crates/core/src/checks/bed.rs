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
    if own.is_empty() {
        return made_up(ctx).into_iter().map(|(m, b, _)| (m, b)).collect();
    }
    own
}

/// A deck is part of a bed that other pieces make longer or wider: it is not judged alone.
pub(super) fn is_part(ctx: &Ctx, deck: &str) -> bool {
    let own = ctx.built.values().all(|b| b.beds.is_empty());
    own && made_up(ctx).is_some_and(|(_, _, pieces)| pieces.iter().any(|p| p == deck))
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
    // What lies between two, a table say, bridges them.
    let touch = |a: &Cushion, b: &Cushion| open(a, b).iter().all(|o| *o < GAP);
    let bridged = |a: &Cushion, b: &Cushion| all.iter().any(|c| touch(a, c) && touch(c, b));
    let near = pairs
        .filter(|(a, b)| a.on.0 != b.on.0 && !bridged(a, b))
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

/// What several pieces make together at night, a deck among them or not: benches and a table that is lowered between them. With
/// the bed who makes it.
fn made_up(ctx: &Ctx) -> Option<(String, Bed, Vec<String>)> {
    /// A rectangle is filled to this share at least, or its sides say nothing of the bed (a choice).
    const FILLED: f64 = 0.8;
    /// With a deck among them, which follows the walls, so is the bay between the bed's ends (a choice).
    const BAY: f64 = 0.9;
    /// What is filled to this share is as wide as it reaches; of the rest the mean width counts (a choice).
    const SQUARE: f64 = 0.9;
    /// What lies level with it, mm.
    const LEVEL: f64 = 5.0;
    let state = asleep(&ctx.project.states);
    let all = cushions(ctx.project, ctx.boards, state);
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
    let boards = ctx.boards.iter();
    let boards = boards.filter(|b| pieces.contains(b.module.as_str()));
    let level: Vec<Solid> = boards
        .filter_map(|b| Solid::new(b, state))
        .filter(|s| (s.high[2] - top).abs() < LEVEL)
        .collect();
    let nothing = ([f64::INFINITY; 2], [f64::NEG_INFINITY; 2]);
    let (low, high) = level.iter().fold(nothing, |(low, high), s| {
        (
            [0, 1].map(|k: usize| s.low[k].min(low[k])),
            [0, 1].map(|k: usize| s.high[k].max(high[k])),
        )
    });
    // Of each piece its boards, or its cushions where there is air between them.
    let flat = |s: &&Solid| s.pose.w()[2].abs() > 1.0 - 1e-9;
    let filled = pieces.iter().map(|m| {
        let lie = level.iter().filter(flat).filter(|s| s.board.module == *m);
        let boards: f64 = lie.map(|s| s.board.outline.filled()).sum();
        let soft: f64 = own.iter().filter(|c| c.on.0 == *m).map(|c| area(c)).sum();
        match own.iter().any(|c| c.on.0 == *m && c.shaped) {
            true => boards,
            false => boards.max(soft),
        }
    });
    let filled: f64 = filled.sum();
    let rectangle = (high[0] - low[0]) * (high[1] - low[1]);
    let bay = || {
        let own = Region::rectangle(low[0], low[1], high[0], high[1]);
        let bay = ctx.model.bay(top)?.region.and(&own);
        Some(bay.iter().map(Region::area).sum::<f64>())
    };
    let with_deck = ctx.platforms.iter().any(|d| pieces.contains(d.id));
    let (whole, least) = match with_deck.then(bay).flatten() {
        Some(bay) => (bay, BAY),
        None => (rectangle, FILLED),
    };
    if filled < least * whole {
        return None;
    }
    let tapers = with_deck && filled < SQUARE * rectangle;
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
        mean: tapers.then(|| filled / (high[0] - low[0])),
        sat: None,
    };
    let pieces = pieces.iter().map(|p| (*p).to_string()).collect();
    Some((own[0].on.0.clone(), bed, pieces))
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
    let (long, wide) = match bed.mean {
        Some(mean) => (along, mean),
        None => (along.max(across), along.min(across)),
    };
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
        "Made up the {} is {} long and {} wide{}: for {}",
        bed.name,
        ctx.w.say(long),
        ctx.w.say(wide),
        if bed.mean.is_some() {
            " on average"
        } else {
            ""
        },
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
