//! A bench with bays under lids, and one open in front for an appliance.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::built::{
    Axis, Board, Built, Ease, FIXED, Fasten, Joint, MadeFor, Measure, Pose, Room, Span, Under,
};
use super::form::Form;
use super::kit::carcass::{Carcass, Cell};
use super::kit::frame::{Frame, Opens};
use super::kit::lid::{self, GAP};
use super::kit::maker::Maker;
use super::stands::{Piece, Stance, Standing};
use super::{Field, Site};
use crate::geometry::region::Region;
use crate::input::{escape, within};
use crate::problem::Problem;
use crate::project::Project;
use crate::project::check::optional;
use crate::project::module::named;
use crate::units::value::Value;

/// Least width of a bay with a board, depth and height, mm.
const LEAST: [f64; 3] = [180.0, 260.0, 200.0];
/// Most bays.
const MOST: u32 = 6;

/// At which end the appliance stands, seen from the front.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum End {
    /// At the right one.
    #[default]
    Right,
    /// At the left one.
    Left,
}

/// The choices about a bench.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Bench {
    /// To which side its front looks.
    pub opens: Opens,
    /// Width along its front, mm.
    pub width: f64,
    /// Depth from front to back, mm.
    pub depth: f64,
    /// Height with its lids, mm.
    pub height: f64,
    /// Bays.
    pub bays: u32,
    /// The thing of the stow list that an open bay is made for, by identifier; none if null.
    #[serde(deserialize_with = "named")]
    pub appliance: Option<String>,
    /// At which end it stands.
    pub end: End,
    /// Room for fingers and slide beside the appliance, mm.
    pub fingers: f64,
    /// The hinges lie so far before the back, mm.
    pub hinge: f64,
    /// Material identifier.
    pub material: String,
    /// Thickness of its uprights, mm.
    pub thickness: f64,
    /// Thickness of its lids, mm.
    pub lid: f64,
    /// Clearance to walls and wells, mm; from the readings and the finish if null.
    pub clearance: Option<f64>,
}

impl Default for Bench {
    fn default() -> Self {
        Bench {
            opens: Opens::Right,
            width: 1000.0,
            depth: 450.0,
            height: 400.0,
            bays: 2,
            appliance: None,
            end: End::Right,
            // 19 in and 1 in: uprights 20 in (common practice, no source).
            fingers: 25.4,
            hinge: 60.0,
            material: "birch-ply".into(),
            thickness: 15.0,
            lid: 12.0,
            clearance: None,
        }
    }
}

/// A bench.
pub struct BenchKind;

/// What the appliance asks of its bay: width, depth, height, mm. Nothing while it is not measured.
fn needs(project: &Project, c: &Bench) -> Option<[f64; 3]> {
    let g = project.gear.get(c.appliance.as_ref()?)?;
    Some([g.w? + c.fingers, g.d? + g.air, g.h? + g.slide + g.air])
}

impl Piece for BenchKind {
    type Choices = Bench;

    fn name(&self) -> &'static str {
        "bench"
    }

    fn purpose(&self) -> &'static str {
        "To sit on, over bays with lids and a place for an appliance."
    }

    fn stance(&self, c: &Bench) -> Stance {
        let [bay, deep, high] = LEAST;
        Stance {
            opens: c.opens,
            size: [c.width, c.depth, c.height],
            least: [
                bay * f64::from(c.bays.clamp(1, MOST)) + c.thickness,
                deep.max(2.0 * c.hinge + c.thickness),
                high,
            ],
            clearance: c.clearance,
            material: c.material.clone(),
            thickness: c.thickness,
            reach: if c.appliance.is_some() { c.depth } else { 0.0 },
        }
    }

    fn resize(&self, c: &mut Bench, size: [f64; 3]) {
        [c.width, c.depth, c.height] = size;
    }

    fn suit(&self, c: &mut Bench, site: &Site, said: &dyn Fn(&str) -> bool) {
        let n = f64::from(c.bays.clamp(1, MOST));
        if !said("width") {
            c.width = c.width.max(400.0 * n);
        }
        let Some([_, deep, high]) = needs(site.project, c) else {
            return;
        };
        // Front, back, bottom and lid are round it.
        if !said("depth") {
            c.depth = c.depth.max(deep + 2.0 * c.thickness);
        }
        if !said("height") {
            c.height = c.height.max(high + c.thickness + c.lid);
        }
    }

    fn check(&self, c: &Bench, project: &Project, _: f64) -> Result<(), Problem> {
        within(f64::from(c.bays), "/choices/bays", 1.0, f64::from(MOST))?;
        within(c.lid, "/choices/lid", 6.0, 30.0)?;
        within(c.fingers, "/choices/fingers", 0.0, 200.0)?;
        within(c.hinge, "/choices/hinge", 20.0, c.depth / 2.0)?;
        optional(c.clearance, "/choices/clearance", 0.0, 200.0)?;
        let Some(id) = &c.appliance else {
            return Ok(());
        };
        if !project.gear.contains_key(id) {
            let ids: Vec<&str> = project.gear.keys().map(String::as_str).collect();
            let words = format!("There is nothing \"{id}\" on the stow list.");
            return Err(Problem::missing("/choices/appliance", words).allowing(ids.join(", ")));
        }
        let Some([w, ..]) = needs(project, c) else {
            return Ok(());
        };
        let others = f64::from(c.bays - 1);
        let left = c.width - (others + 2.0) * c.thickness - w;
        let least = others * 60.0;
        if left < least || (c.bays == 1 && left < 0.0) {
            return Err(Problem::out_of_range(
                "/choices/width",
                format!("The appliance takes {w:.0} mm of it: too little is left."),
                format!("at least {:.0}", c.width + least - left),
            ));
        }
        Ok(())
    }

    fn fields(&self, c: &Bench, f: &Form, site: &Site) -> Vec<Field> {
        let gear = site.project.gear.iter();
        let mut things = vec![(String::new(), "nothing".to_string())];
        things.extend(gear.map(|(id, g)| (id.clone(), g.name.clone())));
        vec![
            f.count("bays", "Bays", Some(c.bays)),
            f.some_of(
                "appliance",
                "An open bay for",
                c.appliance.as_deref(),
                things,
            ),
            f.choice(
                "end",
                "It stands",
                &[("right", "at the right end"), ("left", "at the left end")],
            )
            .why("seen from the front: mirrored where something is in the way"),
            f.length("fingers", "Room beside it", Some(c.fingers))
                .why("for fingers, and the slide it stands on"),
            f.length("hinge", "Hinges off the back", Some(c.hinge))
                .why("far enough that the lids stand up"),
            f.length("lid", "Lids", Some(c.lid)),
        ]
    }

    fn built(&self, c: &Bench, at: &Standing) -> Option<Built> {
        let site = at.site;
        let needs = match &c.appliance {
            Some(_) => Some(needs(site.project, c)?),
            None => None,
        };
        let maker = Maker {
            site,
            name: at.name.clone(),
            letter: "N",
            material: c.material.clone(),
            frame: Frame::new(&at.spot, c.opens),
        };
        let board = site.choice("thickness", "board", c.thickness);
        let front = board.clone().named("front before it");
        let over = site.choice("lid", "lid", c.lid);
        let open = match c.end {
            End::Right => 0,
            End::Left => c.bays - 1,
        };
        let given = needs.zip(c.appliance.clone()).map(|([w, ..], id)| {
            let size = Value::choice(
                format!("/gear/{}/w", escape(&id)),
                "appliance",
                w - c.fingers,
            );
            (
                open,
                size + site.choice("fingers", "room beside it", c.fingers),
            )
        });
        let carcass = Carcass {
            size: [
                site.choice("width", "width", c.width),
                site.choice("depth", "depth", c.depth) - front,
                site.choice("height", "height", c.height) - &over,
            ],
            before: c.thickness,
            foot: 0.0,
            board: board.clone(),
            back: Some(board.clone()),
            bottom: true,
            top: false,
            columns: c.bays,
            rows: 1,
            given: given.clone(),
        };
        let mut out = Built {
            boards: carcass.boards(&maker),
            joints: carcass.joints(),
            ..Built::default()
        };
        let work = Work {
            c,
            maker: &maker,
            carcass: &carcass,
            cells: carcass.cells(),
            open: given.is_some().then_some(open),
            board,
        };
        work.front(&mut out);
        work.tops(&mut out);
        if let (Some(open), Some(gear)) = (work.open, &c.appliance) {
            let cell = work.cells.get(open as usize)?;
            let [w, h, d] = cell.size.clone().map(|v| v.mm);
            out.made_for.push(MadeFor {
                gear: gear.clone(),
                size: [w - c.fingers, d, h],
            });
        }
        for b in &mut out.boards {
            b.then
                .push("pilot every screw into an edge; dry fit before glue".into());
        }
        Some(out)
    }
}

/// A bench being worked out.
struct Work<'a> {
    c: &'a Bench,
    maker: &'a Maker<'a>,
    carcass: &'a Carcass,
    cells: Vec<Cell>,
    /// The bay that is open in front, under a fixed top.
    open: Option<u32>,
    board: Value,
}

impl Work<'_> {
    /// From where to where a bay reaches on top: to the middle of the boards beside it, or to the end.
    fn reach(&self, column: u32) -> (f64, f64) {
        let t = self.c.thickness;
        let Some(cell) = self.cells.get(column as usize) else {
            return (0.0, 0.0);
        };
        let [_, y, _] = cell.at;
        let low = if column == 0 {
            0.0
        } else {
            y - t / 2.0 + GAP / 2.0
        };
        let high = match column + 1 == self.c.bays {
            true => self.c.width,
            false => y + cell.size[0].mm + t / 2.0 - GAP / 2.0,
        };
        (low, high)
    }

    fn upright(&self, column: u32) -> String {
        match column {
            0 => "carcass-right".into(),
            c if c == self.c.bays => "carcass-left".into(),
            c => format!("carcass-divider-{c}"),
        }
    }

    /// A board on top, `x` from the front and `y` from the right.
    fn level(
        &self,
        (id, role, words): (&str, &'static str, &str),
        x: (f64, f64),
        y: (f64, f64),
        deep: &Value,
    ) -> Board {
        let (c, m) = (self.c, self.maker);
        let shape = Region::rectangle(x.0, y.0, x.1, y.1);
        let pose = m.frame.pose(Pose::level(c.height - c.lid));
        Board {
            name: format!("{}, {words}", m.name),
            material: m.material.clone(),
            thickness: c.lid,
            measures: vec![Measure::whole(Axis::U, "width", deep.clone())],
            ..Board::new(id, role, m.letter, shape, pose)
        }
    }

    /// A board before all closed bays.
    fn front(&self, out: &mut Built) {
        let (c, t) = (self.c, self.c.thickness);
        let [width, _, height] = &self.carcass.size;
        let whole = width.clone();
        let open = self.open.and_then(|o| self.cells.get(o as usize));
        let (from, long) = match (open, c.end) {
            (None, _) => (0.0, whole),
            (Some(_), _) if c.bays == 1 => return,
            (Some(cell), End::Right) => {
                let taken = &cell.size[0] + self.board.clone().named("side of the carcass");
                (taken.mm, whole - taken)
            }
            (Some(cell), End::Left) => {
                let taken = &cell.size[0] + self.board.clone().named("side of the carcass");
                (0.0, whole - taken)
            }
        };
        out.boards.push(self.maker.board(
            ("front", "front", "front"),
            t,
            Pose::across(0.0),
            [from, 0.0],
            (("length", &long), ("height", height)),
        ));
        for k in 0..=c.bays {
            let open = self.open;
            let outside = match c.end {
                End::Right => open.is_some() && k == 0,
                End::Left => open.is_some() && k == c.bays,
            };
            if !outside {
                out.joints
                    .push(Joint::new(Fasten::Butt, "front", self.upright(k)));
            }
        }
        out.joints
            .push(Joint::new(Fasten::Butt, "front", "carcass-bottom"));
    }

    /// Lids over the closed bays, hung on a strip at the back; a fixed top over the open one.
    fn tops(&self, out: &mut Built) {
        let (c, m) = (self.c, self.maker);
        let site = m.site;
        let depth = site.choice("depth", "depth", c.depth);
        let hinge = site.choice("hinge", "hinges off the back", c.hinge);
        let gap = Value::rule("lid/gap", "gap at the hinge", GAP);
        let (strip, lid) = (&hinge - gap, &depth - hinge);
        let closed: Vec<u32> = (0..c.bays).filter(|k| Some(*k) != self.open).collect();
        let ends = closed.first().zip(closed.last());
        if let Some((first, last)) = ends {
            let (from, to) = (self.reach(*first).0, self.reach(*last).1);
            let x = (c.depth - strip.mm, c.depth);
            let id = ("strip", "strip", "fixed strip at the back");
            out.boards.push(self.level(id, x, (from, to), &strip));
            out.joints
                .push(Joint::new(Fasten::Butt, "strip", "carcass-back"));
        }
        for k in 0..c.bays {
            let (from, to) = self.reach(k);
            let open = Some(k) == self.open;
            let n = k + 1;
            let id = if open {
                "top".to_string()
            } else {
                format!("lid-{n}")
            };
            let words = if open {
                "fixed top".to_string()
            } else {
                format!("lid {n}")
            };
            let long = if open { &depth } else { &lid };
            let role = if open { "top" } else { "lid" };
            let mut board = self.level((&id, role, &words), (0.0, long.mm), (from, to), long);
            let Some(cell) = self.cells.get(k as usize) else {
                continue;
            };
            let [w, h, d] = cell.size.clone().map(|v| v.mm);
            let name = format!("{}, bay {n}", m.name);
            out.rooms.push(Room {
                name: name.clone(),
                size: [w, d, h],
                way: if open {
                    (w, h)
                } else {
                    (w, long.mm - c.thickness)
                },
                body: FIXED.into(),
                opened_by: if open { FIXED.into() } else { id.clone() },
            });
            out.spans.push(Span {
                board: id.clone(),
                name: words.clone(),
                spans: vec![w.min(d)],
                width: w.max(d),
                along: d <= w,
                under: Under::Seat,
                eases: vec![Ease {
                    label: format!("{} lids", m.site.w.say(c.lid + 3.0)),
                    cost: "heavier to lift".into(),
                    pointer: "/choices/lid".into(),
                    value: (c.lid + 3.0).into(),
                }],
            });
            if open {
                for side in [k, k + 1] {
                    out.joints
                        .push(Joint::new(Fasten::Butt, id.clone(), self.upright(side)));
                }
            } else {
                board.body.clone_from(&id);
                out.bodies.push(lid::body(
                    format!("{}/{id}", m.site.id),
                    format!("{}, lid {n}", m.name),
                    (
                        m.frame.at([lid.mm, from, c.height]),
                        m.frame.turn([0.0, 1.0, 0.0]),
                    ),
                    vec![Ease {
                        label: format!("Hinges {} off the back", m.site.w.say(c.hinge + 30.0)),
                        cost: "narrower lids".into(),
                        pointer: "/choices/hinge".into(),
                        value: (c.hinge + 30.0).into(),
                    }],
                ));
                out.hardware.extend(lid::hardware(to - from, &name));
            }
            out.boards.push(board);
        }
    }
}
