//! Why a board that comes to a wall or a thing ends where it does: the rule of `cross` as values. What another rule decided
//! is not explained by this one.

use super::cross::Cross;
use super::deck::why::surface;
use crate::project::survey::Side;
use crate::template::fill::{CLEAR, LEAN};
use crate::units::value::{Source, Value};

/// A board ends where its explanation says, mm.
const SAME: f64 = 1e-3;

impl Cross<'_> {
    /// Why a board from `x.0` to `x.1` ends `end` mm out from the centre line on one side at that height, where the wall
    /// or a thing there is what decides it.
    pub fn why(
        &self,
        side: Side,
        x: (f64, f64),
        z: f64,
        end: f64,
        clearance: &Value,
    ) -> Option<Value> {
        let wall = self.wall_why(side, x, z, clearance);
        let things = self.site.model.things().filter(|o| o.side == side);
        let things = things.filter_map(|o| {
            let id = || o.id.clone();
            let doubt = Source::Thing {
                id: id(),
                doubt: true,
            };
            let face = Source::Thing {
                id: id(),
                doubt: false,
            };
            let doubt = Value::leaf(doubt, format!("doubt of the {}", o.name), o.sd);
            let own = clearance.clone() + self.lean(&doubt);
            let wide = own.mm + o.extra;
            let (y0, y1) = o.across((x.0 - wide, x.1 + wide), z)?;
            let mm = if side == Side::Left { y0 } else { -y1 };
            let face = Value::leaf(face, format!("{} face from centre", o.name), mm);
            let held = if o.extra > 0.0 {
                own + Value::leaf(
                    Source::Thing {
                        id: id(),
                        doubt: false,
                    },
                    "clearance and movement it wants",
                    o.extra,
                )
            } else {
                own
            };
            Some(face - held)
        });
        let mut all = wall.into_iter().chain(things);
        all.find(|v| (v.mm - end).abs() < SAME)
    }

    /// The clearance to the walls, and how it came about.
    pub fn clearance_why(&self) -> Value {
        if let Some(mm) = self.clearance {
            return self.site.choice("clearance", "clearance", mm);
        }
        let (sd, (side, x, z)) = self.shared();
        let source = Source::Doubt {
            surface: surface(side),
            at: [x, z],
        };
        let doubt = Value::leaf(source, "doubt that most of the walls do not exceed", sd);
        let at = format!("{}/finish", self.site.pointer());
        (doubt * CLEAR + Value::choice(at, "finish", self.finish)).named("clearance")
    }

    fn wall_why(&self, side: Side, x: (f64, f64), z: f64, clearance: &Value) -> Option<Value> {
        let w = self.site.w;
        let n = self.nearest(side, x, z)?;
        let surface = surface(side);
        let place = Source::Place {
            surface,
            at: [n.at, z],
        };
        let at = format!(
            "{} wall from centre, {} from the threshold, {} over the floor",
            side.word(),
            w.say(n.at),
            w.say(z)
        );
        let doubt = Source::Doubt {
            surface,
            at: self.looked_up(n.doubt, z),
        };
        let doubt = Value::leaf(doubt, "doubt here", self.doubt(side, n.doubt, z));
        let lean = self.lean(&doubt).named("for doubt here");
        let mut off = clearance.clone() + lean;
        let cover = self.covers.at(side);
        if cover > 0.0 {
            let at = format!("{}/covers/{}", self.site.pointer(), side.word());
            off = off + Value::choice(at, "covering on the edge", cover);
        }
        Some(Value::leaf(place, at, n.mm) - off * n.slant)
    }

    /// What an edge of that doubt is held off beside the clearance.
    fn lean(&self, doubt: &Value) -> Value {
        let (most, (side, x, z)) = self.shared();
        let leans = doubt * LEAN;
        if doubt.mm <= most {
            return leans;
        }
        let source = Source::Doubt {
            surface: surface(side),
            at: [x, z],
        };
        let most = Value::leaf(source, "doubt that most of the walls do not exceed", most);
        leans + (doubt - most) * CLEAR
    }
}
