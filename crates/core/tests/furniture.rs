//! Kinds of furniture: added, placed, refused; in each other, and what they meet when they move.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::furniture::read;
use jigfit_core::plan::solve;
use jigfit_core::project::module::Lengthwise;
use jigfit_core::solids::Solid;
use rstest::rstest;
use serde_json::{Value, json};

#[test]
fn every_kind_finds_a_place_and_gets_an_identifier() {
    let mut doc = bare();
    for (kind, id) in [
        ("deck", "deck"),
        ("box_seat", "box_seat"),
        ("drawer", "drawer"),
        ("box_seat", "box_seat-2"),
        ("drawer", "drawer-2"),
        ("deck", "deck-2"),
    ] {
        let (given, module) = add(&mut doc, kind, &[]).unwrap();
        assert_eq!((given.as_str(), module.kind.as_str()), (id, kind));
    }
    let p = plan(&doc);
    assert_eq!(p.modules.len(), 6);
    assert!(p.modules.iter().all(|m| m.boards > 0 && !m.form.is_empty()));
    assert!(p.findings.iter().all(|f| f.check != "clash"));
    // Two decks: their marks differ.
    let marks: Vec<&str> = p.parts.iter().map(|p| p.mark.as_str()).collect();
    assert!(marks.contains(&"D1") && marks.contains(&"2D1"), "{marks:?}");
}

/// Values are typed as people type them, in the project's own unit: 16 1/2 in = 419.1 mm.
#[test]
fn choices_are_set_as_typed() {
    let mut doc = bare();
    let sets = [
        ("width", "16 1/2 in"),
        ("height", "180"),
        ("opens", "right"),
        ("across", "left_wall"),
        ("along", "30 cm"),
        ("name", "Eyepieces"),
    ];
    let (_, m) = add(&mut doc, "drawer", &sets).unwrap();
    assert!((m.choices["width"].as_f64().unwrap() - 419.1).abs() < 1e-9);
    assert_eq!(m.choices["height"], json!(180.0));
    assert_eq!(m.choices["opens"], "right");
    assert_eq!((m.place.along, m.name.as_str()), (300.0, "Eyepieces"));
    let (_, d) = add(
        &mut doc,
        "deck",
        &[
            ("supports.manner", "legs"),
            ("underside", "500"),
            ("supports.lines", "3"),
        ],
    )
    .unwrap();
    assert_eq!(d.choices["supports"]["manner"], "legs");
    assert_eq!(d.choices["supports"]["lines"], json!(3));
}

#[rstest]
#[case("shelf", &[], "/kind")]
#[case("drawer", &[("colour", "red")], "/choices/colour")]
#[case("drawer", &[("width", "wide")], "/choices/width")]
#[case("drawer", &[("width", "-5")], "/choices/width")]
#[case("drawer", &[("opens", "up")], "/choices/opens")]
#[case("drawer", &[("material", "cheese")], "/choices/material")]
#[case("drawer", &[("height", "1190"), ("width", "1390")], "/place")]
#[case("box_seat", &[("dividers", "two")], "/choices/dividers")]
#[case("box_seat", &[("dividers", "10"), ("length", "500")], "/choices/dividers")]
#[case("box_seat", &[("along", "1990")], "/place")]
#[case("box_seat", &[("across", "ceiling")], "/place/across")]
#[case("deck", &[("underside", "1190")], "/choices/underside")]
#[case("deck", &[("supports", "legs")], "/choices/supports")]
fn what_cannot_be_is_named(
    #[case] kind: &str,
    #[case] sets: &[(&str, &str)],
    #[case] pointer: &str,
) {
    let problem = add(&mut bare(), kind, sets).unwrap_err();
    assert!(problem.pointer.starts_with(pointer), "{problem}");
    assert!(!problem.detail.is_empty());
}

/// Documents with furniture that cannot be are refused at the field.
#[rstest]
#[case(json!({"kind": "shelf"}), "/modules/m/kind")]
#[case(json!({"kind": "drawer", "choices": {"width": 5}}), "/modules/m/choices/width")]
#[case(json!({"kind": "drawer", "choices": {"width": "wide"}}), "/modules/m/choices/width")]
#[case(json!({"kind": "drawer", "choices": {"wings": 2}}), "/modules/m/choices/wings")]
#[case(json!({"kind": "box_seat", "place": {"across": "up"}}), "/modules/m/place/across")]
#[case(json!({"kind": "box_seat", "place": {"along": -1}}), "/modules/m/place/along")]
#[case(json!({"kind": "box_seat", "finish": 99}), "/modules/m/finish")]
#[case(json!({"kind": "box_seat", "wings": 1}), "/modules/m/wings")]
fn bad_furniture_is_refused_at_its_field(#[case] module: Value, #[case] pointer: &str) {
    let mut doc = bare();
    doc["modules"]["m"] = module;
    assert_eq!(read(doc).unwrap_err().pointer, pointer);
}

fn seat(height: f64) -> Value {
    json!({"kind": "box_seat", "place": {"along": 800, "across": "left_wall"},
        "choices": {"length": 600, "depth": 400, "height": height, "hinge": 50}})
}

/// By hand: the lid is 400 - 50 = 350 from hinge to edge. Under a deck 20 over it, its edge meets the
/// underside where sin = 20 / 350: 3.3 degrees. In the open it leans back until its edge, 350 from the hinge,
/// is at the wall 50 behind: 90 + asin(50 / 350) = 98 degrees.
#[test]
fn a_lid_meets_the_deck_or_the_wall() {
    let mut doc = read_up_to(bare(), 800.0);
    doc["modules"]["seat"] = seat(400.0);
    let p = plan(&doc);
    let open = finding(&p, "moves.seat/lid").unwrap();
    assert_eq!(open.level, Severity::Fine, "{}", open.sentence);
    let deg: f64 = degrees(&open.sentence);
    assert!((97.0..=99.5).contains(&deg), "{}", open.sentence);
    assert!(open.sentence.contains("left wall"));
    doc["modules"]["deck"] = json!({"kind": "deck", "choices": {"underside": 420}});
    let p = plan(&doc);
    let f = finding(&p, "moves.seat/lid").unwrap();
    assert_eq!(f.level, Severity::Stop);
    assert!(
        (2.0..=4.0).contains(&degrees(&f.sentence)),
        "{}",
        f.sentence
    );
    assert!(f.sentence.contains("meets the deck"), "{}", f.sentence);
    assert_eq!(
        (f.check.as_str(), f.subject.as_str()),
        ("moves", "seat/lid")
    );
    // Its offers make plans again.
    assert!(!f.offers.is_empty());
    for offer in &f.offers {
        let mut other = serde_json::to_value(read(doc.clone()).unwrap()).unwrap();
        let patch: json_patch::Patch = serde_json::from_value(offer.patch.clone()).unwrap();
        json_patch::patch(&mut other, &patch).unwrap();
        assert!(
            solve(&read(other).unwrap()).boards.len() > 6,
            "{}",
            offer.label
        );
    }
}

fn degrees(sentence: &str) -> f64 {
    let words = sentence.split('°').next().unwrap();
    words
        .rsplit(' ')
        .next()
        .unwrap()
        .parse()
        .unwrap_or(f64::NAN)
}

/// The roof is at 1200: a lid hinged at 1150 with an edge 350 out meets it where sin = 50 / 350 or so.
#[test]
fn a_lid_meets_the_roof() {
    let mut doc = bare();
    doc["modules"]["seat"] = seat(1150.0);
    let p = plan(&doc);
    let f = finding(&p, "moves.seat/lid").unwrap();
    assert!(f.sentence.contains("the roof"), "{}", f.sentence);
    assert!(
        (7.0..=9.0).contains(&degrees(&f.sentence)),
        "{}",
        f.sentence
    );
}

/// A drawer that opens to the left from the right wall of a van 1400 wide has room; with a box before it, not.
#[test]
fn a_drawer_meets_what_stands_before_it() {
    let mut doc = bare();
    doc["modules"]["d"] = json!({"kind": "drawer", "place": {"along": 800, "across": "right_wall"},
        "choices": {"opens": "left", "width": 500, "depth": 500, "height": 200}});
    let p = plan(&doc);
    let f = finding(&p, "moves.d/drawer").unwrap();
    assert_eq!(f.level, Severity::Fine, "{}", f.sentence);
    doc["modules"]["seat"] = seat(400.0);
    doc["modules"]["seat"]["choices"]["depth"] = json!(700);
    let p = plan(&doc);
    let f = finding(&p, "moves.d/drawer").unwrap();
    assert_eq!(f.level, Severity::Stop);
    assert!(f.sentence.contains("box seat"), "{}", f.sentence);
}

#[test]
fn what_is_in_each_other_or_sticks_out_is_a_stop() {
    let mut doc = bare();
    doc["modules"]["a"] = seat(400.0);
    doc["modules"]["b"] = seat(300.0);
    let p = plan(&doc);
    let f = finding(&p, "clash.a.b").unwrap();
    assert_eq!((f.level, f.check.as_str()), (Severity::Stop, "clash"));
    let mut doc = bare();
    doc["modules"]["d"] = json!({"kind": "drawer", "place": {"along": 1700, "across": "centred"},
        "choices": {"width": 500, "depth": 600, "height": 200}});
    let p = plan(&doc);
    let f = finding(&p, "sticks-out.d").unwrap();
    // 1700 + 600 in a bay of 2000.
    assert!(
        f.sentence.contains("300") && f.sentence.contains("front"),
        "{}",
        f.sentence
    );
}

/// By hand: under a roof of 1200 its uppermost board sticks out by what it is higher, whichever of that board's faces does.
#[rstest]
#[case(1197, None)]
#[case(1206, Some(6.0))]
#[case(1210, Some(10.0))]
#[case(1240, Some(40.0))]
fn every_face_is_held_against_the_roof(#[case] high: i32, #[case] out: Option<f64>) {
    let mut doc = bare();
    doc["modules"]["a"] = json!({"kind": "cabinet", "place": {"along": 300, "across": "left_wall"},
        "choices": {"width": 500, "depth": 350, "height": high, "rows": 1, "columns": 1, "front": "open"}});
    let p = plan(&doc);
    let f = finding(&p, "sticks-out.a");
    let said = f.map(|f| {
        let words = f.sentence.split("sticks out ").nth(1).unwrap();
        let by: f64 = words.split(' ').next().unwrap().parse().unwrap();
        assert!(words.contains("the roof"), "{words}");
        by
    });
    match (said, out) {
        (None, None) => {}
        // A roof read once, to 1 mm.
        (Some(by), Some(out)) => assert!((by - out).abs() < 0.5, "{by}"),
        other => panic!("{other:?}"),
    }
}

/// Two people of one name, a module with the identifier of another's part: nothing is mixed up.
#[test]
fn names_are_no_identifiers() {
    let mut doc = box_van();
    doc["people"] =
        json!({"a": {"name": "Twin", "stature": 1700}, "b": {"name": "Twin", "stature": 1840}});
    doc["mattress"] = json!({"thickness": 50, "sag": 20});
    doc["modules"]["deck"]["choices"]["underside"] = json!(264.0);
    doc["modules"]["Import"] = seat(200.0);
    doc["modules"]["Import"]["name"] = json!("deck");
    let p = plan(&doc);
    assert!(finding(&p, "sits.a").is_some() && finding(&p, "sits.b").is_some());
    let mut ids: Vec<&String> = p.parts.iter().map(|p| &p.id).collect();
    ids.sort();
    ids.dedup();
    assert_eq!(ids.len(), p.parts.len());
}

/// Five hundred modules are refused by number, soon.
#[test]
fn five_hundred_modules_are_refused() {
    let mut doc = bare();
    for i in 0..500 {
        doc["modules"][format!("m{i}")] = seat(300.0);
    }
    assert_eq!(read(doc).unwrap_err().pointer, "/modules");
}

/// A board cut by its projection: from above a level board shows its outline, an upright one its thickness.
#[test]
fn furniture_is_drawn_from_its_boards() {
    let mut doc = bare();
    doc["modules"]["seat"] = seat(400.0);
    let p = plan(&doc);
    let shape = |view: &[jigfit_core::projection::Shape], board: &str| {
        let s = view
            .iter()
            .find(|s| s.board == format!("seat/{board}"))
            .unwrap();
        s.outline.bounds()
    };
    // The front is 600 long, 385 high, 15 thick.
    let (x0, y0, x1, y1) = shape(&p.views.above, "front");
    assert!((x1 - x0 - 600.0).abs() < 1e-9 && (y1 - y0 - 15.0).abs() < 1e-9);
    let (x0, z0, x1, z1) = shape(&p.views.side, "front");
    assert!((x1 - x0 - 600.0).abs() < 1e-9 && (z1 - z0 - 385.0).abs() < 1e-9);
    let (y0, z0b, y1, z1b) = shape(&p.views.behind, "front");
    assert!((y1 - y0 - 15.0).abs() < 1e-9 && (z1b - z0b - (z1 - z0)).abs() < 1e-9);
    // Seen from behind the left wall is at the left.
    assert!(y1 < 0.0);
    // What lies higher is drawn over what lies lower.
    let order: Vec<&str> = p.views.above.iter().map(|s| s.role.as_str()).collect();
    assert_eq!(order.last(), Some(&"lid"));
    assert!(order.iter().position(|r| *r == "bottom") < order.iter().position(|r| *r == "lid"));
}

/// By hand: the drawer is 450 wide, 600 deep, 200 high: inside 450 - 30 - 25.4 - 0.4 - 24 = 370.2 wide and
/// 200 - 30 - 4 - 9 - 8 = 149 high. A case of 360 x 300 x 140 goes in and no longer stands under the deck, one of
/// 160 height does not.
#[rstest]
#[case(140, true)]
#[case(160, false)]
fn gear_in_a_drawer_is_stowed(#[case] high: u32, #[case] goes: bool) {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["underside"] = json!(230);
    doc["gear"] =
        json!({"case": {"name": "Case", "w": 360, "d": 300, "h": high, "lid_clearance": 100}});
    doc["modules"]["d"] = json!({"kind": "drawer", "place": {"along": 25, "across": "centred"}});
    let p = plan(&doc);
    assert_eq!(finding(&p, "stowed.d").is_some(), goes);
    assert_eq!(finding(&p, "height.case").is_some(), !goes);
    assert_eq!(finding(&p, "floor.deck").is_some(), !goes);
}

/// From and to along, across and up, of all boards of a piece as they lie on the road.
fn extent(doc: &Value, module: &str) -> [(f64, f64); 3] {
    let p = plan(doc);
    let own = p.boards.iter().filter(|b| b.module == module);
    let points: Vec<[f64; 3]> = own
        .flat_map(|b| {
            let pose = b.poses["drive"];
            let at = |q: &[f64; 2]| [0.0, b.thickness].map(|t| pose.at(q[0], q[1], t));
            b.outline.outer.iter().flat_map(at).collect::<Vec<_>>()
        })
        .collect();
    std::array::from_fn(|k| {
        let all = || points.iter().map(|p| p[k]);
        (
            all().fold(f64::INFINITY, f64::min),
            all().fold(f64::NEG_INFINITY, f64::max),
        )
    })
}

/// One beside another keeps 2 mm to it, on the side that was said or else towards the middle, and moves along with it; one
/// against a well begins in front of it, never in it.
#[test]
fn pieces_stand_beside_each_other_and_against_what_is_there() {
    let mut doc = bare();
    let sets = [
        ("along", "900"),
        ("across", "left_wall"),
        ("height", "150"),
        ("width", "250"),
    ];
    add(&mut doc, "drawer", &sets).unwrap();
    let (_, m) = add(
        &mut doc,
        "drawer",
        &[
            ("beside", "drawer"),
            ("along", "900"),
            ("height", "150"),
            ("width", "250"),
        ],
    )
    .unwrap();
    assert_eq!(m.place.beside.as_deref(), Some("drawer"));
    let stored = serde_json::to_value(&m).unwrap();
    assert!(stored["place"].get("face").is_none());
    for gap in [0.0, 40.0] {
        doc["modules"]["drawer"]["place"]["gap"] = json!(gap);
        let (first, second) = (extent(&doc, "drawer"), extent(&doc, "drawer-2"));
        assert!((first[1].0 - second[1].1 - 2.0).abs() < 1e-6);
    }
    // Left of a piece at the left wall there is no vehicle.
    doc["modules"]["drawer-2"]["place"]["across"] = json!("left_wall");
    assert!(finding(&plan(&doc), "sticks-out.drawer-2").is_some());

    let mut doc = demo("moth");
    doc["modules"] = json!({});
    let well = doc["survey"]["things"].as_object().unwrap();
    let (id, _) = well.iter().find(|(_, t)| t["side"] == "left").unwrap();
    let id = id.clone();
    let sets = [("against", id.as_str()), ("across", "left_wall")];
    let (_, m) = add(&mut doc, "box_seat", &sets).unwrap();
    assert_eq!(
        (m.place.against.as_deref(), m.place.along),
        (Some(id.as_str()), 0.0)
    );
    let p = plan(&doc);
    let thing = p.survey.things.iter().find(|o| o.id == id).unwrap();
    let begins = extent(&doc, "box_seat")[0].0;
    assert!(begins > thing.x.1 && begins < thing.x.1 + 15.0);
}

/// A piece halfway to the front of a plain box leaves as much behind as before it, whatever its size; after another it stands
/// halfway between that and the front. How far off it was to stand does not count then.
#[test]
fn halfway_to_the_front() {
    let front = 2000.0;
    let mut doc = bare();
    let sets = [
        ("across", "left_wall"),
        ("lengthwise", "middle"),
        ("height", "150"),
    ];
    let (_, m) = add(&mut doc, "drawer", &sets).unwrap();
    assert_eq!(m.place.lengthwise, Lengthwise::Middle);
    doc["modules"]["drawer"]["place"]["along"] = json!(317);
    for depth in [600.0, 450.0] {
        doc["modules"]["drawer"]["choices"]["depth"] = json!(depth);
        let x = extent(&doc, "drawer")[0];
        assert!((x.1 - x.0 - depth).abs() < 1e-6);
        assert!((x.0 - (front - x.1)).abs() < 0.1, "{x:?}");
    }
    let sets = [
        ("across", "left_wall"),
        ("after", "drawer"),
        ("lengthwise", "middle"),
        ("length", "400"),
    ];
    add(&mut doc, "box_seat", &sets).unwrap();
    let (before, x) = (extent(&doc, "drawer")[0].1, extent(&doc, "box_seat")[0]);
    assert!(
        ((x.0 - before) - (front - x.1)).abs() < 2.1,
        "{before} {x:?}"
    );
    // Its form asks no distance then, and does again once it is not halfway.
    let along = |doc: &Value| {
        let p = plan(doc);
        let m = p.modules.iter().find(|m| m.id == "drawer").unwrap();
        m.form.iter().any(|f| f.pointer.ends_with("/place/along"))
    };
    assert!(!along(&doc));
    doc["modules"]["drawer"]["place"]["lengthwise"] = json!("off");
    assert!(along(&doc));
    assert!((extent(&doc, "drawer")[0].0 - 317.0).abs() < 1e-6);
    // One that is longer than the vehicle is not silently left out.
    doc["modules"]["drawer"]["place"]["lengthwise"] = json!("middle");
    doc["modules"]["drawer"]["choices"]["depth"] = json!(2600);
    let p = plan(&doc);
    let f = finding(&p, "unbuilt.drawer").unwrap();
    assert_eq!(f.level, Severity::Stop);
    assert!(f.sentence.contains("nothing can be built"));
    doc["modules"]["drawer"]["place"]["lengthwise"] = json!("aft");
    assert!(
        read(doc)
            .unwrap_err()
            .pointer
            .ends_with("/place/lengthwise")
    );
}

#[rstest]
#[case("against", "ghost", "There is nothing \"ghost\" in the vehicle")]
#[case("beside", "ghost", "There is no piece \"ghost\"")]
#[case("beside", "drawer", "The drawer cannot stand")]
fn what_is_not_there_is_told(#[case] field: &str, #[case] id: &str, #[case] words: &str) {
    let mut doc = bare();
    add(&mut doc, "drawer", &[]).unwrap();
    if id == "ghost" {
        let problem = add(&mut doc.clone(), "drawer", &[(field, id)]).unwrap_err();
        assert_eq!(problem.pointer, format!("/place/{field}"));
    }
    doc["modules"]["drawer"]["place"][field] = json!(id);
    let problem = read(doc).unwrap_err();
    assert!(problem.detail.starts_with(words), "{}", problem.detail);
    assert_eq!(problem.pointer, format!("/modules/drawer/place/{field}"));
}

/// A box that comes after a drawer begins 2 mm before its front end, wherever that is; one on another stands on it.
#[test]
fn pieces_follow_each_other() {
    let mut doc = bare();
    add(
        &mut doc,
        "drawer",
        &[("along", "100"), ("across", "left_wall"), ("height", "150")],
    )
    .unwrap();
    let (_, m) = add(
        &mut doc,
        "box_seat",
        &[
            ("after", "drawer"),
            ("across", "left_wall"),
            ("length", "400"),
        ],
    )
    .unwrap();
    assert_eq!(
        (m.place.after.as_deref(), m.place.along),
        (Some("drawer"), 0.0)
    );
    add(
        &mut doc,
        "drawer",
        &[
            ("on", "drawer"),
            ("along", "100"),
            ("across", "left_wall"),
            ("height", "120"),
        ],
    )
    .unwrap();
    let ends = |doc: &Value, module: &str| {
        let [x, _, z] = extent(doc, module);
        [x.0, x.1, z.0, z.1]
    };
    assert!(finding(&plan(&doc), "clash").is_none());
    for depth in [600.0, 450.0] {
        doc["modules"]["drawer"]["choices"]["depth"] = json!(depth);
        let [low, end, _, top] = ends(&doc, "drawer");
        assert!((low - 100.0).abs() < 1e-6 && (end - 100.0 - depth).abs() < 1e-6);
        assert!((ends(&doc, "box_seat")[0] - end - 2.0).abs() < 1e-6);
        assert!((ends(&doc, "drawer-2")[2] - top).abs() < 1e-6);
    }
}

#[rstest]
#[case(&[("drawer", "box_seat"), ("box_seat", "drawer")], "The box seat and the drawer wait for each other")]
#[case(&[("drawer", "drawer")], "The drawer cannot stand after or on itself")]
#[case(&[("drawer", "ghost")], "There is no piece \"ghost\" on which the drawer hangs")]
fn circles_are_told_by_name(#[case] relations: &[(&str, &str)], #[case] words: &str) {
    let mut doc = bare();
    add(&mut doc, "drawer", &[]).unwrap();
    add(&mut doc, "box_seat", &[]).unwrap();
    for (id, after) in relations {
        doc["modules"][id]["place"]["after"] = json!(after);
    }
    let problem = read(doc).unwrap_err();
    assert!(problem.detail.starts_with(words), "{}", problem.detail);
    assert!(
        problem.pointer.ends_with("/place/after"),
        "{}",
        problem.pointer
    );
}

/// An empty choice is none: the form sends it so.
#[test]
fn nothing_to_hang_on_is_the_threshold() {
    let mut doc = bare();
    add(&mut doc, "drawer", &[]).unwrap();
    doc["modules"]["drawer"]["place"]["after"] = json!("");
    assert_eq!(read(doc).unwrap().modules["drawer"].place.after, None);
}

/// What fits into a box counts as put away only if its lid opens far enough to reach in: under a deck right above it
/// does not.
#[test]
fn a_box_that_does_not_open_holds_nothing() {
    let mut doc = bare();
    let sets = [
        ("across", "left_wall"),
        ("height", "250"),
        ("length", "500"),
        ("depth", "400"),
    ];
    add(&mut doc, "box_seat", &sets).unwrap();
    doc["gear"] = json!({"rug": {"name": "Rug", "w": 300, "d": 200, "h": 150}});
    let p = plan(&doc);
    assert_eq!(level(&p, "stowed.box_seat"), Some(Severity::Fine));
    doc["modules"]["deck"] = json!({"kind": "deck", "choices": {"underside": 256}});
    let p = plan(&doc);
    assert!(finding(&p, "stowed.box_seat").is_none());
    let f = finding(&p, "shut-in.box_seat").unwrap();
    assert_eq!(f.level, Severity::Look);
    assert!(
        f.sentence.starts_with("Rug would lie in the box seat, but"),
        "{}",
        f.sentence
    );
}

/// A drawer at the wall, 700 from the middle, does not pass an opening 1200 wide: what is in it is not reached.
#[test]
fn a_drawer_behind_the_door_frame_holds_nothing() {
    let mut doc = bare();
    doc["gear"] = json!({"rug": {"name": "Rug", "w": 200, "d": 200, "h": 100}});
    for (across, reached) in [("left_wall", false), ("centred", true)] {
        doc["modules"] = json!({});
        add(&mut doc, "drawer", &[("across", across), ("along", "50")]).unwrap();
        let p = plan(&doc);
        assert_eq!(finding(&p, "stowed.drawer").is_some(), reached, "{across}");
        assert_eq!(
            finding(&p, "shut-in.drawer").is_some(),
            !reached,
            "{across}"
        );
    }
}

/// In an empty bay, 700 from the middle to each wall and 2000 long, a box goes against a wall whatever its height. Where the walls were not
/// read, between, above and below two heights, they are less sure: that holds a box off them and is no reason to refuse it. 200 below the
/// readings three deviations of 3 % are 18 mm, and clearance comes to that.
#[rstest]
#[case::left("left_wall", [0, 300], 20.0)]
#[case::right("right_wall", [0, 300], 20.0)]
#[case::not_read_at_the_floor("left_wall", [200, 400], 25.0)]
fn a_box_goes_against_a_wall_whatever_its_height(
    #[case] across: &str,
    #[case] read: [u32; 2],
    #[case] most: f64,
) {
    let mut bay = bare();
    let readings = bay["survey"]["readings"].as_object_mut().unwrap();
    for q in readings.values_mut().map(|r| &mut r["quantity"]) {
        if q["of"] == "wall" {
            q["z"] = json!(read[usize::from(q["z"] != 0.0)]);
        }
    }
    for height in (120..=440).step_by(10) {
        let mut doc = bay.clone();
        let high = height.to_string();
        let sets = [
            ("width", "420"),
            ("height", high.as_str()),
            ("across", across),
            ("along", "300"),
        ];
        let (id, _) = add(&mut doc, "drawer", &sets).unwrap();
        let p = plan(&doc);
        let own = p.boards.iter().filter(|b| b.module == id);
        let out = own.map(|b| {
            let s = Solid::at(b, b.shut);
            s.high[1].max(-s.low[1])
        });
        let off = 700.0 - out.fold(0.0, f64::max);
        assert!(off > 2.0 && off < most, "{height} high: {off}");
    }
}
