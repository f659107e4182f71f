//! `pull`: a drawer pulled out: what its slides, their fixings and the carcass say to that.

use serde::Deserialize;
use serde_json::{Value, json};

use crate::input::{MAX_LENGTH, count, from_value, within};
use crate::mechanics::load::{drawer_moment, fixing_force};
use crate::problem::Problem;
use crate::units::GRAVITY;

const MAX_MASS: f64 = 10_000.0;

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct In {
    slide_rating: f64,
    length: f64,
    extension: f64,
    self_mass: f64,
    load: Vec<Load>,
    fixings: Fixings,
    carcass: Carcass,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Load {
    mass: f64,
    at: f64,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Fixings {
    n: u32,
    spacing: f64,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Carcass {
    mass: f64,
    cg: f64,
    #[serde(default)]
    anchored: bool,
}

pub fn run(input: Value) -> Result<Value, Problem> {
    let i: In = from_value(input)?;
    let rating = within(i.slide_rating, "/slide_rating", 0.01, MAX_MASS)?;
    let length = within(i.length, "/length", 1.0, MAX_LENGTH)?;
    // Over-extending slides come out a little further than the drawer is long.
    let extension = within(i.extension, "/extension", 0.0, 2.0 * length)?;
    within(i.self_mass, "/self_mass", 0.0, MAX_MASS)?;
    count(i.load.len(), "/load", 0, 1000)?;
    for (n, l) in i.load.iter().enumerate() {
        within(l.mass, &format!("/load/{n}/mass"), 0.0, MAX_MASS)?;
        within(l.at, &format!("/load/{n}/at"), 0.0, length)?;
    }
    within(f64::from(i.fixings.n), "/fixings/n", 2.0, 100.0)?;
    within(i.fixings.spacing, "/fixings/spacing", 1.0, MAX_LENGTH)?;
    within(i.carcass.mass, "/carcass/mass", 0.0, MAX_MASS)?;
    within(i.carcass.cg, "/carcass/cg", 0.0, MAX_LENGTH)?;
    let mut items: Vec<(f64, f64)> = i.load.iter().map(|l| (l.mass, l.at)).collect();
    items.push((i.self_mass, length / 2.0));
    let moment = drawer_moment(length, extension, &items);
    let rated = rating * GRAVITY * length / 2.0;
    // Two slides share it.
    let fixing = fixing_force(moment / 2.0, i.fixings.n, i.fixings.spacing);
    let holds = i.carcass.mass * GRAVITY * i.carcass.cg;
    Ok(json!({
        "moment_nmm": moment,
        "rating_nmm": rated,
        "use_percent": 100.0 * moment / rated,
        "fixing_n": fixing,
        "tips": !i.carcass.anchored && moment > holds,
        "trace": [
            format!("moment {moment:.0} N mm about the front edge of the carcass"),
            format!("rated for {rating} kg x 9.80665 x {length} / 2 = {rated:.0} N mm"),
            format!("the carcass holds {holds:.0} N mm by its weight"),
        ],
    }))
}
