//! Where parts are bored for the screws of their joints.

use crate::common::*;
use jigfit_core::furniture::built::{Fasten, Vec3};
use jigfit_core::parts::Part;
use jigfit_core::plan::Plan;
use jigfit_core::solids::Solid;
use rstest::rstest;
use serde_json::json;

fn part<'a>(p: &'a Plan, name: &str) -> &'a Part {
    p.parts.iter().find(|q| q.name == name).unwrap()
}

/// By hand: the bottom of a carcass 545 deep and 420 wide lies under sides of 15, which stand at its edges. 465 between the outermost
/// screws, 40 off either end, are parted into four, 116.25 each; all 7.5 in from the edge, which is 8 on a tape of millimetres. The
/// other row is as far from the other edge.
#[test]
fn a_carcass_is_bored_along_its_sides() {
    let p = plan(&demo("moth"));
    let bottom = part(&p, "chart drawer, carcass, bottom");
    assert_eq!(
        (bottom.w.value.round(), bottom.h.value.round()),
        (545.0, 420.0)
    );
    let rows: Vec<_> = bottom.screws.iter().map(|r| r.at.clone()).collect();
    let row = |v: f64| [40.0, 156.0, 273.0, 389.0, 505.0].map(|u| [u, v]).to_vec();
    assert_eq!(rows, vec![row(8.0), row(413.0)]);
    for r in &bottom.screws {
        // A screw of 4 passes half a millimetre more; 15 mm of board and 25 mm of grip make 40.
        assert_eq!(r.diameter.as_ref().unwrap().value, 4.5);
        assert_eq!(r.what, "wood screw, countersunk 4 x 40 mm, glue");
        assert!(
            r.words
                .contains("5 holes 4.5 mm, from 40 mm to 505 mm across,"),
            "{}",
            r.words
        );
    }
    // What is screwed into is piloted through those holes, not marked.
    let side = part(&p, "chart drawer, carcass, side");
    assert!(side.screws.iter().all(|r| r.to != bottom.mark));
}

/// As many holes as screws are counted and bought, each in its board's wood; and behind it, where a butt joint's screw grips 25 mm deep,
/// there is nothing but the other board.
#[rstest]
#[case("moth")]
#[case("moth-whole")]
#[case("kingfisher")]
#[case("wren")]
fn every_screw_goes_into_wood(#[case] name: &str) {
    const GRIP: f64 = 25.0;
    let p = plan(&demo(name));
    let solid = |id: &str| {
        let board = p.boards.iter().find(|b| b.id == id).unwrap();
        Solid::at(board, board.shut)
    };
    let mut bored = 0;
    let bored_for = p
        .joints
        .iter()
        .flat_map(|j| j.holes.iter().map(move |h| (j, h)));
    for (j, holes) in bored_for.filter(|(_, h)| !h.rows.is_empty()) {
        let (a, b) = (solid(&j.a), solid(&j.b));
        let [first, second] = holes.through;
        let (one, other) = if first { (&a, &b) } else { (&b, &a) };
        assert!(first != second, "{} {}", j.a, j.b);
        let n = one.pose.w();
        let middle = |s: &Solid| -> Vec3 { std::array::from_fn(|k| (s.low[k] + s.high[k]) / 2.0) };
        let points: Vec<&Vec3> = holes.rows.iter().flatten().collect();
        if j.how == Fasten::Butt {
            assert_eq!(points.len() as u32, j.screws);
            for p in points {
                let (m, o) = (middle(one), middle(other));
                let to: f64 = (0..3).map(|k| n[k] * (o[k] - m[k])).sum();
                let deep =
                    |by: f64| -> Vec3 { std::array::from_fn(|k| p[k] + by * to.signum() * n[k]) };
                assert!(
                    one.holds(deep(-2.0)),
                    "{name}: {} {}: no wood at {p:?}",
                    j.a,
                    j.b
                );
                for by in [2.0, GRIP / 2.0, GRIP] {
                    assert!(other.holds(deep(by)), "{name}: {} {} {by}: {p:?}", j.a, j.b);
                }
                bored += 1;
            }
        }
    }
    assert!(bored > 10, "{bored}");
    let listed: usize = p
        .parts
        .iter()
        .flat_map(|q| &q.screws)
        .map(|r| r.at.len())
        .sum();
    assert!(listed > 10);
    for q in &p.parts {
        for r in &q.screws {
            assert!(
                !r.to.is_empty()
                    && r.at.iter().all(|[u, v]| {
                        (0.0..=q.w.value).contains(u) && (0.0..=q.h.value).contains(v)
                    }),
                "{name} {}: {}",
                q.mark,
                r.words
            );
        }
    }
}

/// Two angles that meet are bored for a bolt of 8 in both, 9 wide (ISO 273, medium, from memory); the board on them is screwed to
/// through holes in the metal, and has none itself.
#[test]
fn metal_is_bored_not_the_board_on_it() {
    let mut doc = box_van();
    doc["modules"]["deck"]["choices"]["supports"] =
        json!({"manner": "ledgers", "material": "steel-angle-40"});
    let p = plan(&doc);
    let role = |role: &str| {
        let ids: Vec<_> = p.boards.iter().filter(|b| b.role == role).collect();
        let own = p
            .parts
            .iter()
            .filter(move |q| ids.iter().any(|b| q.boards.contains(&b.id)));
        own.collect::<Vec<_>>()
    };
    let (ledgers, rails, panels) = (role("ledger"), role("rail"), role("panel"));
    let rows = panels.iter().flat_map(|q| &q.screws);
    assert!(
        rows.clone()
            .all(|r| r.what.ends_with("room for a bolt's head"))
    );
    let bolts = |q: &Part| -> Vec<f64> {
        let own = q.screws.iter().filter(|r| r.what.starts_with("bolt"));
        own.map(|r| r.diameter.as_ref().unwrap().value).collect()
    };
    for q in ledgers.iter().chain(&rails) {
        assert!(
            !bolts(q).is_empty() && bolts(q).iter().all(|d| *d == 9.0),
            "{}",
            q.mark
        );
        let wood: Vec<_> = q
            .screws
            .iter()
            .filter(|r| r.what.starts_with("wood"))
            .collect();
        assert!(!wood.is_empty(), "{}", q.mark);
        // The angle's upper leg, under the board.
        assert!(
            wood.iter().all(|r| r.at.iter().all(|at| at[1] == 40.0)),
            "{}",
            q.mark
        );
        assert!(q.then.iter().any(|t| t.contains("paint what is bare")));
    }
}

/// Of slats cut alike not each lies on the same frames: what only some have says on how many.
#[test]
fn what_only_some_have_is_told() {
    let p = plan(&demo("kingfisher"));
    let slats: Vec<_> = p
        .parts
        .iter()
        .filter(|q| q.count > 1 && q.name.contains("slat"))
        .collect();
    let some: Vec<_> = slats
        .iter()
        .flat_map(|q| q.screws.iter().map(move |r| (q, r)))
        .filter(|(_, r)| !r.which.is_empty())
        .collect();
    assert!(!some.is_empty());
    for (q, r) in some {
        let (k, n) = r.which.split_once(" of ").unwrap();
        let (k, n): (u32, u32) = (k.parse().unwrap(), n.parse().unwrap());
        assert!(k < n && n == q.count, "{}", r.words);
    }
}

/// Where a line along an axis of the vehicle lies in a board: what single points on it say, on every board of the demo, along all three
/// axes; a point nearer than 1 mm to an end is not asked.
#[test]
fn lines_say_what_points_say() {
    let p = plan(&demo("moth-whole"));
    let (mut inside, mut outside) = (0, 0);
    for board in &p.boards {
        let s = Solid::at(board, board.shut);
        for axis in 0..3 {
            for i in 1..8 {
                // Not through corners: a third and an eighth go nowhere near each other.
                let share = |k: usize| f64::from(i * (k as i32 + 2)) / 8.7 % 1.0;
                let at: Vec3 =
                    std::array::from_fn(|k| s.low[k] + share(k) * (s.high[k] - s.low[k]));
                let Some(stretches) = s.line(at, axis) else {
                    continue;
                };
                let (low, high) = (s.low[axis] - 5.0, s.high[axis] + 5.0);
                for n in 0..=60 {
                    let here = low + (high - low) * f64::from(n) / 60.0;
                    let near = |e: f64| (e - here).abs() < 1.0;
                    if stretches.iter().any(|e| near(e.0) || near(e.1)) {
                        continue;
                    }
                    let mut point = at;
                    point[axis] = here;
                    let said = stretches.iter().any(|e| e.0 < here && here < e.1);
                    assert_eq!(s.holds(point), said, "{} {axis} {point:?}", board.id);
                    *(if said { &mut inside } else { &mut outside }) += 1;
                }
            }
        }
    }
    assert!(inside > 1000 && outside > 1000, "{inside} {outside}");
}

/// Every screw that runs square through one board into another ends at least 2 mm inside that one, and grips it by 5 mm at the
/// least, and by 25 where it goes in at the edge (both are choices, named in `joints/screw.rs`): looked at as solids, in steps
/// of a quarter of a millimetre.
fn stays_inside(p: &Plan, name: &str) -> usize {
    let solid = |id: &str| {
        let board = p.boards.iter().find(|b| b.id == id).unwrap();
        Solid::at(board, board.shut)
    };
    let mut seen = 0;
    let screwed = p
        .joints
        .iter()
        .flat_map(|j| j.holes.iter().map(move |h| (j, h)));
    for (j, holes) in screwed {
        let (Some(long), false) = (holes.long, holes.rows.is_empty()) else {
            continue;
        };
        let (a, b) = (solid(&j.a), solid(&j.b));
        let (one, other) = if holes.through[0] { (&a, &b) } else { (&b, &a) };
        let n = one.pose.w();
        let middle = |s: &Solid| -> Vec3 { std::array::from_fn(|k| (s.low[k] + s.high[k]) / 2.0) };
        let (m, o) = (middle(one), middle(other));
        let to: f64 = (0..3).map(|k| n[k] * (o[k] - m[k])).sum();
        let grip = long - one.board.thickness;
        assert!(
            grip >= 5.0 - 1e-9,
            "{name}: {} into {}: {long} grips {grip}",
            j.a,
            j.b
        );
        for p in holes.rows.iter().flatten() {
            let at = |by: f64| -> Vec3 { std::array::from_fn(|k| p[k] + by * to.signum() * n[k]) };
            // Past the touch itself, as deep as the tip and two more.
            let mut deep = 0.5;
            while deep <= grip + 2.0 - 0.3 {
                assert!(
                    other.holds(at(deep)),
                    "{name}: {} into {}: {long} mm, no wood {deep} deep at {p:?}",
                    j.a,
                    j.b
                );
                deep += 0.25;
            }
            seen += 1;
        }
    }
    seen
}

#[test]
fn every_screw_ends_inside_its_last_board() {
    let mut seen = 0;
    for name in ["moth", "moth-whole", "kingfisher", "wren"] {
        seen += stays_inside(&plan(&demo(name)), name);
    }
    for k in jigfit_core::furniture::KINDS {
        let mut doc = bare();
        add(&mut doc, k.name(), &[]).unwrap();
        seen += stays_inside(&plan(&doc), k.name());
        // The same of the thinnest boards the kind takes.
        for t in [9.5, 12.7] {
            let mut doc = doc.clone();
            let module = doc["modules"]
                .as_object_mut()
                .unwrap()
                .values_mut()
                .next()
                .unwrap();
            for field in ["thickness", "lid", "top", "shelf"] {
                if module["choices"][field].is_number() {
                    module["choices"][field] = json!(t);
                }
            }
            if let Ok(project) = jigfit_core::furniture::read(doc.clone()) {
                seen += stays_inside(&jigfit_core::plan::solve(&project), k.name());
            }
        }
    }
    for seed in 0..60 {
        let doc = random::random(seed);
        seen += stays_inside(&plan(&doc), &format!("random {seed}"));
    }
    assert!(seen > 3000, "{seen}");
}
