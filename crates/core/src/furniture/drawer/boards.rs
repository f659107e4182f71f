//! The boards of a drawer and its carcass.

use super::{Drawer, LIP, Opens, STAYS, Sizes};
use crate::furniture::Site;
use crate::furniture::built::{
    Axis, Board, Body, Built, Ease, FIXED, Face as BoardFace, Measure, Motion, Pocket, Pose, Room,
};
use crate::furniture::kit::drawer_box::{BottomJoint, Making, Run};
use crate::furniture::spot::Spot;
use crate::furniture::way::Way;
use crate::geometry::region::Region;
use crate::mechanics::material::PartGrain;
use crate::units::value::Value;

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
    pub(super) sizes: Sizes,
    pub(super) name: String,
    pub(super) site: &'a Site<'a>,
    pub(super) d: &'a Drawer,
}

/// A board's whole extent along one axis, and what it is called.
type Extent<'a> = (&'static str, &'a Value);

impl Work<'_> {
    /// A rectangular board whose shape begins at `corner` and extends by `u` and `v`.
    fn board(
        &self,
        (id, role, words): (&str, &'static str, &str),
        t: f64,
        pose: Pose,
        corner: [f64; 2],
        (u, v): (Extent, Extent),
    ) -> Board {
        let moves = id.starts_with("box-") || id == "face";
        let [a, b] = corner;
        Board {
            id: id.into(),
            letter: if moves { "W" } else { "C" },
            role,
            name: format!("{}, {words}", self.name),
            material: self.d.material.clone(),
            thickness: t,
            shape: Region::rectangle(a, b, a + u.1.mm, b + v.1.mm),
            relief: 0.0,
            vents: vec![],
            windows: vec![],
            pockets: vec![],
            grain: PartGrain::Along,
            then: vec![],
            measures: vec![
                Measure::whole(Axis::U, u.0, u.1.clone()),
                Measure::whole(Axis::V, v.0, v.1.clone()),
            ],
            way: Way::seen("either face"),
            places: vec![],
            pose: self.frame.pose(pose),
            body: if moves { "drawer".into() } else { FIXED.into() },
        }
    }

    fn carcass(&self) -> Vec<Board> {
        let Sizes {
            outside: [width, depth, height],
            board,
            before,
        } = &self.sizes;
        let t = board.mm;
        let (front, w, h) = (before.mm, width.mm, height.mm);
        let long = depth - before;
        let between = (
            &(width - board.clone().named("side of the carcass") * 2.0),
            &(height - board.clone().named("top or bottom of the carcass") * 2.0),
        );
        let flat = (("length", &long), ("width", width));
        let side = (("length", &long), ("height", between.1));
        vec![
            self.board(
                ("carcass-bottom", "carcass", "carcass, bottom"),
                t,
                Pose::level(0.0),
                [front, 0.0],
                flat,
            ),
            self.board(
                ("carcass-top", "carcass", "carcass, top"),
                t,
                Pose::level(h - t),
                [front, 0.0],
                flat,
            ),
            self.board(
                ("carcass-right", "carcass", "carcass, right side"),
                t,
                Pose::along(t),
                [front, t],
                side,
            ),
            self.board(
                ("carcass-left", "carcass", "carcass, left side"),
                t,
                Pose::along(w),
                [front, t],
                side,
            ),
            self.board(
                ("carcass-back", "carcass", "carcass, back"),
                t,
                Pose::across(depth.mm - t),
                [t, t],
                (("width", between.0), ("height", between.1)),
            ),
        ]
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
        let m = &self.making;
        let t = self.sizes.board.mm;
        let ([bw, _, bd], [iw, ih, id]) = (m.outside(), m.inside());
        let high = m.side_height();
        // Where the box begins: from the front, from the right, from the floor.
        let x0 = match &m.face {
            Some(f) => f.thickness.mm,
            None => self.sizes.before.mm,
        };
        let y0 = t + (m.opening[0].mm - bw.mm) / 2.0;
        let z0 = t + match m.motion {
            Run::SideSlides | Run::LockingSlides => m.gap.mm,
            Run::Strips => m.strip.mm,
            Run::Bare => 0.0,
        };
        let mut boards = self.carcass();
        boards.extend(self.sides([x0, y0, z0], (&bd, &bw, &iw, &high)));
        if let (Some([fw, fh]), Some(f)) = (m.face_size(), &m.face) {
            let (cy, cz) = (self.d.width / 2.0, self.d.height / 2.0);
            boards.push(self.board(
                ("face", "face", "face"),
                f.thickness.mm,
                Pose::across(0.0),
                [cy - fw.mm / 2.0, cz - fh.mm / 2.0],
                (("width", &fw), ("height", &fh)),
            ));
        }
        for b in &mut boards {
            b.then
                .push("ease the edges you will touch; dry fit before glue".into());
        }
        let bd = bd.mm;
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
                size: [iw.mm, id.mm, ih.mm - self.lip()],
                way: (iw.mm, id.mm),
                body: "drawer".into(),
                opened_by: "drawer".into(),
            }],
            deck: None,
        }
    }

    /// What is left of the sides below the groove, mm.
    fn lip(&self) -> f64 {
        if self.making.joint == BottomJoint::GrooveBox {
            LIP
        } else {
            0.0
        }
    }

    /// Sides, front, back and bottom of the box that begins at `at`.
    fn sides(
        &self,
        [x0, y0, z0]: [f64; 3],
        (bd, bw, iw, high): (&Value, &Value, &Value, &Value),
    ) -> Vec<Board> {
        let m = &self.making;
        let (s, g) = (m.sides.mm, m.groove.mm);
        let low = if m.joint == BottomJoint::Pocket {
            z0 + m.bottom.mm
        } else {
            z0
        };
        let along = (("length", bd), ("height", high));
        let across = (("length", iw), ("height", high));
        let mut right = self.board(
            ("box-right", "side", "right side"),
            s,
            Pose::along(y0 + s),
            [x0, low],
            along,
        );
        let mut left = self.board(
            ("box-left", "side", "left side"),
            s,
            Pose::along(y0 + bw.mm),
            [x0, low],
            along,
        );
        let mut before = self.board(
            ("box-front", "front", "front"),
            s,
            Pose::across(x0),
            [y0 + s, low],
            across,
        );
        let mut behind = self.board(
            ("box-back", "back", "back"),
            s,
            Pose::across(x0 + bd.mm - s),
            [y0 + s, low],
            across,
        );
        let (bottom_z, corner) = match m.joint {
            BottomJoint::Pocket => (z0, [x0, y0]),
            _ => (low + self.lip(), [x0 + s - g, y0 + s - g]),
        };
        if m.joint != BottomJoint::Pocket {
            let slot = |a0: f64, a1: f64, face| Pocket {
                outline: Region::rectangle(a0, bottom_z, a1, bottom_z + m.bottom.mm),
                depth: g,
                face,
            };
            let (x1, y1) = (x0 + bd.mm, y0 + bw.mm);
            // Inner faces: an upright along the drawer has its thickness to the right of its left face.
            right.pockets.push(slot(x0, x1, BoardFace::Bottom));
            left.pockets.push(slot(x0, x1, BoardFace::Top));
            before.pockets.push(slot(y0 + s, y1 - s, BoardFace::Top));
            behind.pockets.push(slot(y0 + s, y1 - s, BoardFace::Bottom));
            let words = format!(
                "groove {} wide, {} deep on the inner face",
                self.site.w.say(m.bottom.mm),
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
        let [wide, deep] = m.bottom_size();
        let bottom = self.board(
            ("box-bottom", "bottom", "bottom"),
            m.bottom.mm,
            Pose::level(bottom_z),
            corner,
            (("length", &deep), ("width", &wide)),
        );
        vec![right, left, before, behind, bottom]
    }
}
