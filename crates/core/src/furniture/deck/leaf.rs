//! A leaf at a deck's front end: hinged there, folded back onto the deck for the road, and at night out over front seats
//! that are slid forward. Its free end stands on legs that are screwed in for the night.

use super::supports::cross;
use super::why::Edges;
use crate::furniture::Site;
use crate::furniture::built::{
    Axis, Bed, Board, Body, Built, Changing, Ease, Fasten, Item, Joint, Measure, Motion, Pose,
    Span, Under,
};
use crate::furniture::kit::hinges::Hinges;
use crate::furniture::kit::maker::{THICKEST, thicker};
use crate::furniture::way::Way;
use crate::geometry::labelled::{Label, Labelled, Rank};
use crate::geometry::region::Region;
use crate::mechanics::material::PartGrain;
use crate::project::deck::{Deck, Leaf};
use crate::project::survey::Side;
use crate::template::fill::LEAN;
use crate::units::value::Value;

/// The body.
pub const LEAF: &str = "leaf";
/// For a straight line to hinge on so much is cut off a front end, or so many times that, mm (a choice: the leaf gives it
/// back); as little as leaves this share of its width.
const CUT: f64 = 5.0;
const TIMES: u32 = 4;
const SHARE: f64 = 0.97;
/// What that edge is labelled.
pub const STRAIGHT: Label = Label {
    rank: Rank::Cut,
    number: 3,
};
/// It ends so far inside the deck's edge, and off the middle where it is half as wide, mm (a choice).
const INSET: f64 = 5.0;
/// The axis of its hinges lies so far before the deck's edge, mm: as much is open between them at night twice.
const PIN: f64 = 0.5;
/// Boards that lie over each other by less only touch, mm.
const TOUCH: f64 = 20.0;
/// Narrower is not worth making, mm (a choice).
const NARROW: f64 = 250.0;
/// Shortest leg, mm: it stands higher than that, or it needs none of this kind.
pub const LOW: f64 = 50.0;
/// Seconds it takes, seat, bedding and legs (a choice).
const SECONDS: u32 = 60;

/// Where the leaf hinges: how far forward, and from where to where across, with what decides that where walls over the
/// deck do.
pub struct Hinge {
    x: f64,
    y: (f64, f64),
    ends: [Option<Value>; 2],
}

/// Between walls and things over the deck where it lies folded back, and where it stands up from the hinge. At the front
/// nothing is asked: that gives way.
fn narrow(edges: &Edges, hinge: &mut Hinge) -> Option<()> {
    /// Looked at in so many steps up, and along.
    const STEPS: usize = 6;
    /// A place of a wall is a stretch so far to both sides, mm.
    const LOOK: f64 = 0.5;
    let (deck, clearance) = (edges.deck, edges.clearance.mm);
    let low = deck.underside? + deck.thickness;
    let (x, long) = (hinge.x, deck.leaf_length);
    let free = cross(edges.site, deck, clearance);
    let mut nearest = [None; 2];
    for i in 0..=STEPS {
        let up = long * i as f64 / STEPS as f64;
        let back = (long.powi(2) - up.powi(2)).max(1.0).sqrt();
        // Its thickness comes on top.
        for z in [low + up, low + up + deck.thickness] {
            for k in 0..=STEPS {
                let at = x - back * k as f64 / STEPS as f64;
                let at = (at - LOOK, at + LOOK);
                let left = free.narrowest(Side::Left, at, z)?;
                let right = free.narrowest(Side::Right, at, z)?;
                if left < hinge.y.1 {
                    hinge.y.1 = left;
                    nearest[Side::Left as usize] = Some((at, z));
                }
                if -right > hinge.y.0 {
                    hinge.y.0 = -right;
                    nearest[Side::Right as usize] = Some((at, z));
                }
            }
        }
    }
    for side in Side::BOTH {
        let end = if side == Side::Left {
            hinge.y.1
        } else {
            -hinge.y.0
        };
        let at = nearest[side as usize];
        hinge.ends[side as usize] =
            at.and_then(|(at, z)| free.why(side, at, z, end, &edges.clearance));
    }
    let high = low + long + deck.thickness;
    for o in edges.site.model.things() {
        let (x0, y0, x1, y1) = o.plan().bounds();
        let off = clearance + LEAN * o.sd;
        if o.z.0 > high || o.up_to() < low || x0 - off > x || x1 + off < x - long {
            continue;
        }
        match o.side {
            Side::Left => hinge.y.1 = hinge.y.1.min(y0 - off),
            Side::Right => hinge.y.0 = hinge.y.0.max(y1 + off),
        }
    }
    Some(())
}

/// Cuts the front end of a deck straight where it can, and says where the leaf hinges then.
pub fn straighten(edges: &mut Edges, whole: &mut Vec<Labelled>) -> Option<Hinge> {
    const FAR: f64 = 1e5;
    let deck = edges.deck;
    let half = match deck.leaf {
        Leaf::None => return None,
        Leaf::Left => (INSET / 2.0, FAR),
        Leaf::Right => (-FAR, -INSET / 2.0),
        Leaf::Both => (-FAR, FAR),
    };
    let strip = Region::rectangle(-FAR, half.0, FAR, half.1);
    let strip = Labelled::new(&strip, Label::default());
    let labelled: Vec<Labelled> = whole.iter().flat_map(|r| r.and(&strip)).collect();
    let there: Vec<Region> = labelled.iter().map(Labelled::region).collect();
    let front = there.iter().map(|r| r.bounds().2).reduce(f64::max)?;
    let rear = there.iter().map(|r| r.bounds().0).reduce(f64::min)?;
    let wide = |r: &(f64, f64)| r.1 - r.0;
    let run = |x: f64| {
        let all = there.iter().flat_map(|r| r.line(x));
        all.max_by(|a, b| wide(a).total_cmp(&wide(b)))
    };
    let most = wide(&run(front - CUT * f64::from(TIMES))?);
    let cuts = (1..=TIMES).map(|n| (f64::from(n), front - CUT * f64::from(n)));
    let mut runs = cuts.filter_map(|(n, x)| Some((n, x, run(x)?)));
    let (times, x, run) = runs.find(|(.., r)| wide(r) >= SHARE * most)?;
    if x - deck.leaf_length < rear {
        return None;
    }
    let mut hinge = Hinge {
        x,
        y: (run.0 + INSET, run.1 - INSET),
        ends: [None, None],
    };
    narrow(edges, &mut hinge)?;
    if wide(&hinge.y) < NARROW {
        return None;
    }
    let furthest = labelled.iter().filter_map(|p| edges.end(p, 0, true));
    let furthest = furthest.reduce(|a, b| if a.mm > b.mm { a } else { b });
    let cut = Value::rule("deck/leaf-cut", "cut off, for a straight edge", CUT) * times;
    edges.straight = furthest.map(|f| f - cut);
    let off = Region::rectangle(x, half.0, x + FAR, half.1);
    let off = [Labelled::new(&off, STRAIGHT)];
    *whole = whole.iter().flat_map(|r| r.minus(&off)).collect();
    Some(hinge)
}

/// What makes the deck longer at its front end.
pub fn leaf(
    site: &Site,
    deck: &Deck,
    top: &[Board],
    hinge: &Hinge,
    edge: &dyn Fn(Side, (f64, f64), f64) -> Option<Value>,
) -> Built {
    let mut out = Built::default();
    let (x, y) = (hinge.x, hinge.y);
    let over = deck.underside.unwrap_or(0.0) + deck.thickness;
    let floor = deck.leaf_floor.unwrap_or_else(|| site.model.floor(x));
    let long = deck.leaf_length;
    let shape = Region::rectangle(x - long, y.0, x, y.1);
    let mut board = Board::new(LEAF, "leaf", "D", shape, Pose::level(over));
    board.name = format!("{}, leaf", deck.name);
    board.material.clone_from(&deck.material);
    board.thickness = deck.thickness;
    board.grain = PartGrain::Free;
    board.body = LEAF.into();
    board.way = Way::seen("lower face");
    let length = site.choice("leaf_length", "leaf", long);
    board.measures = vec![Measure::whole(Axis::U, "length", length)];
    board.measures.extend(wide(deck, hinge, edge));
    board.then.push(
        "round the edge that somebody lies on; mark where the legs go once it lies out".into(),
    );
    out.boards.push(board);
    // Those it lies on by more than a touch.
    let touched = top.iter().filter(|b| {
        let (_, y0, x1, y1) = b.shape.bounds();
        let over = y1.min(y.1) - y0.max(y.0);
        x1 > x - long + TOUCH && over > TOUCH
    });
    out.joints
        .extend(touched.map(|b| Joint::new(Fasten::Lies, b.id.clone(), LEAF).apart()));
    let name = format!("leaf of the {}", deck.name);
    let leg = (over - deck.thickness - floor).max(0.0);
    out.bodies.push(Body {
        parent: None,
        id: format!("{}/{LEAF}", site.id),
        name: name.clone(),
        motion: Motion::Turn {
            at: [x + PIN, 0.0, over],
            about: [0.0, 1.0, 0.0],
            most: 180.0,
        },
        eases: shorter(site, deck),
        change: Some(Changing {
            first: format!(
                "the seat before it slid forward {}, bedding back",
                site.w.say(long)
            ),
            stays: "bedding behind it".into(),
            words: [
                format!("fold the {name} out, screw its legs in"),
                format!("legs off, fold the {name} back onto the deck"),
            ],
            moved: "out".into(),
            frees: None,
            for_road: false,
            seconds: SECONDS,
            past_front: long + 2.0 * PIN,
        }),
    });
    out.hardware = vec![
        Hinges::Long.item(&site.w, 1, (y.1 - y.0, 0.0)),
        Item::new("leg that is screwed into a plate", 2, 4).sized(site.w.say(leg)),
        Item::new("strap that holds the folded leaf", 1, 2),
    ];
    let least = top.iter().map(|b| b.shape.bounds().0);
    let corners = |pick: fn(f64, f64) -> f64, of: fn(&(f64, f64, f64, f64)) -> f64| {
        let all = top.iter().map(|b| of(&b.shape.bounds()));
        all.reduce(pick).unwrap_or(0.0)
    };
    out.beds.push(Bed {
        name: format!("{} with its leaf", deck.name),
        body: Some(LEAF),
        low: [least.fold(x, f64::min), y.0.max(corners(f64::min, |b| b.1))],
        high: [x + 2.0 * PIN + long, y.1.min(corners(f64::max, |b| b.3))],
        top: over,
        mean: None,
        sat: None,
    });
    out.spans.push(Span {
        board: LEAF.into(),
        name,
        spans: vec![long],
        width: y.1 - y.0,
        // It is cut either way.
        along: false,
        under: Under::Seat,
        eases: thicker(site, ("thickness", THICKEST), deck.thickness),
    });
    out
}

/// How wide it is, where the deck's edges say it.
fn wide(
    deck: &Deck,
    Hinge { x, y, ends }: &Hinge,
    edge: &dyn Fn(Side, (f64, f64), f64) -> Option<Value>,
) -> Option<Measure> {
    /// It is what its explanation says, mm.
    const SAME: f64 = 0.05;
    let at = (*x, *x);
    let inset = || Value::rule("deck/leaf-inset", "inside the edge", INSET);
    let middle = || Value::rule("deck/leaf-middle", "off the middle", INSET / 2.0) + inset();
    let end = |side: Side, out: f64| match &ends[side as usize] {
        Some(why) => Some(why.clone()),
        None => Some(edge(side, at, out + INSET)? - inset()),
    };
    let left = || Some(end(Side::Left, y.1)?.named("left end from the centre line"));
    let right = || Some(end(Side::Right, -y.0)?.named("right end from it"));
    let value = match deck.leaf {
        Leaf::None => None,
        Leaf::Left => Some(left()? - middle()),
        Leaf::Right => Some(right()? - middle()),
        Leaf::Both => Some(left()? + right()?),
    }?;
    let same = (value.mm - (y.1 - y.0)).abs() < SAME;
    same.then(|| Measure::whole(Axis::V, "width", value))
}

/// What may help a leaf that meets something.
fn shorter(site: &Site, deck: &Deck) -> Vec<Ease> {
    let less = deck.leaf_length - 50.0;
    let some = (less >= 100.0).then(|| Ease {
        label: format!("A leaf of {}", site.w.say(less)),
        cost: "the bed is shorter by as much".into(),
        pointer: "/choices/leaf_length".into(),
        value: less.into(),
        ..Ease::default()
    });
    some.into_iter().collect()
}
