//! The shells the shop keeps: families, what lies on the shelf, and sets to buy. All invented.

use jagged_pin_core::shell::{Half, Offer, OnShelf, ShellClass, ShellFamily};
use jagged_pin_core::station::BearingRow;
use jagged_pin_core::{Length, Unit};

use crate::engines::patterns;

/// A class step: what a pair of the next class adds.
fn step(unit: Unit) -> Length {
    match unit {
        Unit::Inch => Length::tenths(10),
        Unit::Mm => Length::microns(20),
    }
}

/// Shop prices of a pair of mains and of rods, in ten-thousandths.
const PAIR: [i64; 2] = [214_000, 168_000];

/// The shop's numbers: the family, K for a thick class and N for a thin one, and the undersize in
/// hundredths of a millimetre.
fn part_number(family: &str, class: &ShellClass, undersize: Length) -> String {
    let letter = match class.shift.nm() {
        0 => "S",
        shift if shift < 0 => "K",
        _ => "N",
    };
    format!("{family}{letter}{:02}", undersize.nm() / 10_000)
}

fn family(id: &str, name: &str, engine: &str, row: BearingRow) -> Option<ShellFamily> {
    let known = patterns();
    let pattern = known.iter().find(|p| p.id == engine)?;
    let nominals = pattern.layout.nominals(row)?;
    let mains = row == BearingRow::Mains;
    let pairs = if mains { u16::from(pattern.layout.mains) } else { 6 };
    let class = |(id, steps): (&str, i64)| {
        let step = step(pattern.unit).nm();
        ShellClass { id: id.into(), shift: Length::from_nm(steps * step) }
    };
    let classes: Vec<ShellClass> = [("-1", -1), ("std", 0), ("+1", 1)].map(class).to_vec();
    let offer = |(undersize, class): (Length, &ShellClass)| Offer {
        part_number: part_number(id, class, undersize),
        class: class.id.clone(),
        undersize,
        pairs,
        price: PAIR[usize::from(!mains)] * i64::from(pairs),
    };
    let offers = nominals.undersizes.iter().flat_map(|u| classes.iter().map(|c| (*u, c))).map(offer).collect();
    Some(ShellFamily {
        id: id.into(),
        name: name.into(),
        unit: pattern.unit,
        row,
        journal: pattern.layout.journal(row),
        housing: nominals.housing,
        wall: nominals.wall,
        wall_tolerance: nominals.wall_tolerance,
        grading: Length::from_nm(step(pattern.unit).nm() / 20),
        // Uppers of mains are grooved; a rod's halves are one part.
        alike: !mains,
        undersizes: nominals.undersizes.clone(),
        offers,
        classes,
    })
}

/// The families of the shop.
pub fn families() -> Vec<ShellFamily> {
    let known = [
        ("CM", "Curlew mains", "curlew-24", BearingRow::Mains),
        ("CR", "Curlew rods", "curlew-24", BearingRow::Rods),
        ("DM", "Dunlin mains, coated", "dunlin-16", BearingRow::Mains),
        ("WM", "Whimbrel mains", "whimbrel-31", BearingRow::Mains),
    ];
    known.into_iter().filter_map(|(id, name, engine, row)| family(id, name, engine, row)).collect()
}

/// What lies on the shelf, by family.
pub fn shelf() -> Vec<(&'static str, OnShelf)> {
    let on = |family, half, class: &str, count, place: &str| {
        (family, OnShelf { half, class: class.into(), undersize: Length::ZERO, count, place: place.into() })
    };
    vec![
        on("CM", Half::Upper, "std", 4, "A1"),
        on("CM", Half::Lower, "std", 4, "A2"),
        on("CM", Half::Upper, "+1", 1, "A3"),
        on("CM", Half::Lower, "+1", 2, "A4"),
        on("CM", Half::Upper, "-1", 1, "A5"),
        on("CM", Half::Lower, "-1", 0, "A6"),
        on("CR", Half::Either, "std", 6, "B1"),
        on("CR", Half::Either, "+1", 2, "B2"),
        on("CR", Half::Either, "-1", 3, "B3"),
        on("DM", Half::Upper, "std", 2, "C1"),
        on("DM", Half::Lower, "std", 2, "C2"),
        on("WM", Half::Upper, "std", 0, "D1"),
        on("WM", Half::Lower, "std", 0, "D2"),
    ]
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_family_is_sound_and_every_shelf_belongs_to_one() {
        let families = families();
        assert_eq!(families.len(), 4);
        assert!(families.iter().all(ShellFamily::is_sound), "{families:?}");
        for (family, on) in shelf() {
            let known = families.iter().find(|f| f.id == family);
            assert!(known.is_some_and(|f| f.has(on.half, &on.class, on.undersize)), "{family} {on:?}");
        }
    }
}
