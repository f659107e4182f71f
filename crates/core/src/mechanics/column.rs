//! Posts that are pressed along their length.

use std::f64::consts::PI;

/// The force at which a straight post gives way sideways, N: pi^2 E I / h^2 (Euler 1744, both ends free to turn). `ei` is its
/// stiffness about the weak axis, N mm2, `height` its length, mm. `None` where that is no post.
pub fn buckles_at(ei: f64, height: f64) -> Option<f64> {
    let force = PI.powi(2) * ei / height.powi(2);
    (height > 0.0 && ei > 0.0 && force.is_finite()).then_some(force)
}

/// Stiffness of a rectangle `a` by `b` mm about its weak axis, N mm2: the smaller side to the third.
pub fn weak(e: f64, a: f64, b: f64) -> f64 {
    e * a.max(b) * a.min(b).powi(3) / 12.0
}
