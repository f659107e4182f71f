//! Readings of the same thing put together.

use std::collections::BTreeMap;

use crate::project::Project;
use crate::project::survey::{Quantity, Reading};
use crate::units::tape;

/// A lining gives: its reading is worth this much less, mm (a choice).
pub const SOFT_SD: f64 = 3.0;

/// A quantity as known from its readings.
#[derive(Debug, Clone, PartialEq)]
pub struct Known {
    /// Of what.
    pub quantity: Quantity,
    /// Weighted mean, mm.
    pub mm: f64,
    /// Its standard deviation, mm.
    pub sd: f64,
    /// The readings it comes from.
    pub readings: Vec<String>,
    /// All of them were taken against something that gives, such as a lining.
    pub soft: bool,
    /// Largest less smallest reading, mm.
    pub spread: f64,
}

/// A single reading in millimetres with its noise.
pub fn value(project: &Project, r: &Reading) -> Option<(f64, f64)> {
    let mm = tape::parse(&r.typed, r.unit).ok()?;
    let sd = r.sd.unwrap_or(project.survey.sd);
    Some((mm, if r.soft { sd.hypot(SOFT_SD) } else { sd }))
}

/// Every quantity that has a reading, by key.
pub fn combine(project: &Project) -> BTreeMap<String, Known> {
    let mut groups: BTreeMap<String, Vec<(&String, &Reading, f64, f64)>> = BTreeMap::new();
    for (id, r) in project.survey.readings.iter().filter(|(_, r)| !r.aside) {
        if let Some((mm, sd)) = value(project, r) {
            let (mm, sd) = super::observe::from_datum(project, r, mm, sd);
            let group = groups.entry(r.quantity.key()).or_default();
            group.push((id, r, mm, sd));
        }
    }
    let mut all = BTreeMap::new();
    for (key, group) in groups {
        let values: Vec<_> = group.iter().map(|(_, _, mm, sd)| (*mm, *sd)).collect();
        let Some((mm, sd)) = mean(&values) else {
            continue;
        };
        let lowest = values.iter().map(|v| v.0).fold(f64::INFINITY, f64::min);
        let highest = values.iter().map(|v| v.0).fold(f64::NEG_INFINITY, f64::max);
        let known = Known {
            quantity: group[0].1.quantity.clone(),
            mm,
            sd,
            readings: group.iter().map(|(id, ..)| (*id).clone()).collect(),
            soft: group.iter().all(|(_, r, ..)| r.soft),
            spread: highest - lowest,
        };
        all.insert(key, known);
    }
    all
}

/// Mean weighted by 1/sd^2, and its standard deviation.
fn mean(values: &[(f64, f64)]) -> Option<(f64, f64)> {
    let weight: f64 = values.iter().map(|(_, sd)| sd.powi(-2)).sum();
    (weight > 0.0).then(|| {
        let sum: f64 = values.iter().map(|(v, sd)| v * sd.powi(-2)).sum();
        (sum / weight, weight.powf(-0.5))
    })
}
