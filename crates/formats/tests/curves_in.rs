//! Curves out of files: written by another library or by hand, against closed forms; our own files read back; hostile
//! ones refused in words.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

use std::f64::consts::PI;

use dxf::entities::{
    Arc, Circle, Ellipse, Entity, EntityType, Insert, Line, LwPolyline, Polyline, Spline, Text,
};
use dxf::enums::{AcadVersion, Units};
use dxf::{Block, Drawing, LwPolylineVertex, Point as P, Vector};
use jigfit_core::plan::{Plan, solve};
use jigfit_formats::curves_in::{FileUnit, read};
use jigfit_formats::drawing::curves;
use jigfit_formats::dxf::Release;
use jigfit_formats::{dxf as our_dxf, full_size, svg};
use rstest::rstest;

fn moth() -> Plan {
    let path = format!("{}/../server/demo/moth.json", env!("CARGO_MANIFEST_DIR"));
    let value = serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    solve(&jigfit_core::furniture::read(value).unwrap())
}

fn written(
    version: AcadVersion,
    units: Units,
    entities: Vec<EntityType>,
    blocks: Vec<Block>,
) -> String {
    let mut d = Drawing::new();
    d.header.version = version;
    d.header.default_drawing_units = units;
    for b in blocks {
        d.add_block(b);
    }
    for e in entities {
        d.add_entity(Entity::new(e));
    }
    let mut out = Vec::new();
    d.save(&mut out).unwrap();
    String::from_utf8(out).unwrap()
}

fn off_circle(points: &[[f64; 2]], c: [f64; 2], r: f64) -> f64 {
    let each = points
        .iter()
        .map(|p| ((p[0] - c[0]).hypot(p[1] - c[1]) - r).abs());
    each.fold(0.0, f64::max)
}

/// How far points of a line are from a polyline at the most.
fn apart(a: &[[f64; 2]], b: &[[f64; 2]]) -> f64 {
    let near = |p: &[f64; 2]| {
        let of = |s: &[[f64; 2]]| {
            let (d, q) = (
                [s[1][0] - s[0][0], s[1][1] - s[0][1]],
                [p[0] - s[0][0], p[1] - s[0][1]],
            );
            let l = (d[0] * d[0] + d[1] * d[1]).max(1e-18);
            let t = ((q[0] * d[0] + q[1] * d[1]) / l).clamp(0.0, 1.0);
            (q[0] - t * d[0]).hypot(q[1] - t * d[1])
        };
        b.windows(2).map(of).fold(f64::INFINITY, f64::min)
    };
    a.iter().map(near).fold(0.0, f64::max)
}

/// Each kind of entity in a closed form, in two releases of the format.
#[rstest]
fn entities_of_a_dxf(
    #[values(AcadVersion::R12, AcadVersion::R2000, AcadVersion::R2013)] version: AcadVersion,
) {
    let arc = Arc::new(P::new(100.0, 50.0, 0.0), 40.0, 350.0, 80.0);
    let circle = Circle::new(P::new(-200.0, 0.0, 0.0), 75.0);
    let all = vec![EntityType::Arc(arc), EntityType::Circle(circle)];
    let d = read(written(version, Units::Millimeters, all, vec![]).as_bytes()).unwrap();
    assert_eq!((d.unit, d.lines.len()), (FileUnit::Mm, 2));
    let arc = d.lines.iter().find(|l| !l.closed).unwrap();
    assert!(off_circle(&arc.points, [100.0, 50.0], 40.0) < 1e-6);
    // By hand: it runs from 350 over 0 to 80 degrees.
    let ends = [arc.points[0], arc.points[arc.points.len() - 1]];
    let at = |deg: f64| {
        [
            100.0 + 40.0 * (deg * PI / 180.0).cos(),
            50.0 + 40.0 * (deg * PI / 180.0).sin(),
        ]
    };
    assert!(
        apart(&[ends[0]], &[at(350.0), at(350.0)]) < 1e-6
            && apart(&[ends[1]], &[at(80.0), at(80.0)]) < 1e-6
    );
    let circle = d.lines.iter().find(|l| l.closed).unwrap();
    assert!(off_circle(&circle.points, [-200.0, 0.0], 75.0) < 1e-6);
    // Chords stay near too.
    let middles: Vec<[f64; 2]> = circle
        .points
        .windows(2)
        .map(|w| [(w[0][0] + w[1][0]) / 2.0, (w[0][1] + w[1][1]) / 2.0])
        .collect();
    assert!(off_circle(&middles, [-200.0, 0.0], 75.0) < 0.02);
}

/// A bulge of 1 is half a circle to the left, of tan(22.5 degrees) a quarter.
#[rstest]
#[case(1.0, [50.0, 0.0], 50.0, [50.0, -50.0])]
#[case(-1.0, [50.0, 0.0], 50.0, [50.0, 50.0])]
#[case((PI / 8.0).tan(), [50.0, 50.0], 70.710_678_118_654_75, [50.0, 50.0 - 70.710_678_118_654_75])]
fn bulges(#[case] bulge: f64, #[case] c: [f64; 2], #[case] r: f64, #[case] through: [f64; 2]) {
    let vertex = |x: f64, bulge: f64| LwPolylineVertex {
        x,
        y: 0.0,
        bulge,
        ..LwPolylineVertex::default()
    };
    let line = LwPolyline {
        vertices: vec![vertex(0.0, bulge), vertex(100.0, 0.0)],
        ..LwPolyline::default()
    };
    let d = read(
        written(
            AcadVersion::R2000,
            Units::Millimeters,
            vec![EntityType::LwPolyline(line)],
            vec![],
        )
        .as_bytes(),
    )
    .unwrap();
    let points = &d.lines[0].points;
    assert!(off_circle(points, c, r) < 1e-6, "{bulge}");
    assert!(apart(&[through], points) < 0.01, "{bulge}");
    assert_eq!(
        (points[0], points[points.len() - 1]),
        ([0.0, 0.0], [100.0, 0.0])
    );
}

/// A quadratic spline of three points is a parabola; an ellipse; a quarter circle as a rational spline.
#[test]
fn splines_and_ellipses() {
    let parabola = Spline {
        degree_of_curve: 2,
        knot_values: vec![0.0, 0.0, 0.0, 1.0, 1.0, 1.0],
        control_points: vec![
            P::new(0.0, 0.0, 0.0),
            P::new(50.0, 100.0, 0.0),
            P::new(100.0, 0.0, 0.0),
        ],
        ..Spline::default()
    };
    let quarter = Spline {
        degree_of_curve: 2,
        knot_values: vec![0.0, 0.0, 0.0, 1.0, 1.0, 1.0],
        weight_values: vec![1.0, 0.5_f64.sqrt(), 1.0],
        control_points: vec![
            P::new(300.0, 0.0, 0.0),
            P::new(300.0, 100.0, 0.0),
            P::new(200.0, 100.0, 0.0),
        ],
        ..Spline::default()
    };
    let ellipse = Ellipse {
        center: P::new(0.0, 500.0, 0.0),
        major_axis: Vector::new(0.0, 80.0, 0.0),
        minor_axis_ratio: 0.5,
        start_parameter: 0.0,
        end_parameter: PI,
        ..Ellipse::default()
    };
    let all = vec![
        EntityType::Spline(parabola),
        EntityType::Spline(quarter),
        EntityType::Ellipse(ellipse),
    ];
    let d = read(written(AcadVersion::R2000, Units::Centimeters, all, vec![]).as_bytes()).unwrap();
    assert_eq!((d.unit, d.sure), (FileUnit::Cm, true));
    // By hand: x = 100 t, y = 200 t (1 - t).
    for p in &d.lines[0].points {
        let t = p[0] / 100.0;
        assert!((p[1] - 200.0 * t * (1.0 - t)).abs() < 1e-6);
    }
    assert!(off_circle(&d.lines[1].points, [200.0, 0.0], 100.0) < 1e-6);
    // The half on the left of its upright major axis.
    for p in &d.lines[2].points {
        let e = ((p[1] - 500.0) / 80.0).powi(2) + (p[0] / 40.0).powi(2);
        assert!((e - 1.0).abs() < 1e-6 && p[0] < 1e-6, "{p:?}");
    }
}

/// Blocks in blocks, turned and scaled; pieces that meet become one line; what is not understood is counted.
#[test]
fn blocks_joints_and_the_rest() {
    let block = |name: &str, e: Vec<EntityType>| {
        let mut b = Block {
            name: name.into(),
            ..Block::default()
        };
        b.entities = e.into_iter().map(Entity::new).collect();
        b
    };
    let put = |name: &str, x: f64, scale: f64, rotation: f64| {
        EntityType::Insert(Insert {
            name: name.into(),
            location: P::new(x, 0.0, 0.0),
            x_scale_factor: scale,
            y_scale_factor: scale,
            rotation,
            ..Insert::default()
        })
    };
    let inner = block(
        "inner",
        vec![EntityType::Circle(Circle::new(P::new(10.0, 0.0, 0.0), 5.0))],
    );
    let outer = block("outer", vec![put("inner", 100.0, 2.0, 90.0)]);
    let line = |a: [f64; 2], b: [f64; 2]| {
        EntityType::Line(Line::new(P::new(a[0], a[1], 0.0), P::new(b[0], b[1], 0.0)))
    };
    let all = vec![
        put("outer", 1000.0, 1.0, 0.0),
        line([0.0, 0.0], [100.0, 0.0]),
        // The next two run the other way round.
        line([200.0, 50.0], [100.0, 0.0]),
        line([300.0, 0.0], [200.0, 50.0]),
        EntityType::Text(Text::default()),
        EntityType::Text(Text::default()),
    ];
    let d = read(written(AcadVersion::R2000, Units::Inches, all, vec![inner, outer]).as_bytes())
        .unwrap();
    assert_eq!(d.unit, FileUnit::In);
    let circle = d.lines.iter().find(|l| l.closed).unwrap();
    // By hand: 10 to the right, twice, turned upwards: 20 over (1100, 0), radius 10.
    assert!(off_circle(&circle.points, [1100.0, 20.0], 10.0) < 1e-6);
    let open: Vec<_> = d.lines.iter().filter(|l| !l.closed).collect();
    assert_eq!(open.len(), 1);
    let mut points = open[0].points.clone();
    if points[0][0] > 1.0 {
        points.reverse();
    }
    assert_eq!(
        points,
        [[0.0, 0.0], [100.0, 0.0], [200.0, 50.0], [300.0, 0.0]]
    );
    assert_eq!(d.left_out.get("text"), Some(&2));
}

/// An old polyline, and a drawing that does not say its unit.
#[test]
fn old_polylines() {
    let mut line = Polyline::default();
    let mut d = Drawing::new();
    d.header.version = AcadVersion::R12;
    for (x, y) in [(0.0, 0.0), (10.0, 5.0), (20.0, 0.0)] {
        line.add_vertex(&mut d, dxf::entities::Vertex::new(P::new(x, y, 0.0)));
    }
    d.add_entity(Entity::new(EntityType::Polyline(line)));
    let mut out = Vec::new();
    d.save(&mut out).unwrap();
    let d = read(&out).unwrap();
    assert_eq!(d.lines[0].points, [[0.0, 0.0], [10.0, 5.0], [20.0, 0.0]]);
    assert!(!d.sure);
}

/// What this program writes it reads: the same curves within 0.05 mm, put elsewhere on the page.
#[test]
fn our_own_files_read_back() {
    let plan = moth();
    let moved = |points: &[[f64; 2]], to: [f64; 2]| -> Vec<[f64; 2]> {
        let by = [to[0] - points[0][0], to[1] - points[0][1]];
        points
            .iter()
            .map(|p| [p[0] + by[0], p[1] + by[1]])
            .collect()
    };
    let d = read(&our_dxf::write(&curves(&plan), Release::R12)).unwrap();
    let cut: Vec<_> = d.lines.iter().filter(|l| l.name == "CUT").collect();
    assert_eq!(cut.len(), plan.templates.len());
    for (line, t) in cut.iter().zip(&plan.templates) {
        let same = moved(&line.points, t.cut[0]);
        assert!(apart(&same, &t.cut) < 0.05 && apart(&t.cut, &same) < 0.05);
    }
    let page = svg::write(&full_size::sheets(&curves(&plan)));
    let d = read(page.as_bytes()).unwrap();
    assert!(d.sure);
    for t in &plan.templates {
        let long = |p: &[[f64; 2]]| {
            p.windows(2)
                .map(|w| (w[1][0] - w[0][0]).hypot(w[1][1] - w[0][1]))
                .sum::<f64>()
        };
        let want = long(&t.cut);
        let found = d.lines.iter().find(|l| {
            let mm: Vec<[f64; 2]> = l
                .points
                .iter()
                .map(|p| p.map(|v| v * d.unit.mm()))
                .collect();
            let same = moved(&mm, t.cut[0]);
            (long(&mm) - want).abs() < 0.2 && apart(&same, &t.cut) < 0.05
        });
        assert!(found.is_some(), "{}", t.name);
    }
}

/// Transforms, nested groups, reused shapes; lengths of the world; y up.
#[test]
fn an_svg_of_the_world() {
    let text = r##"<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="200mm" height="100mm" viewBox="0 0 100 50">
        <defs><path id="shape" d="M0 0 L10 0" stroke="black"/></defs>
        <g transform="translate(10 10)"><g id="wall" transform="rotate(90)"><path d="M0 0 C 0 10 10 20 20 20" fill="none" stroke="black"/></g></g>
        <use xlink:href="#shape" x="5" y="45"/>
        <circle cx="50" cy="25" r="10"/>
        <text x="1" y="1">words</text><script>alert(1)</script>
        <image href="file:///etc/passwd" width="10" height="10"/>
    </svg>"##;
    let d = read(text.as_bytes()).unwrap();
    assert!(d.sure && d.unit == FileUnit::Px);
    let mm = |p: [f64; 2]| p.map(|v| v * d.unit.mm());
    let circle = d.lines.iter().find(|l| l.closed).unwrap();
    let points: Vec<[f64; 2]> = circle.points.iter().map(|p| mm(*p)).collect();
    // By hand: two mm to the unit, y up: middle at 100 and 50, radius 20. A path's circle is one of four cubics.
    assert!(off_circle(&points, [100.0, 50.0], 20.0) < 0.01);
    let wall = d.lines.iter().find(|l| l.name == "wall").unwrap();
    let ends = [wall.points[0], wall.points[wall.points.len() - 1]].map(mm);
    // By hand: (20, 20) turned by 90 degrees is (-20, 20), shifted (-10, 30): -20 and 60 mm from above.
    for (p, q) in ends.iter().zip([[20.0, 80.0], [-20.0, 40.0]]) {
        assert!(
            (p[0] - q[0]).abs() < 1e-3 && (p[1] - q[1]).abs() < 1e-3,
            "{p:?}"
        );
    }
    assert_eq!(d.lines.len(), 3);
    for what in ["text", "a script", "a picture"] {
        assert_eq!(d.left_out.get(what), Some(&1), "{what}");
    }
    let dots = text.replace("200mm", "200").replace("100mm", "100");
    assert!(!read(dots.as_bytes()).unwrap().sure);
}

#[rstest]
#[case("x;y in cm\n0;0\n10,5;2\n20;0\n", FileUnit::Cm, true, 10.5)]
#[case("0\t0\n10.5\t2\n20\t0", FileUnit::Mm, false, 10.5)]
#[case("x,y\n0,0\n10.5,2,7\n20,0\n", FileUnit::Mm, false, 10.5)]
#[case("0 0\n10.5 2\n20 0\n", FileUnit::Mm, false, 10.5)]
fn tables(#[case] text: &str, #[case] unit: FileUnit, #[case] sure: bool, #[case] second: f64) {
    let d = read(text.as_bytes()).unwrap();
    assert_eq!((d.unit, d.sure), (unit, sure));
    assert_eq!(d.lines[0].points, [[0.0, 0.0], [second, 2.0], [20.0, 0.0]]);
}

#[rstest]
#[case(b"".as_slice(), "no curve")]
#[case(b"hello\nworld", "no curve")]
#[case(b"0,0\n1,2\nthree,4\n", "Line 3")]
#[case(b"\x00\x01\x02", "binary")]
#[case(b"<svg", "cannot be read")]
#[case(
    b"<svg xmlns=\"http://www.w3.org/2000/svg\"><text>only words</text></svg>",
    "It holds: text"
)]
#[case(b"<!DOCTYPE svg [<!ENTITY a \"aaaa\"><!ENTITY b \"&a;&a;\">]><svg xmlns=\"http://www.w3.org/2000/svg\">&b;</svg>", "entities")]
#[case(b"0\nSECTION\n2\nENTITIES\nx\ny\n", "no group code")]
#[case(b"0,0\n1e300,1\n", "too large")]
fn refused_in_words(#[case] bytes: &[u8], #[case] words: &str) {
    let said = read(bytes).unwrap_err();
    assert!(said.contains(words), "{said}");
}

/// A block that holds itself, a spline of degree a thousand million, groups a hundred thousand deep, and every file cut
/// off anywhere: an answer, soon, and no panic.
#[test]
fn hostile_files() {
    let own = "0\nSECTION\n2\nBLOCKS\n0\nBLOCK\n2\nA\n0\nLINE\n10\n0\n20\n0\n11\n1\n21\n1\n0\nINSERT\n2\nA\n0\nENDBLK\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n0\nINSERT\n2\nA\n0\nENDSEC\n0\nEOF\n";
    let d = read(own.as_bytes()).unwrap();
    assert_eq!(d.left_out.get("blocks nested too deeply"), Some(&1));
    let wide = own.replace("0\nINSERT\n2\nA\n", &"0\nINSERT\n2\nA\n".repeat(40));
    assert!(read(wide.as_bytes()).unwrap_err().contains("entities"));
    let spline = "0\nSECTION\n2\nENTITIES\n0\nSPLINE\n71\n1000000000\n40\n0\n10\n0\n20\n0\n0\nCIRCLE\n10\n0\n20\n0\n40\n1e308\n0\nARC\n10\n0\n20\n0\n40\n-5\n50\n1e300\n51\nNaN\n0\nENDSEC\n";
    let _ = read(spline.as_bytes());
    let deep = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\">{}<path d=\"M0 0L9 9\"/>{}</svg>",
        "<g>".repeat(100_000),
        "</g>".repeat(100_000)
    );
    assert!(read(deep.as_bytes()).unwrap_err().contains("nests"));
    // Shapes that show the next two twice each: two to the thirtieth.
    let laughs: String = (0..30)
        .map(|i| {
            format!(
                "<g id=\"s{i}\"><use href=\"#s{0}\"/><use href=\"#s{0}\"/></g>",
                i + 1
            )
        })
        .collect();
    let laughs = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\"><defs><path id=\"s30\" d=\"M0 0L9 9\"/></defs>{laughs}</svg>"
    );
    assert!(
        read(laughs.as_bytes())
            .unwrap_err()
            .contains("again and again")
    );
    let many = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\"><path d=\"M0 0{}\"/></svg>",
        "L1 1 2 2".repeat(200_000)
    );
    let _ = read(many.as_bytes());
    let plan = moth();
    let files = [
        our_dxf::write(&curves(&plan), Release::R12),
        svg::write(&full_size::sheets(&curves(&plan))).into_bytes(),
        own.as_bytes().to_vec(),
    ];
    for file in files {
        for n in (0..file.len()).step_by(file.len() / 60 + 1) {
            let _ = read(&file[..n]);
            let mut bad = file.clone();
            bad[n] = bad[n].wrapping_add(13);
            let _ = read(&bad);
        }
    }
}
