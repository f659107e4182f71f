//! Landmarks seen from both faces of a floor: they tie the survey underneath to the one inside, so
//! that what is found below (a tank, a brake pipe) is known above before anything is drilled.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::geometry::Point;
use crate::project::Project;

/// How the outside lies in the vehicle frame.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Tie {
    /// Turn from outside to inside, degrees.
    pub deg: f64,
    /// Where the outside's origin is inside, mm.
    #[schema(value_type = Vec<f64>)]
    pub shift: Point,
    /// What is left at each landmark, mm, by name.
    pub left: Vec<(String, f64)>,
    /// The largest of them.
    pub worst: f64,
}

/// The tie from the landmarks, by least squares; at least two are needed, three check each other.
pub fn tie(project: &Project) -> Option<Tie> {
    let marks: Vec<_> = project.survey.landmarks.values().collect();
    if marks.len() < 2 {
        return None;
    }
    let n = marks.len() as f64;
    let mean = |f: &dyn Fn(usize) -> Point| -> Point {
        let sum = (0..marks.len()).fold([0.0, 0.0], |s, i| [s[0] + f(i)[0], s[1] + f(i)[1]]);
        [sum[0] / n, sum[1] / n]
    };
    let (a, b) = (mean(&|i| marks[i].outside), mean(&|i| marks[i].inside));
    // The turn that suits all pairs best in the plane: atan2 of summed cross and dot products.
    let (mut cross, mut dot) = (0.0, 0.0);
    for m in &marks {
        let p = [m.outside[0] - a[0], m.outside[1] - a[1]];
        let q = [m.inside[0] - b[0], m.inside[1] - b[1]];
        cross += p[0] * q[1] - p[1] * q[0];
        dot += p[0] * q[0] + p[1] * q[1];
    }
    if cross == 0.0 && dot == 0.0 {
        return None;
    }
    let turn = f64::atan2(cross, dot);
    let (c, s) = (turn.cos(), turn.sin());
    let shift = [b[0] - c * a[0] + s * a[1], b[1] - s * a[0] - c * a[1]];
    let left: Vec<(String, f64)> = marks
        .iter()
        .map(|m| {
            let [u, v] = m.outside;
            let at = [shift[0] + c * u - s * v, shift[1] + s * u + c * v];
            let off = (at[0] - m.inside[0]).hypot(at[1] - m.inside[1]);
            (m.name.clone(), off)
        })
        .collect();
    Some(Tie {
        deg: turn.to_degrees(),
        shift,
        worst: left.iter().map(|l| l.1).fold(0.0, f64::max),
        left,
    })
}
