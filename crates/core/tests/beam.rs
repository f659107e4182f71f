//! Beams against tabulated cases.
//!
//! Sources: simple span under uniform load 5 w L^4 / 384 EI, moment w L^2 / 8; centre load
//! P L^3 / 48 EI, moment P L / 4; point load at a: P a b (a + 2 b) sqrt(3 a (a + 2 b)) / 27 E I L;
//! two equal spans under uniform load: middle reaction 10/8 wL, end 3/8 wL, w L^4 / 185 EI, moment
//! w L^2 / 8; three equal spans: reactions 0.4, 1.1, 1.1, 0.4 wL. Beam diagrams of the usual
//! steel and timber handbooks, from memory.

use jigfit_core::compute;
use proptest::prelude::*;
use rstest::rstest;
use serde_json::{Value, json};

fn beam(spans: &[f64], loads: Value) -> Value {
    let input = json!({"spans": spans, "width": 400, "thickness": 18, "e": 10048, "loads": loads});
    compute::run("beam", input).unwrap().unwrap()
}

fn f(v: &Value, key: &str) -> f64 {
    v[key].as_f64().unwrap()
}

fn close(a: f64, b: f64) {
    assert!((a - b).abs() <= 1e-6 * b.abs().max(1.0), "{a} against {b}");
}

const EI: f64 = 10048.0 * 400.0 * 18.0 * 18.0 * 18.0 / 12.0;

#[test]
fn simple_span_uniform() {
    let (w, l) = (0.5, 600.0_f64);
    let out = beam(
        &[l],
        json!([{"kind": "uniform", "n_per_mm": w, "from": 0, "to": l}]),
    );
    close(
        f(&out, "max_deflection"),
        5.0 * w * l.powi(4) / (384.0 * EI),
    );
    close(f(&out, "at"), 300.0);
    close(f(&out, "max_moment"), w * l * l / 8.0);
    close(
        f(&out, "max_stress"),
        w * l * l / 8.0 / (400.0 * 18.0 * 18.0 / 6.0),
    );
    close(out["reactions"][0].as_f64().unwrap(), 150.0);
}

#[test]
fn simple_span_centre_point() {
    let (p, l) = (800.0, 520.0_f64);
    let out = beam(&[l], json!([{"kind": "point", "n": p, "at": 260}]));
    close(f(&out, "max_deflection"), p * l.powi(3) / (48.0 * EI));
    close(f(&out, "max_moment"), p * l / 4.0);
    close(f(&out, "span_over"), l / f(&out, "max_deflection"));
}

#[test]
fn simple_span_point_off_centre() {
    let (p, l, a) = (700.0, 900.0, 550.0);
    let b = l - a;
    let out = beam(&[l], json!([{"kind": "point", "n": p, "at": a}]));
    let tabulated =
        p * a * b * (a + 2.0 * b) * f64::sqrt(3.0 * a * (a + 2.0 * b)) / (27.0 * EI * l);
    close(f(&out, "max_deflection"), tabulated);
    close(f(&out, "at"), f64::sqrt(a * (a + 2.0 * b) / 3.0));
}

#[test]
fn two_equal_spans() {
    let (w, l) = (0.5, 600.0_f64);
    let out = beam(
        &[l, l],
        json!([{"kind": "uniform", "n_per_mm": w, "from": 0, "to": 1200}]),
    );
    let r: Vec<f64> = serde_json::from_value(out["reactions"].clone()).unwrap();
    close(r[0], 3.0 / 8.0 * w * l);
    close(r[1], 10.0 / 8.0 * w * l);
    close(r[2], 3.0 / 8.0 * w * l);
    close(f(&out, "max_moment"), w * l * l / 8.0);
    // The handbook rounds to 1/185.
    let d = f(&out, "max_deflection") * EI / (w * l.powi(4));
    assert!((d - 1.0 / 185.0).abs() < 2e-5, "{d}");
    // 0.4215 L from the end support.
    let at = f(&out, "at").min(1200.0 - f(&out, "at"));
    assert!((at / l - 0.4215).abs() < 1e-3);
}

#[test]
fn three_equal_spans() {
    let out = beam(&[500.0; 3], json!([{"kind": "uniform", "n_per_mm": 1.0}]));
    let r: Vec<f64> = serde_json::from_value(out["reactions"].clone()).unwrap();
    for (got, share) in r.iter().zip([0.4, 1.1, 1.1, 0.4]) {
        close(*got, share * 500.0);
    }
}

#[test]
fn an_unloaded_span_hogs() {
    let out = beam(
        &[600.0, 600.0],
        json!([{"kind": "point", "n": 500, "at": 300}]),
    );
    assert!(out["sag_by_span"][0].as_f64().unwrap() > 0.0);
    assert!(out["sag_by_span"][1].as_f64().unwrap() < 0.0);
    assert!(
        out["reactions"][2].as_f64().unwrap() < 0.0,
        "the far end lifts"
    );
}

/// Source: Handbook of Finnish Plywood, birch 18 mm: 10048 along, 7452 across (from memory).
#[test]
fn materials_stand_for_their_modulus() {
    let run = |more: Value| {
        let mut input = json!({"spans": [700], "width": 400, "thickness": 18,
            "loads": [{"kind": "uniform", "n_per_mm": 0.3}]});
        for (k, v) in more.as_object().unwrap() {
            input[k] = v.clone();
        }
        f(
            &compute::run("beam", input).unwrap().unwrap(),
            "max_deflection",
        )
    };
    close(
        run(json!({"material": "birch-ply", "grain": "along"})),
        run(json!({"e": 10048})),
    );
    close(
        run(json!({"material": "birch-ply", "grain": "across"})),
        run(json!({"e": 7452})),
    );
    // EN 12369-1, OSB/3: 4930 along (from memory).
    close(run(json!({"material": "osb"})), run(json!({"e": 4930})));
}

#[rstest]
#[case(json!({"spans": [], "width": 1, "thickness": 1, "e": 1, "loads": []}), "/spans")]
#[case(json!({"spans": [600, -1], "width": 1, "thickness": 1, "e": 1, "loads": []}), "/spans/1")]
#[case(json!({"spans": [600], "width": 0, "thickness": 1, "e": 1, "loads": []}), "/width")]
#[case(json!({"spans": [600], "width": 1, "thickness": 1, "loads": []}), "/material")]
#[case(json!({"spans": [600], "width": 1, "thickness": 1, "material": "balsa", "loads": []}), "/material")]
#[case(json!({"spans": [600], "width": 1, "thickness": 1, "e": 1, "loads": [{"kind": "point", "n": 1, "at": 700}]}), "/loads/0/at")]
#[case(json!({"spans": [600], "width": 1, "thickness": 1, "e": 1, "loads": [{"kind": "point", "at": 7}]}), "/loads/0/n")]
#[case(json!({"spans": [600], "width": 1, "thickness": 1, "e": 1, "loads": [{"kind": "wind"}]}), "/loads/0/kind")]
#[case(json!({"spans": [600], "width": 1, "thickness": 1, "e": 1, "loads": [], "colour": 1}), "/colour")]
#[case(json!({"spans": [600], "width": "1", "thickness": 1, "e": 1, "loads": []}), "/width")]
fn bad_input_is_named(#[case] input: Value, #[case] pointer: &str) {
    let problem = compute::run("beam", input).unwrap().unwrap_err();
    assert_eq!(problem.pointer, pointer, "{problem}");
}

/// A beam over its whole length on its two ends only: moments at `n` places.
fn on_two_ends(long: f64, n: usize, load: &(f64, f64, f64)) -> Vec<f64> {
    let (force, from, to) = *load;
    let left = force * (long - (from + to) / 2.0) / long;
    let past = |x: f64, a: f64| (x - a).max(0.0);
    let moment = |i: usize| {
        let x = long * i as f64 / (n - 1) as f64;
        let taken = match to - from {
            wide if wide > 0.0 => {
                force / wide * (past(x, from).powi(2) - past(x, to).powi(2)) / 2.0
            }
            _ => force * past(x, from),
        };
        left * x - taken
    };
    (0..n).map(moment).collect()
}

fn added_up(dx: f64, y: impl Iterator<Item = f64>) -> Vec<f64> {
    let (mut sum, mut last) = (0.0, None);
    let next = |y: f64| {
        sum += last.map_or(0.0, |l: f64| (l + y) / 2.0 * dx);
        last = Some(y);
        sum
    };
    y.map(next).collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]
    /// Independent of the program's stiffness method: the inner supports are taken away, and those forces put back that bring the beam to
    /// nought there (Maxwell and Mohr); products of moments and the curvature twice are added up in 6,000 steps.
    #[test]
    fn random_beams_by_the_force_method(
        spans in proptest::collection::vec(150.0..900.0_f64, 2..6),
        point in (0.05..0.95_f64, 50.0..2000.0_f64),
        stretch in (0.0..0.6_f64, 0.1..0.4_f64, 0.05..2.0_f64),
    ) {
        const N: usize = 6001;
        let long: f64 = spans.iter().sum();
        let (from, to) = (stretch.0 * long, (stretch.0 + stretch.1) * long);
        let at = point.0 * long;
        let out = beam(&spans, json!([
            {"kind": "point", "n": point.1, "at": at},
            {"kind": "uniform", "n_per_mm": stretch.2, "from": from, "to": to},
        ]));
        let dx = long / (N - 1) as f64;
        let whole = |a: &[f64], b: &[f64]| added_up(dx, a.iter().zip(b).map(|(a, b)| a * b / EI))[N - 1];
        let loads = [(point.1, at, at), (stretch.2 * (to - from), from, to)];
        let free: Vec<Vec<f64>> = loads.iter().map(|l| on_two_ends(long, N, l)).collect();
        let free: Vec<f64> = (0..N).map(|i| free[0][i] + free[1][i]).collect();
        let up_to = |x: &mut f64, s: &f64| { *x += s; Some(*x) };
        let inner: Vec<f64> = spans[..spans.len() - 1].iter().scan(0.0, up_to).collect();
        let unit: Vec<Vec<f64>> = inner.iter().map(|x| on_two_ends(long, N, &(1.0, *x, *x))).collect();
        let k = inner.len();
        let a = nalgebra::DMatrix::from_fn(k, k, |i, j| whole(&unit[i], &unit[j]));
        let b = nalgebra::DVector::from_fn(k, |i, _| whole(&unit[i], &free));
        let held = a.lu().solve(&b).unwrap();
        let moment: Vec<f64> = (0..N)
            .map(|i| free[i] - (0..k).map(|j| held[j] * unit[j][i]).sum::<f64>())
            .collect();
        let slope = added_up(dx, moment.iter().map(|m| m / EI));
        let turned = added_up(dx, slope.into_iter());
        let sags = turned.iter().enumerate().map(|(i, w)| w - turned[N - 1] * i as f64 / (N - 1) as f64);
        let most = |all: &mut dyn Iterator<Item = f64>| all.fold(0.0_f64, |m, v| m.max(v.abs()));
        let (sag, bent) = (most(&mut sags.into_iter()), most(&mut moment.iter().copied()));
        let all: f64 = loads.iter().map(|l| l.0).sum();
        let (told, peak) = (f(&out, "max_deflection"), f(&out, "max_moment"));
        prop_assert!((told / sag - 1.0).abs() < 1e-3, "{told} {sag}");
        // A peak may lie between two steps.
        prop_assert!((peak - bent).abs() < 1e-3 * bent + all * dx, "{peak} {bent}");
        for (j, n) in held.iter().enumerate() {
            let told = out["reactions"][j + 1].as_f64().unwrap();
            prop_assert!((told - n).abs() < 1e-3 * all, "{told} {n}");
        }
    }
}

proptest! {
    /// Laws: supports carry the whole load, and about the left end the moments balance.
    #[test]
    fn statics_hold(
        spans in proptest::collection::vec(100.0..900.0_f64, 1..6),
        place in 0.0..1.0_f64, n in 1.0..2000.0_f64, q in 0.0..2.0_f64,
    ) {
        let total: f64 = spans.iter().sum();
        let at = place * total;
        let out = beam(&spans, json!([
            {"kind": "point", "n": n, "at": at}, {"kind": "uniform", "n_per_mm": q},
        ]));
        let r: Vec<f64> = serde_json::from_value(out["reactions"].clone()).unwrap();
        let load = n + q * total;
        prop_assert!((r.iter().sum::<f64>() - load).abs() < 1e-6 * load);
        let mut x = 0.0;
        let mut moment = r[0] * 0.0;
        for (i, s) in spans.iter().enumerate() {
            x += s;
            moment += r[i + 1] * x;
        }
        let applied = n * at + q * total * total / 2.0;
        prop_assert!((moment - applied).abs() < 1e-6 * applied.max(1.0));
    }
}
