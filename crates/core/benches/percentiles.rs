//! The middle and the 95th percentile of a demo's plan with the survey unchanged: what a person who pulls a board waits
//! for. Criterion tells means.
#![allow(missing_docs, clippy::unwrap_used, clippy::print_stdout)]

use std::time::Instant;

use jigfit_core::curves::view::templates;
use jigfit_core::plan::solve_while;
use jigfit_core::survey::model::Model;

/// The same as the program has: plans are many small values.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

/// Plans that are worked out before the clock counts, and those that it counts.
const BEFORE: usize = 50;
const COUNTED: usize = 400;
/// The deck is lifted by this much for each, mm.
const STEP: f64 = 0.05;

fn main() {
    for name in ["moth", "kingfisher", "moth-whole"] {
        let path = format!("{}/../server/demo/{name}.json", env!("CARGO_MANIFEST_DIR"));
        let document = serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
        let mut document: serde_json::Value = document;
        let height = "/modules/deck/choices/underside";
        let from = document.pointer(height).and_then(|v| v.as_f64()).unwrap();
        let read = |document: &_| jigfit_core::furniture::read(Clone::clone(document)).unwrap();
        let project = read(&document);
        let curves = templates(&project);
        let model = Model::new_while(&project, &curves, &|| true).unwrap_or_default();
        let all = (0..BEFORE + COUNTED).map(|i| {
            // Another height each time: nothing is answered because it was asked before.
            let up = STEP * i as f64;
            *document.pointer_mut(height).unwrap() = (from + up).into();
            let project = read(&document);
            let begun = Instant::now();
            let plan = solve_while(&project, (&model, &curves), &|| true);
            let took = begun.elapsed().as_secs_f64() * 1e3;
            drop(plan);
            took
        });
        let mut all: Vec<f64> = all.skip(BEFORE).collect();
        all.sort_by(f64::total_cmp);
        let at = |share: usize| all[COUNTED * share / 100];
        println!("{name}: middle {:.1} ms, p95 {:.1} ms", at(50), at(95));
    }
}
