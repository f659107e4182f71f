//! Sizes of a drawer's box: opening less what the motion takes, less the sides.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::units::GRAVITY;
use crate::units::value::Value;

/// On what a drawer runs.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Run {
    /// Ball-bearing slides at its sides.
    #[default]
    SideSlides,
    /// The same, locking in and out.
    LockingSlides,
    /// Slippery strips below it.
    Strips,
    /// Wood on wood.
    Bare,
}

impl Run {
    /// It hangs on slides.
    pub fn slides(self) -> bool {
        matches!(self, Run::SideSlides | Run::LockingSlides)
    }
}

/// How the bottom is held.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum BottomJoint {
    /// Under the sides, pocket-screwed corners.
    Pocket,
    /// In grooves of all four.
    #[default]
    GrooveBox,
    /// In rabbets, flush below.
    Rabbet,
}

/// How the front covers the opening.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum FaceKind {
    /// Before the opening, over its rim.
    #[default]
    Overlay,
    /// In the opening.
    Inset,
}

/// A front of its own.
#[derive(Debug, Clone, PartialEq)]
pub struct Face {
    /// How it covers the opening.
    pub kind: FaceKind,
    /// How far it lies over the rim.
    pub overlap: Value,
    /// Gap round an inset one.
    pub gap: Value,
    /// Thickness.
    pub thickness: Value,
}

/// What a drawer is made from: all lengths with where they come from.
#[derive(Debug, Clone, PartialEq)]
pub struct Making {
    /// Width, height, depth of the opening.
    pub opening: [Value; 3],
    /// On what it runs.
    pub motion: Run,
    /// What one slide takes of the width.
    pub slide_width: Value,
    /// Height of a strip.
    pub strip: Value,
    /// Play.
    pub gap: Value,
    /// Air behind it.
    pub back_gap: Value,
    /// Thickness of sides, front and back.
    pub sides: Value,
    /// Thickness of the bottom.
    pub bottom: Value,
    /// How the bottom is held.
    pub joint: BottomJoint,
    /// Depth of grooves and rabbets.
    pub groove: Value,
    /// A front of its own.
    pub face: Option<Face>,
    /// Height that a pull-out board above takes.
    pub above: Value,
    /// Finish on a face.
    pub finish: Value,
}

/// One board of a drawer.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Board {
    /// What it is.
    pub name: &'static str,
    /// Width, mm.
    pub w: f64,
    /// Height, or depth of a bottom, mm.
    pub h: f64,
    /// Thickness, mm.
    pub t: f64,
    /// How many.
    pub count: u32,
}

impl Making {
    /// What stands between box and opening on one side.
    pub fn aside(&self) -> &Value {
        if self.motion.slides() {
            &self.slide_width
        } else {
            &self.gap
        }
    }

    /// Outside width, height, depth; not above zero where the opening is too small.
    pub fn outside(&self) -> [Value; 3] {
        let [w, h, d] = &self.opening;
        let up = match self.motion {
            Run::SideSlides | Run::LockingSlides => &self.gap * 2.0,
            Run::Strips => &self.strip + &self.gap,
            Run::Bare => self.gap.clone(),
        };
        let depth = d - &self.back_gap;
        [
            w - self.aside() * 2.0 - &self.finish * 2.0,
            h - &self.above - up,
            match &self.face {
                Some(f) if f.kind == FaceKind::Inset => depth - &f.thickness,
                _ => depth,
            },
        ]
    }

    /// Inside width, height, depth. A lip below a groove comes off the height besides.
    pub fn inside(&self) -> [Value; 3] {
        let [w, h, d] = self.outside();
        [
            w.named("width of the box") - &self.sides * 2.0,
            h.named("height of the box") - &self.bottom,
            d.named("depth of the box") - &self.sides * 2.0,
        ]
    }

    /// Height of sides, front and back.
    pub fn side_height(&self) -> Value {
        let [_, h, _] = self.outside();
        match self.joint {
            BottomJoint::Pocket => h.named("height of the box") - &self.bottom,
            BottomJoint::GrooveBox | BottomJoint::Rabbet => h,
        }
    }

    /// Width and depth of the bottom.
    pub fn bottom_size(&self) -> [Value; 2] {
        let ([w, _, d], [iw, _, id]) = (self.outside(), self.inside());
        match self.joint {
            BottomJoint::Pocket => [w, d],
            BottomJoint::GrooveBox | BottomJoint::Rabbet => [
                iw.named("width inside") + &self.groove * 2.0,
                id.named("depth inside") + &self.groove * 2.0,
            ],
        }
    }

    /// Width and height of the face.
    pub fn face_size(&self) -> Option<[Value; 2]> {
        let f = self.face.as_ref()?;
        let more = match f.kind {
            FaceKind::Overlay => &f.overlap * 2.0,
            FaceKind::Inset => &f.gap * -2.0,
        };
        let [w, h, _] = &self.opening;
        Some([w + &more, h - &self.above + more])
    }

    /// All boards of the box.
    pub fn boards(&self) -> Vec<Board> {
        let ([_, _, d], [iw, ..]) = (self.outside(), self.inside());
        let h = self.side_height();
        let board = |name, w: &Value, h: &Value, t: &Value, count| Board {
            name,
            w: w.mm,
            h: h.mm,
            t: t.mm,
            count,
        };
        let [bw, bd] = self.bottom_size();
        let mut out = vec![
            board("side", &d, &h, &self.sides, 2),
            board("front", &iw, &h, &self.sides, 1),
            board("back", &iw, &h, &self.sides, 1),
            board("bottom", &bw, &bd, &self.bottom, 1),
        ];
        if let (Some([w, h]), Some(f)) = (self.face_size(), &self.face) {
            out.push(board("face", &w, &h, &f.thickness, 1));
        }
        out
    }
}

/// Force that pulls a drawer of `load` kg over strips or wood, N: Coulomb friction.
pub fn pull_force(load: f64, friction: f64) -> f64 {
    friction * load * GRAVITY
}

/// How near a drawer that is pulled off its middle is to jamming: it does at 1. Moments about the guided
/// length, both guides carrying the couple.
pub fn jam_ratio(friction: f64, pull_offset: f64, guided: f64) -> f64 {
    2.0 * friction * pull_offset / guided
}
