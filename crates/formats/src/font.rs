//! The two faces, shipped with the program (SIL Open Font License, see fonts/OFL.txt).

use crate::page::Text;

/// The bytes of the face for `text`.
pub fn bytes(bold: bool, mono: bool) -> &'static [u8] {
    match (bold, mono) {
        (false, false) => include_bytes!("../fonts/next-regular.ttf"),
        (true, false) => include_bytes!("../fonts/next-bold.ttf"),
        (false, true) => include_bytes!("../fonts/mono-regular.ttf"),
        (true, true) => include_bytes!("../fonts/mono-bold.ttf"),
    }
}

/// Width of words, mm.
pub fn width(text: &Text) -> f64 {
    let Ok(face) = ttf_parser::Face::parse(bytes(text.bold, text.mono), 0) else {
        return 0.55 * text.size * text.words.chars().count() as f64;
    };
    let units = f64::from(face.units_per_em());
    let advance = |c| {
        let glyph = face.glyph_index(c).unwrap_or_default();
        f64::from(face.glyph_hor_advance(glyph).unwrap_or(0))
    };
    text.words.chars().map(advance).sum::<f64>() * text.size / units
}

/// `words` broken into lines no wider than `most` mm.
pub fn wrap(words: &str, size: f64, most: f64) -> Vec<String> {
    let mut lines = vec![String::new()];
    for word in words.split_whitespace() {
        let line = lines.last().cloned().unwrap_or_default();
        let tried = if line.is_empty() {
            word.to_string()
        } else {
            format!("{line} {word}")
        };
        let probe = Text {
            at: (0.0, 0.0),
            size,
            words: tried.clone(),
            colour: (0, 0, 0),
            bold: false,
            mono: false,
            anchor: crate::page::Anchor::Start,
            upright: false,
        };
        if width(&probe) > most && !line.is_empty() {
            lines.push(word.to_string());
        } else if let Some(last) = lines.last_mut() {
            *last = tried;
        }
    }
    lines
}
