//! How long the core thinks: the demo's whole plan, a nest of thirty parts, one beam.
#![allow(missing_docs, clippy::unwrap_used, clippy::expect_used, clippy::panic)]

use criterion::{Criterion, criterion_group, criterion_main};
use jigfit_core::compute;
use jigfit_core::curves::view::templates;
use jigfit_core::plan::{solve, solve_while};
use jigfit_core::project::Project;
use jigfit_core::project::survey::{Instrument, Quantity, Reading, Side};
use jigfit_core::solids::{Solid, clashing};
use jigfit_core::survey::cloud::{Placement, slice, walls};
use jigfit_core::survey::model::Model;
use jigfit_core::units::Unit;
use serde_json::{Value, json};

/// The same as the program has: plans are many small values.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

fn demo(name: &str) -> Project {
    let path = format!("{}/../server/demo/{name}.json", env!("CARGO_MANIFEST_DIR"));
    jigfit_core::furniture::read(
        serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap(),
    )
    .unwrap()
}

fn thirty() -> Value {
    let parts: Vec<Value> = (0..30)
        .map(|i| json!({"id": format!("p{i}"), "w": 180 + 53 * i % 900, "h": 120 + 37 * i % 500, "grain": "along"}))
        .collect();
    json!({"sheets": [{"id": "s", "w": 2440, "h": 1220, "count": null, "cost": 60, "grain": "w"}],
        "kerf": 3, "trim": 5, "parts": parts})
}

fn benches(c: &mut Criterion) {
    for name in ["moth", "kingfisher", "moth-whole"] {
        let project = demo(name);
        c.bench_function(&format!("solve {name}"), |b| b.iter(|| solve(&project)));
        let curves = templates(&project);
        let model = Model::new_while(&project, &curves, &|| true).unwrap_or_default();
        c.bench_function(&format!("solve {name}, survey unchanged"), |b| {
            b.iter(|| solve_while(&project, (&model, &curves), &|| true));
        });
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

/// 400 points in a grid, 2,000 distances: to near neighbours, or between any two.
fn network(near: bool) -> Value {
    let at = |i: usize| [(i % 20) as f64 * 500.0, (i / 20) as f64 * 500.0];
    let mut points = serde_json::Map::new();
    for i in 0..400 {
        let p = at(i);
        points.insert(
            format!("p{i}"),
            json!({"xy": [p[0] + 7.0, p[1] - 4.0], "fixed": i == 0, "fixed_y": i == 19}),
        );
    }
    let mut readings = Vec::new();
    let (mut k, mut tried): (usize, usize) = (1, 0);
    while readings.len() < 2000 {
        k = k
            .wrapping_mul(6364136223846793005)
            .wrapping_add(1442695040888963407);
        let n = readings.len();
        tried += 1;
        let (a, b) = if near {
            let ways = [(1, 0), (0, 1), (1, 1), (2, 1), (1, 2)];
            let (a, way) = (tried / 5 % 400, ways[tried % 5]);
            let (c, r) = (a % 20 + way.0, a / 20 + way.1);
            (a, c.min(19) + 20 * r.min(19))
        } else {
            (
                tried % 400,
                (tried * tried * 31 + tried / 400 * 77 + (k >> 40)) % 400,
            )
        };
        if a != b {
            let (p, q) = (at(a), at(b));
            let d = (p[0] - q[0]).hypot(p[1] - q[1]);
            readings.push(json!({"id": format!("r{n}"), "kind": "distance", "from": format!("p{a}"), "to": format!("p{b}"), "value": d + ((n % 7) as f64 - 3.0) * 0.3, "sd": 1.0}));
        }
    }
    json!({"points": points, "readings": readings})
}

fn adjustment(c: &mut Criterion) {
    let mut group = c.benchmark_group("adjust, 400 points, 2,000 readings");
    group.sample_size(10);
    for (name, near) in [("near neighbours", true), ("any two points", false)] {
        let input = network(near);
        if let Some(Err(p)) = compute::run("adjust", input.clone()) {
            panic!("{p}");
        }
        group.bench_function(name, |b| b.iter(|| compute::run("adjust", input.clone())));
    }
    group.finish();
}

fn clouds(c: &mut Criterion) {
    // A million points on two walls.
    let points: Vec<[f32; 3]> = (0..1_000_000u32)
        .map(|i| {
            let (x, z) = ((i % 2000) as f32, (i / 2000) as f32 * 1.2);
            [
                x,
                if i % 2 == 0 { 700.0 } else { -690.0 } + (i % 7) as f32 * 0.3,
                z,
            ]
        })
        .collect();
    let placed = Placement::none();
    let mut group = c.benchmark_group("scan, 1 M points");
    group.sample_size(10);
    group.bench_function("cut and find walls at a height", |b| {
        b.iter(|| walls(&slice(&points, &placed, 320.0), 320.0, 120.0))
    });
    group.finish();
}

/// Moth's survey and stock with so many small drawers, stacked: eleven boards each.
fn crowded(drawers: usize) -> Project {
    let path = format!("{}/../server/demo/moth.json", env!("CARGO_MANIFEST_DIR"));
    let mut doc: Value = serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    doc["modules"] = json!({});
    doc["states"] = json!({"drive": {"name": "drive"}});
    let places = (0..9).flat_map(|up| (0..6).map(move |along| (up, along)));
    let places = places.flat_map(|p| ["left_wall", "right_wall"].map(|side| (p, side)));
    for (i, ((up, along), side)) in places.take(drawers).enumerate() {
        doc["modules"][format!("drawer-{i}")] = json!({
            "kind": "drawer",
            "place": {"along": 20 + along * 320, "across": side, "up": up * 115},
            "choices": {"width": 220, "depth": 300, "height": 112},
        });
    }
    jigfit_core::furniture::read(doc).unwrap()
}

fn sizes(c: &mut Criterion) {
    let mut group = c.benchmark_group("solve, survey unchanged");
    group.sample_size(20);
    for drawers in [5, 55] {
        let project = crowded(drawers);
        let model = Model::new(&project);
        let curves = templates(&project);
        let boards = solve(&project).boards;
        group.bench_function(format!("{} boards", boards.len()), |b| {
            b.iter(|| solve_while(&project, (&model, &curves), &|| true));
        });
        group.bench_function(format!("clash of {} boards at rest", boards.len()), |b| {
            b.iter(|| {
                let solids: Vec<Solid> = boards
                    .iter()
                    .filter_map(|b| Solid::new(b, "drive"))
                    .collect();
                clashing(&solids).len()
            });
        });
    }
    group.finish();
}

/// A van with two curved walls, read at `n` places.
fn many(n: usize) -> Project {
    let mut project = demo("moth");
    project
        .survey
        .readings
        .retain(|_, r| !matches!(r.quantity, Quantity::Wall { .. }));
    let mut k = 7u64;
    let mut next = || {
        k = k
            .wrapping_mul(6364136223846793005)
            .wrapping_add(1442695040888963407);
        (k >> 33) as f64 / (1u64 << 31) as f64
    };
    let walls = n - project.survey.readings.len();
    for i in 0..walls {
        let side = if i % 2 == 0 { Side::Left } else { Side::Right };
        let (x, z) = ((next() * 2000.0).round(), (next() * 500.0).round());
        let noise = next() + next() + next() - 1.5;
        let y = 705.0 + 0.00002 * x * (2000.0 - x) - 0.00008 * z * z + noise;
        let reading = Reading {
            quantity: Quantity::Wall { side, x, z },
            typed: format!("{y:.1}"),
            unit: Unit::Mm,
            when: String::new(),
            instrument: Instrument::Scan,
            soft: false,
            datum: None,
            sd: None,
            aside: false,
            note: String::new(),
        };
        project.survey.readings.insert(format!("m{i:05}"), reading);
    }
    project
}

fn large(c: &mut Criterion) {
    let mut group = c.benchmark_group("solve with many readings");
    group.sample_size(10);
    for n in [600, 5000] {
        let project = many(n);
        group.bench_function(format!("{n}"), |b| b.iter(|| solve(&project)));
    }
    group.finish();
}

criterion_group!(plan, benches, large, adjustment, clouds, sizes);
criterion_main!(plan);
