//! The rungs: every underside at which an answer changes.

/// Sitting height over stature, ratio of published adult means, from memory (about 0.52 in the
/// usual anthropometric tables; the contract fixes 0.523).
pub const SITTING_RATIO: f64 = 0.523;
/// Equal heights within this, mm.
const SAME: f64 = 1e-6;

/// Something that stands under the deck.
#[derive(Debug, Clone, PartialEq)]
pub struct Item {
    /// Its name.
    pub name: String,
    /// Height with what belongs on top, mm.
    pub h: f64,
    /// Free height wanted above it, mm.
    pub clearance: f64,
}

/// Somebody who sits on it.
#[derive(Debug, Clone, PartialEq)]
pub struct Sitter {
    /// Identifier.
    pub id: String,
    /// Their name.
    pub name: String,
    /// Seat to crown, mm.
    pub sitting: f64,
}

/// Everything between floor and roof, mm.
#[derive(Debug, Clone, PartialEq)]
pub struct Stack {
    /// Floor to roof.
    pub floor_to_roof: f64,
    /// Height of the floor from which the roof was read, mm over the load floor's datum.
    pub roof_floor: f64,
    /// How far in that is.
    pub roof_at: f64,
    /// Deck thickness.
    pub deck: f64,
    /// Mattress thickness.
    pub mattress: f64,
    /// How far the mattress goes down when sat on.
    pub sag: f64,
    /// Lining to come under the roof.
    pub finish: f64,
    /// Air wanted over a head.
    pub head_clearance: f64,
    /// What stands under the deck.
    pub items: Vec<Item>,
    /// Who sits on it.
    pub sitters: Vec<Sitter>,
    /// Tops of wells, seats and other things that stand in the deck's way: from here on it lies over them.
    pub tops: Vec<(String, f64)>,
}

/// One height and what it means.
#[derive(Debug, Clone, PartialEq)]
pub struct Rung {
    /// Deck underside over the floor, mm.
    pub underside: f64,
    /// Deck top.
    pub deck_top: f64,
    /// Mattress top.
    pub sleep_surface: f64,
    /// Where a sitter's seat comes to.
    pub seat: f64,
    /// From seat to roof lining.
    pub headroom: f64,
    /// Names of what stands under it.
    pub fits: Vec<String>,
    /// Names of who sits up.
    pub sits: Vec<String>,
}

impl Stack {
    /// The rung at `underside`.
    pub fn at(&self, underside: f64) -> Rung {
        let sleep_surface = underside + self.deck + self.mattress;
        let seat = sleep_surface - self.sag;
        let headroom = self.floor_to_roof - self.finish - seat;
        let fits = self.items.iter();
        let sits = self.sitters.iter();
        Rung {
            underside,
            deck_top: underside + self.deck,
            sleep_surface,
            seat,
            headroom,
            fits: fits
                .filter(|i| least_underside(i) <= underside + SAME)
                .map(|i| i.name.clone())
                .collect(),
            sits: sits
                .filter(|s| underside <= self.greatest_underside(s) + SAME)
                .map(|s| s.name.clone())
                .collect(),
        }
    }

    /// The greatest underside at which `sitter` still sits up.
    pub fn greatest_underside(&self, sitter: &Sitter) -> f64 {
        self.floor_to_roof - self.finish - self.head_clearance - sitter.sitting + self.sag
            - self.mattress
            - self.deck
    }

    /// The rungs from the lowest to the highest within floor and roof.
    pub fn rungs(&self) -> Vec<Rung> {
        let items = self.items.iter().map(least_underside);
        let sitters = self.sitters.iter().map(|s| self.greatest_underside(s));
        let tops = self.tops.iter().map(|t| t.1);
        let mut heights: Vec<f64> = items
            .chain(sitters)
            .chain(tops)
            .filter(|u| *u >= 0.0 && *u <= self.floor_to_roof)
            .collect();
        heights.sort_by(f64::total_cmp);
        heights.dedup_by(|a, b| (*a - *b).abs() <= SAME);
        heights.into_iter().map(|u| self.at(u)).collect()
    }
}

/// The least underside under which `item` stands.
pub fn least_underside(item: &Item) -> f64 {
    item.h + item.clearance
}
