//! What holds furniture and what is in it when the vehicle brakes or turns?

use std::collections::BTreeSet;

use super::stowed::within;
use super::{Ctx, Finding, Severity};
use crate::furniture::built::Vec3;
use crate::mechanics::load::{EN_12195, inertia};
use crate::project::VehicleKind;
use crate::project::survey::Fixing;
use crate::solids::boxes;
use crate::weight::of_body;

/// What one fixing is counted for, N (a choice, well below what a screw of 5 mm in ply or a ring in a floor bears).
const EACH: f64 = 300.0;
/// A fixing so far beside a piece can still hold it, mm (a choice: a bracket or a short strap).
const BESIDE: f64 = 150.0;

/// A piece: what it weighs with what is in it, and what of the surveyed fixings is at hand.
struct Pulls {
    name: String,
    mass: f64,
    fixings: usize,
}

impl Pulls {
    fn forward(&self) -> f64 {
        inertia(self.mass, EN_12195.forward)
    }

    fn wanted(&self) -> usize {
        (self.forward() / EACH).ceil().max(2.0) as usize
    }
}

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    // The accelerations are those of the road.
    if ctx.project.vehicle.kind == VehicleKind::Boat {
        return vec![];
    }
    let stowed = within(ctx);
    let all: Vec<Pulls> = boxes(ctx.boards)
        .into_iter()
        .filter_map(|(module, space)| {
            let built = ctx.built.get(module)?;
            let bodies: BTreeSet<&str> = built.boards.iter().map(|b| b.body.as_str()).collect();
            let own = bodies
                .iter()
                .map(|b| of_body(ctx.project, built, &format!("{module}/{b}")));
            let gear = stowed.iter().filter(|(m, _)| *m == module);
            let gear = gear.filter_map(|(_, thing)| ctx.project.gear.get(*thing)?.mass);
            Some(Pulls {
                name: ctx.project.modules.get(module)?.called(),
                mass: own.sum::<f64>() + gear.sum::<f64>(),
                fixings: at_hand(ctx, space),
            })
        })
        .collect();
    if all.is_empty() {
        return vec![];
    }
    let short: Vec<&Pulls> = all.iter().filter(|p| p.fixings < p.wanted()).collect();
    let told = |p: &Pulls| {
        format!(
            "the {} {} ({:.0} N, at least {} fixings, {} at hand)",
            p.name,
            ctx.w.mass(p.mass.round()),
            p.forward(),
            p.wanted(),
            p.fixings
        )
    };
    let (level, sentence) = if short.is_empty() {
        let list: Vec<String> = all.iter().map(told).collect();
        (
            Severity::Fine,
            format!("Braking hard pulls at {}.", list.join("; ")),
        )
    } else {
        let list: Vec<String> = short.iter().map(|p| told(p)).collect();
        (
            Severity::Look,
            format!(
                "Braking hard pulls at {}. Note in the survey what there is to fix to.",
                list.join("; ")
            ),
        )
    };
    vec![
        Finding::new("restraint", level, "layout", sentence)
            .rule(
                format!(
                    "mass with what is in it x 0.8 g forward; {EACH:.0} N a fixing, at least two. Existing anchors first. This is no approval: seats, belts and their anchors are safety parts, follow the vehicle maker and local rules."
                ),
                "EN 12195-1, from memory; what a fixing is counted for is a choice",
            ),
    ]
}

/// How many surveyed fixings are at or beside a piece in that box.
fn at_hand(ctx: &Ctx, (low, high): (Vec3, Vec3)) -> usize {
    let near =
        |f: &&Fixing| (0..3).all(|k| f.at[k] > low[k] - BESIDE && f.at[k] < high[k] + BESIDE);
    ctx.project.survey.fixings.values().filter(near).count()
}
