//! Which gas struts hold a lid up: force, length and where they hold on, so that it comes up by a hand, stays there, and
//! shuts by a hand.

use super::lid::{Lid, Strut, turned};
use crate::geometry::distance;

/// Shortest and longest length between the eyes of struts that are commonly sold, mm (from memory).
pub const SIZES: [(f64, f64); 6] = [
    (165.0, 245.0),
    (205.0, 305.0),
    (245.0, 405.0),
    (285.0, 485.0),
    (345.0, 585.0),
    (445.0, 785.0),
];
/// Their forces, N (from memory).
pub const FORCES: [f64; 9] = [50.0, 80.0, 100.0, 120.0, 150.0, 200.0, 250.0, 300.0, 400.0];
/// Neither lifting the lid nor pulling it shut asks more of a hand at its edge, N (a choice: 6 kg).
pub const HAND: f64 = 60.0;
/// A lid is to open so far at least, degrees, and no further than that (choices: out of the way; it may lean back, not over).
pub const OPEN: (f64, f64) = (75.0, 100.0);
/// From here on it is to stay up by itself, degrees (a choice: before the hand has to let go).
const STAYS: f64 = 50.0;
/// Places are tried so far apart, mm.
const STEP: f64 = 30.0;
/// They stay so far off the box's inner faces, mm (a choice: a fitting and a thumb).
const OFF: f64 = 30.0;

/// The room under a lid.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Under {
    /// From the hinge to the inner face of the front, mm.
    pub deep: f64,
    /// From the hinge down to the floor of the box, mm.
    pub down: f64,
    /// The lid's lower face lies so far below the hinge, mm.
    pub face: f64,
    /// One on each side instead of a single one.
    pub pair: bool,
}

/// What was found.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Chosen {
    /// The strut, or the pair.
    pub strut: Strut,
    /// The most a hand lifts at the edge on the way up, N.
    pub lift: f64,
    /// The most it pulls to shut it, N.
    pub pull: f64,
    /// It opens so far, degrees.
    pub opens: f64,
}

/// The strut with which the hand has least to do; none of the usual sizes may fit.
pub fn choose(lid: &Lid, under: Under) -> Option<Chosen> {
    let places = |to: f64| {
        let n = ((to - OFF) / STEP).floor();
        (0..=(n.clamp(0.0, 40.0) as usize)).map(move |i| OFF + STEP * i as f64)
    };
    if under.deep < 3.0 * OFF || under.down < 3.0 * OFF {
        return None;
    }
    let count = if under.pair { 2.0 } else { 1.0 };
    let mut best: Option<Chosen> = None;
    for at in places(0.8 * under.deep) {
        // The fitting is screwed under the lid.
        let lid_at = [at, -under.face - OFF / 2.0];
        let swung = [turned(lid_at, OPEN.0), turned(lid_at, OPEN.1)];
        for x in places(under.deep - OFF) {
            for y in places(under.down - OFF) {
                let frame_at = [x, -under.face - y];
                let shut = distance(lid_at, frame_at);
                let out = swung.map(|p| distance(p, frame_at));
                for (closed, open) in SIZES {
                    // Its end stops the lid.
                    if shut < closed || shut > open || out[0] > open || out[1] < open {
                        continue;
                    }
                    for force in FORCES {
                        let strut = Strut {
                            force,
                            count,
                            closed,
                            open,
                            lid_at,
                            frame_at,
                        };
                        let found = judged(lid, strut);
                        let work = |c: &Chosen| c.lift.max(c.pull);
                        if let Some(c) = found
                            && best.as_ref().is_none_or(|b| work(&c) < work(b) - 1e-9)
                        {
                            best = Some(c);
                        }
                    }
                }
            }
        }
    }
    best
}

/// What it asks of the hand, if that is good enough.
fn judged(lid: &Lid, strut: Strut) -> Option<Chosen> {
    /// Looked at every so often, degrees.
    const EVERY: f64 = 10.0;
    let with = Lid {
        strut: Some(strut),
        ..lid.clone()
    };
    let (mut lift, mut pull) = (0.0_f64, 0.0_f64);
    for i in 0..=7 {
        let deg = EVERY * f64::from(i);
        let hand = with.hand_force(deg);
        // Shut it has to lie, up it has to stay.
        if i == 0 && hand < 1.0 || deg >= STAYS && hand > -1.0 {
            return None;
        }
        lift = lift.max(hand);
        pull = pull.max(-hand);
        if lift > HAND || pull > HAND {
            return None;
        }
    }
    let (opens, _) = with.opens();
    pull = pull.max(-with.hand_force(opens));
    let good = opens >= OPEN.0 && pull <= HAND;
    good.then_some(Chosen {
        strut,
        lift,
        pull,
        opens,
    })
}
