//! `outline`: the panel that fills a bay.

use serde::Deserialize;
use serde_json::{Value, json};

use crate::geometry::Point;
use crate::geometry::inset::EdgeClearance;
use crate::geometry::region::Region;
use crate::input::{MAX_LENGTH, count, from_value, positive, within};
use crate::problem::Problem;
use crate::template::outline::{Bounds, outline};

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct In {
    bay: Region,
    #[serde(default)]
    obstacles: Vec<Region>,
    #[serde(default)]
    clearance: f64,
    #[serde(default)]
    edge_clearance: Vec<Near>,
    #[serde(default)]
    internal_radius: f64,
    #[serde(default)]
    max_size: Option<[f64; 2]>,
    #[serde(default)]
    thickness: Option<f64>,
    #[serde(default)]
    wall_slope_deg: f64,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Near {
    near: [Point; 2],
    clearance: f64,
}

pub fn run(input: Value) -> Result<Value, Problem> {
    let bounds = bounds(from_value(input)?)?;
    let out = outline(&bounds);
    let bevels: Vec<_> = out
        .bevels
        .iter()
        .map(|b| json!({ "edge": b.edge, "deg": b.deg }))
        .collect();
    Ok(json!({
        "panels": out.panels, "area": out.area, "pieces": out.panels.len(),
        "lost_area": out.lost_area, "bevels": bevels, "warnings": out.warnings,
    }))
}

fn bounds(input: In) -> Result<Bounds, Problem> {
    input.bay.check("/bay")?;
    count(input.obstacles.len(), "/obstacles", 0, 500)?;
    for (i, o) in input.obstacles.iter().enumerate() {
        o.check(&format!("/obstacles/{i}"))?;
    }
    within(input.clearance, "/clearance", 0.0, 2000.0)?;
    count(input.edge_clearance.len(), "/edge_clearance", 0, 500)?;
    let mut edge_clearance = Vec::new();
    for (i, e) in input.edge_clearance.iter().enumerate() {
        let at = format!("/edge_clearance/{i}");
        for (j, p) in e.near.iter().enumerate() {
            for (k, v) in p.iter().enumerate() {
                within(*v, &format!("{at}/near/{j}/{k}"), -MAX_LENGTH, MAX_LENGTH)?;
            }
        }
        within(e.clearance, &format!("{at}/clearance"), 0.0, 2000.0)?;
        edge_clearance.push(EdgeClearance {
            a: e.near[0],
            b: e.near[1],
            clearance: e.clearance,
        });
    }
    within(input.internal_radius, "/internal_radius", 0.0, 500.0)?;
    if let Some(size) = input.max_size {
        for (i, v) in size.iter().enumerate() {
            within(*v, &format!("/max_size/{i}"), 10.0, MAX_LENGTH)?;
        }
    }
    if let Some(t) = input.thickness {
        positive(t, "/thickness", 1000.0)?;
    }
    within(input.wall_slope_deg, "/wall_slope_deg", -89.0, 89.0)?;
    Ok(Bounds {
        bay: input.bay,
        obstacles: input.obstacles,
        clearance: input.clearance,
        edge_clearance,
        internal_radius: input.internal_radius,
        max_size: input.max_size.map(|[w, h]| (w, h)),
        wall_slope_deg: input.wall_slope_deg,
    })
}
