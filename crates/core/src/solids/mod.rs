//! Boards as solids: do two share space at rest, is a point inside one, where is a body when it has moved.

mod leaning;
mod spread;

use std::collections::BTreeMap;

use self::spread::spread;
use crate::boards::BoardView;
use crate::furniture::built::{Pose, Vec3};
use crate::geometry::pose::around;
use crate::geometry::region::{Bounds, Region};
use crate::geometry::{Point, sides};

/// Touching within this is contact, mm.
pub const TOUCH: f64 = 0.2;

/// A board at rest with the box round it.
#[derive(Debug, Clone)]
pub struct Solid<'a> {
    /// The board.
    pub board: &'a BoardView,
    /// Where it lies.
    pub pose: Pose,
    /// The least of its coordinates.
    pub low: Vec3,
    /// The greatest.
    pub high: Vec3,
}

/// All pairs of boards of different pieces that share space.
pub fn clashing<'s, 'a>(solids: &'s [Solid<'a>]) -> Vec<(&'s Solid<'a>, &'s Solid<'a>)> {
    // Along the vehicle only those that overlap are looked at.
    let mut order: Vec<&Solid> = solids.iter().collect();
    order.sort_by(|a, b| a.low[0].total_cmp(&b.low[0]));
    let mut out = Vec::new();
    for (i, a) in order.iter().enumerate() {
        let beside = order[i + 1..].iter().take_while(|b| b.low[0] < a.high[0]);
        let met = beside.filter(|b| a.board.module != b.board.module && a.clashes(b));
        out.extend(met.map(|b| (*a, *b)));
    }
    out
}

impl<'a> Solid<'a> {
    /// In a state.
    pub fn new(board: &'a BoardView, state: &str) -> Option<Solid<'a>> {
        Some(Solid::at(board, *board.poses.get(state)?))
    }

    /// At a pose.
    pub fn at(board: &'a BoardView, pose: Pose) -> Solid<'a> {
        // Of one that is square to the axes the corners of the rectangle round it tell as much.
        let square = pose.u.iter().chain(&pose.v);
        let square = square.copied().all(|c| c == 0.0 || c.abs() == 1.0);
        let (x0, y0, x1, y1) = board.rectangle();
        let corners = match square {
            true => &[[x0, y0], [x1, y0], [x1, y1], [x0, y1]],
            false => &board.outline.outer[..],
        };
        let corners = corners.iter();
        let corners = corners.flat_map(|p| [0.0, board.thickness].map(|t| pose.at(p[0], p[1], t)));
        let (low, high) = around(corners);
        Solid {
            board,
            pose,
            low,
            high,
        }
    }

    fn near(&self, other: &Solid) -> bool {
        (0..3).all(|i| self.high[i] > other.low[i] + TOUCH && other.high[i] > self.low[i] + TOUCH)
    }

    /// The axis to which the board is square, if it is to one.
    pub fn axis(&self) -> Option<usize> {
        (0..3).find(|i| self.pose.w()[*i].abs() > 1.0 - 1e-9)
    }

    /// The outline in the two coordinates other than `axis`.
    fn flat(&self, axis: usize) -> Region {
        let [a, b] = others(axis);
        let pose = self.pose;
        let flat = self.board.outline.map(|p| {
            let at = pose.at(p[0], p[1], 0.0);
            [at[a], at[b]]
        });
        // Seen from the other side the ring runs the other way round.
        if signed(&flat.outer) < 0.0 {
            let turned = |ring: &Vec<Point>| ring.iter().rev().copied().collect();
            return Region {
                outer: turned(&flat.outer),
                holes: flat.holes.iter().map(turned).collect(),
            };
        }
        flat
    }

    /// Do they share space? Judged exactly, grooves aside: boards square to the axes in the two ways below, those that
    /// lean as prisms.
    pub fn clashes(&self, other: &Solid) -> bool {
        if !self.near(other) {
            return false;
        }
        let (Some(a), Some(b)) = (self.axis(), other.axis()) else {
            return leaning::clash(self, other);
        };
        if a == b {
            let (mine, theirs) = (self.flat(a), other.flat(a));
            if mine.is_box() && theirs.is_box() {
                // They are near along all axes: that is all there is to it.
                return true;
            }
            let common = mine.and(&theirs);
            return common.iter().any(|r| {
                let (w, h) = r.size();
                w > TOUCH && h > TOUCH && r.area() > TOUCH * w.max(h)
            });
        }
        // Square to each other they share space where both reach, within the other's thickness, the same
        // stretch along the third axis.
        let along = 3 - a - b;
        let mine = self.stretches(a, b, along, (other.low[b], other.high[b]));
        let theirs = other.stretches(b, a, along, (self.low[a], self.high[a]));
        mine.iter().any(|m| {
            let mut overlap = theirs.iter().map(|t| m.1.min(t.1) - m.0.max(t.0));
            overlap.any(|o| o > TOUCH)
        })
    }

    /// Along `along`, where the board reaches into `range` of the axis `across`.
    fn stretches(
        &self,
        axis: usize,
        across: usize,
        along: usize,
        range: (f64, f64),
    ) -> Vec<(f64, f64)> {
        let flat = self.flat(axis);
        let [first, _] = others(axis);
        let (lo, hi) = (range.0 + TOUCH / 2.0, range.1 - TOUCH / 2.0);
        if hi <= lo {
            return vec![];
        }
        if flat.is_box() {
            // Most boards: what is left of it is a box too.
            let (x0, y0, x1, y1) = flat.bounds();
            let (at, end) = if across == first { (x0, x1) } else { (y0, y1) };
            let reaches = at.max(lo) < end.min(hi);
            let along = if along == first { (x0, x1) } else { (y0, y1) };
            return if reaches { vec![along] } else { vec![] };
        }
        let (t, s) = if across == first { (0, 1) } else { (1, 0) };
        spread(&flat, t, s, (lo, hi))
    }

    /// The point lies inside, by more than a touch.
    pub fn holds(&self, p: Vec3) -> bool {
        if (0..3).any(|i| p[i] < self.low[i] + TOUCH || p[i] > self.high[i] - TOUCH) {
            return false;
        }
        let [a, b, t] = self.pose.own(p);
        let thick = t > TOUCH && t < self.board.thickness - TOUCH;
        thick && within(self.board, [a, b])
    }

    /// A straight way between two points may lead into it: `false` if it surely does not.
    pub fn may_meet(&self, ends: [Vec3; 2]) -> bool {
        let [a, b] = ends.map(|p| self.pose.own(p));
        let (x0, y0, x1, y1) = self.board.rectangle();
        let (low, high) = ([x0, y0, TOUCH], [x1, y1, self.board.thickness - TOUCH]);
        (0..3).all(|k| a[k].max(b[k]) >= low[k] && a[k].min(b[k]) <= high[k])
    }

    /// The stretches of a line through `p` along an axis of the vehicle that lie inside the board. `None` where it is square to none of
    /// them.
    pub fn line(&self, p: Vec3, axis: usize) -> Option<Vec<(f64, f64)>> {
        const SQUARE: f64 = 1.0 - 1e-9;
        let (u, v, w) = (self.pose.u, self.pose.v, self.pose.w());
        // From the place on the line where its coordinate is nought.
        let from: Vec3 = std::array::from_fn(|k| {
            let at = if k == axis { 0.0 } else { p[k] };
            at - self.pose.origin[k]
        });
        let dot = |v: Vec3| (0..3).map(|k| from[k] * v[k]).sum::<f64>();
        let thick = |t: f64| t > TOUCH && t < self.board.thickness - TOUCH;
        let outline = &self.board.outline;
        let along = |own: f64, way: f64, stretches: Vec<(f64, f64)>| {
            let at = |c: f64| (c - own) / way;
            let each = stretches.into_iter().map(|s| (at(s.0), at(s.1)));
            each.map(|s| (s.0.min(s.1), s.0.max(s.1))).collect()
        };
        if w[axis].abs() > SQUARE {
            let inside = within(self.board, [dot(u), dot(v)]);
            let end = |t: f64| (t - dot(w)) / w[axis];
            let (a, b) = (end(0.0), end(self.board.thickness));
            return Some(if inside {
                vec![(a.min(b), a.max(b))]
            } else {
                vec![]
            });
        }
        self.axis()?;
        if !thick(dot(w)) {
            return Some(vec![]);
        }
        if u[axis].abs() > SQUARE {
            return Some(along(dot(u), u[axis], outline.level(dot(v))));
        }
        (v[axis].abs() > SQUARE).then(|| along(dot(v), v[axis], outline.line(dot(u))))
    }

    /// Points of it: corners and the middles of long edges, just inside both faces, so that a board which slides level
    /// with another is found in it. They come in pairs, one at each face.
    pub fn points(&self) -> Vec<Vec3> {
        /// Edges longer than this are looked at between their ends, mm.
        const LONG: f64 = 120.0;
        let mut flat: Vec<Point> = Vec::new();
        for (a, b) in sides(&self.board.outline.outer) {
            let n = (crate::geometry::distance(a, b) / LONG)
                .ceil()
                .clamp(1.0, 12.0) as usize;
            flat.extend((0..n).map(|k| {
                let s = k as f64 / n as f64;
                [a[0] + s * (b[0] - a[0]), a[1] + s * (b[1] - a[1])]
            }));
        }
        /// So far inside, mm: less than what counts as a touch.
        const INSIDE: f64 = 0.1;
        let faces = [INSIDE, self.board.thickness - INSIDE];
        flat.iter()
            .flat_map(|p| faces.map(|t| self.pose.at(p[0], p[1], t)))
            .collect()
    }
}

/// The boxes round all boards of each module, everything shut: least and greatest coordinates.
pub fn boxes(boards: &[BoardView]) -> BTreeMap<&str, (Vec3, Vec3)> {
    let mut out: BTreeMap<&str, (Vec3, Vec3)> = BTreeMap::new();
    for b in boards {
        let s = Solid::at(b, b.shut);
        let own = out.entry(&b.module).or_insert((s.low, s.high));
        for k in 0..3 {
            own.0[k] = own.0[k].min(s.low[k]);
            own.1[k] = own.1[k].max(s.high[k]);
        }
    }
    out
}

/// Twice the area of a ring, positive counter-clockwise.
fn signed(ring: &[Point]) -> f64 {
    sides(ring).map(|(a, b)| a[0] * b[1] - a[1] * b[0]).sum()
}

fn others(axis: usize) -> [usize; 2] {
    match axis {
        0 => [1, 2],
        1 => [0, 2],
        _ => [0, 1],
    }
}

fn within(board: &BoardView, p: Point) -> bool {
    let crossed = |(ring, (x0, y0, x1, y1)): (&Vec<Point>, &Bounds)| {
        if p[0] < *x0 || p[0] > *x1 || p[1] < *y0 || p[1] > *y1 {
            return false;
        }
        let hits = sides(ring).filter(|(a, b)| {
            (a[1] > p[1]) != (b[1] > p[1])
                && p[0] < a[0] + (b[0] - a[0]) * (p[1] - a[1]) / (b[1] - a[1])
        });
        hits.count() % 2 == 1
    };
    let mut rings = board.outline.every().zip(&board.bounds);
    rings.next().is_some_and(crossed) && !rings.any(crossed)
}
