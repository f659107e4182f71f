//! A new project: what is known before the first reading, which is only the kind of vehicle.

use std::collections::BTreeMap;

use super::deck::Deck;
use super::survey::{Cover, Form, Level, Side, Survey, Thing, ThingKind};
use super::{FORMAT, Headroom, Project, Units, VERSION, Vehicle, VehicleKind};
use crate::project::gear::Mattress;
use crate::project::stock::Cutting;

/// Heights at which walls are measured first, by kind: the floor, and about where a deck comes.
fn levels(kind: VehicleKind) -> &'static [(&'static str, f64, &'static str)] {
    match kind {
        VehicleKind::Boat => &[
            ("l1", 0.0, "cabin sole"),
            ("l2", 250.0, "250 up"),
            ("l3", 500.0, "500 up"),
        ],
        _ => &[
            ("l1", 0.0, "floor"),
            ("l2", 250.0, "250 up"),
            ("l3", 500.0, "500 up"),
        ],
    }
}

fn has_wells(kind: VehicleKind) -> bool {
    matches!(
        kind,
        VehicleKind::Van | VehicleKind::Estate | VehicleKind::Pickup
    )
}

impl Project {
    /// An empty project for a vehicle of that kind.
    pub fn start(name: &str, kind: VehicleKind, units: Units) -> Project {
        let mut survey = Survey::default();
        for (id, z, name) in levels(kind) {
            survey.levels.insert(
                (*id).into(),
                Level {
                    z: *z,
                    name: (*name).into(),
                    side: None,
                    ridge: false,
                },
            );
        }
        if has_wells(kind) {
            for (id, side, name) in [
                ("well_l", Side::Left, "left wheel well"),
                ("well_r", Side::Right, "right wheel well"),
            ] {
                survey.things.insert(
                    id.into(),
                    Thing {
                        kind: ThingKind::WheelWell,
                        side,
                        name: name.into(),
                        form: Form::Box,
                        ends: Default::default(),
                        heights: vec![],
                        clearance: 0.0,
                        sweep: 0.0,
                        cover: Cover::May,
                        slope: 0.0,
                    },
                );
            }
        }
        let mut modules = BTreeMap::new();
        modules.insert("deck".to_string(), Deck::default().module());
        Project {
            format: FORMAT.into(),
            version: VERSION,
            name: name.into(),
            vehicle: Vehicle {
                kind,
                note: String::new(),
            },
            units,
            survey,
            gear: BTreeMap::new(),
            people: BTreeMap::new(),
            mattress: Mattress::default(),
            headroom: Headroom::default(),
            candidates: BTreeMap::new(),
            modules,
            templates: BTreeMap::new(),
            transfers: BTreeMap::new(),
            fits: BTreeMap::new(),
            variants: BTreeMap::new(),
            states: super::states::usual(),
            stock: BTreeMap::new(),
            materials: BTreeMap::new(),
            cutting: Cutting::default(),
        }
    }
}
