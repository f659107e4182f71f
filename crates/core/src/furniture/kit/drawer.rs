//! A drawer in an opening: its box, its face, how it moves, and what it is hung on.

use super::crate_dividers::Dividers;
use super::drawer_box::{BottomJoint, Making, Run};
use super::grip::{FROM_EDGE, Grip};
use super::hinges::{self, Hinges};
use super::maker::{Maker, thicker};
use crate::furniture::built::{
    Board, Body, Built, Ease, Face as BoardFace, Fasten, Glide, Item, Joint, Motion, Pocket, Pose,
    Room, Span, Under,
};
use crate::furniture::way::Way;
use crate::geometry::region::Region;
use crate::mechanics::material::PartGrain;
use crate::units::value::Value;

/// Below a groove so much of the side is left, mm (a choice).
const LIP: f64 = 8.0;
/// Of a drawer on strips or wood so much stays in the carcass, mm (a choice).
const STAYS: f64 = 120.0;

/// So high is the front of a box whose face drops down, mm (a choice: it keeps things in, and a hand out of splinters).
const LOW_FRONT: f64 = 50.0;

/// The thickest bottom, mm.
pub const THICKEST_BOTTOM: f64 = 18.0;
/// What lies in a drawer or stands on a shelf, kg/m2 (a choice; shelves for books are made for more).
pub const THINGS: f64 = 60.0;

/// A drawer in an opening.
pub struct Drawer<'a> {
    /// Makes its boards.
    pub maker: Maker<'a>,
    /// What it is made from.
    pub making: &'a Making,
    /// Before the identifiers of its boards, where there are several.
    pub prefix: String,
    /// What it is called.
    pub name: String,
    /// Its body's identifier, within the module.
    pub body: String,
    /// The opening's lower right front corner in the piece's own directions, mm.
    pub at: [f64; 3],
    /// How far behind the front of the piece its face begins, mm.
    pub face: f64,
    /// What may help where it meets something.
    pub eases: Vec<Ease>,
    /// Compartments side by side, and one behind the other.
    pub cells: [u32; 2],
    /// On what else it may run.
    pub runs: Vec<Ease>,
    /// The body it rides on, within the module, if it is not the carcass.
    pub parent: Option<String>,
    /// Size of its face, if that covers more than its own opening.
    pub covers: Option<[Value; 2]>,
    /// Its face drops down on hinges, as a table; the box's front is low.
    pub drops: bool,
    /// By what it is pulled.
    pub grip: Grip,
}

impl Drawer<'_> {
    /// Worked out.
    pub fn made(mut self) -> Built {
        self.maker = self.maker.called(&self.name, "W");
        let m = self.making;
        let ([bw, _, bd], [iw, ih, id]) = (m.outside(), m.inside());
        let high = m.side_height();
        let [x, y, z] = self.at;
        // Where the box begins: from the front, from the right, from the floor.
        let x0 = match &m.face {
            Some(f) => self.face + f.thickness.mm,
            None => x,
        };
        let y0 = y + (m.opening[0].mm - bw.mm) / 2.0;
        let z0 = z + match m.motion {
            Run::SideSlides | Run::LockingSlides => m.gap.mm,
            Run::Strips => m.strip.mm,
            Run::Bare => 0.0,
        };
        let mut boards = self.sides([x0, y0, z0], (&bd, &bw, &iw, &high));
        let size = self.covers.clone().or_else(|| m.face_size());
        let mut flap = None;
        if let (Some([fw, fh]), Some(f)) = (size, &m.face) {
            let (cy, cz) = (y + m.opening[0].mm / 2.0, z + m.opening[1].mm / 2.0);
            // A board above it takes its height from the face's upper edge.
            let low = cz - (fh.mm + m.above.mm) / 2.0;
            boards.push(self.maker.board(
                ("face", "face", "face"),
                f.thickness.mm,
                Pose::across(self.face),
                [cy - fw.mm / 2.0, low],
                (("width", &fw), ("height", &fh)),
            ));
            let mass = fw.mm * fh.mm * f.thickness.mm * self.maker.density() * 1e-9;
            let at = [self.face, cy - fw.mm / 2.0, low];
            flap = self.drops.then_some((at, (fw.mm, mass)));
        }
        let cut = self.open_for_a_hand(&mut boards);
        let s = m.sides.mm;
        let floor = m.bottom.mm + self.lip();
        let dividers = Dividers {
            inside: [&iw, &ih, &id],
            at: [x0 + s, y0 + s, z0 + floor],
            lip: self.lip(),
            cells: self.cells,
            board: m.bottom.clone().named("board of the dividers"),
        };
        let (own, lying) = dividers.made(&self.maker, &self.id("box-bottom"));
        boards.extend(own);
        for b in &mut boards {
            b.body = match (self.drops, b.role) {
                (true, "face") => self.face_body(),
                _ => self.body.clone(),
            };
            b.id = format!("{}{}", self.prefix, b.id);
            b.then
                .push("ease the edges you will touch; dry fit before glue".into());
        }
        let travel = if m.motion.slides() {
            bd.mm
        } else {
            (bd.mm - STAYS).max(bd.mm / 2.0)
        };
        let out = self.maker.frame.turn([-1.0, 0.0, 0.0]);
        let module = self.maker.site.id;
        let body = Body {
            id: format!("{module}/{}", self.body),
            name: self.name.clone(),
            parent: self.parent.as_ref().map(|p| format!("{module}/{p}")),
            motion: Motion::Slide { along: out, travel },
            eases: self.eases.clone(),
            change: None,
        };
        let several = self.cells[0] * self.cells[1] > 1;
        let [w, d, h] = if several {
            dividers.cell()
        } else {
            [iw.mm, id.mm, ih.mm - self.lip()]
        };
        let room = Room {
            name: self.name.clone(),
            size: [w, d, h],
            body: self.body.clone(),
            opened_by: self.body.clone(),
        };
        let lying = lying.into_iter().map(|j| Joint {
            a: self.id(&j.a),
            ..j
        });
        let joints = self.joints().into_iter().chain(lying).collect();
        let mut hardware = self.hardware(bd.mm, cut);
        let mut bodies = vec![body];
        if let Some((at, size)) = flap {
            bodies.push(self.dropping(at));
            hardware.extend(self.dropping_needs(size));
        }
        Built {
            spans: vec![self.bottom_span(&iw, &id)],
            glides: vec![Glide {
                body: self.body.clone(),
                run: m.motion,
                guided: bd.mm,
                wide: bw.mm,
                made_for: THINGS * iw.mm * id.mm * 1e-6,
                eases: self.runs.clone(),
            }],
            boards,
            bodies,
            rooms: vec![room; (self.cells[0] * self.cells[1]) as usize],
            joints,
            hardware,
            ..Built::default()
        }
    }

    /// The body of a face that drops down.
    fn face_body(&self) -> String {
        format!("{}-face", self.body)
    }

    /// What a face that drops down hangs on and is shut with.
    fn dropping_needs(&self, size: (f64, f64)) -> [Item; 3] {
        let hinges = Hinges::Butt;
        let count = hinges.on_a_door(size.0);
        [
            hinges.item(&self.maker.site.w, count, size),
            hinges::level(),
            Item::latch(self.face_body()),
        ]
    }

    /// A face that drops down about its lower outer edge, where the pin is: nothing is chewed.
    fn dropping(&self, [x, y, z]: [f64; 3]) -> Body {
        let (module, f) = (self.maker.site.id, &self.maker.frame);
        Body {
            id: format!("{module}/{}", self.face_body()),
            name: format!("face of the {}", self.name),
            parent: Some(format!("{module}/{}", self.body)),
            motion: Motion::Turn {
                at: f.at([x, y, z]),
                about: f.turn([0.0, -1.0, 0.0]),
                most: 90.0,
            },
            eases: vec![],
            change: None,
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

    fn id(&self, board: &str) -> String {
        format!("{}{board}", self.prefix)
    }

    /// The bottom carries what lies in the drawer over its shorter side.
    fn bottom_span(&self, iw: &Value, id: &Value) -> Span {
        let (span, width) = (iw.mm.min(id.mm), iw.mm.max(id.mm));
        Span {
            board: self.id("box-bottom"),
            name: format!("bottom of the {}", self.name),
            spans: vec![span],
            width,
            along: id.mm <= iw.mm,
            under: Under::Things(THINGS * span * width * 1e-6),
            eases: thicker(
                self.maker.site,
                ("bottom", THICKEST_BOTTOM),
                self.making.bottom.mm,
            ),
        }
    }

    fn joints(&self) -> Vec<Joint> {
        let pocket = self.making.joint == BottomJoint::Pocket;
        let joint = |how, a: &str, b: &str| Joint::new(how, self.id(a), self.id(b));
        let mut out = Vec::new();
        for side in ["box-right", "box-left"] {
            for end in ["box-front", "box-back"] {
                out.push(match pocket {
                    // From inside the box, where the face hides it.
                    true => joint(Fasten::Pocket, end, side),
                    false => joint(Fasten::Butt, side, end),
                });
            }
        }
        for wall in ["box-right", "box-left", "box-front", "box-back"] {
            out.push(match pocket {
                true => joint(Fasten::Butt, "box-bottom", wall),
                false => joint(Fasten::Groove, wall, "box-bottom"),
            });
        }
        if self.making.face.is_some() {
            let how = match self.drops {
                true => Fasten::Lies,
                false => Fasten::Face,
            };
            out.push(joint(how, "box-front", "face").apart());
        }
        out
    }

    /// Takes the grip out of the face and, where that lies behind it, of the box's front: a hand reaches through both. Says whether
    /// there was wood for it.
    fn open_for_a_hand(&self, boards: &mut [Board]) -> bool {
        let bounds = |boards: &[Board], id: &str| {
            let own = boards.iter().find(|b| b.id == id);
            own.map(|b| b.shape.bounds())
        };
        let (face, front) = (bounds(boards, "face"), bounds(boards, "box-front"));
        let behind = front.filter(|_| !self.drops);
        let Some((y0, _, y1, high)) = face.or(behind) else {
            return false;
        };
        let high = behind.map_or(high, |b| b.3.min(high));
        let at = [(y0 + y1) / 2.0, high - FROM_EDGE];
        let through = |b: &&mut Board| b.id == "face" || b.id == "box-front" && behind.is_some();
        // Both or none.
        let tried: Vec<Board> = boards.to_vec();
        let mut own = boards.iter_mut().filter(through);
        let all = own.all(|b| self.grip.cut(b, at, true, self.maker.site));
        if !all {
            boards.clone_from_slice(&tried);
        }
        all && self.grip != Grip::Handle
    }

    fn hardware(&self, deep: f64, cut: bool) -> Vec<Item> {
        /// Slides come in steps of this length, mm (from memory).
        const LENGTHS: f64 = 50.0;
        let say = |mm: f64| self.maker.site.w.say(mm);
        let item =
            |what: &str, size: String, count, screws| Item::new(what, count, screws).sized(size);
        let sides = self.making.sides.mm;
        let slide = (deep / LENGTHS).floor().max(1.0) * LENGTHS;
        let mut out = vec![match self.making.motion {
            Run::SideSlides => item("pair of slides", say(slide), 1, 16).into_wood(sides),
            Run::LockingSlides => {
                item("pair of slides that lock in and out", say(slide), 1, 16).into_wood(sides)
            }
            Run::Strips => item("slippery strip", say(deep), 2, 0),
            Run::Bare => item("wax", String::new(), 1, 0),
        }];
        if !cut {
            out.push(item("handle", String::new(), 1, 0));
        }
        if self.making.motion != Run::LockingSlides {
            out.push(Item::latch(self.body.clone()));
        }
        out
    }

    /// Sides, front, back and bottom of the box that begins at `at`.
    fn sides(
        &self,
        [x0, y0, z0]: [f64; 3],
        (bd, bw, iw, high): (&Value, &Value, &Value, &Value),
    ) -> Vec<Board> {
        let m = self.making;
        let (s, g) = (m.sides.mm, m.groove.mm);
        let low = if m.joint == BottomJoint::Pocket {
            z0 + m.bottom.mm
        } else {
            z0
        };
        let along = (("length", bd), ("height", high));
        let across = (("length", iw), ("height", high));
        let low_front = Value::rule(
            "drawer/low-front",
            "front below the face that drops",
            LOW_FRONT,
        );
        let front = match self.drops && low_front.mm < high.mm {
            true => (("length", iw), ("height", &low_front)),
            false => across,
        };
        let mut right = self.maker.board(
            ("box-right", "side", "right side"),
            s,
            Pose::along(y0 + s),
            [x0, low],
            along,
        );
        let mut left = self.maker.board(
            ("box-left", "side", "left side"),
            s,
            Pose::along(y0 + bw.mm),
            [x0, low],
            along,
        );
        let mut before = self.maker.board(
            ("box-front", "front", "front"),
            s,
            Pose::across(x0),
            [y0 + s, low],
            front,
        );
        let mut behind = self.maker.board(
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
            let w = &self.maker.site.w;
            let words = format!(
                "groove {} wide, {} deep on the inner face",
                w.say(m.bottom.mm),
                w.say(g)
            );
            for b in [&mut right, &mut left, &mut before, &mut behind] {
                b.then.push(words.clone());
            }
        }
        for b in [&mut right, &mut left, &mut before, &mut behind] {
            b.grain = PartGrain::Free;
            b.way = Way::seen(match b.pockets.first().map(|p| p.face) {
                Some(BoardFace::Top) => "inner face, the groove in it",
                Some(BoardFace::Bottom) => "outer face, the groove on the other",
                None => "either face",
            });
        }
        let [wide, deep] = m.bottom_size();
        let bottom = self
            .maker
            .board(
                ("box-bottom", "bottom", "bottom"),
                m.bottom.mm,
                Pose::level(bottom_z),
                corner,
                (("length", &deep), ("width", &wide)),
            )
            .any_grain();
        vec![right, left, before, behind, bottom]
    }
}
