#![allow(missing_docs, clippy::unwrap_used)]
use jigfit_core::project::survey::{Quantity, Side, Thoroughness};
use jigfit_core::survey::model::Model;
use jigfit_core::template::fill::fill;
use jigfit_instruments::{accuracy::Fit, simulate::*, tape::Errors, vehicle::Vehicle};
fn main() {
    let a: Vec<String> = std::env::args().collect();
    let f = format!("crates/instruments/vehicles/{}.json", a[1]);
    let v = Vehicle::read(serde_json::from_slice(&std::fs::read(f).unwrap()).unwrap()).unwrap();
    let quick = a.get(3).is_some();
    let t = survey(
        &v,
        &Walk {
            errors: Errors::noise(1.0),
            blunders: 0,
            blunder_mm: 25.0,
            seed: a[2].parse().unwrap(),
            protocol: if quick {
                Thoroughness::Quick
            } else {
                Thoroughness::Full
            },
        },
    );
    let m = Model::new(&t.project);
    let mut count = std::collections::BTreeMap::new();
    for r in t.project.survey.readings.values() {
        *count
            .entry(
                r.quantity.key().split('.').next().unwrap().to_string()
                    + if r.note.is_empty() { "" } else { " again" },
            )
            .or_insert(0) += 1;
    }
    println!(
        "{count:?} bend {:?} skipped {:?}",
        m.field.bend(),
        t.project.survey.skipped.keys().collect::<Vec<_>>()
    );
    println!(
        "stations {:?} levels {:?}",
        t.project.survey.stations.values().collect::<Vec<_>>(),
        t.project.survey.levels.values().collect::<Vec<_>>()
    );
    for k in m.known.values() {
        if let Quantity::Wall { side, x, z } = k.quantity {
            println!(
                "{} true {:.1} fit {:.1} sd {:.2}",
                k.quantity.key(),
                v.wall(side, x.max(0.5), z).unwrap_or(0.0),
                m.wall(side, x, z).unwrap().0,
                m.wall(side, x, z).unwrap().1
            )
        }
    }
    for z in [200.0, 320.0, 450.0] {
        print!("z {z} front {:?}/{:?}: ", m.front(0.0, z), v.front(0.0, z));
        for side in Side::BOTH {
            for i in 0..12 {
                let x = 10.0 + i as f64 * 0.99 * v.front(0.0, z).unwrap_or(1000.0) / 11.0;
                if let (Some(w), Some(tr)) = (m.wall(side, x, z), v.wall(side, x, z)) {
                    print!("{:.0}:{:.1}±{:.1} ", x, w.0 - tr, w.1)
                }
            }
            print!(" | ");
        }
        println!();
        for o in m.things() {
            println!(
                "  {} x {:?} face {:.0} z {:?} sd {:.1}",
                o.name, o.x, o.face, o.z, o.sd
            );
        }
        if let Some(f) = fill(&m, z, 3.0) {
            let fit = Fit::of(&v, &f.panels, z, 3.0);
            println!(
                "  within {:.3} big {:.3} panels {} sdmax {:.1} bounds {:?}",
                fit.within(3.0),
                fit.too_big(2.0),
                f.panels.len(),
                f.sd_max,
                f.panels[0].bounds()
            );
        }
    }
    let (asks, p) = jigfit_core::survey::protocol::asks(&t.project, &m);
    println!(
        "{} ; asks left {:?}",
        p.sentence,
        asks.iter()
            .filter(|a| a.needed)
            .map(|a| &a.key)
            .collect::<Vec<_>>()
    );
}
