//! Surveys of very many readings: slips are found in them too, and the solution stays true.

use jigfit_core::project::survey::{Instrument, Quantity, Reading, Side};
use jigfit_core::project::{Project, Units, VehicleKind};
use jigfit_core::survey::model::Model;
use jigfit_core::units::Unit;
use proptest::prelude::*;
use proptest::test_runner::TestRng;
use rstest::rstest;

/// The true wall: a gentle bow along and a lean with a little bend upwards.
fn truth(side: Side, x: f64, z: f64) -> f64 {
    let own = if side == Side::Left { 4.0 } else { -3.0 };
    700.0 + own + 0.000_02 * x * (2000.0 - x) - 0.000_06 * z * z - 0.02 * z
}

struct Chance(TestRng);

impl Chance {
    fn even(&mut self) -> f64 {
        f64::from(self.0.next_u32()) / f64::from(u32::MAX)
    }

    /// Nearly normal with deviation 1: the sum of twelve evenly spread numbers.
    fn normal(&mut self) -> f64 {
        (0..12).map(|_| self.even()).sum::<f64>() - 6.0
    }
}

fn reading(q: Quantity, mm: f64) -> Reading {
    Reading {
        quantity: q,
        typed: format!("{mm:.1}"),
        unit: Unit::Mm,
        when: String::new(),
        instrument: Instrument::Tape,
        soft: false,
        datum: None,
        sd: None,
        aside: false,
        note: String::new(),
    }
}

/// `n` readings of both walls: each place `times` times, or everywhere once.
fn survey(n: usize, times: usize, chance: &mut Chance) -> Project {
    let mut p = Project::start("Many", VehicleKind::BoxTrailer, Units::default());
    for z in [0.0, 500.0] {
        let q = Quantity::Length { z, y: 0.0 };
        p.survey
            .readings
            .insert(format!("l{z}"), reading(q, 2000.0));
    }
    let mut i = 0;
    while p.survey.readings.len() < n {
        let side = if i % 2 == 0 { Side::Left } else { Side::Right };
        let (x, z) = (
            (chance.even() * 1980.0).round(),
            (chance.even() * 500.0).round(),
        );
        for k in 0..times {
            let q = Quantity::Wall { side, x, z };
            let mm = truth(side, x, z) + chance.normal();
            p.survey
                .readings
                .insert(format!("r{i:04}-{k}"), reading(q, mm));
        }
        i += 1;
    }
    p
}

/// 601 readings and more: repeats of one place, or every one of another place. A slip of 25 mm is named,
/// and nothing else is.
#[rstest]
fn a_slip_among_hundreds_is_named(
    #[values((601, 1), (601, 3), (601, 10), (1500, 1))] (n, times): (usize, usize),
    #[values(25.0, -25.0)] slip: f64,
) {
    let mut chance = Chance(TestRng::deterministic_rng(
        proptest::test_runner::RngAlgorithm::ChaCha,
    ));
    for _ in 0..4 {
        let mut p = survey(n, times, &mut chance);
        let clean = Model::new(&p);
        assert!(
            clean.judged.blunders.is_empty(),
            "{:?}",
            clean.judged.blunders
        );
        let ids: Vec<String> = p
            .survey
            .readings
            .keys()
            .filter(|k| k.starts_with('r'))
            .cloned()
            .collect();
        let id = &ids[(chance.even() * (ids.len() - 1) as f64) as usize];
        let r = p.survey.readings.get_mut(id).unwrap();
        let mm: f64 = r.typed.parse().unwrap();
        r.typed = format!("{:.1}", mm + slip);
        let judged = Model::new(&p).judged;
        let named: Vec<&String> = judged.blunders.iter().map(|b| &b.reading).collect();
        assert_eq!(named, [id], "{n} {times}");
    }
}

/// Thinned or not, the walls are where they are: within three of their own deviations, and half a
/// millimetre, of the truth.
#[test]
fn many_readings_tell_the_walls() {
    let mut chance = Chance(TestRng::deterministic_rng(
        proptest::test_runner::RngAlgorithm::ChaCha,
    ));
    let m = Model::new(&survey(3000, 1, &mut chance));
    for side in Side::BOTH {
        for i in 0..20 {
            let (x, z) = (100.0 * f64::from(i), 25.0 * f64::from(i));
            let (mm, sd) = m.wall(side, x, z).unwrap();
            assert!(sd < 1.0, "{sd}");
            let off = (mm - truth(side, x, z)).abs();
            assert!(off < 0.5 + 3.0 * sd, "{off} {sd} at {x} {z}");
        }
    }
}
