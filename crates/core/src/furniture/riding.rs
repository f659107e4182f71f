//! Bodies that ride on others: a drawer within a drawer, a face that drops from one. Where a board of such a body lies
//! follows from its own opening first, then from that of each body it rides on.

use super::body::Body;
use super::turns::Motion;
use crate::geometry::pose::Pose;

/// Nothing rides on more than so many bodies.
const DEEP: usize = 4;

/// All bodies there are.
#[derive(Debug, Clone, Default)]
pub struct Bodies<'a> {
    all: Vec<&'a Body>,
}

impl<'a> Bodies<'a> {
    /// Of these.
    pub fn new(all: impl IntoIterator<Item = &'a Body>) -> Bodies<'a> {
        Bodies {
            all: all.into_iter().collect(),
        }
    }

    /// One, by `module/body`.
    pub fn get(&self, id: &str) -> Option<&'a Body> {
        self.all.iter().copied().find(|b| b.id == id)
    }

    /// A body and those it rides on, from itself outwards.
    pub fn chain(&self, id: &str) -> Vec<&'a Body> {
        let first = self.get(id);
        let next = |b: &&'a Body| b.parent.as_deref().and_then(|p| self.get(p));
        std::iter::successors(first, next).take(DEEP).collect()
    }

    /// A body is another, or rides on it.
    pub fn goes_with(&self, id: &str, other: &str) -> bool {
        id == other || self.chain(id).iter().any(|b| b.id == other)
    }

    /// Where a board of a body lies; `open` says how far each body is open, from 0 to 1.
    pub fn lies(&self, id: &str, shut: Pose, open: &dyn Fn(&str) -> f64) -> Pose {
        carried(&self.chain(id), shut, open)
    }

    /// Where it lies as far as that is the work of the bodies below another on which it rides: the other one shut.
    pub fn lies_in(&self, id: &str, other: &str, shut: Pose, open: &dyn Fn(&str) -> f64) -> Pose {
        let chain = self.chain(id);
        let own: Vec<&Body> = chain.into_iter().take_while(|b| b.id != other).collect();
        carried(&own, shut, open)
    }

    /// What carries a body, each opened so far.
    pub fn carriers(&self, id: &str, open: &dyn Fn(&str) -> f64) -> Carriers<'a> {
        let above = self.chain(id).into_iter().skip(1);
        Carriers(above.map(|b| (b, open(&b.id))).collect())
    }
}

fn carried(chain: &[&Body], shut: Pose, open: &dyn Fn(&str) -> f64) -> Pose {
    chain.iter().fold(shut, |pose, b| match open(&b.id) {
        share if share > 0.0 => b.motion.carried(&pose, share * b.motion.whole()),
        _ => pose,
    })
}

/// The bodies that carry another, and how far each is open.
pub struct Carriers<'a>(Vec<(&'a Body, f64)>);

impl Carriers<'_> {
    /// A pose, carried along.
    pub fn pose(&self, pose: Pose) -> Pose {
        self.0.iter().fold(pose, |p, (b, share)| {
            b.motion.carried(&p, share * b.motion.whole())
        })
    }

    /// A motion, carried along.
    pub fn motion(&self, motion: Motion) -> Motion {
        self.0.iter().fold(motion, |m, (b, share)| {
            b.motion.carried_motion(&m, share * b.motion.whole())
        })
    }
}
