//! The survey as it is drawn: the bay, the things in it, every reading where it was taken.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::known::value;
use super::model::Model;
use super::place::{Place, place};
use super::protocol::stations;
use crate::geometry::region::Region;
use crate::project::Project;
use crate::project::survey::Quantity;
use crate::units::figure::Figure;

/// The vehicle as measured.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
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
    /// `ok`, `disagrees` or `soft`.
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
    let mut levels: Vec<_> = project.survey.levels.values().collect();
    levels.sort_by(|a, b| a.z.total_cmp(&b.z));
    let bays = levels
        .iter()
        .filter_map(|l| {
            let bay = model.bay(l.z)?;
            Some(BayView {
                z: w.figure(l.z),
                name: l.name.clone(),
                region: bay.region,
                sd: bay.sd,
            })
        })
        .collect();
    let length = model.length(0.0);
    let floor_bay = model.bay(0.0);
    let things = model.things().map(|o| {
        let plan = o.plan(model);
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
        marks: marks(project, model),
        floor: side(&|x| Some(model.floor(x))),
        roof: side(&|x| Some(model.floor(x) + model.floor_to_roof(x)?)),
        length: length.map(|l| w.figure(l)),
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

fn marks(project: &Project, model: &Model) -> Vec<Mark> {
    let w = project.writer();
    let mut out = Vec::new();
    for (key, k) in &model.known {
        let mut readings: Vec<_> = project
            .survey
            .readings
            .iter()
            .filter(|(_, r)| r.quantity.key() == *key)
            .filter_map(|(id, r)| {
                Some(ReadingView {
                    id: id.clone(),
                    typed: r.typed.clone(),
                    figure: w.figure(value(project, r)?.0),
                    when: r.when.clone(),
                    soft: r.soft,
                    aside: r.aside,
                })
            })
            .collect();
        readings.sort_by(|a, b| a.when.cmp(&b.when).then(a.id.cmp(&b.id)));
        let disagrees = model.disagree.iter().any(|d| d.quantity.key() == *key);
        out.push(Mark {
            key: key.clone(),
            quantity: k.quantity.clone(),
            what: what(project, &k.quantity),
            figure: w.figure(k.mm),
            sd: k.sd,
            state: match (disagrees, k.soft) {
                (true, _) => "disagrees",
                (_, true) => "soft",
                _ => "ok",
            }
            .into(),
            spread: w.figure(k.spread),
            readings,
            place: place(project, model, &k.quantity),
            z: match k.quantity {
                Quantity::Wall { z, .. } | Quantity::Width { z, .. } | Quantity::Length { z } => z,
                _ => 0.0,
            },
        });
    }
    out
}

/// A quantity in a few words.
pub fn what(project: &Project, q: &Quantity) -> String {
    let say = |v: f64| project.writer().say(v);
    match q {
        Quantity::Length { .. } => "Length of the bay".into(),
        Quantity::Wall { side, x, z } => {
            let up = if *z > 0.5 {
                format!(", {} up", say(*z))
            } else {
                String::new()
            };
            format!("{} wall, {} in{up}", capital(side.word()), say(*x))
        }
        Quantity::Width { x, .. } => format!("Wall to wall, {} in", say(*x)),
        Quantity::Floor { x } => format!("Floor height, {} in", say(*x)),
        Quantity::Roof { x } => format!("Floor to roof, {} in", say(*x)),
        Quantity::Thing { id, dim } => {
            let name = project.survey.things.get(id).map_or(id, |t| &t.name);
            format!("{}, {}", capital(name), format!("{dim:?}").to_lowercase())
        }
        Quantity::Opening { dim } => format!(
            "Rear opening, {}",
            match dim {
                crate::project::survey::OpeningDim::WidthFloor => "width at the floor",
                crate::project::survey::OpeningDim::WidthTop => "width at the top",
                crate::project::survey::OpeningDim::Height => "height",
            }
        ),
    }
}

/// First letter large.
pub fn capital(s: &str) -> String {
    let mut chars = s.chars();
    chars
        .next()
        .map_or_else(String::new, |c| c.to_uppercase().chain(chars).collect())
}
