//! The same piece in another place: against the other wall, turned round, or wherever it is free.

use super::add::claims;
use super::{Kind, Site, Wanted, kind};
use crate::project::Project;
use crate::project::module::{Across, Module};
use crate::survey::model::Model;

/// Free places for a piece as large as it is, in words, each with what the piece is there.
pub fn places(
    project: &Project,
    model: &Model,
    kinds: &[&dyn Kind],
    piece: &str,
) -> Vec<(&'static str, Module)> {
    let Some(module) = project.modules.get(piece) else {
        return vec![];
    };
    let Some(kind) = kind(kinds, &module.kind) else {
        return vec![];
    };
    let mut others = project.clone();
    others.modules.remove(piece);
    let claims = claims(&others, model, kinds);
    let site = Site {
        project: &others,
        model,
        id: piece,
        claims: &claims,
        w: project.writer(),
    };
    let own = Wanted {
        name: module.name.clone(),
        choices: module.choices.clone(),
        gap: Some(module.place.gap),
        finish: Some(module.finish),
        covers: module.covers,
        ..Wanted::default()
    };
    let other = match module.place.across {
        Across::LeftWall => Some(("against the right wall", Across::RightWall)),
        Across::RightWall => Some(("against the left wall", Across::LeftWall)),
        Across::WallToWall | Across::Centred => None,
    };
    let mirrored = other.map(|(words, across)| {
        let mut wanted = own.clone();
        (wanted.across, wanted.along) = (Some(across), Some(module.place.along));
        (wanted.covers.left, wanted.covers.right) = (own.covers.right, own.covers.left);
        for choice in wanted.choices.values_mut() {
            let turned = match choice.as_str() {
                Some("left") => "right",
                Some("right") => "left",
                _ => continue,
            };
            *choice = turned.into();
        }
        (words, wanted)
    });
    let kept = Wanted {
        across: Some(module.place.across),
        ..own.clone()
    };
    let all = mirrored
        .into_iter()
        .chain([("along", kept), ("to where it is free", own)]);
    let found = all.filter_map(|(words, wanted)| {
        let there = kind.defaults(&site, &wanted).ok()?;
        // As large as it is: a place for a smaller one is no place for it.
        let same = wanted
            .choices
            .iter()
            .all(|(k, v)| there.choices.get(k) == Some(v));
        let there = Module {
            held: module.held.clone(),
            notes: module.notes.clone(),
            ..there
        };
        (same && there.place != module.place).then_some((words, there))
    });
    let mut out: Vec<(&'static str, Module)> = Vec::new();
    for (words, there) in found {
        if !out.iter().any(|(_, o)| o.place == there.place) {
            out.push((words, there));
        }
    }
    out
}
