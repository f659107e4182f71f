//! A length ready to be shown, and the writer that puts lengths into sentences.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::INCH;
use super::mass::POUND;
use super::print::{millimetres, nearest_inch};
use super::value::Source;

/// The system in which sentences speak. Figures always carry both.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum System {
    /// Millimetres.
    #[default]
    Mm,
    /// Inches and fractions.
    In,
}

/// A length in both systems, ready to be shown.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Figure {
    /// The exact value, mm.
    pub value: f64,
    /// Millimetres to a tenth.
    pub mm: String,
    /// Inches to the nearest fraction, in lowest terms.
    pub inch: String,
}

/// One line of the arithmetic behind a figure: `- 3.0 clearance`.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Step {
    /// `=`, `+`, `-`, `x` or empty.
    pub op: String,
    /// What the number is.
    pub label: String,
    /// The number, where it is a length.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub figure: Option<Figure>,
    /// How many times what it is made of, or what it comes from.
    #[serde(default = "once", skip_serializing_if = "is_once")]
    pub times: f64,
    /// Where it comes from, if it is not made of others.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub source: Option<Source>,
    /// What one of it is made of.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[schema(no_recursion)]
    pub steps: Vec<Step>,
}

fn once() -> f64 {
    1.0
}

#[allow(clippy::trivially_copy_pass_by_ref)]
fn is_once(times: &f64) -> bool {
    (times - 1.0).abs() < f64::EPSILON
}

/// The arithmetic behind one number.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Why {
    /// Which number.
    pub about: String,
    /// Its value.
    pub total: Figure,
    /// The lines.
    pub steps: Vec<Step>,
}

/// Writes lengths in the project's own system.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Writer {
    /// The system of sentences.
    pub system: System,
    /// The finest fraction of an inch on the user's tape.
    pub denominator: u32,
}

impl Default for Writer {
    fn default() -> Self {
        Writer {
            system: System::Mm,
            denominator: 16,
        }
    }
}

impl Writer {
    /// The figure for `mm`.
    pub fn figure(&self, mm: f64) -> Figure {
        Figure {
            value: mm,
            mm: millimetres(mm),
            inch: nearest_inch(mm, self.denominator).0,
        }
    }

    /// `mm` with its unit, in the project's system: `348 mm` or `13 11/16 in`.
    pub fn say(&self, mm: f64) -> String {
        match self.system {
            System::Mm => format!("{} mm", millimetres(mm)),
            System::In => format!("{} in", nearest_inch(mm, self.denominator).0),
        }
    }

    /// `mm` without its unit, in the project's system.
    pub fn bare(&self, mm: f64) -> String {
        match self.system {
            System::Mm => millimetres(mm),
            System::In => nearest_inch(mm, self.denominator).0,
        }
    }

    /// `mm` as a mark on a tape, where "in" would be read as a word: `348 mm` or `13 11/16″`.
    pub fn mark(&self, mm: f64) -> String {
        match self.system {
            System::Mm => format!("{} mm", millimetres(mm)),
            System::In => format!("{}″", nearest_inch(mm, self.denominator).0),
        }
    }

    /// A mass in the project's system: kilograms, or pounds (exactly 0.45359237 kg, NIST SP 811).
    pub fn mass(&self, kg: f64) -> String {
        match self.system {
            System::Mm => format!("{} kg", millimetres(kg)),
            System::In => format!("{} lb", millimetres(kg / POUND)),
        }
    }

    /// A force in the project's system: newtons, or pounds-force (4.4482216 N, NIST SP 811), to the whole one.
    pub fn force(&self, newtons: f64) -> String {
        match self.system {
            System::Mm => format!("{newtons:.0} N"),
            System::In => format!("{:.0} lbf", newtons / (POUND * super::GRAVITY)),
        }
    }

    /// A sentence that says lengths as `12.5 mm`, in the project's own system: calculators do not know it.
    pub fn converted(&self, sentence: &str) -> String {
        const UNIT: &str = " mm";
        if self.system == System::Mm {
            return sentence.into();
        }
        let mut out = String::new();
        let mut rest = sentence;
        while let Some(i) = rest.find(UNIT) {
            let (before, after) = (&rest[..i], &rest[i + UNIT.len()..]);
            let digits = before
                .rfind(|c: char| !c.is_ascii_digit() && c != '.')
                .map_or(0, |k| {
                    k + before[k..].chars().next().map_or(1, char::len_utf8)
                });
            // Not square millimetres, and not a word that begins so.
            let whole = !after.starts_with(|c: char| c.is_alphanumeric());
            match before[digits..].parse::<f64>() {
                Ok(mm) if whole => {
                    out.push_str(&before[..digits]);
                    out.push_str(&self.say(mm));
                }
                _ => {
                    out.push_str(before);
                    out.push_str(UNIT);
                }
            }
            rest = after;
        }
        out.push_str(rest);
        out
    }

    /// The round length nearest to `mm`, as somebody would choose it: whole millimetres, quarters of an inch.
    pub fn round(&self, mm: f64) -> f64 {
        let step = self.rounding();
        (mm / step).round() * step
    }

    /// Round lengths are multiples of this, mm.
    pub fn rounding(&self) -> f64 {
        match self.system {
            System::Mm => 1.0,
            System::In => INCH / 4.0,
        }
    }

    /// A step with a length.
    pub fn step(&self, op: &str, label: impl Into<String>, mm: f64) -> Step {
        Step {
            op: op.into(),
            label: label.into(),
            figure: Some(self.figure(mm)),
            times: 1.0,
            source: None,
            steps: vec![],
        }
    }

    /// A step in words only.
    pub fn note(&self, label: impl Into<String>) -> Step {
        Step {
            op: String::new(),
            label: label.into(),
            figure: None,
            times: 1.0,
            source: None,
            steps: vec![],
        }
    }
}
