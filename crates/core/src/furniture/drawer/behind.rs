//! Behind a drawer that is shorter than the others: the room there, and an opening in the back through which it is reached.

use super::Sizes;
use crate::furniture::built::{Behind, Built, HAND};
use crate::furniture::kit::carcass::Cell;
use crate::furniture::kit::drawer_box::Making;
use crate::furniture::kit::maker::Maker;
use crate::geometry::region::Region;

/// Less than this behind a drawer is nothing to put anything in, mm (a choice).
const LEAST: f64 = 60.0;
/// So much of the back is left round the opening, mm (a choice).
const RIM: f64 = 30.0;

/// Opens the back behind a drawer, if it is shorter than its bay, and says what is left there.
pub(super) fn open(
    out: &mut Built,
    (maker, sizes): (&Maker, &Sizes),
    (cell, making): (&Cell, &Making),
    (body, name): (String, String),
) {
    let [w, h, deep] = cell.size.clone().map(|v| v.mm);
    let free = deep - making.opening[2].mm;
    if free < LEAST {
        return;
    }
    let high = h - making.above.mm;
    let (wide, tall) = (w - 2.0 * RIM, high - 2.0 * RIM);
    let window = (wide.min(tall) >= HAND).then_some((wide, tall));
    let [x, y, z] = cell.at;
    let (y, z) = (y + RIM, z + RIM);
    if window.is_some() {
        let hole = Region::rectangle(y, z, y + wide, z + tall);
        let back = out.boards.iter_mut().find(|b| b.id == "carcass-back");
        if let Some(back) = back {
            back.windows.push(hole);
            back.then
                .push("an opening behind the shorter drawer: drill the corners, saw between, round the edges".into());
        }
    }
    let past = x + deep + sizes.board.mm;
    out.behind.push(Behind {
        body,
        name,
        size: [w, free, high],
        window,
        bay: [
            maker.frame.at([past, y, z]),
            maker.frame.at([past, y + wide, z + tall]),
        ],
        out: maker.frame.turn([1.0, 0.0, 0.0]),
    });
}
