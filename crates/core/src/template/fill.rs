//! The panel that fills the bay at a height: the bay as measured, less what stands there. One rule for
//! every board: an edge lies at `wall - clearance - 0.7 sd(edge)`, with that edge's own doubt. A panel a
//! little small is filled with a strip; one a little big does not go in.

use super::outline::free_panel;
use crate::geometry::labelled::{Label, Labelled, Rank};
use crate::geometry::region::Region;
use crate::survey::model::Model;

/// How many local standard deviations edges lean to the small side (a choice: with it about one
/// edge in four is on the big side of the true line, one in three hundred by two deviations more).
pub const LEAN: f64 = 0.7;
/// Clearance is this many standard deviations of the readings behind an edge, beside the lean to the small
/// side that every board has: three in all.
pub const SIGMAS: f64 = 3.0;
/// The share of them that is clearance.
pub const CLEAR: f64 = SIGMAS - LEAN;
/// Below this a thing's foot is the floor, mm.
pub const FOOT: f64 = 1.0;

/// A filled bay.
#[derive(Debug, Clone, PartialEq)]
pub struct Filled {
    /// The panels, largest first.
    pub panels: Vec<Region>,
    /// Largest standard deviation along the edges, mm.
    pub sd_max: f64,
    /// Standard deviations by which edges lean to the small side.
    pub lean: f64,
    /// The height was not surveyed.
    pub beyond: bool,
}

/// Fills the bay at `height` with `clearance` all round. `None` while the bay is not known.
pub fn fill(model: &Model, height: f64, clearance: f64) -> Option<Filled> {
    fill_with(model, height, clearance, &|sd| LEAN * sd)
}

/// The same, edges held off their walls by what their own doubt asks for beside the clearance.
pub fn fill_with(
    model: &Model,
    height: f64,
    clearance: f64,
    held_off: &dyn Fn(f64) -> f64,
) -> Option<Filled> {
    let bay = model.bay_held_off(height, Some(held_off))?;
    let mut sd_max = bay.sd;
    let mut things = Vec::new();
    let mut own = Vec::new();
    for o in model.things() {
        // What stands on the floor stands in its dips too.
        if o.z.0 > height.max(FOOT) || o.up_to() < height {
            continue;
        }
        sd_max = sd_max.max(o.sd);
        let plan = o.between(height, height);
        things.push(Labelled::new(&plan, Label::thing(own.len())));
        own.push(clearance + held_off(o.sd) + o.extra);
    }
    let off = |label: Label| match label.rank {
        Rank::Thing => own[label.number as usize],
        _ => clearance,
    };
    let (panels, _) = free_panel(&bay.safe, &things, &off);
    let panels = panels.iter().map(Labelled::region).collect();
    Some(Filled {
        panels,
        sd_max,
        lean: LEAN,
        beyond: model.is_beyond(height),
    })
}
