//! A body followed from one opening to another: what does it meet first, and how far has it come then?

use std::ops::Range;

use super::vehicle::Vehicle;
use super::{SLIDE, Stop, TURN};
use crate::furniture::built::{Met, Motion, Vec3};
use crate::geometry::pose::around;
use crate::geometry::{less, more};
use crate::project::Project;
use crate::solids::Solid;
use crate::survey::model::Model;

/// No point goes further than this between two looks at other boards, mm: less than any board is thick.
const BOARDS: f64 = 5.0;
/// Where it begins a body touches what it lies on: what it meets within this is not in its way, mm.
const REST: f64 = 1.0;

/// A body on its way.
struct Way<'a> {
    motion: &'a Motion,
    /// From one opening to another, degrees or mm from shut.
    from: f64,
    to: f64,
    /// Between two looks at the vehicle.
    step: f64,
    /// The points of its boards where it is shut, and which are whose.
    points: Vec<Vec3>,
    of_each: Vec<Range<usize>>,
    /// Where they begin.
    begin: Vec<Vec3>,
    /// The box that each stays in, looked at step by step.
    swept: Vec<(Vec3, Vec3)>,
}

impl<'a> Way<'a> {
    fn new(motion: &'a Motion, own: &[Solid], (from, to): (f64, f64)) -> Way<'a> {
        let mut points: Vec<Vec3> = Vec::new();
        let of_each = own.iter().map(|s| {
            let from = points.len();
            points.extend(s.points());
            from..points.len()
        });
        let of_each = of_each.collect();
        let there = motion.to(from);
        let begin: Vec<Vec3> = points.iter().map(|p| there(*p)).collect();
        let mut way = Way {
            motion,
            from,
            to,
            step: match motion {
                Motion::Turn { .. } => TURN,
                Motion::Slide { .. } | Motion::Over { .. } => SLIDE,
            },
            swept: begin.iter().map(|p| (*p, *p)).collect(),
            points,
            of_each,
            begin,
        };
        let n = way.coarse();
        // A straight way is known by its ends.
        let straight = matches!(motion, Motion::Slide { .. });
        for i in (1..=n).skip(if straight { n.saturating_sub(1) } else { 0 }) {
            let there = motion.to(way.by(i, n));
            for (p, (low, high)) in way.points.iter().zip(&mut way.swept) {
                let p = there(*p);
                for k in 0..3 {
                    low[k] = less(p[k], low[k]);
                    high[k] = more(p[k], high[k]);
                }
            }
        }
        way
    }

    /// How far it has come at look `i` of `n`.
    fn by(&self, i: usize, n: usize) -> f64 {
        self.from + (self.to - self.from) * i as f64 / n as f64
    }

    /// Looks at the vehicle.
    fn coarse(&self) -> usize {
        ((self.to - self.from).abs() / self.step).ceil() as usize
    }

    /// How far a point goes on the whole of its way, mm.
    fn way_of(&self, i: usize) -> f64 {
        match self.motion {
            Motion::Slide { .. } | Motion::Over { .. } => (self.to - self.from).abs(),
            Motion::Turn { .. } => {
                // A chord and its arc.
                let half = ((self.to - self.from) / 2.0).to_radians().abs();
                let end = self.motion.moved(self.points[i], self.to);
                far(self.begin[i], end) * half / half.sin().abs().max(1e-3)
            }
        }
    }

    /// Looks at other boards, which are thin: none slips through.
    fn fine(&self) -> usize {
        let all = (0..self.points.len()).map(|i| self.way_of(i));
        let way = all.fold(0.0, f64::max);
        (way / BOARDS).ceil().clamp(1.0, 4000.0) as usize
    }

    /// Where a point is, if it has left where it began: what it meets there it lay on.
    fn away(&self, i: usize, there: &impl Fn(Vec3) -> Vec3) -> Option<Vec3> {
        let now = there(self.points[i]);
        (far(now, self.begin[i]) > REST).then_some(now)
    }

    /// The first of the vehicle that it meets. The front gives way by `past`, mm.
    fn vehicle(&self, model: &Model, past: f64) -> Option<Stop> {
        let (low, high) = around(self.swept.iter().flat_map(|b| [b.0, b.1]));
        let (low, high) = (low.map(|v| v - SLIDE), high.map(|v| v + SLIDE));
        let vehicle = Vehicle::around(model, low, high, (0.0, past));
        if vehicle.clear(low, high) {
            return None;
        }
        // Most points come near nothing of it.
        let near = |i: &usize| !vehicle.clear(self.swept[*i].0, self.swept[*i].1);
        let near: Vec<usize> = (0..self.points.len()).filter(near).collect();
        let n = self.coarse();
        (1..=n).take_while(|_| !near.is_empty()).find_map(|i| {
            let there = self.motion.to(self.by(i, n));
            let mut now = near.iter().filter_map(|p| self.away(*p, &there));
            let what = now.find_map(|p| vehicle.holds(p))?;
            Some(Stop {
                by: self.by(i - 1, n),
                what,
                met: Met::Vehicle,
                body: None,
            })
        })
    }

    /// Points that come by other boards, each with those, in their order.
    fn by_boards<'s, 'b>(&self, rest: &[&'s Solid<'b>], looks: usize) -> Vec<Runner<'s, 'b>> {
        // Between two looks a point leaves its box by no more than this.
        let beside = match self.motion {
            Motion::Over { .. } => SLIDE,
            Motion::Turn { .. } | Motion::Slide { .. } => REST,
        };
        let meets = |s: &Solid, (low, high): (Vec3, Vec3)| {
            (0..3).all(|k| s.high[k] > low[k] - beside && s.low[k] < high[k] + beside)
        };
        let mut runners = Vec::new();
        for all in &self.of_each {
            let whole = around(self.swept[all.clone()].iter().flat_map(|b| [b.0, b.1]));
            let near: Vec<&Solid> = rest.iter().filter(|s| meets(s, whole)).copied().collect();
            runners.extend(all.clone().filter_map(|point| {
                let comes = |s: &&&Solid| meets(s, self.swept[point]) && self.may_enter(point, s);
                let near: Vec<&Solid> = near.iter().filter(comes).copied().collect();
                // Round more than this much of a circle chord and arc say little of each other.
                let turned = (self.to - self.from).abs() > 300.0;
                let step = match self.motion {
                    Motion::Turn { .. } if turned => f64::INFINITY,
                    _ => self.way_of(point) / looks as f64,
                };
                (!near.is_empty()).then_some(Runner {
                    point,
                    near,
                    step,
                    next: 1,
                })
            }));
        }
        runners
    }

    /// A point may come into a board: on a straight way it often runs past it, however large the box round the board.
    fn may_enter(&self, point: usize, s: &Solid) -> bool {
        let Motion::Slide { .. } = self.motion else {
            return true;
        };
        let ends = [self.from, self.to].map(|by| self.motion.moved(self.points[point], by));
        s.may_meet(ends)
    }

    /// The first board that it meets, and how far it has come then, if no more than `most` of its way.
    fn board<'s, 'b>(&self, rest: &[&'s Solid<'b>], most: f64) -> Option<(f64, &'s Solid<'b>)> {
        let n = self.fine();
        let mut runners = self.by_boards(rest, n);
        if runners.is_empty() {
            return None;
        }
        let looks = (1..=n).map(|i| (i, self.by(i, n)));
        looks
            .take_while(|(_, by)| (by - self.from).abs() <= most + self.step)
            .find_map(|(i, by)| {
                let there = self.motion.to(by);
                let mut near = runners.iter_mut().filter(|r| r.next <= i);
                let met = near.find_map(|r| {
                    let now = self.away(r.point, &there)?;
                    r.next = i.saturating_add(r.idle(now));
                    r.near.iter().find(|s| s.holds(now)).copied()
                })?;
                Some((self.by(i - 1, n), met))
            })
    }
}

/// A point that comes by other boards.
struct Runner<'s, 'b> {
    point: usize,
    near: Vec<&'s Solid<'b>>,
    /// It goes no further than this from look to look, mm.
    step: f64,
    /// The next look at which it may be in one of them.
    next: usize,
}

impl Runner<'_, '_> {
    /// After so many looks it may be in one of its boards, not before: from how far it is outside the boxes round them.
    fn idle(&self, now: Vec3) -> usize {
        let off = |s: &&Solid| {
            let each = (0..3).map(|k| (s.low[k] - now[k]).max(now[k] - s.high[k]));
            each.fold(f64::NEG_INFINITY, f64::max)
        };
        let off = self.near.iter().map(off).fold(f64::INFINITY, f64::min);
        ((off / self.step).floor() as usize).max(1)
    }
}

/// Follows a body from one opening to another, both in degrees or mm from shut. `own` are its boards where it is
/// shut, and those that ride on it; `rest` is everything else where that lies meanwhile. The front gives way by `past`, mm.
pub fn follow(
    (project, model, past): (&Project, &Model, f64),
    motion: &Motion,
    (own, rest): (&[Solid], &[&Solid]),
    (from, to): (f64, f64),
) -> Option<Stop> {
    let module = own.first().map_or("", |s| s.board.module.as_str());
    let way = Way::new(motion, own, (from, to));
    let vehicle = way.vehicle(model, past);
    // Followed as far as it comes at all.
    let most = vehicle
        .as_ref()
        .map_or(f64::INFINITY, |v| (v.by - from).abs());
    let board = way.board(rest, most).map(|(by, met)| Stop {
        by,
        what: named(project, met, module),
        met: Met::Board,
        body: Some(met.board.body.clone()),
    });
    match (vehicle, board) {
        (Some(v), Some(b)) if (v.by - from).abs() < (b.by - from).abs() => Some(v),
        (v, b) => b.or(v),
    }
}

fn far(a: Vec3, b: Vec3) -> f64 {
    (0..3).map(|k| (a[k] - b[k]).powi(2)).sum::<f64>().sqrt()
}

/// A board in a sentence.
fn named(project: &Project, s: &Solid, module: &str) -> String {
    let whose = project.modules.get(&s.board.module);
    if s.board.module == module {
        s.board.mark.clone()
    } else {
        let name = whose.map_or(String::new(), |m| m.called());
        format!("the {name} ({})", s.board.mark)
    }
}
