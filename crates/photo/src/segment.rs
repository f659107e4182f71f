//! Which part of the floor the template covers: by its colour against the floor's, on a grid of the floor.

use contour::ContourBuilder;
use geo::{Area, Contains};
use jigfit_core::geometry::Point;

use crate::picture::Picture;
use crate::plane::{Plane, Seen};
use crate::sheet::SIDE;

/// Most fields of the grid along its longer side, and the least width of one, mm.
const FIELDS: f64 = 1500.0;
const FINEST: f64 = 1.0;
/// Half the paper of a sheet with a rim to spare, mm: A4 or Letter.
const PAPER: Point = [116.0, 158.0];
/// Floor is looked at up to so far beside the paper, and the grid goes so far beyond the sheets, mm.
const BESIDE: f64 = 60.0;
const BEYOND: f64 = 230.0;
/// Colours differ by at least so much within one thing: what red and what blue has over green, and how light it is, which
/// shadows change. In logarithms.
const WITHIN: [f64; 3] = [0.03, 0.03, 0.2];
/// Template and floor are told apart at so many times that.
const APART: f64 = 4.0;

struct Grid {
    low: Point,
    step: f64,
    w: usize,
    h: usize,
    /// Colours; none where the photo shows nothing.
    colour: Vec<Option<[f64; 3]>>,
    /// Places of the photo.
    pixel: Vec<Point>,
}

impl Grid {
    fn at(&self, i: usize) -> Point {
        [
            self.low[0] + self.step * ((i % self.w) as f64 + 0.5),
            self.low[1] + self.step * ((i / self.w) as f64 + 0.5),
        ]
    }

    fn of(picture: &Picture, plane: &Plane, sheets: &[Seen]) -> Grid {
        let all = || sheets.iter().flat_map(|s| s.corners).map(|c| plane.at(c));
        let low = [0, 1].map(|k| all().map(|p| p[k]).fold(f64::INFINITY, f64::min) - BEYOND);
        let high = [0, 1].map(|k| all().map(|p| p[k]).fold(f64::NEG_INFINITY, f64::max) + BEYOND);
        let wide = (high[0] - low[0]).max(high[1] - low[1]);
        let step = (wide / FIELDS).max(FINEST);
        let [w, h] =
            [0, 1].map(|k| ((high[k] - low[k]) / step).ceil().clamp(1.0, FIELDS + 1.0) as usize);
        let mut grid = Grid {
            low,
            step,
            w,
            h,
            colour: Vec::with_capacity(w * h),
            pixel: Vec::with_capacity(w * h),
        };
        for i in 0..w * h {
            let before = match i % w {
                0 => i.checked_sub(w),
                _ => Some(i - 1),
            };
            let from = before.map(|b| grid.pixel[b]);
            let p = plane.pixel_from(grid.at(i), from);
            let within = p[0] >= 1.0
                && p[1] >= 1.0
                && p[0] < picture.w as f64 - 1.0
                && p[1] < picture.h as f64 - 1.0;
            let colour = within.then(|| colour(picture.light(p)));
            grid.colour.push(colour);
            grid.pixel.push(p);
        }
        grid
    }
}

/// What does not change with the light first, then the light.
fn colour([r, g, b]: [f64; 3]) -> [f64; 3] {
    let log = |v: f64| (v + 0.01).ln();
    [log(r) - log(g), log(b) - log(g), log((r + g + b) / 3.0)]
}

/// The usual colour, and how much it varies.
fn usual(mut all: Vec<[f64; 3]>) -> Option<([f64; 3], [f64; 3])> {
    if all.len() < 30 {
        return None;
    }
    let half = all.len() / 2;
    let middle = |all: &mut Vec<[f64; 3]>, k: usize| {
        all.sort_by(|a, b| a[k].total_cmp(&b[k]));
        all[half][k]
    };
    let mid = [0, 1, 2].map(|k| middle(&mut all, k));
    let mut off: Vec<[f64; 3]> = all
        .iter()
        .map(|c| [0, 1, 2].map(|k| (c[k] - mid[k]).abs()))
        .collect();
    // 1.4826 makes a median of deviations a standard deviation of normal ones.
    let wide = [0, 1, 2].map(|k| (1.4826 * middle(&mut off, k)).max(WITHIN[k]));
    Some((mid, wide))
}

/// The outline of what lies at `seed` (a place of the photo; between the sheets if not said): a ring, against the clock, mm.
///
/// # Errors
/// It cannot be told from the floor, or reaches too far: what to do, in a sentence.
pub fn ring(
    picture: &Picture,
    plane: &Plane,
    sheets: &[Seen],
    seed: Option<Point>,
) -> Result<Vec<Point>, String> {
    let grid = Grid::of(picture, plane, sheets);
    let corners = || sheets.iter().flat_map(|s| s.corners);
    let n = corners().count().max(1) as f64;
    let middle = [0, 1].map(|k| corners().map(|c| plane.at(c)[k]).sum::<f64>() / n);
    let seed = seed.map_or(middle, |s| plane.at(s));
    let poses: Vec<_> = sheets.iter().map(|s| frame(s, plane)).collect();
    // 0 free, 1 beside a sheet's paper, 2 under it.
    let near: Vec<u8> = (0..grid.w * grid.h)
        .map(|i| {
            let p = grid.at(i);
            let each = poses.iter().map(|f| {
                let [u, v] = f(p).map(f64::abs);
                if u < PAPER[0] && v < PAPER[1] {
                    2
                } else {
                    u8::from(u < PAPER[0] + BESIDE && v < PAPER[1] + BESIDE)
                }
            });
            each.max().unwrap_or(0)
        })
        .collect();
    let pick = |wanted: &dyn Fn(usize) -> bool| -> Vec<[f64; 3]> {
        let all = (0..grid.w * grid.h).filter(|i| wanted(*i));
        let all: Vec<_> = all.filter_map(|i| grid.colour[i]).collect();
        let each = (all.len() / 20_000).max(1);
        all.into_iter().step_by(each).collect()
    };
    let floor = usual(pick(&|i| near[i] == 1))
        .ok_or("The photo shows too little of the floor beside the sheets.")?;
    let disc = |i: usize| {
        let p = grid.at(i);
        near[i] == 0 && (p[0] - seed[0]).hypot(p[1] - seed[1]) < 25.0
    };
    let card =
        usual(pick(&disc)).ok_or("Where you tapped there is no template: tap on its middle.")?;
    let apart = (0..3).map(|k| (card.0[k] - floor.0[k]).abs() / card.1[k].max(floor.1[k]));
    if apart.fold(0.0, f64::max) < APART {
        return Err("The template and the floor look alike. Put it on something much darker or lighter, or of another colour; or tap on it in the photo.".into());
    }
    let is = |c: [f64; 3]| {
        let each = (0..3).map(|k| {
            let (a, b) = (
                (c[k] - card.0[k]) / card.1[k],
                (c[k] - floor.0[k]) / floor.1[k],
            );
            // Beyond what either can be nothing is said by how far.
            let [a, b] = [a, b].map(|v| (v * v).min(60.0));
            a - b + 2.0 * (card.1[k] / floor.1[k]).ln()
        });
        each.sum::<f64>() < 0.0
    };
    let own: Vec<f64> = (0..grid.w * grid.h)
        .map(|i| f64::from(u8::from(near[i] != 2 && grid.colour[i].is_some_and(is))))
        .collect();
    // Single fields go by most of their neighbours.
    let even = blurred(&own, grid.w, grid.h, 2);
    let rings = ContourBuilder::new(grid.w, grid.h, true)
        .contours(&even, &[0.5])
        .map_err(|e| e.to_string())?;
    let on = geo::Point::new(
        (seed[0] - grid.low[0]) / grid.step,
        (seed[1] - grid.low[1]) / grid.step,
    );
    let mut found: Vec<geo::Polygon> = rings
        .into_iter()
        .flat_map(|c| c.geometry().0.clone())
        .map(|p| geo::Polygon::new(p.exterior().clone(), vec![]))
        .filter(|p| p.contains(&on))
        .collect();
    found.sort_by(|a, b| b.unsigned_area().total_cmp(&a.unsigned_area()));
    let outer = found
        .into_iter()
        .next()
        .ok_or("Where the template should lie there is floor: tap on the template in the photo.")?;
    let mut ring: Vec<Point> = outer
        .exterior()
        .coords()
        .map(|c| [grid.low[0] + c.x * grid.step, grid.low[1] + c.y * grid.step])
        .collect();
    ring.pop();
    if outer.exterior().coords().any(|c| {
        let i = (c.y.max(0.0) as usize).min(grid.h - 1) * grid.w
            + (c.x.max(0.0) as usize).min(grid.w - 1);
        let edge = c.x < 3.0 || c.y < 3.0 || c.x > grid.w as f64 - 3.0 || c.y > grid.h as f64 - 3.0;
        edge || around(&grid, i).any(|k| grid.colour[k].is_none())
    }) {
        return Err("The template reaches out of the photo or far beyond the sheets, or looks like the floor somewhere. Step back, put the sheets outside its corners, and take care that the floor is of another colour all round.".into());
    }
    if ring.len() < 20 {
        return Err("What lies there is too small for a template.".into());
    }
    let twice: f64 = (0..ring.len())
        .map(|i| {
            let (a, b) = (ring[i], ring[(i + 1) % ring.len()]);
            a[0] * b[1] - a[1] * b[0]
        })
        .sum();
    if twice < 0.0 {
        ring.reverse();
    }
    Ok(ring)
}

fn around(grid: &Grid, i: usize) -> impl Iterator<Item = usize> {
    let (x, y, w, h) = (i % grid.w, i / grid.w, grid.w, grid.h);
    (y.saturating_sub(3)..=(y + 3).min(h - 1))
        .flat_map(move |y| (x.saturating_sub(3)..=(x + 3).min(w - 1)).map(move |x| y * w + x))
}

/// From a place on the floor to a sheet's own directions.
fn frame(s: &Seen, plane: &Plane) -> impl Fn(Point) -> Point + use<> {
    let c = s.corners.map(|c| plane.at(c));
    let mid = [0, 1].map(|k| c.iter().map(|p| p[k]).sum::<f64>() / 4.0);
    let right = [c[1][0] - c[0][0], c[1][1] - c[0][1]];
    let long = right[0].hypot(right[1]).max(1e-9);
    let (cos, sin) = (right[0] / long, right[1] / long);
    let by = SIDE / long;
    move |p| {
        let (x, y) = ((p[0] - mid[0]) * by, (p[1] - mid[1]) * by);
        [cos * x + sin * y, cos * y - sin * x]
    }
}

/// The mean of each field and its neighbours, up to `r` away.
fn blurred(v: &[f64], w: usize, h: usize, r: usize) -> Vec<f64> {
    let pass = |v: &[f64], n: usize, of: usize, at: &dyn Fn(usize, usize) -> usize| {
        let mut out = vec![0.0; v.len()];
        for line in 0..of {
            let mut sum: f64 = (0..r.min(n)).map(|i| v[at(line, i)]).sum();
            for i in 0..n {
                if i + r < n {
                    sum += v[at(line, i + r)];
                }
                if i > r {
                    sum -= v[at(line, i - r - 1)];
                }
                let there = (i + r).min(n - 1) - i.saturating_sub(r) + 1;
                out[at(line, i)] = sum / there as f64;
            }
        }
        out
    };
    let rows = pass(v, w, h, &|line, i| line * w + i);
    pass(&rows, h, w, &|line, i| i * w + line)
}
