//! What holds a deck together: which of its boards touch, and how they are fastened.

use crate::furniture::built::{Board, Fasten, Joint, Vec3};
use crate::furniture::platform::Overhang;
use crate::furniture::platform::gaps::{around, top};
use crate::geometry::sawn::ALONG;

/// Boards that touch over less than this do not hold each other, mm.
const HOLDS: f64 = 10.0;
/// A board rests on an edge of at least so much, mm.
const RESTS: f64 = 3.0;
/// Supports nearer than this to each other are one line, mm: a frame and the strips on its faces.
const SAME_LINE: f64 = 60.0;
/// Faces nearer than this touch, mm.
const NEAR: f64 = 0.1;

/// Two boxes touch face to face.
fn touch(a: &(Vec3, Vec3), b: &(Vec3, Vec3)) -> bool {
    let overlap: Vec3 = std::array::from_fn(|k| a.1[k].min(b.1[k]) - a.0[k].max(b.0[k]));
    let Some(axis) = (0..3).find(|k| overlap[*k].abs() <= NEAR) else {
        return false;
    };
    let others = (0..3).filter(|k| *k != axis).map(|k| overlap[k]);
    let least = others.clone().fold(f64::INFINITY, f64::min);
    let most = others.fold(0.0, f64::max);
    least > NEAR && most >= HOLDS
}

/// A level board lies on a board on edge, over at least so much of its thickness.
fn lies(panel: &Board, on: &Board, around: &(Vec3, Vec3), least: f64) -> bool {
    let parts = top(on, around)
        .into_iter()
        .flat_map(|r| panel.shape.and(&r));
    // What is narrower than a saw can follow may be taken off yet.
    parts
        .map(|r| r.size())
        .any(|(w, h)| w.max(h) >= HOLDS && w.min(h) >= least)
}

/// On which lines across the bay a level board lies, mm in, from the rear: half an edge at a joint counts, though no screw holds
/// in it.
pub(super) fn supports(panel: &Board, boards: &[Board]) -> Vec<f64> {
    let own = around(panel);
    let carries = boards
        .iter()
        .filter(|b| fastened(panel, b, false).is_some());
    let carries = carries
        .map(|b| (b, around(b)))
        .filter(|(b, at)| touch(&own, at) && lies(panel, b, at, RESTS));
    // A ledger carries it from end to end.
    let mut lines: Vec<f64> = carries
        .flat_map(|(b, at)| match b.role {
            "ledger" => vec![at.0[0], at.1[0]],
            _ => vec![(at.0[0] + at.1[0]) / 2.0],
        })
        .collect();
    lines.sort_by(f64::total_cmp);
    lines.dedup_by(|a, b| (*a - *b).abs() < SAME_LINE);
    lines
}

/// How far a level board sticks out beyond what carries it, at the end where that is more.
pub(super) fn sticks_out(panel: &Board, lines: &[f64]) -> Overhang {
    let (low, high) = around(panel);
    let Some((first, last)) = lines.first().zip(lines.last()) else {
        return Overhang::default();
    };
    let rear = Overhang {
        by: first - low[0],
        past: *first,
        front: false,
    };
    let front = Overhang {
        by: high[0] - last,
        past: *last,
        front: true,
    };
    if front.by > rear.by { front } else { rear }
}

/// How two boards of a deck are fastened, by what they are; the first is screwed through.
fn fastened(a: &Board, b: &Board, loose: bool) -> Option<(Fasten, bool)> {
    let carries = ["frame", "rail", "ledger", "lip"].contains(&b.role);
    match (a.role, b.role) {
        ("panel" | "slat", _) if carries && loose => Some((Fasten::Lies, true)),
        // What is below has to be reached again: a deck is screwed, never glued.
        ("panel" | "slat", _) if carries => Some((Fasten::Butt, true)),
        ("leg", "rail") | ("rail", "ledger") => Some((Fasten::Pocket, false)),
        ("lip", "frame" | "rail") => Some((Fasten::Face, false)),
        _ => None,
    }
}

/// All joints of a deck's boards; those of a body that moves only lie on what carries them.
pub fn joints(boards: &[Board], fixed: &str) -> Vec<Joint> {
    let boxes: Vec<_> = boards.iter().map(around).collect();
    let mut out = Vec::new();
    for (i, a) in boards.iter().enumerate() {
        for (j, b) in boards.iter().enumerate() {
            let Some((how, apart)) = fastened(a, b, a.body != fixed) else {
                continue;
            };
            let level = matches!(a.role, "panel" | "slat");
            if touch(&boxes[i], &boxes[j]) && (!level || lies(a, b, &boxes[j], ALONG)) {
                let joint = Joint::new(how, a.id.clone(), b.id.clone());
                out.push(if apart { joint.apart() } else { joint });
            }
        }
    }
    out
}
