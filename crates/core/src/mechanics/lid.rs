//! A hinged lid in section: how far it opens, and how hard it is to lift.
//!
//! The hinge axis is the origin, at the underside of the lid's back edge. Shut, the lid fills
//! `0..length` by `0..thickness`; opening turns it counter-clockwise.

use crate::geometry::{Point, distance};
use crate::units::GRAVITY;

/// The most a lid opens, degrees.
pub const MOST: f64 = 180.0;
/// Steps in which a strut's length is looked at along the way, degrees.
const STEP: f64 = 0.05;

/// A gas strut, or several alike.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Strut {
    /// Force of one, N, constant and pushing.
    pub force: f64,
    /// How many.
    pub count: f64,
    /// Shortest length, mm.
    pub closed: f64,
    /// Longest length, mm.
    pub open: f64,
    /// Where it holds on to the lid, mm, the lid shut.
    pub lid_at: Point,
    /// Where it holds on to the frame, mm.
    pub frame_at: Point,
}

/// What lies on the lid over its whole length.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Mattress {
    /// Mass, kg.
    pub mass: f64,
    /// Thickness, mm.
    pub thickness: f64,
}

/// A lid.
#[derive(Debug, Clone, PartialEq)]
pub struct Lid {
    /// From the hinge to the free edge, mm.
    pub length: f64,
    /// Thickness, mm.
    pub thickness: f64,
    /// Mass, kg.
    pub mass: f64,
    /// Centre of mass along the lid, mm, at mid-thickness.
    pub cg: f64,
    /// The wall stands so far behind the hinge, mm.
    pub wall_distance: f64,
    /// What lies on it.
    pub mattress: Option<Mattress>,
    /// What holds it up.
    pub strut: Option<Strut>,
}

/// What ends the opening.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Limit {
    /// The wall behind.
    Wall,
    /// The strut is as long as it gets.
    Strut,
    /// Nothing: it lies right over.
    None,
}

/// `p` turned counter-clockwise about the origin.
pub fn turned(p: Point, deg: f64) -> Point {
    let (s, c) = deg.to_radians().sin_cos();
    [p[0] * c - p[1] * s, p[0] * s + p[1] * c]
}

impl Lid {
    /// Thickness of everything that moves, mm.
    fn depth(&self) -> f64 {
        self.thickness + self.mattress.map_or(0.0, |m| m.thickness)
    }

    /// How far the wall lets it open, degrees: the upper back corner meets it below a right angle, the upper
    /// free corner beyond one.
    pub fn wall_limit(&self) -> f64 {
        let (l, h, d) = (self.length, self.depth(), self.wall_distance);
        if h > d {
            return (d / h).asin().to_degrees();
        }
        let reach = l.hypot(h);
        if d < reach {
            return ((-d / reach).acos() - h.atan2(l)).to_degrees();
        }
        MOST
    }

    /// Length of the strut at an opening, mm.
    pub fn strut_length(&self, deg: f64) -> Option<f64> {
        let s = self.strut?;
        Some(distance(turned(s.lid_at, deg), s.frame_at))
    }

    /// The strut can be put in with the lid shut.
    pub fn strut_fits(&self) -> bool {
        let Some((s, shut)) = self.strut.zip(self.strut_length(0.0)) else {
            return true;
        };
        shut >= s.closed - 1e-9 && shut <= s.open + 1e-9
    }

    /// How far it opens, degrees, and what ends it. A strut that cannot be put in ends nothing.
    pub fn opens(&self) -> (f64, Limit) {
        let wall = self.wall_limit();
        let strut = self.strut_limit(wall);
        match strut {
            Some(deg) if deg < wall => (deg, Limit::Strut),
            _ if wall < MOST => (wall, Limit::Wall),
            _ => (MOST, Limit::None),
        }
    }

    /// The first opening up to `most` at which the strut is at its longest or shortest.
    fn strut_limit(&self, most: f64) -> Option<f64> {
        let s = self.strut.filter(|_| self.strut_fits())?;
        let beyond = |deg: f64| {
            let l = self.strut_length(deg).unwrap_or(0.0);
            l > s.open + 1e-9 || l < s.closed - 1e-9
        };
        let steps = (most / STEP).ceil() as usize;
        let at = |i: usize| (i as f64 * STEP).min(most);
        let first = (1..=steps).find(|i| beyond(at(*i)))?;
        let (mut lo, mut hi) = (at(first - 1), at(first));
        for _ in 0..60 {
            let middle = (lo + hi) / 2.0;
            if beyond(middle) {
                hi = middle;
            } else {
                lo = middle;
            }
        }
        Some(lo)
    }

    /// Force at the free edge's underside, square to the lid, that holds it at an opening, N; positive lifts.
    pub fn hand_force(&self, deg: f64) -> f64 {
        let weight = |mass: f64, at: Point| mass * GRAVITY * turned(at, deg)[0];
        let mut moment = weight(self.mass, [self.cg, self.thickness / 2.0]);
        if let Some(m) = self.mattress {
            let at = [self.length / 2.0, self.thickness + m.thickness / 2.0];
            moment += weight(m.mass, at);
        }
        if let Some(s) = self.strut {
            let p = turned(s.lid_at, deg);
            let (dx, dy) = (p[0] - s.frame_at[0], p[1] - s.frame_at[1]);
            let length = dx.hypot(dy);
            if length > 0.0 {
                moment -= s.force * s.count * (p[0] * dy - p[1] * dx) / length;
            }
        }
        moment / self.length
    }

    /// From this opening on it stays open by itself, degrees.
    pub fn stays_open_from(&self) -> Option<f64> {
        let (most, _) = self.opens();
        let stays = |deg: f64| self.hand_force(deg) <= 1e-9;
        if !stays(most) {
            return None;
        }
        let steps = (most / STEP).ceil() as usize;
        let at = |i: usize| (i as f64 * STEP).min(most);
        let Some(last) = (0..steps).rev().find(|i| !stays(at(*i))) else {
            return Some(0.0);
        };
        let (mut lo, mut hi) = (at(last), at(last + 1));
        for _ in 0..60 {
            let middle = (lo + hi) / 2.0;
            if stays(middle) {
                hi = middle;
            } else {
                lo = middle;
            }
        }
        Some(hi)
    }
}
