//! Shell families: what a shop knows about the shells it buys and keeps.
//!
//! A family goes round one journal in one housing. Its halves come in size classes, each with the change of
//! clearance it makes when both halves of a pair are of it, and in undersizes for reground journals. Grooved
//! uppers differ from plain lowers; rod shells are often one part for both.
use jagged_pin_search::by_class::{Halves, ShellSet};
use serde::{Deserialize, Serialize};

use super::marking::{ShellTrait, Suffix};
use crate::engine::BearingRow;
use crate::units::{Length, Unit};

/// A size class.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShellClass {
    /// How the shop calls it, such as `+1`.
    pub id: String,
    /// What a pair of it adds to the clearance of a standard pair; a thicker class takes some away.
    pub shift: Length,
}

/// One half of a pair.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Half {
    /// In the block or the rod, grooved on mains.
    Upper,
    /// In the cap.
    Lower,
    /// Either: the family's halves are one part.
    Either,
}

/// A set or a box that can be bought: so many pairs of one class, or so many uppers or lowers alone.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Offer {
    /// Its part number.
    pub part_number: String,
    /// The class of its halves.
    pub class: String,
    /// Their undersize; zero for standard.
    pub undersize: Length,
    /// Pairs in it, or halves where it holds one side only.
    pub pairs: u16,
    /// Price in ten-thousandths of the money.
    pub price: i64,
    /// The one half that is in it; absent where it holds whole pairs.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub only: Option<Half>,
}

impl Offer {
    /// The halves of it that go on the shelf of a family, each with how many.
    pub fn halves_of(&self, family: &ShellFamily) -> Vec<(Half, i32)> {
        let pairs = i32::from(self.pairs);
        match (self.only, family.alike) {
            (None, true) => vec![(Half::Either, pairs.saturating_mul(2))],
            (None, false) => vec![(Half::Upper, pairs), (Half::Lower, pairs)],
            (Some(half), _) => vec![(half, pairs)],
        }
    }
}

/// A family of shells.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShellFamily {
    /// Stable short name.
    pub id: String,
    /// Name people read.
    pub name: String,
    /// Unit its sizes are spoken of in.
    pub unit: Unit,
    /// The bearings it is for.
    pub row: BearingRow,
    /// Nominal journal.
    pub journal: Length,
    /// Nominal housing.
    pub housing: Length,
    /// Catalogue maximum of a standard wall, and how much less it may be.
    pub wall: Length,
    /// See the wall.
    pub wall_tolerance: Length,
    /// How far a half may lie from its class to either side: halves of one family are graded closer to each
    /// other than the catalogue says of their walls.
    pub grading: Length,
    /// Whether upper and lower are one part.
    pub alike: bool,
    /// Classes, the one with the smallest clearance first; one of them has no shift.
    pub classes: Vec<ShellClass>,
    /// Undersizes it is made for, standard (0) first.
    pub undersizes: Vec<Length>,
    /// Sets to buy.
    pub offers: Vec<Offer>,
    /// What a coating on both halves changes of the clearance, such as -0.0005 in; zero where it comes uncoated.
    #[serde(default)]
    pub coating: Length,
    /// What the engine needs of every half: a dowel hole, narrowed edges.
    #[serde(default)]
    pub needs: Vec<ShellTrait>,
    /// How its part numbers begin.
    #[serde(default)]
    pub base: String,
    /// What the letters of its part numbers mean.
    #[serde(default)]
    pub suffixes: Vec<Suffix>,
}

/// Halves of one kind on the shelf.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OnShelf {
    /// Which half.
    pub half: Half,
    /// Which class.
    pub class: String,
    /// Which undersize.
    pub undersize: Length,
    /// How many.
    pub count: u16,
    /// Where they lie.
    pub place: String,
}

/// What is done to a shelf.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum MoveKind {
    /// Halves came in.
    Received,
    /// Halves were taken for an engine.
    Picked,
    /// Halves came out of an engine, fit to be used again.
    Returned,
    /// The count was wrong.
    Corrected,
}

impl MoveKind {
    /// Whether a change by so many halves is of that kind.
    pub const fn goes(self, by: i32) -> bool {
        match self {
            MoveKind::Received | MoveKind::Returned => by > 0,
            MoveKind::Picked => by < 0,
            MoveKind::Corrected => by != 0,
        }
    }
}

impl ShellFamily {
    /// Place of a class among the classes.
    pub fn class(&self, id: &str) -> Option<usize> {
        self.classes.iter().position(|c| c.id == id)
    }

    /// The smallest step between a class and the standard one: what a shop mixes at most.
    pub fn step(&self) -> Length {
        let steps = self.classes.iter().map(|c| c.shift.nm().abs()).filter(|s| *s > 0);
        Length::from_nm(steps.min().unwrap_or(0))
    }

    /// What a pair of two classes adds to the clearance of a standard pair.
    pub fn pair_shift(&self, upper: &str, lower: &str) -> Option<Length> {
        let shift = |id| self.class(id).and_then(|i| self.classes.get(i)).map(|c| c.shift);
        Length::mean(&[shift(upper)?, shift(lower)?])
    }

    /// The standard class.
    pub fn standard(&self) -> Option<&ShellClass> {
        self.classes.iter().find(|c| c.shift == Length::ZERO)
    }

    /// The halves it has: upper and lower, or either.
    pub fn halves(&self) -> &'static [Half] {
        if self.alike { &[Half::Either] } else { &[Half::Upper, Half::Lower] }
    }

    /// Whether a half of it exists: of a class and an undersize it has.
    pub fn has(&self, half: Half, class: &str, undersize: Length) -> bool {
        self.halves().contains(&half) && self.class(class).is_some() && self.undersizes.contains(&undersize)
    }

    /// Whether it makes sense.
    pub fn is_sound(&self) -> bool {
        let named = |text: &str| !text.trim().is_empty() && text.len() <= 60;
        let classes_differ = (1..self.classes.len())
            .all(|i| self.classes[..i].iter().all(|c| c.id != self.classes[i].id && c.shift != self.classes[i].shift));
        let around = self.journal + self.wall + self.wall;
        let goes_round = self.journal > Length::ZERO
            && self.wall > self.wall_tolerance
            && self.wall_tolerance >= Length::ZERO
            && self.grading >= Length::ZERO
            && around <= self.housing + self.wall_tolerance + self.wall_tolerance
            && self.housing < Length::LIMIT;
        let offered = |o: &Offer| {
            let halves = o.only.is_none_or(|half| self.halves().contains(&half));
            let there = halves && self.has(self.halves()[0], &o.class, o.undersize);
            named(&o.part_number) && o.pairs > 0 && o.price >= 0 && there
        };
        named(&self.id)
            && named(&self.name)
            && goes_round
            && classes_differ
            && self.standard().is_some()
            && self.classes.iter().all(|c| named(&c.id))
            && self.undersizes.first() == Some(&Length::ZERO)
            && self.offers.iter().all(offered)
            && self.coating.abs() < self.wall
            && self.base.len() <= 20
            && self.suffixes.iter().all(Suffix::is_sound)
    }

    /// The halves on a shelf, of one undersize, by class.
    pub fn counted(&self, shelf: &[OnShelf], undersize: Length) -> Halves {
        let of = |half: Half| -> Vec<u16> {
            let count = |class: &ShellClass| {
                let here = shelf.iter().filter(|s| (s.half, s.undersize) == (half, undersize) && s.class == class.id);
                here.fold(0_u16, |sum, s| sum.saturating_add(s.count))
            };
            self.classes.iter().map(count).collect()
        };
        if self.alike {
            Halves::Alike(of(Half::Either))
        } else {
            Halves::Apart { upper: of(Half::Upper), lower: of(Half::Lower) }
        }
    }

    /// The sets that can be bought in one undersize, with their offers.
    pub fn sets(&self, undersize: Length) -> Vec<(&Offer, ShellSet)> {
        let set = |o: &Offer| {
            let pairs = |class: &ShellClass| if class.id == o.class { o.pairs } else { 0 };
            let each: Vec<u16> = self.classes.iter().map(pairs).collect();
            let none = vec![0; each.len()];
            let holds = match (self.alike, o.only) {
                (true, None) => Halves::Alike(each.iter().map(|n| n.saturating_mul(2)).collect()),
                (true, Some(_)) => Halves::Alike(each),
                (false, None) => Halves::Apart { upper: each.clone(), lower: each },
                (false, Some(Half::Lower)) => Halves::Apart { upper: none, lower: each },
                (false, Some(_)) => Halves::Apart { upper: each, lower: none },
            };
            ShellSet { price: o.price, holds, available: None }
        };
        self.offers.iter().filter(|o| o.undersize == undersize).map(|o| (o, set(o))).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn family(alike: bool) -> ShellFamily {
        let t = Length::tenths;
        let class = |(id, shift): (&str, i64)| ShellClass { id: id.into(), shift: t(shift) };
        ShellFamily {
            id: "curlew-mains".into(),
            name: "Curlew mains".into(),
            unit: Unit::Inch,
            row: BearingRow::Mains,
            journal: t(26_240),
            housing: t(28_150),
            wall: t(943),
            wall_tolerance: t(3),
            grading: Length::from_nm(1_270),
            alike,
            classes: [("-1", -10), ("std", 0), ("+1", 10)].map(class).to_vec(),
            undersizes: vec![t(0), t(100)],
            offers: vec![Offer {
                part_number: "M-STD".into(),
                class: "std".into(),
                undersize: t(0),
                pairs: 7,
                price: 1_480_000,
                only: None,
            }],
            coating: Length::ZERO,
            needs: Vec::new(),
            base: String::new(),
            suffixes: Vec::new(),
        }
    }

    #[test]
    fn a_family_without_a_standard_class_or_with_one_twice_makes_no_sense() {
        assert!(family(false).is_sound());
        let changed = |change: fn(&mut ShellFamily)| {
            let mut f = family(false);
            change(&mut f);
            f.is_sound()
        };
        assert!(!changed(|f| f.classes[1].shift = Length::tenths(5)));
        assert!(!changed(|f| f.classes[2].id = "-1".into()));
        assert!(!changed(|f| f.wall = Length::tenths(1_943)));
        assert!(!changed(|f| f.offers[0].class = "+9".into()));
        assert!(!changed(|f| f.undersizes.clear()));
        assert_eq!(family(false).step(), Length::tenths(10));
    }

    #[test]
    fn the_shelf_is_counted_by_class_for_one_undersize() {
        let on = |half, class: &str, undersize, count| OnShelf {
            half,
            class: class.into(),
            undersize: Length::tenths(undersize),
            count,
            place: String::new(),
        };
        let shelf = [on(Half::Upper, "+1", 0, 3), on(Half::Lower, "std", 0, 7), on(Half::Upper, "std", 100, 2)];
        let counted = family(false).counted(&shelf, Length::ZERO);
        assert_eq!(counted, Halves::Apart { upper: vec![0, 0, 3], lower: vec![0, 7, 0] });
        let either = [on(Half::Either, "std", 0, 5)];
        assert_eq!(family(true).counted(&either, Length::ZERO), Halves::Alike(vec![0, 5, 0]));
        // A set of seven pairs holds fourteen halves that serve as either.
        let rods = family(true);
        let sets = rods.sets(Length::ZERO);
        assert_eq!(sets[0].1.holds, Halves::Alike(vec![0, 14, 0]));
        assert!(family(true).sets(Length::tenths(100)).is_empty());
        // A box of lowers alone holds no upper.
        let mut mains = family(false);
        mains.offers[0].only = Some(Half::Lower);
        assert!(mains.is_sound());
        assert_eq!(mains.sets(Length::ZERO)[0].1.holds, Halves::Apart { upper: vec![0; 3], lower: vec![0, 7, 0] });
        assert_eq!(mains.offers[0].halves_of(&mains), [(Half::Lower, 7)]);
        mains.offers[0].only = Some(Half::Either);
        assert!(!mains.is_sound(), "its halves are not alike");
    }
}
