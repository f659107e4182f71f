//! Prints how well surveys of the virtual vehicles do: `make bench-survey`. Arguments: surveys per
//! vehicle, folder of vehicles.
#![allow(missing_docs)]

use std::path::PathBuf;
use std::time::Instant;

use jigfit_core::plan::solve;
use jigfit_core::project::survey::{Instrument, Thoroughness};
use jigfit_core::protocol::{Target, asks};
use jigfit_core::survey::model::Model;
use jigfit_core::template::fill::fill;
use jigfit_instruments::accuracy::{Fit, with_deck};
use jigfit_instruments::simulate::{Taken, Walk, survey};
use jigfit_instruments::tape::Errors;
use jigfit_instruments::vehicle::Vehicle;

const HEIGHTS: [f64; 3] = [200.0, 320.0, 450.0];
const CLEARANCE: f64 = 3.0;
/// A panel up high is looked at where there are walls: this far below their end.
const HIGH: f64 = 900.0;

fn walk(seed: u64, protocol: Thoroughness, blunders: usize, mm: f64, heights: &[f64]) -> Walk {
    Walk {
        errors: Errors::noise(1.0),
        blunders,
        blunder_mm: mm,
        seed,
        protocol,
        instrument: Instrument::Tape,
        heights: heights.to_vec(),
    }
}

#[derive(Default)]
struct Sum {
    readings: f64,
    within: f64,
    too_big: f64,
    least: f64,
    n: f64,
}

impl Sum {
    fn add(&mut self, fit: &Fit, mm: f64, readings: usize) {
        let within = fit.within(mm);
        self.within += within;
        self.least = if self.n == 0.0 {
            within
        } else {
            self.least.min(within)
        };
        self.too_big += fit.too_big(2.0);
        self.readings += readings as f64;
        self.n += 1.0;
    }

    fn columns(&self) -> String {
        let n = self.n.max(1.0);
        format!(
            "{:5.1} {:6.1} {:6.1} {:6.2}",
            self.readings / n,
            100.0 * self.within / n,
            100.0 * self.least,
            100.0 * self.too_big / n
        )
    }
}

/// The calculator's panel.
fn panels(v: &Vehicle, surveys: &[Taken], heights: &[f64], mm: f64) -> Sum {
    let mut s = Sum::default();
    for t in surveys {
        let model = Model::new(&t.project);
        for z in heights {
            if let Some(f) = fill(&model, *z, CLEARANCE) {
                let fit = Fit::of(v, &f.panels, *z, CLEARANCE);
                s.add(&fit, mm, t.project.survey.readings.len());
            }
        }
    }
    s
}

/// The boards that are cut: share of the edge more than 2 mm too big against the truth less their own
/// clearance, percent, and decks that enter the true wall by more than 0.5 mm.
fn decks(v: &Vehicle, surveys: &[Taken]) -> (f64, usize, usize) {
    let (mut big, mut enter, mut n) = (0.0, 0, 0);
    for t in surveys {
        for z in HEIGHTS {
            for d in solve(&with_deck(&t.project, z)).decks {
                let faces = (z, z + d.thickness.value);
                big += Fit::of_board(v, &d.panels, faces, d.clearance.total.value).too_big(2.0);
                enter += usize::from(Fit::of_board(v, &d.panels, faces, 0.0).too_big(0.5) > 0.0);
                n += 1;
            }
        }
    }
    (100.0 * big / n.max(1) as f64, enter, n)
}

fn suspects(t: &Taken) -> Vec<String> {
    let model = Model::new(&t.project);
    model
        .judged
        .blunders
        .iter()
        .map(|b| b.reading.clone())
        .collect()
}

/// The slip is named, or its quantity is asked for again.
fn noticed(t: &Taken) -> bool {
    let model = Model::new(&t.project);
    let again = asks(&t.project, &model).0;
    t.blunders.iter().all(|id| {
        let named =
            |b: &jigfit_core::survey::blunder::Blunder| b.reading == *id || b.alike.contains(id);
        let q = t.project.survey.readings.get(id).map(|r| &r.quantity);
        let asked = again
            .iter()
            .filter(|a| a.again && a.needed)
            .any(|a| matches!(&a.target, Target::Reading { quantity, .. } if Some(quantity) == q));
        model.judged.blunders.iter().any(named)
            || model.judged.surprises.iter().any(|s| s.reading == *id)
            || asked
    })
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut args = std::env::args().skip(1);
    let n: u64 = args.next().and_then(|a| a.parse().ok()).unwrap_or(20);
    let dir = args.next().map_or_else(
        || PathBuf::from(concat!(env!("CARGO_MANIFEST_DIR"), "/vehicles")),
        PathBuf::from,
    );
    let mut files = std::fs::read_dir(dir)?
        .map(|e| e.map(|e| e.path()))
        .collect::<Result<Vec<_>, _>>()?;
    files.sort();
    println!(
        "{n} surveys a vehicle, 1 mm noise, panels and decks at {HEIGHTS:?} mm, panel clearance {CLEARANCE} mm, a panel up high"
    );
    println!(
        "             full: n  <=3mm  least  >2big | quick: n <=6mm  least  >2big | decks >2big  enter | high: n  <=3mm  least  >2big | 25 mm found, first | 12 mm noticed | alarms | s"
    );
    let mut all = 0.0;
    let mut count = 0.0;
    for f in files {
        let v = Vehicle::read(serde_json::from_slice(&std::fs::read(&f)?)?)
            .map_err(|p| format!("{}: {p}", f.display()))?;
        let begun = Instant::now();
        let take = |p, b, mm, heights: &[f64]| {
            (0..n)
                .map(|seed| survey(&v, &walk(seed, p, b, mm, heights)))
                .collect::<Vec<_>>()
        };
        let full = take(Thoroughness::Full, 0, 0.0, &[]);
        let a = panels(&v, &full, &HEIGHTS, 3.0);
        let b = panels(&v, &take(Thoroughness::Quick, 0, 0.0, &[]), &HEIGHTS, 6.0);
        let (big, enter, boards) = decks(&v, &full);
        let top = v.sections.last().map_or(0.0, |s| s.z);
        let high = HIGH.min(top - 20.0);
        let c = if high > 560.0 {
            let taken = take(Thoroughness::Full, 0, 0.0, &[320.0, high]);
            panels(&v, &taken, &[high], 3.0).columns()
        } else {
            " ".repeat(26)
        };
        let alarms = full.iter().filter(|t| !suspects(t).is_empty()).count();
        let (mut found, mut first) = (0, 0);
        for t in take(Thoroughness::Full, 1, 25.0, &[]) {
            let s = suspects(&t);
            found += usize::from(t.blunders.iter().all(|b| s.contains(b)));
            first += usize::from(s.first() == t.blunders.first());
        }
        let small = take(Thoroughness::Full, 1, 12.0, &[]);
        let small = small.iter().filter(|t| noticed(t)).count();
        println!(
            "{:12} {} | {} | {big:10.2} {enter:3} of {boards} | {c} | {found:3}, {first:3} of {n} | {small:3} of {n} | {alarms} of {n} | {:.1}",
            v.name,
            a.columns(),
            b.columns(),
            begun.elapsed().as_secs_f64()
        );
        all += a.readings / a.n.max(1.0);
        count += 1.0;
    }
    println!("mean of full surveys: {:.1} readings", all / count);
    Ok(())
}
