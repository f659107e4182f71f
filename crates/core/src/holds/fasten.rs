//! Which fixing holds which piece, and which piece another.

use std::collections::{BTreeMap, BTreeSet};

use super::HoldView;
use super::load::Load;
use super::piece::{LEAST, MOST, Piece, carried};
use super::point::{self, BESIDE, Place};
use super::strips::strips;
use crate::joints::{contact, wood_screw};
use crate::mechanics::fixing::screw_bears;
use crate::project::Project;
use crate::project::held::HeldBy;
use crate::units::figure::Writer;

/// Screws from one piece into another: thickness and how deep they hold, mm (choices).
const SCREW: (f64, f64) = (4.0, 12.0);

/// Gives the fixings that there are to the pieces that need them, a fixing to one piece: the heaviest first, each in
/// turn, what is there already before what has to be set in, and far from those that it has.
pub(super) fn fasten(project: &Project, pieces: &mut BTreeMap<&str, Piece>, w: &Writer) {
    let loads: BTreeMap<&str, Load> = pieces
        .keys()
        .filter_map(|id| Some((*id, carried(pieces, id)?)))
        .collect();
    let mut order: Vec<&str> = loads.keys().copied().collect();
    order.sort_by(|a, b| loads[b].mass.total_cmp(&loads[a].mass));
    let mut offered: BTreeMap<&str, Vec<Place>> = BTreeMap::new();
    for (id, p) in pieces.iter() {
        let all = match p.module.held.by {
            HeldBy::Piece | HeldBy::Weight => vec![],
            HeldBy::Floor => p.feet(w),
            HeldBy::Strips => strips(p, w),
            HeldBy::Anchors => {
                let near = project.survey.fixings.iter().filter_map(|(f, fixing)| {
                    let (board, far) = point::nearest(point::reached(fixing), &p.solids)?;
                    let density = p.density(board);
                    (far <= BESIDE)
                        .then(|| point::place((f, fixing), (board, far), density, w))
                        .flatten()
                });
                near.collect()
            }
        };
        offered.insert(id, all);
    }
    // A fixing is its nearest piece's first.
    let mut own: BTreeMap<String, (f64, &str)> = BTreeMap::new();
    for (id, all) in &offered {
        for o in all {
            let best = own.entry(o.fixing.clone()).or_insert((f64::INFINITY, *id));
            if o.far < best.0 {
                *best = (o.far, *id);
            }
        }
    }
    let mut gone: BTreeSet<String> = BTreeSet::new();
    let mut more = true;
    while more {
        more = false;
        for id in &order {
            let (Some(p), Some(load)) = (pieces.get_mut(id), loads.get(id)) else {
                continue;
            };
            if p.places.len() >= MOST || p.stands(load, &p.places) {
                continue;
            }
            let free = offered.get(id).into_iter().flatten();
            let free = free
                .filter(|o| !gone.contains(&o.fixing) && !p.places.iter().any(|h| h.at == o.at));
            let far = |o: &Place| {
                let to = |h: &Place| (0..3).map(|k| (h.at[k] - o.at[k]).powi(2)).sum::<f64>();
                p.places.iter().map(to).fold(f64::INFINITY, f64::min)
            };
            // What bears nothing yet is named last.
            let best = free.min_by(|a, b| {
                let others = |o: &Place| own.get(&o.fixing).is_some_and(|n| n.1 != *id);
                let worth = |o: &Place| (o.bears <= 0.0, others(o), o.rank);
                worth(a).cmp(&worth(b)).then(far(b).total_cmp(&far(a)))
            });
            if let Some(best) = best.cloned() {
                if !best.fixing.is_empty() {
                    gone.insert(best.fixing.clone());
                }
                p.places.push(best);
                more = true;
            }
        }
    }
}

/// How far the boards of a piece touch those of the one to which it is screwed, each pair, mm.
pub(super) fn touches(a: &Piece, b: &Piece) -> Vec<f64> {
    let pairs = a
        .solids
        .iter()
        .flat_map(|s| b.solids.iter().map(move |t| (s, t)));
    pairs.filter_map(|(s, t)| contact(s, t)).collect()
}

/// Pieces that are held themselves, touch this one, and would still be held with it screwed to them.
pub(super) fn hosts_of(
    pieces: &BTreeMap<&str, Piece>,
    views: &[HoldView],
    id: &str,
) -> Vec<(String, String)> {
    let Some(load) = carried(pieces, id) else {
        return vec![];
    };
    let Some(p) = pieces.get(id) else {
        return vec![];
    };
    let mut out = Vec::new();
    for v in views.iter().filter(|v| v.holds && v.module != id) {
        let Some(host) = pieces.get(v.module.as_str()) else {
            continue;
        };
        let fixed = matches!(host.module.held.by, HeldBy::Anchors | HeldBy::Floor);
        let both = carried(pieces, &v.module).map(|own| own.with(&load));
        let holds = both.is_some_and(|both| host.stands(&both, &host.places));
        if fixed && holds && screws_for(p, host, &load) > 0 {
            out.push((v.module.clone(), v.name.clone()));
        }
    }
    out
}

/// Screws between a piece and the one that holds it; none where they do not do.
pub(super) fn screws_between(pieces: &BTreeMap<&str, Piece>, id: &str) -> u32 {
    let Some(p) = pieces.get(id).filter(|p| p.module.held.by == HeldBy::Piece) else {
        return 0;
    };
    let host = p.module.held.to.as_deref().and_then(|to| pieces.get(to));
    match (host, carried(pieces, id)) {
        (Some(host), Some(load)) => screws_for(p, host, &load),
        _ => 0,
    }
}

/// As many as the force asks for; none where they would stand too close.
pub(super) fn screws_for(p: &Piece, host: &Piece, load: &Load) -> u32 {
    let patches = touches(p, host);
    if patches.is_empty() {
        return 0;
    }
    let density = p
        .solids
        .iter()
        .map(|s| p.density(s))
        .fold(f64::INFINITY, f64::min);
    let each = screw_bears(density, SCREW.1, SCREW.0).max(1.0);
    let wanted = (load.forward().hypot(load.side()) / each)
        .ceil()
        .max(LEAST as f64);
    // Screws closer than ten times their thickness split a board (a choice). Four posts under a deck share them.
    let each = patches.iter().map(|l| (l / (10.0 * SCREW.0)).floor());
    let room: f64 = each.sum();
    if wanted > room { 0 } else { wanted as u32 }
}

pub(super) fn size_between(w: &Writer) -> String {
    wood_screw(25.0, SCREW.0, w).map_or(String::new(), |s| s.0)
}
