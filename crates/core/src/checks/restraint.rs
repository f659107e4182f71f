//! What holds furniture and what is in it when the vehicle brakes or turns?

use serde_json::json;

use super::{Ctx, Finding, Severity};
use crate::holds::HoldView;
use crate::input::escape;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let pieces = &ctx.holds.pieces;
    let mut out = Vec::new();
    let said = |f: Finding| {
        f.rule(
            "mass with what is in it x 0.8 g forward, 0.5 g to the sides and back, shared by the places that hold it, and what keeps it from tipping; at least two. Existing anchors first. This is no approval: seats, belts and their anchors are safety parts, follow the vehicle maker and local rules.",
            "EN 12195-1 and EN 1995-1-1, from memory; a third of what plywood bears is counted, and at most what each kind of fixing is allowed (choices)",
        )
    };
    let told = |p: &&HoldView| format!("the {} {} ({} forward)", p.name, p.weighs, p.forward);
    let listed = |of: &[&HoldView]| of.iter().map(told).collect::<Vec<_>>().join("; ");
    let of = |wanted: fn(&&HoldView) -> bool| pieces.iter().filter(wanted).collect::<Vec<_>>();
    let nothing = of(|p| p.nothing);
    if !nothing.is_empty() {
        let words = format!(
            "Braking hard pulls at {}. Note in the survey what there is to fix to: rings, threads, ribs, floor ply.",
            listed(&nothing)
        );
        let mut f = Finding::new("restraint", Severity::Look, "layout", words);
        f.offers = nothing
            .iter()
            .flat_map(|p| offers(ctx, p))
            .take(3)
            .collect();
        out.push(said(f));
    }
    for p in of(|p| !p.holds && !p.nothing) {
        let words = format!(
            "{}, {}: braking hard pulls forward with {}. {}",
            capital(&p.name),
            p.weighs,
            p.forward,
            p.words
        );
        let mut f = Finding::new(
            format!("restraint.{}", p.module),
            Severity::Look,
            "layout",
            words,
        )
        .show("layout", p.module.clone());
        f.offers = offers(ctx, p);
        out.push(said(f));
    }
    let good = of(|p| p.holds);
    if !good.is_empty() {
        let words = format!("Held when braking hard and in bends: {}.", listed(&good));
        out.push(said(Finding::new(
            "restraint.held",
            Severity::Fine,
            "layout",
            words,
        )));
    }
    out
}

fn capital(name: &str) -> String {
    let mut letters = name.chars();
    letters
        .next()
        .map_or(String::new(), |c| c.to_uppercase().chain(letters).collect())
}

/// Another piece that it touches and that can hold both.
fn offers(ctx: &Ctx, p: &HoldView) -> Vec<super::Offer> {
    let at = format!("/modules/{}/held", escape(&p.module));
    let hosts = ctx.holds.hosts.get(&p.module).into_iter().flatten();
    let offer = |(to, name): &(String, String)| super::Offer {
        label: format!("Screw the {} to the {name}", p.name),
        cost: "both come out together, or the screws first".into(),
        patch: json!([
            { "op": "add", "path": format!("{at}/by"), "value": "piece" },
            { "op": "add", "path": format!("{at}/to"), "value": to },
        ]),
    };
    hosts.map(offer).collect()
}
