//! Starting points on the demos: each goes and keeps what its name promises, or says why it does not go.

use crate::common::*;
use jigfit_core::plan::{Plan, solve};
use jigfit_core::project::Project;
use jigfit_core::starts::{Measures, StartingPoint, starting_points};
use rstest::rstest;
use serde_json::json;

fn all(project: &Project) -> Vec<StartingPoint> {
    starting_points(project, &|| true).unwrap()
}

fn begun(project: &Project, s: &StartingPoint) -> Plan {
    let mut document = project.to_json().unwrap();
    let patch: json_patch::Patch = serde_json::from_value(s.patch.clone()).unwrap();
    json_patch::patch(&mut document, &patch).unwrap();
    solve(&jigfit_core::furniture::read(document).unwrap())
}

#[rstest]
#[case("moth", &["sit_up", "all_below", "drawers", "day"])]
#[case("wren", &["all_below", "drawers", "seats", "day"])]
#[case("kingfisher", &["sit_up", "all_below", "drawers", "day"])]
fn what_is_promised(#[case] name: &str, #[case] go: &[&str]) {
    let p = project(&demo(name));
    let list = all(&p);
    let going: Vec<&str> = list
        .iter()
        .filter(|s| s.cannot.is_none())
        .map(|s| s.id.as_str())
        .collect();
    assert_eq!(going, go);
    for s in &list {
        assert!(!s.why.is_empty() && s.pieces.is_empty() == s.cannot.is_some());
        let Some(measures) = &s.measures else {
            assert!(
                s.cannot.as_ref().is_some_and(|c| c.len() > 20),
                "{}",
                s.name
            );
            continue;
        };
        let plan = begun(&p, s);
        let told = Measures::of(&plan);
        assert_eq!(
            (told.boards, told.sheets, &told.stops),
            (measures.boards, measures.sheets, &measures.stops)
        );
        let clash: Vec<_> = plan
            .findings
            .iter()
            .filter(|f| f.id.starts_with("clash"))
            .collect();
        assert!(clash.is_empty(), "{name} {}: {clash:?}", s.name);
        assert!(plan.parts.iter().all(|p| p.w.value > 0.0), "{}", s.name);
        let chosen = plan.ladder.as_ref().and_then(|l| l.chosen.as_ref());
        match s.id.as_str() {
            // Every sleeper whose height is known sits up.
            "sit_up" => {
                let sits = &chosen.unwrap().sits;
                assert_eq!(sits.len(), p.people.len());
            }
            // Everything that is to stand below does.
            "all_below" => {
                let below = p.gear.values().filter(|g| g.under_deck && g.h.is_some());
                assert_eq!(chosen.unwrap().fits.len(), below.count());
            }
            "drawers" => {
                let drawers = plan
                    .boards
                    .iter()
                    .filter(|b| b.module == "drawer" && b.role == "side");
                assert!(drawers.count() >= 4);
            }
            // The bed is moved, and nothing of it lies over the seats on the road.
            "seats" => {
                assert!(plan.evening.moves.iter().any(|m| !m.steps.is_empty()));
                let road = plan
                    .findings
                    .iter()
                    .find(|f| f.sentence.contains("On the road"));
                assert!(road.is_none(), "{road:?}");
            }
            _ => assert!(plan.decks.is_empty()),
        }
    }
}

/// What the tool itself offers against a stop is taken before a starting point is shown: the frames of Kingfisher's bed
/// would sag under a knee where only the defaults were taken.
#[test]
fn offers_are_taken() {
    let p = project(&demo("kingfisher"));
    let s = all(&p).into_iter().find(|s| s.id == "sit_up").unwrap();
    assert!(s.measures.unwrap().stops.is_empty());
}

/// Without a survey nothing goes, and each says so; who has nobody to sit up and nothing to stow hears that.
#[test]
fn where_nothing_is_known() {
    let empty = json!({"format": "jigfit-project", "version": 3, "name": "New", "vehicle": {"kind": "van"}});
    for s in all(&project(&empty)) {
        assert!(s.cannot.unwrap().contains("not measured yet"), "{}", s.name);
    }
    let list = all(&project(&bare()));
    let why = |id: &str| {
        list.iter()
            .find(|s| s.id == id)
            .unwrap()
            .cannot
            .clone()
            .unwrap()
    };
    assert!(why("sit_up").contains("add who sleeps here"));
    assert!(why("all_below").contains("add things to the stow list"));
    assert!(why("seats").contains("No folded seat"));
}

/// Who no longer waits gets nothing, at once.
#[test]
fn given_up() {
    assert!(starting_points(&project(&demo("moth")), &|| false).is_none());
}
