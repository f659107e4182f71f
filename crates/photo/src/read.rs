//! A photo, from its bytes to an outline with its doubt, and what is to be said about it.

use jigfit_core::geometry::{Point, distance};
use jigfit_core::units::figure::Writer;

use crate::find::sheets;
use crate::outline::{Outline, follow};
use crate::picture::Picture;
use crate::plane::{Plane, Seen, Taped};
use crate::segment::ring;
use crate::sheet::SHEETS;

/// How far the reading of a photo is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Stage {
    /// The file is unpacked.
    Unpack,
    /// The sheets are looked for.
    Sheets,
    /// The template is told from the floor.
    Template,
    /// Its edge is followed.
    Edge,
}

impl Stage {
    /// All of them, in order.
    pub const ALL: [Stage; 4] = [Stage::Unpack, Stage::Sheets, Stage::Template, Stage::Edge];
}

/// A photo as it was read.
#[derive(Debug, Clone, PartialEq)]
pub struct Photo {
    /// Pixels along and up.
    pub size: [usize; 2],
    /// The sheets.
    pub sheets: Vec<Seen>,
    /// The floor.
    pub plane: Plane,
    /// The outline.
    pub outline: Outline,
    /// How unsure its shape is by perspective, lens and tape, mm: usual, and at its worst place.
    pub shape: [f64; 2],
    /// What deserves a look.
    pub warnings: Vec<String>,
}

/// Places of the outline at which the doubt of its shape is worked out.
const JUDGED: usize = 240;
/// Edges of the sheets that lie further off their lines than this, pixels, are blurred or bent.
const ROUGH: f64 = 0.7;
/// The tape is told to be wrong beyond so many standard deviations.
const WRONG: f64 = 3.5;

/// Reads a photo. `seed` is a place of the photo on the template; between the sheets if not said. `on` is told how far it is.
///
/// # Errors
/// What cannot be read, and what to do about it: in a sentence.
pub fn read(
    bytes: &[u8],
    taped: &[Taped],
    seed: Option<Point>,
    w: &Writer,
    mut on: impl FnMut(Stage),
) -> Result<Photo, String> {
    on(Stage::Unpack);
    let picture = Picture::read(bytes)?;
    on(Stage::Sheets);
    let size = [picture.w, picture.h];
    let sheets = sheets(&picture);
    all_there(&sheets)?;
    let plane = Plane::fit(size, &sheets, taped)?;
    on(Stage::Template);
    let rough = ring(&picture, &plane, &sheets, seed)?;
    on(Stage::Edge);
    let outline = follow(&picture, &plane, &rough)?;
    let each = (outline.ring.len() / JUDGED).max(1);
    let places: Vec<Point> = outline
        .ring
        .iter()
        .step_by(each)
        .map(|p| plane.pixel_from(*p, None))
        .collect();
    let doubts = plane.doubts(&places);
    let mean = doubts.iter().map(|d| d * d).sum::<f64>() / doubts.len().max(1) as f64;
    let mut warnings = told(&plane, &sheets, taped, size, w);
    if outline.unclear > 0.02 {
        warnings.push(format!(
            "Along {} of every 100 mm the edge is not clear, a shadow perhaps: there the curve goes straight on. Even light helps.",
            (outline.unclear * 100.0).ceil()
        ));
    }
    Ok(Photo {
        size,
        shape: [mean.sqrt(), doubts.iter().copied().fold(0.0, f64::max)],
        sheets,
        plane,
        outline,
        warnings,
    })
}

fn all_there(sheets: &[Seen]) -> Result<(), String> {
    let numbers = |there: bool| -> Vec<String> {
        let all = (0..SHEETS).filter(|n| sheets.iter().any(|s| s.number == *n) == there);
        all.map(|n| (n + 1).to_string()).collect()
    };
    let (found, lost) = (numbers(true), numbers(false));
    if lost.is_empty() {
        return Ok(());
    }
    let found = match found.len() {
        0 => "No marker sheet was found.".into(),
        1 => format!("Only sheet {} was found.", found.join("")),
        _ => format!(
            "Sheets {} were found, not {}.",
            found.join(", "),
            lost.join(", ")
        ),
    };
    Err(format!(
        "{found} Each of the four has to be seen whole, with its white rim, flat, sharp and without glare or a hard shadow across it."
    ))
}

/// What is to be said about sheets and tape.
fn told(
    plane: &Plane,
    sheets: &[Seen],
    taped: &[Taped],
    size: [usize; 2],
    w: &Writer,
) -> Vec<String> {
    let mut out = vec![];
    if plane.noise > ROUGH {
        out.push(format!(
            "The edges of the sheets lie {:.1} pixels off straight lines: the photo is blurred, or a sheet is not flat.",
            plane.noise
        ));
    }
    if taped.is_empty() {
        out.push("Nothing was taped between the sheets: sizes go by the size at which they were printed, which printers change by a few in a hundred.".into());
    }
    for (i, t) in taped.iter().enumerate() {
        let wrong = (plane.left[i] / plane.left_sd[i]).abs() > WRONG;
        // Without it the others, if there are any, say what it should be.
        let rest: Vec<Taped> = taped
            .iter()
            .enumerate()
            .filter(|(k, _)| *k != i)
            .map(|(_, t)| *t)
            .collect();
        if !wrong || rest.is_empty() {
            continue;
        }
        let place = |p: &Plane, n: usize| {
            let own = sheets.iter().find(|s| s.number == n);
            own.map(|s| [0, 1].map(|k| s.corners.iter().map(|c| p.at(*c)[k]).sum::<f64>() / 4.0))
        };
        let other = Plane::fit(size, sheets, &rest)
            .ok()
            .and_then(|p| Some(distance(place(&p, t.from)?, place(&p, t.to)?)));
        let by = other.map_or(String::new(), |mm| {
            format!("; by the other it would be {}", w.say(mm))
        });
        out.push(format!(
            "From sheet {} to sheet {} you taped {}{by}. One of the two is wrong: tape both again.",
            t.from + 1,
            t.to + 1,
            w.say(t.mm)
        ));
    }
    out
}
