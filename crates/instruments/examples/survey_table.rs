//! Prints how well surveys of the virtual vehicles do: `make bench-survey`. Arguments: surveys per
//! vehicle, folder of vehicles.
#![allow(missing_docs)]

use std::path::PathBuf;
use std::time::Instant;

use jigfit_core::project::survey::{Instrument, Thoroughness};
use jigfit_core::survey::model::Model;
use jigfit_core::template::fill::fill;
use jigfit_instruments::accuracy::Fit;
use jigfit_instruments::simulate::{Taken, Walk, survey};
use jigfit_instruments::tape::Errors;
use jigfit_instruments::vehicle::Vehicle;

const HEIGHTS: [f64; 3] = [200.0, 320.0, 450.0];
const CLEARANCE: f64 = 3.0;

struct Sum {
    readings: f64,
    within: f64,
    too_big: f64,
    least: f64,
    n: f64,
}

fn walk(seed: u64, protocol: Thoroughness, blunders: usize) -> Walk {
    Walk {
        errors: Errors::noise(1.0),
        blunders,
        blunder_mm: 25.0,
        seed,
        protocol,
        instrument: Instrument::Tape,
    }
}

fn fit(v: &Vehicle, surveys: &[Taken], mm: f64) -> Sum {
    let mut s = Sum {
        readings: 0.0,
        within: 0.0,
        too_big: 0.0,
        least: 1.0,
        n: 0.0,
    };
    for t in surveys {
        let model = Model::new(&t.project);
        for z in HEIGHTS {
            let Some(f) = fill(&model, z, CLEARANCE) else {
                continue;
            };
            let fit = Fit::of(v, &f.panels, z, CLEARANCE);
            s.within += fit.within(mm);
            s.least = s.least.min(fit.within(mm));
            s.too_big += fit.too_big(2.0);
            s.readings += t.project.survey.readings.len() as f64;
            s.n += 1.0;
        }
    }
    s
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
        "{n} surveys a vehicle, 1 mm noise, panels at {HEIGHTS:?} mm, clearance {CLEARANCE} mm"
    );
    println!(
        "             full: n  <=3mm  least  >2 big | quick: n  <=6mm  least  >2 big | 25 mm slip found, named first | false alarms | s"
    );
    for f in files {
        let v = Vehicle::read(serde_json::from_slice(&std::fs::read(&f)?)?)
            .map_err(|p| format!("{}: {p}", f.display()))?;
        let begun = Instant::now();
        let take = |p, b| {
            (0..n)
                .map(|seed| survey(&v, &walk(seed, p, b)))
                .collect::<Vec<_>>()
        };
        let full = take(Thoroughness::Full, 0);
        let (a, b) = (
            fit(&v, &full, 3.0),
            fit(&v, &take(Thoroughness::Quick, 0), 6.0),
        );
        let suspects = |t: &Taken| -> Vec<String> {
            Model::new(&t.project)
                .judged
                .blunders
                .iter()
                .map(|b| b.reading.clone())
                .collect()
        };
        let alarms = full.iter().filter(|t| !suspects(t).is_empty()).count();
        let (mut found, mut first) = (0, 0);
        for t in take(Thoroughness::Full, 1) {
            let s = suspects(&t);
            found += usize::from(t.blunders.iter().all(|b| s.contains(b)));
            first += usize::from(s.first() == t.blunders.first());
        }
        println!(
            "{:12} {:6.1} {:6.1} {:6.1} {:7.2} | {:7.1} {:6.1} {:6.1} {:7.2} | {:3} of {n}, {:3} of {n} | {:2} of {n} | {:.1}",
            v.name,
            a.readings / a.n,
            100.0 * a.within / a.n,
            100.0 * a.least,
            100.0 * a.too_big / a.n,
            b.readings / b.n,
            100.0 * b.within / b.n,
            100.0 * b.least,
            100.0 * b.too_big / b.n,
            found,
            first,
            alarms,
            begun.elapsed().as_secs_f64()
        );
    }
    Ok(())
}
