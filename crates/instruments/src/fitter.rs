//! A person who holds a board in its place in a vehicle and says how much air there is along its edge.

use jigfit_core::plan::Plan;
use jigfit_core::project::Project;
use jigfit_core::project::fits::{FitPlace, Says};
use jigfit_core::project::survey::Side;
use jigfit_core::project::templates::Face;
use jigfit_core::testfit::{FitBoard, Place};
use rand_distr::{Distribution, StandardNormal};

use crate::tape::stream;
use crate::vehicle::Vehicle;

/// How a person sees a gap.
#[derive(Debug, Clone, Copy)]
pub struct Eye {
    /// Noise of a gap, mm.
    pub noise: f64,
    /// Seed of all chance.
    pub seed: u64,
}

/// A place on a board: where it is seen, outwards, the face it runs along.
pub type Spot = ([f64; 3], [f64; 3], Face);

/// True air from a place to its face, square to the edge, mm.
pub fn air(v: &Vehicle, (p, out, of): Spot) -> Option<f64> {
    Some(match of {
        Face::Left => (v.wall(Side::Left, p[0], p[2])? - p[1]) * out[1],
        Face::Right => -(v.wall(Side::Right, p[0], p[2])? + p[1]) * out[1],
        Face::Front => (v.front(p[1], p[2])? - p[0]) * out[0],
    })
}

/// Shoves a board until the air is shared evenly between the walls: how far across, and how much it is turned, mm
/// for each m about the middle of the places. Returned are the places after that, with their air.
pub fn shoved(v: &Vehicle, spots: &[Spot]) -> Vec<(Spot, f64)> {
    let n = spots.len().max(1) as f64;
    let x0 = spots.iter().map(|s| s.0[0]).sum::<f64>() / n;
    let mut at = spots.to_vec();
    // Small steps: half of what is too much on one side, and half of what it turns.
    for _ in 0..60 {
        let gaps: Vec<(Spot, f64)> = at
            .iter()
            .filter(|s| s.2 != Face::Front)
            .filter_map(|s| Some((*s, air(v, *s)?)))
            .collect();
        let m = gaps.len().max(1) as f64;
        let mean = gaps.iter().map(|g| g.1).sum::<f64>() / m;
        let shift = gaps.iter().map(|(s, g)| (g - mean) * s.1[1]).sum::<f64>() / m;
        let lever: f64 = gaps.iter().map(|(s, _)| (s.0[0] - x0).powi(2)).sum();
        let turn = gaps
            .iter()
            .map(|(s, g)| (g - mean) * s.1[1] * (s.0[0] - x0))
            .sum::<f64>()
            / lever.max(1.0);
        for s in &mut at {
            s.0[1] += 0.5 * (shift + turn * (s.0[0] - x0));
        }
    }
    let each = at.into_iter().filter_map(|s| Some((s, air(v, s)?)));
    each.collect()
}

/// Begins a round with a board of the plan.
pub fn begin(project: &mut Project, board: &FitBoard, id: &str) {
    let mut fit = board.fresh.clone();
    fit.when = id.into();
    project.fits.insert(id.into(), fit);
}

/// What is read off a rule, to half a millimetre: a gap that differs by no more from what the places beside it lead one to
/// expect does not catch the eye, nor one that differs by no more than twice the noise of seeing it, mm.
const HALF: f64 = 0.5;

/// Looks at every place of the round and says what is there; and between two of them, where the gap is widest or
/// narrowest, if that catches the eye.
pub fn look(v: &Vehicle, project: &mut Project, plan: &Plan, id: &str, eye: &Eye) {
    let mut chance = stream(eye.seed, 91);
    let round = plan
        .fits
        .iter()
        .flat_map(|b| &b.rounds)
        .find(|r| r.id == id);
    let (Some(round), Some(fit)) = (round, project.fits.get_mut(id)) else {
        return;
    };
    let spot = |a: &FitPlace| -> Spot {
        let (low, high) = (
            fit.pose.at(a.at[0], a.at[1], 0.0),
            fit.pose.at(a.at[0], a.at[1], fit.thickness),
        );
        // Seen from above; what stands across, from behind.
        let p = match (high[2] - low[2]).abs() > 1e-6 {
            true if high[2] > low[2] => high,
            false if high[0] < low[0] => high,
            _ => low,
        };
        let way = [0, 1, 2].map(|k| a.out[0] * fit.pose.u[k] + a.out[1] * fit.pose.v[k]);
        (p, way, a.of)
    };
    let all: Vec<&Place> = round.places.iter().chain(&round.between).collect();
    let spots: Vec<Spot> = all.iter().map(|p| spot(&p.answer)).collect();
    let seen: Vec<f64> = shoved(v, &spots).iter().map(|s| s.1).collect();
    if seen.len() < all.len() {
        return;
    }
    let (usual, between) = all.split_at(round.places.len());
    let mut looked: Vec<(&Place, f64)> = usual.iter().copied().zip(seen.iter().copied()).collect();
    let other: Vec<(&Place, f64)> = between
        .iter()
        .copied()
        .zip(seen[usual.len()..].iter().copied())
        .collect();
    let pairs: Vec<_> = looked.windows(2).map(|w| [w[0], w[1]]).collect();
    looked.extend(
        pairs
            .iter()
            .filter_map(|pair| striking(pair, &other, (2.0 * eye.noise).max(HALF))),
    );
    let mut answers = Vec::new();
    for (place, true_air) in looked {
        let noise: f64 = StandardNormal.sample(&mut chance);
        let mm = ((true_air + eye.noise * noise) * 2.0).round() / 2.0;
        let (says, mm) = match mm {
            m if m > 0.25 => (Says::Gap, Some(m)),
            m if m < -0.25 => (Says::Proud, Some(-m)),
            _ => (Says::Touches, None),
        };
        answers.push((
            place.key.clone(),
            FitPlace {
                says,
                mm,
                ..place.answer.clone()
            },
        ));
    }
    fit.places.extend(answers);
}

/// The place between two others where the gap differs most from what they lead one to expect, if that catches the eye.
fn striking<'a>(
    pair: &[(&'a Place, f64); 2],
    between: &[(&'a Place, f64)],
    catches: f64,
) -> Option<(&'a Place, f64)> {
    let [(a, gap_a), (b, gap_b)] = *pair;
    let (p, q) = (a.answer.at, b.answer.at);
    let d = [q[0] - p[0], q[1] - p[1]];
    let long = d[0].hypot(d[1]);
    if a.answer.of != b.answer.of || long < 1.0 {
        return None;
    }
    let off = |(place, gap): &&(&'a Place, f64)| {
        let r = [place.answer.at[0] - p[0], place.answer.at[1] - p[1]];
        let along = (r[0] * d[0] + r[1] * d[1]) / long;
        let beside = (r[0] * d[1] - r[1] * d[0]).abs() / long;
        let own = place.answer.of == a.answer.of && along > 0.0 && along < long && beside < 40.0;
        own.then(|| (gap - gap_a - (gap_b - gap_a) * along / long).abs())
    };
    let all = between.iter().filter_map(|s| Some((s, off(&s)?)));
    let most = all.max_by(|a, b| a.1.total_cmp(&b.1))?;
    (most.1 > catches).then_some(*most.0)
}
