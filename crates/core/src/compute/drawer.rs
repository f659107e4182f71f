//! `drawer`: the boards of a drawer for an opening, how hard it pulls, whether it jams.

use serde::Deserialize;
use serde_json::{Value, json};

use crate::furniture::kit::drawer_box::{
    BottomJoint, Face, FaceKind, Making, Run, jam_ratio, pull_force,
};
use crate::input::{MAX_LENGTH, from_value, positive, within};
use crate::problem::Problem;
use crate::units::figure::Writer;
use crate::units::print::millimetres as mm;
use crate::units::value::Value as Length;

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
    let given = |v, at: &str, label: &str| Length::choice(at, label, v);
    let length = |v, at: &str, label: &str| {
        within(v, at, 0.0, MAX_LENGTH)?;
        Ok::<_, Problem>(given(v, at, label))
    };
    let some = |v, at: &str, label: &str| {
        positive(v, at, MAX_LENGTH)?;
        Ok::<_, Problem>(given(v, at, label))
    };
    let face = i.face.as_ref().map(|f| -> Result<Face, Problem> {
        Ok(Face {
            kind: f.kind,
            overlap: length(f.overlap, "/face/overlap", "overlap")?,
            gap: length(f.gap, "/face/gap", "gap round the face")?,
            thickness: some(f.thickness, "/face/thickness", "face")?,
        })
    });
    Ok(Making {
        opening: [
            some(i.opening.w, "/opening/w", "opening")?,
            some(i.opening.h, "/opening/h", "opening")?,
            some(i.opening.d, "/opening/d", "opening")?,
        ],
        motion: i.motion,
        slide_width: length(i.slide_width, "/slide_width", "slide")?,
        strip: length(i.strip, "/strip", "strip")?,
        gap: length(i.gap, "/gap", "gap")?,
        back_gap: length(i.back_gap, "/back_gap", "air behind it")?,
        sides: some(i.sides, "/sides", "side")?,
        bottom: some(i.bottom, "/bottom", "bottom")?,
        joint: i.joint,
        groove: length(i.groove, "/groove", "groove")?,
        face: face.transpose()?,
        above: length(i.above, "/above", "pull-out board above")?,
        finish: {
            within(i.finish, "/finish", 0.0, 100.0)?;
            given(i.finish, "/finish", "finish")
        },
    })
}

/// One line of arithmetic: `width 394.2 = opening 420 - 2 x slide 25.4 - 2 x finish 0.4`.
fn line(about: &str, v: &Length) -> String {
    let why = v.why(about, &Writer::default());
    let steps = why.steps.iter().map(|s| {
        let figure = s.figure.as_ref().map_or("", |f| f.mm.as_str());
        format!("{} {} {figure}", s.op, s.label).trim().to_string()
    });
    let steps: Vec<String> = steps.collect();
    format!("{about} {} = {}", why.total.mm, steps.join(" "))
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
        if inside[k].mm <= 0.0 {
            return Err(Problem::impossible(
                *at,
                format!(
                    "Of {} nothing is left inside: the box would be {}, inside {}.",
                    mm(m.opening[k].mm),
                    mm(outside[k].mm),
                    mm(inside[k].mm)
                ),
            ));
        }
    }
    if m.joint != BottomJoint::Pocket && m.groove.mm >= m.sides.mm {
        return Err(Problem::out_of_range(
            "/groove",
            format!(
                "A groove {} deep goes through sides of {}.",
                mm(m.groove.mm),
                mm(m.sides.mm)
            ),
            format!("less than {}", mm(m.sides.mm)),
        ));
    }
    if m.face_size()
        .is_some_and(|f| f[0].mm <= 0.0 || f[1].mm <= 0.0)
    {
        return Err(Problem::impossible(
            "/face",
            "Nothing is left of the face in this opening.",
        ));
    }
    let size = |[w, h, d]: &[Length; 3]| json!({ "w": w.mm, "h": h.mm, "d": d.mm });
    let ratio = jam_ratio(i.friction, i.pull_offset, outside[2].mm);
    Ok(json!({
        "box": size(&outside),
        "inside": size(&inside),
        "parts": m.boards(),
        "pull_force": pull_force(i.load, i.friction),
        "jam": { "ratio": ratio, "ok": ratio < 1.0 },
        "trace": [
            line("width", &outside[0]),
            line("height", &outside[1]),
            line("depth", &outside[2]),
            line("inside", &inside[0]),
        ],
    }))
}
