//! Placing rectangles so that a saw can free them: every cut goes right across one present piece.

/// Rounding slack, mm.
pub const SLACK: f64 = 1e-6;

/// A rectangle on a sheet.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Rect {
    /// Lower left corner.
    pub x: f64,
    /// Lower left corner.
    pub y: f64,
    /// Width.
    pub w: f64,
    /// Height.
    pub h: f64,
}

/// A cut across a whole piece; it takes away `at .. at + kerf`.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Saw {
    /// True: at a constant x. False: at a constant y.
    pub vertical: bool,
    /// Where the kerf begins.
    pub at: f64,
    /// Start along the other axis.
    pub from: f64,
    /// End along the other axis.
    pub to: f64,
}

/// A copy of a part put down.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Put {
    /// Index of the piece in the list given to the search.
    pub piece: usize,
    /// Where.
    pub rect: Rect,
    /// Turned by 90 degrees.
    pub rotated: bool,
}

/// One sheet being laid out.
#[derive(Debug, Clone, PartialEq)]
pub struct Board {
    /// Index of the kind of sheet.
    pub kind: usize,
    /// What has been put down.
    pub puts: Vec<Put>,
    /// The cuts in order.
    pub saws: Vec<Saw>,
    /// The pieces still whole: at the end the offcuts.
    pub free: Vec<Rect>,
}

/// Which free piece takes a part.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Choose {
    /// The one with the least area over.
    Area,
    /// The one with the least over on its tighter side.
    ShortSide,
    /// The one with the least over on its looser side.
    LongSide,
}

/// Which of the two cuts beside a part comes first.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Split {
    /// The order that leaves the larger single piece.
    Larger,
    /// The order that leaves the more even pieces.
    Even,
    /// The cut at constant x.
    Vertical,
    /// The cut at constant y.
    Horizontal,
}

impl Board {
    /// An empty board with `trim` taken off every side.
    pub fn new(kind: usize, w: f64, h: f64, trim: f64) -> Self {
        Board {
            kind,
            puts: vec![],
            saws: vec![],
            free: vec![Rect {
                x: trim,
                y: trim,
                w: w - 2.0 * trim,
                h: h - 2.0 * trim,
            }],
        }
    }

    /// How badly free piece `i` suits a `w` x `h` part; `None` if it does not fit.
    pub fn score(&self, i: usize, w: f64, h: f64, choose: Choose) -> Option<f64> {
        let r = self.free[i];
        let (dx, dy) = (r.w - w, r.h - h);
        if dx < -SLACK || dy < -SLACK {
            return None;
        }
        Some(match choose {
            Choose::Area => r.w * r.h - w * h,
            Choose::ShortSide => dx.min(dy),
            Choose::LongSide => dx.max(dy),
        })
    }

    /// Puts a part into free piece `i` at its lower left corner and saws it free.
    pub fn put(
        &mut self,
        i: usize,
        piece: usize,
        (w, h): (f64, f64),
        rotated: bool,
        kerf: f64,
        split: Split,
    ) {
        let r = self.free.remove(i);
        self.puts.push(Put {
            piece,
            rect: Rect {
                x: r.x,
                y: r.y,
                w,
                h,
            },
            rotated,
        });
        let (right, top) = (
            (r.w - w - kerf).max(0.0) * r.h,
            (r.h - h - kerf).max(0.0) * r.w,
        );
        let vertical_first = match split {
            Split::Vertical => true,
            Split::Horizontal => false,
            Split::Larger => right >= top,
            Split::Even => right < top,
        };
        let order = if vertical_first {
            [true, false]
        } else {
            [false, true]
        };
        let mut rest = r;
        for vertical in order {
            rest = self.saw(rest, (w, h), vertical, kerf);
        }
    }

    /// Cuts `r` beside the part at its lower left and returns the piece with the part in it.
    fn saw(&mut self, r: Rect, (w, h): (f64, f64), vertical: bool, kerf: f64) -> Rect {
        let over = if vertical { r.w - w } else { r.h - h };
        if over <= SLACK {
            return r;
        }
        let (at, from, to) = if vertical {
            (r.x + w, r.y, r.y + r.h)
        } else {
            (r.y + h, r.x, r.x + r.w)
        };
        self.saws.push(Saw {
            vertical,
            at,
            from,
            to,
        });
        if over - kerf > SLACK {
            self.free.push(if vertical {
                Rect {
                    x: at + kerf,
                    w: over - kerf,
                    ..r
                }
            } else {
                Rect {
                    y: at + kerf,
                    h: over - kerf,
                    ..r
                }
            });
        }
        if vertical {
            Rect { w, ..r }
        } else {
            Rect { h, ..r }
        }
    }
}
