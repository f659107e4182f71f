//! A box with a lid to sit on: a box seat or a bench without bays, cut to the wall it stands against.

use serde::{Deserialize, Serialize};
use serde_json::{Map, Value};
use utoipa::ToSchema;

use super::built::{Board, Body, Built, Claim, Ease, FIXED, Motion, Pose, Room};
use super::cross::Cross;
use super::form::{Form, choices, complete, schema};
use super::free::Free;
use super::spot::{self, Spot};
use super::way::Way;
use super::{Field, Kind, Site, Wanted};
use crate::geometry::Point;
use crate::geometry::region::Region;
use crate::input::within;
use crate::mechanics::lid::MOST;
use crate::mechanics::material::PartGrain;
use crate::problem::Problem;
use crate::project::Project;
use crate::project::check::{known, optional};
use crate::project::module::{Across, Module};
use crate::project::survey::Side;
use crate::units::figure::Why;

/// Least size, mm: length, depth, height.
const LEAST: [f64; 3] = [250.0, 200.0, 150.0];
/// Gap between the lid and the strip it hangs on, mm (a choice: a hinge's pin and finish).
const GAP: f64 = 2.0;
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
        known(project, &b.material, "/choices/material")?;
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

    fn complete(&self, choices: &Map<String, Value>) -> Map<String, Value> {
        complete::<BoxSeat>(choices)
    }

    fn defaults(&self, site: &Site, wanted: &Wanted) -> Result<Module, Problem> {
        let module = wanted.module(self.name(), &BoxSeat::default());
        self.check(site.project, &module)?;
        let mut b: BoxSeat = choices(&module)?;
        let free = Free::new(site, b.clearance, module.finish);
        let set = ["length", "depth", "height"].map(|f| wanted.choices.contains_key(f));
        let least = [LEAST[0], LEAST[1].max(2.0 * b.hinge), LEAST[2]];
        let sizes = spot::sizes([b.length, b.depth, b.height], least, set);
        let across = [Across::LeftWall, Across::RightWall, Across::Centred];
        let at = (&cross(site, &b, &module), &free);
        let found = spot::find(
            site,
            at,
            &sizes,
            &across,
            &module.place,
            (&wanted.fixed(), FOLLOW),
        );
        let (place, [length, depth, height]) = found.ok_or_else(|| {
            Problem::impossible("/place", "There is no free place for a box seat here.")
        })?;
        (b.length, b.depth, b.height) = (length, depth, height);
        Ok(Module { place, ..module }.with(&b))
    }

    fn form(&self, module: &Module, site: &Site) -> Vec<Field> {
        let b: BoxSeat = choices(module).unwrap_or_default();
        let f = Form::new(site, &b);
        vec![
            f.length("length", "Length", Some(b.length))
                .why("along the vehicle"),
            f.length("depth", "Depth", Some(b.depth))
                .why("from the wall inwards"),
            f.length("height", "Height", Some(b.height))
                .why("with the lid"),
            f.place("along", "From the threshold", module.place.along),
            f.across(
                module,
                &[
                    ("left_wall", "at the left wall"),
                    ("right_wall", "at the right wall"),
                    ("centred", "in the middle"),
                ],
            ),
            f.count("dividers", "Dividers", Some(b.dividers)),
            f.length("hinge", "Hinge off the wall", Some(b.hinge))
                .why("far enough that the lid stands up"),
            f.material("material", "Board", &b.material),
            f.length("thickness", "Thickness", Some(b.thickness)),
            f.place("gap", "Off the wall", module.place.gap),
            f.length("clearance", "Clearance", b.clearance)
                .empty("from readings"),
        ]
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

fn cross<'a>(site: &'a Site<'a>, b: &BoxSeat, module: &Module) -> Cross<'a> {
    let middle = module.place.up + b.height / 2.0;
    Cross::new(site, b.clearance, module.finish, middle)
}

struct Work<'a> {
    cross: &'a Cross<'a>,
    spot: Spot,
    name: String,
    site: &'a Site<'a>,
    b: &'a BoxSeat,
}

impl Work<'_> {
    /// Towards the wall, or to the left where it stands free.
    fn out(&self) -> f64 {
        self.spot.side.map_or(1.0, Side::sign)
    }

    /// The side of the box that is reached from the bay, and the one at the wall: distances from the centre
    /// line towards the wall.
    fn depth(&self) -> (f64, f64) {
        let s = self.out();
        let (a, b) = (s * self.spot.y.0, s * self.spot.y.1);
        (a.min(b), a.max(b))
    }

    fn board(
        &self,
        (id, role, words): (String, &'static str, String),
        pose: Pose,
        shape: Region,
        face: &str,
    ) -> Board {
        Board {
            id,
            letter: "B",
            role,
            name: format!("{}, {words}", self.name),
            material: self.b.material.clone(),
            thickness: self.b.thickness,
            marked: shape,
            relief: 0.0,
            vents: vec![],
            windows: vec![],
            pockets: vec![],
            grain: PartGrain::Along,
            then: vec![],
            why: vec![],
            way: Way::seen(face),
            places: vec![],
            pose,
            body: if role == "lid" {
                "lid".into()
            } else {
                FIXED.into()
            },
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

    /// A rectangle in plan between two distances from the centre line.
    fn level(&self, x: (f64, f64), d: (f64, f64)) -> Region {
        let s = self.out();
        let (a, b) = (s * d.0, s * d.1);
        Region::rectangle(x.0, a.min(b), x.1, a.max(b))
    }

    /// As far as boards may follow the wall.
    fn far(&self) -> f64 {
        let (_, back) = self.depth();
        if self.spot.side.is_some() {
            back + FOLLOW
        } else {
            back
        }
    }

    /// An upright board across the bay, its rear face at `x`, cut to the wall.
    fn upright(&self, x: f64, near: f64, z: (f64, f64)) -> Option<Region> {
        let t = self.b.thickness;
        let s = self.out();
        let (_, back) = self.depth();
        let mut wall: Vec<Point> = Vec::new();
        for h in self.cross.heights(z.0 + 0.5, z.1) {
            let reach = if self.spot.side.is_some() {
                self.reach((x, x + t), h)?
            } else {
                back
            };
            if reach <= near {
                return None;
            }
            wall.push([s * reach, h]);
        }
        wall.first_mut()?[1] = z.0;
        let mut outer = vec![[s * near, z.1], [s * near, z.0]];
        outer.extend(wall);
        if s < 0.0 {
            outer.reverse();
        }
        let region = Region {
            outer,
            holes: vec![],
        };
        region.check("").ok()?;
        Some(region)
    }

    /// How far out it is free over a stretch, but not further than boards follow a wall.
    fn reach(&self, x: (f64, f64), z: f64) -> Option<f64> {
        let (right, left) = self.cross.across(x, z)?;
        let reach = if self.out() > 0.0 { left } else { -right };
        Some(reach.min(self.far()))
    }

    /// A level board from `near` out to the wall, cut along it.
    fn follow(&self, x: (f64, f64), near: f64, z: (f64, f64)) -> Option<Region> {
        /// The wall is looked at every so often, mm.
        const EVERY: f64 = 30.0;
        let s = self.out();
        let n = ((x.1 - x.0) / EVERY).ceil().clamp(2.0, 200.0) as usize;
        let at = |i: usize| x.0 + (x.1 - x.0) * i as f64 / n as f64;
        let heights = self.cross.heights(z.0 + 0.5, z.1);
        // Each place counts for the stretches on both its sides: where a well begins, the board ends before it.
        let cells: Vec<f64> = (0..n)
            .map(|i| {
                let mut all = heights.iter().map(|z| self.reach((at(i), at(i + 1)), *z));
                all.try_fold(f64::INFINITY, |least, r| Some(least.min(r?)))
            })
            .collect::<Option<_>>()?;
        let edge = |i: usize| {
            let before = cells[i.saturating_sub(1)];
            let after = cells[i.min(n - 1)];
            before.min(after)
        };
        if (0..=n).any(|i| edge(i) <= near + 1.0) {
            return None;
        }
        let mut outer: Vec<Point> = vec![[x.1, s * near], [x.0, s * near]];
        outer.extend((0..=n).map(|i| [at(i), s * edge(i)]));
        if s > 0.0 {
            outer.reverse();
        }
        let region = Region {
            outer,
            holes: vec![],
        };
        region.check("").ok()?;
        let simple = region.simplified(PENCIL);
        simple
            .and(&region)
            .into_iter()
            .max_by(|a, b| a.area().total_cmp(&b.area()))
    }

    fn built(&self) -> Option<Built> {
        let (b, t) = (self.b, self.b.thickness);
        let (x0, x1) = self.spot.x;
        let (z0, z1) = self.spot.z;
        let (near, back) = self.depth();
        let s = self.out();
        let top = z1 - t;
        let follows = self.spot.side.is_some();
        let mut boards = Vec::new();
        // Two ends behind the front, cut to the wall.
        let ends = [
            ("end-rear", "end, rear", x0),
            ("end-front", "end, front", x1 - t),
        ];
        for (id, words, x) in ends {
            let shape = self.upright(x, near + t, (z0, top))?;
            let mut end = self.board(
                (id.into(), "end", words.into()),
                Pose::across(x),
                shape,
                "front face, seen from the front",
            );
            if follows {
                end.then
                    .push("cut to the wall: offer it up and mark what touches".into());
            }
            end.why.push(self.why(
                "height",
                top - z0,
                &[("", "height of the seat", b.height), ("-", "lid", t)],
            ));
            boards.push(end);
        }
        // The front, over both ends.
        let front = Region::rectangle(x0, z0, x1, top);
        let y = if s > 0.0 { near + t } else { -near };
        boards.push(self.board(
            ("front".into(), "front", "front".into()),
            Pose::along(y),
            front,
            "face seen from the right",
        ));
        if !follows {
            let y = self.spot.y.1;
            // It stands free: its own back, between the ends.
            let shape = Region::rectangle(x0 + t, z0, x1 - t, top);
            boards.push(self.board(
                ("back".into(), "back", "back".into()),
                Pose::along(y),
                shape,
                "face seen from the right",
            ));
        }
        // The bottom between ends and front, cut to the wall.
        let inner = (x0 + t, x1 - t);
        let bottom = if follows {
            self.follow(inner, near + t, (z0, z0 + t))?
        } else {
            self.level(inner, (near + t, back - t))
        };
        boards.push(self.board(
            ("bottom".into(), "bottom", "bottom".into()),
            Pose::level(z0),
            bottom,
            "top face, seen from above",
        ));
        let bay = (x1 - x0 - 2.0 * t) / f64::from(b.dividers + 1);
        for i in 1..=b.dividers {
            let x = x0 + t + bay * f64::from(i) - t / 2.0;
            let mut shape = self.upright(x, near + t, (z0 + t, top))?;
            if !follows {
                let within = Region::rectangle(near + t, z0 + t, back - t, top);
                shape = shape.and(&within).into_iter().next()?;
            }
            boards.push(self.board(
                (format!("divider-{i}"), "divider", format!("divider {i}")),
                Pose::across(x),
                shape,
                "front face, seen from the front",
            ));
        }
        // The strip at the wall on which the lid hangs, and the lid.
        let hinge = back - b.hinge;
        let strip = if follows {
            self.follow((x0, x1), hinge + GAP, (top, z1))
        } else {
            Some(self.level((x0, x1), (hinge + GAP, back)))
        };
        let strip = strip.filter(|r| r.size().1 >= NARROW);
        let edge = if let Some(strip) = strip {
            boards.push(self.board(
                ("strip".into(), "strip", "fixed strip at the wall".into()),
                Pose::level(top),
                strip,
                "top face, seen from above",
            ));
            hinge
        } else {
            back
        };
        let mut lid = self.board(
            ("lid".into(), "lid", "lid".into()),
            Pose::level(top),
            self.level((x0, x1), (near, edge)),
            "top face, seen from above",
        );
        lid.then.push(format!(
            "hinged along its edge towards the {}; a stay or prop with a stop holds it",
            self.spot.side.map_or("left", Side::word)
        ));
        lid.why.push(self.why(
            "width",
            edge - near,
            &if edge < back {
                vec![
                    ("", "depth of the seat", b.depth),
                    ("-", "hinge off the wall", b.hinge),
                ]
            } else {
                vec![("", "depth of the seat", b.depth)]
            },
        ));
        boards.push(lid);
        self.explain(&mut boards, (top - z0, bay));
        let body = Body {
            id: format!("{}/lid", self.site.id),
            name: format!("{}, lid", self.name),
            motion: Motion::Turn {
                // The pin lies on the upper edge, or the lid's back would be chewed by the strip.
                at: [x0, s * edge, z1],
                about: [-s, 0.0, 0.0],
                most: MOST,
            },
            eases: self.eases(),
        };
        let inside = [
            bay - if b.dividers > 0 { t } else { 0.0 },
            edge - near - t,
            top - z0 - t,
        ];
        let room = Room {
            name: self.name.clone(),
            size: inside,
            way: (inside[0], inside[1]),
            body: FIXED.into(),
        };
        Some(Built {
            boards,
            bodies: vec![body],
            rooms: vec![room; b.dividers as usize + 1],
            deck: None,
        })
    }

    /// How the sizes came about, by board, and what is done after cutting.
    fn explain(&self, boards: &mut [Board], (high, bay): (f64, f64)) {
        let (b, t) = (self.b, self.b.thickness);
        let length = b.length - 2.0 * t;
        let inner = [("", "length", b.length), ("-", "two ends", 2.0 * t)];
        for board in boards {
            let why = match board.role {
                "front" => self.why("length", b.length, &[("", "length", b.length)]),
                "back" | "bottom" => self.why("length", length, &inner),
                "divider" => self.why(
                    "height",
                    high - t,
                    &[
                        ("", "height of the seat", b.height),
                        ("-", "lid", t),
                        ("-", "bottom", t),
                    ],
                ),
                "strip" => self.why("length", b.length, &[("", "length", b.length)]),
                _ => self.why(
                    "height",
                    high,
                    &[("", "height of the seat", b.height), ("-", "lid", t)],
                ),
            };
            if board.why.is_empty() {
                board.why.push(why);
            }
            if board.role == "divider" {
                let w = &self.site.w;
                board.places.push(format!(
                    "{} from its neighbour, middle to middle",
                    w.say(bay)
                ));
            }
            board
                .then
                .push("pilot every screw into an edge; dry fit before glue".into());
        }
    }

    /// What may help a lid that meets something.
    fn eases(&self) -> Vec<Ease> {
        let b = self.b;
        let w = &self.site.w;
        let mut out = Vec::new();
        let further = b.hinge + 2.0 * b.thickness;
        if further <= b.depth / 2.0 && self.spot.side.is_some() {
            out.push(Ease {
                label: format!("Hinge it {} off the wall", w.say(further)),
                cost: format!("the lid is {} narrower", w.say(2.0 * b.thickness)),
                pointer: "/choices/hinge".into(),
                value: further.into(),
            });
        }
        let lower = (b.height - 100.0).max(LEAST[2]);
        if lower < b.height {
            out.push(Ease {
                label: format!("Make it {} high", w.say(lower)),
                cost: "less room in it".into(),
                pointer: "/choices/height".into(),
                value: lower.into(),
            });
        }
        out
    }
}
