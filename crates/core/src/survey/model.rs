//! The bay as far as it is known: walls, floor, roof, things in the way; its outline at any height.

use std::collections::BTreeMap;

use super::known::{Disagreement, Known, combine};
use crate::geometry::interpolate;
use crate::geometry::region::Region;
use crate::project::Project;
use crate::project::survey::{OpeningDim, Quantity, Side, Thing, ThingDim};

/// How far things in the way reach behind the wall, so that no film of bay is left there, mm.
const BEHIND: f64 = 500.0;

/// A wall is taken as upright this far above the highest reading of it, mm (a choice).
const NEAR_ENOUGH: f64 = 50.0;

/// A wall at one height: `(x, offset, sd)` ascending in x.
type Line = Vec<(f64, f64, f64)>;

/// What the readings say of the vehicle.
#[derive(Debug, Clone, Default)]
pub struct Model {
    /// Every quantity with a reading.
    pub known: BTreeMap<String, Known>,
    /// Readings that disagree with repeats of themselves.
    pub disagree: Vec<Disagreement>,
    walls: [Vec<(f64, Line)>; 2],
    lengths: Vec<(f64, f64)>,
    length_sd: f64,
    floor: Vec<(f64, f64)>,
    roof: Vec<(f64, f64)>,
    things: BTreeMap<String, Obstacle>,
    /// Typical standard deviation of a reading, mm.
    pub sd: f64,
}

/// A thing in the way as a box.
#[derive(Debug, Clone, PartialEq)]
pub struct Obstacle {
    /// Its identifier in the survey.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// At which side it stands.
    pub side: Side,
    /// Along the bay, mm.
    pub x: (f64, f64),
    /// Distance of its inner face from the centre line, mm.
    pub face: f64,
    /// Height, mm.
    pub z: (f64, f64),
    /// Standard deviation of its face, mm.
    pub sd: f64,
    /// The readings it comes from.
    pub readings: Vec<String>,
    /// Where the face came from.
    pub how: FaceFrom,
}

/// How the inner face of a thing is known.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum FaceFrom {
    /// Measured from the centre line.
    Centre,
    /// Wall offset less the width measured: the two numbers.
    Wall(f64, f64),
}

impl Obstacle {
    /// Its plan, reaching behind the wall.
    pub fn plan(&self, model: &Model) -> Region {
        let wall = model
            .wall(self.side, (self.x.0 + self.x.1) / 2.0, self.z.0)
            .map_or(self.face, |w| w.0)
            .max(self.face)
            + BEHIND;
        match self.side {
            Side::Left => Region::rectangle(self.x.0, self.face, self.x.1, wall),
            Side::Right => Region::rectangle(self.x.0, -wall, self.x.1, -self.face),
        }
    }
}

/// The bay at one height.
#[derive(Debug, Clone)]
pub struct Bay {
    /// Free space in plan.
    pub region: Region,
    /// Largest standard deviation along its walls, mm.
    pub sd: f64,
    /// Readings along it.
    pub readings: Vec<String>,
    /// The height is beyond the measured ones: the nearest was taken.
    pub held: Option<f64>,
}

impl Model {
    /// From all readings that count.
    pub fn new(project: &Project) -> Model {
        let (known, disagree) = combine(project);
        let mut m = Model {
            known,
            disagree,
            sd: project.survey.sd,
            ..Model::default()
        };
        m.collect();
        for (id, thing) in &project.survey.things {
            if let Some(o) = m.obstacle(id, thing) {
                m.things.insert(id.clone(), o);
            }
        }
        m
    }

    fn collect(&mut self) {
        let mut walls: [BTreeMap<u64, (f64, Line)>; 2] = [BTreeMap::new(), BTreeMap::new()];
        for k in self.known.values() {
            match k.quantity {
                Quantity::Wall { side, x, z } => walls[side as usize]
                    .entry((z * 10.0).round() as u64)
                    .or_insert((z, vec![]))
                    .1
                    .push((x, k.mm, k.sd)),
                Quantity::Length { z } => {
                    self.lengths.push((z, k.mm));
                    self.length_sd = self.length_sd.max(k.sd);
                }
                Quantity::Floor { x } => self.floor.push((x, k.mm)),
                Quantity::Roof { x } => self.roof.push((x, k.mm)),
                _ => {}
            }
        }
        for (side, levels) in walls.into_iter().enumerate() {
            for (_, (z, mut line)) in levels {
                line.sort_by(|a, b| a.0.total_cmp(&b.0));
                self.walls[side].push((z, line));
            }
        }
        // The floor at the threshold is where heights are counted from.
        self.floor.push((0.0, 0.0));
        for list in [&mut self.lengths, &mut self.floor, &mut self.roof] {
            list.sort_by(|a, b| a.0.total_cmp(&b.0));
        }
    }

    /// What is known of `q`.
    pub fn get(&self, q: &Quantity) -> Option<&Known> {
        self.known.get(&q.key())
    }

    /// Length of the bay at height `z`.
    pub fn length(&self, z: f64) -> Option<f64> {
        interpolate(&self.lengths, z)
    }

    /// Offset of a wall from the centre line and its standard deviation. Linear between stations
    /// and between heights, held beyond the last.
    pub fn wall(&self, side: Side, x: f64, z: f64) -> Option<(f64, f64)> {
        let levels = &self.walls[side as usize];
        let at = |line: &Line| {
            let mm: Vec<_> = line.iter().map(|p| (p.0, p.1)).collect();
            let sd: Vec<_> = line.iter().map(|p| (p.0, p.2)).collect();
            Some((interpolate(&mm, x)?, interpolate(&sd, x)?))
        };
        let mm: Option<Vec<_>> = levels.iter().map(|(z, l)| Some((*z, at(l)?.0))).collect();
        let sd: Option<Vec<_>> = levels.iter().map(|(z, l)| Some((*z, at(l)?.1))).collect();
        Some((interpolate(&mm?, z)?, interpolate(&sd?, z)?))
    }

    /// Heights at which a wall of that side was measured.
    pub fn levels(&self, side: Side) -> Vec<f64> {
        self.walls[side as usize].iter().map(|(z, _)| *z).collect()
    }

    /// Stations at which a wall of that side was measured, at any height.
    pub fn stations(&self, side: Side) -> Vec<f64> {
        let mut xs: Vec<f64> = self.walls[side as usize]
            .iter()
            .flat_map(|(_, l)| l.iter().map(|p| p.0))
            .collect();
        xs.sort_by(f64::total_cmp);
        xs.dedup_by(|a, b| (*a - *b).abs() < 0.5);
        xs
    }

    /// Height of the floor at `x` over the floor at the threshold; flat where not measured.
    pub fn floor(&self, x: f64) -> f64 {
        interpolate(&self.floor, x).unwrap_or(0.0)
    }

    /// Floor to roof at `x`.
    pub fn floor_to_roof(&self, x: f64) -> Option<f64> {
        interpolate(&self.roof, x)
    }

    /// The lowest floor-to-roof that was measured, and where.
    pub fn lowest_roof(&self) -> Option<&Known> {
        let roofs = self
            .known
            .values()
            .filter(|k| matches!(k.quantity, Quantity::Roof { .. }));
        roofs.min_by(|a, b| a.mm.total_cmp(&b.mm))
    }

    /// The rear opening as `(width, height)`: the lesser of its two widths.
    pub fn opening(&self) -> Option<(f64, f64)> {
        let get = |dim| self.get(&Quantity::Opening { dim }).map(|k| k.mm);
        let height = get(OpeningDim::Height)?;
        let widths = [get(OpeningDim::WidthFloor), get(OpeningDim::WidthTop)];
        let width = widths.into_iter().flatten().fold(f64::INFINITY, f64::min);
        width.is_finite().then_some((width, height))
    }

    /// Things in the way that are known well enough to be boxes.
    pub fn things(&self) -> impl Iterator<Item = &Obstacle> {
        self.things.values()
    }

    fn obstacle(&self, id: &str, thing: &Thing) -> Option<Obstacle> {
        let get = |dim| self.get(&Quantity::Thing { id: id.into(), dim });
        let (start, length) = (get(ThingDim::Start)?, get(ThingDim::Length)?);
        let height = get(ThingDim::Height)?;
        let bottom = get(ThingDim::Bottom);
        let x = (start.mm, start.mm + length.mm);
        let mut readings = [start, length, height].map(|k| k.readings.clone()).concat();
        let (face, sd, how) = match (get(ThingDim::Face), get(ThingDim::Width)) {
            (Some(f), _) => {
                readings.extend(f.readings.clone());
                (f.mm, f.sd, FaceFrom::Centre)
            }
            (None, Some(w)) => {
                let z = bottom.map_or(0.0, |b| b.mm);
                let wall = self.wall(thing.side, (x.0 + x.1) / 2.0, z)?;
                readings.extend(w.readings.clone());
                (
                    (wall.0 - w.mm).max(0.0),
                    wall.1.hypot(w.sd),
                    FaceFrom::Wall(wall.0, w.mm),
                )
            }
            _ => return None,
        };
        Some(Obstacle {
            id: id.into(),
            name: thing.name.clone(),
            side: thing.side,
            x,
            face,
            z: (bottom.map_or(0.0, |b| b.mm), height.mm),
            sd,
            readings,
            how,
        })
    }

    /// The bay's outline at height `z`: walls linear between stations and between heights.
    /// `None` while a wall or the length has no reading.
    pub fn bay(&self, z: f64) -> Option<Bay> {
        let length = self.length(z)?;
        let mut sd = self.length_sd;
        let mut readings = Vec::new();
        let mut side_points = |side: Side| -> Option<Vec<[f64; 2]>> {
            let mut xs = vec![0.0];
            xs.extend(
                self.stations(side)
                    .into_iter()
                    .filter(|x| *x > 0.5 && *x < length - 0.5),
            );
            xs.push(length);
            xs.into_iter()
                .map(|x| {
                    let (offset, s) = self.wall(side, x, z)?;
                    sd = sd.max(s);
                    Some([x, side.sign() * offset])
                })
                .collect()
        };
        let right = side_points(Side::Right)?;
        let left = side_points(Side::Left)?;
        for k in self.known.values() {
            if matches!(k.quantity, Quantity::Wall { .. } | Quantity::Length { .. }) {
                readings.extend(k.readings.clone());
            }
        }
        let outer: Vec<_> = right.into_iter().chain(left.into_iter().rev()).collect();
        let region = Region {
            outer,
            holes: vec![],
        };
        let levels: Vec<_> = Side::BOTH.iter().flat_map(|s| self.levels(*s)).collect();
        let highest = levels.iter().copied().fold(0.0, f64::max);
        // Crossed walls give no region that can be worked with.
        region.check("").ok()?;
        Some(Bay {
            region,
            sd,
            readings,
            held: (z > highest + NEAR_ENOUGH).then_some(highest),
        })
    }

    /// The free section across the bay at `x` from the floor up to `top`, as `(y, z)`.
    pub fn section(&self, x: f64, top: f64) -> Option<Region> {
        let floor = self.floor(x);
        let mut zs = vec![floor];
        for side in Side::BOTH {
            zs.extend(
                self.levels(side)
                    .into_iter()
                    .filter(|z| *z > floor + 0.5 && *z < top - 0.5),
            );
        }
        zs.push(top);
        zs.sort_by(f64::total_cmp);
        zs.dedup_by(|a, b| (*a - *b).abs() < 0.5);
        let points = |side: Side| -> Option<Vec<[f64; 2]>> {
            zs.iter()
                .map(|z| Some([side.sign() * self.wall(side, x, *z)?.0, *z]))
                .collect()
        };
        let (right, left) = (points(Side::Right)?, points(Side::Left)?);
        // Seen from behind: y runs to the left, so right wall up, left wall down is clockwise in
        // (y, z) and is turned round.
        let outer = right.into_iter().rev().chain(left).rev().collect();
        let region = Region {
            outer,
            holes: vec![],
        };
        region.check("").ok()?;
        Some(region)
    }
}
