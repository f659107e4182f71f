//! Openings where they are: what comes or goes through one has to be free of what stands there.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::model::Model;
use crate::project::Project;
use crate::project::survey::{REAR, Side};

/// An opening where it is: what goes through it has to be free of what stands there.
#[derive(Debug, Clone, PartialEq)]
pub struct Doorway {
    /// Identifier.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// The wall in which it is; none for the rear.
    pub side: Option<Side>,
    /// Its middle along the wall, mm from the threshold, or across, from the centre line.
    pub middle: f64,
    /// Height of its sill over the load floor, mm.
    pub sill: f64,
    /// Its outline as `(height over its sill, width)`, upwards; straight between.
    pub outline: Vec<(f64, f64)>,
}

impl Doorway {
    /// From and to along its wall at the sill, mm.
    pub fn span(&self) -> (f64, f64) {
        let half = self.outline.first().map_or(0.0, |n| n.1 / 2.0);
        (self.middle - half, self.middle + half)
    }
}

/// All openings that are measured and whose place is known, the rear one first.
pub fn doorways(project: &Project, model: &Model) -> Vec<Doorway> {
    let rear = model.opening_outline(REAR).map(|outline| Doorway {
        id: REAR.into(),
        name: "rear opening".into(),
        side: None,
        middle: 0.0,
        sill: 0.0,
        outline,
    });
    let others = project.survey.openings.iter().filter(|(id, _)| *id != REAR);
    let others = others.filter_map(|(id, o)| {
        let (side, from) = (o.side?, o.from?);
        let outline = model.opening_outline(id)?;
        Some(Doorway {
            id: id.clone(),
            name: o.name.clone(),
            side: Some(side),
            middle: from + outline.first()?.1 / 2.0,
            sill: o.sill,
            outline,
        })
    });
    rear.into_iter().chain(others).collect()
}

/// A door in a wall.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct DoorView {
    /// Identifier.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// Along the wall in plan, from its rear edge.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub line: [[f64; 2]; 2],
    /// Its outline in side view, `[x, z]`.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub outline: Vec<[f64; 2]>,
}

/// The doors that are in a wall, as they are drawn.
pub fn doors(project: &Project, model: &Model) -> Vec<DoorView> {
    let all = doorways(project, model).into_iter();
    all.filter_map(|d| {
        let side = d.side?;
        let (from, to) = d.span();
        let wall = |x: f64| {
            let out = model.offset(side, x.max(0.0), d.sill.max(0.0))?;
            Some([x, side.sign() * out])
        };
        let edge = |by: f64| {
            let nodes = d.outline.iter();
            nodes.map(move |(h, w)| (*h, by * w / 2.0))
        };
        let round = edge(-1.0).chain(edge(1.0).rev());
        Some(DoorView {
            line: [wall(from)?, wall(to)?],
            outline: round.map(|(h, by)| [d.middle + by, d.sill + h]).collect(),
            id: d.id,
            name: d.name,
        })
    })
    .collect()
}
