//! Closure: in vehicles of known shape the boards of all kinds lie inside the true free space, none in another,
//! and each is in exactly one part. Overlap is judged by another library (`parry3d`), on convex prisms that this
//! `common/prisms.rs` makes itself.
use crate::common::prisms::{Solid, TOUCH, depth, solid};
use crate::common::*;
use clipper2_rust::{ClipType, FillRule, PathsD, PointD, area_paths, boolean_op_d};
use jigfit_core::checks::Severity;
use jigfit_core::furniture::KINDS;
use jigfit_core::furniture::built::{Fasten, Pose};
use jigfit_core::geometry::Point;
use jigfit_core::joints::JointView;
use jigfit_core::plan::{Plan, solve, solve_while};
use jigfit_core::project::Project;
use jigfit_core::survey::model::Model;
use jigfit_instruments::vehicle::Vehicle;
use parry3d_f64::math::Pose as Still;
use parry3d_f64::query::contact;
use rand::SeedableRng;
use rstest::rstest;

/// What the readings' doubt may put a board into the true wall, mm.
const DOUBT: f64 = 0.5;

fn no_overlap(plan: &Plan, what: &str) {
    let all = plan.boards.iter().chain(&plan.bought);
    let solids: Vec<Solid> = all.map(solid).collect();
    for (i, a) in solids.iter().enumerate() {
        for b in &solids[i + 1..] {
            let d = depth(a, b);
            assert!(d <= TOUCH, "{what}: {} is {d:.2} mm in {}", a.id, b.id);
        }
    }
}

/// Boards touch where joints say so.
fn joints_touch(plan: &Plan, what: &str) {
    let solids: Vec<Solid> = plan.boards.iter().map(solid).collect();
    let of = |id: &str| solids.iter().find(|s| s.id == id).unwrap();
    for j in &plan.joints {
        let (a, b) = (of(&j.a), of(&j.b));
        let still = Still::IDENTITY;
        let touches = a.pieces.iter().any(|p| {
            let mut near = b.pieces.iter();
            near.any(|q| matches!(contact(&still, p, &still, q, TOUCH), Ok(Some(_))))
        });
        assert!(touches, "{what}: {} does not touch {}", j.a, j.b);
        assert!(j.length.value >= 5.0, "{what}: {} to {}", j.a, j.b);
        screwed_the_right_way(plan, j, (a, b), what);
    }
}

/// A screw goes through a face: the first board's where it is screwed through, both where they lie face to face. A pocket screw
/// goes into a face or an edge.
fn screwed_the_right_way(plan: &Plan, j: &JointView, (a, b): (&Solid, &Solid), what: &str) {
    let deep = |k: &usize| a.high[*k].min(b.high[*k]) - a.low[*k].max(b.low[*k]);
    let axis = (0..3).min_by(|p, q| deep(p).total_cmp(&deep(q))).unwrap();
    let square = |id: &str| {
        let board = plan.boards.iter().find(|x| x.id == id).unwrap();
        board.poses["drive"].w()[axis].abs() > 0.99
    };
    let right = match j.how {
        Fasten::Butt => square(&j.a),
        Fasten::Face => square(&j.a) && square(&j.b),
        _ => true,
    };
    assert!(
        right,
        "{what}: {} to {} {:?} the wrong way",
        j.a, j.b, j.how
    );
}

/// Every slat lies on two supports, or along a ledger, by the boxes round them: if only by half an edge at a joint.
fn slats_lie(plan: &Plan, what: &str) {
    let solids: Vec<Solid> = plan.boards.iter().map(solid).collect();
    let role = |id: &str| {
        let board = plan.boards.iter().find(|b| b.id == id);
        board.map_or("", |b| b.role.as_str())
    };
    let slats = solids
        .iter()
        .filter(|s| role(&s.id) == "slat" && s.id.contains("/panel-"));
    for s in slats {
        let lies = |o: &&Solid| {
            let over = |k: usize| s.high[k].min(o.high[k]) - s.low[k].max(o.low[k]);
            (o.high[2] - s.low[2]).abs() < 0.1 && over(0) > 2.9 && over(1) > 2.9
        };
        let on: Vec<&str> = solids.iter().filter(lies).map(|o| role(&o.id)).collect();
        assert!(
            on.len() >= 2 || on.contains(&"ledger"),
            "{what}: {} lies on {on:?}",
            s.id
        );
    }
}

/// Corners and points along the edges, at both faces, lie in the true free space.
fn inside(v: &Vehicle, plan: &Plan, what: &str) {
    for b in plan.boards.iter().chain(&plan.bought) {
        let pose = b.poses["drive"];
        let n = b.outline.outer.len();
        for i in 0..n {
            let (p, q) = (b.outline.outer[i], b.outline.outer[(i + 1) % n]);
            for k in 0..4 {
                let s = f64::from(k) / 4.0;
                let at = [p[0] + s * (q[0] - p[0]), p[1] + s * (q[1] - p[1])];
                for t in [0.0, b.thickness] {
                    let [x, y, z] = pose.at(at[0], at[1], t);
                    assert!(z > -0.6, "{what}: {} is {z:.2} below the floor", b.id);
                    if let Some(roof) = v.roof(x, y) {
                        assert!(z < roof + DOUBT, "{what}: {} goes through the roof", b.id);
                    }
                    let free = v.free(z.max(0.3));
                    let off = |r: &jigfit_core::geometry::region::Region| {
                        let ring = &r.outer;
                        let n = ring.len();
                        let near = (0..n).map(|i| {
                            jigfit_core::geometry::distance_to_segment(
                                [x, y],
                                ring[i],
                                ring[(i + 1) % n],
                            )
                        });
                        let near = near.fold(f64::INFINITY, f64::min);
                        let crosses = (0..n).filter(|i| {
                            let (a, b) = (ring[*i], ring[(*i + 1) % n]);
                            (a[1] > y) != (b[1] > y)
                                && x < a[0] + (b[0] - a[0]) * (y - a[1]) / (b[1] - a[1])
                        });
                        if crosses.count() % 2 == 1 {
                            -near
                        } else {
                            near
                        }
                    };
                    let out = free.iter().map(off).fold(f64::INFINITY, f64::min);
                    assert!(
                        out < DOUBT,
                        "{what}: {} is {out:.2} mm out at {x:.0} {y:.0} {z:.0}",
                        b.id
                    );
                }
            }
        }
    }
}

fn each_in_one_part(plan: &Plan, what: &str) {
    let mut parted: Vec<&String> = plan.parts.iter().flat_map(|p| &p.boards).collect();
    let mut boards: Vec<&String> = plan.boards.iter().map(|b| &b.id).collect();
    parted.sort();
    boards.sort();
    assert_eq!(parted, boards, "{what}");
    let mut marks: Vec<&str> = plan.parts.iter().map(|p| p.mark.as_str()).collect();
    marks.sort_unstable();
    marks.dedup();
    assert_eq!(marks.len(), plan.parts.len(), "{what}: a mark twice");
    let mut ids: Vec<&str> = plan.findings.iter().map(|f| f.id.as_str()).collect();
    ids.sort_unstable();
    ids.dedup();
    assert_eq!(ids.len(), plan.findings.len(), "{what}: a finding twice");
    let turned = |p: &Pose| {
        let dot: f64 = (0..3).map(|i| p.u[i] * p.v[i]).sum();
        let long = |v: [f64; 3]| v.iter().map(|c| c * c).sum::<f64>();
        dot.abs() < 1e-9 && (long(p.u) - 1.0).abs() < 1e-9 && (long(p.v) - 1.0).abs() < 1e-9
    };
    assert!(
        plan.boards
            .iter()
            .flat_map(|b| b.poses.values())
            .all(turned)
    );
}

/// What is marked lies inside the exact board, each side by at most a step: by another polygon library.
fn marked_inside(plan: &Plan, step: f64, what: &str) {
    let paths = |ring: &[Point], by: [f64; 2]| -> PathsD {
        let moved = ring.iter().map(|p| PointD::new(p[0] + by[0], p[1] + by[1]));
        vec![moved.collect()]
    };
    for part in &plan.parts {
        let id = &part.boards[0];
        let board = plan.boards.iter().find(|b| b.id == *id).unwrap();
        let pose = board.poses["drive"];
        let off: [f64; 3] = std::array::from_fn(|i| part.at[i] - pose.origin[i]);
        let dot = |v: [f64; 3]| (0..3).map(|i| off[i] * v[i]).sum::<f64>();
        let by = [dot(pose.u), dot(pose.v)];
        // Reliefs lie at marked corners: compared is what stands between them.
        let rest = boolean_op_d(
            ClipType::Difference,
            FillRule::NonZero,
            &paths(&part.outline.outer, by),
            &paths(&board.outline.outer, [0.0, 0.0]),
            6,
        );
        let reliefs = part.features.iter().filter(|f| f.kind == "relief").count() as f64;
        let out = area_paths(&rest).abs();
        assert!(
            out < 0.05 + 20.0 * reliefs,
            "{what}: {} {out} mm2 outside",
            part.id
        );
        // A sharp corner has no mark near its tip that lies inside.
        let ring = &board.outline.outer;
        let n = ring.len();
        let sharp = (0..n).any(|i| {
            let (a, p, b) = (ring[(i + n - 1) % n], ring[i], ring[(i + 1) % n]);
            let (d, e) = ([a[0] - p[0], a[1] - p[1]], [b[0] - p[0], b[1] - p[1]]);
            let left = e[0] * d[1] - e[1] * d[0] > 0.0;
            let cos = (d[0] * e[0] + d[1] * e[1]) / (d[0].hypot(d[1]) * e[0].hypot(e[1]));
            left && cos > 45.0_f64.to_radians().cos()
        });
        let most = if sharp { 5.0 } else { 2.0 } * step;
        let (a, b) = (board.outline.size(), part.outline.size());
        for (exact, marked) in [(a.0, b.0), (a.1, b.1)] {
            let less = exact - marked;
            assert!(
                less > -1e-3 && less <= most + 1e-6,
                "{what}: {} is {less} smaller",
                part.id
            );
        }
    }
}

/// The plan over a vehicle that is known already, as the program works it out after an edit that leaves the survey alone.
fn planned(p: &Project, model: &Model) -> Plan {
    solve_while(p, (model, &[]), &|| true).unwrap()
}

/// What makes another thing of the vehicle, moved, lies free where the plan says that it goes.
fn moved_for_the_road((v, model): (&Vehicle, &Model), mut p: Project, plan: &Plan, what: &str) {
    let goes = |f: &&jigfit_core::checks::Finding| {
        f.id.starts_with("change.") && f.level == Severity::Fine
    };
    let Some(f) = plan.findings.iter().find(goes) else {
        return;
    };
    // Past the threshold it is told, and no door shuts.
    let told =
        |f: &jigfit_core::checks::Finding| f.id.starts_with("change.") && f.level == Severity::Stop;
    if plan.findings.iter().any(told) {
        return;
    }
    let drive = p.states.get_mut("drive").unwrap();
    drive.open.insert(f.subject.clone(), 1.0);
    let plan = planned(&p, model);
    let what = format!("{what}, moved");
    no_overlap(&plan, &what);
    // A leaf goes past the front of the bay, over seats that are slid forward: it is none for the road.
    let leaf = plan.boards.iter().any(|b| b.role == "leaf");
    if leaf && f.subject.ends_with("/leaf") {
        return;
    }
    inside(v, &plan, &what);
    assert!(plan.findings.iter().all(|f| f.check != "clash"), "{what}");
}

/// Two decks, three boxes and two drawers, as they suit, in every vehicle.
#[rstest]
fn a_whole_fit_out(
    #[values(0, 1, 2, 3, 4, 5, 6, 7, 8)] i: usize,
    #[values(true, false)] deck_first: bool,
) {
    let v = vehicle(ALL[i]);
    let mut p = surveyed(&v, 11);
    let model = Model::new(&p);
    let mut kinds = vec!["box_seat", "drawer", "box_seat", "drawer", "box_seat"];
    if deck_first {
        kinds.insert(0, "deck");
    } else {
        kinds.push("deck");
    }
    kinds.push("deck");
    let added = kinds.iter().filter(|k| add(&mut p, &model, k, &[])).count();
    assert!(added >= 5, "{}: only {added} of {}", v.name, kinds.len());
    let plan = solve(&p);
    let what = format!("{} ({added})", v.name);
    each_in_one_part(&plan, &what);
    marked_inside(&plan, 1.0, &what);
    inside(&v, &plan, &what);
    no_overlap(&plan, &what);
    joints_touch(&plan, &what);
    assert!(plan.sheets.iter().all(|s| s.problem.is_none()), "{what}");
}

/// Every kind there is, one after the other, as each suits, in every vehicle.
#[rstest]
fn every_kind_in_one_vehicle(
    #[values(0, 1, 2, 3, 4, 5, 6, 7, 8)] i: usize,
    #[values(true, false)] forwards: bool,
) {
    let v = vehicle(ALL[i]);
    let mut p = surveyed(&v, 17);
    let model = Model::new(&p);
    let mut kinds: Vec<&str> = KINDS.iter().map(|k| k.name()).collect();
    if !forwards {
        kinds.reverse();
    }
    let added = kinds.iter().filter(|k| add(&mut p, &model, k, &[])).count();
    let plan = solve(&p);
    let what = format!("{} ({added})", v.name);
    assert!(added >= 4, "{what}");
    each_in_one_part(&plan, &what);
    marked_inside(&plan, 1.0, &what);
    inside(&v, &plan, &what);
    no_overlap(&plan, &what);
    joints_touch(&plan, &what);
}

/// Random choices of each kind in random vehicles: where it finds a place, its boards close.
#[rstest]
fn random_choices_close(
    #[values(
        "box_seat",
        "drawer",
        "deck",
        "cabinet",
        "shelves",
        "pull_out",
        "bench",
        "locker",
        "table",
        "pull_bed",
        "kitchen",
        "slide_seat",
        "bought"
    )]
    kind: &str,
) {
    let vehicles: Vec<(Vehicle, Project, Model)> = ALL
        .iter()
        .map(|name| {
            let v = vehicle(name);
            let p = surveyed(&v, 3);
            let model = Model::new(&p);
            (v, p, model)
        })
        .collect();
    let mut rng = rand_chacha::ChaCha8Rng::seed_from_u64(8);
    let mut placed = 0;
    // Fewer of them by hand: CLOSURE=60.
    let all = std::env::var("CLOSURE").map_or(500, |n| n.parse().unwrap());
    for n in 0..all {
        let (v, p, model) = &vehicles[n % vehicles.len()];
        let mut p = p.clone();
        let sets = sets(kind, &mut rng);
        if !add(&mut p, model, kind, &sets) {
            continue;
        }
        placed += 1;
        let plan = planned(&p, model);
        let what = format!("{} {sets:?}", v.name);
        each_in_one_part(&plan, &what);
        marked_inside(&plan, 1.0, &what);
        inside(v, &plan, &what);
        no_overlap(&plan, &what);
        joints_touch(&plan, &what);
        slats_lie(&plan, &what);
        moved_for_the_road((v, model), p, &plan, &what);
    }
    assert!(
        placed * 3 >= all * 2,
        "{kind}: only {placed} of {all} found a place"
    );
}
