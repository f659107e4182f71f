//! Point clouds and tables: against another reader and writer, and against hostile files.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

use jigfit_core::plan::solve;
use jigfit_core::project::{Project, Units, VehicleKind};
use jigfit_formats::{csv, model_mesh, ply, readings_csv};
use ply_rs_bw::parser::Parser;
use ply_rs_bw::ply::{
    Addable, DefaultElement, ElementDef, Encoding, Ply, Property, PropertyDef, PropertyType,
    ScalarType,
};
use ply_rs_bw::writer::Writer;
use rstest::rstest;

fn moth() -> Project {
    let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../server/demo/moth.json");
    jigfit_core::furniture::read(
        serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap(),
    )
    .unwrap()
}

/// A cloud as another library writes it, in every encoding, with a property that is none of ours.
fn written(encoding: Encoding, points: &[[f32; 3]]) -> Vec<u8> {
    let mut file = Ply::<DefaultElement>::new();
    file.header.encoding = encoding;
    let mut def = ElementDef::new("vertex".to_string());
    for (name, kind) in [
        ("x", ScalarType::Float),
        ("y", ScalarType::Float),
        ("red", ScalarType::UChar),
        ("z", ScalarType::Double),
    ] {
        def.properties.add(PropertyDef::new(
            name.to_string(),
            PropertyType::Scalar(kind),
        ));
    }
    file.header.elements.add(def);
    let rows = points.iter().map(|p| {
        let mut e = DefaultElement::new();
        e.insert("x".to_string(), Property::Float(p[0]));
        e.insert("y".to_string(), Property::Float(p[1]));
        e.insert("red".to_string(), Property::UChar(7));
        e.insert("z".to_string(), Property::Double(f64::from(p[2])));
        e
    });
    file.payload.insert("vertex".to_string(), rows.collect());
    let mut out = Vec::new();
    Writer::new().write_ply(&mut out, &mut file).unwrap();
    out
}

#[rstest]
fn clouds_of_another_writer(
    #[values(
        Encoding::Ascii,
        Encoding::BinaryLittleEndian,
        Encoding::BinaryBigEndian
    )]
    encoding: Encoding,
) {
    let points = [[1.5, -2.25, 3.0], [1000.0, 0.125, -7.5], [0.0, 0.0, 0.0]];
    assert_eq!(ply::read(&written(encoding, &points)).unwrap(), points);
}

/// The model is read back by the other library: walls at 40 x 16 and two wells.
#[test]
fn the_model_is_read_by_another_reader() {
    let bytes = model_mesh::write(&moth());
    let file = Parser::<DefaultElement>::new()
        .read_ply(&mut bytes.as_slice())
        .unwrap();
    assert_eq!(file.payload["vertex"].len(), 2 * 41 * 17 + 2 * 8);
    assert_eq!(file.payload["face"].len(), 2 * 40 * 16 + 2 * 5);
    // And by our own.
    assert_eq!(ply::read(&bytes).unwrap().len(), 2 * 41 * 17 + 2 * 8);
}

const HEAD: &str = "ply\nformat binary_little_endian 1.0\nelement vertex";

#[rstest]
#[case(b"".to_vec(), "does not end")]
#[case(b"plx\n".to_vec(), "begin")]
#[case(b"ply\nformat ascii 1.0\nend_header\n".to_vec(), "no vertices")]
#[case(b"ply\nformat morse 1.0\nend_header\n".to_vec(), "morse")]
#[case(format!("{HEAD} 4000000000\nproperty float x\nproperty float y\nproperty float z\nend_header\n").into_bytes(), "ends before")]
#[case(format!("{HEAD} 18446744073709551615\nproperty float x\nproperty float y\nproperty float z\nend_header\n").into_bytes(), "ends before")]
#[case(format!("{HEAD} -1\nproperty float x\nend_header\n").into_bytes(), "no number")]
#[case(format!("{HEAD} 2\nproperty float x\nproperty float y\nproperty float z\nend_header\n0123456789").into_bytes(), "ends before")]
#[case(format!("{HEAD} 1\nproperty float x\nproperty float y\nend_header\n01234567").into_bytes(), "no z")]
#[case(format!("{HEAD} 1\nproperty quad x\nend_header\n").into_bytes(), "quad")]
#[case(format!("{HEAD} 1\nproperty list uchar float x\nproperty float y\nproperty float z\nend_header\n").into_bytes(), "lists")]
#[case(b"ply\nformat binary_little_endian 1.0\nelement face 4000000000\nproperty list uint int v\nelement vertex 0\nproperty float x\nproperty float y\nproperty float z\nend_header\n\xff\xff\xff\xff".to_vec(), "ends before")]
#[case(b"ply\nformat binary_little_endian 1.0\nelement none 4000000000\nelement vertex 1\nproperty float x\nproperty float y\nproperty float z\nend_header\n".to_vec(), "ends before")]
#[case(b"ply\nformat ascii 1.0\nelement vertex 2\nproperty float x\nproperty float y\nproperty float z\nend_header\n1 2 3\n".to_vec(), "ends before")]
#[case(b"ply\nformat ascii 1.0\nelement vertex 1\nproperty float x\nproperty float y\nproperty float z\nend_header\n1 two 3\n".to_vec(), "two")]
#[case(b"ply\nproperty float x\n".to_vec(), "before any element")]
fn hostile_clouds(#[case] bytes: Vec<u8>, #[case] says: &str) {
    let e = ply::read(&bytes).unwrap_err().to_string();
    assert!(e.contains(says), "{e}");
}

/// Points that are no numbers are left out, not carried on.
#[test]
fn points_without_a_place_are_left_out() {
    let text = "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nend_header\n1 2 3\nnan 0 0\n1e999 0 0\n";
    assert_eq!(ply::read(text.as_bytes()).unwrap(), [[1.0, 2.0, 3.0]]);
}

/// A table goes out and comes back: nothing is new. Into an empty project everything is.
#[test]
fn readings_go_out_and_come_back() {
    let project = moth();
    let bytes = csv::readings(&project, &solve(&project)).unwrap();
    let back = readings_csv::read(&bytes, &project).unwrap();
    assert_eq!(
        (back.new.len(), back.known, back.refused.len()),
        (0, project.survey.readings.len(), 0)
    );
    let mut empty = Project::start("Moth", VehicleKind::Van, Units::default());
    let into = readings_csv::read(&bytes, &empty).unwrap();
    assert!(into.refused.is_empty(), "{:?}", into.refused);
    empty.survey.readings = into.new.clone();
    for (id, r) in &project.survey.readings {
        let got = &empty.survey.readings[id];
        assert_eq!(
            (&got.quantity, &got.typed, got.unit, got.soft, got.aside),
            (&r.quantity, &r.typed, r.unit, r.soft, r.aside)
        );
    }
}

/// The unit stands in the header: 10 in is 254 mm, 25.4 cm the same.
#[rstest]
#[case("value_mm", "254", 254.0)]
#[case("value_cm", "25.4", 254.0)]
#[case("value_in", "10", 254.0)]
fn units_stand_in_the_header(#[case] column: &str, #[case] value: &str, #[case] mm: f64) {
    let project = Project::start("New", VehicleKind::Van, Units::default());
    let text = format!("\u{feff}Quantity,{column}\nwall.left.100.0,{value}\n");
    let read = readings_csv::read(text.as_bytes(), &project).unwrap();
    let r = read.new.values().next().unwrap();
    let got = jigfit_core::units::tape::parse(&r.typed, r.unit).unwrap();
    assert!((got - mm).abs() < 1e-9);
}

#[rstest]
#[case("quantity,value_mm\nwall.left.100.0,-5\n", "less than nothing")]
#[case("quantity,value_mm\nwall.middle.100.0,5\n", "no quantity")]
#[case("quantity,value_mm\nthing.nobody.height,5\n", "no thing")]
#[case("quantity,value_mm\nwall.left.100.0,five\n", "")]
#[case("quantity,typed,unit\nwall.left.100.0,5,cubit\n", "no unit")]
fn bad_rows_are_told(#[case] text: &str, #[case] says: &str) {
    let project = Project::start("New", VehicleKind::Van, Units::default());
    let read = readings_csv::read(text.as_bytes(), &project).unwrap();
    assert_eq!((read.new.len(), read.refused.len()), (0, 1));
    assert_eq!(read.refused[0].0, 2);
    assert!(read.refused[0].1.contains(says), "{}", read.refused[0].1);
}

#[rstest]
#[case("", "quantity")]
#[case("a,b\n1,2\n", "quantity")]
#[case("quantity,value\nx,1\n", "value_mm")]
fn tables_without_the_columns_are_refused(#[case] text: &str, #[case] says: &str) {
    let project = Project::start("New", VehicleKind::Van, Units::default());
    let e = readings_csv::read(text.as_bytes(), &project)
        .unwrap_err()
        .to_string();
    assert!(e.contains(says), "{e}");
}

/// One identifier on 5,000 rows: each row is read and has a name of its own, at once (it took 12.5 s).
#[test]
fn rows_of_one_name_are_told_apart() {
    let project = moth();
    let mut text = String::from("reading,quantity,value_mm\n");
    for i in 0..5000 {
        text.push_str(&format!("same,wall.left.{}.0,{}\n", i % 1000, 700 + i % 9));
    }
    let read = readings_csv::read(text.as_bytes(), &project).unwrap();
    assert_eq!((read.new.len(), read.refused.len()), (5000, 0));
}
