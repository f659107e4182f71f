//! What a deck is as a platform: its choices as facts, and where they are.

use super::supports::rail;
use crate::furniture::platform::{self, Dial, Dials, Hatch, Platform, Slats, Stands, Surface};
use crate::input::escape;
use crate::project::Project;
use crate::project::deck::{Change, Deck, Hatches, Leaf, Manner, Rest, Top};

/// What is lain on.
pub(super) fn surface(deck: &Deck) -> Surface {
    let slats = Slats {
        width: deck.slat_width,
        gap: deck.slat_gap,
    };
    Surface {
        material: deck.material.clone(),
        thickness: deck.thickness,
        slats: (deck.top == Top::Slats).then_some(slats),
        limits: deck.limits.clone(),
    }
}

/// The deck as a platform.
pub(super) fn platform(project: &Project, id: &str, deck: &Deck) -> Platform {
    let supports = &deck.supports;
    let edge = deck.rest == Rest::Edge && deck.change == Change::Fixed;
    let half = edge && supports.manner != Manner::Ledgers;
    let field = |f: &str| format!("/modules/{}/choices/{f}", escape(id));
    let mut dials = vec![
        (Dial::Underside, "underside"),
        (Dial::From, "from"),
        (Dial::To, "to"),
        (Dial::Thickness, "thickness"),
        (Dial::Top, "top"),
        (Dial::Clearance, "clearance"),
        (Dial::Lines, "supports/lines"),
        (Dial::Manner, "supports/manner"),
        (Dial::Hatches, "hatches"),
        (Dial::Split, "split"),
        (Dial::Rest, "rest"),
    ];
    // Bars are as thick as they are sold.
    let sheets = project.material(&supports.material);
    if sheets.is_some_and(|m| m.bar.is_none()) {
        dials.push((Dial::Supports, "supports/thickness"));
    }
    // A leaf hangs on a front board that stays.
    let stays = matches!(deck.change, Change::Fixed | Change::Lift);
    if stays && deck.top == Top::Solid {
        dials.extend([(Dial::Leaf, "leaf"), (Dial::LeafLength, "leaf_length")]);
    }
    Platform {
        name: deck.name.clone(),
        underside: deck.underside,
        surface: surface(deck),
        finish: deck.finish,
        stands: Stands {
            manner: supports.manner,
            material: supports.material.clone(),
            thickness: supports.thickness,
            deep: rail(project, deck),
        },
        hatch: Hatch {
            wanted: deck.hatches != Hatches::None,
            size: (deck.hatch_length, deck.hatch_width),
            placed: match deck.hatches {
                Hatches::Placed => {
                    let all = deck.hatch_places.values();
                    all.map(|h| (h.length, h.width)).collect()
                }
                Hatches::None | Hatches::Bays => vec![],
            },
        },
        rest: half.then_some(supports.thickness / 2.0),
        leaf: (deck.leaf != Leaf::None).then_some(platform::Leaf {
            long: deck.leaf_length,
            seats: if deck.leaf == Leaf::Both { 2 } else { 1 },
        }),
        dials: Dials(dials.into_iter().map(|(d, f)| (d, field(f))).collect()),
    }
}
