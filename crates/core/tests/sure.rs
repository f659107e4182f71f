//! How sure captured curves are, how far their readings lie off, and corners that a person marked.

use crate::common::*;
use jigfit_core::curves::capture::{Captured, Corners, Ordinate, Ordinates, Side, capture as take};
use jigfit_core::curves::sure::band;
use jigfit_core::curves::view::TemplateView;
use jigfit_core::geometry::{Point, interpolate};
use jigfit_core::plan::Plan;
use rand::SeedableRng;
use rand_distr::{Distribution, Normal};
use rstest::rstest;
use serde_json::{Value, json};

fn captured(template: Value) -> TemplateView {
    let mut doc = bare();
    doc["templates"] = json!({"c": template});
    plan(&doc).templates.remove(0)
}

/// Depths with noise of a surface over a straight edge along x.
fn depths(of: impl Fn(f64) -> f64, at: &[f64], sd: f64, seed: u64) -> Vec<Ordinate> {
    let mut rng = rand_chacha::ChaCha8Rng::seed_from_u64(seed);
    let noise = Normal::new(0.0, sd).unwrap();
    let one = |x: &f64| Ordinate {
        at: *x,
        depth: of(*x) + noise.sample(&mut rng),
    };
    at.iter().map(one).collect()
}

fn over(readings: Vec<Ordinate>, sd: f64, marked: &[usize]) -> Captured {
    let way = Ordinates {
        base: [[0.0, 0.0], [1200.0, 0.0]],
        readings,
        surface: Side::Left,
        tip_radius: 0.0,
    };
    take(&way, sd, Corners::Keep, marked).unwrap()
}

fn height(edge: &[Point], x: f64) -> f64 {
    let line: Vec<(f64, f64)> = edge.iter().map(|p| (p[0], p[1])).collect();
    interpolate(&line, x).unwrap()
}

/// Two straight lines that turn by nine degrees: too little to be taken for a corner among noise. Unmarked it is rounded;
/// marked the curve has its corner within the noise, and no reading beside it is blamed.
#[test]
fn a_marked_corner_stays() {
    let slope = 9.0_f64.to_radians().tan();
    let wall = |x: f64| 60.0 + slope * (x - 600.0).max(0.0);
    let at: Vec<f64> = (0..=20).map(|i| f64::from(i) * 60.0).collect();
    let [rounded, kept] = [&[][..], &[10]].map(|marked| {
        let each = (0..30).map(|seed| {
            let c = over(depths(wall, &at, 0.5, seed), 0.5, marked);
            if !marked.is_empty() {
                assert_eq!(c.misfit, None, "{seed}");
            }
            let near = (-6..=6).map(|k| 600.0 + f64::from(k) * 5.0);
            near.map(|x| (height(&c.edge, x) - wall(x)).abs())
                .fold(0.0, f64::max)
        });
        each.sum::<f64>() / 30.0
    });
    assert!(kept < 0.6 && rounded > 2.0 * kept, "{rounded} {kept}");
}

/// A wave with half a millimetre of noise every 60 mm: the band holds the truth at about nineteen places in twenty, and is
/// wider where readings are further apart.
#[test]
fn the_band_holds_the_truth() {
    let wall = |x: f64| 80.0 + 14.0 * (x / 190.0).sin();
    let mut at: Vec<f64> = (0..=20).map(|i| f64::from(i) * 60.0).collect();
    // Three readings were left out.
    at.retain(|x| !(700.0..850.0).contains(x));
    let (mut held, mut all) = (0, 0);
    let (mut wide, mut usual) = (0.0, 0.0);
    for seed in 0..40 {
        let c = over(depths(wall, &at, 0.5, seed), 0.5, &[]);
        let parts = band(&c).unwrap();
        for (x, sd) in parts.iter().flatten() {
            all += 1;
            held += usize::from((height(&c.edge, *x) - wall(*x)).abs() <= 2.0 * sd);
        }
        let at = |x: f64| interpolate(&parts[0], x).unwrap();
        wide += at(780.0);
        usual += at(330.0);
    }
    let share = f64::from(held as u32) / f64::from(all);
    assert!((0.90..=0.99).contains(&share), "{share}");
    assert!(wide > 1.5 * usual, "{wide} {usual}");
}

/// One reading of a straight wall was typed 6 mm too deep: it lies that far off what the others say, up in the drawing where the surface
/// lies above its straight edge and down where it lies below.
#[rstest]
#[case("left", 1.0)]
#[case("right", -1.0)]
fn a_reading_lies_off_to_its_side(#[case] surface: &str, #[case] up: f64) {
    let stations: serde_json::Map<String, Value> = (0..12)
        .map(|i| {
            let depth = if i == 5 { 56.0 } else { 50.0 };
            // Typed in another order than they lie.
            (
                format!("s{:02}", (i + 4) % 12),
                json!({"a": 80 * i, "b": depth}),
            )
        })
        .collect();
    let t = captured(
        json!({"name": "c", "way": "ordinates", "apart": 900, "surface": surface, "sd": 0.5, "stations": stations}),
    );
    let sure = t.sure.unwrap();
    let off = sure.off.iter().find(|o| o.id == "s09").unwrap();
    assert!((off.at - 400.0).abs() < 1e-9);
    assert!((up * off.mm - 6.0).abs() < 0.5, "{off:?}");
    assert!((sure.astray.unwrap().value - off.mm.abs()).abs() < 1e-9);
    assert!(sure.furthest.value < 0.5);
    let others = sure.off.iter().filter(|o| o.id != "s09");
    assert!(others.clone().count() == 11 && others.clone().all(|o| o.mm.abs() < off.mm.abs()));
    assert_eq!(t.misfit.as_deref(), Some("s09"));
}

/// Two readings between two corners tell nothing of what lies between; the other parts have their band. An upright curve has
/// none: it would lie under itself.
#[test]
fn where_there_is_no_band() {
    let at: Vec<f64> = (0..10).map(|i| f64::from(i) * 60.0).collect();
    let parts = band(&over(depths(|_| 50.0, &at, 0.5, 1), 0.5, &[4, 5])).unwrap();
    let full: Vec<bool> = parts.iter().map(|p| !p.is_empty()).collect();
    assert_eq!(full, [true, false, true]);
    assert_eq!(
        band(&over(depths(|_| 50.0, &at[..2], 0.5, 1), 0.5, &[])),
        None
    );
    let upright: serde_json::Map<String, Value> = (0..8)
        .map(|i| (format!("s{i}"), json!({"a": 30 + i % 2, "b": 90 * i})))
        .collect();
    let t = captured(json!({"name": "c", "way": "drawn", "sd": 0.5, "stations": upright}));
    assert!(t.wrong.is_none() && t.sure.is_none());
}

/// Marked in the document: told with the reading, kept turned over, and no matter for runs.
#[test]
fn marks_of_corners_are_kept() {
    let stations = json!({"s0": {"a": 0, "b": 50}, "s1": {"a": 300, "b": 50, "corner": true},
        "s2": {"a": 600, "b": 80}, "s3": {"a": 900, "b": 110}});
    let t = captured(json!({"name": "c", "way": "ordinates", "apart": 900, "stations": stations}));
    let marked: Vec<bool> = t.marks.iter().map(|m| m.corner).collect();
    assert_eq!(marked, [false, true, false, false]);
    assert_eq!(
        t.bends.unwrap().corners.len(),
        0,
        "5.7 degrees are no corner to be told"
    );
    assert!((height(&t.edge, 150.0) - 50.0).abs() < 0.05);
    assert!((height(&t.edge, 450.0) - 65.0).abs() < 0.05);
    let mut doc = bare();
    doc["templates"] =
        json!({"c": {"name": "c", "way": "ordinates", "apart": 900, "stations": stations}});
    let stored = serde_json::to_value(project(&doc)).unwrap();
    assert_eq!(
        stored["templates"]["c"]["stations"]["s1"]["corner"],
        json!(true)
    );
    assert!(
        stored["templates"]["c"]["stations"]["s0"]
            .get("corner")
            .is_none()
    );
    let runs = captured(json!({"name": "c", "way": "runs", "stations": {
        "s0": {"a": 300, "angle": 90, "corner": true}, "s1": {"a": 400}}}));
    assert!(runs.wrong.is_none() && runs.marks.iter().all(|m| !m.corner));
}

/// By hand: the readings on either side of the one in doubt say 67 and 70, it says 77.5. Left out by one press, the curve goes
/// between them, and nothing of it is in doubt.
#[test]
fn a_reading_in_doubt_is_left_out_by_one_press() {
    let doc = demo("moth");
    let p = plan(&doc);
    let f = p.findings.iter().find(|f| f.sentence.contains("Reading 8"));
    let f = f.unwrap();
    assert_eq!((f.check.as_str(), f.offers.len()), ("templates", 1));
    let at = |p: &Plan| {
        let curve = p.templates.iter().find(|t| t.id == "left").unwrap();
        let near = curve.edge.iter();
        let near = near.min_by(|a, b| (a[0] - 500.0).abs().total_cmp(&(b[0] - 500.0).abs()));
        near.unwrap()[1]
    };
    assert!(at(&p) > 75.0, "{}", at(&p));
    let then = plan(&after(&doc, &f.offers[0].patch));
    assert!((67.0..70.0).contains(&at(&then)), "{}", at(&then));
    let left = then.findings.iter().filter(|f| f.check == "templates");
    assert!(
        left.clone()
            .all(|f| !f.sentence.contains("off what the others say"))
    );
}
