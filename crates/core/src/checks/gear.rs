//! Does everything stand under the deck, and between its supports, and is there a way in for it?

use std::collections::{BTreeMap, BTreeSet};

use super::exits::lets_in;
use super::{Ctx, Finding, PlatformCtx, Severity, cost_of_height, set, stowed};
use crate::furniture::platform::{Dial, Manner};
use crate::heights::view::item;
use crate::project::gear::Gear;
use crate::project::survey::Side;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let (away, mut out) = stowed::check(ctx);
    out.extend(under(ctx, &away));
    out
}

/// Which deck each thing stands under that is to stand under one and is not put away in other furniture: thing and deck. Each
/// stands under one deck only: the lowest that is high enough and whose floor is not taken yet.
type Under<'a> = BTreeMap<&'a str, &'a str>;

fn assigned<'a>(ctx: &'a Ctx, away: &BTreeSet<&str>) -> Under<'a> {
    let mut decks: Vec<(&PlatformCtx, f64, f64)> = ctx
        .platforms
        .iter()
        .filter_map(|d| {
            let floor = bays(ctx, d).iter().map(|(l, b)| l * b).sum();
            Some((d, d.platform.underside?, floor))
        })
        .collect();
    decks.sort_by(|a, b| a.1.total_cmp(&b.1));
    let mut things: Vec<(&String, &Gear)> = ctx.project.gear.iter().collect();
    things.retain(|(id, g)| g.under_deck && !away.contains(id.as_str()));
    // The highest first: what goes under every deck takes what is left.
    let needs = |g: &Gear| item(g).map_or(0.0, |i| i.h + i.clearance);
    things.sort_by(|a, b| needs(b.1).total_cmp(&needs(a.1)).then(a.0.cmp(b.0)));
    let mut out = Under::new();
    for (id, g) in things {
        let foot = g.w.unwrap_or(0.0) * g.d.unwrap_or(0.0) * f64::from(g.count);
        let high = |d: &(&PlatformCtx, f64, f64)| needs(g) <= d.1 + 1e-6;
        let roomy = decks.iter().position(|d| high(d) && foot <= d.2);
        let any = decks.iter().position(high);
        let Some(k) = roomy.or(any).or(decks.len().checked_sub(1)) else {
            continue;
        };
        decks[k].2 -= foot;
        out.insert(id.as_str(), decks[k].0.id);
    }
    out
}

/// Things that stand under a deck.
fn still_under<'a>(
    ctx: &'a Ctx,
    d: &'a PlatformCtx,
    under: &'a Under,
) -> impl Iterator<Item = (&'a String, &'a Gear)> {
    let gear = ctx.project.gear.iter();
    gear.filter(|(id, _)| under.get(id.as_str()).is_some_and(|deck| *deck == d.id))
}

fn under(ctx: &Ctx, away: &BTreeSet<&str>) -> Vec<Finding> {
    let under = &assigned(ctx, away);
    ctx.platforms
        .iter()
        .flat_map(|d| heights(ctx, d, under))
        .chain(ctx.platforms.iter().flat_map(|d| footprints(ctx, d, under)))
        .collect()
}

fn heights(ctx: &Ctx, d: &PlatformCtx, under: &Under) -> Vec<Finding> {
    let (Some(underside), Some(stack)) = (d.platform.underside, d.stack.as_ref()) else {
        return vec![];
    };
    let mut out = Vec::new();
    let mut good = Vec::new();
    let mut shut_out = Vec::new();
    for (id, g) in still_under(ctx, d, under) {
        let Some(i) = item(g) else { continue };
        let needs = i.h + i.clearance;
        if needs <= underside + 1e-6 {
            match no_way(ctx, d, g) {
                None => good.push(format!("{} (+{})", g.name, ctx.w.say(underside - needs))),
                Some(opening) => shut_out.push((id.as_str(), g.name.as_str(), opening)),
            }
            continue;
        }
        let mut f = Finding::new(
            format!("height.{id}"),
            Severity::Stop,
            "heights",
            format!(
                "{} will not stand under the {}: {} needed, {} there.",
                g.name,
                d.platform.name,
                ctx.w.say(needs),
                ctx.w.say(underside)
            ),
        )
        .rule(
            "height with lid and handle, and what it wants above",
            "your measure",
        )
        .numbers(vec![
            ctx.w.step("", "height", i.h),
            ctx.w.step("+", "above it", i.clearance),
            ctx.w.step("-", "deck underside", underside),
            ctx.w.step("=", "missing", needs - underside),
        ])
        .show("heights", id.clone());
        f = f.offer(
            format!("Raise the {} to {}", d.platform.name, ctx.w.say(needs)),
            cost_of_height(stack, underside, needs, &ctx.w),
            d.set(Dial::Underside, needs.into()),
        );
        if let Some(lying) = lying(g).filter(|l| l + i.clearance <= underside) {
            f = f.offer(
                format!("Lay {} on its side", g.name),
                format!(
                    "stands {} high; keep what must stay upright in mind",
                    ctx.w.say(lying)
                ),
                lay_down(id, g, lying),
            );
        }
        f = f.offer(
            format!("Keep {} elsewhere", g.name),
            "it needs another place".into(),
            set(
                format!("/gear/{}/under_deck", crate::input::escape(id)),
                false.into(),
            ),
        );
        out.push(f);
    }
    out.extend(cannot_get_in(ctx, d, &shut_out));
    if !good.is_empty() {
        out.push(
            Finding::new(
                format!("heights-fit.{}", d.id),
                Severity::Fine,
                "heights",
                format!("Under the {}: {}.", d.platform.name, good.join(", ")),
            )
            .rule(
                "height + clearance at most the deck's underside",
                "your measure",
            ),
        );
    }
    out
}

/// A thing goes through an opening that two of its sides fit.
fn passes([w, d, h]: [f64; 3], (a, b): (f64, f64)) -> bool {
    let fits = |p: f64, q: f64| p <= a + 1e-6 && q <= b + 1e-6;
    let sides = [(w, h), (d, h), (w, d)];
    sides.into_iter().any(|(p, q)| fits(p, q) || fits(q, p))
}

/// The largest opening on the way to the place where it could stand, if it does not go through it: from the
/// rear it passes one support after the other.
fn no_way(ctx: &Ctx, d: &PlatformCtx, g: &Gear) -> Option<(f64, f64)> {
    let worked = d.worked?;
    let (w, depth, h) = (g.w?, g.d?, g.h?);
    let through = |opening: &(f64, f64)| passes([w, depth, h], *opening);
    let largest = |ways: &Vec<(f64, f64)>| {
        let all = ways.iter().copied();
        all.max_by(|a, b| (a.0 * a.1).total_cmp(&(b.0 * b.1)))
    };
    // The first support is the one it has to pass to stand anywhere under the deck; or it is let down through a hatch, or
    // goes in by a door in a wall.
    let first = worked.ways.first()?;
    let hatches = d.platform.hatch.sizes();
    let open = worked.hatches > 0 && d.platform.hatch.wanted;
    if first.iter().any(through) || open && hatches.iter().any(through) {
        return None;
    }
    let below = d.platform.underside?;
    if lets_in(ctx, below, &|a, b| through(&(a, b))) {
        return None;
    }
    Some(largest(first).unwrap_or((0.0, 0.0)))
}

/// One finding for all things that stand under the deck but do not go in from behind: they share the cause.
fn cannot_get_in(
    ctx: &Ctx,
    d: &PlatformCtx,
    things: &[(&str, &str, (f64, f64))],
) -> Option<Finding> {
    let (first, _, opening) = *things.first()?;
    let frames = d.platform.stands.manner == Manner::Frames;
    let what = if frames { "frame" } else { "supports" };
    let names: Vec<&str> = things.iter().map(|t| t.1).collect();
    let names = names.join(", ");
    let (stand, go, they) = match things.len() {
        1 => ("stands", "does not go", "It goes"),
        _ => ("stand", "do not go", "They go"),
    };
    let deck = &d.platform.name;
    let sentence = if opening.0 * opening.1 > 0.0 {
        format!(
            "{names} {stand} under the {deck}, but {go} in from behind: the rear {what} leaves {} by {}. {they} in with the deck lifted off.",
            ctx.w.bare(opening.0),
            ctx.w.say(opening.1)
        )
    } else {
        format!(
            "{names} {stand} under the {deck}, but the rear {what} leaves no opening. {they} in with the deck lifted off."
        )
    };
    let f = Finding::new(
        format!("way-in.{}", d.id),
        Severity::Look,
        "layout",
        sentence,
    )
    .rule(
        "a thing goes through an opening that two of its sides fit: below from the rear, a hatch, or a door in a wall",
        "geometry",
    )
    .show("layout", first.to_string());
    let size = |id: &str| {
        let g = ctx.project.gear.get(id)?;
        Some([g.w?, g.d?, g.h?])
    };
    let hatch = d.platform.hatch.size;
    let mut sizes = things.iter().filter_map(|t| size(t.0));
    let room = d.worked.is_some_and(|w| w.hatches > 0);
    let f = if !d.platform.hatch.wanted && room && sizes.any(|s| passes(s, hatch)) {
        f.offer(
            "Hatches in the deck".into(),
            "the mattress is rolled back to get at it".into(),
            d.set(Dial::Hatches, "bays".into()),
        )
    } else {
        f
    };
    Some(if frames {
        f.offer(
            "Rails on legs instead of frames".into(),
            "open between the legs".into(),
            d.set(Dial::Manner, "legs".into()),
        )
    } else {
        f
    })
}

/// The height of a thing laid on its lower side, if that is lower.
fn lying(g: &Gear) -> Option<f64> {
    let (w, d, h) = (g.w?, g.d?, g.h?);
    let low = w.min(d);
    (low < h && g.slide == 0.0).then_some(low)
}

fn lay_down(id: &str, g: &Gear, lying: f64) -> serde_json::Value {
    let at = format!("/gear/{}", crate::input::escape(id));
    let old = g.h.unwrap_or(lying);
    let side = if g.w == Some(lying) { "w" } else { "d" };
    serde_json::json!([
        { "op": "add", "path": format!("{at}/h"), "value": lying },
        { "op": "add", "path": format!("{at}/{side}"), "value": old },
    ])
}

/// The free floor under a deck between its supports: length and width of each stretch, mm.
fn bays(ctx: &Ctx, d: &PlatformCtx) -> Vec<(f64, f64)> {
    let (Some(worked), Some(underside)) = (d.worked, d.platform.underside) else {
        return vec![];
    };
    let t = d.platform.stands.thickness;
    let bay = |l: &[f64]| {
        let middle = (l[0] + l[1]) / 2.0;
        let free = |side| -> Option<f64> {
            let wall = ctx.model.offset(side, middle, 0.0)?;
            // What hangs higher than the deck takes no floor.
            let beside = ctx
                .model
                .things()
                .filter(|o| o.side == side && o.x.0 < l[1] && o.x.1 > l[0] && o.z.0 < underside);
            Some(beside.map(|o| o.face).fold(wall, f64::min))
        };
        Some((l[1] - l[0] - t, free(Side::Left)? + free(Side::Right)?))
    };
    worked.lines.windows(2).filter_map(bay).collect()
}

/// Free floor between supports against the footprints.
fn footprints(ctx: &Ctx, d: &PlatformCtx, under: &Under) -> Vec<Finding> {
    let (Some(worked), Some(underside)) = (d.worked, d.platform.underside) else {
        return vec![];
    };
    let frames = d.platform.stands.manner == Manner::Frames;
    // Low things go under a rail; frames go down to the floor.
    let deep = d.platform.stands.deep;
    let passes = |g: &Gear| !frames && item(g).is_some_and(|i| i.h <= underside - deep);
    let bays = bays(ctx, d);
    let Some(longest) = bays.iter().map(|b| b.0).reduce(f64::max) else {
        return vec![];
    };
    let mut out = Vec::new();
    for (id, g) in still_under(ctx, d, under) {
        let (Some(w), Some(depth)) = (g.w, g.d) else {
            continue;
        };
        if passes(g) {
            continue;
        }
        let (short, long) = (w.min(depth), w.max(depth));
        let fits = bays
            .iter()
            .any(|(l, b)| (short <= *l && long <= *b) || (long <= *l && short <= *b));
        if fits {
            continue;
        }
        let lines = worked.lines.len();
        let supports = if frames { "frames" } else { "rails" };
        let mut f = Finding::new(
            format!("between.{id}"),
            Severity::Stop,
            "layout",
            format!(
                "{} does not go between the {supports}: it is {} by {}, the longest stretch is {}.",
                g.name,
                ctx.w.say(long),
                ctx.w.say(short),
                ctx.w.say(longest)
            ),
        )
        .rule(
            "one side must fit between two supports, the other across the bay",
            "geometry",
        )
        .show("layout", id.clone());
        if frames {
            f = f.offer(
                "Rails on legs instead of frames".into(),
                format!(
                    "a rail takes {} of height where it crosses",
                    ctx.w.say(deep)
                ),
                d.set(Dial::Manner, "legs".into()),
            );
        }
        if lines > 2 {
            f = f.offer(
                "One support less, thicker board".into(),
                "heavier; check the sag".into(),
                d.turn(&[
                    (Dial::Lines, (lines - 1).into()),
                    (Dial::Thickness, 18.into()),
                ]),
            );
        }
        out.push(f);
    }
    let area = |(l, b): &(f64, f64)| l * b;
    let floor: f64 = bays.iter().map(area).sum();
    out.extend(too_much(ctx, d, floor, under));
    out
}

/// A floor so full is no longer packed without shuffling, percent (a choice).
const SHUFFLE: f64 = 85.0;

/// The footprints against the free floor; past all of it, what would have to go.
fn too_much(ctx: &Ctx, d: &PlatformCtx, floor: f64, under: &Under) -> Option<Finding> {
    let mut feet: Vec<(&str, &str, f64)> = still_under(ctx, d, under)
        .filter_map(|(id, g)| {
            let foot = g.w? * g.d? * f64::from(g.count);
            Some((id.as_str(), g.name.as_str(), foot))
        })
        .collect();
    let all: f64 = feet.iter().map(|f| f.2).sum();
    if all <= 0.0 || floor <= 0.0 {
        return None;
    }
    let percent = |foot: f64| 100.0 * foot / floor;
    let level = match percent(all) {
        p if p > 100.0 => Severity::Stop,
        p if p > SHUFFLE => Severity::Look,
        _ => Severity::Fine,
    };
    let mut sentence = format!(
        "The stow list takes {:.0} % of the free floor under the {}.",
        percent(all),
        d.platform.name
    );
    let mut offers = Vec::new();
    // The fewest things whose absence is enough; of a single one, the smallest that is.
    feet.sort_by(|a, b| b.2.total_cmp(&a.2));
    let over = all - floor;
    let mut gone = Vec::new();
    let mut freed = 0.0;
    while freed < over {
        let enough = feet.iter().rposition(|f| freed + f.2 >= over);
        let (id, name, foot) = feet.remove(enough.unwrap_or(0));
        freed += foot;
        gone.push(name);
        offers.push((
            format!("Keep {name} elsewhere"),
            format!("{:.0} % then", percent(all - foot)),
            set(
                format!("/gear/{}/under_deck", crate::input::escape(id)),
                false.into(),
            ),
        ));
    }
    if !gone.is_empty() {
        sentence.push_str(&format!(
            " Without {} it is {:.0} %.",
            gone.join(" and "),
            percent(all - freed)
        ));
    }
    let mut f = Finding::new(format!("floor.{}", d.id), level, "layout", sentence).rule(
        format!(
            "footprints over free floor between supports; past {SHUFFLE:.0} % expect to shuffle"
        ),
        "a choice",
    );
    for (label, cost, patch) in offers {
        f = f.offer(label, cost, patch);
    }
    Some(f)
}
