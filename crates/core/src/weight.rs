//! What furniture weighs and where that weight lies.

use std::collections::BTreeMap;

use geo::Centroid;

use crate::furniture::built::{Built, Vec3};
use crate::parts::marking::cut_shape;
use crate::project::Project;

/// Mass of all boards, kg, and where its middle lies with everything shut; nothing while there are no boards.
pub fn centre(project: &Project, built: &BTreeMap<String, Built>) -> Option<(f64, Vec3)> {
    let mut mass = 0.0;
    let mut moment = [0.0; 3];
    for board in built.values().flat_map(|b| &b.boards) {
        let density = project.material(&board.material).map_or(0.0, |m| m.density);
        let Some(shape) = cut_shape(board) else {
            continue;
        };
        let Some(middle) = shape.polygon().centroid() else {
            continue;
        };
        let own = shape.area() * board.thickness * density * 1e-9;
        let (x0, y0, ..) = board.shape.bounds();
        let at = board
            .pose
            .at(middle.x() + x0, middle.y() + y0, board.thickness / 2.0);
        mass += own;
        for (m, c) in moment.iter_mut().zip(at) {
            *m += own * c;
        }
    }
    (mass > 0.0).then(|| (mass, moment.map(|m| m / mass)))
}
