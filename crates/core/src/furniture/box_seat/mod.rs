//! A box with a lid to sit on: a box seat or a bench without bays, cut to the wall it stands against.

mod boards;
mod why;

use serde::{Deserialize, Serialize};
use serde_json::{Map, Value};
use utoipa::ToSchema;

use crate::furniture::Amount;
use crate::furniture::built::{Built, Claim};
use crate::furniture::cross::Cross;
use crate::furniture::form::{Form, choices, complete, schema};
use crate::furniture::free::Free;
use crate::furniture::kit::grip::Grip;
use crate::furniture::kit::hinges::Hinges;
use crate::furniture::kit::lid::Stay;
use crate::furniture::spot::{self};
use crate::furniture::{Field, Kind, Site, Wanted};
use crate::input::within;
use crate::problem::Problem;
use crate::project::Project;
use crate::project::check::{optional, sheet};
use crate::project::module::{Across, Module};
use boards::Work;

/// Least size, mm: length, depth, height.
const LEAST: [f64; 3] = [250.0, 200.0, 150.0];
/// A wall is followed by straight cuts that leave it by at most this, mm.
const PENCIL: f64 = 0.5;
/// How far beyond the straight line at a wall boards may follow it, mm.
const FOLLOW: f64 = 250.0;
/// A strip narrower than this is not worth cutting, mm.
const NARROW: f64 = 20.0;

/// The choices about a box seat.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct BoxSeat {
    /// Along the vehicle, mm.
    pub length: f64,
    /// From the wall inwards, mm.
    pub depth: f64,
    /// Height with the lid, mm.
    pub height: f64,
    /// Material identifier.
    pub material: String,
    /// Thickness of all boards, mm.
    pub thickness: f64,
    /// Boards that divide the room, evenly spaced.
    pub dividers: u32,
    /// The hinge lies so far forward of the wall, mm.
    pub hinge: f64,
    /// What the lid hangs on.
    pub hinges: Hinges,
    /// What holds the lid up.
    pub stay: Stay,
    /// By what the lid is lifted.
    pub grip: Grip,
    /// Clearance to walls, mm; from the readings and the finish if null.
    pub clearance: Option<f64>,
}

impl Default for BoxSeat {
    fn default() -> Self {
        BoxSeat {
            length: 700.0,
            depth: 420.0,
            height: 400.0,
            material: "birch-ply".into(),
            thickness: 15.0,
            dividers: 0,
            // At least 1 in forward of the wall, so that the lid can stand up (common practice, no source).
            hinge: 50.0,
            hinges: Hinges::Butt,
            stay: Stay::Prop,
            grip: Grip::Handle,
            clearance: None,
        }
    }
}

/// A box seat.
pub struct BoxSeatKind;

impl Kind for BoxSeatKind {
    fn name(&self) -> &'static str {
        "box_seat"
    }

    fn purpose(&self) -> &'static str {
        "To sit on, with room under its lid."
    }

    fn schema(&self) -> Value {
        schema::<BoxSeat>()
    }

    fn check(&self, project: &Project, module: &Module) -> Result<(), Problem> {
        let b: BoxSeat = choices(module)?;
        within(b.length, "/choices/length", LEAST[0], 4000.0)?;
        within(b.depth, "/choices/depth", LEAST[1], 2000.0)?;
        within(b.height, "/choices/height", LEAST[2], 1500.0)?;
        sheet(project, &b.material, "/choices/material")?;
        within(b.thickness, "/choices/thickness", 6.0, 30.0)?;
        within(f64::from(b.dividers), "/choices/dividers", 0.0, 10.0)?;
        within(b.hinge, "/choices/hinge", 0.0, b.depth / 2.0)?;
        optional(b.clearance, "/choices/clearance", 0.0, 200.0)?;
        let bay = (b.length - 2.0 * b.thickness) / f64::from(b.dividers + 1) - b.thickness;
        if bay < 40.0 {
            return Err(Problem::out_of_range(
                "/choices/dividers",
                "Between so many dividers nothing has room.",
                "fewer, or a longer box",
            ));
        }
        Ok(())
    }

    fn amount(&self, module: &Module) -> Amount {
        let b: BoxSeat = choices(module).unwrap_or_default();
        Amount::of(1, b.dividers, "/choices/dividers")
    }

    fn complete(&self, choices: &Map<String, Value>) -> Map<String, Value> {
        complete::<BoxSeat>(choices)
    }

    fn defaults(&self, site: &Site, wanted: &Wanted) -> Result<Module, Problem> {
        let usual = BoxSeat::default();
        let usual = [usual.length, usual.depth, usual.height];
        self.sized(site, wanted, ("box seat", usual))
    }
    fn form(&self, module: &Module, site: &Site) -> Vec<Field> {
        let b: BoxSeat = choices(module).unwrap_or_default();
        let f = Form::new(site, &b);
        let (along, against) = f.along(module, site);
        let mut out = vec![
            f.length("length", "Length", Some(b.length))
                .why("along the vehicle"),
            f.length("depth", "Depth", Some(b.depth))
                .why("from the wall inwards"),
            f.length("height", "Height", Some(b.height))
                .why("with the lid"),
        ];
        out.extend(along);
        out.extend([
            f.walls(module),
            f.count("dividers", "Dividers", Some(b.dividers)),
            f.length("hinge", "Hinge off the wall", Some(b.hinge))
                .why("far enough that the lid stands up"),
            f.choice("hinges", "Lid hangs on", &Hinges::LIDS),
            f.choice("stay", "Held up by", &Stay::WORDS),
            f.choice("grip", "Lid lifted by", &Grip::WORDS),
            f.material("material", "Board", &b.material),
            f.length("thickness", "Thickness", Some(b.thickness)),
            f.on(module, site),
            f.beside(module, site),
            against,
            f.place("gap", "Off the wall", module.place.gap),
            f.length("clearance", "Clearance", b.clearance)
                .empty("from readings"),
            f.finish(module),
        ]);
        out.extend(f.covers(module));
        out
    }

    fn claim(&self, module: &Module, site: &Site) -> Option<Claim> {
        let b: BoxSeat = choices(module).ok()?;
        let cross = cross(site, &b, module);
        let spot = spot::at(
            site,
            &cross,
            &module.place,
            [b.length, b.depth, b.height],
            FOLLOW,
        )?;
        Some(spot.claim())
    }

    fn work(&self, module: &Module, site: &Site) -> Option<Built> {
        let b: BoxSeat = choices(module).ok()?;
        let cross = cross(site, &b, module);
        let spot = spot::at(
            site,
            &cross,
            &module.place,
            [b.length, b.depth, b.height],
            FOLLOW,
        )?;
        Work {
            cross: &cross,
            spot,
            name: module.called(),
            site,
            b: &b,
        }
        .built()
    }
}

impl BoxSeatKind {
    /// One of that length, depth and height, or less, where it finds a place.
    ///
    /// # Errors
    /// There is no room for it.
    pub(super) fn sized(
        &self,
        site: &Site,
        wanted: &Wanted,
        (called, usual): (&str, [f64; 3]),
    ) -> Result<Module, Problem> {
        let module = wanted.module(self.name(), &BoxSeat::of(usual));
        self.check(site.project, &module)?;
        let mut b: BoxSeat = choices(&module)?;
        let free = Free::new(site, b.clearance, module.finish).covered(module.covers);
        let set = ["length", "depth", "height"].map(|f| wanted.choices.contains_key(f));
        let least = [LEAST[0], LEAST[1].max(2.0 * b.hinge), LEAST[2]];
        // No higher than the walls were read, where that is enough.
        let read = site.model.highest().filter(|_| !set[2]);
        let read = read.map_or(f64::INFINITY, |r| (r - module.place.up).max(LEAST[2]));
        let sizes = spot::sizes([b.length, b.depth, b.height.min(read)], least, set, &site.w);
        let across = [Across::LeftWall, Across::RightWall, Across::Centred];
        let clearance = b.clearance;
        let at = |height: f64| {
            let middle = module.place.up + height / 2.0;
            Cross::new(site, clearance, module.finish, middle).covered(module.covers)
        };
        let found = spot::find(
            site,
            (&at, &free),
            &sizes,
            &across,
            &module.place,
            (&wanted.fixed(), FOLLOW),
            &|_, spot| spot::in_nobodys_way(site, spot),
        );
        let (place, [length, depth, height]) = found.ok_or_else(|| spot::nowhere(called))?;
        (b.length, b.depth, b.height) = (length, depth, height);
        Ok(Module { place, ..module }.with(&b))
    }
}

fn cross<'a>(site: &'a Site<'a>, b: &BoxSeat, module: &Module) -> Cross<'a> {
    let middle = module.place.up + b.height / 2.0;
    Cross::new(site, b.clearance, module.finish, middle).covered(module.covers)
}
