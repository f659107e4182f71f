//! What the vehicle is set up for: driving, the day, the night, and how far everything that moves is open then.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A state of the vehicle.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct State {
    /// What it is called.
    pub name: String,
    /// Its place in the course of an evening.
    #[serde(default)]
    pub order: u32,
    /// How far what moves is open, by `module/body`: 0 shut, 1 all the way. What is not named is shut.
    #[serde(default)]
    pub open: BTreeMap<String, f64>,
}

impl State {
    /// How far a body is open, 0 to 1.
    pub fn open(&self, body: &str) -> f64 {
        self.open.get(body).copied().unwrap_or(0.0)
    }
}

/// The first state: the vehicle on the road.
pub const DRIVE: &str = "drive";

/// Driving, day and night, everything shut.
pub fn usual() -> BTreeMap<String, State> {
    [(DRIVE, "drive"), ("day", "day"), ("night", "night")]
        .into_iter()
        .zip(1..)
        .map(|((id, name), order)| {
            let state = State {
                name: name.into(),
                order,
                open: BTreeMap::new(),
            };
            (id.to_string(), state)
        })
        .collect()
}

/// In the order of an evening.
pub fn in_order(states: &BTreeMap<String, State>) -> Vec<(&String, &State)> {
    let mut all: Vec<_> = states.iter().collect();
    all.sort_by_key(|(id, s)| (s.order, (*id).clone()));
    all
}

/// The state in which people sleep: the night, or the road where there is none.
pub fn asleep(states: &BTreeMap<String, State>) -> &'static str {
    const NIGHT: &str = "night";
    if states.contains_key(NIGHT) {
        NIGHT
    } else {
        DRIVE
    }
}
