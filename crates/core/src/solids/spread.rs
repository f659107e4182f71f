//! How far a flat shape goes one way, within a band across it.

use crate::geometry::region::Region;
use crate::geometry::{Point, sides};

/// The stretches along coordinate `along` that the region covers somewhere within `(lo, hi)` of coordinate `t`.
/// Between neighbouring corners its sections are trapezoids, and each covers what lies between its outermost corners.
pub(super) fn spread(
    region: &Region,
    t: usize,
    along: usize,
    (lo, hi): (f64, f64),
) -> Vec<(f64, f64)> {
    let edges: Vec<(Point, Point)> = region.every().flat_map(|ring| sides(ring)).collect();
    let mut cuts: Vec<f64> = edges.iter().map(|(a, _)| a[t]).collect();
    cuts.retain(|c| *c > lo && *c < hi);
    cuts.extend([lo, hi]);
    cuts.sort_by(f64::total_cmp);
    cuts.dedup();
    let mut out: Vec<(f64, f64)> = Vec::new();
    for band in cuts.windows(2) {
        let middle = f64::midpoint(band[0], band[1]);
        let mut crossed: Vec<[f64; 3]> = edges
            .iter()
            .filter(|(a, b)| (a[t] > middle) != (b[t] > middle))
            .map(|(a, b)| {
                let at = |c: f64| a[along] + (b[along] - a[along]) * (c - a[t]) / (b[t] - a[t]);
                [at(middle), at(band[0]), at(band[1])]
            })
            .collect();
        crossed.sort_by(|a, b| a[0].total_cmp(&b[0]));
        out.extend(crossed.chunks_exact(2).map(|pair| {
            let (l, r) = (pair[0], pair[1]);
            (l[1].min(l[2]), r[1].max(r[2]))
        }));
    }
    // What overlaps is one stretch.
    out.sort_by(|a, b| a.0.total_cmp(&b.0));
    out.dedup_by(|next, kept| {
        let one = next.0 <= kept.1;
        if one {
            kept.1 = kept.1.max(next.1);
        }
        one
    });
    out
}
