//! A side locker: what is left beside a bed, under a lid. It is a box seat that is narrow, stands on the deck and
//! follows the wall.

use serde_json::{Map, Value};

use super::box_seat::{BoxSeat, BoxSeatKind};
use super::built::{Built, Claim};
use super::{Field, Kind, Site, Wanted};
use crate::furniture::Amount;
use crate::problem::Problem;
use crate::project::Project;
use crate::project::deck::DECK;
use crate::project::module::Module;

/// What is left beside a mattress of 60 in in a van is about 8 in (common practice, no source), mm.
const DEPTH: f64 = 203.0;
/// Its usual size, mm: along, up, the hinge off the wall; and its boards: 1/2 in.
const LENGTH: f64 = 1200.0;
const HEIGHT: f64 = 220.0;
const HINGE: f64 = 40.0;
const BOARD: f64 = 12.0;

/// A side locker.
pub struct LockerKind;

impl Kind for LockerKind {
    fn name(&self) -> &'static str {
        "locker"
    }

    fn purpose(&self) -> &'static str {
        "For clothes and books beside the bed."
    }

    fn schema(&self) -> Value {
        BoxSeatKind.schema()
    }

    fn check(&self, project: &Project, module: &Module) -> Result<(), Problem> {
        BoxSeatKind.check(project, module)
    }

    fn complete(&self, choices: &Map<String, Value>) -> Map<String, Value> {
        BoxSeatKind.complete(choices)
    }

    fn defaults(&self, site: &Site, wanted: &Wanted) -> Result<Module, Problem> {
        let said = |field: &str| wanted.choices.contains_key(field);
        let mut with = wanted.clone();
        let mut set = |field: &str, mm: f64| {
            if !said(field) {
                with.choices.insert(field.into(), mm.into());
            }
        };
        set("hinge", HINGE);
        set("thickness", BOARD);
        // Beside a bed, if there is one and nothing else was said.
        let bed = site
            .project
            .modules
            .iter()
            .find(|(_, m)| m.kind == DECK)
            .and_then(|(id, _)| Some((id.clone(), site.claims.get(id)?.z.1)))
            .filter(|_| wanted.up.is_none());
        if let Some((_, top)) = &bed {
            with.up = Some(*top);
        }
        let placed = BoxSeatKind.sized(site, &with, ("locker", [LENGTH, DEPTH, HEIGHT]));
        let (module, on) = match (placed, bed) {
            (Ok(module), bed) => (module, bed),
            // On the floor where there is no room over the bed.
            (Err(_), Some(_)) => {
                with.up = Some(0.0);
                (
                    BoxSeatKind.sized(site, &with, ("locker", [LENGTH, DEPTH, HEIGHT]))?,
                    None,
                )
            }
            (Err(problem), None) => return Err(problem),
        };
        let mut module = Module {
            kind: self.name().into(),
            ..module
        };
        if let Some((id, _)) = on {
            module.place.on = Some(id);
            module.place.up = 0.0;
        }
        Ok(module)
    }

    fn amount(&self, module: &Module) -> Amount {
        BoxSeatKind.amount(module)
    }

    fn form(&self, module: &Module, site: &Site) -> Vec<Field> {
        BoxSeatKind.form(module, site)
    }

    fn claim(&self, module: &Module, site: &Site) -> Option<Claim> {
        BoxSeatKind.claim(module, site)
    }

    fn work(&self, module: &Module, site: &Site) -> Option<Built> {
        BoxSeatKind.work(module, site)
    }
}

impl BoxSeat {
    /// Of a size: length, depth, height.
    pub(super) fn of(size: [f64; 3]) -> BoxSeat {
        let [length, depth, height] = size;
        BoxSeat {
            length,
            depth,
            height,
            ..BoxSeat::default()
        }
    }
}
