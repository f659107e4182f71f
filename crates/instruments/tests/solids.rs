//! Whether boards share space, square to each other and leaning, with notches and windows: judged by another library
//! (`parry3d`) on prisms cut another way.
use std::f64::consts::PI;

use crate::common::prisms::{TOUCH, depth, solid};
use jigfit_core::boards::BoardView;
use jigfit_core::furniture::built::Pose;
use jigfit_core::geometry::region::Region;
use jigfit_core::solids::{Solid, clashing};
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use rstest::rstest;

/// How boards lie.
#[derive(Clone, Copy, PartialEq)]
enum Lies {
    Square,
    Leaning,
}

/// A rectangle with a notch at one corner and a window, or without.
fn outline(rng: &mut ChaCha8Rng) -> Region {
    let (w, h) = (rng.random_range(60.0..400.0), rng.random_range(60.0..400.0));
    let (a, b) = (
        w * rng.random_range(0.3..0.8),
        h * rng.random_range(0.3..0.8),
    );
    let notched = vec![[0.0, 0.0], [w, 0.0], [w, b], [a, b], [a, h], [0.0, h]];
    let window = vec![
        [10.0, 10.0],
        [10.0, b - 8.0],
        [a - 8.0, b - 8.0],
        [a - 8.0, 10.0],
    ];
    match rng.random_range(0..3) {
        0 => Region::rectangle(0.0, 0.0, w, h),
        1 => Region {
            outer: notched,
            holes: vec![],
        },
        _ => Region {
            outer: notched,
            holes: vec![window],
        },
    }
}

fn pose(rng: &mut ChaCha8Rng, lies: Lies) -> Pose {
    let origin = std::array::from_fn(|_| rng.random_range(-150.0..150.0));
    let axes = [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]];
    if lies == Lies::Square {
        let (i, j) = (rng.random_range(0..3), rng.random_range(1..3));
        return Pose {
            origin,
            u: axes[i],
            v: axes[(i + j) % 3],
        };
    }
    // Any direction, and any turn about it.
    let (z, turn): (f64, f64) = (rng.random_range(-1.0..1.0), rng.random_range(0.0..2.0 * PI));
    let flat = (1.0 - z * z).sqrt();
    let w = [flat * turn.cos(), flat * turn.sin(), z];
    let about = [-turn.sin(), turn.cos(), 0.0];
    let up = [
        w[1] * about[2] - w[2] * about[1],
        w[2] * about[0] - w[0] * about[2],
        w[0] * about[1] - w[1] * about[0],
    ];
    let spin: f64 = rng.random_range(0.0..2.0 * PI);
    let mix = |s: f64, c: f64| std::array::from_fn(|k| about[k] * c + up[k] * s);
    Pose {
        origin,
        u: mix(spin.sin(), spin.cos()),
        v: mix(spin.cos(), -spin.sin()),
    }
}

fn board(id: &str, rng: &mut ChaCha8Rng, lies: Lies) -> BoardView {
    let shut = pose(rng, lies);
    let (thickness, outline) = (rng.random_range(4.0..30.0), outline(rng));
    BoardView {
        id: id.into(),
        module: id.into(),
        mark: id.into(),
        role: String::new(),
        body: id.into(),
        thickness,
        bounds: outline.rectangles(),
        outline,
        pockets: vec![],
        poses: [("drive".to_string(), shut)].into(),
        shut,
        metal: false,
        bought: false,
        mass: 1.0,
        middle: [0.0; 3],
    }
}

#[rstest]
#[case::square(Lies::Square, Lies::Square)]
#[case::one_leans(Lies::Square, Lies::Leaning)]
#[case::both_lean(Lies::Leaning, Lies::Leaning)]
fn shared_space(#[case] first: Lies, #[case] second: Lies) {
    let mut rng = ChaCha8Rng::seed_from_u64(71);
    let (mut met, mut free, mut boxes_only) = (0, 0, 0);
    for round in 0..3000 {
        let (a, b) = (board("a", &mut rng, first), board("b", &mut rng, second));
        let placed: Vec<Solid> = [&a, &b].map(|b| Solid::new(b, "drive").unwrap()).into();
        let told = !clashing(&placed).is_empty();
        let deep = depth(&solid(&a), &solid(&b));
        // By less than a touch neither is wrong; each library cuts the boards its own way, which makes the depth of a
        // piece its own.
        if deep > 3.0 * TOUCH {
            assert!(told, "{round}: {deep} deep, not told: {a:?} {b:?}");
            met += 1;
        } else if deep == 0.0 {
            assert!(!told, "{round}: told, but free of each other: {a:?} {b:?}");
            free += 1;
            let near = (0..3).all(|k| {
                let reach = placed[0].high[k].min(placed[1].high[k]);
                reach - placed[0].low[k].max(placed[1].low[k]) > 1.0
            });
            boxes_only += usize::from(near);
        }
    }
    // Both happen, and the boxes round them would often have told wrongly.
    assert!(
        met > 300 && free > 300 && boxes_only > 10,
        "{met} {free} {boxes_only}"
    );
}
