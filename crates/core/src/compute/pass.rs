//! `pass`: will it go in?

use serde::Deserialize;
use serde_json::{Value, json};

use crate::geometry::pass::way_in;
use crate::input::{MAX_LENGTH, from_value, positive, within};
use crate::problem::Problem;
use crate::units::print::millimetres;

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct In {
    #[serde(default)]
    panel: Option<[f64; 2]>,
    #[serde(default)]
    thickness: Option<f64>,
    #[serde(default, rename = "box")]
    solid: Option<[f64; 3]>,
    opening: [f64; 2],
    #[serde(default)]
    depth_behind: Option<f64>,
    #[serde(default)]
    clear: f64,
}

impl In {
    fn dims(&self) -> Result<[f64; 3], Problem> {
        match (self.panel, self.solid) {
            (Some(_), Some(_)) => Err(Problem::shape("/box", "Give a panel or a box, not both.")),
            (None, None) => Err(Problem::missing(
                "/panel",
                "A panel with its thickness or a box is needed.",
            )),
            (Some([p, q]), None) => {
                positive(p, "/panel/0", MAX_LENGTH)?;
                positive(q, "/panel/1", MAX_LENGTH)?;
                let t = self.thickness.ok_or_else(|| {
                    Problem::missing("/thickness", "A panel needs its thickness.")
                })?;
                Ok([p, q, positive(t, "/thickness", MAX_LENGTH)?])
            }
            (None, Some(b)) => {
                if self.thickness.is_some() {
                    return Err(Problem::shape(
                        "/thickness",
                        "A box has its own three dimensions.",
                    ));
                }
                for (i, v) in b.iter().enumerate() {
                    positive(*v, &format!("/box/{i}"), MAX_LENGTH)?;
                }
                Ok(b)
            }
        }
    }
}

pub fn run(input: Value) -> Result<Value, Problem> {
    let input: In = from_value(input)?;
    let dims = input.dims()?;
    for (i, v) in input.opening.iter().enumerate() {
        positive(*v, &format!("/opening/{i}"), MAX_LENGTH)?;
    }
    if let Some(d) = input.depth_behind {
        within(d, "/depth_behind", 0.0, MAX_LENGTH)?;
    }
    within(input.clear, "/clear", 0.0, MAX_LENGTH)?;
    let free = input.opening.map(|v| v - 2.0 * input.clear);
    let opening_text = format!("{} x {}", millimetres(free[0]), millimetres(free[1]));
    let Some(way) = way_in(dims, (free[0], free[1]), input.depth_behind) else {
        let why = if way_in(dims, (free[0], free[1]), None).is_some() {
            "Its cross-section goes through, but what leads is longer than the depth behind the opening."
                .to_string()
        } else {
            format!("No cross-section of it goes through {opening_text}, upright or turned.")
        };
        return Ok(json!({
            "fits": false, "how": "no", "leads": 0, "angle_deg": 0.0, "spare": 0.0,
            "turned_inside": null, "why": why,
        }));
    };
    let (p, q) = (dims[(way.leads + 1) % 3], dims[(way.leads + 2) % 3]);
    let (p, q) = (p.max(q), p.min(q));
    let how = if way.through.tilted {
        "tilted"
    } else {
        "straight"
    };
    Ok(json!({
        "fits": true, "how": how, "leads": way.leads, "angle_deg": way.through.angle_deg,
        "spare": way.through.spare, "turned_inside": null,
        "why": format!(
            "{} leads; {} x {} goes through {opening_text} {how}, {} to spare (rectangle in rectangle: Carver 1957, Wetzel 2000).",
            millimetres(dims[way.leads]), millimetres(p), millimetres(q),
            millimetres(way.through.spare)
        ),
    }))
}
