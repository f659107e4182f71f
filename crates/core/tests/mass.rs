//! Masses as they are typed.

use jigfit_core::units::figure::System::{self, In, Mm};
use jigfit_core::units::mass::parse;
use rstest::rstest;

// 1 lb = 0.45359237 kg exactly, 1 oz = a sixteenth of it: NIST SP 811, appendix B.8.
#[rstest]
#[case("15 lb", Mm, 6.803_885_55)]
#[case("15", In, 6.803_885_55)]
#[case("15", Mm, 15.0)]
#[case("1 oz", Mm, 0.028_349_523_125)]
#[case("7,5 kg", In, 7.5)]
#[case("7.5kg", In, 7.5)]
#[case("250 g", Mm, 0.25)]
#[case("3 Lbs.", Mm, 1.360_777_11)]
#[case("0", Mm, 0.0)]
fn masses_are_read(#[case] entry: &str, #[case] system: System, #[case] kg: f64) {
    let read = parse(entry, system);
    assert!(matches!(read, Ok(m) if (m - kg).abs() < 1e-12), "{read:?}");
}

#[rstest]
#[case("", "Type a mass")]
#[case("kg", "Type a mass")]
#[case("5 stone", "\"stone\" is no unit")]
#[case("five", "no unit")]
#[case("-3 kg", "not negative")]
#[case("1e999", "no unit")]
#[case("9999999 kg", "not so large")]
#[case("1.2.3", "no number")]
#[case("NaN", "no unit")]
fn what_is_no_mass_is_said(#[case] entry: &str, #[case] words: &str) {
    let read = parse(entry, Mm);
    assert!(matches!(&read, Err(e) if e.contains(words)), "{read:?}");
}
