//! `load`: what each axle and the hitch carry, left and right, and what holds each thing on the road.

use serde::Deserialize;
use serde_json::{Value, json};

use crate::input::{MAX_LENGTH, count, from_value, within};
use crate::mechanics::load::{EN_12195, centre, inertia, lever};
use crate::problem::Problem;

const MAX_MASS: f64 = 100_000.0;

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct In {
    items: Vec<Item>,
    axles: Vec<f64>,
    #[serde(default)]
    hitch: Option<f64>,
    track: f64,
    #[serde(default)]
    restraint: Option<Restraint>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Item {
    #[serde(default)]
    name: String,
    mass: f64,
    at: [f64; 3],
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Restraint {
    forward_g: f64,
    side_g: f64,
    rear_g: f64,
}

pub fn run(input: Value) -> Result<Value, Problem> {
    let i: In = from_value(input)?;
    count(i.items.len(), "/items", 1, 10_000)?;
    for (n, item) in i.items.iter().enumerate() {
        within(item.mass, &format!("/items/{n}/mass"), 0.0, MAX_MASS)?;
        for (k, v) in item.at.iter().enumerate() {
            within(*v, &format!("/items/{n}/at/{k}"), -MAX_LENGTH, MAX_LENGTH)?;
        }
    }
    count(i.axles.len(), "/axles", 1, 20)?;
    for (n, x) in i.axles.iter().enumerate() {
        within(*x, &format!("/axles/{n}"), -MAX_LENGTH, MAX_LENGTH)?;
    }
    if let Some(x) = i.hitch {
        within(x, "/hitch", -MAX_LENGTH, MAX_LENGTH)?;
    }
    within(i.track, "/track", 1.0, MAX_LENGTH)?;
    let mut shares = EN_12195;
    if let Some(r) = &i.restraint {
        shares.forward = within(r.forward_g, "/restraint/forward_g", 0.0, 100.0)?;
        shares.side = within(r.side_g, "/restraint/side_g", 0.0, 100.0)?;
        shares.rear = within(r.rear_g, "/restraint/rear_g", 0.0, 100.0)?;
    }
    let weights: Vec<(f64, [f64; 3])> = i.items.iter().map(|i| (i.mass, i.at)).collect();
    let all = centre(&weights).ok_or_else(|| {
        Problem::out_of_range("/items", "Nothing weighs anything.", "more than 0 kg")
    })?;
    let n = i.axles.len() as f64;
    let (axles, hitch) = match (i.hitch, i.axles.as_slice()) {
        (Some(hitch), axles) => {
            // The axle group at its mean place, shared evenly.
            let group = axles.iter().sum::<f64>() / n;
            apart(hitch, group, "/hitch")?;
            let (on_hitch, on_group) = lever(all.mass, all.at[0], (hitch, group));
            (vec![on_group / n; axles.len()], Some(on_hitch))
        }
        (None, [a, b]) => {
            apart(*a, *b, "/axles/1")?;
            let (on_a, on_b) = lever(all.mass, all.at[0], (*a, *b));
            (vec![on_a, on_b], None)
        }
        (None, _) => {
            return Err(Problem::out_of_range(
                "/axles",
                "Without a hitch it stands on two axles; what more of them carry does not follow from places alone.",
                "two axles, or a hitch",
            ));
        }
    };
    let (right, left) = lever(all.mass, all.at[1], (-i.track / 2.0, i.track / 2.0));
    let mut warnings = Vec::new();
    if axles.iter().chain(&hitch).any(|kg| *kg < 0.0) || left < 0.0 || right < 0.0 {
        warnings.push("A support is lifted: the weight lies beyond the other.");
    }
    let items = i.items.iter().map(|t| {
        json!({
            "name": t.name,
            "forward_n": inertia(t.mass, shares.forward),
            "side_n": inertia(t.mass, shares.side),
            "rear_n": inertia(t.mass, shares.rear),
        })
    });
    Ok(json!({
        "axle_kg": axles,
        "hitch_kg": hitch,
        "hitch_percent": hitch.map(|h| 100.0 * h / all.mass),
        "left_kg": left,
        "right_kg": right,
        "items": items.collect::<Vec<_>>(),
        "total_kg": all.mass,
        "centre": all.at,
        "warnings": warnings,
    }))
}

/// Two supports in one place are one.
fn apart(a: f64, b: f64, at: &str) -> Result<(), Problem> {
    if (a - b).abs() < 1.0 {
        return Err(Problem::impossible(
            at,
            "Two supports in one place are one.",
        ));
    }
    Ok(())
}
