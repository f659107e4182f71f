//! Masses as people type them: `15 lb`, `7 kg`, `7.5`, `12 oz`.

use super::figure::System;

/// One pound in kilograms, exactly (NIST SP 811, appendix B).
pub const POUND: f64 = 0.453_592_37;
/// The largest mass that is read, kg.
const MOST: f64 = 1e6;

/// Kilograms. A number without a unit is meant in that of `system`: kilograms or pounds.
///
/// # Errors
/// In plain words, if the entry is no mass.
pub fn parse(entry: &str, system: System) -> Result<f64, String> {
    let entry = entry.trim();
    let words = |c: char| c.is_alphabetic();
    let (number, unit) = entry.split_at(entry.find(words).unwrap_or(entry.len()));
    let kilograms = match (unit.trim_end_matches('.').to_lowercase().as_str(), system) {
        ("kg" | "kilo" | "kilos", _) | ("", System::Mm) => 1.0,
        ("g", _) => 0.001,
        ("lb" | "lbs" | "pound" | "pounds", _) | ("", System::In) => POUND,
        ("oz", _) => POUND / 16.0,
        _ => return Err(format!("\"{unit}\" is no unit of mass: kg, g, lb or oz.")),
    };
    let number = number.trim().replace(',', ".");
    match number.parse::<f64>() {
        Ok(n) if n.is_finite() && (0.0..=MOST).contains(&(n * kilograms)) => Ok(n * kilograms),
        Ok(_) => Err("A mass is not negative, and not so large.".into()),
        Err(_) if number.is_empty() => Err("Type a mass, for example 15 lb or 7 kg.".into()),
        Err(_) => Err(format!("\"{number}\" is no number.")),
    }
}
