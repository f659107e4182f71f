//! Bay, things in the way and clearances -> the panel: the bay less the obstacles, moved in by the
//! clearance (mitred), internal corners relieved, split only when larger than the sheet.

use crate::geometry::inset::{EdgeClearance, inset, marked};
use crate::geometry::labelled::{Label, Labelled};
use crate::geometry::region::Region;
use crate::geometry::{Point, distance_to_segment, relief, sides, split};

/// Crumbs smaller than this are not worth a panel, mm2 (a stamp of 20 x 20 mm).
const CRUMB: f64 = 400.0;
/// Edges within this of the expected distance from a wall belong to that wall, mm.
const ON_WALL: f64 = 0.5;

/// What bounds the panel.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Bounds {
    /// Free space at the panel's height.
    pub bay: Region,
    /// Things in the way.
    pub obstacles: Vec<Region>,
    /// Clearance to everything, mm.
    pub clearance: f64,
    /// Other clearances along some edges.
    pub edge_clearance: Vec<EdgeClearance>,
    /// Radius to which internal corners are relieved, mm.
    pub internal_radius: f64,
    /// Sheet on which every piece must lie.
    pub max_size: Option<(f64, f64)>,
    /// Angle by which the walls lean from vertical, degrees; panel edges along walls get this bevel.
    pub wall_slope_deg: f64,
}

/// An edge to be cut with a tilted blade.
#[derive(Debug, Clone, PartialEq)]
pub struct Bevel {
    /// The edge.
    pub edge: [Point; 2],
    /// Tilt from square, degrees.
    pub deg: f64,
}

/// The panel or panels that fill the bounds.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Outlined {
    /// The pieces, reliefs cut.
    pub panels: Vec<Region>,
    /// The pieces with square internal corners: what is marked on the board.
    pub marked: Vec<Region>,
    /// Area of all pieces, mm2.
    pub area: f64,
    /// Free area that no piece covers, mm2.
    pub lost_area: f64,
    /// Edges with a bevel.
    pub bevels: Vec<Bevel>,
    /// What deserves a look.
    pub warnings: Vec<String>,
}

/// The unsplit panels: bay less obstacles, each edge moved in by the clearance of its label. Largest first, crumbs
/// dropped and their area counted.
pub fn free_panel(
    bay: &Labelled,
    obstacles: &[Labelled],
    clearance: &dyn Fn(Label) -> f64,
) -> (Vec<Labelled>, f64) {
    without_crumbs(inset(&bay.minus(obstacles), clearance))
}

fn without_crumbs(all: Vec<Labelled>) -> (Vec<Labelled>, f64) {
    let mut crumbs = 0.0;
    let keep = |r: &Labelled| {
        let area = r.region().area();
        if area < CRUMB {
            crumbs += area;
        }
        area >= CRUMB
    };
    let pieces = all.into_iter().filter(keep).collect();
    (pieces, crumbs)
}

/// Runs the whole rule.
pub fn outline(bounds: &Bounds) -> Outlined {
    let plain = |r| Labelled::new(r, Label::default());
    let things: Vec<Labelled> = bounds.obstacles.iter().map(plain).collect();
    let free: Vec<Region> = plain(&bounds.bay)
        .minus(&things)
        .iter()
        .map(Labelled::region)
        .collect();
    let free_area: f64 = free.iter().map(Region::area).sum();
    // Clearances are given along segments: the edges there are told by them.
    let special = &bounds.edge_clearance;
    let edges: Vec<Labelled> = free.iter().map(|r| marked(r, special)).collect();
    let own = |label: Label| match label.number {
        0 => bounds.clearance,
        i => special[i as usize - 1].clearance,
    };
    let (pieces, crumbs) = without_crumbs(inset(&edges, &own));
    let pieces: Vec<Region> = pieces.iter().map(Labelled::region).collect();
    let mut out = Outlined::default();
    if pieces.len() > 1 {
        out.warnings.push(format!(
            "The free space falls into {} separate pieces.",
            pieces.len()
        ));
    }
    if pieces.is_empty() {
        out.warnings
            .push("Nothing is left: the clearance takes up the whole space.".into());
    }
    if crumbs > 0.0 {
        out.warnings
            .push("Crumbs smaller than 20 x 20 mm were left out.".into());
    }
    for piece in &pieces {
        let parts = match bounds.max_size {
            Some((w, h)) => split::split_to(piece, w, h),
            None => vec![piece.clone()],
        };
        if parts.len() > 1 {
            out.warnings.push(format!(
                "Larger than the sheet: parted into {} pieces.",
                parts.len()
            ));
        }
        for part in parts {
            out.panels
                .extend(relief::relieve(&part, bounds.internal_radius));
            out.marked.push(part);
        }
    }
    out.area = out.panels.iter().map(Region::area).sum();
    out.lost_area = (free_area - out.area).max(0.0);
    out.bevels = bevels(&out.marked, bounds);
    if bounds.wall_slope_deg.abs() > 45.0 {
        out.warnings
            .push("Most saws tilt to 45 degrees at the most: plane the rest.".into());
    }
    out
}

/// Edges of `panels` that run along the bay's own outline.
fn bevels(panels: &[Region], bounds: &Bounds) -> Vec<Bevel> {
    if bounds.wall_slope_deg == 0.0 {
        return vec![];
    }
    let widest = bounds
        .edge_clearance
        .iter()
        .map(|e| e.clearance)
        .fold(bounds.clearance, f64::max);
    let wall = &bounds.bay.outer;
    let near_wall =
        |p: Point| sides(wall).any(|(a, b)| distance_to_segment(p, a, b) <= widest + ON_WALL);
    let mut out = Vec::new();
    for panel in panels {
        for (a, b) in sides(&panel.outer) {
            let middle = [(a[0] + b[0]) / 2.0, (a[1] + b[1]) / 2.0];
            if [a, middle, b].iter().all(|p| near_wall(*p)) {
                out.push(Bevel {
                    edge: [a, b],
                    deg: bounds.wall_slope_deg,
                });
            }
        }
    }
    out
}
