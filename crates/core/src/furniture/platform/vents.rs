//! Air under the mattress: holes in a solid board.

use crate::geometry::region::Region;
use crate::geometry::{distance_to_segment, sides};
use geo::Contains;

/// Diameter of a vent hole, mm (32 mm holes: common practice, no source).
pub const DIAMETER: f64 = 32.0;
/// Twelve holes in a bed of 60 x 80 in (common practice, no source): deck area for one hole, mm2.
pub const AREA_EACH: f64 = 60.0 * 25.4 * 80.0 * 25.4 / 12.0;
/// Least distance from a hole's centre to an edge, mm.
const EDGE: f64 = 60.0;
/// Least distance from a hole's centre to the middle of a support, mm.
const SUPPORT: f64 = 45.0;

/// How many holes that much deck wants.
pub fn wanted(area: f64) -> usize {
    (area / AREA_EACH - 1e-9).ceil().max(0.0) as usize
}

/// At least `wanted` hole centres on a regular grid inside `panel`, clear of edges and of the
/// support lines at `xs`; fewer only if the panel has no room.
pub fn place(panel: &Region, xs: &[f64]) -> Vec<[f64; 2]> {
    let need = wanted(panel.area());
    let mut best: Vec<[f64; 2]> = Vec::new();
    let (x0, y0, x1, y1) = panel.bounds();
    let (w, h) = (x1 - x0, y1 - y0);
    for n in 1..=40_usize {
        // Rows and columns in the panel's own proportion.
        let columns = ((n as f64 * w / h).sqrt().round() as usize).clamp(1, n);
        let rows = n.div_ceil(columns);
        let mut points = Vec::new();
        for i in 0..columns {
            for j in 0..rows {
                let p = [
                    x0 + w * (i as f64 + 0.5) / columns as f64,
                    y0 + h * (j as f64 + 0.5) / rows as f64,
                ];
                if let Some(p) = clear(panel, xs, p) {
                    points.push(p);
                }
            }
        }
        if points.len() > best.len() {
            best = points;
        }
        if best.len() >= need {
            break;
        }
    }
    best
}

/// `p` moved off a support if need be, or nothing if there is no room.
fn clear(panel: &Region, xs: &[f64], p: [f64; 2]) -> Option<[f64; 2]> {
    let mut p = p;
    if let Some(x) = xs.iter().find(|x| (**x - p[0]).abs() < SUPPORT) {
        p[0] = if p[0] >= *x { x + SUPPORT } else { x - SUPPORT };
    }
    if xs.iter().any(|x| (x - p[0]).abs() < SUPPORT - 1e-9) {
        return None;
    }
    let inside = panel.polygon().contains(&geo::Point::new(p[0], p[1]));
    let far = sides(&panel.outer).all(|(a, b)| distance_to_segment(p, a, b) >= EDGE);
    (inside && far).then_some(p.map(f64::round))
}
