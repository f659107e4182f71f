//! What lies in which piece: things with a bay of their own, and what goes into rooms that open.

use std::collections::{BTreeMap, BTreeSet};

use super::moves::passes_rear;
use super::{Ctx, Finding, Severity, set};
use crate::furniture::built::{Body, MadeFor};
use crate::input::escape;
use crate::motion::gives_access;

/// What is put away in furniture that can be reached, by identifier, and the judgements on it.
pub(super) fn check<'a>(ctx: &'a Ctx) -> (BTreeSet<&'a str>, Vec<Finding>) {
    let bays = bays(ctx);
    let own = fitting(&bays);
    let stowed = stowed(ctx, &own);
    let reached = stowed.iter().filter(|s| s.1.stuck.is_none());
    let mut away: BTreeSet<&str> = reached.map(|s| s.0).collect();
    away.extend(own);
    let mut out: Vec<Finding> = bays.iter().map(|b| b.told(ctx)).collect();
    out.extend(told(ctx, &stowed));
    (away, out)
}

/// What lies in which piece: module and thing.
pub fn within<'a>(ctx: &'a Ctx) -> Vec<(&'a str, &'a str)> {
    let bays = bays(ctx);
    let own = fitting(&bays);
    let fits = bays.iter().filter(|b| b.short().is_none());
    let mut out: Vec<(&str, &str)> = fits.map(|b| (b.module, b.place.gear.as_str())).collect();
    let rest = stowed(ctx, &own);
    out.extend(rest.iter().map(|(thing, place)| (place.module, *thing)));
    out
}

/// What lies in a body that moves, by `module/body`.
pub(super) fn in_bodies<'a>(ctx: &'a Ctx) -> BTreeMap<String, Vec<&'a str>> {
    let own = fitting(&bays(ctx));
    let mut out: BTreeMap<String, Vec<&str>> = BTreeMap::new();
    for (thing, place) in stowed(ctx, &own) {
        let body = format!("{}/{}", place.module, place.body);
        // What rides on another loads that too.
        let carriers = ctx.bodies.chain(&body).into_iter().skip(1);
        let carriers: Vec<String> = carriers.map(|b| b.id.clone()).collect();
        for body in std::iter::once(body).chain(carriers) {
            out.entry(body).or_default().push(thing);
        }
    }
    out
}

/// A bay that was made for a thing whose size is known.
struct Bay<'a> {
    module: &'a str,
    place: &'a MadeFor,
    /// Width, depth, height that it needs, with slide and air, mm.
    needs: [f64; 3],
}

fn bays<'a>(ctx: &'a Ctx) -> Vec<Bay<'a>> {
    let all = ctx
        .built
        .iter()
        .flat_map(|(m, b)| b.made_for.iter().map(move |p| (m.as_str(), p)));
    all.filter_map(|(module, place)| {
        let g = ctx.project.gear.get(&place.gear)?;
        let needs = [g.w?, g.d? + g.air, g.h? + g.slide + g.air];
        Some(Bay {
            module,
            place,
            needs,
        })
    })
    .collect()
}

/// What goes into the bay that was made for it.
fn fitting<'a>(bays: &[Bay<'a>]) -> BTreeSet<&'a str> {
    let fits = bays.iter().filter(|b| b.short().is_none());
    fits.map(|b| b.place.gear.as_str()).collect()
}

impl Bay<'_> {
    /// The first of width, depth and height that is too small.
    fn short(&self) -> Option<usize> {
        (0..3).find(|k| self.needs[*k] > self.place.size[*k] + 1e-6)
    }

    fn told(&self, ctx: &Ctx) -> Finding {
        const SIDES: [&str; 3] = ["width", "depth", "height"];
        let module = ctx.project.modules.get(self.module);
        let name = module.map_or(String::new(), |m| m.called());
        let thing = &self.place.gear;
        let thing = ctx.project.gear.get(thing).map_or(thing, |g| &g.name);
        let short = self.short();
        let (level, sentence) = match short {
            None => (
                Severity::Fine,
                format!("{thing} has its own bay in the {name}."),
            ),
            Some(k) => (
                Severity::Stop,
                format!(
                    "{thing} does not go into its bay of the {name}: it needs {} of {}, {} are there.",
                    ctx.w.say(self.needs[k]),
                    SIDES[k],
                    ctx.w.say(self.place.size[k])
                ),
            ),
        };
        let steps = ["width", "depth with air", "height with slide and air"];
        let numbers = (0..3).map(|k| ctx.w.step("", steps[k], self.needs[k]));
        let id = format!("made-for.{}.{}", self.module, self.place.gear);
        let f = Finding::new(id, level, "layout", sentence)
            .rule(
                "size, slide, air and fingers",
                "your measures; 1 in for fingers: common practice, no source",
            )
            .numbers(numbers.collect())
            .show("layout", self.module);
        let now = |k: usize| module?.choices.get(SIDES[k])?.as_f64();
        // Its width is made from the thing's own.
        match short.filter(|k| *k > 0).and_then(|k| Some((k, now(k)?))) {
            Some((k, now)) => {
                let more = now + self.needs[k] - self.place.size[k];
                f.offer(
                    format!(
                        "Make it {} {}",
                        ctx.w.say(more),
                        ["wide", "deep", "high"][k]
                    ),
                    "look what else it meets then".into(),
                    set(
                        format!("/modules/{}/choices/{}", escape(self.module), SIDES[k]),
                        more.into(),
                    ),
                )
            }
            None => f,
        }
    }
}

/// A room of a piece of furniture.
#[derive(Clone)]
struct Place<'a> {
    module: &'a str,
    size: [f64; 3],
    /// The body in which it is, within the module.
    body: &'a str,
    /// What has to open before it.
    opens: Option<&'a Body>,
    /// The same, where that does not give access.
    stuck: Option<&'a Body>,
}

/// What lies in which piece, and what has to open before it: thing, module, body.
pub(super) fn behind<'a>(ctx: &'a Ctx) -> Vec<(&'a str, &'a str, Option<&'a Body>)> {
    let bays = bays(ctx);
    let own = fitting(&bays);
    let fits = bays.iter().filter(|b| b.short().is_none());
    let mut out: Vec<_> = fits
        .map(|b| (b.place.gear.as_str(), b.module, None))
        .collect();
    let rest = stowed(ctx, &own).into_iter();
    let reached = rest.filter(|(_, p)| p.stuck.is_none());
    out.extend(reached.map(|(thing, p)| (thing, p.module, p.opens)));
    out
}

/// What goes into boxes and drawers: the largest things first, each into the tightest room that takes it, one that
/// can be reached if there is one. A room takes one of them (a choice: how things lie in a drawer is not worked out).
fn stowed<'a>(ctx: &'a Ctx, own: &BTreeSet<&str>) -> Vec<(&'a str, Place<'a>)> {
    let rooms = ctx.built.iter();
    let mut rooms: Vec<Place> = rooms
        .flat_map(|(m, b)| {
            b.rooms.iter().map(move |r| {
                let id = format!("{m}/{}", r.opened_by);
                let opens = b.bodies.iter().find(|o| o.id == id);
                let shut = |o: &&Body| {
                    let stop = ctx.stops.get(&o.id).and_then(|f| f.stop.as_ref());
                    !gives_access(o, stop) || !passes_rear(ctx, o)
                };
                Place {
                    module: m,
                    size: r.size,
                    body: &r.body,
                    opens,
                    stuck: opens.filter(shut),
                }
            })
        })
        .collect();
    let volume = |s: &[f64; 3]| s[0] * s[1] * s[2];
    rooms.sort_by(|a, b| {
        let stuck = a.stuck.is_some().cmp(&b.stuck.is_some());
        stuck.then(volume(&a.size).total_cmp(&volume(&b.size)))
    });
    let mut things: Vec<(&str, [f64; 3])> = ctx
        .project
        .gear
        .iter()
        .filter(|(id, g)| {
            let placed = own.contains(id.as_str());
            g.under_deck && g.slide == 0.0 && !placed
        })
        .filter_map(|(id, g)| Some((id.as_str(), [g.w?, g.d?, g.h?])))
        .collect();
    let count = |id: &str| ctx.project.gear.get(id).map_or(1, |g| g.count) as usize;
    things.sort_by(|a, b| volume(&b.1).total_cmp(&volume(&a.1)));
    let mut out = Vec::new();
    for (id, [w, d, h]) in things {
        let takes = |p: &Place| {
            let s = p.size;
            let lies = w <= s[0] && d <= s[1] || d <= s[0] && w <= s[1];
            lies && h <= s[2]
        };
        // Of several alike all go in, or none: half a set is looked for under the deck.
        let places = (0..rooms.len()).filter(|k| takes(&rooms[*k]));
        let places: Vec<usize> = places.take(count(id)).collect();
        if places.len() == count(id) {
            let taken = places.into_iter().rev().map(|k| (id, rooms.remove(k)));
            out.extend(taken.collect::<Vec<_>>());
        }
    }
    out
}

/// One finding for each piece of furniture that holds something, or would if it opened.
fn told(ctx: &Ctx, stowed: &[(&str, Place)]) -> Vec<Finding> {
    let mut by: BTreeMap<(&str, bool), (Vec<&str>, &Place)> = BTreeMap::new();
    for (thing, place) in stowed {
        let name = ctx.project.gear.get(*thing).map_or(*thing, |g| &g.name);
        let entry = by.entry((place.module, place.stuck.is_some()));
        entry.or_insert_with(|| (vec![], place)).0.push(name);
    }
    by.into_iter()
        .map(|((module, _), (things, place))| {
            let name = ctx
                .project
                .modules
                .get(module)
                .map_or(String::new(), |m| m.called());
            let mut each: Vec<(&str, usize)> = Vec::new();
            for thing in things {
                match each.iter_mut().find(|(name, _)| *name == thing) {
                    Some((_, n)) => *n += 1,
                    None => each.push((thing, 1)),
                }
            }
            let each = each.into_iter().map(|(name, n)| match n {
                1 => name.to_string(),
                n => format!("{n} × {name}"),
            });
            let things = each.collect::<Vec<_>>().join(", ");
            let (id, level, sentence) = match place.stuck {
                None => (
                    format!("stowed.{module}"),
                    Severity::Fine,
                    format!("In the {name}: {things}."),
                ),
                Some(body) => (
                    format!("shut-in.{module}"),
                    Severity::Look,
                    format!(
                        "{things} would lie in the {name}, but the {} does not open far enough to reach in.",
                        body.name
                    ),
                ),
            };
            Finding::new(id, level, "stow", sentence)
                .rule(
                    "a thing lies flat in the room that a box or drawer has, one in each, and what is before the room opens: a lid to 45°, a drawer by half",
                    "a choice",
                )
                .show("layout", module)
        })
        .collect()
}
