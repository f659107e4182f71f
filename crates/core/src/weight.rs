//! What furniture weighs and where that weight lies.

use std::collections::BTreeMap;

use geo::Centroid;

use crate::furniture::built::{Board, Built, Vec3};
use crate::mechanics::load::{Centre, centre as middle};
use crate::parts::marking::cut_shape;
use crate::project::Project;

/// Mass of a board, kg, and where its middle lies, shut.
fn of(project: &Project, board: &Board) -> Option<(f64, Vec3)> {
    let density = project.material(&board.material).map_or(0.0, |m| m.density);
    let shape = cut_shape(board)?;
    let middle = shape.polygon().centroid()?;
    let mass = shape.area() * board.thickness * density * 1e-9;
    let (x0, y0, ..) = board.shape.bounds();
    let at = (middle.x() + x0, middle.y() + y0, board.thickness / 2.0);
    Some((mass, board.pose.at(at.0, at.1, at.2)))
}

/// Mass of the boards of a body, `module/body`, kg, and where its middle lies, shut.
pub fn of_body(project: &Project, built: &Built, body: &str) -> Option<Centre> {
    let own = |b: &&Board| body.ends_with(&format!("/{}", b.body));
    let boards = built.boards.iter().filter(own);
    let all: Vec<(f64, Vec3)> = boards.filter_map(|b| of(project, b)).collect();
    middle(&all)
}

/// Mass of the boards of a piece, kg, and where its middle lies, shut.
pub fn of_piece(project: &Project, built: &Built) -> Option<Centre> {
    let all: Vec<(f64, Vec3)> = built.boards.iter().filter_map(|b| of(project, b)).collect();
    middle(&all)
}

/// Mass of all boards, kg, and where its middle lies with everything shut; nothing while there are no boards.
pub fn centre(project: &Project, built: &BTreeMap<String, Built>) -> Option<(f64, Vec3)> {
    let mut mass = 0.0;
    let mut moment = [0.0; 3];
    let boards = built.values().flat_map(|b| &b.boards);
    for (own, at) in boards.filter_map(|b| of(project, b)) {
        mass += own;
        for (m, c) in moment.iter_mut().zip(at) {
            *m += own * c;
        }
    }
    (mass > 0.0).then(|| (mass, moment.map(|m| m / mass)))
}
