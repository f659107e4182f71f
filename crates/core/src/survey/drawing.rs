//! The survey as it is drawn: the bay, the things in it, every reading where it was taken.

use std::collections::{BTreeMap, BTreeSet};

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::doors::{DoorView, doors};
use super::known::value;
use super::landmark::{Tie, tie};
use super::model::{Bay, Model};
use super::place::{Place, place};
use super::places::{levels, stations};
use crate::geometry::region::Region;
use crate::project::Project;
use crate::project::survey::{Instrument, Quantity, Side, ThingDim};
use crate::units::figure::Figure;

/// The vehicle as measured.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct SurveyView {
    /// Outlines of the bay at the measured heights.
    pub bays: Vec<BayView>,
    /// Things in the way.
    pub things: Vec<ThingView>,
    /// Every quantity with a reading.
    pub marks: Vec<Mark>,
    /// Floor in side view, `[x, z]`.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub floor: Vec<[f64; 2]>,
    /// Roof in side view, `[x, z]`.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub roof: Vec<[f64; 2]>,
    /// Length of the bay, once measured.
    pub length: Option<Figure>,
    /// Rear opening: width and height.
    pub opening: Option<(Figure, Figure)>,
    /// Doors and hatches in the walls, as far as their place is known.
    pub doors: Vec<DoorView>,
    /// How the underside lies to the inside, once two landmarks are measured from both faces.
    pub tie: Option<Tie>,
    /// Stations along the bay, mm.
    pub stations: Vec<f64>,
    /// Noise of one reading.
    pub noise: Figure,
    /// Readings that count, and readings beyond the least needed.
    pub readings: usize,
}

/// The bay at one height.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct BayView {
    /// Height over the load floor.
    pub z: Figure,
    /// What it is called.
    pub name: String,
    /// Free space in plan, things in the way not taken off.
    pub region: Region,
    /// Largest doubt along it.
    pub sd: f64,
    /// Left and right wall from the threshold forward: `[x, y, standard deviation]`.
    #[schema(value_type = Vec<Vec<Vec<f64>>>)]
    pub walls: Vec<Vec<[f64; 3]>>,
    /// Largest difference between the offsets of the two walls along the bay.
    pub differ: Option<Figure>,
}

/// A thing in the way.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct ThingView {
    /// Identifier.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// In plan, as far as the wall.
    pub plan: Region,
    /// Its underside and top, mm.
    pub z: (f64, f64),
    /// Along the bay, mm.
    pub x: (f64, f64),
    /// Its top.
    pub height: Figure,
}

/// A quantity drawn where it was taken.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Mark {
    /// Key of the quantity.
    pub key: String,
    /// What it is a reading of.
    pub quantity: Quantity,
    /// What it is.
    pub what: String,
    /// Its value.
    pub figure: Figure,
    /// Its doubt, mm.
    pub sd: f64,
    /// What all readings together make of it.
    pub adjusted: Option<Figure>,
    /// Adjusted less measured, mm.
    pub residual: Option<f64>,
    /// The smallest slip in its readings that would be noticed, mm; none if there is none.
    pub noticed: Option<f64>,
    /// `ok`, `disagrees`, `again` (does not suit its neighbours) or `soft`.
    pub state: String,
    /// Largest less smallest of its readings.
    pub spread: Figure,
    /// The readings, newest last.
    pub readings: Vec<ReadingView>,
    /// Where it was taken.
    pub place: Option<Place>,
    /// The height it belongs to, mm.
    pub z: f64,
}

/// One reading.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct ReadingView {
    /// Identifier.
    pub id: String,
    /// As typed.
    pub typed: String,
    /// Unit of a bare number.
    pub unit: String,
    /// Its own standard deviation, mm.
    pub sd: f64,
    /// With what it was taken.
    pub instrument: Instrument,
    /// Its value.
    pub figure: Figure,
    /// When.
    pub when: String,
    /// Taken against something soft.
    pub soft: bool,
    /// Set aside.
    pub aside: bool,
}

/// The drawing of the survey.
pub fn view(project: &Project, model: &Model) -> SurveyView {
    let w = project.writer();
    let levels = levels(project, model);
    let bays = levels
        .iter()
        .filter_map(|l| {
            let bay = model.bay(l.z)?;
            Some(BayView {
                z: w.figure(l.z),
                name: l.name.clone(),
                walls: Side::BOTH
                    .map(|s| drawn(&bay.walls[s as usize], s))
                    .to_vec(),
                differ: differ(model, &bay, l.z).map(|mm| w.figure(mm)),
                region: bay.region.clone(),
                sd: bay.sd,
            })
        })
        .collect();
    let length = model.length(0.0);
    let floor_bay = model.bay(0.0);
    let things = model.things().map(|o| {
        let plan = o.plan();
        let seen = floor_bay
            .as_ref()
            .and_then(|b| plan.and(&b.region).into_iter().next());
        ThingView {
            id: o.id.clone(),
            name: o.name.clone(),
            plan: seen.unwrap_or(plan),
            z: o.z,
            x: o.x,
            height: w.figure(o.z.1),
        }
    });
    let xs = stations(project, model);
    let side = |f: &dyn Fn(f64) -> Option<f64>| -> Vec<[f64; 2]> {
        xs.iter().filter_map(|x| Some([*x, f(*x)?])).collect()
    };
    SurveyView {
        bays,
        things: things.collect(),
        doors: doors(project, model),
        marks: marks(project, model),
        floor: side(&|x| Some(model.floor(x))),
        roof: side(&|x| Some(model.floor(x) + model.floor_to_roof(x)?)),
        length: length.map(|l| w.figure(l)),
        tie: tie(project),
        opening: model.opening().map(|(a, b)| (w.figure(a), w.figure(b))),
        stations: xs,
        noise: w.figure(project.survey.sd),
        readings: project
            .survey
            .readings
            .values()
            .filter(|r| !r.aside)
            .count(),
    }
}

/// A wall as it is drawn.
fn drawn(wall: &[(f64, f64, f64)], side: Side) -> Vec<[f64; 3]> {
    wall.iter()
        .map(|(x, o, sd)| [*x, side.sign() * o, *sd])
        .collect()
}

fn differ(model: &Model, bay: &Bay, z: f64) -> Option<f64> {
    let xs = bay.walls[0].iter().map(|p| p.0);
    xs.filter_map(|x| {
        let wall = |s| model.offset(s, x, z);
        Some((wall(Side::Left)? - wall(Side::Right)?).abs())
    })
    .reduce(f64::max)
}

fn judged<T>(all: &[T], key: fn(&T) -> &str) -> BTreeSet<&str> {
    all.iter().map(key).collect()
}

fn marks(project: &Project, model: &Model) -> Vec<Mark> {
    let w = project.writer();
    let mut out = Vec::new();
    let mut by_key: BTreeMap<String, Vec<ReadingView>> = BTreeMap::new();
    for (id, r) in &project.survey.readings {
        let Some((mm, sd)) = value(project, r) else {
            continue;
        };
        by_key
            .entry(r.quantity.key())
            .or_default()
            .push(ReadingView {
                id: id.clone(),
                typed: r.typed.clone(),
                unit: r.unit.word().into(),
                sd,
                instrument: r.instrument,
                figure: w.figure(mm),
                when: r.when.clone(),
                soft: r.soft,
                aside: r.aside,
            });
    }
    let wrong: BTreeSet<&str> = judged(&model.judged.blunders, |b| &b.key);
    let again: BTreeSet<&str> = judged(&model.judged.surprises, |s| &s.key);
    let mut noticed: BTreeMap<&str, f64> = BTreeMap::new();
    for c in &model.judged.control {
        let most = noticed.entry(&c.key).or_default();
        *most = most.max(c.found);
    }
    for (key, k) in &model.known {
        let mut readings = by_key.remove(key).unwrap_or_default();
        readings.sort_by(|a, b| a.when.cmp(&b.when).then(a.id.cmp(&b.id)));
        let adjusted = model.adjusted(project, &k.quantity);
        let disagrees = wrong.contains(key.as_str());
        let asked = again.contains(key.as_str());
        out.push(Mark {
            key: key.clone(),
            quantity: k.quantity.clone(),
            what: what(project, &k.quantity),
            figure: w.figure(k.mm),
            sd: adjusted.map_or(k.sd, |a| a.1),
            adjusted: adjusted.map(|a| w.figure(a.0)),
            residual: adjusted.map(|a| a.0 - k.mm),
            noticed: noticed.get(key.as_str()).copied().filter(|mm| *mm < 200.0),
            state: match (disagrees, asked, k.soft) {
                (true, ..) => "disagrees",
                (_, true, _) => "again",
                (_, _, true) => "soft",
                _ => "ok",
            }
            .into(),
            spread: w.figure(k.spread),
            readings,
            place: place(project, model, &k.quantity),
            z: match k.quantity {
                Quantity::Wall { z, .. }
                | Quantity::Width { z, .. }
                | Quantity::Diagonal { z, .. }
                | Quantity::Length { z, .. } => z,
                _ => 0.0,
            },
        });
    }
    out
}

/// A quantity in a few words.
pub fn what(project: &Project, q: &Quantity) -> String {
    let say = |v: f64| project.writer().mark(v);
    let beside = |y: f64| {
        let side = if y > 0.0 { "left" } else { "right" };
        format!("{} {side} of the centre line", say(y.abs()))
    };
    let inwards = |x: f64| {
        if x < 0.5 {
            "at the threshold".to_string()
        } else {
            format!("{} from the threshold", say(x))
        }
    };
    let up = |z: f64| {
        if z < 0.5 {
            "at the floor".to_string()
        } else {
            format!("{} over the floor", say(z))
        }
    };
    match q {
        Quantity::Length { z, y } => {
            let aside = if *y == 0.0 {
                String::new()
            } else {
                format!(", {}", beside(*y))
            };
            format!("Length of the bay, {}{aside}", up(*z))
        }
        Quantity::Wall { side, x, z } => {
            format!("{} wall, {}, {}", capital(side.word()), inwards(*x), up(*z))
        }
        Quantity::Width { x, z } => format!("Wall to wall, {}, {}", inwards(*x), up(*z)),
        Quantity::Diagonal { side, x, z } => format!(
            "Diagonal, {} corner at the threshold to the {} wall {}, {}",
            side.other().word(),
            side.word(),
            inwards(*x),
            up(*z)
        ),
        Quantity::Floor { x, y } if *y == 0.0 => format!("Floor height, {}", inwards(*x)),
        Quantity::Floor { x, y } => format!("Floor height, {}, {}", inwards(*x), beside(*y)),
        Quantity::Roof { x, y } if *y == 0.0 => format!("Floor to roof, {}", inwards(*x)),
        Quantity::Roof { x, y } => format!("Floor to roof, {}, {}", inwards(*x), beside(*y)),
        Quantity::Slope { x: None } => "Level on the threshold, rise in one metre".into(),
        Quantity::Slope { x: Some(x) } => {
            format!("Level on the floor {}, rise in one metre", inwards(*x))
        }
        Quantity::Thing { id, dim, z } => {
            let name = project.survey.things.get(id).map_or(id, |t| &t.name);
            let up = z.map_or(String::new(), |z| format!(", {} over the floor", say(z)));
            format!("{}, {}{up}", capital(name), dimension(*dim))
        }
        Quantity::Opening { dim, id, z } => format!(
            "{}, {}{}",
            project
                .survey
                .openings
                .get(id)
                .map_or("Rear opening".into(), |o| capital(&o.name)),
            match dim {
                crate::project::survey::OpeningDim::WidthFloor => "width at the floor",
                crate::project::survey::OpeningDim::WidthTop => "width at the top",
                crate::project::survey::OpeningDim::Height => "height",
                crate::project::survey::OpeningDim::Width => "width",
            },
            z.map_or(String::new(), |z| format!(" {} over the floor", say(z)))
        ),
    }
}

/// A dimension of a thing in words.
fn dimension(dim: ThingDim) -> &'static str {
    match dim {
        ThingDim::Start => "threshold to rear face",
        ThingDim::Length => "length",
        ThingDim::End => "threshold to front face",
        ThingDim::Width => "width from the wall",
        ThingDim::Face => "inner face from centre",
        ThingDim::FaceStart => "threshold to the beginning of its inner face",
        ThingDim::FaceEnd => "threshold to the end of its inner face",
        ThingDim::Shoulder => "where its ends begin to run in, from centre",
        ThingDim::Far => "outer face from centre",
        ThingDim::Height => "height",
        ThingDim::Bottom => "underside over the floor",
    }
}

/// First letter large.
pub fn capital(s: &str) -> String {
    let mut chars = s.chars();
    chars
        .next()
        .map_or_else(String::new, |c| c.to_uppercase().chain(chars).collect())
}
