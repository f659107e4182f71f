//! Adhesive strips under what a piece stands on: nothing is drilled, and it comes off again.

use super::piece::Piece;
use super::point::Place;
use crate::units::figure::Writer;

/// A strip is so wide and so long, mm (a usual size; a choice).
const STRIP: [f64; 2] = [25.0, 100.0];
/// Strips lie this far apart along a foot, mm (a choice).
const APART: f64 = 150.0;
/// What one holds against a jolt, N/mm2 (a choice: makers' sheets give several times as much on bare metal; linings and old paint let
/// go sooner).
const HOLDS: f64 = 0.03;
/// A wire is drawn along each to get it off, s (a choice).
const OFF: u32 = 40;
/// Narrower feet take none, mm (a choice).
const NARROW: f64 = 9.0;

/// Where strips would lie, and what each holds.
pub(super) fn strips(p: &Piece, w: &Writer) -> Vec<Place> {
    let feet = p.along_feet(APART).into_iter();
    let each = feet.filter_map(|(s, at)| {
        let wide = (s.high[0] - s.low[0]).min(s.high[1] - s.low[1]);
        let wide = wide.min(STRIP[0]);
        let size = [wide, STRIP[1]].map(|mm| w.say(mm)).join(" x ");
        (wide >= NARROW).then(|| Place {
            fixing: String::new(),
            name: "floor".into(),
            at,
            board: s.board.id.clone(),
            words: format!(
                "adhesive strip {size} under {}, on firm lining or paint, wiped clean and dry",
                s.board.mark
            ),
            far: 0.0,
            bears: HOLDS * wide * STRIP[1],
            bought: vec![("adhesive strip", size, 1)],
            bolt: None,
            rank: 3,
            seconds: OFF,
        })
    });
    each.collect()
}
