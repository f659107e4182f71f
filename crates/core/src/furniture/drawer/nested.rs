//! A drawer within a drawer: the outer one is an open box on slides that comes out as a worktop, the inner one runs in it.
//! What slides and sides take of the width comes off twice.

use super::Drawer;
use crate::furniture::built::{Body, Built, Glide, Item, Motion, Span, Under};
use crate::furniture::kit::carcass::{Carcass, Cell};
use crate::furniture::kit::drawer::THINGS;
use crate::furniture::kit::drawer_box::{FaceKind, Making};
use crate::furniture::kit::maker::Maker;
use crate::furniture::kit::style::Style;
use crate::problem::Problem;
use crate::units::value::Value;

/// What cannot be with it.
pub(super) fn check(d: &Drawer) -> Result<(), Problem> {
    let words = if !d.motion.slides() {
        "A drawer within a drawer runs on slides: it hangs on them, outer and inner."
    } else if d.table.is_some() {
        "The outer drawer is the board that comes out: there is none over it."
    } else {
        return Ok(());
    };
    Err(Problem::impossible("/choices/inner", words))
}

/// The outer one, and where the inner one goes.
pub(super) struct Outer<'a> {
    /// Makes what is in it.
    pub maker: Maker<'a>,
    /// The inner drawer.
    pub making: Making,
    /// Its opening's corner.
    pub at: [f64; 3],
    /// What its face covers.
    pub covers: Option<[Value; 2]>,
    /// The outer one, worked out.
    pub built: Built,
}

/// The box of the outer one, from its own front's right lower corner.
fn tube(d: &Drawer, at: &str, making: &Making, before: f64) -> Carcass {
    let [w, h, deep] = making.outside();
    let named = |v: Value| v.named("outer drawer");
    Carcass {
        size: [named(w), named(deep), named(h)],
        before,
        board: Value::choice(
            format!("{at}/choices/sides"),
            "side of the outer drawer",
            d.sides,
        ),
        back: Some(making.sides.clone()),
        style: Style::default(),
        bottom: true,
        top: true,
        columns: 1,
        rows: 1,
        given: vec![],
    }
}

/// What the inner drawer is made from, in an outer one of that making.
pub(super) fn inner(d: &Drawer, at: &str, finish: f64, outer: &Making) -> Making {
    let cell = tube(d, at, outer, 0.0).cells().into_iter().next();
    let opening = cell.map_or_else(|| outer.outside(), |c| c.size);
    d.making(at, finish, opening, Value::zero())
}

/// The outer drawer of a bay. `body` is its identifier within the module.
pub(super) fn outer<'a>(
    d: &Drawer,
    maker: &Maker<'a>,
    bay: &Cell,
    making: &Making,
    (body, finish): (&str, f64),
) -> Outer<'a> {
    let site = maker.site;
    let at = site.pointer();
    let inset = making
        .face
        .as_ref()
        .is_some_and(|f| f.kind == FaceKind::Inset);
    let before = match &making.face {
        Some(f) if !inset => f.thickness.mm,
        _ => bay.at[0],
    };
    let carcass = tube(d, &at, making, before);
    let aside = making.aside().mm + making.finish.mm;
    let own = Maker {
        frame: maker
            .frame
            .moved([0.0, bay.at[1] + aside, bay.at[2] + making.gap.mm]),
        ..maker.called(&format!("{}, outer", maker.name), "W")
    };
    let id = |b: &str| format!("{body}-{b}");
    let mut boards = carcass.boards(&own);
    for b in &mut boards {
        b.id = id(&b.id);
        b.body = body.into();
        b.then
            .push("ease the edges you will touch; dry fit before glue".into());
    }
    let mut joints = carcass.joints();
    for j in &mut joints {
        (j.a, j.b) = (id(&j.a), id(&j.b));
    }
    let deep = carcass.size[1].mm;
    let cell = carcass.cells().into_iter().next();
    let (corner, opening) = cell.map_or_else(|| ([0.0; 3], making.outside()), |c| (c.at, c.size));
    let [wide, _, inside] = opening.clone().map(|v| v.mm);
    let built = Built {
        bodies: vec![Body {
            id: format!("{}/{body}", site.id),
            name: own.name.clone(),
            parent: None,
            motion: Motion::Slide {
                along: maker.frame.turn([-1.0, 0.0, 0.0]),
                travel: deep,
            },
            eases: vec![],
            change: None,
        }],
        glides: vec![Glide {
            body: body.into(),
            run: d.motion,
            guided: deep,
            wide: carcass.size[0].mm,
            made_for: THINGS * wide * inside * 1e-6,
            eases: vec![],
        }],
        spans: vec![Span {
            board: id("carcass-top"),
            name: format!("top of the {}", own.name),
            spans: vec![wide],
            width: inside,
            along: carcass.wide(),
            under: Under::Things(THINGS * wide * inside * 1e-6),
            eases: vec![],
        }],
        hardware: vec![
            Item::new("pair of slides that lock in and out", 1, 16)
                .sized(site.w.say((deep / 50.0).floor().max(1.0) * 50.0)),
        ],
        boards,
        joints,
        ..Built::default()
    };
    Outer {
        making: d.making(&at, finish, opening, Value::zero()),
        at: corner,
        covers: making.face_size().filter(|_| !inset),
        maker: Maker {
            name: maker.name.clone(),
            ..own
        },
        built,
    }
}
