//! The boards of a bench.

use super::Bench;
use super::bay::{Above, Bay, Front, called};
use crate::furniture::Site;
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
use crate::mechanics::material::PartGrain;
use crate::units::value::Value;

/// A bench where it stands; nothing while a thing that one of its bays is made for is not measured.
pub(super) fn built(c: &Bench, at: &Standing) -> Option<Built> {
    let site = at.site;
    let bays = c.each_bay();
    for bay in bays.iter().filter(|b| b.gear.is_some()) {
        c.needs(site.project, bay)?;
    }
    let maker = Maker::new(at, "N", &c.material, c.opens);
    let board = site.choice("thickness", "board", c.thickness);
    let front = board.clone().named("front before it");
    let over = site.choice("lid", "lid", c.lid);
    let widths = (0..).zip(&bays);
    let given = widths.filter_map(|(k, bay)| Some((k, width(c, site, k, bay)?)));
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
        columns: c.count(),
        rows: 1,
        given: given.collect(),
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
        bays,
        board,
    };
    work.fronts(&mut out);
    work.tops(&mut out);
    work.places(&mut out);
    work.air(&mut out);
    for b in &mut out.boards {
        b.then
            .push("pilot every screw into an edge; dry fit before glue".into());
    }
    Some(out)
}

/// The clear width of a bay where it is given.
fn width(c: &Bench, site: &Site, k: u32, bay: &Bay) -> Option<Value> {
    if let Some(wide) = bay.width {
        let at = format!("each/{}/width", k + 1);
        return Some(site.choice(&at, "width of the bay", wide));
    }
    let [w, ..] = c.needs(site.project, bay)?;
    let at = format!("/gear/{}/w", escape(bay.gear.as_ref()?));
    let size = Value::choice(at, "appliance", w - c.fingers);
    Some(size + site.choice("fingers", "room beside it", c.fingers))
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
    bays: Vec<Bay>,
    board: Value,
}

/// Bays side by side for which `is` holds, as runs from the right: first and last.
fn runs(bays: &[Bay], is: impl Fn(&Bay) -> bool) -> Vec<(usize, usize)> {
    let mut out: Vec<(usize, usize)> = Vec::new();
    for (k, _) in bays.iter().enumerate().filter(|(_, b)| is(b)) {
        match out.last_mut() {
            Some((_, last)) if *last + 1 == k => *last = k,
            _ => out.push((k, k)),
        }
    }
    out
}

/// The first of several alike has the plain name.
fn numbered(what: &str, i: usize, k: usize) -> String {
    match i {
        0 => what.into(),
        _ => format!("{what}-{}", k + 1),
    }
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
        let high = match column + 1 == self.c.count() {
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
        &cell.size[0] + end(column == 0) + end(column + 1 == self.c.count())
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

    /// A board before each run of bays that are closed in front.
    fn fronts(&self, out: &mut Built) {
        let t = self.c.thickness;
        let [width, _, height] = &self.carcass.size;
        let side = self.board.clone().named("side of the carcass");
        let closed = runs(&self.bays, |b| b.front == Front::Board);
        for (i, (first, last)) in closed.into_iter().enumerate() {
            let beside = |k: &usize| *k < first || *k > last;
            let cells = self.cells.iter().enumerate();
            let open = cells.filter(|(k, _)| beside(k)).map(|(_, cell)| cell);
            let taken = open.map(|cell| &cell.size[0] + side.clone());
            let long = taken.fold(width.clone(), |left, taken| left - taken);
            let from = self.cells.get(first).map_or(0.0, |cell| cell.at[1]) - t;
            let id = numbered("front", i, first);
            out.boards.push(self.maker.board(
                (id.as_str(), "front", "front"),
                t,
                Pose::across(0.0),
                [from, 0.0],
                (("length", &long), ("height", height)),
            ));
            let uprights = first as u32..=last as u32 + 1;
            let behind = uprights.map(|k| self.carcass.upright_of(k));
            let all = behind.chain(["carcass-bottom".to_string()]);
            out.joints
                .extend(all.map(|b| Joint::new(Fasten::Butt, id.as_str(), b)));
        }
    }

    /// Lids hung on a strip at the back, fixed tops, or nothing, bay by bay.
    fn tops(&self, out: &mut Built) {
        let (c, m) = (self.c, self.maker);
        let site = m.site;
        let depth = site.choice("depth", "depth", c.depth);
        let hinge = site.choice("hinge", "hinges off the back", c.hinge);
        let gap = Value::rule("lid/gap", "gap at the hinge", GAP);
        let (strip, lid) = (&hinge - gap, &depth - hinge);
        let lids = runs(&self.bays, |b| b.above == Above::Lid);
        for (i, (first, last)) in lids.into_iter().enumerate() {
            let (from, to) = (self.reach(first as u32).0, self.reach(last as u32).1);
            let x = (c.depth - strip.mm, c.depth);
            let id = numbered("strip", i, first);
            let words = (id.as_str(), "strip", "fixed strip at the back");
            let all = (first..=last).filter_map(|k| {
                let cell = self.cells.get(k)?;
                Some(self.long(k as u32, cell).named(format!("lid {}", k + 1)))
            });
            let gap = Value::rule("lid/gap", "gap between lids", GAP);
            let long = all.reduce(|a, b| a + &gap + b).unwrap_or_else(Value::zero);
            let mut board = self.level(words, x, (from, to), (&strip, long));
            // Its grain runs along it.
            board.grain = PartGrain::Across;
            out.boards.push(board);
            out.joints
                .push(Joint::new(Fasten::Butt, id, "carcass-back"));
        }
        let fixed = |b: &Bay| b.above == Above::Top;
        let first = self.bays.iter().position(fixed);
        for (k, (cell, bay)) in self.cells.iter().zip(&self.bays).enumerate() {
            match bay.above {
                Above::Top => {
                    let id = numbered("top", usize::from(Some(k) != first), k);
                    self.fixed_top(out, &id, (k as u32, cell), &depth);
                }
                Above::Lid => self.lid(out, (k as u32, cell), &lid),
                Above::Open => {}
            }
        }
    }

    /// What a bay without a lid offers: a place for its thing, or room.
    fn places(&self, out: &mut Built) {
        let (c, m) = (self.c, self.maker);
        for (k, (cell, bay)) in self.cells.iter().zip(&self.bays).enumerate() {
            let [w, h, d] = cell.size.clone().map(|v| v.mm);
            let Some(gear) = &bay.gear else {
                // What is open neither in front nor above cannot be reached.
                if bay.above != Above::Lid && (bay.front == Front::Open || bay.above == Above::Open)
                {
                    out.rooms.push(Room {
                        name: format!("{}, {}", m.name, called(bay, k)),
                        size: [w, d, h],
                        body: FIXED.into(),
                        opened_by: FIXED.into(),
                    });
                }
                continue;
            };
            let needs = c.needs(m.site.project, bay);
            let high = match bay.above {
                // What is open above may stand out of it.
                Above::Open => needs.map_or(h, |[_, _, high]| h.max(high)),
                _ => h,
            };
            let up = bay.front == Front::Board;
            out.made_for.push(MadeFor {
                gear: gear.clone(),
                size: [w - c.fingers, d, high],
                bay: cell.bay(&m.frame),
                out: match up {
                    true => [0.0, 0.0, 1.0],
                    false => m.frame.turn([-1.0, 0.0, 0.0]),
                },
            });
        }
    }

    /// Rows of holes low and high in the front and the back of a bay.
    fn air(&self, out: &mut Built) {
        /// Diameter of a hole (32 mm: common practice, no source), off the edges of the bay, and from one to the next, mm
        /// (choices).
        const HOLE: f64 = 32.0;
        const OFF: f64 = 50.0;
        const PITCH: f64 = 100.0;
        for (cell, bay) in self.cells.iter().zip(&self.bays) {
            let [front, back] = bay.air.sides();
            let [w, h, _] = cell.size.clone().map(|v| v.mm);
            let [_, y, z] = cell.at;
            let n = ((w - 2.0 * OFF) / PITCH).floor().max(0.0) as usize;
            let across = (0..=n).map(|i| match n {
                0 => y + w / 2.0,
                _ => y + OFF + (w - 2.0 * OFF) * i as f64 / n as f64,
            });
            let rows = [z + OFF, z + h - OFF];
            let holes = across.flat_map(|u| rows.map(|v| ([u, v], HOLE)));
            let holes: Vec<_> = holes.collect();
            for b in &mut out.boards {
                let is = front && b.role == "front" || back && b.id == "carcass-back";
                let (u0, _, u1, _) = b.shape.bounds();
                if is && u0 <= y && y + w <= u1 {
                    b.vents.extend(holes.clone());
                }
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

    /// A fixed top over a bay.
    fn fixed_top(&self, out: &mut Built, id: &str, (k, cell): (u32, &Cell), deep: &Value) {
        let words = (id, "top", "fixed top");
        out.boards.push(self.level(
            words,
            (0.0, deep.mm),
            self.reach(k),
            (deep, self.long(k, cell)),
        ));
        out.spans.push(self.seat(cell, id, "fixed top"));
        let uprights = [k, k + 1].map(|k| self.carcass.upright_of(k));
        out.joints
            .extend(uprights.map(|u| Joint::new(Fasten::Butt, id, u)));
    }

    /// A lid over a bay.
    fn lid(&self, out: &mut Built, (k, cell): (u32, &Cell), deep: &Value) {
        let (c, m) = (self.c, self.maker);
        let (from, to) = self.reach(k);
        let Some(bay) = self.bays.get(k as usize) else {
            return;
        };
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
        if bay.gear.is_none() {
            out.rooms.push(Room {
                name: format!("{}, {}", m.name, called(bay, k as usize)),
                size: [w, d, h],
                body: FIXED.into(),
                opened_by: id.clone(),
            });
        }
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
