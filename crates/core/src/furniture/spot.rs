//! Where a box goes: its place as the document has it, and the search for one that is free.

use super::Site;
use super::built::Claim;
use super::cross::Cross;
use super::free::Free;
use crate::geometry::region::Region;
use crate::problem::Problem;
use crate::project::module::{Across, ModulePlace};
use crate::project::survey::Side;
use crate::units::INCH;
use crate::units::figure::{System, Writer};
use crate::units::value::Value;

/// Boxes stand so far off the next piece of furniture, mm (a choice: finish and a thumb's nail).
pub const BESIDE: f64 = 2.0;
/// A place is looked for in steps of this, mm: an inch where the tape reads inches.
fn step(w: &Writer) -> f64 {
    match w.system {
        System::Mm => 25.0,
        System::In => INCH,
    }
}

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
    /// Boards follow the wall so far behind the straight line, mm.
    pub follow: f64,
}

impl Spot {
    /// Its plan.
    pub fn plan(&self) -> Region {
        Region::rectangle(self.x.0, self.y.0, self.x.1, self.y.1)
    }

    /// Its claim.
    pub fn claim(&self) -> Claim {
        let by = BESIDE / 2.0;
        let (right, left) = match self.side {
            Some(Side::Left) => (by, self.follow.max(by)),
            Some(Side::Right) => (self.follow.max(by), by),
            None => (by, by),
        };
        Claim {
            plan: Region::rectangle(
                self.x.0 - by,
                self.y.0 - right,
                self.x.1 + by,
                self.y.1 + left,
            ),
            z: self.z,
            keeps: vec![],
        }
    }
}

/// The box of `size` (along, across, up) at a place: against its wall as far out as it goes without
/// meeting it anywhere, its foot on the highest floor below it.
pub fn at(
    site: &Site,
    cross: &Cross,
    place: &ModulePlace,
    size: [f64; 3],
    follow: f64,
) -> Option<Spot> {
    let [length, depth, height] = size;
    let x = (place.along, place.along + length);
    let level = |z0: f64| cross.heights(z0 + 0.5, z0 + height);
    // Beside another piece it stands against that one, not against a wall.
    let side = place.across.side().filter(|_| place.face.is_none());
    let y = match (side, place.face) {
        (None, Some(face)) if place.across == Across::RightWall => {
            (face - place.gap - depth, face - place.gap)
        }
        (None, Some(face)) => (face + place.gap, face + place.gap + depth),
        (None, None) => (-depth / 2.0, depth / 2.0),
        (Some(side), _) => {
            let face = outermost(cross, side, x, &level(place.up))?.mm - place.gap;
            match side {
                Side::Left => (face - depth, face),
                Side::Right => (-face, depth - face),
            }
        }
    };
    let plan = Region::rectangle(x.0, y.0, x.1, y.1);
    let floor = floor(site, &plan) + place.up;
    Some(Spot {
        x,
        y,
        z: (floor, floor + height),
        side,
        follow,
    })
}

/// The narrowest place of a wall over a stretch.
#[derive(Debug, Clone, Copy)]
struct Narrowest {
    /// From the centre line, mm.
    mm: f64,
    /// The short stretch in which it lies.
    x: (f64, f64),
    /// How high.
    z: f64,
}

/// How far out from the centre line it is free over a stretch at all these heights, and where that is decided.
fn outermost(cross: &Cross, side: Side, x: (f64, f64), heights: &[f64]) -> Option<Narrowest> {
    /// The stretch is looked at every so often, mm.
    const EVERY: f64 = 60.0;
    let n = ((x.1 - x.0) / EVERY).ceil().clamp(1.0, 60.0) as usize;
    let at = |k: usize| x.0 + (x.1 - x.0) * k as f64 / n as f64;
    let mut least: Option<Narrowest> = None;
    for z in heights {
        for i in 0..n {
            let x = (at(i), at(i + 1));
            let (right, left) = cross.across(x, *z)?;
            let mm = if side == Side::Left { left } else { -right };
            if least.is_none_or(|l| mm < l.mm) {
                least = Some(Narrowest { mm, x, z: *z });
            }
        }
    }
    least
}

/// Why the back of a box lies where it does, out from the centre line, where a wall decides it.
pub fn back_why(
    site: &Site,
    cross: &Cross,
    (side, x): (Side, (f64, f64)),
    (up, height): (f64, f64),
    gap: f64,
) -> Option<Value> {
    let heights = cross.heights(up + 0.5, up + height);
    let n = outermost(cross, side, x, &heights)?;
    let wall = cross.why(side, n.x, n.z, n.mm, &cross.clearance_why())?;
    let gap = Value::choice(format!("{}/place/gap", site.pointer()), "off the wall", gap);
    Some(if gap.mm == 0.0 { wall } else { wall - gap })
}

/// Height of the floor under a rectangle: its highest place.
fn floor(site: &Site, plan: &Region) -> f64 {
    let (x0, y0, x1, y1) = plan.bounds();
    let xs = [x0, (x0 + x1) / 2.0, x1];
    let ys = [y0, (y0 + y1) / 2.0, y1];
    let all = xs
        .iter()
        .flat_map(|x| ys.map(|y| site.model.floor_at(*x, y)));
    all.fold(f64::NEG_INFINITY, f64::max)
}

/// The box lies wholly in free space and in nobody's claim.
pub fn is_free(site: &Site, (cross, free): (&Cross, &Free), spot: &Spot) -> bool {
    let heights = free.heights(spot.z.0 + 0.5, spot.z.1);
    site.is_free(&spot.claim()) && free.holds(cross, &spot.plan(), &heights)
}

/// What is fixed already when a place is looked for.
#[derive(Debug, Clone, Default)]
pub struct Fixed {
    /// Forward of the threshold, mm.
    pub along: Option<f64>,
    /// Across the bay.
    pub across: Option<Across>,
}

/// It stands in nobody's way: not where something else comes out.
pub fn in_nobodys_way(site: &Site, spot: &Spot) -> bool {
    let plan = spot.plan();
    let high = |c: &Claim| spot.z.0 < c.z.1 && c.z.0 < spot.z.1;
    site.others()
        .filter(|(_, c)| high(c))
        .flat_map(|(_, c)| &c.keeps)
        .all(|keep| keep.and(&plan).is_empty())
}

/// The first free place for one of these sizes, the first size first; one that is `good` and at its wall, if there is any. What is free
/// across the bay hangs on the height of the piece.
pub fn find<'a>(
    site: &'a Site<'a>,
    at: (&dyn Fn(f64) -> Cross<'a>, &Free),
    sizes: &[[f64; 3]],
    across: &[Across],
    place: &ModulePlace,
    fixed: (&Fixed, f64),
    good: &dyn Fn(&Cross, &Spot) -> bool,
) -> Option<(ModulePlace, [f64; 3])> {
    let against = |cross: &Cross, spot: &Spot| good(cross, spot) && is_at_its_wall(cross, spot);
    first(site, at, sizes, across, place, fixed, &against)
        .or_else(|| first(site, at, sizes, across, place, fixed, &|_, _| true))
}

/// It does not stand off its wall all along because a front that comes in, or something else at one end, holds it there:
/// somewhere its boards can follow the wall.
fn is_at_its_wall(cross: &Cross, spot: &Spot) -> bool {
    /// It is looked at so many places along it.
    const PLACES: usize = 8;
    let Some(side) = spot.side else {
        return true;
    };
    let back = (side.sign() * spot.y.0).max(side.sign() * spot.y.1);
    let z = (spot.z.0 + spot.z.1) / 2.0;
    let at = |i: usize| spot.x.0 + (spot.x.1 - spot.x.0) * i as f64 / PLACES as f64;
    let reach = |i: usize| {
        let (right, left) = cross.across((at(i), at(i + 1)), z)?;
        Some(if side == Side::Left { left } else { -right })
    };
    (0..PLACES).any(|i| reach(i).is_some_and(|r| r <= back + spot.follow.max(NEAR_WALL)))
}

/// Where nothing follows the wall a piece stands against it when it is so near somewhere, mm (a choice).
const NEAR_WALL: f64 = 60.0;

fn first<'a>(
    site: &'a Site<'a>,
    (cross, free): (&dyn Fn(f64) -> Cross<'a>, &Free),
    sizes: &[[f64; 3]],
    across: &[Across],
    place: &ModulePlace,
    (fixed, follow): (&Fixed, f64),
    good: &dyn Fn(&Cross, &Spot) -> bool,
) -> Option<(ModulePlace, [f64; 3])> {
    let longest = site.model.length(0.0)?;
    let across: Vec<Across> = match fixed.across {
        Some(a) => vec![a],
        None => across.to_vec(),
    };
    let along = |size: &[f64; 3]| -> Vec<f64> {
        let last = longest - size[0];
        let step = step(&site.w);
        let n = ((last / step).floor().max(0.0) as usize).min(MOST);
        match fixed.along {
            Some(x) => vec![x],
            None if last < 0.0 => vec![],
            None => (0..=n).map(|i| i as f64 * step).collect(),
        }
    };
    let everywhere = |size: &[f64; 3]| -> Vec<(f64, Across)> {
        let xs = along(size).into_iter();
        xs.flat_map(|x| across.iter().map(move |a| (x, *a)))
            .collect()
    };
    let goes = |cross: &Cross, (x, a): (f64, Across), size: [f64; 3]| -> Option<ModulePlace> {
        if walled(site, x, size, place.up) {
            return None;
        }
        let place = ModulePlace {
            along: x,
            across: a,
            ..place.clone()
        };
        let spot = at(site, cross, &place, size, follow)?;
        (good(cross, &spot) && is_free(site, (cross, free), &spot)).then_some(place)
    };
    let (usual, least) = (sizes.first()?, sizes.last()?);
    let tall = cross(usual[2]);
    let places = everywhere(usual);
    let found = places.into_iter().find_map(|p| goes(&tall, p, *usual));
    if let Some(place) = found {
        return Some((place, *usual));
    }
    if sizes.len() == 1 {
        return None;
    }
    // No other size goes where the least one does not.
    let low = cross(least[2]);
    let mut places = everywhere(least);
    places.retain(|p| goes(&low, *p, *least).is_some());
    let mut crosses = vec![(usual[2], tall), (least[2], low)];
    for size in &sizes[1..] {
        if places.is_empty() {
            break;
        }
        if !crosses.iter().any(|c| c.0 == size[2]) {
            crosses.push((size[2], cross(size[2])));
        }
        let Some((_, cross)) = crosses.iter().find(|c| c.0 == size[2]) else {
            continue;
        };
        let ends = |x: f64| fixed.along.is_some() || x + size[0] <= longest;
        let mut own = places.iter().filter(|p| ends(p.0));
        if let Some(place) = own.find_map(|p| goes(cross, *p, *size)) {
            return Some((place, *size));
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
pub fn sizes(usual: [f64; 3], least: [f64; 3], set: [bool; 3], w: &Writer) -> Vec<[f64; 3]> {
    const SHARES: [f64; 4] = [1.0, 0.7, 0.4, 0.0];
    let of = |i: usize| -> Vec<f64> {
        if set[i] {
            return vec![usual[i]];
        }
        SHARES
            .map(|s| {
                let at = w.round(least[i] + s * (usual[i] - least[i]));
                // An inch project rounds by more than the least size may give way.
                if at < least[i] { at + w.rounding() } else { at }
            })
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

/// No place was found for what is called so.
pub fn nowhere(called: &str) -> Problem {
    let words = format!(
        "There is no free place here for: {}.",
        called.replace('_', " ")
    );
    Problem::impossible("/place", words)
}
