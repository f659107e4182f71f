//! All the way of what moves of a piece, drawn: where its boards are from shut to fully open.

use crate::boards::{BoardView, ModuleView};
use crate::evening::Scene;
use crate::furniture::built::{Motion, Pose};
use crate::furniture::riding::Bodies;
use crate::projection::shapes;

/// A lid is drawn every so many degrees; what slides, at so many places.
const TURN: f64 = 15.0;
const PLACES: usize = 4;

/// A piece's boards at places along the ways of its bodies, each body by itself; what it rides on is shut.
pub fn sweep(boards: &[BoardView], module: &ModuleView) -> Scene {
    let bodies = Bodies::new(&module.bodies);
    let mut placed: Vec<(&BoardView, Pose)> = Vec::new();
    for body in &module.bodies {
        let whole = body.motion.whole();
        let n = match body.motion {
            Motion::Turn { .. } => (whole / TURN).ceil().clamp(1.0, 24.0) as usize,
            Motion::Slide { .. } | Motion::Over { .. } => PLACES,
        };
        let own = boards
            .iter()
            .filter(|b| bodies.goes_with(&b.body, &body.id));
        for b in own {
            let by = (1..=n).map(|i| whole * i as f64 / n as f64);
            placed.extend(by.map(|by| (b, body.motion.carried(&b.shut, by))));
        }
    }
    let [above, side, behind] = shapes(&placed);
    Scene {
        above,
        side,
        behind,
    }
}
