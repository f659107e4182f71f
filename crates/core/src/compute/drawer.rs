//! `drawer`: the boards of a drawer for an opening, how hard it pulls, whether it jams.

use serde::Deserialize;
use serde_json::{Value, json};

use crate::furniture::kit::drawer_box::{
    BottomJoint, Face, FaceKind, Making, Run, jam_ratio, pull_force,
};
use crate::input::{MAX_LENGTH, from_value, positive, within};
use crate::problem::Problem;
use crate::units::print::millimetres as mm;

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct In {
    opening: Opening,
    #[serde(default)]
    motion: Run,
    #[serde(default = "slide_width")]
    slide_width: f64,
    #[serde(default = "six")]
    strip: f64,
    #[serde(default = "two")]
    gap: f64,
    #[serde(default = "ten")]
    back_gap: f64,
    #[serde(default = "fifteen")]
    sides: f64,
    #[serde(default = "nine")]
    bottom: f64,
    #[serde(default)]
    joint: BottomJoint,
    #[serde(default = "five")]
    groove: f64,
    #[serde(default)]
    face: Option<FaceIn>,
    #[serde(default)]
    above: f64,
    #[serde(default = "finish")]
    finish: f64,
    #[serde(default = "twenty")]
    load: f64,
    #[serde(default = "friction")]
    friction: f64,
    #[serde(default)]
    pull_offset: f64,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Opening {
    w: f64,
    h: f64,
    d: f64,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct FaceIn {
    #[serde(default)]
    kind: FaceKind,
    #[serde(default = "ten")]
    overlap: f64,
    #[serde(default = "two")]
    gap: f64,
    #[serde(default = "eighteen")]
    thickness: f64,
}

fn slide_width() -> f64 {
    12.7
}
fn two() -> f64 {
    2.0
}
fn five() -> f64 {
    5.0
}
fn six() -> f64 {
    6.0
}
fn nine() -> f64 {
    9.0
}
fn ten() -> f64 {
    10.0
}
fn fifteen() -> f64 {
    15.0
}
fn eighteen() -> f64 {
    18.0
}
fn twenty() -> f64 {
    20.0
}
fn finish() -> f64 {
    0.2
}
fn friction() -> f64 {
    0.25
}

fn read(i: &In) -> Result<Making, Problem> {
    let length = |v, at: &str| within(v, at, 0.0, MAX_LENGTH);
    let face = i.face.as_ref().map(|f| -> Result<Face, Problem> {
        Ok(Face {
            kind: f.kind,
            overlap: length(f.overlap, "/face/overlap")?,
            gap: length(f.gap, "/face/gap")?,
            thickness: positive(f.thickness, "/face/thickness", MAX_LENGTH)?,
        })
    });
    Ok(Making {
        opening: [
            positive(i.opening.w, "/opening/w", MAX_LENGTH)?,
            positive(i.opening.h, "/opening/h", MAX_LENGTH)?,
            positive(i.opening.d, "/opening/d", MAX_LENGTH)?,
        ],
        motion: i.motion,
        slide_width: length(i.slide_width, "/slide_width")?,
        strip: length(i.strip, "/strip")?,
        gap: length(i.gap, "/gap")?,
        back_gap: length(i.back_gap, "/back_gap")?,
        sides: positive(i.sides, "/sides", MAX_LENGTH)?,
        bottom: positive(i.bottom, "/bottom", MAX_LENGTH)?,
        joint: i.joint,
        groove: length(i.groove, "/groove")?,
        face: face.transpose()?,
        above: length(i.above, "/above")?,
        finish: within(i.finish, "/finish", 0.0, 100.0)?,
    })
}

pub fn run(input: Value) -> Result<Value, Problem> {
    let i: In = from_value(input)?;
    let m = read(&i)?;
    within(i.load, "/load", 0.0, 10_000.0)?;
    within(i.friction, "/friction", 0.0, 10.0)?;
    within(i.pull_offset, "/pull_offset", 0.0, MAX_LENGTH)?;
    let (outside, inside) = (m.outside(), m.inside());
    for (k, at) in ["/opening/w", "/opening/h", "/opening/d"]
        .iter()
        .enumerate()
    {
        if inside[k] <= 0.0 {
            return Err(Problem::impossible(
                *at,
                format!(
                    "Of {} nothing is left inside: the box would be {}, inside {}.",
                    mm(m.opening[k]),
                    mm(outside[k]),
                    mm(inside[k])
                ),
            ));
        }
    }
    if m.joint != BottomJoint::Pocket && m.groove >= m.sides {
        return Err(Problem::out_of_range(
            "/groove",
            format!(
                "A groove {} deep goes through sides of {}.",
                mm(m.groove),
                mm(m.sides)
            ),
            format!("less than {}", mm(m.sides)),
        ));
    }
    if m.face_size().is_some_and(|f| f[0] <= 0.0 || f[1] <= 0.0) {
        return Err(Problem::impossible(
            "/face",
            "Nothing is left of the face in this opening.",
        ));
    }
    let size = |[w, h, d]: [f64; 3]| json!({ "w": w, "h": h, "d": d });
    let ratio = jam_ratio(i.friction, i.pull_offset, outside[2]);
    let aside = if m.motion.slides() {
        ("slides", m.slide_width)
    } else {
        ("gaps", m.gap)
    };
    Ok(json!({
        "box": size(outside),
        "inside": size(inside),
        "parts": m.boards(),
        "pull_force": pull_force(i.load, i.friction),
        "jam": { "ratio": ratio, "ok": ratio < 1.0 },
        "trace": [
            format!("width {} = opening {} - 2 {} of {} - 2 finish of {}",
                mm(outside[0]), mm(m.opening[0]), aside.0, mm(aside.1), mm(m.finish)),
            format!("inside {} = {} - 2 sides of {}", mm(inside[0]), mm(outside[0]), mm(m.sides)),
            format!("height {} of opening {}, depth {} of {}",
                mm(outside[1]), mm(m.opening[1]), mm(outside[2]), mm(m.opening[2])),
        ],
    }))
}
