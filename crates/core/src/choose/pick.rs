//! The pick list: every half that is to be fitted, in bench order, and where it comes from: the shelf first, then
//! what another bearing of the engine gives up, then a set that is bought.
use serde::Serialize;

use super::proposed::{ProposedPair, ToBuy};
use crate::engine::Place;
use crate::shells::{ClassPair, Half, OnShelf, ShellFamily};
use crate::units::Length;

/// Where a half comes from.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum PickFrom {
    /// From the shelf.
    Shelf {
        /// The place on it.
        place: String,
    },
    /// Out of another bearing of this engine.
    Engine {
        /// Which.
        station: Place,
    },
    /// Out of a set that has to be bought.
    Set {
        /// Its part number.
        part_number: String,
    },
}

/// One half to fit.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PickLine {
    /// The bearing.
    pub station: Place,
    /// Upper or lower.
    pub half: Half,
    /// Its class.
    pub class: String,
    /// Where it comes from.
    pub from: PickFrom,
}

/// Halves that come out of the engine and are fitted nowhere else.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Freed {
    /// The bearing they come out of.
    pub station: Place,
    /// Upper or lower.
    pub half: Half,
    /// Their class.
    pub class: String,
}

const fn of_pair(pair: &ClassPair, half: Half) -> &String {
    match half {
        Half::Lower => &pair.lower,
        _ => &pair.upper,
    }
}

const SIDES: [Half; 2] = [Half::Upper, Half::Lower];

/// The pick list of a proposal, and what comes out of the engine and stays out.
pub fn pick_list(
    family: &ShellFamily,
    shelf: &[OnShelf],
    undersize: Length,
    places: &[ProposedPair],
    buy: &[ToBuy],
) -> (Vec<PickLine>, Vec<Freed>) {
    let kind = |half: Half| if family.alike { Half::Either } else { half };
    let changed = |half: Half| move |p: &&ProposedPair| of_pair(&p.pair, half) != of_pair(&p.now, half);
    let mut lying: Vec<(Half, &str, &str, u16)> = shelf
        .iter()
        .filter(|s| s.undersize == undersize)
        .map(|s| (s.half, s.class.as_str(), s.place.as_str(), s.count))
        .collect();
    let mut freed: Vec<Freed> = places
        .iter()
        .flat_map(|p| SIDES.into_iter().filter(move |h| changed(*h)(&p)).map(move |h| (p, h)))
        .map(|(p, half)| Freed { station: p.station, half, class: of_pair(&p.now, half).clone() })
        .collect();
    // Every half that is bought, one after the other.
    let mut bought: Vec<(&str, Half, &str, i32)> = Vec::new();
    for b in buy {
        for offer in family.offers.iter().filter(|o| o.part_number == b.part_number) {
            let times = i32::from(b.sets);
            let halves = offer.halves_of(family).into_iter();
            bought.extend(
                halves.map(|(h, n)| (offer.part_number.as_str(), h, offer.class.as_str(), n.saturating_mul(times))),
            );
        }
    }
    let mut lines = Vec::new();
    for p in places {
        for half in SIDES.into_iter().filter(|h| changed(*h)(&p)) {
            let class = of_pair(&p.pair, half);
            let here = lying.iter_mut().find(|(h, c, _, n)| *h == kind(half) && c == class && *n > 0);
            let from = if let Some((_, _, place, count)) = here {
                *count = count.saturating_sub(1);
                PickFrom::Shelf { place: (*place).to_owned() }
            } else if let Some(i) = freed.iter().position(|f| kind(f.half) == kind(half) && f.class == *class) {
                PickFrom::Engine { station: freed.remove(i).station }
            } else {
                let of_it = bought.iter_mut().find(|(_, h, c, n)| *h == kind(half) && c == class && *n > 0);
                let part_number = of_it.map(|(number, _, _, left)| {
                    *left = left.saturating_sub(1);
                    (*number).to_owned()
                });
                PickFrom::Set { part_number: part_number.unwrap_or_default() }
            };
            lines.push(PickLine { station: p.station, half, class: class.clone(), from });
        }
    }
    (lines, freed)
}
