//! The survey's adjustment against what it is said to be: a smoothing spline, worked out here in
//! quite another way, and properties that hold whatever is measured.

use jigfit_core::project::survey::Side;
use jigfit_core::survey::field::{Equation, Field};
use jigfit_core::survey::signal::{Bend, Places, Ridges, Signal, Term, covariance};
use nalgebra::{DMatrix, DVector};
use proptest::prelude::*;
use rstest::rstest;

const LEFT: Signal = Signal::Wall(Side::Left);
const RIGHT: Signal = Signal::Wall(Side::Right);

fn wall(x: f64, z: f64) -> Vec<Term> {
    vec![Term::new(1.0, LEFT, x, z)]
}

fn read(name: &str, terms: Vec<Term>, value: f64, sd: f64) -> Equation {
    Equation {
        reading: name.into(),
        key: name.into(),
        value,
        sd,
        terms,
        of: 1,
        body: false,
    }
}

/// Readings of a wall at one height.
fn along(points: &[(f64, f64)], sd: f64) -> Vec<Equation> {
    points
        .iter()
        .map(|(x, y)| read(&format!("x{x}"), wall(*x, 0.0), *y, sd))
        .collect()
}

const BULGING: [(f64, f64); 7] = [
    (0.0, 690.0),
    (300.0, 701.5),
    (600.0, 709.0),
    (900.0, 712.5),
    (1200.0, 710.0),
    (1600.0, 698.0),
    (2000.0, 676.0),
];

/// The curve on a grid of 10 mm that minimises misfit over sd2 plus curvature over bend2: the
/// smoothing spline of Schoenberg and Reinsch, of which Kimeldorf and Wahba (1970) showed that it is
/// the best estimate under an integrated random walk (from memory).
fn smoothing_spline(points: &[(f64, f64)], sd: f64, bend: f64) -> Vec<f64> {
    let (step, n) = (0.01, 201);
    let mut a = DMatrix::<f64>::zeros(n, n);
    let mut b = DVector::<f64>::zeros(n);
    for (x, y) in points {
        let i = (x / 10.0).round() as usize;
        a[(i, i)] += sd.powi(-2);
        b[i] += y * sd.powi(-2);
    }
    // Integral of the squared second derivative, metres.
    let weight = step / bend.powi(2) / step.powi(4);
    for i in 1..n - 1 {
        for (p, u) in [(i - 1, 1.0), (i, -2.0), (i + 1, 1.0)] {
            for (q, v) in [(i - 1, 1.0), (i, -2.0), (i + 1, 1.0)] {
                a[(p, q)] += weight * u * v;
            }
        }
    }
    let solved = a.lu().solve(&b).unwrap();
    solved.iter().copied().collect()
}

#[rstest]
#[case(1.0, 25.0)]
#[case(1.0, 150.0)]
#[case(3.0, 25.0)]
#[case(0.5, 150.0)]
fn a_wall_is_a_smoothing_spline(#[case] sd: f64, #[case] along_bend: f64) {
    let bend = Bend {
        along: along_bend,
        ..Bend::USUAL
    };
    let field = Field::new(along(&BULGING, sd), Ridges::default(), bend);
    let other = smoothing_spline(&BULGING, sd, along_bend);
    for (i, y) in other.iter().enumerate().step_by(5) {
        let mine = field.value(&wall(10.0 * i as f64, 0.0));
        // The covariance holds a wall's lean to some 300 mm a metre; the spline to nothing.
        assert!((mine - y).abs() < 0.15, "at {}: {mine} and {y}", 10 * i);
    }
}

/// A straight wall read at its ends: the middle is the mean, and its variance half of one reading's
/// plus what the wall may bend there. By hand: with no bend at all, sd / sqrt 2.
#[test]
fn the_middle_of_a_straight_wall() {
    let stiff = Bend {
        along: 1e-3,
        up: 1e-3,
        ..Bend::USUAL
    };
    let ends = along(&[(0.0, 700.0), (2000.0, 690.0)], 1.0);
    let field = Field::new(ends, Ridges::default(), stiff);
    let (mm, sd) = field.at(&wall(1000.0, 0.0));
    assert!((mm - 695.0).abs() < 0.01, "{mm}");
    assert!((sd - 0.5_f64.sqrt()).abs() < 0.01, "{sd}");
    // Beyond the ends it runs on straight, ever less sure: at 3000, sqrt(0.5^2 + 1.5^2) = 1.58.
    let (mm, sd) = field.at(&wall(3000.0, 0.0));
    assert!((mm - 685.0).abs() < 0.05, "{mm}");
    assert!((sd - 2.5_f64.sqrt()).abs() < 0.03, "{sd}");
}

/// A marked crease turns sharply however stiff the wall is: 700 to the crease at 1000, then 20 in on
/// 500.
#[test]
fn a_crease_turns() {
    let points = [
        (0.0, 700.0),
        (500.0, 700.0),
        (1000.0, 700.0),
        (1500.0, 680.0),
        (2000.0, 660.0),
    ];
    let stiff = Bend {
        along: 1.0,
        ..Bend::USUAL
    };
    let creased = Ridges {
        x: vec![(Some(Side::Left), 1000.0)],
        ..Ridges::default()
    };
    let field = Field::new(along(&points, 0.5), creased, stiff);
    for (x, y) in [
        (250.0, 700.0),
        (900.0, 700.0),
        (1250.0, 690.0),
        (1900.0, 664.0),
    ] {
        let mine = field.value(&wall(x, 0.0));
        assert!((mine - y).abs() < 0.4, "at {x}: {mine}");
    }
    // A crease of the other wall turns nothing here.
    let other = Ridges {
        x: vec![(Some(Side::Right), 1000.0)],
        ..Ridges::default()
    };
    let rounded = Field::new(along(&points, 0.5), other, stiff).value(&wall(1000.0, 0.0));
    assert!((rounded - 700.0).abs() > 2.0, "{rounded}");
}

/// The strength of the bends is found: from a straight wall a small one, from a bowed one a large.
#[test]
fn bends_are_found_from_the_readings() {
    let wave = |size: f64| -> Vec<(f64, f64)> {
        (0..11)
            .map(|i| {
                let x = 200.0 * f64::from(i);
                // Tenths that are no pattern, as a tape would give them.
                let noise =
                    [0.3, -0.5, 0.1, 0.6, -0.4, -0.2, 0.5, -0.6, 0.2, 0.4, -0.3][i as usize];
                (x, 700.0 + size * (x / 400.0).sin() + noise)
            })
            .collect()
    };
    let found = |size| {
        Field::fitted(along(&wave(size), 0.5), Ridges::default())
            .bend()
            .along
    };
    assert!(found(0.0) < found(8.0) && found(8.0) < found(40.0));
    assert!(found(0.0) <= 10.0 && found(40.0) >= 60.0);
}

/// A front that is straight over three heights is known between them better than one that is not.
#[test]
fn a_crooked_front_is_less_sure() {
    let front = |y: f64, z: f64| vec![Term::new(1.0, Signal::Front, y, z)];
    let creases = Ridges {
        square: true,
        z: vec![(None, 120.0), (None, 250.0), (None, 350.0)],
        ..Ridges::default()
    };
    let sd_between = |middle: f64| {
        let readings = [(0.0, 2000.0), (250.0, middle), (450.0, 1982.0)];
        let all = readings
            .iter()
            .map(|(z, x)| read(&format!("z{z}"), front(0.0, *z), *x, 1.0));
        Field::fitted(all.collect(), creases.clone())
            .at(&front(0.0, 350.0))
            .1
    };
    let (straight, crooked) = (sd_between(1990.0), sd_between(1950.0));
    assert!(straight < 2.0, "{straight}");
    assert!(crooked > 3.0 * straight, "{crooked}");
}

/// Redundancy numbers add up to the degrees of freedom: n readings of one number have n - 1.
#[rstest]
#[case(2)]
#[case(3)]
#[case(7)]
fn redundancies_add_up(#[case] n: usize) {
    let number = vec![Term::new(1.0, Signal::Number(0), 0.0, 0.0)];
    let all = (0..n)
        .map(|i| read(&format!("r{i}"), number.clone(), 500.0 + i as f64, 1.0))
        .collect();
    let field = Field::new(all, Ridges::default(), Bend::USUAL);
    let standings = field.standings();
    let sum: f64 = standings.iter().map(|s| s.redundancy).sum();
    assert!((sum - (n as f64 - 1.0)).abs() < 1e-3, "{sum}");
    // By hand: the others' mean less its own.
    let others = (1..n).map(|i| 500.0 + i as f64).sum::<f64>() / (n as f64 - 1.0);
    assert!((standings[0].off - (others - 500.0)).abs() < 1e-2);
    assert!(
        standings
            .iter()
            .all(|s| s.redundancy >= 0.0 && s.redundancy <= 1.0)
    );
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]

    /// What is measured once more is never less sure, anywhere.
    #[test]
    fn a_reading_never_adds_doubt(
        xs in proptest::collection::vec(0.0..2000.0_f64, 3..9),
        at in 0.0..2000.0_f64,
        z in 0.0..400.0_f64,
        more in 0.0..2000.0_f64,
    ) {
        let few: Vec<Equation> = xs.iter().enumerate()
            .map(|(i, x)| read(&format!("r{i}"), wall(*x, 100.0 * (i % 4) as f64), 700.0, 1.0))
            .collect();
        let mut many = few.clone();
        many.push(read("more", wall(more, 200.0), 700.0, 1.0));
        let sd = |all| Field::new(all, Ridges::default(), Bend::USUAL).at(&wall(at, z)).1;
        prop_assert!(sd(many) <= sd(few) + 1e-6);
    }

    /// Everything further out by so much: the whole wall is, and as sure as before.
    #[test]
    fn a_wider_vehicle_is_wider_everywhere(
        ys in proptest::collection::vec(600.0..720.0_f64, 5),
        by in -50.0..50.0_f64,
        at in 0.0..2000.0_f64,
    ) {
        let of = |shift: f64| {
            let points: Vec<(f64, f64)> = ys.iter().enumerate()
                .map(|(i, y)| (500.0 * i as f64, y + shift)).collect();
            Field::new(along(&points, 1.0), Ridges::default(), Bend::USUAL).at(&wall(at, 0.0))
        };
        let (here, there) = (of(0.0), of(by));
        prop_assert!((there.0 - here.0 - by).abs() < 0.02, "{} and {}", here.0, there.0);
        prop_assert!((there.1 - here.1).abs() < 1e-9);
    }

    /// Walls that are not alike share nothing: what is read on the left says nothing of the right.
    #[test]
    fn unlike_sides_are_independent(y in 500.0..900.0_f64, x in 0.0..2000.0_f64) {
        let right = vec![Term::new(1.0, RIGHT, x, 0.0)];
        let base = vec![read("r", vec![Term::new(1.0, RIGHT, 500.0, 0.0)], 700.0, 1.0)];
        let mut both = base.clone();
        both.push(read("l", wall(x, 0.0), y, 1.0));
        let unlike = Bend { alike: 0.0, ..Bend::USUAL };
        let at = |all| Field::new(all, Ridges::default(), unlike).at(&right);
        let (alone, with) = (at(base), at(both));
        prop_assert!((alone.0 - with.0).abs() < 1e-6 && (alone.1 - with.1).abs() < 1e-9);
    }

    /// Two walls read at the same places are as good as their sum and their difference, each for itself: curves of the sum
    /// are (1 + alike) times as strong in variance, those of the difference (1 - alike) times (the eigenvectors of two
    /// variables that go together by one number; from memory).
    #[test]
    fn alike_walls_are_their_sum_and_their_difference(
        ys in proptest::collection::vec(600.0..720.0_f64, 10),
        alike in 0.1..0.98_f64,
        at in 0.0..2000.0_f64,
    ) {
        let place = |i: usize| (450.0 * i as f64, 200.0 * (i % 3) as f64);
        let term = |signal, (x, z): (f64, f64)| vec![Term::new(1.0, signal, x, z)];
        let one = |signal, values: Vec<f64>| -> Vec<Equation> {
            values.into_iter().enumerate()
                .map(|(i, y)| read(&format!("{signal:?} {i}"), term(signal, place(i)), y, 1.0)).collect()
        };
        let (left, right) = ys.split_at(5);
        let mut both = one(LEFT, left.to_vec());
        both.extend(one(RIGHT, right.to_vec()));
        let usual = Bend { alike, ..Bend::USUAL };
        let (mm, sd) = Field::new(both, Ridges::default(), usual).at(&term(LEFT, (at, 100.0)));
        let part = |sign: f64| {
            let values = left.iter().zip(right).map(|(l, r)| (l + sign * r) / 2.0_f64.sqrt());
            let by = (1.0 + sign * alike).sqrt();
            let bend = Bend { along: by * usual.along, up: by * usual.up, ..usual };
            Field::new(one(LEFT, values.collect()), Ridges::default(), bend).at(&term(LEFT, (at, 100.0)))
        };
        let (sum, difference) = (part(1.0), part(-1.0));
        prop_assert!((mm - (sum.0 + difference.0) / 2.0_f64.sqrt()).abs() < 1e-3);
        prop_assert!((sd - (sum.1.powi(2) + difference.1.powi(2)).sqrt() / 2.0_f64.sqrt()).abs() < 1e-3);
    }
}

/// Both walls, the right one bent as `right` says.
fn both_walls(right: impl Fn(f64, f64) -> f64) -> Vec<Equation> {
    let places = (0..9).flat_map(|i| [0.0, 250.0, 500.0].map(|z| (250.0 * f64::from(i), z)));
    places
        .flat_map(|(x, z)| {
            let read = |s, y| {
                read(
                    &format!("{s:?} {x} {z}"),
                    vec![Term::new(1.0, s, x, z)],
                    y,
                    1.0,
                )
            };
            [read(LEFT, bulge(x, z)), read(RIGHT, right(x, z))]
        })
        .collect()
}

/// A wall that bends out by some 60 mm along and in again above 250.
fn bulge(x: f64, z: f64) -> f64 {
    700.0 + 60.0 * (x / 700.0).sin() - 0.0004 * (z - 250.0).max(0.0).powi(2) * (1.0 + x / 4000.0)
}

/// How far walls are alike is found from the readings: mirrored ones are, those that bend each in its own way are not.
#[test]
fn how_far_walls_are_alike_is_found() {
    let found = |all| Field::fitted(all, Ridges::default()).bend().alike;
    let mirrored = found(both_walls(|x, z| bulge(x, z) - 12.0 + 0.004 * x));
    let unlike = found(both_walls(|x, z| {
        690.0 + 60.0 * (x / 250.0 + 2.0).sin() + 0.0005 * z * z
    }));
    assert!(mirrored > 0.95, "{mirrored}");
    assert!(unlike < 0.5, "{unlike}");
}

/// A wall read at its ends and once between is known nearly as well between as the other, if that was read closely and
/// bends alike: to less than half of the doubt.
#[test]
fn the_other_wall_tells_how_this_one_bends() {
    let right = |x: f64, z: f64| bulge(x, z) - 12.0 + 0.004 * x;
    let mut all = both_walls(right);
    let few = |e: &Equation| [0.0, 1000.0, 2000.0].contains(&e.terms[0].u);
    all.retain(|e| e.terms[0].signal == LEFT || few(e));
    let at = [Term::new(1.0, RIGHT, 1500.0, 250.0)];
    let alone: Vec<Equation> = all
        .iter()
        .filter(|e| e.terms[0].signal == RIGHT)
        .cloned()
        .collect();
    let (mm, sd) = Field::fitted(all, Ridges::default()).at(&at);
    let (_, alone) = Field::fitted(alone, Ridges::default()).at(&at);
    let truth = right(1500.0, 250.0);
    assert!(
        (mm - truth).abs() < 3.0 && sd < 3.0,
        "{mm} of {truth}, {sd}"
    );
    assert!(alone > 2.0 * sd, "{alone} against {sd}");
}

/// Told of all places at once or of each by itself: the same to the last bit, so that no survey is led elsewhere by it.
#[rstest]
#[case(Bend::USUAL, false)]
#[case(Bend::USUAL, true)]
#[case(Bend::FREE, false)]
fn all_places_at_once_are_one_by_one(#[case] bend: Bend, #[case] apart: bool) {
    let ridges = Ridges {
        apart,
        x: vec![(None, 400.0), (Some(Side::Left), 900.0)],
        z: vec![(Some(Side::Right), 250.0), (None, 350.0)],
        ..Ridges::default()
    };
    let spots: Vec<(f64, f64)> = (0..40)
        .map(|i| (f64::from(i * 53 % 2000), f64::from(i * 31 % 700) - 100.0))
        .collect();
    let on = |side, (u, v): &(f64, f64)| Term::new(1.0, Signal::Wall(side), *u, *v);
    for side in Side::BOTH {
        let mut places = Places::default();
        spots.iter().for_each(|p| places.push(&on(side, p)));
        for (other, at) in Side::BOTH.into_iter().zip([(1234.0, 321.0), (77.0, 555.0)]) {
            let t = on(other, &at);
            let all = places.with(side, (other, &t), bend, &ridges);
            let alone = spots
                .iter()
                .map(|p| covariance(&on(side, p), &t, bend, &ridges));
            assert_eq!(all, alone.collect::<Vec<f64>>());
        }
    }
}

/// A field that was asked for more places than it keeps answers as one that is asked for the first time.
#[test]
fn an_answer_does_not_hang_on_what_was_asked_before() {
    let readings = || {
        let one = |i: u32| {
            let x = f64::from(i) * 150.0;
            read(&i.to_string(), wall(x, 0.0), 700.0 + (x / 300.0).sin(), 1.0)
        };
        (0..12).map(one).collect::<Vec<_>>()
    };
    let asked = Field::new(readings(), Ridges::default(), Bend::USUAL);
    let at = |i: u32| wall(f64::from(i % 97) * 17.0, f64::from(i) * 0.01);
    for i in 0..100_000 {
        asked.value(&at(i));
    }
    for i in [0, 5, 49_999, 99_999] {
        let new = Field::new(readings(), Ridges::default(), Bend::USUAL);
        assert_eq!(asked.value(&at(i)), new.value(&at(i)));
        assert_eq!(asked.at(&at(i)), new.at(&at(i)));
    }
}
