//! The boards of drawers and their carcass.

use super::{Drawer, Front, Inner, Sizes, behind, nested};
use crate::furniture::built::{Built, Ease};
use crate::furniture::kit::carcass::{Carcass, Cell};
use crate::furniture::kit::drawer;
use crate::furniture::kit::drawer_box::Run;
use crate::furniture::kit::drawer_box::{FaceKind, Making};
use crate::furniture::kit::frame::{Frame, Opens};
use crate::furniture::kit::maker::Maker;
use crate::furniture::kit::slide_board::{self, SlideBoard};
use crate::furniture::kit::style::Style;
use crate::furniture::stands::Standing;
use crate::units::value::Value;

/// The carcass of drawers.
fn carcass(d: &Drawer, sizes: &Sizes) -> Carcass {
    Carcass {
        size: sizes.outside.clone(),
        before: sizes.before.mm,
        board: sizes.board.clone(),
        back: Some(sizes.board.clone()),
        style: Style::default(),
        bottom: true,
        top: true,
        columns: d.columns,
        rows: d.rows,
        given: vec![],
    }
}

/// What a bay's drawer is made from.
fn making(d: &Drawer, sizes: &Sizes, at: &str, finish: f64, cell: &Cell) -> Making {
    let [w, h, deep] = cell.size.clone();
    let last = cell.column + 1 == d.columns && d.columns > 1;
    let deep = match &sizes.short {
        Some(short) if last && short.mm < deep.mm => short.clone(),
        _ => deep,
    };
    let over = cell.row + 1 == d.rows;
    let above = match &sizes.table {
        Some(table) if over => slide_board::takes(table, &strip(sizes), &sizes.gap),
        _ => Value::zero(),
    };
    d.making(at, finish, [w, h, deep], above)
}

/// Thickness of the strips that a pull-out board runs on: as the carcass, more than a face laps over.
fn strip(sizes: &Sizes) -> Value {
    sizes.board.clone().named("strip it runs on")
}

/// All drawers of these choices, wherever they go.
pub(super) fn makings(d: &Drawer, finish: f64) -> Vec<Making> {
    let sizes = d.sizes("");
    let cells = carcass(d, &sizes).cells();
    let each = cells.iter().map(|cell| {
        let own = making(d, &sizes, "", finish, cell);
        match d.inner {
            Inner::Single => own,
            Inner::Nested => nested::inner(d, "", finish, &own),
        }
    });
    each.collect()
}

/// On what else it may run.
fn runs(d: &Drawer) -> Vec<Ease> {
    let to = |run: Run, label: &str, cost: &str| Ease {
        label: label.into(),
        cost: cost.into(),
        pointer: "/choices/motion".into(),
        value: serde_json::json!(run),
        ..Ease::default()
    };
    if d.motion.slides() {
        vec![to(
            Run::Strips,
            "Run it on slippery strips",
            "wider inside, a little lower; it has to be pulled harder, and stays in the carcass by its last hand",
        )]
    } else {
        vec![to(
            Run::SideSlides,
            "Hang it on slides",
            "a little narrower; slides are bought",
        )]
    }
}

/// What may help a drawer that meets something: another way to open.
fn eases(d: &Drawer) -> Vec<Ease> {
    let others = Opens::WORDS
        .iter()
        .zip([Opens::Rear, Opens::Left, Opens::Right]);
    others
        .filter(|(_, o)| *o != d.opens)
        .map(|((value, words), _)| Ease {
            against: None,
            label: format!("Open it {words}"),
            cost: "width and depth change places in the vehicle".into(),
            pointer: "/choices/opens".into(),
            value: (*value).into(),
        })
        .collect()
}

/// Drawers at a spot.
pub(super) fn built(d: &Drawer, stands: &Standing) -> Built {
    let (site, finish) = (stands.site, stands.finish);
    let at = site.pointer();
    let sizes = d.sizes(&at);
    let maker = Maker {
        site,
        name: stands.name.clone(),
        letter: "C",
        material: d.material.clone(),
        frame: Frame::new(&stands.spot, d.opens),
    };
    let carcass = carcass(d, &sizes);
    let mut out = Built {
        boards: carcass.boards(&maker),
        joints: carcass.joints(),
        ..Built::default()
    };
    for b in &mut out.boards {
        b.then
            .push("ease the edges you will touch; dry fit before glue".into());
    }
    let cells = carcass.cells();
    let several = cells.len() > 1;
    for (i, cell) in cells.iter().enumerate() {
        let n = i + 1;
        let numbered = |s: &str| {
            if several {
                format!("{s}-{n}")
            } else {
                s.to_string()
            }
        };
        let making = making(d, &sizes, &at, finish, cell);
        let outer = (d.inner == Inner::Nested)
            .then(|| nested::outer(d, &maker, cell, &making, (&numbered("outer"), finish)));
        let (own, at) = match &outer {
            Some(o) => (&o.maker, o.at),
            None => (&maker, cell.at),
        };
        out.take(
            drawer::Drawer {
                maker: own.clone(),
                making: outer.as_ref().map_or(&making, |o| &o.making),
                prefix: if several {
                    format!("{n}-")
                } else {
                    String::new()
                },
                name: match several {
                    true => format!("{}, drawer {n}", maker.name),
                    false => maker.name.clone(),
                },
                body: numbered("drawer"),
                at,
                face: match making.face.as_ref().map(|f| f.kind) {
                    Some(FaceKind::Inset) => cell.at[0],
                    _ => 0.0,
                },
                parent: outer.as_ref().map(|_| numbered("outer")),
                covers: outer.as_ref().and_then(|o| o.covers.clone()),
                drops: d.front == Front::Drops,
                grip: d.grip,
                eases: eases(d),
                cells: [d.cells_across, d.cells_deep],
                runs: runs(d),
            }
            .made(),
        );
        if let Some(o) = outer {
            out.take(o.built);
        }
        let called = format!("{}, drawer {n}", maker.name);
        behind::open(
            &mut out,
            (&maker, &sizes),
            (cell, &making),
            (numbered("drawer"), called),
        );
        let over = cell.row + 1 == d.rows;
        let Some(board) = sizes.table.clone().filter(|_| over) else {
            continue;
        };
        let [w, h, deep] = &cell.size;
        out.take(
            SlideBoard {
                maker: maker.clone(),
                prefix: if several {
                    format!("{n}-")
                } else {
                    String::new()
                },
                body: numbered("table"),
                at: [cell.at[0], cell.at[1], cell.at[2] + h.mm],
                opening: [w.clone(), deep.clone()],
                before: sizes.before.clone(),
                board,
                strip: strip(&sizes),
                gap: sizes.gap.clone(),
                sides: [cell.column, cell.column + 1].map(|c| carcass.upright_of(c)),
            }
            .made(),
        );
    }
    out
}
