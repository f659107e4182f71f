//! The marker sheet: a black square of five by five fields with a white room of three by three in it. The room's upper
//! left field is black and its other corners are white, which says how the sheet lies; its other five fields say which sheet it
//! is. A thin cross in the middle is where the tape is put.

/// Side of the black square, mm.
pub const SIDE: f64 = 160.0;
/// Fields along a side.
pub const FIELDS: usize = 5;
/// How many different sheets there are.
pub const SHEETS: usize = 4;

/// The five fields that tell the sheets apart, row and column in the room: any two sheets differ in three of them, so that one
/// field read wrong makes no other sheet.
const TELLING: [(usize, usize); 5] = [(0, 1), (1, 0), (1, 1), (1, 2), (2, 1)];
const WORDS: [[bool; 5]; SHEETS] = [
    [false, false, false, false, false],
    [false, false, true, true, true],
    [true, true, true, false, false],
    [true, true, false, true, true],
];

/// Which fields of the room are black on sheet `n`, counted from 0; row by row from above.
pub fn room(n: usize) -> [[bool; 3]; 3] {
    let mut room = [[false; 3]; 3];
    room[0][0] = true;
    if let Some(word) = WORDS.get(n) {
        for ((row, column), black) in TELLING.iter().zip(word) {
            room[*row][*column] = *black;
        }
    }
    room
}

/// The black fields of sheet `n`, row and column from the upper left.
pub fn black(n: usize) -> Vec<(usize, usize)> {
    let own = room(n);
    let all = (0..FIELDS).flat_map(|r| (0..FIELDS).map(move |c| (r, c)));
    all.filter(|(r, c)| {
        let inside = (1..=3).contains(r) && (1..=3).contains(c);
        !inside || own[r - 1][c - 1]
    })
    .collect()
}

/// Which sheet a room is of, and by how many quarter turns to the left the sheet lies.
pub fn read(seen: [[bool; 3]; 3]) -> Option<(usize, usize)> {
    let mut turned = seen;
    for quarter in 0..4 {
        if let Some(n) = (0..SHEETS).find(|n| room(*n) == turned) {
            return Some((n, quarter));
        }
        // By a quarter to the right: what was on the left comes up.
        let before = turned;
        for (r, row) in turned.iter_mut().enumerate() {
            for (c, field) in row.iter_mut().enumerate() {
                *field = before[2 - c][r];
            }
        }
    }
    None
}
