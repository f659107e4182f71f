//! What is bought, as a list.

use std::collections::BTreeMap;

use serde::Serialize;
use utoipa::ToSchema;

/// So many screws are bought besides, as a share (a choice).
const SPARE: f64 = 0.1;

/// A line of what is bought.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HardwareLine {
    /// What.
    pub what: String,
    /// Its size.
    pub size: String,
    /// How many are used.
    pub count: u32,
    /// How many more to buy.
    pub spare: u32,
    /// For which pieces.
    pub places: Vec<String>,
}

/// What is bought, by what it is and its size: equal things are one line.
#[derive(Debug, Default)]
pub struct Bill(BTreeMap<(bool, String, String), HardwareLine>);

impl Bill {
    /// So many more of what is not lost.
    pub fn buy(&mut self, what: &str, size: String, count: u32, place: &str) {
        self.add(false, what, size, count, place);
    }

    /// So many more screws: they are lost, and some are bought besides.
    pub fn screws(&mut self, what: &str, size: String, count: u32, place: &str) {
        self.add(true, what, size, count, place);
    }

    fn add(&mut self, lost: bool, what: &str, size: String, count: u32, place: &str) {
        let line = self
            .0
            .entry((lost, what.into(), size.clone()))
            .or_insert_with(|| HardwareLine {
                what: what.into(),
                size,
                count: 0,
                spare: 0,
                places: vec![],
            });
        line.count += count;
        if lost {
            line.spare = (f64::from(line.count) * SPARE).ceil() as u32;
        }
        if !line.places.iter().any(|p| p == place) {
            line.places.push(place.into());
        }
    }

    /// Its lines.
    pub fn lines(self) -> Vec<HardwareLine> {
        self.0.into_values().collect()
    }
}
