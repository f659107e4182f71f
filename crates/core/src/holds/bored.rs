//! Where a board is bored for what holds its piece to the vehicle: so that a fixing of the survey becomes a mark on the part.

use super::point::Place;
use crate::furniture::built::Vec3;
use crate::geometry::Point;
use crate::geometry::region::Region;
use crate::joints::Bored;
use crate::solids::Solid;

/// Wood stays round a hole, mm from its edge (a choice).
const WOOD: f64 = 6.0;
/// A place that is not quite on the board is moved onto it no further than this, mm (a choice: an eye bolt need not sit over
/// its ring).
const MOVED: f64 = 150.0;
/// So many steps are tried on the way to the board's middle.
const TRIES: u32 = 20;

/// What goes through a board itself at a place.
#[derive(Debug, Clone, PartialEq)]
pub struct Bolt {
    /// What, with its size.
    pub what: String,
    /// How wide a hole lets it pass, mm.
    pub wide: f64,
    /// It may sit a little beside: a turnbuckle leads to it.
    pub loose: bool,
}

/// The hole that lets a bolt so thick pass, mm (ISO 273, medium, from memory; between its sizes a tenth more).
pub fn clearance(d: f64) -> f64 {
    match d {
        d if d <= 5.0 => d + 0.5,
        d if (d - 6.0).abs() < 0.1 => 6.6,
        d if (d - 8.0).abs() < 0.1 => 9.0,
        d if (d - 10.0).abs() < 0.1 => 11.0,
        d if (d - 12.0).abs() < 0.1 => 13.5,
        d => (d * 11.0).ceil() / 10.0,
    }
}

/// The hole of a place in one of its piece's boards; none where a bracket takes it, or where there is no wood for it.
pub(super) fn bored(place: &Place, solids: &[Solid]) -> Option<Bored> {
    let bolt = place.bolt.as_ref()?;
    let s = solids.iter().find(|s| s.board.id == place.board)?;
    let pose = &s.board.shut;
    let [a, b, _] = pose.own(place.at);
    let at = [a, b];
    let outline = &s.board.outline;
    let (x0, y0, x1, y1) = outline.bounds();
    let middle = [(x0 + x1) / 2.0, (y0 + y1) / 2.0];
    let tries = if bolt.loose { TRIES } else { 0 };
    let mut all = (0..=tries).map(|i| {
        let s = f64::from(i) / f64::from(TRIES);
        [0, 1].map(|k: usize| at[k] + s * (middle[k] - at[k]))
    });
    let there = all.find(|p| wood(outline, *p, bolt.wide / 2.0 + WOOD))?;
    if (there[0] - at[0]).hypot(there[1] - at[1]) > MOVED {
        return None;
    }
    Some(Bored {
        board: place.board.clone(),
        to: place.name.clone(),
        what: bolt.what.clone(),
        wide: bolt.wide,
        at: pose.at(there[0], there[1], 0.0),
    })
}

/// A bolt of the usual size (M8) at a point goes through the board: there is wood all round.
pub fn passes(s: &Solid, p: Vec3) -> bool {
    const USUAL: f64 = 8.0;
    let [a, b, _] = s.board.shut.own(p);
    wood(&s.board.outline, [a, b], clearance(USUAL) / 2.0 + WOOD)
}

/// There is wood all round a place.
fn wood(outline: &Region, [x, y]: Point, r: f64) -> bool {
    [-r, 0.0, r].into_iter().all(|d| {
        let lines = outline.line(x + d);
        lines.iter().any(|s| y - r > s.0 && y + r < s.1)
    })
}
