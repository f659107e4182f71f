//! Boards held in place as bodies with marks.

use std::collections::BTreeMap;

use super::{ALL, BODIES, Body, Origin, Sight, looked_up, plane};
use crate::geometry::Point;
use crate::project::Project;
use crate::project::fits::{Fit, Says};
use crate::project::templates::{Face, Plane};
use crate::survey::field::Field;

/// Noise of what is seen at the edge of a board: a gap with a rule, what is proud with a pencil, a touch (choices).
const SEEN: [(Says, f64); 3] = [(Says::Gap, 0.5), (Says::Proud, 1.0), (Says::Touches, 0.5)];
/// A board is shoved across until it suits: so far from where it was to lie, mm, and for each m (a choice).
const SHOVED: f64 = 6.0;
/// It lies flush at the threshold, or stands on what carries it: to so much, mm, and for each m (a choice).
const FLUSH: f64 = 1.0;

/// A board that reaches one wall only lies on its mark: to so much, mm, and for each m (a choice).
const ON_MARK: f64 = 3.0;
/// Boards whose planes are nearer than this lie in one plane, mm.
const FLAT: f64 = 2.0;

/// The marks that boards held in place make. Boards of one piece of furniture that lie in one plane, such as the halves
/// of a deck, are pushed together: their n-th rounds are one body. `survey` tells which of a board's two faces a wall
/// meets first.
pub fn fits(project: &Project, survey: &Field) -> Vec<Body> {
    let mut rounds: Vec<(&String, &Fit)> = project.fits.iter().filter(|(_, f)| !f.aside).collect();
    rounds.sort_by(|a, b| (&a.1.when, a.0).cmp(&(&b.1.when, b.0)));
    // Where there are very many, the newest count.
    let mut marks = 0;
    let newest = rounds.iter().rev().take(BODIES).take_while(|(_, f)| {
        marks += f.places.len();
        marks <= ALL
    });
    let kept = newest.count();
    let rounds = rounds.split_off(rounds.len() - kept);
    let mut turn: BTreeMap<&str, usize> = BTreeMap::new();
    let mut bodies: Vec<(Group, Vec<(&String, &Fit)>)> = Vec::new();
    for (id, fit) in rounds {
        let Some(plane) = plane(&fit.pose) else {
            continue;
        };
        let n = turn.entry(&fit.board).or_default();
        let own = Group {
            module: fit.board.split('/').next().unwrap_or_default(),
            plane,
            lies: plane.flat(fit.pose.origin).1,
            round: *n,
        };
        *n += 1;
        match bodies.iter_mut().find(|(g, _)| g.with(&own)) {
            Some((_, list)) => list.push((id, fit)),
            None => bodies.push((own, vec![(id, fit)])),
        }
    }
    bodies
        .into_iter()
        .map(|(g, list)| body(g.plane, &list, survey))
        .collect()
}

/// What boards have in common that lie pushed together.
struct Group<'a> {
    module: &'a str,
    plane: Plane,
    lies: f64,
    round: usize,
}

impl Group<'_> {
    fn with(&self, other: &Group) -> bool {
        self.module == other.module
            && self.plane == other.plane
            && self.round == other.round
            && (self.lies - other.lies).abs() < FLAT
    }
}

fn body(plane: Plane, rounds: &[(&String, &Fit)], survey: &Field) -> Body {
    let each = rounds.iter();
    let sights: Vec<Sight> = each
        .flat_map(|(id, f)| sights(id, f, plane, survey))
        .collect();
    let n = sights.len().max(1) as f64;
    let mean = |k: usize| sights.iter().map(|s| s.at[k]).sum::<f64>() / n;
    let sees = |face| sights.iter().any(|s| s.face == face);
    let across = match sees(Face::Left) && sees(Face::Right) {
        true => SHOVED,
        false => ON_MARK,
    };
    Body {
        origin: Origin::Fit,
        ids: rounds.iter().map(|r| r.0.clone()).collect(),
        plane,
        middle: [mean(0), mean(1)],
        sd: match plane {
            Plane::Level => [FLUSH, across, across],
            Plane::Across => [across, FLUSH, FLUSH],
        },
        sights,
    }
}

fn sights(id: &str, f: &Fit, plane: Plane, survey: &Field) -> Vec<Sight> {
    let own = f.places.iter().filter(|(_, p)| !p.aside);
    let own = own.filter_map(|(key, p)| {
        let gap = p.gap()?;
        let faces = [0.0, f.thickness].map(|t| f.pose.at(p.at[0], p.at[1], t));
        let ends = faces.map(|p| plane.flat(p));
        // Seen from above, and from behind; a touch is where the face comes first.
        let free = |(at, w): (Point, f64)| survey.value(&[looked_up(p.of, plane, at, w).1]);
        let (at, w) = ends[match p.says {
            Says::Touches => usize::from(free(ends[1]) <= free(ends[0])),
            Says::Gap | Says::Proud => plane.seen(faces),
        }];
        let along = |k: usize| p.out[0] * f.pose.u[k] + p.out[1] * f.pose.v[k];
        let noise = SEEN.iter().find(|s| s.0 == p.says);
        Some(Sight {
            of: id.into(),
            id: key.clone(),
            face: p.of,
            at,
            plane: w,
            out: plane.flat([along(0), along(1), along(2)]).0,
            gap,
            sd: noise.map_or(1.0, |s| s.1),
        })
    });
    own.collect()
}
