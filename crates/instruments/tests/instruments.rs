//! The virtual vehicle, what a person sees in it, and the instruments, by hand and by count.
use jigfit_core::project::survey::{Form, OpeningDim, Quantity, Side, ThingDim};
use jigfit_instruments::person;
use jigfit_instruments::scanner::{Scan, scan};
use jigfit_instruments::simulate::Truth;
use jigfit_instruments::tape::{Errors, stream};
use jigfit_instruments::vehicle::Vehicle;
use rand::Rng;
use rstest::rstest;
use serde_json::{Value, json};

/// A box of 2000 x 1400 that widens by 100 on each side up to 1000, with a wedge of a well on the
/// left, a post that stands free on the right, and a roof that falls forward.
fn file() -> Value {
    json!({
        "name": "Plain", "kind": "van",
        "sections": [
            {"z": 0, "outline": [[0, -700], [2000, -700], [2000, 700], [0, 700]]},
            {"z": 1000, "outline": [[0, -800], [2000, -800], [2000, 800], [0, 800]]}],
        "roof": [{"x": 0, "profile": [[-700, 1150], [0, 1200], [700, 1150]]},
                 {"x": 2000, "profile": [[-700, 1050], [0, 1100], [700, 1050]]}],
        "obstacles": [
            {"name": "left well", "kind": "wheel_well", "sections": [
                {"z": 0, "outline": [[600, 500], [1400, 500], [1400, 900], [600, 900]]},
                {"z": 300, "outline": [[700, 560], [1300, 560], [1300, 900], [700, 900]]}]},
            {"name": "post", "kind": "post", "sections": [
                {"z": 0, "outline": [[1000, -400], [1040, -400], [1040, -360], [1000, -360]]},
                {"z": 900, "outline": [[1000, -400], [1040, -400], [1040, -360], [1000, -360]]}]}],
        "openings": [{"name": "rear", "plane": {"axis": "x", "at": 0},
            "outline": [[-600, 0], [600, 0], [500, 1000], [-500, 1000]]}],
        "fixings": [], "soft": [{"what": "ceiling", "flex_mm": 6}], "marks": [],
    })
}

fn plain() -> Vehicle {
    Vehicle::read(file()).unwrap()
}

#[rstest]
#[case(0.0, 700.0)]
#[case(250.0, 725.0)]
#[case(1000.0, 800.0)]
#[case(1500.0, 800.0)]
fn walls_are_straight_between_sections(#[case] z: f64, #[case] y: f64) {
    for side in Side::BOTH {
        assert!((plain().wall(side, 1000.0, z).unwrap() - y).abs() < 1e-9);
    }
}

/// Roof by hand: crowned by 50 over 700 across, falling 100 over the length.
#[rstest]
#[case(0.0, 0.0, 1200.0)]
#[case(1000.0, 0.0, 1150.0)]
#[case(1000.0, 350.0, 1125.0)]
#[case(2000.0, -700.0, 1050.0)]
fn the_roof(#[case] x: f64, #[case] y: f64, #[case] up: f64) {
    assert!((plain().roof(x, y).unwrap() - up).abs() < 1e-9);
}

/// Free space by hand at 150 up: 2000 x 1430 less the well, there 700 x (715 - 530), less the post.
#[test]
fn what_stands_in_the_bay_is_not_free() {
    let free: f64 = plain().free(150.0).iter().map(|r| r.area()).sum();
    let bay = 2000.0 * 1430.0;
    let well = 700.0 * (715.0 - 530.0);
    assert!((free - (bay - well - 1600.0)).abs() < 1.0, "{free}");
    // Over the well's top and under the post's only the post is left.
    let above: f64 = plain().free(400.0).iter().map(|r| r.area()).sum();
    assert!((above - (2000.0 * 1480.0 - 1600.0)).abs() < 1.0, "{above}");
}

#[test]
fn a_person_sees_the_form_of_things() {
    let v = plain();
    let things = person::things(&v);
    let seen: Vec<_> = things.iter().map(|(_, t)| (t.side, t.form)).collect();
    assert_eq!(
        seen,
        [(Side::Left, Form::Sloped), (Side::Right, Form::Free)]
    );
    assert!(
        person::stations(&v, person::UP_TO).is_empty(),
        "straight walls have no crease"
    );
    assert!(person::levels(&v, person::UP_TO).is_empty());
}

/// The true value of everything that may be asked, by hand.
#[rstest]
#[case(json!({"of": "length", "z": 0.0}), Some(2000.0))]
#[case(json!({"of": "wall", "side": "left", "x": 300.0, "z": 500.0}), Some(750.0))]
// The well is in the way of the tape, and so is the post on the other side.
#[case(json!({"of": "wall", "side": "left", "x": 900.0, "z": 100.0}), None)]
#[case(json!({"of": "wall", "side": "right", "x": 1020.0, "z": 100.0}), None)]
#[case(json!({"of": "width", "x": 300.0, "z": 0.0}), Some(1400.0))]
#[case(json!({"of": "diagonal", "side": "left", "x": 1999.0, "z": 0.0}), Some(2440.49))]
#[case(json!({"of": "roof", "x": 1000.0}), Some(1150.0))]
#[case(json!({"of": "opening", "dim": "width_floor"}), Some(1199.8))]
#[case(json!({"of": "opening", "dim": "width_top"}), Some(1016.0))]
#[case(json!({"of": "opening", "dim": "width", "z": 500.0}), Some(1100.0))]
#[case(json!({"of": "opening", "dim": "height"}), Some(1000.0))]
#[case(json!({"of": "opening", "dim": "height", "id": "side"}), None)]
#[case(json!({"of": "thing", "id": "t0", "dim": "start"}), Some(600.0))]
#[case(json!({"of": "thing", "id": "t0", "dim": "length"}), Some(800.0))]
#[case(json!({"of": "thing", "id": "t0", "dim": "face", "z": 150.0}), Some(530.0))]
#[case(json!({"of": "thing", "id": "t0", "dim": "end", "z": 300.0}), Some(1300.0))]
#[case(json!({"of": "thing", "id": "t1", "dim": "face"}), Some(360.0))]
#[case(json!({"of": "thing", "id": "t1", "dim": "far"}), Some(400.0))]
#[case(json!({"of": "thing", "id": "t7", "dim": "face"}), None)]
fn truth(#[case] quantity: Value, #[case] mm: Option<f64>) {
    let v = plain();
    let things = person::things(&v).into_iter().collect();
    let truth = Truth {
        v: &v,
        things: &things,
    };
    let q: Quantity = serde_json::from_value(quantity).unwrap();
    let got = truth.of(&q);
    assert_eq!(got.is_some(), mm.is_some(), "{got:?}");
    if let (Some(got), Some(mm)) = (got, mm) {
        assert!((got - mm).abs() < 0.05, "{got}");
    }
}

#[test]
fn every_dimension_has_a_truth() {
    let v = plain();
    let things = person::things(&v).into_iter().collect();
    let truth = Truth {
        v: &v,
        things: &things,
    };
    for dim in [ThingDim::Width, ThingDim::Height, ThingDim::Bottom] {
        assert!(truth.of(&Quantity::thing("t0", dim)).is_some(), "{dim:?}");
    }
    assert!(
        truth.of(&Quantity::rear(OpeningDim::Width)).is_none(),
        "a width has a height"
    );
}

/// The same box with walls that bend by `deg` at 1000.
fn bent(deg: f64) -> Value {
    let off = 1000.0 * deg.to_radians().tan();
    let mut f = file();
    f["obstacles"] = json!([]);
    for (i, w) in [(0, 700.0), (1, 800.0)] {
        f["sections"][i]["outline"] = json!([
            [0, -w],
            [1000, -w],
            [2000, -w + off],
            [2000, w - off],
            [1000, w],
            [0, w]
        ]);
    }
    f
}

/// A straight edge rocks over a bend of more than 1.2 degrees (a choice); less is not seen, unless the
/// vehicle is marked there.
#[rstest]
#[case(0.8, false, 0)]
#[case(0.8, true, 1)]
#[case(2.0, false, 2)]
#[case(2.0, true, 2)]
#[case(0.2, true, 0)]
fn creases_are_seen(#[case] deg: f64, #[case] marked: bool, #[case] seen: usize) {
    let mut f = bent(deg);
    if marked {
        f["marks"] = json!([{"name": "seam", "at": [1000.0, 700.0, 0.0]}]);
    }
    let stations = person::stations(&Vehicle::read(f).unwrap(), person::UP_TO);
    assert_eq!(stations.len(), seen, "{stations:?}");
    for s in stations {
        assert!(s.ridge && (s.x - 1000.0).abs() < 1.0);
    }
}

/// A mark on something that stands in the bay is no crease of the wall.
#[test]
fn marks_off_the_wall_are_no_creases() {
    let mut f = bent(0.8);
    f["marks"] = json!([{"name": "well corner", "at": [1000.0, 500.0, 0.0]}]);
    assert!(person::stations(&Vehicle::read(f).unwrap(), person::UP_TO).is_empty());
}

/// The walls turn in by `per` mm over 250 at 250 up: 1.2 degrees, at which a straight edge rocks, is 5.2.
#[rstest]
#[case(4.0, 0)]
#[case(8.0, 1)]
#[case(24.0, 1)]
fn strakes_are_seen(#[case] per: f64, #[case] seen: usize) {
    let mut f = file();
    let ring = |w: f64| json!([[0, -w], [2000, -w], [2000, w], [0, w]]);
    f["sections"] = json!([
        {"z": 0, "outline": ring(700.0)}, {"z": 250, "outline": ring(700.0)},
        {"z": 500, "outline": ring(700.0 - per)}]);
    let levels = person::levels(&Vehicle::read(f).unwrap(), person::UP_TO);
    assert_eq!(levels.len(), seen);
    assert!(levels.iter().all(|l| l.ridge && (l.z - 250.0).abs() < 1e-9));
}

/// A misread inch: of 4000 readings with a chance of 2 in 100, 80 are off by an inch; the count lies
/// within 50 and 115 (four standard deviations of a binomial).
#[test]
fn inches_are_misread_as_often_as_said() {
    let e = Errors {
        misread: 0.02,
        ..Errors::noise(0.5)
    };
    let slips = (0..4000)
        .map(|n| e.read(1000.0, false, 4, n) - 1000.0)
        .filter(|off| (off.abs() - 25.4).abs() < 3.0)
        .count();
    assert!((50..=115).contains(&slips), "{slips}");
}

/// Each instrument reads in its own steps.
#[rstest]
#[case(Errors::tape(), 1.0)]
#[case(Errors::laser(), 1.0)]
#[case(Errors::level(), 0.1)]
#[case(Errors { step: 1.5875, ..Errors::noise(0.8) }, 1.5875)]
fn readings_are_steps(#[case] e: Errors, #[case] step: f64) {
    for n in 0..50 {
        let steps = e.read(812.3, n % 2 == 0, 5, n) / step;
        assert!((steps - steps.round()).abs() < 1e-6, "{steps}");
    }
}

/// What the third reading says does not depend on whether the second was taken.
#[test]
fn chance_is_by_reading() {
    let mut a = stream(7, 3);
    let mut b = stream(7, 3);
    let mut other = stream(7, 4);
    let (x, y, z): (f64, f64, f64) = (a.random(), b.random(), other.random());
    assert!(x == y && x != z);
}

/// Without noise, strays and turn every point of a scan lies on a wall, the front, or what stands
/// before it.
#[test]
fn a_scan_lies_on_what_is_there() {
    let mut f = file();
    f["obstacles"] = json!([]);
    let v = Vehicle::read(f).unwrap();
    let s = Scan {
        points: 2000,
        noise: 0.0,
        strays: 0.0,
        up_to: 500.0,
        deg: 0.0,
        origin: [0.0; 3],
        seed: 1,
    };
    let points = scan(&v, &s);
    assert!(points.len() > 1500);
    for [x, y, z] in &points {
        let wall = 700.0 + 0.1 * z;
        let on = (y.abs() - wall).abs() < 0.01 || (x - 2000.0).abs() < 0.01;
        assert!(on, "{x} {y} {z}");
    }
    // Turned by 90 degrees about a point: back again it is the same scan.
    let turned = scan(
        &v,
        &Scan {
            deg: 90.0,
            origin: [100.0, 0.0, 0.0],
            ..s
        },
    );
    for (p, q) in points.iter().zip(&turned).take(200) {
        assert!((p[0] - 100.0 + q[1]).abs() < 0.01 && (p[1] - q[0]).abs() < 0.01);
    }
}
