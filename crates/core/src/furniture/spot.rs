//! Where a box goes: its place as the document has it, and the search for one that is free.

use super::Site;
use super::built::Claim;
use super::free::Free;
use crate::geometry::region::Region;
use crate::project::module::{Across, ModulePlace};
use crate::project::survey::Side;

/// Boxes stand so far off the next piece of furniture, mm (a choice: finish and a thumb's nail).
const BESIDE: f64 = 2.0;
/// A place is looked for in steps of this, mm.
const STEP: f64 = 25.0;
/// Most places looked at for one size.
const MOST: usize = 400;

/// A box in the vehicle: along x, across y, up z, mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Spot {
    /// From and to.
    pub x: (f64, f64),
    /// From and to.
    pub y: (f64, f64),
    /// From and to.
    pub z: (f64, f64),
    /// The wall against which it stands.
    pub side: Option<Side>,
}

impl Spot {
    /// Its plan.
    pub fn plan(&self) -> Region {
        Region::rectangle(self.x.0, self.y.0, self.x.1, self.y.1)
    }

    /// Its claim.
    pub fn claim(&self) -> Claim {
        let (a, b) = (BESIDE / 2.0, BESIDE / 2.0);
        Claim {
            plan: Region::rectangle(self.x.0 - a, self.y.0 - a, self.x.1 + b, self.y.1 + b),
            z: self.z,
        }
    }
}

/// The box of `size` (along, across, up) at a place: against its wall as far out as it goes without
/// meeting it anywhere, its foot on the highest floor below it.
pub fn at(free: &Free, place: &ModulePlace, size: [f64; 3]) -> Option<Spot> {
    let [length, depth, height] = size;
    let x = (place.along, place.along + length);
    let level = |z0: f64| free.heights(z0 + 0.5, z0 + height);
    let side = place.across.side();
    let y = match side {
        None => (-depth / 2.0, depth / 2.0),
        Some(side) => {
            let heights = level(place.up);
            let reach = heights
                .iter()
                .map(|z| outermost(free, side, x, *z))
                .collect::<Option<Vec<f64>>>()?;
            let face = reach.into_iter().fold(f64::INFINITY, f64::min) - place.gap;
            match side {
                Side::Left => (face - depth, face),
                Side::Right => (-face, depth - face),
            }
        }
    };
    let plan = Region::rectangle(x.0, y.0, x.1, y.1);
    let floor = free.floor(&plan) + place.up;
    Some(Spot {
        x,
        y,
        z: (floor, floor + height),
        side,
    })
}

/// How far out from the centre line it is free over a stretch, mm.
fn outermost(free: &Free, side: Side, x: (f64, f64), z: f64) -> Option<f64> {
    const FAR: f64 = 5000.0;
    let pieces = free.at(z);
    // A thin band right at both ends and between: the least reach counts.
    let n = ((x.1 - x.0) / 60.0).ceil().clamp(1.0, 60.0) as usize;
    (0..=n)
        .map(|i| {
            let at = x.0 + (x.1 - x.0) * i as f64 / n as f64;
            let at = at.clamp(x.0 + 0.2, (x.1 - 0.2).max(x.0 + 0.2));
            let band = Region::rectangle(at - 0.1, -FAR, at + 0.1, FAR);
            let here = pieces.iter().flat_map(|r| r.and(&band));
            here.map(|r| {
                let (_, y0, _, y1) = r.bounds();
                if side == Side::Left { y1 } else { -y0 }
            })
            .reduce(f64::max)
        })
        .try_fold(f64::INFINITY, |least, reach| Some(least.min(reach?)))
}

/// The box lies wholly in free space and in nobody's claim.
pub fn is_free(site: &Site, free: &Free, spot: &Spot) -> bool {
    let heights = free.heights(spot.z.0 + 0.5, spot.z.1);
    site.is_free(&spot.claim()) && free.holds(&spot.plan(), &heights)
}

/// What is fixed already when a place is looked for.
#[derive(Debug, Clone, Default)]
pub struct Fixed {
    /// Forward of the threshold, mm.
    pub along: Option<f64>,
    /// Across the bay.
    pub across: Option<Across>,
}

/// The first free place for one of these sizes, the first size first.
pub fn find(
    site: &Site,
    free: &Free,
    sizes: &[[f64; 3]],
    across: &[Across],
    place: &ModulePlace,
    fixed: &Fixed,
) -> Option<(ModulePlace, [f64; 3])> {
    let longest = site.model.length(0.0)?;
    let across: Vec<Across> = match fixed.across {
        Some(a) => vec![a],
        None => across.to_vec(),
    };
    for size in sizes {
        let last = longest - size[0];
        let n = ((last / STEP).floor().max(0.0) as usize).min(MOST);
        let along: Vec<f64> = match fixed.along {
            Some(x) => vec![x],
            None if last < 0.0 => vec![],
            None => (0..=n).map(|i| i as f64 * STEP).collect(),
        };
        for x in along
            .into_iter()
            .filter(|x| !walled(site, *x, *size, place.up))
        {
            for a in &across {
                let place = ModulePlace {
                    along: x,
                    across: *a,
                    ..place.clone()
                };
                let Some(spot) = at(free, &place, *size) else {
                    continue;
                };
                if is_free(site, free, &spot) {
                    return Some((place, *size));
                }
            }
        }
    }
    None
}

/// Something reaches from wall to wall there at that height: no need to look closer.
fn walled(site: &Site, x: f64, [length, _, height]: [f64; 3], up: f64) -> bool {
    /// Whoever claims so far to both sides of the centre line leaves no room for a box beside it, mm.
    const WIDE: f64 = 350.0;
    site.others().any(|(_, c)| {
        let (x0, y0, x1, y1) = c.plan.bounds();
        let wide = y0 < -WIDE && y1 > WIDE && x0 < x + length && x1 > x;
        wide && c.z.0 < up + height && c.z.1 > up
    })
}

/// Sizes from the usual one down to the least, in a few steps, each dimension that is not `set` by itself.
pub fn sizes(usual: [f64; 3], least: [f64; 3], set: [bool; 3]) -> Vec<[f64; 3]> {
    const SHARES: [f64; 4] = [1.0, 0.7, 0.4, 0.0];
    let of = |i: usize| -> Vec<f64> {
        if set[i] {
            return vec![usual[i]];
        }
        SHARES
            .map(|s| (least[i] + s * (usual[i] - least[i])).round())
            .to_vec()
    };
    let mut out = Vec::new();
    for h in of(2) {
        for d in of(1) {
            for l in of(0) {
                out.push([l, d, h]);
            }
        }
    }
    // The roomiest first.
    out.sort_by(|a, b| {
        let volume = |s: &[f64; 3]| s[0] * s[1] * s[2];
        volume(b).total_cmp(&volume(a))
    });
    out.dedup();
    out
}
