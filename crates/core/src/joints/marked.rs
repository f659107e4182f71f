//! Where a part is screwed or bolted to others: the holes of its joints, as they are marked on it.

use std::collections::BTreeMap;

use super::metal::HEAD;
use super::{Holes, JointView};
use crate::boards::BoardView;
use crate::furniture::built::Vec3;
use crate::geometry::Point;
use crate::geometry::grid::nearest;
use crate::parts::{Part, ScrewRow};
use crate::solids::Solid;
use crate::units::figure::Writer;

/// A row on one of the boards that are cut alike.
struct Row {
    /// The board, by its place among those.
    board: usize,
    /// Mark of what is held to it.
    to: String,
    what: String,
    wide: Option<f64>,
    at: Vec<Point>,
    /// They go through the leg of an angle that does not lie in the face that is marked.
    other_leg: bool,
}

/// A hole for a bolt to the vehicle.
#[derive(Debug, Clone, PartialEq)]
pub struct Bored {
    /// `module/board`.
    pub board: String,
    /// What of the vehicle it is for.
    pub to: String,
    /// What goes through it.
    pub what: String,
    /// Diameter, mm.
    pub wide: f64,
    /// Where its axis meets the board, everything shut.
    pub at: Vec3,
}

/// Writes on each part where it is bored for the joints, and for what holds it to the vehicle.
pub fn screws(
    parts: &mut [Part],
    (joints, held): (&[JointView], &[Bored]),
    boards: &[BoardView],
    w: &Writer,
    step: f64,
) {
    let views: BTreeMap<&str, &BoardView> = boards.iter().map(|b| (b.id.as_str(), b)).collect();
    let mut of: BTreeMap<&str, Vec<(&Holes, &str)>> = BTreeMap::new();
    let all = joints
        .iter()
        .flat_map(|j| j.holes.iter().map(move |h| (j, h)));
    for (j, holes) in all.filter(|(_, h)| !h.rows.is_empty()) {
        let [first, second] = holes.through;
        let own = [(first, &j.a, &j.b), (second, &j.b, &j.a)];
        for (_, own, other) in own.into_iter().filter(|(bored, ..)| *bored) {
            of.entry(own).or_default().push((holes, other));
        }
    }
    let heads = over_heads(joints, boards, &views, w);
    for part in parts {
        // Its own corner may be rounded to a mark: the same for all that are cut alike.
        let first = part.boards.first().and_then(|b| views.get(b.as_str()));
        let Some(off) = first.map(|v| v.shut.own(part.at)) else {
            continue;
        };
        let mut all: Vec<Row> = Vec::new();
        for (board, id) in part.boards.iter().enumerate() {
            let Some(view) = views.get(id.as_str()) else {
                continue;
            };
            let joints = of.get(id.as_str());
            for (holes, other) in joints.into_iter().flatten() {
                let to = views.get(other).map_or(String::new(), |v| v.mark.clone());
                let across = |k: usize| view.shut.v[k].abs() > 0.7;
                let rows = holes.rows.iter().map(|row| {
                    let at = row.iter().map(|p| {
                        let [u, v, _] = view.shut.own(*p);
                        [nearest(u - off[0], step), nearest(v - off[1], step)]
                    });
                    Row {
                        board,
                        to: to.clone(),
                        what: holes.what.clone(),
                        wide: holes.wide,
                        at: at.collect(),
                        other_leg: view.metal && holes.along.is_some_and(across),
                    }
                });
                all.extend(rows);
            }
            let held = held.iter().chain(&heads).filter(|b| b.board == *id);
            let held = held.map(|b| {
                let [u, v, _] = view.shut.own(b.at);
                Row {
                    board,
                    to: b.to.clone(),
                    what: b.what.clone(),
                    wide: Some(b.wide),
                    at: vec![[nearest(u - off[0], step), nearest(v - off[1], step)]],
                    other_leg: false,
                }
            });
            all.extend(held);
        }
        part.screws = told(part, all, w);
    }
}

/// Where boards that lie on the heads of bolts are bored for them, from below: but right through where hardly any wood would be left.
fn over_heads(
    joints: &[JointView],
    boards: &[BoardView],
    views: &BTreeMap<&str, &BoardView>,
    w: &Writer,
) -> Vec<Bored> {
    /// So little is no wood, mm.
    const LEFT: f64 = 3.0;
    let bolts: Vec<(&JointView, Vec3)> = joints
        .iter()
        .flat_map(|j| j.holes.iter().map(move |h| (j, h)))
        .filter(|(_, h)| h.heads)
        .flat_map(|(j, h)| h.rows.iter().flatten().map(move |p| (j, *p)))
        .collect();
    if bolts.is_empty() {
        return vec![];
    }
    let wood = boards.iter().filter(|b| !b.metal && !b.bought);
    let solids: Vec<Solid> = wood.map(|b| Solid::at(b, b.shut)).collect();
    let over = |p: Vec3| {
        let inside = [p[0], p[1], p[2] + 1.0];
        solids.iter().filter(move |s| s.holds(inside))
    };
    let each = bolts.iter().flat_map(|(j, p)| {
        over(*p).map(|s| {
            let of = [&j.a, &j.b].map(|id| views.get(id.as_str()).map_or("", |v| &v.mark));
            let deep = match s.board.thickness - HEAD[1] < LEFT {
                true => "right through".into(),
                false => format!("from below, {} deep", w.say(HEAD[1])),
            };
            Bored {
                board: s.board.id.clone(),
                to: format!("the bolts of {}", of.join(" and ")),
                what: format!("{deep}: room for a bolt's head"),
                wide: HEAD[0],
                at: *p,
            }
        })
    });
    each.collect()
}

/// Equal rows of boards that are cut alike are one; a row that not all of them have says which has it.
fn told(part: &Part, rows: Vec<Row>, w: &Writer) -> Vec<ScrewRow> {
    let mut alike: Vec<(Row, Vec<usize>, Vec<String>)> = Vec::new();
    for row in rows {
        let same = |(r, boards, _): &&mut (Row, Vec<usize>, Vec<String>)| {
            let same = r.at == row.at && r.what == row.what && r.other_leg == row.other_leg;
            same && !boards.contains(&row.board)
        };
        match alike.iter_mut().find(same) {
            Some((_, boards, to)) => {
                boards.push(row.board);
                if !to.contains(&row.to) {
                    to.push(row.to);
                }
            }
            None => {
                let (board, to) = (row.board, row.to.clone());
                alike.push((row, vec![board], vec![to]));
            }
        }
    }
    let count = part.boards.len();
    let each = alike.into_iter().map(|(row, boards, to)| {
        let which = if boards.len() == count {
            String::new()
        } else {
            let named: Option<Vec<&str>> = boards
                .iter()
                .map(|i| part.places.get(*i).map(String::as_str))
                .collect();
            match named {
                Some(places) => places.join("; "),
                None => format!("{} of {count}", boards.len()),
            }
        };
        let mut out = ScrewRow {
            to: to.join(", "),
            which,
            what: row.what,
            diameter: row.wide.map(|d| w.figure(d)),
            at: row.at,
            words: String::new(),
        };
        out.words = words(&out, row.other_leg, w);
        out
    });
    each.collect()
}

/// Where on an angle a hole is that is not in the face that is marked.
const IN_LEG: &str = "in the middle of the leg that lies level";

/// `to F2: 4 holes 4.5 mm, 7 mm across, from 59 mm to 455 mm up, 132 mm apart: wood screw, countersunk 4 x 40 mm, no glue`.
fn words(row: &ScrewRow, other_leg: bool, w: &Writer) -> String {
    let n = row.at.len();
    let hole = match (&row.diameter, n) {
        (Some(d), 1) => format!("a hole {}", w.say(d.value)),
        (Some(d), n) => format!("{n} holes {}", w.say(d.value)),
        (None, 1) => "one place".into(),
        (None, n) => format!("{n} places"),
    };
    let place = match (row.at.first(), row.at.last()) {
        (Some(first), Some(last)) if n > 1 => {
            // Rows mostly run along an edge.
            let ends = |k: usize| match w.say(first[k]) == w.say(last[k]) {
                true => w.say(first[k]),
                false => format!("from {} to {}", w.say(first[k]), w.say(last[k])),
            };
            let apart = crate::geometry::distance(*first, *last) / (n - 1) as f64;
            let evenly = match n {
                2 => String::new(),
                _ => format!(", {} apart", w.say(apart)),
            };
            match other_leg {
                true => format!("{} across, {IN_LEG}{evenly}", ends(0)),
                false => format!("{} across, {} up{evenly}", ends(0), ends(1)),
            }
        }
        (Some(only), _) if other_leg => format!("{} across, {IN_LEG}", w.say(only[0])),
        (Some(only), _) => format!("{} across, {} up", w.say(only[0]), w.say(only[1])),
        _ => String::new(),
    };
    let which = match row.which.as_str() {
        "" => String::new(),
        which => format!(" ({which})"),
    };
    format!("to {}{which}: {hole}, {place}: {}", row.to, row.what)
}
