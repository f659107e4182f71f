//! The evening: from driving to the day to the night, one step after the other. Which body moves when is worked
//! out so that nothing is in its way, as far as that can be; where it cannot, the step says what it meets.

use std::collections::BTreeMap;

use serde::Serialize;
use utoipa::ToSchema;

use crate::boards::BoardView;
use crate::furniture::built::{Body, Built, Motion};
use crate::furniture::riding::Bodies;
use crate::motion::{Stop, follow};
use crate::project::Project;
use crate::project::states::{State, in_order};
use crate::projection::{Shape, shapes};
use crate::solids::Solid;
use crate::survey::model::Model;
use crate::weight::of_body;

/// Seconds that a person takes to pull a drawer, and to lift a lid and set its stay (choices).
const PULL: u32 = 5;
const LIFT: u32 = 8;
/// More than this is lifted by two, kg (from memory: a usual figure of manual-handling guidance for lifting close
/// to the body).
const ALONE: f64 = 25.0;
/// Positions closer than this are one.
const SAME: f64 = 1e-6;

/// All states and the moves between them.
#[derive(Debug, Clone, Default, PartialEq, Serialize, ToSchema)]
pub struct Evening {
    /// In the order of an evening.
    pub states: Vec<StateView>,
    /// From each to the next.
    pub moves: Vec<Move>,
}

/// A state as it is shown.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct StateView {
    /// Identifier.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// How far each body is open.
    pub bodies: Vec<BodyState>,
    /// What lies elsewhere than in the first state.
    pub scene: Scene,
}

/// How far a body is open in a state.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BodyState {
    /// `module/body`.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// Its module.
    pub module: String,
    /// 0 shut, 1 all the way.
    pub open: f64,
    /// How far it would be opened in use.
    pub usual: f64,
    /// In words: `shut`, `open to 85°`, `out 520 mm`.
    pub words: String,
    /// In the same words: shut, and opened as in use.
    pub ends: [String; 2],
}

/// From one state to the next.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Move {
    /// State.
    pub from: String,
    /// State.
    pub to: String,
    /// One after the other.
    pub steps: Vec<MoveStep>,
    /// How many people it takes.
    pub persons: u32,
    /// How long it takes.
    pub seconds: u32,
}

/// One thing that is moved.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct MoveStep {
    /// `module/body`.
    pub body: String,
    /// Its module.
    pub module: String,
    /// What is done: `open the rug box, lid to 85°`.
    pub words: String,
    /// How many people it takes.
    pub persons: u32,
    /// How long it takes.
    pub seconds: u32,
    /// What it meets on its way, if anything: `the deck (D2) at 12°`.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub meets: Option<String>,
    /// How things lie after it.
    pub scene: Scene,
}

/// Boards that lie elsewhere than where everything is shut, in the three views.
#[derive(Debug, Clone, Default, PartialEq, Serialize, ToSchema)]
pub struct Scene {
    /// In plan.
    pub above: Vec<Shape>,
    /// From the side.
    pub side: Vec<Shape>,
    /// From behind.
    pub behind: Vec<Shape>,
}

/// What moves, with its boards where they lie shut.
struct Moving<'a> {
    module: &'a str,
    body: &'a Body,
    boards: Vec<&'a BoardView>,
    mass: f64,
}

/// How far each body is open, by identifier; what is not named is shut.
type Positions = BTreeMap<String, f64>;

struct Course<'a> {
    project: &'a Project,
    model: &'a Model,
    bodies: Bodies<'a>,
    moving: Vec<Moving<'a>>,
    fixed: Vec<Solid<'a>>,
}

/// Works out the evening.
pub fn evening(
    project: &Project,
    model: &Model,
    built: &BTreeMap<String, Built>,
    boards: &[BoardView],
) -> Evening {
    let bodies = built
        .iter()
        .flat_map(|(m, b)| b.bodies.iter().map(move |body| (m.as_str(), body)));
    let all = Bodies::new(built.values().flat_map(|b| &b.bodies));
    let moving: Vec<Moving> = bodies
        .map(|(module, body)| Moving {
            module,
            body,
            boards: boards.iter().filter(|b| b.body == body.id).collect(),
            mass: of_body(boards, &all, &body.id).map_or(0.0, |c| c.mass),
        })
        .collect();
    let fixed = boards
        .iter()
        .filter(|b| moving.iter().all(|m| m.body.id != b.body))
        .map(|b| Solid::at(b, b.shut))
        .collect();
    let course = Course {
        project,
        model,
        bodies: all,
        moving,
        fixed,
    };
    let states = in_order(&project.states);
    Evening {
        states: states.iter().map(|(id, s)| course.state(id, s)).collect(),
        moves: states
            .windows(2)
            .map(|w| course.between((w[0].0, w[0].1), (w[1].0, w[1].1)))
            .collect(),
    }
}

impl<'a> Course<'a> {
    fn positions(&self, state: &State) -> Positions {
        let all = self.moving.iter();
        all.map(|m| (m.body.id.clone(), state.open(&m.body.id)))
            .collect()
    }

    fn state(&self, id: &str, state: &State) -> StateView {
        let bodies = self.moving.iter().map(|m| BodyState {
            id: m.body.id.clone(),
            name: m.body.name.clone(),
            module: m.module.into(),
            open: state.open(&m.body.id),
            usual: m.body.motion.usual(),
            words: self.how_far(m.body, state.open(&m.body.id)),
            ends: [0.0, m.body.motion.usual()].map(|share| self.how_far(m.body, share)),
        });
        StateView {
            id: id.into(),
            name: state.name.clone(),
            bodies: bodies.collect(),
            scene: self.scene(&self.positions(state)),
        }
    }

    /// `shut`, `open to 85°`, `out 520 mm`.
    fn how_far(&self, body: &Body, share: f64) -> String {
        let by = share * body.motion.whole();
        match body.motion {
            _ if share < SAME && body.change.is_some() => "in its place".into(),
            _ if share < SAME => "shut".into(),
            motion => match (&body.change, motion) {
                (Some(change), _) => change.moved.clone(),
                (None, motion) if motion.lifts_out() => "lifted out".into(),
                (None, Motion::Turn { .. }) => format!("open to {by:.0}°"),
                (None, Motion::Slide { .. } | Motion::Over { .. }) => {
                    format!("out {}", self.project.writer().say(by))
                }
            },
        }
    }

    /// What the body meets on its way from one opening to another, everything else as `now`.
    fn meets(&self, m: &Moving<'a>, now: &Positions, to: f64) -> Option<Stop> {
        let of = |id: &str| now.get(id).copied().unwrap_or(0.0);
        let carriers = self.bodies.carriers(&m.body.id, &of);
        let (mut own, mut others) = (Vec::new(), Vec::new());
        for o in &self.moving {
            let with = self.bodies.goes_with(&o.body.id, &m.body.id);
            for b in &o.boards {
                if with {
                    let inside = self.bodies.lies_in(&o.body.id, &m.body.id, b.shut, &of);
                    own.push(Solid::at(b, carriers.pose(inside)));
                } else {
                    let pose = self.bodies.lies(&o.body.id, b.shut, &of);
                    others.push(Solid::at(b, pose));
                }
            }
        }
        let rest: Vec<&Solid> = self.fixed.iter().chain(&others).collect();
        let motion = carriers.motion(m.body.motion);
        let whole = motion.whole();
        let range = (of(&m.body.id) * whole, to * whole);
        let past = m.body.past_front();
        follow(
            (self.project, self.model, past),
            &motion,
            (&own, &rest),
            range,
        )
    }

    fn scene(&self, now: &Positions) -> Scene {
        let open = |id: &str| now.get(id).copied().unwrap_or(0.0);
        let away = |m: &&Moving| {
            self.bodies
                .chain(&m.body.id)
                .iter()
                .any(|b| open(&b.id) > SAME)
        };
        let moved = self.moving.iter().filter(away).flat_map(|m| {
            let own = m.boards.iter();
            own.map(|b| (*b, self.bodies.lies(&m.body.id, b.shut, &open)))
        });
        let [above, side, behind] = shapes(&moved.collect::<Vec<_>>());
        Scene {
            above,
            side,
            behind,
        }
    }

    fn between(&self, (from, a): (&str, &State), (to, b): (&str, &State)) -> Move {
        let mut now = self.positions(a);
        let then = self.positions(b);
        let differ = |now: &Positions, id: &str| {
            (now.get(id).copied().unwrap_or(0.0) - then.get(id).copied().unwrap_or(0.0)).abs()
                > SAME
        };
        let mut left: Vec<&Moving> = self
            .moving
            .iter()
            .filter(|m| differ(&now, &m.body.id))
            .collect();
        // What closes makes room for what opens.
        left.sort_by_key(|m| then.get(&m.body.id) > now.get(&m.body.id));
        let mut steps = Vec::new();
        while !left.is_empty() {
            // The first that nothing is in the way of; if there is none, the first, and it says so.
            let to = |m: &Moving| then.get(&m.body.id).copied().unwrap_or(0.0);
            let free = left
                .iter()
                .position(|m| self.meets(m, &now, to(m)).is_none());
            let m = left.remove(free.unwrap_or(0));
            let stop = match free {
                Some(_) => None,
                None => self.meets(m, &now, to(m)),
            };
            now.insert(m.body.id.clone(), to(m));
            steps.push(self.step(m, to(m), stop, &now));
        }
        Move {
            from: from.into(),
            to: to.into(),
            persons: steps.iter().map(|s| s.persons).max().unwrap_or(0),
            seconds: steps.iter().map(|s| s.seconds).sum(),
            steps,
        }
    }

    fn step(&self, m: &Moving, to: f64, stop: Option<Stop>, now: &Positions) -> MoveStep {
        let w = self.project.writer();
        let (far, name) = (self.how_far(m.body, to), &m.body.name);
        let (words, seconds) = match m.body.motion {
            _ if m.body.change.is_some() => m.body.change.as_ref().map_or_else(
                || (String::new(), 0),
                |c| {
                    let words = &c.words[usize::from(to < SAME)];
                    let stays = match c.stays.as_str() {
                        "" => String::new(),
                        stays => format!("; {stays} may stay"),
                    };
                    (format!("{}, then {words}{stays}", c.first), c.seconds)
                },
            ),
            motion if motion.lifts_out() && to < SAME => (format!("{name}: laid back in"), LIFT),
            Motion::Turn { .. } if to < SAME => (format!("shut the {name}"), LIFT),
            Motion::Turn { .. } => (format!("{name}: {far}"), LIFT),
            Motion::Slide { .. } | Motion::Over { .. } if to < SAME => {
                (format!("push the {name} in"), PULL)
            }
            Motion::Slide { .. } | Motion::Over { .. } => (format!("{name}: {far}"), PULL),
        };
        let meets = stop.map(|s| match m.body.motion {
            Motion::Turn { .. } => format!("{} at {:.0}°", s.what, s.by),
            Motion::Slide { .. } | Motion::Over { .. } => {
                format!("{} at {}", s.what, w.say(s.by))
            }
        });
        MoveStep {
            body: m.body.id.clone(),
            module: m.module.into(),
            words,
            // A drawer is pulled, not lifted.
            persons: if m.body.motion.is_lifted() && m.mass > ALONE {
                2
            } else {
                1
            },
            seconds,
            meets,
            scene: self.scene(now),
        }
    }
}
