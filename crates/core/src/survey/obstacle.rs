//! Things in the way as bodies: their plan at any height.

use super::model::Model;
use crate::geometry::interpolate;
use crate::geometry::region::Region;
use crate::project::survey::{Cover, Form, Quantity, Side, Thing, ThingDim};

/// How far things at a wall reach behind it, so that no film of bay is left there, mm.
const BEHIND: f64 = 500.0;

/// A thing in the way.
#[derive(Debug, Clone, PartialEq)]
pub struct Obstacle {
    /// Its identifier in the survey.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// At which side it stands.
    pub side: Side,
    /// Along the bay, where it is longest, mm.
    pub x: (f64, f64),
    /// Distance of its inner face from the centre line, where it stands in furthest, mm.
    pub face: f64,
    /// Its outer face, if it stands free.
    pub far: Option<f64>,
    /// Height, mm.
    pub z: (f64, f64),
    /// Largest standard deviation of its faces, mm.
    pub sd: f64,
    /// The readings it comes from.
    pub readings: Vec<String>,
    /// Where the face came from.
    pub how: FaceFrom,
    /// Clearance and movement on top of the panel's own clearance, mm.
    pub extra: f64,
    /// Whether a panel may lie over it.
    pub cover: Cover,
    /// A leg or frame may stand on it.
    pub carries: bool,
    form: Form,
    slices: Vec<Slice>,
}

/// A thing at one height.
#[derive(Debug, Clone, Copy, PartialEq)]
struct Slice {
    z: f64,
    start: f64,
    end: f64,
    face: f64,
    far: f64,
}

/// How the inner face of a thing is known.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum FaceFrom {
    /// Measured from the centre line.
    Centre,
    /// Wall offset less the width measured: the two numbers.
    Wall(f64, f64),
}

impl Obstacle {
    /// From the readings of the thing, once they make a body.
    pub fn new(model: &Model, id: &str, thing: &Thing) -> Option<Obstacle> {
        let height = model.number(id, ThingDim::Height, None)?;
        let bottom = model.number(id, ThingDim::Bottom, None);
        let foot = bottom.map_or(0.0, |b| b.0);
        let mut heights = vec![None];
        heights.extend(model.thing_heights(id).into_iter().map(Some));
        let mut slices = Vec::new();
        let mut sd: f64 = 0.0;
        for z in heights {
            // What was not read at a height is as it is at the foot; one end that was not, leans
            // like the other.
            let own = |dim| model.number(id, dim, z);
            let get = |dim| own(dim).or_else(|| model.number(id, dim, None));
            let (mut start, mut end) = (get(ThingDim::Start)?, get(ThingDim::End)?);
            if let (Some(a), Some(b), Some(_)) = (
                model.number(id, ThingDim::Start, None),
                model.number(id, ThingDim::End, None),
                z,
            ) {
                match (own(ThingDim::Start), own(ThingDim::End)) {
                    (Some(s), None) => end.0 = b.0 - (s.0 - a.0),
                    (None, Some(e)) => start.0 = a.0 + (b.0 - e.0),
                    _ => {}
                }
            }
            let face = get(ThingDim::Face)?;
            let far = get(ThingDim::Far);
            sd = [start.1, end.1, face.1, far.map_or(0.0, |f| f.1)]
                .into_iter()
                .fold(sd, f64::max);
            slices.push(Slice {
                z: z.unwrap_or(foot),
                start: start.0,
                end: end.0.max(start.0 + 1.0),
                face: face.0,
                far: far.map_or(f64::NAN, |f| f.0.max(face.0 + 1.0)),
            });
        }
        slices.sort_by(|a, b| a.z.total_cmp(&b.z));
        let first = slices.first()?;
        let least = |f: fn(&Slice) -> f64| slices.iter().map(f).fold(f64::INFINITY, f64::min);
        let most = |f: fn(&Slice) -> f64| slices.iter().map(f).fold(f64::NEG_INFINITY, f64::max);
        let far = most(|s| s.far);
        let get = |dim| model.get(&Quantity::thing(id, dim));
        let how = match (get(ThingDim::Face), get(ThingDim::Width)) {
            (None, Some(w)) => FaceFrom::Wall(first.face + w.mm, w.mm),
            _ => FaceFrom::Centre,
        };
        let own = model
            .known
            .values()
            .filter(|k| matches!(&k.quantity, Quantity::Thing { id: of, .. } if of == id));
        Some(Obstacle {
            id: id.into(),
            name: thing.name.clone(),
            side: thing.side,
            x: (least(|s| s.start), most(|s| s.end)),
            face: least(|s| s.face),
            far: (far.is_finite() && thing.form == Form::Free).then_some(far),
            z: (foot, height.0.max(foot)),
            sd,
            readings: own.flat_map(|k| k.readings.clone()).collect(),
            how,
            extra: thing.clearance + thing.sweep,
            cover: thing.cover,
            carries: thing.kind.carries(),
            form: thing.form,
            slices,
        })
    }

    /// At height `z`: along the bay, and from its inner to its outer face.
    fn slice(&self, z: f64) -> Slice {
        let at = |f: fn(&Slice) -> f64| {
            let list: Vec<_> = self.slices.iter().map(|s| (s.z, f(s))).collect();
            interpolate(&list, z).unwrap_or(0.0)
        };
        let (mut start, mut end) = (at(|s| s.start), at(|s| s.end));
        if self.form == Form::Rounded && self.z.1 > self.z.0 {
            // An ellipse from the foot to the top.
            let up = ((z - self.z.0) / (self.z.1 - self.z.0)).clamp(0.0, 1.0);
            let half = (end - start) / 2.0 * (1.0 - up * up).sqrt();
            let middle = (start + end) / 2.0;
            (start, end) = (middle - half, middle + half);
        }
        Slice {
            z,
            start,
            end,
            face: at(|s| s.face),
            far: at(|s| s.far),
        }
    }

    /// Its plan where it is largest, reaching behind the wall unless it stands free.
    pub fn plan(&self, model: &Model) -> Region {
        self.between(model, self.z.0, self.z.1)
    }

    /// Its plan over the heights from `low` to `high`.
    pub fn between(&self, model: &Model, low: f64, high: f64) -> Region {
        let (low, high) = (
            low.clamp(self.z.0, self.z.1),
            high.clamp(self.z.0, self.z.1),
        );
        let mut zs = vec![low, high];
        zs.extend(
            self.slices
                .iter()
                .map(|s| s.z)
                .filter(|z| *z > low && *z < high),
        );
        let slices: Vec<Slice> = zs.into_iter().map(|z| self.slice(z)).collect();
        let least = |f: fn(&Slice) -> f64| slices.iter().map(f).fold(f64::INFINITY, f64::min);
        let most = |f: fn(&Slice) -> f64| slices.iter().map(f).fold(f64::NEG_INFINITY, f64::max);
        let (a, b, face) = (least(|s| s.start), most(|s| s.end), least(|s| s.face));
        let far = match self.far {
            Some(_) => most(|s| s.far),
            None => {
                let wall = model.offset(self.side, (a + b) / 2.0, low);
                wall.unwrap_or(face).max(face) + BEHIND
            }
        };
        match self.side {
            Side::Left => Region::rectangle(a, face, b, far),
            Side::Right => Region::rectangle(a, -far, b, -face),
        }
    }
}
