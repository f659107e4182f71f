//! How a piece is held, in words and figures, and what has to be known for it.

use std::collections::BTreeMap;

use super::fasten::{screws_between, size_between, touches};
use super::load::Load;
use super::piece::{LEAST, Piece, carried};
use super::point::Place;
use super::{HoldPoint, HoldView};
use crate::furniture::built::Vec3;
use crate::furniture::{Field, FieldValue};
use crate::input::escape;
use crate::project::Project;
use crate::project::held::HeldBy;
use crate::protocol::Ask;
use crate::units::GRAVITY;
use crate::units::figure::Writer;

/// Wood on wood, wood on a floor lining (a choice, at the low end of EN 12195-1's table, from memory).
const FRICTION: f64 = 0.3;

pub(super) fn view(
    project: &Project,
    pieces: &BTreeMap<&str, Piece>,
    id: &str,
    w: &Writer,
) -> HoldView {
    let empty = Load {
        mass: 0.0,
        at: [0.0; 3],
        low: [0.0; 3],
        high: [0.0; 3],
        walls: [false; 2],
    };
    let p = pieces.get(id);
    let load = carried(pieces, id);
    let known = load.unwrap_or(p.map_or(empty, |p| p.load));
    let places: &[Place] = p.map_or(&[], |p| &p.places);
    let at: Vec<Vec3> = places.iter().map(|p| p.at).collect();
    let takes = known.takes(&at);
    let points = places.iter().zip(&takes).map(|(p, n)| HoldPoint {
        name: p.name.clone(),
        at: p.at,
        board: p.board.clone(),
        words: p.words.clone(),
        takes: if n.is_finite() && places.len() >= LEAST {
            format!("{} of {}", w.force(*n), w.force(p.bears))
        } else {
            format!("counted for {}", w.force(p.bears))
        },
        enough: *n <= p.bears,
    });
    let points: Vec<HoldPoint> = points.collect();
    let name = p.map_or(String::new(), |p| p.module.called());
    let (holds, words) = judged(pieces, id, load.as_ref(), w);
    HoldView {
        module: id.into(),
        form: form(project, id),
        weighs: w.mass(known.mass.round()),
        forward: w.force(known.forward()),
        side: w.force(known.side()),
        nothing: points.is_empty() && p.is_some_and(|p| p.module.held.by == HeldBy::Anchors),
        points,
        words,
        holds,
        name,
    }
}

/// Whether a piece is held, and why.
pub(super) fn judged(
    pieces: &BTreeMap<&str, Piece>,
    id: &str,
    load: Option<&Load>,
    w: &Writer,
) -> (bool, String) {
    let Some(p) = pieces.get(id) else {
        return (false, String::new());
    };
    let Some(load) = load else {
        return (
            false,
            "It is held by a piece that it holds itself: one of them needs the vehicle.".into(),
        );
    };
    match p.module.held.by {
        HeldBy::Weight => {
            let slip = load.forward() - FRICTION * load.mass * GRAVITY;
            (
                false,
                format!(
                    "Friction holds less than half of what braking pulls at it: {} are missing. It slides unless something stands in front of it.",
                    w.force(slip)
                ),
            )
        }
        HeldBy::Piece => {
            let Some(host) = p.module.held.to.as_deref().and_then(|to| pieces.get(to)) else {
                return (false, "Say which piece holds it.".into());
            };
            let n = screws_between(pieces, id);
            if touches(p, host).is_empty() {
                (
                    false,
                    format!(
                        "It does not touch the {}: there is nothing to screw.",
                        host.module.called()
                    ),
                )
            } else if n == 0 {
                (
                    false,
                    format!(
                        "It touches the {} on too short a stretch for the screws that it needs.",
                        host.module.called()
                    ),
                )
            } else {
                (
                    true,
                    format!(
                        "{n} screws {} into the {}, which holds both.",
                        size_between(w),
                        host.module.called()
                    ),
                )
            }
        }
        HeldBy::Floor if p.module.held.floor.is_none() => (
            false,
            "How thick is the floor that takes the screws? Look what is below it before drilling."
                .into(),
        ),
        HeldBy::Anchors | HeldBy::Floor | HeldBy::Strips => {
            let good = p.stands(load, &p.places);
            let n = p.places.len();
            let places = match n {
                1 => "1 place".to_string(),
                n => format!("{n} places"),
            };
            let words = match (good, n) {
                (true, _) => format!("Held at {places}: each bears what braking, setting off and bends bring to it."),
                (false, 0) if p.module.held.by == HeldBy::Strips => "None of its boards stands on the floor: there is nothing to stick.".into(),
                (false, 0) => "Nothing is noted that could hold it: no ring, thread, rib or floor ply within a hand of it.".into(),
                (false, 1) => "One place is not enough: it turns about it.".into(),
                (false, n) if n < p.least() => format!(
                    "{places} are not enough: so long a piece is held at its corners, {} at least.",
                    p.least()
                ),
                (false, _) => format!("{places} are not enough."),
            };
            (good, words)
        }
    }
}

/// The choices, for every kind the same.
pub(super) fn form(project: &Project, id: &str) -> Vec<Field> {
    let Some(m) = project.modules.get(id) else {
        return vec![];
    };
    let at = format!("/modules/{}/held", escape(id));
    let field = |path: &str, label: &str, value: FieldValue, why: &str| Field {
        pointer: format!("{at}/{path}"),
        label: label.into(),
        value,
        empty: None,
        why: why.into(),
    };
    let by = [
        ("anchors", "what the survey notes"),
        ("floor", "screws into the floor"),
        ("strips", "adhesive strips on the floor"),
        ("piece", "another piece"),
        ("weight", "its weight only"),
    ];
    let now = by[m.held.by as usize].0.to_string();
    let options = by.iter().map(|(v, w)| ((*v).into(), (*w).into())).collect();
    let mut out = vec![field(
        "by",
        "Held by",
        FieldValue::Choice { now, options },
        "Existing rings, bolts and threads first; drilling a body is last.",
    )];
    match m.held.by {
        HeldBy::Piece => {
            let others = project.modules.iter().filter(|(o, _)| *o != id);
            let mut options: Vec<(String, String)> = vec![(String::new(), "none yet".into())];
            options.extend(others.map(|(o, m)| (o.clone(), m.called())));
            let now = m.held.to.clone().unwrap_or_default();
            out.push(field(
                "to",
                "Screwed to",
                FieldValue::Choice { now, options },
                "",
            ));
        }
        HeldBy::Floor => {
            let now = m.held.floor.map(|mm| project.writer().figure(mm));
            out.push(field(
                "floor",
                "Floor is thick",
                FieldValue::Length { now },
                "Screws stop short of what is below: tanks, lines, wires.",
            ));
        }
        HeldBy::Anchors | HeldBy::Strips | HeldBy::Weight => {}
    }
    out
}

/// What would have to be known of the fixings that are near.
pub(super) fn asks(project: &Project, pieces: &BTreeMap<&str, Piece>) -> Vec<Ask> {
    let mut out = Vec::new();
    for (id, p) in pieces {
        if p.module.held.by == HeldBy::Floor && p.module.held.floor.is_none() {
            out.push(Ask::field(
                "layout",
                format!("/modules/{}/held/floor", escape(id)),
                format!("{}, thickness of the floor below it", p.module.called()),
                "At a hole, or at the edge of the floor's board.",
                "Screws hold in it and must not come out below.",
            ));
        }
        for place in p.places.iter().filter(|p| p.bears <= 0.0) {
            let fixing = project.survey.fixings.get(&place.fixing);
            if fixing.is_some_and(|f| f.depth.is_none() && !f.kind.has_thread()) {
                out.push(Ask::field(
                    "layout",
                    format!("/survey/fixings/{}/depth", escape(&place.fixing)),
                    format!("{}, how deep a screw may go", place.name),
                    "At a hole: a bent wire hooked behind, or the edge of the board.",
                    "Screws hold in it and must not come out behind.",
                ));
            }
        }
    }
    out
}
