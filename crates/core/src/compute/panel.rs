//! `panel`: the panel that fills the bay of a project at a height, in the vehicle frame.

use serde::Deserialize;
use serde_json::{Value, json};

use crate::geometry::region::Region;
use crate::input::{from_value, within};
use crate::problem::Problem;
use crate::survey::model::Model;
use crate::template::fill::fill;

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct In {
    project: Value,
    height: f64,
    #[serde(default)]
    clearance: f64,
}

pub fn run(input: Value) -> Result<Value, Problem> {
    let input: In = from_value(input)?;
    let project = crate::furniture::read(input.project).map_err(|p| p.under("/project"))?;
    within(input.height, "/height", 0.0, 5000.0)?;
    within(input.clearance, "/clearance", 0.0, 2000.0)?;
    let model = Model::new(&project);
    if let Some(roof) = model.highest_roof().filter(|roof| input.height >= *roof) {
        return Err(Problem::out_of_range(
            "/height",
            format!("{} is above the roof.", project.writer().say(input.height)),
            format!("below {}", project.writer().say(roof)),
        ));
    }
    let Some(filled) = fill(&model, input.height, input.clearance) else {
        return Err(Problem::impossible(
            "/project/survey/readings",
            "The readings do not tell the bay at this height yet: the length and both walls are needed.",
        ));
    };
    let suspects: Vec<&str> = model
        .judged
        .blunders
        .iter()
        .map(|b| b.reading.as_str())
        .collect();
    let again: Vec<&str> = model
        .judged
        .surprises
        .iter()
        .map(|s| s.reading.as_str())
        .collect();
    Ok(json!({
        "panels": filled.panels, "suspects": suspects, "sd_max": filled.sd_max,
        "area": filled.panels.iter().map(Region::area).sum::<f64>(),
        "read_again": again, "lean": filled.lean, "beyond": filled.beyond,
    }))
}
