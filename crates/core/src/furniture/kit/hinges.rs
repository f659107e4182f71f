//! What doors, flaps and lids hang on: which hinges, how many, of what size, and what they ask of the boards.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::furniture::built::Item;
use crate::units::figure::Writer;
use crate::units::value::Value;

/// What a door, a flap or a lid hangs on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Hinges {
    /// Butt hinges on the outer edge.
    #[default]
    Butt,
    /// A long hinge from end to end.
    Long,
    /// Flush hinges: one leaf lies within the other, nothing is let in.
    Flush,
    /// Cup hinges, bored into the inner face of a door.
    Cup,
}

/// The thinnest board that takes a cup, mm.
pub const CUP_BOARD: f64 = 15.0;
/// A flush hinge holds a door so far off what it hangs on, mm: its one leaf (from memory).
pub const LEAF: f64 = 2.0;

/// A door on butt hinges opens so far, and on cup hinges (from memory: 110 is the usual one), degrees.
const WIDE: f64 = 170.0;
const CUP_OPENS: f64 = 110.0;

/// Doors longer than this take three hinges instead of two, mm (a choice).
const THIRD: f64 = 900.0;
/// Hinges stand so far off a lid's ends, mm, and no further apart than that (4 1/2 in, common practice, no source;
/// a choice).
const OFF_END: f64 = 115.0;
const APART: f64 = 450.0;
/// Screws of a long hinge stand so far apart along each leaf, mm (a choice).
const PITCH: f64 = 60.0;
/// Lengths of butt and flush hinges, mm, and what each of them carries, kg (choices).
const LENGTHS: [(f64, f64); 3] = [(40.0, 1.5), (60.0, 4.0), (80.0, f64::INFINITY)];

/// What holds a flap that came down.
pub fn level() -> Item {
    Item::new("strap or chain that holds a flap level", 2, 2)
}

impl Hinges {
    /// Value and words for doors and flaps.
    pub const DOORS: [(&'static str, &'static str); 4] = [
        ("butt", "butt hinges"),
        ("long", "a long hinge"),
        ("flush", "flush hinges"),
        ("cup", "cup hinges, bored in"),
    ];
    /// Value and words for lids.
    pub const LIDS: [(&'static str, &'static str); 3] = [
        ("butt", "butt hinges"),
        ("long", "a long hinge"),
        ("flush", "flush hinges"),
    ];

    /// How far a door goes on them, at the most, degrees.
    pub fn opens(self) -> f64 {
        match self {
            Hinges::Cup => CUP_OPENS,
            _ => WIDE,
        }
    }

    /// How far they hold a door off what it hangs on.
    pub fn off(self) -> Option<Value> {
        (self == Hinges::Flush).then(|| Value::rule("hinge/leaf", "leaf of the hinge", LEAF))
    }

    /// How many a door `long` mm along its hinge line takes.
    pub fn on_a_door(self, long: f64) -> u32 {
        match self {
            Hinges::Long => 1,
            _ => 2 + u32::from(long > THIRD),
        }
    }

    /// How many a lid `long` mm along its hinge line takes: people sit on it, so they are closer.
    pub fn on_a_lid(self, long: f64) -> u32 {
        match self {
            Hinges::Long => 1,
            _ => 1 + (((long - 2.0 * OFF_END).max(0.0) / APART).ceil() as u32).max(1),
        }
    }

    /// What is bought: `count` of them for something that weighs `mass` kg and is `long` mm along its hinge line.
    pub fn item(self, w: &Writer, count: u32, (long, mass): (f64, f64)) -> Item {
        let each = mass / f64::from(count.max(1));
        let fits = LENGTHS.iter().find(|(_, carries)| each <= *carries);
        let size = w.say(fits.unwrap_or(&LENGTHS[2]).0);
        match self {
            Hinges::Butt => Item::new("butt hinge", count, 6).sized(size),
            Hinges::Flush => Item::new("flush hinge", count, 6).sized(size),
            Hinges::Cup => Item::new("cup hinge, 35 mm, with its plate", count, 4),
            Hinges::Long => {
                let screws = 2 * ((long / PITCH).ceil() as u32 + 1);
                Item::new("long hinge", count, screws).sized(format!("cut to {}", w.say(long)))
            }
        }
    }
}
