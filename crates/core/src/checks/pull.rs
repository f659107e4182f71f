//! Drawers: how hard they are to pull, whether they jam, what their slides have to be rated for, and whether the piece
//! tips forward when they are out.

use super::stowed::in_bodies;
use super::{Ctx, Finding, Severity, set};
use crate::furniture::built::{Built, Glide, Motion, Vec3};
use crate::furniture::kit::drawer_box::{Run, jam_ratio, pull_force};
use crate::input::escape;
use crate::solids::Solid;
use crate::units::GRAVITY;
use crate::weight::{of_body, of_piece};

/// Friction (choices within what tables give, from memory): balls in a slide, slippery strips, waxed wood on wood.
fn friction(run: Run) -> f64 {
    match run {
        Run::SideSlides | Run::LockingSlides => 0.02,
        Run::Strips => 0.15,
        Run::Bare => 0.3,
    }
}

/// A hand pulls so much without a jerk, N (a choice).
const HAND: f64 = 120.0;
/// A pair of ordinary slides carries so much, a pair of heavy ones that, kg (common practice, no source: 100 lb, 250 kg).
const ORDINARY: f64 = 45.0;
const HEAVY: f64 = 250.0;
/// It is pulled so far off its middle, as a share of its width (a choice: a hand where it happens to be).
const OFF: f64 = 0.25;
/// From here on a drawer racks so that it is felt (a choice).
const RACKS: f64 = 0.7;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let things = in_bodies(ctx);
    let mut out = Vec::new();
    for (module, built) in ctx.built {
        for glide in &built.glides {
            let id = format!("{module}/{}", glide.body);
            let inside = things.get(&id).into_iter().flatten();
            let known: f64 = inside.filter_map(|t| ctx.project.gear.get(*t)?.mass).sum();
            let load = if known > 0.0 { known } else { glide.made_for };
            out.extend(judge(
                ctx,
                (module, built),
                (glide, &id),
                (load, known > 0.0),
            ));
        }
    }
    out
}

fn judge(
    ctx: &Ctx,
    (module, built): (&str, &Built),
    (glide, id): (&Glide, &str),
    (load, known): (f64, bool),
) -> Option<Finding> {
    let body = built.bodies.iter().find(|b| b.id == id)?;
    let own = of_body(ctx.boards, ctx.bodies, id)?;
    let mass = own.mass + load;
    let slides = glide.run.slides();
    let pulls = pull_force(mass, friction(glide.run));
    let jams = if slides {
        0.0
    } else {
        jam_ratio(friction(glide.run), OFF * glide.wide, glide.guided)
    };
    let tips = tips(ctx, module, (id, own.at), (mass, &body.motion));
    let mut level = Severity::Fine;
    let inside = ctx.w.mass(load.round());
    let mut words = vec![format!(
        "{}, {inside} of it what lies in it{}; it takes {} to pull it",
        ctx.w.mass(mass.round()),
        if known {
            ""
        } else {
            " (as its bottom is made for)"
        },
        ctx.w.force(pulls),
    )];
    let mut helps = false;
    if pulls > HAND {
        level = level.min(Severity::Look);
        helps = true;
        words.push("more than a hand does without a jerk".into());
    }
    if slides {
        let rated = match mass {
            m if m <= ORDINARY => ctx.w.mass(ORDINARY),
            m if m <= HEAVY => {
                level = level.min(Severity::Look);
                helps = true;
                format!("{} (heavy ones)", ctx.w.mass(mass.ceil()))
            }
            _ => {
                level = Severity::Stop;
                helps = true;
                "more than any pair bears".into()
            }
        };
        words.push(format!("its pair of slides is to be rated for {rated}"));
    }
    if jams >= 1.0 {
        level = Severity::Stop;
        helps = true;
        words.push("pulled at one side it jams: it is too wide for its length".into());
    } else if jams >= RACKS {
        level = level.min(Severity::Look);
        words.push("pulled at one side it racks: a handle in the middle, or two".into());
    }
    if tips {
        level = level.min(Severity::Look);
        words.push("all out it tips the piece forward unless something holds that down".into());
    }
    let sentence = format!("The {}: {}.", body.name, words.join("; "));
    let mut f = Finding::new(format!("pull.{id}"), level, "layout", sentence)
        .rule(
            format!(
                "friction x weight, at most {} in a hand; jams at 2 mu e / L = 1, e a quarter of its width; rating: its mass at half its length, all out; tips where its moment about the front edge is more than that of the rest",
                ctx.w.force(HAND)
            ),
            "Coulomb friction, statics; friction and limits are choices, ratings common practice, no source",
        )
        .show("layout", module);
    if helps {
        let at = format!("/modules/{}", escape(module));
        for e in &glide.eases {
            f = f.offer(
                e.label.clone(),
                e.cost.clone(),
                set(format!("{at}{}", e.pointer), e.value.clone()),
            );
        }
    }
    Some(f)
}

/// All out its weight turns the piece about its front lower edge.
fn tips(ctx: &Ctx, module: &str, (id, at): (&str, Vec3), (mass, motion): (f64, &Motion)) -> bool {
    let held = ctx
        .holds
        .pieces
        .iter()
        .any(|h| h.module == module && h.holds);
    let Motion::Slide { along, travel } = motion else {
        return false;
    };
    let Some(all) = of_piece(ctx.boards, module).filter(|_| !held) else {
        return false;
    };
    let toward = |p: Vec3| (0..3).map(|k| p[k] * along[k]).sum::<f64>();
    let fixed = ctx
        .boards
        .iter()
        .filter(|b| b.module == module && !ctx.bodies.goes_with(&b.body, id));
    let edge = fixed
        .flat_map(|b| Solid::at(b, b.shut).points())
        .map(toward)
        .fold(f64::NEG_INFINITY, f64::max);
    let Some(own) = of_body(ctx.boards, ctx.bodies, id) else {
        return false;
    };
    let rest = all.mass - own.mass;
    let rest_at = (all.mass * toward(all.at) - own.mass * toward(own.at)) / rest.max(1e-9);
    let turns = mass * GRAVITY * (toward(at) + travel - edge);
    let keeps = rest * GRAVITY * (edge - rest_at);
    turns > keeps
}
