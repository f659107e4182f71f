//! The four marker sheets for photos of templates, one to a page.

use jigfit_core::project::Paper;
use jigfit_photo::sheet::{FIELDS, SHEETS, SIDE, black};

use crate::page::{Anchor, Item, Page, Pen, Rgb, SOFT, Text};

const BLACK: Rgb = (0, 0, 0);
const WHITE: Rgb = (255, 255, 255);
/// The cross in the middle: half its length, and how wide its line and the rim of it are, mm.
const CROSS: f64 = 14.0;
const LINE: f64 = 0.4;
const RIM: f64 = 1.6;

/// All of them.
pub fn pages(paper: Paper) -> Vec<Page> {
    (0..SHEETS).map(|n| page(n, paper)).collect()
}

fn page(n: usize, paper: Paper) -> Page {
    let (w, h) = match paper {
        Paper::A4 => (210.0, 297.0),
        Paper::Letter => (8.5 * 25.4, 11.0 * 25.4),
    };
    let mut page = Page {
        w,
        h,
        title: format!("Marker sheet {}", n + 1),
        items: vec![],
    };
    let (left, top) = ((w - SIDE) / 2.0, (h - SIDE) / 2.0);
    let field = SIDE / FIELDS as f64;
    // Fields of a row that touch are one shape: printers show seams.
    for row in 0..FIELDS {
        let own: Vec<usize> = black(n)
            .into_iter()
            .filter(|f| f.0 == row)
            .map(|f| f.1)
            .collect();
        for run in own.chunk_by(|a, b| b - a == 1) {
            let (Some(first), Some(last)) = (run.first(), run.last()) else {
                continue;
            };
            let x = left + *first as f64 * field;
            let wide = (last - first + 1) as f64 * field;
            // A hair of overlap, downwards where the next row is black too.
            let below = run.iter().all(|c| black(n).contains(&(row + 1, *c)));
            let tall = field + if below { 0.05 } else { 0.0 };
            page.rect(x, top + row as f64 * field, wide, tall, Some(BLACK), None);
        }
    }
    let (x, y) = (w / 2.0, h / 2.0);
    for (colour, width) in [(WHITE, RIM), (BLACK, LINE)] {
        let pen = Pen {
            colour,
            width,
            dashed: false,
        };
        page.line((x - CROSS, y), (x + CROSS, y), pen);
        page.line((x, y - CROSS), (x, y + CROSS), pen);
    }
    let mut say = |y: f64, size: f64, bold: bool, words: String| {
        page.items.push(Item::Text(Text {
            at: (w / 2.0, y),
            size,
            words,
            colour: if bold { BLACK } else { SOFT },
            bold,
            mono: false,
            anchor: Anchor::Middle,
            upright: false,
        }));
    };
    say(top - 14.0, 11.0, true, format!("Sheet {}", n + 1));
    let words = [
        "Lay it flat beside a corner of the template, not on it; keep its white rim free.",
        "Tape from the cross of sheet 1 to that of sheet 3, and from 2 to 4.",
    ];
    for (i, line) in words.into_iter().enumerate() {
        say(top + SIDE + 14.0 + 6.0 * i as f64, 4.0, false, line.into());
    }
    page
}
