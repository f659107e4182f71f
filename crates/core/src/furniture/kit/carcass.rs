//! An open box of boards with bays side by side and above each other: sides, bottom and top, a back, boards between
//! the bays. Bottom and top lie over and under everything else, so that weight stands on wood.

use super::foot::Lies;
use super::frame::Frame;
use super::maker::Maker;
use super::style::{Closed, Join, SLAT, Style, groove};
use crate::furniture::built::{Board, Face, Fasten, Joint, Pocket, Pose, Vec3};
use crate::geometry::region::Region;
use crate::mechanics::material::PartGrain;
use crate::units::value::Value;

/// An open box.
pub struct Carcass {
    /// Width, depth and height outside, without what stands before it.
    pub size: [Value; 3],
    /// How far behind the front of the piece it begins, mm.
    pub before: f64,
    /// Thickness of its boards.
    pub board: Value,
    /// Thickness of its back, if it has one.
    pub back: Option<Value>,
    /// How it is made.
    pub style: Style,
    /// It has a bottom.
    pub bottom: bool,
    /// It has a top.
    pub top: bool,
    /// Bays side by side.
    pub columns: u32,
    /// Bays above each other.
    pub rows: u32,
    /// Columns of bays whose width is given; the others share what is left. Where all are given the last one is not.
    pub given: Vec<(u32, Value)>,
}

/// A bay.
#[derive(Debug, Clone)]
pub struct Cell {
    /// From the right, from 0.
    pub column: u32,
    /// From below, from 0.
    pub row: u32,
    /// Its lower right front corner in the piece's own directions, mm.
    pub at: [f64; 3],
    /// Width, height, depth.
    pub size: [Value; 3],
}

impl Cell {
    /// Two corners of it in the vehicle: one at the piece's front, and the one opposite.
    pub fn bay(&self, frame: &Frame) -> [Vec3; 2] {
        let [x, y, z] = self.at;
        let [w, h, d] = self.size.clone().map(|v| v.mm);
        [frame.at([0.0, y, z]), frame.at([x + d, y + w, z + h])]
    }
}

/// So many boards, and the gaps between them.
fn shared(whole: Value, board: &Value, n: u32, words: &str) -> Value {
    match n {
        0 | 1 => whole,
        n => {
            let between = board.clone().named(words) * f64::from(n - 1);
            (whole - between) * (1.0 / f64::from(n))
        }
    }
}

impl Carcass {
    /// Lowest and highest of what stands between bottom and top.
    fn upright(&self) -> (f64, Value) {
        let [_, _, height] = &self.size;
        let t = &self.board;
        let low = if self.bottom { t.mm } else { 0.0 };
        let ends = f64::from(u8::from(self.bottom) + u8::from(self.top));
        let high = match (self.bottom, self.top) {
            (false, false) => height.clone(),
            _ => height - t.clone().named("top or bottom of the carcass") * ends,
        };
        (low, high)
    }

    /// Widths of the columns, from the right.
    pub fn widths(&self) -> Vec<Value> {
        let [width, ..] = &self.size;
        let t = &self.board;
        let inner = width - t.clone().named("side of the carcass") * 2.0;
        let called = |v: Value| v.named("width of the opening");
        let n = self.columns;
        let given = |c: u32| self.given.iter().find(|g| g.0 == c).map(|g| &g.1);
        let mut own: Vec<(u32, &Value)> = (0..n).filter_map(|c| Some((c, given(c)?))).collect();
        own.truncate(n.saturating_sub(1) as usize);
        let rest = own.iter().fold(inner, |left, (_, g)| {
            left - *g - t.clone().named("board between")
        });
        let others = n - own.len() as u32;
        let each = called(shared(rest, t, others, "board between"));
        (0..n)
            .map(|c| {
                let own = own.iter().find(|o| o.0 == c);
                own.map_or_else(|| each.clone(), |(_, g)| called((*g).clone()))
            })
            .collect()
    }

    /// Where the columns begin, from the right, mm.
    fn begins(&self) -> Vec<f64> {
        let mut y = self.board.mm;
        self.widths()
            .iter()
            .map(|w| {
                let begin = y;
                y += w.mm + self.board.mm;
                begin
            })
            .collect()
    }

    /// Height of a bay.
    fn tall(&self) -> Value {
        let (_, high) = self.upright();
        shared(high, &self.board, self.rows, "board between").named("height of the opening")
    }

    /// It is wider than deep: the grain of its top runs from side to side.
    pub fn wide(&self) -> bool {
        self.size[0].mm > self.size[1].mm
    }

    /// Depth of a bay.
    fn deep(&self) -> Value {
        let [_, depth, _] = &self.size;
        let inner = match &self.back {
            Some(back) => depth - back.clone().named("back of the carcass"),
            None => depth.clone(),
        };
        inner.named("depth of the opening")
    }

    /// All bays, from the right and from below.
    pub fn cells(&self) -> Vec<Cell> {
        let (widths, begins) = (self.widths(), self.begins());
        let (h, d) = (self.tall(), self.deep());
        let t = self.board.mm;
        let (z0, _) = self.upright();
        let cells = (0..self.columns).flat_map(|c| (0..self.rows).map(move |r| (c, r)));
        cells
            .filter_map(|(column, row)| {
                let i = column as usize;
                Some(Cell {
                    column,
                    row,
                    at: [
                        self.before,
                        *begins.get(i)?,
                        z0 + f64::from(row) * (h.mm + t),
                    ],
                    size: [widths.get(i)?.clone(), h.clone(), d.clone()],
                })
            })
            .collect()
    }

    /// Its boards.
    pub fn boards(&self, m: &Maker) -> Vec<Board> {
        let [width, depth, _] = &self.size;
        let (t, front) = (self.board.mm, self.before);
        let (z0, high) = self.upright();
        let (widths, begins) = (self.widths(), self.begins());
        let (tall, deep) = (self.tall(), self.deep());
        let flat = (("length", depth), ("width", width));
        let side = (("length", depth), ("height", &high));
        let mut out = Vec::new();
        for (is, end, closed, z) in self.ends() {
            let strip = closed.strip();
            let wide = Value::rule("carcass/slat", strip, SLAT);
            match closed {
                _ if !is => {}
                Closed::Board => {
                    let (id, words) = (format!("carcass-{end}"), format!("carcass, {end}"));
                    let id = (id.as_str(), "carcass", words.as_str());
                    let mut board = m.board(id, t, Pose::level(z), [front, 0.0], flat);
                    // A top is seen, its grain along its longer side; a bottom is not.
                    board.grain = match end {
                        "top" if self.wide() => PartGrain::Across,
                        "top" => PartGrain::Along,
                        _ => PartGrain::Free,
                    };
                    out.push(board);
                }
                _ => {
                    for (i, x) in closed.strips(depth.mm).into_iter().enumerate() {
                        let id = format!("carcass-{end}-{}", i + 1);
                        let words = format!("carcass, {strip} of the {end}");
                        let id = (id.as_str(), strip, words.as_str());
                        let size = (("width", &wide), ("length", width));
                        let at = [front + x, 0.0];
                        let mut board = m.board(id, t, Pose::level(z), at, size);
                        board.places = vec![format!("{} from the front", i + 1)];
                        out.push(board);
                    }
                }
            }
        }
        for (id, end, y) in [
            ("carcass-right", "right", t),
            ("carcass-left", "left", width.mm),
        ] {
            let id = (id, "carcass", "carcass, side");
            let mut board = m
                .board(id, t, Pose::along(y), [front, z0], side)
                .any_grain();
            board.places = vec![end.into()];
            out.push(board);
        }
        if let Some(back) = &self.back {
            let inner = width - self.board.clone().named("side of the carcass") * 2.0;
            let pose = Pose::across(front + depth.mm - back.mm);
            let size = (("width", &inner), ("height", &high));
            let id = ("carcass-back", "carcass", "carcass, back");
            out.push(m.board(id, back.mm, pose, [t, z0], size).any_grain());
        }
        let between = (("length", &deep), ("height", &high));
        for (c, begin) in begins.iter().enumerate().skip(1) {
            let id = format!("carcass-divider-{c}");
            let id = (id.as_str(), "divider", "carcass, board between bays");
            let mut board = m
                .board(id, t, Pose::along(*begin), [front, z0], between)
                .any_grain();
            board.places = vec![format!("between bays {c} and {}", c + 1)];
            out.push(board);
        }
        // A shelf lies in grooves on both sides, or between.
        let into = match self.style.join {
            Join::Groove => groove(t),
            _ => Value::zero(),
        };
        for (c, (cell, y)) in widths.iter().zip(&begins).enumerate() {
            let wide = match self.style.join {
                Join::Groove => cell + &(&into * 2.0),
                _ => cell.clone(),
            };
            let shelf = (("length", &deep), ("width", &wide));
            for r in 1..self.rows {
                let z = z0 + f64::from(r) * (tall.mm + t) - t;
                let id = format!("carcass-shelf-{}-{r}", c + 1);
                let id = (id.as_str(), "shelf", "carcass, shelf");
                out.push(m.board(id, t, Pose::level(z), [front, y - into.mm], shelf));
                if into.mm > 0.0 {
                    let slot = Region::rectangle(front, z, front + deep.mm, z + t);
                    self.let_in(m, &mut out, c as u32, &slot, into.mm);
                }
            }
        }
        out
    }

    /// Bottom and top: whether it has one, what it is called, what it is, and how high its lower face lies, mm.
    fn ends(&self) -> [(bool, &'static str, Closed, f64); 2] {
        let [.., height] = &self.size;
        [
            (self.bottom, "bottom", self.style.bottom, 0.0),
            (self.top, "top", self.style.top, height.mm - self.board.mm),
        ]
    }

    /// Grooves for a shelf in the uprights to both sides of a column.
    fn let_in(&self, m: &Maker, boards: &mut [Board], column: u32, slot: &Region, deep: f64) {
        // An upright has its thickness to the right of its left face, which is its lower one.
        let sides = [(column, Face::Bottom), (column + 1, Face::Top)];
        for (k, face) in sides {
            let id = self.upright_of(k);
            let Some(board) = boards.iter_mut().find(|b| b.id == id) else {
                continue;
            };
            board.pockets.push(Pocket {
                outline: slot.clone(),
                depth: deep,
                face,
            });
            let w = &m.site.w;
            let words = format!(
                "groove {} wide, {} deep, for each shelf: score its edges first",
                w.say(self.board.mm),
                w.say(deep)
            );
            if !board.then.contains(&words) {
                board.then.push(words);
            }
        }
    }

    /// What lies below or above its uprights: a board, or strips; where each is from front to back, mm.
    pub fn lying(&self, below: bool) -> Vec<Lies> {
        let [_, depth, _] = &self.size;
        let [low, high] = self.ends();
        let (is, end, closed, _) = if below { low } else { high };
        let to = self.before + depth.mm;
        match closed {
            _ if !is => vec![],
            Closed::Board => vec![(format!("carcass-{end}"), (self.before, to))],
            _ => closed
                .strips(depth.mm)
                .into_iter()
                .enumerate()
                .map(|(i, x)| {
                    let from = self.before + x;
                    (format!("carcass-{end}-{}", i + 1), (from, from + SLAT))
                })
                .collect(),
        }
    }

    /// The upright to the right of a column of bays, from 0; after the last, the left side.
    pub fn upright_of(&self, column: u32) -> String {
        match column {
            0 => "carcass-right".into(),
            c if c >= self.columns => "carcass-left".into(),
            c => format!("carcass-divider-{c}"),
        }
    }

    /// The board on which things stand in a bay.
    pub fn floor_of(&self, cell: &Cell) -> String {
        match cell.row {
            0 if self.style.bottom == Closed::Slats => "carcass-bottom-1".into(),
            0 => "carcass-bottom".into(),
            r => format!("carcass-shelf-{}-{r}", cell.column + 1),
        }
    }

    /// What holds it together.
    pub fn joints(&self) -> Vec<Joint> {
        let butt = |a: String, b: String| self.style.join.joint(a, b);
        let mut out = Vec::new();
        for (lies, _) in [true, false].into_iter().flat_map(|b| self.lying(b)) {
            let uprights = 0..=self.columns;
            out.extend(uprights.map(|c| butt(lies.clone(), self.upright_of(c))));
        }
        if self.back.is_some() {
            let sides = [0, self.columns].map(|c| self.upright_of(c));
            out.extend(sides.map(|s| butt(s, "carcass-back".into())));
        }
        for cell in self.cells().iter().filter(|c| c.row > 0) {
            let beside = [cell.column, cell.column + 1].map(|c| self.upright_of(c));
            out.extend(beside.map(|u| match self.style.join {
                Join::Groove => Joint::new(Fasten::Groove, u, self.floor_of(cell)),
                _ => butt(u, self.floor_of(cell)),
            }));
        }
        out
    }
}
