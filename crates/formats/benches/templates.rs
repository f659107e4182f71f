//! How long the parallel of 10,000 points takes (asked: 50 ms), and a curve over 2.4 m by 1.2 m in pages of A4 as PDF
//! (asked: 1 s).
#![allow(missing_docs, clippy::unwrap_used, clippy::expect_used, clippy::panic)]

use criterion::{Criterion, criterion_group, criterion_main};
use jigfit_core::compute::run;
use jigfit_core::geometry::Point;
use jigfit_core::geometry::parallel::{Along, Join, parallel};
use jigfit_core::project::{Project, Units, VehicleKind};
use jigfit_formats::drawing::{Drawing, Layer, Line};
use jigfit_formats::full_size::{Sheet, pages};
use jigfit_formats::pdf;
use serde_json::json;

/// A wall that waves, over `wide` mm.
fn wave(n: usize, wide: f64, high: f64) -> Vec<Along> {
    let along = |i: usize| {
        let x = wide * i as f64 / n as f64;
        let turn = std::f64::consts::TAU / 300.0;
        Along {
            p: [x, high / 2.0 * (x * turn).sin()],
            d: [1.0, high / 2.0 * turn * (x * turn).cos()],
        }
    };
    (0..=n).map(along).collect()
}

fn templates(c: &mut Criterion) {
    let gentle = wave(10_000, 2400.0, 30.0);
    // Further than its radius of 25 mm: loops everywhere.
    let tight = wave(10_000, 2400.0, 180.0);
    // The calculator, from a line drawn by a block: its 10,000 points are faired, or taken as exact.
    let mut group = c.benchmark_group("edge from 10,000 points");
    group.sample_size(10);
    for sd in [0.0, 0.5] {
        let trace: Vec<Point> = gentle.iter().take(10_000).map(|a| a.p).collect();
        let input = json!({"method": "offset_block", "trace": trace, "offset": 40, "surface": "left", "sd": sd});
        group.bench_function(format!("noise {sd} mm"), |b| {
            b.iter(|| run("edge", input.clone()).unwrap().unwrap());
        });
    }
    group.finish();
    let mut group = c.benchmark_group("parallel of 10,000 points");
    group.sample_size(20);
    for (name, run) in [("gentle", gentle), ("past the radius", tight)] {
        let runs = [run];
        group.bench_function(name, |b| b.iter(|| parallel(&runs, 40.0, Join::Mitre)));
    }
    group.finish();
    let points: Vec<Point> = wave(4000, 2400.0, 1200.0).iter().map(|a| a.p).collect();
    let drawing = Drawing {
        name: "wall".into(),
        words: vec![],
        lines: vec![Line {
            points,
            closed: false,
            layer: Layer::Cut,
        }],
        rounds: vec![],
        base: Some([[0.0, -600.0], [2400.0, -600.0]]),
    };
    let project = Project::start("wall", VehicleKind::Van, Units::default());
    let mut group = c.benchmark_group("tiles");
    group.sample_size(10);
    let all = pages(
        &project,
        std::slice::from_ref(&drawing),
        Sheet::of(&project),
    );
    group.bench_function(format!("2.4 m by 1.2 m, {} pages", all.len()), |b| {
        b.iter(|| {
            let all = pages(
                &project,
                std::slice::from_ref(&drawing),
                Sheet::of(&project),
            );
            pdf::write(&all, "wall").unwrap()
        });
    });
    group.finish();
}

criterion_group!(benches, templates);
criterion_main!(benches);
