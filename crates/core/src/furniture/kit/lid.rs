//! A lid that turns up about its back edge, and what keeps it there.

use crate::furniture::built::{Body, Ease, Item, Motion, Vec3};
use crate::mechanics::lid::MOST;

/// Gap between a lid and the strip it hangs on, mm (a choice: a hinge's pin and finish).
pub const GAP: f64 = 2.0;
/// Hinges stand so far off a lid's ends, mm, and no further apart than that (4 1/2 in, common practice, no source;
/// a choice).
const OFF_END: f64 = 115.0;
const APART: f64 = 450.0;

/// A lid's body: `at` a point of its hinge line, that runs along `about`.
pub fn body(id: String, name: String, (at, about): (Vec3, Vec3), eases: Vec<Ease>) -> Body {
    Body {
        id,
        name,
        motion: Motion::Turn {
            at,
            about,
            most: MOST,
        },
        eases,
        change: None,
    }
}

/// What is bought for a lid `long` mm along its hinge line.
pub fn hardware(long: f64) -> Vec<Item> {
    let between = ((long - 2.0 * OFF_END).max(0.0) / APART).ceil() as u32;
    let item = |what: &str, count, screws| Item {
        what: what.into(),
        size: String::new(),
        count,
        screws,
    };
    vec![
        item("butt hinge", 1 + between.max(1), 6),
        item("wooden prop with a stop screw, or a stay", 1, 2),
        item("latch that holds it shut on the road", 1, 4),
    ]
}
