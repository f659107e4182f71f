//! Holes for the drop pins of a front board that is slid back or turned over: one pair where it lies at night, one where it lies on the
//! road.

use super::change::{FRONT, travel};
use crate::furniture::built::{Board, Bore};
use crate::project::deck::{Change, Deck};
use crate::units::figure::Writer;

/// A pin, and the hole in which it goes by hand, mm (choices).
pub const PIN: f64 = 8.0;
const HOLE: f64 = 9.0;
/// From the board's sides, mm: the first of these at which both boards have room (choices).
const OFF_SIDE: [f64; 5] = [60.0, 90.0, 120.0, 150.0, 180.0];
/// From a hole's middle to any edge, mm, and from its edge to another hole's.
const EDGE: f64 = 9.0;
const APART: f64 = 20.0;

/// Bores them in the boards of a top that meet at a joint.
pub fn bore(deck: &Deck, at: f64, top: &mut [Board], w: &Writer) {
    // Into the middle of the strip on which the front board lies.
    let out = at + deck.supports.thickness;
    // Where that hole comes to lie on the road.
    let back = match deck.change {
        Change::Slide => out - travel(at, top),
        Change::Flip => 2.0 * at - out,
        _ => return,
    };
    let front = |b: &Board| b.body == FRONT;
    let lines = top.iter().filter(|b| front(b));
    let ends = lines.flat_map(|b| b.shape.line(out));
    let (low, high) = ends.fold((f64::INFINITY, f64::NEG_INFINITY), |e, s| {
        (e.0.min(s.0), e.1.max(s.1))
    });
    let place = |of_front: bool, x: f64, y: f64| {
        let here = |b: &Board| front(b) == of_front && has_room(b, x, y);
        top.iter().position(here)
    };
    let (mut bored, mut told) = (Vec::new(), Vec::new());
    for side in [1.0, -1.0] {
        let y = |off: f64| if side > 0.0 { high - off } else { low + off };
        let found = OFF_SIDE
            .into_iter()
            .map(|off| y(off).round())
            .find_map(|y| {
                let on = place(true, out, y)?;
                Some((on, place(false, back, y)?, y))
            });
        if let Some((on, under, y)) = found {
            bored.extend([(on, [out, y]), (under, [back, y])]);
            told.extend([on, under]);
        }
    }
    for (board, at) in bored {
        top[board].bores.push(Bore {
            at,
            diameter: HOLE,
            depth: deck.thickness,
        });
    }
    told.sort_unstable();
    told.dedup();
    for board in told {
        let words = if front(&top[board]) {
            "once it lies in its place, bore on into the strip below"
        } else {
            // A pin has 1 mm of play, marking takes that.
            "better than marked: through the front board's, once it lies on it"
        };
        let hole = w.say(HOLE);
        top[board]
            .then
            .push(format!("bores of {hole} for drop pins go through; {words}"));
    }
}

/// A hole there keeps off the board's edges and its other holes.
fn has_room(b: &Board, x: f64, y: f64) -> bool {
    let wood = [x - EDGE, x, x + EDGE].into_iter().all(|x| {
        let all = b.shape.line(x);
        all.iter().any(|s| y - EDGE > s.0 && y + EDGE < s.1)
    });
    let vents = b
        .vents
        .iter()
        .all(|(p, wide)| (p[0] - x).hypot(p[1] - y) >= (wide + HOLE) / 2.0 + APART);
    let windows = b.windows.iter().all(|r| {
        let (x0, y0, x1, y1) = r.bounds();
        let off = HOLE / 2.0 + APART;
        x < x0 - off || x > x1 + off || y < y0 - off || y > y1 + off
    });
    wood && vents && windows
}
