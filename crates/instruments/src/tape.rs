//! A tape measure, a laser and a level as they are: what they say of a true length.

use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use rand_distr::{Distribution, Normal};

/// A sixteenth of an inch, mm.
pub const SIXTEENTH: f64 = 25.4 / 16.0;

/// How an instrument errs. All in mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Errors {
    /// Standard deviation of one reading.
    pub noise: f64,
    /// Smallest step it is read to: 0.1 mm, 1 mm, or a sixteenth of an inch (1.5875).
    pub step: f64,
    /// A loose hook: pulled it reads this much short, pushed this much long.
    pub hook: f64,
    /// Sag of an unsupported tape: it reads long by this times the cube of its length, per mm2. The
    /// textbook correction is `w^2 L^3 / 24 T^2` for a weight `w` per length and a pull `T`.
    pub sag: f64,
    /// Chance of reading the neighbouring inch or centimetre.
    pub misread: f64,
}

impl Errors {
    /// Nothing but normal noise.
    pub fn noise(sd: f64) -> Self {
        Errors {
            noise: sd,
            step: 0.1,
            hook: 0.0,
            sag: 0.0,
            misread: 0.0,
        }
    }

    /// A steel tape read to the millimetre, with a hook that has seen some use.
    pub fn tape() -> Self {
        Errors {
            noise: 0.8,
            step: 1.0,
            hook: 0.5,
            sag: 4e-11,
            misread: 0.01,
        }
    }

    /// The same read to the nearest sixteenth of an inch.
    pub fn inches() -> Self {
        Errors {
            step: SIXTEENTH,
            misread: 0.0,
            ..Errors::tape()
        }
    }

    /// Standard deviation of one reading by all that is not a slip: noise, the step it is read to
    /// (evenly spread over it), and a hook of which nobody knows the sign.
    pub fn sd(&self) -> f64 {
        self.noise
            .hypot(self.step / 12.0_f64.sqrt())
            .hypot(self.hook)
    }

    /// A laser distance meter.
    pub fn laser() -> Self {
        Errors {
            noise: 1.0,
            step: 1.0,
            ..Errors::noise(1.0)
        }
    }

    /// A digital level on a 600 mm beam, in mm of rise per metre (0.05 degrees is 0.9 mm).
    pub fn level() -> Self {
        Errors {
            noise: 0.9,
            step: 0.1,
            ..Errors::noise(0.9)
        }
    }

    /// What the instrument says of `truth`. `pushed`: the hook is pushed against a face, not pulled
    /// over an edge. The `n`-th reading of a survey has its own stream of chance.
    pub fn read(&self, truth: f64, pushed: bool, seed: u64, n: u64) -> f64 {
        let mut rng = stream(seed, n);
        let normal = Normal::new(0.0, self.noise.max(0.0)).map_or(0.0, |d| d.sample(&mut rng));
        let hook = if pushed { self.hook } else { -self.hook };
        let sag = self.sag * truth.abs().powi(3);
        let slip = if rng.random::<f64>() < self.misread {
            if rng.random::<bool>() { 25.4 } else { -25.4 }
        } else {
            0.0
        };
        let says = truth + normal + hook + sag + slip;
        (says / self.step).round() * self.step
    }
}

/// Chance for the `n`-th reading: independent of how many were taken before.
pub fn stream(seed: u64, n: u64) -> ChaCha8Rng {
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    rng.set_stream(n);
    rng
}
