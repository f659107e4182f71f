//! The sheets are told apart however they lie.

use jigfit_photo::sheet::{SHEETS, black, read, room};

fn turned_left(r: [[bool; 3]; 3]) -> [[bool; 3]; 3] {
    std::array::from_fn(|row| std::array::from_fn(|column| r[column][2 - row]))
}

#[test]
fn every_sheet_is_read_in_every_position() {
    for n in 0..SHEETS {
        let mut lies = room(n);
        for quarter in 0..4 {
            assert_eq!(read(lies), Some((n, quarter)));
            lies = turned_left(lies);
        }
        assert_eq!(lies, room(n));
    }
}

#[test]
fn one_field_read_wrong_makes_no_other_sheet() {
    for n in 0..SHEETS {
        for k in 0..9 {
            let mut lies = room(n);
            lies[k / 3][k % 3] ^= true;
            assert!(read(lies).is_none(), "{n} {k}");
        }
        // The rim is black all round.
        let rim = black(n)
            .into_iter()
            .filter(|(r, c)| r % 4 == 0 || c % 4 == 0);
        assert_eq!(rim.count(), 16);
    }
}
