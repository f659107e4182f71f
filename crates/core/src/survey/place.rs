//! Where to hold which end of the tape.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::model::Model;
use crate::project::Project;
use crate::project::survey::{OpeningDim, Quantity, REAR, Side, ThingDim};

/// The two ends of the tape in the vehicle frame, mm.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Place {
    /// `plan` or `section`.
    pub view: String,
    /// One end.
    #[schema(value_type = Vec<f64>)]
    pub from: [f64; 3],
    /// The other end.
    #[schema(value_type = Vec<f64>)]
    pub to: [f64; 3],
}

/// Where the two ends of the tape are held for `q`; where the vehicle is not known yet, about where
/// they will be.
pub fn place(project: &Project, model: &Model, q: &Quantity) -> Option<Place> {
    let side_wall =
        |side: Side, x: f64, z: f64| side.sign() * model.offset(side, x, z).unwrap_or(700.0);
    let (view, from, to) = match q {
        Quantity::Length { z, y } => {
            let end = model.reach(*y, *z).unwrap_or(1800.0);
            ("plan", [0.0, *y, *z], [end, *y, *z])
        }
        Quantity::Diagonal { side, x, z } => {
            let near = side_wall(side.other(), 0.0, *z);
            ("plan", [0.0, near, *z], [*x, side_wall(*side, *x, *z), *z])
        }
        Quantity::Slope { x } => {
            let x = x.unwrap_or(0.0);
            (
                "section",
                [(x - 300.0).max(0.0), 0.0, model.floor(x - 300.0)],
                [x + 300.0, 0.0, model.floor(x + 300.0)],
            )
        }
        Quantity::Wall { side, x, z } => {
            ("plan", [*x, 0.0, *z], [*x, side_wall(*side, *x, *z), *z])
        }
        Quantity::Width { x, z } => (
            "plan",
            [*x, side_wall(Side::Right, *x, *z), *z],
            [*x, side_wall(Side::Left, *x, *z), *z],
        ),
        Quantity::Floor { x, .. } => ("section", [*x, 0.0, 0.0], [*x, 0.0, model.floor(*x)]),
        Quantity::Roof { x, .. } => {
            let top = model.floor_to_roof(*x).unwrap_or(1200.0);
            ("section", [*x, 0.0, model.floor(*x)], [*x, 0.0, top])
        }
        Quantity::Thing { id, dim, z } => return thing_place(project, model, id, *dim, *z),
        Quantity::Opening { id, .. } if id != REAR => return None,
        Quantity::Opening { dim, z, .. } => {
            let (w, h) = model.opening().unwrap_or((1200.0, 1100.0));
            match dim {
                OpeningDim::Height => ("section", [0.0, 0.0, 0.0], [0.0, 0.0, h]),
                OpeningDim::WidthFloor => ("plan", [0.0, -w / 2.0, 0.0], [0.0, w / 2.0, 0.0]),
                OpeningDim::WidthTop => ("plan", [0.0, -w / 2.0, h], [0.0, w / 2.0, h]),
                OpeningDim::Width => {
                    let z = z.unwrap_or(h / 2.0);
                    ("plan", [0.0, -w / 2.0, z], [0.0, w / 2.0, z])
                }
            }
        }
    };
    Some(Place {
        view: view.into(),
        from,
        to,
    })
}

fn thing_place(
    project: &Project,
    model: &Model,
    id: &str,
    dim: ThingDim,
    z: Option<f64>,
) -> Option<Place> {
    let t = project.survey.things.get(id)?;
    let get = |dim, or: f64| {
        let known = model
            .number(id, dim, z)
            .or_else(|| model.number(id, dim, None));
        known.map_or(or, |k| k.0)
    };
    let length = model.length(0.0).unwrap_or(1800.0);
    let start = get(ThingDim::Start, length * 0.3);
    let end = get(ThingDim::End, start + length * 0.35);
    let middle = (start + end) / 2.0;
    let wall = model.offset(t.side, middle, 0.0).unwrap_or(700.0);
    let face = get(ThingDim::Face, wall - 200.0);
    let (s, top) = (t.side.sign(), get(ThingDim::Height, 250.0));
    let (view, from, to) = match dim {
        ThingDim::Start => (
            "plan",
            [0.0, s * (face + 60.0), 0.0],
            [start, s * (face + 60.0), 0.0],
        ),
        ThingDim::End => (
            "plan",
            [0.0, s * (face + 60.0), 0.0],
            [end, s * (face + 60.0), 0.0],
        ),
        ThingDim::Far => {
            let far = get(ThingDim::Far, face + 100.0);
            ("plan", [middle, 0.0, 0.0], [middle, s * far, 0.0])
        }
        ThingDim::FaceStart => (
            "plan",
            [0.0, s * face, 0.0],
            [get(dim, start + 50.0), s * face, 0.0],
        ),
        ThingDim::FaceEnd => (
            "plan",
            [0.0, s * face, 0.0],
            [get(dim, end - 50.0), s * face, 0.0],
        ),
        ThingDim::Shoulder => (
            "plan",
            [start, 0.0, 0.0],
            [start, s * get(dim, face + 50.0), 0.0],
        ),
        ThingDim::Length => (
            "plan",
            [start, s * (face + 60.0), 0.0],
            [end, s * (face + 60.0), 0.0],
        ),
        ThingDim::Width => ("plan", [middle, s * wall, 0.0], [middle, s * face, 0.0]),
        ThingDim::Face => ("plan", [middle, 0.0, 0.0], [middle, s * face, 0.0]),
        ThingDim::Height | ThingDim::Bottom => ("section", [middle, 0.0, 0.0], [middle, 0.0, top]),
    };
    Some(Place {
        view: view.into(),
        from,
        to,
    })
}
