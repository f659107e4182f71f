//! Where a deck is parted: as little as sheet and opening allow, and across only over a support.

use crate::geometry::labelled::{Label, Labelled, Rank};
use crate::geometry::pass::best_way;
use crate::geometry::region::Region;
use crate::geometry::split::part_at;
use crate::project::deck::Split;

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
    /// Thickness of the deck, mm.
    pub thickness: f64,
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
    /// Every piece comes through the opening (true while it is not measured).
    pub through: bool,
}

/// What a joint's edges are labelled.
pub const JOINT: Label = Label {
    rank: Rank::Cut,
    number: u32::MAX,
};

/// The ways to part a deck, fewest pieces first.
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
    (lines, at): (&[f64], Option<f64>),
    ways: &[Split],
    demands: &Demands,
) -> Option<Parting> {
    let mut last = None;
    for way in ways {
        let parting = try_way(whole, (lines, at), *way, demands);
        if parting.on_sheet && parting.through {
            return Some(parting);
        }
        last = Some(parting);
    }
    last
}

/// Parts `whole` in one of the ways and says whether the pieces will do; across over the support nearest `at`.
pub fn try_way(
    whole: &[Labelled],
    (lines, at): (&[f64], Option<f64>),
    way: Split,
    demands: &Demands,
) -> Parting {
    let plain: Vec<Region> = whole.iter().map(Labelled::region).collect();
    let (x0, y0, x1, y1) = bounds(&plain);
    let middle = at.unwrap_or((x0 + x1) / 2.0);
    // Across only over an inner support, the one nearest the middle or where it is wanted.
    let inner = lines
        .iter()
        .copied()
        .filter(|x| *x > x0 + 50.0 && *x < x1 - 50.0);
    let over = inner.min_by(|a, b| (a - middle).abs().total_cmp(&(b - middle).abs()));
    let xs: Vec<f64> = match way {
        Split::Across | Split::Quarters => vec![over.unwrap_or(middle)],
        _ => vec![],
    };
    let ys: Vec<f64> = match way {
        Split::Lengthwise | Split::Quarters => vec![((y0 + y1) / 2.0).round()],
        _ => vec![],
    };
    let edges: Vec<Labelled> = whole
        .iter()
        .flat_map(|r| part_at(r, &xs, &ys, JOINT))
        .collect();
    let pieces: Vec<Region> = edges.iter().map(Labelled::region).collect();
    // Its grain runs along the bay, and along the sheet.
    let on_sheet = pieces.iter().all(|p| {
        let (w, h) = p.size();
        w <= demands.sheet.0 && h <= demands.sheet.1
    });
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
