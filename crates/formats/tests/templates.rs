//! Captured curves on paper and for cutters, read back by other people's readers.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

use jigfit_core::parts::Part;
use jigfit_core::plan::{Plan, solve};
use jigfit_core::project::{Paper, Project};
use jigfit_formats::drawing::{boards, curves};
use jigfit_formats::dxf::Release;
use jigfit_formats::full_size::Sheet;
use jigfit_formats::page::{Item, Page};
use jigfit_formats::{csv, dxf, full_size, pdf, svg};
use lopdf::content::Content;
use rstest::rstest;

fn demo(paper: Paper) -> (Project, Plan) {
    of("moth", paper)
}

fn of(name: &str, paper: Paper) -> (Project, Plan) {
    let path = format!("{}/../server/demo/{name}.json", env!("CARGO_MANIFEST_DIR"));
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

/// Points along a polyline of another reader's, its bulges unfolded by the rule of the format: the tangent of a quarter of
/// the angle of an arc.
fn unfolded(corners: &[(f64, f64, f64)], closed: bool) -> Vec<(f64, f64)> {
    let mut out = vec![];
    let n = corners.len();
    for i in 0..if closed { n } else { n - 1 } {
        let ((x0, y0, bulge), (x1, y1, _)) = (corners[i], corners[(i + 1) % n]);
        let angle = 4.0 * bulge.atan();
        for k in 0..20 {
            let t = f64::from(k) / 20.0;
            if bulge == 0.0 {
                out.push((x0 + t * (x1 - x0), y0 + t * (y1 - y0)));
                continue;
            }
            // The chord turned about the centre: centre = middle + chord turned left / (2 tan(angle / 2)).
            let f = 1.0 / (2.0 * (angle / 2.0).tan());
            let (cx, cy) = (
                (x0 + x1) / 2.0 - f * (y1 - y0),
                (y0 + y1) / 2.0 + f * (x1 - x0),
            );
            let (s, c) = (t * angle).sin_cos();
            let (dx, dy) = (x0 - cx, y0 - cy);
            out.push((cx + c * dx - s * dy, cy + s * dx + c * dy));
        }
    }
    let last = if closed { corners[0] } else { corners[n - 1] };
    out.push((last.0, last.1));
    out
}

/// What another reader finds: lines with their layer, circles, words.
type Found = (
    Vec<(String, Vec<(f64, f64)>, usize)>,
    Vec<(f64, f64, f64)>,
    Vec<String>,
);

fn read_by_another(bytes: Vec<u8>) -> Found {
    use ::dxf::entities::EntityType;
    let drawing = ::dxf::Drawing::load(&mut std::io::Cursor::new(bytes)).unwrap();
    let (mut lines, mut circles, mut words) = (vec![], vec![], vec![]);
    for e in drawing.entities() {
        let layer = e.common.layer.clone();
        match &e.specific {
            EntityType::Polyline(p) => {
                let corners: Vec<_> = p
                    .vertices()
                    .map(|v| (v.location.x, v.location.y, v.bulge))
                    .collect();
                lines.push((layer, unfolded(&corners, p.is_closed()), corners.len()));
            }
            EntityType::LwPolyline(p) => {
                let corners: Vec<_> = p.vertices.iter().map(|v| (v.x, v.y, v.bulge)).collect();
                lines.push((layer, unfolded(&corners, p.is_closed()), corners.len()));
            }
            EntityType::Circle(c) => {
                assert_eq!(layer, "DRILL");
                circles.push((c.center.x, c.center.y, c.radius));
            }
            EntityType::Text(t) => words.push(t.value.clone()),
            other => panic!("{other:?}"),
        }
    }
    (lines, circles, words)
}

fn both_ways(a: &[(f64, f64)], b: &[(f64, f64)]) -> f64 {
    let one = a.iter().map(|p| near(*p, b)).fold(0.0, f64::max);
    b.iter().map(|p| near(*p, a)).fold(one, f64::max)
}

/// Another reader finds the same curves on their layer in both releases, within 0.05 mm, with a tenth of the points.
#[rstest]
#[case(Release::R12, ::dxf::enums::AcadVersion::R12)]
#[case(Release::R2000, ::dxf::enums::AcadVersion::R2000)]
fn dxf_reads_back(#[case] release: Release, #[case] version: ::dxf::enums::AcadVersion) {
    let (_, plan) = demo(Paper::A4);
    let bytes = dxf::write(&curves(&plan), release);
    let header = ::dxf::Drawing::load(&mut std::io::Cursor::new(bytes.clone()))
        .unwrap()
        .header;
    assert_eq!(header.version, version);
    if release == Release::R2000 {
        assert_eq!(
            header.default_drawing_units,
            ::dxf::enums::Units::Millimeters
        );
    }
    let (lines, ..) = read_by_another(bytes);
    let cut: Vec<_> = lines.iter().filter(|l| l.0 == "CUT").collect();
    assert_eq!(cut.len(), plan.templates.len());
    for ((_, line, corners), t) in cut.into_iter().zip(&plan.templates) {
        // The same curve, put elsewhere.
        let by = (line[0].0 - t.cut[0][0], line[0].1 - t.cut[0][1]);
        let own: Vec<_> = t.cut.iter().map(|p| (p[0] + by.0, p[1] + by.1)).collect();
        assert!(both_ways(line, &own) < 0.05, "{}", t.name);
        assert!(
            *corners * 5 < t.cut.len().max(100),
            "{corners} of {}",
            t.cut.len()
        );
    }
}

/// A board is what its card says: the blank's size, the outline within 0.05 mm, its vents as circles where the card has
/// them, its mark; one alone is the same.
#[rstest]
#[case(Release::R12)]
#[case(Release::R2000)]
fn boards_as_dxf(#[case] release: Release) {
    let (_, plan) = demo(Paper::A4);
    let (lines, circles, words) = read_by_another(dxf::write(&boards(&plan, None), release));
    // Its mark, and beside an edge that may be tilted by how much.
    let told = |p: &Part| {
        let tilts = p.bevels.iter();
        let tilts = tilts.map(|b| format!("{}deg,{}larger", b.deg, b.larger));
        std::iter::once(p.mark.clone())
            .chain(tilts)
            .collect::<Vec<_>>()
    };
    let said: Vec<String> = plan.parts.iter().flat_map(told).collect();
    assert!(said.len() > plan.parts.len());
    assert_eq!(words, said);
    let vents = plan
        .parts
        .iter()
        .flat_map(|p| &p.features)
        .filter(|f| f.kind == "vent")
        .count();
    assert_eq!(circles.len(), vents);
    assert!(vents > 0 && lines.iter().any(|l| l.0 == "MARK"));
    for p in &plan.parts {
        let (lines, circles, _) =
            read_by_another(dxf::write(&boards(&plan, Some(&p.mark)), release));
        let (_, outer, _) = &lines[0];
        let least = |k: fn(&(f64, f64)) -> f64| outer.iter().map(k).fold(f64::INFINITY, f64::min);
        let most =
            |k: fn(&(f64, f64)) -> f64| outer.iter().map(k).fold(f64::NEG_INFINITY, f64::max);
        assert!(
            (most(|p| p.0) - least(|p| p.0) - p.w.value).abs() < 0.05,
            "{}",
            p.mark
        );
        assert!(
            (most(|p| p.1) - least(|p| p.1) - p.h.value).abs() < 0.05,
            "{}",
            p.mark
        );
        let ring: Vec<_> = p
            .outline
            .outer
            .iter()
            .chain(p.outline.outer.first())
            .map(|q| (q[0], q[1]))
            .collect();
        assert!(both_ways(outer, &ring) < 0.05, "{}", p.mark);
        for f in p.features.iter().filter(|f| f.kind == "vent") {
            let r = f.diameter.as_ref().unwrap().value / 2.0;
            let there = |c: &(f64, f64, f64)| {
                (c.0 - f.at[0]).hypot(c.1 - f.at[1]) < 0.05 && (c.2 - r).abs() < 0.01
            };
            assert!(circles.iter().any(there), "{}", p.mark);
        }
        // What is left in the outline's holes is cut.
        let holes = lines.iter().filter(|l| l.0 == "CUT").count() - 1;
        assert_eq!(holes + circles.len(), p.outline.holes.len(), "{}", p.mark);
    }
    assert!(boards(&plan, Some("nobody")).is_empty());
}

/// Edges along a hull that leans carry a line beside them on a layer of their own, with the tilt in words; it is never cut.
#[test]
fn bevels_have_a_layer() {
    let (_, plan) = of("kingfisher", Paper::A4);
    let mut seen = 0;
    for p in plan.parts.iter().filter(|p| !p.bevels.is_empty()) {
        for release in [Release::R12, Release::R2000] {
            let bytes = dxf::write(&boards(&plan, Some(&p.mark)), release);
            let (lines, _, words) = read_by_another(bytes);
            let beside: Vec<_> = lines.iter().filter(|l| l.0 == "BEVEL").collect();
            assert_eq!(beside.len(), p.bevels.len(), "{}", p.mark);
            // A board may be put elsewhere on its sheet.
            let begin = &lines.iter().find(|l| l.0 == "CUT").unwrap().1[0];
            let own = p.outline.outer[0];
            let by = (begin.0 - own[0], begin.1 - own[1]);
            for (line, b) in beside.into_iter().zip(&p.bevels) {
                // 12 mm beside the edge, all along it, but never outside the blank.
                for (q, end) in [
                    (line.1[0], b.along[0]),
                    (line.1[line.1.len() - 1], b.along[b.along.len() - 1]),
                ] {
                    let at = [q.0 - by.0, q.1 - by.1];
                    let off = (at[0] - end[0]).hypot(at[1] - end[1]);
                    let least = at[0].min(at[1]);
                    let spare = (p.w.value - at[0]).min(p.h.value - at[1]).min(least);
                    assert!(spare > -0.01, "{}: {at:?}", p.mark);
                    let held = spare < 0.01 && off < 12.01;
                    assert!(held || (off - 12.0).abs() < 0.01, "{}: {off}", p.mark);
                }
                assert!(words.contains(&format!("{:.0}deg,{}larger", b.deg, b.larger)));
            }
            seen += 1;
        }
    }
    assert!(seen >= 4, "{seen}");
}

/// On a roll a board comes out in one piece, on A3 in fewer pages than on A4; the bars stand on each.
#[test]
fn rolls_and_large_sheets() {
    let (project, plan) = demo(Paper::A4);
    let largest = plan
        .parts
        .iter()
        .max_by(|a, b| (a.w.value * a.h.value).total_cmp(&(b.w.value * b.h.value)))
        .unwrap();
    let one = boards(&plan, Some(&largest.mark));
    let count = |name: &str| full_size::pages(&project, &one, Sheet::named(name).unwrap()).len();
    assert!(count("a3") < count("a4") && count("letter") > count("a3"));
    let pages = full_size::pages(&project, &one, Sheet::named("roll-914").unwrap());
    // One page, as wide as the roll, that needs no plan.
    assert_eq!(pages.len(), 1);
    assert!((pages[0].w - 914.4).abs() < 1e-6 || (pages[0].h - 914.4).abs() < 1e-6);
    let bytes = pdf::write(&pages, "roll").unwrap();
    let lines = measured(&bytes, 0);
    let long = |l: &[(f64, f64); 2]| ((l[0].0 - l[1].0).abs(), (l[0].1 - l[1].1).abs());
    assert!(
        lines
            .iter()
            .map(long)
            .any(|(a, b)| (a - 100.0).abs() < 0.05 && b < 0.05)
    );
    assert!(Sheet::named("b5").is_none());
}

/// Pages laid by their names cover the whole curve, and show nothing else in bold.
#[rstest]
#[case(Paper::A4)]
#[case(Paper::Letter)]
fn pages_cover_the_curve(#[case] paper: Paper) {
    let (project, plan) = demo(paper);
    let pages = full_size::pages(&project, &curves(&plan), Sheet::of(&project));
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
    let pages = full_size::pages(&project, &curves(&plan), Sheet::of(&project));
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
    let bytes = pdf::write(
        &full_size::pages(&project, &curves(&plan), Sheet::of(&project)),
        "curves",
    )
    .unwrap();
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
    let text = svg::write(&full_size::sheets(&curves(&plan)));
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
    assert!(full_size::pages(&project, &curves(&plan), Sheet::of(&project)).is_empty());
    assert!(
        pdf::write(
            &full_size::pages(&project, &curves(&plan), Sheet::of(&project)),
            "none"
        )
        .is_ok()
    );
    let bytes = dxf::write(&curves(&plan), Release::R12);
    assert_eq!(
        ::dxf::Drawing::load(&mut std::io::Cursor::new(bytes))
            .unwrap()
            .entities()
            .count(),
        0
    );
}
