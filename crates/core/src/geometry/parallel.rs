//! A true parallel of an open curve: moved square to itself, kinks and loops that no edge can have removed.

use rustc_hash::FxHashMap;

use super::{Point, distance};

/// A point of the curve and its direction there.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Along {
    /// Where.
    pub p: Point,
    /// Direction, of any length but none.
    pub d: Point,
}

/// How the gap at a corner is closed on its outer side.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Join {
    /// By going on straight until both sides meet.
    Mitre,
    /// By an arc.
    Round,
}

/// Chords of an arc leave it by no more, mm.
const NEAR: f64 = 0.02;
/// A mitre longer than so many offsets is cut off.
const LONGEST: f64 = 6.0;

/// The parallel at `off` mm to the left of runs that meet at their ends; negative to the right.
pub fn parallel(runs: &[Vec<Along>], off: f64, join: Join) -> Vec<Point> {
    let left = |a: &Along| {
        let l = a.d[0].hypot(a.d[1]).max(1e-12);
        [a.p[0] - off * a.d[1] / l, a.p[1] + off * a.d[0] / l]
    };
    let mut out: Vec<Point> = Vec::new();
    for (i, run) in runs.iter().enumerate() {
        if let (Some(before), Some(first)) =
            (i.checked_sub(1).and_then(|j| runs[j].last()), run.first())
        {
            corner(&mut out, before, first, off, join);
        }
        out.extend(run.iter().map(left));
    }
    let source: Vec<Point> = runs.iter().flatten().map(|a| a.p).collect();
    without_loops(out, &source, off.abs())
}

/// Closes the gap at a corner on its outer side; on its inner side the sides cross.
fn corner(out: &mut Vec<Point>, a: &Along, b: &Along, off: f64, join: Join) {
    let turn = (a.d[0] * b.d[1] - a.d[1] * b.d[0]).atan2(a.d[0] * b.d[0] + a.d[1] * b.d[1]);
    // To the left of a turn to the right there is a gap.
    if turn * off >= 0.0 || turn.abs() < 1e-6 {
        return;
    }
    let normal = |d: Point| {
        let l = d[0].hypot(d[1]).max(1e-12);
        [-d[1] / l, d[0] / l]
    };
    let (n, m) = (normal(a.d), normal(b.d));
    let half = (turn / 2.0).cos();
    if join == Join::Mitre && half > 1.0 / LONGEST {
        let mid = [n[0] + m[0], n[1] + m[1]];
        let l = mid[0].hypot(mid[1]).max(1e-12);
        let far = off / half;
        out.push([a.p[0] + far * mid[0] / l, a.p[1] + far * mid[1] / l]);
        return;
    }
    let steps = (turn.abs() / (8.0 * NEAR / off.abs().max(NEAR)).sqrt())
        .ceil()
        .clamp(1.0, 500.0);
    for k in 1..steps as usize {
        let (s, c) = (turn * k as f64 / steps).sin_cos();
        let r = [n[0] * c - n[1] * s, n[0] * s + n[1] * c];
        out.push([a.p[0] + off * r[0], a.p[1] + off * r[1]]);
    }
}

/// Where two segments cross inside: how far along each, 0 to 1.
pub fn crossing(a: Point, b: Point, c: Point, d: Point) -> Option<(f64, f64)> {
    let (r, s) = ([b[0] - a[0], b[1] - a[1]], [d[0] - c[0], d[1] - c[1]]);
    let den = r[0] * s[1] - r[1] * s[0];
    if den.abs() < 1e-12 {
        return None;
    }
    let q = [c[0] - a[0], c[1] - a[1]];
    let t = (q[0] * s[1] - q[1] * s[0]) / den;
    let u = (q[0] * r[1] - q[1] * r[0]) / den;
    let inside = |v: f64| (-1e-9..=1.0 + 1e-9).contains(&v);
    (inside(t) && inside(u)).then_some((t, u))
}

/// The squares of a grid that a segment passes, and some beside it: piece by piece, so that a long one takes no more
/// than it is long.
fn cells(a: Point, b: Point, cell: f64) -> Vec<(i64, i64)> {
    let n = (distance(a, b) / cell).ceil().max(1.0);
    let at = |k: f64| [a[0] + k / n * (b[0] - a[0]), a[1] + k / n * (b[1] - a[1])];
    let mut out = Vec::new();
    for k in 0..n as usize {
        let (p, q) = (at(k as f64), at(k as f64 + 1.0));
        let range = |i: usize| {
            let (lo, hi) = (p[i].min(q[i]) / cell, p[i].max(q[i]) / cell);
            lo.floor() as i64..=hi.floor() as i64
        };
        out.extend(range(0).flat_map(|x| range(1).map(move |y| (x, y))));
    }
    out.sort_unstable();
    out.dedup();
    out
}

/// All crossings of a polyline with itself, neighbours aside: index and share of both segments, the first the earlier.
pub fn crossings(line: &[Point]) -> Vec<((usize, f64), (usize, f64))> {
    let n = line.len().saturating_sub(1);
    if n < 3 {
        return vec![];
    }
    let long: f64 = line.windows(2).map(|w| distance(w[0], w[1])).sum();
    let cell = (4.0 * long / n as f64).max(1e-3);
    let mut grid: FxHashMap<(i64, i64), Vec<usize>> = FxHashMap::default();
    let mut out = Vec::new();
    let mut seen: Vec<usize> = vec![usize::MAX; n];
    for j in 0..n {
        for key in cells(line[j], line[j + 1], cell) {
            let here = grid.entry(key).or_default();
            for i in here.iter().copied() {
                if i + 1 >= j || seen[i] == j {
                    continue;
                }
                seen[i] = j;
                if let Some((t, u)) = crossing(line[i], line[i + 1], line[j], line[j + 1]) {
                    out.push(((i, t), (j, u)));
                }
            }
            here.push(j);
        }
    }
    out
}

/// Leaves out what lies nearer to the source than the offset: loops, swallowtails and what passed through it.
fn without_loops(line: Vec<Point>, source: &[Point], off: f64) -> Vec<Point> {
    /// A point may be nearer than the offset by the chords of the source, mm.
    const SLACK: f64 = 0.03;
    let near = Near::new(source);
    let ok: Vec<bool> = line.iter().map(|p| !near.closer(*p, off - SLACK)).collect();
    if ok.iter().all(|o| *o) {
        return line;
    }
    let all = crossings(&line);
    let mut out: Vec<Point> = Vec::new();
    let mut i = 0;
    while i < line.len() {
        if ok[i] {
            out.push(line[i]);
            i += 1;
            continue;
        }
        // A stretch that lies too near ends where the line crosses what came before it.
        let end = (i..line.len()).find(|k| ok[*k]).unwrap_or(line.len());
        let start = i;
        let cross = all.iter().filter(|((a, _), (b, _))| {
            (a + 1 >= start.saturating_sub(1) && *a <= end)
                && (*b + 1 >= start && *b <= end + 1)
                && *a < *b
        });
        // The widest loop within the stretch.
        let best = cross.max_by_key(|((a, _), (b, _))| b - a);
        if let Some(((a, t), _)) = best {
            let (p, q) = (line[*a], line[*a + 1]);
            out.push([p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1])]);
        }
        i = end;
    }
    out.dedup_by(|a, b| distance(*a, *b) < 1e-6);
    out
}

/// So many segments of a polyline are looked at together.
const TOGETHER: usize = 32;

/// Looks up how near a polyline comes: a piece of it is looked at closely only where a circle round it comes near.
struct Near<'a> {
    line: &'a [Point],
    /// Middle and radius of the circle round each piece.
    round: Vec<(Point, f64)>,
}

impl Near<'_> {
    fn new(line: &[Point]) -> Near<'_> {
        let pieces = (0..line.len().saturating_sub(1)).step_by(TOGETHER);
        let circle = |from: usize| {
            let own = &line[from..=(from + TOGETHER).min(line.len() - 1)];
            let middle = own[own.len() / 2];
            let far = own.iter().map(|p| square(*p, middle)).fold(0.0, f64::max);
            (middle, far.sqrt())
        };
        Near {
            line,
            round: pieces.map(circle).collect(),
        }
    }

    fn closer(&self, p: Point, than: f64) -> bool {
        if than <= 0.0 {
            return false;
        }
        self.round.iter().enumerate().any(|(k, (middle, radius))| {
            let reach = radius + than;
            if square(p, *middle) >= reach * reach {
                return false;
            }
            let from = k * TOGETHER;
            let own = &self.line[from..=(from + TOGETHER).min(self.line.len() - 1)];
            own.windows(2)
                .any(|w| square_to_segment(p, w[0], w[1]) < than * than)
        })
    }
}

/// Square of the distance.
fn square(a: Point, b: Point) -> f64 {
    (a[0] - b[0]).powi(2) + (a[1] - b[1]).powi(2)
}

/// Square of the distance to a segment.
fn square_to_segment(p: Point, a: Point, b: Point) -> f64 {
    let d = [b[0] - a[0], b[1] - a[1]];
    let long = d[0] * d[0] + d[1] * d[1];
    if long == 0.0 {
        return square(p, a);
    }
    let t = (((p[0] - a[0]) * d[0] + (p[1] - a[1]) * d[1]) / long).clamp(0.0, 1.0);
    square(p, [a[0] + t * d[0], a[1] + t * d[1]])
}
