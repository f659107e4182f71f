//! Furniture as it is seen: from above, from the side and from behind, worked out from the boards, so that a
//! new kind is drawn without a line of its own.

use serde::Serialize;
use utoipa::ToSchema;

use crate::boards::BoardView;
use crate::furniture::built::{Pose, Vec3};
use crate::geometry::region::Region;
use crate::survey::model::Model;

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

/// All boards in all views.
pub fn views(model: &Model, boards: &[BoardView], state: &str) -> Views {
    let look = |l: &Look| {
        let mut all: Vec<(f64, Shape)> = boards
            .iter()
            .filter_map(|b| Some(seen(b, b.poses.get(state)?, l)))
            .collect();
        all.sort_by(|a, b| a.0.total_cmp(&b.0));
        all.into_iter().map(|(_, s)| s).collect()
    };
    let middle = model.length(0.0).map(|l| l / 2.0);
    let section = middle.and_then(|x| {
        let roof = model.lowest_roof().map(|r| r.mm);
        let top = roof.or_else(|| model.highest())?;
        Some(model.section(x, top)?.map(|p| [-p[0], p[1]]))
    });
    Views {
        above: look(&ABOVE),
        side: look(&SIDE),
        behind: look(&BEHIND),
        section,
    }
}

/// How near it comes, and what is seen of it: its outline where it lies square to the view, otherwise the
/// rectangle round it, which is what an upright or level board shows of its edge.
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
        let flat = corners.iter().map(|c| (l.flat)(*c));
        let (mut low, mut high) = ([f64::INFINITY; 2], [f64::NEG_INFINITY; 2]);
        for p in flat {
            for i in 0..2 {
                low[i] = low[i].min(p[i]);
                high[i] = high[i].max(p[i]);
            }
        }
        Region::rectangle(low[0], low[1], high[0], high[1])
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
