//! A leaf at a deck's front end: hinged there, folded back onto the deck for the road, and at night out over front seats
//! that are slid forward. Its free end stands on legs that are screwed in for the night.

use super::supports::cross;
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
/// For a straight line to hinge on, so much is cut off a front end at the most, mm (a choice: the leaf gives it back); as little
/// as leaves this share of its width.
const CUT: f64 = 20.0;
const SHARE: f64 = 0.97;
/// What that edge is labelled.
const STRAIGHT: Label = Label {
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

/// Where the leaf hinges: how far forward, and from where to where across.
pub struct Hinge {
    x: f64,
    y: (f64, f64),
}

/// Between walls and things over the deck where it lies folded back, and where it stands up from the hinge. At the front
/// nothing is asked: that gives way.
fn narrow(site: &Site, deck: &Deck, clearance: f64, (x, y): (f64, &mut (f64, f64))) -> Option<()> {
    /// Looked at in so many steps up, and along.
    const STEPS: usize = 6;
    let low = deck.underside? + deck.thickness;
    let long = deck.leaf_length;
    let free = cross(site, deck, clearance);
    for i in 0..=STEPS {
        let up = long * i as f64 / STEPS as f64;
        let back = (long.powi(2) - up.powi(2)).max(1.0).sqrt();
        // Its thickness comes on top.
        for z in [low + up, low + up + deck.thickness] {
            for k in 0..=STEPS {
                let at = x - back * k as f64 / STEPS as f64;
                y.0 = y.0.max(-free.wall(Side::Right, at, z)?);
                y.1 = y.1.min(free.wall(Side::Left, at, z)?);
            }
        }
    }
    let high = low + long + deck.thickness;
    for o in site.model.things() {
        let (x0, y0, x1, y1) = o.plan().bounds();
        let off = clearance + LEAN * o.sd;
        if o.z.0 > high || o.up_to() < low || x0 - off > x || x1 + off < x - long {
            continue;
        }
        match o.side {
            Side::Left => y.1 = y.1.min(y0 - off),
            Side::Right => y.0 = y.0.max(y1 + off),
        }
    }
    Some(())
}

/// Cuts the front end of a deck straight where it can, and says where the leaf hinges then.
pub fn straighten(
    site: &Site,
    deck: &Deck,
    clearance: f64,
    whole: &mut Vec<Labelled>,
) -> Option<Hinge> {
    const FAR: f64 = 1e5;
    let half = match deck.leaf {
        Leaf::None => return None,
        Leaf::Left => (INSET / 2.0, FAR),
        Leaf::Right => (-FAR, -INSET / 2.0),
        Leaf::Both => (-FAR, FAR),
    };
    let strip = Region::rectangle(-FAR, half.0, FAR, half.1);
    let there: Vec<Region> = whole.iter().flat_map(|r| r.region().and(&strip)).collect();
    let front = there.iter().map(|r| r.bounds().2).reduce(f64::max)?;
    let wide = |r: &(f64, f64)| r.1 - r.0;
    let run = |x: f64| {
        let all = there.iter().flat_map(|r| r.line(x));
        all.max_by(|a, b| wide(a).total_cmp(&wide(b)))
    };
    let most = wide(&run(front - CUT)?);
    let cuts = (1..=2 * CUT as u32).map(|d| front - f64::from(d) / 2.0);
    let mut runs = cuts.filter_map(|x| Some((x, run(x)?)));
    let (x, run) = runs.find(|(_, r)| wide(r) >= SHARE * most)?;
    let mut y = (run.0 + INSET, run.1 - INSET);
    let rear = there.iter().map(|r| r.bounds().0).reduce(f64::min)?;
    if x - deck.leaf_length < rear {
        return None;
    }
    narrow(site, deck, clearance, (x, &mut y))?;
    if wide(&y) < NARROW {
        return None;
    }
    let off = Region::rectangle(x, half.0, x + FAR, half.1);
    let off = [Labelled::new(&off, STRAIGHT)];
    *whole = whole.iter().flat_map(|r| r.minus(&off)).collect();
    Some(Hinge { x, y })
}

/// What makes the deck longer at its front end.
pub fn leaf(
    site: &Site,
    deck: &Deck,
    top: &[Board],
    &Hinge { x, y }: &Hinge,
    edge: &dyn Fn(Side, (f64, f64), f64) -> Option<Value>,
) -> Built {
    let mut out = Built::default();
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
    board.measures.extend(wide(deck, (x, y), edge));
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
    (x, y): (f64, (f64, f64)),
    edge: &dyn Fn(Side, (f64, f64), f64) -> Option<Value>,
) -> Option<Measure> {
    /// It is what its explanation says, mm.
    const SAME: f64 = 0.05;
    let at = (x, x);
    let inset = || Value::rule("deck/leaf-inset", "inside the edge", INSET);
    let middle = || Value::rule("deck/leaf-middle", "off the middle", INSET / 2.0) + inset();
    let left = || Some(edge(Side::Left, at, y.1 + INSET)? - inset());
    let right = || Some(edge(Side::Right, at, INSET - y.0)? - inset());
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
