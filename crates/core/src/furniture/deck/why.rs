//! How a deck's edges came about. Every edge of a piece carries a label; here the label becomes the arithmetic
//! that put the edge where it is.

use super::leaf::STRAIGHT;
use super::{ENDS, Shared};
use crate::furniture::Site;
use crate::furniture::built::{Axis, Measure};
use crate::furniture::platform::parting::JOINT;
use crate::geometry::Point;
use crate::geometry::labelled::{Label, Labelled, Rank};
use crate::project::deck::Deck;
use crate::project::survey::Side;
use crate::survey::bay::{Course, Station};
use crate::survey::model::{FaceFrom, Obstacle};
use crate::template::fill::{CLEAR, LEAN};
use crate::units::figure::Writer;
use crate::units::value::{Source, Surface, Value};

/// Straight edges over straight edges are followed no deeper than this.
const DEEPEST: usize = 8;

/// What a label stands for.
#[derive(Debug, Clone, Copy)]
pub enum Edge {
    /// The bay at a height.
    Bay(f64, Course),
    /// One straight edge instead of a gentle curve: its ends, each on an older edge.
    Straight([(Point, Label); 2]),
}

/// What an edge follows.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Bound {
    Wall(Side),
    Front,
    Threshold,
}

impl Bound {
    /// How far along it a point lies.
    fn along(self, p: Point) -> f64 {
        match self {
            Bound::Wall(_) => p[0],
            Bound::Front | Bound::Threshold => p[1],
        }
    }

    /// How far out it lies.
    fn out(self, p: Point) -> f64 {
        match self {
            Bound::Wall(side) => side.sign() * p[1],
            Bound::Front | Bound::Threshold => p[0],
        }
    }

    fn surface(self) -> Surface {
        match self {
            Bound::Wall(side) => surface(side),
            Bound::Front | Bound::Threshold => Surface::Front,
        }
    }

    fn name(self) -> String {
        match self {
            Bound::Wall(side) => format!("{} wall", side.word()),
            Bound::Front => "front".into(),
            Bound::Threshold => "threshold".into(),
        }
    }

    fn words(self, w: &Writer, at: f64) -> String {
        match self {
            Bound::Wall(side) => format!(
                "{} wall from centre, {} from the threshold",
                side.word(),
                w.say(at)
            ),
            Bound::Front if at.abs() < 0.05 => "front from the threshold, in the middle".into(),
            Bound::Front => {
                let side = if at > 0.0 { "left" } else { "right" };
                format!(
                    "front from the threshold, {} {side} of the middle",
                    w.say(at.abs())
                )
            }
            Bound::Threshold => "threshold".into(),
        }
    }
}

/// All that bounds a deck, by label.
pub struct Edges<'a> {
    pub site: &'a Site<'a>,
    pub deck: &'a Deck,
    pub walls: Vec<Edge>,
    pub things: Vec<&'a Obstacle>,
    pub shared: Shared,
    /// The clearance to the walls.
    pub clearance: Value,
    /// Where the front end was cut straight for a leaf.
    pub straight: Option<Value>,
}

impl<'a> Edges<'a> {
    /// With nothing in it yet.
    pub fn new(site: &'a Site<'a>, deck: &'a Deck, shared: Shared) -> Edges<'a> {
        let clearance = clearance(site, deck, shared);
        Edges {
            site,
            deck,
            walls: vec![],
            things: vec![],
            shared,
            clearance,
            straight: None,
        }
    }

    /// The bay's edges with labels of this list.
    pub fn take(&mut self, bay: Labelled, z: f64, courses: &[Course]) -> Labelled {
        let first = self.walls.len();
        self.walls.extend(courses.iter().map(|c| Edge::Bay(z, *c)));
        bay.relabelled(&|l| Label::wall(first + l.number as usize))
    }

    /// A straight edge from one corner to another.
    pub fn straight(&mut self, from: (Point, Label), to: (Point, Label)) -> Label {
        self.walls.push(Edge::Straight([from, to]));
        Label::wall(self.walls.len() - 1)
    }

    /// How far an edge is moved in.
    pub fn off(&self, label: Label) -> f64 {
        match label.rank {
            Rank::Thing => {
                let own = self.things.get(label.number as usize);
                own.map_or(0.0, |o| self.around(o).mm)
            }
            Rank::Wall => {
                let covered = self.bound(label, 0).and_then(|b| self.covered(b));
                self.clearance.mm + covered.map_or(0.0, |c| c.mm)
            }
            Rank::Cut | Rank::None => 0.0,
        }
    }

    /// What an edge follows, looked up without its arithmetic.
    fn bound(&self, label: Label, deep: usize) -> Option<Bound> {
        if label.rank != Rank::Wall || deep > DEEPEST {
            return None;
        }
        match self.walls.get(label.number as usize)? {
            Edge::Bay(_, Course::Wall(side, _)) => Some(Bound::Wall(*side)),
            Edge::Bay(_, Course::Front(_)) => Some(Bound::Front),
            Edge::Bay(_, Course::Threshold) => Some(Bound::Threshold),
            Edge::Bay(_, Course::Beyond) => None,
            Edge::Straight([(_, from), _]) => self.bound(*from, deep + 1),
        }
    }

    /// What is put round the edge there.
    fn covered(&self, bound: Bound) -> Option<Value> {
        let own = self.deck.covers;
        let (field, mm) = match bound {
            Bound::Wall(Side::Left) => ("covers/left", own.left),
            Bound::Wall(Side::Right) => ("covers/right", own.right),
            Bound::Front => ("covers/front", own.front),
            Bound::Threshold => return None,
        };
        (mm > 0.0).then(|| self.site.choice(field, "covering on the edge", mm))
    }

    /// How far an edge stays from a thing it is cut out round: what the walls keep, or more where the thing is
    /// less well known.
    pub fn around(&self, o: &Obstacle) -> Value {
        let doubt = doubt_of(o);
        let own = match self.deck.clearance {
            Some(_) => self.clearance.clone(),
            None => (&doubt * CLEAR + finish(self.site, self.deck)).named("clearance"),
        };
        let extra = Value::leaf(
            Source::Thing {
                id: o.id.clone(),
                doubt: false,
            },
            "clearance and movement it wants",
            o.extra,
        );
        let held = own.max(self.clearance.clone()) + doubt * LEAN;
        if o.extra > 0.0 { held + extra } else { held }
    }

    /// The line before it was moved in: how far out it lies at `t` along it, and its slope.
    fn line(&self, label: Label, t: f64, deep: usize) -> Option<(Bound, Value, f64)> {
        if label.rank != Rank::Wall || deep > DEEPEST {
            return None;
        }
        let w = self.site.w;
        match self.walls.get(label.number as usize)? {
            Edge::Bay(z, course) => {
                let (bound, [a, b]) = match course {
                    Course::Wall(side, ends) => (Bound::Wall(*side), ends),
                    Course::Front(ends) => (Bound::Front, ends),
                    Course::Threshold => return Some((Bound::Threshold, Value::zero(), 0.0)),
                    Course::Beyond => return None,
                };
                let share = (t - a.at) / (b.at - a.at);
                let held = [a, b].map(|s| self.held_off(bound, *z, s));
                let slope = ((b.mm - held[1].mm) - (a.mm - held[0].mm)) / (b.at - a.at);
                let place = |s: &Station| self.place(bound, *z, s);
                let line = place(a).towards(&place(b), share).named(bound.words(&w, t));
                let held = held[0].towards(&held[1], share).named("for doubt here");
                Some((bound, line - held, slope))
            }
            Edge::Straight([(p, from), (q, to)]) => {
                let (bound, ..) = self.line(*from, 0.0, deep + 1)?;
                let along = |p: &Point| bound.along(*p);
                let (_, a, _) = self.line(*from, along(p), deep + 1)?;
                let (other, b, _) = self.line(*to, along(q), deep + 1)?;
                let long = along(q) - along(p);
                if bound != other || long.abs() < 1.0 {
                    return None;
                }
                let words = format!(
                    "{} less its doubt, straight from {} to {}",
                    bound.name(),
                    w.say(along(p)),
                    w.say(along(q))
                );
                let slope = (bound.out(*q) - bound.out(*p)) / long;
                let share = (t - along(p)) / long;
                Some((bound, a.towards(&b, share).named(words), slope))
            }
        }
    }

    fn place(&self, bound: Bound, z: f64, s: &Station) -> Value {
        let label = format!("{} at {}", bound.name(), self.site.w.say(s.at));
        let (surface, at) = (bound.surface(), [s.at, z]);
        Value::leaf(Source::Place { surface, at }, label, s.mm)
    }

    /// What an edge of that doubt is held off beside the clearance.
    fn held_off(&self, bound: Bound, z: f64, s: &Station) -> Value {
        let label = format!("doubt at {}", self.site.w.say(s.at));
        let (surface, at) = (bound.surface(), [s.at, z]);
        let doubt = Value::leaf(Source::Doubt { surface, at }, label, s.sd);
        let more = if self.deck.clearance.is_none() && s.sd > self.shared.sd {
            (&doubt - self.shared.value()) * CLEAR
        } else {
            Value::zero()
        };
        (doubt * LEAN + more) * s.slant
    }

    /// How far the edge reaches at the point `p` on it: to its wall, or to the front, or from the threshold.
    fn reach(&self, label: Label, p: Point) -> Option<(Bound, Value)> {
        let (bound, ..) = self.line(label, 0.0, 0)?;
        let (_, line, slope) = self.line(label, bound.along(p), 0)?;
        // Square to the edge by the clearance: across it a little more.
        let off = match self.covered(bound) {
            Some(covered) => &self.clearance + covered,
            None => self.clearance.clone(),
        };
        let off = off * slope.hypot(1.0);
        Some(match bound {
            Bound::Threshold => (bound, line + off),
            _ => (bound, line - off),
        })
    }

    /// What an edge follows, and how much further out that lies at the upper of two heights, mm, along which axis; nothing
    /// where the edge follows nothing that leans.
    pub fn leans(
        &self,
        label: Label,
        p: Point,
        (low, high): (f64, f64),
    ) -> Option<(String, f64, usize)> {
        let (bound, ..) = self.line(label, 0.0, 0)?;
        let model = self.site.model;
        let (at, axis): (&dyn Fn(f64) -> Option<f64>, usize) = match bound {
            Bound::Wall(side) => (&move |z| model.offset(side, p[0].max(0.0), z), 1),
            Bound::Front => (&move |z| model.reach(p[1], z), 0),
            Bound::Threshold => return None,
        };
        Some((bound.name(), at(high)? - at(low)?, axis))
    }

    /// Why a piece reaches so far out on a side somewhere along a stretch of the bay, if its edge there follows a wall.
    pub fn across(&self, piece: &Labelled, side: Side, x: (f64, f64), end: f64) -> Option<Value> {
        /// An edge ends where its explanation says, mm.
        const SAME: f64 = 1e-3;
        let out = |p: Point| side.sign() * p[1];
        piece.edges().find_map(|(p, q, label)| {
            let long = q[0] - p[0];
            let at = |x: f64| [x, p[1] + (q[1] - p[1]) * (x - p[0]) / long];
            let between = |x: &f64| long.abs() > SAME && (x - p[0]) * (x - q[0]) <= 0.0;
            let ends = [p, q].into_iter().filter(|p| p[0] >= x.0 && p[0] <= x.1);
            let cut = [x.0, x.1].into_iter().filter(between).map(at);
            let here = ends.chain(cut).find(|p| (out(*p) - end).abs() < SAME)?;
            let (bound, reach) = self.reach(label, here)?;
            (bound == Bound::Wall(side) && (reach.mm - end).abs() < SAME).then_some(reach)
        })
    }

    /// Where a piece ends on one of its four sides, if that follows from a single edge: its distance from the centre
    /// line or the threshold.
    pub(super) fn end(&self, piece: &Labelled, axis: usize, high: bool) -> Option<Value> {
        let ends = || piece.edges().map(|(a, ..)| a[axis]);
        let end = if high {
            ends().fold(f64::NEG_INFINITY, f64::max)
        } else {
            ends().fold(f64::INFINITY, f64::min)
        };
        // Edges that touch that end, and whether they run along it.
        let at = |p: Point| (p[axis] - end).abs() < 1e-6;
        let touching = piece.edges().filter(|(a, b, _)| at(*a) || at(*b));
        let mut here: Vec<(Label, Point, bool)> = touching
            .map(|(a, b, label)| (label, if at(a) { a } else { b }, at(a) && at(b)))
            .collect();
        here.sort_by_key(|(label, ..)| *label);
        here.into_iter().find_map(|(label, p, along)| {
            if label == JOINT && along {
                let words = ["joint from the threshold", "joint from the centre line"];
                return Some(Value::rule("deck/joint", words[axis], end));
            }
            if label == STRAIGHT && along && axis == 0 && high {
                let own = self.straight.clone();
                return own.filter(|v| (v.mm - end).abs() < 1e-3);
            }
            if label == ENDS && along && axis == 0 {
                let (field, words) = if high {
                    ("to", "deck ends")
                } else {
                    ("from", "deck begins")
                };
                return Some(self.site.choice(field, words, end));
            }
            let (bound, reach) = self.reach(label, p)?;
            match (bound, axis, high) {
                (Bound::Wall(Side::Left), 1, true)
                | (Bound::Front, 0, true)
                | (Bound::Threshold, 0, false) => Some(reach),
                (Bound::Wall(Side::Right), 1, false) => Some(-reach),
                _ => None,
            }
        })
    }

    /// What is worth saying about a piece: its length and width, and every cut-out that it has.
    pub fn measures(&self, piece: &Labelled) -> Vec<Measure> {
        let mut out = Vec::new();
        let ends = [
            (
                0,
                Axis::U,
                "length",
                ["front edge from the threshold", "rear edge from it"],
            ),
            (
                1,
                Axis::V,
                "width",
                ["left edge from the centre line", "right edge from it"],
            ),
        ];
        for (axis, named, about, words) in ends {
            let (high, low) = (self.end(piece, axis, true), self.end(piece, axis, false));
            let (Some(high), Some(low)) = (high, low) else {
                continue;
            };
            // To the right of the centre line distances are counted from it, too.
            let value = if axis == 1 && low.mm < 0.0 {
                high.named(words[0]) + (-low).named(words[1])
            } else {
                high.named(words[0]) - low.named(words[1])
            };
            out.push(Measure::whole(named, about, value));
        }
        for (i, o) in self.things.iter().enumerate() {
            let here = |(a, b, label): (Point, Point, Label)| {
                label == Label::thing(i) && (a[1] - b[1]).abs() < 1e-3
            };
            if piece.edges().any(here) {
                let about = format!("cut-out for {} from centre", o.name);
                out.push(Measure::of(about, self.face(o) - self.around(o)));
            }
        }
        out
    }

    /// A thing's inner face from the centre line.
    fn face(&self, o: &Obstacle) -> Value {
        let thing = |label: String, mm| {
            let id = o.id.clone();
            Value::leaf(Source::Thing { id, doubt: false }, label, mm)
        };
        match o.how {
            FaceFrom::Centre => thing(format!("{} face from centre", o.name), o.face),
            // Where it leans in over its foot its face is what was found there.
            FaceFrom::Wall(wall, width) if (wall - width - o.face).abs() > 1e-6 => {
                thing(format!("{} face from centre", o.name), o.face)
            }
            FaceFrom::Wall(wall, width) => {
                let x = (o.x.0 + o.x.1) / 2.0;
                let place = Source::Place {
                    surface: surface(o.side),
                    at: [x, o.z.0],
                };
                let words = format!("{} wall from centre", o.side.word());
                let wall = Value::leaf(place, words, wall);
                wall - thing(format!("{} stands in", o.name), width)
            }
        }
    }
}

/// The surface of a wall.
pub fn surface(side: Side) -> Surface {
    match side {
        Side::Left => Surface::LeftWall,
        Side::Right => Surface::RightWall,
    }
}

fn doubt_of(o: &Obstacle) -> Value {
    let id = o.id.clone();
    Value::leaf(Source::Thing { id, doubt: true }, "doubt here", o.sd)
}

fn finish(site: &Site, deck: &Deck) -> Value {
    Value::choice(
        format!("{}/finish", site.pointer()),
        "finish on the edge",
        deck.finish,
    )
}

/// The clearance to the walls.
fn clearance(site: &Site, deck: &Deck, shared: Shared) -> Value {
    match deck.clearance {
        Some(mm) => site.choice("clearance", "clearance", mm),
        None => (shared.value() * CLEAR + finish(site, deck)).named("clearance"),
    }
}
