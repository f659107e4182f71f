//! What part cards and sheet layouts share: scale, dimension lines, footers.

use jigfit_core::geometry::region::Region;
use jigfit_core::units::figure::{Figure, System};

use crate::page::{Page, SOFT, THIN};

/// A drawing in mm of the real thing on a page in mm of paper, y up to y down.
#[derive(Debug, Clone, Copy)]
pub struct Frame {
    /// Paper mm for one real mm.
    pub scale: f64,
    /// Paper place of the real origin.
    pub origin: (f64, f64),
}

impl Frame {
    /// Fits `w` x `h` real mm into a box on the page, at its top and in its middle.
    pub fn fit(w: f64, h: f64, x: f64, y: f64, bw: f64, bh: f64) -> Frame {
        let scale = (bw / w).min(bh / h);
        let left = x + (bw - w * scale) / 2.0;
        let bottom = y + h * scale;
        Frame {
            scale,
            origin: (left, bottom),
        }
    }

    /// Place on the page.
    pub fn at(&self, p: [f64; 2]) -> (f64, f64) {
        (
            self.origin.0 + p[0] * self.scale,
            self.origin.1 - p[1] * self.scale,
        )
    }

    /// A region as rings on the page.
    pub fn rings(&self, r: &Region) -> Vec<Vec<(f64, f64)>> {
        std::iter::once(&r.outer)
            .chain(&r.holes)
            .map(|ring| ring.iter().map(|p| self.at(*p)).collect())
            .collect()
    }
}

/// A figure in the project's system, the other in brackets.
pub fn both(f: &Figure, system: System) -> String {
    match system {
        System::Mm => format!("{} ({} in)", f.mm, f.inch),
        System::In => format!("{} in ({})", f.inch, f.mm),
    }
}

/// A figure in the project's system.
pub fn one(f: &Figure, system: System) -> String {
    match system {
        System::Mm => f.mm.clone(),
        System::In => format!("{}\"", f.inch),
    }
}

/// A dimension line with ticks; the figure in the middle, reading upwards where it runs upwards.
pub fn dimension(page: &mut Page, a: (f64, f64), b: (f64, f64), words: &str) {
    page.line(a, b, THIN);
    for p in [a, b] {
        page.line((p.0 - 1.0, p.1 + 1.0), (p.0 + 1.0, p.1 - 1.0), THIN);
    }
    let middle = ((a.0 + b.0) / 2.0, (a.1 + b.1) / 2.0);
    let half = words.chars().count() as f64 * 1.05 + 0.8;
    let white = Some((255, 255, 255));
    if (a.0 - b.0).abs() < (a.1 - b.1).abs() {
        page.rect(
            middle.0 - 1.8,
            middle.1 - half,
            3.6,
            2.0 * half,
            white,
            None,
        );
        page.figure(middle.0 + 1.2, middle.1, 3.4, true, words);
    } else {
        page.rect(
            middle.0 - half,
            middle.1 - 1.8,
            2.0 * half,
            3.6,
            white,
            None,
        );
        page.figure(middle.0, middle.1 + 1.2, 3.4, false, words);
    }
}

/// Project name and a word of care at the foot of a page.
pub fn foot(page: &mut Page, project: &str, number: usize, of: usize) {
    let y = page.h - 7.0;
    page.say(
        12.0,
        y,
        3.0,
        false,
        format!(
            "{project} · page {number} of {of} · made by Jig Fit · check against the vehicle before you cut; good face up"
        ),
    );
    page.tint(SOFT);
}
