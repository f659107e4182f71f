//! Hatches in a deck: boards that lift out or turn up on hinges, one in each bay between two supports or where the person
//! wants them, on short cleats under the rim of their hole. What lies below is reached with the mattress rolled back.

use super::change::FRONT;
use crate::furniture::Site;
use crate::furniture::built::{
    Axis, Board, Body, Built, FIXED, Fasten, Item, Joint, Measure, Motion, Pose, Span, Under, Vec3,
};
use crate::furniture::kit::hinges::Hinges;
use crate::furniture::platform::Refused;
use crate::furniture::platform::gaps::around;
use crate::furniture::way::Way;
use crate::geometry::region::Region;
use crate::input::escape;
use crate::mechanics::lid::MOST;
use crate::mechanics::material::PartGrain;
use crate::project::deck::{Deck, HatchOpens, Hatches, Top};
use crate::project::survey::Side;
use crate::survey::obstacle::Obstacle;
use crate::units::value::Value;

/// So far off an edge of its board, and off the middle of a support, a hole begins, mm (choices: the rim carries).
const RIM: f64 = 90.0;
const SUPPORT: f64 = 60.0;
/// Round a hatch, mm (a choice: it lifts out when it is damp, too).
const GAP: f64 = 2.0;
/// A cleat, and how far it reaches into the hole, mm (choices: short ones keep the hole large).
const CLEAT: [f64; 2] = [80.0, 40.0];
const UNDER: f64 = 18.0;
/// A hatch this long has two cleats on a side, mm.
const TWO: f64 = 220.0;
/// It is lifted so high, mm.
const UP: f64 = 150.0;
/// A finger hole: two of these joined (32 mm: common practice, no source); a hatch gets one, mm.
const FINGER: f64 = 32.0;
/// Where a hatch cannot be, room is looked for in steps of so many mm, so often each way.
const STEP: f64 = 5.0;
const LOOKS: u32 = 160;

/// A hole in a board of the deck, and what closes it.
struct Hole {
    panel: usize,
    hole: Region,
    /// Pointers of its length and width below the choices.
    size: [(String, f64); 2],
    name: String,
    opens: HatchOpens,
}

/// What was cut.
pub struct Cut {
    /// Hatches, cleats, hinges.
    pub built: Built,
    /// How many hatches there are, or would be.
    pub count: usize,
    /// Those that the person placed and that cannot be there.
    pub refused: Vec<Refused>,
}

/// What a hole in a deck's boards must keep clear of.
struct Rules<'a> {
    site: &'a Site<'a>,
    lines: &'a [f64],
    panels: &'a [Board],
    things: Vec<Region>,
    /// Supports that reach up beside the cleats: their least and greatest corners.
    beside: Vec<(Vec3, Vec3)>,
    /// Underside of the cleats, mm.
    low: f64,
}

impl<'a> Rules<'a> {
    fn new(
        site: &'a Site<'a>,
        deck: &Deck,
        (lines, supports): (&'a [f64], &[Board]),
        panels: &'a [Board],
    ) -> Rules<'a> {
        // Nothing of the vehicle comes up to the deck where its cleats are.
        let under = deck.underside.unwrap_or(0.0);
        let low = under - deck.thickness;
        let things = site.model.things();
        let things = things.filter(|o| o.z.0 < under && o.up_to() > low);
        // Nor a ledger that runs further in than the wall.
        let beside = supports.iter().map(around);
        Rules {
            site,
            lines,
            panels,
            things: things.map(Obstacle::plan).collect(),
            beside: beside.filter(|b| b.0[2] < under && b.1[2] > low).collect(),
            low,
        }
    }

    /// The board in which a hole has room; else what is in its way.
    fn board(&self, hole: &Region) -> Result<usize, &'static str> {
        let (x0, y0, x1, y1) = hole.bounds();
        let under = |x: &f64| *x > x0 - SUPPORT && *x < x1 + SUPPORT;
        if self.lines.iter().any(under) {
            return Err("a support runs below it");
        }
        let rim = Region::rectangle(x0 - RIM, y0 - RIM, x1 + RIM, y1 + RIM);
        let wood = |p: &Board| {
            let missing = rim.minus(std::slice::from_ref(&p.shape));
            missing.iter().all(|r| r.area() < 1.0)
        };
        let Some(i) = self.panels.iter().position(wood) else {
            return Err("it needs a rim all round within one board of the deck");
        };
        // Its cleats would lie on the board over which a front board slides or folds.
        if self.panels[i].body == FRONT {
            return Err("that board is moved for the road");
        }
        let wall = |side, y: f64| {
            let off =
                [rim.bounds().0, rim.bounds().2].map(|x| self.site.model.offset(side, x, self.low));
            off.into_iter().flatten().all(|w| y < w)
        };
        let (_, r0, _, r1) = rim.bounds();
        let walls = wall(Side::Left, r1) && wall(Side::Right, -r0);
        if !walls || !self.things.iter().all(|t| t.and(&rim).is_empty()) {
            return Err("the vehicle leaves no room for its cleats");
        }
        let apart = |(a, b): &(Vec3, Vec3)| {
            let off =
                |low: f64, high: f64, k: usize| a[k] > high + CLEAT[1] || b[k] < low - CLEAT[1];
            off(x0, x1, 0) || off(y0, y1, 1)
        };
        match self.beside.iter().all(apart) {
            true => Ok(i),
            false => Err("a support leaves no room for its cleats"),
        }
    }

    /// One over each bay between two supports, in the middle of each board.
    fn bays(&self, deck: &Deck) -> Vec<Hole> {
        let [long, wide] = [deck.hatch_length, deck.hatch_width];
        let mut out = Vec::new();
        for bay in self.lines.windows(2) {
            let x = ((bay[0] + bay[1] - long) / 2.0).round();
            for (i, p) in self.panels.iter().enumerate() {
                let (_, y0, _, y1) = p.shape.bounds();
                let y = ((y0 + y1 - wide) / 2.0).round();
                let hole = Region::rectangle(x, y, x + long, y + wide);
                if self.board(&hole) == Ok(i) {
                    out.push(Hole {
                        panel: i,
                        hole,
                        size: [("hatch_length".into(), long), ("hatch_width".into(), wide)],
                        name: String::new(),
                        opens: HatchOpens::Out,
                    });
                }
            }
        }
        out
    }

    /// Those that the person placed, and those of them that cannot be there.
    fn placed(&self, deck: &Deck) -> (Vec<Hole>, Vec<Refused>) {
        let (mut out, mut refused): (Vec<Hole>, Vec<Refused>) = (vec![], vec![]);
        for ((id, h), n) in deck.hatch_places.iter().zip(1..) {
            let name = match h.name.trim() {
                "" => format!("hatch {n}"),
                name => name.to_string(),
            };
            let at = |x: f64| {
                let y = h.across - h.width / 2.0;
                Region::rectangle(x, y, x + h.length, y + h.width)
            };
            // Its rim is not cut by another hatch.
            let apart = |hole: &Region| {
                let (x0, y0, x1, y1) = hole.bounds();
                let rim = Region::rectangle(x0 - RIM, y0 - RIM, x1 + RIM, y1 + RIM);
                out.iter().all(|o| o.hole.and(&rim).is_empty())
            };
            let board = |x: f64| match self.board(&at(x)) {
                Ok(_) if !apart(&at(x)) => Err("another hatch is too near"),
                found => found,
            };
            let path = format!("hatch_places/{}", escape(id));
            match board(h.along) {
                Ok(panel) => out.push(Hole {
                    panel,
                    hole: at(h.along),
                    size: [
                        (format!("{path}/length"), h.length),
                        (format!("{path}/width"), h.width),
                    ],
                    name,
                    opens: h.opens,
                }),
                Err(why) => {
                    let steps =
                        (1..=LOOKS).flat_map(|k| [-1.0, 1.0].map(|s| s * STEP * f64::from(k)));
                    let mut near = steps.map(|by| h.along + by).filter(|x| *x >= 0.0);
                    refused.push(Refused {
                        room: near.find(|x| board(*x).is_ok()),
                        id: id.clone(),
                        name,
                        why,
                        pointer: format!("{}/choices/{path}/along", self.site.pointer()),
                    });
                }
            }
        }
        (out, refused)
    }
}

/// What a hatch on hinges turns about: a place on the axis, and the axis, so that it turns up; and how long its hinge line is
/// and how deep it is, mm.
fn hinged(opens: HatchOpens, shape: &Region, top: f64) -> Option<((Vec3, Vec3), (f64, f64))> {
    let (x0, y0, x1, y1) = shape.bounds();
    let (long, wide) = (x1 - x0, y1 - y0);
    match opens {
        HatchOpens::Out => None,
        HatchOpens::Front => Some((([x1, y0, top], [0.0, 1.0, 0.0]), (wide, long))),
        HatchOpens::Rear => Some((([x0, y0, top], [0.0, -1.0, 0.0]), (wide, long))),
        HatchOpens::Left => Some((([x0, y1, top], [-1.0, 0.0, 0.0]), (long, wide))),
        HatchOpens::Right => Some((([x0, y0, top], [1.0, 0.0, 0.0]), (long, wide))),
    }
}

/// Cuts them, and makes what closes them, if they are wanted.
pub fn cut(
    site: &Site,
    deck: &Deck,
    lines: &[f64],
    supports: &[Board],
    panels: &mut [Board],
) -> Cut {
    let mut out = Built::default();
    let (all, refused) = {
        let rules = Rules::new(site, deck, (lines, supports), panels);
        match deck.hatches {
            _ if deck.top == Top::Slats => (vec![], vec![]),
            Hatches::Placed => rules.placed(deck),
            Hatches::None | Hatches::Bays => (rules.bays(deck), vec![]),
        }
    };
    if deck.hatches == Hatches::None {
        return Cut {
            built: out,
            count: all.len(),
            refused,
        };
    }
    let (under, t) = (deck.underside.unwrap_or(0.0), deck.thickness);
    let gap = Value::rule("deck/hatch-gap", "gap round it", GAP);
    for (n, own) in all.iter().enumerate() {
        let hole = &own.hole;
        let [length, width] = own
            .size
            .each_ref()
            .map(|(path, mm)| site.choice(path, "hole", *mm) - &gap * 2.0);
        let called = match own.name.as_str() {
            "" if all.len() == 1 => format!("hatch of the {}", deck.name),
            "" => format!("hatch {} of the {}", n + 1, deck.name),
            name => format!("{name} of the {}", deck.name),
        };
        let (n, panel) = (n + 1, &mut panels[own.panel]);
        let (x0, y0, x1, y1) = hole.bounds();
        let near = Region::rectangle(x0 - FINGER, y0 - FINGER, x1 + FINGER, y1 + FINGER);
        panel.vents.retain(|(p, _)| {
            let (a0, b0, a1, b1) = near.bounds();
            p[0] < a0 || p[0] > a1 || p[1] < b0 || p[1] > b1
        });
        panel.windows.push(hole.clone());
        let rides = (panel.body != FIXED).then(|| format!("{}/{}", site.id, panel.body));
        let id = format!("hatch-{n}");
        let shape = Region::rectangle(x0 + GAP, y0 + GAP, x1 - GAP, y1 - GAP);
        let closing = shape.clone();
        let mut board = Board::new(&id, "hatch", "D", shape, Pose::level(under));
        board.name = format!("{}, hatch", deck.name);
        board.material.clone_from(&deck.material);
        board.thickness = t;
        board.grain = PartGrain::Along;
        board.body.clone_from(&id);
        board.measures = vec![
            Measure::whole(Axis::U, "length", length.clone()),
            Measure::whole(Axis::V, "width", width.clone()),
        ];
        board.vents = vec![([(x0 + x1) / 2.0, y0 + 3.0 * FINGER], FINGER)];
        board.way = Way::seen("upper face");
        board
            .then
            .push("it may be the piece that was cut out, where the cut is clean".into());
        let panel_id = panel.id.clone();
        let long = x1 - x0;
        let at: Vec<f64> = match long >= TWO {
            true => vec![x0 + 15.0, x1 - 15.0 - CLEAT[0]],
            false => vec![(x0 + x1 - CLEAT[0].min(long)) / 2.0],
        };
        let mut k = 0;
        for y in [y0 + UNDER - CLEAT[1], y1 - UNDER] {
            for x in &at {
                k += 1;
                let cleat = format!("{id}-cleat-{k}");
                let shape = Region::rectangle(*x, y, x + CLEAT[0].min(long), y + CLEAT[1]);
                let mut made = Board::new(&cleat, "cleat", "L", shape, Pose::level(under - t));
                made.name = format!("{}, cleat under the rim of a hatch", deck.name);
                made.material.clone_from(&deck.material);
                made.thickness = t;
                made.body.clone_from(&panel.body);
                let own = |mm: f64| Value::rule("deck/cleat", "cleat", mm);
                made.measures = vec![
                    Measure::whole(Axis::U, "length", own(CLEAT[0].min(long))),
                    Measure::whole(Axis::V, "width", own(CLEAT[1])),
                ];
                out.boards.push(made);
                out.joints
                    .push(Joint::new(Fasten::Face, cleat.clone(), panel_id.clone()));
                out.joints
                    .push(Joint::new(Fasten::Lies, cleat, id.clone()).apart());
            }
        }
        out.boards.push(board);
        let hinges = hinged(own.opens, &closing, under + t);
        out.bodies.push(Body {
            id: format!("{}/{id}", site.id),
            name: called.clone(),
            parent: rides,
            motion: match hinges {
                Some(((at, about), _)) => Motion::Turn {
                    at,
                    about,
                    most: MOST,
                },
                None => Motion::Over {
                    up: UP,
                    along: [1.0, 0.0, 0.0],
                    travel: 0.0,
                },
            },
            eases: vec![],
            change: None,
        });
        if let Some((_, (line, deep))) = hinges {
            let density = site.project.material(&deck.material);
            let density = density.map_or(0.0, |m| m.density);
            let mass = line * deep * t * density * 1e-9;
            let count = Hinges::Butt.on_a_lid(line);
            out.hardware
                .push(Hinges::Butt.item(&site.w, count, (line, mass)));
        }
        out.spans.push(Span {
            board: id,
            name: called,
            spans: vec![y1 - y0 - 2.0 * UNDER],
            width: long - 2.0 * GAP,
            along: false,
            under: Under::Seat,
            eases: crate::furniture::kit::maker::thicker(
                site,
                ("thickness", crate::furniture::kit::maker::THICKEST),
                t,
            ),
        });
    }
    if !all.is_empty() {
        let felt = "strip of felt under a hatch: it would rattle";
        out.hardware.push(Item::new(felt, all.len() as u32, 0));
    }
    Cut {
        built: out,
        count: all.len(),
        refused,
    }
}
