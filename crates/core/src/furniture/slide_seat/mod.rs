//! A sofa that becomes a bed: its seat slides out, and the leaf that stood behind it as a back lies down into the gap, on a
//! flexible hinge. An apron below the seat's front edge carries it when it is out.

mod boards;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::built::{Bed, Built, Item, Sat};
use super::form::Form;
use super::kit::frame::Opens;
use super::kit::maker::Maker;
use super::stands::{Piece, Stance, Standing};
use super::{Field, Site};
use crate::input::within;
use crate::problem::Problem;
use crate::project::Project;
use boards::Work;

/// Least width, mm: shorter is no bed.
const SHORT: f64 = 600.0;
/// A bed is longer than who lies in it by so much, mm (common practice, no source).
const OVER: f64 = 120.0;
/// Nobody sits lower than this, mm (a choice); it leaves room for rail and keels too.
const LOW: f64 = 260.0;
/// Between what moves and what stands, mm (a choice).
const PLAY: f64 = 2.0;

/// The choices about a sofa that becomes a bed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct SlideSeat {
    /// To which side its seat slides out.
    pub opens: Opens,
    /// Width, square to that: how long the bed is, mm.
    pub width: f64,
    /// Depth pushed in, mm.
    pub depth: f64,
    /// Height of the seat's upper face, mm.
    pub height: f64,
    /// Length of the leaf: how high it stands behind the seat, and how far that slides out, mm.
    pub leaf: f64,
    /// Depth of the strip at the back that stays, mm.
    pub strip: f64,
    /// Material identifier.
    pub material: String,
    /// Thickness of what carries it, mm.
    pub thickness: f64,
    /// Thickness of seat and leaf, mm.
    pub top: f64,
    /// Clearance to walls and wells, mm; from the readings and the finish if null.
    pub clearance: Option<f64>,
}

impl Default for SlideSeat {
    fn default() -> Self {
        SlideSeat {
            opens: Opens::Left,
            width: 1900.0,
            depth: 560.0,
            height: 380.0,
            leaf: 420.0,
            // 6.5 cm (common practice, no source).
            strip: 65.0,
            material: "birch-ply".into(),
            thickness: 15.0,
            top: 18.0,
            clearance: None,
        }
    }
}

impl SlideSeat {
    /// Depth of the seat, mm.
    fn seat(&self) -> f64 {
        self.depth - self.strip - PLAY
    }
}

/// A sofa that becomes a bed.
pub struct SlideSeatKind;

impl Piece for SlideSeatKind {
    type Choices = SlideSeat;

    fn name(&self) -> &'static str {
        "slide_seat"
    }

    fn purpose(&self) -> &'static str {
        "A sofa by day, a bed by night: its seat slides out, its back lies down behind it."
    }

    fn called(&self) -> Option<&'static str> {
        Some("sofa bed")
    }

    fn height_of(&self) -> &'static str {
        "Height of the seat"
    }

    fn over(&self, c: &SlideSeat) -> f64 {
        c.leaf
    }

    fn stance(&self, c: &SlideSeat) -> Stance {
        Stance {
            opens: c.opens,
            // The back stands up behind the seat.
            size: [c.width, c.depth, c.height + c.leaf],
            least: [
                SHORT,
                c.strip + PLAY + c.leaf + 3.0 * c.thickness,
                LOW + c.leaf,
            ],
            clearance: c.clearance,
            material: c.material.clone(),
            thickness: c.thickness,
            reach: c.leaf,
        }
    }

    fn resize(&self, c: &mut SlideSeat, size: [f64; 3]) {
        [c.width, c.depth, c.height] = [size[0], size[1], size[2] - c.leaf];
    }

    fn suit(&self, c: &mut SlideSeat, site: &Site, said: &dyn Fn(&str) -> bool) {
        let tallest = site.project.people.values().filter_map(|p| p.stature);
        let tallest = tallest.fold(0.0, f64::max);
        if !said("width") && tallest > 0.0 {
            c.width = (tallest + OVER).clamp(SHORT, 2400.0);
        }
    }

    fn less(&self, c: &mut SlideSeat, said: &dyn Fn(&str) -> bool) -> bool {
        // A shorter leaf asks for less room before it and above it.
        let shorter = c.leaf > 250.0 && !said("leaf");
        if shorter {
            c.leaf -= 60.0;
        }
        shorter
    }

    fn check(&self, c: &SlideSeat, _: &Project, _: f64) -> Result<(), Problem> {
        within(c.top, "/choices/top", 12.0, 30.0)?;
        // The leaf stands on the strip.
        within(c.strip, "/choices/strip", c.thickness + c.top + 10.0, 200.0)?;
        // Slid out, the seat still lies on what carries it, and the leaf does.
        let most = c.seat() - 3.0 * c.thickness;
        within(c.leaf, "/choices/leaf", 150.0, most.max(150.0))?;
        Ok(())
    }

    fn fields(&self, c: &SlideSeat, f: &Form, _: &Site) -> Vec<Field> {
        vec![
            f.length("leaf", "Leaf", Some(c.leaf))
                .why("the back by day; the bed becomes so much wider"),
            f.length("strip", "Strip at the back", Some(c.strip))
                .why("stays; the leaf stands on it"),
            f.length("top", "Seat and leaf", Some(c.top))
                .why("thickness; a knee bends them"),
        ]
    }

    fn built(&self, c: &SlideSeat, at: &Standing) -> Option<Built> {
        let site = at.site;
        let maker = Maker::new(at, "B", &c.material, c.opens);
        let work = Work::new(c, &maker);
        let mut out = Built::default();
        work.base(&mut out);
        work.seat(&mut out);
        work.leaf(&mut out);
        let m = &maker;
        let corners =
            [[-c.leaf, 0.0], [c.depth, c.width]].map(|[x, y]| m.frame.at([x, y, c.height]));
        let end = |pick: fn(f64, f64) -> f64| [0, 1].map(|k| pick(corners[0][k], corners[1][k]));
        out.beds.push(Bed {
            name: at.name.clone(),
            body: Some("leaf"),
            low: end(f64::min),
            high: end(f64::max),
            top: corners[0][2],
            mean: None,
            sat: Some(Sat {
                seat: c.seat(),
                whole: c.depth + c.leaf,
                height: c.height,
            }),
        });
        let item = |what: &str, count, screws| Item::new(what, count, screws);
        out.hardware.extend([
            item(
                "webbing as a hinge, stapled and glued: it gives where a stiff hinge binds",
                1,
                0,
            )
            .sized(site.w.say(c.width)),
            item("slippery tape on the uprights", work.uprights(), 0).sized(site.w.say(c.depth)),
            item(
                "furniture glide below the apron",
                1 + work.uprights() / 2,
                1,
            ),
            item("stop that ends the way of the seat", 2, 2),
            item(
                "lock that holds the seat in on the road, and out at night",
                2,
                4,
            ),
        ]);
        for b in &mut out.boards {
            b.then
                .push("ease the edges you will touch; dry fit before glue".into());
        }
        Some(out)
    }
}
