//! From places in the photo to places on the floor: the edges of the sheets are straight, square and equally large, and the tape
//! says how far the sheets are apart. One adjustment finds the perspective, a simple lens, where each sheet lies and at what
//! size they were printed.
//!
//! Method: a plane's homography (eight numbers) after `p (1 + k r^2)` for the lens, Gauss-Newton on the distance of edge points
//! from the sides they belong to (Hartley, Zisserman: Multiple View Geometry, chapters 4 and 8, from memory).

use jigfit_core::geometry::{Point, distance};
use nalgebra::{DMatrix, DVector, Matrix2, Vector2};

use crate::sheet::SIDE;

/// A sheet as it was seen: points along its four sides, each side's in order, sides in the sheet's own order (below, right,
/// above, left), and its corners (lower left, lower right, upper right, upper left). Pixels, y down.
#[derive(Debug, Clone, PartialEq)]
pub struct Seen {
    /// Which sheet it is, from 0.
    pub number: usize,
    /// Points along the sides.
    pub sides: [Vec<Point>; 4],
    /// The corners.
    pub corners: [Point; 4],
}

/// A distance that was taped from the cross of one sheet to that of another.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Taped {
    /// From sheet, from 0.
    pub from: usize,
    /// To sheet.
    pub to: usize,
    /// How far, mm.
    pub mm: f64,
}

/// How well a tape is read from cross to cross, mm.
const TAPE_SD: f64 = 1.0;
/// How far off a printer's size is, a share.
const PRINT_SD: f64 = 0.03;
/// How much a lens bends, by half the picture's diagonal.
const LENS_SD: f64 = 0.05;
/// How well a point of an edge is found at best, pixels.
const POINT_SD: f64 = 0.1;

/// The floor as the photo shows it.
#[derive(Debug, Clone, PartialEq)]
pub struct Plane {
    middle: Point,
    reach: f64,
    numbers: DVector<f64>,
    covariance: DMatrix<f64>,
    /// Size at which the sheets were printed.
    pub printed: f64,
    /// What the tape says less what the photo says, mm, for each distance that was taped.
    pub left: Vec<f64>,
    /// How unsure that is.
    pub left_sd: Vec<f64>,
    /// How far points of the sheets' edges lie off their sides, pixels.
    pub noise: f64,
}

/// Places of the numbers: eight of the homography, the lens, the print, then three for each sheet but the first.
const LENS: usize = 8;
const PRINT: usize = 9;
const POSES: usize = 10;

struct Task<'a> {
    middle: Point,
    reach: f64,
    sheets: &'a [Seen],
    taped: &'a [Taped],
}

impl Plane {
    /// The plane of the sheets; `size` of the photo in pixels.
    ///
    /// # Errors
    /// The sheets cannot lie in one plane as they were seen, in a sentence.
    pub fn fit(size: [usize; 2], sheets: &[Seen], taped: &[Taped]) -> Result<Plane, String> {
        let [w, h] = size.map(|v| v as f64);
        let task = Task {
            middle: [w / 2.0, h / 2.0],
            reach: w.hypot(h) / 2.0,
            sheets,
            taped,
        };
        let mut numbers = task.begin().ok_or(CROOKED)?;
        let weights = task.weights(&numbers);
        let mut damp = 1e-3;
        let mut now = task.residuals(&numbers, &weights);
        for _ in 0..60 {
            let j = task.jacobian(&numbers, &weights, &now);
            let (normal, right) = (j.transpose() * &j, j.transpose() * &now);
            let mut damped = normal.clone();
            for i in 0..damped.nrows() {
                damped[(i, i)] *= 1.0 + damp;
            }
            let step = damped.cholesky().ok_or(CROOKED)?.solve(&right);
            let next = &numbers - &step;
            let then = task.residuals(&next, &weights);
            let gain = now.norm_squared() - then.norm_squared();
            if gain >= 0.0 {
                (numbers, now, damp) = (next, then, damp * 0.3);
                if gain < 1e-9 * (1.0 + now.norm_squared()) {
                    break;
                }
            } else {
                damp *= 10.0;
                if damp > 1e9 {
                    break;
                }
            }
        }
        let edges = sheets
            .iter()
            .flat_map(|s| &s.sides)
            .map(Vec::len)
            .sum::<usize>();
        let noise = (now.rows(0, edges).norm_squared() / edges.max(1) as f64).sqrt();
        // Where points lie worse than supposed, everything is less sure by that much.
        let worse = noise.max(1.0);
        let j = task.jacobian(&numbers, &weights, &now);
        let normal = j.transpose() * &j;
        let inverse = normal.try_inverse().ok_or(CROOKED)?;
        let far = |k: usize| now[edges + k] * TAPE_SD;
        let left_sd = |k: usize| {
            let row = j.row(edges + k);
            let own = (row * &inverse * row.transpose())[(0, 0)];
            (1.0 - own).max(0.01).sqrt() * TAPE_SD
        };
        Ok(Plane {
            middle: task.middle,
            reach: task.reach,
            printed: numbers[PRINT],
            left: (0..taped.len()).map(far).collect(),
            left_sd: (0..taped.len()).map(left_sd).collect(),
            noise: noise * POINT_SD,
            numbers,
            covariance: inverse * worse * worse,
        })
    }

    /// Where on the floor a place of the photo lies, mm.
    pub fn at(&self, pixel: Point) -> Point {
        floor(&self.numbers, self.middle, self.reach, pixel)
    }

    /// Where in the photo a place of the floor is seen; looked for from a place near it, if one is known, else from the middle.
    pub fn pixel_from(&self, mm: Point, near: Option<Point>) -> Point {
        // The lens bends little: a few steps of Newton's method.
        let mut p = near.unwrap_or(self.middle);
        for _ in 0..30 {
            let q = self.at(p);
            let (dx, dy) = (self.at([p[0] + 1.0, p[1]]), self.at([p[0], p[1] + 1.0]));
            let j = Matrix2::new(dx[0] - q[0], dy[0] - q[0], dx[1] - q[1], dy[1] - q[1]);
            let Some(step) = j
                .try_inverse()
                .map(|i| i * Vector2::new(mm[0] - q[0], mm[1] - q[1]))
            else {
                break;
            };
            let most = self.reach / 2.0;
            let by = (most / step.norm().max(1e-12)).min(1.0);
            p = [p[0] + step.x * by, p[1] + step.y * by];
            if step.norm() < 1e-3 {
                break;
            }
        }
        p
    }

    /// How unsure each place is against all of them together, mm (standard deviation of the worse direction): what a shift or
    /// a turn of the whole would change is no doubt about its shape.
    pub fn doubts(&self, pixels: &[Point]) -> Vec<f64> {
        let n = pixels.len();
        if n == 0 {
            return vec![];
        }
        let at: Vec<Point> = pixels.iter().map(|p| self.at(*p)).collect();
        let mut moves = DMatrix::zeros(2 * n, POSES);
        for k in [0, 1, 2, 3, 4, 5, 6, 7, LENS] {
            let mut other = self.numbers.clone();
            let step = 1e-6 * (1.0 + other[k].abs());
            other[k] += step;
            for (i, p) in pixels.iter().enumerate() {
                let q = floor(&other, self.middle, self.reach, *p);
                moves[(2 * i, k)] = (q[0] - at[i][0]) / step;
                moves[(2 * i + 1, k)] = (q[1] - at[i][1]) / step;
            }
        }
        let mean = [0, 1].map(|k| at.iter().map(|p| p[k]).sum::<f64>() / n as f64);
        let rigid = DMatrix::from_fn(2 * n, 3, |row, k| {
            let (p, y) = (at[row / 2], row % 2);
            match k {
                0 => f64::from(u8::from(y == 0)),
                1 => f64::from(u8::from(y == 1)),
                _ if y == 0 => -(p[1] - mean[1]),
                _ => p[0] - mean[0],
            }
        });
        let square = rigid.transpose() * &rigid;
        if let Some(inverse) = square.try_inverse() {
            let taken = &rigid * (inverse * (rigid.transpose() * &moves));
            moves -= taken;
        }
        let own = self.covariance.view((0, 0), (POSES, POSES));
        let spread = &moves * own;
        (0..n)
            .map(|i| {
                let of = |a: usize, b: usize| spread.row(a).dot(&moves.row(b));
                let (xx, yy, xy) = (
                    of(2 * i, 2 * i),
                    of(2 * i + 1, 2 * i + 1),
                    of(2 * i, 2 * i + 1),
                );
                let half = (xx + yy) / 2.0;
                (half + ((xx - yy) / 2.0).hypot(xy)).max(0.0).sqrt()
            })
            .collect()
    }
}

const CROOKED: &str = "The sheets do not lie in one plane as they are seen. Lay them flat, and take the photo so that all four are sharp.";

fn floor(n: &DVector<f64>, middle: Point, reach: f64, pixel: Point) -> Point {
    let (x, y) = (
        (pixel[0] - middle[0]) / reach,
        (middle[1] - pixel[1]) / reach,
    );
    let by = 1.0 + n[LENS] * (x * x + y * y);
    let (x, y) = (x * by, y * by);
    let w = 1.0 + n[6] * x + n[7] * y;
    [
        (n[0] * x + n[1] * y + n[2]) / w,
        (n[3] * x + n[4] * y + n[5]) / w,
    ]
}

impl Task<'_> {
    fn near(&self, pixel: Point) -> Point {
        [
            (pixel[0] - self.middle[0]) / self.reach,
            (self.middle[1] - pixel[1]) / self.reach,
        ]
    }

    /// A beginning without a lens: the line at infinity for which all sheets have the same shape and size, then the shear
    /// that makes them square.
    fn begin(&self) -> Option<DVector<f64>> {
        let corners: Vec<[Point; 4]> = self
            .sheets
            .iter()
            .map(|s| s.corners.map(|c| self.near(c)))
            .collect();
        let far = |l: Point| -> Option<(f64, Matrix2<f64>)> {
            let all: Vec<Matrix2<f64>> = corners
                .iter()
                .map(|c| spread(c, l))
                .collect::<Option<_>>()?;
            let mean = all.iter().sum::<Matrix2<f64>>() / all.len() as f64;
            let inverse = mean.try_inverse()?;
            let off = all
                .iter()
                .map(|m| (inverse * m - Matrix2::identity()).norm_squared());
            Some((off.sum(), mean))
        };
        let mut best = ([0.0, 0.0], far([0.0, 0.0])?.0);
        let mut step = 0.05;
        for round in 0..40 {
            let reach = if round == 0 { 19 } else { 2 };
            let from = best.0;
            for i in -reach..=reach {
                for j in -reach..=reach {
                    let l = [from[0] + step * f64::from(i), from[1] + step * f64::from(j)];
                    if let Some((off, _)) = far(l)
                        && off < best.1
                    {
                        best = (l, off);
                    }
                }
            }
            step *= if round == 0 { 0.5 } else { 0.7 };
        }
        let (l, (_, mean)) = (best.0, far(best.0)?);
        // A square of side s has the spread s^2/4 in both directions.
        let root = mean.cholesky()?.l().try_inverse()? * (SIDE / 2.0);
        let first = self.sheets.first()?.corners.map(|c| {
            let p = self.near(c);
            let w = 1.0 + l[0] * p[0] + l[1] * p[1];
            root * Vector2::new(p[0] / w, p[1] / w)
        });
        let (turn, shift) = lies(&first);
        let back = turned(-turn) * root;
        let to = turned(-turn) * shift;
        let mut n = DVector::zeros(POSES + 3 * (self.sheets.len() - 1));
        n[0] = back[(0, 0)] - to.x * l[0];
        n[1] = back[(0, 1)] - to.x * l[1];
        n[2] = -to.x;
        n[3] = back[(1, 0)] - to.y * l[0];
        n[4] = back[(1, 1)] - to.y * l[1];
        n[5] = -to.y;
        (n[6], n[7]) = (l[0], l[1]);
        n[PRINT] = 1.0;
        for (i, s) in self.sheets.iter().enumerate().skip(1) {
            let there = s.corners.map(|c| {
                let p = floor(&n, self.middle, self.reach, c);
                Vector2::new(p[0], p[1])
            });
            let (turn, shift) = lies(&there);
            let k = POSES + 3 * (i - 1);
            (n[k], n[k + 1], n[k + 2]) = (shift.x, shift.y, turn);
        }
        n.iter().all(|v| v.is_finite()).then_some(n)
    }

    fn pose(n: &DVector<f64>, sheet: usize) -> [f64; 3] {
        match sheet {
            0 => [0.0; 3],
            i => {
                let k = POSES + 3 * (i - 1);
                [n[k], n[k + 1], n[k + 2]]
            }
        }
    }

    /// Millimetres that a point's doubt in pixels is worth, for each sheet.
    fn weights(&self, n: &DVector<f64>) -> Vec<f64> {
        let each = self.sheets.iter().map(|s| {
            let p = s.corners.map(|c| floor(n, self.middle, self.reach, c));
            let seen = distance(s.corners[0], s.corners[2]) + distance(s.corners[1], s.corners[3]);
            let real = distance(p[0], p[2]) + distance(p[1], p[3]);
            POINT_SD * real / seen.max(1.0)
        });
        each.collect()
    }

    /// Points off their sides, then the tape, then what is known of lens and print; all by their doubts.
    fn residuals(&self, n: &DVector<f64>, weights: &[f64]) -> DVector<f64> {
        let half = n[PRINT] * SIDE / 2.0;
        let mut all = vec![];
        for (i, s) in self.sheets.iter().enumerate() {
            let [x, y, turn] = Self::pose(n, i);
            let (sin, cos) = turn.sin_cos();
            for (k, side) in s.sides.iter().enumerate() {
                for p in side {
                    let q = floor(n, self.middle, self.reach, *p);
                    let (dx, dy) = (q[0] - x, q[1] - y);
                    let (a, b) = (cos * dx + sin * dy, cos * dy - sin * dx);
                    let off = match k {
                        0 => -b - half,
                        1 => a - half,
                        2 => b - half,
                        _ => -a - half,
                    };
                    all.push(off / weights[i]);
                }
            }
        }
        for t in self.taped {
            let place = |number: usize| {
                let i = self.sheets.iter().position(|s| s.number == number);
                i.map_or([0.0; 3], |i| Self::pose(n, i))
            };
            let (a, b) = (place(t.from), place(t.to));
            all.push((t.mm - (a[0] - b[0]).hypot(a[1] - b[1])) / TAPE_SD);
        }
        all.push(n[LENS] / LENS_SD);
        all.push((n[PRINT] - 1.0) / PRINT_SD);
        DVector::from_vec(all)
    }

    fn jacobian(&self, n: &DVector<f64>, weights: &[f64], now: &DVector<f64>) -> DMatrix<f64> {
        let mut j = DMatrix::zeros(now.len(), n.len());
        for k in 0..n.len() {
            let mut other = n.clone();
            let step = 1e-6 * (1.0 + n[k].abs());
            other[k] += step;
            j.set_column(k, &((self.residuals(&other, weights) - now) / step));
        }
        j
    }
}

fn turned(by: f64) -> Matrix2<f64> {
    let (s, c) = by.sin_cos();
    Matrix2::new(c, -s, s, c)
}

/// How far a sheet's corners reach from its middle, in both directions, with the line at infinity `l`.
fn spread(corners: &[Point; 4], l: Point) -> Option<Matrix2<f64>> {
    let mut to = [Vector2::zeros(); 4];
    for (to, p) in to.iter_mut().zip(corners) {
        let w = 1.0 + l[0] * p[0] + l[1] * p[1];
        if w < 0.05 {
            return None;
        }
        *to = Vector2::new(p[0] / w, p[1] / w);
    }
    let right = (to[1] - to[0] + to[2] - to[3]) / 2.0;
    let up = (to[3] - to[0] + to[2] - to[1]) / 2.0;
    let j = Matrix2::from_columns(&[right, up]);
    (j.determinant() > 0.0).then(|| j * j.transpose() / 4.0)
}

/// How a square lies: its turn and its middle.
fn lies(corners: &[Vector2<f64>; 4]) -> (f64, Vector2<f64>) {
    let right = corners[1] - corners[0] + corners[2] - corners[3];
    let up = corners[3] - corners[0] + corners[2] - corners[1];
    let turn = (right.y - up.x).atan2(right.x + up.y);
    (turn, corners.iter().sum::<Vector2<f64>>() / 4.0)
}
