//! Does a region lie on a sheet, and if not, where is it parted?

use super::labelled::{Label, Labelled};
use super::region::Region;
use super::sides;
use super::tips::{Cut, NARROW, about, without_tips};

/// Rounding slack when a size is compared with a sheet, mm.
const SLACK: f64 = 1e-6;

/// Whether the region lies on a `w` x `h` sheet, turned as needed: along an axis or along one of
/// the edges of its outline.
pub fn lies_on(region: &Region, w: f64, h: f64) -> bool {
    let fits = |(a, b): (f64, f64)| {
        (a <= w + SLACK && b <= h + SLACK) || (a <= h + SLACK && b <= w + SLACK)
    };
    if fits(region.size()) {
        return true;
    }
    sides(&region.outer).any(|(a, b)| {
        let (dx, dy) = (b[0] - a[0], b[1] - a[1]);
        let l = dx.hypot(dy);
        let (c, s) = (dx / l, dy / l);
        fits(extent(region, c, s))
    })
}

/// Size of the bounding box along the direction `(c, s)`.
fn extent(region: &Region, c: f64, s: f64) -> (f64, f64) {
    let mut box_ = [f64::MAX, f64::MIN, f64::MAX, f64::MIN];
    for p in &region.outer {
        let (u, v) = (p[0] * c + p[1] * s, p[1] * c - p[0] * s);
        box_ = [
            box_[0].min(u),
            box_[1].max(u),
            box_[2].min(v),
            box_[3].max(v),
        ];
    }
    (box_[1] - box_[0], box_[3] - box_[2])
}

/// The region parted at `x = at` for each of `xs` and `y = at` for each of `ys`, from low to high; the new edges
/// are labelled `joint`.
pub fn part_at(region: &Labelled, xs: &[f64], ys: &[f64], joint: Label) -> Vec<Labelled> {
    let (x0, y0, x1, y1) = region.region().bounds();
    let bands = |cuts: &[f64], lo: f64, hi: f64| {
        let mut stops: Vec<f64> = vec![lo - 1.0];
        stops.extend(cuts.iter().filter(|c| **c > lo && **c < hi));
        stops.push(hi + 1.0);
        stops.sort_by(f64::total_cmp);
        stops
    };
    let (bx, by) = (bands(xs, x0, x1), bands(ys, y0, y1));
    let mut out = Vec::new();
    for x in bx.windows(2) {
        for y in by.windows(2) {
            let band = Region::rectangle(x[0], y[0], x[1], y[1]);
            out.extend(region.and(&Labelled::new(&band, joint)));
        }
    }
    out
}

/// The region in as few pieces as lie on a `w` x `h` sheet, of equal size where that leaves no weak tip beside a joint,
/// else as nearly equal as leaves none; itself when it lies on one.
pub fn split_to(region: &Region, w: f64, h: f64) -> Vec<Region> {
    if lies_on(region, w, h) {
        return vec![region.clone()];
    }
    let (x0, y0, x1, y1) = region.bounds();
    let pieces = |size: f64, most: f64| ((size - SLACK) / most).ceil().max(1.0);
    let ways = [(w, h), (h, w)].map(|(a, b)| (pieces(x1 - x0, a), pieces(y1 - y0, b), (a, b)));
    let (nx, ny, most) = if ways[1].0 * ways[1].1 < ways[0].0 * ways[0].1 {
        ways[1]
    } else {
        ways[0]
    };
    let plain = Labelled::new(region, Label::default());
    let pieces = part_at(
        &plain,
        &cuts(region, Cut::AtX, (x0, x1), (nx as usize, most.0)),
        &cuts(region, Cut::AtY, (y0, y1), (ny as usize, most.1)),
        Label::default(),
    );
    pieces.iter().map(Labelled::region).collect()
}

/// Where `n` pieces meet, none of them longer than `most`: at equal shares, or moved from there as little as leaves no
/// weak tip.
fn cuts(region: &Region, cut: Cut, (lo, hi): (f64, f64), (n, most): (usize, f64)) -> Vec<f64> {
    let whole = std::slice::from_ref(region);
    // A sheet of a few hands' width leaves no choice.
    let narrow = most < 4.0 * NARROW;
    let mut out: Vec<f64> = Vec::new();
    for i in 1..n {
        let share = lo + (hi - lo) * i as f64 / n as f64;
        let last = out.last().copied().unwrap_or(lo);
        // What is left must do for the rest.
        let range = ((hi - most * (n - i) as f64).max(last), last + most);
        let share = share.clamp(range.0.min(range.1), range.1);
        let places = about(share, if narrow { (share, share) } else { range });
        out.push(without_tips(whole, cut, &places).unwrap_or(share));
    }
    out
}
