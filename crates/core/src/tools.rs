//! Is there room for a driver at a screw while a piece is put together: what is there already may stand before its head.

use crate::furniture::built::{Fasten, Vec3};
use crate::joints::JointView;
use crate::solids::Solid;

/// A driver with its bit and the hand behind it is so long, and one that turns the corner, mm (choices).
const DRIVER: f64 = 180.0;
const ANGLE: f64 = 70.0;
/// The way to the head is looked at every so often, mm.
const EVERY: f64 = 10.0;
/// The outermost screws stand so far off the ends of a joint, mm.
const OFF_END: f64 = 40.0;
/// A pocket screw goes in at this angle to the board's face, degrees (common practice, no source), its head so far from the end.
const POCKET: f64 = 15.0;
const BACK: f64 = 30.0;

/// What drives a screw.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Drives {
    /// Any driver.
    Straight,
    /// One that turns the corner.
    Angle,
    /// None: there is no room at all.
    Nothing,
}

/// What the screws of a joint through `a` into `b` can be driven with while `there` is there, and which of those boards is in
/// the way of the worst of them.
pub fn drives<'s>(
    j: &JointView,
    (a, b): (&Solid, &Solid),
    there: &[&'s Solid],
) -> (Drives, Option<&'s str>) {
    let Some(patch) = Patch::of(a, b) else {
        return (Drives::Straight, None);
    };
    let ways: Vec<Way> = match j.how {
        // A head lies in the face of the first board, on the side away from the second.
        Fasten::Butt | Fasten::Face => vec![Way {
            from: patch.face(a),
            along: patch.away(a, b),
        }],
        Fasten::Pocket => patch.pockets(a, b),
        _ => return (Drives::Straight, None),
    };
    let mut worst = (Drives::Straight, None);
    for at in patch.screws() {
        // From whichever side there is more room.
        let best = ways.iter().map(|w| w.room(at, there)).min_by_key(|r| r.0);
        if let Some(best) = best.filter(|b| b.0 > worst.0) {
            worst = best;
        }
    }
    worst
}

/// How a driver comes to a head.
struct Way {
    /// From a place on the joint to the head.
    from: Vec3,
    /// Away from the head.
    along: Vec3,
}

impl Way {
    fn room<'s>(&self, at: Vec3, there: &[&'s Solid]) -> (Drives, Option<&'s str>) {
        let n = (DRIVER / EVERY) as u32;
        for i in 1..=n {
            let far = EVERY * f64::from(i);
            let p: Vec3 = std::array::from_fn(|k| at[k] + self.from[k] + self.along[k] * far);
            let Some(met) = there.iter().find(|s| s.holds(p)) else {
                continue;
            };
            let with = if far > ANGLE {
                Drives::Angle
            } else {
                Drives::Nothing
            };
            return (with, Some(met.board.id.as_str()));
        }
        (Drives::Straight, None)
    }
}

/// Where two boards touch.
struct Patch {
    low: Vec3,
    high: Vec3,
    /// The axis square to it.
    axis: usize,
}

impl Patch {
    fn of(a: &Solid, b: &Solid) -> Option<Patch> {
        let low: Vec3 = std::array::from_fn(|k| a.low[k].max(b.low[k]));
        let high: Vec3 = std::array::from_fn(|k| a.high[k].min(b.high[k]));
        let deep = |k: &usize| high[*k] - low[*k];
        let axis = (0..3).min_by(|p, q| deep(p).total_cmp(&deep(q)))?;
        Some(Patch { low, high, axis })
    }

    /// Towards the first board, away from the second.
    fn sign(&self, a: &Solid, b: &Solid) -> f64 {
        let middle = |s: &Solid| s.low[self.axis] + s.high[self.axis];
        if middle(a) > middle(b) { 1.0 } else { -1.0 }
    }

    fn away(&self, a: &Solid, b: &Solid) -> Vec3 {
        let mut out = [0.0; 3];
        out[self.axis] = self.sign(a, b);
        out
    }

    /// From the joint through the first board to its far face.
    fn face(&self, a: &Solid) -> Vec3 {
        let mut out = [0.0; 3];
        let here = (self.low[self.axis] + self.high[self.axis]) / 2.0;
        let (to_low, to_high) = (a.low[self.axis] - here, a.high[self.axis] - here);
        out[self.axis] = if to_high > -to_low { to_high } else { to_low };
        out
    }

    /// Heads of pocket screws lie in one face or the other of the first board, a little back from its end.
    fn pockets(&self, a: &Solid, b: &Solid) -> Vec<Way> {
        let thick = |k: &usize| a.high[*k] - a.low[*k];
        let others = (0..3).filter(|k| *k != self.axis);
        let Some(side) = others.min_by(|p, q| thick(p).total_cmp(&thick(q))) else {
            return vec![];
        };
        let (sin, cos) = POCKET.to_radians().sin_cos();
        let back = self.sign(a, b);
        [1.0, -1.0]
            .map(|out: f64| {
                let (mut from, mut along) = ([0.0; 3], [0.0; 3]);
                from[self.axis] = back * BACK;
                from[side] = out * (thick(&side) / 2.0 + 2.0);
                along[self.axis] = back * cos;
                along[side] = out * sin;
                Way { from, along }
            })
            .into()
    }

    /// The outermost screws, and one between.
    fn screws(&self) -> Vec<Vec3> {
        let middle: Vec3 = std::array::from_fn(|k| (self.low[k] + self.high[k]) / 2.0);
        let deep = |k: &usize| self.high[*k] - self.low[*k];
        let along = (0..3)
            .filter(|k| *k != self.axis)
            .max_by(|p, q| deep(p).total_cmp(&deep(q)));
        let Some(k) = along else {
            return vec![middle];
        };
        let off = OFF_END.min(deep(&k) / 4.0);
        [self.low[k] + off, middle[k], self.high[k] - off]
            .map(|v| {
                let mut at = middle;
                at[k] = v;
                at
            })
            .into()
    }
}
