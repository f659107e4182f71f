//! Free space of the vehicle in any plane: level, across, along or leaning. Each surface is a height field over the
//! plane, whose zero line is drawn by marching squares; the pieces are put together by labelled booleans, so that
//! every edge knows which wall, thing or line it comes from.

use std::cell::RefCell;
use std::collections::BTreeMap;

use contour::ContourBuilder;

use super::model::Model;
use super::obstacle::Obstacle;
use super::signal::{Signal, Term};
use crate::geometry::labelled::{Label, Labelled};
use crate::geometry::pose::{Pose, Vec3};
use crate::geometry::region::Region;
use crate::project::survey::Side;

/// Surfaces are looked at this closely for boards, mm.
const STEP: f64 = 20.0;
/// A plane has no more than about so many places; a larger one is looked at more coarsely.
const PLACES: f64 = 40_000.0;
/// Lines are drawn with as few corners as leave them by this, mm.
const NEAR: f64 = 0.1;
/// Doubt changes slowly: it is looked up in cells of this size, mm.
const CELL: f64 = 120.0;
/// Surfaces steeper than this in the plane count as so steep.
const STEEPEST: f64 = 2.5;

/// A plane and the stretch of it that is looked at.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Plane {
    /// Where it lies: the point (a, b) is at `origin + a u + b v`.
    pub pose: Pose,
    /// Least and greatest a and b: `(a0, b0, a1, b1)`.
    pub window: (f64, f64, f64, f64),
    /// How closely surfaces are looked at, mm: between, they are taken as straight.
    pub step: f64,
}

impl Plane {
    /// Looked at closely enough for boards: a wall bent to a radius of a metre is met within 0.05 mm.
    pub fn new(pose: Pose, window: (f64, f64, f64, f64)) -> Plane {
        Plane {
            pose,
            window,
            step: STEP,
        }
    }
}

/// What bounds free space, beside things in the way. An edge's label is one of these, a thing by its place in
/// `Model::things`, or the window's edge.
pub const LEFT: usize = 0;
/// The right wall.
pub const RIGHT: usize = 1;
/// The front.
pub const FRONT: usize = 2;
/// The threshold.
pub const THRESHOLD: usize = 3;
/// The floor.
pub const FLOOR: usize = 4;
/// The roof.
pub const ROOF: usize = 5;

impl Model {
    /// Free space in a plane, largest piece first. With `off`, boards' space: walls, front, roof and things moved
    /// in, square to their edge, by `off` of the standard deviation there (and things by the clearance they want).
    /// `None` while a wall or the length has no reading.
    pub fn section(
        &self,
        plane: &Plane,
        off: Option<&dyn Fn(f64) -> f64>,
    ) -> Option<Vec<Labelled>> {
        let grid = Grid::new(plane);
        let walls = Side::BOTH.map(|side| Wall::new(self, side));
        // A wall, and a length, have been read.
        self.offset(Side::Left, 0.0, 0.0)?;
        self.offset(Side::Right, 0.0, 0.0)?;
        self.length(0.0)?;
        let window = plane.window;
        let whole = Region::rectangle(window.0, window.1, window.2, window.3);
        let mut free = vec![Labelled::new(&whole, Label::cut(0))];
        let mut keep = |label: Label, sheet: &[f64]| match grid.inside(sheet) {
            Inside::All => {}
            Inside::None => free.clear(),
            Inside::Some(regions) => {
                free = free
                    .iter()
                    .flat_map(|f| regions.iter().flat_map(|r| f.and(&Labelled::new(r, label))))
                    .collect();
            }
        };
        for (side, wall) in Side::BOTH.into_iter().zip(&walls) {
            let slack = |[x, y, z]: Vec3| wall.at(x, z) - side.sign() * y;
            let sd = |[x, _, z]: Vec3| self.wall(side, x.max(0.0), z).map_or(0.0, |w| w.1);
            let label = Label::wall(if side == Side::Left { LEFT } else { RIGHT });
            keep(label, &grid.moved(&slack, off, &sd));
        }
        let reach = |[x, y, z]: Vec3| self.reach(y, z).unwrap_or(f64::INFINITY) - x;
        let sd = |[_, y, z]: Vec3| self.front(y, z).map_or(0.0, |f| f.1);
        keep(Label::wall(FRONT), &grid.moved(&reach, off, &sd));
        keep(Label::wall(THRESHOLD), &grid.values(&|p| p[0]));
        keep(
            Label::wall(FLOOR),
            &grid.surface(&|[x, y, z]| z - self.floor_at(x.max(0.0), y)),
        );
        if self.floor_to_roof(0.0).is_some() {
            let room =
                |[x, _, z]: Vec3| self.roof_over(x.max(0.0)).map_or(f64::INFINITY, |r| r - z);
            let sd = |[x, ..]: Vec3| self.at(&[Term::new(1.0, Signal::Roof, x.max(0.0), 0.0)]).1;
            keep(Label::wall(ROOF), &grid.moved(&room, off, &sd));
        }
        let things: Vec<Labelled> = self
            .things()
            .enumerate()
            .flat_map(|(i, o)| {
                let by = off.map_or(0.0, |off| off(o.sd) + o.extra);
                let cut = grid.through(o, by);
                cut.into_iter()
                    .map(move |r| Labelled::new(&r, Label::thing(i)))
            })
            .collect();
        let mut out: Vec<Labelled> = free.iter().flat_map(|f| f.minus(&things)).collect();
        out.sort_by(|a, b| b.region().area().total_cmp(&a.region().area()));
        Some(out)
    }

    /// Height of the roof over the load floor of the threshold.
    pub fn roof_over(&self, x: f64) -> Option<f64> {
        Some(self.floor_to_roof(x)? + self.floor(x))
    }
}

/// A wall's offsets, each place looked up once: a level plane asks for one row, an upright one for one column.
struct Wall<'a> {
    model: &'a Model,
    side: Side,
    known: RefCell<BTreeMap<(u64, u64), f64>>,
}

impl<'a> Wall<'a> {
    fn new(model: &'a Model, side: Side) -> Wall<'a> {
        Wall {
            model,
            side,
            known: RefCell::default(),
        }
    }

    fn at(&self, x: f64, z: f64) -> f64 {
        let key = (x.to_bits(), z.to_bits());
        if let Some(mm) = self.known.borrow().get(&key) {
            return *mm;
        }
        let mm = self.model.offset(self.side, x.max(0.0), z).unwrap_or(0.0);
        self.known.borrow_mut().insert(key, mm);
        mm
    }
}

/// Where a sheet of values is above zero.
enum Inside {
    All,
    None,
    Some(Vec<Region>),
}

/// Evenly spaced places of a plane, one beyond its window on every side.
struct Grid {
    plane: Plane,
    step: f64,
    columns: usize,
    rows: usize,
}

impl Grid {
    fn new(plane: &Plane) -> Grid {
        let (a0, b0, a1, b1) = plane.window;
        let (w, h) = ((a1 - a0).max(0.0), (b1 - b0).max(0.0));
        let step = (w * h / PLACES)
            .sqrt()
            .max(plane.step.max(1.0))
            .max(w.max(h) / PLACES);
        let count = |length: f64| (length / step).ceil() as usize + 3;
        Grid {
            plane: *plane,
            step,
            columns: count(w),
            rows: count(h),
        }
    }

    fn place(&self, i: usize, j: usize) -> (f64, f64) {
        let (a0, b0, ..) = self.plane.window;
        let at = |from: f64, k: usize| from + (k as f64 - 1.0) * self.step;
        (at(a0, i), at(b0, j))
    }

    fn values(&self, f: &dyn Fn(Vec3) -> f64) -> Vec<f64> {
        let mut out = Vec::with_capacity(self.columns * self.rows);
        for j in 0..self.rows {
            for i in 0..self.columns {
                let (a, b) = self.place(i, j);
                out.push(f(self.plane.pose.at(a, b, 0.0)));
            }
        }
        out
    }

    /// A surface, looked at closely only where it may be near the plane.
    fn surface(&self, f: &dyn Fn(Vec3) -> f64) -> Vec<f64> {
        /// First it is looked at every so many places.
        const EVERY: usize = 6;
        let rough = |n: usize| -> Vec<usize> {
            let mut all: Vec<usize> = (0..n).step_by(EVERY).collect();
            all.push(n - 1);
            all.dedup();
            all
        };
        let value = |i: usize, j: usize| {
            let (a, b) = self.place(i, j);
            f(self.plane.pose.at(a, b, 0.0))
        };
        let (across, up) = (rough(self.columns), rough(self.rows));
        let coarse: Vec<Vec<f64>> = up
            .iter()
            .map(|j| across.iter().map(|i| value(*i, *j)).collect())
            .collect();
        // A surface no steeper than `STEEPEST` to the plane cannot come to it from so far within a cell.
        let far = STEEPEST * EVERY as f64 * self.step * std::f64::consts::SQRT_2 / 2.0;
        let mut out = vec![f64::NAN; self.columns * self.rows];
        for (q, j) in up.windows(2).enumerate() {
            for (p, i) in across.windows(2).enumerate() {
                let corners = [
                    coarse[q][p],
                    coarse[q][p + 1],
                    coarse[q + 1][p],
                    coarse[q + 1][p + 1],
                ];
                let clear = corners.iter().all(|v| *v > far) || corners.iter().all(|v| *v < -far);
                for y in j[0]..=j[1] {
                    for x in i[0]..=i[1] {
                        let at = y * self.columns + x;
                        if clear {
                            let s = (x - i[0]) as f64 / (i[1] - i[0]).max(1) as f64;
                            let t = (y - j[0]) as f64 / (j[1] - j[0]).max(1) as f64;
                            let low = corners[0] * (1.0 - s) + corners[1] * s;
                            let high = corners[2] * (1.0 - s) + corners[3] * s;
                            if out[at].is_nan() {
                                out[at] = low * (1.0 - t) + high * t;
                            }
                        } else {
                            out[at] = value(x, y);
                        }
                    }
                }
            }
        }
        out
    }

    /// A surface, and moved in by what its doubt asks for, square to its edge in the plane.
    fn moved(
        &self,
        slack: &dyn Fn(Vec3) -> f64,
        off: Option<&dyn Fn(f64) -> f64>,
        sd: &dyn Fn(Vec3) -> f64,
    ) -> Vec<f64> {
        let plain = self.surface(slack);
        let Some(off) = off else { return plain };
        let mut doubts: BTreeMap<(i64, i64), f64> = BTreeMap::new();
        let at = |i: usize, j: usize| plain[j * self.columns + i];
        let mut out = plain.clone();
        for j in 0..self.rows {
            for i in 0..self.columns {
                let (a, b) = self.place(i, j);
                let cell = |v: f64| (v / CELL).floor() as i64;
                let key = (cell(a), cell(b));
                let middle = |c: i64| (c as f64 + 0.5) * CELL;
                let doubt = *doubts
                    .entry(key)
                    .or_insert_with(|| sd(self.plane.pose.at(middle(key.0), middle(key.1), 0.0)));
                let slope = |from: f64, to: f64, steps: usize| {
                    (to - from) / (steps.max(1) as f64 * self.step)
                };
                let (l, r) = (i.saturating_sub(1), (i + 1).min(self.columns - 1));
                let (d, u) = (j.saturating_sub(1), (j + 1).min(self.rows - 1));
                let steep = slope(at(l, j), at(r, j), r - l)
                    .hypot(slope(at(i, d), at(i, u), u - d))
                    .min(STEEPEST);
                out[j * self.columns + i] -= off(doubt) * steep;
            }
        }
        out
    }

    /// Where a sheet is above zero.
    fn inside(&self, sheet: &[f64]) -> Inside {
        if sheet.iter().all(|v| *v > 0.0) {
            return Inside::All;
        }
        if sheet.iter().all(|v| *v <= 0.0) {
            return Inside::None;
        }
        /// Far from the line only the sign counts, mm.
        const FAR: f64 = 1e6;
        // What is not a number is taken as no room.
        let sheet: Vec<f64> = sheet
            .iter()
            .map(|v| if v.is_nan() { -FAR } else { v.clamp(-FAR, FAR) })
            .collect();
        let (x, y) = self.place(0, 0);
        // The library puts a value in the middle of its cell.
        let contours = ContourBuilder::new(self.columns, self.rows, true)
            .x_origin(x - self.step / 2.0)
            .y_origin(y - self.step / 2.0)
            .x_step(self.step)
            .y_step(self.step)
            .contours(&sheet, &[0.0]);
        let Some(found) = contours.ok().and_then(|mut c| c.pop()) else {
            return Inside::None;
        };
        let regions = found.geometry().0.iter().filter_map(Region::from_polygon);
        Inside::Some(regions.map(|r| r.simplified(NEAR)).collect())
    }

    /// A thing where the plane goes through it, grown by `by`.
    fn through(&self, o: &Obstacle, by: f64) -> Vec<Region> {
        let mut sheets = vec![
            self.values(&|p| o.z.1 + by - p[2]),
            self.values(&|p| p[2] - o.z.0 + by),
        ];
        if sheets.iter().any(|s| s.iter().all(|v| *v <= 0.0)) {
            return vec![];
        }
        let faces = RefCell::new(Vec::new());
        self.values(&|[x, y, z]| {
            let here = o.faces(z.clamp(o.z.0, o.z.1));
            let mut all = faces.borrow_mut();
            all.resize(here.len(), vec![]);
            for (sheet, face) in all.iter_mut().zip(&here) {
                sheet.push(by - face.outside([x, y]));
            }
            0.0
        });
        sheets.extend(faces.into_inner());
        if o.arch(0.0, 0.0).is_some() {
            sheets.push(self.values(&|[x, _, z]| by - o.arch(x, z).unwrap_or(0.0)));
        }
        let (a0, b0, a1, b1) = self.plane.window;
        let mut out = vec![Region::rectangle(a0, b0, a1, b1)];
        for sheet in sheets {
            match self.inside(&sheet) {
                Inside::All => {}
                Inside::None => return vec![],
                Inside::Some(regions) => {
                    out = out
                        .iter()
                        .flat_map(|f| regions.iter().flat_map(|r| f.and(r)))
                        .collect();
                }
            }
        }
        out
    }
}
