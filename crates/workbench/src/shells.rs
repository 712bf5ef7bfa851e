//! The shells the shop keeps: families, what lies on the shelf, and sets to buy. All invented.
use jagged_pin_core::engine::BearingRow;
use jagged_pin_core::shells::{Half, Offer, OnShelf, ShellClass, ShellFamily, ShellTrait, Suffix, SuffixMeaning};
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
fn part_number(family: &str, letters: &str, class: &ShellClass, undersize: Length) -> String {
    format!("{family}{letters}{}{:02}", class_letters(class), undersize.nm() / 10_000)
}

/// Letters of a class: half a step has two of them.
fn class_letters(class: &ShellClass) -> &'static str {
    let half = class.id.ends_with("1/2");
    match (class.shift.nm(), half) {
        (0, _) => "S",
        (shift, false) if shift < 0 => "K",
        (shift, true) if shift < 0 => "KH",
        (_, false) => "N",
        (_, true) => "NH",
    }
}

/// What sets a family apart: short name, name, engine, row, letters in its numbers, what the engine needs, and
/// whether it comes in half steps.
struct Known {
    id: &'static str,
    name: &'static str,
    engine: &'static str,
    row: BearingRow,
    letters: &'static str,
    needs: &'static [ShellTrait],
    halves: bool,
}

fn family(k: &Known) -> Option<ShellFamily> {
    let Known { id, name, engine, row, .. } = *k;
    let known = patterns();
    let pattern = known.iter().find(|p| p.id == engine)?;
    let nominals = pattern.layout.nominals(row)?;
    let mains = row == BearingRow::Mains;
    let pairs = if mains { u16::from(pattern.layout.mains) } else { 6 };
    let class = |(id, halves): (&str, i64)| {
        let step = step(pattern.unit).nm();
        ShellClass { id: id.into(), shift: Length::from_nm(halves * step / 2) }
    };
    let classes: Vec<ShellClass> = if k.halves {
        [("-1", -2), ("-1/2", -1), ("std", 0), ("+1/2", 1), ("+1", 2)].map(class).to_vec()
    } else {
        [("-1", -2), ("std", 0), ("+1", 2)].map(class).to_vec()
    };
    // Shells in half steps are graded by hand, and cost half as much again.
    let dear = if k.halves { 3 } else { 2 };
    let offer = |(undersize, class): (Length, &ShellClass)| Offer {
        part_number: part_number(id, k.letters, class, undersize),
        class: class.id.clone(),
        undersize,
        pairs,
        price: PAIR[usize::from(!mains)] * i64::from(pairs) * dear / 2,
        only: None,
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
        grading: Length::from_nm(step(pattern.unit).nm() * 3 / 100),
        // Uppers of mains are grooved; a rod's halves are one part.
        alike: !mains,
        coating: Length::from_nm(-step(pattern.unit).nm() / 2),
        needs: k.needs.to_vec(),
        base: id.into(),
        suffixes: suffixes(&classes, &nominals.undersizes),
        undersizes: nominals.undersizes.clone(),
        offers,
        classes,
    })
}

/// What the letters of the shop's part numbers mean.
fn suffixes(classes: &[ShellClass], undersizes: &[Length]) -> Vec<Suffix> {
    let class = |c: &ShellClass| (class_letters(c).to_owned(), SuffixMeaning::Class { id: c.id.clone() });
    let under = |u: &Length| (format!("{:02}", u.nm() / 10_000), SuffixMeaning::Undersize { undersize: *u });
    let plain = [
        ("F", SuffixMeaning::Narrowed),
        ("P", SuffixMeaning::Dowel),
        ("G", SuffixMeaning::Grooved),
        ("C", SuffixMeaning::Coated),
        ("T", SuffixMeaning::Material { name: "tri-metal".into() }),
        ("B", SuffixMeaning::Material { name: "bi-metal".into() }),
    ];
    let plain = plain.into_iter().map(|(letters, means)| (letters.to_owned(), means));
    let all = classes.iter().map(class).chain(undersizes.iter().map(under)).chain(plain);
    all.map(|(letters, means)| Suffix { letters, means }).collect()
}

/// The families of the shop.
pub fn families() -> Vec<ShellFamily> {
    use BearingRow::{Mains, Rods};
    use ShellTrait::{Dowel, Grooved, Narrowed};
    let known = |id, name, engine, row| Known { id, name, engine, row, letters: "", needs: &[], halves: false };
    let all = [
        Known { letters: "G", needs: &[Grooved], ..known("CM", "Curlew mains", "curlew-24", Mains) },
        Known {
            letters: "G",
            needs: &[Grooved],
            halves: true,
            ..known("CX", "Curlew mains in half steps", "curlew-24", Mains)
        },
        Known { letters: "F", needs: &[Narrowed], ..known("CR", "Curlew rods", "curlew-24", Rods) },
        Known { letters: "CP", needs: &[Dowel], ..known("DM", "Dunlin mains, coated", "dunlin-16", Mains) },
        Known { letters: "G", needs: &[Grooved], ..known("WM", "Whimbrel mains", "whimbrel-31", Mains) },
    ];
    all.iter().filter_map(family).collect()
}

/// What lies on the shelf, by family.
pub fn shelf() -> Vec<(&'static str, OnShelf)> {
    let on = |family, half, class: &str, count, place: &str| {
        (family, OnShelf { half, class: class.into(), undersize: Length::ZERO, count, place: place.into() })
    };
    vec![
        on("CM", Half::Upper, "std", 4, "A1"),
        on("CM", Half::Lower, "std", 4, "A2"),
        on("CM", Half::Upper, "+1", 0, "A3"),
        on("CM", Half::Lower, "+1", 1, "A4"),
        on("CM", Half::Upper, "-1", 1, "A5"),
        on("CM", Half::Lower, "-1", 0, "A6"),
        on("CX", Half::Upper, "std", 7, "A7"),
        on("CX", Half::Lower, "std", 7, "A8"),
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
        assert_eq!(families.len(), 5);
        assert!(families.iter().all(ShellFamily::is_sound), "{families:?}");
        for (family, on) in shelf() {
            let known = families.iter().find(|f| f.id == family);
            assert!(known.is_some_and(|f| f.has(on.half, &on.class, on.undersize)), "{family} {on:?}");
        }
    }
}
