//! What lies before the camera: a floor with boards in it, a template of card, marker sheets on their paper, and a shadow.

use jigfit_core::geometry::Point;
use jigfit_photo::picture::Picture;
use jigfit_photo::sheet::{FIELDS, SIDE, room};
use rand::Rng;

use super::{Camera, Lies};

/// A shadow with a straight, soft edge.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Cast {
    /// A place on its edge, mm.
    pub at: Point,
    /// The direction into it, radians.
    pub into: f64,
    /// Over how many mm it sets in.
    pub soft: f64,
    /// What is left of the light.
    pub leaves: f64,
}

/// A scene.
#[derive(Debug, Clone, PartialEq)]
pub struct Scene {
    /// Outline of the template, mm.
    pub card: Vec<Point>,
    /// Its colour: light that it gives back, red, green, blue.
    pub card_colour: [f64; 3],
    /// The floor's.
    pub floor_colour: [f64; 3],
    /// How much the floor's boards differ.
    pub grain: f64,
    /// The sheets.
    pub sheets: Vec<Lies>,
    /// A shadow.
    pub shadow: Option<Cast>,
    /// Noise of a pixel, in steps of 255.
    pub noise: f64,
}

/// Half of a sheet of A4, mm.
const PAPER: Point = [105.0, 148.5];
/// Steps of light that are told apart.
const STEPS: f64 = 8192.0;
/// Rows of the template's outline that are looked through for a place.
const BANDS: usize = 400;

struct Bands<'a> {
    card: &'a [Point],
    low: f64,
    step: f64,
    edges: Vec<Vec<usize>>,
}

impl Bands<'_> {
    fn of(card: &[Point]) -> Bands<'_> {
        let low = card.iter().map(|p| p[1]).fold(f64::INFINITY, f64::min);
        let high = card.iter().map(|p| p[1]).fold(f64::NEG_INFINITY, f64::max);
        let step = ((high - low) / BANDS as f64).max(1e-6);
        let mut edges = vec![vec![]; BANDS + 1];
        for i in 0..card.len() {
            let (a, b) = (card[i][1], card[(i + 1) % card.len()][1]);
            let band = |v: f64| (((v - low) / step) as usize).min(BANDS);
            for own in &mut edges[band(a.min(b))..=band(a.max(b))] {
                own.push(i);
            }
        }
        Bands {
            card,
            low,
            step,
            edges,
        }
    }

    fn holds(&self, p: Point) -> bool {
        let band = (p[1] - self.low) / self.step;
        if !(0.0..=BANDS as f64).contains(&band) {
            return false;
        }
        let crossed = self.edges[(band as usize).min(BANDS)].iter().filter(|i| {
            let (a, b) = (self.card[**i], self.card[(**i + 1) % self.card.len()]);
            (a[1] > p[1]) != (b[1] > p[1])
                && p[0] < a[0] + (p[1] - a[1]) / (b[1] - a[1]) * (b[0] - a[0])
        });
        crossed.count() % 2 == 1
    }
}

impl Scene {
    /// The photo that the camera takes.
    pub fn photo(&self, camera: &Camera, rng: &mut impl Rng) -> Picture {
        let [w, h] = camera.size;
        let bands = Bands::of(&self.card);
        let axes = camera.axes();
        let what = |x: f64, y: f64| self.what(&bands, camera.floor_by(&axes, [x, y]));
        let ids: Vec<u8> = (0..w * h)
            .map(|k| what((k % w) as f64 + 0.5, (k / w) as f64 + 0.5))
            .collect();
        let stored: Vec<f64> = (0..=STEPS as usize)
            .map(|i| stored((i as f64 + 0.5) / STEPS))
            .collect();
        let mut grain = rng.random::<u64>();
        let mut rgb = Vec::with_capacity(3 * w * h);
        for y in 0..h {
            for x in 0..w {
                let own = ids[y * w + x];
                let near = |dx: usize, dy: usize| {
                    let (a, b) = ((x + dx).saturating_sub(1), (y + dy).saturating_sub(1));
                    ids[b.min(h - 1) * w + a.min(w - 1)]
                };
                let plain = (0..3).all(|a| (0..3).all(|b| near(a, b) == own));
                let (mut sum, mut n) = ([0.0; 3], 0.0);
                // The lens draws a place over a pixel and a half.
                let fine = if plain { 1 } else { 6 };
                for i in 0..fine {
                    for k in 0..fine {
                        let off = |i: usize| {
                            0.5 + ((i as f64 + 0.5) / f64::from(fine as u32) - 0.5) * 1.5
                        };
                        let at = camera.floor_by(&axes, [x as f64 + off(i), y as f64 + off(k)]);
                        let is = if plain { own } else { self.what(&bands, at) };
                        let light = self.light(is, at);
                        (0..3).for_each(|c| sum[c] += light[c]);
                        n += 1.0;
                    }
                }
                for c in sum {
                    let v = stored[((c / n).clamp(0.0, 1.0) * STEPS) as usize]
                        + self.noise * bell(&mut grain);
                    rgb.push(v.round().clamp(0.0, 255.0) as u8);
                }
            }
        }
        Picture { w, h, rgb }
    }

    /// 0 the floor, 1 the card, 2 paper, 3 ink.
    fn what(&self, bands: &Bands<'_>, at: Point) -> u8 {
        for (n, s) in self.sheets.iter().enumerate() {
            if (at[0] - s.at[0]).abs().max((at[1] - s.at[1]).abs()) > 200.0 {
                continue;
            }
            let p = s.on(at);
            if p[0].abs() < PAPER[0] && p[1].abs() < PAPER[1] {
                let field =
                    [p[0] + SIDE / 2.0, SIDE / 2.0 - p[1]].map(|v| v / SIDE * FIELDS as f64);
                if field.iter().any(|v| !(0.0..FIELDS as f64).contains(v)) {
                    return 2;
                }
                let [column, row] = field.map(|v| v as usize);
                let inner = (1..=3).contains(&row) && (1..=3).contains(&column);
                return 2 + u8::from(!inner || room(n)[row - 1][column - 1]);
            }
        }
        u8::from(bands.holds(at))
    }

    fn light(&self, what: u8, at: Point) -> [f64; 3] {
        let colour = match what {
            1 => self.card_colour,
            2 => [0.80, 0.80, 0.78],
            3 => [0.03, 0.03, 0.03],
            _ => {
                // Boards of 140 mm, each a little different, with some grain.
                let board = (at[1] / 140.0).floor();
                let own = (board * 12.9898).sin() * 43_758.547;
                let by = 1.0
                    + self.grain
                        * ((own - own.floor()) - 0.5
                            + 0.3 * (at[0] / 37.0 + 5.0 * (at[1] / 9.0).sin()).sin());
                self.floor_colour.map(|c| c * by)
            }
        };
        let left = self.shadow.map_or(1.0, |s| {
            let (sin, cos) = s.into.sin_cos();
            let deep = (at[0] - s.at[0]) * cos + (at[1] - s.at[1]) * sin;
            let t = (deep / s.soft.max(1e-6) + 0.5).clamp(0.0, 1.0);
            1.0 - (1.0 - s.leaves) * t * t * (3.0 - 2.0 * t)
        });
        colour.map(|c| c * left)
    }
}

/// A number with a mean of 0 and a standard deviation of 1, nearly normal: four even ones together. A photo takes millions.
fn bell(state: &mut u64) -> f64 {
    // SplitMix64 (Steele, Lea, Flood 2014, from memory).
    *state = state.wrapping_add(0x9e37_79b9_7f4a_7c15);
    let mut z = *state;
    z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
    z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
    z ^= z >> 31;
    let sum: u64 = (0..4).map(|k| (z >> (16 * k)) & 0xffff).sum();
    (sum as f64 / 65_536.0 - 2.0) * 3f64.sqrt()
}

/// Brightness as a camera stores light (IEC 61966-2-1, from memory).
fn stored(light: f64) -> f64 {
    255.0
        * match light <= 0.003_130_8 {
            true => 12.92 * light,
            false => 1.055 * light.powf(1.0 / 2.4) - 0.055,
        }
}
