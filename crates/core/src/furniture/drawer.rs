//! A drawer in a carcass of its own.

use serde::{Deserialize, Serialize};
use serde_json::{Map, Value};
use utoipa::ToSchema;

use super::built::{
    Board, Body, Built, Claim, Ease, FIXED, Face as BoardFace, Motion, Pocket, Pose, Room,
};
use super::cross::Cross;
use super::form::{Form, choices, complete, schema};
use super::free::Free;
use super::kit::drawer_box::{BottomJoint, Face, FaceKind, Making, Run};
use super::spot::{self, Spot};
use super::way::Way;
use super::{Field, Kind, Site, Wanted};
use crate::geometry::region::Region;
use crate::input::within;
use crate::mechanics::material::PartGrain;
use crate::problem::Problem;
use crate::project::Project;
use crate::project::check::{known, optional};
use crate::project::module::{Across, Module};
use crate::units::figure::Why;

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

    fn making(&self, finish: f64) -> Making {
        let t = self.thickness;
        let before = if self.face == FaceKind::Overlay {
            t
        } else {
            0.0
        };
        Making {
            opening: [
                self.width - 2.0 * t,
                self.height - 2.0 * t,
                self.depth - before - t,
            ],
            motion: self.motion,
            slide_width: self.slide_width,
            strip: 6.0,
            gap: 2.0,
            back_gap: 10.0,
            sides: self.sides,
            bottom: self.bottom,
            joint: self.joint,
            groove: (self.sides / 2.0).min(5.0),
            face: Some(Face {
                kind: self.face,
                // The face ends 2 mm inside the carcass: neighbours pass.
                overlap: (t - 2.0).max(1.0),
                gap: 2.0,
                thickness: t,
            }),
            above: 0.0,
            finish,
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

    fn schema(&self) -> Value {
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
        let inside = d.making(module.finish).inside();
        for (v, at) in inside.iter().zip(["width", "height", "depth"]) {
            if *v < 20.0 {
                return Err(Problem::impossible(
                    format!("/choices/{at}"),
                    "Nothing is left inside the drawer.",
                ));
            }
        }
        Ok(())
    }

    fn complete(&self, choices: &Map<String, Value>) -> Map<String, Value> {
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
            f.place("along", "From the threshold", module.place.along),
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
            f.place("gap", "Off the wall", module.place.gap),
            f.length("clearance", "Clearance", d.clearance)
                .empty("from readings"),
        ]
    }

    fn claim(&self, module: &Module, site: &Site) -> Option<Claim> {
        let d: Drawer = choices(module).ok()?;
        let cross = cross(site, &d, module);
        Some(spot::at(site, &cross, &module.place, d.size(), 0.0)?.claim())
    }

    fn work(&self, module: &Module, site: &Site) -> Option<Built> {
        let d: Drawer = choices(module).ok()?;
        let spot = spot::at(site, &cross(site, &d, module), &module.place, d.size(), 0.0)?;
        Some(
            Work {
                frame: Frame::new(&spot, d.opens),
                making: d.making(module.finish),
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

/// The drawer's own directions: x into its depth from the front, y to the left of that, z up.
struct Frame {
    origin: [f64; 3],
    x: [f64; 3],
    y: [f64; 3],
}

impl Frame {
    fn new(spot: &Spot, opens: Opens) -> Frame {
        let z = spot.z.0;
        match opens {
            Opens::Rear => Frame {
                origin: [spot.x.0, spot.y.0, z],
                x: [1.0, 0.0, 0.0],
                y: [0.0, 1.0, 0.0],
            },
            Opens::Left => Frame {
                origin: [spot.x.0, spot.y.1, z],
                x: [0.0, -1.0, 0.0],
                y: [1.0, 0.0, 0.0],
            },
            Opens::Right => Frame {
                origin: [spot.x.1, spot.y.0, z],
                x: [0.0, 1.0, 0.0],
                y: [-1.0, 0.0, 0.0],
            },
        }
    }

    fn turn(&self, v: [f64; 3]) -> [f64; 3] {
        std::array::from_fn(|i| {
            v[0] * self.x[i] + v[1] * self.y[i] + if i == 2 { v[2] } else { 0.0 }
        })
    }

    /// A pose of the drawer's own directions in the vehicle.
    fn pose(&self, p: Pose) -> Pose {
        let o = self.turn(p.origin);
        Pose {
            origin: std::array::from_fn(|i| self.origin[i] + o[i]),
            u: self.turn(p.u),
            v: self.turn(p.v),
        }
    }
}

struct Work<'a> {
    frame: Frame,
    making: Making,
    name: String,
    site: &'a Site<'a>,
    d: &'a Drawer,
}

impl Work<'_> {
    fn board(
        &self,
        (id, role, words): (&str, &'static str, &str),
        t: f64,
        pose: Pose,
        shape: (f64, f64, f64, f64),
    ) -> Board {
        let (a0, b0, a1, b1) = shape;
        let moves = id.starts_with("box-") || id == "face";
        Board {
            id: id.into(),
            letter: if moves { "W" } else { "C" },
            role,
            name: format!("{}, {words}", self.name),
            material: self.d.material.clone(),
            thickness: t,
            marked: Region::rectangle(a0, b0, a1, b1),
            relief: 0.0,
            vents: vec![],
            windows: vec![],
            pockets: vec![],
            grain: PartGrain::Along,
            then: vec![],
            why: vec![],
            way: Way::seen("either face"),
            places: vec![],
            pose: self.frame.pose(pose),
            body: if moves { "drawer".into() } else { FIXED.into() },
        }
    }

    fn why(&self, about: &str, total: f64, lines: &[(&str, &str, f64)]) -> Why {
        let w = &self.site.w;
        Why {
            about: about.into(),
            total: w.figure(total),
            steps: lines
                .iter()
                .map(|(op, l, mm)| w.step(op, *l, *mm))
                .collect(),
        }
    }

    fn carcass(&self, front: f64) -> Vec<Board> {
        let (t, w, h, end) = (self.d.thickness, self.d.width, self.d.height, self.d.depth);
        let side = (front, t, end, h - t);
        vec![
            self.board(
                ("carcass-bottom", "carcass", "carcass, bottom"),
                t,
                Pose::level(0.0),
                (front, 0.0, end, w),
            ),
            self.board(
                ("carcass-top", "carcass", "carcass, top"),
                t,
                Pose::level(h - t),
                (front, 0.0, end, w),
            ),
            self.board(
                ("carcass-right", "carcass", "carcass, right side"),
                t,
                Pose::along(t),
                side,
            ),
            self.board(
                ("carcass-left", "carcass", "carcass, left side"),
                t,
                Pose::along(w),
                side,
            ),
            self.board(
                ("carcass-back", "carcass", "carcass, back"),
                t,
                Pose::across(end - t),
                (t, t, w - t, h - t),
            ),
        ]
    }

    /// How the sizes came about, by board, and what is done after cutting.
    fn explain(&self, boards: &mut [Board]) {
        let (d, m) = (self.d, &self.making);
        let (t, s) = (d.thickness, m.sides);
        let overlay = d.face == FaceKind::Overlay;
        let before = if overlay { t } else { 0.0 };
        let ([bw, bh, bd], [iw, _, id]) = (m.outside(), m.inside());
        let inset = if overlay { 0.0 } else { t };
        let depth = vec![("", "depth", d.depth), ("-", "face before it", before)];
        let long = [
            depth.clone(),
            vec![
                ("-", "back of the carcass", t),
                ("-", "air behind", m.back_gap),
                ("-", "face in it", inset),
            ],
        ]
        .concat();
        let up = match m.motion {
            Run::SideSlides | Run::LockingSlides => {
                vec![("-", "gaps above and below", 2.0 * m.gap)]
            }
            Run::Strips => vec![("-", "strip below it", m.strip), ("-", "gap above", m.gap)],
            Run::Bare => vec![("-", "gap above", m.gap)],
        };
        let high = [
            vec![
                ("", "height", d.height),
                ("-", "top and bottom of the carcass", 2.0 * t),
            ],
            up,
        ]
        .concat();
        let under = match m.joint {
            BottomJoint::Pocket => vec![("-", "bottom under it", m.bottom)],
            _ => vec![],
        };
        for b in boards {
            let why = match b.id.as_str() {
                "carcass-bottom" | "carcass-top" => self.why("length", d.depth - before, &depth),
                "carcass-right" | "carcass-left" => self.why(
                    "height",
                    d.height - 2.0 * t,
                    &[("", "height", d.height), ("-", "top and bottom", 2.0 * t)],
                ),
                "carcass-back" => self.why(
                    "width",
                    d.width - 2.0 * t,
                    &[("", "width", d.width), ("-", "two sides", 2.0 * t)],
                ),
                "box-right" | "box-left" => self.why("length", bd, &long),
                "box-back" => self.why(
                    "height",
                    m.side_height(),
                    &[high.clone(), under.clone()].concat(),
                ),
                "box-bottom" => match m.joint {
                    BottomJoint::Pocket => self.why("width", bw, &[("", "width of the box", bw)]),
                    _ => self.why(
                        "length",
                        id + 2.0 * m.groove,
                        &[("", "inside", id), ("+", "two grooves", 2.0 * m.groove)],
                    ),
                },
                "face" => {
                    let (w, over) = m
                        .face_size()
                        .map_or((0.0, 0.0), |f| (f[0], f[0] - m.opening[0]));
                    let word = if over >= 0.0 {
                        ("+", "over the rim, both sides")
                    } else {
                        ("-", "gaps, both sides")
                    };
                    self.why(
                        "width",
                        w,
                        &[("", "opening", m.opening[0]), (word.0, word.1, over.abs())],
                    )
                }
                _ => self.why(
                    "length",
                    iw,
                    &[("", "width of the box", bw), ("-", "two sides", 2.0 * s)],
                ),
            };
            if b.why.is_empty() {
                b.why.push(why);
            }
            let height = b.id.starts_with("box-") && b.role == "side";
            if height {
                b.why.push(self.why(
                    "height",
                    bh - if under.is_empty() { 0.0 } else { m.bottom },
                    &[high.clone(), under.clone()].concat(),
                ));
            }
            b.then
                .push("ease the edges you will touch; dry fit before glue".into());
        }
    }

    /// What may help a drawer that meets something: another way to open.
    fn eases(&self) -> Vec<Ease> {
        let others = [
            (Opens::Rear, "rear", "to the rear"),
            (Opens::Left, "left", "to the left"),
            (Opens::Right, "right", "to the right"),
        ];
        others
            .into_iter()
            .filter(|o| o.0 != self.d.opens)
            .map(|(_, value, words)| Ease {
                label: format!("Open it {words}"),
                cost: "width and depth change places in the vehicle".into(),
                pointer: "/choices/opens".into(),
                value: value.into(),
            })
            .collect()
    }

    fn built(&self) -> Built {
        let (t, m) = (self.d.thickness, &self.making);
        let overlay = self.d.face == FaceKind::Overlay;
        let front = if overlay { t } else { 0.0 };
        let ([bw, _, bd], [iw, ih, id]) = (m.outside(), m.inside());
        let s = m.sides;
        // Where the box begins: from the front, from the right, from the floor.
        let x0 = if overlay {
            t
        } else {
            m.face.map_or(0.0, |f| f.thickness)
        };
        let y0 = t + (m.opening[0] - bw) / 2.0;
        let z0 = t + match m.motion {
            Run::SideSlides | Run::LockingSlides => m.gap,
            Run::Strips => m.strip,
            Run::Bare => 0.0,
        };
        let mut boards = self.carcass(front);
        let low = if m.joint == BottomJoint::Pocket {
            z0 + m.bottom
        } else {
            z0
        };
        let high = low + m.side_height();
        let mut right = self.board(
            ("box-right", "side", "right side"),
            s,
            Pose::along(y0 + s),
            (x0, low, x0 + bd, high),
        );
        let mut left = self.board(
            ("box-left", "side", "left side"),
            s,
            Pose::along(y0 + bw),
            (x0, low, x0 + bd, high),
        );
        let across = (y0 + s, low, y0 + bw - s, high);
        let mut before = self.board(("box-front", "front", "front"), s, Pose::across(x0), across);
        let mut behind = self.board(
            ("box-back", "back", "back"),
            s,
            Pose::across(x0 + bd - s),
            across,
        );
        let g = m.groove;
        let lip = if m.joint == BottomJoint::GrooveBox {
            LIP
        } else {
            0.0
        };
        let (bottom_z, shape) = match m.joint {
            BottomJoint::Pocket => (z0, (x0, y0, x0 + bd, y0 + bw)),
            _ => (
                low + lip,
                (x0 + s - g, y0 + s - g, x0 + bd - s + g, y0 + bw - s + g),
            ),
        };
        if m.joint != BottomJoint::Pocket {
            let slot = |a0: f64, a1: f64, face| Pocket {
                outline: Region::rectangle(a0, bottom_z, a1, bottom_z + m.bottom),
                depth: g,
                face,
            };
            // Inner faces: an upright along the drawer has its thickness to the right of its left face.
            right.pockets.push(slot(x0, x0 + bd, BoardFace::Bottom));
            left.pockets.push(slot(x0, x0 + bd, BoardFace::Top));
            before
                .pockets
                .push(slot(y0 + s, y0 + bw - s, BoardFace::Top));
            behind
                .pockets
                .push(slot(y0 + s, y0 + bw - s, BoardFace::Bottom));
            let words = format!(
                "groove {} wide, {} deep on the inner face",
                self.site.w.say(m.bottom),
                self.site.w.say(g)
            );
            for b in [&mut right, &mut left, &mut before, &mut behind] {
                b.then.push(words.clone());
            }
        }
        for b in [&mut right, &mut left, &mut before, &mut behind] {
            b.way = Way::seen(match b.pockets.first().map(|p| p.face) {
                Some(BoardFace::Top) => "inner face, the groove in it",
                Some(BoardFace::Bottom) => "outer face, the groove on the other",
                None => "either face",
            });
        }
        let aside = if m.motion.slides() {
            m.slide_width
        } else {
            m.gap
        };
        before.why.push(self.why(
            "length",
            iw,
            &[
                ("", "carcass, outside", self.d.width),
                ("-", "two sides of the carcass", 2.0 * t),
                (
                    "-",
                    if m.motion.slides() {
                        "two slides"
                    } else {
                        "two gaps"
                    },
                    2.0 * aside,
                ),
                ("-", "finish on both sides", 2.0 * m.finish),
                ("-", "two sides of the box", 2.0 * s),
            ],
        ));
        let bottom = self.board(
            ("box-bottom", "bottom", "bottom"),
            m.bottom,
            Pose::level(bottom_z),
            shape,
        );
        boards.extend([right, left, before, behind, bottom]);
        if let Some([fw, fh]) = m.face_size() {
            let (cy, cz) = (self.d.width / 2.0, self.d.height / 2.0);
            let shape = (cy - fw / 2.0, cz - fh / 2.0, cy + fw / 2.0, cz + fh / 2.0);
            let ft = m.face.map_or(t, |f| f.thickness);
            boards.push(self.board(("face", "face", "face"), ft, Pose::across(0.0), shape));
        }
        self.explain(&mut boards);
        let travel = if m.motion.slides() {
            bd
        } else {
            (bd - STAYS).max(bd / 2.0)
        };
        let body = Body {
            id: format!("{}/drawer", self.site.id),
            name: self.name.clone(),
            motion: Motion::Slide {
                along: self.frame.x.map(|v| -v),
                travel,
            },
            eases: self.eases(),
        };
        Built {
            boards,
            bodies: vec![body],
            rooms: vec![Room {
                name: self.name.clone(),
                size: [iw, id, ih - lip],
                way: (iw, id),
                body: "drawer".into(),
            }],
            deck: None,
        }
    }
}
