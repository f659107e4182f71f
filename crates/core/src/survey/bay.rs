//! The bay's outline at a height: two walls and the front end, each with its uncertainty.

use std::sync::Arc;

use geo::{LineString, Simplify};

use super::model::Model;
use crate::geometry::labelled::{Label, Labelled};
use crate::geometry::region::Region;
use crate::geometry::{Point, coord};
use crate::project::survey::{Quantity, Side};
use crate::side_by_side::beside;

/// Walls are drawn at every so many millimetres, and simplified within this of the curve.
const STEP: f64 = 60.0;
const NEAR: f64 = 0.2;
/// With more stations than this the step alone is fine enough.
const STATIONS: usize = 60;
/// Doubts of the front that differ by less than this are shared, mm.
const STRAIGHT: f64 = 1.0;

/// The bay at one height.
#[derive(Debug, Clone)]
pub struct Bay {
    /// Free space in plan.
    pub region: Region,
    /// The height, mm.
    pub z: f64,
    /// The same, each edge moved in by what its doubt asks for; an edge's label is the number of its course.
    pub safe: Labelled,
    /// What the edges follow.
    pub courses: Vec<Course>,
    /// Largest standard deviation along its walls, mm.
    pub sd: f64,
    /// Typical (median) standard deviation along its walls, mm.
    pub typical: f64,
    /// Readings along it.
    pub readings: Vec<String>,
    /// Both walls, `(x, offset, sd)` from the threshold forward: left, right.
    pub walls: [Vec<(f64, f64, f64)>; 2],
}

/// What an edge of the bay follows.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Course {
    /// The threshold.
    Threshold,
    /// Nothing that is known: beside or beyond the front.
    Beyond,
    /// A wall, straight between two places.
    Wall(Side, [Station; 2]),
    /// The front, straight between two places.
    Front([Station; 2]),
}

/// A place on a wall or the front.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Station {
    /// How far in, or for the front how far left of the centre line, mm.
    pub at: f64,
    /// Distance from the centre line, or from the threshold, mm.
    pub mm: f64,
    /// One standard deviation, mm.
    pub sd: f64,
    /// How much longer than square to the edge the way is along which it was moved in.
    pub slant: f64,
}

impl Model {
    /// The bay's outline at height `z`. `None` while a wall or the length has no reading.
    pub fn bay(&self, z: f64) -> Option<Arc<Bay>> {
        self.bays.of(z, || self.bay_held_off(z, None))
    }

    /// The same with `safe` moved in, square to each edge, by `off` of the edge's standard deviation.
    pub fn bay_held_off(&self, z: f64, off: Option<&dyn Fn(f64) -> f64>) -> Option<Bay> {
        let length = self.front(0.0, z)?;
        let reach = self.furthest(z, length.0);
        let wall = |side: Side| -> Option<Vec<(f64, f64, f64)>> {
            let xs = self.places(side, reach);
            let all = self.wall_at_all(side, &xs, z)?;
            Some(
                xs.into_iter()
                    .zip(all)
                    .map(|(x, (mm, sd))| (x, mm, sd))
                    .collect(),
            )
        };
        let (right, left) = beside(|| wall(Side::Right), || wall(Side::Left));
        let mut walls = [vec![], vec![]];
        walls[Side::Right as usize] = right?;
        walls[Side::Left as usize] = left?;
        let mut sds: Vec<f64> = walls.iter().flatten().map(|p| p.2).collect();
        sds.sort_by(f64::total_cmp);
        let (safe, courses) = self.outline(&walls, z, None)?;
        let along = |q: &Quantity| matches!(q, Quantity::Wall { .. } | Quantity::Length { .. });
        let readings = self.known.values().filter(|k| along(&k.quantity));
        let mut bay = Bay {
            region: safe.region(),
            z,
            safe,
            courses,
            sd: sds.last()?.max(length.1),
            typical: sds[sds.len() / 2],
            readings: readings.flat_map(|k| k.readings.clone()).collect(),
            walls,
        };
        if let Some(off) = off {
            (bay.safe, bay.courses) = self.held_off(&bay, off)?;
        }
        Some(bay)
    }

    /// A bay's edges moved in, square to each, by `off` of the edge's standard deviation; and what they follow.
    pub fn held_off(&self, bay: &Bay, off: &dyn Fn(f64) -> f64) -> Option<(Labelled, Vec<Course>)> {
        self.outline(&bay.walls, bay.z, Some(off))
    }

    /// Furthest forward the front may be at any offset, mm.
    fn furthest(&self, z: f64, middle: f64) -> f64 {
        let ends = self.front_offsets();
        let all = ends.iter().filter_map(|y| self.reach(*y, z));
        all.fold(middle, f64::max)
    }

    /// Where a wall is evaluated: readings, ridges, and a step between.
    fn places(&self, side: Side, reach: f64) -> Vec<f64> {
        let steps = (reach / STEP).ceil().clamp(1.0, 400.0);
        let mut xs: Vec<f64> = (0..=steps as usize)
            .map(|i| reach * i as f64 / steps)
            .collect();
        // Readings of a fine scan lie closer than a curve needs.
        let read = self.stations(side);
        xs.extend(read.iter().filter(|_| read.len() <= STATIONS));
        xs.extend(self.ridges_at(side));
        xs.extend(self.fine(side));
        xs.retain(|x| *x >= 0.0 && *x <= reach + 0.01);
        xs.sort_by(f64::total_cmp);
        xs.dedup_by(|a, b| (*a - *b).abs() < 1.0);
        xs
    }

    fn outline(
        &self,
        walls: &[Vec<(f64, f64, f64)>; 2],
        z: f64,
        off: Option<&dyn Fn(f64) -> f64>,
    ) -> Option<(Labelled, Vec<Course>)> {
        let mut courses = vec![Course::Threshold, Course::Beyond];
        // A wall's line, and where its courses begin in the list.
        let mut line = |side: Side| -> (Vec<Point>, usize) {
            let own = &walls[side as usize];
            let station = |i: usize| {
                let (at, mm, sd) = own[i];
                let slant = slant(own, i);
                Station { at, mm, sd, slant }
            };
            let moved = |k: Station| k.mm - off.map_or(0.0, |off| off(k.sd) * k.slant);
            let points = (0..own.len()).map(|i| coord([own[i].0, side.sign() * moved(station(i))]));
            let simple = LineString::new(points.collect()).simplify(NEAR);
            let line: Vec<Point> = simple.coords().map(|c| [c.x, c.y]).collect();
            let first = courses.len();
            let which = |p: Point| own.iter().position(|w| w.0 == p[0]).unwrap_or(0);
            for w in line.windows(2) {
                let ends = [station(which(w[0])), station(which(w[1]))];
                courses.push(Course::Wall(side, ends));
            }
            (line, first)
        };
        let ((right, r), (left, l)) = (line(Side::Right), line(Side::Left));
        let (right, left, tip) = meet(right, left);
        let mut ring: Vec<(Point, Label)> = right
            .iter()
            .enumerate()
            .map(|(i, p)| (*p, Label::wall(r + i)))
            .collect();
        // From the end of the right wall to that of the left, or to the left from their meeting.
        ring.last_mut()?.1 = match tip {
            true => Label::wall(l + left.len().saturating_sub(1)),
            false => Label::wall(1),
        };
        ring.extend(left.iter().enumerate().rev().map(|(i, p)| {
            let label = if i == 0 { 0 } else { l + i - 1 };
            (*p, Label::wall(label))
        }));
        let body = Labelled { rings: vec![ring] };
        let plain = body.region();
        // Crossed walls give no region that can be worked with.
        plain.check("").ok()?;
        let (_, y0, _, y1) = plain.bounds();
        // A pointed front has no doubt of its own beside the point: there the walls are the edge.
        let half = |side: Side| {
            let last = walls[side as usize].last();
            last.map_or(0.0, |w| w.1.max(0.0))
        };
        let reaches = (-half(Side::Right), half(Side::Left));
        let steps = 24;
        // The front's edge shares its largest doubt where that differs little: it is cut straight.
        let doubt = |y: f64| Some(self.front(y.clamp(reaches.0, reaches.1), z)?.1);
        let sides = [doubt(reaches.0)?, doubt(0.0)?, doubt(reaches.1)?];
        let most = sides.into_iter().fold(0.0, f64::max);
        let least = sides.into_iter().fold(f64::INFINITY, f64::min);
        let shared = (most - least < STRAIGHT).then_some(most);
        let end: Vec<Station> = (0..=steps)
            .map(|i| {
                let at = y0 - 10.0 + (y1 - y0 + 20.0) * f64::from(i) / f64::from(steps);
                let sd = match (off, shared) {
                    (Some(_), Some(sd)) => sd,
                    (Some(_), None) => doubt(at)?,
                    (None, _) => 0.0,
                };
                let mm = self.reach(at, z)?;
                let slant = 1.0;
                Some(Station { at, mm, sd, slant })
            })
            .collect::<Option<Vec<_>>>()?;
        let moved = |k: &Station| (k.mm - off.map_or(0.0, |off| off(k.sd) * k.slant)).max(1.0);
        let points = end.iter().map(|k| coord([moved(k), k.at])).collect();
        let simple = LineString::new(points).simplify(NEAR);
        let known = |c: &geo::Coord<f64>| end.iter().find(|k| k.at == c.y).copied();
        let kept: Vec<Station> = simple.coords().filter_map(known).collect();
        let mut ring = vec![([-1.0, y0 - 10.0], Label::wall(1))];
        for (i, k) in kept.iter().enumerate() {
            let label = match kept.get(i + 1) {
                Some(next) => {
                    courses.push(Course::Front([*k, *next]));
                    courses.len() - 1
                }
                None => 1,
            };
            ring.push(([moved(k), k.at], Label::wall(label)));
        }
        ring.push(([-1.0, y1 + 10.0], Label::wall(1)));
        let limit = Labelled { rings: vec![ring] };
        limit.region().check("").ok()?;
        let bay = body.and(&limit).into_iter().next()?;
        Some((bay, courses))
    }
}

/// How much longer than square to the wall the way across the bay is: a wall that runs in slantwise.
fn slant(wall: &[(f64, f64, f64)], i: usize) -> f64 {
    /// At the point of a hull no wall is steeper than this for the purpose.
    const STEEPEST: f64 = 2.5;
    let (a, b) = (wall[i.saturating_sub(1)], wall[(i + 1).min(wall.len() - 1)]);
    if b.0 - a.0 < 1.0 {
        return 1.0;
    }
    ((b.1 - a.1) / (b.0 - a.0)).hypot(1.0).min(STEEPEST)
}

/// Cuts both walls off where they meet: the point of a V, which then ends the right one.
fn meet(right: Vec<Point>, left: Vec<Point>) -> (Vec<Point>, Vec<Point>, bool) {
    let at = |line: &[Point], x: f64| {
        let list: Vec<_> = line.iter().map(|p| (p[0], p[1])).collect();
        crate::geometry::interpolate(&list, x).unwrap_or(0.0)
    };
    let mut xs: Vec<f64> = right.iter().chain(&left).map(|p| p[0]).collect();
    xs.sort_by(f64::total_cmp);
    let gap = |x: f64| at(&left, x) - at(&right, x);
    let Some(i) = xs
        .windows(2)
        .position(|w| gap(w[0]) > 0.0 && gap(w[1]) <= 0.0)
    else {
        return (right, left, false);
    };
    let (g0, g1) = (gap(xs[i]), gap(xs[i + 1]));
    let x = xs[i] + (xs[i + 1] - xs[i]) * g0 / (g0 - g1).max(1e-9);
    let cut = |line: Vec<Point>| -> Vec<Point> { line.into_iter().filter(|p| p[0] < x).collect() };
    let tip = [x, (at(&left, x) + at(&right, x)) / 2.0];
    let (mut r, l) = (cut(right), cut(left));
    r.push(tip);
    (r, l, true)
}
