//! The vehicle as far as it is known: walls, front, floor, roof, things in the way.

use std::collections::BTreeMap;
use std::sync::OnceLock;

use super::bays::Bays;
use super::blunder::{Judged, judge};
use super::field::Field;
use super::known::{Known, combine};
use super::observe::{Numbers, equations, newest, ridges};
use super::signal::{Ridges, Signal, Term};
use super::witness::{self, Body, Lay, Origin};
use crate::curves::view::{TemplateView, templates};
use crate::geometry::region::Region;
use crate::project::Project;
use crate::project::survey::{Quantity, Side, ThingDim};

pub use super::bay::Bay;
pub use super::obstacle::{FaceFrom, Obstacle};

/// A wall keeps its course along this far beyond its outermost readings; further on it is held, mm.
const BEYOND: f64 = 200.0;
/// Past the heights that were read a wall keeps its lean, and is doubted by this share of the distance beside what the readings leave
/// open: walls that bend at the waist of a vehicle are off by some 6 to 9 mm in the first 100 (the virtual vehicles, three deviations).
const FADING: f64 = 0.03;
/// A front past the heights at which it was read is doubted by at least this share of the distance.
const FRONT: f64 = 0.01;
/// A height this far past the highest that was read on both walls was not surveyed, mm.
const PAST: f64 = 150.0;

/// What the readings say of the vehicle.
#[derive(Debug, Clone, Default)]
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
    seen: Seen,
    things: BTreeMap<String, Obstacle>,
    /// Where walls are known so closely that their course counts, by side.
    fine: [Vec<f64>; 2],
    /// Where captured curves and boards held in place lay.
    lays: Vec<Lay>,
    /// The bay across in the middle, as it is drawn: the same for every plan over this vehicle.
    middle: OnceLock<Option<Region>>,
    /// Bays at the heights that were asked for.
    pub(super) bays: Bays,
}

/// Places that were read, looked up once: plans ask for them often.
#[derive(Debug, Clone, Default)]
struct Seen {
    stations: [Vec<f64>; 2],
    levels: [Vec<f64>; 2],
    front_z: Option<(f64, f64)>,
    front_y: Vec<f64>,
    roof_x: Option<(f64, f64)>,
}

impl Seen {
    fn new(known: &BTreeMap<String, Known>) -> Seen {
        let fronts = || {
            known.values().filter_map(|k| match k.quantity {
                Quantity::Length { z, y } => Some((y, z)),
                _ => None,
            })
        };
        let roofs = known.values().filter_map(|k| match k.quantity {
            Quantity::Roof { x, .. } => Some(x),
            _ => None,
        });
        Seen {
            stations: Side::BOTH.map(|s| wall_places(known, s, |x, _| x)),
            levels: Side::BOTH.map(|s| wall_places(known, s, |_, z| z)),
            front_z: bounds(fronts().map(|f| f.1)),
            front_y: fronts().map(|f| f.0).collect(),
            roof_x: bounds(roofs),
        }
    }
}

/// Where a wall was read.
#[derive(Debug, Clone, Copy)]
struct Span {
    x: (f64, f64),
    z: (f64, f64),
}

impl Model {
    /// From all readings, captured curves and boards held in place that count.
    pub fn new(project: &Project) -> Model {
        Model::new_while(project, &templates(project), &|| true).unwrap_or_default()
    }

    /// The same over curves that are known already, as long as `go_on` says so.
    pub fn new_while(
        project: &Project,
        curves: &[TemplateView],
        go_on: &dyn Fn() -> bool,
    ) -> Option<Model> {
        let mut ridges = ridges(project);
        let newest = newest(project);
        let placed = curves
            .iter()
            .filter_map(|t| Some((t.id.as_str(), t.placed.as_ref()?)));
        let placed: Vec<_> = placed.collect();
        let (all, mut numbers) = equations(project, None);
        let (mut field, mut judged) = judge(all, &newest, &ridges, go_on)?;
        // Diagonals are straightened at the walls found first.
        let diagonals =
            |r: &crate::project::survey::Reading| matches!(r.quantity, Quantity::Diagonal { .. });
        if project.survey.readings.values().any(diagonals) {
            let (all, again) = equations(project, Some(&field));
            (field, judged) = judge(all, &newest, &ridges, go_on)?;
            numbers = again;
        }
        let mut bodies = witness::curves(&placed);
        bodies.extend(witness::fits(project, &field));
        // The survey judges itself; then it judges bodies, and goes on with those that it does not contradict.
        if !bodies.is_empty() {
            witness::bends(&placed, &mut ridges);
            let (own, found) = witness::judge(&field, &bodies, &mut numbers, &ridges);
            judged.bodies = found;
            let mut all = field.equations().to_vec();
            all.extend(own);
            field = Field::fitted(all, ridges.clone());
            go_on().then_some(())?;
        }
        let lays = witness::lays(&bodies, &field, &numbers);
        let known = combine(project);
        let mut m = Model {
            sd: project.survey.sd,
            spans: Side::BOTH.map(|s| span(&known, &bodies, s)),
            seen: Seen::new(&known),
            known,
            judged,
            field,
            numbers,
            ridges,
            things: BTreeMap::new(),
            lays,
            fine: Side::BOTH.map(|s| witness::fine(&bodies, s)),
            middle: OnceLock::new(),
            bays: Bays::default(),
        };
        for (id, thing) in &project.survey.things {
            if let Some(o) = Obstacle::new(&m, id, thing) {
                m.things.insert(id.clone(), o);
            }
        }
        Some(m)
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
        let (mm, sd) = self.field.at(&self.on_front(y, z)?);
        let (lo, hi) = self.seen.front_z?;
        let past = (z - hi).max(lo - z).max(0.0);
        Some((mm, sd.max(FRONT * past)))
    }

    /// The distance alone: a good deal cheaper than with its doubt.
    pub fn reach(&self, y: f64, z: f64) -> Option<f64> {
        Some(self.field.value(&self.on_front(y, z)?))
    }

    fn on_front(&self, y: f64, z: f64) -> Option<[Term; 1]> {
        let (lo, hi) = self.seen.front_z?;
        // As a wall: a front that was read at one height only has no lean to keep.
        let z = if hi > lo { z } else { lo };
        Some([Term::new(1.0, Signal::Front, y, z)])
    }

    /// Length of the bay on the centre line at height `z`.
    pub fn length(&self, z: f64) -> Option<f64> {
        self.reach(0.0, z)
    }

    /// Offsets from the centre line at which the front was read.
    pub fn front_offsets(&self) -> &[f64] {
        &self.seen.front_y
    }

    /// Offset of a wall from the centre line and its standard deviation: smooth between readings,
    /// straight between ridges, held far beyond the last.
    pub fn wall(&self, side: Side, x: f64, z: f64) -> Option<(f64, f64)> {
        let (mm, sd) = self.field.at(&self.on_wall(side, x, z)?);
        Some((mm.max(0.0), sd.hypot(FADING * self.past(side, z))))
    }

    /// The same at many places of one height.
    pub fn wall_at_all(&self, side: Side, xs: &[f64], z: f64) -> Option<Vec<(f64, f64)>> {
        let places = xs.iter().map(|x| Some(self.on_wall(side, *x, z)?[0]));
        let places: Vec<Term> = places.collect::<Option<_>>()?;
        let fading = FADING * self.past(side, z);
        let all = self.field.at_all(&places).into_iter();
        Some(
            all.map(|(mm, sd)| (mm.max(0.0), sd.hypot(fading)))
                .collect(),
        )
    }

    /// How far a height is past those at which a wall of that side was read, mm.
    fn past(&self, side: Side, z: f64) -> f64 {
        let read = self.spans[side as usize].map_or((z, z), |s| s.z);
        (z - read.1).max(read.0 - z).max(0.0)
    }

    /// The heights between which both walls were read.
    pub fn read(&self) -> Option<(f64, f64)> {
        let [left, right] = Side::BOTH.map(|side| self.levels(side));
        let low = left.first()?.max(*right.first()?);
        Some((low, left.last()?.min(*right.last()?)))
    }

    /// The highest height that was read on both walls.
    pub fn highest(&self) -> Option<f64> {
        Some(self.read()?.1)
    }

    /// The height was not surveyed: it lies well past what was read on both walls.
    pub fn is_beyond(&self, z: f64) -> bool {
        self.highest().is_some_and(|h| z >= h + PAST)
    }

    /// The offset alone: a good deal cheaper than with its doubt.
    pub fn offset(&self, side: Side, x: f64, z: f64) -> Option<f64> {
        Some(self.field.value(&self.on_wall(side, x, z)?).max(0.0))
    }

    fn on_wall(&self, side: Side, x: f64, z: f64) -> Option<[Term; 1]> {
        let s = self.spans[side as usize]?;
        let x = x.clamp(s.x.0 - BEYOND, s.x.1 + BEYOND);
        // A wall that was read at one height only has no lean to keep.
        let z = if s.z.1 > s.z.0 { z } else { s.z.0 };
        Some([Term::new(1.0, Signal::Wall(side), x, z)])
    }

    /// The bay across in the middle, worked out by the first who draws it.
    pub fn middle(&self, work: impl FnOnce(&Model) -> Option<Region>) -> Option<Region> {
        self.middle.get_or_init(|| work(self)).clone()
    }

    /// Heights at which a wall of that side was measured, ascending.
    pub fn levels(&self, side: Side) -> &[f64] {
        &self.seen.levels[side as usize]
    }

    /// Stations at which a wall of that side was measured, at any height, ascending.
    pub fn stations(&self, side: Side) -> &[f64] {
        &self.seen.stations[side as usize]
    }

    /// Where a wall of that side is known so closely that its course between stations counts, ascending.
    pub fn fine(&self, side: Side) -> &[f64] {
        &self.fine[side as usize]
    }

    /// Where a board lay when it was held in place.
    pub fn lay(&self, fit: &str) -> Option<&Lay> {
        let mut all = self.lays.iter();
        all.find(|l| l.origin == Origin::Fit && l.id == fit)
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
        self.floor_at(x, 0.0)
    }

    /// The same at `y` left of the centre line.
    pub fn floor_at(&self, x: f64, y: f64) -> f64 {
        self.field.value(&[Term::new(1.0, Signal::Floor, x, y)])
    }

    /// Floor to roof at `x`.
    pub fn floor_to_roof(&self, x: f64) -> Option<f64> {
        let (lo, hi) = self.seen.roof_x?;
        let at = Term::new(1.0, Signal::Roof, x.clamp(lo, hi), 0.0);
        Some(self.field.value(&[at]))
    }

    /// The floor-to-roof that was measured where the roof is lowest, counted from the load floor's datum.
    pub fn lowest_roof(&self) -> Option<&Known> {
        let roofs = self.known.values().filter_map(|k| {
            let Quantity::Roof { x, .. } = k.quantity else {
                return None;
            };
            Some((k, self.floor(x) + k.mm))
        });
        roofs.min_by(|a, b| a.1.total_cmp(&b.1)).map(|r| r.0)
    }

    /// How high the roof is where it is lowest, mm over the load floor's datum: what was read from the floor there, and that
    /// floor's own height.
    pub fn roof(&self) -> Option<f64> {
        let k = self.lowest_roof()?;
        match k.quantity {
            Quantity::Roof { x, .. } => Some(self.floor(x) + k.mm),
            _ => None,
        }
    }

    /// The highest roof that was measured, over the load floor.
    pub fn highest_roof(&self) -> Option<f64> {
        let roofs = self.known.values().filter_map(|k| match k.quantity {
            Quantity::Roof { x, .. } => Some(self.floor(x) + k.mm),
            _ => None,
        });
        roofs.reduce(f64::max)
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

fn wall_places(known: &BTreeMap<String, Known>, side: Side, pick: fn(f64, f64) -> f64) -> Vec<f64> {
    let mut out: Vec<f64> = known
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

fn span(known: &BTreeMap<String, Known>, bodies: &[Body], side: Side) -> Option<Span> {
    let places = || {
        let read = known.values().filter_map(|k| match k.quantity {
            Quantity::Wall { side: s, x, z } if s == side => Some((x, z)),
            Quantity::Width { x, z } => Some((x, z)),
            _ => None,
        });
        read.chain(witness::places(bodies, side))
    };
    let read = |k: &Known| matches!(k.quantity, Quantity::Wall { side: s, .. } if s == side);
    let seen = known.values().any(read) || witness::places(bodies, side).next().is_some();
    seen.then_some(())?;
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
