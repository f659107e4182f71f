//! Documents of every version there was open in today's form.

use jigfit_core::plan::solve;
use jigfit_core::project::VERSION;
use jigfit_core::project::upgrade::{UPGRADES, upgrade};
use rstest::rstest;
use serde_json::{Value, json};

fn fixture(version: u32, name: &str) -> Value {
    let dir = env!("CARGO_MANIFEST_DIR");
    let path = format!("{dir}/fixtures/v{version}/{name}.json");
    serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap()
}

/// Every version there was has its fixtures, so that a new step cannot be forgotten here.
#[test]
fn every_version_has_stored_files() {
    for version in 1..=UPGRADES.len() as u32 {
        for name in ["moth", "kingfisher"] {
            assert_eq!(fixture(version, name)["version"], version);
        }
    }
}

/// A stored file opens, says today's version, is whole when written again, and loses nothing: every value of
/// the old form is still there, a deck's choices one step further down.
#[rstest]
fn files_of_every_version_open(
    #[values(1, 2)] version: u32,
    #[values("moth", "kingfisher")] name: &str,
) {
    let old = fixture(version, name);
    let project = jigfit_core::furniture::read(old.clone()).unwrap();
    assert_eq!(project.version, VERSION);
    let new = project.to_json().unwrap();
    assert_eq!(jigfit_core::furniture::read(new.clone()).unwrap(), project);
    let mut lost = Vec::new();
    missing(&old, &new, String::new(), &mut lost);
    lost.retain(|at| {
        let moved = at.replace("/modules/deck/", "/modules/deck/choices/");
        let (then, now) = (old.pointer(at), new.pointer(&moved));
        let mut gone = Vec::new();
        if let (Some(then), Some(now)) = (then, now) {
            missing(then, now, String::new(), &mut gone);
        }
        now.is_none() || !gone.is_empty()
    });
    assert_eq!(lost, ["/version"]);
}

/// The boards are those of the demo, which is written by hand in today's form.
#[rstest]
fn boards_are_the_same(#[values(1, 2)] version: u32, #[values("moth", "kingfisher")] name: &str) {
    let parts = |mut v: Value| {
        v[jigfit_core::project::upgrade::IN_DEMO] = json!(true);
        solve(&jigfit_core::furniture::read(v).unwrap()).parts
    };
    let mut today = fixture(2, name);
    let deck = today["modules"]["deck"].as_object().unwrap().clone();
    let mut choices = deck.clone();
    choices.retain(|k, _| k != "kind" && k != "name");
    today["version"] = json!(VERSION);
    today["modules"]["deck"] =
        json!({"kind": deck["kind"], "name": deck["name"], "choices": choices});
    let (a, b) = (parts(fixture(version, name)), parts(today));
    assert!(!a.is_empty());
    let shape = |parts: Vec<jigfit_core::parts::Part>| -> Vec<_> {
        parts
            .into_iter()
            .map(|p| (p.id, p.mark, p.outline, p.count))
            .collect()
    };
    assert_eq!(shape(a), shape(b));
}

#[test]
fn boards_of_version_1_get_the_name_they_are_sold_by() {
    let mut old = fixture(1, "moth");
    let sheet = |t: f64| json!({"material": "birch-ply", "thickness": t, "w": 2440, "h": 1220});
    old["stock"] = json!({"a": sheet(15.0), "b": sheet(19.05), "c": sheet(18.3)});
    let project = jigfit_core::furniture::read(old).unwrap();
    let names: Vec<&str> = project.stock.values().map(|s| s.name.as_str()).collect();
    assert_eq!(names, ["15 mm", "3/4 in", "18.3 mm"]);
}

#[rstest]
#[case(json!(0))]
#[case(json!(VERSION + 1))]
#[case(json!("1"))]
#[case(Value::Null)]
fn versions_that_never_were_are_refused(#[case] version: Value) {
    let mut doc = fixture(1, "moth");
    doc["version"] = version;
    assert_eq!(upgrade(doc).unwrap_err().pointer, "/version");
}

/// A step leaves what it does not understand to be refused with its pointer, and does not panic.
#[test]
fn nonsense_of_an_old_version_is_refused_at_its_place() {
    for (at, bad) in [
        ("/stock", json!(5)),
        ("/survey/readings", json!([1, 2])),
        ("/survey", json!(null)),
    ] {
        let mut doc = fixture(1, "moth");
        match at {
            "/survey/readings" => doc["survey"]["readings"] = bad,
            _ => doc[&at[1..]] = bad,
        }
        let p = jigfit_core::furniture::read(doc).unwrap_err();
        assert!(p.pointer.starts_with(at), "{at}: {}", p.pointer);
    }
}

/// Pointers of values of `old` that are not the same in `new`.
fn missing(old: &Value, new: &Value, at: String, lost: &mut Vec<String>) {
    match (old, new) {
        (Value::Object(a), Value::Object(b)) => {
            for (key, v) in a {
                let at = format!("{at}/{key}");
                match b.get(key) {
                    Some(w) => missing(v, w, at, lost),
                    None => lost.push(at),
                }
            }
        }
        (Value::Number(a), Value::Number(b)) if a.as_f64() == b.as_f64() => {}
        (a, b) if a == b => {}
        _ => lost.push(at),
    }
}
