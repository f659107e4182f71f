//! What is asked of a field, whatever it belongs to.

use crate::input::within;
use crate::problem::Problem;
use crate::project::Project;

const MAX_TEXT: usize = 2000;

/// There is such a material.
pub(crate) fn known(p: &Project, material: &str, at: &str) -> Result<(), Problem> {
    match p.material(material) {
        Some(_) => Ok(()),
        None => Err(Problem::missing(
            at,
            format!("There is no material \"{material}\"."),
        )),
    }
}

/// A material that boards are cut from.
pub(crate) fn sheet(p: &Project, material: &str, at: &str) -> Result<(), Problem> {
    known(p, material, at)?;
    let bar = p.material(material).and_then(|m| m.bar);
    match bar {
        None => Ok(()),
        Some(_) => Err(Problem::impossible(
            at,
            "This is sold by length: boards are cut from sheets.",
        )),
    }
}

/// Within the range, if it is given.
pub(crate) fn optional(v: Option<f64>, at: &str, lo: f64, hi: f64) -> Result<(), Problem> {
    v.map_or(Ok(()), |v| within(v, at, lo, hi).map(|_| ()))
}

/// A text that a person may type: printable, of bounded length.
pub(crate) fn text(s: &str, at: &str) -> Result<(), Problem> {
    if s.chars().count() > MAX_TEXT {
        return Err(Problem::out_of_range(
            at,
            "This text is too long.",
            format!("at most {MAX_TEXT} characters"),
        ));
    }
    // Printed pages are XML, which has no way to write these.
    if let Some(c) = s.chars().find(|c| !printable(*c)) {
        return Err(Problem::out_of_range(
            at,
            format!(
                "This text holds a character that cannot be printed (U+{:04X}).",
                u32::from(c)
            ),
            "letters, digits, signs, line ends",
        ));
    }
    Ok(())
}

/// Line ends and tabs, and everything but control characters and code points that are no characters.
fn printable(c: char) -> bool {
    let code = u32::from(c);
    let no_character = (0xfdd0..=0xfdef).contains(&code) || code & 0xfffe == 0xfffe;
    matches!(c, '\n' | '\r' | '\t') || !(c.is_control() || no_character)
}
