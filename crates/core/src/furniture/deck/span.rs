//! How a deck bends between its supports, and how many supports that asks for.

use crate::mechanics::beam::{Beam, Bent, Load};
use crate::project::Project;
use crate::project::deck::{Deck, Top};
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

/// Who loads the deck most.
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

/// The deck's answer to its sleepers.
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
    /// Within both limits of the deck.
    pub fn ok(&self, deck: &Deck) -> bool {
        self.sleepers
            .span_over
            .is_none_or(|s| s >= deck.limits.span_over)
            && self.knee.max_deflection <= deck.limits.knee
    }
}

/// The sag over `runs` of spans; a run is what one board bridges without a joint.
pub fn sag(deck: &Deck, e: f64, runs: &[Vec<f64>], burden: &Burden) -> Option<Sag> {
    let share = match deck.top {
        Top::Solid => 1.0,
        Top::Slats => deck.slat_width / (deck.slat_width + deck.slat_gap),
    };
    let knee_width = match deck.top {
        Top::Solid => KNEE_WIDTH,
        Top::Slats => deck.slat_width,
    };
    let mut worst: Option<Sag> = None;
    for spans in runs {
        let total: f64 = spans.iter().sum();
        let beam = |width: f64, loads: Vec<Load>| Beam {
            spans: spans.clone(),
            width,
            depth: deck.thickness,
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
pub fn spans_needed(deck: &Deck, e: f64, length: f64, burden: &Burden) -> usize {
    (1..=MAX_SPANS)
        .find(|n| {
            let spans = vec![length / *n as f64; *n];
            sag(deck, e, &[spans], burden).is_some_and(|s| s.ok(deck))
        })
        .unwrap_or(MAX_SPANS)
}
