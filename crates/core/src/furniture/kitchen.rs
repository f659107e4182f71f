//! A kitchen bay: a bay for water with the holes of its hose and wire, a cupboard under a stove, a bin that pulls out.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::built::{Built, FIXED, Item, Keep, MadeFor, Room, Span, Under};
use super::form::Form;
use super::kit::carcass::{Carcass, Cell};
use super::kit::door::{Door, Turns};
use super::kit::drawer::{self, THINGS};
use super::kit::drawer_box::{BottomJoint, Face, FaceKind, Making, Run};
use super::kit::frame::Opens;
use super::kit::grip::Grip;
use super::kit::hinges::Hinges;
use super::kit::maker::Maker;
use super::kit::style::Style;
use super::stands::{Piece, Stance, Standing};
use super::{Field, Site};
use crate::input::{escape, within};
use crate::problem::Problem;
use crate::project::Project;
use crate::project::module::named;
use crate::units::value::Value;

/// Least of a bay, of the depth and of the height, mm.
const BAY: f64 = 180.0;
const LEAST: [f64; 2] = [280.0, 350.0];
/// Room for fingers beside the water, mm: 1 in (common practice, no source).
const FINGERS: f64 = 25.4;
/// The holes for its hose and its wire, mm, and how far off the back they lie (choices).
const HOSE: f64 = 32.0;
const WIRE: f64 = 20.0;
const OFF_BACK: f64 = 60.0;
/// How the bin's box is made, mm (choices; the slide is what one of a usual pair takes: common practice, no source).
const SIDES: f64 = 12.0;
const BOTTOM: f64 = 9.0;
const SLIDE: f64 = 12.7;

/// The choices about a kitchen bay.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Kitchen {
    /// To which side it opens.
    pub opens: Opens,
    /// Width along its front, mm.
    pub width: f64,
    /// Depth, with doors and face, mm.
    pub depth: f64,
    /// Height of the worktop, mm.
    pub height: f64,
    /// The thing of the stow list that holds the water, by identifier; the bay is as wide as the others if null.
    #[serde(deserialize_with = "named")]
    pub water: Option<String>,
    /// What must stay free above the stove, mm: its maker says.
    pub over: f64,
    /// Material identifier.
    pub material: String,
    /// Thickness of its boards, mm.
    pub thickness: f64,
    /// Clearance to walls and wells, mm; from the readings and the finish if null.
    pub clearance: Option<f64>,
}

impl Default for Kitchen {
    fn default() -> Self {
        Kitchen {
            opens: Opens::Rear,
            width: 900.0,
            depth: 420.0,
            height: 700.0,
            water: None,
            over: 500.0,
            material: "birch-ply".into(),
            thickness: 15.0,
            clearance: None,
        }
    }
}

/// A kitchen bay.
pub struct KitchenKind;

/// Width, depth and height that the water asks for, mm.
fn needs(project: &Project, c: &Kitchen) -> Option<[f64; 3]> {
    let g = project.gear.get(c.water.as_ref()?)?;
    Some([g.w? + FINGERS, g.d?, g.h?])
}

impl Piece for KitchenKind {
    type Choices = Kitchen;

    fn name(&self) -> &'static str {
        "kitchen"
    }

    fn purpose(&self) -> &'static str {
        "To cook and wash up: water, a stove, a bin."
    }

    fn stance(&self, c: &Kitchen) -> Stance {
        Stance {
            opens: c.opens,
            size: [c.width, c.depth, c.height],
            least: [
                3.0 * BAY + 4.0 * c.thickness,
                LEAST[0] + 2.0 * c.thickness,
                LEAST[1],
            ],
            clearance: c.clearance,
            material: c.material.clone(),
            thickness: c.thickness,
            reach: c.depth,
        }
    }

    fn resize(&self, c: &mut Kitchen, size: [f64; 3]) {
        [c.width, c.depth, c.height] = size;
    }

    fn suit(&self, c: &mut Kitchen, site: &Site, said: &dyn Fn(&str) -> bool) {
        let Some([w, d, h]) = needs(site.project, c) else {
            return;
        };
        if !said("width") {
            c.width = c.width.max(w + 2.0 * BAY + 4.0 * c.thickness);
        }
        if !said("depth") {
            c.depth = c.depth.max(d + 2.0 * c.thickness);
        }
        if !said("height") {
            c.height = c.height.max(h + 2.0 * c.thickness);
        }
    }

    fn check(&self, c: &Kitchen, project: &Project, _: f64) -> Result<(), Problem> {
        within(c.over, "/choices/over", 0.0, 2000.0)?;
        let Some(id) = &c.water else {
            return Ok(());
        };
        if !project.gear.contains_key(id) {
            let ids: Vec<&str> = project.gear.keys().map(String::as_str).collect();
            let words = format!("There is nothing \"{id}\" on the stow list.");
            return Err(Problem::missing("/choices/water", words).allowing(ids.join(", ")));
        }
        let Some([w, ..]) = needs(project, c) else {
            return Ok(());
        };
        let least = w + 2.0 * BAY + 4.0 * c.thickness;
        if c.width < least {
            return Err(Problem::out_of_range(
                "/choices/width",
                format!("The water takes {w:.0} mm of it: too little is left."),
                format!("at least {least:.0}"),
            ));
        }
        Ok(())
    }

    fn fields(&self, c: &Kitchen, f: &Form, site: &Site) -> Vec<Field> {
        let gear = site.project.gear.iter();
        let mut things = vec![(String::new(), "not said yet".to_string())];
        things.extend(gear.map(|(id, g)| (id.clone(), g.name.clone())));
        vec![
            f.some_of("water", "Water", c.water.as_deref(), things)
                .why("its bay is as wide as that and a finger"),
            f.length("over", "Free above the stove", Some(c.over))
                .why("its maker says how much, to the sides too"),
        ]
    }

    fn built(&self, c: &Kitchen, at: &Standing) -> Option<Built> {
        let site = at.site;
        let needs = match &c.water {
            Some(_) => Some(needs(site.project, c)?),
            None => None,
        };
        let m = Maker::new(at, "K", &c.material, c.opens);
        let board = site.choice("thickness", "board", c.thickness);
        let given = needs.zip(c.water.as_ref()).map(|([w, ..], id)| {
            let at = format!("/gear/{}/w", escape(id));
            let fingers = Value::rule("kitchen/fingers", "room for fingers", FINGERS);
            (0, Value::choice(at, "water", w - FINGERS) + fingers)
        });
        let carcass = Carcass {
            size: [
                site.choice("width", "width", c.width),
                site.choice("depth", "depth", c.depth) - board.clone().named("door before it"),
                site.choice("height", "height", c.height),
            ],
            before: c.thickness,
            board: board.clone(),
            back: Some(board.clone().named("back")),
            style: Style::default(),
            bottom: true,
            top: true,
            columns: 3,
            rows: 1,
            given: given.into_iter().collect(),
        };
        let cells = carcass.cells();
        let [water, stove, bin] = <[Cell; 3]>::try_from(cells).ok()?;
        let mut out = Built {
            boards: carcass.boards(&m),
            joints: carcass.joints(),
            ..Built::default()
        };
        pierced(&mut out, &carcass, &water, &board);
        for (cell, what, body, turns) in [
            (&water, "water", "door-water", Turns::Right),
            (&stove, "cupboard", "door-cupboard", Turns::Left),
        ] {
            let name = format!("{}, {what}", at.name);
            let [w, h, d] = cell.size.clone().map(|v| v.mm);
            out.rooms.push(Room {
                name: name.clone(),
                size: [w, d, h],
                body: FIXED.into(),
                opened_by: body.into(),
            });
            let on = match turns {
                Turns::Right => carcass.upright_of(cell.column),
                _ => carcass.upright_of(cell.column + 1),
            };
            let door = Door {
                maker: m.called(&name, "K"),
                body: body.into(),
                cell,
                overlap: overlap(&board),
                board: board.clone(),
                turns,
                on,
                hinges: Hinges::Butt,
                grip: Grip::Handle,
            };
            out.take(door.made());
        }
        out.take(self.bin(c, &m, &bin, at));
        if let (Some(id), Some(_)) = (&c.water, needs) {
            let [w, h, d] = water.size.clone().map(|v| v.mm);
            out.made_for.push(MadeFor {
                gear: id.clone(),
                size: [w - FINGERS, d, h],
                bay: water.bay(&m.frame),
                out: m.frame.turn([-1.0, 0.0, 0.0]),
            });
            out.rooms.retain(|r| r.opened_by != "door-water");
        }
        let all: f64 = carcass.widths().iter().map(|w| w.mm).sum();
        out.spans.push(Span {
            board: "carcass-top".into(),
            name: format!("worktop of the {}", at.name),
            spans: carcass.widths().iter().map(|w| w.mm).collect(),
            width: c.depth,
            along: carcass.wide(),
            under: Under::Things(THINGS * all * c.depth * 1e-6),
            eases: m.thicker("thickness", c.thickness),
        });
        let [y0, wide] = [stove.at[1], stove.size[0].mm];
        let corner = |p: [f64; 3]| m.frame.at(p);
        out.keeps.push(Keep {
            id: "stove",
            a: corner([0.0, y0, c.height]),
            b: corner([c.depth, y0 + wide, c.height + c.over]),
            why: format!("the stove of the {}", at.name),
            flame: true,
        });
        out.hardware.extend([
            item(site, "grommet for the hose of the water", HOSE),
            item(site, "grommet for a wire", WIRE),
        ]);
        for b in &mut out.boards {
            b.then
                .push("pilot every screw into an edge; dry fit before glue".into());
        }
        Some(out)
    }
}

fn item(site: &Site, what: &str, mm: f64) -> Item {
    Item::new(what, 1, 0).sized(site.w.say(mm))
}

/// A door or face laps over the half of a board between two bays, less half the gap between two of them.
fn overlap(board: &Value) -> Value {
    (board * 0.5).named("half the board between")
        - Value::rule("drawer/between", "half the gap between faces", 1.5)
}

/// The hose comes up through the worktop over the water, a wire goes into the cupboard beside it.
fn pierced(out: &mut Built, carcass: &Carcass, water: &Cell, board: &Value) {
    let [w, _, d] = water.size.clone().map(|v| v.mm);
    let back = water.at[0] + d - OFF_BACK;
    let high = carcass.size[2].mm - 2.0 * board.mm - OFF_BACK;
    for (id, at, wide) in [
        ("carcass-top", [back, water.at[1] + w / 2.0], HOSE),
        ("carcass-divider-1", [back, board.mm + high], WIRE),
    ] {
        if let Some(b) = out.boards.iter_mut().find(|b| b.id == id) {
            b.vents.push((at, wide));
            b.then.push(format!(
                "a hole for the {}, its edge rounded",
                if wide > WIRE { "hose" } else { "wire" }
            ));
        }
    }
}

impl KitchenKind {
    /// A bin: a drawer as high as the bay.
    fn bin(&self, c: &Kitchen, m: &Maker, cell: &Cell, at: &Standing) -> Built {
        let board = m.site.choice("thickness", "board", c.thickness);
        let making = Making {
            opening: cell.size.clone(),
            motion: Run::SideSlides,
            slide_width: Value::rule("kitchen/slide", "slide", SLIDE),
            strip: Value::zero(),
            gap: Value::rule("drawer/gap", "gap", 2.0),
            back_gap: Value::rule("drawer/back-gap", "air behind", 10.0),
            sides: Value::rule(
                "kitchen/sides",
                "side of the box",
                m.site.board(&c.material, SIDES),
            ),
            bottom: Value::rule(
                "kitchen/bottom",
                "bottom",
                m.site.board(&c.material, BOTTOM),
            ),
            joint: BottomJoint::Pocket,
            groove: Value::zero(),
            face: Some(Face {
                kind: FaceKind::Overlay,
                overlap: overlap(&board),
                gap: Value::zero(),
                thickness: board.named("face"),
            }),
            above: Value::zero(),
            finish: Value::choice(
                format!("{}/finish", m.site.pointer()),
                "finish on a face",
                at.finish,
            ),
        };
        drawer::Drawer {
            maker: m.clone(),
            making: &making,
            prefix: "bin-".into(),
            name: format!("{}, bin", at.name),
            body: "bin".into(),
            at: cell.at,
            face: 0.0,
            eases: vec![],
            cells: [1, 1],
            runs: vec![],
            parent: None,
            covers: None,
            grip: Grip::Handle,
            drops: false,
        }
        .made()
    }
}
