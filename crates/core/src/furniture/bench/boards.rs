//! The boards of a bench.

use super::{Bench, End, needs};
use crate::furniture::built::{
    Axis, Board, Built, Ease, FIXED, Fasten, Item, Joint, MadeFor, Measure, Met, Pose, Room, Span,
    Under,
};
use crate::furniture::kit::carcass::{Carcass, Cell};
use crate::furniture::kit::grip::FROM_EDGE;
use crate::furniture::kit::lid::{self, GAP};
use crate::furniture::kit::maker::Maker;
use crate::furniture::kit::style::Style;
use crate::furniture::stands::Standing;
use crate::geometry::region::Region;
use crate::input::escape;
use crate::units::value::Value;

/// A bench where it stands; nothing while its appliance is not measured.
pub(super) fn built(c: &Bench, at: &Standing) -> Option<Built> {
    let site = at.site;
    let needs = match &c.appliance {
        Some(_) => Some(needs(site.project, c)?),
        None => None,
    };
    let maker = Maker::new(at, "N", &c.material, c.opens);
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
        board: board.clone(),
        back: Some(board.clone()),
        style: Style::default(),
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
    if let Some(wide) = c.cable {
        pierced(&mut out, &carcass, wide);
    }
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
            bay: cell.bay(&maker.frame),
            out: maker.frame.turn([-1.0, 0.0, 0.0]),
        });
    }
    for b in &mut out.boards {
        b.then
            .push("pilot every screw into an edge; dry fit before glue".into());
    }
    Some(out)
}

/// A hole for cables from bay to bay, low at the back, with an inch or so of wood round it.
fn pierced(out: &mut Built, carcass: &Carcass, wide: f64) {
    /// Wood between the hole and the edges, mm (a choice).
    const WOOD: f64 = 30.0;
    let off = WOOD + wide / 2.0;
    for b in out.boards.iter_mut().filter(|b| b.role == "divider") {
        let (_, z0, x1, _) = b.shape.bounds();
        b.vents.push(([x1 - off, z0 + off], wide));
        b.then.push("a hole for cables, its edge rounded".into());
    }
    if carcass.columns > 1 {
        let grommets = Item::new("grommet for cables", carcass.columns - 1, 0);
        out.hardware.push(grommets);
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

    /// How long what lies on top of a bay is, and why.
    fn long(&self, column: u32, cell: &Cell) -> Value {
        let half = Value::rule("lid/gap", "gap between lids", GAP) * 0.5;
        let side = self.board.clone().named("side of the carcass");
        let between = (&self.board * 0.5).named("half the board between") - half;
        let end = |outer: bool| if outer { side.clone() } else { between.clone() };
        &cell.size[0] + end(column == 0) + end(column + 1 == self.c.bays)
    }

    /// A board on top, `x` from the front and `y` from the right.
    fn level(
        &self,
        (id, role, words): (&str, &'static str, &str),
        x: (f64, f64),
        y: (f64, f64),
        (deep, long): (&Value, Value),
    ) -> Board {
        let (c, m) = (self.c, self.maker);
        let shape = Region::rectangle(x.0, y.0, x.1, y.1);
        let pose = m.frame.pose(Pose::level(c.height - c.lid));
        Board {
            name: format!("{}, {words}", m.name),
            material: m.material.clone(),
            thickness: c.lid,
            measures: vec![
                Measure::whole(Axis::U, "width", deep.clone()),
                Measure::whole(Axis::V, "length", long),
            ],
            ..Board::new(id, role, m.letter, shape, pose)
        }
    }

    /// What may help a lid that meets the wall: hinges further from it.
    fn further(&self) -> Vec<Ease> {
        let c = self.c;
        let further = c.hinge + 2.0 * c.thickness;
        let some = (further <= c.depth / 2.0).then(|| Ease {
            against: Some(Met::Vehicle),
            label: format!("Hinges {} off the back", self.maker.site.w.say(further)),
            cost: "narrower lids".into(),
            pointer: "/choices/hinge".into(),
            value: further.into(),
        });
        some.into_iter().collect()
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
        // Beside the open bay its outer upright stands free.
        let outside = self.open.map(|_| match c.end {
            End::Right => 0,
            End::Left => c.bays,
        });
        let uprights = (0..=c.bays).filter(|k| Some(*k) != outside);
        out.joints.extend(
            uprights.map(|k| Joint::new(Fasten::Butt, "front", self.carcass.upright_of(k))),
        );
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
            let all = closed.iter().filter_map(|k| {
                let cell = self.cells.get(*k as usize)?;
                Some(self.long(*k, cell).named(format!("lid {}", k + 1)))
            });
            let gap = Value::rule("lid/gap", "gap between lids", GAP);
            let long = all.reduce(|a, b| a + &gap + b).unwrap_or_else(Value::zero);
            out.boards
                .push(self.level(id, x, (from, to), (&strip, long)));
            out.joints
                .push(Joint::new(Fasten::Butt, "strip", "carcass-back"));
        }
        for (k, cell) in (0..c.bays).zip(&self.cells) {
            if Some(k) == self.open {
                self.fixed_top(out, (k, cell), &depth);
            } else {
                self.lid(out, (k, cell), &lid);
            }
        }
    }

    /// Somebody sits on what lies over a bay.
    fn seat(&self, cell: &Cell, board: &str, words: &str) -> Span {
        let [w, _, d] = cell.size.clone().map(|v| v.mm);
        Span {
            board: board.into(),
            name: words.into(),
            spans: vec![w.min(d)],
            width: w.max(d),
            along: d <= w,
            under: Under::Seat,
            eases: self.maker.thicker("lid", self.c.lid),
        }
    }

    /// Over the open bay.
    fn fixed_top(&self, out: &mut Built, (k, cell): (u32, &Cell), deep: &Value) {
        let id = ("top", "top", "fixed top");
        out.boards.push(self.level(
            id,
            (0.0, deep.mm),
            self.reach(k),
            (deep, self.long(k, cell)),
        ));
        out.spans.push(self.seat(cell, "top", "fixed top"));
        let uprights = [k, k + 1].map(|k| self.carcass.upright_of(k));
        out.joints
            .extend(uprights.map(|u| Joint::new(Fasten::Butt, "top", u)));
    }

    /// Over a closed bay.
    fn lid(&self, out: &mut Built, (k, cell): (u32, &Cell), deep: &Value) {
        let (c, m) = (self.c, self.maker);
        let (from, to) = self.reach(k);
        let (id, words) = (format!("lid-{}", k + 1), format!("lid {}", k + 1));
        let mut board = self.level(
            (&id, "lid", &words),
            (0.0, deep.mm),
            (from, to),
            (deep, self.long(k, cell)),
        );
        board.body.clone_from(&id);
        let before = [FROM_EDGE, (from + to) / 2.0];
        c.grip.cut(&mut board, before, false, m.site);
        out.boards.push(board);
        out.spans.push(self.seat(cell, &id, &words));
        let [w, h, d] = cell.size.clone().map(|v| v.mm);
        out.rooms.push(Room {
            name: format!("{}, bay {}", m.name, k + 1),
            size: [w, d, h],
            body: FIXED.into(),
            opened_by: id.clone(),
        });
        out.bodies.push(lid::body(
            format!("{}/{id}", m.site.id),
            format!("{}, {words}", m.name),
            (
                m.frame.at([deep.mm, from, c.height]),
                m.frame.turn([0.0, 1.0, 0.0]),
            ),
            self.further(),
        ));
        let sizes = lid::Sizes {
            long: to - from,
            deep: deep.mm,
            thickness: c.lid,
            mass: (to - from) * deep.mm * c.lid * m.density() * 1e-9,
            wall: c.hinge,
            inside: deep.mm - c.thickness,
            down: h + c.lid,
        };
        let lift = lid::Lift::new(&id, sizes, (c.stay, c.hinges), "/choices/stay");
        out.hardware.extend(lid::hardware(m.site, &lift, sizes));
        out.lifts.push(lift);
    }
}
