//! The length, where something stands on the centre line.

use super::Ask;
use super::basic::{BESIDE, PASSING};
use super::words::Words;
use crate::project::survey::{OpeningDim, Quantity};

/// Half the width of a bay whose opening was not read, mm.
const UNREAD: f64 = 400.0;
/// A length is looked for no further off the centre line, mm.
const FURTHEST: f64 = 1500.0;

/// Where something stands on the centre line from the floor to the top, the length is read beside it: as near to the centre line as the
/// tape runs free. Without any length no wall has a place.
pub fn length(p: &Words) -> Option<Ask> {
    let had = |q: &Quantity| !p.project.survey.skipped.contains_key(&q.key());
    let levels = p.levels.iter().map(|l| l.z).chain([0.0]);
    let on_the_line = levels.map(|z| Quantity::Length { z, y: 0.0 });
    if on_the_line.into_iter().any(|q| had(&q)) {
        return None;
    }
    let width = p.model.get(&Quantity::rear(OpeningDim::WidthFloor));
    let half = width.map_or(UNREAD, |w| w.mm / 2.0) * BESIDE;
    let stands = |y: f64| {
        p.model.things().any(|o| {
            let (face, far) = (o.side.sign() * o.face, o.far.map(|f| o.side.sign() * f));
            let far = far.unwrap_or(o.side.sign() * f64::INFINITY);
            (face.min(far) - PASSING..=face.max(far) + PASSING).contains(&y)
        })
    };
    let steps = (1..).map(|i| f64::from(i) * 50.0);
    let out = steps.take_while(|y| *y <= half.min(FURTHEST));
    let mut places = out.flat_map(|y| [y, -y]).filter(|y| !stands(*y));
    let first = places.find_map(|y| Some(Quantity::Length { z: 0.0, y }).filter(had))?;
    Some(p.ask(first, true))
}
