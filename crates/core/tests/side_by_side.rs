//! Work done at the same time answers as if it were done in turn.

use std::panic::catch_unwind;

use jigfit_core::side_by_side::{beside, each};

#[test]
fn answers_come_in_the_order_of_the_items() {
    let slow_first = |n: &u64| {
        // Earlier items take longer, so that later ones are done before them.
        (0..(200 - n) * 1000).fold(*n, |kept, round| kept.max(round % (n + 1)))
    };
    let items: Vec<u64> = (0..200).collect();
    assert_eq!(each(&items, slow_first), items);
    assert_eq!(each(&[] as &[u64], slow_first), Vec::<u64>::new());
    assert_eq!(beside(|| "a", || "b"), ("a", "b"));
}

#[test]
fn a_panic_is_the_callers() {
    let one = || {
        each(&[1, 2, 3], |n| match n {
            2 => panic!("two"),
            n => *n,
        })
    };
    assert!(catch_unwind(one).is_err());
    assert!(catch_unwind(|| beside(|| panic!("first"), || 1)).is_err());
}
