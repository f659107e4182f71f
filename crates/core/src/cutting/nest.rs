//! Parts on sheets: what the search is asked and how its answer is told.

pub use crate::mechanics::material::{PartGrain, SheetGrain};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::guillotine::Board;
pub use super::search::Tried;
use super::search::{Piece, SheetKind, Task};
use crate::input::{MAX_LENGTH, count, positive, within};
use crate::problem::Problem;

/// Most copies of all parts together.
const MAX_PIECES: usize = 2000;

/// How the sheet is cut.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Cut {
    /// Every cut right across a piece, as a saw along a guide does it.
    #[default]
    Guillotine,
    /// Any (answered with a layout that a saw can do as well).
    Free,
}

/// A kind of sheet to cut from.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NestSheet {
    /// Identifier.
    pub id: String,
    /// Width, mm.
    pub w: f64,
    /// Height, mm.
    pub h: f64,
    /// How many there are; null for as many as needed.
    #[serde(default)]
    pub count: Option<u32>,
    /// Price of one.
    #[serde(default)]
    pub cost: f64,
    /// Grain.
    #[serde(default)]
    pub grain: SheetGrain,
}

/// A part to cut.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NestPart {
    /// Identifier.
    pub id: String,
    /// Width, mm.
    pub w: f64,
    /// Height, mm.
    pub h: f64,
    /// How many.
    #[serde(default = "one")]
    pub count: u32,
    /// Grain.
    #[serde(default)]
    pub grain: PartGrain,
}

fn one() -> u32 {
    1
}

fn full_effort() -> f64 {
    1.0
}

/// The task of contract `nest`.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NestIn {
    /// Kinds of sheet.
    pub sheets: Vec<NestSheet>,
    /// Width of the cut, mm.
    #[serde(default)]
    pub kerf: f64,
    /// Taken off every side of a sheet, mm.
    #[serde(default)]
    pub trim: f64,
    /// How the sheet is cut.
    #[serde(default)]
    pub cut: Cut,
    /// Parts.
    pub parts: Vec<NestPart>,
    /// How hard to search, 1 is usual.
    #[serde(default = "full_effort")]
    pub effort: f64,
    /// Start of the search's dice.
    #[serde(default)]
    pub seed: u64,
}

/// A finished part on a sheet.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Placement {
    /// Part identifier.
    pub part: String,
    /// Which copy, from 0.
    pub n: u32,
    /// Lower left corner, mm.
    pub x: f64,
    /// Lower left corner, mm.
    pub y: f64,
    /// Turned by 90 degrees.
    pub rotated: bool,
    /// Width as it lies, mm.
    pub w: f64,
    /// Height as it lies, mm.
    pub h: f64,
}

/// A numbered cut.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CutLine {
    /// Order on this sheet, from 1.
    pub n: u32,
    /// `x`: the saw runs along y at a constant x. `y`: the other way.
    pub axis: &'static str,
    /// The kerf takes `at .. at + kerf`.
    pub at: f64,
    /// Start of the run.
    pub from: f64,
    /// End of the run.
    pub to: f64,
}

/// What is left of a sheet.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Offcut {
    /// Lower left corner, mm.
    pub x: f64,
    /// Lower left corner, mm.
    pub y: f64,
    /// Width, mm.
    pub w: f64,
    /// Height, mm.
    pub h: f64,
}

/// One sheet with its parts.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Layout {
    /// Sheet identifier.
    pub sheet: String,
    /// Parts.
    pub placements: Vec<Placement>,
    /// Cuts in order.
    pub cuts: Vec<CutLine>,
    /// What is left.
    pub offcuts: Vec<Offcut>,
}

/// The answer of contract `nest`.
#[derive(Debug, Clone, PartialEq, Default, Serialize, ToSchema)]
pub struct NestOut {
    /// One for each sheet used.
    pub layouts: Vec<Layout>,
    /// How many sheets.
    pub sheets_used: usize,
    /// What they cost.
    pub cost: f64,
    /// Area of the parts, mm2.
    pub used_area: f64,
    /// No layout can cost less than this.
    pub lower_bound: f64,
    /// No layout can use fewer sheets than this.
    pub lower_bound_sheets: usize,
    /// Cost and sheets are at their bounds.
    pub proven: bool,
}

impl NestIn {
    fn check(&self) -> Result<(), Problem> {
        count(self.sheets.len(), "/sheets", 1, 50)?;
        count(self.parts.len(), "/parts", 0, MAX_PIECES)?;
        within(self.kerf, "/kerf", 0.0, 50.0)?;
        within(self.trim, "/trim", 0.0, 500.0)?;
        within(self.effort, "/effort", 0.0, 20.0)?;
        for (i, s) in self.sheets.iter().enumerate() {
            positive(s.w, &format!("/sheets/{i}/w"), MAX_LENGTH)?;
            positive(s.h, &format!("/sheets/{i}/h"), MAX_LENGTH)?;
            within(s.cost, &format!("/sheets/{i}/cost"), 0.0, 1e6)?;
            if self.sheets[..i].iter().any(|o| o.id == s.id) {
                return Err(Problem::shape(
                    format!("/sheets/{i}/id"),
                    format!("The identifier \"{}\" is used twice.", s.id),
                ));
            }
        }
        let mut total = 0_usize;
        for (i, p) in self.parts.iter().enumerate() {
            positive(p.w, &format!("/parts/{i}/w"), MAX_LENGTH)?;
            positive(p.h, &format!("/parts/{i}/h"), MAX_LENGTH)?;
            total = total.saturating_add(p.count as usize);
            if total > MAX_PIECES {
                return Err(Problem::out_of_range(
                    format!("/parts/{i}/count"),
                    format!("More than {MAX_PIECES} pieces in all."),
                    format!("at most {MAX_PIECES} pieces"),
                ));
            }
            if self.parts[..i].iter().any(|o| o.id == p.id) {
                return Err(Problem::shape(
                    format!("/parts/{i}/id"),
                    format!("The identifier \"{}\" is used twice.", p.id),
                ));
            }
        }
        Ok(())
    }

    fn task(&self) -> (Task, Vec<(usize, u32)>) {
        let mut pieces = Vec::new();
        let mut which = Vec::new();
        for (i, p) in self.parts.iter().enumerate() {
            let ways: Vec<_> = self.sheets.iter().map(|s| ways(p.grain, s.grain)).collect();
            for n in 0..p.count {
                pieces.push(Piece {
                    w: p.w,
                    h: p.h,
                    ways: ways.clone(),
                });
                which.push((i, n));
            }
        }
        let sheets = self.sheets.iter().map(|s| SheetKind {
            w: s.w,
            h: s.h,
            count: s.count.map(|c| c as usize),
            cost: s.cost,
        });
        let task = Task {
            sheets: sheets.collect(),
            pieces,
            kerf: self.kerf,
            trim: self.trim,
        };
        (task, which)
    }

    /// Each part lies on one of the sheets, taken alone and with its grain as asked.
    pub fn each_lies(&self) -> bool {
        let (task, _) = self.task();
        let lies = |piece| (0..task.sheets.len()).any(|k| task.lies(piece, k));
        task.pieces.iter().all(lies)
    }

    /// Lays the parts out.
    ///
    /// # Errors
    /// Numbers out of range, doubled identifiers, a part that lies on no sheet, too few sheets.
    pub fn solve(&self) -> Result<NestOut, Problem> {
        let all = self.solve_while(&mut |_| true)?;
        Ok(all.unwrap_or_default())
    }

    /// The same as long as `go_on` says so; it is told how far the search is. `None` if it was stopped.
    ///
    /// # Errors
    /// As `solve`.
    pub fn solve_while(
        &self,
        go_on: &mut dyn FnMut(Tried) -> bool,
    ) -> Result<Option<NestOut>, Problem> {
        self.check()?;
        let (task, which) = self.task();
        for (piece, (i, _)) in task.pieces.iter().zip(&which) {
            if !(0..task.sheets.len()).any(|k| task.lies(piece, k)) {
                return Err(Problem::impossible(
                    format!("/parts/{i}"),
                    format!(
                        "Part \"{}\" ({} x {}) lies on none of the sheets, with its grain as asked.",
                        self.parts[*i].id, piece.w, piece.h
                    ),
                ));
            }
        }
        let mut stopped = false;
        let found = task.solve(self.effort, self.seed, &mut |tried| {
            let on = go_on(tried);
            stopped = !on;
            on
        });
        if stopped {
            return Ok(None);
        }
        let boards = found.ok_or_else(|| {
            Problem::impossible(
                "/sheets",
                "The parts do not go on the sheets there are: more sheets are needed.",
            )
        })?;
        let cost = boards.iter().map(|b| task.sheets[b.kind].cost).sum();
        let (lower_bound, lower_bound_sheets) = task.area_bound();
        Ok(Some(NestOut {
            sheets_used: boards.len(),
            cost,
            used_area: task.pieces.iter().map(|p| p.w * p.h).sum(),
            lower_bound,
            lower_bound_sheets,
            proven: cost <= lower_bound + 1e-9 && boards.len() <= lower_bound_sheets,
            layouts: boards.iter().map(|b| self.tell(b, &which)).collect(),
        }))
    }

    fn tell(&self, board: &Board, which: &[(usize, u32)]) -> Layout {
        let placements = board.puts.iter().map(|p| {
            let (part, n) = which[p.piece];
            Placement {
                part: self.parts[part].id.clone(),
                n,
                x: p.rect.x,
                y: p.rect.y,
                rotated: p.rotated,
                w: p.rect.w,
                h: p.rect.h,
            }
        });
        let cuts = board.saws.iter().enumerate().map(|(i, s)| CutLine {
            n: i as u32 + 1,
            axis: if s.vertical { "x" } else { "y" },
            at: s.at,
            from: s.from,
            to: s.to,
        });
        let offcuts = board.free.iter().map(|r| Offcut {
            x: r.x,
            y: r.y,
            w: r.w,
            h: r.h,
        });
        let mut offcuts: Vec<_> = offcuts.collect();
        offcuts.sort_by(|a, b| (b.w * b.h).total_cmp(&(a.w * a.h)));
        Layout {
            sheet: self.sheets[board.kind].id.clone(),
            placements: placements.collect(),
            cuts: cuts.collect(),
            offcuts,
        }
    }
}

/// May a part lie as given, may it lie turned?
fn ways(part: PartGrain, sheet: SheetGrain) -> (bool, bool) {
    match (part, sheet) {
        (PartGrain::Free, _) | (_, SheetGrain::None) => (true, true),
        (PartGrain::Along, SheetGrain::W) | (PartGrain::Across, SheetGrain::H) => (true, false),
        (PartGrain::Across, SheetGrain::W) | (PartGrain::Along, SheetGrain::H) => (false, true),
    }
}
