//! Readings of the same thing put together, and the ones that disagree.

use std::collections::BTreeMap;

use crate::project::Project;
use crate::project::survey::{Quantity, Reading};
use crate::units::tape;

/// A lining gives: its reading is worth this much less, mm (a choice).
pub const SOFT_SD: f64 = 3.0;
/// A reading further than this many of its standard deviations from the others disagrees.
pub const LIMIT: f64 = 3.0;

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
    /// All of them were taken against something that gives.
    pub soft: bool,
    /// Largest less smallest reading, mm.
    pub spread: f64,
}

/// A reading that the others contradict.
#[derive(Debug, Clone, PartialEq)]
pub struct Disagreement {
    /// The reading.
    pub reading: String,
    /// What it says, mm.
    pub says: f64,
    /// What the others say, mm.
    pub others: f64,
    /// Its standard deviation.
    pub sd: f64,
    /// The quantity.
    pub quantity: Quantity,
}

/// A single reading in millimetres with its noise.
pub fn value(project: &Project, r: &Reading) -> Option<(f64, f64)> {
    let mm = tape::parse(&r.typed, r.unit).ok()?;
    let sd = r.sd.unwrap_or(project.survey.sd);
    Some((mm, if r.soft { sd.hypot(SOFT_SD) } else { sd }))
}

/// Every quantity that has a reading, by key, and the readings that disagree with their fellows.
pub fn combine(project: &Project) -> (BTreeMap<String, Known>, Vec<Disagreement>) {
    let mut groups: BTreeMap<String, Vec<(&String, &Reading, f64, f64)>> = BTreeMap::new();
    for (id, r) in project.survey.readings.iter().filter(|(_, r)| !r.aside) {
        if let Some((mm, sd)) = value(project, r) {
            groups
                .entry(r.quantity.key())
                .or_default()
                .push((id, r, mm, sd));
        }
    }
    let mut all = BTreeMap::new();
    let mut disagree = Vec::new();
    for (key, group) in groups {
        for (i, (id, r, mm, sd)) in group.iter().enumerate() {
            let others: Vec<_> = group
                .iter()
                .enumerate()
                .filter(|(j, _)| *j != i)
                .map(|(_, (_, _, mm, sd))| (*mm, *sd))
                .collect();
            if let Some((mean, _)) = mean(&others)
                && (mm - mean).abs() > LIMIT * sd
            {
                disagree.push(Disagreement {
                    reading: (*id).clone(),
                    says: *mm,
                    others: mean,
                    sd: *sd,
                    quantity: r.quantity.clone(),
                });
            }
        }
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
    (all, disagree)
}

/// Mean weighted by 1/sd^2, and its standard deviation.
fn mean(values: &[(f64, f64)]) -> Option<(f64, f64)> {
    let weight: f64 = values.iter().map(|(_, sd)| sd.powi(-2)).sum();
    (weight > 0.0).then(|| {
        let sum: f64 = values.iter().map(|(v, sd)| v * sd.powi(-2)).sum();
        (sum / weight, weight.powf(-0.5))
    })
}
