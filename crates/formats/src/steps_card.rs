//! How each piece is put together, four steps to a page: what is there, what comes, what holds it.

use std::collections::BTreeSet;

use jigfit_core::assembly::{Assembly, AssemblyStep};
use jigfit_core::plan::Plan;
use jigfit_core::project::Project;

use crate::draw::{Frame, foot};
use crate::font::wrap;
use crate::page::{BOLD, HAIR, Item, PLY, Page, Pen, THIN};

/// Steps on a page, and how many of them side by side.
const STEPS: usize = 4;
const ACROSS: usize = 2;
/// A step's room on the page, mm.
const ROOM: (f64, f64) = (134.0, 84.0);
/// Its drawing's, mm.
const DRAWING: (f64, f64) = (74.0, 78.0);
/// Lines of words that go beside it.
const LINES: usize = 14;

/// All steps of all pieces.
pub fn pages(project: &Project, plan: &Plan) -> Vec<Page> {
    let mut pages: Vec<Page> = plan.assembly.iter().flat_map(piece).collect();
    let of = pages.len();
    for (i, page) in pages.iter_mut().enumerate() {
        foot(page, &project.name, i + 1, of);
    }
    let paper = project.units.paper;
    pages.into_iter().map(|p| p.on(paper)).collect()
}

fn piece(a: &Assembly) -> Vec<Page> {
    let numbered: Vec<(usize, &AssemblyStep)> = a.steps.iter().enumerate().collect();
    let each = numbered.chunks(STEPS).map(|steps| {
        let mut page = Page::a4(format!("{}: put together", a.name));
        page.say(12.0, 18.0, 7.0, true, format!("Put together: {}", a.name));
        for (k, (n, step)) in steps.iter().enumerate() {
            let left = 12.0 + (k % ACROSS) as f64 * (ROOM.0 + 5.0);
            let top = 24.0 + (k / ACROSS) as f64 * (ROOM.1 + 4.0);
            page.rect(
                left,
                top,
                ROOM.0,
                ROOM.1,
                None,
                Some(Pen {
                    colour: HAIR,
                    ..THIN
                }),
            );
            draw(&mut page, a, *n, (left + 2.0, top + 3.0));
            tell(&mut page, *n, step, (left + DRAWING.0 + 4.0, top + 8.0));
        }
        page
    });
    each.collect()
}

/// What is there of what moves as one, the furthest first; what comes now is bold, and seen through what lies before it.
fn draw(page: &mut Page, a: &Assembly, n: usize, (left, top): (f64, f64)) {
    let Some(step) = a.steps.get(n) else {
        return;
    };
    let [low, high] = a.frame;
    let (w, h) = ((high[0] - low[0]).max(1.0), (high[1] - low[1]).max(1.0));
    let f = Frame::fit(w, h, left, top, DRAWING.0, DRAWING.1);
    let at = |p: [f64; 2]| f.at([p[0] - low[0], p[1] - low[1]]);
    let there: BTreeSet<&String> = a.steps[..=n]
        .iter()
        .filter(|s| s.body == step.body)
        .flat_map(|s| &s.boards)
        .collect();
    let now: BTreeSet<&String> = step.boards.iter().collect();
    for through in [false, true] {
        for d in a.drawn.iter().filter(|d| there.contains(&d.board)) {
            let comes = now.contains(&d.board);
            if through && !comes {
                continue;
            }
            for face in &d.faces {
                let rings = std::iter::once(&face.outer).chain(&face.holes);
                page.items.push(Item::Shape {
                    rings: rings.map(|r| r.iter().map(|p| at(*p)).collect()).collect(),
                    closed: true,
                    fill: match (through, comes) {
                        (true, _) => None,
                        (false, true) => Some(PLY),
                        (false, false) => Some((255, 255, 255)),
                    },
                    pen: Some(match (through, comes) {
                        (true, _) => Pen {
                            dashed: true,
                            ..THIN
                        },
                        (false, true) => BOLD,
                        (false, false) => THIN,
                    }),
                });
            }
        }
    }
    for d in a.drawn.iter().filter(|d| now.contains(&d.board)) {
        let (x, y) = at(d.at);
        page.figure(x, y, 3.2, false, d.mark.clone());
    }
}

/// What is done, what holds it, who.
fn tell(page: &mut Page, n: usize, step: &AssemblyStep, (left, top): (f64, f64)) {
    let wide = ROOM.0 - DRAWING.0 - 6.0;
    let mut y = top;
    let mut left_over = LINES;
    let mut say = |words: &str, bold: bool| {
        // Bold letters are a little wider.
        for line in wrap(words, 3.6, if bold { 0.92 * wide } else { wide }) {
            if left_over == 0 {
                return;
            }
            left_over -= 1;
            page.say(left, y, 3.6, bold, line);
            y += 4.8;
        }
    };
    say(&format!("{}. {}", n + 1, step.words), true);
    for h in &step.holds {
        say(h, false);
    }
    for t in &step.tools {
        say(t, false);
    }
    if step.persons > 1 {
        say("by two", false);
    }
    if step.comes_apart && !step.holds.is_empty() {
        say("comes apart again", false);
    }
}
