//! The boards of a cabinet.

use super::{Cabinet, Front, Rim};
use crate::furniture::built::{Built, Ease, FIXED, Fasten, Joint, Pose, Room, Span, Under};
use crate::furniture::kit::carcass::{Carcass, Cell};
use crate::furniture::kit::door::{Door, Turns};
use crate::furniture::kit::drawer::THINGS;
use crate::furniture::kit::face_frame::{self, RIM};
use crate::furniture::kit::foot::{self, Foot};
use crate::furniture::kit::frame::Opens;
use crate::furniture::kit::maker::Maker;
use crate::furniture::kit::style::{Closed, Join, SLAT};
use crate::furniture::stands::Standing;
use crate::units::value::Value;

/// What lies less far over another is not screwed to it, mm.
const LEAST: f64 = 8.0;

/// A cabinet where it stands.
pub(super) fn built(c: &Cabinet, at: &Standing) -> Option<Built> {
    let site = at.site;
    let maker = Maker::new(at, "K", &c.material, c.opens);
    let board = site.choice("thickness", "board", c.thickness);
    let before = before(c, &board);
    let foot = match c.foot {
        Foot::Floor => Value::zero(),
        _ => site.choice("lift", "plinth or feet", c.lift),
    };
    let carcass = Carcass {
        size: [
            site.choice("width", "width", c.width),
            site.choice("depth", "depth", c.depth) - &before,
            site.choice("height", "height", c.height) - &foot,
        ],
        before: before.mm,
        board: board.clone(),
        back: Some(site.choice("back", "back", c.back)),
        style: c.style(),
        bottom: true,
        top: true,
        columns: c.columns,
        rows: c.rows,
        given: vec![],
    };
    // The carcass stands on its foot; all else of it is measured from the carcass.
    let mut out = standing(c, &maker, &carcass, foot.clone());
    let maker = Maker {
        frame: maker.frame.moved([0.0, 0.0, foot.mm]),
        ..maker
    };
    out.boards.extend(carcass.boards(&maker));
    out.joints.extend(carcass.joints());
    if c.rim == Rim::Frame {
        out.take(face_frame::made(&maker, &carcass));
    }
    let cells = carcass.cells();
    if let Some(wide) = c.reach {
        pierced(&mut out, &maker, &cells, wide);
    }
    for (i, cell) in cells.iter().enumerate() {
        let name = match cells.len() {
            1 => at.name.clone(),
            _ => format!("{}, bay {}", at.name, i + 1),
        };
        out.take(bay(c, (&carcass, cell), (&maker, &name), i + 1));
    }
    out.joining = Join::others(c.join);
    for b in &mut out.boards {
        b.then
            .push("pilot every screw into an edge; dry fit before glue".into());
    }
    Some(out)
}

/// What stands before the carcass: a door with the leaf of its hinge, a frame.
fn before(c: &Cabinet, board: &Value) -> Value {
    let mut all = Value::zero();
    if c.front != Front::Open {
        all = all + board.clone().named("door before it");
        if let Some(leaf) = c.hinges.off() {
            all = all + leaf;
        }
    }
    match c.rim {
        Rim::Frame => all + board.clone().named("frame before it"),
        Rim::Edges => all,
    }
}

/// What it stands on, screwed to what lies below its uprights.
fn standing(c: &Cabinet, maker: &Maker, carcass: &Carcass, high: Value) -> Built {
    let [width, depth, _] = &carcass.size;
    let under = foot::Under {
        maker,
        foot: c.foot,
        high,
        size: [width, depth],
        before: carcass.before,
        board: carcass.board.clone(),
    };
    let (mut out, at) = under.made();
    for (lies, (a0, a1)) in carcass.lying(true) {
        // A board or slat is screwed to all that lies below it by a screw's width.
        let below = at
            .iter()
            .filter(|(_, (b0, b1))| a1.min(*b1) - a0.max(*b0) >= LEAST);
        let joints = below.map(|(id, _)| Joint::new(Fasten::Butt, lies.clone(), id.clone()));
        out.joints.extend(joints);
    }
    out
}

/// A hole through the back of each bay.
fn pierced(out: &mut Built, maker: &Maker, cells: &[Cell], wide: f64) {
    for back in out.boards.iter_mut().filter(|b| b.id == "carcass-back") {
        for cell in cells {
            let [w, h, _] = cell.size.clone().map(|v| v.mm);
            let at = [cell.at[1] + w / 2.0, cell.at[2] + h / 2.0];
            back.vents.push((at, wide));
        }
        back.then.push(format!(
            "a hole {} wide to reach through behind each bay, its edge rounded",
            maker.site.w.say(wide)
        ));
    }
}

/// What belongs to one bay: its room, the shelf below it, a door or a lip.
fn bay(
    c: &Cabinet,
    (carcass, cell): (&Carcass, &Cell),
    (maker, name): (&Maker, &str),
    n: usize,
) -> Built {
    let site = maker.site;
    let closed = c.front != Front::Open;
    let opened_by = match c.front {
        Front::Open => FIXED.to_string(),
        Front::Doors => format!("door-{n}"),
        Front::Flaps => format!("flap-{n}"),
    };
    let framed = (c.rim == Rim::Frame).then(|| face_frame::opening(carcass, cell));
    // What goes in passes the frame.
    let [w, h, d] = framed.as_ref().unwrap_or(cell).size.clone().map(|v| v.mm);
    let lip = if closed { 0.0 } else { c.lip };
    let mut out = Built {
        rooms: vec![Room {
            name: name.into(),
            size: [w, d, h - lip],
            body: FIXED.into(),
            opened_by: opened_by.clone(),
        }],
        spans: vec![shelf(
            carcass,
            cell,
            maker.thicker("thickness", c.thickness),
        )],
        ..Built::default()
    };
    if closed {
        out.take(door(
            c,
            (carcass, cell, framed),
            maker.called(name, "K"),
            opened_by,
        ));
    } else if c.lip > 0.0 {
        let lip = site.choice("lip", "lip", c.lip);
        let id = format!("lip-{n}");
        out.boards.push(maker.board(
            (&id, "lip", "lip"),
            c.thickness,
            Pose::across(cell.at[0]),
            [cell.at[1], cell.at[2]],
            (("length", &cell.size[0]), ("height", &lip)),
        ));
        let under = carcass.floor_of(cell);
        out.joints.push(Joint::new(Fasten::Butt, under, id));
    }
    out
}

/// What stands in a bay bends the board below it.
fn shelf(carcass: &Carcass, cell: &Cell, eases: Vec<Ease>) -> Span {
    let [w, _, d] = cell.size.clone().map(|v| v.mm);
    Span {
        board: carcass.floor_of(cell),
        name: "shelf".into(),
        spans: match cell.row {
            // The bottom lies under all bays.
            0 => vec![w; carcass.columns as usize],
            _ => vec![w],
        },
        width: match (cell.row, carcass.style.bottom) {
            (0, Closed::Slats) => carcass.lying(true).len() as f64 * SLAT,
            _ => d,
        },
        along: false,
        under: Under::Things(THINGS * w * d * 1e-6),
        eases,
    }
}

/// A door or flap before a bay, on the carcass or on the frame before it.
fn door(
    c: &Cabinet,
    (carcass, cell, framed): (&Carcass, &Cell, Option<Cell>),
    maker: Maker,
    body: String,
) -> Built {
    let between = match framed {
        Some(_) => Value::rule("frame/rim", "board of the frame", RIM),
        None => carcass.board.clone(),
    };
    let half = (between * 0.5).named("half the board between");
    let gap = Value::rule("drawer/between", "half the gap between faces", 1.5);
    let rightmost = cell.column == 0;
    let leftmost = cell.column + 1 == c.columns;
    // The hinge at the end that is further forward, so that the wind of driving shuts a door; two doors side by side
    // turn away from each other.
    let turns = match (c.front, c.opens) {
        (Front::Flaps, _) => Turns::Down,
        (_, Opens::Right) => Turns::Right,
        (_, Opens::Left) => Turns::Left,
        (_, Opens::Rear) if rightmost && !leftmost => Turns::Right,
        (_, Opens::Rear) => Turns::Left,
    };
    let upright = match turns {
        Turns::Left => cell.column + 1,
        _ => cell.column,
    };
    let on = match (turns, &framed) {
        (Turns::Down, Some(_)) => face_frame::rail_below(cell),
        (Turns::Down, None) => carcass.floor_of(cell),
        (_, Some(_)) => face_frame::stile(upright),
        (_, None) => carcass.upright_of(upright),
    };
    Door {
        maker,
        body,
        cell: framed.as_ref().unwrap_or(cell),
        overlap: half - gap,
        board: carcass.board.clone(),
        turns,
        on,
        hinges: c.hinges,
        grip: c.grip,
    }
    .made()
}
