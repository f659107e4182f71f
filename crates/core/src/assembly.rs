//! How a piece of furniture is put together: in which order its boards come, what holds each to those that are there
//! already, and a drawing of each step, worked out from the solids.

use std::cmp::Reverse;
use std::collections::{BTreeMap, BTreeSet};

use serde::Serialize;
use utoipa::ToSchema;

use crate::boards::BoardView;
use crate::furniture::built::{Body, Built, FIXED, Fasten, Motion, Vec3};
use crate::geometry::region::Region;
use crate::geometry::{Point, sides};
use crate::joints::JointView;
use crate::parts::Part;
use crate::solids::Solid;
use crate::tools::{Drives, drives};

/// One person handles boards up to this, kg and mm (choices; 25 kg is a usual figure of manual-handling guidance, from
/// memory).
const ALONE: f64 = 25.0;
const REACH: f64 = 1800.0;

/// How a piece is put together.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Assembly {
    /// The module.
    pub module: String,
    /// What it is called.
    pub name: String,
    /// One after the other.
    pub steps: Vec<AssemblyStep>,
    /// Its boards as they are drawn, seen from the rear right and above: the furthest first.
    pub drawn: Vec<Drawn>,
    /// Least and greatest place of what is drawn, right and up.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub frame: [Point; 2],
}

/// One step.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct AssemblyStep {
    /// The boards that come, by identifier.
    pub boards: Vec<String>,
    /// What is done.
    pub words: String,
    /// What holds them, a line each.
    pub holds: Vec<String>,
    /// How many people it takes.
    pub persons: u32,
    /// Nothing of it is glued.
    pub comes_apart: bool,
    /// Screws at which there is no room for a driver while what is there is there, a line each.
    pub tools: Vec<String>,
    /// Those of them that cannot be driven at all.
    #[serde(skip)]
    pub stuck: Vec<String>,
    /// What moves is put together by itself: the body these boards are of.
    pub body: String,
}

/// A board as it is drawn.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Drawn {
    /// The board.
    pub board: String,
    /// What is written on it.
    pub mark: String,
    /// Its faces that are seen, right and up.
    pub faces: Vec<Region>,
    /// Where its mark is written.
    #[schema(value_type = Vec<f64>)]
    pub at: Point,
}

/// All pieces, in the order of modules.
pub fn assemblies(
    built: &BTreeMap<String, Built>,
    boards: &[BoardView],
    parts: &[Part],
    joints: &[JointView],
    name: &dyn Fn(&str) -> String,
) -> Vec<Assembly> {
    let part_of: BTreeMap<&str, &Part> = parts
        .iter()
        .flat_map(|p| p.boards.iter().map(move |b| (b.as_str(), p)))
        .collect();
    built
        .iter()
        .filter_map(|(module, b)| {
            let own: Vec<&BoardView> = boards
                .iter()
                .filter(|b| b.module == *module && !b.bought)
                .collect();
            if own.is_empty() {
                return None;
            }
            let joints = joints
                .iter()
                .filter(|j| j.a.starts_with(&format!("{module}/")));
            let piece = Piece {
                solids: own
                    .iter()
                    .map(|b| (b.id.as_str(), Solid::at(b, b.shut)))
                    .collect(),
                boards: own,
                joints: joints.collect(),
                part_of: &part_of,
                bodies: &b.bodies,
                name: name(module),
            };
            let (drawn, frame) = piece.drawn();
            Some(Assembly {
                module: module.clone(),
                name: name(module),
                steps: piece.steps(module),
                drawn,
                frame,
            })
        })
        .collect()
}

struct Piece<'a> {
    boards: Vec<&'a BoardView>,
    solids: BTreeMap<&'a str, Solid<'a>>,
    joints: Vec<&'a JointView>,
    part_of: &'a BTreeMap<&'a str, &'a Part>,
    bodies: &'a [Body],
    name: String,
}

impl<'a> Piece<'a> {
    fn mark(&self, board: &str) -> &'a str {
        self.part_of.get(board).map_or("", |p| p.mark.as_str())
    }

    fn low(&self, board: &str) -> f64 {
        self.solids.get(board).map_or(0.0, |s| s.low[2])
    }

    /// What stands still first, then what moves, body by body.
    fn steps(&self, module: &str) -> Vec<AssemblyStep> {
        let mut there: BTreeSet<&str> = BTreeSet::new();
        let mut out = Vec::new();
        let fixed = format!("{module}/{FIXED}");
        let bodies = self.bodies.iter().map(|b| (b.id.as_str(), Some(b)));
        for (id, body) in std::iter::once((fixed.as_str(), None)).chain(bodies) {
            let mut left: Vec<&BoardView> = self
                .boards
                .iter()
                .copied()
                .filter(|b| b.body == id)
                .collect();
            // What moves is put together by itself.
            let mut own: BTreeSet<&str> = BTreeSet::new();
            let first = out.len();
            while let Some(next) = self.next(&left, &own) {
                let alike = self.alike(next, &left, &own);
                left.retain(|b| !alike.iter().any(|a| a.id == b.id));
                out.push(self.step(&alike, &own));
                own.extend(alike.iter().map(|b| b.id.as_str()));
            }
            if let (Some(body), Some(last)) = (body, out[first..].last_mut()) {
                last.words = format!("{}; {}", last.words, goes_in(body));
                let loose = self.lines(own.iter().copied(), &there);
                last.holds.extend(loose);
            }
            there.extend(own);
        }
        out
    }

    /// The board that comes next: the lowest to begin with, then what most holds to what is there.
    fn next(&self, left: &[&'a BoardView], there: &BTreeSet<&str>) -> Option<&'a BoardView> {
        let order = left.iter().map(|b| {
            let (mut covers, mut held, mut comes_off) = (false, 0_usize, 0_usize);
            for j in &self.joints {
                let other = match (j.a == b.id, j.b == b.id) {
                    (true, _) => &j.b,
                    (_, true) => &j.a,
                    _ => continue,
                };
                // What carries comes before what only lies on it or covers it.
                covers |= j.a == b.id && (j.apart || j.how == Fasten::Lies);
                held += usize::from(there.contains(other.as_str()));
                comes_off += usize::from(j.apart);
            }
            // Nothing is begun with what is screwed on last.
            let begins = if held == 0 { comes_off } else { 0 };
            ((covers, Reverse(held), begins), self.low(&b.id), *b)
        });
        let first = order.min_by(|(p, low, a), (q, up, b)| {
            let what = p.cmp(q).then(low.total_cmp(up));
            what.then_with(|| a.id.cmp(&b.id))
        });
        first.map(|f| f.2)
    }

    /// Boards of the same part, held by as many others that are there, come in one step.
    fn alike(
        &self,
        next: &'a BoardView,
        left: &[&'a BoardView],
        there: &BTreeSet<&str>,
    ) -> Vec<&'a BoardView> {
        let holds = |b: &BoardView| self.partners(&b.id, there).len();
        let mut out = vec![next];
        let same = left.iter().copied().filter(|b| {
            b.id != next.id && self.mark(&b.id) == self.mark(&next.id) && holds(b) == holds(next)
        });
        out.extend(same);
        out
    }

    fn partners(&self, board: &str, there: &BTreeSet<&str>) -> Vec<&'a JointView> {
        let of = |j: &&&JointView| {
            (j.a == board && there.contains(j.b.as_str()))
                || (j.b == board && there.contains(j.a.as_str()))
        };
        self.joints.iter().filter(of).copied().collect()
    }

    /// What holds boards to those that are there: `to B2: 4 wood screws ...`, the same words once.
    fn lines<'b>(
        &self,
        boards: impl Iterator<Item = &'b str>,
        there: &BTreeSet<&str>,
    ) -> Vec<String> {
        let mut lines: BTreeMap<&str, BTreeSet<&str>> = BTreeMap::new();
        for board in boards {
            for j in self.partners(board, there) {
                let other = if j.a == board { &j.b } else { &j.a };
                lines.entry(&j.words).or_default().insert(self.mark(other));
            }
        }
        lines
            .into_iter()
            .map(|(words, marks)| {
                let marks: Vec<&str> = marks.into_iter().collect();
                format!("to {}: {words}", marks.join(", "))
            })
            .collect()
    }

    fn step(&self, boards: &[&BoardView], there: &BTreeSet<&str>) -> AssemblyStep {
        let part = boards.first().and_then(|b| self.part_of.get(b.id.as_str()));
        // The piece is named over the steps.
        let own = |p: &Part| {
            let name = p.name.strip_prefix(&format!("{}, ", self.name));
            name.unwrap_or(&p.name).to_string()
        };
        let name = part.map_or(String::new(), |p| format!("{} ({})", p.mark, own(p)));
        let ids = || boards.iter().map(|b| b.id.as_str());
        let holds = self.lines(ids(), there);
        let joints: Vec<&JointView> = ids().flat_map(|b| self.partners(b, there)).collect();
        let [tools, stuck] = self.tools(boards, there);
        let words = match (boards.len(), holds.is_empty()) {
            (1, true) => format!("Set up {name}"),
            (n, true) => format!("Set up {n} x {name}"),
            (1, false) => format!("Add {name}"),
            (n, false) => format!("Add {n} x {name}"),
        };
        let long = |b: &&BoardView| {
            let (w, h) = b.outline.size();
            w.max(h) > REACH
        };
        let heavy = part.is_some_and(|p| p.mass > ALONE);
        AssemblyStep {
            body: boards.first().map_or(String::new(), |b| b.body.clone()),
            boards: ids().map(String::from).collect(),
            words,
            holds,
            persons: if heavy || boards.iter().any(long) {
                2
            } else {
                1
            },
            tools,
            stuck,
            comes_apart: joints.iter().all(|j| j.apart || j.how == Fasten::Lies),
        }
    }

    /// Which screws have no room for a driver, and those of them that cannot be driven at all.
    fn tools(&self, boards: &[&BoardView], there: &BTreeSet<&str>) -> [Vec<String>; 2] {
        let mut solids: Vec<&Solid> = there.iter().filter_map(|b| self.solids.get(b)).collect();
        let mut tight: BTreeMap<(Drives, &str), BTreeSet<&str>> = BTreeMap::new();
        // Equal boards come one after the other.
        for board in boards {
            let joints = self.partners(&board.id, there).into_iter();
            for j in joints.filter(|j| j.screws > 0) {
                let pair = (self.solids.get(j.a.as_str()), self.solids.get(j.b.as_str()));
                let (Some(a), Some(b)) = pair else { continue };
                if let (with, Some(met)) = drives(j, (a, b), &solids) {
                    let through = tight.entry((with, self.mark(met))).or_default();
                    through.insert(self.mark(&j.a));
                }
            }
            solids.extend(self.solids.get(board.id.as_str()));
        }
        let (mut lines, mut stuck) = (vec![], vec![]);
        for ((with, met), through) in tight {
            let through: Vec<&str> = through.into_iter().collect();
            let through = through.join(", ");
            if with == Drives::Nothing {
                let words = format!(
                    "no driver comes to the screws through {through}: {met} is in the way; drive them before it is there, or choose another joint"
                );
                stuck.push(words.clone());
                lines.push(words);
            } else {
                lines.push(format!(
                    "screws through {through} with an angle driver: {met} is close"
                ));
            }
        }
        [lines, stuck]
    }

    /// All boards as they are drawn, the furthest first, and the frame round them.
    fn drawn(&self) -> (Vec<Drawn>, [Point; 2]) {
        let mut order: Vec<&BoardView> = self.boards.clone();
        let depth = |b: &BoardView| {
            let s = &self.solids[b.id.as_str()];
            let middle: Vec3 = std::array::from_fn(|k| (s.low[k] + s.high[k]) / 2.0);
            middle[2] - middle[0] - middle[1]
        };
        order.sort_by(|a, b| depth(a).total_cmp(&depth(b)).then_with(|| a.id.cmp(&b.id)));
        let mut frame = [[f64::INFINITY; 2], [f64::NEG_INFINITY; 2]];
        let drawn: Vec<Drawn> = order
            .into_iter()
            .map(|b| {
                let faces = faces(b);
                for p in faces.iter().flat_map(|f| &f.outer) {
                    for (k, v) in p.iter().enumerate() {
                        frame[0][k] = frame[0][k].min(*v);
                        frame[1][k] = frame[1][k].max(*v);
                    }
                }
                let largest = faces
                    .iter()
                    .max_by(|f, g| f.area().abs().total_cmp(&g.area().abs()));
                let at = largest.map_or([0.0; 2], |f| {
                    let (x0, y0, x1, y1) = f.bounds();
                    [(x0 + x1) / 2.0, (y0 + y1) / 2.0]
                });
                Drawn {
                    board: b.id.clone(),
                    mark: b.mark.clone(),
                    faces,
                    at,
                }
            })
            .collect();
        (drawn, frame)
    }
}

/// How what moves comes to its place.
fn goes_in(body: &Body) -> &'static str {
    match body.motion {
        Motion::Slide { .. } => "then slide it in",
        Motion::Turn { .. } => "then hang it on its hinges",
        Motion::Over { .. } => "then lay it in its place",
    }
}

/// Seen from the rear, the right and above: right and up on paper (an isometric projection).
fn flat(p: Vec3) -> Point {
    let (s2, s6) = (2.0_f64.sqrt(), 6.0_f64.sqrt());
    [(p[0] - p[1]) / s2, (p[0] + p[1] + 2.0 * p[2]) / s6]
}

/// Faces that look towards the one who looks.
fn faces(b: &BoardView) -> Vec<Region> {
    let pose = b.shut;
    let sees = |n: Vec3| n[2] - n[0] - n[1] > 1e-9;
    let w = pose.w();
    let mut out = Vec::new();
    // The narrow faces first: the broad one lies over their edges.
    for (p, q) in sides(&b.outline.outer) {
        // Outside lies to the right of a ring that runs counter-clockwise.
        let d = [q[1] - p[1], p[0] - q[0]];
        let n: Vec3 = std::array::from_fn(|k| d[0] * pose.u[k] + d[1] * pose.v[k]);
        if sees(n) {
            let t = b.thickness;
            let corners = [(p, 0.0), (q, 0.0), (q, t), (p, t)];
            out.push(Region {
                outer: corners.map(|(c, t)| flat(pose.at(c[0], c[1], t))).to_vec(),
                holes: vec![],
            });
        }
    }
    let seen = |t: f64| b.outline.map(|p| flat(pose.at(p[0], p[1], t)));
    if sees(w) {
        out.push(seen(b.thickness));
    } else if sees(w.map(|v| -v)) {
        out.push(seen(0.0));
    }
    out
}
