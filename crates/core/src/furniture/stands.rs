//! Kinds that stand in a box with their front to one side: what they share of being placed, asked for and checked, so
//! that such a kind says only what it is made of.

use serde::Serialize;
use serde::de::DeserializeOwned;
use serde_json::{Map, Value as Json};
use utoipa::ToSchema;

use super::built::{Built, Claim};
use super::cross::Cross;
use super::form::{Form, choices, schema};
use super::free::Free;
use super::kit::frame::Opens;
use super::spot::{self, Spot};
use super::{Amount, Field, Kind, Site, Wanted};
use crate::geometry::region::Region;
use crate::input::{from_value, within};
use crate::problem::Problem;
use crate::project::Project;
use crate::project::check::{optional, sheet};
use crate::project::module::Module;

/// What all pieces in a box say of themselves.
#[derive(Debug, Clone, PartialEq)]
pub struct Stance {
    /// To which side its front looks.
    pub opens: Opens,
    /// Its own width, depth and height, mm.
    pub size: [f64; 3],
    /// The least it may have of each, mm.
    pub least: [f64; 3],
    /// Clearance to walls and wells, mm; from the readings if none.
    pub clearance: Option<f64>,
    /// Material identifier.
    pub material: String,
    /// Thickness of its boards, mm.
    pub thickness: f64,
    /// What comes out of it comes so far, mm: the way before it has to stay free.
    pub reach: f64,
}

/// A piece that stands in a box.
pub trait Piece: Sync {
    /// Its choices.
    type Choices: Serialize + DeserializeOwned + Default + ToSchema;

    /// Its name in documents.
    fn name(&self) -> &'static str;
    /// What one wants it for, in a sentence.
    fn purpose(&self) -> &'static str;
    /// What one of it is called where nobody named it, if not as its kind.
    fn called(&self) -> Option<&'static str> {
        None
    }
    /// What the choice `height` is called in its form.
    fn height_of(&self) -> &'static str {
        "Height"
    }
    /// What it would be made of at the most.
    fn amount(&self, _: &Self::Choices) -> Amount {
        Amount::plain(30)
    }
    /// Adds what edits may point to and a document may leave out, such as the choices about each of several bays.
    fn fill(&self, _: &mut Self::Choices) {}
    /// How it stands.
    fn stance(&self, c: &Self::Choices) -> Stance;
    /// What stands over the choice `height`, mm: the form shows, and takes, the height without it.
    fn over(&self, _: &Self::Choices) -> f64 {
        0.0
    }
    /// Gives it a width, depth and height.
    fn resize(&self, c: &mut Self::Choices, size: [f64; 3]);
    /// What suits where nothing was said; `said` tells of a choice whether it was.
    fn suit(&self, _: &mut Self::Choices, _: &Site, _said: &dyn Fn(&str) -> bool) {}
    /// Makes less of what was not said, where it finds no place; no more where that cannot be.
    fn less(&self, _: &mut Self::Choices, _said: &dyn Fn(&str) -> bool) -> bool {
        false
    }
    /// Refuses choices that cannot be, beside sizes; pointers begin with `/choices`.
    ///
    /// # Errors
    /// The first that is wrong.
    fn check(&self, c: &Self::Choices, project: &Project, finish: f64) -> Result<(), Problem>;
    /// Its own fields of the form.
    fn fields(&self, c: &Self::Choices, f: &Form, site: &Site) -> Vec<Field>;
    /// What it is made of where it stands.
    fn built(&self, c: &Self::Choices, at: &Standing) -> Option<Built>;
}

/// Where a piece stands.
pub struct Standing<'a> {
    /// The site.
    pub site: &'a Site<'a>,
    /// The box.
    pub spot: Spot,
    /// What it is called.
    pub name: String,
    /// Finish on a face, mm.
    pub finish: f64,
}

/// Longest side of a piece, mm.
const LONGEST: f64 = 4000.0;

/// Where what comes out of a piece goes.
fn way(s: &Stance, (x0, y0, x1, y1): (f64, f64, f64, f64)) -> Option<Region> {
    (s.reach > 0.0).then(|| match s.opens {
        Opens::Rear => Region::rectangle(x0 - s.reach, y0, x0, y1),
        Opens::Left => Region::rectangle(x0, y1, x1, y1 + s.reach),
        Opens::Right => Region::rectangle(x0, y0 - s.reach, x1, y0),
    })
}

/// Nothing is in the way of what comes out: no wall, no thing, nobody's claim. Behind the threshold it is outside.
fn way_is_free(site: &Site, (cross, free): (&Cross, &Free), s: &Stance, spot: &Spot) -> bool {
    let Some(way) = way(s, spot.plan().bounds()) else {
        return true;
    };
    /// So near to the threshold it is as good as outside, mm.
    const SILL: f64 = 40.0;
    let (x0, y0, x1, y1) = way.bounds();
    if x1 <= SILL {
        return true;
    }
    let way = Region::rectangle(x0.max(SILL), y0, x1, y1);
    let high = |c: &Claim| spot.z.0 < c.z.1 && c.z.0 < spot.z.1;
    let mut others = site.others().filter(|(_, c)| high(c));
    others.all(|(_, c)| c.plan.and(&way).is_empty())
        && free.holds(cross, &way, &free.heights(spot.z.0 + 0.5, spot.z.1))
}

fn cross<'a>(
    site: &'a Site<'a>,
    clearance: Option<f64>,
    module: &Module,
    height: f64,
) -> Cross<'a> {
    let middle = module.place.up + height / 2.0;
    Cross::new(site, clearance, module.finish, middle).covered(module.covers)
}

fn stands<'a>(site: &'a Site<'a>, s: &Stance, module: &Module) -> Option<Spot> {
    let size = s.opens.across(s.size);
    let cross = cross(site, s.clearance, module, s.size[2]);
    spot::at(site, &cross, &module.place, size, 0.0)
}

/// The piece where it finds a place, its sizes made smaller where they were not said.
fn place<P: Piece>(
    piece: &P,
    site: &Site,
    wanted: &Wanted,
    module: Module,
    c: &mut P::Choices,
) -> Result<Option<Module>, Problem> {
    let said = |field: &str| wanted.choices.contains_key(field);
    // No higher than the walls were read, where that is enough.
    let s = piece.stance(c);
    if let Some(read) = site.model.highest().filter(|_| !said("height")) {
        let [w, d, h] = s.size;
        let high = h.min((read - module.place.up).max(s.least[2]));
        piece.resize(c, [w, d, high]);
    }
    let module = module.with(c);
    Kind::check(piece, site.project, &module)?;
    let s = piece.stance(c);
    let set = s.opens.across(["width", "depth", "height"].map(said));
    let sizes = spot::sizes(
        s.opens.across(s.size),
        s.opens.across(s.least),
        set,
        &site.w,
    );
    let free = Free::new(site, s.clearance, module.finish).covered(module.covers);
    let found = spot::find(
        site,
        (&|height| cross(site, s.clearance, &module, height), &free),
        &sizes,
        &s.opens.walls(),
        &module.place,
        (&wanted.fixed(), 0.0),
        &|cross, spot| {
            spot::in_nobodys_way(site, spot) && way_is_free(site, (cross, &free), &s, spot)
        },
    );
    Ok(found.map(|(place, size)| {
        piece.resize(c, s.opens.across(size));
        Module { place, ..module }.with(c)
    }))
}

impl<P: Piece> Kind for P {
    fn name(&self) -> &'static str {
        Piece::name(self)
    }

    fn purpose(&self) -> &'static str {
        Piece::purpose(self)
    }

    fn schema(&self) -> Json {
        schema::<P::Choices>()
    }

    fn check(&self, project: &Project, module: &Module) -> Result<(), Problem> {
        let c: P::Choices = choices(module)?;
        let s = self.stance(&c);
        sheet(project, &s.material, "/choices/material")?;
        within(s.thickness, "/choices/thickness", 6.0, 30.0)?;
        optional(s.clearance, "/choices/clearance", 0.0, 200.0)?;
        // First what the least size hangs on.
        Piece::check(self, &c, project, module.finish)?;
        for (i, field) in ["width", "depth", "height"].iter().enumerate() {
            let over = if i == 2 { self.over(&c) } else { 0.0 };
            let [is, least, most] = [s.size[i], s.least[i], LONGEST].map(|mm| mm - over);
            within(is, &format!("/choices/{field}"), least, most)?;
        }
        Ok(())
    }

    fn amount(&self, module: &Module) -> Amount {
        let c: P::Choices = choices(module).unwrap_or_default();
        Piece::amount(self, &c)
    }

    fn complete(&self, choices: &Map<String, Json>) -> Map<String, Json> {
        let read = from_value::<P::Choices>(Json::Object(choices.clone()));
        let Ok(mut c) = read else {
            return choices.clone();
        };
        self.fill(&mut c);
        match serde_json::to_value(c) {
            Ok(Json::Object(map)) => map,
            _ => choices.clone(),
        }
    }

    fn defaults(&self, site: &Site, wanted: &Wanted) -> Result<Module, Problem> {
        let mut module = wanted.module(Piece::name(self), &P::Choices::default());
        if let Some(words) = self.called().filter(|_| module.name.is_empty()) {
            module.name = words.into();
        }
        let mut c: P::Choices = choices(&module)?;
        let said = |field: &str| wanted.choices.contains_key(field);
        self.suit(&mut c, site, &said);
        loop {
            let placed = place(self, site, wanted, module.clone(), &mut c)?;
            if let Some(module) = placed {
                return Ok(module);
            }
            if !self.less(&mut c, &said) {
                let what = self.called().unwrap_or(Piece::name(self));
                return Err(spot::nowhere(what));
            }
        }
    }

    fn form(&self, module: &Module, site: &Site) -> Vec<Field> {
        let c: P::Choices = choices(module).unwrap_or_default();
        let s = self.stance(&c);
        let f = Form::new(site, &c);
        let (along, against) = f.along(module, site);
        let [width, depth, height] = s.size;
        let mut out = vec![
            f.choice("opens", "Opens", &Opens::WORDS),
            f.length("width", "Width", Some(width))
                .why("square to the way it opens"),
            f.length("depth", "Depth", Some(depth))
                .why("along the way it opens"),
            f.length("height", self.height_of(), Some(height - self.over(&c))),
        ];
        out.extend(along);
        out.push(f.walls(module));
        out.extend(self.fields(&c, &f, site));
        out.extend([
            f.material("material", "Board", &s.material),
            f.length("thickness", "Thickness", Some(s.thickness)),
            f.on(module, site),
            f.beside(module, site),
            against,
            f.place("gap", "Off the wall or well", module.place.gap)
                .why("counted from what it stands beside: the wall, or a wheel well before it"),
            f.length("clearance", "Clearance", s.clearance)
                .empty("from readings"),
            f.finish(module),
        ]);
        out.extend(f.covers(module));
        out
    }

    fn claim(&self, module: &Module, site: &Site) -> Option<Claim> {
        let c: P::Choices = choices(module).ok()?;
        let s = self.stance(&c);
        let mut claim = stands(site, &s, module)?.claim();
        claim.keeps.extend(way(&s, claim.plan.bounds()));
        Some(claim)
    }

    fn work(&self, module: &Module, site: &Site) -> Option<Built> {
        let c: P::Choices = choices(module).ok()?;
        let spot = stands(site, &self.stance(&c), module)?;
        self.built(
            &c,
            &Standing {
                site,
                spot,
                name: module.called(),
                finish: module.finish,
            },
        )
    }
}
