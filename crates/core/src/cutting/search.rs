//! Many layouts from many orders and rules, and the best of them: cost, then sheets, then the
//! largest offcut. Deterministic: the number of tries follows from the effort, the order from the seed.

use super::guillotine::{Board, Choose, SLACK, Split};

/// A kind of sheet.
#[derive(Debug, Clone, PartialEq)]
pub struct SheetKind {
    /// Width, mm.
    pub w: f64,
    /// Height, mm.
    pub h: f64,
    /// How many there are; `None` for as many as needed.
    pub count: Option<usize>,
    /// Price of one.
    pub cost: f64,
}

/// One piece to be cut, with the ways it may lie on each kind of sheet.
#[derive(Debug, Clone, PartialEq)]
pub struct Piece {
    /// Width, mm.
    pub w: f64,
    /// Height, mm.
    pub h: f64,
    /// For each kind of sheet: may lie as given, may lie turned.
    pub ways: Vec<(bool, bool)>,
}

/// The task.
#[derive(Debug, Clone, PartialEq)]
pub struct Task {
    /// Kinds of sheet.
    pub sheets: Vec<SheetKind>,
    /// All copies of all parts.
    pub pieces: Vec<Piece>,
    /// Width of the cut, mm.
    pub kerf: f64,
    /// Taken off every side of a sheet, mm.
    pub trim: f64,
}

#[derive(Debug, Clone, Copy)]
struct Rules {
    choose: Choose,
    split: Split,
    /// Which kind of sheet is opened: 0 cheapest, 1 cheapest by area, 2 + k kind k if it fits.
    open: usize,
}

/// A small generator, good enough to shuffle (SplitMix64, Steele, Lea and Flood 2014).
struct Dice(u64);

impl Dice {
    fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        z ^ (z >> 31)
    }
    fn below(&mut self, n: usize) -> usize {
        (self.next() % n.max(1) as u64) as usize
    }
}

const CHOICES: [Choose; 3] = [Choose::Area, Choose::ShortSide, Choose::LongSide];
const SPLITS: [Split; 4] = [
    Split::Larger,
    Split::Even,
    Split::Vertical,
    Split::Horizontal,
];

/// Somebody is told how far the search is after so many tries.
const EVERY: usize = 16;

/// How far a search is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Tried {
    /// Layouts looked at.
    pub done: usize,
    /// Layouts to look at.
    pub of: usize,
}

/// How good a layout is, smaller is better.
type Grade = (f64, usize, f64);

impl Task {
    /// The best layout found with about `effort` units of work, or `None` if the pieces do not go
    /// on the sheets there are. `go_on` is asked now and then whether somebody still waits.
    pub fn solve(
        &self,
        effort: f64,
        seed: u64,
        go_on: &mut dyn FnMut(Tried) -> bool,
    ) -> Option<Vec<Board>> {
        let n = self.pieces.len();
        if n == 0 {
            return Some(vec![]);
        }
        let mut best: Option<(Grade, Vec<Board>)> = None;
        let mut dice = Dice(seed);
        let orders = self.orders();
        // Of one kind of sheet every rule opens the same.
        let opens = match self.sheets.len() {
            1 => 1,
            kinds => 2 + kinds,
        };
        let mut keep = |task: &Task, order: &[usize], rules: Rules| -> Option<Grade> {
            let boards = task.lay(order, rules, best.as_ref().map(|(g, _)| *g))?;
            let grade = task.grade(&boards);
            if best.as_ref().is_none_or(|(g, _)| better(grade, *g)) {
                best = Some((grade, boards));
            }
            Some(grade)
        };
        // Every usual order with every rule.
        let mut start: Option<(Grade, Vec<usize>, Rules)> = None;
        for order in &orders {
            if !go_on(Tried { done: 0, of: 1 }) {
                return None;
            }
            for choose in CHOICES {
                for split in SPLITS {
                    for open in 0..opens.min(8) {
                        let rules = Rules {
                            choose,
                            split,
                            open,
                        };
                        if let Some(g) = keep(self, order, rules)
                            && start.as_ref().is_none_or(|(b, _, _)| better(g, *b))
                        {
                            start = Some((g, order.clone(), rules));
                        }
                    }
                }
            }
        }
        // Then walk from the best order by small changes, taking what is no worse.
        let tries = ((effort * 3.0e6 / (n * n) as f64) as usize)
            .clamp((40.0 * effort) as usize, (4000.0 * effort) as usize);
        let (mut at, mut order, mut rules) = match start {
            Some((g, o, r)) => (Some(g), o, r),
            None => {
                let first = Rules {
                    choose: Choose::Area,
                    split: Split::Larger,
                    open: 0,
                };
                (None, orders.into_iter().next().unwrap_or_default(), first)
            }
        };
        for done in 0..tries {
            if done % EVERY == 0 && !go_on(Tried { done, of: tries }) {
                return None;
            }
            let mut next = order.clone();
            let (i, j) = (dice.below(n), dice.below(n));
            if dice.below(2) == 0 {
                next.swap(i, j);
            } else {
                let piece = next.remove(i);
                next.insert(j, piece);
            }
            let mut next_rules = rules;
            if dice.below(6) == 0 {
                next_rules = Rules {
                    choose: CHOICES[dice.below(3)],
                    split: SPLITS[dice.below(4)],
                    open: dice.below(opens),
                };
            }
            if let Some(g) = keep(self, &next, next_rules)
                && at.is_none_or(|a| !better(a, g))
            {
                (at, order, rules) = (Some(g), next, next_rules);
            }
        }
        best.map(|(_, boards)| boards)
    }

    fn orders(&self) -> Vec<Vec<usize>> {
        type Key = fn(&Piece) -> f64;
        let keys: [Key; 5] = [
            |p| p.w * p.h,
            |p| p.w.max(p.h),
            |p| p.w.min(p.h),
            |p| p.w,
            |p| p.h,
        ];
        keys.iter()
            .map(|key| {
                let mut order: Vec<usize> = (0..self.pieces.len()).collect();
                order.sort_by(|a, b| {
                    let (pa, pb) = (&self.pieces[*a], &self.pieces[*b]);
                    key(pb).total_cmp(&key(pa)).then(a.cmp(b))
                });
                order
            })
            .collect()
    }

    /// Lays the pieces in this order; `None` where they do not go, or where the sheets begun already make it worse than `best`.
    fn lay(&self, order: &[usize], rules: Rules, best: Option<Grade>) -> Option<Vec<Board>> {
        let mut boards: Vec<Board> = Vec::new();
        let mut cost = 0.0;
        for &p in order {
            let piece = &self.pieces[p];
            let place = best_place(&boards, piece, rules.choose);
            let (b, i, rotated) = match place {
                Some(found) => found,
                None => {
                    let kind = self.open(piece, &boards, rules.open)?;
                    let s = &self.sheets[kind];
                    boards.push(Board::new(kind, s.w, s.h, self.trim));
                    cost += s.cost;
                    let least = (cost, boards.len(), f64::NEG_INFINITY);
                    if best.is_some_and(|best| better(best, least)) {
                        return None;
                    }
                    let last = boards.len() - 1;
                    let (_, i, rotated) = best_place(&boards[last..], piece, rules.choose)?;
                    (last, i, rotated)
                }
            };
            let size = if rotated {
                (piece.h, piece.w)
            } else {
                (piece.w, piece.h)
            };
            boards[b].put(i, p, size, rotated, self.kerf, rules.split);
        }
        Some(boards)
    }

    fn open(&self, piece: &Piece, boards: &[Board], policy: usize) -> Option<usize> {
        let usable = |k: &usize| {
            let s = &self.sheets[*k];
            let used = boards.iter().filter(|b| b.kind == *k).count();
            s.count.is_none_or(|c| used < c) && self.lies(piece, *k)
        };
        if policy >= 2 && usable(&(policy - 2)) {
            return Some(policy - 2);
        }
        let by_area = policy == 1;
        (0..self.sheets.len()).filter(usable).min_by(|a, b| {
            let price = |k: &usize| {
                let s = &self.sheets[*k];
                if by_area {
                    s.cost / (s.w * s.h)
                } else {
                    s.cost
                }
            };
            price(a)
                .total_cmp(&price(b))
                .then(self.sheets[*b].w.total_cmp(&self.sheets[*a].w))
        })
    }

    /// Whether `piece` lies on an empty sheet of that kind.
    pub fn lies(&self, piece: &Piece, kind: usize) -> bool {
        let s = &self.sheets[kind];
        let (w, h) = (s.w - 2.0 * self.trim + SLACK, s.h - 2.0 * self.trim + SLACK);
        let (as_is, turned) = piece.ways[kind];
        (as_is && piece.w <= w && piece.h <= h) || (turned && piece.h <= w && piece.w <= h)
    }

    fn grade(&self, boards: &[Board]) -> Grade {
        let cost = boards.iter().map(|b| self.sheets[b.kind].cost).sum();
        let largest = boards
            .iter()
            .flat_map(|b| &b.free)
            .map(|r| r.w * r.h)
            .fold(0.0, f64::max);
        (cost, boards.len(), -largest)
    }

    /// Least cost and least number of sheets by area alone. A part widened by the kerf still fits
    /// the trimmed sheet widened by the kerf, so both areas may be taken so.
    pub fn area_bound(&self) -> (f64, usize) {
        let k = self.kerf;
        let needed: f64 = self.pieces.iter().map(|p| (p.w + k) * (p.h + k)).sum();
        if needed == 0.0 {
            return (0.0, 0);
        }
        let area =
            |s: &SheetKind| (s.w - 2.0 * self.trim + k).max(0.0) * (s.h - 2.0 * self.trim + k);
        let largest = self.sheets.iter().map(area).fold(0.0, f64::max);
        let whole = |x: f64| (x - 1e-9).ceil().max(1.0);
        let sheets = whole(needed / largest);
        let by_area = self
            .sheets
            .iter()
            .map(|s| s.cost / area(s))
            .fold(f64::INFINITY, f64::min)
            * needed;
        let cheapest = self
            .sheets
            .iter()
            .map(|s| s.cost)
            .fold(f64::INFINITY, f64::min);
        (by_area.max(cheapest * sheets), sheets as usize)
    }
}

fn better(a: Grade, b: Grade) -> bool {
    const CENT: f64 = 1e-9;
    if (a.0 - b.0).abs() > CENT {
        return a.0 < b.0;
    }
    (a.1, a.2) < (b.1, b.2)
}

/// Board, free piece and turn with the best score; earlier boards win ties.
fn best_place(boards: &[Board], piece: &Piece, choose: Choose) -> Option<(usize, usize, bool)> {
    let mut best: Option<(f64, (usize, usize, bool))> = None;
    for (b, board) in boards.iter().enumerate() {
        let (as_is, turned) = piece.ways[board.kind];
        for i in 0..board.free.len() {
            for (allowed, rotated, w, h) in [
                (as_is, false, piece.w, piece.h),
                (turned, true, piece.h, piece.w),
            ] {
                if !allowed {
                    continue;
                }
                if let Some(score) = board.score(i, w, h, choose)
                    && best.is_none_or(|(s, _)| score < s)
                {
                    best = Some((score, (b, i, rotated)));
                }
            }
        }
    }
    best.map(|(_, place)| place)
}
