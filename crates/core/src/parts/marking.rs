//! From a shape in the vehicle to what is marked on the board: everything from one corner.

use std::collections::{BTreeMap, BTreeSet};

use super::drawn::{corners, dims};
use super::{EdgeBevel, Feature, Part};
use crate::furniture::built::{Axis, Board, Built, Face};
use crate::furniture::way::Way;
use crate::geometry::Point;
use crate::geometry::grid::{inside, nearest, up};
use crate::geometry::region::Region;
use crate::geometry::relief::{Relief, disc, reliefs};
use crate::project::Project;
use crate::side_by_side::each;
use crate::units::figure::{Why, Writer};
use crate::units::value::Value;

/// Steps shorter than so many radii of a relief are sawn as they are (a choice).
const STEPS: f64 = 2.0;

/// Turns boards into parts; equal ones become one part with a count. Pieces of furniture come in the order in which
/// they are put in, the lowest first, and their boards as their kind puts them together.
pub fn parts(project: &Project, built: &BTreeMap<String, Built>) -> Vec<Part> {
    let w = &project.writer();
    let mut out: Vec<Part> = Vec::new();
    let mut marks: BTreeSet<String> = BTreeSet::new();
    let top = |b: &Built| {
        let highest = b.boards.iter().map(|b| {
            let corners = b.shape.outer.iter();
            let ends =
                corners.flat_map(|p| [0.0, b.thickness].map(|t| b.pose.at(p[0], p[1], t)[2]));
            ends.fold(f64::NEG_INFINITY, f64::max)
        });
        highest.fold(f64::NEG_INFINITY, f64::max)
    };
    let mut order: Vec<(&String, &Built)> = built.iter().collect();
    order.sort_by(|a, b| top(a.1).total_cmp(&top(b.1)));
    let boards = order.iter().flat_map(|(module, b)| {
        let one = b.boards.iter().map(move |board| (*module, board));
        one.collect::<Vec<_>>()
    });
    let mut cut = each(&boards.collect::<Vec<_>>(), |(module, board)| {
        part(module, board, project, w)
    })
    .into_iter();
    for (_, b) in order {
        let mut own: Vec<(&'static str, Part)> = Vec::new();
        for (board, part) in b.boards.iter().zip(&mut cut) {
            let Some(part) = part else {
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
        && (a.corners.len() == 4 || a.way == b.way)
        && a.corners == b.corners
        && a.features == b.features
        && a.bevels == b.bevels
        && a.name == b.name
}

/// The exact shape to cut: reliefs, vents and windows out of it, from its own lower left corner.
pub fn cut_shape(board: &Board) -> Option<Region> {
    let (x0, y0, _, _) = board.shape.bounds();
    let windows = board.windows.iter().map(|w| w.moved(-x0, -y0));
    let vents = board
        .vents
        .iter()
        .map(|(at, d)| ([at[0] - x0, at[1] - y0], *d))
        .chain(board.holes.iter().map(|h| (h.at, h.diameter)));
    let shape = board.shape.moved(-x0, -y0);
    cut(
        &shape,
        (board.relief, &relieved(board, &shape)),
        &vents.collect::<Vec<_>>(),
        &windows.collect::<Vec<_>>(),
    )
}

/// The corners of a board's exact shape that are relieved.
fn relieved(board: &Board, shape: &Region) -> Vec<Relief> {
    match board.relief > 0.0 {
        true => reliefs(shape, STEPS * board.relief),
        false => vec![],
    }
}

/// A shape with its corners relieved and its holes cut.
fn cut(
    shape: &Region,
    (relief, corners): (f64, &[Relief]),
    vents: &[([f64; 2], f64)],
    windows: &[Region],
) -> Option<Region> {
    let mut holes: Vec<Region> = vents
        .iter()
        .map(|(at, diameter)| disc(*at, diameter / 2.0))
        .collect();
    holes.extend(windows.iter().cloned());
    holes.extend(corners.iter().map(|c| c.hole(relief)));
    // Most holes lie whole within the board and clear of each other: nothing has to be cut out there.
    let bounds: Vec<_> = holes.iter().map(Region::bounds).collect();
    let clear = |i: usize| {
        let b = bounds[i];
        let apart = |o: &(f64, f64, f64, f64)| o.0 > b.2 || b.0 > o.2 || o.1 > b.3 || b.1 > o.3;
        let others = bounds.iter().enumerate().filter(|(j, _)| *j != i);
        shape.holds_box(b) && others.map(|o| o.1).all(apart)
    };
    let (within, across): (Vec<usize>, Vec<usize>) = (0..holes.len()).partition(|i| clear(*i));
    let across: Vec<Region> = across.into_iter().map(|i| holes[i].clone()).collect();
    let mut out = match across.is_empty() {
        true => shape.clone(),
        false => shape.minus(&across).into_iter().next()?,
    };
    // Holes run the other way round.
    out.holes.extend(within.into_iter().map(|i| {
        let mut ring = std::mem::take(&mut holes[i].outer);
        ring.reverse();
        ring
    }));
    Some(out)
}

/// A board in marks that a tape has, from the lower left corner of its blank.
struct Marked {
    /// Where that corner lies in the board's own plane.
    corner: Point,
    shape: Region,
    /// Centre and diameter.
    vents: Vec<(Point, f64)>,
    windows: Vec<Region>,
    pockets: Vec<Region>,
    reliefs: Vec<Relief>,
}

impl Marked {
    /// Outlines come in, holes and grooves for something go out, positions to the nearest mark.
    fn new(board: &Board, step: f64) -> Marked {
        // What cannot be marked so, such as a sliver, keeps its exact shape.
        let (corner, shape) = inside(&board.shape, step).unwrap_or_else(|| {
            let (x0, y0, ..) = board.shape.bounds();
            ([x0, y0], board.shape.moved(-x0, -y0))
        });
        let (width, height) = shape.size();
        let local = |p: Point| [p[0] - corner[0], p[1] - corner[1]];
        let hole = |r: &Region| {
            let (a, b, c, d) = r.bounds();
            let ([a, b], [c, d]) = (local([a, b]), local([c, d]));
            // From mark to mark, and to the edge where it runs through.
            let range = |lo: f64, hi: f64, whole: f64| {
                let from = nearest(lo, step).max(0.0);
                let long = up(hi - lo, step);
                let to = from + long;
                (
                    if lo < step { 0.0 } else { from },
                    if hi > whole - step { whole } else { to },
                )
            };
            let (u, v) = (range(a, c, width), range(b, d, height));
            Region::rectangle(u.0, v.0, u.1, v.1)
        };
        let vent = |(at, d): &(Point, f64)| (local(*at).map(|c| nearest(c, step)), *d);
        Marked {
            corner,
            vents: board.vents.iter().map(vent).collect(),
            windows: board.windows.iter().map(hole).collect(),
            pockets: board.pockets.iter().map(|p| hole(&p.outline)).collect(),
            // The same corners as of the exact shape, where they are marked.
            reliefs: relieved(board, &board.shape.moved(-corner[0], -corner[1]))
                .into_iter()
                .map(|r| r.on(&shape))
                .collect(),
            shape,
        }
    }
}

impl Marked {
    /// Which way round it goes, the centre line to the nearest mark.
    fn way(&self, board: &Board, step: f64) -> Way {
        let mut way = board.way.clone();
        let (x0, y0, ..) = board.shape.bounds();
        let off = [self.corner[0] - x0, self.corner[1] - y0];
        let (w, h) = self.shape.size();
        if let Some(line) = &mut way.centre {
            for p in line.iter_mut() {
                for (axis, most) in [(0, w), (1, h)] {
                    p[axis] = nearest(p[axis] - off[axis], step).clamp(0.0, most);
                }
            }
        }
        way
    }
}

/// What the grid of the booleans makes of a number, mm: no line says it.
const UNSEEN: f64 = 1e-3;

/// How a board's numbers came about, to the marks that are on the card.
fn whys(board: &Board, (width, height): (f64, f64), project: &Project, w: &Writer) -> Vec<Why> {
    let all = board.measures.iter().map(|m| {
        let marked = match m.axis {
            Some(Axis::U) => width,
            Some(Axis::V) => height,
            None => m.value.mm,
        };
        let less = m.value.mm - marked;
        let value = if less.abs() < UNSEEN {
            m.value.clone()
        } else {
            let words = format!("down to a mark of {}", project.units.marks().words());
            &m.value - Value::rule("marking", words, less)
        };
        value.why(&m.about, w)
    });
    all.collect()
}

/// The edges that may be bevelled, as they lie in the blank.
fn bevels(board: &Board, corner: Point) -> Vec<EdgeBevel> {
    let local = |p: Point| [p[0] - corner[0], p[1] - corner[1]];
    let each = board.bevels.iter().map(|b| EdgeBevel {
        along: b.along.iter().map(|p| local(*p)).collect(),
        deg: b.deg,
        larger: match b.larger {
            Face::Top => b.faces[1].into(),
            Face::Bottom => b.faces[0].into(),
        },
    });
    each.collect()
}

fn part(module: &str, board: &Board, project: &Project, w: &Writer) -> Option<Part> {
    let m = Marked::new(board, project.units.marks().mm());
    let (width, height) = m.shape.size();
    let centre = |at: [f64; 2]| (w.figure(at[0]), w.figure(at[1]));
    let holes = board.holes.iter().map(|h| (h.at, h.diameter));
    let rounds: Vec<_> = m.vents.iter().copied().chain(holes).collect();
    let outline = cut(&m.shape, (board.relief, &m.reliefs), &rounds, &m.windows)?;
    let mut features = Vec::new();
    let round = |kind: &str, at: Point, diameter: f64| Feature {
        kind: kind.into(),
        at,
        centre: centre(at),
        diameter: Some(w.figure(diameter)),
        size: None,
    };
    if board.relief > 0.0 {
        let corners = m.reliefs.iter().map(|r| r.corner);
        features.extend(corners.map(|c| round("relief", c, 2.0 * board.relief)));
    }
    let bore = |b: &crate::furniture::built::Bore| {
        let at = [b.at[0] - m.corner[0], b.at[1] - m.corner[1]];
        let step = project.units.marks().mm();
        round("bore", at.map(|c| nearest(c, step)), b.diameter)
    };
    features.extend(board.bores.iter().map(bore));
    features.extend(m.vents.iter().map(|(at, d)| round("vent", *at, *d)));
    features.extend(board.holes.iter().map(|h| round("hole", h.at, h.diameter)));
    let kinds = [("window", &m.windows), ("groove", &m.pockets)];
    for (kind, r) in kinds
        .iter()
        .flat_map(|(k, list)| list.iter().map(move |r| (k, r)))
    {
        let (a, b, c, d) = r.bounds();
        let at = [(a + c) / 2.0, (b + d) / 2.0];
        features.push(Feature {
            kind: (*kind).into(),
            at,
            centre: centre(at),
            diameter: None,
            size: Some((w.figure(c - a), w.figure(d - b))),
        });
    }
    let material = project.material(&board.material);
    let name = material
        .as_ref()
        .map_or(board.material.clone(), |m| m.name.clone());
    let density = material.as_ref().map_or(0.0, |m| m.density);
    let mass = outline.area() * board.thickness * density * 1e-9;
    Some(Part {
        id: format!("{module}/{}", board.id),
        boards: vec![format!("{module}/{}", board.id)],
        mark: String::new(),
        name: board.name.clone(),
        module: module.into(),
        count: 1,
        material: board.material.clone(),
        stuff: match material.as_ref().and_then(|m| m.bar) {
            // Its name says its section.
            Some(_) => name,
            None => format!(
                "{} {name}",
                project.board_called(&board.material, board.thickness)
            ),
        },
        thickness: w.figure(board.thickness),
        mass,
        weighs: w.mass(mass),
        corners: corners(&m.shape, w),
        bevels: bevels(board, m.corner),
        dims: dims(&m.shape, width, height, w),
        outline,
        w: w.figure(width),
        h: w.figure(height),
        grain: board.grain,
        features,
        screws: vec![],
        then: board.then.clone(),
        why: whys(board, (width, height), project, w),
        way: m.way(board, project.units.marks().mm()),
        places: board.places.clone(),
        at: board.pose.at(m.corner[0], m.corner[1], 0.0),
    })
}
