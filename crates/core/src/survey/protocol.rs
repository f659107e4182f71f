//! What to measure, in which order, how to hold the tape, and what it is for.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::drawing::capital;
use super::model::Model;
use super::place::{Place, place};
use crate::project::Project;
use crate::project::survey::{OpeningDim, Quantity, Side, ThingDim};
use crate::units::figure::{Figure, Writer};

/// One number to be taken.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Ask {
    /// Stage to which it belongs.
    pub stage: String,
    /// Key, stable between plans.
    pub key: String,
    /// What to measure, in a few words.
    pub prompt: String,
    /// How to hold the tape.
    pub how: String,
    /// What the number decides.
    pub why: String,
    /// What the other readings lead one to expect.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub expected: Option<Expected>,
    /// What the answer is written to.
    pub target: Target,
    /// Where to hold which end.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub place: Option<Place>,
    /// The plan waits for it; otherwise it is a refinement.
    pub needed: bool,
}

/// A value foreseen.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Expected {
    /// The value.
    pub figure: Figure,
    /// Plus or minus, mm.
    pub plus_minus: Figure,
}

/// Where an answer goes.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "to", rename_all = "snake_case")]
pub enum Target {
    /// A new reading of this quantity.
    Reading {
        /// Of what.
        quantity: Quantity,
        /// Whether one may have measured against something that gives.
        may_be_soft: bool,
    },
    /// A number of the document.
    Field {
        /// JSON Pointer.
        pointer: String,
    },
}

/// Stations are put at these shares of the length, rounded to 50 mm.
const SHARES: [f64; 4] = [0.0, 1.0 / 3.0, 2.0 / 3.0, 1.0];

/// The stations at which walls are to be measured, ascending: the usual ones and the user's own.
pub fn stations(project: &Project, model: &Model) -> Vec<f64> {
    let mut xs: Vec<f64> = project.survey.stations.values().map(|s| s.x).collect();
    if let Some(length) = model.length(0.0) {
        xs.extend(SHARES.map(|s| {
            if s == 0.0 || s == 1.0 {
                s * length
            } else {
                (s * length / 50.0).round() * 50.0
            }
        }));
    }
    xs.sort_by(f64::total_cmp);
    xs.dedup_by(|a, b| (*a - *b).abs() < 25.0);
    xs
}

/// All numbers of the survey still to be taken, the most needed first.
pub fn asks(project: &Project, model: &Model) -> Vec<Ask> {
    let p = Protocol {
        project,
        model,
        w: project.writer(),
    };
    let mut all = vec![p.length(0.0, true)];
    all.extend(
        [
            OpeningDim::WidthFloor,
            OpeningDim::WidthTop,
            OpeningDim::Height,
        ]
        .map(|d| p.opening(d)),
    );
    let xs = stations(project, model);
    let mut levels: Vec<f64> = project.survey.levels.values().map(|l| l.z).collect();
    levels.sort_by(f64::total_cmp);
    for (i, z) in levels.iter().enumerate() {
        if i == 1 {
            all.extend(p.roofs(&xs));
            all.extend(p.things());
        }
        // Away from the floor every other station will do first.
        let few = i > 0 && xs.len() > 3;
        for (j, x) in xs.iter().enumerate() {
            if few && j % 2 == 0 && j > 0 && j + 1 < xs.len() {
                continue;
            }
            all.extend(Side::BOTH.map(|side| p.wall(side, *x, *z, i)));
        }
    }
    if levels.len() < 2 {
        all.extend(p.roofs(&xs));
        all.extend(p.things());
    }
    all.extend(p.checks(&xs));
    all.retain(|a| match &a.target {
        Target::Reading { quantity, .. } => {
            model.get(quantity).is_none() && !project.survey.skipped.contains_key(&quantity.key())
        }
        Target::Field { .. } => true,
    });
    // Without a length there are no places to measure at.
    if model.length(0.0).is_none() {
        all.truncate(4);
    }
    all.sort_by_key(|a| !a.needed);
    all
}

struct Protocol<'a> {
    project: &'a Project,
    model: &'a Model,
    w: Writer,
}

impl Protocol<'_> {
    fn ask(&self, quantity: Quantity, prompt: String, how: &str, why: &str, needed: bool) -> Ask {
        Ask {
            stage: "survey".into(),
            key: quantity.key(),
            prompt,
            how: how.into(),
            why: why.into(),
            expected: None,
            place: place(self.project, self.model, &quantity),
            target: Target::Reading {
                may_be_soft: matches!(quantity, Quantity::Roof { .. } | Quantity::Wall { .. }),
                quantity,
            },
            needed,
        }
    }

    fn length(&self, z: f64, needed: bool) -> Ask {
        self.ask(
            Quantity::Length { z },
            "Length of the bay".into(),
            "From the rear threshold straight forward to the front end: bulkhead or seat back.",
            "Every other place is counted from the threshold, and the deck can be no longer.",
            needed,
        )
    }

    fn opening(&self, dim: OpeningDim) -> Ask {
        let (prompt, how) = match dim {
            OpeningDim::WidthFloor => (
                "Rear opening, width at the floor",
                "Between the narrowest edges that a board must pass, door seals included.",
            ),
            OpeningDim::WidthTop => (
                "Rear opening, width at the top",
                "The same a hand below the upper edge.",
            ),
            OpeningDim::Height => (
                "Rear opening, height",
                "From the threshold to the lowest point of the upper edge.",
            ),
        };
        self.ask(
            Quantity::Opening { dim },
            prompt.into(),
            how,
            "Decides whether a panel comes in whole or must be parted.",
            true,
        )
    }

    fn wall(&self, side: Side, x: f64, z: f64, level: usize) -> Ask {
        let up = if z > 0.5 {
            format!(", {} up", self.w.say(z))
        } else {
            String::new()
        };
        let side_word = if side == Side::Left { "Left" } else { "Right" };
        let place = if x < 0.5 {
            "at the threshold".to_string()
        } else {
            format!("{} in", self.w.say(x))
        };
        let mut ask = self.ask(
            Quantity::Wall { side, x, z },
            format!("{side_word} wall, {place}{up}"),
            "From the centre-line string straight out to the wall. Push the tape flat.",
            if level == 0 {
                "Fixes this edge of everything that stands on the floor. Never mirrored: each side is measured."
            } else {
                "Tells how the wall leans: the deck's edge is here, not at the floor."
            },
            true,
        );
        ask.expected = self.expect(side, x, z);
        ask
    }

    /// From the same wall nearby, or from the other wall, with the doubt that leaves.
    fn expect(&self, side: Side, x: f64, z: f64) -> Option<Expected> {
        let other = if side == Side::Left {
            Side::Right
        } else {
            Side::Left
        };
        let (mm, doubt) = match (self.model.wall(side, x, z), self.model.wall(other, x, z)) {
            (Some((mm, _)), _) => (mm, 25.0),
            (None, Some((mm, _))) => (mm, 40.0),
            _ => return None,
        };
        Some(Expected {
            figure: self.w.figure(mm),
            plus_minus: self.w.figure(doubt),
        })
    }

    fn roofs(&self, xs: &[f64]) -> Vec<Ask> {
        let Some(last) = xs.last() else {
            return vec![];
        };
        let inner: Vec<f64> = xs
            .iter()
            .copied()
            .filter(|x| *x > 0.5 && *x < last - 0.5)
            .collect();
        let mut asks: Vec<Ask> = inner
            .iter()
            .map(|x| {
                self.ask(
                    Quantity::Roof { x: *x },
                    format!("Floor to roof, {} in", self.w.say(*x)),
                    "On the centre line, to the frame tube if you can reach it: a lining gives.",
                    "Headroom is what is left of it.",
                    true,
                )
            })
            .collect();
        asks.extend(inner.iter().map(|x| {
            self.ask(
                Quantity::Floor { x: *x },
                format!("Floor height, {} in", self.w.say(*x)),
                "A straight edge from the threshold forward: how far the floor is above it, minus if below.",
                "Legs and frames are cut for the floor they stand on.",
                false,
            )
        }));
        asks
    }

    fn things(&self) -> Vec<Ask> {
        let mut out = Vec::new();
        for (id, t) in &self.project.survey.things {
            let from_centre = self
                .model
                .get(&Quantity::Thing {
                    id: id.clone(),
                    dim: ThingDim::Face,
                })
                .is_some();
            let rows = [
                (
                    ThingDim::Start,
                    "start",
                    "From the rear threshold to its rear face.",
                    true,
                ),
                (
                    ThingDim::Length,
                    "length",
                    "From its rear face to its front face, at the floor.",
                    true,
                ),
                (
                    ThingDim::Width,
                    "width",
                    "From the wall to its inner face: how far it stands in.",
                    !from_centre,
                ),
                (
                    ThingDim::Height,
                    "height",
                    "From the load floor to its highest point.",
                    true,
                ),
                (
                    ThingDim::Face,
                    "inner face from centre",
                    "From the centre-line string to its inner face.",
                    false,
                ),
            ];
            for (dim, word, how, needed) in rows {
                if dim == ThingDim::Width && from_centre {
                    continue;
                }
                out.push(self.ask(
                    Quantity::Thing {
                        id: id.clone(),
                        dim,
                    },
                    format!("{}, {word}", capital(&t.name)),
                    how,
                    if needed {
                        "The deck is cut out round it, or passes over it."
                    } else {
                        "Checks the width, and is the surer number for the cut-out."
                    },
                    needed,
                ));
            }
        }
        out
    }

    /// Readings that only check others.
    fn checks(&self, xs: &[f64]) -> Vec<Ask> {
        xs.iter()
            .skip(1)
            .step_by(2)
            .map(|x| {
                let mut ask = self.ask(
                    Quantity::Width { x: *x, z: 0.0 },
                    format!("Wall to wall, {} in", self.w.say(*x)),
                    "Right across at floor level, without the string.",
                    "Must be left plus right: finds a slip before it is cut in ply.",
                    false,
                );
                let walls = Side::BOTH.map(|s| self.model.wall(s, *x, 0.0));
                if let [Some(l), Some(r)] = walls {
                    ask.expected = Some(Expected {
                        figure: self.w.figure(l.0 + r.0),
                        plus_minus: self.w.figure(3.0 * (l.1.hypot(r.1)).hypot(self.model.sd)),
                    });
                }
                ask
            })
            .collect()
    }
}
