//! A table of points: two numbers a line, in order along the curve. A header and empty lines are passed over; an empty
//! line between points begins another curve.

use std::collections::BTreeMap;

use super::{Drawing, FileUnit, Line, Point};

/// Reads it.
pub fn read(text: &str) -> Result<Drawing, String> {
    let mut lines: Vec<Line> = Vec::new();
    let mut open: Vec<Point> = Vec::new();
    let mut unit = None;
    let mut end = |open: &mut Vec<Point>| {
        if !open.is_empty() {
            let name = format!("curve {}", lines.len() + 1);
            lines.push(Line {
                name,
                points: std::mem::take(open),
                closed: false,
            });
        }
    };
    for (i, line) in text.lines().enumerate() {
        let line = line.trim();
        if line.is_empty() {
            end(&mut open);
            continue;
        }
        match pair(line) {
            Some(p) => open.push(p),
            // A header, which may name the unit.
            None if open.is_empty() => {
                let words = line.to_lowercase();
                let named = FileUnit::ALL.iter().find(|(w, _)| {
                    words
                        .split(|c: char| !c.is_alphabetic())
                        .any(|part| part == *w)
                });
                unit = named.map(|u| u.1).or(unit);
            }
            None => {
                return Err(format!(
                    "Line {}: \"{}\" is not two numbers.",
                    i + 1,
                    line.chars().take(40).collect::<String>()
                ));
            }
        }
    }
    end(&mut open);
    Ok(Drawing {
        lines,
        unit: unit.unwrap_or(FileUnit::Mm),
        sure: unit.is_some(),
        why: match unit {
            Some(u) => format!("the table's header says {}", u.word()),
            None => "the table does not say its unit".into(),
        },
        left_out: BTreeMap::new(),
    })
}

fn pair(line: &str) -> Option<Point> {
    // A comma is a decimal one where something else parts the numbers.
    let by: &[char] = if line.contains(';') {
        &[';']
    } else if line.contains('\t') {
        &['\t']
    } else if line.contains(',') {
        &[',']
    } else {
        &[' ']
    };
    let decimal = !by.contains(&',');
    let parts = line.split(by).map(str::trim).filter(|p| !p.is_empty());
    let numbers: Vec<f64> = parts
        .map(|p| {
            if decimal {
                p.replace(',', ".")
            } else {
                p.to_string()
            }
        })
        .map(|p| p.parse::<f64>().ok().filter(|v| v.is_finite()))
        .collect::<Option<_>>()?;
    match numbers.as_slice() {
        [x, y] | [x, y, _] => Some([*x, *y]),
        _ => None,
    }
}
