//! The boards of a sofa that becomes a bed, and how they move.

use super::{PLAY, SlideSeat};
use crate::furniture::built::{
    Board, Body, Built, Changing, Ease, FIXED, Fasten, Joint, Motion, Pose, Room, Span, Under,
};
use crate::furniture::kit::maker::Maker;
use crate::mechanics::material::PartGrain;
use crate::units::value::Value;

/// Height of the rail at the foot and of the keels below the seat, mm (choices).
const RAIL: f64 = 80.0;
const KEEL: f64 = 60.0;
/// The apron ends so far above the floor, on its glides, mm (a choice).
const GLIDE: f64 = 4.0;
/// Uprights stand no further apart than this, mm (a choice).
const CARRIED: f64 = 600.0;
/// Seconds it takes, cushions and all (a choice).
const SECONDS: u32 = 45;

/// A sofa being worked out.
pub(super) struct Work<'a> {
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
    pub(super) fn new(c: &'a SlideSeat, m: &'a Maker<'a>) -> Work<'a> {
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
    pub(super) fn uprights(&self) -> u32 {
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
        let size = (("width", deep), ("length", &self.width));
        let mut board = self.m.board(id, c.top, pose, [x, 0.0], size);
        board.grain = PartGrain::Across;
        board
    }

    /// Uprights between a rail at the foot and the back, and the strip that stays.
    pub(super) fn base(&self, out: &mut Built) {
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
    pub(super) fn seat(&self, out: &mut Built) {
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
                stays: String::new(),
                words: [
                    format!("slid out {}", m.site.w.say(c.leaf)),
                    "slid in".into(),
                ],
                moved: format!("out {}", m.site.w.say(c.leaf)),
                frees: None,
                for_road: false,
                past_front: 0.0,
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
    pub(super) fn leaf(&self, out: &mut Built) {
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
                stays: String::new(),
                words: [
                    format!("laid down: {} to lie on", m.site.w.say(c.depth + c.leaf)),
                    "stood up".into(),
                ],
                moved: "down".into(),
                frees: None,
                for_road: false,
                past_front: 0.0,
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
