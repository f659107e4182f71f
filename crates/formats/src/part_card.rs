//! One page for each part: the outline as it is marked on the board, from one corner.

use jigfit_core::parts::Part;
use jigfit_core::plan::Plan;
use jigfit_core::project::Project;
use jigfit_core::units::figure::System;

use crate::draw::{Frame, both, dimension, foot, one};
use crate::font::wrap;
use crate::page::{BOLD, HAIR, PLY, Page, Pen, RED, SOFT, THIN};

/// Where the table begins, mm from the left.
const TABLE: f64 = 203.0;
/// Rows of corners that go on one card.
const ROWS: usize = 22;

/// All part cards.
pub fn pages(project: &Project, plan: &Plan) -> Vec<Page> {
    let system = project.units.system;
    let mut pages: Vec<Page> = plan.parts.iter().map(|p| card(p, system)).collect();
    let of = pages.len();
    for (i, page) in pages.iter_mut().enumerate() {
        foot(page, &project.name, i + 1, of);
    }
    pages
}

fn card(part: &Part, system: System) -> Page {
    let mut page = Page::a4(format!("{} {}", part.mark, part.name));
    page.say(
        12.0,
        18.0,
        8.0,
        true,
        format!("{} · {}", part.mark, part.name),
    );
    let times = if part.count > 1 {
        format!(" · {} of them", part.count)
    } else {
        String::new()
    };
    page.say(
        12.0,
        25.0,
        4.0,
        false,
        format!(
            "{} · blank {} x {}{times} · {:.1} kg each",
            part.stuff,
            both(&part.w, system),
            both(&part.h, system),
            part.mass
        ),
    );
    let f = Frame::fit(part.w.value, part.h.value, 30.0, 46.0, 150.0, 122.0);
    page.shape(f.rings(&part.outline), Some(PLY), Some(BOLD));
    grain(&mut page, part, &f);
    dimensions(&mut page, part, &f, system);
    corners(&mut page, part, &f);
    let o = f.at([0.0, 0.0]);
    page.rect(o.0 - 1.2, o.1 - 1.2, 2.4, 2.4, Some(RED), None);
    page.say(
        o.0 + 2.5,
        o.1 + 13.5,
        3.2,
        true,
        "mark from here: lower left corner of the blank",
    );
    page.tint(RED);
    column(&mut page, part, system);
    page
}

fn grain(page: &mut Page, part: &Part, f: &Frame) {
    use jigfit_core::cutting::nest::PartGrain;
    let (cx, cy) = (part.w.value / 2.0, part.h.value / 2.0);
    let (x, y) = f.at([cx, cy]);
    let pen = THIN;
    let tips = match part.grain {
        PartGrain::Along => [(x - 14.0, y), (x + 14.0, y)],
        PartGrain::Across => [(x, y + 14.0), (x, y - 14.0)],
        PartGrain::Free => return,
    };
    if part.h.value * f.scale > 14.0 && part.w.value * f.scale > 34.0 {
        page.line(tips[0], tips[1], pen);
        let (tx, ty) = tips[1];
        for d in [-1.2, 1.2] {
            let back = match part.grain {
                PartGrain::Along => (tx - 2.5, ty + d),
                _ => (tx + d, ty + 2.5),
            };
            page.line((tx, ty), back, pen);
        }
        page.say(x - 3.0, y - 1.5, 3.0, false, "grain");
        page.figure(x - 22.0, y + 2.0, 7.0, false, part.mark.clone());
    }
}

fn dimensions(page: &mut Page, part: &Part, f: &Frame, system: System) {
    let (w, h) = (part.w.value, part.h.value);
    // Overall dimensions outermost, the others nearer.
    let mut level =
        std::collections::BTreeMap::from([("bottom", 0), ("left", 0), ("top", 0), ("right", 0)]);
    for (i, d) in part.dims.iter().enumerate() {
        let side = d.side.as_str();
        let Some(n) = level.get_mut(side) else {
            continue;
        };
        let overall = i < 2;
        let away = if overall {
            18.0
        } else {
            *n += 1;
            // Neighbours on one side share a row: they do not overlap by construction.
            7.0
        };
        let (mut a, mut b) = (f.at(d.from), f.at(d.to));
        let (left, bottom) = f.at([0.0, 0.0]);
        let (right, top) = f.at([w, h]);
        match side {
            "bottom" => (a.1, b.1) = (bottom + away, bottom + away),
            "top" => (a.1, b.1) = (top - away, top - away),
            "left" => (a.0, b.0) = (left - away, left - away),
            _ => (a.0, b.0) = (right + away, right + away),
        }
        // Too short on paper to carry its figure: the table of corners has it.
        let room = (a.0 - b.0).abs().max((a.1 - b.1).abs());
        if room < 9.0 && !overall {
            continue;
        }
        dimension(page, a, b, &one(&d.figure, system));
    }
}

fn corners(page: &mut Page, part: &Part, f: &Frame) {
    let (w, h) = (part.w.value, part.h.value);
    let mut before: Option<(f64, f64)> = None;
    for c in &part.corners {
        let (x, y) = f.at([c.u.value, c.v.value]);
        // The letter of a corner close to the last one goes to the other side.
        let crowded = before.is_some_and(|b| (b.0 - x).hypot(b.1 - y) < 4.0);
        before = Some((x, y));
        let dx = if c.u.value > w / 2.0 { -2.6 } else { 2.6 };
        let dy = if (c.v.value > h / 2.0) != crowded {
            3.6
        } else {
            -1.6
        };
        page.rect(x - 0.5, y - 0.5, 1.0, 1.0, Some((0x22, 0x26, 0x2b)), None);
        if h * f.scale > 12.0 {
            page.figure(x + dx, y + dy, 3.0, false, c.letter.clone());
        }
    }
    for feature in part.features.iter().filter(|p| p.kind == "relief") {
        let (x, y) = f.at(feature.at);
        page.line(
            (x - 2.0, y),
            (x + 2.0, y),
            Pen {
                colour: RED,
                ..THIN
            },
        );
        page.line(
            (x, y - 2.0),
            (x, y + 2.0),
            Pen {
                colour: RED,
                ..THIN
            },
        );
    }
}

/// The table of corners, what is done then, and why.
fn column(page: &mut Page, part: &Part, system: System) {
    let mut y = 18.0;
    page.say(TABLE, y, 4.2, true, "Corners from the red mark");
    y += 6.0;
    page.say(TABLE + 9.0, y, 3.2, false, "across");
    page.say(TABLE + 47.0, y, 3.2, false, "up");
    y += 4.6;
    for c in part.corners.iter().take(ROWS) {
        page.say(TABLE, y, 3.4, true, c.letter.clone());
        for (x, figure) in [(9.0, &c.u), (47.0, &c.v)] {
            page.items.push(crate::page::Item::Text(crate::page::Text {
                at: (TABLE + x, y),
                size: 2.9,
                words: both(figure, system),
                colour: crate::page::INK,
                bold: false,
                mono: true,
                anchor: crate::page::Anchor::Start,
                upright: false,
            }));
        }
        let pen = Pen {
            colour: HAIR,
            width: 0.2,
            dashed: false,
        };
        page.line((TABLE, y + 1.3), (TABLE + 84.0, y + 1.3), pen);
        y += 4.8;
    }
    if part.corners.len() > ROWS {
        page.say(
            TABLE,
            y,
            3.0,
            false,
            format!(
                "and {} more, see the table on screen",
                part.corners.len() - ROWS
            ),
        );
        y += 4.8;
    }
    y = holes(page, part, system, y + 2.0);
    y += 3.0;
    page.say(TABLE, y, 4.2, true, "Then");
    for line in &part.then {
        for (i, words) in wrap(line, 3.4, 78.0).into_iter().enumerate() {
            y += 5.0;
            if i == 0 {
                page.rect(TABLE, y - 2.6, 2.6, 2.6, None, Some(THIN));
            }
            page.say(TABLE + 5.0, y, 3.4, false, words);
        }
    }
    y += 8.0;
    for why in &part.why {
        if y > 190.0 {
            return;
        }
        page.say(
            TABLE,
            y,
            3.4,
            true,
            format!("{} {}", one(&why.total, system), why.about),
        );
        for step in &why.steps {
            y += 4.2;
            let figure = step
                .figure
                .as_ref()
                .map_or(String::new(), |v| format!("{} ", one(v, system)));
            for words in wrap(&format!("{} {figure}{}", step.op, step.label), 3.1, 80.0) {
                page.say(TABLE + 2.0, y, 3.1, false, words);
                page.tint(SOFT);
                y += 3.8;
            }
            y -= 3.8;
        }
        y += 6.0;
    }
}

/// Vents and windows by their centres; reliefs are the red crosses.
fn holes(page: &mut Page, part: &Part, system: System, mut y: f64) -> f64 {
    let listed: Vec<_> = part
        .features
        .iter()
        .filter(|f| f.kind != "relief")
        .collect();
    let reliefs = part.features.len() - listed.len();
    if !listed.is_empty() {
        page.say(TABLE, y, 4.2, true, "Hole centres, across x up");
        for pair in listed.chunks(2) {
            y += 4.6;
            for (i, f) in pair.iter().enumerate() {
                let size = match (&f.diameter, &f.size) {
                    (Some(d), _) => format!("d {}", one(d, system)),
                    (None, Some((w, h))) => format!("{} x {}", one(w, system), one(h, system)),
                    _ => String::new(),
                };
                let writer = jigfit_core::units::figure::Writer {
                    system,
                    denominator: 16,
                };
                let at = f.at.map(|v| one(&writer.figure(v), system));
                page.say(
                    TABLE + 42.0 * i as f64,
                    y,
                    3.1,
                    false,
                    format!("{} x {}  {size}", at[0], at[1]),
                );
            }
        }
        y += 5.0;
    }
    if let Some(d) = part
        .features
        .iter()
        .find(|f| f.kind == "relief")
        .and_then(|f| f.diameter.as_ref())
    {
        page.say(
            TABLE,
            y,
            3.4,
            false,
            format!(
                "{reliefs} reliefs diameter {} at the red crosses",
                one(d, system)
            ),
        );
        page.tint(RED);
        y += 5.0;
    }
    y
}
