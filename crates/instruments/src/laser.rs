//! A laser distance meter and its link. The meter sends small messages, one JSON object each:
//!
//! ```json
//! {"device": "laser-1", "seq": 0, "kind": "hello"}
//! {"device": "laser-1", "seq": 7, "kind": "reading", "mm": 1403.0}
//! {"device": "laser-1", "seq": 8, "kind": "bye"}
//! ```
//!
//! `seq` counts up by one. A radio link loses messages and repeats them: the receiver takes every
//! number once and says how many are missing. A `hello` starts counting afresh.

use std::collections::BTreeMap;

use rand::Rng;
use serde::{Deserialize, Serialize};

use crate::tape::{Errors, stream};

/// A message of the meter.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Message {
    /// Which meter.
    pub device: String,
    /// Number of the message.
    pub seq: u64,
    /// What it says.
    pub kind: Kind,
    /// The distance of a reading, mm.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub mm: Option<f64>,
}

/// Kinds of message.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "lowercase")]
pub enum Kind {
    /// Switched on.
    Hello,
    /// A distance.
    Reading,
    /// Switched off.
    Bye,
}

/// What the receiver makes of a message.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Received {
    /// A new reading, mm, and how many messages were lost before it.
    Reading {
        /// The distance, mm.
        mm: f64,
        /// Messages lost since the last.
        lost: u64,
    },
    /// The meter was switched on or off.
    State(bool),
    /// Seen before.
    Duplicate,
    /// A distance that is none.
    Nonsense,
}

/// The receiving end: one for all meters.
#[derive(Debug, Clone, Default)]
pub struct Link {
    last: BTreeMap<String, u64>,
}

/// The most meters remembered.
const METERS: usize = 16;
/// The longest distance believed, mm.
const FAR: f64 = 30_000.0;

impl Link {
    /// Takes a message.
    pub fn take(&mut self, m: &Message) -> Received {
        let last = self.last.get(&m.device).copied();
        if m.kind != Kind::Hello && last.is_some_and(|l| m.seq <= l) {
            return Received::Duplicate;
        }
        if m.kind == Kind::Hello && last == Some(m.seq) {
            return Received::Duplicate;
        }
        if last.is_none() && self.last.len() >= METERS {
            self.last.clear();
        }
        self.last.insert(m.device.clone(), m.seq);
        match (m.kind, m.mm) {
            (Kind::Hello, _) => Received::State(true),
            (Kind::Bye, _) => Received::State(false),
            (Kind::Reading, Some(mm)) if mm.is_finite() && mm > 0.0 && mm <= FAR => {
                let lost = last.map_or(0, |l| m.seq - l - 1);
                Received::Reading { mm, lost }
            }
            (Kind::Reading, _) => Received::Nonsense,
        }
    }
}

/// A simulated meter with a poor radio.
#[derive(Debug, Clone)]
pub struct Laser {
    /// Its name.
    pub device: String,
    /// Seed of all chance.
    pub seed: u64,
    /// Chance that a message is lost.
    pub lose: f64,
    /// Chance that a message is sent twice.
    pub repeat: f64,
    seq: u64,
}

impl Laser {
    /// A meter just switched on.
    pub fn new(device: &str, seed: u64, lose: f64, repeat: f64) -> Self {
        Laser {
            device: device.into(),
            seed,
            lose,
            repeat,
            seq: 0,
        }
    }

    /// Its first message.
    pub fn hello(&self) -> Message {
        self.message(Kind::Hello, None)
    }

    fn message(&self, kind: Kind, mm: Option<f64>) -> Message {
        Message {
            device: self.device.clone(),
            seq: self.seq,
            kind,
            mm,
        }
    }

    /// The button is pressed with the meter `truth` mm from the wall: the messages that arrive. None
    /// when the radio lost it; the person presses again.
    pub fn press(&mut self, truth: f64) -> Vec<Message> {
        self.seq += 1;
        let mm = Errors::laser().read(truth, false, self.seed, self.seq);
        let mut rng = stream(self.seed ^ 0x5a5a, self.seq);
        if rng.random::<f64>() < self.lose {
            return vec![];
        }
        let message = self.message(Kind::Reading, Some(mm));
        if rng.random::<f64>() < self.repeat {
            vec![message.clone(), message]
        } else {
            vec![message]
        }
    }
}
