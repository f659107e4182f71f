//! How a deck's numbers came about, edge by edge.

use super::{CLEAR, around};
use crate::geometry::region::Region;
use crate::project::deck::Deck;
use crate::project::survey::Side;
use crate::survey::model::{FaceFrom, Model, Obstacle};
use crate::template::fill::LEAN;
use crate::units::figure::{Why, Writer};

/// The clearance to the walls.
pub fn clearance_why(deck: &Deck, sd: f64, clearance: f64, w: &Writer) -> Why {
    let steps = match deck.clearance {
        Some(_) => vec![w.note("as you set it")],
        None => vec![
            w.step(
                "",
                format!("{CLEAR} x doubt of the readings (±{})", w.say(sd)),
                CLEAR * sd,
            ),
            w.step("+", "finish on the edge", deck.finish),
        ],
    };
    Why {
        about: "clearance to the walls".into(),
        total: w.figure(clearance),
        steps,
    }
}

/// How the piece's edges came about: its width at the walls, and every cut-out it touches.
pub fn edge_why(
    piece: &Region,
    deck: &Deck,
    model: &Model,
    crossing: &[&Obstacle],
    clearance: &Why,
    w: &Writer,
) -> Vec<Why> {
    let (x0, y0, x1, y1) = piece.bounds();
    let z = deck.underside.unwrap_or(0.0);
    let c = clearance.total.value;
    let mut out = Vec::new();
    for (side, reach) in [(Side::Left, y1), (Side::Right, -y0)] {
        // The station at which the piece is widest on this side.
        let at = piece
            .outer
            .iter()
            .filter(|p| (side.sign() * p[1] - reach).abs() < 0.5)
            .map(|p| p[0])
            .fold(f64::NAN, f64::max);
        let wall = at.is_finite().then(|| model.wall(side, at, z)).flatten();
        let Some((wall, sd)) = wall else {
            continue;
        };
        // A piece that ends at a joint does not reach this wall.
        if reach < wall - 3.0 * c - 30.0 {
            continue;
        }
        let mut steps = vec![w.step(
            "",
            format!("{} wall from centre, {} in", side.word(), w.say(at)),
            wall,
        )];
        steps.push(w.step("-", "clearance", c));
        steps.push(w.step(
            "-",
            format!("{LEAN} x doubt here (±{})", w.say(sd)),
            LEAN * sd,
        ));
        let rest = wall - c - LEAN * sd - reach;
        if rest.abs() > 0.05 {
            steps.push(w.step(
                if rest > 0.0 { "-" } else { "+" },
                "lean of the wall over the thickness, doubt at the corner, straight cut",
                rest.abs(),
            ));
        }
        out.push(Why {
            about: format!("{} edge from centre", side.word()),
            total: w.figure(reach),
            steps,
        });
    }
    for o in crossing {
        let touches = o.x.1 > x0 && o.x.0 < x1 && {
            let s = o.side.sign();
            let (lo, hi) = if s > 0.0 { (y0, y1) } else { (-y1, -y0) };
            hi > o.face - 3.0 * c && lo < o.face
        };
        if !touches {
            continue;
        }
        let mut steps = match o.how {
            FaceFrom::Centre => vec![w.step("", format!("{} face from centre", o.name), o.face)],
            FaceFrom::Wall(wall, width) => vec![
                w.step("", format!("{} wall from centre", o.side.word()), wall),
                w.step("-", format!("{} stands in", o.name), width),
            ],
        };
        let own = around(deck, o.sd, c);
        steps.push(w.step("-", "clearance", own - LEAN * o.sd));
        steps.push(w.step(
            "-",
            format!("{LEAN} x doubt here (±{})", w.say(o.sd)),
            LEAN * o.sd,
        ));
        if o.extra > 0.0 {
            steps.push(w.step("-", "clearance and movement it wants", o.extra));
        }
        out.push(Why {
            about: format!("cut-out for {} from centre", o.name),
            total: w.figure(o.face - own - o.extra),
            steps,
        });
    }
    out
}
