//! A person with a tape in a virtual vehicle, doing what the program asks.

use std::collections::{BTreeMap, BTreeSet};

use jigfit_core::project::survey::{
    Instrument, OpeningDim, Quantity, REAR, Reading, Side, Thing, ThingDim, Thoroughness,
};
use jigfit_core::project::{Project, Units};
use jigfit_core::protocol::{Ask, Target, asks};
use jigfit_core::survey::model::Model;
use jigfit_core::units::Unit;
use jigfit_core::units::print::nearest_inch;
use rand::Rng;

use crate::person;
use crate::person::Corners;
use crate::tape::{Errors, SIXTEENTH, stream};
use crate::vehicle::{Body, Vehicle};

/// How a survey is taken.
#[derive(Debug, Clone)]
pub struct Walk {
    /// How the tape errs.
    pub errors: Errors,
    /// Slips, and their size in mm.
    pub blunders: usize,
    /// Size of a slip, mm.
    pub blunder_mm: f64,
    /// Seed of all chance.
    pub seed: u64,
    /// Quick or full.
    pub protocol: Thoroughness,
    /// What is in the person's hand.
    pub instrument: Instrument,
    /// Heights at which panels are wanted, mm; the usual ones if empty.
    pub heights: Vec<f64>,
}

/// A survey taken, and which readings were slips.
#[derive(Debug, Clone)]
pub struct Taken {
    /// The project.
    pub project: Project,
    /// Identifiers of the slips.
    pub blunders: Vec<String>,
}

/// After this many readings the person stops looking for improvements; what disagrees is still read
/// again, up to the second number.
const ENOUGH: [usize; 2] = [96, 100];
const ENOUGH_QUICK: [usize; 2] = [50, 52];
/// Readings taken before looking at the list again; improvements count twice.
const ROUND: usize = 8;

/// Takes the survey.
pub fn survey(v: &Vehicle, walk: &Walk) -> Taken {
    if walk.blunders == 0 {
        return take(v, walk, &[]);
    }
    // A survey without slips tells how many readings there will be to choose from.
    let n = take(v, walk, &[]).project.survey.readings.len();
    let mut rng = stream(walk.seed, u64::MAX);
    let mut slips: Vec<(usize, f64)> = Vec::new();
    while slips.len() < walk.blunders.min(n) {
        let i = rng.random_range(0..n);
        let sign = if rng.random::<bool>() { 1.0 } else { -1.0 };
        if !slips.iter().any(|s| s.0 == i) {
            slips.push((i, sign * walk.blunder_mm));
        }
    }
    take(v, walk, &slips)
}

fn take(v: &Vehicle, walk: &Walk, slips: &[(usize, f64)]) -> Taken {
    let mut session = Session {
        v,
        walk,
        slips,
        project: start(v, walk),
        blunders: vec![],
        hopeless: BTreeSet::new(),
    };
    let [enough, most] = match walk.protocol {
        Thoroughness::Full => ENOUGH,
        Thoroughness::Quick => ENOUGH_QUICK,
    };
    for _ in 0..200 {
        let model = Model::new(&session.project);
        let (all, _) = asks(&session.project, &model);
        let mut round = 0;
        let mut done = 0;
        let open: Vec<&Ask> = all
            .iter()
            .filter(|a| a.needed && !session.hopeless.contains(&a.key))
            .collect();
        for ask in open {
            let count = session.project.survey.readings.len();
            let disagrees = ask.again && ask.key.starts_with("again.");
            if count >= most || (count >= enough && !disagrees) {
                break;
            }
            session.answer(ask);
            done += 1;
            // What is asked next depends on what was read before, most of all what is asked for
            // its worth.
            round += if ask.gain.is_some() { 2 } else { 1 };
            if round >= ROUND {
                break;
            }
        }
        if done == 0 {
            break;
        }
    }
    Taken {
        project: session.project,
        blunders: session.blunders,
    }
}

/// How high up the person looks.
fn up_to(walk: &Walk) -> f64 {
    walk.heights.iter().copied().fold(person::UP_TO, f64::max)
}

/// A new project with what the person sees before measuring.
fn start(v: &Vehicle, walk: &Walk) -> Project {
    let mut p = Project::start(&v.name, v.kind, Units::default());
    let sd = (walk.errors.sd() * 100.0).round() / 100.0;
    // What is to be built is not known yet.
    p.modules.clear();
    p.survey.sd = sd.clamp(0.2, 20.0);
    p.survey.protocol = walk.protocol;
    p.survey.things = person::things(v).into_iter().collect();
    for (i, s) in person::stations(v, up_to(walk)).into_iter().enumerate() {
        p.survey.stations.insert(format!("ridge{i}"), s);
    }
    let top = v.sections.last().map_or(0.0, |s| s.z);
    p.survey.levels.retain(|_, l| l.z <= top.max(50.0));
    p.survey.heights.clone_from(&walk.heights);
    for (i, l) in person::levels(v, up_to(walk)).into_iter().enumerate() {
        // A usual level gives way to a crease close by, but not the highest: what is wanted up there has
        // to be read up there.
        let highest = p.survey.levels.values().map(|l| l.z).fold(0.0, f64::max);
        p.survey.levels.retain(|_, o| {
            let near = if o.z == highest { 25.0 } else { 60.0 };
            o.ridge || (o.z - l.z).abs() > near
        });
        p.survey.levels.insert(format!("crease{i}"), l);
    }
    p
}

struct Session<'a> {
    v: &'a Vehicle,
    walk: &'a Walk,
    slips: &'a [(usize, f64)],
    project: Project,
    blunders: Vec<String>,
    hopeless: BTreeSet<String>,
}

impl Session<'_> {
    fn answer(&mut self, ask: &Ask) {
        match &ask.target {
            Target::Reading { quantity, .. } => {
                let q = quantity.clone();
                if !self.read(&q, ask.again) {
                    let why = "cannot be reached".to_string();
                    self.project.survey.skipped.insert(ask.key.clone(), why);
                    self.hopeless.insert(ask.key.clone());
                }
            }
            // Ridges were marked at the start: a nose is one of them.
            _ => {
                self.project
                    .survey
                    .skipped
                    .insert(ask.key.clone(), "marked as a ridge already".into());
                self.hopeless.insert(ask.key.clone());
            }
        }
    }

    /// Takes a reading; false if the tape cannot be laid there.
    fn read(&mut self, q: &Quantity, again: bool) -> bool {
        let Some(truth) = self.truth(q) else {
            return false;
        };
        let n = self.project.survey.readings.len();
        let pushed = matches!(q, Quantity::Wall { .. } | Quantity::Length { .. });
        let mut says = self
            .walk
            .errors
            .read(truth, pushed, self.walk.seed, n as u64);
        let id = format!("r{:03}", n + 1);
        if let Some((_, slip)) = self.slips.iter().find(|s| s.0 == n) {
            says += slip;
            self.blunders.push(id.clone());
        }
        let signed = matches!(
            q,
            Quantity::Floor { .. }
                | Quantity::Slope { .. }
                | Quantity::Thing {
                    dim: ThingDim::Face | ThingDim::Far | ThingDim::Shoulder,
                    ..
                }
        );
        if !signed {
            says = says.max(0.0);
        }
        // An inch tape says sixteenths, as one types them.
        let (typed, unit) = if self.walk.errors.step == SIXTEENTH {
            (nearest_inch(says, 16).0, Unit::In)
        } else {
            (format!("{says:.1}"), Unit::Mm)
        };
        self.project.survey.readings.insert(
            id,
            Reading {
                quantity: q.clone(),
                typed,
                unit,
                when: String::new(),
                instrument: self.walk.instrument,
                soft: false,
                datum: None,
                sd: None,
                aside: false,
                note: if again {
                    "read again".into()
                } else {
                    String::new()
                },
            },
        );
        true
    }

    fn truth(&self, q: &Quantity) -> Option<f64> {
        Truth {
            v: self.v,
            things: &self.project.survey.things,
        }
        .of(q)
    }
}

/// What is true of a quantity in a vehicle.
pub struct Truth<'a> {
    /// The vehicle.
    pub v: &'a Vehicle,
    /// Things as the person named them.
    pub things: &'a BTreeMap<String, Thing>,
}

impl Truth<'_> {
    /// The true value, mm; `None` if the tape cannot be laid there.
    pub fn of(&self, q: &Quantity) -> Option<f64> {
        let v = self.v;
        match q {
            Quantity::Length { z, y } => {
                let far = v.front(*y, *z)?;
                let free = v
                    .blocked([1.0, *y], [1.0, 0.0], *z)
                    .map_or(far, |b| b + 1.0);
                (free >= far - 0.5).then_some(far)
            }
            Quantity::Wall { side, x, z } => self.wall(*side, *x, *z),
            Quantity::Width { x, z } => {
                Some(self.wall(Side::Left, *x, *z)? + self.wall(Side::Right, *x, *z)?)
            }
            Quantity::Diagonal { side, x, z } => {
                let (far, near) = (self.wall(*side, *x, *z)?, self.wall(side.other(), 1.0, *z)?);
                Some((far + near).hypot(*x))
            }
            Quantity::Floor { .. } => Some(0.0),
            Quantity::Roof { x, y } => v.roof(*x, *y),
            Quantity::Slope { .. } => Some(0.0),
            Quantity::Thing { id, dim, z } => self.thing(id, *dim, *z),
            Quantity::Opening { dim, id, z } if id == REAR => self.opening(*dim, *z),
            Quantity::Opening { .. } => None,
        }
    }

    fn wall(&self, side: Side, x: f64, z: f64) -> Option<f64> {
        // On the very threshold the tape lies just inside.
        let x = x.max(0.5);
        let wall = self.v.wall(side, x, z)?;
        let way = [0.0, side.sign()];
        let free = self.v.blocked([x, 0.0], way, z).unwrap_or(wall);
        (free >= wall - 0.5).then_some(wall)
    }

    fn opening(&self, dim: OpeningDim, z: Option<f64>) -> Option<f64> {
        let o = self
            .v
            .openings
            .iter()
            .find(|o| o.plane.axis == "x" && o.plane.at.abs() < 1.0)?;
        let top = o.outline.iter().map(|p| p[1]).fold(0.0, f64::max);
        let width = |z: f64| -> Option<f64> {
            let n = o.outline.len();
            let ys: Vec<f64> = (0..n)
                .filter_map(|i| {
                    let (a, b) = (o.outline[i], o.outline[(i + 1) % n]);
                    let t = (z - a[1]) / (b[1] - a[1]);
                    ((a[1] - z) * (b[1] - z) <= 0.0 && t.is_finite())
                        .then(|| a[0] + t * (b[0] - a[0]))
                })
                .collect();
            let lo = ys.iter().copied().reduce(f64::min)?;
            Some(ys.iter().copied().fold(f64::NEG_INFINITY, f64::max) - lo)
        };
        match dim {
            OpeningDim::WidthFloor => width(1.0),
            OpeningDim::WidthTop => width(top - 80.0),
            OpeningDim::Height => Some(top),
            OpeningDim::Width => width(z?),
        }
    }

    fn thing(&self, id: &str, dim: ThingDim, z: Option<f64>) -> Option<f64> {
        let i: usize = id.strip_prefix('t')?.parse().ok()?;
        let b: &Body = self.v.obstacles.get(i)?;
        let side = self.things.get(id)?.side;
        let (foot, top) = (b.sections.first()?.z, b.sections.last()?.z);
        let z = z.unwrap_or(foot).clamp(foot, top);
        let ring = b.outline(z).outer;
        let least = |f: &dyn Fn(&[f64; 2]) -> f64| ring.iter().map(f).fold(f64::INFINITY, f64::min);
        let start = least(&|p| p[0]);
        let end = -least(&|p| -p[0]);
        let face = least(&|p| p[1] * side.sign());
        let corners = Corners::of(&ring, side);
        Some(match dim {
            ThingDim::FaceStart => corners.inner.0,
            ThingDim::FaceEnd => corners.inner.1,
            ThingDim::Shoulder => corners.out[1],
            ThingDim::Start => start.max(0.0),
            ThingDim::End => end,
            ThingDim::Length => end - start.max(0.0),
            ThingDim::Face => face,
            ThingDim::Far => -least(&|p| -p[1] * side.sign()),
            ThingDim::Height => top,
            ThingDim::Bottom => foot,
            ThingDim::Width => self.v.wall(side, (start + end) / 2.0, top)? - face,
        })
    }
}
