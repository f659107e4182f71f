//! Which way the grain of a board runs: as its kind asks where it is seen or bears, either way elsewhere, and turned where
//! the person says so.

use super::built::{Board, Built, Span};
use crate::mechanics::material::PartGrain;
use crate::project::Project;

/// A board whose stiffness was worked out along its grain keeps that grain.
pub(super) fn settle(board: &mut Board, spans: &[Span]) {
    let bears = || spans.iter().any(|s| s.along && s.board == board.id);
    if board.grain == PartGrain::Free && bears() {
        board.grain = PartGrain::Along;
    }
}

/// Turns the boards that the document names (`cutting.turned`), and what they bear is judged across instead of along.
pub(super) fn turned(project: &Project, module: &str, built: &mut Built) {
    if project.cutting.turned.is_empty() {
        return;
    }
    for board in &mut built.boards {
        let id = format!("{module}/{}", board.id);
        if !project.cutting.turned.contains(&id) {
            continue;
        }
        board.grain = match board.grain {
            PartGrain::Along => PartGrain::Across,
            PartGrain::Across => PartGrain::Along,
            PartGrain::Free => PartGrain::Free,
        };
        for span in built.spans.iter_mut().filter(|s| s.board == board.id) {
            span.along = !span.along;
        }
    }
}
