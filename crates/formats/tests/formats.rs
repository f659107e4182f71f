//! Files read back with other people's readers: an XML parser, a PDF parser, a CSV reader.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

use jigfit_core::plan::{Plan, solve};
use jigfit_core::project::Project;
use jigfit_formats::page::Item;
use jigfit_formats::{csv as lists, part_card, pdf, sheet_card, svg};
use rstest::rstest;

fn demo(name: &str) -> (Project, Plan) {
    let path = format!("{}/../server/demo/{name}.json", env!("CARGO_MANIFEST_DIR"));
    let value = serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    let project = jigfit_core::furniture::read(value).unwrap();
    let plan = solve(&project);
    (project, plan)
}

#[rstest]
#[case("moth")]
#[case("kingfisher")]
fn part_cards_are_well_formed_svg(#[case] name: &str) {
    let (project, plan) = demo(name);
    let text = svg::write(&part_card::pages(&project, &plan));
    let xml = roxmltree::Document::parse(&text).unwrap();
    let titles: Vec<_> = xml
        .descendants()
        .filter(|n| n.has_tag_name("title"))
        .collect();
    // A card for each part, and another page where one is full: nothing is left to the screen.
    assert!(titles.len() >= plan.parts.len());
    let words: Vec<&str> = xml
        .descendants()
        .filter(|n| n.has_tag_name("text"))
        .filter_map(|n| n.text().map(str::trim))
        .collect();
    for part in &plan.parts {
        assert!(
            words
                .iter()
                .any(|w| w.starts_with(&format!("{} ·", part.mark)))
        );
        assert!(
            words.iter().any(|w| w.contains(&part.w.mm)),
            "width of {}",
            part.mark
        );
        assert!(words.iter().any(|w| w.contains(&part.way.face)));
        for c in &part.corners {
            let there = words.iter().any(|w| w.contains(&c.u.mm));
            assert!(there, "{} {}", part.mark, c.letter);
        }
    }
    assert!(!words.iter().any(|w| w.contains("on screen")));
    // Nothing is drawn outside the page: every number of every path is on it.
    for path in xml.descendants().filter(|n| n.has_tag_name("path")) {
        let d = path.attribute("d").unwrap();
        assert!(!d.contains("NaN") && !d.contains("inf"));
    }
}

#[rstest]
#[case("moth")]
#[case("kingfisher")]
fn pdfs_have_their_pages_and_words(#[case] name: &str) {
    let (project, plan) = demo(name);
    let cards = pdf::write(&part_card::pages(&project, &plan), &project.name).unwrap();
    let parsed = lopdf::Document::load_mem(&cards).unwrap();
    assert!(parsed.get_pages().len() >= plan.parts.len());
    // Readable without our fonts: both faces are inside the file.
    let embedded = parsed.objects.values().filter_map(|o| o.as_dict().ok());
    let embedded = embedded
        .filter(|d| d.has(b"FontFile2") || d.has(b"FontFile3"))
        .count();
    assert!(embedded >= 2, "{embedded} fonts embedded");
    let drawn = parsed.get_page_content(parsed.get_pages()[&1]).unwrap();
    assert!(drawn.len() > 1000);
    let sheets = pdf::write(&sheet_card::pages(&project, &plan), &project.name).unwrap();
    let count: usize = plan.sheets.iter().map(|g| g.sheets.len()).sum();
    let pages = lopdf::Document::load_mem(&sheets).unwrap().get_pages();
    assert!(pages.len() >= count);
}

/// US Letter is 11 x 8 1/2 in; everything on it is the same, a little smaller.
#[test]
fn letter_paper() {
    let (mut project, _) = demo("moth");
    project.units.paper = jigfit_core::project::Paper::Letter;
    let pages = part_card::pages(&project, &solve(&project));
    for page in &pages {
        assert!((page.w - 279.4).abs() < 1e-9 && (page.h - 215.9).abs() < 1e-9);
    }
    assert!(roxmltree::Document::parse(&svg::write(&pages)).is_ok());
}

#[test]
fn a_page_is_a4_lying() {
    let (project, plan) = demo("moth");
    let cards = pdf::write(&part_card::pages(&project, &plan), "x").unwrap();
    let parsed = lopdf::Document::load_mem(&cards).unwrap();
    let page = parsed.get_pages()[&1];
    let media = parsed
        .get_dictionary(page)
        .unwrap()
        .get(b"MediaBox")
        .unwrap()
        .as_array()
        .unwrap();
    // A4 is 210 x 297 mm (ISO 216); a point is 25.4/72 mm.
    let w = media[2].as_float().unwrap();
    assert!((w - 297.0 / 25.4 * 72.0).abs() < 0.1);
}

/// Two tables are two files.
#[test]
fn every_cut_and_every_part_has_its_row() {
    let (_, plan) = demo("moth");
    let rows = |bytes: Vec<u8>| -> Vec<csv::StringRecord> {
        let mut reader = csv::Reader::from_reader(bytes.as_slice());
        reader.records().map(Result::unwrap).collect()
    };
    let sheets = plan.sheets.iter().flat_map(|g| &g.sheets);
    let cuts: usize = sheets.map(|s| s.cuts.len()).sum();
    assert_eq!(rows(lists::cuts(&plan).unwrap()).len(), cuts);
    let parts = rows(lists::parts(&plan).unwrap());
    let marks: Vec<&str> = parts.iter().map(|r| &r[0]).collect();
    let own: Vec<&str> = plan.parts.iter().map(|p| p.mark.as_str()).collect();
    assert_eq!(marks, own);
}

#[test]
fn readings_are_listed_and_formulas_are_not_run() {
    let (mut project, _) = demo("moth");
    let first = project.survey.readings.values_mut().next().unwrap();
    first.when = "=HYPERLINK(1)".into();
    let mut others = project.survey.readings.values_mut().skip(1);
    for note in ["\t=1+1", "\r\n=1+1", "  @SUM(1)", "\u{a0}+1"] {
        others.next().unwrap().note = note.into();
    }
    others.next().unwrap().aside = true;
    let bytes = lists::readings(&project, &solve(&project)).unwrap();
    let mut reader = csv::Reader::from_reader(bytes.as_slice());
    let rows: Vec<csv::StringRecord> = reader.records().map(Result::unwrap).collect();
    assert_eq!(rows.len(), project.survey.readings.len());
    let runs =
        |c: &str| c.parse::<f64>().is_err() && c.trim_start().starts_with(['=', '+', '-', '@']);
    assert!(rows.iter().all(|r| !r.iter().any(runs)));
    // What is set aside is there too, and says so.
    assert_eq!(rows.iter().filter(|r| &r[10] == "yes").count(), 1);
}

#[test]
fn an_empty_plan_still_gives_files() {
    let project = Project::start(
        "New",
        jigfit_core::project::VehicleKind::Van,
        jigfit_core::project::Units::default(),
    );
    let plan = solve(&project);
    assert!(roxmltree::Document::parse(&svg::write(&part_card::pages(&project, &plan))).is_ok());
    assert!(lists::cuts(&plan).unwrap().starts_with(b"sheet,"));
    assert!(pdf::write(&part_card::pages(&project, &plan), "x").is_ok());
}

/// Every step of every piece is on paper, in order, with its drawing; words stay in their room.
#[rstest]
fn steps_on_paper(#[values("moth", "moth-whole", "wren")] name: &str) {
    let (project, plan) = demo(name);
    let pages = jigfit_formats::steps_card::pages(&project, &plan);
    let steps: usize = plan.assembly.iter().map(|a| a.steps.len()).sum();
    let want: usize = plan
        .assembly
        .iter()
        .map(|a| a.steps.len().div_ceil(4))
        .sum();
    assert_eq!(pages.len(), want);
    let texts = pages.iter().flat_map(|p| &p.items).filter_map(|i| match i {
        Item::Text(t) => Some(t),
        Item::Shape { .. } => None,
    });
    let numbered = texts.filter(|t| {
        t.bold
            && t.words
                .split_once(". ")
                .is_some_and(|w| w.0.parse::<u32>().is_ok())
    });
    assert_eq!(numbered.count(), steps);
    let inside = |p: &jigfit_formats::page::Page, (x, y): (f64, f64)| {
        x >= 0.0 && x <= p.w && y >= 0.0 && y <= p.h
    };
    for p in &pages {
        for i in &p.items {
            match i {
                Item::Text(t) => assert!(inside(p, t.at), "{}", t.words),
                Item::Shape { rings, .. } => assert!(rings.iter().flatten().all(|q| inside(p, *q))),
            }
        }
    }
    assert!(roxmltree::Document::parse(&svg::write(&pages)).is_ok());
}
