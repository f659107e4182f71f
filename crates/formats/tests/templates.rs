//! Captured curves on paper and for cutters, read back by other people's readers.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

use jigfit_core::plan::{Plan, solve};
use jigfit_core::project::{Paper, Project};
use jigfit_formats::page::{Item, Page};
use jigfit_formats::{csv, dxf, full_size, pdf, svg};
use lopdf::content::Content;
use rstest::rstest;

fn demo(paper: Paper) -> (Project, Plan) {
    let path = format!("{}/../server/demo/moth.json", env!("CARGO_MANIFEST_DIR"));
    let value = serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    let mut project = jigfit_core::furniture::read(value).unwrap();
    project.units.paper = paper;
    let plan = solve(&project);
    (project, plan)
}

fn near(p: (f64, f64), line: &[(f64, f64)]) -> f64 {
    let of = |a: (f64, f64), b: (f64, f64)| {
        let (dx, dy) = (b.0 - a.0, b.1 - a.1);
        let l = dx * dx + dy * dy;
        let t = if l > 0.0 {
            (((p.0 - a.0) * dx + (p.1 - a.1) * dy) / l).clamp(0.0, 1.0)
        } else {
            0.0
        };
        (p.0 - a.0 - t * dx).hypot(p.1 - a.1 - t * dy)
    };
    line.windows(2)
        .map(|w| of(w[0], w[1]))
        .fold(f64::INFINITY, f64::min)
}

/// Another reader finds the same curve, in order, on its layer.
#[test]
fn dxf_reads_back() {
    let (_, plan) = demo(Paper::A4);
    let bytes = dxf::templates(&plan);
    let drawing = ::dxf::Drawing::load(&mut std::io::Cursor::new(bytes)).unwrap();
    let lines: Vec<_> = drawing
        .entities()
        .filter_map(|e| match &e.specific {
            ::dxf::entities::EntityType::Polyline(p) if e.common.layer == "CUT" => Some(
                p.vertices()
                    .map(|v| (v.location.x, v.location.y))
                    .collect::<Vec<_>>(),
            ),
            _ => None,
        })
        .collect();
    assert_eq!(lines.len(), plan.templates.len());
    for (line, t) in lines.iter().zip(&plan.templates) {
        assert_eq!(line.len(), t.cut.len());
        // The same curve, put elsewhere: every point lies by the same step from where it was.
        let by = (line[0].0 - t.cut[0][0], line[0].1 - t.cut[0][1]);
        for (p, q) in line.iter().zip(&t.cut) {
            assert!((p.0 - q[0] - by.0).abs() < 0.01 && (p.1 - q[1] - by.1).abs() < 0.01);
        }
    }
}

/// Pages laid by their names cover the whole curve, and show nothing else in bold.
#[rstest]
#[case(Paper::A4)]
#[case(Paper::Letter)]
fn pages_cover_the_curve(#[case] paper: Paper) {
    let (project, plan) = demo(paper);
    let pages = full_size::pages(&project, &plan);
    for t in &plan.templates {
        let own: Vec<&Page> = pages
            .iter()
            .filter(|p| p.title.starts_with(&format!("{}: page ", t.name)))
            .collect();
        assert!(own.len() >= 4, "{} pages", own.len());
        let mut drawn: Vec<[(f64, f64); 2]> = vec![];
        for p in own {
            // By hand: margins of 10 mm, a foot of 20, and 10 mm shared.
            let (step_x, step_y) = (p.w - 30.0, p.h - 50.0);
            let name = p.title.rsplit(' ').next().unwrap();
            let row = f64::from(name.as_bytes()[0] - b'A');
            let col: f64 = name[1..].parse::<f64>().unwrap() - 1.0;
            for item in &p.items {
                if let Item::Shape {
                    rings,
                    pen: Some(pen),
                    closed: false,
                    ..
                } = item
                    && pen.width > 0.5
                {
                    let at = |q: (f64, f64)| (q.0 - 10.0 + col * step_x, q.1 - 10.0 + row * step_y);
                    drawn.push([at(rings[0][0]), at(rings[0][1])]);
                }
            }
        }
        // The curve as it lies: its own places less its least, y down.
        let all = || t.cut.iter().chain(t.table.iter().flat_map(|t| &t.edge));
        let x0 = all().map(|p| p[0]).fold(f64::INFINITY, f64::min) - 8.0;
        let y1 = all().map(|p| p[1]).fold(f64::NEG_INFINITY, f64::max) + 8.0;
        let line: Vec<(f64, f64)> = t.cut.iter().map(|p| (p[0] - x0, y1 - p[1])).collect();
        for s in &drawn {
            assert!(s.iter().all(|p| near(*p, &line) < 0.01));
        }
        let mut middles = line
            .windows(2)
            .map(|w| ((w[0].0 + w[1].0) / 2.0, (w[0].1 + w[1].1) / 2.0));
        assert!(
            middles.all(|m| drawn.iter().any(|s| near(m, s) < 0.01)),
            "{}",
            t.name
        );
    }
}

/// Coordinates of all path points of a PDF page in mm, by its own transformations.
fn measured(bytes: &[u8], page: usize) -> Vec<[(f64, f64); 2]> {
    let file = lopdf::Document::load_mem(bytes).unwrap();
    let id = file.get_pages().into_values().nth(page).unwrap();
    let content = Content::decode(&file.get_page_content(id).unwrap()).unwrap();
    let mut stack = vec![];
    let mut m = [1.0, 0.0, 0.0, 1.0, 0.0, 0.0];
    let mut last = (0.0, 0.0);
    let mut out = vec![];
    for op in content.operations {
        let v: Vec<f64> = op
            .operands
            .iter()
            .filter_map(|o| o.as_float().ok().map(f64::from))
            .collect();
        let at = |m: &[f64; 6], x: f64, y: f64| {
            let k = 25.4 / 72.0;
            (
                (m[0] * x + m[2] * y + m[4]) * k,
                (m[1] * x + m[3] * y + m[5]) * k,
            )
        };
        match (op.operator.as_str(), v.as_slice()) {
            ("q", _) => stack.push(m),
            ("Q", _) => m = stack.pop().unwrap(),
            ("cm", [a, b, c, d, e, f]) => {
                let n = m;
                m = [
                    a * n[0] + b * n[2],
                    a * n[1] + b * n[3],
                    c * n[0] + d * n[2],
                    c * n[1] + d * n[3],
                    e * n[0] + f * n[2] + n[4],
                    e * n[1] + f * n[3] + n[5],
                ];
            }
            ("m", [x, y]) => last = at(&m, *x, *y),
            ("l", [x, y]) => {
                let p = at(&m, *x, *y);
                out.push([last, p]);
                last = p;
            }
            _ => {}
        }
    }
    out
}

/// A PDF reader measures the check bars and the curve itself: 0.1 mm.
#[rstest]
#[case(Paper::A4, [210.0, 297.0])]
#[case(Paper::Letter, [215.9, 279.4])]
fn the_pdf_is_full_size(#[case] paper: Paper, #[case] sides: [f64; 2]) {
    let (project, plan) = demo(paper);
    let pages = full_size::pages(&project, &plan);
    let bytes = pdf::write(&pages, "curves").unwrap();
    for (i, page) in pages
        .iter()
        .enumerate()
        .filter(|(_, p)| p.title.contains(": page "))
    {
        let lines = measured(&bytes, i);
        let long = |l: &[(f64, f64); 2]| ((l[0].0 - l[1].0).abs(), (l[0].1 - l[1].1).abs());
        let bar = |w: f64, h: f64| {
            lines
                .iter()
                .map(long)
                .any(|(a, b)| (a - w).abs() < 0.05 && (b - h).abs() < 0.05)
        };
        assert!(bar(100.0, 0.0) && bar(0.0, 100.0), "{}", page.title);
        assert!(bar(101.6, 0.0) && bar(0.0, 101.6), "4 in");
        let side = |v: f64| sides.iter().any(|s| (s - v).abs() < 1e-6);
        assert!(side(page.w) && side(page.h));
        // Every line of the page is in the file where it is on the page.
        for item in &page.items {
            if let Item::Shape {
                rings,
                closed: false,
                ..
            } = item
            {
                for p in &rings[0] {
                    let there = lines
                        .iter()
                        .flatten()
                        .any(|q| (q.0 - p.0).abs() < 0.1 && (page.h - q.1 - p.1).abs() < 0.1);
                    assert!(there, "{} {p:?}", page.title);
                }
            }
        }
    }
}

/// A printer whose bars came out as 99.2 and 100.5 mm: what is sent makes them 100.
#[test]
fn a_printer_that_is_off_is_corrected() {
    let (mut project, plan) = demo(Paper::A4);
    (project.units.printed_across, project.units.printed_up) = (Some(99.2), Some(100.5));
    let bytes = pdf::write(&full_size::pages(&project, &plan), "curves").unwrap();
    let lines = measured(&bytes, 1);
    let long = |l: &[(f64, f64); 2]| ((l[0].0 - l[1].0).abs(), (l[0].1 - l[1].1).abs());
    // On this printer a line sent 100 mm long comes out 99.2 across and 100.5 up.
    let bar = |w: f64, h: f64| {
        let mut all = lines.iter().map(long).map(|(a, b)| (a * 0.992, b * 1.005));
        all.any(|(a, b)| (a - w).abs() < 0.05 && (b - h).abs() < 0.05)
    };
    assert!(bar(100.0, 0.0) && bar(0.0, 100.0));
}

/// One sheet a curve, in millimetres; the table as CSV.
#[test]
fn svg_and_csv() {
    let (_, plan) = demo(Paper::A4);
    let text = svg::write(&full_size::sheets(&plan));
    let xml = roxmltree::Document::parse(&text).unwrap();
    let root = xml.root_element();
    let width: f64 = root
        .attribute("width")
        .unwrap()
        .trim_end_matches("mm")
        .parse()
        .unwrap();
    let widest = plan
        .templates
        .iter()
        .map(|t| {
            let xs = t.cut.iter().map(|p| p[0]);
            xs.clone().fold(f64::NEG_INFINITY, f64::max) - xs.fold(f64::INFINITY, f64::min)
        })
        .fold(0.0, f64::max);
    assert!((width - widest - 16.0).abs() < 2.0, "{width} {widest}");
    let text = String::from_utf8(csv::ordinates(&plan).unwrap()).unwrap();
    let rows: usize = plan
        .templates
        .iter()
        .filter_map(|t| Some(t.table.as_ref()?.rows.len()))
        .sum();
    assert_eq!(text.lines().count(), rows + 1);
}

/// Without a curve there is nothing to print, and that is a file all the same.
#[test]
fn no_curve() {
    let (mut project, _) = demo(Paper::A4);
    project.templates.clear();
    let plan = solve(&project);
    assert!(full_size::pages(&project, &plan).is_empty());
    assert!(pdf::write(&full_size::pages(&project, &plan), "none").is_ok());
    let bytes = dxf::templates(&plan);
    assert_eq!(
        ::dxf::Drawing::load(&mut std::io::Cursor::new(bytes))
            .unwrap()
            .entities()
            .count(),
        0
    );
}
