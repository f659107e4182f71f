//! Where a platform is parted: as little as sheet and opening allow, and across only over a support.

use super::Split;
use crate::geometry::labelled::{Label, Labelled, Rank};
use crate::geometry::pass::best_way;
use crate::geometry::region::Region;
use crate::geometry::split::part_at;
use crate::geometry::tips::{Cut, Tip, about, weak_tip, without_tips};

/// What the pieces have to satisfy.
#[derive(Debug, Clone)]
pub struct Demands {
    /// Usable sheet, mm.
    pub sheet: (f64, f64),
    /// Rectangles that the rear opening leaves free, less the readings' doubt; none while it is not
    /// measured.
    pub opening: Vec<(f64, f64)>,
    /// Room behind the opening, mm.
    pub depth: f64,
    /// Thickness of the board, mm.
    pub thickness: f64,
    /// Where a person wants the joint across, x in mm.
    pub joint: Option<f64>,
}

/// A way of parting.
#[derive(Debug, Clone, PartialEq)]
pub struct Parting {
    /// The manner.
    pub how: Split,
    /// The pieces in the vehicle frame.
    pub pieces: Vec<Region>,
    /// The same with labels on their edges.
    pub edges: Vec<Labelled>,
    /// Joints across the bay, at these x.
    pub xs: Vec<f64>,
    /// Joints along the bay, at these y.
    pub ys: Vec<f64>,
    /// Every piece lies on a sheet.
    pub on_sheet: bool,
    /// Pieces that lie on one only with their grain across the bay.
    pub turned: Vec<bool>,
    /// Every piece comes through the opening (true while it is not measured).
    pub through: bool,
}

/// What a joint's edges are labelled.
pub const JOINT: Label = Label {
    rank: Rank::Cut,
    number: u32::MAX,
};

/// The ways to part a platform, fewest pieces first.
const WAYS: [Split; 4] = [
    Split::Whole,
    Split::Lengthwise,
    Split::Across,
    Split::Quarters,
];

/// The ways that come into question. A deck whose front board moves is parted across at the least.
pub fn ways(want: Split, moves: bool) -> &'static [Split] {
    match want {
        Split::Auto if moves => &WAYS[2..],
        Split::Auto => &WAYS,
        Split::Whole => &WAYS[..1],
        Split::Lengthwise => &WAYS[1..2],
        Split::Across => &WAYS[2..3],
        Split::Quarters => &WAYS[3..],
    }
}

/// The first of the ways that satisfies all demands; failing that the last.
pub fn part(
    whole: &[Labelled],
    lines: &[f64],
    ways: &[Split],
    demands: &Demands,
) -> Option<Parting> {
    let (mut turned, mut last) = (None, None);
    for way in ways {
        let parting = try_way(whole, lines, *way, demands);
        if parting.on_sheet && parting.through {
            if !parting.turns() {
                return Some(parting);
            }
            // Grain along the bay is stiffer, whatever it takes; across it is better than none.
            turned.get_or_insert(parting);
            continue;
        }
        last = Some(parting);
    }
    turned.or(last)
}

/// Parts `whole` in one of the ways and says whether the pieces will do. Across it is parted over the support nearest
/// the wanted joint, or nearest the middle that leaves no weak tip; lengthwise in the middle, or as near to it as leaves none. Where
/// the pieces would then not come through the opening or out of a sheet, tips are put up with.
pub fn try_way(whole: &[Labelled], lines: &[f64], way: Split, demands: &Demands) -> Parting {
    let plain: Vec<Region> = whole.iter().map(Labelled::region).collect();
    let (x0, y0, x1, y1) = bounds(&plain);
    let middle = demands.joint.unwrap_or((x0 + x1) / 2.0);
    // Across only over an inner support.
    let inner = lines.iter().copied();
    let mut over: Vec<f64> = inner.filter(|x| *x > x0 + 50.0 && *x < x1 - 50.0).collect();
    over.sort_by(|a, b| (a - middle).abs().total_cmp(&(b - middle).abs()));
    let xs = match over.is_empty() {
        true => vec![middle],
        // Where a person wants it, it stays.
        false if demands.joint.is_some() => over[..1].to_vec(),
        false => over,
    };
    let reach = (y1 - y0) / 4.0;
    let middle = ((y0 + y1) / 2.0).round();
    let ys = about(middle, (middle - reach, middle + reach));
    let good = |cut, places: &[f64]| without_tips(&plain, cut, places);
    let parted = |x: Option<f64>, y: Option<f64>| {
        let (xs, ys): (Vec<f64>, Vec<f64>) = match way {
            Split::Across => (x.into_iter().collect(), vec![]),
            Split::Lengthwise => (vec![], y.into_iter().collect()),
            Split::Quarters => (x.into_iter().collect(), y.into_iter().collect()),
            Split::Whole | Split::Auto => (vec![], vec![]),
        };
        parted_at(whole, way, (xs, ys), demands)
    };
    let plainly = parted(xs.first().copied(), ys.first().copied());
    if plainly.tips(&plain).is_empty() {
        return plainly;
    }
    let better = parted(good(Cut::AtX, &xs), good(Cut::AtY, &ys));
    let will_do = |p: &Parting| p.on_sheet && p.through;
    if will_do(&better) || !will_do(&plainly) {
        better
    } else {
        plainly
    }
}

impl Parting {
    /// The grain of a piece runs across the bay.
    pub fn turns(&self) -> bool {
        self.turned.iter().any(|t| *t)
    }

    /// The weak tips that its joints leave in `whole`.
    pub fn tips(&self, whole: &[Region]) -> Vec<(Cut, f64, Tip)> {
        let across = self.xs.iter().map(|x| (Cut::AtX, *x));
        let along = self.ys.iter().map(|y| (Cut::AtY, *y));
        let tip = |(cut, at)| weak_tip(whole, cut, at).map(|tip| (cut, at, tip));
        across.chain(along).filter_map(tip).collect()
    }
}

/// The parts left by joints at these x and y.
fn parted_at(
    whole: &[Labelled],
    way: Split,
    (xs, ys): (Vec<f64>, Vec<f64>),
    demands: &Demands,
) -> Parting {
    let edges: Vec<Labelled> = whole
        .iter()
        .flat_map(|r| part_at(r, &xs, &ys, JOINT))
        .collect();
    let pieces: Vec<Region> = edges.iter().map(Labelled::region).collect();
    // Its grain runs along the bay, and along the sheet; across the bay where it lies on none that way.
    let lies = |(w, h): (f64, f64)| w <= demands.sheet.0 && h <= demands.sheet.1;
    let swapped = |(w, h): (f64, f64)| lies((h, w));
    let on_sheet = pieces.iter().all(|p| lies(p.size()) || swapped(p.size()));
    let turned = pieces.iter().map(|p| !lies(p.size()) && swapped(p.size()));
    let turned = turned.collect();
    let through = demands.opening.is_empty()
        || pieces.iter().all(|p| {
            let (w, h) = p.size();
            best_way(
                [w, h, demands.thickness],
                &demands.opening,
                Some(demands.depth),
            )
            .is_some()
        });
    Parting {
        how: way,
        pieces,
        edges,
        xs,
        ys,
        on_sheet,
        turned,
        through,
    }
}

/// Bounding box of several regions.
pub fn bounds(regions: &[Region]) -> (f64, f64, f64, f64) {
    regions.iter().map(Region::bounds).fold(
        (
            f64::INFINITY,
            f64::INFINITY,
            f64::NEG_INFINITY,
            f64::NEG_INFINITY,
        ),
        |a, b| (a.0.min(b.0), a.1.min(b.1), a.2.max(b.2), a.3.max(b.3)),
    )
}
