//! A lid that turns up about its back edge, and what keeps it there.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::hinges::Hinges;
use crate::furniture::Site;
use crate::furniture::built::{Body, Ease, Item, Motion, Vec3};
use crate::geometry::distance;
use crate::mechanics::lid::{Lid, MOST, turned};
use crate::mechanics::strut::{self, Chosen, Under};

/// Gap between a lid and the strip it hangs on, mm (a choice: a hinge's pin and finish).
pub const GAP: f64 = 2.0;
/// A prop's pivot lies so far from the front and below the lid, mm (2 in each way, common practice, no source).
const PIVOT: f64 = 50.8;
/// A prop holds a lid at so many degrees (a choice: short of upright, where it lies on the prop).
const PROPPED: f64 = 75.0;
/// A lid longer than this along its hinge twists on a single strut, mm (a choice).
const TWISTS: f64 = 500.0;

/// What holds a lid up.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Stay {
    /// A wooden prop with a stop screw.
    #[default]
    Prop,
    /// Gas struts.
    Strut,
    /// A strap or clip to the wall behind.
    Strap,
}

impl Stay {
    /// Words for the form.
    pub const WORDS: [(&'static str, &'static str); 3] = [
        ("prop", "a prop with a stop screw"),
        ("strut", "gas struts"),
        ("strap", "a strap to the wall"),
    ];
}

/// A lid's sizes, mm and kg.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Sizes {
    /// Along its hinge.
    pub long: f64,
    /// From the hinge to its free edge.
    pub deep: f64,
    /// Its thickness.
    pub thickness: f64,
    /// Its mass.
    pub mass: f64,
    /// The wall stands so far behind the hinge.
    pub wall: f64,
    /// From the hinge to the inner face of the front.
    pub inside: f64,
    /// From the hinge down to the floor of the box.
    pub down: f64,
}

/// A lid as a hand finds it.
#[derive(Debug, Clone, PartialEq)]
pub struct Lift {
    /// The body, within the module.
    pub body: String,
    /// The lid, without a strut.
    pub lid: Lid,
    /// What holds it up.
    pub stay: Stay,
    /// What it hangs on.
    pub hinges: Hinges,
    /// The strut that suits, where struts were chosen and one does.
    pub strut: Option<Chosen>,
    /// One on each side.
    pub pair: bool,
    /// JSON Pointer of the choice below the module; nothing where there is none.
    pub pointer: &'static str,
}

impl Lift {
    /// With the strut that suits it, if it is to have one.
    pub fn new(
        body: &str,
        s: Sizes,
        (stay, hinges): (Stay, Hinges),
        pointer: &'static str,
    ) -> Lift {
        let lid = Lid {
            length: s.deep,
            // The pin lies on its upper face: nothing stands up behind it. Its middle lies half a thickness lower, which
            // is less than 1 N at the edge.
            thickness: 0.0,
            mass: s.mass,
            cg: s.deep / 2.0,
            wall_distance: s.wall,
            mattress: None,
            strut: None,
        };
        let under = Under {
            deep: s.inside,
            down: s.down,
            face: s.thickness,
            pair: s.long > TWISTS,
        };
        let wanted = stay == Stay::Strut;
        let strut = wanted.then(|| strut::choose(&lid, under)).flatten();
        Lift {
            body: body.into(),
            lid,
            stay,
            hinges,
            strut,
            pair: under.pair,
            pointer,
        }
    }
}

/// The prop that holds it: its length from pivot to lid, mm; it has to lie down along the box.
fn prop(s: Sizes) -> f64 {
    /// So much shorter than the box it has to be to lie down in it, mm.
    const LIES: f64 = 40.0;
    let pivot = [s.inside - PIVOT, -s.thickness - PIVOT];
    let at = |share: f64| distance(turned([share * s.deep, -s.thickness], PROPPED), pivot);
    let mut shares = (3..=9).rev().map(|k| f64::from(k) / 10.0);
    let found = shares.find(|k| at(*k) <= s.inside - PIVOT - LIES);
    at(found.unwrap_or(0.3))
}

/// A lid's body: `at` a point of its hinge line, that runs along `about`.
pub fn body(id: String, name: String, (at, about): (Vec3, Vec3), eases: Vec<Ease>) -> Body {
    Body {
        parent: None,
        id,
        name,
        motion: Motion::Turn {
            at,
            about,
            most: MOST,
        },
        eases,
        change: None,
    }
}

/// What is bought for a lid: hinges along its hinge line, what holds it up, a latch.
pub fn hardware(site: &Site, lift: &Lift, s: Sizes) -> Vec<Item> {
    let w = &site.w;
    let stay = match (lift.stay, lift.strut) {
        (Stay::Strut, Some(c)) => Item::new("gas strut", c.strut.count as u32, 4).sized(format!(
                "{}, {} to {} long; on the lid {} from the hinge, on the side {} from it and {} below the lid",
                w.force(c.strut.force),
                w.bare(c.strut.closed),
                w.say(c.strut.open),
                w.say(c.strut.lid_at[0]),
                w.say(c.strut.frame_at[0]),
                w.say(-c.strut.frame_at[1] - s.thickness)
            )),
        (Stay::Strap, _) => Item::new("strap or clip that holds the lid to the wall", 1, 2),
        // No strut of the usual sizes goes in: a prop always does.
        (Stay::Prop | Stay::Strut, _) => Item::new("wooden prop with a stop screw", 1, 2)
            .sized(format!("{} long", w.say(prop(s)))),
    };
    vec![
        lift.hinges
            .item(w, lift.hinges.on_a_lid(s.long), (s.long, s.mass))
            .into_wood(s.thickness),
        stay.into_wood(s.thickness),
        Item::latch(lift.body.clone()).into_wood(s.thickness),
    ]
}
