//! Pages as SVG, one below the other, in millimetres.

use svg::Document;
use svg::node::element::path::Data;
use svg::node::element::{Group, Path, Text as Words, Title};

use crate::page::{Anchor, Item, Page, Rgb, Text};

/// Gap between pages, mm.
const GAP: f64 = 6.0;

/// The pages as one SVG document.
pub fn write(pages: &[Page]) -> String {
    let w = pages.iter().map(|p| p.w).fold(10.0, f64::max);
    let h = pages.iter().map(|p| p.h + GAP).sum::<f64>().max(10.0 + GAP) - GAP;
    let mut document = Document::new()
        .set("width", format!("{w}mm"))
        .set("height", format!("{h}mm"))
        .set("viewBox", (0.0, 0.0, w, h));
    let mut y = 0.0;
    for page in pages {
        document = document.add(group(page, y));
        y += page.h + GAP;
    }
    let mut text = String::from("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n");
    text.push_str(&document.to_string());
    text.push('\n');
    text
}

fn group(page: &Page, y: f64) -> Group {
    let mut g = Group::new()
        .set("transform", format!("translate(0 {y})"))
        .add(Title::new(page.title.as_str()))
        .add(
            Path::new()
                .set("d", format!("M0 0H{}V{}H0Z", page.w, page.h))
                .set("fill", "#ffffff"),
        );
    for item in &page.items {
        g = match item {
            Item::Shape {
                rings,
                closed,
                fill,
                pen,
            } => {
                let mut data = Data::new();
                for ring in rings {
                    for (i, (x, y)) in ring.iter().enumerate() {
                        let p = (round(*x), round(*y));
                        data = if i == 0 {
                            data.move_to(p)
                        } else {
                            data.line_to(p)
                        };
                    }
                    if *closed {
                        data = data.close();
                    }
                }
                let mut path = Path::new()
                    .set("d", data)
                    .set("fill-rule", "evenodd")
                    .set("fill", fill.map_or("none".into(), hex));
                if let Some(pen) = pen {
                    path = path
                        .set("stroke", hex(pen.colour))
                        .set("stroke-width", pen.width);
                    if pen.dashed {
                        path = path.set("stroke-dasharray", "1.5 1");
                    }
                }
                g.add(path)
            }
            Item::Text(t) => g.add(words(t)),
        };
    }
    g
}

fn words(t: &Text) -> Words {
    let family = if t.mono {
        "Atkinson Hyperlegible Mono, monospace"
    } else {
        "Atkinson Hyperlegible Next, sans-serif"
    };
    let (x, y) = (round(t.at.0), round(t.at.1));
    let mut words = Words::new(t.words.as_str())
        .set("x", x)
        .set("y", y)
        .set("font-family", family)
        .set("font-size", t.size)
        .set("fill", hex(t.colour));
    if t.bold {
        words = words.set("font-weight", 700);
    }
    if t.anchor == Anchor::Middle {
        words = words.set("text-anchor", "middle");
    }
    if t.upright {
        words = words.set("transform", format!("rotate(-90 {x} {y})"));
    }
    words
}

fn round(v: f64) -> f64 {
    (v * 1000.0).round() / 1000.0
}

fn hex((r, g, b): Rgb) -> String {
    format!("#{r:02x}{g:02x}{b:02x}")
}
