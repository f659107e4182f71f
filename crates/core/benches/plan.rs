//! How long the core thinks: the demo's whole plan, a nest of thirty parts, one beam.
#![allow(missing_docs, clippy::unwrap_used, clippy::expect_used)]

use criterion::{Criterion, criterion_group, criterion_main};
use jigfit_core::compute;
use jigfit_core::plan::solve;
use jigfit_core::project::Project;
use serde_json::{Value, json};

fn demo(name: &str) -> Project {
    let path = format!("{}/../server/demo/{name}.json", env!("CARGO_MANIFEST_DIR"));
    Project::read(serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap()).unwrap()
}

fn thirty() -> Value {
    let parts: Vec<Value> = (0..30)
        .map(|i| json!({"id": format!("p{i}"), "w": 180 + 53 * i % 900, "h": 120 + 37 * i % 500, "grain": "along"}))
        .collect();
    json!({"sheets": [{"id": "s", "w": 2440, "h": 1220, "count": null, "cost": 60, "grain": "w"}],
        "kerf": 3, "trim": 5, "parts": parts})
}

fn benches(c: &mut Criterion) {
    for name in ["moth", "kingfisher"] {
        let project = demo(name);
        c.bench_function(&format!("solve {name}"), |b| b.iter(|| solve(&project)));
    }
    let mut slow = c.benchmark_group("nest");
    slow.sample_size(10);
    slow.bench_function("30 parts", |b| b.iter(|| compute::run("nest", thirty())));
    slow.finish();
    let beam = json!({"spans": [600, 600, 600], "width": 400, "thickness": 15, "material": "birch-ply",
        "loads": [{"kind": "uniform", "n_per_mm": 0.5}, {"kind": "point", "n": 800, "at": 300}]});
    c.bench_function("beam, three spans", |b| {
        b.iter(|| compute::run("beam", beam.clone()))
    });
}

criterion_group!(plan, benches);
criterion_main!(plan);
