//! How each number is asked for.

use super::{Ask, Expected, Instead, Target};
use crate::project::Project;
use crate::project::survey::{Level, Quantity, REAR, ThingDim};
use crate::survey::drawing::what;
use crate::survey::model::Model;
use crate::survey::place::place;
use crate::units::figure::{Figure, Writer};

/// Everything the asks are worded from.
pub struct Words<'a> {
    /// The document.
    pub project: &'a Project,
    /// The vehicle so far.
    pub model: &'a Model,
    /// Heights at which walls are measured, ascending.
    pub levels: Vec<Level>,
    /// Writes lengths.
    pub w: Writer,
}

impl<'a> Words<'a> {
    pub fn new(project: &'a Project, model: &'a Model) -> Self {
        Words {
            project,
            model,
            levels: crate::survey::places::levels(project, model),
            w: project.writer(),
        }
    }

    /// Asks for a quantity.
    pub fn ask(&self, quantity: Quantity, needed: bool) -> Ask {
        let (how, why) = how(&quantity);
        Ask {
            stage: "survey".into(),
            key: quantity.key(),
            prompt: what(self.project, &quantity),
            how: how.into(),
            why: why.into(),
            expected: self.expected(&quantity),
            believed: self.believed(&quantity),
            place: place(self.project, self.model, &quantity),
            instead: self.instead(&quantity),
            minutes: minutes(&quantity),
            gain: None,
            again: false,
            target: Target::Reading {
                may_be_soft: matches!(quantity, Quantity::Roof { .. } | Quantity::Wall { .. }),
                quantity,
            },
            needed,
        }
    }

    /// Not answered yet, nor skipped.
    pub fn open(&self, ask: &Ask) -> bool {
        let survey = &self.project.survey;
        match &ask.target {
            Target::Reading { quantity, .. } => {
                self.model.get(quantity).is_none() && !survey.skipped.contains_key(&quantity.key())
            }
            Target::Ridge { id } => {
                !survey.stations.contains_key(id) && !survey.skipped.contains_key(&ask.key)
            }
            Target::Field { .. } => true,
        }
    }

    /// From what is known already, with the doubt that leaves; nothing if that says nothing.
    fn expected(&self, q: &Quantity) -> Option<Expected> {
        self.model.length(0.0)?;
        let (mm, sd) = self.model.adjusted(self.project, q)?;
        let doubt = 3.0 * sd.hypot(self.model.sd);
        (doubt < 150.0 && mm > 0.0).then(|| Expected {
            figure: self.w.figure(mm),
            plus_minus: self.w.figure(doubt),
        })
    }

    /// What is stored without a question: what all readings so far lead one to expect, with room for a slip
    /// in them; a vehicle's plain sense where there are none yet.
    fn believed(&self, q: &Quantity) -> Option<(Figure, Figure)> {
        /// Readings already there may be wrong by so much, mm.
        const ROOM: f64 = 12.0;
        /// So vague an expectation is none, mm.
        const VAGUE: f64 = 700.0;
        let (mm, sd) = self.model.adjusted(self.project, q)?;
        let room = 3.0 * sd.hypot(self.model.sd) + ROOM;
        (room < VAGUE).then(|| (self.w.figure(mm - room), self.w.figure(mm + room)))
    }

    /// Other measurements that settle the same number.
    fn instead(&self, q: &Quantity) -> Vec<Instead> {
        let other = match q {
            Quantity::Wall { side, x, z } => {
                let far = Quantity::Wall {
                    side: side.other(),
                    x: *x,
                    z: *z,
                };
                self.model
                    .get(&far)
                    .map(|_| Quantity::Width { x: *x, z: *z })
            }
            Quantity::Thing { id, dim, z } => {
                let dim = match dim {
                    ThingDim::Length => Some(ThingDim::End),
                    ThingDim::End => Some(ThingDim::Length),
                    ThingDim::Face => Some(ThingDim::Width),
                    ThingDim::Width => Some(ThingDim::Face),
                    _ => None,
                };
                dim.map(|dim| Quantity::Thing {
                    id: id.clone(),
                    dim,
                    z: *z,
                })
            }
            _ => None,
        };
        other
            .into_iter()
            .filter(|q| self.model.get(q).is_none())
            .map(|quantity| Instead {
                prompt: what(self.project, &quantity),
                quantity,
            })
            .collect()
    }

    /// Asks for a ridge.
    pub fn ridge(&self, id: &str, prompt: &str, how: &str, why: &str) -> Ask {
        Ask {
            stage: "survey".into(),
            key: format!("ridge.{id}"),
            prompt: prompt.into(),
            how: how.into(),
            why: why.into(),
            expected: None,
            believed: None,
            target: Target::Ridge { id: id.into() },
            place: None,
            needed: true,
            again: false,
            minutes: 1.0,
            gain: None,
            instead: vec![],
        }
    }
}

/// Minutes a reading takes (estimates): walls need the string, a repeat only the tape.
pub fn minutes(q: &Quantity) -> f64 {
    match q {
        Quantity::Wall { .. } | Quantity::Floor { .. } | Quantity::Slope { .. } => 1.0,
        Quantity::Width { .. } | Quantity::Roof { .. } => 0.8,
        Quantity::Diagonal { .. } => 1.5,
        _ => 0.7,
    }
}

/// How to hold the tape, and what the number decides.
fn how(q: &Quantity) -> (&'static str, &'static str) {
    match q {
        Quantity::Length { y, .. } if *y == 0.0 => (
            "From the rear threshold straight forward to the front end: bulkhead or seat back.",
            "Every other place is counted from the threshold, and the deck can be no longer.",
        ),
        Quantity::Length { .. } => (
            "The same beside the centre line: straight forward, beside the string.",
            "Tells whether the front end stands square. The panel's front edge follows it.",
        ),
        Quantity::Opening { dim, id, .. } => (
            match (dim, id == REAR) {
                (crate::project::survey::OpeningDim::WidthFloor, _) => {
                    "Between the narrowest edges that a board must pass, seals included."
                }
                (crate::project::survey::OpeningDim::WidthTop, _) => {
                    "The same a hand below the upper edge."
                }
                (crate::project::survey::OpeningDim::Width, _) => {
                    "Straight across at that height over the sill, seals included."
                }
                (crate::project::survey::OpeningDim::Height, _) => {
                    "From the threshold to the lowest point of the upper edge."
                }
            },
            "Decides whether a panel comes in whole or must be parted.",
        ),
        Quantity::Wall { z, .. } => (
            "From the centre-line string straight out to the wall. Push the tape flat.",
            if *z < 0.5 {
                "Fixes this edge of everything that stands on the floor. Never mirrored: each side is measured."
            } else {
                "Tells how the wall leans: the deck's edge is here, not at the floor."
            },
        ),
        Quantity::Width { .. } => (
            "Right across, without the string.",
            "Must be left plus right: finds a slip before it is cut in ply.",
        ),
        Quantity::Diagonal { .. } => (
            "From the corner of the other wall at the threshold, slantwise to this wall.",
            "Checks both walls and the centre line at once.",
        ),
        Quantity::Floor { .. } => (
            "A straight edge from the threshold forward: how far the floor is above it, minus if below.",
            "Legs and frames are cut for the floor they stand on.",
        ),
        Quantity::Roof { .. } => (
            "Straight up to the frame tube if you can reach it: a lining gives.",
            "Headroom is what is left of it.",
        ),
        Quantity::Slope { x: None } => (
            "Lay the level along the threshold's sill, forward end up is plus: millimetres in one metre.",
            "The vehicle does not stand level. This is taken off what the level says inside.",
        ),
        Quantity::Slope { .. } => (
            "Lay the level along the floor: millimetres in one metre, forward end up is plus.",
            "Tells how the floor falls against the threshold.",
        ),
        Quantity::Thing { dim, .. } => thing(*dim),
    }
}

fn thing(dim: ThingDim) -> (&'static str, &'static str) {
    const ROUND: &str = "The deck is cut out round it, or passes over it.";
    const CHECK: &str = "Checks the other two: one slip of three is found.";
    match dim {
        ThingDim::Start => ("From the rear threshold to its rear face.", ROUND),
        ThingDim::Length => ("From its rear face to its front face, at the floor.", ROUND),
        ThingDim::End => ("From the rear threshold to its front face.", CHECK),
        ThingDim::Width => (
            "From the wall over its top to the plumb of its inner face.",
            "Checks the face, and is a second way to the cut-out.",
        ),
        ThingDim::Face => ("From the centre-line string to its inner face.", ROUND),
        ThingDim::FaceStart => (
            "From the rear threshold to where its inner face begins, past the bevel or curve.",
            ROUND,
        ),
        ThingDim::FaceEnd => (
            "From the rear threshold to where its inner face ends, before the bevel or curve.",
            ROUND,
        ),
        ThingDim::Shoulder => (
            "From the centre-line string to where the bevel or curve of its ends begins: the nearer end.",
            ROUND,
        ),
        ThingDim::Far => ("From the centre-line string to its outer face.", ROUND),
        ThingDim::Height => ("From the load floor to its highest point.", ROUND),
        ThingDim::Bottom => ("From the load floor to its underside.", ROUND),
    }
}
