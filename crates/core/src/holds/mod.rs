//! What holds each piece to the vehicle, with bolts and screws by length, and whether that stands braking and turning.

mod bored;
mod fasten;
mod load;
mod out;
mod piece;
mod point;
mod strips;
mod told;

use std::collections::BTreeMap;

use serde::Serialize;
use utoipa::ToSchema;

use crate::boards::BoardView;
use crate::furniture::Field;
use crate::furniture::built::{Built, Vec3};
use crate::joints::{Bill, Bored, JointView};
use crate::project::{Project, VehicleKind};
use crate::protocol::Ask;
use fasten::{fasten, hosts_of, screws_between, size_between};
use piece::pieces;
use told::{asks, view};

pub use load::Load;
pub use out::{OutStep, TakingOut};
pub use point::{BESIDE, Place, thread};

/// How a piece is held.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HoldView {
    /// The module.
    pub module: String,
    /// What it is called.
    pub name: String,
    /// The choices.
    pub form: Vec<Field>,
    /// What it weighs with what is in it and what is screwed to it.
    pub weighs: String,
    /// What pulls it forward when braking hard.
    pub forward: String,
    /// What pulls it to a side in a bend.
    pub side: String,
    /// Where it is held.
    pub points: Vec<HoldPoint>,
    /// Whether that is enough, in a sentence.
    pub words: String,
    /// It is.
    pub holds: bool,
    /// Nothing is noted that could hold it.
    pub nothing: bool,
}

/// A place at which a piece is held.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HoldPoint {
    /// What it is called.
    pub name: String,
    /// Where, in the vehicle.
    #[schema(value_type = Vec<f64>)]
    pub at: Vec3,
    /// `module/board`.
    pub board: String,
    /// What is done there.
    pub words: String,
    /// What it has to hold, and what it is counted for.
    pub takes: String,
    /// It holds that.
    pub enough: bool,
}

/// All pieces, and what follows.
#[derive(Debug, Default)]
pub struct Holds {
    /// By piece, in the order of modules.
    pub pieces: Vec<HoldView>,
    /// In which order they come out again.
    pub out: TakingOut,
    /// Numbers that are missing.
    pub asks: Vec<Ask>,
    /// Of a piece that is not held: pieces that it touches and that would hold both, module and name.
    pub hosts: BTreeMap<String, Vec<(String, String)>>,
    /// Holes in boards for bolts to the vehicle.
    pub bored: Vec<Bored>,
}

/// Works out how everything is held. `stowed` says what lies in which piece; what is bought goes on the bill.
pub fn holds(
    project: &Project,
    built: &BTreeMap<String, Built>,
    boards: &[BoardView],
    joints: &[JointView],
    stowed: &[(&str, &str)],
    bill: &mut Bill,
) -> Holds {
    let w = project.writer();
    let mut pieces = pieces(project, built, boards, stowed);
    // The accelerations are those of the road.
    if project.vehicle.kind == VehicleKind::Boat {
        return Holds {
            out: out::order(&pieces, joints, stowed),
            ..Holds::default()
        };
    }
    fasten(project, &mut pieces, &w);
    let views: Vec<HoldView> = pieces
        .keys()
        .map(|id| view(project, &pieces, id, &w))
        .collect();
    for (id, p) in &pieces {
        for bought in p.places.iter().flat_map(|p| &p.bought) {
            let (what, size, n) = (bought.0, bought.1.clone(), bought.2);
            match point::is_screw(what) {
                true => bill.screws(what, size, n, &p.module.called()),
                false => bill.buy(what, size, n, &p.module.called()),
            }
        }
        let joined = screws_between(&pieces, id);
        if joined > 0 {
            bill.screws(
                "wood screw, countersunk",
                size_between(&w),
                joined,
                &p.module.called(),
            );
        }
    }
    let hosts = views.iter().filter(|v| !v.holds);
    let hosts = hosts.map(|v| (v.module.clone(), hosts_of(&pieces, &views, &v.module)));
    let bored = pieces
        .values()
        .flat_map(|p| p.places.iter().map(|o| bored::bored(o, &p.solids)));
    Holds {
        bored: bored.flatten().collect(),
        hosts: hosts.collect(),
        out: out::order(&pieces, joints, stowed),
        asks: asks(project, &pieces),
        pieces: views,
    }
}
