//! The boards of shelves.

use super::{CLEAT, On, PLAY, POST, ROUND, Shelves};
use crate::furniture::built::{Board, Built, FIXED, Fasten, Item, Joint, Pose, Room, Span, Under};
use crate::furniture::kit::maker::Maker;
use crate::furniture::stands::Standing;
use crate::geometry::region::Region;
use crate::units::figure::System;
use crate::units::value::Value;

/// Light things, kg/m2 (a choice).
const THINGS: f64 = 40.0;
/// Holes for pins: diameter and pitch where lengths are in mm and in inches (1/4 in at 1 in: common practice, no source; the
/// other a choice), mm; the first so far from the foot, the last at least so far from the top.
const PINS: [[f64; 2]; 2] = [[6.0, 25.0], [6.35, 25.4]];
const FIRST: f64 = 50.0;
/// A notch round a pipe has corners of this radius, mm (a choice: a jigsaw's).
const RELIEF: f64 = 3.0;

/// Shelves where they stand.
pub(super) fn built(c: &Shelves, at: &Standing) -> Option<Built> {
    let site = at.site;
    let maker = Maker::new(at, "H", &c.material, c.opens);
    let board = site.choice("thickness", "board", c.thickness);
    let width = site.choice("width", "width", c.width);
    let depth = site.choice("depth", "depth", c.depth);
    let n = f64::from(c.pieces.max(1));
    let posts = board.clone().named("post") * (n + 1.0);
    let all = width - posts;
    let inner = match c.pieces {
        0 | 1 => all,
        _ => all * (1.0 / n),
    };
    let work = Work {
        c,
        m: &maker,
        // Before the back rail and behind the lip.
        deep: &depth - &board * 2.0,
        wide: &inner - &Value::rule("shelves/play", "play", PLAY),
        height: site.choice("height", "height", c.height),
        lip: site.choice("lip", "lip", c.lip),
        cleat: Value::rule("shelves/cleat", "cleat", CLEAT),
        inner,
        board,
    };
    let mut out = Built::default();
    work.posts(&mut out);
    if c.on == On::Pins {
        work.tied(&mut out);
    }
    let levels = work.levels();
    for (i, z) in levels.iter().enumerate() {
        let over = levels.get(i + 1).copied();
        for k in 0..c.pieces.max(1) {
            work.shelf(&mut out, (i + 1, k), *z, over);
        }
    }
    if c.on == On::Pins {
        let [wide, _] = work.pins();
        let pins = 4 * c.levels * c.pieces.max(1);
        let size = site.w.say(wide);
        out.hardware
            .push(Item::new("shelf pin", pins, 0).sized(size));
    }
    for b in &mut out.boards {
        b.then.push("pilot every screw into an edge".into());
    }
    Some(out)
}

struct Work<'a> {
    c: &'a Shelves,
    m: &'a Maker<'a>,
    board: Value,
    /// Between two posts.
    inner: Value,
    /// A shelf's depth and width.
    deep: Value,
    wide: Value,
    height: Value,
    lip: Value,
    cleat: Value,
}

impl Work<'_> {
    /// Where a column of shelves begins, from the right, mm; after the last, the end less a board.
    fn from(&self, k: u32) -> f64 {
        let t = self.c.thickness;
        t + f64::from(k) * (self.inner.mm + t)
    }

    /// What a post, and the end of a column at it, is called: counted from the right.
    fn end(&self, post: u32) -> String {
        match post {
            0 => "right".into(),
            k if k >= self.c.pieces.max(1) => "left".into(),
            k => format!("middle-{k}"),
        }
    }

    /// After an identifier, where there are several columns.
    fn column(&self, k: u32) -> String {
        match self.c.pieces {
            0 | 1 => String::new(),
            _ => format!("-{}", k + 1),
        }
    }

    /// Diameter and pitch of holes for pins, mm.
    fn pins(&self) -> [f64; 2] {
        match self.m.site.w.system {
            System::Mm => PINS[0],
            System::In => PINS[1],
        }
    }

    fn posts(&self, out: &mut Built) {
        let (c, m, t) = (self.c, self.m, self.c.thickness);
        let post = Value::rule("shelves/post", "post", POST);
        for k in 0..=c.pieces.max(1) {
            let end = self.end(k);
            // Its left face.
            let y = self.from(k);
            for (side, x) in [("front", 0.0), ("back", c.depth - POST)] {
                let id = format!("post-{side}-{end}");
                let mut made = m.board(
                    (&id, "post", "post"),
                    t,
                    Pose::along(y),
                    [x, 0.0],
                    (("width", &post), ("height", &self.height)),
                );
                made.places = vec![format!("{side} {end}")];
                if c.on == On::Pins {
                    self.drilled(&mut made, x + POST / 2.0);
                }
                out.boards.push(made);
            }
        }
    }

    /// A row of holes for pins.
    fn drilled(&self, post: &mut Board, x: f64) {
        let [wide, pitch] = self.pins();
        let n = ((self.c.height - 2.0 * FIRST) / pitch).floor().max(0.0) as u32;
        post.vents
            .extend((0..=n).map(|i| ([x, FIRST + pitch * f64::from(i)], wide)));
        let w = &self.m.site.w;
        post.then.push(format!(
            "{} holes {} wide, {} apart, the first {} from the foot: drill all posts from one stop, so that they agree",
            n + 1,
            w.say(wide),
            w.say(pitch),
            w.say(FIRST)
        ));
    }

    /// What holds posts together where shelves do not: rails and cleats at foot and top.
    fn tied(&self, out: &mut Built) {
        for (row, z) in [("foot", 0.0), ("top", self.c.height - CLEAT)] {
            for k in 0..self.c.pieces.max(1) {
                self.cleats(out, (row, k), z);
                for (side, x) in [("back", self.c.depth - self.c.thickness), ("front", 0.0)] {
                    let id = format!("rail-{row}-{side}{}", self.column(k));
                    self.rail(
                        out,
                        (&id, k),
                        (side, x, z),
                        &self.cleat.clone().named("rail"),
                    );
                }
            }
        }
    }

    /// Cleats on the posts at both ends of a column.
    fn cleats(&self, out: &mut Built, (row, k): (&str, u32), z: f64) -> Vec<String> {
        let (m, t) = (self.m, self.c.thickness);
        let from = self.from(k);
        let ends = [
            ("right", self.end(k), from + t),
            ("left", self.end(k + 1), from + self.inner.mm),
        ];
        ends.map(|(side, end, y)| {
            let id = format!("cleat-{row}-{side}{}", self.column(k));
            let mut made = m.board(
                (&id, "cleat", "cleat under a shelf"),
                t,
                Pose::along(y),
                [t, z],
                (("length", &self.deep), ("height", &self.cleat)),
            );
            made.places = vec![format!("shelf {row}, {side}{}", self.column(k))];
            out.boards.push(made);
            for post in ["front", "back"] {
                let post = format!("post-{post}-{end}");
                out.joints.push(Joint::new(Fasten::Face, post, id.clone()));
            }
            id
        })
        .into()
    }

    /// A rail between the posts of a column.
    fn rail(
        &self,
        out: &mut Built,
        (id, k): (&str, u32),
        (side, x, z): (&str, f64, f64),
        high: &Value,
    ) {
        let mut made = self.m.board(
            (id, "rail", "rail and lip of a shelf"),
            self.c.thickness,
            Pose::across(x),
            [self.from(k), z],
            (("length", &self.inner), ("height", high)),
        );
        let which = id.trim_start_matches("rail-").split('-').next();
        made.places = vec![format!(
            "shelf {}, {side}{}",
            which.unwrap_or_default(),
            self.column(k)
        )];
        out.boards.push(made);
        for post in [k, k + 1] {
            let post = format!("post-{side}-{}", self.end(post));
            out.joints.push(Joint::new(Fasten::Butt, post, id));
        }
    }

    /// A pipe behind a column: where it passes along it, mm.
    fn pipe(&self, k: u32) -> Option<(f64, f64)> {
        let half = self.c.pipe? / 2.0 + ROUND;
        let (a, b) = (self.c.pipe_at - half, self.c.pipe_at + half);
        let from = self.from(k);
        (a > from && b < from + self.inner.mm).then_some((a, b))
    }

    /// One shelf in one column, `z` its lower face, `over` that of the next above.
    fn shelf(&self, out: &mut Built, (level, k): (usize, u32), z: f64, over: Option<f64>) {
        let (c, m, t) = (self.c, self.m, self.c.thickness);
        let column = self.column(k);
        let id = format!("shelf-{level}{column}");
        let y = self.from(k) + PLAY / 2.0;
        let mut made = m.board(
            (&id, "shelf", "shelf"),
            t,
            Pose::level(z),
            [t, y],
            (("length", &self.deep), ("width", &self.wide)),
        );
        made.places = vec![format!("level {level}{column}")];
        let pipe = self.pipe(k);
        if let (Some((a, b)), Some(wide)) = (pipe, c.pipe) {
            let end = t + self.deep.mm;
            let notch = Region::rectangle(end - wide - ROUND, a, end + 1.0, b);
            if let Some(left) = made.shape.minus(&[notch]).into_iter().next() {
                made.shape = left;
                made.relief = RELIEF;
                made.then.push(format!(
                    "a notch {} wide for the pipe, {} deep from the back edge",
                    m.site.w.say(b - a),
                    m.site.w.say(wide + ROUND)
                ));
            }
        }
        self.bins(out, &mut made);
        out.boards.push(made);
        match c.on {
            On::Cleats => self.on_cleats(out, (level, k), z, &id),
            On::Pins => self.on_pins(out, (level, k), z, &id),
        }
        let (top, low) = match c.on {
            On::Cleats => (c.height, CLEAT),
            On::Pins => (c.height - CLEAT, 0.0),
        };
        let ceiling = over.map_or(top, |z| z - low);
        let free = ceiling - z - t - c.lip;
        let taken = pipe.map_or(0.0, |_| c.pipe.unwrap_or(0.0) + ROUND);
        out.rooms.push(Room {
            name: match column.as_str() {
                "" => format!("{}, shelf {level}", m.name),
                _ => format!("{}, shelf {level}, piece {}", m.name, k + 1),
            },
            size: [self.wide.mm, self.deep.mm - taken, free],
            body: FIXED.into(),
            opened_by: FIXED.into(),
        });
        out.spans.push(Span {
            board: id,
            name: "shelf".into(),
            spans: vec![self.wide.mm],
            width: self.deep.mm - taken,
            along: false,
            under: Under::Things(THINGS * self.wide.mm * self.deep.mm * 1e-6),
            eases: m.thicker("thickness", c.thickness),
        });
    }

    /// On cleats, between a rail at the back and one in front, which hold the posts upright and are its lip.
    fn on_cleats(&self, out: &mut Built, (level, k): (usize, u32), z: f64, id: &str) {
        let (c, t) = (self.c, self.c.thickness);
        let under = z - CLEAT;
        for cleat in self.cleats(out, (&level.to_string(), k), under) {
            out.joints.push(Joint::new(Fasten::Lies, cleat, id).apart());
        }
        let high = &self.cleat + self.board.clone().named("shelf") + &self.lip;
        let high = high.named("rail with its lip");
        let name = |side: &str| format!("rail-{level}-{side}{}", self.column(k));
        match self.pipe(k) {
            Some(pipe) => self.parted(out, (id, k), pipe, under, &high),
            None => self.rail(out, (&name("back"), k), ("back", c.depth - t, under), &high),
        }
        self.rail(out, (&name("front"), k), ("front", 0.0, under), &high);
    }

    /// The back rail left and right of a pipe, each on its post and on the shelf's edge.
    fn parted(
        &self,
        out: &mut Built,
        (shelf, k): (&str, u32),
        (_, b): (f64, f64),
        z: f64,
        high: &Value,
    ) {
        let site = self.m.site;
        let at = site.choice("pipe_at", "pipe from the right end", self.c.pipe_at);
        let half = site.choice("pipe", "pipe", self.c.pipe.unwrap_or(0.0)) * 0.5;
        let round = Value::rule("shelves/round", "room round the pipe", ROUND);
        let post = self.board.clone().named("post");
        // Posts and columns to the right of this one.
        let before = &post * f64::from(k + 1) + &self.inner * f64::from(k);
        let right = &at - &half - &round - &before;
        let left = &self.inner + &before - &at - &half - &round;
        let level = shelf.trim_start_matches("shelf-");
        for (side, from, long, post) in
            [("right", self.from(k), right, k), ("left", b, left, k + 1)]
        {
            let id = format!("rail-{level}-back-{side}");
            let mut made = self.m.board(
                (&id, "rail", "rail of a shelf beside a pipe"),
                self.c.thickness,
                Pose::across(self.c.depth - self.c.thickness),
                [from, z],
                (("length", &long), ("height", high)),
            );
            made.places = vec![format!("shelf {level}, back, {side} of the pipe")];
            out.boards.push(made);
            let post = format!("post-back-{}", self.end(post));
            out.joints.push(Joint::new(Fasten::Butt, post, id.clone()));
            out.joints.push(Joint::new(Fasten::Butt, id, shelf));
        }
    }

    /// On four pins, with a lip of its own.
    fn on_pins(&self, out: &mut Built, (level, k): (usize, u32), z: f64, id: &str) {
        if self.c.lip <= 0.0 {
            return;
        }
        let lip = format!("lip-{level}{}", self.column(k));
        let high = self.board.clone().named("shelf") + &self.lip;
        let mut made = self.m.board(
            (&lip, "lip", "lip of a shelf"),
            self.c.thickness,
            Pose::across(0.0),
            [self.from(k) + PLAY / 2.0, z],
            (("length", &self.wide), ("height", &high)),
        );
        made.places = vec![format!("shelf {level}{}", self.column(k))];
        out.boards.push(made);
        out.joints.push(Joint::new(Fasten::Butt, lip, id));
    }

    /// Bins side by side, screwed through their floors.
    fn bins(&self, out: &mut Built, shelf: &mut Board) {
        let Some(each) = self.c.bins else { return };
        let n = (self.wide.mm / each).floor() as u32;
        if n == 0 {
            return;
        }
        let w = &self.m.site.w;
        shelf.then.push(format!(
            "screw {n} bins of {} down, side by side: two screws with wide washers through each floor",
            w.say(each)
        ));
        let washers = Item::new("wide washer under a screw", 2 * n, 1);
        out.hardware.push(washers);
    }

    /// Heights of the shelves' lower faces over the foot, mm: evenly, the uppermost with as much over it; on pins at the
    /// nearest row of holes.
    fn levels(&self) -> Vec<f64> {
        let each = (self.c.height - CLEAT) / f64::from(self.c.levels.max(1));
        let even = (0..self.c.levels).map(|i| CLEAT + each * f64::from(i));
        match self.c.on {
            On::Cleats => even.collect(),
            On::Pins => {
                let [wide, pitch] = self.pins();
                let row = |z: f64| ((z - FIRST) / pitch).round().max(0.0);
                even.map(|z| FIRST + pitch * row(z) + wide / 2.0).collect()
            }
        }
    }
}
