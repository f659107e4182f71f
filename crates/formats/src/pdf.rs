//! Pages as PDF, fonts embedded.

use krilla::Document;
use krilla::color::rgb;
use krilla::geom::{PathBuilder, Point, Transform};
use krilla::metadata::Metadata;
use krilla::num::NormalizedF32;
use krilla::page::PageSettings;
use krilla::paint::{Fill, FillRule, Stroke, StrokeDash};
use krilla::surface::Surface;
use krilla::text::{Font, TextDirection};

use crate::FormatError;
use crate::font::{bytes, width};
use crate::page::{Anchor, Item, Page, Pen, Rgb, Text};

/// Points in a millimetre.
const PT: f64 = 72.0 / 25.4;

fn failed(detail: impl Into<String>) -> FormatError {
    FormatError {
        format: "PDF",
        detail: detail.into(),
    }
}

/// The pages as one PDF document called `title`.
///
/// # Errors
/// The PDF library refuses; not with pages of this crate.
pub fn write(pages: &[Page], title: &str) -> Result<Vec<u8>, FormatError> {
    let faces: Result<Vec<Font>, FormatError> =
        [(false, false), (true, false), (false, true), (true, true)]
            .iter()
            .map(|(bold, mono)| {
                Font::new(bytes(*bold, *mono).to_vec().into(), 0)
                    .ok_or_else(|| failed("a font is damaged"))
            })
            .collect();
    let faces = faces?;
    let mut document = Document::new();
    document.set_metadata(Metadata::new().title(title.to_string()));
    for page in pages {
        let settings = PageSettings::from_wh((page.w * PT) as f32, (page.h * PT) as f32)
            .ok_or_else(|| failed("a page has no size"))?;
        let mut sheet = document.start_page_with(settings);
        let mut surface = sheet.surface();
        for item in &page.items {
            match item {
                Item::Shape {
                    rings,
                    closed,
                    fill,
                    pen,
                } => shape(&mut surface, rings, *closed, *fill, *pen),
                Item::Text(t) => words(&mut surface, t, &faces),
            }
        }
        surface.finish();
        sheet.finish();
    }
    document.finish().map_err(|e| failed(format!("{e:?}")))
}

fn colour((r, g, b): Rgb) -> rgb::Color {
    rgb::Color::new(r, g, b)
}

fn shape(
    s: &mut Surface,
    rings: &[Vec<(f64, f64)>],
    closed: bool,
    fill: Option<Rgb>,
    pen: Option<Pen>,
) {
    let mut b = PathBuilder::new();
    for ring in rings {
        for (i, (x, y)) in ring.iter().enumerate() {
            let (x, y) = ((x * PT) as f32, (y * PT) as f32);
            if i == 0 {
                b.move_to(x, y);
            } else {
                b.line_to(x, y);
            }
        }
        if closed {
            b.close();
        }
    }
    let Some(path) = b.finish() else { return };
    s.set_fill(fill.map(|c| Fill {
        paint: colour(c).into(),
        opacity: NormalizedF32::ONE,
        rule: FillRule::EvenOdd,
    }));
    s.set_stroke(pen.map(|p| Stroke {
        paint: colour(p.colour).into(),
        width: (p.width * PT) as f32,
        dash: p.dashed.then(|| StrokeDash {
            array: vec![(1.5 * PT) as f32, PT as f32],
            offset: 0.0,
        }),
        ..Stroke::default()
    }));
    if fill.is_some() || pen.is_some() {
        s.draw_path(&path);
    }
}

fn words(s: &mut Surface, t: &Text, faces: &[Font]) {
    let Some(face) = faces.get(usize::from(t.bold) + 2 * usize::from(t.mono)) else {
        return;
    };
    s.set_stroke(None);
    s.set_fill(Some(Fill {
        paint: colour(t.colour).into(),
        opacity: NormalizedF32::ONE,
        rule: FillRule::NonZero,
    }));
    let shift = match t.anchor {
        Anchor::Start => 0.0,
        Anchor::Middle => width(t) / 2.0,
    };
    let (x, y) = ((t.at.0 * PT) as f32, (t.at.1 * PT) as f32);
    let shift = (shift * PT) as f32;
    let start = if t.upright {
        s.push_transform(&Transform::from_rotate_at(-90.0, x, y));
        Point::from_xy(x - shift, y)
    } else {
        Point::from_xy(x - shift, y)
    };
    s.draw_text(
        start,
        face.clone(),
        (t.size * PT) as f32,
        &t.words,
        false,
        TextDirection::LeftToRight,
    );
    if t.upright {
        s.pop();
    }
}
