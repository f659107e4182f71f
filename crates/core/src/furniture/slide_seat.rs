//! A sofa that becomes a bed: its seat slides out, and the leaf that stood behind it as a back lies down into the gap, on a
//! flexible hinge. An apron below the seat's front edge carries it when it is out.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::built::{
    Bed, Board, Body, Built, Changing, Ease, FIXED, Fasten, Item, Joint, Motion, Pose, Room, Sat,
    Span, Under,
};
use super::form::Form;
use super::kit::frame::{Frame, Opens};
use super::kit::maker::Maker;
use super::stands::{Piece, Stance, Standing};
use super::{Field, Site};
use crate::input::within;
use crate::mechanics::material::PartGrain;
use crate::problem::Problem;
use crate::project::Project;
use crate::units::value::Value;

/// Least width, mm: shorter is no bed.
const SHORT: f64 = 600.0;
/// A bed is longer than who lies in it by so much, mm (common practice, no source).
const OVER: f64 = 120.0;
/// Nobody sits lower than this, mm (a choice); it leaves room for rail and keels too.
const LOW: f64 = 260.0;
/// Between what moves and what stands, mm (a choice).
const PLAY: f64 = 2.0;
/// Height of the rail at the foot and of the keels below the seat, mm (choices).
const RAIL: f64 = 80.0;
const KEEL: f64 = 60.0;
/// The apron ends so far above the floor, on its glides, mm (a choice).
const GLIDE: f64 = 4.0;
/// Uprights stand no further apart than this, mm (a choice).
const CARRIED: f64 = 600.0;
/// Seconds it takes, cushions and all (a choice).
const SECONDS: u32 = 45;

/// The choices about a sofa that becomes a bed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct SlideSeat {
    /// To which side its seat slides out.
    pub opens: Opens,
    /// Width, square to that: how long the bed is, mm.
    pub width: f64,
    /// Depth pushed in, mm.
    pub depth: f64,
    /// Height of the seat's upper face, mm.
    pub height: f64,
    /// Length of the leaf: how high it stands behind the seat, and how far that slides out, mm.
    pub leaf: f64,
    /// Depth of the strip at the back that stays, mm.
    pub strip: f64,
    /// Material identifier.
    pub material: String,
    /// Thickness of what carries it, mm.
    pub thickness: f64,
    /// Thickness of seat and leaf, mm.
    pub top: f64,
    /// Clearance to walls and wells, mm; from the readings and the finish if null.
    pub clearance: Option<f64>,
}

impl Default for SlideSeat {
    fn default() -> Self {
        SlideSeat {
            opens: Opens::Left,
            width: 1900.0,
            depth: 560.0,
            height: 380.0,
            leaf: 420.0,
            // 6.5 cm (common practice, no source).
            strip: 65.0,
            material: "birch-ply".into(),
            thickness: 15.0,
            top: 18.0,
            clearance: None,
        }
    }
}

impl SlideSeat {
    /// Depth of the seat, mm.
    fn seat(&self) -> f64 {
        self.depth - self.strip - PLAY
    }
}

/// A sofa that becomes a bed.
pub struct SlideSeatKind;

impl Piece for SlideSeatKind {
    type Choices = SlideSeat;

    fn name(&self) -> &'static str {
        "slide_seat"
    }

    fn purpose(&self) -> &'static str {
        "A sofa by day, a bed by night: its seat slides out, its back lies down behind it."
    }

    fn called(&self) -> Option<&'static str> {
        Some("sofa bed")
    }

    fn stance(&self, c: &SlideSeat) -> Stance {
        Stance {
            opens: c.opens,
            // The back stands up behind the seat.
            size: [c.width, c.depth, c.height + c.leaf],
            least: [
                SHORT,
                c.strip + PLAY + c.leaf + 3.0 * c.thickness,
                LOW + c.leaf,
            ],
            clearance: c.clearance,
            material: c.material.clone(),
            thickness: c.thickness,
            reach: c.leaf,
        }
    }

    fn resize(&self, c: &mut SlideSeat, size: [f64; 3]) {
        [c.width, c.depth, c.height] = [size[0], size[1], size[2] - c.leaf];
    }

    fn suit(&self, c: &mut SlideSeat, site: &Site, said: &dyn Fn(&str) -> bool) {
        let tallest = site.project.people.values().filter_map(|p| p.stature);
        let tallest = tallest.fold(0.0, f64::max);
        if !said("width") && tallest > 0.0 {
            c.width = (tallest + OVER).clamp(SHORT, 2400.0);
        }
    }

    fn less(&self, c: &mut SlideSeat, said: &dyn Fn(&str) -> bool) -> bool {
        // A shorter leaf asks for less room before it and above it.
        let shorter = c.leaf > 250.0 && !said("leaf");
        if shorter {
            c.leaf -= 60.0;
        }
        shorter
    }

    fn check(&self, c: &SlideSeat, _: &Project, _: f64) -> Result<(), Problem> {
        within(c.top, "/choices/top", 12.0, 30.0)?;
        // The leaf stands on the strip.
        within(c.strip, "/choices/strip", c.thickness + c.top + 10.0, 200.0)?;
        // Slid out, the seat still lies on what carries it, and the leaf does.
        let most = c.seat() - 3.0 * c.thickness;
        within(c.leaf, "/choices/leaf", 150.0, most.max(150.0))?;
        Ok(())
    }

    fn fields(&self, c: &SlideSeat, f: &Form, _: &Site) -> Vec<Field> {
        vec![
            f.length("leaf", "Leaf", Some(c.leaf))
                .why("the back by day; the bed becomes so much wider"),
            f.length("strip", "Strip at the back", Some(c.strip))
                .why("stays; the leaf stands on it"),
            f.length("top", "Seat and leaf", Some(c.top))
                .why("thickness; a knee bends them"),
        ]
    }

    fn built(&self, c: &SlideSeat, at: &Standing) -> Option<Built> {
        let site = at.site;
        let maker = Maker {
            site,
            name: at.name.clone(),
            letter: "B",
            material: c.material.clone(),
            frame: Frame::new(&at.spot, c.opens),
        };
        let work = Work::new(c, &maker);
        let mut out = Built::default();
        work.base(&mut out);
        work.seat(&mut out);
        work.leaf(&mut out);
        let m = &maker;
        let corners =
            [[-c.leaf, 0.0], [c.depth, c.width]].map(|[x, y]| m.frame.at([x, y, c.height]));
        let end = |pick: fn(f64, f64) -> f64| [0, 1].map(|k| pick(corners[0][k], corners[1][k]));
        out.beds.push(Bed {
            name: at.name.clone(),
            body: Some("leaf"),
            low: end(f64::min),
            high: end(f64::max),
            top: corners[0][2],
            sat: Some(Sat {
                seat: c.seat(),
                whole: c.depth + c.leaf,
                height: c.height,
            }),
        });
        let item = |what: &str, count, screws| Item::new(what, count, screws);
        out.hardware.extend([
            item(
                "webbing as a hinge, stapled and glued: it gives where a stiff hinge binds",
                1,
                0,
            )
            .sized(site.w.say(c.width)),
            item("slippery tape on the uprights", work.uprights(), 0).sized(site.w.say(c.depth)),
            item(
                "furniture glide below the apron",
                1 + work.uprights() / 2,
                1,
            ),
            item("stop that ends the way of the seat", 2, 2),
            item(
                "lock that holds the seat in on the road, and out at night",
                2,
                4,
            ),
        ]);
        for b in &mut out.boards {
            b.then
                .push("ease the edges you will touch; dry fit before glue".into());
        }
        Some(out)
    }
}

struct Work<'a> {
    c: &'a SlideSeat,
    m: &'a Maker<'a>,
    board: Value,
    width: Value,
    depth: Value,
    play: Value,
    strip: Value,
    /// Of what carries it: up to the seat's lower face.
    high: Value,
}

impl<'a> Work<'a> {
    fn new(c: &'a SlideSeat, m: &'a Maker<'a>) -> Work<'a> {
        let choice = |field: &str, label: &str, mm: f64| m.site.choice(field, label, mm);
        let top = choice("top", "seat", c.top);
        Work {
            c,
            m,
            board: choice("thickness", "board", c.thickness),
            width: choice("width", "width", c.width),
            depth: choice("depth", "depth", c.depth),
            high: choice("height", "height of the seat", c.height) - &top,
            play: Value::rule("slide_seat/play", "play", PLAY),
            strip: choice("strip", "strip at the back", c.strip),
        }
    }

    /// How many boards carry it.
    fn uprights(&self) -> u32 {
        let c = self.c;
        2 + (((c.width - c.thickness) / CARRIED).ceil().max(1.0) as u32 - 1)
    }

    /// From upright to upright, mm.
    fn step(&self) -> f64 {
        (self.c.width - self.c.thickness) / f64::from(self.uprights() - 1)
    }

    /// A level board, its grain along the bed.
    fn level(&self, id: (&str, &'static str, &str), x: f64, deep: &Value) -> Board {
        let c = self.c;
        let pose = Pose::level(self.high.mm);
        let size = (("depth", deep), ("length", &self.width));
        let mut board = self.m.board(id, c.top, pose, [x, 0.0], size);
        // Its lesser size is asked for as its width.
        for m in &mut board.measures {
            if m.about == "depth" {
                m.about = "width".into();
            }
        }
        board.grain = PartGrain::Across;
        board
    }

    /// Uprights between a rail at the foot and the back, and the strip that stays.
    fn base(&self, out: &mut Built) {
        let (c, m, t) = (self.c, self.m, self.c.thickness);
        // Behind the apron.
        let from = t + PLAY;
        let rail = Value::rule("slide_seat/rail", "rail", RAIL);
        out.boards.push(m.board(
            ("rail", "rail", "rail at the foot"),
            t,
            Pose::across(from),
            [0.0, 0.0],
            (("length", &self.width), ("height", &rail)),
        ));
        out.boards.push(m.board(
            ("back", "back", "back"),
            t,
            Pose::across(c.depth - t),
            [0.0, 0.0],
            (("length", &self.width), ("height", &self.high)),
        ));
        let before = (self.board.clone() * 2.0 + &self.play).named("apron and rail");
        let deep = &self.depth - &before - self.board.clone().named("back");
        for k in 0..self.uprights() {
            let id = format!("upright-{}", k + 1);
            let mut made = m.board(
                (&id, "upright", "upright"),
                t,
                Pose::along(t + self.step() * f64::from(k)),
                [from + t, 0.0],
                (("length", &deep), ("height", &self.high)),
            );
            made.places = vec![format!("{} from the right", k + 1)];
            out.boards.push(made);
            for end in ["rail", "back", "strip"] {
                out.joints.push(Joint::new(Fasten::Butt, end, id.clone()));
            }
        }
        let id = ("strip", "strip", "strip at the back");
        out.boards
            .push(self.level(id, c.depth - c.strip, &self.strip));
        out.joints.push(Joint::new(Fasten::Butt, "strip", "back"));
        let bays = self.uprights() - 1;
        for k in 1..=bays {
            let name = match bays {
                1 => m.name.clone(),
                _ => format!("{}, bay {k}", m.name),
            };
            out.rooms.push(Room {
                name,
                size: [self.step() - t, deep.mm, self.high.mm],
                body: FIXED.into(),
                opened_by: "seat".into(),
            });
        }
    }

    /// The seat, its apron and its keels.
    fn seat(&self, out: &mut Built) {
        let (c, m, t) = (self.c, self.m, self.c.thickness);
        let deep = &self.depth - &self.strip - &self.play;
        let mut seat = self.level(("seat", "top", "seat"), 0.0, &deep);
        seat.body = "seat".into();
        out.boards.push(seat);
        let glide = Value::rule("slide_seat/glide", "glide", GLIDE);
        let high = &self.high - glide;
        let mut apron = m.board(
            ("apron", "front", "apron"),
            t,
            Pose::across(0.0),
            [0.0, GLIDE],
            (("length", &self.width), ("height", &high)),
        );
        apron.body = "seat".into();
        apron
            .then
            .push("a hand hole near each end of its upper edge".into());
        out.boards.push(apron);
        let keel = Value::rule("slide_seat/keel", "keel", KEEL);
        let long = &deep - self.board.clone().named("apron") - &self.play;
        for (end, y) in [("right", 2.0 * t + PLAY), ("left", c.width - t - PLAY)] {
            let id = format!("keel-{end}");
            let mut made = m.board(
                (&id, "rail", "keel below the seat"),
                t,
                Pose::along(y),
                [t, self.high.mm - KEEL],
                (("length", &long), ("height", &keel)),
            );
            made.body = "seat".into();
            made.places = vec![format!(
                "inside the {end} upright: it keeps the seat square"
            )];
            out.boards.push(made);
            for over in ["seat", "apron"] {
                out.joints.push(Joint::new(Fasten::Butt, over, id.clone()));
            }
        }
        out.joints.push(Joint::new(Fasten::Butt, "seat", "apron"));
        out.bodies.push(Body {
            parent: None,
            id: format!("{}/seat", m.site.id),
            name: format!("seat of the {}", m.name),
            motion: Motion::Slide {
                along: m.frame.turn([-1.0, 0.0, 0.0]),
                travel: c.leaf,
            },
            eases: self.shorter(),
            change: Some(Changing {
                first: "cushions off".into(),
                words: [
                    format!("slid out {}", m.site.w.say(c.leaf)),
                    "slid in".into(),
                ],
                moved: format!("out {}", m.site.w.say(c.leaf)),
                frees: None,
                for_road: false,
                seconds: SECONDS / 2,
            }),
        });
        let between = vec![self.step(); (self.uprights() - 1) as usize];
        out.spans.push(Span {
            board: "seat".into(),
            name: format!("seat of the {}", m.name),
            spans: between,
            width: deep.mm,
            along: true,
            under: Under::Seat,
            eases: m.thicker("top", c.top),
        });
        // Slid out, its front lies between the apron and the rail's end of the uprights.
        out.spans.push(Span {
            board: "seat".into(),
            name: format!("seat of the {}, out", m.name),
            spans: vec![c.leaf + t + PLAY],
            width: c.width,
            along: false,
            under: Under::Seat,
            eases: m.thicker("top", c.top),
        });
    }

    /// The leaf: it stands behind the seat on the strip, and lies down once the seat is out.
    fn leaf(&self, out: &mut Built) {
        let (c, m) = (self.c, self.m);
        let x = c.seat();
        let long = m.site.choice("leaf", "leaf", c.leaf);
        let mut leaf = m.board(
            ("leaf", "top", "leaf"),
            c.top,
            Pose::across(x),
            [0.0, c.height],
            (("length", &self.width), ("width", &long)),
        );
        leaf.body = "leaf".into();
        out.boards.push(leaf);
        out.joints
            .push(Joint::new(Fasten::Lies, "strip", "leaf").apart());
        out.bodies.push(Body {
            parent: Some(format!("{}/seat", m.site.id)),
            id: format!("{}/leaf", m.site.id),
            name: format!("leaf of the {}", m.name),
            motion: Motion::Turn {
                at: m.frame.at([x, 0.0, c.height]),
                about: m.frame.turn([0.0, 1.0, 0.0]),
                most: 90.0,
            },
            eases: self.shorter(),
            change: Some(Changing {
                first: "the seat slid out".into(),
                words: [
                    format!("laid down: {} to lie on", m.site.w.say(c.depth + c.leaf)),
                    "stood up".into(),
                ],
                moved: "down".into(),
                frees: None,
                for_road: false,
                seconds: SECONDS / 2,
            }),
        });
        out.spans.push(Span {
            board: "leaf".into(),
            name: format!("leaf of the {}", m.name),
            spans: vec![self.step(); (self.uprights() - 1) as usize],
            width: c.leaf,
            along: true,
            under: Under::Seat,
            eases: m.thicker("top", c.top),
        });
    }

    /// What may help a seat or a leaf that meets something.
    fn shorter(&self) -> Vec<Ease> {
        let leaf = self.c.leaf - 60.0;
        let some = (leaf >= 150.0).then(|| Ease {
            label: format!("A leaf of {}", self.m.site.w.say(leaf)),
            cost: "the bed is narrower by as much".into(),
            pointer: "/choices/leaf".into(),
            value: leaf.into(),
            ..Ease::default()
        });
        some.into_iter().collect()
    }
}
