//! What a screw or a bolt in plywood bears across its length.

/// What is counted of a characteristic value (a choice: a third, for shocks, damp and careless holes).
const SHARE: f64 = 1.0 / 3.0;

/// Embedment strength of plywood round a bolt of diameter `d` mm, N/mm2: 0.11 (1 - 0.01 d) rho, EN 1995-1-1 (8.36),
/// from memory. `density` in kg/m3.
pub fn embedment_bolt(density: f64, d: f64) -> f64 {
    0.11 * (1.0 - 0.01 * d) * density
}

/// The same round a screw up to 6 mm thick without a drilled hole: 0.11 rho d^-0.3, EN 1995-1-1 (8.20), from memory.
pub fn embedment_screw(density: f64, d: f64) -> f64 {
    0.11 * density * d.powf(-0.3)
}

/// What a bolt through a board is counted for, N: its embedment over the board's thickness.
pub fn bolt_bears(density: f64, thickness: f64, d: f64) -> f64 {
    SHARE * embedment_bolt(density, d) * d * thickness
}

/// What a screw through a thin steel plate, so deep in plywood, is counted for, N: 0.4 f_h t d, EN 1995-1-1 (8.9),
/// from memory.
pub fn screw_bears(density: f64, depth: f64, d: f64) -> f64 {
    SHARE * 0.4 * embedment_screw(density, d) * depth * d
}
