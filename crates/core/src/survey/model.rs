//! The vehicle as far as it is known: walls, front, floor, roof, things in the way.

use std::collections::BTreeMap;

use super::blunder::{Judged, judge};
use super::field::Field;
use super::known::{Known, combine};
use super::observe::{Numbers, equations, ridges};
use super::signal::{Ridges, Signal, Term};
use crate::project::Project;
use crate::project::survey::{Quantity, Side, ThingDim};

pub use super::bay::Bay;
pub use super::obstacle::{FaceFrom, Obstacle};

/// A wall keeps its course this far beyond its outermost readings; further on it is held, mm.
const BEYOND: f64 = 200.0;
const ABOVE: f64 = 60.0;

/// What the readings say of the vehicle.
#[derive(Debug, Clone)]
pub struct Model {
    /// Every quantity with a reading.
    pub known: BTreeMap<String, Known>,
    /// Which readings are wrong, surprising, unchecked.
    pub judged: Judged,
    /// Best values everywhere.
    pub field: Field,
    /// Typical standard deviation of a reading, mm.
    pub sd: f64,
    numbers: Numbers,
    ridges: Ridges,
    spans: [Option<Span>; 2],
    things: BTreeMap<String, Obstacle>,
}

/// Where a wall was read.
#[derive(Debug, Clone, Copy)]
struct Span {
    x: (f64, f64),
    z: (f64, f64),
}

impl Model {
    /// From all readings that count, as long as `go_on` says so.
    pub fn new_while(project: &Project, go_on: &dyn Fn() -> bool) -> Option<Model> {
        go_on().then(|| Model::new(project))
    }

    /// From all readings that count.
    pub fn new(project: &Project) -> Model {
        let ridges = ridges(project);
        let (all, numbers) = equations(project, None);
        let (mut field, mut judged) = judge(all, &ridges);
        // Diagonals are straightened at the walls found first.
        let diagonals =
            |r: &crate::project::survey::Reading| matches!(r.quantity, Quantity::Diagonal { .. });
        let mut numbers = numbers;
        if project.survey.readings.values().any(diagonals) {
            let (all, again) = equations(project, Some(&field));
            (field, judged) = judge(all, &ridges);
            numbers = again;
        }
        let known = combine(project);
        let mut m = Model {
            sd: project.survey.sd,
            spans: Side::BOTH.map(|s| span(&known, s)),
            known,
            judged,
            field,
            numbers,
            ridges,
            things: BTreeMap::new(),
        };
        for (id, thing) in &project.survey.things {
            if let Some(o) = Obstacle::new(&m, id, thing) {
                m.things.insert(id.clone(), o);
            }
        }
        m
    }

    /// What is known of `q`.
    pub fn get(&self, q: &Quantity) -> Option<&Known> {
        self.known.get(&q.key())
    }

    /// Adjusted value of a sum of terms, and its standard deviation.
    pub fn at(&self, terms: &[Term]) -> (f64, f64) {
        self.field.at(terms)
    }

    /// What the readings make of a quantity, and how sure that is, mm.
    pub fn adjusted(&self, project: &Project, q: &Quantity) -> Option<(f64, f64)> {
        let mut numbers = self.numbers.clone();
        let guess = |side, x, z| self.offset(side, x, z);
        let (terms, shift) = super::observe::terms(project, q, 0.0, &mut numbers, &guess)?;
        let (mm, sd) = self.field.at(&terms);
        Some((mm - shift, sd))
    }

    /// Distance of the front from the threshold at offset `y` and height `z`, and its sd.
    pub fn front(&self, y: f64, z: f64) -> Option<(f64, f64)> {
        Some(self.field.at(&self.on_front(y, z)?))
    }

    /// The distance alone: a good deal cheaper than with its doubt.
    pub fn reach(&self, y: f64, z: f64) -> Option<f64> {
        Some(self.field.value(&self.on_front(y, z)?))
    }

    fn on_front(&self, y: f64, z: f64) -> Option<[Term; 1]> {
        let zs = self.known.values().filter_map(|k| match k.quantity {
            Quantity::Length { z, .. } => Some(z),
            _ => None,
        });
        let (lo, hi) = bounds(zs)?;
        Some([Term::new(1.0, Signal::Front, y, z.clamp(lo, hi))])
    }

    /// Length of the bay on the centre line at height `z`.
    pub fn length(&self, z: f64) -> Option<f64> {
        self.reach(0.0, z)
    }

    /// Offsets from the centre line at which the front was read.
    pub fn front_offsets(&self) -> Vec<f64> {
        self.known
            .values()
            .filter_map(|k| match k.quantity {
                Quantity::Length { y, .. } => Some(y),
                _ => None,
            })
            .collect()
    }

    /// Offset of a wall from the centre line and its standard deviation: smooth between readings,
    /// straight between ridges, held far beyond the last.
    pub fn wall(&self, side: Side, x: f64, z: f64) -> Option<(f64, f64)> {
        let (mm, sd) = self.field.at(&self.on_wall(side, x, z)?);
        Some((mm.max(0.0), sd))
    }

    /// The offset alone: a good deal cheaper than with its doubt.
    pub fn offset(&self, side: Side, x: f64, z: f64) -> Option<f64> {
        Some(self.field.value(&self.on_wall(side, x, z)?).max(0.0))
    }

    fn on_wall(&self, side: Side, x: f64, z: f64) -> Option<[Term; 1]> {
        let s = self.spans[side as usize]?;
        let x = x.clamp(s.x.0 - BEYOND, s.x.1 + BEYOND);
        let above = if s.z.1 > s.z.0 { ABOVE } else { 0.0 };
        let z = z.clamp((s.z.0 - ABOVE).max(0.0).min(s.z.0), s.z.1 + above);
        Some([Term::new(1.0, Signal::Wall(side), x, z)])
    }

    /// Heights at which a wall of that side was measured.
    pub fn levels(&self, side: Side) -> Vec<f64> {
        self.wall_places(side, |_, z| z)
    }

    /// Stations at which a wall of that side was measured, at any height.
    pub fn stations(&self, side: Side) -> Vec<f64> {
        self.wall_places(side, |x, _| x)
    }

    fn wall_places(&self, side: Side, pick: fn(f64, f64) -> f64) -> Vec<f64> {
        let mut out: Vec<f64> = self
            .known
            .values()
            .filter_map(|k| match k.quantity {
                Quantity::Wall { side: s, x, z } if s == side => Some(pick(x, z)),
                _ => None,
            })
            .collect();
        out.sort_by(f64::total_cmp);
        out.dedup_by(|a, b| (*a - *b).abs() < 0.5);
        out
    }

    /// Ridges across the bay on that side.
    pub fn ridges_at(&self, side: Side) -> Vec<f64> {
        let own = self
            .ridges
            .x
            .iter()
            .filter(|(s, _)| s.is_none_or(|s| s == side));
        own.map(|(_, x)| *x).collect()
    }

    /// Height of the floor at `x` over the floor at the threshold; flat where not measured.
    pub fn floor(&self, x: f64) -> f64 {
        self.field.value(&[Term::new(1.0, Signal::Floor, x, 0.0)])
    }

    /// Floor to roof at `x`.
    pub fn floor_to_roof(&self, x: f64) -> Option<f64> {
        let xs = self.known.values().filter_map(|k| match k.quantity {
            Quantity::Roof { x, .. } => Some(x),
            _ => None,
        });
        let (lo, hi) = bounds(xs)?;
        let at = Term::new(1.0, Signal::Roof, x.clamp(lo, hi), 0.0);
        Some(self.field.value(&[at]))
    }

    /// The lowest floor-to-roof that was measured, and where.
    pub fn lowest_roof(&self) -> Option<&Known> {
        let roofs = self
            .known
            .values()
            .filter(|k| matches!(k.quantity, Quantity::Roof { .. }));
        roofs.min_by(|a, b| a.mm.total_cmp(&b.mm))
    }

    /// The signal of a single number, once something was read of it.
    pub(super) fn signal(&self, q: &Quantity) -> Option<Signal> {
        self.numbers.signal(&q.key())
    }

    /// Things in the way that are known well enough to be bodies.
    pub fn things(&self) -> impl Iterator<Item = &Obstacle> {
        self.things.values()
    }

    /// A dimension of a thing, once its readings settle it.
    pub fn number(&self, id: &str, dim: ThingDim, z: Option<f64>) -> Option<(f64, f64)> {
        let q = Quantity::Thing {
            id: id.into(),
            dim,
            z,
        };
        let signal = self.numbers.signal(&q.key())?;
        let (mm, sd) = self.field.at(&[Term::new(1.0, signal, 0.0, 0.0)]);
        // A number that only hangs on another unknown is not known.
        (sd < 1000.0).then_some((mm, sd))
    }

    /// Heights other than its foot at which a thing was measured.
    pub fn thing_heights(&self, id: &str) -> Vec<f64> {
        let mut out: Vec<f64> = self
            .known
            .values()
            .filter_map(|k| match &k.quantity {
                Quantity::Thing {
                    id: of, z: Some(z), ..
                } if of == id => Some(*z),
                _ => None,
            })
            .collect();
        out.sort_by(f64::total_cmp);
        out.dedup_by(|a, b| (*a - *b).abs() < 0.5);
        out
    }
}

fn span(known: &BTreeMap<String, Known>, side: Side) -> Option<Span> {
    let places = || {
        known.values().filter_map(|k| match k.quantity {
            Quantity::Wall { side: s, x, z } if s == side => Some((x, z)),
            Quantity::Width { x, z } => Some((x, z)),
            _ => None,
        })
    };
    let read = |k: &Known| matches!(k.quantity, Quantity::Wall { side: s, .. } if s == side);
    known.values().any(read).then_some(())?;
    Some(Span {
        x: bounds(places().map(|p| p.0))?,
        z: bounds(places().map(|p| p.1))?,
    })
}

fn bounds(values: impl Iterator<Item = f64>) -> Option<(f64, f64)> {
    values.fold(None, |b: Option<(f64, f64)>, v| {
        Some(b.map_or((v, v), |(lo, hi)| (lo.min(v), hi.max(v))))
    })
}
