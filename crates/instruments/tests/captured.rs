//! Captured curves laid into vehicles whose shape is known: the wall that every board goes by follows them.
use crate::common::{ALL, surveyed, vehicle};
use jigfit_core::plan::solve;
use jigfit_core::project::Project;
use jigfit_core::project::survey::Side;
use jigfit_core::project::templates::{Placing, Template};
use jigfit_core::survey::model::Model;
use jigfit_instruments::capture::{Probe, probe};
use jigfit_instruments::vehicle::Vehicle;

const Z: f64 = 320.0;

/// What the model's wall is off the true one, mm: root mean square, and the same in its own standard deviations.
fn off(v: &Vehicle, m: &Model, side: Side, (a, b): (f64, f64)) -> (f64, f64) {
    let n = 60;
    let each = (0..=n).map(|i| {
        let x = a + (b - a) * f64::from(i) / f64::from(n);
        let (mm, sd) = m.wall(side, x, Z).unwrap();
        let e = mm - v.wall(side, x, Z).unwrap();
        (e * e, (e / sd).powi(2))
    });
    let sum = each.fold((0.0, 0.0), |s, e| (s.0 + e.0, s.1 + e.1));
    let n = f64::from(n + 1);
    ((sum.0 / n).sqrt(), (sum.1 / n).sqrt())
}

/// A survey with one wall captured at 40 mm stations, and where.
fn captured(v: &Vehicle, side: Side, seed: u64) -> (Project, Template, (f64, f64)) {
    let p = surveyed(v, seed);
    let reach = Model::new(&p).length(Z).unwrap();
    let x = (0.12 * reach, 0.7 * reach);
    let t = probe(
        v,
        &Probe {
            side,
            z: Z,
            x,
            step: 40.0,
            noise: 0.5,
            tape: 1.0,
            seed,
        },
    );
    (p, t.unwrap(), x)
}

/// Over all vehicles the wall is at least a third nearer to the true one, and as sure as it says.
#[test]
fn walls_follow_captured_curves() {
    let (mut before, mut after, mut doubt, mut n) = (0.0, 0.0, 0.0, 0.0);
    for name in ALL {
        let v = vehicle(name);
        for (side, seed) in [(Side::Left, 1), (Side::Right, 2), (Side::Left, 3)] {
            let (mut p, t, x) = captured(&v, side, seed);
            before += off(&v, &Model::new(&p), side, x).0;
            p.templates.insert("c".into(), t);
            let m = Model::new(&p);
            let (rms, times) = off(&v, &m, side, x);
            after += rms;
            doubt += times * times;
            n += 1.0;
            assert!(m.judged.bodies.is_empty(), "{name}: {:?}", m.judged.bodies);
        }
    }
    let doubt = f64::sqrt(doubt / n);
    assert!(after < 0.67 * before, "{before} {after}");
    assert!((0.5..1.6).contains(&doubt), "{doubt}");
}

/// A landmark that is wrong by 25 mm is told, along as across, and the wall is not drawn to it.
#[test]
fn a_wrong_landmark_is_told() {
    let v = vehicle("otter");
    let mut worse = Vec::new();
    for seed in 1..6 {
        let (p, t, x) = captured(&v, Side::Left, seed);
        let clean = off(&v, &Model::new(&p), Side::Left, x).0;
        let wrong = |edit: &dyn Fn(&mut Placing)| {
            let (mut p, mut t) = (p.clone(), t.clone());
            edit(t.place.as_mut().unwrap());
            p.templates.insert("c".into(), t);
            let plan = solve(&p);
            let said = plan.findings.iter().any(|f| {
                f.id.starts_with("template.c.") && f.level <= jigfit_core::checks::Severity::Look
            });
            let m = Model::new(&p);
            (said, off(&v, &m, Side::Left, x).0)
        };
        let second = |p: &mut Placing, by: [f64; 2]| {
            let tie = p.landmarks.get_mut("2").unwrap();
            tie.u = Some(tie.u.unwrap() + by[0]);
            tie.v = Some(tie.v.unwrap() + by[1]);
        };
        for by in [[25.0, 0.0], [0.0, 25.0], [0.0, -25.0]] {
            let (said, rms) = wrong(&|p| second(p, by));
            assert!(said, "{seed} {by:?}");
            assert!(rms < clean + 0.3, "{seed} {by:?}: {clean} {rms}");
            worse.push(rms - clean);
        }
        let (said, rms) = wrong(&|_| {});
        assert!(!said, "{seed}");
        assert!(rms < clean + 0.3);
        // Put aside it counts for nothing.
        let (_, aside) = wrong(&|p| p.aside = true);
        assert!((aside - clean).abs() < 1e-9);
    }
    let mean = worse.iter().sum::<f64>() / worse.len() as f64;
    assert!(mean < 0.1, "{worse:?}");
}
