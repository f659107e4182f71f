//! Scenes to try the reading of photos on.

use jigfit_core::geometry::Point;
use jigfit_core::project::survey::Side;
use rand::Rng;

use super::{Camera, Cast, Scene, laid};
use crate::vehicle::Vehicle;

/// A card is so wide, its ends stay so far off the ends of the wall, and it is no longer than this, mm.
const WIDE: f64 = 320.0;
const ENDS: f64 = 150.0;
const LONG: f64 = 1600.0;

/// A card that was cut to a wall at a height, about the middle of what it spans: its lower edge is the wall's.
pub fn card(v: &Vehicle, side: Side, z: f64) -> Option<Vec<Point>> {
    let long = v.front(0.0, z)? - 2.0 * ENDS;
    let long = long.min(LONG);
    let steps = 200;
    let wall: Vec<Point> = (0..=steps)
        .map(|i| ENDS + long * f64::from(i) / f64::from(steps))
        .filter_map(|x| Some([x, v.wall(side, x, z)?]))
        .collect();
    // A step in the wall is no edge of one card.
    let jump = wall.windows(2).any(|w| (w[1][1] - w[0][1]).abs() > 25.0);
    if jump || wall.len() < 150 {
        return None;
    }
    let furthest = wall.iter().map(|p| p[1]).fold(f64::NEG_INFINITY, f64::max);
    let nearest = wall.iter().map(|p| p[1]).fold(f64::INFINITY, f64::min);
    let (first, last) = (wall.first()?[0], wall.last()?[0]);
    let mid = [
        f64::midpoint(first, last),
        f64::midpoint(nearest - WIDE, furthest),
    ];
    let mut card: Vec<Point> = wall
        .iter()
        .map(|p| [p[0] - mid[0], mid[1] - p[1]])
        .collect();
    let back = mid[1] - nearest + WIDE;
    card.extend([[last - mid[0], back], [first - mid[0], back]]);
    Some(card)
}

impl Scene {
    /// A card on the floor of a workshop, four sheets around it, a shadow over a part of it; and the camera over them, of `size`
    /// pixels. The card spans `w` by `h` mm about the middle at the most.
    pub fn workshop(
        rng: &mut impl Rng,
        size: [usize; 2],
        w: f64,
        h: f64,
        card: Vec<Point>,
    ) -> (Scene, Camera) {
        let sheets = laid(rng, w + 420.0, h + 420.0);
        let camera = Camera::held(rng, size, w + 700.0, h + 700.0);
        let scene = Scene {
            card,
            card_colour: [0.42, 0.28, 0.16],
            floor_colour: [0.35, 0.35, 0.36],
            grain: 0.2,
            sheets: sheets.to_vec(),
            shadow: Some(Cast {
                at: [
                    rng.random_range(-0.3..0.3) * w,
                    rng.random_range(-0.3..0.3) * h,
                ],
                into: rng.random_range(0.0..6.0),
                soft: 150.0,
                leaves: 0.55,
            }),
            noise: 3.0,
        };
        (scene, camera)
    }

    /// How far it is from the cross of one sheet to that of another.
    pub fn apart(&self, from: usize, to: usize) -> f64 {
        let (a, b) = (self.sheets[from].at, self.sheets[to].at);
        (a[0] - b[0]).hypot(a[1] - b[1])
    }
}
