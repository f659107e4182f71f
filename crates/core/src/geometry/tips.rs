//! Weak tips: narrow tongues and sharp points that a joint leaves beside it.

use super::region::Region;
use super::{Point, sides};

/// A strip of board beside a joint that is narrower than this over more than this breaks when it is carried or
/// stepped on, mm. Our own choice, for plywood of 9 to 18 mm.
pub const NARROW: f64 = 60.0;

/// Distance between the places along a joint that are looked at, mm.
const STEP: f64 = 2.0;

/// Most places along a joint that are looked at: on anything longer they lie further apart.
const PLACES: f64 = 4096.0;

/// Most places that a joint is tried at.
const TRIED: usize = 48;

/// Which way a joint runs.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Cut {
    /// At one x, along y.
    AtX,
    /// At one y, along x.
    AtY,
}

/// A narrow tongue beside a joint. A point sharper than 45 degrees is one as well.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Tip {
    /// From where to where along the joint, mm.
    pub along: (f64, f64),
    /// How wide it is at its widest, mm.
    pub width: f64,
}

impl Tip {
    /// How long it is, mm.
    pub fn length(&self) -> f64 {
        self.along.1 - self.along.0
    }
}

/// The longest narrow tongue that a joint at `at` would leave on either side of it.
pub fn weak_tip(regions: &[Region], cut: Cut, at: f64) -> Option<Tip> {
    let tips = regions
        .iter()
        .flat_map(|region| [1.0, -1.0].map(|side| longest(region, cut, at, side)));
    tips.flatten()
        .max_by(|a, b| a.length().total_cmp(&b.length()))
}

/// The first of the places, in the order given, at which a joint leaves no weak tip; the first where all do.
pub fn without_tips(regions: &[Region], cut: Cut, places: &[f64]) -> Option<f64> {
    let mut places = places.iter().copied().take(TRIED);
    let first = places.clone().next()?;
    places
        .find(|at| weak_tip(regions, cut, *at).is_none())
        .or(Some(first))
}

/// Places about `middle`, nearest first, every 10 mm and not outside of `range`.
pub fn about(middle: f64, range: (f64, f64)) -> Vec<f64> {
    let steps = (1..=TRIED / 2).flat_map(|i| [10.0 * i as f64, -10.0 * i as f64]);
    std::iter::once(0.0)
        .chain(steps)
        .map(|by| middle + by)
        .filter(|at| *at == middle || (range.0..=range.1).contains(at))
        .collect()
}

/// On one side of the joint: how deep the board is at every place along it, and the longest run that is narrow.
fn longest(region: &Region, cut: Cut, at: f64, side: f64) -> Option<Tip> {
    // Across the joint, away from it, and along it.
    let turned = |p: &Point| match cut {
        Cut::AtX => ((p[0] - at) * side, p[1]),
        Cut::AtY => ((p[1] - at) * side, p[0]),
    };
    let (x0, y0, x1, y1) = region.bounds();
    let (low, high) = match cut {
        Cut::AtX => (y0, y1),
        Cut::AtY => (x0, x1),
    };
    if !(high - low).is_finite() || high - low <= NARROW {
        return None;
    }
    let step = STEP.max((high - low) / PLACES);
    let places = ((high - low) / step) as usize;
    // The middle of each step: no corner that was drawn in whole millimetres lies there.
    let place = |i: usize| low + (i as f64 + 0.5) * step;
    // Edges met on the way out, and the nearest of them.
    let mut met = vec![(0_usize, f64::INFINITY); places];
    for ring in region.every() {
        for (a, b) in sides(ring) {
            let (a, b) = (turned(&a), turned(&b));
            let (from, to) = (a.1.min(b.1), a.1.max(b.1));
            let first = ((from - low) / step - 0.5).ceil().max(0.0) as usize;
            for (k, here) in met.iter_mut().enumerate().skip(first) {
                let v = place(k);
                if v >= to {
                    break;
                }
                let depth = a.0 + (b.0 - a.0) * (v - a.1) / (b.1 - a.1);
                if depth > 0.0 {
                    *here = (here.0 + 1, here.1.min(depth));
                }
            }
        }
    }
    let mut best: Option<Tip> = None;
    let mut run: Option<Tip> = None;
    for (k, (edges, depth)) in met.iter().enumerate() {
        let v = place(k);
        run = if edges % 2 == 1 && *depth < NARROW {
            let (from, width) = run.map_or((v - step / 2.0, 0.0), |t| (t.along.0, t.width));
            Some(Tip {
                along: (from, v + step / 2.0),
                width: width.max(*depth),
            })
        } else {
            None
        };
        let longer = |t: &Tip| best.is_none_or(|b| t.length() > b.length());
        if let Some(t) = run.filter(|t| t.length() > NARROW && longer(t)) {
            best = Some(t);
        }
    }
    best
}
