//! Where an edge of a board follows something that leans: how far the saw would be tilted to close it, and which face is
//! marked.

use geo::Contains;

use super::built::{Bevel, Board, Face};
use crate::geometry::{Point, distance, sides};
use crate::project::survey::Side;
use crate::survey::model::Model;

/// Less than this a strip or a pencil line of gap hides, degrees (a choice).
const LEAST: f64 = 3.0;
/// Along one tilt of the saw the lean may differ by so much to both sides, degrees (a choice).
const SAME: f64 = 2.0;
/// A shorter stretch is not worth setting the saw for, mm (a choice).
const SHORT: f64 = 60.0;

/// A stretch of edge with the leans along it.
struct Stretch {
    of: String,
    along: Vec<Point>,
    low: f64,
    high: f64,
    /// Lean times length, and length: their quotient is the mean.
    sum: f64,
    long: f64,
}

impl Stretch {
    /// One tilt of the saw serves both, and the other begins where this one ends.
    fn goes_on(&self, next: &Stretch) -> bool {
        let (low, high) = (self.low.min(next.low), self.high.max(next.high));
        let ends = self.along.last().zip(next.along.first());
        let meets = ends.is_some_and(|(a, b)| distance(*a, *b) < 1e-6);
        self.of == next.of && meets && high - low <= 2.0 * SAME
    }

    fn take(&mut self, next: Stretch) {
        self.along.extend(next.along.into_iter().skip(1));
        (self.low, self.high) = (self.low.min(next.low), self.high.max(next.high));
        self.sum += next.sum;
        self.long += next.long;
    }
}

/// An edge along something, and how far the saw is tilted from square along it, degrees: up where the face at the board's thickness is the
/// larger one.
pub struct Lean {
    /// What it follows.
    pub of: String,
    /// From here.
    pub from: Point,
    /// To here.
    pub to: Point,
    /// The tilt.
    pub deg: f64,
}

/// What is worth telling of edges that follow each other round a board `t` thick; its two faces by name.
pub fn along(leans: impl Iterator<Item = Lean>, t: f64, faces: [&'static str; 2]) -> Vec<Bevel> {
    let mut stretches: Vec<Stretch> = Vec::new();
    for Lean { of, from, to, deg } in leans {
        let long = distance(from, to);
        let next = Stretch {
            of,
            along: vec![from, to],
            low: deg,
            high: deg,
            sum: deg * long,
            long,
        };
        match stretches.last_mut().filter(|s| s.goes_on(&next)) {
            Some(s) => s.take(next),
            None => stretches.push(next),
        }
    }
    // The outline begins somewhere: a stretch may begin before that.
    if let [first, .., last] = &stretches[..]
        && last.goes_on(first)
    {
        let first = stretches.remove(0);
        if let Some(last) = stretches.last_mut() {
            last.take(first);
        }
    }
    let told = stretches.into_iter().filter(|s| s.long >= SHORT);
    told.map(|s| (s.sum / s.long, s))
        .filter(|(deg, _)| deg.abs() >= LEAST)
        .map(|(deg, s)| Bevel {
            of: s.of,
            along: s.along,
            deg: deg.abs().round(),
            // Where it leans out towards a face that may be the larger one.
            larger: if deg > 0.0 { Face::Top } else { Face::Bottom },
            faces,
            open: t * deg.abs().to_radians().tan(),
        })
        .collect()
}

/// An edge further from a face than this does not follow it, mm (a choice: more than any clearance).
const NEAR: f64 = 25.0;
/// Along an edge that follows a face the air differs by no more, mm (a choice).
const EVEN: f64 = 3.0;
/// An edge turned more than this from a face does not run along it: the cosine between them.
const TURNED: f64 = 0.35;

/// The bevels of a board wherever its edges run along a wall or the front, by where it lies. Where another of these boards
/// is flush with it there the two make a corner, which is left square.
pub fn of_board(board: &Board, all: &[Board], model: &Model) -> Vec<Bevel> {
    /// So far in from the edge, and off the face, another board is looked for, mm.
    const IN: f64 = 2.0;
    let (pose, t) = (&board.pose, board.thickness);
    let corner = |at: Point, out: Point| {
        let inside = [0, 1].map(|k| at[k] - IN * out[k]);
        [-IN, t + IN].into_iter().any(|h| {
            let p = pose.at(inside[0], inside[1], h);
            all.iter().any(|o| o.id != board.id && holds(o, p))
        })
    };
    let leans = sides(&board.shape.outer).filter_map(|(p, q)| {
        let long = distance(p, q);
        if long < 1e-6 {
            return None;
        }
        // The outline runs counter-clockwise: outside is to the right.
        let out = [(q[1] - p[1]) / long, (p[0] - q[0]) / long];
        let way: [f64; 3] = std::array::from_fn(|i| out[0] * pose.u[i] + out[1] * pose.v[i]);
        let middle = [0, 1].map(|k| f64::midpoint(p[k], q[k]));
        let followed = Followed::ALL.into_iter().find_map(|f| {
            let air = |at: Point| {
                let faces = [0.0, t].map(|h| f.air(pose.at(at[0], at[1], h), way, model));
                Some([faces[0]?, faces[1]?])
            };
            let nearest = |air: [f64; 2]| air[0].min(air[1]);
            let own = air(middle)?;
            let ends = [air(p)?, air(q)?].map(nearest);
            let even = ends.iter().all(|e| (e - nearest(own)).abs() < EVEN);
            let follows = nearest(own).abs() < NEAR && even && !corner(middle, out);
            follows.then(|| (f.name(), own[1] - own[0]))
        });
        let (of, wider) = followed?;
        Some(Lean {
            of,
            from: p,
            to: q,
            deg: (wider / t).atan().to_degrees(),
        })
    });
    along(leans, t, faces(pose.w()))
}

/// A point lies within a board.
fn holds(board: &Board, p: [f64; 3]) -> bool {
    let pose = &board.pose;
    let off: [f64; 3] = std::array::from_fn(|i| p[i] - pose.origin[i]);
    let along = |d: [f64; 3]| -> f64 { (0..3).map(|i| off[i] * d[i]).sum() };
    let t = along(pose.w());
    if !(0.0..=board.thickness).contains(&t) {
        return false;
    }
    let at = [along(pose.u), along(pose.v)];
    let (x0, y0, x1, y1) = board.shape.bounds();
    let near = at[0] > x0 && at[0] < x1 && at[1] > y0 && at[1] < y1;
    near && board.shape.polygon().contains(&geo::Point::from(at))
}

/// What an edge may run along.
#[derive(Clone, Copy)]
enum Followed {
    Wall(Side),
    Front,
}

impl Followed {
    const ALL: [Followed; 3] = [
        Followed::Wall(Side::Left),
        Followed::Wall(Side::Right),
        Followed::Front,
    ];

    fn name(self) -> String {
        match self {
            Followed::Wall(side) => format!("{} wall", side.word()),
            Followed::Front => "front".into(),
        }
    }

    /// From a point to it, square to an edge that points `way`, mm; nothing where that does not point there.
    fn air(self, p: [f64; 3], way: [f64; 3], model: &Model) -> Option<f64> {
        match self {
            Followed::Wall(side) => {
                let out = way[1] * side.sign();
                let far =
                    (out > TURNED).then(|| model.offset(side, p[0].max(0.0), p[2].max(0.0)))?;
                Some((far? - side.sign() * p[1]) * out)
            }
            Followed::Front => {
                let far = (way[0] > TURNED).then(|| model.reach(p[1], p[2].max(0.0)))?;
                Some((far? - p[0]) * way[0])
            }
        }
    }
}

/// What a board's faces are called, the one at t = 0 first, by where its thickness points.
fn faces(square: [f64; 3]) -> [&'static str; 2] {
    const NAMES: [[&str; 2]; 3] = [["rear", "front"], ["right", "left"], ["lower", "upper"]];
    let most = (0..3).max_by(|a, b| square[*a].abs().total_cmp(&square[*b].abs()));
    let k = most.unwrap_or(2);
    let [a, b] = NAMES[k];
    match square[k] < 0.0 {
        true => [b, a],
        false => [a, b],
    }
}
