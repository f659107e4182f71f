//! Work done at the same time answers as if it were done in turn.

use std::panic::catch_unwind;

use jigfit_core::side_by_side::{beside, each, within};

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

/// Work that asks for more work in turn, many at a time, all get their answers.
#[test]
fn work_within_work() {
    let sums = |n: &u64| {
        let (a, b) = beside(|| each(&[*n, n + 1], |k| k * k), || within(|| n + 2));
        a.iter().sum::<u64>() + b
    };
    let threads = (0..8).map(|_| std::thread::spawn(move || within(|| each(&[1, 2, 3], sums))));
    for t in threads.collect::<Vec<_>>() {
        // 1 + 4 + 3, 4 + 9 + 4, 9 + 16 + 5
        assert_eq!(t.join().unwrap(), [8, 17, 30]);
    }
}
