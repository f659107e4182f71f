//! Makes the rectangular boards of a piece in its own directions, each with its two lengths explained.

use super::frame::{Frame, Opens};
use crate::furniture::Site;
use crate::furniture::built::{Axis, Board, Ease, Measure, Pose};
use crate::furniture::stands::Standing;
use crate::geometry::region::Region;
use crate::units::value::Value;

/// What all boards of a piece share.
#[derive(Clone)]
pub struct Maker<'a> {
    /// The site.
    pub site: &'a Site<'a>,
    /// What the piece is called.
    pub name: String,
    /// Prefix of the marks.
    pub letter: &'static str,
    /// Material identifier.
    pub material: String,
    /// Its own directions.
    pub frame: Frame,
}

/// A board's whole extent along one axis, and what it is called.
pub type Extent<'a> = (&'static str, &'a Value);

impl<'a> Maker<'a> {
    /// For a piece where it stands.
    pub fn new(at: &Standing<'a>, letter: &'static str, material: &str, opens: Opens) -> Self {
        Maker {
            site: at.site,
            name: at.name.clone(),
            letter,
            material: material.into(),
            frame: Frame::new(&at.spot, opens),
        }
    }

    /// For a part of the piece that is called otherwise.
    pub fn called(&self, name: &str, letter: &'static str) -> Maker<'a> {
        Maker {
            name: name.into(),
            letter,
            ..self.clone()
        }
    }

    /// Of its boards, kg/m3.
    pub fn density(&self) -> f64 {
        let material = self.site.project.material(&self.material);
        material.map_or(0.0, |m| m.density)
    }

    /// A rectangular board whose shape begins at `corner` and extends by `u` and `v`.
    pub fn board(
        &self,
        (id, role, words): (&str, &'static str, &str),
        thickness: f64,
        pose: Pose,
        [a, b]: [f64; 2],
        (u, v): (Extent, Extent),
    ) -> Board {
        let shape = Region::rectangle(a, b, a + u.1.mm, b + v.1.mm);
        let mut board = Board::new(id, role, self.letter, shape, self.frame.pose(pose));
        board.name = format!("{}, {words}", self.name);
        board.material.clone_from(&self.material);
        board.thickness = thickness;
        board.measures = vec![
            Measure::whole(Axis::U, u.0, u.1.clone()),
            Measure::whole(Axis::V, v.0, v.1.clone()),
        ];
        board
    }

    /// A thicker board as a change that makes a stretch stiffer, where there is one.
    pub fn thicker(&self, field: &str, now: f64) -> Vec<Ease> {
        thicker(self.site, (field, THICKEST), now)
    }
}

/// Boards are no thicker than this, mm.
pub const THICKEST: f64 = 30.0;

/// The same without a maker: `field` is the choice that says how thick it is now, and what it may be at the most.
pub fn thicker(site: &Site, (field, most): (&str, f64), now: f64) -> Vec<Ease> {
    let next = crate::project::stock::thicker(site.w.system, now);
    let some = next
        .first()
        .copied()
        .filter(|t| *t <= most)
        .map(|then| Ease {
            against: None,
            label: format!("{} board", site.w.say(then)),
            cost: format!("{:.0} % heavier", 100.0 * (then / now - 1.0)),
            pointer: format!("/choices/{field}"),
            value: then.into(),
        });
    some.into_iter().collect()
}
