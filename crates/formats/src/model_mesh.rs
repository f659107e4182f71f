//! The measured vehicle as a mesh: both walls, the front, and the things in the way as boxes.

use jigfit_core::project::Project;
use jigfit_core::project::survey::Side;
use jigfit_core::survey::model::Model;

use crate::ply;

/// Columns along a wall, rows up it.
const ALONG: usize = 40;
const UP: usize = 16;

/// The model as ASCII PLY; only points and no faces while too little is measured.
pub fn write(project: &Project) -> Vec<u8> {
    let model = Model::new(project);
    let mut points = Vec::new();
    let mut faces = Vec::new();
    for side in Side::BOTH {
        let top = model.levels(side).iter().copied().fold(0.0, f64::max);
        grid(&mut points, &mut faces, |i, j| {
            let z = top * j as f64 / UP as f64;
            let x = model.length(z)? * i as f64 / ALONG as f64;
            let offset = model.offset(side, x, z)?;
            Some([x, side.sign() * offset, z])
        });
    }
    for o in model.things() {
        let plan = o.plan().bounds();
        let far = o.far.unwrap_or_else(|| {
            let wall = model.wall(o.side, (o.x.0 + o.x.1) / 2.0, o.z.0);
            wall.map_or(o.face + 50.0, |w| w.0.max(o.face))
        });
        let (y0, y1) = match o.side {
            Side::Left => (o.face, far),
            Side::Right => (-far, -o.face),
        };
        let from = points.len();
        for z in [o.z.0, o.z.1] {
            for (x, y) in [(plan.0, y0), (plan.2, y0), (plan.2, y1), (plan.0, y1)] {
                points.push([x, y, z]);
            }
        }
        let quads = [
            [4, 5, 6, 7],
            [0, 1, 5, 4],
            [1, 2, 6, 5],
            [2, 3, 7, 6],
            [3, 0, 4, 7],
        ];
        faces.extend(quads.map(|q| q.iter().map(|k| from + k).collect()));
    }
    let comment = format!(
        "{}: walls and things as measured, mm, x forward y left z up",
        project.name
    );
    ply::write(&points, &faces, &comment)
}

fn grid(
    points: &mut Vec<[f64; 3]>,
    faces: &mut Vec<Vec<usize>>,
    at: impl Fn(usize, usize) -> Option<[f64; 3]>,
) {
    let all: Option<Vec<[f64; 3]>> = (0..=ALONG)
        .flat_map(|i| (0..=UP).map(move |j| (i, j)))
        .map(|(i, j)| at(i, j))
        .collect();
    let Some(all) = all else { return };
    let from = points.len();
    points.extend(all);
    for i in 0..ALONG {
        for j in 0..UP {
            let a = from + i * (UP + 1) + j;
            faces.push(vec![a, a + UP + 1, a + UP + 2, a + 1]);
        }
    }
}
