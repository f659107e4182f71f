//! What furniture weighs and where that weight lies, everything shut.

use crate::boards::BoardView;
use crate::furniture::riding::Bodies;
use crate::mechanics::load::{Centre, centre as middle};

fn of<'a>(boards: impl Iterator<Item = &'a BoardView>) -> Option<Centre> {
    let all: Vec<_> = boards.map(|b| (b.mass, b.middle)).collect();
    middle(&all)
}

/// The boards of a body, `module/body`, and of what rides on it.
pub fn of_body(boards: &[BoardView], bodies: &Bodies, body: &str) -> Option<Centre> {
    of(boards.iter().filter(|b| bodies.goes_with(&b.body, body)))
}

/// The boards of a piece.
pub fn of_piece(boards: &[BoardView], module: &str) -> Option<Centre> {
    of(boards.iter().filter(|b| b.module == module))
}

/// All boards; nothing while there are none.
pub fn of_all(boards: &[BoardView]) -> Option<Centre> {
    of(boards.iter())
}
