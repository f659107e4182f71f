//! Printing lengths: fractions of an inch in lowest terms, millimetres to a tenth.

use super::INCH;

/// `mm` to the nearest `1/denominator` inch in lowest terms (`23 3/16`, `3/8`, `-1 1/2`, `0`),
/// and that nearest value in mm. Ties go away from zero, as a person rounds.
pub fn nearest_inch(mm: f64, denominator: u32) -> (String, f64) {
    let den = u64::from(denominator.max(1));
    let ticks = (mm.abs() / INCH * den as f64).round();
    let value = ticks / den as f64 * INCH * mm.signum();
    let ticks = ticks as u64;
    if ticks == 0 {
        return ("0".into(), 0.0);
    }
    let sign = if mm < 0.0 { "-" } else { "" };
    let (whole, rest) = (ticks / den, ticks % den);
    let text = if rest == 0 {
        format!("{sign}{whole}")
    } else {
        let g = gcd(rest, den);
        let fraction = format!("{}/{}", rest / g, den / g);
        if whole == 0 {
            format!("{sign}{fraction}")
        } else {
            format!("{sign}{whole} {fraction}")
        }
    };
    (text, value)
}

/// `mm` to a tenth, without a trailing `.0`.
pub fn millimetres(mm: f64) -> String {
    let tenths = (mm * 10.0).round();
    // A figure on a drawing; what is no number or further off than a tape goes is written as it comes.
    if tenths.is_nan() || tenths.abs() > 1e12 {
        return format!("{tenths}", tenths = tenths / 10.0);
    }
    let tenths = tenths as i64;
    let sign = if tenths < 0 { "-" } else { "" };
    let (whole, rest) = (tenths.abs() / 10, tenths.abs() % 10);
    if rest == 0 {
        format!("{sign}{whole}")
    } else {
        format!("{sign}{whole}.{rest}")
    }
}

fn gcd(a: u64, b: u64) -> u64 {
    if b == 0 { a } else { gcd(b, a % b) }
}
