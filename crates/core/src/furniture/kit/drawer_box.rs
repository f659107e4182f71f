//! Sizes of a drawer's box: opening less what the motion takes, less the sides.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::units::GRAVITY;

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
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Face {
    /// How it covers the opening.
    pub kind: FaceKind,
    /// How far it lies over the rim, mm.
    pub overlap: f64,
    /// Gap round an inset one, mm.
    pub gap: f64,
    /// Thickness, mm.
    pub thickness: f64,
}

/// What a drawer is made from.
#[derive(Debug, Clone, PartialEq)]
pub struct Making {
    /// Width, height, depth of the opening, mm.
    pub opening: [f64; 3],
    /// On what it runs.
    pub motion: Run,
    /// What one slide takes of the width, mm.
    pub slide_width: f64,
    /// Height of a strip, mm.
    pub strip: f64,
    /// Play, mm.
    pub gap: f64,
    /// Air behind it, mm.
    pub back_gap: f64,
    /// Thickness of sides, front and back, mm.
    pub sides: f64,
    /// Thickness of the bottom, mm.
    pub bottom: f64,
    /// How the bottom is held.
    pub joint: BottomJoint,
    /// Depth of grooves and rabbets, mm.
    pub groove: f64,
    /// A front of its own.
    pub face: Option<Face>,
    /// Height that a pull-out board above takes, mm.
    pub above: f64,
    /// Finish on a face, mm.
    pub finish: f64,
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
    /// Outside width, height, depth, mm; not above zero where the opening is too small.
    pub fn outside(&self) -> [f64; 3] {
        let [w, h, d] = self.opening;
        let aside = if self.motion.slides() {
            self.slide_width
        } else {
            self.gap
        };
        let up = match self.motion {
            Run::SideSlides | Run::LockingSlides => 2.0 * self.gap,
            Run::Strips => self.strip + self.gap,
            Run::Bare => self.gap,
        };
        let inset = self.face.filter(|f| f.kind == FaceKind::Inset);
        [
            w - 2.0 * aside - 2.0 * self.finish,
            h - self.above - up,
            d - self.back_gap - inset.map_or(0.0, |f| f.thickness),
        ]
    }

    /// Inside width, height, depth, mm. A lip below a groove comes off the height besides.
    pub fn inside(&self) -> [f64; 3] {
        let [w, h, d] = self.outside();
        [w - 2.0 * self.sides, h - self.bottom, d - 2.0 * self.sides]
    }

    /// Height of sides, front and back, mm.
    pub fn side_height(&self) -> f64 {
        let h = self.outside()[1];
        match self.joint {
            BottomJoint::Pocket => h - self.bottom,
            BottomJoint::GrooveBox | BottomJoint::Rabbet => h,
        }
    }

    /// Width and depth of the bottom, mm.
    pub fn bottom_size(&self) -> [f64; 2] {
        let ([w, _, d], [iw, _, id]) = (self.outside(), self.inside());
        match self.joint {
            BottomJoint::Pocket => [w, d],
            BottomJoint::GrooveBox | BottomJoint::Rabbet => {
                [iw + 2.0 * self.groove, id + 2.0 * self.groove]
            }
        }
    }

    /// Width and height of the face, mm.
    pub fn face_size(&self) -> Option<[f64; 2]> {
        let f = self.face?;
        let (w, h) = (self.opening[0], self.opening[1] - self.above);
        let more = match f.kind {
            FaceKind::Overlay => 2.0 * f.overlap,
            FaceKind::Inset => -2.0 * f.gap,
        };
        Some([w + more, h + more])
    }

    /// All boards of the box.
    pub fn boards(&self) -> Vec<Board> {
        let ([_, _, d], [iw, ..]) = (self.outside(), self.inside());
        let h = self.side_height();
        let board = |name, w, h, t, count| Board {
            name,
            w,
            h,
            t,
            count,
        };
        let [bw, bd] = self.bottom_size();
        let mut out = vec![
            board("side", d, h, self.sides, 2),
            board("front", iw, h, self.sides, 1),
            board("back", iw, h, self.sides, 1),
            board("bottom", bw, bd, self.bottom, 1),
        ];
        if let (Some([w, h]), Some(f)) = (self.face_size(), self.face) {
            out.push(board("face", w, h, f.thickness, 1));
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
