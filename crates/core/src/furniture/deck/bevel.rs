//! Where a deck's edge follows something that leans: how far the saw would be tilted to close it, and which face is marked.

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

/// The bevels of a piece, all round.
pub fn bevels(edges: &Edges, piece: &Labelled) -> Vec<Bevel> {
    let deck = edges.deck;
    let low = deck.underside.unwrap_or(0.0);
    let t = deck.thickness;
    let mut stretches: Vec<Stretch> = Vec::new();
    for (p, q, label) in piece.edges() {
        let long = distance(p, q);
        let middle = [(p[0] + q[0]) / 2.0, (p[1] + q[1]) / 2.0];
        let Some((of, out, axis)) = edges.leans(label, middle, (low, low + t)) else {
            continue;
        };
        if long < 1e-6 {
            continue;
        }
        // Square to the edge it is a little less than across the bay.
        let square = (q[1 - axis] - p[1 - axis]).abs() / long;
        let deg = (out * square / t).atan().to_degrees();
        let last = stretches.last_mut().filter(|s| {
            let (low, high) = (s.low.min(deg), s.high.max(deg));
            let end = s.along.last().is_some_and(|e| distance(*e, p) < 1e-6);
            s.of == of && end && high - low <= 2.0 * SAME
        });
        match last {
            Some(s) => {
                s.along.push(q);
                (s.low, s.high) = (s.low.min(deg), s.high.max(deg));
                s.sum += deg * long;
                s.long += long;
            }
            None => stretches.push(Stretch {
                of,
                along: vec![p, q],
                low: deg,
                high: deg,
                sum: deg * long,
                long,
            }),
        }
    }
    let told = stretches.into_iter().filter(|s| s.long >= SHORT);
    told.map(|s| (s.sum / s.long, s))
        .filter(|(deg, _)| deg.abs() >= LEAST)
        .map(|(deg, s)| Bevel {
            of: s.of,
            along: s.along,
            deg: deg.abs().round(),
            // Where it leans out going up the upper face may be the larger one.
            larger: if deg > 0.0 { Face::Top } else { Face::Bottom },
            open: t * deg.abs().to_radians().tan(),
        })
        .collect()
}
