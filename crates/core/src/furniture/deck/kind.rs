//! The deck as a kind of furniture: its choices, what it claims, its boards.

use serde_json::{Map, Value};

use super::facts::platform;
use super::leaf::LOW;
use super::work;
use crate::furniture::built::{Built, Claim};
use crate::furniture::form::{Form, choices, complete, schema};
use crate::furniture::platform::Platform;
use crate::furniture::{Amount, Field, Kind, Site, Wanted};
use crate::geometry::region::Region;
use crate::input::{MAX_LENGTH, count, escape, within};
use crate::problem::Problem;
use crate::project::Project;
use crate::project::check::{covers, known, optional, sheet, text};
use crate::project::deck::{Change, DECK, Deck, Leaf, Manner, Split, Top};
use crate::project::module::Module;

/// The height of a deck where nothing tells a better one, mm, and by how much others are tried.
const USUAL: f64 = 300.0;
const STEP: f64 = 25.0;
/// So far above what was read a deck is put unasked, mm (a choice).
const UNREAD: f64 = 150.0;
/// Room over a deck, mm, below which nobody wants one.
const OVER: f64 = 250.0;
/// Most hatches in a deck.
const MOST_HATCHES: usize = 20;
/// A deck lower than this has no room below it, mm.
const LOWEST: f64 = 100.0;

/// A sleeping platform.
pub struct DeckKind;

impl Kind for DeckKind {
    fn name(&self) -> &'static str {
        DECK
    }

    fn purpose(&self) -> &'static str {
        "To sleep on, with room below."
    }

    fn schema(&self) -> Value {
        schema::<Deck>()
    }

    fn check(&self, project: &Project, module: &Module) -> Result<(), Problem> {
        let deck: Deck = choices(module)?;
        if !module.covers.none() {
            let words = "What covers the edges of a deck is among its choices.";
            return Err(Problem::impossible("/covers", words));
        }
        ranges(project, &deck, "/choices")
    }

    fn amount(&self, module: &Module) -> Amount {
        /// Its supports are looked for place by place: that takes as long as so many boards.
        const SUPPORTS: usize = 80;
        /// Slats lie side by side over no more than this, mm, in up to two rows.
        const ACROSS: f64 = 4000.0;
        let slats = Deck::of(module).filter(|d| d.top == Top::Slats);
        let slats = slats.map_or(0.0, |d| 2.0 * ACROSS / (d.slat_width + d.slat_gap).max(1.0));
        Amount {
            boards: SUPPORTS + slats as usize,
            pointer: "/choices/top",
        }
    }

    fn complete(&self, choices: &Map<String, Value>) -> Map<String, Value> {
        complete::<Deck>(choices)
    }

    fn defaults(&self, site: &Site, wanted: &Wanted) -> Result<Module, Problem> {
        let mut module = wanted.module(DECK, &Deck::default());
        self.check(site.project, &module)?;
        let roof = site.model.roof().unwrap_or(f64::INFINITY);
        let fits = |module: &Module| {
            let under_roof = Deck::of(module)
                .and_then(|d| Some(d.underside? + d.thickness <= roof))
                .unwrap_or(false);
            if !under_roof {
                return false;
            }
            let claim = self.claim(module, site);
            claim.is_some_and(|c| site.is_free(&c)) && self.work(module, site).is_some()
        };
        let no_room = |why: &str| Problem::impossible("/choices/underside", why);
        if module
            .choices
            .get("underside")
            .is_some_and(|u| !u.is_null())
        {
            return if fits(&module) {
                Ok(module)
            } else {
                Err(no_room(
                    "At this height something else is in the way, or nothing of the bay is left.",
                ))
            };
        }
        let surveyed = site.model.highest().unwrap_or(USUAL);
        // The usual height first, then ever further from it, what was surveyed before what was not.
        let mut heights: Vec<f64> = (0..200).map(|i| LOWEST + STEP * f64::from(i)).collect();
        heights.retain(|z| z + OVER <= roof);
        heights.sort_by(|a, b| {
            let order = |z: f64| (z > surveyed, (z - USUAL).abs());
            let ((p, a), (q, b)) = (order(*a), order(*b));
            p.cmp(&q).then(a.total_cmp(&b))
        });
        // Far above what was read the walls may be anywhere: nobody builds there unasked.
        let most = (surveyed + UNREAD).max(USUAL);
        for z in heights.into_iter().filter(|z| *z <= most) {
            module.choices.insert("underside".into(), z.into());
            if fits(&module) {
                return Ok(module);
            }
        }
        Err(no_room(
            "At no height near those that were read does a deck find room here: read the walls higher up, or make room.",
        ))
    }

    fn form(&self, module: &Module, site: &Site) -> Vec<Field> {
        let Some(d) = Deck::of(module) else {
            return vec![];
        };
        let f = Form::new(site, &d);
        let at = format!("/modules/{}", escape(site.id));
        vec![
            f.length("underside", "Height of its underside", d.underside)
                .empty("pick a rung")
                .why("everything above and below it follows"),
            f.material("material", "Board", &d.material),
            f.length("thickness", "Thickness", Some(d.thickness)),
            f.choice(
                "top",
                "Top",
                &[
                    ("solid", "solid, with vent holes"),
                    ("slats", "slats (where the mattress stays on)"),
                ],
            ),
            f.choice(
                "supports/manner",
                "Carried by",
                &[
                    ("frames", "ply frames on edge"),
                    ("legs", "rails on legs"),
                    ("ledgers", "ledgers on the walls"),
                ],
            ),
            f.count("supports/lines", "Supports", d.supports.lines)
                .empty("by sag")
                .why("lines across the bay, at least 2"),
            f.choice(
                "split",
                "Parted",
                &[
                    ("auto", "as sheet and door allow"),
                    ("whole", "one piece"),
                    ("lengthwise", "in two, along"),
                    ("across", "in two, across"),
                    ("quarters", "in four"),
                ],
            ),
            f.choice(
                "rest",
                "Where pieces meet",
                &[
                    ("edge", "each on half the edge"),
                    ("strips", "on strips on both faces"),
                ],
            )
            .why("over a thin support each has little to lie on"),
            f.choice(
                "change",
                "What moves",
                &[
                    ("fixed", "nothing"),
                    ("slide", "the front board slides back for the road"),
                    ("fold", "the front board folds back for the road"),
                    (
                        "flip",
                        "the front board, loose, is turned over onto the rear one for the road",
                    ),
                    ("lift", "the rear board lifts up on hinges"),
                ],
            ),
            f.choice(
                "pass",
                "A board that moves is cut",
                &[
                    ("narrow", "as narrow as its way back"),
                    ("full", "as wide as the bay"),
                ],
            ),
            f.choice(
                "hatches",
                "Hatches",
                &[
                    ("none", "none"),
                    ("bays", "one over each bay, where there is room"),
                    ("placed", "where I say"),
                ],
            )
            .why("boards that lift out, reached with the mattress rolled back"),
            f.choice(
                "leaf",
                "Leaf at the front end",
                &[
                    ("none", "none"),
                    ("left", "on the left half, one seat slid forward"),
                    ("right", "on the right half, one seat slid forward"),
                    ("both", "over the whole width, both seats slid forward"),
                ],
            )
            .why("folds back onto the deck for the road; at night it makes the bed longer"),
            f.length("joint", "The boards meet", d.joint)
                .empty("over the support nearest the middle")
                .why("where a deck parted across, or one that changes, is parted"),
            f.length("clearance", "Clearance", d.clearance)
                .empty("from readings"),
            f.length(
                "covers/left",
                "Carpet or foam, left edge",
                Some(d.covers.left),
            ),
            f.length(
                "covers/right",
                "Carpet or foam, right edge",
                Some(d.covers.right),
            ),
            f.length(
                "covers/front",
                "Carpet or foam, front edge",
                Some(d.covers.front),
            ),
            f.at(format!("{at}/finish"), "Finish on a face", Some(d.finish)),
            f.length("from", "Begins", d.from).empty("at the threshold"),
            f.length("to", "Ends", d.to).empty("at the front"),
            f.length("slat_width", "Slat width", Some(d.slat_width)),
            f.length("slat_gap", "Gap between slats", Some(d.slat_gap)),
            f.length("hatch_length", "Hatch, along", Some(d.hatch_length)),
            f.length("hatch_width", "Hatch, across", Some(d.hatch_width)),
            f.length("leaf_length", "Leaf, along", Some(d.leaf_length)),
            f.length("leaf_floor", "Floor under its legs", d.leaf_floor)
                .empty("as the floor under the front end"),
            // Frames are cut from sheets.
            match d.supports.manner {
                Manner::Frames => f.material(
                    "supports/material",
                    "Supports are made of",
                    &d.supports.material,
                ),
                Manner::Legs | Manner::Ledgers => f.material_or_bar(
                    "supports/material",
                    "Supports are made of",
                    &d.supports.material,
                ),
            },
            f.length(
                "supports/thickness",
                "Their thickness",
                Some(d.supports.thickness),
            ),
            f.length(
                "internal_radius",
                "Radius of inner corners",
                Some(d.internal_radius),
            ),
        ]
    }

    fn claim(&self, module: &Module, site: &Site) -> Option<Claim> {
        let d = Deck::of(module)?;
        let z = d.underside?;
        let (x0, y0, x1, y1) = site.model.bay(z)?.region.bounds();
        let (from, to) = (d.from.unwrap_or(x0).max(x0), d.to.unwrap_or(x1).min(x1));
        (to > from).then(|| Claim {
            plan: Region::rectangle(from, y0, to, y1),
            z: (z, z + d.thickness),
            keeps: vec![],
        })
    }

    fn platform(&self, project: &Project, id: &str, module: &Module) -> Option<Platform> {
        Some(platform(project, id, &Deck::of(module)?))
    }

    fn work(&self, module: &Module, site: &Site) -> Option<Built> {
        let d = Deck::of(module)?;
        work(site, &d)
    }
}

/// Every number of a deck.
fn ranges(p: &Project, d: &Deck, at: &str) -> Result<(), Problem> {
    optional(d.underside, &format!("{at}/underside"), 0.0, 5000.0)?;
    optional(d.from, &format!("{at}/from"), 0.0, MAX_LENGTH)?;
    optional(d.to, &format!("{at}/to"), 0.0, MAX_LENGTH)?;
    if let (Some(from), Some(to)) = (d.from, d.to)
        && to <= from
    {
        return Err(Problem::out_of_range(
            format!("{at}/to"),
            "The deck ends before it begins.",
            format!("more than {from}"),
        ));
    }
    sheet(p, &d.material, &format!("{at}/material"))?;
    within(d.thickness, &format!("{at}/thickness"), 3.0, 50.0)?;
    within(d.slat_width, &format!("{at}/slat_width"), 15.0, 500.0)?;
    within(d.slat_gap, &format!("{at}/slat_gap"), 0.0, 200.0)?;
    known(p, &d.supports.material, &format!("{at}/supports/material"))?;
    within(
        d.supports.thickness,
        &format!("{at}/supports/thickness"),
        3.0,
        50.0,
    )?;
    let bar = p.material(&d.supports.material).and_then(|m| m.bar);
    if bar.is_some() && d.supports.manner == Manner::Frames {
        return Err(Problem::impossible(
            format!("{at}/supports/manner"),
            "Frames are cut from sheets. Of bars there are rails on legs, and ledgers on the walls.",
        ));
    }
    if let Some(n) = d.supports.lines {
        within(f64::from(n), &format!("{at}/supports/lines"), 2.0, 20.0)?;
    }
    optional(d.clearance, &format!("{at}/clearance"), 0.0, 200.0)?;
    covers(&d.covers, &format!("{at}/covers"))?;
    within(d.hatch_length, &format!("{at}/hatch_length"), 120.0, 1000.0)?;
    within(d.hatch_width, &format!("{at}/hatch_width"), 120.0, 1000.0)?;
    count(
        d.hatch_places.len(),
        &format!("{at}/hatch_places"),
        0,
        MOST_HATCHES,
    )?;
    for (id, h) in &d.hatch_places {
        let at = format!("{at}/hatch_places/{}", escape(id));
        text(&h.name, &format!("{at}/name"))?;
        within(h.along, &format!("{at}/along"), 0.0, MAX_LENGTH)?;
        within(h.across, &format!("{at}/across"), -5000.0, 5000.0)?;
        within(h.length, &format!("{at}/length"), 120.0, 1000.0)?;
        within(h.width, &format!("{at}/width"), 120.0, 1000.0)?;
    }
    within(d.leaf_length, &format!("{at}/leaf_length"), 80.0, 1000.0)?;
    let most = d.underside.map_or(5000.0, |u| u - LOW);
    optional(d.leaf_floor, &format!("{at}/leaf_floor"), -1000.0, most)?;
    if d.leaf != Leaf::None
        && (d.top == Top::Slats || !matches!(d.change, Change::Fixed | Change::Lift))
    {
        return Err(Problem::impossible(
            format!("{at}/leaf"),
            "A leaf hangs on a solid front board that stays: one that is moved for the road takes its place.",
        ));
    }
    optional(d.joint, &format!("{at}/joint"), 0.0, MAX_LENGTH)?;
    if d.change != Change::Fixed {
        if matches!(d.split, Split::Whole | Split::Lengthwise) {
            return Err(Problem::impossible(
                format!("{at}/split"),
                "A deck of which a board moves is parted across.",
            ));
        }
        if d.top == Top::Slats {
            return Err(Problem::impossible(
                format!("{at}/top"),
                "A board that moves is solid: loose slats would be left behind.",
            ));
        }
    }
    within(
        d.internal_radius,
        &format!("{at}/internal_radius"),
        0.0,
        100.0,
    )?;
    within(
        d.limits.span_over,
        &format!("{at}/limits/span_over"),
        50.0,
        1000.0,
    )?;
    within(d.limits.knee, &format!("{at}/limits/knee"), 0.5, 50.0)?;
    for (id, r) in &d.leg_regions {
        let at = format!("{at}/leg_regions/{}", escape(id));
        within(r.from, &format!("{at}/from"), 0.0, MAX_LENGTH)?;
        within(r.to, &format!("{at}/to"), r.from, MAX_LENGTH)?;
        within(r.floor, &format!("{at}/floor"), -500.0, 2000.0)?;
    }
    Ok(())
}
