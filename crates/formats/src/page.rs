//! A page to print: millimetres from the upper left corner, y down.

use jigfit_core::project::Paper;

/// Red, green, blue.
pub type Rgb = (u8, u8, u8);

/// Graphite.
pub const INK: Rgb = (0x22, 0x26, 0x2b);
/// Second ink.
pub const SOFT: Rgb = (0x5d, 0x60, 0x66);
/// Plywood.
pub const PLY: Rgb = (0xf0, 0xe0, 0xc2);
/// Carpenter's pencil.
pub const RED: Rgb = (0xb0, 0x32, 0x1f);
/// Hairline.
pub const HAIR: Rgb = (0xbf, 0xae, 0x90);

/// A line.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Pen {
    /// Colour.
    pub colour: Rgb,
    /// Width, mm.
    pub width: f64,
    /// Broken.
    pub dashed: bool,
}

/// Where a word hangs from its point.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Anchor {
    /// By its start.
    Start,
    /// By its middle.
    Middle,
}

/// A word or sentence.
#[derive(Debug, Clone, PartialEq)]
pub struct Text {
    /// Baseline point, mm.
    pub at: (f64, f64),
    /// Size, mm.
    pub size: f64,
    /// Words.
    pub words: String,
    /// Colour.
    pub colour: Rgb,
    /// Bold.
    pub bold: bool,
    /// Figures: the fixed-width face.
    pub mono: bool,
    /// Where it hangs.
    pub anchor: Anchor,
    /// Reads upwards.
    pub upright: bool,
}

/// Something on a page.
#[derive(Debug, Clone, PartialEq)]
pub enum Item {
    /// Rings filled by the even-odd rule, or one open line.
    Shape {
        /// Points of each ring.
        rings: Vec<Vec<(f64, f64)>>,
        /// The rings are closed.
        closed: bool,
        /// Fill.
        fill: Option<Rgb>,
        /// Outline.
        pen: Option<Pen>,
    },
    /// Words.
    Text(Text),
}

/// A page.
#[derive(Debug, Clone, PartialEq)]
pub struct Page {
    /// Width, mm.
    pub w: f64,
    /// Height, mm.
    pub h: f64,
    /// What it is, for the reader of the file.
    pub title: String,
    /// What is on it, from below to above.
    pub items: Vec<Item>,
}

/// A thin graphite line.
pub const THIN: Pen = Pen {
    colour: INK,
    width: 0.25,
    dashed: false,
};
/// A bold graphite line.
pub const BOLD: Pen = Pen {
    colour: INK,
    width: 0.6,
    dashed: false,
};

impl Page {
    /// A sheet of A4, lying.
    pub fn a4(title: impl Into<String>) -> Page {
        Page {
            w: 297.0,
            h: 210.0,
            title: title.into(),
            items: vec![],
        }
    }

    /// The same on another paper: drawn a little smaller where that is narrower, in its middle.
    #[must_use]
    pub fn on(mut self, paper: Paper) -> Page {
        let (w, h) = match paper {
            Paper::A4 => return self,
            Paper::Letter => (11.0 * 25.4, 8.5 * 25.4),
        };
        let by = (w / self.w).min(h / self.h);
        let (dx, dy) = ((w - by * self.w) / 2.0, (h - by * self.h) / 2.0);
        let at = |p: &mut (f64, f64)| *p = (dx + by * p.0, dy + by * p.1);
        for item in &mut self.items {
            match item {
                Item::Shape { rings, pen, .. } => {
                    rings.iter_mut().flatten().for_each(at);
                    if let Some(pen) = pen {
                        pen.width *= by;
                    }
                }
                Item::Text(t) => {
                    at(&mut t.at);
                    t.size *= by;
                }
            }
        }
        (self.w, self.h) = (w, h);
        self
    }

    /// A straight line.
    pub fn line(&mut self, a: (f64, f64), b: (f64, f64), pen: Pen) {
        self.items.push(Item::Shape {
            rings: vec![vec![a, b]],
            closed: false,
            fill: None,
            pen: Some(pen),
        });
    }

    /// A closed shape.
    pub fn shape(&mut self, rings: Vec<Vec<(f64, f64)>>, fill: Option<Rgb>, pen: Option<Pen>) {
        self.items.push(Item::Shape {
            rings,
            closed: true,
            fill,
            pen,
        });
    }

    /// A rectangle.
    pub fn rect(&mut self, x: f64, y: f64, w: f64, h: f64, fill: Option<Rgb>, pen: Option<Pen>) {
        let ring = vec![(x, y), (x + w, y), (x + w, y + h), (x, y + h)];
        self.shape(vec![ring], fill, pen);
    }

    /// Words in the text face.
    pub fn say(&mut self, x: f64, y: f64, size: f64, bold: bool, words: impl Into<String>) {
        self.items.push(Item::Text(Text {
            at: (x, y),
            size,
            words: words.into(),
            colour: INK,
            bold,
            mono: false,
            anchor: Anchor::Start,
            upright: false,
        }));
    }

    /// A figure in the fixed-width face, on white, hung by its middle.
    pub fn figure(&mut self, x: f64, y: f64, size: f64, upright: bool, words: impl Into<String>) {
        self.items.push(Item::Text(Text {
            at: (x, y),
            size,
            words: words.into(),
            colour: INK,
            bold: true,
            mono: true,
            anchor: Anchor::Middle,
            upright,
        }));
    }

    /// The last words in another colour.
    pub fn tint(&mut self, colour: Rgb) {
        if let Some(Item::Text(t)) = self.items.last_mut() {
            t.colour = colour;
        }
    }
}
