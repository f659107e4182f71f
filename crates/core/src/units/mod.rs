//! Lengths as people type and read them: the tape language, fractions, and figures in both systems.

pub mod figure;
pub mod mass;
pub mod print;
pub mod tape;
pub mod value;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// One inch in millimetres, exactly (NIST SP 811, appendix B).
pub const INCH: f64 = 25.4;
/// One foot in millimetres, exactly.
pub const FOOT: f64 = 304.8;
/// Standard gravity in m/s2, exactly (3rd CGPM, 1901).
pub const GRAVITY: f64 = 9.80665;

/// The unit in which a bare number is meant.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Unit {
    /// Inch.
    In,
    /// Foot.
    Ft,
    /// Millimetre.
    #[default]
    Mm,
    /// Centimetre.
    Cm,
    /// Metre.
    M,
}

impl Unit {
    /// As it is written.
    pub fn word(self) -> &'static str {
        match self {
            Unit::In => "in",
            Unit::Ft => "ft",
            Unit::Mm => "mm",
            Unit::Cm => "cm",
            Unit::M => "m",
        }
    }

    /// Millimetres in one of this unit.
    pub fn mm(self) -> f64 {
        match self {
            Unit::In => INCH,
            Unit::Ft => FOOT,
            Unit::Mm => 1.0,
            Unit::Cm => 10.0,
            Unit::M => 1000.0,
        }
    }
}
