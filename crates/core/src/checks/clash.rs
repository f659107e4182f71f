//! Do boards of different furniture share space, and does any stick out of the vehicle?

use std::collections::{BTreeMap, BTreeSet};

use super::{Ctx, Finding, Severity};
use crate::geometry::pose::Vec3;
use crate::project::states::{State, in_order};
use crate::project::survey::Side;
use crate::solids::{Solid, clashing};

/// So many places round a board are held against the vehicle, at both faces, besides those furthest out.
const LOOKED_AT: usize = 8;
/// A board that sticks out by less is a matter of fitting, mm.
const OUT: f64 = 2.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let states = in_order(&ctx.project.states);
    let solids = |state: &str| -> Vec<Solid> {
        let boards = ctx.boards.iter();
        boards.filter_map(|b| Solid::new(b, state)).collect()
    };
    let Some((first, rest)) = states.split_first() else {
        return vec![];
    };
    let road = solids(first.0);
    let mut out = between(ctx, &road, None);
    // What is in each other on the road is told once; in another state only what lies elsewhere can be new.
    for (id, state) in rest.iter().filter(|(_, s)| s.open != first.1.open) {
        let here = between(ctx, &solids(id), Some((id, state)));
        let known: BTreeSet<String> = out.iter().map(|f| f.subject.clone()).collect();
        // What meets something on its way there is told by that step.
        let steps = ctx.evening.moves.iter().filter(|m| m.to == **id);
        let told: BTreeSet<&str> = steps
            .flat_map(|m| &m.steps)
            .filter(|s| s.meets.is_some())
            .map(|s| s.module.as_str())
            .collect();
        out.extend(here.into_iter().filter(|f| {
            let (a, b) = f.subject.split_once('.').unwrap_or_default();
            !known.contains(&f.subject) && !told.contains(a) && !told.contains(b)
        }));
    }
    out.extend(beyond(ctx, &road));
    out
}

/// Boards of one module meet by design; those of different ones must not share space.
fn between(ctx: &Ctx, solids: &[Solid], state: Option<(&String, &State)>) -> Vec<Finding> {
    let mut pairs: BTreeMap<(&str, &str), (&str, &str)> = BTreeMap::new();
    for (a, b) in clashing(solids) {
        let (a, b) = if a.board.module < b.board.module {
            (a, b)
        } else {
            (b, a)
        };
        let key = (a.board.module.as_str(), b.board.module.as_str());
        pairs.entry(key).or_insert((&a.board.mark, &b.board.mark));
    }
    let name = |id: &str| {
        ctx.project
            .modules
            .get(id)
            .map_or(id.to_string(), |m| m.called())
    };
    pairs
        .into_iter()
        .map(|((a, b), (m, n))| {
            let (when, id) = match state {
                Some((id, s)) => (format!("For {} the", s.name), format!(".{id}")),
                None => ("The".into(), String::new()),
            };
            let mut finding = Finding::new(
                format!("clash.{a}.{b}{id}"),
                Severity::Stop,
                "layout",
                format!(
                    "{when} {} and the {} are in each other: {m} in {n}. Move one of them.",
                    name(a),
                    name(b)
                ),
            )
            .rule("two boards cannot be in one place", "geometry")
            .show("layout", b);
            finding.subject = format!("{a}.{b}");
            finding.state = state.map(|(id, _)| id.clone());
            finding
        })
        .collect()
}

/// Some of a board's points, which come in pairs, one at each face: evenly, and those furthest out any way.
fn looked_at(points: &[Vec3]) -> Vec<Vec3> {
    /// Ways out: along each axis, and towards the upper and lower corners of a section.
    const WAYS: [Vec3; 10] = [
        [1.0, 0.0, 0.0],
        [-1.0, 0.0, 0.0],
        [0.0, 1.0, 0.0],
        [0.0, -1.0, 0.0],
        [0.0, 0.0, 1.0],
        [0.0, 0.0, -1.0],
        [0.0, 1.0, 1.0],
        [0.0, -1.0, 1.0],
        [0.0, 1.0, -1.0],
        [0.0, -1.0, -1.0],
    ];
    let each = (points.len() / 2).div_ceil(LOOKED_AT).max(1);
    let evenly = (0..points.len()).filter(|i| i / 2 % each == 0);
    let furthest = WAYS.iter().filter_map(|way| {
        let out = |i: &usize| (0..3).map(|k| points[*i][k] * way[k]).sum::<f64>();
        (0..points.len()).max_by(|a, b| out(a).total_cmp(&out(b)))
    });
    let all: BTreeSet<usize> = evenly.chain(furthest).collect();
    all.into_iter().map(|i| points[i]).collect()
}

/// The worst of each module that sticks out.
fn beyond(ctx: &Ctx, solids: &[Solid]) -> Vec<Finding> {
    let mut worst: BTreeMap<&str, (f64, &'static str, &str)> = BTreeMap::new();
    for s in solids {
        for [x, y, z] in looked_at(&s.points()) {
            let side = if y >= 0.0 { Side::Left } else { Side::Right };
            let wall = ctx.model.offset(side, x, z).map(|w| y.abs() - w);
            let front = ctx.model.reach(y, z).map(|f| x - f);
            let roof = ctx
                .model
                .floor_to_roof(x)
                .map(|r| z - ctx.model.floor(x) - r);
            let all = [
                (
                    wall,
                    if side == Side::Left {
                        "the left wall"
                    } else {
                        "the right wall"
                    },
                ),
                (front, "the front"),
                (roof, "the roof"),
                (Some(-x), "the rear threshold"),
            ];
            for (out, what) in all {
                let Some(out) = out.filter(|o| *o > OUT) else {
                    continue;
                };
                let entry = worst.entry(&s.board.module).or_insert((0.0, "", ""));
                if out > entry.0 {
                    *entry = (out, what, &s.board.mark);
                }
            }
        }
    }
    worst
        .into_iter()
        .map(|(module, (out, what, mark))| {
            let m = ctx.project.modules.get(module);
            Finding::new(
                format!("sticks-out.{module}"),
                Severity::Stop,
                "layout",
                format!(
                    "The {} sticks out {} at {what} ({mark}).",
                    m.map_or(module.to_string(), |m| m.called()),
                    ctx.w.say(out)
                ),
            )
            .rule("every board lies inside the measured vehicle", "geometry")
            .show("layout", module)
        })
        .collect()
}
