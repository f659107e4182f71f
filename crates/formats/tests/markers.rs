//! The marker sheets as they are printed: the reader of photos finds them on the page, and another reader of PDFs
//! measures them.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

use jigfit_core::project::Paper;
use jigfit_formats::marker_sheets::pages;
use jigfit_formats::page::{Item, Page};
use jigfit_formats::pdf;
use jigfit_photo::find::sheets;
use jigfit_photo::picture::Picture;
use lopdf::content::Content;
use rstest::rstest;

/// The page as a scanner sees it, so many pixels a millimetre.
fn scanned(page: &Page, by: f64) -> Picture {
    let (w, h) = ((page.w * by) as usize, (page.h * by) as usize);
    let mut rgb = vec![255; 3 * w * h];
    for item in &page.items {
        let Item::Shape {
            rings,
            fill: Some(colour),
            ..
        } = item
        else {
            continue;
        };
        let all = || rings.iter().flatten();
        let (left, right) = (
            all().map(|p| p.0).fold(f64::MAX, f64::min),
            all().map(|p| p.0).fold(0.0, f64::max),
        );
        let (top, bottom) = (
            all().map(|p| p.1).fold(f64::MAX, f64::min),
            all().map(|p| p.1).fold(0.0, f64::max),
        );
        for y in (top * by).round() as usize..(bottom * by).round() as usize {
            for x in (left * by).round() as usize..(right * by).round() as usize {
                rgb[3 * (y * w + x)..3 * (y * w + x) + 3]
                    .copy_from_slice(&[colour.0, colour.1, colour.2]);
            }
        }
    }
    Picture { w, h, rgb }
}

#[rstest]
#[case::a4(Paper::A4)]
#[case::letter(Paper::Letter)]
fn the_reader_of_photos_finds_what_is_printed(#[case] paper: Paper) {
    let all = pages(paper);
    assert_eq!(all.len(), 4);
    for (n, page) in all.iter().enumerate() {
        let found = sheets(&scanned(page, 4.0));
        assert_eq!(found.len(), 1);
        assert_eq!(found[0].number, n);
        // Upright: its first corner is the lower left.
        let c = found[0].corners;
        assert!(c[0][0] < c[1][0] && c[0][1] > c[3][1]);
        let side = (c[1][0] - c[0][0]) / 4.0;
        assert!((side - 160.0).abs() < 0.2, "{side}");
    }
}

/// Black rectangles of the PDF, by lopdf: they span 160 mm both ways.
#[test]
fn the_printed_square_is_160_mm() {
    let bytes = pdf::write(&pages(Paper::A4), "x").unwrap();
    let file = lopdf::Document::load_mem(&bytes).unwrap();
    for (_, id) in file.get_pages() {
        let content = Content::decode(&file.get_page_content(id).unwrap()).unwrap();
        let (mut low, mut high) = ([f64::MAX; 2], [f64::MIN; 2]);
        let mut black = false;
        for op in content.operations {
            let v: Vec<f64> = op
                .operands
                .iter()
                .filter_map(|o| o.as_float().ok().map(f64::from))
                .collect();
            match (op.operator.as_str(), v.as_slice()) {
                ("scn" | "rg" | "sc", rgb) => black = rgb.iter().all(|c| *c == 0.0),
                ("re", [x, y, w, h]) if black => {
                    for (k, v) in [(0, *x), (0, x + w), (1, *y), (1, y + h)] {
                        low[k] = low[k].min(v);
                        high[k] = high[k].max(v);
                    }
                }
                ("m" | "l", [x, y]) if black => {
                    for (k, v) in [(0, *x), (1, *y)] {
                        low[k] = low[k].min(v);
                        high[k] = high[k].max(v);
                    }
                }
                _ => {}
            }
        }
        for k in 0..2 {
            let mm = (high[k] - low[k]) * 25.4 / 72.0;
            assert!((mm - 160.0).abs() < 0.1, "{mm}");
        }
    }
}
