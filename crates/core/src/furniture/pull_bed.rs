//! A bed of two combs: slats on a frame along a wall, and between them those of a plank that is pulled out on legs. A seat
//! by day. A thin sheet below keeps the moving slats from dropping, and what lies on them from falling through.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::built::{
    Bed, Body, Built, Changing, Ease, FIXED, Fasten, Item, Joint, Motion, Pose, Room, Sat, Span,
    Under,
};
use super::form::Form;
use super::kit::comb::Comb;
use super::kit::frame::Opens;
use super::kit::maker::Maker;
use super::stands::{Piece, Stance, Standing};
use super::{Amount, Field, Site};
use crate::input::within;
use crate::mechanics::material::PartGrain;
use crate::problem::Problem;
use crate::project::Project;
use crate::units::value::Value;

/// Least width, mm: shorter is no bed.
const SHORT: f64 = 600.0;
/// A bed is longer than who lies in it by so much, mm (common practice, no source).
const OVER: f64 = 120.0;
/// Height of the rails and of the plank, mm (a choice).
const RAIL: f64 = 80.0;
/// Below them at least so much, mm (a choice).
const BELOW: f64 = 80.0;
/// Width of a leg, mm, and what its glide lifts it off the floor (choices).
const LEG: f64 = 60.0;
const GLIDE: f64 = 3.0;
/// Play between what slides past each other, mm (a choice).
const PLAY: f64 = 2.0;
/// It comes out by at least so much, mm.
const OUT: f64 = 100.0;
/// The rails are carried at least every so many mm (a choice).
const CARRIED: f64 = 700.0;
/// A slat is about so wide, mm (a choice: one of 18 mm carries a knee in the middle of half a metre).
const SLAT: f64 = 90.0;
/// Seconds it takes to pull it out, and to make the bed again: out in a minute (common practice, no source).
const SECONDS: u32 = 60;

/// The choices about a bed that is pulled out.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct PullBed {
    /// To which side it is pulled out.
    pub opens: Opens,
    /// Width, square to that: how long the bed is, mm.
    pub width: f64,
    /// Depth pushed in, mm.
    pub depth: f64,
    /// Height of the slats' upper face, mm.
    pub height: f64,
    /// How far the slats still lie between each other when it is out, mm.
    pub overlap: f64,
    /// Material identifier.
    pub material: String,
    /// Thickness of the frame, mm.
    pub thickness: f64,
    /// Thickness of the slats, mm.
    pub slat: f64,
    /// Thickness of the sheet below them, mm.
    pub sheet: f64,
    /// Clearance to walls and wells, mm; from the readings and the finish if null.
    pub clearance: Option<f64>,
}

impl Default for PullBed {
    fn default() -> Self {
        PullBed {
            opens: Opens::Left,
            width: 1900.0,
            depth: 550.0,
            height: 360.0,
            overlap: 75.0,
            material: "birch-ply".into(),
            thickness: 15.0,
            slat: 18.0,
            sheet: 6.0,
            clearance: None,
        }
    }
}

impl PullBed {
    /// What stands before the slats of the frame: the plank and its legs.
    fn before(&self) -> f64 {
        2.0 * self.thickness + PLAY
    }

    /// How many slats lie on the frame; one fewer on the plank.
    fn slats(&self) -> u32 {
        let pitch = 2.0 * (SLAT + super::kit::comb::GAP);
        ((self.width + SLAT) / pitch).round().clamp(2.0, 60.0) as u32
    }
}

/// A bed that is pulled out.
pub struct PullBedKind;

impl Piece for PullBedKind {
    type Choices = PullBed;

    fn name(&self) -> &'static str {
        "pull_bed"
    }

    fn purpose(&self) -> &'static str {
        "To sit on by day and sleep on by night: slats that are pulled out."
    }

    fn called(&self) -> Option<&'static str> {
        Some("pull-out bed")
    }

    fn stance(&self, c: &PullBed) -> Stance {
        Stance {
            opens: c.opens,
            size: [c.width, c.depth, c.height],
            least: [
                SHORT,
                c.before() + 2.0 * PLAY + c.overlap + OUT,
                BELOW + RAIL + c.slat,
            ],
            clearance: c.clearance,
            material: c.material.clone(),
            thickness: c.thickness,
            reach: c.depth - c.before() - PLAY - c.overlap,
        }
    }

    fn resize(&self, c: &mut PullBed, size: [f64; 3]) {
        [c.width, c.depth, c.height] = size;
    }

    fn suit(&self, c: &mut PullBed, site: &Site, said: &dyn Fn(&str) -> bool) {
        let tallest = site.project.people.values().filter_map(|p| p.stature);
        let tallest = tallest.fold(0.0, f64::max);
        if !said("width") && tallest > 0.0 {
            c.width = (tallest + OVER).clamp(SHORT, 2400.0);
        }
    }

    fn amount(&self, c: &PullBed) -> Amount {
        Amount::of(2, c.slats(), "/choices/width")
    }

    fn check(&self, c: &PullBed, _: &Project, _: f64) -> Result<(), Problem> {
        within(c.overlap, "/choices/overlap", 50.0, 300.0)?;
        within(c.slat, "/choices/slat", 9.0, 30.0)?;
        within(c.sheet, "/choices/sheet", 3.0, 12.0)?;
        Ok(())
    }

    fn fields(&self, c: &PullBed, f: &Form, _: &Site) -> Vec<Field> {
        vec![
            f.length("overlap", "Slats stay between each other", Some(c.overlap))
                .why("more is stronger when it is out, and makes the bed narrower"),
            f.length("slat", "Slats", Some(c.slat))
                .why("thickness; a knee bends one"),
            f.length("sheet", "Sheet below them", Some(c.sheet))
                .why("keeps them from dropping"),
        ]
    }

    fn built(&self, c: &PullBed, at: &Standing) -> Option<Built> {
        let mut out = self.frame(c, at);
        let m = &maker(c, at);
        let site = at.site;
        let board = site.choice("thickness", "board", c.thickness);
        let width = site.choice("width", "width", c.width);
        let top = c.height - c.slat;
        let depth = site.choice("depth", "depth", c.depth);
        let play = Value::rule("pull_bed/play", "play", PLAY);
        let before = (board * 2.0 + &play).named("plank and legs");
        let comb = Comb {
            maker: m.clone(),
            wide: width.clone(),
            count: c.slats(),
            thickness: c.slat,
            z: top,
            fixed: (c.before(), depth.clone() - &before),
            moving: (0.0, depth - &play),
            body: "plank",
            on: (["rail-front", "rail-back"], "plank"),
        };
        out.take(comb.made());
        self.plank(c, m, &width, &mut out);
        let travel = c.depth - c.before() - PLAY - c.overlap;
        let wide = c.depth + travel;
        out.bodies.push(Body {
            parent: None,
            id: format!("{}/plank", site.id),
            name: format!("plank of the {}", at.name),
            motion: Motion::Slide {
                along: m.frame.turn([-1.0, 0.0, 0.0]),
                travel,
            },
            eases: more(site, c),
            change: Some(Changing {
                first: "cushions off the slats".into(),
                stays: String::new(),
                words: [
                    format!(
                        "pulled out {}: {} to lie on",
                        site.w.say(travel),
                        site.w.say(wide)
                    ),
                    "pushed in".into(),
                ],
                moved: format!("out {}", site.w.say(travel)),
                frees: None,
                for_road: false,
                past_front: 0.0,
                seconds: SECONDS,
            }),
        });
        let corners =
            [[-travel, 0.0], [c.depth, c.width]].map(|[x, y]| m.frame.at([x, y, c.height]));
        let end = |pick: fn(f64, f64) -> f64| [0, 1].map(|k| pick(corners[0][k], corners[1][k]));
        out.beds.push(Bed {
            name: at.name.clone(),
            body: Some("plank"),
            low: end(f64::min),
            high: end(f64::max),
            top: corners[0][2],
            mean: None,
            sat: Some(Sat {
                seat: c.depth,
                whole: c.depth + travel,
                height: c.height,
            }),
        });
        let stiffer = m.thicker("slat", c.slat);
        out.spans.push(Span {
            board: "slat-moving-1".into(),
            name: format!("slats of the {}, pulled out", at.name),
            spans: vec![travel + c.overlap - 2.0 * c.thickness],
            width: comb.each().mm,
            along: true,
            under: Under::Seat,
            eases: stiffer.clone(),
        });
        out.spans.push(Span {
            board: "slat-1".into(),
            name: format!("slats of the {}", at.name),
            spans: vec![c.depth - c.before() - 2.0 * c.thickness],
            width: comb.each().mm,
            along: true,
            under: Under::Seat,
            eases: stiffer,
        });
        for b in &mut out.boards {
            b.then
                .push("ease the edges you will touch; dry fit before glue".into());
        }
        Some(out)
    }
}

fn maker<'a>(c: &PullBed, at: &Standing<'a>) -> Maker<'a> {
    Maker::new(at, "B", &c.material, c.opens)
}

/// What may help a plank that meets something.
fn more(site: &Site, c: &PullBed) -> Vec<Ease> {
    let overlap = c.overlap + 50.0;
    let shorter = (overlap <= 300.0).then(|| Ease {
        label: format!("Let {} of the slats stay in", site.w.say(overlap)),
        cost: "the bed is narrower by as much".into(),
        pointer: "/choices/overlap".into(),
        value: overlap.into(),
        ..Ease::default()
    });
    shorter.into_iter().collect()
}

impl PullBedKind {
    /// Uprights, the two rails that carry the slats, and the sheet between them.
    fn frame(&self, c: &PullBed, at: &Standing) -> Built {
        let (m, site) = (&maker(c, at), at.site);
        let t = c.thickness;
        let board = || site.choice("thickness", "board", t);
        let width = site.choice("width", "width", c.width);
        let top = site.choice("height", "height", c.height) - site.choice("slat", "slats", c.slat);
        let upright = top.clone() - site.choice("sheet", "sheet", c.sheet);
        let before = board() * 2.0 + Value::rule("pull_bed/play", "play", PLAY);
        let between = (site.choice("depth", "depth", c.depth)
            - before.named("plank and legs")
            - board().named("rail") * 2.0)
            .named("between the rails");
        let rail = Value::rule("pull_bed/rail", "rail", RAIL);
        let front = c.before();
        let mut out = Built::default();
        for (id, x, words) in [
            ("rail-front", front, "front rail"),
            ("rail-back", c.depth - t, "back rail"),
        ] {
            let mut made = m.board(
                (id, "rail", words),
                t,
                Pose::across(x),
                [0.0, top.mm - RAIL],
                (("length", &width), ("height", &rail)),
            );
            made.places = vec![words.into()];
            out.boards.push(made);
        }
        let bays = ((c.width - t) / CARRIED).ceil().max(1.0) as u32;
        let step = (c.width - t) / f64::from(bays);
        for k in 0..=bays {
            let id = format!("upright-{}", k + 1);
            out.boards.push(m.board(
                (&id, "upright", "upright"),
                t,
                Pose::along(t + step * f64::from(k)),
                [front + t, 0.0],
                (("length", &between), ("height", &upright)),
            ));
            for rail in ["rail-front", "rail-back"] {
                out.joints.push(Joint::new(Fasten::Butt, rail, id.clone()));
            }
            out.joints.push(Joint::new(Fasten::Butt, "sheet", id));
        }
        let mut sheet = m.board(
            ("sheet", "bottom", "sheet below the slats"),
            c.sheet,
            Pose::level(upright.mm),
            [front + t, 0.0],
            (("width", &between), ("length", &width)),
        );
        sheet.grain = PartGrain::Free;
        out.boards.push(sheet);
        let free = step - t;
        let under = top.mm - RAIL;
        for k in 1..=bays {
            let name = if bays > 1 {
                format!("{}, bay {k}", at.name)
            } else {
                at.name.clone()
            };
            out.rooms.push(Room {
                name,
                size: [free, between.mm, under],
                body: FIXED.into(),
                opened_by: FIXED.into(),
            });
        }
        out.spans.push(Span {
            board: "rail-front".into(),
            name: format!("front rail of the {}", at.name),
            spans: vec![free; bays as usize],
            width: t,
            along: true,
            under: Under::Edge(RAIL),
            eases: m.thicker("thickness", t),
        });
        out
    }

    /// The plank and its legs: one at each end and between, so that nothing of it sags.
    fn plank(&self, c: &PullBed, m: &Maker, width: &Value, out: &mut Built) {
        let t = c.thickness;
        let top =
            m.site.choice("height", "height", c.height) - m.site.choice("slat", "slats", c.slat);
        let rail = Value::rule("pull_bed/rail", "plank", RAIL);
        let mut plank = m.board(
            ("plank", "rail", "plank that is pulled out"),
            t,
            Pose::across(0.0),
            [0.0, top.mm - RAIL],
            (("length", width), ("height", &rail)),
        );
        plank.body = "plank".into();
        plank
            .then
            .push("two hand slots; a stop ends its way".into());
        out.boards.push(plank);
        let glide = Value::rule("pull_bed/glide", "glide below it", GLIDE);
        let (high, wide) = (top - glide, Value::rule("pull_bed/leg", "leg", LEG));
        let legs = 2 + ((c.width - LEG) / CARRIED).floor() as u32;
        let step = (c.width - LEG) / f64::from(legs - 1);
        for k in 0..legs {
            let id = format!("leg-{}", k + 1);
            let mut leg = m.board(
                (&id, "leg", "leg of the plank"),
                t,
                Pose::across(t),
                [step * f64::from(k), GLIDE],
                (("width", &wide), ("height", &high)),
            );
            leg.body = "plank".into();
            out.boards.push(leg);
            out.joints.push(Joint::new(Fasten::Face, id, "plank"));
        }
        out.hardware.extend([
            Item::new("furniture glide below a leg", legs, 1),
            Item::new("stop that ends the way of the plank", 2, 2),
            Item::new(
                "turn button or latch that holds the plank in on the road",
                2,
                2,
            )
            .shutting("plank"),
        ]);
    }
}
