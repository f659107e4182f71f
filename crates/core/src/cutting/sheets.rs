//! The project's parts on the project's sheets, one task for each material and thickness.

use serde::Serialize;
use utoipa::ToSchema;

use super::accepted::{Standing, is_begun, one_thickness, standing};
use super::kept;
use super::nest::{Cut, Layout, NestIn, NestOut, NestPart, NestSheet, SheetGrain, Tried};
use super::view::SheetOf;
use crate::mechanics::material::PartGrain;
use crate::parts::Part;
use crate::project::Project;
use crate::project::accepted::{Accepted, AcceptedPlace, AcceptedSheet};
use crate::project::stock::{trim, usual_sheet};
use crate::units::figure::Figure;

/// A part as wide as a bar but for the marks of a tape, mm.
const BAR: f64 = 2.0;
/// Search effort inside a plan: it is worked out at every edit.
const EFFORT: f64 = 0.02;

/// All sheets of one material and thickness.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SheetGroup {
    /// Material and thickness in words.
    pub stuff: String,
    /// Material identifier.
    pub material: String,
    /// Thickness.
    pub thickness: Figure,
    /// The sheets used, in order, with their sizes.
    pub sheets: Vec<SheetView>,
    /// The whole answer.
    pub nest: NestOut,
    /// They are bars, sold by length.
    pub bar: bool,
    /// The stock has no such sheet: a usual one was assumed.
    pub assumed: bool,
    /// Why there is no layout.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub problem: Option<String>,
    /// Share of the sheets that becomes parts, percent.
    pub used_percent: f64,
    /// How many of the sheets have no price: `nest.cost` leaves them out.
    pub unpriced: usize,
}

/// One sheet and how it is cut.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SheetView {
    /// Its name: `S1`.
    pub mark: String,
    /// Width.
    pub w: Figure,
    /// Height.
    pub h: Figure,
    /// Which way its grain runs.
    pub grain: SheetGrain,
    /// Parts on it.
    pub parts: Vec<PlacedView>,
    /// What is done before the first cut: factory edges trimmed off.
    pub first: Vec<String>,
    /// The cuts in order, in words.
    pub cuts: Vec<CutView>,
    /// What is left, named.
    pub offcuts: Vec<OffcutView>,
    /// Which layout of the answer it is.
    pub layout: usize,
    /// Its place in the order of cutting.
    pub order: u32,
    /// It was accepted: it stays as it is.
    pub accepted: bool,
}

/// A part on a sheet.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PlacedView {
    /// Part identifier.
    pub part: String,
    /// Its mark.
    pub mark: String,
    /// Lower left corner, mm.
    pub x: f64,
    /// Lower left corner, mm.
    pub y: f64,
    /// Size as it lies, mm.
    pub w: f64,
    /// Size as it lies, mm.
    pub h: f64,
    /// Turned by 90 degrees.
    pub rotated: bool,
    /// How it stands against the plan, on an accepted sheet.
    pub standing: Standing,
    /// All cuts that bound it are ticked off.
    pub cut: bool,
    /// How far the worst marked corner of today lies from the accepted one, mm; infinite where the board is another.
    #[serde(skip)]
    pub off: f64,
}

/// A cut to tick off.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CutView {
    /// Names this cut for ticking off, once its sheet is accepted.
    pub key: String,
    /// What named it before layouts could be accepted.
    #[serde(skip)]
    pub former: String,
    /// It was ticked off.
    pub done: bool,
    /// Its number.
    pub n: u32,
    /// `x` or `y`: the axis along which `at` is measured.
    pub axis: String,
    /// Where the kerf begins.
    pub at: Figure,
    /// Start of the run, mm.
    pub from: f64,
    /// End of the run, mm.
    pub to: f64,
    /// Length of the run.
    pub length: Figure,
    /// Which fence setting: from the edge of the piece being cut.
    pub set: Figure,
    /// In words.
    pub text: String,
}

/// An offcut worth keeping.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct OffcutView {
    /// Its name: `S1-a`.
    pub mark: String,
    /// Lower left corner, mm.
    pub x: f64,
    /// Lower left corner, mm.
    pub y: f64,
    /// Width.
    pub w: Figure,
    /// Height.
    pub h: Figure,
}

/// What of an accepted layout stays.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Keep {
    /// All of it; parts that changed are told, not laid out again.
    All,
    /// The sheets that were begun; everything else is laid out anew.
    Begun,
}

/// All parts on sheets: those accepted as they are, the others as they first fit.
pub fn groups(project: &Project, parts: &[Part]) -> Vec<SheetGroup> {
    lay_out(project, parts, Keep::All, EFFORT, &mut |_| true).unwrap_or_default()
}

/// Lays the parts out with about `effort` units of work for each kind of sheet. `go_on` is told how far it is; where
/// it says no the answer is `None`.
pub fn lay_out(
    project: &Project,
    parts: &[Part],
    keep: Keep,
    effort: f64,
    go_on: &mut dyn FnMut(Tried) -> bool,
) -> Option<Vec<SheetGroup>> {
    let accepted = project.cutting.accepted.clone().unwrap_or_default();
    let mut kept: Vec<(&String, &AcceptedSheet)> = accepted
        .sheets
        .iter()
        .filter(|(id, s)| keep == Keep::All || is_begun(project, id, s))
        .collect();
    kept.sort_by_key(|(id, s)| (s.order, id.len(), (*id).clone()));
    let mut kinds: Vec<(&str, f64)> = Vec::new();
    let own = parts
        .iter()
        .map(|p| (p.material.as_str(), p.thickness.value));
    for kind in own.chain(kept.iter().map(|(_, s)| (s.material.as_str(), s.thickness))) {
        let same = |k: &(&str, f64)| k.0 == kind.0 && one_thickness(k.1, kind.1);
        if !kinds.iter().any(same) {
            kinds.push(kind);
        }
    }
    let mut names = Names::new(&kept);
    kinds
        .into_iter()
        .map(|(material, thickness)| {
            let job = Job {
                project,
                material,
                thickness,
                parts: parts
                    .iter()
                    .filter(|p| {
                        p.material == material && one_thickness(p.thickness.value, thickness)
                    })
                    .collect(),
                all: parts,
                accepted: &accepted,
                kept: kept
                    .iter()
                    .filter(|(_, s)| {
                        s.material == material && one_thickness(s.thickness, thickness)
                    })
                    .copied()
                    .collect(),
            };
            job.group(keep, effort, &mut names, go_on)
        })
        .collect()
}

/// Names of sheets that are not taken yet: `S1`, `S2`...
struct Names {
    taken: Vec<String>,
    next: usize,
    order: u32,
}

impl Names {
    fn new(kept: &[(&String, &AcceptedSheet)]) -> Names {
        Names {
            taken: kept.iter().map(|(id, _)| (*id).clone()).collect(),
            next: 0,
            order: kept.iter().map(|(_, s)| s.order).max().unwrap_or(0),
        }
    }

    fn next(&mut self) -> (String, u32) {
        self.order += 1;
        loop {
            self.next += 1;
            let name = format!("S{}", self.next);
            if !self.taken.contains(&name) {
                return (name, self.order);
            }
        }
    }
}

/// One kind of sheet.
struct Job<'a> {
    project: &'a Project,
    material: &'a str,
    thickness: f64,
    parts: Vec<&'a Part>,
    all: &'a [Part],
    accepted: &'a Accepted,
    kept: Vec<(&'a String, &'a AcceptedSheet)>,
}

impl Job<'_> {
    /// Copies of a part that lie on the sheets that stay.
    fn covered(&self, id: &str, keep: Keep) -> u32 {
        let places = self
            .kept
            .iter()
            .flat_map(|(_, s)| s.parts.iter().map(move |p| (*s, p)));
        let own = places.filter(|(_, p)| p.part == id);
        let counts = own.filter(|(s, p)| match self.standing(s, p) {
            Standing::Right => true,
            Standing::Changed => keep == Keep::All,
            Standing::Replaced | Standing::Gone => false,
        });
        counts.count() as u32
    }

    fn standing(&self, s: &AcceptedSheet, p: &AcceptedPlace) -> Standing {
        standing(
            self.accepted,
            s,
            p,
            self.all,
            self.project.units.marks().mm(),
        )
    }

    /// Area of what is still needed on an accepted sheet, mm2.
    fn wanted(&self, s: &AcceptedSheet) -> f64 {
        let dead =
            |p: &&AcceptedPlace| matches!(self.standing(s, p), Standing::Replaced | Standing::Gone);
        let needed = s.parts.iter().filter(|p| !dead(p));
        needed.map(|p| p.at[2] * p.at[3]).sum()
    }

    fn group(
        &self,
        keep: Keep,
        effort: f64,
        names: &mut Names,
        go_on: &mut dyn FnMut(Tried) -> bool,
    ) -> Option<SheetGroup> {
        let w = self.project.writer();
        let (mut task, assumed) = task(self.project, self.material, self.thickness, &self.parts);
        task.effort = effort;
        for p in &mut task.parts {
            p.count = p.count.saturating_sub(self.covered(&p.id, keep));
        }
        task.parts.retain(|p| p.count > 0);
        for s in &mut task.sheets {
            let used = self.kept.iter().filter(|(_, k)| k.stock == s.id).count() as u32;
            s.count = s.count.map(|c| c.saturating_sub(used));
        }
        let stuff = self.parts.first().map(|p| p.stuff.clone());
        let mut out = SheetGroup {
            stuff: stuff
                .unwrap_or_else(|| self.project.board_called(self.material, self.thickness)),
            material: self.material.into(),
            thickness: w.figure(self.thickness),
            sheets: vec![],
            bar: {
                let material = self.project.material(self.material);
                material.is_some_and(|m| m.bar.is_some())
            },
            nest: NestOut::default(),
            assumed: assumed && !task.parts.is_empty(),
            problem: None,
            used_percent: 0.0,
            unpriced: 0,
        };
        // A search that somebody watches says how far it is, each time.
        let short = effort <= EFFORT;
        let known = short.then(|| kept::get(&task)).flatten();
        let fresh = match known.map_or_else(|| task.solve_while(go_on), |nest| Ok(Some(nest))) {
            Ok(nest) => nest?,
            Err(problem) => {
                out.problem = Some(problem.detail);
                NestOut::default()
            }
        };
        if short && out.problem.is_none() {
            kept::put(&task, &fresh);
        }
        let old: Vec<Layout> = self.kept.iter().map(|(_, s)| s.layout()).collect();
        let mut nest = fresh;
        let new = std::mem::take(&mut nest.layouts);
        let price = |l: &Layout| {
            let own = self.project.stock.get(&l.sheet);
            own.and_then(|s| s.cost).unwrap_or(0.0)
        };
        nest.cost += old.iter().map(price).sum::<f64>();
        nest.sheets_used += old.len();
        nest.proven &= old.is_empty();
        nest.used_area += self.kept.iter().map(|(_, s)| self.wanted(s)).sum::<f64>();
        let mut bought = 0.0;
        for (layout, (id, s)) in self.kept.iter().enumerate() {
            bought += s.w * s.h;
            let view = SheetOf {
                name: ((*id).clone(), s.order),
                size: (s.w, s.h, s.grain),
                saw: (s.kerf, s.trim),
                accepted: Some((self.accepted, s)),
            };
            out.sheets
                .push(view.show(self.project, self.all, &old[layout], layout));
        }
        for (i, l) in new.iter().enumerate() {
            let Some(sheet) = task.sheets.iter().find(|s| s.id == l.sheet) else {
                continue;
            };
            bought += sheet.w * sheet.h;
            let view = SheetOf {
                name: names.next(),
                size: (sheet.w, sheet.h, sheet.grain),
                saw: (task.kerf, task.trim),
                accepted: None,
            };
            out.sheets
                .push(view.show(self.project, self.all, l, old.len() + i));
        }
        nest.layouts = old.into_iter().chain(new).collect();
        let priced = |l: &&Layout| {
            let own = self.project.stock.get(&l.sheet);
            own.is_some_and(|s| s.cost.is_some())
        };
        out.unpriced = nest.layouts.iter().filter(|l| !priced(l)).count();
        if bought > 0.0 {
            out.used_percent = 100.0 * nest.used_area / bought;
        }
        out.nest = nest;
        Some(out)
    }
}

/// How a part that is alone lies on the largest sheet of its stock.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Lies {
    /// It lies on one.
    Yes,
    /// It lies on one once its grain runs the other way.
    Turned,
    /// It is larger than each.
    No,
}

/// How a part lies on the sheets of its stock.
pub fn lies(project: &Project, part: &Part) -> Lies {
    let (mut task, _) = task(project, &part.material, part.thickness.value, &[part]);
    if task.each_lies() {
        return Lies::Yes;
    }
    for p in &mut task.parts {
        p.grain = PartGrain::Free;
    }
    match task.each_lies() {
        true => Lies::Turned,
        false => Lies::No,
    }
}

fn task(project: &Project, material: &str, thickness: f64, parts: &[&Part]) -> (NestIn, bool) {
    let stock = project.stock.iter().filter(|(_, s)| {
        s.material == material && (s.thickness - thickness).abs() < 0.05 && s.count != Some(0)
    });
    let mut sheets: Vec<NestSheet> = stock
        .map(|(id, s)| NestSheet {
            id: id.clone(),
            w: s.w,
            h: s.h,
            count: s.count,
            cost: s.cost.unwrap_or(0.0),
            grain: s.grain,
        })
        .collect();
    let assumed = sheets.is_empty();
    if assumed {
        let (w, h) = usual_sheet(project, material);
        sheets.push(NestSheet {
            id: "usual".into(),
            w,
            h,
            count: None,
            cost: 0.0,
            grain: SheetGrain::W,
        });
    }
    if project.material(material).is_some_and(|m| m.bar.is_some()) {
        // A bar is cut to length only: it is as wide as what is marked on it.
        let wide = parts.iter().map(|p| p.h.value.min(p.w.value));
        let wide = wide.fold(0.0, f64::max);
        for s in sheets.iter_mut().filter(|s| (s.h - wide).abs() < BAR) {
            s.h = wide;
        }
    }
    let parts = parts.iter().map(|p| NestPart {
        id: p.id.clone(),
        w: p.w.value,
        h: p.h.value,
        count: p.count,
        grain: p.grain,
    });
    let task = NestIn {
        sheets,
        kerf: project.cutting.kerf,
        trim: trim(project, material),
        cut: Cut::Guillotine,
        parts: parts.collect(),
        effort: EFFORT,
        seed: 1,
    };
    (task, assumed)
}
