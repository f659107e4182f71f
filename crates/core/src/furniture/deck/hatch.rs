//! Hatches in a deck: boards that lift out, one in each bay between two supports, on short cleats under the rim of their
//! hole. What lies below is reached with the mattress rolled back.

use super::change::FRONT;
use crate::furniture::Site;
use crate::furniture::built::{
    Axis, Board, Body, Built, FIXED, Fasten, Item, Joint, Measure, Motion, Pose, Span, Under,
};
use crate::furniture::platform::gaps::around;
use crate::furniture::way::Way;
use crate::geometry::region::Region;
use crate::mechanics::material::PartGrain;
use crate::project::deck::{Deck, Hatches, Top};
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

/// The holes that have room in a deck's boards: in which board, and where, as seen from above.
fn holes(
    site: &Site,
    deck: &Deck,
    (lines, supports): (&[f64], &[Board]),
    panels: &[Board],
) -> Vec<(usize, Region)> {
    if deck.top == Top::Slats {
        return vec![];
    }
    let [long, wide] = [deck.hatch_length, deck.hatch_width];
    // Nothing of the vehicle comes up to the deck where its cleats are.
    let under = deck.underside.unwrap_or(0.0);
    let low = under - deck.thickness;
    let things = site.model.things();
    let things = things.filter(|o| o.z.0 < under && o.up_to() > low);
    let things: Vec<Region> = things.map(Obstacle::plan).collect();
    // Nor a ledger that runs further in than the wall.
    let beside = supports
        .iter()
        .map(around)
        .filter(|b| b.0[2] < under && b.1[2] > low);
    let beside: Vec<_> = beside.collect();
    let clear = |hole: &Region| {
        let (x0, y0, x1, y1) = hole.bounds();
        beside.iter().all(|(a, b)| {
            let apart =
                |low: f64, high: f64, k: usize| a[k] > high + CLEAT[1] || b[k] < low - CLEAT[1];
            apart(x0, x1, 0) || apart(y0, y1, 1)
        })
    };
    let free = |rim: &Region| {
        let (x0, y0, x1, y1) = rim.bounds();
        let wall = |side, y: f64| {
            let off = [x0, x1].map(|x| site.model.offset(side, x, low));
            off.into_iter().flatten().all(|w| y < w)
        };
        let walls = wall(Side::Left, y1) && wall(Side::Right, -y0);
        walls && things.iter().all(|t| t.and(rim).is_empty())
    };
    let bays = lines.windows(2);
    let mut out = Vec::new();
    for bay in bays {
        if bay[1] - bay[0] < long + 2.0 * SUPPORT {
            continue;
        }
        let x = ((bay[0] + bay[1] - long) / 2.0).round();
        // Its cleats would lie on the board over which a front board slides or folds.
        let still = panels.iter().enumerate().filter(|(_, p)| p.body != FRONT);
        for (i, p) in still {
            let (_, y0, _, y1) = p.shape.bounds();
            let y = ((y0 + y1 - wide) / 2.0).round();
            let rim = Region::rectangle(x - RIM, y - RIM, x + long + RIM, y + wide + RIM);
            let hole = Region::rectangle(x, y, x + long, y + wide);
            let wood = rim.minus(std::slice::from_ref(&p.shape));
            if wood.iter().all(|r| r.area() < 1.0) && free(&rim) && clear(&hole) {
                out.push((i, hole));
            }
        }
    }
    out
}

/// Cuts them, and makes what closes them, if they are wanted; and how many there are or would be.
pub fn cut(
    site: &Site,
    deck: &Deck,
    lines: &[f64],
    supports: &[Board],
    panels: &mut [Board],
) -> (Built, usize) {
    let mut out = Built::default();
    let all = holes(site, deck, (lines, supports), panels);
    if deck.hatches == Hatches::None {
        return (out, all.len());
    }
    let (under, t) = (deck.underside.unwrap_or(0.0), deck.thickness);
    let gap = Value::rule("deck/hatch-gap", "gap round it", GAP);
    let length = site.choice("hatch_length", "hole", deck.hatch_length) - &gap * 2.0;
    let width = site.choice("hatch_width", "hole", deck.hatch_width) - &gap * 2.0;
    for (n, (i, hole)) in all.iter().enumerate() {
        let (n, panel) = (n + 1, &mut panels[*i]);
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
        out.bodies.push(Body {
            id: format!("{}/{id}", site.id),
            name: match all.len() {
                1 => format!("hatch of the {}", deck.name),
                _ => format!("hatch {n} of the {}", deck.name),
            },
            parent: rides,
            motion: Motion::Over {
                up: UP,
                along: [1.0, 0.0, 0.0],
                travel: 0.0,
            },
            eases: vec![],
            change: None,
        });
        out.spans.push(Span {
            board: id,
            name: format!("hatch of the {}", deck.name),
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
    (out, all.len())
}
