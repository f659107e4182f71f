//! The network adjustment against networks worked by hand, against an independent least-squares
//! solver, and against what must not change when a network is turned, moved or measured in inches.

use jigfit_core::compute;
use jigfit_core::problem::Problem;
use levenberg_marquardt::{LeastSquaresProblem, LevenbergMarquardt};
use nalgebra::{DMatrix, DVector, Dyn, storage::Owned};
use proptest::prelude::*;
use rstest::rstest;
use serde_json::{Value, json};

fn run(input: Value) -> Value {
    compute::run("adjust", input)
        .unwrap()
        .unwrap_or_else(|p| panic!("{p}"))
}

fn refused(input: Value) -> Problem {
    compute::run("adjust", input).unwrap().unwrap_err()
}

fn num(v: &Value, at: &str) -> f64 {
    v.pointer(at)
        .and_then(Value::as_f64)
        .unwrap_or_else(|| panic!("{at} in {v}"))
}

fn near(v: &Value, at: &str, want: f64, by: f64) {
    let got = num(v, at);
    assert!((got - want).abs() <= by, "{at} is {got}, not {want}");
}

/// Worked by hand (any textbook's first example of a line measured in two parts and whole): parts
/// 100.0 and 50.0, whole 150.3, equal weights. The misclosure of 0.3 is shared in thirds; the normal
/// matrix [[2,-1],[-1,2]] has the inverse [[2,1],[1,2]]/3; each redundancy number is 1/3.
#[test]
fn a_line_in_two_parts_by_hand() {
    let out = run(json!({
        "points": {"A": {"xy": [0, 0], "fixed": true}, "B": {"xy": [99, 0], "fixed_y": true},
                   "C": {"xy": [151, 0], "fixed_y": true}},
        "readings": [
            {"id": "ab", "kind": "distance", "from": "A", "to": "B", "value": 100.0, "sd": 1},
            {"id": "bc", "kind": "distance", "from": "B", "to": "C", "value": 50.0, "sd": 1},
            {"id": "ac", "kind": "distance", "from": "A", "to": "C", "value": 150.3, "sd": 1}]
    }));
    near(&out, "/points/B/xy/0", 100.1, 1e-6);
    near(&out, "/points/C/xy/0", 150.2, 1e-6);
    near(&out, "/points/B/sd/0", (2.0_f64 / 3.0).sqrt(), 1e-6);
    near(&out, "/points/C/sd/0", (2.0_f64 / 3.0).sqrt(), 1e-6);
    near(&out, "/readings/0/residual", 0.1, 1e-6);
    near(&out, "/readings/2/residual", -0.1, 1e-6);
    for i in 0..3 {
        near(&out, &format!("/readings/{i}/redundancy"), 1.0 / 3.0, 1e-6);
    }
    // 0.1 / sqrt(1/3); three residuals of 0.1 over one degree of freedom.
    near(&out, "/readings/0/standardized", 0.1 * 3.0_f64.sqrt(), 1e-6);
    near(&out, "/variance_factor", 0.03, 1e-6);
    assert_eq!(out["dof"], 1);
    assert_eq!(out["suspects"], json!([]));
}

/// By hand: weights 1 and 1/4 put the mean of 10 and 15 at 11, with variance 1/(1 + 1/4).
#[test]
fn weights_are_one_over_the_variance() {
    let out = run(json!({
        "points": {"P": {"xy": [0, 0], "fixed_y": true}},
        "readings": [{"id": "a", "kind": "x", "point": "P", "value": 10, "sd": 1},
                     {"id": "b", "kind": "x", "point": "P", "value": 15, "sd": 2}]
    }));
    near(&out, "/points/P/xy/0", 11.0, 1e-9);
    near(&out, "/points/P/sd/0", 0.8_f64.sqrt(), 1e-9);
}

/// A point found by two distances that cross at right angles (3-4-5): its ellipse is a circle of the
/// readings' own noise. With no first guess it lies left of the line of the held points.
#[test]
fn two_distances_place_a_point_on_the_left() {
    let input = |a: &str, b: &str| {
        json!({
            "points": {a: {"xy": [0, 0], "fixed": true}, b: {"xy": [500, 0], "fixed": true}, "P": {}},
            "readings": [{"id": "1", "kind": "distance", "from": a, "to": "P", "value": 300, "sd": 2},
                         {"id": "2", "kind": "distance", "from": b, "to": "P", "value": 400, "sd": 2}]
        })
    };
    let out = run(input("A", "B"));
    near(&out, "/points/P/xy/0", 180.0, 1e-6);
    near(&out, "/points/P/xy/1", 240.0, 1e-6);
    near(&out, "/points/P/ellipse/a", 2.0, 1e-6);
    near(&out, "/points/P/ellipse/b", 2.0, 1e-6);
    assert_eq!(out["dof"], 0);
}

/// First means first in the file, not first in the alphabet.
#[test]
fn the_left_side_follows_the_order_of_the_file() {
    let out = run(serde_json::from_str(
        r#"{"points": {"Z": {"xy": [0, 0], "fixed": true}, "A": {"xy": [-500, 0], "fixed": true}, "P": {}},
        "readings": [{"id": "1", "kind": "distance", "from": "Z", "to": "P", "value": 300, "sd": 2},
                     {"id": "2", "kind": "distance", "from": "A", "to": "P", "value": 400, "sd": 2}]}"#,
    ).unwrap());
    // From Z to A is to the left, so its left side is below.
    near(&out, "/points/P/xy/1", -240.0, 1e-6);
}

/// Offset left of a line and along it, by hand on a line at 30 degrees: 100 along and 40 left.
#[test]
fn offsets_and_alongs() {
    let (c, s) = (30.0_f64.to_radians().cos(), 30.0_f64.to_radians().sin());
    let out = run(json!({
        "points": {"A": {"xy": [10, 20], "fixed": true}, "B": {"xy": [10.0 + 500.0 * c, 20.0 + 500.0 * s], "fixed": true}, "P": {}},
        "readings": [{"id": "o", "kind": "offset", "line": ["A", "B"], "point": "P", "value": 40, "sd": 1},
                     {"id": "a", "kind": "along", "line": ["A", "B"], "point": "P", "value": 100, "sd": 3}]
    }));
    near(&out, "/points/P/xy/0", 10.0 + 100.0 * c - 40.0 * s, 1e-6);
    near(&out, "/points/P/xy/1", 20.0 + 100.0 * s + 40.0 * c, 1e-6);
    // The long axis lies along the line: the sd of `along` is the larger.
    near(&out, "/points/P/ellipse/a", 3.0, 1e-6);
    near(&out, "/points/P/ellipse/b", 1.0, 1e-6);
    near(&out, "/points/P/ellipse/angle", 30.0, 1e-6);
}

/// A braced quadrilateral with all six distances and a slip in one of them.
fn quad(slip: Option<(usize, f64)>, noise: [f64; 6]) -> Value {
    let p: [(&str, [f64; 2]); 4] = [
        ("A", [0.0, 0.0]),
        ("B", [2000.0, 0.0]),
        ("C", [1900.0, 1350.0]),
        ("D", [60.0, 1400.0]),
    ];
    let pairs = [(0, 1), (1, 2), (2, 3), (3, 0), (0, 2), (1, 3)];
    let mut readings = Vec::new();
    for (i, (a, b)) in pairs.iter().enumerate() {
        let d = |k: usize| p[*b].1[k] - p[*a].1[k];
        let mut value = d(0).hypot(d(1)) + noise[i];
        if let Some((at, by)) = slip {
            value += if at == i { by } else { 0.0 };
        }
        readings.push(json!({"id": format!("r{i}"), "kind": "distance", "from": p[*a].0, "to": p[*b].0, "value": value, "sd": 1}));
        // Each line read twice, so that slips can be told apart.
        readings.push(
            json!({"id": format!("s{i}"), "kind": "distance", "from": p[*a].0, "to": p[*b].0,
            "value": d(0).hypot(d(1)) - noise[i], "sd": 1}),
        );
    }
    json!({
        "points": {"A": {"xy": [0, 0], "fixed": true}, "B": {"xy": [2000, 0], "fixed_y": true},
                   "C": {"xy": [1800, 1300]}, "D": {"xy": [100, 1300]}},
        "readings": readings
    })
}

#[rstest]
fn a_slip_is_found_and_left_out(
    #[values(0, 1, 2, 3, 4, 5)] at: usize,
    #[values(25.0, -25.0)] by: f64,
) {
    let out = run(quad(Some((at, by)), [0.4, -0.3, 0.2, 0.5, -0.4, 0.1]));
    assert_eq!(out["suspects"], json!([format!("r{at}")]));
    near(&out, "/points/C/xy/0", 1900.0, 2.0);
    near(&out, "/points/C/xy/1", 1350.0, 2.0);
    // The reading left out is told with its difference.
    near(&out, &format!("/readings/{}/residual", 2 * at), -by, 2.5);
    assert!(out.get("undetermined_check").is_none());
}

#[test]
fn a_clean_network_has_no_suspects() {
    let out = run(quad(None, [0.4, -0.3, 0.2, 0.5, -0.4, 0.1]));
    assert_eq!(out["suspects"], json!([]));
    assert_eq!(out["dof"], 12 - 5);
}

/// Baarda's critical value at 0.001: a standardised residual of 3.28 stays, 3.30 goes (published
/// table of the normal distribution, two-sided: 3.2905). Two readings of one x, difference d, sd 1:
/// w = d / sqrt(2), by hand.
#[rstest]
#[case(3.28, 0)]
#[case(3.30, 2)]
fn the_critical_value(#[case] w: f64, #[case] suspects: usize) {
    let out = run(json!({
        "points": {"P": {"xy": [0, 0], "fixed_y": true}},
        "readings": [{"id": "a", "kind": "x", "point": "P", "value": 100, "sd": 1},
                     {"id": "b", "kind": "x", "point": "P", "value": 100.0 + w * 2.0_f64.sqrt(), "sd": 1}]
    }));
    assert_eq!(out["suspects"].as_array().unwrap().len(), suspects, "{out}");
    if suspects > 0 {
        // Nothing tells the two apart: both are named, one stays, and the deciding reading is asked for.
        assert_eq!(out["undetermined_check"].as_array().unwrap().len(), 1);
        let decide = out["cannot_tell_apart"][0]["decide"].as_str().unwrap();
        assert!(decide.contains("again"), "{decide}");
        assert!(num(&out, "/points/P/xy/0") >= 100.0);
    }
}

#[rstest]
#[case(json!({"points": {"A": {"xy": [0,0], "fixed": true}, "P": {"xy": [5, 5]}}, "readings": [{"id": "1", "kind": "distance", "from": "A", "to": "P", "value": 7, "sd": 1}]}), "/points/P", "P")]
#[case(json!({"points": {"A": {"xy": [0,0], "fixed": true}, "P": {}, "Q": {}}, "readings": [{"id": "1", "kind": "x", "point": "P", "value": 7, "sd": 1}]}), "/points/Q", "Q")]
#[case(json!({"points": {"P": {"xy": [0,0]}, "Q": {"xy": [9, 1]}}, "readings": [{"id": "1", "kind": "distance", "from": "P", "to": "Q", "value": 9, "sd": 1}]}), "/points/P", "Q")]
fn what_is_not_determined_is_named(
    #[case] input: Value,
    #[case] pointer: &str,
    #[case] name: &str,
) {
    let p = refused(input);
    assert_eq!(p.pointer, pointer);
    assert!(p.detail.contains(name), "{}", p.detail);
}

#[rstest]
#[case("/readings/0/sd", json!(0))]
#[case("/readings/0/sd", json!(-1))]
#[case("/readings/0/value", json!(-5))]
#[case("/readings/0/value", json!(1e12))]
#[case("/readings/0/kind", json!("angle"))]
#[case("/readings/0/to", json!("A"))]
#[case("/readings/0/to", json!("nowhere"))]
#[case("/readings/0/line", json!(["A", "B"]))]
#[case("/readings/1/id", json!("r0"))]
#[case("/points/A/xy", json!(null))]
#[case("/points/A/xy/1", json!("x"))]
fn bad_input_is_named(#[case] at: &str, #[case] bad: Value) {
    let mut input = quad(None, [0.0; 6]);
    let (parent, key) = at.rsplit_once('/').unwrap();
    let parent = input.pointer_mut(parent).unwrap();
    match parent {
        Value::Array(a) => a[key.parse::<usize>().unwrap()] = bad,
        other => other[key] = bad,
    }
    assert_eq!(refused(input).pointer, at);
}

/// The same sum of squares, minimised by a general library (test only).
struct Reference {
    x: DVector<f64>,
    points: Vec<Option<usize>>,
    held: Vec<[f64; 2]>,
    readings: Vec<(usize, usize, f64, f64)>,
}

impl Reference {
    fn at(&self, i: usize) -> [f64; 2] {
        match self.points[i] {
            Some(k) => [self.x[k], self.x[k + 1]],
            None => self.held[i],
        }
    }
}

impl LeastSquaresProblem<f64, Dyn, Dyn> for Reference {
    type ResidualStorage = Owned<f64, Dyn>;
    type JacobianStorage = Owned<f64, Dyn, Dyn>;
    type ParameterStorage = Owned<f64, Dyn>;

    fn set_params(&mut self, x: &DVector<f64>) {
        self.x = x.clone();
    }

    fn params(&self) -> DVector<f64> {
        self.x.clone()
    }

    fn residuals(&self) -> Option<DVector<f64>> {
        let each = self.readings.iter().map(|(a, b, d, sd)| {
            let (p, q) = (self.at(*a), self.at(*b));
            ((q[0] - p[0]).hypot(q[1] - p[1]) - d) / sd
        });
        Some(DVector::from_iterator(self.readings.len(), each))
    }

    /// By central differences, so that no formula of the code is repeated.
    fn jacobian(&self) -> Option<DMatrix<f64>> {
        let mut j = DMatrix::zeros(self.readings.len(), self.x.len());
        for k in 0..self.x.len() {
            let moved = |by: f64| {
                let mut x = self.x.clone();
                x[k] += by;
                Reference {
                    x,
                    points: self.points.clone(),
                    held: self.held.clone(),
                    readings: self.readings.clone(),
                }
                .residuals()
                .unwrap()
            };
            j.set_column(k, &((moved(1e-3) - moved(-1e-3)) / 2e-3));
        }
        Some(j)
    }
}

/// A random network: some points held, distances between all pairs that are near.
fn network() -> impl Strategy<Value = (Vec<[f64; 2]>, Vec<f64>)> {
    (5usize..9).prop_flat_map(|n| {
        (
            prop::collection::vec((-30.0..30.0f64, -30.0..30.0f64), n),
            prop::collection::vec(-1.5..1.5f64, n * n),
        )
            .prop_map(|(jitter, noise)| {
                let points = jitter
                    .iter()
                    .enumerate()
                    .map(|(i, (x, y))| [600.0 * (i % 3) as f64 + x, 500.0 * (i / 3) as f64 + y]);
                (points.collect(), noise)
            })
    })
}

fn input(
    points: &[[f64; 2]],
    noise: &[f64],
    map: impl Fn([f64; 2]) -> [f64; 2],
    scale: f64,
) -> Value {
    let mut named = serde_json::Map::new();
    for (i, p) in points.iter().enumerate() {
        let near = [p[0] + if i < 2 { 0.0 } else { 12.0 }, p[1]];
        named.insert(format!("p{i}"), json!({"xy": map(near), "fixed": i < 2}));
    }
    let mut readings = Vec::new();
    for a in 0..points.len() {
        for b in a + 1..points.len() {
            if b < 2 {
                continue;
            }
            let d = (points[a][0] - points[b][0]).hypot(points[a][1] - points[b][1]);
            readings.push(json!({"id": format!("{a}-{b}"), "kind": "distance", "from": format!("p{a}"),
                "to": format!("p{b}"), "value": scale * (d + noise[a * points.len() + b]), "sd": scale * 1.0}));
        }
    }
    json!({"points": named, "readings": readings})
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 40, ..ProptestConfig::default() })]

    /// Coordinates, standard deviations and the sum of squares agree with the independent solver.
    #[test]
    fn agrees_with_a_general_solver((points, noise) in network()) {
        let out = run(input(&points, &noise, |p| p, 1.0));
        let n = points.len();
        let free: Vec<usize> = (2..n).collect();
        let mut reference = Reference {
            x: DVector::from_iterator(2 * free.len(), free.iter().flat_map(|i| [points[*i][0] + 12.0, points[*i][1]])),
            points: (0..n).map(|i| (i >= 2).then(|| 2 * (i - 2))).collect(),
            held: points.clone(),
            readings: vec![],
        };
        for a in 0..n {
            for b in a + 1..n {
                if b >= 2 {
                    let d = (points[a][0] - points[b][0]).hypot(points[a][1] - points[b][1]);
                    reference.readings.push((a, b, d + noise[a * n + b], 1.0));
                }
            }
        }
        prop_assume!(out["suspects"].as_array().unwrap().is_empty());
        let (solved, report) = LevenbergMarquardt::new().minimize(reference);
        prop_assert!(report.termination.was_successful());
        let inverse = { let j = solved.jacobian().unwrap(); (j.transpose() * j).try_inverse().unwrap() };
        for i in free {
            for axis in 0..2 {
                let k = 2 * (i - 2) + axis;
                prop_assert!((num(&out, &format!("/points/p{i}/xy/{axis}")) - solved.x[k]).abs() < 1e-3, "differs");
                prop_assert!((num(&out, &format!("/points/p{i}/sd/{axis}")) - inverse[(k, k)].sqrt()).abs() < 1e-4, "differs");
            }
        }
        let dof = num(&out, "/dof");
        let sum = 2.0 * report.objective_function;
        prop_assert!((num(&out, "/variance_factor") * dof - sum).abs() < 1e-4 * (1.0 + sum), "differs");
        // Redundancy numbers add up to the degrees of freedom.
        let total: f64 = out["readings"].as_array().unwrap().iter().map(|r| r["redundancy"].as_f64().unwrap()).sum();
        prop_assert!((total - dof).abs() < 1e-6, "differs");
    }

    /// Turned and moved, a network keeps its residuals, and its ellipses turn with it.
    #[test]
    fn turning_and_moving_change_nothing((points, noise) in network(), deg in -170.0..170.0f64, dx in -5e3..5e3f64, dy in -5e3..5e3f64) {
        let (c, s) = (deg.to_radians().cos(), deg.to_radians().sin());
        let map = |p: [f64; 2]| [dx + c * p[0] - s * p[1], dy + s * p[0] + c * p[1]];
        let (a, b) = (run(input(&points, &noise, |p| p, 1.0)), run(input(&points, &noise, map, 1.0)));
        for i in 0..a["readings"].as_array().unwrap().len() {
            prop_assert!((num(&a, &format!("/readings/{i}/residual")) - num(&b, &format!("/readings/{i}/residual"))).abs() < 1e-4, "differs");
        }
        for i in 2..points.len() {
            let at = format!("/points/p{i}");
            let moved = map([num(&a, &format!("{at}/xy/0")), num(&a, &format!("{at}/xy/1"))]);
            prop_assert!((moved[0] - num(&b, &format!("{at}/xy/0"))).abs() < 1e-4, "differs");
            prop_assert!((moved[1] - num(&b, &format!("{at}/xy/1"))).abs() < 1e-4, "differs");
            prop_assert!((num(&a, &format!("{at}/ellipse/a")) - num(&b, &format!("{at}/ellipse/a"))).abs() < 1e-6, "differs");
        }
    }

    /// In inches everything is 25.4 times smaller and the judgement the same.
    #[test]
    fn units_change_nothing((points, noise) in network()) {
        let k = 1.0 / 25.4;
        let (a, b) = (run(input(&points, &noise, |p| p, 1.0)), run(input(&points, &noise, |p| [p[0] * k, p[1] * k], k)));
        prop_assert_eq!(&a["suspects"], &b["suspects"]);
        for i in 2..points.len() {
            let at = format!("/points/p{i}/xy/0");
            prop_assert!((num(&a, &at) * k - num(&b, &at)).abs() < 1e-5, "differs");
        }
        for i in 0..a["readings"].as_array().unwrap().len() {
            let at = format!("/readings/{i}/standardized");
            prop_assert!((num(&a, &at) - num(&b, &at)).abs() < 1e-4, "differs");
        }
    }
}
