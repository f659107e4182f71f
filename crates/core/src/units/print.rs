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
    // Written piece by piece: a plan prints thousands.
    let mut text = String::with_capacity(12);
    if mm < 0.0 {
        text.push('-');
    }
    let (whole, rest) = (ticks / den, ticks % den);
    if whole > 0 || rest == 0 {
        digits(&mut text, whole);
    }
    if rest > 0 {
        if whole > 0 {
            text.push(' ');
        }
        let g = gcd(rest, den);
        digits(&mut text, rest / g);
        text.push('/');
        digits(&mut text, den / g);
    }
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
    let mut text = String::with_capacity(8);
    if tenths < 0 {
        text.push('-');
    }
    let tenths = tenths.unsigned_abs();
    digits(&mut text, tenths / 10);
    if !tenths.is_multiple_of(10) {
        text.push('.');
        digits(&mut text, tenths % 10);
    }
    text
}

/// Writes a whole number.
fn digits(text: &mut String, n: u64) {
    text.push_str(itoa::Buffer::new().format(n));
}

fn gcd(a: u64, b: u64) -> u64 {
    if b == 0 { a } else { gcd(b, a % b) }
}
