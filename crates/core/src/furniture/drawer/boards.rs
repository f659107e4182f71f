//! The boards of a drawer and its carcass.

use super::{Drawer, LIP, Opens, STAYS};
use crate::furniture::Site;
use crate::furniture::built::{
    Board, Body, Built, Ease, FIXED, Face as BoardFace, Motion, Pocket, Pose, Room,
};
use crate::furniture::kit::drawer_box::{BottomJoint, FaceKind, Making, Run};
use crate::furniture::spot::Spot;
use crate::furniture::way::Way;
use crate::geometry::region::Region;
use crate::mechanics::material::PartGrain;
use crate::units::figure::Why;

/// The drawer's own directions: x into its depth from the front, y to the left of that, z up.
pub(super) struct Frame {
    origin: [f64; 3],
    x: [f64; 3],
    y: [f64; 3],
}

impl Frame {
    pub(super) fn new(spot: &Spot, opens: Opens) -> Frame {
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

pub(super) struct Work<'a> {
    pub(super) frame: Frame,
    pub(super) making: Making,
    pub(super) name: String,
    pub(super) site: &'a Site<'a>,
    pub(super) d: &'a Drawer,
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

    pub(super) fn built(&self) -> Built {
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
