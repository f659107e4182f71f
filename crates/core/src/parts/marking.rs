//! From a shape in the vehicle to what is marked on the board: everything from one corner.

use std::collections::BTreeMap;

use super::{Blank, Corner, Dim, Feature, Part};
use crate::geometry::region::Region;
use crate::geometry::relief::{disc, internal_corners, relieve};
use crate::project::Project;
use crate::units::figure::Writer;

/// Edges shorter than this get no dimension line of their own, mm: the table of corners has them.
const SHORT: f64 = 40.0;

/// Turns blanks into parts; equal ones become one part with a count.
pub fn parts(module: &str, blanks: Vec<Blank>, project: &Project, w: &Writer) -> Vec<Part> {
    let mut out: Vec<Part> = Vec::new();
    let mut numbers: BTreeMap<&'static str, usize> = BTreeMap::new();
    for blank in blanks {
        let Some(mut part) = part(module, &blank, project, w) else {
            continue;
        };
        if let Some(same) = out.iter_mut().find(|p| same(p, &part)) {
            same.count += 1;
            same.places.extend(part.places);
            continue;
        }
        let n = numbers.entry(blank.letter).or_default();
        *n += 1;
        part.mark = format!("{}{n}", blank.letter);
        out.push(part);
    }
    tell_apart(&mut out);
    out
}

/// Two parts whose blanks differ by less than this look alike, mm.
const ALIKE: f64 = 12.0;

/// What is written on each board: which way round it goes, and what it must not be taken for.
fn tell_apart(parts: &mut [Part]) {
    let seen: Vec<_> = parts
        .iter()
        .map(|p| (p.mark.clone(), p.thickness.value, p.w.value, p.h.value))
        .collect();
    for part in parts.iter_mut() {
        let (w, h) = (part.w.value, part.h.value);
        let like = seen.iter().filter(|(mark, t, a, b)| {
            let near = |a: f64, b: f64| (a - b).abs() < ALIKE;
            *mark != part.mark
                && near(*t, part.thickness.value)
                && (near(*a, w) && near(*b, h) || near(*a, h) && near(*b, w))
        });
        let like: Vec<&str> = like.map(|s| s.0.as_str()).collect();
        let mut first = Vec::new();
        first.extend(part.way.to_write(&part.mark));
        if !like.is_empty() {
            first.push(format!(
                "looks like {}: write its mark before you lay it down",
                like.join(", ")
            ));
        }
        part.then.splice(0..0, first);
    }
}

/// Interchangeable: the same board cut the same way, for plain strips and frames alike.
fn same(a: &Part, b: &Part) -> bool {
    a.material == b.material
        && a.thickness == b.thickness
        && a.grain == b.grain
        && a.w.mm == b.w.mm
        && a.h.mm == b.h.mm
        && a.corners.len() == 4
        && a.corners == b.corners
        && a.features == b.features
        && a.name == b.name
}

fn part(module: &str, blank: &Blank, project: &Project, w: &Writer) -> Option<Part> {
    let (x0, y0, x1, y1) = blank.marked.bounds();
    let local = |p: [f64; 2]| [p[0] - x0, p[1] - y0];
    let marked = blank.marked.moved(-x0, -y0);
    let (width, height) = (x1 - x0, y1 - y0);
    let centre = |at: [f64; 2]| (w.figure(at[0]), w.figure(at[1]));
    let mut features = Vec::new();
    let mut cut = relieve(&marked, blank.relief).into_iter().next()?;
    let mut holes = Vec::new();
    if blank.relief > 0.0 {
        for c in internal_corners(&marked) {
            features.push(Feature {
                kind: "relief".into(),
                at: c,
                centre: centre(c),
                diameter: Some(w.figure(2.0 * blank.relief)),
                size: None,
            });
        }
    }
    for (middle, diameter) in &blank.vents {
        let at = local(*middle);
        holes.push(disc(at, diameter / 2.0));
        features.push(Feature {
            kind: "vent".into(),
            at,
            centre: centre(at),
            diameter: Some(w.figure(*diameter)),
            size: None,
        });
    }
    for window in &blank.windows {
        let window = window.moved(-x0, -y0);
        let (a, b, c, d) = window.bounds();
        features.push(Feature {
            kind: "window".into(),
            at: [(a + c) / 2.0, (b + d) / 2.0],
            centre: centre([(a + c) / 2.0, (b + d) / 2.0]),
            diameter: None,
            size: Some((w.figure(c - a), w.figure(d - b))),
        });
        holes.push(window);
    }
    if !holes.is_empty() {
        cut = cut.minus(&holes).into_iter().next()?;
    }
    let m = project.material(&blank.material);
    let name = m
        .as_ref()
        .map_or(blank.material.clone(), |m| m.name.clone());
    let density = m.map_or(0.0, |m| m.density);
    Some(Part {
        id: blank.id.clone(),
        mark: String::new(),
        name: blank.name.clone(),
        module: module.into(),
        count: 1,
        material: blank.material.clone(),
        stuff: format!(
            "{} {name}",
            project.board_called(&blank.material, blank.thickness)
        ),
        thickness: w.figure(blank.thickness),
        mass: cut.area() * blank.thickness * density * 1e-9,
        weighs: w.mass(cut.area() * blank.thickness * density * 1e-9),
        corners: corners(&marked, w),
        dims: dims(&marked, width, height, w),
        outline: cut,
        w: w.figure(width),
        h: w.figure(height),
        grain: blank.grain,
        features,
        then: blank.then.clone(),
        why: blank.why.clone(),
        way: blank.way.clone(),
        places: blank.places.clone(),
        at: [x0, y0, blank.plane],
    })
}

/// Corners counter-clockwise from the one nearest the lower left, lettered A, B, ... Z, AA...
fn corners(marked: &Region, w: &Writer) -> Vec<Corner> {
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
fn dims(marked: &Region, width: f64, height: f64, w: &Writer) -> Vec<Dim> {
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
    let ring = &marked.outer;
    for i in 0..ring.len() {
        let (a, b) = (ring[i], ring[(i + 1) % ring.len()]);
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
