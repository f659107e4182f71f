//! What of a bed moves: its front board slid back over the rear one, folded back on hinges or turned over by hand, to give the seats back
//! for the road; or its rear board lifted up, to what lies below.

use super::pins::PIN;
use super::why::Edges;
use crate::furniture::Site;
use crate::furniture::built::{Board, Body, Built, Changing, Ease, Item, Motion};
use crate::furniture::kit::hinges::Hinges;
use crate::furniture::kit::lid;
use crate::furniture::platform::parting::Parting;
use crate::geometry::Point;
use crate::geometry::labelled::{Label, Labelled};
use crate::geometry::region::Region;
use crate::project::deck::{Change, Deck};
use crate::template::outline::free_panel;

/// The body of what lies in front of the joint, where that moves.
pub const FRONT: &str = "front";
/// The body of what lies behind it.
pub const REAR: &str = "rear";
/// Where the boards meet the rear and the front one keep at least so much, mm.
const LEAST: f64 = 200.0;
/// Seconds for it, bedding and all (choices).
const SECONDS: u32 = 30;
/// What an edge is labelled that follows from the way of the board.
const WAY: usize = 2;
/// Boards that differ by less are equally long, mm.
const EQUAL: f64 = 20.0;

/// Where the boards meet, if the deck changes and is parted.
pub fn meets(deck: &Deck, parting: &Parting) -> Option<f64> {
    let at = parting.xs.first().copied();
    at.filter(|_| deck.change != Change::Fixed)
}

/// Where two boards are to meet, as near to what is wished as a board of some length on either side allows.
pub fn between(wished: f64, (x0, x1): (f64, f64)) -> f64 {
    let (a, b) = (x0 + LEAST, x1 - LEAST);
    let at = if a < b {
        wished.clamp(a, b)
    } else {
        (x0 + x1) / 2.0
    };
    (at * 2.0).round() / 2.0
}

/// What is free over the rear board between two heights, less the clearance.
pub fn free_over(site: &Site, edges: &Edges, inner: &Labelled, z: (f64, f64)) -> Vec<Region> {
    let things = site
        .model
        .things()
        .filter(|o| o.z.0 < z.1 && o.up_to() > z.0);
    // What is no thing of the deck's own edges keeps the clearance to the walls.
    let things: Vec<Labelled> = things
        .map(|o| Labelled::new(&o.between(z.0, z.1), Label::wall(0)))
        .collect();
    let (free, _) = free_panel(inner, &things, &|label| edges.off(label));
    free.iter().map(Labelled::region).collect()
}

/// Cuts what lies in front of the joint so that it passes over the rear board.
pub fn narrow(deck: &Deck, at: f64, parting: &mut Parting, free: &[Region]) {
    /// The way is looked at every so many mm.
    const EVERY: f64 = 50.0;
    let far = free
        .iter()
        .map(|r| r.bounds().0)
        .fold(f64::INFINITY, f64::min);
    let front = parting
        .pieces
        .iter()
        .map(|p| p.bounds().2)
        .fold(at, f64::max);
    let rear = parting
        .pieces
        .iter()
        .map(|p| p.bounds().0)
        .fold(at, f64::min);
    let travel = (front - at).min(at - rear.max(far)).max(0.0);
    let over: Vec<Vec<Region>> = match deck.change.turns() {
        true => {
            let mirrored = |r: &Region| {
                let turned = |ring: &Vec<Point>| {
                    ring.iter().rev().map(|p| [2.0 * at - p[0], p[1]]).collect()
                };
                Region {
                    outer: turned(&r.outer),
                    holes: r.holes.iter().map(turned).collect(),
                }
            };
            vec![free.iter().map(mirrored).collect()]
        }
        false => {
            let n = (travel / EVERY).ceil().clamp(1.0, 200.0) as usize;
            let steps = (1..=n).map(|i| travel * i as f64 / n as f64);
            steps
                .map(|d| free.iter().map(|r| r.moved(d, 0.0)).collect())
                .collect()
        }
    };
    // What comes past the rear when it is folded back is another matter: only its width is asked here.
    const WIDE: f64 = 1e5;
    let end = match deck.change.turns() {
        true => 2.0 * at - far,
        false => front + 1.0,
    };
    let asked = Region::rectangle(at - 1.0, -WIDE, end, WIDE);
    let edges = std::mem::take(&mut parting.edges);
    for piece in edges {
        let (x0, _, x1, _) = piece.region().bounds();
        if (x0 + x1) / 2.0 < at {
            parting.edges.push(piece);
            continue;
        }
        let mut left = vec![piece];
        for free in &over {
            let blocked: Vec<Labelled> = asked
                .minus(free)
                .iter()
                .map(|r| Labelled::new(r, Label::cut(WAY)))
                .collect();
            let parts: Vec<Labelled> = left.iter().flat_map(|p| p.minus(&blocked)).collect();
            // The largest is the board.
            let largest = parts
                .into_iter()
                .max_by(|a, b| a.region().area().total_cmp(&b.region().area()));
            left = largest.into_iter().collect();
        }
        parting.edges.extend(left);
    }
    parting.pieces = parting.edges.iter().map(Labelled::region).collect();
}

/// Boards on one side of the joint belong to the body that moves.
pub fn hand_over(deck: &Deck, boards: &mut [Board], at: f64) {
    for b in boards {
        let (x0, _, x1, _) = b.shape.bounds();
        let front = (x0 + x1) / 2.0 > at;
        match deck.change {
            Change::Fixed => {}
            Change::Slide | Change::Fold | Change::Flip if front => b.body = FRONT.into(),
            Change::Lift if !front => b.body = REAR.into(),
            _ => {}
        }
    }
}

/// The rear board as a lid, hinged at the joint.
fn lift(site: &Site, deck: &Deck, at: f64, top: &[Board]) -> Built {
    let own = top.iter().filter(|b| b.body == REAR);
    let area: f64 = own.clone().map(|b| b.shape.area()).sum();
    let wide = own.map(|b| b.shape.bounds());
    let (low, high, rear) = wide.fold((f64::INFINITY, f64::NEG_INFINITY, at), |e, b| {
        (e.0.min(b.1), e.1.max(b.3), e.2.min(b.0))
    });
    let density = site
        .project
        .material(&deck.material)
        .map_or(0.0, |m| m.density);
    let under = deck.underside.unwrap_or(0.0);
    let sizes = lid::Sizes {
        long: high - low,
        deep: at - rear,
        thickness: deck.thickness,
        mass: area * deck.thickness * density * 1e-9,
        // Before the hinge lies the front board, whose face is where the lid would turn over.
        wall: f64::INFINITY,
        inside: at - rear,
        down: under + deck.thickness,
    };
    let lift = lid::Lift::new(REAR, sizes, (lid::Stay::Prop, Hinges::Butt), "");
    let over = deck.underside.unwrap_or(0.0) + deck.thickness;
    let name = format!("rear board of the {}", deck.name);
    let line = ([at, 0.0, over], [0.0, 1.0, 0.0]);
    Built {
        bodies: vec![lid::body(format!("{}/{REAR}", site.id), name, line, vec![])],
        hardware: lid::hardware(site, &lift, sizes),
        lifts: vec![lift],
        ..Built::default()
    }
}

/// From where to where the boards before the joint reach along the bay, or those behind it, and how wide they are, mm.
fn reach(top: &[Board], front: bool) -> (f64, f64, f64) {
    let own = top.iter().filter(|b| (b.body == FRONT) == front);
    let ends = own.map(|b| b.shape.bounds());
    ends.fold((f64::INFINITY, f64::NEG_INFINITY, 0.0_f64), |e, b| {
        (e.0.min(b.0), e.1.max(b.2), e.2.max(b.3 - b.1))
    })
}

/// How far the front board goes back: as far as the rear one carries it, and never past the rear.
pub fn travel(at: f64, top: &[Board]) -> f64 {
    (reach(top, true).1 - at).min(at - reach(top, false).0)
}

/// What may stay on a front board whose upper face comes so high, mm, on its way along a stretch: as much as the roof leaves room for.
fn carried(site: &Site, (from, to): (f64, f64), up: f64) -> String {
    /// Looked at in so many places.
    const PLACES: usize = 8;
    /// Less is no room for bedding, mm, and so much is kept to the roof (choices).
    const LEAST: f64 = 40.0;
    const AIR: f64 = 20.0;
    let places = (0..=PLACES).map(|i| from + (to - from) * i as f64 / PLACES as f64);
    let roofs = places.filter_map(|x| {
        let x = x.max(0.0);
        Some(site.model.floor_to_roof(x)? + site.model.floor(x))
    });
    match roofs.reduce(f64::min).map(|roof| roof - up - AIR) {
        None => "what lies on the front board".into(),
        Some(room) if room < LEAST => String::new(),
        Some(room) => format!(
            "what lies on the front board, up to {} high",
            site.w.say((room + 0.01).floor())
        ),
    }
}

/// What moves of the deck, and what is bought for that. `top` are its pieces, moved ones too.
pub fn change(site: &Site, deck: &Deck, at: f64, top: &[Board]) -> Built {
    if deck.change == Change::Lift {
        return lift(site, deck, at, top);
    }
    let (rear, front) = (reach(top, false), reach(top, true));
    let long = front.1 - at;
    let (back, over) = (at - rear.0, deck.underside.unwrap_or(0.0) + deck.thickness);
    let name = format!("front board of the {}", deck.name);
    let turns = deck.change.turns();
    let first = match turns {
        true => "bedding off both boards",
        false => "bedding off the rear board",
    };
    let stays = match turns {
        true => String::new(),
        false => carried(site, (rear.0, front.1), over + deck.thickness),
    };
    let travel = travel(at, top);
    let over_joint = Motion::Turn {
        at: [at, 0.0, over],
        about: [0.0, -1.0, 0.0],
        most: 180.0,
    };
    let pins = || {
        let what = "drop pin with its plate: two hold the board out, two hold it back";
        Item::new(what, 4, 2).sized(site.w.say(PIN))
    };
    let (motion, words, frees, hardware) = match deck.change {
        Change::Fold => (
            over_joint,
            [
                format!("fold the {name} back onto the rear one"),
                format!("fold the {name} out"),
            ],
            long,
            vec![
                Hinges::Long.item(&site.w, 1, (front.2.min(rear.2), 0.0)),
                Item::new("strap that holds the folded board", 1, 2),
            ],
        ),
        Change::Flip => (
            over_joint,
            [
                format!("pins out, turn the {name} over onto the rear one, pins in"),
                format!("pins out, turn the {name} back into its place, pins in"),
            ],
            long,
            vec![pins()],
        ),
        _ => (
            Motion::Over {
                up: deck.thickness,
                along: [-1.0, 0.0, 0.0],
                travel,
            },
            [
                format!(
                    "lift the {name} onto the rear one and slide it back {}",
                    site.w.say(travel)
                ),
                format!("slide the {name} forward and let it down"),
            ],
            travel,
            vec![pins()],
        ),
    };
    let shorter = Ease {
        against: None,
        label: "let the boards meet over the middle".into(),
        cost: "the seats get less room".into(),
        pointer: "/choices/joint".into(),
        value: ((rear.0 + front.1) / 2.0).round().into(),
    };
    let other = |label: &str, cost: &str, change: Change| Ease {
        against: None,
        label: label.into(),
        cost: cost.into(),
        pointer: "/choices/change".into(),
        value: serde_json::to_value(change).unwrap_or_default(),
    };
    let mut eases = match deck.change.turns() {
        true => vec![other(
            "slide it back instead",
            "it is lifted over the rear board",
            Change::Slide,
        )],
        false => vec![],
    };
    // Nothing longer than the rear board folds onto it.
    if long > back + EQUAL {
        eases.push(shorter);
    }
    Built {
        bodies: vec![Body {
            parent: None,
            id: format!("{}/{FRONT}", site.id),
            name,
            motion,
            eases,
            change: Some(Changing {
                first: first.into(),
                stays,
                words,
                moved: "back".into(),
                frees: Some(frees),
                for_road: true,
                past_front: 0.0,
                seconds: SECONDS,
            }),
        }],
        hardware,
        ..Built::default()
    }
}
