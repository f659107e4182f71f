//! Bodies followed along their way, against the plain way of it: every point of every board at every look, held against every
//! other board and the vehicle. Boards are those of the demos, ways at random.

use jigfit_core::furniture::built::{Motion, Vec3};
use jigfit_core::motion::{follow, met};
use jigfit_core::solids::Solid;
use jigfit_core::survey::model::Model;
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use rstest::rstest;

use crate::common::*;

/// Looks at the vehicle, degrees or mm; how far a point goes between two looks at boards, and what counts as not having left, mm.
const LOOKS: [f64; 2] = [1.0, 20.0];
const BOARDS: f64 = 5.0;
const REST: f64 = 1.0;

fn apart(a: Vec3, b: Vec3) -> f64 {
    (0..3).map(|k| (a[k] - b[k]).powi(2)).sum::<f64>().sqrt()
}

/// How far it comes before the vehicle, and before a board and which.
fn plainly<'s, 'b>(
    model: &Model,
    motion: &Motion,
    own: &[Solid],
    rest: &[&'s Solid<'b>],
) -> (Option<f64>, Option<(f64, &'s Solid<'b>)>) {
    let to = motion.whole();
    let points: Vec<Vec3> = own.iter().flat_map(Solid::points).collect();
    let left = |p: &Vec3, by: f64| {
        let now = motion.moved(*p, by);
        (apart(now, *p) > REST).then_some(now)
    };
    let (step, way) = match motion {
        Motion::Turn { at, about, .. } => {
            let radius = |p: &Vec3| {
                let from: Vec3 = std::array::from_fn(|k| p[k] - at[k]);
                let along: f64 = (0..3).map(|k| from[k] * about[k]).sum();
                (0..3)
                    .map(|k| (from[k] - along * about[k]).powi(2))
                    .sum::<f64>()
                    .sqrt()
            };
            let widest = points.iter().map(radius).fold(0.0, f64::max);
            (LOOKS[0], widest * to.to_radians())
        }
        _ => (LOOKS[1], to),
    };
    let n = (to / step).ceil() as usize;
    let vehicle = (1..=n).find(|i| {
        let by = to * *i as f64 / n as f64;
        let mut all = points.iter().filter_map(|p| left(p, by));
        all.any(|p| met(model, p).is_some())
    });
    let fine = (way / BOARDS).ceil() as usize;
    let board = (1..=fine).find_map(|i| {
        let by = to * i as f64 / fine as f64;
        let mut all = points.iter().filter_map(|p| left(p, by));
        let hit = all.find_map(|p| rest.iter().find(|s| s.holds(p)).copied())?;
        Some((to * (i - 1) as f64 / fine as f64, hit))
    });
    (vehicle.map(|i| to * (i - 1) as f64 / n as f64), board)
}

fn at_random(rng: &mut ChaCha8Rng, own: &[Solid]) -> Motion {
    let mut unit = || -> Vec3 {
        // Along an axis as often as askew: most things that move do.
        if rng.random_bool(0.5) {
            let (k, sign) = (rng.random_range(0..3), [-1.0, 1.0][rng.random_range(0..2)]);
            return std::array::from_fn(|i| if i == k { sign } else { 0.0 });
        }
        let v: Vec3 = std::array::from_fn(|_| rng.random_range(-1.0..1.0_f64));
        let long = apart(v, [0.0; 3]).max(1e-3);
        v.map(|x| x / long)
    };
    let along = unit();
    let level = {
        let long = (along[0] * along[0] + along[1] * along[1]).sqrt();
        if long > 1e-6 {
            [along[0] / long, along[1] / long, 0.0]
        } else {
            [1.0, 0.0, 0.0]
        }
    };
    let (low, high) = (own[0].low, own[0].high);
    match rng.random_range(0..3) {
        0 => Motion::Slide {
            along,
            travel: rng.random_range(30.0..900.0),
        },
        1 => Motion::Over {
            up: rng.random_range(5.0..150.0),
            along: level,
            travel: rng.random_range(0.0..700.0),
        },
        _ => Motion::Turn {
            at: std::array::from_fn(|k| rng.random_range(low[k]..=high[k])),
            about: along,
            most: rng.random_range(20.0..180.0),
        },
    }
}

#[rstest]
#[case("moth", 11)]
#[case("kingfisher", 12)]
#[case("wren", 13)]
fn what_is_left_out_changes_nothing(#[case] name: &str, #[case] seed: u64) {
    let doc = demo(name);
    let (project, plan) = (project(&doc), plan(&doc));
    let model = Model::new(&project);
    let solids: Vec<Solid> = plan.boards.iter().map(|b| Solid::at(b, b.shut)).collect();
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let mut stopped = [0, 0, 0];
    for _ in 0..80 {
        let first = rng.random_range(0..solids.len());
        // A board alone, or one and those that lie next to it in the list.
        let many = rng.random_range(1..=4).min(solids.len() - first);
        let own: Vec<Solid> = solids[first..first + many].to_vec();
        let outside = |i: &usize| *i < first || *i >= first + many;
        let rest: Vec<&Solid> = (0..solids.len())
            .filter(outside)
            .map(|i| &solids[i])
            .collect();
        let motion = at_random(&mut rng, &own);
        let stop = follow(
            (&project, &model, 0.0),
            &motion,
            (&own, &rest),
            (0.0, motion.whole()),
        );
        let (vehicle, board) = plainly(&model, &motion, &own, &rest);
        let least = match (vehicle, board) {
            (Some(v), Some((b, _))) => Some(v.min(b)),
            (v, b) => v.or(b.map(|b| b.0)),
        };
        match (&stop, least) {
            (None, None) => stopped[0] += 1,
            (Some(s), Some(by)) => {
                assert!((s.by - by).abs() < 1e-6, "{motion:?}: {s:?}, plainly {by}");
                let by_board = board.is_some_and(|b| vehicle.is_none_or(|v| b.0 <= v));
                assert_eq!(s.met == jigfit_core::furniture::built::Met::Board, by_board);
                if let Some((_, hit)) = board.filter(|_| by_board) {
                    assert!(s.what.contains(&hit.board.mark), "{s:?}: {}", hit.board.id);
                }
                stopped[if by_board { 2 } else { 1 }] += 1;
            }
            _ => panic!("{motion:?}: {stop:?}, plainly {least:?}"),
        }
    }
    // All three ends of a way came up.
    assert!(stopped.iter().all(|n| *n > 3), "{stopped:?}");
}
