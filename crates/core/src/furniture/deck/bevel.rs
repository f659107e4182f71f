//! Where an edge of a deck or of a frame follows something that leans: how far the saw would be tilted to close it, and which face is
//! marked.

use super::why::Edges;
use crate::furniture::built::{Bevel, Face};
use crate::geometry::labelled::Labelled;
use crate::geometry::{Point, distance};

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

/// The bevels of a deck's piece, all round.
pub fn bevels(edges: &Edges, piece: &Labelled) -> Vec<Bevel> {
    let deck = edges.deck;
    let low = deck.underside.unwrap_or(0.0);
    let t = deck.thickness;
    let leans = piece.edges().filter_map(|(p, q, label)| {
        let long = distance(p, q);
        let middle = [(p[0] + q[0]) / 2.0, (p[1] + q[1]) / 2.0];
        let (of, out, axis) = edges.leans(label, middle, (low, low + t))?;
        if long < 1e-6 {
            return None;
        }
        // Square to the edge it is a little less than across the bay.
        let square = (q[1 - axis] - p[1 - axis]).abs() / long;
        Some(Lean {
            of,
            from: p,
            to: q,
            deg: (out * square / t).atan().to_degrees(),
        })
    });
    along(leans, t, ["lower", "upper"])
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
