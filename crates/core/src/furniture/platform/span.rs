//! How a platform bends between its supports, and how many supports that asks for.

use super::{Limits, Surface};
use crate::mechanics::beam::{Beam, Bent, Load};
use crate::project::Project;
use crate::units::GRAVITY;

/// Body mass where none is given, kg (a choice).
pub const DEFAULT_MASS: f64 = 80.0;
/// Stature where none is given, mm (a choice).
const DEFAULT_STATURE: f64 = 1750.0;
/// Width of board that carries one sleeper, mm (a choice: about shoulder and arm).
pub const SLEEPER_WIDTH: f64 = 600.0;
/// Width of board that carries one knee, mm (a choice).
pub const KNEE_WIDTH: f64 = 400.0;
/// Most spans tried.
const MAX_SPANS: usize = 12;

/// Who loads a platform most.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Burden {
    /// Body mass, kg.
    pub mass: f64,
    /// Load along the body, N/mm.
    pub q: f64,
    /// The whole body on one knee, N.
    pub knee: f64,
}

/// The heaviest loading among the people, or a default body.
pub fn burden(project: &Project) -> Burden {
    let bodies = project.people.values().map(|p| {
        (
            p.mass.unwrap_or(DEFAULT_MASS),
            p.stature.unwrap_or(DEFAULT_STATURE),
        )
    });
    let (mass, q) = bodies
        .map(|(m, s)| (m, m * GRAVITY / s))
        .fold(None, |best: Option<(f64, f64)>, b| {
            Some(best.map_or(b, |a| (a.0.max(b.0), a.1.max(b.1))))
        })
        .unwrap_or((DEFAULT_MASS, DEFAULT_MASS * GRAVITY / DEFAULT_STATURE));
    Burden {
        mass,
        q,
        knee: mass * GRAVITY,
    }
}

/// A platform's answer to its sleepers.
#[derive(Debug, Clone, PartialEq)]
pub struct Sag {
    /// Sleepers lying on it.
    pub sleepers: Bent,
    /// One knee in the middle of the worst span.
    pub knee: Bent,
    /// The longest span, mm.
    pub span: f64,
}

impl Sag {
    /// Within both limits.
    pub fn ok(&self, limits: &Limits) -> bool {
        self.sleepers
            .span_over
            .is_none_or(|s| s >= limits.span_over)
            && self.knee.max_deflection <= limits.knee
    }
}

/// The sag over `runs` of spans; a run is what one board bridges without a joint.
pub fn sag(on: &Surface, e: f64, runs: &[Vec<f64>], burden: &Burden) -> Option<Sag> {
    let share = on.slats.map_or(1.0, |s| s.share());
    let knee_width = on.slats.map_or(KNEE_WIDTH, |s| s.width);
    let mut worst: Option<Sag> = None;
    for spans in runs {
        let total: f64 = spans.iter().sum();
        let beam = |width: f64, loads: Vec<Load>| Beam {
            spans: spans.clone(),
            width,
            depth: on.thickness,
            e,
            loads,
        };
        let lying = beam(
            SLEEPER_WIDTH * share,
            vec![Load::Uniform {
                q: burden.q,
                from: 0.0,
                to: total,
            }],
        )
        .bend()?;
        let mut at = 0.0;
        let mut knee: Option<Bent> = None;
        for span in spans {
            let bent = beam(
                knee_width,
                vec![Load::Point {
                    n: burden.knee,
                    at: at + span / 2.0,
                }],
            )
            .bend()?;
            if knee
                .as_ref()
                .is_none_or(|k| bent.max_deflection > k.max_deflection)
            {
                knee = Some(bent);
            }
            at += span;
        }
        let this = Sag {
            sleepers: lying,
            knee: knee?,
            span: spans.iter().copied().fold(0.0, f64::max),
        };
        worst = Some(match worst {
            None => this,
            Some(w) => Sag {
                sleepers: worse(w.sleepers, this.sleepers),
                knee: worse(w.knee, this.knee),
                span: w.span.max(this.span),
            },
        });
    }
    worst
}

fn worse(a: Bent, b: Bent) -> Bent {
    if b.max_deflection > a.max_deflection {
        b
    } else {
        a
    }
}

/// The fewest equal spans over `length` that keep the sag within the limits.
pub fn spans_needed(on: &Surface, e: f64, length: f64, burden: &Burden) -> usize {
    (1..=MAX_SPANS)
        .find(|n| {
            let spans = vec![length / *n as f64; *n];
            sag(on, e, &[spans], burden).is_some_and(|s| s.ok(&on.limits))
        })
        .unwrap_or(MAX_SPANS)
}

/// Spans between lines, cut into runs where a joint lies over a support.
pub fn runs(lines: &[f64], joints: &[f64]) -> Vec<Vec<f64>> {
    let mut out = vec![vec![]];
    for pair in lines.windows(2) {
        if let Some(run) = out.last_mut() {
            run.push(pair[1] - pair[0]);
        }
        if joints.iter().any(|j| (j - pair[1]).abs() < 1.0) {
            out.push(vec![]);
        }
    }
    out.retain(|r: &Vec<f64>| !r.is_empty());
    out
}
