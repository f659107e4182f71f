//! A frame before the front of a carcass: stiles over its uprights, rails between them over its level boards. It stiffens
//! the opening, and hides edges.

use super::carcass::{Carcass, Cell};
use super::maker::Maker;
use crate::furniture::built::{Built, Fasten, Joint, Pose};
use crate::units::value::Value;

/// Width of its boards, mm (a choice).
pub const RIM: f64 = 40.0;

/// How far it laps over an opening on one side: its width less the board behind its edge, or half of that between two.
fn laps(carcass: &Carcass, outer: bool) -> Value {
    let rim = Value::rule("frame/rim", "board of the frame", RIM);
    match outer {
        true => rim - &carcass.board,
        false => (rim - &carcass.board) * 0.5,
    }
}

/// The opening of a bay as the frame leaves it, at the face of the frame.
pub fn opening(carcass: &Carcass, cell: &Cell) -> Cell {
    let [w, h, d] = &cell.size;
    let right = laps(carcass, cell.column == 0);
    let left = laps(carcass, cell.column + 1 == carcass.columns);
    let low = laps(carcass, cell.row == 0);
    let high = laps(carcass, cell.row + 1 == carcass.rows);
    let t = carcass.board.mm;
    let [x, y, z] = cell.at;
    Cell {
        at: [x - t, y + right.mm, z + low.mm],
        size: [
            (w - right - left).named("opening in the frame"),
            (h - low - high).named("opening in the frame"),
            d.clone(),
        ],
        ..*cell
    }
}

/// Which stile stands before an upright, from the right and from 0.
pub fn stile(column: u32) -> String {
    format!("stile-{}", column + 1)
}

/// Which rail lies below a bay.
pub fn rail_below(cell: &Cell) -> String {
    format!("frame-rail-{}-{}", cell.column + 1, cell.row)
}

/// Its boards, before a carcass that begins behind it.
pub fn made(m: &Maker, carcass: &Carcass) -> Built {
    let t = carcass.board.mm;
    let x = carcass.before - t;
    let [_, _, height] = &carcass.size;
    let rim = Value::rule("frame/rim", "board of the frame", RIM);
    let mut out = Built::default();
    let cells = carcass.cells();
    let openings: Vec<Cell> = cells.iter().map(|c| opening(carcass, c)).collect();
    for k in 0..=carcass.columns {
        let right_of = openings.iter().find(|o| o.column == k);
        let left_of = openings.iter().find(|o| o.column + 1 == k);
        let y = match (right_of, left_of) {
            (Some(o), _) => o.at[1] - RIM,
            (None, Some(o)) => o.at[1] + o.size[0].mm,
            _ => continue,
        };
        let id = stile(k);
        let mut made = m.board(
            (&id, "stile", "stile of the frame"),
            t,
            Pose::across(x),
            [y, 0.0],
            (("width", &rim), ("height", height)),
        );
        made.places = vec![format!("{} from the right", k + 1)];
        out.boards.push(made);
        let upright = carcass.upright_of(k);
        out.joints.push(Joint::new(Fasten::Butt, id, upright));
    }
    for o in &openings {
        let mut levels = vec![(o.row, o.at[2] - RIM)];
        if o.row + 1 == carcass.rows {
            levels.push((carcass.rows, o.at[2] + o.size[1].mm));
        }
        for (row, z) in levels {
            let id = format!("frame-rail-{}-{row}", o.column + 1);
            let mut made = m.board(
                (&id, "rail", "rail of the frame"),
                t,
                Pose::across(x),
                [o.at[1], z],
                (("length", &o.size[0]), ("width", &rim)),
            );
            made.places = vec![format!("bay {}, level {}", o.column + 1, row + 1)];
            out.boards.push(made);
            for k in [o.column, o.column + 1] {
                out.joints
                    .push(Joint::new(Fasten::Pocket, id.clone(), stile(k)));
            }
        }
    }
    out
}
