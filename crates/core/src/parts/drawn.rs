//! What is drawn of a part: corners to mark and dimension lines.

use super::{Corner, Dim};
use crate::geometry::region::Region;
use crate::geometry::sides;
use crate::units::figure::Writer;

/// Edges shorter than this get no dimension line of their own, mm: the table of corners has them.
const SHORT: f64 = 40.0;

/// Corners counter-clockwise from the one nearest the lower left, lettered A, B, ... Z, AA...
pub fn corners(marked: &Region, w: &Writer) -> Vec<Corner> {
    let ring = &marked.outer;
    let start = (0..ring.len())
        .min_by(|a, b| (ring[*a][0] + ring[*a][1]).total_cmp(&(ring[*b][0] + ring[*b][1])))
        .unwrap_or(0);
    (0..ring.len())
        .map(|i| {
            let p = ring[(start + i) % ring.len()];
            Corner {
                letter: letter(i),
                u: w.figure(p[0]),
                v: w.figure(p[1]),
            }
        })
        .collect()
}

fn letter(i: usize) -> String {
    let c = char::from(b'A' + (i % 26) as u8);
    if i < 26 {
        c.to_string()
    } else {
        format!("{}{c}", char::from(b'A' + (i / 26 - 1) as u8 % 26))
    }
}

/// Overall width and height, and for every straight edge of some length along an axis its own line.
pub fn dims(marked: &Region, width: f64, height: f64, w: &Writer) -> Vec<Dim> {
    let mut out = vec![
        Dim {
            from: [0.0, 0.0],
            to: [width, 0.0],
            figure: w.figure(width),
            side: "bottom".into(),
        },
        Dim {
            from: [0.0, 0.0],
            to: [0.0, height],
            figure: w.figure(height),
            side: "left".into(),
        },
    ];
    for (a, b) in sides(&marked.outer) {
        let (dx, dy) = ((b[0] - a[0]).abs(), (b[1] - a[1]).abs());
        let along = dx.max(dy);
        if along < SHORT || dx.min(dy) > along * 0.2 {
            continue;
        }
        let whole = if dx > dy { width } else { height };
        if (along - whole).abs() < 0.5 && (dx.min(dy) < 0.5) {
            continue;
        }
        let (side, middle) = if dx > dy {
            let m = (a[1] + b[1]) / 2.0;
            (if m > height / 2.0 { "top" } else { "bottom" }, m)
        } else {
            let m = (a[0] + b[0]) / 2.0;
            (if m > width / 2.0 { "right" } else { "left" }, m)
        };
        let (from, to) = if dx > dy {
            ([a[0].min(b[0]), middle], [a[0].max(b[0]), middle])
        } else {
            ([middle, a[1].min(b[1])], [middle, a[1].max(b[1])])
        };
        out.push(Dim {
            from,
            to,
            figure: w.figure(along),
            side: side.into(),
        });
    }
    out
}
