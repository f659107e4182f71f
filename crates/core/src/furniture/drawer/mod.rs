//! A drawer in a carcass of its own.

mod boards;

use serde::{Deserialize, Serialize};
use serde_json::{Map, Value as Json};
use utoipa::ToSchema;

use crate::furniture::built::{Built, Claim};
use crate::furniture::cross::Cross;
use crate::furniture::form::{Form, choices, complete, schema};
use crate::furniture::free::Free;
use crate::furniture::kit::drawer_box::{BottomJoint, Face, FaceKind, Making, Run};
use crate::furniture::spot::{self};
use crate::furniture::{Field, Kind, Site, Wanted};
use crate::geometry::region::Region;
use crate::input::within;
use crate::problem::Problem;
use crate::project::Project;
use crate::project::check::{known, optional};
use crate::project::module::{Across, Module};
use crate::units::value::Value;
use boards::{Frame, Work};

/// Least size of the carcass, mm: width, depth, height.
const LEAST: [f64; 3] = [200.0, 250.0, 110.0];
/// Below a groove so much of the side is left, mm (a choice).
const LIP: f64 = 8.0;
/// Of a drawer on strips or wood so much stays in the carcass, mm (a choice).
const STAYS: f64 = 120.0;

/// To which side a drawer opens.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Opens {
    /// Towards the rear.
    #[default]
    Rear,
    /// To the left.
    Left,
    /// To the right.
    Right,
}

/// The choices about a drawer.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Drawer {
    /// Width of the carcass, square to the way it opens, mm.
    pub width: f64,
    /// Its depth along the way it opens, with the face, mm.
    pub depth: f64,
    /// Its height, mm.
    pub height: f64,
    /// To which side it opens.
    pub opens: Opens,
    /// Material identifier of the carcass and the box.
    pub material: String,
    /// Thickness of the carcass and of the face, mm.
    pub thickness: f64,
    /// Thickness of the box's sides, front and back, mm.
    pub sides: f64,
    /// Thickness of its bottom, mm.
    pub bottom: f64,
    /// On what it runs.
    pub motion: Run,
    /// How its bottom is held.
    pub joint: BottomJoint,
    /// How the face covers the opening.
    pub face: FaceKind,
    /// What one slide takes of the width, mm.
    pub slide_width: f64,
    /// Clearance to walls and wells, mm; from the readings and the finish if null.
    pub clearance: Option<f64>,
}

impl Default for Drawer {
    fn default() -> Self {
        Drawer {
            width: 450.0,
            depth: 600.0,
            height: 200.0,
            opens: Opens::Rear,
            material: "birch-ply".into(),
            thickness: 15.0,
            sides: 12.0,
            bottom: 9.0,
            motion: Run::SideSlides,
            joint: BottomJoint::GrooveBox,
            face: FaceKind::Overlay,
            slide_width: 12.7,
            clearance: None,
        }
    }
}

impl Drawer {
    /// Along, across, up in the vehicle.
    fn size(&self) -> [f64; 3] {
        match self.opens {
            Opens::Rear => [self.depth, self.width, self.height],
            Opens::Left | Opens::Right => [self.width, self.depth, self.height],
        }
    }

    fn set_size(&mut self, [x, y, z]: [f64; 3]) {
        (self.width, self.depth) = match self.opens {
            Opens::Rear => (y, x),
            Opens::Left | Opens::Right => (x, y),
        };
        self.height = z;
    }

    /// What it is made from, for the module at the pointer `at`.
    fn making(&self, at: &str, finish: f64) -> Making {
        let choice = |field: &str, label: &str, mm| {
            Value::choice(format!("{at}/choices/{field}"), label, mm)
        };
        let sizes = Sizes::new(self, at);
        let t = &sizes.board;
        let [width, depth, height] = &sizes.outside;
        let sides = choice("sides", "side of the box", self.sides);
        let groove = (&sides * 0.5).named("half a side");
        let deepest = Value::rule("drawer/groove", "groove", 5.0);
        // The face ends 2 mm inside the carcass: neighbours pass.
        let rim = t - Value::rule("drawer/rim", "rim left free", 2.0);
        let least = Value::rule("drawer/least-overlap", "overlap", 1.0);
        let gap = Value::rule("drawer/gap", "gap", 2.0);
        Making {
            opening: [
                (width - t * 2.0).named("width of the opening"),
                (height - t * 2.0).named("height of the opening"),
                (depth - &sizes.before - t.clone().named("back of the carcass"))
                    .named("depth of the opening"),
            ],
            motion: self.motion,
            slide_width: choice("slide_width", "slide", self.slide_width),
            strip: Value::rule("drawer/strip", "strip below it", 6.0),
            gap: gap.clone(),
            back_gap: Value::rule("drawer/back-gap", "air behind", 10.0),
            sides,
            bottom: choice("bottom", "bottom", self.bottom),
            joint: self.joint,
            groove: if groove.mm < deepest.mm {
                groove
            } else {
                deepest
            },
            face: Some(Face {
                kind: self.face,
                overlap: rim.max(least).named("over the rim"),
                gap,
                thickness: t.clone().named("face"),
            }),
            above: Value::zero(),
            finish: Value::choice(format!("{at}/finish"), "finish on a face", finish),
        }
    }
}

/// The carcass's own lengths.
struct Sizes {
    /// Width, depth, height.
    outside: [Value; 3],
    /// Thickness of its boards.
    board: Value,
    /// What stands before it: the face, or nothing.
    before: Value,
}

impl Sizes {
    fn new(d: &Drawer, at: &str) -> Sizes {
        let choice = |field: &str, label: &str, mm| {
            Value::choice(format!("{at}/choices/{field}"), label, mm)
        };
        let board = choice("thickness", "board", d.thickness);
        Sizes {
            outside: [
                choice("width", "width", d.width),
                choice("depth", "depth", d.depth),
                choice("height", "height", d.height),
            ],
            before: match d.face {
                FaceKind::Overlay => board.clone().named("face before it"),
                FaceKind::Inset => Value::zero(),
            },
            board,
        }
    }
}

/// A drawer.
pub struct DrawerKind;

impl Kind for DrawerKind {
    fn name(&self) -> &'static str {
        "drawer"
    }

    fn purpose(&self) -> &'static str {
        "For what you want to pull out without lifting anything."
    }

    fn schema(&self) -> Json {
        schema::<Drawer>()
    }

    fn check(&self, project: &Project, module: &Module) -> Result<(), Problem> {
        let d: Drawer = choices(module)?;
        within(d.width, "/choices/width", LEAST[0], 3000.0)?;
        within(d.depth, "/choices/depth", LEAST[1], 3000.0)?;
        within(d.height, "/choices/height", LEAST[2], 1500.0)?;
        known(project, &d.material, "/choices/material")?;
        within(d.thickness, "/choices/thickness", 6.0, 30.0)?;
        within(d.sides, "/choices/sides", 6.0, 25.0)?;
        within(d.bottom, "/choices/bottom", 3.0, 18.0)?;
        within(d.slide_width, "/choices/slide_width", 5.0, 40.0)?;
        optional(d.clearance, "/choices/clearance", 0.0, 200.0)?;
        let inside = d.making("", module.finish).inside();
        for (v, at) in inside.iter().zip(["width", "height", "depth"]) {
            if v.mm < 20.0 {
                return Err(Problem::impossible(
                    format!("/choices/{at}"),
                    "Nothing is left inside the drawer.",
                ));
            }
        }
        Ok(())
    }

    fn complete(&self, choices: &Map<String, Json>) -> Map<String, Json> {
        complete::<Drawer>(choices)
    }

    fn defaults(&self, site: &Site, wanted: &Wanted) -> Result<Module, Problem> {
        let module = wanted.module(self.name(), &Drawer::default());
        self.check(site.project, &module)?;
        let mut d: Drawer = choices(&module)?;
        let free = Free::new(site, d.clearance, module.finish);
        let set = |field: &str| wanted.choices.contains_key(field);
        let (width, depth) = (set("width"), set("depth"));
        let set = match d.opens {
            Opens::Rear => [depth, width, set("height")],
            _ => [width, depth, set("height")],
        };
        let [w, dp, h] = LEAST;
        let least = match d.opens {
            Opens::Rear => [dp, w, h],
            _ => [w, dp, h],
        };
        let across = match d.opens {
            Opens::Rear => vec![Across::LeftWall, Across::RightWall, Across::Centred],
            Opens::Left => vec![Across::RightWall, Across::Centred],
            Opens::Right => vec![Across::LeftWall, Across::Centred],
        };
        let sizes = spot::sizes(d.size(), least, set);
        let fixed = wanted.fixed();
        let found = spot::find(
            site,
            (&cross(site, &d, &module), &free),
            &sizes,
            &across,
            &module.place,
            (&fixed, 0.0),
        );
        let (place, size) = found.ok_or_else(|| {
            Problem::impossible("/place", "There is no free place for a drawer here.")
        })?;
        d.set_size(size);
        Ok(Module { place, ..module }.with(&d))
    }

    fn form(&self, module: &Module, site: &Site) -> Vec<Field> {
        let d: Drawer = choices(module).unwrap_or_default();
        let f = Form::new(site, &d);
        let [from, along] = f.along(module, site);
        vec![
            f.choice(
                "opens",
                "Opens",
                &[
                    ("rear", "to the rear"),
                    ("left", "to the left"),
                    ("right", "to the right"),
                ],
            ),
            f.length("width", "Width", Some(d.width))
                .why("of the carcass, square to the way it opens"),
            f.length("depth", "Depth", Some(d.depth))
                .why("along the way it opens, with the face"),
            f.length("height", "Height", Some(d.height)),
            from,
            along,
            f.across(
                module,
                &[
                    ("left_wall", "at the left wall"),
                    ("right_wall", "at the right wall"),
                    ("centred", "in the middle"),
                ],
            ),
            f.choice(
                "motion",
                "Runs on",
                &[
                    ("side_slides", "slides at its sides"),
                    ("locking_slides", "slides that lock"),
                    ("strips", "slippery strips"),
                    ("bare", "wood, waxed"),
                ],
            ),
            f.choice(
                "joint",
                "Bottom",
                &[
                    ("groove_box", "in grooves"),
                    ("pocket", "under the sides"),
                    ("rabbet", "in rabbets"),
                ],
            ),
            f.choice(
                "face",
                "Face",
                &[
                    ("overlay", "before the opening"),
                    ("inset", "in the opening"),
                ],
            ),
            f.material("material", "Board", &d.material),
            f.length("thickness", "Carcass and face", Some(d.thickness)),
            f.length("sides", "Sides of the box", Some(d.sides)),
            f.length("bottom", "Its bottom", Some(d.bottom)),
            f.on(module, site),
            f.place("gap", "Off the wall", module.place.gap),
            f.length("clearance", "Clearance", d.clearance)
                .empty("from readings"),
        ]
    }

    fn claim(&self, module: &Module, site: &Site) -> Option<Claim> {
        let d: Drawer = choices(module).ok()?;
        let cross = cross(site, &d, module);
        /// Beyond any vehicle, mm.
        const FAR: f64 = 1e5;
        let mut claim = spot::at(site, &cross, &module.place, d.size(), 0.0)?.claim();
        let (x0, y0, x1, y1) = claim.plan.bounds();
        claim.keeps.push(match d.opens {
            Opens::Rear => Region::rectangle(-FAR, y0, x0, y1),
            Opens::Left => Region::rectangle(x0, y1, x1, FAR),
            Opens::Right => Region::rectangle(x0, -FAR, x1, y0),
        });
        Some(claim)
    }

    fn work(&self, module: &Module, site: &Site) -> Option<Built> {
        let d: Drawer = choices(module).ok()?;
        let spot = spot::at(site, &cross(site, &d, module), &module.place, d.size(), 0.0)?;
        Some(
            Work {
                frame: Frame::new(&spot, d.opens),
                making: d.making(&site.pointer(), module.finish),
                sizes: Sizes::new(&d, &site.pointer()),
                name: module.called(),
                site,
                d: &d,
            }
            .built(),
        )
    }
}

fn cross<'a>(site: &'a Site<'a>, d: &Drawer, module: &Module) -> Cross<'a> {
    let middle = module.place.up + d.height / 2.0;
    Cross::new(site, d.clearance, module.finish, middle)
}
