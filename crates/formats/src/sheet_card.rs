//! One page for each sheet: parts, cuts in order, offcuts.

use jigfit_core::cutting::sheets::{SheetGroup, SheetView};
use jigfit_core::plan::Plan;
use jigfit_core::project::Project;
use jigfit_core::units::figure::System;

use crate::draw::{Frame, both, dimension, foot, one};
use crate::font::wrap;
use crate::page::{BOLD, PLY, Page, Pen, RED, SOFT, THIN};

/// All sheet layouts.
pub fn pages(project: &Project, plan: &Plan) -> Vec<Page> {
    let system = project.units.system;
    let mut pages: Vec<Page> = plan
        .sheets
        .iter()
        .flat_map(|g| g.sheets.iter().map(move |s| (g, s)))
        .flat_map(|(g, s)| card(g, s, project, system))
        .collect();
    let of = pages.len();
    for (i, page) in pages.iter_mut().enumerate() {
        foot(page, &project.name, i + 1, of);
    }
    let paper = project.units.paper;
    pages.into_iter().map(|p| p.on(paper)).collect()
}

/// The layout, and more pages where its cuts fill one.
fn card(g: &SheetGroup, s: &SheetView, project: &Project, system: System) -> Vec<Page> {
    let mut page = Page::a4(format!("{} {}", s.mark, g.stuff));
    page.say(12.0, 18.0, 8.0, true, format!("{} · {}", s.mark, g.stuff));
    page.say(
        12.0,
        25.0,
        4.0,
        false,
        format!(
            "sheet {} x {} · kerf {} mm · {} mm trimmed off every edge first",
            both(&s.w, system),
            both(&s.h, system),
            project.cutting.kerf,
            project.cutting.trim
        ),
    );
    let f = Frame::fit(s.w.value, s.h.value, 24.0, 36.0, 170.0, 140.0);
    let rect = |x: f64, y: f64, w: f64, h: f64| {
        let (left, top) = f.at([x, y + h]);
        (left, top, w * f.scale, h * f.scale)
    };
    let (x, y, w, h) = rect(0.0, 0.0, s.w.value, s.h.value);
    page.rect(x, y, w, h, Some((255, 255, 255)), Some(BOLD));
    for p in &s.parts {
        let (x, y, w, h) = rect(p.x, p.y, p.w, p.h);
        page.rect(x, y, w, h, Some(PLY), Some(THIN));
        let turned = if p.rotated { ", turned" } else { "" };
        if w.max(h) > 14.0 {
            let upright = h > w;
            let size = w.min(h).clamp(2.2, 6.0) * 0.8;
            page.figure(
                x + w / 2.0,
                y + h / 2.0 + if upright { 0.0 } else { size * 0.35 },
                size,
                upright,
                format!("{}{turned}", p.mark),
            );
        }
    }
    for o in &s.offcuts {
        let (x, y, w, h) = rect(o.x, o.y, o.w.value, o.h.value);
        let pen = Pen {
            colour: SOFT,
            dashed: true,
            ..THIN
        };
        page.rect(x, y, w, h, None, Some(pen));
        if w > 12.0 && h > 4.0 {
            page.figure(x + w / 2.0, y + h / 2.0 + 1.0, 2.8, false, o.mark.clone());
        }
    }
    cut_lines(&mut page, s, &f);
    let (left, bottom) = f.at([0.0, 0.0]);
    let (right, top) = f.at([s.w.value, s.h.value]);
    dimension(
        &mut page,
        (left, bottom + 9.0),
        (right, bottom + 9.0),
        &one(&s.w, system),
    );
    dimension(
        &mut page,
        (left - 9.0, bottom),
        (left - 9.0, top),
        &one(&s.h, system),
    );
    column(page, s, system)
}

/// Each cut as a red line with its number at its start.
fn cut_lines(page: &mut Page, s: &SheetView, f: &Frame) {
    let pen = Pen {
        colour: RED,
        width: 0.45,
        dashed: false,
    };
    for c in &s.cuts {
        let at = c.at.value;
        let (a, b) = if c.axis == "x" {
            (f.at([at, c.from]), f.at([at, c.to]))
        } else {
            (f.at([c.from, at]), f.at([c.to, at]))
        };
        page.line(a, b, pen);
        let (x, y) = if c.axis == "x" {
            (a.0, a.1 - 4.0)
        } else {
            (a.0 + 4.0, a.1)
        };
        page.rect(
            x - 2.2,
            y - 1.9,
            4.4,
            3.8,
            Some((255, 255, 255)),
            Some(Pen { width: 0.25, ..pen }),
        );
        page.figure(x, y + 1.1, 3.0, false, c.n.to_string());
        page.tint(RED);
    }
}

fn column(first: Page, s: &SheetView, system: System) -> Vec<Page> {
    const X: f64 = 206.0;
    const TOP: f64 = 18.0;
    const LOW: f64 = 190.0;
    let cuts = s
        .cuts
        .iter()
        .map(|c| (true, format!("{}. {}", c.n, c.text)));
    let trims = s.first.iter().map(|words| (true, words.clone()));
    let cuts = trims.chain(cuts);
    let kept = s.offcuts.iter().map(|o| {
        let (w, h) = (both(&o.w, system), both(&o.h, system));
        (false, format!("keep {}: {w} x {h}", o.mark))
    });
    let mut pages = vec![first];
    let (mut x, mut y) = (X, TOP);
    if let Some(page) = pages.last_mut() {
        page.say(x, y, 4.2, true, "Cuts in order");
    }
    for (tick, words) in cuts.chain(kept) {
        let lines = wrap(&words, 3.3, 74.0);
        if y + 4.6 * lines.len() as f64 > LOW {
            if pages.len() > 1 && x + 92.0 < 220.0 {
                x += 92.0;
            } else {
                let mut page = Page::a4(format!("{}, continued", s.mark));
                page.say(12.0, TOP, 6.0, true, format!("{}, cuts continued", s.mark));
                pages.push(page);
                x = 12.0;
            }
            y = TOP + 6.0;
        }
        let Some(page) = pages.last_mut() else { break };
        for (i, words) in lines.into_iter().enumerate() {
            y += 4.6;
            if i == 0 && tick {
                page.rect(x, y - 2.5, 2.5, 2.5, None, Some(THIN));
            }
            page.say(x + 5.0, y, 3.3, false, words);
        }
    }
    pages
}
