//! What the supports of a bed carry: beams over their supports from handbook coefficients, posts against a numerical solution
//! of the bent column.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::mechanics::column::{buckles_at, weak};
use nalgebra::DMatrix;
use rstest::rstest;
use serde_json::{Value, json};

/// A deck at a height on supports, three lines of them, for one sleeper of 80 kg and 1.80 m.
fn bed(underside: f64, choices: Value) -> Value {
    let mut doc = read_up_to(box_van(), 700.0);
    doc["people"] = json!({"a": {"name": "A", "stature": 1800, "mass": 80}});
    let deck = &mut doc["modules"]["deck"]["choices"];
    deck["underside"] = json!(underside);
    deck["supports"] = json!({"lines": 3});
    for (k, v) in choices.as_object().unwrap() {
        match k.as_str() {
            "supports" => {
                for (k, v) in v.as_object().unwrap() {
                    deck["supports"][k] = v.clone();
                }
            }
            _ => deck[k] = v.clone(),
        }
    }
    doc
}

/// Forces in newtons, in the order in which a sentence says them.
fn newtons(sentence: &str) -> Vec<f64> {
    let words: Vec<&str> = sentence.split([' ', ',', ';']).collect();
    let force = |w: &[&str]| match w[1].starts_with('N') && !w[1].starts_with("N/") {
        true => w[0].replace('\u{202f}', "").parse().ok(),
        false => None,
    };
    words.windows(2).filter_map(force).collect()
}

/// The bent column as a row of springs: the smallest load at which n pieces of it lie out of line, an eigenvalue of the second
/// difference. It comes from below, with the square of the pieces.
#[rstest]
#[case(10_000.0, 70.0, 15.0, 400.0)]
#[case(12_500.0, 60.0, 9.0, 650.0)]
#[case(11_000.0, 38.0, 89.0, 300.0)]
fn a_post_gives_way_where_the_bent_column_does(
    #[case] e: f64,
    #[case] a: f64,
    #[case] b: f64,
    #[case] high: f64,
) {
    const N: usize = 120;
    let step = high / (N + 1) as f64;
    let bend = DMatrix::<f64>::from_fn(N, N, |i, k| match i.abs_diff(k) {
        0 => 2.0,
        1 => -1.0,
        _ => 0.0,
    });
    let least = bend.symmetric_eigenvalues().min();
    // The weak axis by summing strips of the section.
    let (wide, thin) = (a.max(b), a.min(b));
    let strips = (0..2000).map(|i| thin * ((f64::from(i) + 0.5) / 2000.0 - 0.5));
    let inertia: f64 = strips.map(|y| y * y * wide * thin / 2000.0).sum();
    let numeric = e * inertia * least / step.powi(2);
    let said = buckles_at(weak(e, a, b), high).unwrap();
    assert!((said / numeric - 1.0).abs() < 1e-3, "{said} {numeric}");
}

/// No post of no height.
#[rstest]
#[case(0.0)]
#[case(-5.0)]
#[case(f64::NAN)]
fn what_is_no_post(#[case] high: f64) {
    assert_eq!(buckles_at(1e6, high), None);
}

/// A board over two equal spans carries 3/8, 10/8 and 3/8 of one of them (handbook table, from memory); parted over the middle
/// line it carries 1/2, 1 and 1/2. Together they carry the sleeper, 80 x 9.80665 / 1800 = 0.4358 N/mm along the bed, and the
/// boards.
#[rstest]
#[case("lengthwise", 10.0 / 3.0)]
#[case("quarters", 2.0)]
fn two_spans_share_by_the_handbook(#[case] split: &str, #[case] middle: f64) {
    let p = plan(&bed(300.0, json!({"split": split})));
    let f = finding(&p, "bears.deck").unwrap();
    let all = newtons(&f.sentence);
    let (a, b, c) = (all[0], all[1], all[2]);
    assert!((a - c).abs() <= 2.0, "{}", f.sentence);
    assert!((b / a - middle).abs() < 0.03, "{}", f.sentence);
    let lines = &p.decks[0].lines;
    let long = lines[2] - lines[0];
    let boards: f64 = p.parts.iter().filter(|p| p.name.contains("deck")).count() as f64;
    assert!(boards > 0.0);
    let panels = p.boards.iter().filter(|b| b.role == "panel");
    let mass: f64 = panels.map(|b| b.mass).sum();
    let whole = 80.0 * 9.80665 / 1800.0 * long + mass * 9.80665;
    assert!(
        (a + b + c - whole).abs() < 0.03 * whole,
        "{whole} {}",
        f.sentence
    );
}

/// Three legs of 15 by 70 under the middle line, 215 long below a rail of 70: by hand a third of the line and the knee, 80 x
/// 9.80665 = 784.5 N; what it gives way at is far above. Of 9 mm and half a metre long they do not do, and what is offered does.
#[test]
fn legs_bear_what_they_carry() {
    let p = plan(&bed(
        300.0,
        json!({"split": "lengthwise", "supports": {"manner": "legs"}}),
    ));
    let f = finding(&p, "bears.deck").unwrap();
    assert_eq!(f.level, Severity::Fine, "{}", f.sentence);
    let n = newtons(&f.sentence);
    assert!((n[3] - (n[1] / 3.0 + 784.5)).abs() < 3.0, "{}", f.sentence);
    assert!(n[4] > 3.0 * n[3]);

    let tall = bed(
        600.0,
        json!({"split": "lengthwise", "supports": {"manner": "legs", "thickness": 9}}),
    );
    let p = plan(&tall);
    let f = finding(&p, "bears.deck").unwrap();
    assert_eq!(f.level, Severity::Stop, "{}", f.sentence);
    assert!(f.offers.len() >= 2);
    for o in &f.offers {
        let p = plan(&after(&tall, &o.patch));
        let f = finding(&p, "bears.deck").unwrap();
        assert_eq!(f.level, Severity::Fine, "{}: {}", o.label, f.sentence);
    }
}

/// On ledgers: half of the line's rail and the knee at its end, held by the two fixings beside it.
#[test]
fn fixings_of_a_ledger_by_hand() {
    let doc = bed(
        300.0,
        json!({"split": "lengthwise", "supports": {"manner": "ledgers", "thickness": 18}}),
    );
    let p = plan(&doc);
    let f = finding(&p, "bears.deck").unwrap();
    let n = newtons(&f.sentence);
    assert!(
        (n[3] - (n[1] / 2.0 + 784.5) / 2.0).abs() < 2.0,
        "{}",
        f.sentence
    );
    assert_eq!(f.level, Severity::Fine);
}
