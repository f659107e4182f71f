//! A piece as it wants to be held: what it weighs with what is in it, where it stands and leans.

use std::collections::{BTreeMap, BTreeSet};

use super::load::Load;
use super::point::{self, Place};
use crate::boards::BoardView;
use crate::furniture::built::{Built, FIXED, Vec3};
use crate::mechanics::load::centre;
use crate::project::Project;
use crate::project::held::HeldBy;
use crate::project::module::{Across, Module};
use crate::project::survey::Side;
use crate::solids::Solid;
use crate::units::figure::Writer;
use crate::weight::of_piece;

/// A piece that stands against a wall with no more than this between leans on it, mm (a choice).
const LEANS: f64 = 30.0;
/// A piece stands on the floor with boards that reach down this near to its lowest place, mm.
const FOOT: f64 = 5.0;
/// Screws into the floor stand no further apart than this, and whatever holds a foot so far off its ends, mm (choices).
const APART: f64 = 300.0;
const OFF_END: f64 = 40.0;
/// Places tried for one piece at most.
pub(super) const MOST: usize = 12;
/// At least two places hold a piece: on one it turns. One longer than this is held at its corners, mm (choices).
pub(super) const LEAST: usize = 2;
const LONG: f64 = 1000.0;

/// A piece before it is judged.
pub(super) struct Piece<'a> {
    pub module: &'a Module,
    pub solids: Vec<Solid<'a>>,
    density: BTreeMap<&'a str, f64>,
    pub load: Load,
    pub places: Vec<Place>,
}

pub(super) fn pieces<'a>(
    project: &'a Project,
    built: &'a BTreeMap<String, Built>,
    boards: &'a [BoardView],
    stowed: &[(&str, &str)],
) -> BTreeMap<&'a str, Piece<'a>> {
    let mut out = BTreeMap::new();
    for (id, b) in built {
        let Some(module) = project.modules.get(id) else {
            continue;
        };
        let all: Vec<Solid> = boards
            .iter()
            .filter(|v| v.module == *id)
            .map(|v| Solid::at(v, v.shut))
            .collect();
        let Some(own) = of_piece(boards, id) else {
            continue;
        };
        let low: Vec3 =
            std::array::from_fn(|k| all.iter().map(|s| s.low[k]).fold(f64::INFINITY, f64::min));
        let high: Vec3 = std::array::from_fn(|k| {
            all.iter()
                .map(|s| s.high[k])
                .fold(f64::NEG_INFINITY, f64::max)
        });
        let middle: Vec3 = std::array::from_fn(|k| (low[k] + high[k]) / 2.0);
        let gear = stowed.iter().filter(|(m, _)| m == id);
        let gear: f64 = gear.filter_map(|(_, g)| project.gear.get(*g)?.mass).sum();
        let Some(all_of_it) = centre(&[(own.mass, own.at), (gear, middle)]) else {
            continue;
        };
        let mut load = Load {
            mass: all_of_it.mass,
            at: all_of_it.at,
            low,
            high,
            walls: [false; 2],
        };
        let near = module.place.gap <= LEANS;
        let beside = module.place.beside.is_some();
        match module.place.across {
            Across::WallToWall => load = load.leaning(Side::Left).leaning(Side::Right),
            Across::LeftWall if near && !beside => load = load.leaning(Side::Left),
            Across::RightWall if near && !beside => load = load.leaning(Side::Right),
            _ => {}
        }
        let fixed = format!("{id}/{FIXED}");
        let density = b.boards.iter().map(|b| {
            let density = project.material(&b.material).map_or(0.0, |m| m.density);
            (b.id.as_str(), density)
        });
        out.insert(
            id.as_str(),
            Piece {
                module,
                density: density.collect(),
                solids: all.into_iter().filter(|s| s.board.body == fixed).collect(),
                load,
                places: vec![],
            },
        );
    }
    out
}

impl Piece<'_> {
    pub(super) fn density(&self, board: &Solid) -> f64 {
        let own = board.board.id.rsplit_once('/').map_or("", |b| b.1);
        self.density.get(own).copied().unwrap_or_default()
    }

    /// Where it could be screwed to the floor: along the boards on which it stands.
    pub(super) fn feet(&self, w: &Writer) -> Vec<Place> {
        let Some(depth) = self.module.held.floor else {
            return vec![];
        };
        let each = self.along_feet(APART).into_iter().map(|(s, at)| {
            let mut bought = vec![];
            let (words, bears, rank, seconds) =
                point::floor_screws((&s.board.mark, s.board.thickness), depth, &mut bought, w);
            Place {
                fixing: String::new(),
                name: "floor".into(),
                at,
                board: s.board.id.clone(),
                words,
                far: 0.0,
                bears,
                bought,
                bolt: None,
                rank,
                seconds,
            }
        });
        each.collect()
    }

    /// Places along the boards on which it stands, no further apart than that.
    pub(super) fn along_feet(&self, apart: f64) -> Vec<(&Solid<'_>, Vec3)> {
        let foot = |s: &&Solid| !s.board.bought && s.low[2] <= self.load.low[2] + FOOT;
        let mut out = Vec::new();
        for s in self.solids.iter().filter(foot) {
            let along = if s.high[0] - s.low[0] >= s.high[1] - s.low[1] {
                0
            } else {
                1
            };
            let length = s.high[along] - s.low[along] - 2.0 * OFF_END;
            if length < 0.0 {
                continue;
            }
            let n = (length / apart).ceil() as usize + 1;
            for i in 0..n.min(MOST) {
                let mut at: Vec3 = std::array::from_fn(|k| (s.low[k] + s.high[k]) / 2.0);
                at[along] = s.low[along] + OFF_END + length * i as f64 / (n - 1).max(1) as f64;
                at[2] = s.low[2];
                out.push((s, at));
            }
        }
        out
    }

    /// So many places at least.
    pub(super) fn least(&self) -> usize {
        let long = (0..2).any(|k| self.load.high[k] - self.load.low[k] > LONG);
        if long { 2 * LEAST } else { LEAST }
    }

    /// Each place holds what comes to it, and there are enough of them.
    pub(super) fn stands(&self, load: &Load, places: &[Place]) -> bool {
        let at: Vec<Vec3> = places.iter().map(|p| p.at).collect();
        places.len() >= self.least()
            && load
                .takes(&at)
                .iter()
                .zip(places)
                .all(|(n, p)| *n <= p.bears)
    }
}

/// What a piece has to hold: itself and what is screwed to it. Nothing where it hangs in a circle.
pub(super) fn carried(pieces: &BTreeMap<&str, Piece>, id: &str) -> Option<Load> {
    let mut load = pieces.get(id)?.load;
    let mut seen = BTreeSet::from([id]);
    let mut todo = vec![id];
    while let Some(host) = todo.pop() {
        for (other, p) in pieces {
            let held = &p.module.held;
            if held.by == HeldBy::Piece && held.to.as_deref() == Some(host) {
                if !seen.insert(other) {
                    return None;
                }
                load = load.with(&p.load);
                todo.push(other);
            }
        }
    }
    Some(load)
}
