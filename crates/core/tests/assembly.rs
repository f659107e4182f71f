//! How pieces are put together: the order of boards, and what is drawn of them.

use std::collections::BTreeSet;

use crate::common::*;
use jigfit_core::assembly::Assembly;
use jigfit_core::plan::{Plan, solve};
use rstest::rstest;
use serde_json::{Value, json};

fn of<'a>(p: &'a Plan, module: &str) -> &'a Assembly {
    p.assembly.iter().find(|a| a.module == module).unwrap()
}

/// Every kind in a bare van, as it suits.
fn with(kind: &str, sets: &[(&str, &str)]) -> (Plan, String) {
    let mut doc = bare();
    let (id, _) = add(&mut doc, kind, sets).unwrap();
    (plan(&doc), id)
}

/// Each board comes once; and whatever is not set up by itself is held by a joint to what came before.
#[rstest]
#[case("deck", &[])]
#[case("deck", &[("supports.manner", "legs"), ("change", "slide"), ("joint", "1200")])]
#[case("deck", &[("supports.manner", "ledgers"), ("top", "slats")])]
#[case("box_seat", &[])]
#[case("drawer", &[("columns", "2"), ("rows", "2")])]
#[case("cabinet", &[("front", "doors")])]
#[case("shelves", &[])]
#[case("pull_out", &[])]
#[case("bench", &[])]
#[case("locker", &[])]
#[case("table", &[])]
#[case("pull_bed", &[])]
#[case("slide_seat", &[("width", "1200")])]
#[case("kitchen", &[])]
#[case("bought", &[])]
#[case("deck", &[("hatches", "bays"), ("hatch_length", "200")])]
#[case("drawer", &[("inner", "nested")])]
#[case("drawer", &[("front", "drops")])]
fn every_board_comes_once(#[case] kind: &str, #[case] sets: &[(&str, &str)]) {
    let (p, id) = with(kind, sets);
    let own = of(&p, &id);
    let mut all: Vec<&str> = own
        .steps
        .iter()
        .flat_map(|s| &s.boards)
        .map(String::as_str)
        .collect();
    let mut boards: Vec<&str> = p
        .boards
        .iter()
        .filter(|b| b.module == id)
        .map(|b| b.id.as_str())
        .collect();
    all.sort_unstable();
    boards.sort_unstable();
    assert_eq!(all, boards);
    let mut there: BTreeSet<&str> = BTreeSet::new();
    for s in &own.steps {
        let touches = |b: &str| {
            p.joints.iter().any(|j| {
                (j.a == b && there.contains(j.b.as_str()))
                    || (j.b == b && there.contains(j.a.as_str()))
            })
        };
        if s.words.starts_with("Add") {
            assert!(s.boards.iter().all(|b| touches(b)), "{kind}: {}", s.words);
            assert!(!s.holds.is_empty(), "{kind}: {}", s.words);
        }
        there.extend(s.boards.iter().map(String::as_str));
    }
    // Few are set up by themselves: legs and frames, the first board of what stands, and of each thing that moves.
    let alone = own
        .steps
        .iter()
        .filter(|s| s.words.starts_with("Set up"))
        .count();
    let bodies = p.modules.iter().find(|m| m.id == id).unwrap().bodies.len();
    assert!(
        alone <= 6 + bodies,
        "{kind}: {alone} of {}",
        own.steps.len()
    );
    assert!(own.steps.iter().all(|s| (1..=2).contains(&s.persons)));
}

/// What lies on top comes after what carries it, and what moves after what it moves in.
#[test]
fn what_carries_comes_first() {
    let (p, id) = with("deck", &[("supports.manner", "legs")]);
    let roles: Vec<&str> = of(&p, &id)
        .steps
        .iter()
        .map(|s| {
            p.boards
                .iter()
                .find(|b| b.id == s.boards[0])
                .unwrap()
                .role
                .as_str()
        })
        .collect();
    let last = |r: &str| roles.iter().rposition(|x| *x == r).unwrap();
    let first = |r: &str| roles.iter().position(|x| *x == r).unwrap();
    assert!(
        first("leg") < first("rail") && last("rail") < first("panel"),
        "{roles:?}"
    );
    // The top is screwed and not glued: it comes off again.
    let own = of(&p, &id);
    assert!(own.steps[first("panel")].comes_apart && !own.steps[first("rail")].comes_apart);
    let (p, id) = with("drawer", &[]);
    let own = of(&p, &id);
    let fixed = format!("{id}/fixed");
    let still = |s: &&jigfit_core::assembly::AssemblyStep| {
        p.boards
            .iter()
            .any(|b| b.id == s.boards[0] && b.body == fixed)
    };
    let n = own.steps.iter().filter(still).count();
    assert!(own.steps[..n].iter().all(|s| still(&s)));
    assert!(own.steps.last().unwrap().words.ends_with("slide it in"));
}

/// Two people for what is heavy or long: 25 kg by the usual guidance, from memory.
#[test]
fn long_boards_take_two() {
    let (p, id) = with("deck", &[]);
    let own = of(&p, &id);
    let long: Vec<bool> = own
        .steps
        .iter()
        .map(|s| {
            let b = p.boards.iter().find(|b| b.id == s.boards[0]).unwrap();
            b.outline.size().0 > 1800.0
        })
        .collect();
    assert!(long.contains(&true));
    for (s, long) in own.steps.iter().zip(long) {
        assert_eq!(s.persons == 2, long, "{}", s.words);
    }
}

/// In an isometric projection a face square to an axis is seen with 1 / sqrt 3 of its area (ISO 5456-3, from memory).
#[test]
fn boards_are_drawn_isometric() {
    let (p, id) = with("cabinet", &[]);
    let own = of(&p, &id);
    let mut seen = 0;
    for d in &own.drawn {
        let b = p.boards.iter().find(|b| b.id == d.board).unwrap();
        if b.outline.outer.len() != 4 || !b.outline.holes.is_empty() {
            continue;
        }
        let ((w, h), t) = (b.outline.size(), b.thickness);
        let area: f64 = d.faces.iter().map(|f| shoelace(&f.outer)).sum();
        let whole = (w * h + w * t + h * t) / 3.0_f64.sqrt();
        assert!(
            (area - whole).abs() < 1e-6 * whole,
            "{}: {area} {whole}",
            d.board
        );
        seen += 1;
    }
    assert!(seen >= 4);
    // Nothing is drawn outside the frame.
    let [low, high] = own.frame;
    for q in own
        .drawn
        .iter()
        .flat_map(|d| &d.faces)
        .flat_map(|f| &f.outer)
    {
        assert!((0..2).all(|k| q[k] >= low[k] && q[k] <= high[k]));
    }
}

fn shoelace(ring: &[[f64; 2]]) -> f64 {
    let n = ring.len();
    let twice: f64 = (0..n)
        .map(|i| ring[i][0] * ring[(i + 1) % n][1] - ring[(i + 1) % n][0] * ring[i][1])
        .sum();
    twice.abs() / 2.0
}

/// Without numbers there is nothing to put together.
#[test]
fn nothing_to_put_together() {
    let doc: Value = json!({"format": "jigfit-project", "version": 3, "name": "x", "vehicle": {"kind": "van"}, "modules": {"deck": {"kind": "deck"}}});
    assert!(solve(&project(&doc)).assembly.is_empty());
}
