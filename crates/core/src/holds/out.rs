//! In which order everything comes out again, and how long that takes.

use std::collections::{BTreeMap, BTreeSet};

use serde::Serialize;
use utoipa::ToSchema;

use super::fasten::screws_between;
use super::piece::Piece;
use crate::joints::JointView;
use crate::project::held::HeldBy;
use crate::solids::TOUCH;

/// Seconds (choices): to carry out what stays together, to take a thing out of it, to undo a screw.
const CARRY: u32 = 40;
const THING: u32 = 10;
const SCREW: u32 = 5;
/// What is out by then is quick, minutes.
const QUICK: f64 = 10.0;

/// Everything out of the vehicle.
#[derive(Debug, Clone, Default, PartialEq, Serialize, ToSchema)]
pub struct TakingOut {
    /// One after the other.
    pub steps: Vec<OutStep>,
    /// In a sentence.
    pub words: String,
}

/// A piece that comes out.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct OutStep {
    /// The module.
    pub module: String,
    /// What is done.
    pub words: String,
    /// When it is out, minutes from the start.
    pub at: f64,
}

/// What stands on a piece, lies over it or hangs on it comes first, then what is nearest to the rear.
pub(super) fn order(
    pieces: &BTreeMap<&str, Piece>,
    joints: &[JointView],
    stowed: &[(&str, &str)],
) -> TakingOut {
    let mut left: Vec<&str> = pieces.keys().copied().collect();
    left.sort_by(|a, b| pieces[a].load.low[0].total_cmp(&pieces[b].load.low[0]));
    let mut steps = Vec::new();
    let mut seconds = 0;
    while !left.is_empty() {
        let free = |id: &&str| {
            left.iter()
                .all(|other| other == id || !blocks(pieces, other, id))
        };
        // Two that lie over each other: the nearer one first, with a hand on the other.
        let next = left.iter().position(free).unwrap_or(0);
        let id = left.remove(next);
        let p = &pieces[id];
        let things = stowed.iter().filter(|(m, _)| *m == id).count() as u32;
        let places = p.places.len() as u32;
        let (lumps, loose) = lumps(p, id, joints);
        let screws = screws_between(pieces, id) + loose;
        seconds += lumps * CARRY + things * THING + screws * SCREW;
        seconds += p.places.iter().map(|p| p.seconds).sum::<u32>();
        let mut words = Vec::new();
        if things > 0 {
            words.push(if things == 1 {
                "1 thing out".into()
            } else {
                format!("{things} things out")
            });
        }
        for (n, one, many) in [
            (places, "1 fixing undone", "fixings undone"),
            (screws, "1 screw undone", "screws undone"),
        ] {
            match n {
                0 => {}
                1 => words.push(one.into()),
                n => words.push(format!("{n} {many}")),
            }
        }
        words.push(match lumps {
            1 => "carried out".into(),
            n => format!("carried out in {n} parts"),
        });
        let name = p.module.called();
        steps.push(OutStep {
            module: id.into(),
            words: format!("{name}: {}.", words.join(", ")),
            at: f64::from(seconds) / 60.0,
        });
    }
    let quick = steps.iter().filter(|s| s.at <= QUICK).count();
    let all = steps.len();
    let minutes = steps.last().map_or(0.0, |s| s.at).ceil();
    let words = if all == 0 {
        String::new()
    } else if quick == all {
        format!("All of it is out in about {minutes:.0} minutes.")
    } else {
        let are = if quick == 1 { "is" } else { "are" };
        format!(
            "{quick} of {all} pieces {are} out in ten minutes, all of them in about {minutes:.0}."
        )
    };
    TakingOut { steps, words }
}

/// What of a piece is glued together, how many such lumps there are, and the screws between them.
fn lumps(p: &Piece, id: &str, joints: &[JointView]) -> (u32, u32) {
    let mut lump: BTreeMap<&str, usize> = BTreeMap::new();
    for (i, s) in p.solids.iter().enumerate() {
        lump.insert(&s.board.id, i);
    }
    let own = |j: &&JointView| j.a.starts_with(&format!("{id}/"));
    for j in joints.iter().filter(own).filter(|j| !j.apart) {
        if let (Some(a), Some(b)) = (
            lump.get(j.a.as_str()).copied(),
            lump.get(j.b.as_str()).copied(),
        ) {
            for l in lump.values_mut().filter(|l| **l == b) {
                *l = a;
            }
        }
    }
    let count = lump.values().collect::<BTreeSet<_>>().len().max(1) as u32;
    let between = |j: &&JointView| {
        let (a, b) = (lump.get(j.a.as_str()), lump.get(j.b.as_str()));
        j.apart && a.is_some() && b.is_some() && a != b
    };
    let screws = joints
        .iter()
        .filter(own)
        .filter(between)
        .map(|j| j.screws)
        .sum();
    (count, screws)
}

/// `a` has to be out before `b`.
fn blocks(pieces: &BTreeMap<&str, Piece>, a: &str, b: &str) -> bool {
    let (Some(p), Some(q)) = (pieces.get(a), pieces.get(b)) else {
        return false;
    };
    let held = &p.module.held;
    if p.module.place.on.as_deref() == Some(b)
        || (held.by == HeldBy::Piece && held.to.as_deref() == Some(b))
    {
        return true;
    }
    p.solids.iter().any(|s| {
        q.solids.iter().any(|t| {
            s.low[2] >= t.high[2] - TOUCH
                && (0..2).all(|k| s.low[k] + TOUCH < t.high[k] && t.low[k] + TOUCH < s.high[k])
        })
    })
}
