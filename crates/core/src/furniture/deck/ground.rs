//! What a support stands on: the floor with its slope, humps, steps and folded seats; and where it cannot
//! stand, because something is there that carries nothing.

use crate::geometry::Point;
use crate::input::escape;
use crate::project::deck::Deck;
use crate::survey::model::{Model, Obstacle};
use crate::units::figure::Writer;
use crate::units::value::{Source, Surface, Value};

/// A foot is moved aside in steps of this, mm, and at most so far.
const STEP: f64 = 5.0;
const FURTHEST: f64 = 300.0;
/// The floor is followed across the bay at every so many mm.
const ACROSS: f64 = 150.0;

/// A place to stand.
#[derive(Debug, Clone, PartialEq)]
pub struct Stand {
    /// Its height over the load floor, mm.
    pub z: f64,
    /// The same with where it comes from.
    pub height: Value,
    /// What is stood on.
    pub what: String,
    /// How much lower that is at the foot's other edge, mm: its slope over the foot's thickness.
    pub falls: f64,
}

/// What there is to stand on under a deck.
pub struct Footing<'a> {
    pub model: &'a Model,
    pub deck: &'a Deck,
    pub clearance: f64,
    /// JSON Pointer of the deck.
    pub at: String,
    pub w: Writer,
}

impl Footing<'_> {
    /// Height of the bare floor: the user's own region first, then the survey.
    pub fn floor(&self, x: f64, y: f64) -> f64 {
        self.region(x)
            .map_or_else(|| self.model.floor_at(x, y), |(_, floor)| floor)
    }

    /// The user's own region at `x`: its identifier and the floor there.
    fn region(&self, x: f64) -> Option<(&String, f64)> {
        let mut own = self.deck.leg_regions.iter();
        let own = own.find(|(_, r)| x >= r.from && x <= r.to);
        own.map(|(id, r)| (id, r.floor))
    }

    /// The bare floor's height `z`, and where it comes from.
    fn on_floor(&self, (x, y): (f64, f64), z: f64) -> Stand {
        let label = format!("floor, {} from the threshold", self.w.say(x));
        Stand {
            z,
            height: match self.region(x) {
                Some((id, _)) => Value::choice(
                    format!("{}/choices/leg_regions/{}/floor", self.at, escape(id)),
                    label,
                    z,
                ),
                None => Value::leaf(
                    Source::Place {
                        surface: Surface::Floor,
                        at: [x, y],
                    },
                    label,
                    z,
                ),
            },
            what: "floor".into(),
            falls: 0.0,
        }
    }

    /// On top of a thing, at the height `z`, which is less than its own where it slopes, and `falls` over the foot.
    fn on_thing(&self, o: &Obstacle, (z, falls): (f64, f64)) -> Stand {
        let leaf = |label: String, mm: f64| {
            let source = Source::Thing {
                id: o.id.clone(),
                doubt: false,
            };
            Value::leaf(source, label, mm)
        };
        let top = leaf(format!("top of the {}", o.name), o.z.1);
        Stand {
            z,
            height: match o.z.1 - z {
                less if less > 1e-6 => {
                    let lower = leaf("which is lower here by".to_string(), less);
                    (top - lower).named(format!("top of the {} here", o.name))
                }
                _ => top,
            },
            what: o.name.clone(),
            falls,
        }
    }

    fn carrying(&self) -> impl Iterator<Item = &Obstacle> {
        self.model.things().filter(|o| o.carries)
    }

    /// How high a thing's top is under a support across the bay at `x`, and how much lower at its other edge.
    fn top(&self, o: &Obstacle, x: f64) -> Option<(f64, f64)> {
        let half = self.deck.supports.thickness / 2.0;
        let over = x >= o.x.0 && x <= o.x.1;
        over.then(|| o.top_over((x - half, x + half))).flatten()
    }

    /// Across the bay: from its inner face to the wall, or to its far face.
    fn across(&self, o: &Obstacle) -> (f64, f64) {
        let b = o.plan().bounds();
        (b.1, b.3)
    }

    /// The course of what a frame stands on at `x`, from right to left: floor, and over whatever carries.
    /// Steps in it are upright.
    pub fn profile(&self, x: f64, (y0, y1): (f64, f64)) -> Vec<Point> {
        let on: Vec<(f64, f64, f64)> = self
            .carrying()
            .filter(|o| x >= o.x.0 && x <= o.x.1)
            .map(|o| {
                let (a, b) = self.across(o);
                (a, b, self.top(o, x).map_or(o.z.1, |t| t.0))
            })
            .collect();
        let steps = ((y1 - y0) / ACROSS).ceil().clamp(1.0, 40.0);
        let mut ys: Vec<f64> = (0..=steps as usize)
            .map(|i| (y0 + (y1 - y0) * i as f64 / steps).min(y1))
            .collect();
        ys.extend(on.iter().flat_map(|o| [o.0, o.1]));
        ys.retain(|y| *y >= y0 && *y <= y1);
        ys.sort_by(f64::total_cmp);
        ys.dedup_by(|a, b| (*a - *b).abs() < 0.5);
        let height = |y: f64| {
            let top = on.iter().filter(|o| y > o.0 && y < o.1).map(|o| o.2);
            top.fold(self.floor(x, y), f64::max)
        };
        let mut out: Vec<Point> = Vec::new();
        for w in ys.windows(2) {
            // Just inside the stretch: at its ends the height may jump.
            let inside = 0.01 * (w[1] - w[0]);
            for y in [w[0] + inside, w[1] - inside] {
                let at = if y < (w[0] + w[1]) / 2.0 { w[0] } else { w[1] };
                out.push([at, height(y)]);
            }
        }
        out.dedup_by(|a, b| (a[0] - b[0]).abs() < 1e-9 && (a[1] - b[1]).abs() < 1e-9);
        // Level stretches need no points between their ends.
        let mut i = 1;
        while i + 1 < out.len() {
            let level = |p: Point, q: Point| (p[1] - q[1]).abs() < 1e-6;
            if level(out[i - 1], out[i]) && level(out[i], out[i + 1]) {
                out.remove(i);
            } else {
                i += 1;
            }
        }
        out
    }

    /// What lies at the height `z` at a place, if anything to stand on does.
    pub fn named(&self, (x, y): (f64, f64), z: f64) -> Option<Stand> {
        /// The floor between two looks at it is taken as straight, mm.
        const STRAIGHT: f64 = 0.4;
        let mut things = self.carrying().filter_map(|o| Some((o, self.top(o, x)?)));
        let thing = things.find(|(_, (top, _))| (top - z).abs() < 1.0);
        match thing {
            Some((o, (_, falls))) => Some(self.on_thing(o, (z, falls))),
            None if (self.floor(x, y) - z).abs() <= STRAIGHT => Some(self.on_floor((x, y), z)),
            None => None,
        }
    }

    /// A place `width` wide as near to `wanted` as may be, within `limits`, off what is `taken`, where a
    /// foot stands whole on one thing.
    pub fn find(
        &self,
        along: (f64, f64),
        wanted: f64,
        width: f64,
        limits: (f64, f64),
        taken: &[(f64, f64)],
    ) -> Option<(f64, Stand)> {
        let n = (FURTHEST / STEP) as i32;
        let offsets = (0..=n).flat_map(|i| [f64::from(i) * STEP, -f64::from(i) * STEP]);
        offsets.map(|d| wanted + d).find_map(|y| {
            let inside = y >= limits.0 - 1e-6 && y + width <= limits.1 + 1e-6;
            let free = taken.iter().all(|t| y + width <= t.0 || y >= t.1);
            if !inside || !free {
                return None;
            }
            Some((y, self.stand(along, (y, y + width))?))
        })
    }

    /// What a foot stands on, if it stands whole on one thing and on nothing that carries nothing.
    fn stand(&self, x: (f64, f64), y: (f64, f64)) -> Option<Stand> {
        let c = self.clearance;
        let (mx, my) = ((x.0 + x.1) / 2.0, (y.0 + y.1) / 2.0);
        let mut on = self.on_floor((mx, my), self.floor(mx, my));
        for o in self.model.things() {
            let (a, b) = self.across(o);
            // What hangs high is no matter for the foot.
            if o.z.0 > on.z + 20.0 {
                continue;
            }
            let touches = |c: f64| x.1 > o.x.0 - c && x.0 < o.x.1 + c && y.1 > a - c && y.0 < b + c;
            if !o.carries {
                if touches(c) {
                    return None;
                }
                continue;
            }
            if !touches(0.0) {
                continue;
            }
            let whole = x.0 >= o.x.0 && x.1 <= o.x.1 && y.0 >= a && y.1 <= b;
            if !whole {
                return None;
            }
            // A foot on a slope touches with the edge that is higher up.
            let top = o.top_over(x).unwrap_or((o.z.1, 0.0));
            if top.0 > on.z {
                on = self.on_thing(o, top);
            }
        }
        Some(on)
    }
}
