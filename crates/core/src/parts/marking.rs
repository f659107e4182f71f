//! From a shape in the vehicle to what is marked on the board: everything from one corner.

use std::collections::{BTreeMap, BTreeSet};

use super::{Corner, Dim, Feature, Part};
use crate::furniture::built::{Board, Built};
use crate::geometry::region::Region;
use crate::geometry::relief::{disc, internal_corners, relieve};
use crate::project::Project;
use crate::units::figure::Writer;

/// Edges shorter than this get no dimension line of their own, mm: the table of corners has them.
const SHORT: f64 = 40.0;

/// Turns boards into parts; equal ones become one part with a count.
pub fn parts(project: &Project, built: &BTreeMap<String, Built>) -> Vec<Part> {
    let w = &project.writer();
    let mut out: Vec<Part> = Vec::new();
    let mut marks: BTreeSet<String> = BTreeSet::new();
    for (module, b) in built {
        let mut own: Vec<(&'static str, Part)> = Vec::new();
        for board in &b.boards {
            let Some(part) = part(module, board, project, w) else {
                continue;
            };
            let alike = own.iter_mut().find(|(_, p)| same(p, &part));
            if let Some((_, alike)) = alike {
                alike.count += 1;
                alike.places.extend(part.places);
                alike.boards.extend(part.boards);
                continue;
            }
            own.push((board.letter, part));
        }
        mark(&mut own, &mut marks);
        let mut own: Vec<Part> = own.into_iter().map(|(_, part)| part).collect();
        tell_apart(&mut own);
        out.extend(own);
    }
    out
}

/// Letter and number; a module whose letters another has taken gets a number before them: `2D1`.
fn mark(own: &mut [(&'static str, Part)], marks: &mut BTreeSet<String>) {
    let numbered = |prefix: &str| -> Vec<String> {
        let mut numbers: BTreeMap<&str, usize> = BTreeMap::new();
        let letters = own.iter().map(|(letter, _)| *letter);
        letters
            .map(|letter| {
                let n = numbers.entry(letter).or_default();
                *n += 1;
                format!("{prefix}{letter}{n}")
            })
            .collect()
    };
    let prefixes = (1..).map(|k| if k == 1 { String::new() } else { k.to_string() });
    let free = prefixes
        .map(|prefix| numbered(&prefix))
        .find(|list| list.iter().all(|m| !marks.contains(m)));
    for ((_, part), mark) in own.iter_mut().zip(free.unwrap_or_default()) {
        marks.insert(mark.clone());
        part.mark = mark;
    }
}

/// Two parts whose sizes differ by less than this look alike, mm.
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

/// The shape to cut, reliefs, vents and windows out of it, in the part's own frame.
pub fn cut_shape(board: &Board) -> Option<Region> {
    let (x0, y0, _, _) = board.marked.bounds();
    let marked = board.marked.moved(-x0, -y0);
    let cut = relieve(&marked, board.relief).into_iter().next()?;
    let vents = board.vents.iter();
    let mut holes: Vec<Region> = vents
        .map(|(at, diameter)| disc([at[0] - x0, at[1] - y0], diameter / 2.0))
        .collect();
    holes.extend(board.windows.iter().map(|w| w.moved(-x0, -y0)));
    if holes.is_empty() {
        return Some(cut);
    }
    cut.minus(&holes).into_iter().next()
}

fn part(module: &str, board: &Board, project: &Project, w: &Writer) -> Option<Part> {
    let (x0, y0, x1, y1) = board.marked.bounds();
    let local = |p: [f64; 2]| [p[0] - x0, p[1] - y0];
    let marked = board.marked.moved(-x0, -y0);
    let (width, height) = (x1 - x0, y1 - y0);
    let centre = |at: [f64; 2]| (w.figure(at[0]), w.figure(at[1]));
    let mut features = Vec::new();
    let cut = cut_shape(board)?;
    if board.relief > 0.0 {
        for c in internal_corners(&marked) {
            features.push(Feature {
                kind: "relief".into(),
                at: c,
                centre: centre(c),
                diameter: Some(w.figure(2.0 * board.relief)),
                size: None,
            });
        }
    }
    for (middle, diameter) in &board.vents {
        let at = local(*middle);
        features.push(Feature {
            kind: "vent".into(),
            at,
            centre: centre(at),
            diameter: Some(w.figure(*diameter)),
            size: None,
        });
    }
    for window in &board.windows {
        let window = window.moved(-x0, -y0);
        let (a, b, c, d) = window.bounds();
        features.push(Feature {
            kind: "window".into(),
            at: [(a + c) / 2.0, (b + d) / 2.0],
            centre: centre([(a + c) / 2.0, (b + d) / 2.0]),
            diameter: None,
            size: Some((w.figure(c - a), w.figure(d - b))),
        });
    }
    for pocket in &board.pockets {
        let (a, b, c, d) = pocket.outline.moved(-x0, -y0).bounds();
        let middle = [(a + c) / 2.0, (b + d) / 2.0];
        features.push(Feature {
            kind: "groove".into(),
            at: middle,
            centre: centre(middle),
            diameter: None,
            size: Some((w.figure(c - a), w.figure(d - b))),
        });
    }
    let m = project.material(&board.material);
    let name = m
        .as_ref()
        .map_or(board.material.clone(), |m| m.name.clone());
    let density = m.map_or(0.0, |m| m.density);
    Some(Part {
        id: format!("{module}/{}", board.id),
        boards: vec![format!("{module}/{}", board.id)],
        mark: String::new(),
        name: board.name.clone(),
        module: module.into(),
        count: 1,
        material: board.material.clone(),
        stuff: format!(
            "{} {name}",
            project.board_called(&board.material, board.thickness)
        ),
        thickness: w.figure(board.thickness),
        mass: cut.area() * board.thickness * density * 1e-9,
        weighs: w.mass(cut.area() * board.thickness * density * 1e-9),
        corners: corners(&marked, w),
        dims: dims(&marked, width, height, w),
        outline: cut,
        w: w.figure(width),
        h: w.figure(height),
        grain: board.grain,
        features,
        then: board.then.clone(),
        why: board.why.clone(),
        way: board.way.clone(),
        places: board.places.clone(),
        at: board.pose.at(x0, y0, 0.0),
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
