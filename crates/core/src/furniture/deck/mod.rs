//! A sleeping platform: the bay at its height less what is in the way, carried on supports, parted
//! so that it lies on sheets and comes through the door.

mod bevel;
mod change;
mod facts;
mod ground;
mod hatch;
mod joints;
mod kind;
mod leaf;
mod pins;
mod supports;
mod top;
pub(super) mod why;

pub use kind::DeckKind;

use crate::furniture::Site;
use crate::furniture::built::{Built, FIXED};
use crate::furniture::platform::parting::{self, Demands};
use crate::furniture::platform::span::{Burden, burden, runs, sag, spans_needed};
use crate::furniture::platform::{DeckPlan, Surface, Worked, gaps};
use crate::geometry::labelled::{Label, Labelled, Rank};
use crate::geometry::region::Region;
use crate::mechanics::material::Grain;
use crate::project::deck::{Change, Deck, Pass, Rest, Top};
use crate::project::stock::usable;
use crate::project::survey::{Cover, REAR, Side};
use crate::side_by_side::beside;
use crate::survey::bay::Course;
use crate::survey::model::{Bay, Obstacle};
use crate::template::fill::{CLEAR, LEAN, SIGMAS};
use crate::template::outline::free_panel;
use crate::units::figure::{System, Writer};
use crate::units::value::{Source, Value};
use supports::Support;
use top::{panels, shown};
use why::{Edges, surface};

/// Edges share the clearance that this share of them needs; where the doubt is larger an edge keeps its
/// own, so that most of the edge runs parallel to the wall.
const SHARED: f64 = 0.75;

/// Gentle curves are marked by straight runs that leave them by at most this, mm: less than a
/// carpenter's pencil is wide.
const PENCIL: f64 = 0.5;

/// What the edges at a deck's free ends are labelled.
const ENDS: Label = Label {
    rank: Rank::Cut,
    number: 0,
};

/// Works the deck out, or says nothing while the bay at its height is not known.
pub fn work(site: &Site, deck: &Deck) -> Option<Built> {
    let (project, model, id, w) = (site.project, site.model, site.id, site.w);
    let sheet = usable(project, &deck.material, deck.thickness);
    let underside = deck.underside?;
    let top = underside + deck.thickness;
    let (low, high) = beside(|| model.bay(underside), || model.bay(top));
    let (low, high) = (low?, high?);
    // Walls lean: the panel must go in at its lower and at its upper face.
    let within = |a: &Region, b: &Region| a.and(b).into_iter().next().map(|r| r.simplified(PENCIL));
    let region = clip(&plain(&within(&low.region, &high.region)?), deck)?.region();

    let sd = shared(&low, &high);
    let mut edges = Edges::new(site, deck, sd);
    let clearance = edges.clearance.mm;
    let held_off = |own: f64| match deck.clearance {
        Some(_) => LEAN * own,
        None => LEAN * own + CLEAR * (own - sd.sd).max(0.0),
    };
    let inner = level(&mut edges, &held_off, (&low, &high))?;

    let (crossing, below): (Vec<&Obstacle>, Vec<&Obstacle>) = model
        .things()
        .filter(|o| o.z.0 < top)
        .partition(|o| o.up_to() > underside || o.cover == Cover::Keep);
    let plan = |o: &Obstacle| {
        if o.up_to() > underside {
            o.between(underside, top)
        } else {
            o.plan()
        }
    };
    edges.things.clone_from(&crossing);
    let obstacles: Vec<Region> = crossing.iter().map(|o| plan(o)).collect();
    let things: Vec<Labelled> = obstacles
        .iter()
        .enumerate()
        .map(|(i, r)| Labelled::new(r, Label::thing(i)))
        .collect();
    let (mut whole, _) = free_panel(&inner, &things, &|label| edges.off(label));
    if whole.is_empty() {
        return None;
    }
    let hinge = leaf::straighten(&mut edges, &mut whole);
    let pieces: Vec<Region> = whole.iter().map(Labelled::region).collect();

    let material = project.material(&deck.material)?;
    let e = material.modulus(deck.thickness, Grain::Along)?;
    let who = burden(project);
    let surface = facts::surface(deck);
    let between = stand(site, deck, &pieces, clearance);
    let at = deck.joint.map(|j| change::between(j, between));
    let standing = |e: f64| {
        let lines = lines((between, at), (deck, &surface), (e, &w), &who);
        supports::onto_ledgers(site, deck, (clearance, sd.sd), lines, at)
    };
    let mut lines = standing(e);
    let demands = Demands {
        sheet,
        opening: model.ways_through(REAR, 2.0 * SIGMAS * model.sd),
        depth: model.length(0.0)?,
        thickness: deck.thickness,
        joint: at,
    };
    let moves = deck.change != Change::Fixed;
    let ways = parting::ways(deck.split, moves);
    let mut parting = parting::part(&whole, &lines, ways, &demands)?;
    let mut e = e;
    if parting.turns() && deck.top == Top::Solid {
        e = material.modulus(deck.thickness, Grain::Across)?;
        lines = standing(e);
        parting = parting::part(&whole, &lines, ways, &demands)?;
    }
    let meets = change::meets(deck, &parting);
    if let Some(at) = meets.filter(|_| deck.pass == Pass::Narrow && deck.change != Change::Lift) {
        let over = (top, top + deck.thickness);
        let above = model.bay(over.1)?;
        let inner = level(&mut edges, &held_off, (&high, &above))?;
        let free = change::free_over(site, &edges, &inner, over);
        change::narrow(deck, at, &mut parting, &free);
    }
    let runs = runs(&lines, &parting.xs);
    let sag = sag(&surface, e, &runs, &who);

    let edge = |side, x, end| whole.iter().find_map(|p| edges.across(p, side, x, end));
    let along = |front: bool| {
        let all = whole.iter().filter_map(|p| edges.end(p, 0, front));
        all.reduce(|a, b| if (a.mm > b.mm) == front { a } else { b })
    };
    let ends = supports::Ends {
        clearance: &edges.clearance,
        doubt: &(sd.value() * LEAN),
        edge: &edge,
        along: &along,
    };
    let known = (clearance, sd.sd);
    // A board that comes off lies on strips; others where that is chosen.
    let resting: Vec<f64> = match meets {
        Some(at) => vec![at],
        None if deck.rest == Rest::Strips => parting.xs.clone(),
        None => vec![],
    };
    // What lies on top and what carries it do not wait for each other.
    let (support, (mut top, mut out)) = beside(
        || supports::build(site, deck, &pieces, &lines, known, &resting, &ends),
        || {
            let mut top = panels(&edges, &parting, &lines);
            let Some(at) = meets else {
                return (top, Built::default());
            };
            change::hand_over(deck, &mut top, at);
            let out = change::change(site, deck, at, &top);
            (top, out)
        },
    );
    let Support {
        mut boards,
        plan,
        missing,
        ways,
    } = support;
    let parted = (&parting.xs[..], &parting.ys[..]);
    let thick = (underside, deck.supports.thickness);
    let (carried, on) = beside(
        || gaps::Lines::new(site, thick, (&pieces, &lines), &boards, parted),
        || -> Vec<Vec<f64>> { top.iter().map(|b| joints::supports(b, &boards)).collect() },
    );
    // What would lie on one support only is left out, if it is a slat: a hull is narrower below than where the slat lies.
    let slats = deck.top == Top::Slats;
    let keep: Vec<bool> = on.iter().map(|l| !slats || l.len() >= 2).collect();
    let lying = top.iter().zip(&on).filter(|(_, l)| l.len() >= 2);
    let out_by = lying.map(|(b, l)| joints::sticks_out(b, l));
    let overhang = out_by
        .max_by(|a, b| a.by.total_cmp(&b.by))
        .unwrap_or_default();
    let left_out = keep.iter().filter(|k| !**k).count();
    let mut kept = keep.iter();
    top.retain(|_| *kept.next().unwrap_or(&true));
    let hatch::Cut {
        built: hatched,
        count: hatches,
        refused,
    } = hatch::cut(site, deck, &lines, &boards, &mut top);
    if let Some(at) = meets {
        pins::bore(deck, at, &mut top, &w);
    }
    let leaf = hinge.map(|h| leaf::leaf(site, deck, &top, &h, &edge));
    let vents = top.iter().flat_map(|b| b.vents.iter().map(|v| v.0));
    let vents = vents.collect();
    // What carries it is put in first.
    boards.extend(top);
    out.joints = joints::joints(&boards, FIXED);
    out.boards = boards;
    out.take(hatched);
    let longer = leaf.as_ref().map(|_| deck.leaf_length);
    out.take(leaf.unwrap_or_default());
    let panels = shown(deck, &parting).into_iter().zip(&keep);
    let panels: Vec<Region> = panels.filter(|(_, k)| **k).map(|(r, _)| r).collect();
    let plan = DeckPlan {
        id: id.into(),
        name: deck.name.clone(),
        underside: w.figure(underside),
        thickness: w.figure(deck.thickness),
        bay: region,
        obstacles,
        below: below.iter().map(|o| o.plan()).collect(),
        area: panels.iter().map(Region::area).sum(),
        panels,
        clearance: edges.clearance.why("clearance to the walls", &w),
        lines: lines.clone(),
        supports: plan,
        vents,
        span: sag.as_ref().map(|s| w.figure(s.span)),
        split: parting.how,
    };
    let worked = Worked {
        plan,
        sag,
        burden: who,
        parting,
        demands,
        clearance,
        sd: sd.sd,
        free_pieces: pieces.len(),
        missing,
        carried,
        ways,
        lines,
        hatches,
        refused,
        leaf: longer,
        left_out,
        overhang,
    };
    out.bevelled = true;
    out.platform = Some(Box::new(worked));
    Some(out)
}

/// What is free between two heights, its edges held off by their doubt, and straight where that is nearly so.
fn level(
    edges: &mut Edges,
    held_off: &(dyn Fn(f64) -> f64 + Sync),
    (low, high): (&Bay, &Bay),
) -> Option<Labelled> {
    let (deck, model) = (edges.deck, edges.site.model);
    let (below, above) = beside(
        || model.held_off(low, held_off),
        || model.held_off(high, held_off),
    );
    let mut take =
        |bay: &Bay, (safe, courses): (Labelled, Vec<Course>)| edges.take(safe, bay.z, &courses);
    let (below, above) = (take(low, below?), take(high, above?));
    let both = below.and(&above).into_iter().next()?;
    let inner = both.simplified(PENCIL, &mut |from, to| edges.straight(from, to));
    clip(&inner, deck)
}

/// The doubt that most of a deck's edge does not exceed, and where that is.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Shared {
    /// One standard deviation, mm.
    pub sd: f64,
    /// At which wall, how far in, how high, mm.
    pub at: (Side, f64, f64),
}

impl Shared {
    /// With where it comes from.
    pub fn value(&self) -> Value {
        let (side, x, z) = self.at;
        let (surface, at) = (surface(side), [x, z]);
        let label = "doubt that most of the edge does not exceed";
        Value::leaf(Source::Doubt { surface, at }, label, self.sd)
    }
}

/// The standard deviation that most of the edge does not exceed.
pub fn shared(low: &Bay, high: &Bay) -> Shared {
    let walls = |bay: &Bay| {
        let z = bay.z;
        let both = Side::BOTH.map(|side| (side, bay.walls[side as usize].clone()));
        both.into_iter()
            .flat_map(move |(side, wall)| wall.into_iter().map(move |w| (w.2, (side, w.0, z))))
    };
    let mut sds: Vec<(f64, (Side, f64, f64))> = walls(low).chain(walls(high)).collect();
    sds.sort_by(|a, b| a.0.total_cmp(&b.0));
    let at = ((sds.len() as f64 - 1.0) * SHARED).max(0.0) as usize;
    let (sd, at) = sds
        .get(at)
        .copied()
        .unwrap_or((0.0, (Side::Left, 0.0, 0.0)));
    Shared { sd, at }
}

/// A region whose edges say nothing.
fn plain(region: &Region) -> Labelled {
    Labelled::new(region, Label::default())
}

/// The bay between `from` and `to`. The ends there stand free and need no clearance: they are cut lines.
fn clip(bay: &Labelled, deck: &Deck) -> Option<Labelled> {
    let (x0, y0, x1, y1) = bay.region().bounds();
    let from = deck.from.filter(|f| *f > x0).unwrap_or(x0 - 1.0);
    let to = deck.to.filter(|t| *t < x1).unwrap_or(x1 + 1.0);
    let band = Region::rectangle(from, y0 - 1.0, to, y1 + 1.0);
    let band = Labelled::new(&band, ENDS);
    bay.and(&band).into_iter().next()
}

/// How far forward a deck is about as wide as a little further back: a front that runs askew across the bay would leave a
/// support at its very end under one half of it only. `x1` where it is straight across, or a nose.
fn square(whole: &[Region], x1: f64) -> f64 {
    /// So far back it is looked how wide the deck is, and no further back goes the support, mm.
    const BACK: f64 = 15.0;
    /// A support that would lose more than this share of it is moved, until it loses hardly any.
    const LOST: f64 = 0.2;
    const HARDLY: f64 = 0.03;
    let wide = |x: f64| {
        let all = whole.iter().flat_map(|r| r.line(x));
        all.map(|s| s.1 - s.0).fold(0.0, f64::max)
    };
    let whole = wide(x1 - BACK);
    if wide(x1 - 0.5) >= (1.0 - LOST) * whole {
        return x1;
    }
    let mut backs = (1..2 * BACK as u32).map(|d| x1 - f64::from(d) / 2.0);
    let there = backs.find(|x| wide(*x) >= (1.0 - HARDLY) * whole);
    there.unwrap_or(x1)
}

/// Where supports may stand: under the deck, and clear of a front that leans in below it.
fn stand(site: &Site, deck: &Deck, whole: &[Region], clearance: f64) -> (f64, f64) {
    /// A front that comes in further than this below the deck is left to the frame's own ends, mm.
    const MOST: f64 = 300.0;
    /// Before a front that comes in, a frame stands so much sooner, mm: it would only just pass, and a corner of it would not.
    const SPARE: f64 = 1.0;
    /// The front is looked at over this share of the width.
    const SHARE: f64 = 0.6;
    let (x0, y0, x1, y1) = parting::bounds(whole);
    let x1 = square(whole, x1);
    let free = supports::cross(site, deck, clearance);
    let under = deck.underside.unwrap_or(0.0);
    let floor = site.model.floor(x1);
    let heights = free.heights(floor + 0.5, under - 0.3);
    let reach = |z: f64| {
        let ys = [-1.0, -0.5, 0.0, 0.5, 1.0].map(|k| {
            let half = if k < 0.0 { -y0 } else { y1 };
            k * SHARE * half
        });
        // Low in a hull there is nothing that far out.
        let inside = ys.into_iter().filter(|y| {
            let side = if *y < 0.0 { Side::Right } else { Side::Left };
            free.wall(side, x1 - 40.0, z).is_some_and(|w| w > y.abs())
        });
        let all = inside.chain([0.0]).filter_map(|y| free.front(y, z));
        all.fold(f64::INFINITY, f64::min)
    };
    let least = heights.into_iter().map(reach).fold(x1, f64::min);
    match x1 - least {
        at_all if at_all <= 0.0 || at_all > MOST => (x0, x1),
        _ => (x0, least - SPARE),
    }
}

/// A joint so near to a support line is over it, mm.
const ON: f64 = 0.6;

/// Support lines: under both ends, and between them as many as the sag asks for or the user set.
/// Where two boards are to meet `at` a place, there is one under their joint.
fn lines(
    ((x0, x1), at): ((f64, f64), Option<f64>),
    (deck, on): (&Deck, &Surface),
    (e, w): (f64, &Writer),
    who: &Burden,
) -> Vec<f64> {
    let half = deck.supports.thickness / 2.0;
    // Rounded as the others are, but never towards the front: there is no room there.
    let ends = (x0 + half, ((x1 - half) * 2.0).floor() / 2.0);
    let evenly = |(a, b): (f64, f64), spans: usize| {
        (0..=spans)
            .map(|i| {
                let x = a + (b - a) * i as f64 / spans as f64;
                match w.system {
                    System::In if i > 0 && i < spans => w.round(x),
                    _ => (x * 2.0).round() / 2.0,
                }
            })
            .collect::<Vec<f64>>()
    };
    let needed = |(a, b): (f64, f64)| spans_needed(on, e, b - a, who);
    let wanted = deck.supports.lines.map(|n| (n.max(2) - 1) as usize);
    // A bed that changes stands on three lines at the least: one is under the joint.
    let parted = deck.change != Change::Fixed;
    let least = if parted { 2 } else { 1 };
    let even = evenly(ends, wanted.unwrap_or_else(|| needed(ends)).max(least));
    // Where a line is anyway, all stay: typed, a joint that was left empty moves nothing.
    let Some(at) = at.filter(|at| !even.iter().any(|x| (x - at).abs() < ON)) else {
        return even;
    };
    let (rear, front) = ((ends.0, at), (at, ends.1));
    let (p, q) = match wanted {
        Some(n) => {
            let share = (at - ends.0) / (ends.1 - ends.0);
            let n = n.max(2);
            let p = ((n as f64 * share).round() as usize).clamp(1, n - 1);
            (p, n - p)
        }
        None => (needed(rear), needed(front)),
    };
    let mut out = evenly(rear, p);
    out.extend(evenly(front, q).into_iter().skip(1));
    out
}
