//! Curves out of other programs' files: SVG, DXF, or a table of points. Curves come out in the file's own units with y
//! up; what those units are is said, or guessed with the reason. What is not understood is listed, never guessed.

mod dxf;
mod flat;
mod join;
mod nurbs;
mod svg;
mod table;

use std::collections::BTreeMap;

/// A point in the units of the file.
pub type Point = [f64; 2];

/// A curve of a file.
#[derive(Debug, Clone, PartialEq)]
pub struct Line {
    /// What the file calls it, or its layer.
    pub name: String,
    /// In order; chords leave arcs by a hundred-thousandth of the drawing's size at the most.
    pub points: Vec<Point>,
    /// It ends where it begins: the first point is not repeated.
    pub closed: bool,
}

/// Units of lengths in files.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum FileUnit {
    /// Millimetres.
    Mm,
    /// Centimetres.
    Cm,
    /// Metres.
    M,
    /// Inches.
    In,
    /// Feet.
    Ft,
    /// A ninety-sixth of an inch (CSS).
    Px,
}

impl FileUnit {
    /// All of them, as they are written.
    pub const ALL: [(&'static str, FileUnit); 6] = [
        ("mm", FileUnit::Mm),
        ("cm", FileUnit::Cm),
        ("m", FileUnit::M),
        ("in", FileUnit::In),
        ("ft", FileUnit::Ft),
        ("px", FileUnit::Px),
    ];

    /// Millimetres in one.
    pub fn mm(self) -> f64 {
        match self {
            FileUnit::Mm => 1.0,
            FileUnit::Cm => 10.0,
            FileUnit::M => 1000.0,
            FileUnit::In => 25.4,
            FileUnit::Ft => 304.8,
            FileUnit::Px => 25.4 / 96.0,
        }
    }

    /// As it is written.
    pub fn word(self) -> &'static str {
        let found = FileUnit::ALL.iter().find(|u| u.1 == self);
        found.map_or("mm", |u| u.0)
    }
}

/// What a file holds.
#[derive(Debug, Clone, PartialEq)]
pub struct Drawing {
    /// Its curves.
    pub lines: Vec<Line>,
    /// Their unit.
    pub unit: FileUnit,
    /// The file says so; else it is a guess.
    pub sure: bool,
    /// How the unit is known.
    pub why: String,
    /// What was left out, and how many of it.
    pub left_out: BTreeMap<String, usize>,
}

/// Largest file, bytes.
pub const LARGEST: usize = 5 << 20;
/// Most vertices of all curves together.
const VERTICES: usize = 200_000;
/// Most curves.
const LINES: usize = 2000;
/// Chords leave a curve by this share of the drawing's size: 0.02 mm of two metres.
const NEAR: f64 = 1e-5;

/// Reads a file of any of the forms.
///
/// # Errors
/// It cannot be read, holds no curve, or too much: in a sentence.
pub fn read(bytes: &[u8]) -> Result<Drawing, String> {
    if bytes.len() > LARGEST {
        return Err(format!("The file is larger than {} MB.", LARGEST >> 20));
    }
    if bytes.iter().take(4096).any(|b| *b == 0) {
        return Err("This is a binary file. Save the drawing as SVG, as DXF in text form, or as a table of points.".into());
    }
    let text = std::str::from_utf8(bytes).map_or_else(
        // Older drawings are written in an 8-bit alphabet; only names need it.
        |_| bytes.iter().map(|b| char::from(*b)).collect(),
        String::from,
    );
    let text = text.trim_start_matches('\u{feff}');
    let begins = text.trim_start();
    let drawing = if begins.starts_with('<') {
        svg::read(text)?
    } else if dxf::looks_like(begins) {
        dxf::read(text)?
    } else {
        table::read(text)?
    };
    checked(drawing)
}

/// Bounds of what came out.
fn checked(mut d: Drawing) -> Result<Drawing, String> {
    for l in &mut d.lines {
        l.points.dedup();
        if l.closed && l.points.first() == l.points.last() {
            l.points.pop();
        }
    }
    d.lines.retain(|l| l.points.len() >= 2);
    if d.lines.is_empty() {
        let rest = match d.left_out.is_empty() {
            true => String::new(),
            false => format!(" It holds: {}.", told(&d.left_out)),
        };
        return Err(format!("There is no curve in this file.{rest}"));
    }
    if d.lines.len() > LINES {
        return Err(format!(
            "{} curves are too many: at most {LINES}.",
            d.lines.len()
        ));
    }
    let n: usize = d.lines.iter().map(|l| l.points.len()).sum();
    if n > VERTICES {
        return Err(format!("{n} points are too many: at most {VERTICES}."));
    }
    let wild = |p: &Point| p.iter().any(|v| !v.is_finite() || v.abs() > 1e7);
    if d.lines.iter().flat_map(|l| &l.points).any(wild) {
        return Err("A number in this file is too large to be a length.".into());
    }
    Ok(d)
}

/// What was left out, in words.
pub fn told(left_out: &BTreeMap<String, usize>) -> String {
    let each = left_out.iter().map(|(what, n)| match n {
        1 => what.clone(),
        n => format!("{what} ({n})"),
    });
    each.collect::<Vec<_>>().join(", ")
}
