//! The tape language against the definition of the inch and the usual notations.

use jigfit_core::compute;
use jigfit_core::units::Unit;
use jigfit_core::units::print::nearest_inch;
use jigfit_core::units::tape::parse;
use proptest::prelude::*;
use rstest::rstest;
use serde_json::json;

/// Source: the inch is 25.4 mm and the foot 304.8 mm exactly (NIST SP 811, appendix B).
#[rstest]
#[case("1\"", Unit::Mm, 25.4)]
#[case("1 ft", Unit::Mm, 304.8)]
#[case("1'", Unit::Mm, 304.8)]
#[case("12", Unit::In, 304.8)]
#[case("23 3/16", Unit::In, 588.9625)]
#[case("23-3/16", Unit::In, 588.9625)]
#[case("23\u{2009}3/16", Unit::In, 588.9625)]
#[case("7' 2 1/2\"", Unit::Mm, 2197.1)]
#[case("7'2½\"", Unit::Mm, 2197.1)]
#[case("7′ 2½″", Unit::Mm, 2197.1)]
#[case("7'-2 1/2\"", Unit::Mm, 2197.1)]
#[case("7 ft 2 1/2 in", Unit::Mm, 2197.1)]
#[case("7' 2", Unit::In, 2184.4)]
#[case("61.2 cm", Unit::In, 612.0)]
#[case("61,2 cm", Unit::In, 612.0)]
#[case("1.5m", Unit::In, 1500.0)]
#[case("48/2 - 1/16", Unit::In, 608.0125)]
#[case("48/2", Unit::In, 609.6)]
#[case("1/16", Unit::In, 1.5875)]
#[case("½", Unit::In, 12.7)]
#[case("80 mm - 1\"", Unit::In, 54.6)]
#[case("(3/4 + 1/2) * 2", Unit::In, 63.5)]
#[case("2 * 12 mm + 6 mm", Unit::In, 30.0)]
#[case("-3", Unit::Mm, -3.0)]
#[case("745 / 2", Unit::Mm, 372.5)]
#[case(" 7 mm ", Unit::In, 7.0)]
fn reads(#[case] entry: &str, #[case] unit: Unit, #[case] mm: f64) {
    assert!((parse(entry, unit).unwrap() - mm).abs() < 1e-9, "{entry}");
}

#[rstest]
#[case("", 0)]
#[case("   ", 3)]
#[case("12 x", 3)]
#[case("12 mm * 3 mm", 6)]
#[case("5 mm + 2 * 3", 5)]
#[case("3/0", 1)]
#[case("12 / (2 - 2)", 3)]
#[case("(3 + 4", 6)]
#[case("3 +", 3)]
#[case("12 furlong", 3)]
#[case("2 3 mm", 2)]
#[case("61 cm / 3 cm", 0)]
#[case("3.5 / 2 mm", 4)]
#[case("23 17/16", 3)]
#[case("1e9 m", 1)]
#[case("99999999 m", 0)]
fn refuses_and_points(#[case] entry: &str, #[case] at: usize) {
    assert_eq!(parse(entry, Unit::In).unwrap_err().at, at, "{entry}");
}

#[test]
fn deep_nesting_and_length_are_errors_not_a_crash() {
    assert!(parse(&"(".repeat(150), Unit::Mm).is_err());
    assert!(parse(&"-".repeat(150), Unit::Mm).is_err());
    assert!(parse(&"1".repeat(5000), Unit::Mm).is_err());
    assert!(parse("\u{0}\u{fffd}💥", Unit::Mm).is_err());
}

/// Fractions of an inch in lowest terms, as on any tape.
#[rstest]
#[case(588.9625, 16, "23 3/16")]
#[case(54.6, 16, "2 1/8")]
#[case(25.4, 16, "1")]
#[case(0.0, 16, "0")]
#[case(12.7, 64, "1/2")]
#[case(-38.1, 16, "-1 1/2")]
#[case(304.799, 16, "12")]
fn prints(#[case] mm: f64, #[case] denominator: u32, #[case] text: &str) {
    assert_eq!(nearest_inch(mm, denominator).0, text);
}

#[test]
fn the_calculator_answers_each_entry() {
    let out = compute::run(
        "tape",
        json!({"entries": ["23 3/16", "54.6 mm", "two"], "unit": "in", "denominator": 16}),
    )
    .unwrap()
    .unwrap();
    assert_eq!(
        out["results"][0],
        json!({"mm": 588.9625, "in": 23.1875, "nearest": "23 3/16", "off_mm": 0.0})
    );
    // 2 1/8 in is 53.975 mm.
    assert!((out["results"][1]["off_mm"].as_f64().unwrap() - 0.625).abs() < 1e-9);
    assert_eq!(out["results"][2]["error"]["pointer"], "/entries/2");
}

proptest! {
    /// Law: what is printed reads back as the mark that was printed.
    #[test]
    fn parse_of_print_is_the_same_mark(ticks in -40_000_i64..40_000, power in 0_u32..7) {
        let denominator = 1_u32 << power;
        let mm = ticks as f64 / f64::from(denominator) * 25.4;
        let (text, value) = nearest_inch(mm, denominator);
        prop_assert!((value - mm).abs() < 1e-9);
        prop_assert!((parse(&text, Unit::In).unwrap() - mm).abs() < 1e-9);
    }

    /// Law: no entry, whatever its characters, makes the reader panic or return a non-number.
    #[test]
    fn any_text_is_read_or_refused(entry in "[0-9 ./,'\"()*+½⅝a-z-]{0,40}") {
        if let Ok(mm) = parse(&entry, Unit::In) {
            prop_assert!(mm.is_finite());
        }
    }
}
