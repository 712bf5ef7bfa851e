//! Where on an engine something is: kinds of place, the places of each kind, and the groups that deeds are done to.
//!
//! A kind of place is one row of [`PLACE_KINDS`]: its letter, how many an engine has, which bearing row it belongs to and
//! what carries its journal. Mains `M1`, `M2`, ... and pins `P1`, `P2`, ... are counted along the crank from the front,
//! rods `R1`, `R2`, ... along the pins, so that with two rods to a pin `R3` and `R4` run on `P2`, whose sides are
//! `S2`. Journals of the cam are `C1`, `C2`, ... from the front. Fillets of mains and pins are `FM1`, ... and `FP1`, ...,
//! cylinders `B1`, ... and the wrist pins that run in them `W1`, ..., deck and head face of each bank `D1`, ... and `H1`, ...,
//! the nose of the crank `K1` and its flange `K2`. The thrust is `E`, that of the cam `CE`, the oil pump `OP`: an engine has
//! one of each, so that they have no number.
use std::fmt;
use std::str::FromStr;

use serde::{Deserialize, Serialize};
use thiserror::Error;

use super::catalog::Characteristic;
use super::characteristic::Role;
use super::layout::Layout;
use super::place::{BearingRow, Place, PlaceKind};

/// What is known about a kind of place.
#[derive(Debug)]
pub struct PlaceKindRow {
    /// The kind.
    pub kind: PlaceKind,
    /// The letter its places are written with.
    pub letter: &'static str,
    /// Whether they are numbered: an engine has many of them.
    pub numbered: bool,
    /// All of them together, as a deed names them.
    pub plural: &'static str,
    /// How many an engine has.
    pub count: fn(&Layout) -> usize,
    /// The row of bearings it belongs to.
    pub row: BearingRow,
    /// Whether it is a bearing: something with a housing that a journal runs in.
    pub bearing: bool,
    /// Where the journal of its bearing is, by the number of the bearing; itself for a main.
    pub journal: fn(&Layout, u8) -> Place,
    /// The first bearing on it, by its number; itself where it is a bearing.
    pub first_bearing: fn(&Layout, u8) -> Place,
}

/// The kinds of place, in the order of the work.
pub const PLACE_KINDS: [PlaceKindRow; 15] = [
    PlaceKindRow {
        kind: PlaceKind::Main,
        letter: "M",
        numbered: true,
        plural: "mains",
        count: |layout| usize::from(layout.mains),
        row: BearingRow::Mains,
        bearing: true,
        journal: |_, n| Place::main(n),
        first_bearing: |_, n| Place::main(n),
    },
    PlaceKindRow {
        kind: PlaceKind::Pin,
        letter: "P",
        numbered: true,
        plural: "pins",
        // Pins are places of their own only where rods are built.
        count: |layout| if layout.rods.is_some() { layout.pins() } else { 0 },
        row: BearingRow::Rods,
        bearing: false,
        journal: |_, n| Place::pin(n),
        first_bearing: |layout, n| {
            Place::rod(n.max(1).saturating_sub(1).saturating_mul(layout.rods_per_pin()).saturating_add(1))
        },
    },
    PlaceKindRow {
        kind: PlaceKind::Rod,
        letter: "R",
        numbered: true,
        plural: "rods",
        count: Layout::rod_count,
        row: BearingRow::Rods,
        bearing: true,
        journal: |layout, n| Place::pin((n.max(1).saturating_sub(1) / layout.rods_per_pin()).saturating_add(1)),
        first_bearing: |_, n| Place::rod(n),
    },
    PlaceKindRow {
        kind: PlaceKind::Thrust,
        letter: "E",
        numbered: false,
        plural: "thrust",
        count: |_| 1,
        row: BearingRow::Mains,
        bearing: false,
        journal: |layout, _| layout.thrust,
        first_bearing: |layout, _| layout.thrust,
    },
    PlaceKindRow {
        kind: PlaceKind::Side,
        letter: "S",
        numbered: true,
        plural: "rod sides",
        count: |layout| if layout.rods.is_some() { layout.pins() } else { 0 },
        row: BearingRow::Rods,
        bearing: false,
        journal: |_, n| Place::pin(n),
        first_bearing: |layout, n| layout.bearing_on(Place::pin(n)),
    },
    PlaceKindRow {
        kind: PlaceKind::Cam,
        letter: "C",
        numbered: true,
        plural: "cam journals",
        count: |layout| layout.cam.as_ref().map_or(0, |cam| cam.journals.len()),
        row: BearingRow::Mains,
        bearing: false,
        journal: |_, n| Place::cam(n),
        first_bearing: |_, n| Place::cam(n),
    },
    PlaceKindRow {
        kind: PlaceKind::CamThrust,
        letter: "CE",
        numbered: false,
        plural: "cam thrust",
        count: |layout| usize::from(layout.cam.is_some()),
        row: BearingRow::Mains,
        bearing: false,
        journal: |_, _| Place::CAM_THRUST,
        first_bearing: |_, _| Place::CAM_THRUST,
    },
    PlaceKindRow {
        kind: PlaceKind::MainFillet,
        letter: "FM",
        numbered: true,
        plural: "main fillets",
        count: |layout| usize::from(layout.mains),
        row: BearingRow::Mains,
        bearing: false,
        journal: |_, n| Place::main(n),
        first_bearing: |_, n| Place::main(n),
    },
    PlaceKindRow {
        kind: PlaceKind::PinFillet,
        letter: "FP",
        numbered: true,
        plural: "pin fillets",
        count: |layout| if layout.rods.is_some() { layout.pins() } else { 0 },
        row: BearingRow::Rods,
        bearing: false,
        journal: |_, n| Place::pin(n),
        first_bearing: |layout, n| layout.bearing_on(Place::pin(n)),
    },
    PlaceKindRow {
        kind: PlaceKind::WristPin,
        letter: "W",
        numbered: true,
        plural: "wrist pins",
        count: Layout::cylinder_count,
        row: BearingRow::Rods,
        bearing: false,
        // A wrist pin runs in the small end of its rod.
        journal: |layout, n| if layout.rods.is_some() { Place::rod(n) } else { Place::wrist_pin(n) },
        first_bearing: |layout, n| if layout.rods.is_some() { Place::rod(n) } else { Place::wrist_pin(n) },
    },
    PlaceKindRow {
        kind: PlaceKind::Cylinder,
        letter: "B",
        numbered: true,
        plural: "cylinders",
        count: Layout::cylinder_count,
        row: BearingRow::Rods,
        bearing: false,
        // The piston of a cylinder is the one on its wrist pin.
        journal: |_, n| Place::wrist_pin(n),
        first_bearing: |_, n| Place::cylinder(n),
    },
    PlaceKindRow {
        kind: PlaceKind::Deck,
        letter: "D",
        numbered: true,
        plural: "decks",
        count: Layout::banks,
        row: BearingRow::Mains,
        bearing: false,
        journal: |_, n| Place::new(PlaceKind::Deck, n),
        first_bearing: |_, n| Place::new(PlaceKind::Deck, n),
    },
    PlaceKindRow {
        kind: PlaceKind::Head,
        letter: "H",
        numbered: true,
        plural: "head faces",
        count: Layout::banks,
        row: BearingRow::Mains,
        bearing: false,
        journal: |_, n| Place::new(PlaceKind::Head, n),
        first_bearing: |_, n| Place::new(PlaceKind::Head, n),
    },
    PlaceKindRow {
        kind: PlaceKind::CrankEnd,
        letter: "K",
        numbered: true,
        plural: "ends of the crank",
        count: |_| 2,
        row: BearingRow::Mains,
        bearing: false,
        journal: |_, n| Place::new(PlaceKind::CrankEnd, n),
        first_bearing: |_, n| Place::new(PlaceKind::CrankEnd, n),
    },
    PlaceKindRow {
        kind: PlaceKind::OilPump,
        letter: "OP",
        numbered: false,
        plural: "oil pump",
        // What runs on rollers is oiled by its fuel or by splash.
        count: |layout| usize::from(!layout.rollers),
        row: BearingRow::Mains,
        bearing: false,
        journal: |_, _| Place::OIL_PUMP,
        first_bearing: |_, _| Place::OIL_PUMP,
    },
];

impl PlaceKind {
    /// What is known about it.
    pub fn row(self) -> &'static PlaceKindRow {
        // The rows stand in the order of the kinds: a test holds every one of them against its kind.
        PLACE_KINDS.get(self as usize).unwrap_or(&PLACE_KINDS[0])
    }
}

impl Place {
    /// The row of bearings it belongs to; a pin carries rods.
    pub fn row(self) -> BearingRow {
        self.kind().row().row
    }

    /// Whether it is a bearing: a main or a big end, not a pin.
    pub fn is_bearing(self) -> bool {
        self.kind().row().bearing
    }
}

impl fmt::Display for Place {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let row = self.kind().row();
        f.write_str(row.letter)?;
        if row.numbered { write!(f, "{}", self.number()) } else { Ok(()) }
    }
}

/// A text that names no place, or no group of places.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error(
    "\"{0}\" is no place: mains are M1, M2, ..., pins P1, ..., rods R1, ..., their sides S1, ..., cam journals C1, ..., fillets FM1, ... and FP1, ..., wrist pins W1, ..., cylinders B1, ..., decks D1, ..., head faces H1, ..., nose and flange of the crank K1 and K2, the thrust is E, that of the cam CE, the oil pump OP"
)]
pub struct NoSuchName(String);

impl FromStr for Place {
    type Err = NoSuchName;

    fn from_str(text: &str) -> Result<Self, NoSuchName> {
        let upper = text.to_ascii_uppercase();
        let of_kind = |row: &PlaceKindRow| {
            let rest = upper.strip_prefix(row.letter)?;
            if !row.numbered {
                return rest.is_empty().then_some(Place::new(row.kind, 1));
            }
            let number = rest.parse().ok().filter(|n| *n > 0)?;
            Some(Place::new(row.kind, number))
        };
        PLACE_KINDS.iter().find_map(of_kind).ok_or_else(|| NoSuchName(text.to_owned()))
    }
}

impl TryFrom<String> for Place {
    type Error = NoSuchName;
    fn try_from(text: String) -> Result<Self, NoSuchName> {
        text.parse()
    }
}

impl From<Place> for String {
    fn from(place: Place) -> String {
        place.to_string()
    }
}

impl BearingRow {
    /// Its bearings as the scope of a deed.
    pub const fn scope(self) -> Scope {
        match self {
            BearingRow::Mains => Scope::Mains,
            BearingRow::Rods => Scope::Rods,
        }
    }
}

impl Layout {
    /// Number of places of a kind.
    pub fn count(&self, kind: PlaceKind) -> usize {
        (kind.row().count)(self)
    }

    /// The places of a kind, from the front.
    pub fn of_kind(&self, kind: PlaceKind) -> impl Iterator<Item = Place> + use<> {
        let last = u8::try_from(self.count(kind)).unwrap_or(u8::MAX);
        (1..=last).map(move |n| Place::new(kind, n))
    }

    /// The bearings of a row, from the front.
    pub fn bearings(&self, row: BearingRow) -> impl Iterator<Item = Place> + use<> {
        let kinds = PLACE_KINDS.iter().filter(move |k| k.bearing && k.row == row);
        kinds.flat_map(|k| self.of_kind(k.kind)).collect::<Vec<_>>().into_iter()
    }

    /// Every bearing: mains, then rods, from the front.
    pub fn all_bearings(&self) -> impl Iterator<Item = Place> + use<> {
        BearingRow::ALL.into_iter().flat_map(|row| self.bearings(row)).collect::<Vec<_>>().into_iter()
    }

    /// Every place: mains, pins, rods.
    pub fn places(&self) -> impl Iterator<Item = Place> + use<'_> {
        PLACE_KINDS.iter().flat_map(|k| self.of_kind(k.kind))
    }

    /// Number of places.
    pub fn place_count(&self) -> usize {
        PLACE_KINDS.iter().map(|k| (k.count)(self)).sum()
    }

    /// Whether the engine has that place.
    pub fn has(&self, place: Place) -> bool {
        (1..=self.count(place.kind())).contains(&usize::from(place.number()))
    }

    /// Where the journal of a bearing is: a main has its own, a rod runs on a pin.
    pub fn journal_of(&self, place: Place) -> Place {
        (place.kind().row().journal)(self, place.number())
    }

    /// Where a thing of that role is measured for a figure of that place: at the place itself, else at its journal, else at
    /// every place that runs on the same journal. Nowhere in an engine that has none of it.
    ///
    /// ```
    /// use jagged_pin_core::engine::{Crank, Layout, Place, Role, Rods};
    /// use jagged_pin_core::Length;
    /// use jagged_pin_core::maths::Material;
    ///
    /// let journal = Length::tenths(26_240);
    /// let rods = Rods { per_pin: 2, pin: Length::tenths(21_240), tracks: true, material: Material::Steel, nominals: None };
    /// let v6 = Layout { rods: Some(rods), ..Layout::of_mains(4, Place::main(3), journal, Crank::proportional(4, journal, 1)) };
    /// assert!(v6.places_with(Place::rod(3), Role::JOURNAL).eq([Place::pin(2)]));
    /// assert!(v6.places_with(Place::side(2), Role::new("rod_width")).eq([Place::rod(3), Place::rod(4)]));
    /// ```
    pub fn places_with(&self, place: Place, role: Role) -> impl Iterator<Item = Place> + use<> {
        let journal = self.journal_of(place);
        let has_it = |p: Place| Characteristic::at(p, role).is_some();
        let alone = [place, journal].into_iter().find(|p| has_it(*p));
        let on_journal = || -> Vec<Place> {
            let with_it = Characteristic::kinds_with(role).iter();
            with_it.flat_map(|kind| self.of_kind(*kind)).filter(|p| self.journal_of(*p) == journal).collect()
        };
        let several = if alone.is_some() { Vec::new() } else { on_journal() };
        alone.into_iter().chain(several)
    }

    /// The first bearing on a place: a pin's first rod, or the bearing itself.
    pub fn bearing_on(&self, place: Place) -> Place {
        (place.kind().row().first_bearing)(self, place.number())
    }
}

/// The numbers of an engine's places, counted once: whoever sorts thousands of readings asks for one with each.
#[derive(Debug)]
pub(crate) struct PlaceNumbers {
    /// By kind: the number of its first place, and how many there are.
    of_kind: [(usize, usize); PLACE_KINDS.len()],
}

impl PlaceNumbers {
    pub fn of(layout: &Layout) -> Self {
        let mut next = 0;
        let of_kind = PLACE_KINDS.each_ref().map(|kind| {
            let (first, count) = (next, (kind.count)(layout));
            next += count;
            (first, count)
        });
        PlaceNumbers { of_kind }
    }

    /// The number of a place in the order of [`Layout::places`], from 0; absent where the engine has no such place.
    pub fn get(&self, place: Place) -> Option<usize> {
        let (first, count) = *self.of_kind.get(place.kind() as usize)?;
        let n = usize::from(place.number()).checked_sub(1)?;
        (n < count).then_some(first + n)
    }
}

/// What something was done to: one place, or a whole group.
///
/// ```
/// use jagged_pin_core::engine::{Place, Scope};
/// let rods: Scope = "rods".parse().unwrap();
/// assert!(rods.covers(Place::rod(3)) && !rods.covers(Place::pin(3)));
/// assert_eq!("P2".parse(), Ok(Scope::One(Place::pin(2))));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
pub enum Scope {
    /// One place.
    One(Place),
    /// Every main.
    Mains,
    /// Every pin.
    Pins,
    /// Every rod.
    Rods,
    /// The whole crank: mains and pins.
    Crank,
    /// Every cylinder.
    Cylinders,
    /// The whole block: what is bored, honed or cut in it.
    Block,
}

/// The groups, each with the kinds of place it holds.
const GROUPS: [(Scope, &str, &[PlaceKind]); 6] = [
    (Scope::Mains, "mains", &[PlaceKind::Main]),
    (Scope::Pins, "pins", &[PlaceKind::Pin]),
    (Scope::Rods, "rods", &[PlaceKind::Rod]),
    (Scope::Crank, "crank", &[PlaceKind::Main, PlaceKind::Pin]),
    (Scope::Cylinders, "cylinders", &[PlaceKind::Cylinder]),
    (Scope::Block, "block", &[PlaceKind::Main, PlaceKind::Cam, PlaceKind::Cylinder, PlaceKind::Deck]),
];

impl Scope {
    fn group(self) -> Option<&'static (Scope, &'static str, &'static [PlaceKind])> {
        GROUPS.iter().find(|(scope, ..)| *scope == self)
    }

    /// Whether the place is within it.
    pub fn covers(self, place: Place) -> bool {
        match self {
            Scope::One(one) => one == place,
            group => group.group().is_some_and(|(_, _, kinds)| kinds.contains(&place.kind())),
        }
    }

    /// On how many journals of an engine something is done that is done to it.
    pub fn journals(self, layout: &Layout) -> usize {
        layout.places().filter(|p| self.covers(*p) && layout.journal_of(*p) == *p).count()
    }
}

impl fmt::Display for Scope {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Scope::One(place) => place.fmt(f),
            group => f.write_str(group.group().map_or("", |(_, name, _)| name)),
        }
    }
}

impl FromStr for Scope {
    type Err = NoSuchName;

    fn from_str(text: &str) -> Result<Self, NoSuchName> {
        let group = GROUPS.iter().find(|(_, name, _)| *name == text).map(|(scope, ..)| *scope);
        group.map_or_else(|| text.parse().map(Scope::One), Ok)
    }
}

impl TryFrom<String> for Scope {
    type Error = NoSuchName;
    fn try_from(text: String) -> Result<Self, NoSuchName> {
        text.parse()
    }
}

impl From<Scope> for String {
    fn from(scope: Scope) -> String {
        scope.to_string()
    }
}

/// Both are written as texts in the API document.
#[cfg(feature = "schema")]
mod schema {
    use std::borrow::Cow;

    use utoipa::openapi::RefOr;
    use utoipa::openapi::schema::{ObjectBuilder, Schema, Type};
    use utoipa::{PartialSchema, ToSchema};

    use super::{Place, Scope};

    fn text(example: &str) -> RefOr<Schema> {
        ObjectBuilder::new().schema_type(Type::String).examples([example]).into()
    }

    impl PartialSchema for Place {
        fn schema() -> RefOr<Schema> {
            text("M4")
        }
    }

    impl ToSchema for Place {
        fn name() -> Cow<'static, str> {
            "Place".into()
        }
    }

    impl PartialSchema for Scope {
        fn schema() -> RefOr<Schema> {
            text("mains")
        }
    }

    impl ToSchema for Scope {
        fn name() -> Cow<'static, str> {
            "Scope".into()
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_kind_has_one_row_and_a_letter_of_its_own() {
        for (i, row) in PLACE_KINDS.iter().enumerate() {
            assert_eq!((row.kind as usize, row.kind.row().letter), (i, row.letter));
            assert!(PLACE_KINDS[..i].iter().all(|other| other.letter != row.letter && other.kind != row.kind));
            let place = Place::new(row.kind, if row.numbered { 2 } else { 1 });
            assert_eq!(place.to_string().to_lowercase().parse(), Ok(place));
        }
    }

    #[test]
    fn every_place_of_an_engine_is_counted_once_and_reads_back() {
        let journal = crate::units::Length::tenths(26_240);
        let crank = crate::engine::Crank::proportional(4, journal, 1);
        let bare = Layout::of_mains(4, Place::main(3), journal, crank);
        let rods = crate::engine::Rods {
            per_pin: 2,
            pin: crate::units::Length::tenths(21_240),
            tracks: true,
            material: crate::maths::Material::Steel,
            nominals: None,
        };
        let bore = crate::units::Length::tenths(34_750);
        let built = Layout { rods: Some(rods), cylinders: Some(crate::engine::Cylinders::of(bore)), ..bare.clone() };
        for layout in [bare.clone(), built, Layout { rollers: true, ..bare }] {
            let all: Vec<Place> = layout.places().collect();
            assert_eq!(all.len(), layout.place_count());
            for (i, place) in all.iter().enumerate() {
                assert_eq!(PlaceNumbers::of(&layout).get(*place), Some(i), "{place}");
                assert_eq!(place.to_string().parse(), Ok(*place));
                assert!(layout.has(*place) && layout.has(layout.journal_of(*place)), "{place}");
            }
            assert_eq!(layout.has(Place::OIL_PUMP), !layout.rollers);
            assert!(layout.has(Place::FLANGE) && !layout.has(Place::new(PlaceKind::CrankEnd, 3)));
        }
    }

    #[test]
    fn what_names_no_place_is_refused() {
        for text in ["", "M", "M0", "M256", "X1", "4", "main4", "M-1", "E1"] {
            assert!(text.parse::<Place>().is_err(), "{text}");
        }
    }

    #[test]
    fn groups_are_named_and_hold_their_places() {
        assert_eq!("crank".parse(), Ok(Scope::Crank));
        assert_eq!(Scope::Crank.to_string(), "crank");
        assert!(Scope::Crank.covers(Place::pin(1)) && !Scope::Crank.covers(Place::rod(1)));
        assert!("clutch".parse::<Scope>().is_err());
    }
}
