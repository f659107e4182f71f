//! Curves and boards at full size: cut into pages of ordinary paper that are laid edge to edge, on a roll, or on one large
//! sheet.

use jigfit_core::project::{Paper, Project};

use crate::drawing::{Drawing, Layer};
use crate::page::{BOLD, HAIR, Item, Page, Pen, RED, SOFT, THIN};

/// Printers leave a margin, mm.
const MARGIN: f64 = 10.0;
/// Neighbouring pages show so much of each other, mm.
const OVERLAP: f64 = 10.0;
/// Kept free under the drawing for words and the check bars, mm.
const FOOT: f64 = 20.0;
/// Room round a drawing, mm.
const ROOM: f64 = 8.0;
/// A page shows a mark along the straight edge every so often, mm.
const TICK: f64 = 50.0;
/// A page of a roll is no longer than this, mm: PDF 1.4 ends at 200 in.
const LONGEST: f64 = 4900.0;

type At = (f64, f64);

/// On what it is printed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Sheet {
    /// Sheets of that width and height, mm, lying or standing.
    Cut(f64, f64),
    /// A roll of that width, mm, as long as need be.
    Roll(f64),
}

impl Sheet {
    /// By name: `a4`, `letter`, `a3`, `roll-594` (A1 wide), `roll-610` (24 in), `roll-914` (36 in).
    pub fn named(name: &str) -> Option<Sheet> {
        Some(match name {
            "a4" => Sheet::Cut(210.0, 297.0),
            "letter" => Sheet::Cut(8.5 * 25.4, 11.0 * 25.4),
            "a3" => Sheet::Cut(297.0, 420.0),
            "roll-594" => Sheet::Roll(594.0),
            "roll-610" => Sheet::Roll(24.0 * 25.4),
            "roll-914" => Sheet::Roll(36.0 * 25.4),
            _ => return None,
        })
    }

    /// The paper of the project.
    pub fn of(project: &Project) -> Sheet {
        match project.units.paper {
            Paper::A4 => Sheet::Cut(210.0, 297.0),
            Paper::Letter => Sheet::Cut(8.5 * 25.4, 11.0 * 25.4),
        }
    }
}

/// Names that `Sheet::named` knows.
pub const SHEETS: &str = "a4, letter, a3, roll-594, roll-610, roll-914";

/// A drawing as lines on paper, y down, from its upper left corner.
struct Laid {
    name: String,
    w: f64,
    h: f64,
    lines: Vec<(Vec<At>, Pen)>,
    words: Vec<(At, String)>,
}

fn laid(d: &Drawing) -> Option<Laid> {
    let (low, high) = d.bounds()?;
    let (x0, y1) = (low[0] - ROOM, high[1] + ROOM);
    let at = |p: &[f64; 2]| (p[0] - x0, y1 - p[1]);
    let mut lines = vec![];
    let mut words = vec![];
    for line in &d.lines {
        let mut points: Vec<At> = line.points.iter().map(at).collect();
        if line.closed {
            points.extend(points.first().copied());
        }
        let pen = if line.layer == Layer::Cut { BOLD } else { THIN };
        lines.push((points, pen));
    }
    for r in &d.rounds {
        let radius = r.diameter / 2.0;
        let ring = (0..=48).map(|k| {
            let t = f64::from(k) / 48.0 * std::f64::consts::TAU;
            at(&[r.at[0] + radius * t.cos(), r.at[1] + radius * t.sin()])
        });
        lines.push((ring.collect(), THIN));
        let (cx, cy) = at(&r.at);
        lines.push((vec![(cx - 3.0, cy), (cx + 3.0, cy)], THIN));
        lines.push((vec![(cx, cy - 3.0), (cx, cy + 3.0)], THIN));
    }
    words.extend(d.words.iter().map(|(p, what, _)| (at(p), what.clone())));
    if let Some([a, b]) = d.base {
        let long = (b[0] - a[0]).hypot(b[1] - a[1]).max(1e-9);
        let u = [(b[0] - a[0]) / long, (b[1] - a[1]) / long];
        for i in 0..=(long / TICK) as usize {
            let d = i as f64 * TICK;
            let p = [a[0] + d * u[0], a[1] + d * u[1]];
            let q = [p[0] + 4.0 * u[1], p[1] - 4.0 * u[0]];
            lines.push((vec![at(&p), at(&q)], THIN));
            words.push((at(&q), format!("{d:.0}")));
        }
    }
    Some(Laid {
        name: d.name.clone(),
        w: high[0] + ROOM - x0,
        h: y1 - low[1] + ROOM,
        lines,
        words,
    })
}

/// Each on one sheet as large as it is: for a plotter, or a cutter that reads SVG.
pub fn sheets(drawings: &[Drawing]) -> Vec<Page> {
    let each = drawings.iter().filter_map(|t| {
        let d = laid(t)?;
        let mut page = Page {
            w: d.w,
            h: d.h,
            title: d.name.clone(),
            items: vec![],
        };
        for (line, pen) in &d.lines {
            page.items.push(Item::Shape {
                rings: vec![line.clone()],
                closed: false,
                fill: None,
                pen: Some(*pen),
            });
        }
        for ((x, y), words) in &d.words {
            page.say(*x, y + 3.0, 2.6, false, words.clone());
        }
        Some(page)
    });
    each.collect()
}

/// The part of a segment that lies in a rectangle (Liang and Barsky 1984, from memory).
fn clipped((a, b): (At, At), (x0, y0): At, (x1, y1): At) -> Option<(At, At)> {
    let (dx, dy) = (b.0 - a.0, b.1 - a.1);
    let (mut from, mut to) = (0.0_f64, 1.0_f64);
    for (d, room) in [
        (-dx, a.0 - x0),
        (dx, x1 - a.0),
        (-dy, a.1 - y0),
        (dy, y1 - a.1),
    ] {
        if d == 0.0 {
            if room < 0.0 {
                return None;
            }
            continue;
        }
        let t = room / d;
        if d < 0.0 {
            from = from.max(t);
        } else {
            to = to.min(t);
        }
    }
    (from < to).then(|| {
        let at = |t: f64| (a.0 + t * dx, a.1 + t * dy);
        (at(from), at(to))
    })
}

/// `A`, `B`, ... `Z`, `AA`...
fn letter(mut n: usize) -> String {
    let mut out = String::new();
    loop {
        out.insert(0, char::from(b'A' + (n % 26) as u8));
        if n < 26 {
            return out;
        }
        n = n / 26 - 1;
    }
}

/// On pages of that sheet: for each a plan of its pages where there are several, then the pages with a line on them.
pub fn pages(project: &Project, drawings: &[Drawing], sheet: Sheet) -> Vec<Page> {
    let off = |read: Option<f64>| 100.0 / read.unwrap_or(100.0);
    let by = (
        off(project.units.printed_across),
        off(project.units.printed_up),
    );
    // Lying or standing, as fewer pages do.
    let fewer = |d: &Laid| {
        let (a, b) = match sheet {
            Sheet::Cut(w, h) => (tiles(d, (w, h)), tiles(d, (h, w))),
            Sheet::Roll(wide) => {
                let long = |along: f64| (along + 2.0 * MARGIN).clamp(2.0 * wide / 3.0, LONGEST);
                (
                    tiles(d, (long(d.w), wide)),
                    tiles(d, (wide, long(d.h + FOOT))),
                )
            }
        };
        if b.len() < a.len() { b } else { a }
    };
    let pages = drawings.iter().filter_map(laid).flat_map(|d| fewer(&d));
    pages.map(|p| corrected(p, by)).collect()
}

/// The page for a printer that prints a little too small or too large: about its middle, so that the margins stay.
fn corrected(mut page: Page, (kx, ky): (f64, f64)) -> Page {
    let (cx, cy) = (page.w / 2.0, page.h / 2.0);
    let at = |p: &mut At| *p = (cx + kx * (p.0 - cx), cy + ky * (p.1 - cy));
    for item in &mut page.items {
        match item {
            Item::Shape { rings, .. } => rings.iter_mut().flatten().for_each(at),
            Item::Text(t) => at(&mut t.at),
        }
    }
    page
}

fn tiles(d: &Laid, (w, h): (f64, f64)) -> Vec<Page> {
    let (pw, ph) = (w - 2.0 * MARGIN, h - 2.0 * MARGIN - FOOT);
    let (sx, sy) = (pw - OVERLAP, ph - OVERLAP);
    let cols = ((d.w - OVERLAP) / sx).ceil().max(1.0) as usize;
    let rows = ((d.h - OVERLAP) / sy).ceil().max(1.0) as usize;
    let mut out = Vec::new();
    let mut used: Vec<(usize, usize)> = Vec::new();
    for row in 0..rows {
        for col in 0..cols {
            let from = (col as f64 * sx, row as f64 * sy);
            let to = (from.0 + pw, from.1 + ph);
            let mut page = Page {
                w,
                h,
                title: format!("{}: page {}{}", d.name, letter(row), col + 1),
                items: vec![],
            };
            let mut some = false;
            for (line, pen) in &d.lines {
                for s in line.windows(2) {
                    let Some((a, b)) = clipped((s[0], s[1]), from, to) else {
                        continue;
                    };
                    some |= pen.width > THIN.width;
                    let put = |p: At| (p.0 - from.0 + MARGIN, p.1 - from.1 + MARGIN);
                    page.line(put(a), put(b), *pen);
                }
            }
            if !some {
                continue;
            }
            for ((x, y), words) in &d.words {
                let inside = *x >= from.0 && *x < to.0 - 8.0 && *y >= from.1 && *y < to.1 - 4.0;
                if inside {
                    let (x, y) = (x - from.0 + MARGIN, y - from.1 + MARGIN);
                    page.say(x, y + 3.0, 2.6, false, words.clone());
                    page.tint(SOFT);
                }
            }
            furnish(&mut page, (pw, ph), (row, col), (rows, cols));
            used.push((row, col));
            out.push(page);
        }
    }
    // One page needs no plan.
    if used.len() > 1 {
        out.insert(0, overview(d, (w, h), (sx, sy), &used));
    }
    out
}

/// Register marks, names and check bars of a page.
fn furnish(
    page: &mut Page,
    (pw, ph): (f64, f64),
    (row, col): (usize, usize),
    (rows, cols): (usize, usize),
) {
    let hair = Pen {
        colour: HAIR,
        width: 0.2,
        dashed: true,
    };
    page.rect(MARGIN, MARGIN, pw, ph, None, Some(hair));
    // Crosses in the middle of what two pages share: they are laid on each other.
    let half = OVERLAP / 2.0;
    for x in [MARGIN + half, MARGIN + pw - half] {
        for y in [MARGIN + half, MARGIN + ph - half] {
            let red = Pen {
                colour: RED,
                width: 0.2,
                dashed: false,
            };
            page.line((x - 4.0, y), (x + 4.0, y), red);
            page.line((x, y - 4.0), (x, y + 4.0), red);
        }
    }
    let y = MARGIN + ph + 6.0;
    page.say(MARGIN, y, 4.2, true, page.title.clone());
    let mut words = String::new();
    if col > 0 {
        words.push_str(&format!("left of it {}{}  ", letter(row), col));
    }
    if row > 0 {
        words.push_str(&format!("above it {}{}  ", letter(row - 1), col + 1));
    }
    words.push_str(&format!("({rows} x {cols}, full size: print at 100 %)"));
    page.say(MARGIN, y + 4.6, 2.8, false, words);
    // 100 mm and 4 in, along and up the page: measure both before you cut.
    let base = MARGIN + ph + 13.5;
    bar(page, (MARGIN, base), (MARGIN + 100.0, base));
    page.say(MARGIN + 103.5, base + 1.0, 2.6, false, "100 mm");
    bar(page, (MARGIN, base + 4.5), (MARGIN + 101.6, base + 4.5));
    page.say(MARGIN + 103.5, base + 5.5, 2.6, false, "4 in");
    let side = MARGIN + pw + 2.0;
    bar(page, (side, MARGIN + ph - 100.0), (side, MARGIN + ph));
    bar(
        page,
        (side + 2.8, MARGIN + ph - 101.6),
        (side + 2.8, MARGIN + ph),
    );
}

fn bar(page: &mut Page, a: At, b: At) {
    page.line(a, b, THIN);
    let upright = (a.0 - b.0).abs() < 1e-9;
    for p in [a, b] {
        let (q, r) = if upright {
            ((p.0 - 1.2, p.1), (p.0 + 1.2, p.1))
        } else {
            ((p.0, p.1 - 1.5), (p.0, p.1 + 1.5))
        };
        page.line(q, r, THIN);
    }
}

/// Which page goes where.
fn overview(d: &Laid, (w, h): (f64, f64), (sx, sy): (f64, f64), used: &[(usize, usize)]) -> Page {
    let mut page = Page {
        w,
        h,
        title: format!("{}: plan of {} pages", d.name, used.len()),
        items: vec![],
    };
    page.say(MARGIN, MARGIN + 6.0, 5.0, true, page.title.clone());
    page.say(
        MARGIN,
        MARGIN + 13.0,
        3.4,
        false,
        "Lay the red crosses of neighbours on each other and tape them. Then measure a bar of 100 mm each way.",
    );
    let most = |f: fn(&(usize, usize)) -> usize| used.iter().map(f).max().unwrap_or(0) as f64 + 1.0;
    let (wide, tall) = (most(|u| u.1) * sx, most(|u| u.0) * sy);
    let k = ((w - 2.0 * MARGIN) / wide).min((h - 60.0) / tall).min(0.5);
    let at = |p: &At| (MARGIN + k * p.0, MARGIN + 24.0 + k * p.1);
    for (row, col) in used {
        let from = (*col as f64 * sx, *row as f64 * sy);
        let (x, y) = at(&from);
        let hair = Pen {
            colour: HAIR,
            width: 0.3,
            dashed: false,
        };
        page.rect(x, y, k * sx, k * sy, None, Some(hair));
        page.say(
            x + 1.5,
            y + k * sy - 2.0,
            4.0,
            true,
            format!("{}{}", letter(*row), col + 1),
        );
        page.tint(SOFT);
    }
    for (line, pen) in &d.lines {
        let ring: Vec<At> = line.iter().map(at).collect();
        for s in ring.windows(2) {
            page.line(s[0], s[1], *pen);
        }
    }
    page
}
