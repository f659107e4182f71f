//! Where weight comes to bear, and what it does when the vehicle brakes or turns.

use crate::units::GRAVITY;

/// Accelerations that a load has to stand on the road, as shares of gravity.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Restraint {
    /// Braking.
    pub forward: f64,
    /// Cornering.
    pub side: f64,
    /// Setting off.
    pub rear: f64,
}

/// EN 12195-1 for road transport (from memory): 0.8 forward, 0.5 to the sides and to the rear.
pub const EN_12195: Restraint = Restraint {
    forward: 0.8,
    side: 0.5,
    rear: 0.5,
};

/// Weights at places.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Centre {
    /// All of it, kg.
    pub mass: f64,
    /// Its middle, mm.
    pub at: [f64; 3],
}

/// The middle of weights; nothing if nothing weighs.
pub fn centre(items: &[(f64, [f64; 3])]) -> Option<Centre> {
    let mass: f64 = items.iter().map(|i| i.0).sum();
    (mass > 0.0).then(|| Centre {
        mass,
        at: std::array::from_fn(|k| items.iter().map(|i| i.0 * i.1[k]).sum::<f64>() / mass),
    })
}

/// What two supports at `a` and `b` carry of a mass whose middle lies at `x`: the lever. Less than nothing where
/// it lies beyond the other support.
pub fn lever(mass: f64, x: f64, (a, b): (f64, f64)) -> (f64, f64) {
    let on_b = mass * (x - a) / (b - a);
    (mass - on_b, on_b)
}

/// The force that holds a mass against a share of gravity, N.
pub fn inertia(mass: f64, share: f64) -> f64 {
    mass * GRAVITY * share
}

/// The moment of a drawer about the front edge of its carcass, N mm: each weight outside the edge counts positive.
/// `items` are masses with their distance from the drawer's back.
pub fn drawer_moment(length: f64, extension: f64, items: &[(f64, f64)]) -> f64 {
    let back = extension - length;
    items.iter().map(|(m, at)| m * GRAVITY * (back + at)).sum()
}

/// The largest force on one of `n` equally spaced fixings in a line that hold a moment, N: each takes in
/// proportion to its distance from their middle. Nothing where one alone would have to.
pub fn fixing_force(moment: f64, n: u32, spacing: f64) -> Option<f64> {
    if n < 2 || spacing <= 0.0 {
        return None;
    }
    let from_middle = |i: u32| (f64::from(i) - f64::from(n - 1) / 2.0) * spacing;
    let squares: f64 = (0..n).map(|i| from_middle(i).powi(2)).sum();
    Some(moment.abs() * from_middle(n - 1) / squares)
}
