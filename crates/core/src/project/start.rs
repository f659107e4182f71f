//! A new project: what is known before the first reading, which is only the kind of vehicle.

use std::collections::BTreeMap;

use super::deck::Deck;
use super::survey::{Cover, Form, Level, Side, Survey, Thing, ThingKind};
use super::{FORMAT, Headroom, Project, Units, VERSION, Vehicle, VehicleKind};
use crate::project::gear::Mattress;
use crate::project::stock::{Cutting, inch_board, inch_stock};
use crate::units::INCH;
use crate::units::figure::System;

/// Heights at which walls are measured first: the floor, and about where a deck comes; round numbers of the tape, mm.
fn levels(kind: VehicleKind, units: &Units) -> [(&'static str, f64, String); 3] {
    let floor = match kind {
        VehicleKind::Boat => "cabin sole",
        _ => "floor",
    };
    let [low, high] = match units.system {
        System::Mm => [250.0, 500.0],
        System::In => [10.0 * INCH, 20.0 * INCH],
    };
    let w = units.writer();
    let over = |z: f64| format!("{} over the {floor}", w.say(z));
    [
        ("l1", 0.0, floor.into()),
        ("l2", low, over(low)),
        ("l3", high, over(high)),
    ]
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
        for (id, z, name) in levels(kind, &units) {
            survey.levels.insert(
                id.into(),
                Level {
                    z,
                    name,
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
        let inches = units.system == System::In;
        let mut deck = Deck::default();
        if inches {
            deck.thickness = inch_board(deck.thickness);
            deck.supports.thickness = inch_board(deck.supports.thickness);
        }
        modules.insert("deck".to_string(), deck.module());
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
            stock: if inches {
                inch_stock()
            } else {
                BTreeMap::new()
            },
            materials: BTreeMap::new(),
            cutting: Cutting::default(),
        }
    }
}
