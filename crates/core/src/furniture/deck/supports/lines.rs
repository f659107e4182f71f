//! Where rails between ledgers stand: where a ledger runs along both walls.

use super::{BESIDE, rail};
use crate::furniture::Site;
use crate::project::deck::{Deck, Manner};
use crate::project::survey::Side;
use crate::template::fill::LEAN;

/// Two rails stand no nearer to each other than this, mm (a choice: a hand fits between).
const APART: f64 = 100.0;

/// The stretches along a wall where other furniture comes up to it between two heights, mm.
pub(super) fn beside_wall(site: &Site, side: Side, z: (f64, f64), near: f64) -> Vec<(f64, f64)> {
    let others = site.others().map(|(_, c)| c);
    let here = others.filter(|c| c.z.1 > z.0 && c.z.0 < z.1);
    let each = here.filter_map(|c| {
        let (a, y0, b, y1) = c.plan.bounds();
        let wall = site.model.offset(side, (a + b) / 2.0, z.1).unwrap_or(0.0);
        let reach = if side == Side::Left { y1 } else { -y0 };
        (reach > wall - near).then_some((a - BESIDE, b + BESIDE))
    });
    each.collect()
}

/// The lines of a deck on ledgers, each moved as little as it takes to lie where a ledger runs along both walls: beside a wheel well
/// that comes up to the deck, not between two. One under a joint that somebody placed stays.
pub fn onto_ledgers(
    site: &Site,
    deck: &Deck,
    (clearance, sd): (f64, f64),
    lines: Vec<f64>,
    stays: Option<f64>,
) -> Vec<f64> {
    let (Manner::Ledgers, Some(under)) = (deck.supports.manner, deck.underside) else {
        return lines;
    };
    let half = deck.supports.thickness / 2.0;
    let off = clearance + LEAN * sd + half;
    let z = (under - rail(site.project, deck), under);
    let wells = site.model.things();
    let wells = wells.filter(|o| o.z.1 > z.0 && o.z.0 < z.1);
    let mut without: Vec<(f64, f64)> = wells.map(|o| (o.x.0 - off, o.x.1 + off)).collect();
    for side in Side::BOTH {
        let near = off + 3.0 * half;
        let taken = beside_wall(site, side, z, near);
        without.extend(taken.iter().map(|(a, b)| (a - half, b + half)));
    }
    if without.is_empty() {
        return lines;
    }
    without.sort_by(|p, q| p.0.total_cmp(&q.0));
    let mut stretches: Vec<(f64, f64)> = Vec::new();
    for (a, b) in without {
        match stretches.last_mut() {
            Some(last) if a <= last.1 => last.1 = last.1.max(b),
            _ => stretches.push((a, b)),
        }
    }
    let (Some(first), Some(last)) = (lines.first().copied(), lines.last().copied()) else {
        return lines;
    };
    let kept = |x: f64| stays.is_some_and(|at| (at - x).abs() < 1.0);
    let moved = lines.iter().map(|x| {
        let within = stretches.iter().find(|s| s.0 < *x && *x < s.1);
        let Some((a, b)) = within.filter(|_| !kept(*x)) else {
            return *x;
        };
        // To half a millimetre, as the others are, and clear of what is there.
        let ends = [(a * 2.0).floor() / 2.0, (b * 2.0).ceil() / 2.0];
        let ends = ends.into_iter().filter(|e| (first..=last).contains(e));
        let near = ends.min_by(|p, q| (p - x).abs().total_cmp(&(q - x).abs()));
        near.unwrap_or(*x)
    });
    let mut out: Vec<f64> = moved.collect();
    if out == lines {
        return out;
    }
    out.sort_by(f64::total_cmp);
    out.dedup_by(|next, before| {
        let same = *next - *before < APART;
        // The one under the joint is the one that stays, and the front end is.
        if same && !kept(*before) && (kept(*next) || *next == last) {
            *before = *next;
        }
        same
    });
    if out.len() < 2 { lines } else { out }
}
