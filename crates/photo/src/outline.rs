//! From the rough ring to the template's edge: along the normal of each place, where the light is halfway between the two sides; then
//! its corners, and the sides between them.

use jigfit_core::geometry::{Point, distance};
use nalgebra::{Matrix3, Vector3};

use crate::line::line;
use crate::picture::Picture;
use crate::plane::Plane;

/// A place every so many mm of the outline, and at most so many places.
const EVERY: f64 = 4.0;
const MOST: f64 = 4000.0;
/// How far beside the rough ring the edge is looked for, mm; then how far beside what was found, so that a joint in the floor
/// next to it does not count, and never fewer pixels.
const REACH: [f64; 2] = [8.0, 3.0];
const PIXELS: f64 = 5.0;
/// A corner turns by more than this, degrees, looked at over so many places to both sides.
const TURN: f64 = 25.0;
const ARM: usize = 8;
/// Places beside a corner that its roundness in the photo spoils.
const SPOILT: usize = 3;
/// An edge over which the light changes by less than this share is none; nor is one so many times softer than most.
const WEAK: f64 = 0.06;
const SOFT: f64 = 3.5;
/// A place that lies so far off what the edge does on both sides of it belongs to something else, mm.
const STRAY: f64 = 1.0;

/// A side of the outline, from corner to corner.
#[derive(Debug, Clone, PartialEq)]
pub struct Side {
    /// In order, mm.
    pub points: Vec<Point>,
    /// It has no corner: it ends where it begins.
    pub closed: bool,
}

/// The outline.
#[derive(Debug, Clone, PartialEq)]
pub struct Outline {
    /// All of it, against the clock, corners among the places.
    pub ring: Vec<Point>,
    /// Its sides, the longest first.
    pub sides: Vec<Side>,
    /// How rough the edge was seen, mm (standard deviation).
    pub noise: f64,
    /// Share of the edge that is no clear one.
    pub unclear: f64,
    /// A place in the middle of the longest unclear stretch.
    pub unclear_at: Option<Point>,
}

/// The edge near a rough ring (against the clock).
///
/// # Errors
/// Most of it is no clear edge.
pub fn follow(picture: &Picture, plane: &Plane, ring: &[Point]) -> Result<Outline, String> {
    let rough = even(ring);
    let rough = smoothed(&smoothed(&rough, 2), 2);
    let mut places: Vec<Option<Found>> = vec![];
    let mut points = rough;
    for reach in REACH {
        places = (0..points.len())
            .map(|i| edge(picture, plane, points[i], normal(&points, i, 3), reach))
            .collect();
        // What was not found stays for the moment: it is left out at the end.
        points = points
            .iter()
            .zip(&places)
            .map(|(p, f)| f.map_or(*p, |f| f.at))
            .collect();
    }
    let mut widths: Vec<f64> = places.iter().flatten().map(|f| f.width).collect();
    if widths.len() * 2 < points.len() {
        return Err("The edge of the template is hardly to be seen. More light, and a floor of another colour.".into());
    }
    widths.sort_by(f64::total_cmp);
    let usual = widths[widths.len() / 2];
    let sharp: Vec<bool> = places
        .iter()
        .map(|f| f.is_some_and(|f| f.width < SOFT * usual))
        .collect();
    let clear: Vec<bool> = (0..points.len())
        .map(|i| sharp[i] && !stray(&points, &sharp, i))
        .collect();
    let corners = corners(&points, &clear);
    let (sides, ring) = cut(&points, &clear, &corners);
    let unclear = unclear(&clear, &corners);
    Ok(Outline {
        noise: noise(&sides),
        unclear: unclear.len() as f64 / points.len().max(1) as f64,
        unclear_at: unclear.get(unclear.len() / 2).map(|i| points[*i]),
        ring,
        sides,
    })
}

#[derive(Clone, Copy)]
struct Found {
    at: Point,
    /// How many mm the light takes to change.
    width: f64,
}

/// Where the light is halfway, along the normal (outwards).
fn edge(picture: &Picture, plane: &Plane, at: Point, out: Point, reach: f64) -> Option<Found> {
    let place = |s: f64| [at[0] + s * out[0], at[1] + s * out[1]];
    let middle = plane.pixel_from(at, None);
    let one = plane.pixel_from(place(1.0), Some(middle));
    let reach = reach.max(PIXELS / distance(middle, one).max(1e-6));
    let ends = [-reach, reach].map(|s| plane.pixel_from(place(s), Some(middle)));
    let within = |p: &Point| {
        p[0] > 1.0 && p[1] > 1.0 && p[0] < picture.w as f64 - 1.0 && p[1] < picture.h as f64 - 1.0
    };
    if !ends.iter().all(within) {
        return None;
    }
    let n = (distance(ends[0], ends[1]) * 3.0).clamp(16.0, 200.0) as usize;
    let of = |i: usize| i as f64 / n as f64;
    let light: Vec<[f64; 3]> = (0..=n)
        .map(|i| picture.light([0, 1].map(|k| ends[0][k] + of(i) * (ends[1][k] - ends[0][k]))))
        .collect();
    let end = (n / 5).max(2);
    let mean =
        |v: &[[f64; 3]]| [0, 1, 2].map(|k| v.iter().map(|c| c[k]).sum::<f64>() / v.len() as f64);
    let (inner, outer) = (mean(&light[..end]), mean(&light[n + 1 - end..]));
    let by = [0, 1, 2].map(|k| outer[k] - inner[k]);
    let square: f64 = by.iter().map(|v| v * v).sum();
    let lightest = inner.iter().chain(&outer).copied().fold(0.0, f64::max);
    if square.sqrt() < WEAK * lightest + 0.004 {
        return None;
    }
    let share: Vec<f64> = light
        .iter()
        .map(|c| (0..3).map(|k| (c[k] - inner[k]) * by[k]).sum::<f64>() / square)
        .collect();
    let crossing = |level: f64| {
        let mut best: Option<f64> = None;
        for i in 0..n {
            let (a, b) = (share[i], share[i + 1]);
            if (a < level) != (b < level) {
                let t = of(i) + (level - a) / (b - a) / n as f64;
                if best.is_none_or(|o| (t - 0.5).abs() < (o - 0.5).abs()) {
                    best = Some(t);
                }
            }
        }
        best
    };
    let half = crossing(0.5)?;
    let width = (crossing(0.8)? - crossing(0.2)?).abs() * 2.0 * reach;
    let pixel = [0, 1].map(|k| ends[0][k] + half * (ends[1][k] - ends[0][k]));
    Some(Found {
        at: plane.at(pixel),
        width,
    })
}

/// Places at equal distances.
fn even(ring: &[Point]) -> Vec<Point> {
    let n = ring.len();
    let long: f64 = (0..n).map(|i| distance(ring[i], ring[(i + 1) % n])).sum();
    let every = EVERY.max(long / MOST);
    let mut out = vec![];
    let mut left = 0.0;
    for i in 0..n {
        let (a, b) = (ring[i], ring[(i + 1) % n]);
        let d = distance(a, b);
        let mut s = left;
        while s < d {
            out.push([0, 1].map(|k| a[k] + s / d * (b[k] - a[k])));
            s += every;
        }
        left = s - d;
    }
    out
}

fn smoothed(p: &[Point], r: usize) -> Vec<Point> {
    let n = p.len();
    (0..n)
        .map(|i| {
            let near = (0..=2 * r).map(|k| p[(i + n + k - r) % n]);
            let mut sum = [0.0; 2];
            near.for_each(|q| (0..2).for_each(|k| sum[k] += q[k]));
            sum.map(|v| v / (2 * r + 1) as f64)
        })
        .collect()
}

/// Outwards of a ring against the clock.
fn normal(p: &[Point], i: usize, r: usize) -> Point {
    let n = p.len();
    let (a, b) = (p[(i + n - r) % n], p[(i + r) % n]);
    let d = distance(a, b).max(1e-9);
    [(b[1] - a[1]) / d, -(b[0] - a[0]) / d]
}

/// A stretch of the edge beside a corner, as a parabola over its chord: sides may be bent.
struct Arm {
    mid: Point,
    along: Point,
    bend: [f64; 3],
}

impl Arm {
    fn through(p: &[Point]) -> Option<Arm> {
        let (mid, along) = line(p)?;
        let local = |q: &Point| {
            let (x, y) = (q[0] - mid[0], q[1] - mid[1]);
            (along[0] * x + along[1] * y, along[0] * y - along[1] * x)
        };
        let mut square = Matrix3::zeros();
        let mut right = Vector3::zeros();
        for (x, y) in p.iter().map(local) {
            let row = Vector3::new(1.0, x, x * x);
            square += row * row.transpose();
            right += row * y;
        }
        let bend = square.cholesky()?.solve(&right);
        Some(Arm {
            mid,
            along,
            bend: [bend.x, bend.y, bend.z],
        })
    }

    /// The tangent at the foot of a place: a point and a direction.
    fn tangent(&self, p: Point) -> (Point, Point) {
        let [a, b, c] = self.bend;
        let x = self.along[0] * (p[0] - self.mid[0]) + self.along[1] * (p[1] - self.mid[1]);
        let across = [-self.along[1], self.along[0]];
        let y = a + b * x + c * x * x;
        let slope = b + 2.0 * c * x;
        let long = 1.0f64.hypot(slope);
        (
            [0, 1].map(|k| self.mid[k] + x * self.along[k] + y * across[k]),
            [0, 1].map(|k| (self.along[k] + slope * across[k]) / long),
        )
    }
}

/// Clear places from `from` on, one way or the other, in the order of the ring.
fn arm(p: &[Point], clear: &[bool], from: usize, back: bool, long: usize) -> Vec<Point> {
    let n = p.len();
    let at = |k: usize| match back {
        true => (from + 10 * n - k) % n,
        false => (from + k) % n,
    };
    let mut all: Vec<Point> = (SPOILT..SPOILT + long)
        .map(at)
        .filter(|i| clear[*i])
        .map(|i| p[i])
        .collect();
    if back {
        all.reverse();
    }
    all
}

/// Whether a place lies off what both stretches beside it say: a joint of the floor that runs into the edge.
fn stray(p: &[Point], clear: &[bool], i: usize) -> bool {
    let off = |back: bool| {
        let own = arm(p, clear, i, back, ARM);
        let arm = Arm::through(&own).filter(|_| own.len() > ARM / 2)?;
        let (on, along) = arm.tangent(p[i]);
        Some((along[0] * (p[i][1] - on[1]) - along[1] * (p[i][0] - on[0])).abs())
    };
    let both = [true, false].map(|back| off(back).unwrap_or(0.0));
    both.into_iter().fold(f64::INFINITY, f64::min) > STRAY
}

/// Corners: which place is nearest, and where the sides beside it meet.
fn corners(p: &[Point], clear: &[bool]) -> Vec<(usize, Point)> {
    let n = p.len();
    let turned: Vec<f64> = (0..n)
        .map(|i| {
            let [before, after] = [true, false].map(|back| arm(p, clear, i, back, ARM));
            if before.len() < ARM / 2 || after.len() < ARM / 2 {
                return 0.0;
            }
            let (Some((_, d)), Some((_, e))) = (line(&before), line(&after)) else {
                return 0.0;
            };
            f64::atan2(d[0] * e[1] - d[1] * e[0], d[0] * e[0] + d[1] * e[1]).abs()
        })
        .collect();
    let apart = SPOILT + ARM;
    let mut found: Vec<(usize, Point)> = vec![];
    for i in 0..n {
        let near = (1..=apart).flat_map(|k| [turned[(i + n - k % n) % n], turned[(i + k) % n]]);
        let most = near.fold(0.0, f64::max);
        if turned[i].to_degrees() < TURN || turned[i] < most {
            continue;
        }
        // Two equal ones beside each other are one corner.
        if found.last().is_some_and(|(k, _)| i - k < apart) {
            continue;
        }
        // Lines that meet far off are no corner but a bend.
        if let Some(meet) = meet(p, clear, i).filter(|m| distance(*m, p[i]) < 15.0) {
            found.push((i, meet));
        }
    }
    found
}

/// Where the sides before and after a place meet, each as bent as it is.
fn meet(p: &[Point], clear: &[bool], i: usize) -> Option<Point> {
    let [before, after] = [true, false].map(|back| arm(p, clear, i, back, 2 * ARM));
    let (before, after) = (Arm::through(&before)?, Arm::through(&after)?);
    let mut at = p[i];
    for _ in 0..6 {
        let ((a, d), (b, e)) = (before.tangent(at), after.tangent(at));
        let by = d[0] * e[1] - d[1] * e[0];
        if by.abs() < 0.05 {
            return None;
        }
        let t = ((b[0] - a[0]) * e[1] - (b[1] - a[1]) * e[0]) / by;
        at = [a[0] + t * d[0], a[1] + t * d[1]];
    }
    Some(at)
}

/// The sides between the corners, the longest first, and the whole ring.
fn cut(p: &[Point], clear: &[bool], corners: &[(usize, Point)]) -> (Vec<Side>, Vec<Point>) {
    let n = p.len();
    if corners.is_empty() {
        let all: Vec<Point> = (0..n).filter(|i| clear[*i]).map(|i| p[i]).collect();
        let side = Side {
            points: all.clone(),
            closed: true,
        };
        return (vec![side], all);
    }
    let (mut sides, mut ring) = (vec![], vec![]);
    for (k, (from, meet)) in corners.iter().enumerate() {
        let (to, end) = corners[(k + 1) % corners.len()];
        let count = match (to + n - from) % n {
            0 => n,
            count => count,
        };
        let mut points = vec![*meet];
        let between = (SPOILT + 1..count.saturating_sub(SPOILT)).map(|j| (from + j) % n);
        points.extend(between.filter(|i| clear[*i]).map(|i| p[i]));
        ring.extend_from_slice(&points);
        points.push(end);
        sides.push(Side {
            points,
            closed: false,
        });
    }
    let long = |s: &Side| {
        s.points
            .windows(2)
            .map(|w| distance(w[0], w[1]))
            .sum::<f64>()
    };
    sides.sort_by(|a, b| long(b).total_cmp(&long(a)));
    (sides, ring)
}

/// Places that are no clear edge and lie at no corner.
fn unclear(clear: &[bool], corners: &[(usize, Point)]) -> Vec<usize> {
    let n = clear.len();
    let at_corner = |i: usize| {
        corners.iter().any(|(k, _)| {
            let d = i.abs_diff(*k);
            d.min(n - d) <= SPOILT + 1
        })
    };
    (0..n).filter(|i| !clear[*i] && !at_corner(*i)).collect()
}

/// How far places lie off what their neighbours say: second differences, whose standard deviation is that of a place times
/// the root of one and a half; half of all lie within 0.6745 of theirs.
fn noise(sides: &[Side]) -> f64 {
    let mut all: Vec<f64> = sides
        .iter()
        .flat_map(|s| {
            s.points
                .get(1..s.points.len().saturating_sub(1))
                .unwrap_or(&[])
                .windows(3)
        })
        .map(|w| {
            let d = distance(w[0], w[2]).max(1e-9);
            let (x, y) = (w[2][0] - w[0][0], w[2][1] - w[0][1]);
            let mid = [0, 1].map(|k| f64::midpoint(w[0][k], w[2][k]));
            ((x * (w[1][1] - mid[1]) - y * (w[1][0] - mid[0])) / d).abs()
        })
        .collect();
    if all.is_empty() {
        return 0.0;
    }
    all.sort_by(f64::total_cmp);
    all[all.len() / 2] / 0.6745 / 1.5f64.sqrt()
}
