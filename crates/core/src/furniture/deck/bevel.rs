//! Where an edge of a deck follows something that leans.

use super::why::Edges;
use crate::furniture::bevels::{Lean, along};
use crate::furniture::built::Bevel;
use crate::geometry::distance;
use crate::geometry::labelled::Labelled;

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
