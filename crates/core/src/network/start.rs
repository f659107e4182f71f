//! Starting values: each point is placed from readings to points already placed, two at a time,
//! and the place that suits all its readings best is taken.

use super::{Kind, Network, Observation};

/// What one reading says of a point when the others it touches are known.
enum Locus {
    /// On the line through a point with this direction.
    Line([f64; 2], [f64; 2]),
    /// On a circle.
    Circle([f64; 2], f64),
}

/// Coordinates for every point, or the names of the points no two readings reach.
pub fn values(net: &Network) -> Result<Vec<[f64; 2]>, Vec<String>> {
    let mut xy: Vec<Option<[f64; 2]>> = net.points.iter().map(|p| p.xy).collect();
    let side = left_of(net);
    loop {
        let mut moved = false;
        for p in 0..xy.len() {
            if xy[p].is_none()
                && let Some(at) = place(net, &xy, p, side)
            {
                xy[p] = Some(at);
                moved = true;
            }
        }
        if !moved {
            break;
        }
    }
    // What is left hangs together only as a whole: start beside the known points, on the left,
    // spread out, and leave it to the iteration.
    let spread = net
        .readings
        .iter()
        .map(|o| o.value.abs())
        .fold(1.0, f64::max);
    let missing: Vec<usize> = (0..xy.len()).filter(|p| xy[*p].is_none()).collect();
    for (i, p) in missing.iter().enumerate() {
        let touched = net.readings.iter().any(|o| o.points().contains(p));
        if !touched {
            let lone = missing
                .iter()
                .filter(|p| !net.readings.iter().any(|o| o.points().contains(p)));
            return Err(lone.map(|p| net.points[*p].name.clone()).collect());
        }
        let t = (i + 1) as f64;
        let (o, left) = side.map_or(([0.0, 0.0], [0.0, 1.0]), |(o, d)| (o, [-d[1], d[0]]));
        xy[*p] = Some([
            o[0] + spread * (0.5 * left[0] + 0.37 * (t * 1.3).cos()),
            o[1] + spread * (0.5 * left[1] + 0.37 * (t * 1.3).sin()),
        ]);
    }
    Ok(xy.into_iter().flatten().collect())
}

/// Origin and direction of the line from the first to the second held point.
fn left_of(net: &Network) -> Option<([f64; 2], [f64; 2])> {
    let mut held = net
        .points
        .iter()
        .filter(|p| p.fixed.contains(&true))
        .filter_map(|p| p.xy);
    let (a, b) = (held.next()?, held.next()?);
    let d = [b[0] - a[0], b[1] - a[1]];
    let length = d[0].hypot(d[1]);
    (length > 0.0).then(|| (a, [d[0] / length, d[1] / length]))
}

fn place(
    net: &Network,
    xy: &[Option<[f64; 2]>],
    p: usize,
    side: Option<([f64; 2], [f64; 2])>,
) -> Option<[f64; 2]> {
    let loci: Vec<(Locus, &Observation)> = net
        .readings
        .iter()
        .filter_map(|o| Some((locus(o, xy, p)?, o)))
        .collect();
    let mut best: Option<(f64, bool, [f64; 2])> = None;
    // A dozen readings are plenty to start from.
    let few = &loci[..loci.len().min(12)];
    for (i, (a, _)) in few.iter().enumerate() {
        for (b, _) in &few[i + 1..] {
            for at in meet(a, b) {
                let misfit: f64 = few
                    .iter()
                    .map(|(l, o)| distance(l, at).min(50.0 * o.sd))
                    .sum();
                let left = side
                    .is_none_or(|(o, d)| d[0] * (at[1] - o[1]) - d[1] * (at[0] - o[0]) >= -1e-9);
                let better = best.is_none_or(|(m, l, _)| {
                    misfit < m - 1e-6 || ((misfit - m).abs() <= 1e-6 && left && !l)
                });
                if better {
                    best = Some((misfit, left, at));
                }
            }
        }
    }
    best.map(|(_, _, at)| at)
}

fn locus(o: &Observation, xy: &[Option<[f64; 2]>], p: usize) -> Option<Locus> {
    let line = |a: usize, b: usize| -> Option<([f64; 2], [f64; 2])> {
        let (a, b) = (xy[a]?, xy[b]?);
        let d = [b[0] - a[0], b[1] - a[1]];
        let l = d[0].hypot(d[1]);
        (l > 0.0).then(|| (a, [d[0] / l, d[1] / l]))
    };
    match o.kind {
        Kind::X(q) if q == p => Some(Locus::Line([o.value, 0.0], [0.0, 1.0])),
        Kind::Y(q) if q == p => Some(Locus::Line([0.0, o.value], [1.0, 0.0])),
        Kind::Distance(a, b) if a == p => Some(Locus::Circle(xy[b]?, o.value)),
        Kind::Distance(a, b) if b == p => Some(Locus::Circle(xy[a]?, o.value)),
        Kind::Offset(a, b, q) if q == p => {
            let (a, u) = line(a, b)?;
            Some(Locus::Line(
                [a[0] - u[1] * o.value, a[1] + u[0] * o.value],
                u,
            ))
        }
        Kind::Along(a, b, q) if q == p => {
            let (a, u) = line(a, b)?;
            Some(Locus::Line(
                [a[0] + u[0] * o.value, a[1] + u[1] * o.value],
                [-u[1], u[0]],
            ))
        }
        _ => None,
    }
}

fn distance(l: &Locus, at: [f64; 2]) -> f64 {
    match l {
        Locus::Line(a, u) => (u[0] * (at[1] - a[1]) - u[1] * (at[0] - a[0])).abs(),
        Locus::Circle(c, r) => ((at[0] - c[0]).hypot(at[1] - c[1]) - r).abs(),
    }
}

/// Where two loci meet. Circles and lines that just miss each other meet where they are nearest.
fn meet(a: &Locus, b: &Locus) -> Vec<[f64; 2]> {
    match (a, b) {
        (Locus::Line(p, u), Locus::Line(q, v)) => {
            let cross = u[0] * v[1] - u[1] * v[0];
            if cross.abs() < 1e-3 {
                return vec![];
            }
            let t = ((q[0] - p[0]) * v[1] - (q[1] - p[1]) * v[0]) / cross;
            vec![[p[0] + t * u[0], p[1] + t * u[1]]]
        }
        (Locus::Line(p, u), Locus::Circle(c, r)) | (Locus::Circle(c, r), Locus::Line(p, u)) => {
            let along = (c[0] - p[0]) * u[0] + (c[1] - p[1]) * u[1];
            let foot = [p[0] + along * u[0], p[1] + along * u[1]];
            let off = (c[0] - foot[0]).hypot(c[1] - foot[1]);
            let half = (r * r - off * off).max(0.0).sqrt();
            [half, -half]
                .map(|h| [foot[0] + h * u[0], foot[1] + h * u[1]])
                .to_vec()
        }
        (Locus::Circle(c, r), Locus::Circle(d, s)) => {
            let (dx, dy) = (d[0] - c[0], d[1] - c[1]);
            let l = dx.hypot(dy);
            if l < 1e-6 {
                return vec![];
            }
            let along = (l * l + r * r - s * s) / (2.0 * l);
            let half = (r * r - along * along).max(0.0).sqrt();
            [half, -half]
                .map(|h| {
                    [
                        c[0] + (along * dx - h * dy) / l,
                        c[1] + (along * dy + h * dx) / l,
                    ]
                })
                .to_vec()
        }
    }
}
