//! The deck's top: whole pieces with vents, or slats.

use super::bevel;
use super::why::Edges;
use crate::furniture::built::{Axis, Board, Measure, Pose};
use crate::furniture::platform::parting::{self, Parting};
use crate::furniture::platform::vents;
use crate::furniture::way::Way;
use crate::geometry::labelled::{Label, Labelled};
use crate::geometry::region::Region;
use crate::geometry::relief::relieve;
use crate::mechanics::material::PartGrain;
use crate::project::deck::{Deck, Top};

/// The pieces as they are drawn in plan.
pub fn shown(deck: &Deck, parting: &Parting) -> Vec<Region> {
    let pieces: Vec<Region> = match deck.top {
        Top::Solid => parting.pieces.clone(),
        Top::Slats => slats(deck, parting).iter().map(Labelled::region).collect(),
    };
    pieces
        .iter()
        .flat_map(|p| relieve(p, deck.internal_radius).into_iter().take(1))
        .collect()
}

/// Slats along the bay cut out of the pieces, evenly over the whole width.
fn slats(deck: &Deck, parting: &Parting) -> Vec<Labelled> {
    let (x0, y0, x1, y1) = parting::bounds(&parting.pieces);
    let pitch = deck.slat_width + deck.slat_gap;
    let n = (((y1 - y0) + deck.slat_gap) / pitch).floor().max(1.0);
    let first = y0 + ((y1 - y0) - (n * pitch - deck.slat_gap)).max(0.0) / 2.0;
    let mut out = Vec::new();
    for i in 0..n as usize {
        let y = first + i as f64 * pitch;
        let strip = Region::rectangle(x0 - 1.0, y, x1 + 1.0, y + deck.slat_width);
        let strip = Labelled::new(&strip, Label::cut(1));
        for piece in &parting.edges {
            out.extend(piece.and(&strip));
        }
    }
    out.retain(|r| r.region().size().0 > 100.0);
    out
}

/// What is to be cut.
pub fn panels(edges: &Edges, parting: &Parting, lines: &[f64]) -> Vec<Board> {
    let (deck, w) = (edges.deck, &edges.site.w);
    let whole = parting::bounds(&parting.pieces);
    let blank = |i: usize, labelled: &Labelled, name: String, vents: Vec<([f64; 2], f64)>| {
        let mut then = vec![
            format!("ease all edges {}", w.say(2.0)),
            "dry fit before any finish".to_string(),
        ];
        if !vents.is_empty() {
            then.insert(
                0,
                format!(
                    "{} vents, diameter {}, as drawn",
                    vents.len(),
                    w.say(vents::DIAMETER)
                ),
            );
        }
        let slat = deck.top == Top::Slats;
        let region = labelled.region();
        let mut measures = edges.measures(labelled);
        let whole_slat = |(a, b): (f64, f64)| (b - a - deck.slat_width).abs() < 1e-3;
        let (_, y0, _, y1) = region.bounds();
        if slat && whole_slat((y0, y1)) {
            let width = edges.site.choice("slat_width", "slat", deck.slat_width);
            measures.push(Measure::whole(Axis::V, "width", width));
        }
        let (letter, role) = if slat { ("S", "slat") } else { ("D", "panel") };
        let pose = Pose::level(deck.underside.unwrap_or(0.0));
        let way = Way::deck(&region, whole, &parting.xs, &parting.ys);
        let bevels = bevel::bevels(edges, labelled);
        then.extend(bevels.iter().map(|b| b.words(w)));
        Board {
            name,
            bevels,
            material: deck.material.clone(),
            thickness: deck.thickness,
            relief: deck.internal_radius,
            vents,
            then,
            measures,
            way,
            ..Board::new(format!("panel-{}", i + 1), role, letter, region, pose)
        }
    };
    match deck.top {
        Top::Solid => parting
            .edges
            .iter()
            .enumerate()
            .map(|(i, piece)| {
                let r = piece.region();
                let vents = vents::place(&r, lines)
                    .into_iter()
                    .map(|p| (p, vents::DIAMETER))
                    .collect();
                let name = format!("{}{}", deck.name, place_name(&r, parting));
                let mut board = blank(i, piece, name, vents);
                if parting.turned.get(i).is_some_and(|t| *t) {
                    board.grain = PartGrain::Across;
                }
                board
            })
            .collect(),
        Top::Slats => slats(deck, parting)
            .iter()
            .enumerate()
            .map(|(i, r)| blank(i, r, format!("{}, slat", deck.name), vec![]))
            .collect(),
    }
}

/// `, left half`, `, rear left`... by where a piece lies.
fn place_name(piece: &Region, parting: &Parting) -> String {
    let (x0, y0, x1, y1) = piece.bounds();
    let (x, y) = ((x0 + x1) / 2.0, (y0 + y1) / 2.0);
    let along = parting
        .xs
        .first()
        .map(|at| if x < *at { "rear" } else { "front" });
    let across = parting
        .ys
        .first()
        .map(|at| if y < *at { "right" } else { "left" });
    match (along, across) {
        (None, None) => String::new(),
        (Some(a), None) => format!(", {a} half"),
        (None, Some(s)) => format!(", {s} half"),
        (Some(a), Some(s)) => format!(", {a} {s}"),
    }
}
