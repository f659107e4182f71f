//! Photos beside a project.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

use jigfit_core::project::templates::Template;
use jigfit_core::project::{Project, Units, VehicleKind};
use jigfit_store::Store;

const AT: &str = "2026-11-27T00:00:00Z";

fn named(print: &str) -> Project {
    let mut p = Project::start("Wren", VehicleKind::Estate, Units::default());
    let own = Template {
        photo: Some(print.into()),
        ..Template::default()
    };
    p.templates.insert("c".into(), own);
    p
}

#[test]
fn those_that_curves_name_stay_and_others_make_room() {
    let mut store = Store::in_memory().unwrap();
    let print = "a".repeat(64);
    store.create("wren", &named(&print), AT).unwrap();
    store.keep_photo("wren", &print, b"mine", AT).unwrap();
    for i in 0..40 {
        let at = format!("2026-11-27T01:{i:02}:00Z");
        store
            .keep_photo("wren", &format!("{i:064}"), b"loose", &at)
            .unwrap();
    }
    assert_eq!(store.photo("wren", &print).unwrap(), b"mine");
    assert!(store.photo("wren", &format!("{:064}", 0)).is_err());
    assert!(store.photo("wren", &format!("{:064}", 39)).is_ok());
    // Copied with the project, gone with it.
    store.create("copy", &named(&print), AT).unwrap();
    store.copy_photos("wren", "copy").unwrap();
    store.delete("wren", AT).unwrap();
    store.purge("2026-11-28T00:00:00Z").unwrap();
    assert!(store.photo("wren", &print).is_err());
    assert_eq!(store.photo("copy", &print).unwrap(), b"mine");
    assert!(store.keep_photo("none", &print, b"x", AT).is_err());
}
