//! Lines and arcs that meet end to end become one curve.

use super::{Line, Point};

/// More pieces than this are left as they are: finding ends takes the square of their number.
const MOST: usize = 3000;

fn apart(a: Point, b: Point) -> f64 {
    (a[0] - b[0]).hypot(a[1] - b[1])
}

/// Joins open pieces of one name whose ends lie within `near`; where more than two meet they stay apart.
pub fn joined(mut pieces: Vec<Line>, near: f64) -> Vec<Line> {
    if pieces.len() > MOST {
        return pieces;
    }
    let mut out: Vec<Line> = Vec::new();
    let (open, closed): (Vec<Line>, Vec<Line>) = pieces
        .drain(..)
        .partition(|l| !l.closed && l.points.len() > 1);
    let ends = |l: &Line| [l.points[0], l.points[l.points.len() - 1]];
    let meeting = |p: Point, name: &str| {
        let all = open.iter().filter(|l| l.name == name);
        all.flat_map(ends).filter(|q| apart(p, *q) <= near).count()
    };
    let free: Vec<[bool; 2]> = open
        .iter()
        .map(|l| ends(l).map(|p| meeting(p, &l.name) == 2))
        .collect();
    let mut left: Vec<Option<(Line, [bool; 2])>> =
        open.iter().cloned().zip(free).map(Some).collect();
    for i in 0..left.len() {
        let Some((mut line, mut may)) = left[i].take() else {
            continue;
        };
        // At its end, then, turned round, at its beginning.
        for _ in 0..2 {
            while may[1] {
                let end = line.points[line.points.len() - 1];
                let next = left.iter().position(|o| {
                    o.as_ref().is_some_and(|(l, _)| {
                        l.name == line.name && ends(l).iter().any(|p| apart(*p, end) <= near)
                    })
                });
                let Some((mut l, mut m)) = next.and_then(|n| left[n].take()) else {
                    break;
                };
                if apart(l.points[0], end) > near {
                    l.points.reverse();
                    m.reverse();
                }
                line.points.extend(l.points.into_iter().skip(1));
                may[1] = m[1];
            }
            line.points.reverse();
            may.reverse();
        }
        let [a, b] = ends(&line);
        line.closed = line.points.len() > 3 && apart(a, b) <= near;
        out.push(line);
    }
    out.extend(closed);
    out
}
