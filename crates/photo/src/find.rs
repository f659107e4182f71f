//! The marker sheets in a photo: dark shapes with four corners whose room reads as a sheet's.

use jigfit_core::geometry::{Point, distance};
use nalgebra::{Matrix3, SMatrix, SVector, Vector3};

use crate::line::line;
use crate::picture::Picture;
use crate::plane::Seen;
use crate::sheet::{self, FIELDS};

/// Half the width of the window in which dark is told from light, as shares of the photo's width: small sheets and large ones.
const WINDOWS: [f64; 4] = [0.006, 0.012, 0.024, 0.048];
/// Places along a side.
const ALONG: usize = 24;
/// Fewest of them that make a side.
const FEWEST: usize = 12;

/// All sheets that are seen, each number once: the largest.
pub fn sheets(picture: &Picture) -> Vec<Seen> {
    let small = Small::of(picture);
    let mut found: Vec<Seen> = vec![];
    for share in WINDOWS {
        let reach = ((small.w as f64 * share) as usize).max(3);
        for corners in shapes(&small, &small.dark(reach)) {
            let corners = corners.map(|p| p.map(|v| v * small.step as f64));
            let near = |s: &Seen| middle(&s.corners, &corners) < side(&s.corners) / 2.0;
            if found.iter().any(near) {
                continue;
            }
            if let Some(seen) = sheet_at(picture, corners) {
                found.push(seen);
            }
        }
    }
    found.sort_by(|a, b| side(&b.corners).total_cmp(&side(&a.corners)));
    let mut once: Vec<Seen> = vec![];
    for s in found {
        if once.iter().all(|o| o.number != s.number) {
            once.push(s);
        }
    }
    once.sort_by_key(|s| s.number);
    once
}

fn side(c: &[Point; 4]) -> f64 {
    (0..4)
        .map(|i| distance(c[i], c[(i + 1) % 4]))
        .fold(f64::INFINITY, f64::min)
}

fn middle(a: &[Point; 4], b: &[Point; 4]) -> f64 {
    let mid = |c: &[Point; 4]| [0, 1].map(|k| c.iter().map(|p| p[k]).sum::<f64>() / 4.0);
    distance(mid(a), mid(b))
}

/// The photo made smaller, and only light and dark.
struct Small {
    w: usize,
    h: usize,
    step: usize,
    grey: Vec<u8>,
    /// Sums of all that lies above and to the left.
    sums: Vec<u32>,
}

impl Small {
    fn of(p: &Picture) -> Small {
        let step = (p.w.max(p.h) / 1600).max(1);
        let (w, h) = (p.w / step, p.h / step);
        let mut grey = vec![0; w * h];
        for y in 0..h {
            for x in 0..w {
                let mut sum = 0;
                for b in 0..step {
                    for a in 0..step {
                        let k = 3 * ((y * step + b) * p.w + x * step + a);
                        sum += 2 * u32::from(p.rgb[k])
                            + 5 * u32::from(p.rgb[k + 1])
                            + u32::from(p.rgb[k + 2]);
                    }
                }
                grey[y * w + x] = (sum / (8 * (step * step) as u32)) as u8;
            }
        }
        let mut sums = vec![0; (w + 1) * (h + 1)];
        for y in 0..h {
            let mut row = 0;
            for x in 0..w {
                row += u32::from(grey[y * w + x]);
                sums[(y + 1) * (w + 1) + x + 1] = sums[y * (w + 1) + x + 1] + row;
            }
        }
        Small {
            w,
            h,
            step,
            grey,
            sums,
        }
    }

    /// What is much darker than its surroundings.
    fn dark(&self, reach: usize) -> Vec<bool> {
        let mut dark = vec![false; self.w * self.h];
        for y in 0..self.h {
            let (top, bottom) = (y.saturating_sub(reach), (y + reach + 1).min(self.h));
            for x in 0..self.w {
                let (left, right) = (x.saturating_sub(reach), (x + reach + 1).min(self.w));
                let at = |y: usize, x: usize| self.sums[y * (self.w + 1) + x];
                let sum = at(bottom, right) + at(top, left) - at(top, right) - at(bottom, left);
                let n = ((bottom - top) * (right - left)) as u32;
                let own = u32::from(self.grey[y * self.w + x]);
                dark[y * self.w + x] = own * n * 100 + 500 * n < sum * 85;
            }
        }
        dark
    }
}

/// Dark shapes with four corners, against the clock as it is seen.
fn shapes(small: &Small, dark: &[bool]) -> Vec<[Point; 4]> {
    let (w, h) = (small.w, small.h);
    let mut seen = vec![false; w * h];
    let mut found = vec![];
    let mut stack = vec![];
    for start in 0..w * h {
        if !dark[start] || seen[start] {
            continue;
        }
        // The leftmost and the rightmost of each row are enough for the shape's hull.
        let mut rows: std::collections::BTreeMap<usize, (usize, usize)> =
            std::collections::BTreeMap::new();
        let mut count = 0;
        seen[start] = true;
        stack.push(start);
        while let Some(at) = stack.pop() {
            let (x, y) = (at % w, at / w);
            count += 1;
            let row = rows.entry(y).or_insert((x, x));
            *row = (row.0.min(x), row.1.max(x));
            let near = [
                (x > 0).then(|| at - 1),
                (x + 1 < w).then(|| at + 1),
                (y > 0).then(|| at - w),
                (y + 1 < h).then(|| at + w),
            ];
            for next in near.into_iter().flatten() {
                if dark[next] && !seen[next] {
                    seen[next] = true;
                    stack.push(next);
                }
            }
        }
        if count < 100 || rows.len() < 12 {
            continue;
        }
        let ends: Vec<Point> = rows
            .iter()
            .flat_map(|(y, (a, b))| {
                let (top, bottom) = (*y as f64, *y as f64 + 1.0);
                let (a, b) = (*a as f64, *b as f64 + 1.0);
                [[a, top], [a, bottom], [b, top], [b, bottom]]
            })
            .collect();
        if let Some(c) = four(&hull(ends)) {
            found.push(c);
        }
    }
    found
}

fn cross(o: Point, a: Point, b: Point) -> f64 {
    (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0])
}

/// Convex hull (Andrew's monotone chain).
fn hull(mut p: Vec<Point>) -> Vec<Point> {
    p.sort_by(|a, b| a[0].total_cmp(&b[0]).then(a[1].total_cmp(&b[1])));
    let half = |points: &mut dyn Iterator<Item = Point>| {
        let mut chain: Vec<Point> = vec![];
        for q in points {
            while let [.., a, b] = chain[..]
                && cross(a, b, q) <= 0.0
            {
                chain.pop();
            }
            chain.push(q);
        }
        chain.pop();
        chain
    };
    let mut all = half(&mut p.iter().copied());
    all.extend(half(&mut p.iter().rev().copied()));
    all
}

fn area(p: &[Point]) -> f64 {
    let n = p.len();
    (0..n)
        .map(|i| p[i][0] * p[(i + 1) % n][1] - p[i][1] * p[(i + 1) % n][0])
        .sum::<f64>()
        / 2.0
}

/// The four corners of a hull that has four: the two furthest apart, and on each side the one furthest off their line.
fn four(hull: &[Point]) -> Option<[Point; 4]> {
    if hull.len() < 4 || hull.len() > 400 {
        return None;
    }
    let pairs = hull
        .iter()
        .enumerate()
        .flat_map(|(i, a)| hull[i + 1..].iter().map(move |b| (*a, *b)));
    let (a, c) = pairs.max_by(|p, q| distance(p.0, p.1).total_cmp(&distance(q.0, q.1)))?;
    let off = |sign: f64| {
        let most = hull
            .iter()
            .copied()
            .max_by(|p, q| (sign * cross(a, c, *p)).total_cmp(&(sign * cross(a, c, *q))))?;
        (sign * cross(a, c, most) > 0.0).then_some(most)
    };
    let (b, d) = (off(1.0)?, off(-1.0)?);
    let mut corners = [a, b, c, d];
    // In the photo y goes down: against the clock as it is seen is a negative area.
    if area(&corners) > 0.0 {
        corners.reverse();
    }
    let share = area(hull).abs() / area(&corners).abs().max(1e-9);
    let longest = (0..4)
        .map(|i| distance(corners[i], corners[(i + 1) % 4]))
        .fold(0.0, f64::max);
    ((0.95..1.25).contains(&share) && longest < 6.0 * side(&corners) && side(&corners) > 8.0)
        .then_some(corners)
}

/// The sheet whose black square has about these corners.
fn sheet_at(picture: &Picture, mut corners: [Point; 4]) -> Option<Seen> {
    // A hull of whole pixels is a pixel off: the lines are found twice, the second time from better corners.
    let mut sides = edges(picture, &corners)?;
    for _ in 0..2 {
        corners = meet(&sides)?;
        sides = edges(picture, &corners)?;
    }
    corners = meet(&sides)?;
    let (number, quarter) = reads(picture, &corners)?;
    corners.rotate_left(quarter);
    sides.rotate_left(quarter);
    Some(Seen {
        number,
        sides,
        corners,
    })
}

/// Points along the four sides, where dark becomes light.
fn edges(picture: &Picture, c: &[Point; 4]) -> Option<[Vec<Point>; 4]> {
    let mut sides: [Vec<Point>; 4] = Default::default();
    for (i, side) in sides.iter_mut().enumerate() {
        let (a, b) = (c[i], c[(i + 1) % 4]);
        let long = distance(a, b);
        if long < 8.0 {
            return None;
        }
        // Outwards, against the clock in a photo whose y goes down.
        let out = [-(b[1] - a[1]) / long, (b[0] - a[0]) / long];
        let reach = (long / FIELDS as f64 * 0.6).clamp(2.0, 40.0);
        for k in 0..ALONG {
            let t = 0.06 + 0.88 * k as f64 / (ALONG - 1) as f64;
            let at = [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])];
            if let Some(off) = step(picture, at, out, reach) {
                side.push([at[0] + off * out[0], at[1] + off * out[1]]);
            }
        }
        thinned(side);
        if side.len() < FEWEST {
            return None;
        }
    }
    Some(sides)
}

/// How far outwards a place lies where dark becomes light, halfway between both.
fn step(picture: &Picture, at: Point, out: Point, reach: f64) -> Option<f64> {
    let n = (2.0 * reach / 0.5) as usize;
    let place = |i: usize| -reach + 2.0 * reach * i as f64 / n as f64;
    let light: Vec<f64> = (0..=n)
        .map(|i| {
            let s = place(i);
            picture.grey([at[0] + s * out[0], at[1] + s * out[1]])
        })
        .collect();
    let end = (n / 4).max(1);
    let mean = |v: &[f64]| v.iter().sum::<f64>() / v.len() as f64;
    let (dark, bright) = (mean(&light[..end]), mean(&light[n + 1 - end..]));
    if bright - dark < 0.03 || bright < 1.5 * dark {
        return None;
    }
    let half = f64::midpoint(dark, bright);
    let mut best: Option<f64> = None;
    for i in 0..n {
        let (a, b) = (light[i], light[i + 1]);
        if a < half && b >= half {
            let off = place(i) + (place(i + 1) - place(i)) * (half - a) / (b - a);
            if best.is_none_or(|o: f64| off.abs() < o.abs()) {
                best = Some(off);
            }
        }
    }
    best
}

/// Leaves out what lies far off the line through most.
fn thinned(points: &mut Vec<Point>) {
    for _ in 0..3 {
        let Some((at, along)) = line(points) else {
            return;
        };
        let off = |p: &Point| (along[0] * (p[1] - at[1]) - along[1] * (p[0] - at[0])).abs();
        let mut all: Vec<f64> = points.iter().map(off).collect();
        all.sort_by(f64::total_cmp);
        let usual = all.get(all.len() / 2).copied().unwrap_or(0.0).max(0.15);
        points.retain(|p| off(p) < 4.0 * usual);
    }
}

/// Where the sides meet: side i runs from corner i to the next.
fn meet(sides: &[Vec<Point>; 4]) -> Option<[Point; 4]> {
    let mut corners = [[0.0; 2]; 4];
    for (i, corner) in corners.iter_mut().enumerate() {
        let ((p, d), (q, e)) = (line(&sides[(i + 3) % 4])?, line(&sides[i])?);
        let by = d[0] * e[1] - d[1] * e[0];
        if by.abs() < 0.1 {
            return None;
        }
        let t = ((q[0] - p[0]) * e[1] - (q[1] - p[1]) * e[0]) / by;
        *corner = [p[0] + t * d[0], p[1] + t * d[1]];
    }
    (area(&corners) < 0.0).then_some(corners)
}

/// What stands in the square: which sheet, and how it is turned.
fn reads(picture: &Picture, corners: &[Point; 4]) -> Option<(usize, usize)> {
    let h = between(corners)?;
    let at = |u: f64, v: f64| {
        let p = h * Vector3::new(u, v, 1.0);
        [p.x / p.z, p.y / p.z]
    };
    let mut field = [[0.0; FIELDS]; FIELDS];
    for (r, row) in field.iter_mut().enumerate() {
        for (c, light) in row.iter_mut().enumerate() {
            let (mut sum, mut n) = (0.0, 0.0);
            for i in 0..5 {
                for k in 0..5 {
                    let within =
                        |a: usize, b: usize| (a as f64 + 0.25 + 0.125 * b as f64) / FIELDS as f64;
                    sum += picture.grey(at(within(c, i), 1.0 - within(r, k)));
                    n += 1.0;
                }
            }
            *light = sum / n;
        }
    }
    let edge = |r: usize, c: usize| r == 0 || c == 0 || r == FIELDS - 1 || c == FIELDS - 1;
    let all = || (0..FIELDS).flat_map(|r| (0..FIELDS).map(move |c| (r, c)));
    let darkest = all()
        .filter(|(r, c)| edge(*r, *c))
        .map(|(r, c)| field[r][c]);
    let dark = darkest.clone().sum::<f64>() / darkest.clone().count() as f64;
    let bright = all().map(|(r, c)| field[r][c]).fold(0.0, f64::max);
    let half = f64::midpoint(dark, bright);
    if bright < 1.5 * dark + 0.01 || darkest.clone().any(|v| v > half) {
        return None;
    }
    let mut room = [[false; 3]; 3];
    for (r, row) in room.iter_mut().enumerate() {
        for (c, black) in row.iter_mut().enumerate() {
            *black = field[r + 1][c + 1] < half;
        }
    }
    sheet::read(room)
}

/// From the unit square, its corners against the clock, to four places.
fn between(c: &[Point; 4]) -> Option<Matrix3<f64>> {
    let from = [[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 1.0]];
    let mut m = SMatrix::<f64, 8, 8>::zeros();
    let mut b = SVector::<f64, 8>::zeros();
    for (i, ([u, v], [x, y])) in from.into_iter().zip(c.iter().copied()).enumerate() {
        let rows = [
            [u, v, 1.0, 0.0, 0.0, 0.0, -u * x, -v * x],
            [0.0, 0.0, 0.0, u, v, 1.0, -u * y, -v * y],
        ];
        for (k, row) in rows.iter().enumerate() {
            for (j, value) in row.iter().enumerate() {
                m[(2 * i + k, j)] = *value;
            }
        }
        (b[2 * i], b[2 * i + 1]) = (x, y);
    }
    let h = m.lu().solve(&b)?;
    Some(Matrix3::new(
        h[0], h[1], h[2], h[3], h[4], h[5], h[6], h[7], 1.0,
    ))
}
