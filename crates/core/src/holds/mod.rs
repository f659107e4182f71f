//! What holds each piece to the vehicle, with bolts and screws by length, and whether that stands braking and turning.

mod load;
mod out;
mod point;

use std::collections::{BTreeMap, BTreeSet};

use serde::Serialize;
use utoipa::ToSchema;

use crate::boards::BoardView;
use crate::furniture::built::{Built, FIXED, Vec3};
use crate::furniture::{Field, FieldValue};
use crate::input::escape;
use crate::joints::{Bill, JointView, contact};
use crate::mechanics::fixing::screw_bears;
use crate::mechanics::load::centre;
use crate::project::held::HeldBy;
use crate::project::module::{Across, Module};
use crate::project::survey::Side;
use crate::project::{Project, VehicleKind};
use crate::solids::Solid;
use crate::survey::protocol::Ask;
use crate::units::figure::Writer;
use crate::weight::of_piece;

pub use load::Load;
pub use out::{OutStep, TakingOut};
pub use point::{BESIDE, Place, thread};

/// A piece that stands against a wall with no more than this between leans on it, mm (a choice).
const LEANS: f64 = 30.0;
/// A piece stands on the floor with boards that reach down this near to its lowest place, mm.
const FOOT: f64 = 5.0;
/// Screws into the floor stand no further apart than this and so far off a board's ends, mm (choices).
const APART: f64 = 300.0;
const OFF_END: f64 = 40.0;
/// Screws from one piece into another: thickness and how deep they hold, mm (choices).
const SCREW: (f64, f64) = (4.0, 12.0);
/// Places tried for one piece at most.
const MOST: usize = 12;
/// Wood on wood, wood on a floor lining (a choice, at the low end of EN 12195-1's table, from memory).
const FRICTION: f64 = 0.3;
/// At least two places hold a piece: on one it turns. One longer than this is held at its corners, mm (choices).
const LEAST: usize = 2;
const LONG: f64 = 1000.0;

/// How a piece is held.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HoldView {
    /// The module.
    pub module: String,
    /// What it is called.
    pub name: String,
    /// The choices.
    pub form: Vec<Field>,
    /// What it weighs with what is in it and what is screwed to it.
    pub weighs: String,
    /// What pulls it forward when braking hard.
    pub forward: String,
    /// What pulls it to a side in a bend.
    pub side: String,
    /// Where it is held.
    pub points: Vec<HoldPoint>,
    /// Whether that is enough, in a sentence.
    pub words: String,
    /// It is.
    pub holds: bool,
    /// Nothing is noted that could hold it.
    pub nothing: bool,
}

/// A place at which a piece is held.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HoldPoint {
    /// What it is called.
    pub name: String,
    /// Where, in the vehicle.
    #[schema(value_type = Vec<f64>)]
    pub at: Vec3,
    /// `module/board`.
    pub board: String,
    /// What is done there.
    pub words: String,
    /// What it has to hold, and what it is counted for.
    pub takes: String,
    /// It holds that.
    pub enough: bool,
}

/// All pieces, and what follows.
#[derive(Debug, Default)]
pub struct Holds {
    /// By piece, in the order of modules.
    pub pieces: Vec<HoldView>,
    /// In which order they come out again.
    pub out: TakingOut,
    /// Numbers that are missing.
    pub asks: Vec<Ask>,
    /// Of a piece that is not held: pieces that it touches and that would hold both, module and name.
    pub hosts: BTreeMap<String, Vec<(String, String)>>,
}

/// A piece before it is judged.
struct Piece<'a> {
    module: &'a Module,
    solids: Vec<Solid<'a>>,
    density: BTreeMap<&'a str, f64>,
    load: Load,
    places: Vec<Place>,
}

/// Works out how everything is held. `stowed` says what lies in which piece; what is bought goes on the bill.
pub fn holds(
    project: &Project,
    built: &BTreeMap<String, Built>,
    boards: &[BoardView],
    joints: &[JointView],
    stowed: &[(&str, &str)],
    bill: &mut Bill,
) -> Holds {
    let w = project.writer();
    let mut pieces = pieces(project, built, boards, stowed);
    // The accelerations are those of the road.
    if project.vehicle.kind == VehicleKind::Boat {
        return Holds {
            out: out::order(&pieces, joints, stowed),
            ..Holds::default()
        };
    }
    fasten(project, &mut pieces, &w);
    let views: Vec<HoldView> = pieces
        .keys()
        .map(|id| view(project, &pieces, id, &w))
        .collect();
    for (id, p) in &pieces {
        let taken = used(p, &views, id);
        for bought in p.places.iter().take(taken).flat_map(|p| &p.bought) {
            bill.buy(bought.0, bought.1.clone(), bought.2, &p.module.called());
        }
        let joined = screws_between(&pieces, id);
        if joined > 0 {
            bill.buy(
                "wood screw, countersunk",
                size_between(&w),
                joined,
                &p.module.called(),
            );
        }
    }
    let hosts = views.iter().filter(|v| !v.holds);
    let hosts = hosts.map(|v| (v.module.clone(), hosts_of(&pieces, &views, &v.module)));
    Holds {
        hosts: hosts.collect(),
        out: out::order(&pieces, joints, stowed),
        asks: asks(project, &pieces),
        pieces: views,
    }
}

/// Places that are bought for: those of a piece that is held by another one are not.
fn used(p: &Piece, views: &[HoldView], id: &str) -> usize {
    let points = views
        .iter()
        .find(|v| v.module == id)
        .map_or(0, |v| v.points.len());
    p.places.len().min(points)
}

fn pieces<'a>(
    project: &'a Project,
    built: &'a BTreeMap<String, Built>,
    boards: &'a [BoardView],
    stowed: &[(&str, &str)],
) -> BTreeMap<&'a str, Piece<'a>> {
    let mut out = BTreeMap::new();
    for (id, b) in built {
        let Some(module) = project.modules.get(id) else {
            continue;
        };
        let all: Vec<Solid> = boards
            .iter()
            .filter(|v| v.module == *id)
            .map(|v| Solid::at(v, v.shut))
            .collect();
        let Some(own) = of_piece(boards, id) else {
            continue;
        };
        let low: Vec3 =
            std::array::from_fn(|k| all.iter().map(|s| s.low[k]).fold(f64::INFINITY, f64::min));
        let high: Vec3 = std::array::from_fn(|k| {
            all.iter()
                .map(|s| s.high[k])
                .fold(f64::NEG_INFINITY, f64::max)
        });
        let middle: Vec3 = std::array::from_fn(|k| (low[k] + high[k]) / 2.0);
        let gear = stowed.iter().filter(|(m, _)| m == id);
        let gear: f64 = gear.filter_map(|(_, g)| project.gear.get(*g)?.mass).sum();
        let Some(all_of_it) = centre(&[(own.mass, own.at), (gear, middle)]) else {
            continue;
        };
        let mut load = Load {
            mass: all_of_it.mass,
            at: all_of_it.at,
            low,
            high,
            walls: [false; 2],
        };
        let near = module.place.gap <= LEANS;
        match module.place.across {
            Across::WallToWall => load = load.leaning(Side::Left).leaning(Side::Right),
            Across::LeftWall if near => load = load.leaning(Side::Left),
            Across::RightWall if near => load = load.leaning(Side::Right),
            _ => {}
        }
        let fixed = format!("{id}/{FIXED}");
        let density = b.boards.iter().map(|b| {
            let density = project.material(&b.material).map_or(0.0, |m| m.density);
            (b.id.as_str(), density)
        });
        out.insert(
            id.as_str(),
            Piece {
                module,
                density: density.collect(),
                solids: all.into_iter().filter(|s| s.board.body == fixed).collect(),
                load,
                places: vec![],
            },
        );
    }
    out
}

impl Piece<'_> {
    fn density(&self, board: &Solid) -> f64 {
        let own = board.board.id.rsplit_once('/').map_or("", |b| b.1);
        self.density.get(own).copied().unwrap_or_default()
    }

    /// Where it could be screwed to the floor: along the boards on which it stands.
    fn feet(&self, w: &Writer) -> Vec<Place> {
        let Some(depth) = self.module.held.floor else {
            return vec![];
        };
        let foot = |s: &&Solid| s.low[2] <= self.load.low[2] + FOOT;
        let mut out = Vec::new();
        for s in self.solids.iter().filter(foot) {
            let along = if s.high[0] - s.low[0] >= s.high[1] - s.low[1] {
                0
            } else {
                1
            };
            let length = s.high[along] - s.low[along] - 2.0 * OFF_END;
            if length < 0.0 {
                continue;
            }
            let n = (length / APART).ceil() as usize + 1;
            for i in 0..n.min(MOST) {
                let mut at: Vec3 = std::array::from_fn(|k| (s.low[k] + s.high[k]) / 2.0);
                at[along] = s.low[along] + OFF_END + length * i as f64 / (n - 1).max(1) as f64;
                at[2] = s.low[2];
                let mut bought = vec![];
                let (words, bears, rank, seconds) =
                    point::floor_screws(&s.board.mark, depth, &mut bought, w);
                out.push(Place {
                    fixing: String::new(),
                    name: "floor".into(),
                    at,
                    board: s.board.id.clone(),
                    words,
                    far: 0.0,
                    bears,
                    bought,
                    rank,
                    seconds,
                });
            }
        }
        out
    }

    /// So many places at least.
    fn least(&self) -> usize {
        let long = (0..2).any(|k| self.load.high[k] - self.load.low[k] > LONG);
        if long { 2 * LEAST } else { LEAST }
    }

    /// Each place holds what comes to it, and there are enough of them.
    fn stands(&self, load: &Load, places: &[Place]) -> bool {
        let at: Vec<Vec3> = places.iter().map(|p| p.at).collect();
        places.len() >= self.least()
            && load
                .takes(&at)
                .iter()
                .zip(places)
                .all(|(n, p)| *n <= p.bears)
    }
}

/// What a piece has to hold: itself and what is screwed to it. Nothing where it hangs in a circle.
fn carried(pieces: &BTreeMap<&str, Piece>, id: &str) -> Option<Load> {
    let mut load = pieces.get(id)?.load;
    let mut seen = BTreeSet::from([id]);
    let mut todo = vec![id];
    while let Some(host) = todo.pop() {
        for (other, p) in pieces {
            let held = &p.module.held;
            if held.by == HeldBy::Piece && held.to.as_deref() == Some(host) {
                if !seen.insert(other) {
                    return None;
                }
                load = load.with(&p.load);
                todo.push(other);
            }
        }
    }
    Some(load)
}

/// Gives the fixings that there are to the pieces that need them, a fixing to one piece: the heaviest first, each in
/// turn, what is there already before what has to be set in, and far from those that it has.
fn fasten(project: &Project, pieces: &mut BTreeMap<&str, Piece>, w: &Writer) {
    let loads: BTreeMap<&str, Load> = pieces
        .keys()
        .filter_map(|id| Some((*id, carried(pieces, id)?)))
        .collect();
    let mut order: Vec<&str> = loads.keys().copied().collect();
    order.sort_by(|a, b| loads[b].mass.total_cmp(&loads[a].mass));
    let mut offered: BTreeMap<&str, Vec<Place>> = BTreeMap::new();
    for (id, p) in pieces.iter() {
        let all = match p.module.held.by {
            HeldBy::Piece | HeldBy::Weight => vec![],
            HeldBy::Floor => p.feet(w),
            HeldBy::Anchors => {
                let near = project.survey.fixings.iter().filter_map(|(f, fixing)| {
                    let (board, far) = point::nearest(fixing.at, &p.solids)?;
                    let density = p.density(board);
                    (far <= BESIDE)
                        .then(|| point::place((f, fixing), (board, far), density, w))
                        .flatten()
                });
                near.collect()
            }
        };
        offered.insert(id, all);
    }
    // A fixing is its nearest piece's first.
    let mut own: BTreeMap<String, (f64, &str)> = BTreeMap::new();
    for (id, all) in &offered {
        for o in all {
            let best = own.entry(o.fixing.clone()).or_insert((f64::INFINITY, *id));
            if o.far < best.0 {
                *best = (o.far, *id);
            }
        }
    }
    let mut gone: BTreeSet<String> = BTreeSet::new();
    let mut more = true;
    while more {
        more = false;
        for id in &order {
            let (Some(p), Some(load)) = (pieces.get_mut(id), loads.get(id)) else {
                continue;
            };
            if p.places.len() >= MOST || p.stands(load, &p.places) {
                continue;
            }
            let free = offered.get(id).into_iter().flatten();
            let free = free
                .filter(|o| !gone.contains(&o.fixing) && !p.places.iter().any(|h| h.at == o.at));
            let far = |o: &Place| {
                let to = |h: &Place| (0..3).map(|k| (h.at[k] - o.at[k]).powi(2)).sum::<f64>();
                p.places.iter().map(to).fold(f64::INFINITY, f64::min)
            };
            // What bears nothing yet is named last.
            let best = free.min_by(|a, b| {
                let others = |o: &Place| own.get(&o.fixing).is_some_and(|n| n.1 != *id);
                let worth = |o: &Place| (o.bears <= 0.0, others(o), o.rank);
                worth(a).cmp(&worth(b)).then(far(b).total_cmp(&far(a)))
            });
            if let Some(best) = best.cloned() {
                if !best.fixing.is_empty() {
                    gone.insert(best.fixing.clone());
                }
                p.places.push(best);
                more = true;
            }
        }
    }
}

/// How far a piece touches the one to which it is screwed, mm.
fn touches(a: &Piece, b: &Piece) -> f64 {
    let pairs = a
        .solids
        .iter()
        .flat_map(|s| b.solids.iter().map(move |t| (s, t)));
    pairs.filter_map(|(s, t)| contact(s, t)).fold(0.0, f64::max)
}

/// Pieces that are held themselves, touch this one, and would still be held with it screwed to them.
fn hosts_of(pieces: &BTreeMap<&str, Piece>, views: &[HoldView], id: &str) -> Vec<(String, String)> {
    let Some(load) = carried(pieces, id) else {
        return vec![];
    };
    let Some(p) = pieces.get(id) else {
        return vec![];
    };
    let mut out = Vec::new();
    for v in views.iter().filter(|v| v.holds && v.module != id) {
        let Some(host) = pieces.get(v.module.as_str()) else {
            continue;
        };
        let fixed = matches!(host.module.held.by, HeldBy::Anchors | HeldBy::Floor);
        let both = carried(pieces, &v.module).map(|own| own.with(&load));
        let holds = both.is_some_and(|both| host.stands(&both, &host.places));
        if fixed && holds && screws_for(p, host, &load) > 0 {
            out.push((v.module.clone(), v.name.clone()));
        }
    }
    out
}

/// Screws between a piece and the one that holds it; none where they do not do.
fn screws_between(pieces: &BTreeMap<&str, Piece>, id: &str) -> u32 {
    let Some(p) = pieces.get(id).filter(|p| p.module.held.by == HeldBy::Piece) else {
        return 0;
    };
    let host = p.module.held.to.as_deref().and_then(|to| pieces.get(to));
    match (host, carried(pieces, id)) {
        (Some(host), Some(load)) => screws_for(p, host, &load),
        _ => 0,
    }
}

/// As many as the force asks for; none where they would stand too close.
fn screws_for(p: &Piece, host: &Piece, load: &Load) -> u32 {
    let length = touches(p, host);
    if length <= 0.0 {
        return 0;
    }
    let density = p
        .solids
        .iter()
        .map(|s| p.density(s))
        .fold(f64::INFINITY, f64::min);
    let each = screw_bears(density, SCREW.1, SCREW.0).max(1.0);
    let wanted = (load.forward().hypot(load.side()) / each)
        .ceil()
        .max(LEAST as f64);
    // Screws closer than ten times their thickness split a board (a choice).
    let room = (length / (10.0 * SCREW.0)).floor().max(0.0);
    if wanted > room { 0 } else { wanted as u32 }
}

fn size_between(w: &Writer) -> String {
    match w.system {
        crate::units::figure::System::Mm => "4 x 25 mm".into(),
        crate::units::figure::System::In => "#8 x 1 in".into(),
    }
}

fn view(project: &Project, pieces: &BTreeMap<&str, Piece>, id: &str, w: &Writer) -> HoldView {
    let empty = Load {
        mass: 0.0,
        at: [0.0; 3],
        low: [0.0; 3],
        high: [0.0; 3],
        walls: [false; 2],
    };
    let p = pieces.get(id);
    let load = carried(pieces, id);
    let known = load.unwrap_or(p.map_or(empty, |p| p.load));
    let places: &[Place] = p.map_or(&[], |p| &p.places);
    let at: Vec<Vec3> = places.iter().map(|p| p.at).collect();
    let takes = known.takes(&at);
    let points = places.iter().zip(&takes).map(|(p, n)| HoldPoint {
        name: p.name.clone(),
        at: p.at,
        board: p.board.clone(),
        words: p.words.clone(),
        takes: if n.is_finite() && places.len() >= LEAST {
            format!("{} of {}", w.force(*n), w.force(p.bears))
        } else {
            format!("counted for {}", w.force(p.bears))
        },
        enough: *n <= p.bears,
    });
    let points: Vec<HoldPoint> = points.collect();
    let name = p.map_or(String::new(), |p| p.module.called());
    let (holds, words) = judged(pieces, id, load.as_ref(), w);
    HoldView {
        module: id.into(),
        form: form(project, id),
        weighs: w.mass(known.mass.round()),
        forward: w.force(known.forward()),
        side: w.force(known.side()),
        nothing: points.is_empty() && p.is_some_and(|p| p.module.held.by == HeldBy::Anchors),
        points,
        words,
        holds,
        name,
    }
}

/// Whether a piece is held, and why.
fn judged(
    pieces: &BTreeMap<&str, Piece>,
    id: &str,
    load: Option<&Load>,
    w: &Writer,
) -> (bool, String) {
    let Some(p) = pieces.get(id) else {
        return (false, String::new());
    };
    let Some(load) = load else {
        return (
            false,
            "It is held by a piece that it holds itself: one of them needs the vehicle.".into(),
        );
    };
    match p.module.held.by {
        HeldBy::Weight => {
            let slip = load.forward() - FRICTION * load.mass * crate::units::GRAVITY;
            (
                false,
                format!(
                    "Friction holds less than half of what braking pulls at it: {} are missing. It slides unless something stands in front of it.",
                    w.force(slip)
                ),
            )
        }
        HeldBy::Piece => {
            let Some(host) = p.module.held.to.as_deref().and_then(|to| pieces.get(to)) else {
                return (false, "Say which piece holds it.".into());
            };
            let n = screws_between(pieces, id);
            if touches(p, host) <= 0.0 {
                (
                    false,
                    format!(
                        "It does not touch the {}: there is nothing to screw.",
                        host.module.called()
                    ),
                )
            } else if n == 0 {
                (
                    false,
                    format!(
                        "It touches the {} on too short a stretch for the screws that it needs.",
                        host.module.called()
                    ),
                )
            } else {
                (
                    true,
                    format!(
                        "{n} screws {} into the {}, which holds both.",
                        size_between(w),
                        host.module.called()
                    ),
                )
            }
        }
        HeldBy::Floor if p.module.held.floor.is_none() => (
            false,
            "How thick is the floor that takes the screws? Look what is below it before drilling."
                .into(),
        ),
        HeldBy::Anchors | HeldBy::Floor => {
            let good = p.stands(load, &p.places);
            let n = p.places.len();
            let places = match n {
                1 => "1 place".to_string(),
                n => format!("{n} places"),
            };
            let words = match (good, n) {
                (true, _) => format!("Held at {places}: each bears what braking, setting off and bends bring to it."),
                (false, 0) => "Nothing is noted that could hold it: no ring, thread, rib or floor ply within a hand of it.".into(),
                (false, 1) => "One place is not enough: it turns about it.".into(),
                (false, n) if n < p.least() => format!(
                    "{places} are not enough: so long a piece is held at its corners, {} at least.",
                    p.least()
                ),
                (false, _) => format!("{places} are not enough."),
            };
            (good, words)
        }
    }
}

/// The choices, for every kind the same.
fn form(project: &Project, id: &str) -> Vec<Field> {
    let Some(m) = project.modules.get(id) else {
        return vec![];
    };
    let at = format!("/modules/{}/held", escape(id));
    let field = |path: &str, label: &str, value: FieldValue, why: &str| Field {
        pointer: format!("{at}/{path}"),
        label: label.into(),
        value,
        empty: None,
        why: why.into(),
    };
    let by = [
        ("anchors", "what the survey notes"),
        ("floor", "screws into the floor"),
        ("piece", "another piece"),
        ("weight", "its weight only"),
    ];
    let now = by[m.held.by as usize].0.to_string();
    let options = by.iter().map(|(v, w)| ((*v).into(), (*w).into())).collect();
    let mut out = vec![field(
        "by",
        "Held by",
        FieldValue::Choice { now, options },
        "Existing rings, bolts and threads first; drilling a body is last.",
    )];
    match m.held.by {
        HeldBy::Piece => {
            let others = project.modules.iter().filter(|(o, _)| *o != id);
            let mut options: Vec<(String, String)> = vec![(String::new(), "none yet".into())];
            options.extend(others.map(|(o, m)| (o.clone(), m.called())));
            let now = m.held.to.clone().unwrap_or_default();
            out.push(field(
                "to",
                "Screwed to",
                FieldValue::Choice { now, options },
                "",
            ));
        }
        HeldBy::Floor => {
            let now = m.held.floor.map(|mm| project.writer().figure(mm));
            out.push(field(
                "floor",
                "Floor is thick",
                FieldValue::Length { now },
                "Screws stop short of what is below: tanks, lines, wires.",
            ));
        }
        HeldBy::Anchors | HeldBy::Weight => {}
    }
    out
}

/// What would have to be known of the fixings that are near.
fn asks(project: &Project, pieces: &BTreeMap<&str, Piece>) -> Vec<Ask> {
    let mut out = Vec::new();
    for (id, p) in pieces {
        if p.module.held.by == HeldBy::Floor && p.module.held.floor.is_none() {
            out.push(Ask::field(
                "layout",
                format!("/modules/{}/held/floor", escape(id)),
                format!("{}, thickness of the floor below it", p.module.called()),
                "At a hole, or at the edge of the floor's board.",
                "Screws hold in it and must not come out below.",
            ));
        }
        for place in p.places.iter().filter(|p| p.bears <= 0.0) {
            let fixing = project.survey.fixings.get(&place.fixing);
            if fixing.is_some_and(|f| f.depth.is_none() && !f.kind.has_thread()) {
                out.push(Ask::field(
                    "layout",
                    format!("/survey/fixings/{}/depth", escape(&place.fixing)),
                    format!("{}, how deep a screw may go", place.name),
                    "At a hole: a bent wire hooked behind, or the edge of the board.",
                    "Screws hold in it and must not come out behind.",
                ));
            }
        }
    }
    out
}
