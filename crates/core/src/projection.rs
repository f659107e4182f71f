//! Furniture as it is seen: from above, from the side and from behind, worked out from the boards, so that a
//! new kind is drawn without a line of its own.

use geo::{ConvexHull, MultiPoint};
use serde::Serialize;
use utoipa::ToSchema;

use crate::boards::BoardView;
use crate::furniture::built::{Pose, Vec3};
use crate::geometry::coord;
use crate::geometry::region::Region;
use crate::project::survey::Side;
use crate::survey::model::Model;
use crate::survey::section::Plane;

/// Boards turned from square to a view by less than this are drawn with their own outline.
const SQUARE: f64 = 1e-6;

/// All furniture in three views that line up: x to the right from above and from the side, z up from the side
/// and from behind, y to the left from behind.
#[derive(Debug, Clone, Default, PartialEq, Serialize, ToSchema)]
pub struct Views {
    /// In plan, (x, y): the lowest first, so that what is drawn later lies over it.
    pub above: Vec<Shape>,
    /// (x, z), the rear at the left: the furthest first.
    pub side: Vec<Shape>,
    /// (-y, z), the left wall at the left: the furthest first.
    pub behind: Vec<Shape>,
    /// Section of the vehicle half way along, (-y, z), once it is known.
    pub section: Option<Region>,
}

/// A board in a view.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Shape {
    /// Its module.
    pub module: String,
    /// The board.
    pub board: String,
    /// What is written on it.
    pub mark: String,
    /// What it is for.
    pub role: String,
    /// As it is seen.
    pub outline: Region,
}

/// One way of looking: the axis looked along, and what lies to the right and up.
struct Look {
    axis: usize,
    /// The larger coordinate along the axis is nearer.
    nearer: f64,
    flat: fn(Vec3) -> [f64; 2],
}

const ABOVE: Look = Look {
    axis: 2,
    nearer: 1.0,
    flat: |p| [p[0], p[1]],
};
const SIDE: Look = Look {
    axis: 1,
    nearer: -1.0,
    flat: |p| [p[0], p[2]],
};
const BEHIND: Look = Look {
    axis: 0,
    nearer: -1.0,
    flat: |p| [-p[1], p[2]],
};

/// All boards in all views, everything shut.
pub fn views(model: &Model, boards: &[BoardView]) -> Views {
    let placed = boards.iter().map(|b| (b, b.shut));
    let [above, side, behind] = shapes(&placed.collect::<Vec<_>>());
    let section = model.middle(|model| {
        let x = model.length(0.0)? / 2.0;
        let roof = model.roof();
        let top = roof.or_else(|| model.highest())?;
        section(model, x, top)
    });
    Views {
        above,
        side,
        behind,
        section,
    }
}

/// The bay across at `x` up to `top`, seen from behind.
fn section(model: &Model, x: f64, top: f64) -> Option<Region> {
    let widest = |side| {
        let heights = model.levels(side).iter().copied().chain([0.0, top]);
        let all = heights.filter_map(|z| model.offset(side, x, z));
        all.reduce(f64::max)
    };
    /// Looked at so far beyond, mm.
    const BEYOND: f64 = 50.0;
    let half = widest(Side::Left)?.max(widest(Side::Right)?) + BEYOND;
    let window = (-half, model.floor(x) - BEYOND, half, top);
    let plane = Plane {
        // For a drawing: a wall bent to a radius of a metre is met within 0.2 mm.
        step: 40.0,
        ..Plane::new(Pose::across(x), window)
    };
    let whole = model.section(&plane, None)?.into_iter().next()?;
    Some(whole.region().map(|p| [-p[0], p[1]]))
}

/// Boards at poses, from above, from the side and from behind, each ordered by what lies over what.
pub fn shapes(placed: &[(&BoardView, Pose)]) -> [Vec<Shape>; 3] {
    [&ABOVE, &SIDE, &BEHIND].map(|l| {
        let mut all: Vec<(f64, Shape)> = placed.iter().map(|(b, pose)| seen(b, pose, l)).collect();
        all.sort_by(|a, b| a.0.total_cmp(&b.0));
        all.into_iter().map(|(_, s)| s).collect()
    })
}

/// How near it comes, and what is seen of it: its outline where it lies square to the view, otherwise the
/// outline round all its corners, which is what a board shows of its edge.
fn seen(b: &BoardView, pose: &Pose, l: &Look) -> (f64, Shape) {
    let w = pose.w()[l.axis].abs();
    let t = b.thickness;
    let corners = b.outline.outer.iter();
    let corners: Vec<Vec3> = corners
        .flat_map(|p| [0.0, t].map(|t| pose.at(p[0], p[1], t)))
        .collect();
    let near = corners.iter().map(|c| l.nearer * c[l.axis]);
    let near = near.fold(f64::NEG_INFINITY, f64::max);
    let outline = if (w - 1.0).abs() < SQUARE {
        b.outline.map(|p| (l.flat)(pose.at(p[0], p[1], 0.0)))
    } else {
        // Turned, it shows the outline round all its corners.
        let flat: MultiPoint<f64> = corners.iter().map(|c| coord((l.flat)(*c))).collect();
        let hull = flat.convex_hull();
        Region::from_polygon(&hull).unwrap_or_default()
    };
    let shape = Shape {
        module: b.module.clone(),
        board: b.id.clone(),
        mark: b.mark.clone(),
        role: b.role.clone(),
        outline,
    };
    (near, shape)
}
