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

/// All part cards.
pub fn pages(project: &Project, plan: &Plan) -> Vec<Page> {
    let system = project.units.system;
    let mut pages: Vec<Page> = plan.parts.iter().flat_map(|p| card(p, system)).collect();
    let of = pages.len();
    for (i, page) in pages.iter_mut().enumerate() {
        foot(page, &project.name, i + 1, of);
    }
    let paper = project.units.paper;
    pages.into_iter().map(|p| p.on(paper)).collect()
}

/// A line of the column on the right.
enum Line {
    /// A heading.
    Head(String),
    /// A corner: letter, across, up.
    Corner(String, String, String),
    /// A thing to do, with a box to tick.
    Do(String),
    /// Words.
    Words(String),
    /// Words in red.
    Red(String),
    /// A step of arithmetic.
    Step(String),
    /// A little room.
    Gap,
}

/// The card, and more pages where one is full.
fn card(part: &Part, system: System) -> Vec<Page> {
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
            "{} · blank {} x {}{times} · {} each",
            part.stuff,
            both(&part.w, system),
            both(&part.h, system),
            part.weighs
        ),
    );
    page.say(
        12.0,
        31.0,
        4.0,
        true,
        format!("Seen here: {}", part.way.face),
    );
    let f = Frame::fit(part.w.value, part.h.value, 30.0, 46.0, 150.0, 122.0);
    page.shape(f.rings(&part.outline), Some(PLY), Some(BOLD));
    grain(&mut page, part, &f);
    dimensions(&mut page, part, &f, system);
    corners(&mut page, part, &f);
    sides(&mut page, part, &f);
    bevels(&mut page, part, &f);
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
    flow(page, part, column(part, system))
}

/// Edges that may be sawn with the saw tilted, and by how much.
fn bevels(page: &mut Page, part: &Part, f: &Frame) {
    let pen = Pen {
        dashed: true,
        ..BOLD
    };
    for b in &part.bevels {
        for pair in b.along.windows(2) {
            page.line(f.at(pair[0]), f.at(pair[1]), pen);
        }
        let pairs: Vec<_> = b.along.windows(2).collect();
        let Some([p, q]) = pairs.get(pairs.len() / 2) else {
            continue;
        };
        let at = [(p[0] + q[0]) / 2.0, (p[1] + q[1]) / 2.0];
        let middle = f.at([part.w.value / 2.0, part.h.value / 2.0]);
        let (x, y) = f.at(at);
        let towards = |v: f64, m: f64| v + (m - v).signum() * (m - v).abs().min(5.0);
        let at = (towards(x, middle.0), towards(y, middle.1));
        page.figure(at.0, at.1, 3.0, false, format!("{:.0}°", b.deg));
    }
}

/// What lies along each edge, and the vehicle's centre line.
fn sides(page: &mut Page, part: &Part, f: &Frame) {
    let (w, h) = (part.w.value, part.h.value);
    let way = &part.way;
    for (at, upright, words) in [
        (f.at([w / 2.0, h]), false, &way.top),
        (f.at([w / 2.0, 0.0]), false, &way.bottom),
        (f.at([0.0, h / 2.0]), true, &way.left),
        (f.at([w, h / 2.0]), true, &way.right),
    ] {
        let middle = f.at([w / 2.0, h / 2.0]);
        // Outside the edge, between it and the dimension lines.
        let at = if upright {
            (at.0 + if at.0 < middle.0 { -3.0 } else { 4.0 }, at.1)
        } else {
            (at.0, at.1 + if at.1 < middle.1 { -2.0 } else { 4.5 })
        };
        if !words.is_empty() {
            page.figure(at.0, at.1, 3.0, upright, words.clone());
            page.tint(SOFT);
        }
    }
    if let Some([a, b]) = way.centre {
        let pen = Pen {
            colour: RED,
            dashed: true,
            ..THIN
        };
        page.line(f.at(a), f.at(b), pen);
        let at = f.at(b);
        page.say(at.0 + 1.5, at.1 - 1.5, 3.0, false, "centre line");
        page.tint(RED);
    }
}

/// Puts the column's lines on the card, and what does not go on it on further pages.
fn flow(first: Page, part: &Part, lines: Vec<Line>) -> Vec<Page> {
    const TOP: f64 = 18.0;
    const LOW: f64 = 194.0;
    let mut pages = vec![first];
    let (mut x, mut y) = (TABLE, TOP);
    for line in lines {
        let (size, bold, indent, down) = match &line {
            Line::Head(_) => (4.2, true, 0.0, 6.0),
            Line::Corner(..) => (2.9, false, 0.0, 4.8),
            Line::Do(_) => (3.4, false, 5.0, 5.0),
            Line::Words(_) | Line::Red(_) => (3.3, false, 0.0, 4.8),
            Line::Step(_) => (3.1, false, 2.0, 4.2),
            Line::Gap => {
                y += 3.0;
                continue;
            }
        };
        let words = match &line {
            Line::Head(w) | Line::Do(w) | Line::Words(w) | Line::Red(w) | Line::Step(w) => {
                wrap(w, size, 80.0 - indent)
            }
            _ => vec![String::new()],
        };
        if y + down * words.len() as f64 > LOW {
            // The next column of a page of its own, or another page.
            let own = pages.len() > 1;
            if own && x + 90.0 < 220.0 {
                x += 92.0;
            } else {
                let mut page = Page::a4(format!("{} {}, continued", part.mark, part.name));
                page.say(
                    12.0,
                    18.0,
                    6.0,
                    true,
                    format!("{} · {}, continued", part.mark, part.name),
                );
                pages.push(page);
                x = 12.0;
            }
            y = if pages.len() > 1 { TOP + 10.0 } else { TOP };
        }
        let Some(page) = pages.last_mut() else { break };
        if let Line::Corner(letter, across, up) = &line {
            page.say(x, y, 3.4, true, letter.clone());
            for (dx, figure) in [(9.0, across), (47.0, up)] {
                page.items.push(crate::page::Item::Text(crate::page::Text {
                    at: (x + dx, y),
                    size,
                    words: figure.clone(),
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
            page.line((x, y + 1.3), (x + 84.0, y + 1.3), pen);
            y += down;
            continue;
        }
        for (i, words) in words.into_iter().enumerate() {
            if i == 0 && matches!(line, Line::Do(_)) {
                page.rect(x, y - 2.6, 2.6, 2.6, None, Some(THIN));
            }
            page.say(x + indent, y, size, bold, words);
            match line {
                Line::Red(_) => page.tint(RED),
                Line::Step(_) => page.tint(SOFT),
                _ => {}
            }
            y += down;
        }
    }
    pages
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
    // Where screws go: a cross smaller than those of the reliefs.
    for at in part.screws.iter().flat_map(|r| &r.at) {
        let (x, y) = f.at(*at);
        page.line((x - 0.9, y), (x + 0.9, y), THIN);
        page.line((x, y - 0.9), (x, y + 0.9), THIN);
    }
    // What is bored from the face and does not go through: a broken ring.
    for bore in part.features.iter().filter(|p| p.kind == "bore") {
        let r = bore.diameter.as_ref().map_or(0.0, |d| d.value) / 2.0;
        for piece in broken(bore.at, r) {
            page.line(f.at(piece[0]), f.at(piece[1]), THIN);
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

/// Every other of the short lines that make a ring.
fn broken(at: [f64; 2], r: f64) -> impl Iterator<Item = [[f64; 2]; 2]> {
    /// So many make a turn.
    const TURN: u32 = 24;
    let on = move |i: u32| {
        let (s, c) = (std::f64::consts::TAU * f64::from(i) / f64::from(TURN)).sin_cos();
        [at[0] + r * c, at[1] + r * s]
    };
    (0..TURN / 2).map(move |i| [on(2 * i), on(2 * i + 1)])
}

/// The table of corners, the holes, what is done then, and why.
fn column(part: &Part, system: System) -> Vec<Line> {
    let mut out = vec![Line::Head("Corners from the red mark: across, up".into())];
    let corner = |c: &jigfit_core::parts::Corner| {
        Line::Corner(c.letter.clone(), both(&c.u, system), both(&c.v, system))
    };
    out.extend(part.corners.iter().map(corner));
    out.push(Line::Gap);
    let (reliefs, listed): (Vec<_>, Vec<_>) =
        part.features.iter().partition(|f| f.kind == "relief");
    if !listed.is_empty() {
        out.push(Line::Head("Hole centres: across, up".into()));
        for f in listed {
            let size = match (&f.diameter, &f.size) {
                (Some(d), _) => format!("diameter {}", both(d, system)),
                (None, Some((w, h))) => format!("{} x {}", both(w, system), both(h, system)),
                _ => String::new(),
            };
            let (u, v) = (&f.centre.0, &f.centre.1);
            out.push(Line::Corner("+".into(), both(u, system), both(v, system)));
            out.push(Line::Step(format!("{}, {size}", f.kind)));
        }
        out.push(Line::Gap);
    }
    if !part.screws.is_empty() {
        out.push(Line::Head("Screws, from the red mark".into()));
        out.extend(part.screws.iter().map(|r| Line::Step(r.words.clone())));
        out.push(Line::Gap);
    }
    if let Some(d) = reliefs.first().and_then(|f| f.diameter.as_ref()) {
        out.push(Line::Red(format!(
            "{} reliefs diameter {} at the red crosses",
            reliefs.len(),
            one(d, system)
        )));
        out.push(Line::Gap);
    }
    out.push(Line::Head("Then".into()));
    out.extend(part.then.iter().cloned().map(Line::Do));
    if !part.places.is_empty() {
        out.push(Line::Gap);
        out.push(Line::Head("Where".into()));
        out.extend(part.places.iter().cloned().map(Line::Do));
    }
    for why in &part.why {
        out.push(Line::Gap);
        out.push(Line::Words(format!(
            "{} {}",
            one(&why.total, system),
            why.about
        )));
        for step in &why.steps {
            let figure = step
                .figure
                .as_ref()
                .map_or(String::new(), |v| format!("{} ", one(v, system)));
            out.push(Line::Step(format!("{} {figure}{}", step.op, step.label)));
        }
    }
    out
}
