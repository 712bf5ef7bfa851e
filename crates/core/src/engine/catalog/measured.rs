//! What can be measured, by the name of its row.
use std::fmt;
use std::str::FromStr;
use std::sync::LazyLock;

use serde::{Deserialize, Deserializer, Serialize, Serializer};

use super::super::characteristic::{CharacteristicRow, GaugeUse, Planned, Read, Role};
use super::super::place::{Place, PlaceKind};
use super::super::place_kinds::PLACE_KINDS;
use super::bearings;
use super::subjects::{NotInCatalog, SUBJECTS, Subject, same};
use crate::maths::CellKind;

/// A characteristic of the catalogue.
///
/// ```
/// use jagged_pin_core::engine::{Characteristic, Place, Role};
/// assert_eq!("main_journal".parse(), Ok(Characteristic::MAIN_JOURNAL));
/// assert_eq!(Characteristic::at(Place::rod(1), Role::JOURNAL), None);
/// ```
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Characteristic {
    subject: u8,
    row: u8,
}

impl Characteristic {
    /// Outside diameter of a main journal.
    pub const MAIN_JOURNAL: Characteristic = Characteristic::named("main_journal");
    /// Outside diameter of a pin.
    pub const PIN_JOURNAL: Characteristic = Characteristic::named("pin_journal");
    /// Inside diameter of a main housing, cap torqued, no shells.
    pub const MAIN_HOUSING: Characteristic = Characteristic::named("main_housing");
    /// Inside diameter of a rod's big end, cap torqued, no shells.
    pub const ROD_HOUSING: Characteristic = Characteristic::named("rod_housing");
    /// Inside diameter of a main bearing, shells in and cap torqued.
    pub const MAIN_BEARING: Characteristic = Characteristic::named("main_bearing");
    /// Inside diameter of a rod bearing, shells in and cap torqued.
    pub const ROD_BEARING: Characteristic = Characteristic::named("rod_bearing");
    /// Wall of the upper shell.
    pub const UPPER_WALL: Characteristic = Characteristic::named("upper_wall");

    /// The one of that name; past the end of the catalogue when there is none, which a test rules out.
    const fn named(id: &str) -> Self {
        let mut subject = 0;
        while subject < SUBJECTS.len() {
            let rows = SUBJECTS[subject].characteristics;
            let mut row = 0;
            while row < rows.len() {
                if same(rows[row].id, id) {
                    return Characteristic { subject: subject as u8, row: row as u8 };
                }
                row += 1;
            }
            subject += 1;
        }
        Characteristic { subject: u8::MAX, row: u8::MAX }
    }

    /// Every one, in the order of the work.
    pub fn all() -> impl Iterator<Item = Characteristic> {
        let of = |(s, subject): (u8, &'static Subject)| {
            (0_u8..).zip(subject.characteristics).map(move |(row, _)| Characteristic { subject: s, row })
        };
        (0_u8..).zip(SUBJECTS).flat_map(of)
    }

    /// What is known about it.
    pub fn row(self) -> &'static CharacteristicRow {
        let rows = SUBJECTS.get(usize::from(self.subject)).map_or(&[][..], |s| s.characteristics);
        rows.get(usize::from(self.row)).unwrap_or(&bearings::CHARACTERISTICS[0])
    }

    /// The one of that role at a place; a pin has only its journal, a rod has none.
    pub fn at(place: Place, role: Role) -> Option<Self> {
        Characteristic::here(place).iter().find(|(of, _)| *of == role).map(|(_, c)| *c)
    }

    /// Every one that a place has.
    pub fn of(place: Place) -> impl Iterator<Item = Characteristic> {
        Characteristic::here(place).iter().map(|(_, c)| *c)
    }

    /// Every one that a place has, by its role: asked for thousands of times in every evaluation, so worked out once.
    fn here(place: Place) -> &'static [(Role, Characteristic)] {
        static OF_KIND: LazyLock<Vec<Vec<(Role, Characteristic)>>> = LazyLock::new(|| {
            let at = |kind: PlaceKind| Characteristic::all().filter(move |c| c.row().at.contains(&kind));
            PLACE_KINDS.iter().map(|row| at(row.kind).map(|c| (c.role(), c)).collect()).collect()
        });
        OF_KIND.get(place.kind() as usize).map_or(&[], Vec::as_slice)
    }

    /// The kinds of place that have something of that role, in the order of the work: worked out once, like the above.
    pub(crate) fn kinds_with(role: Role) -> &'static [PlaceKind] {
        static OF_ROLE: LazyLock<Vec<(Role, Vec<PlaceKind>)>> = LazyLock::new(|| {
            let mut known: Vec<(Role, Vec<PlaceKind>)> = Vec::new();
            for kind in PLACE_KINDS.iter().map(|row| row.kind) {
                for (of, _) in Characteristic::here(Place::new(kind, 1)) {
                    match known.iter_mut().find(|(role, _)| role == of) {
                        Some((_, kinds)) if kinds.contains(&kind) => {}
                        Some((_, kinds)) => kinds.push(kind),
                        None => known.push((*of, vec![kind])),
                    }
                }
            }
            known
        });
        OF_ROLE.iter().find(|(of, _)| *of == role).map_or(&[], |(_, kinds)| kinds)
    }

    /// What it is in the figures made of it.
    pub fn role(self) -> Role {
        self.row().role
    }

    /// The usual plan of positions, in the order they are touched.
    pub fn positions(self) -> &'static [Planned] {
        self.row().positions
    }

    /// Whether a gauge can be put on it.
    pub fn fits(self, gauge: GaugeUse) -> bool {
        self.row().gauge == gauge
    }

    /// Whether it can be read that way.
    pub fn can_be_read(self, read: Read) -> bool {
        self.row().reads.contains(&read)
    }

    /// The kind of cell that a figure of it is typed into.
    pub fn cell(self) -> CellKind {
        if self.row().signed { CellKind::Level } else { CellKind::Size }
    }

    /// How it is written in data.
    pub fn name(self) -> &'static str {
        self.row().id
    }
}

impl fmt::Debug for Characteristic {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.name())
    }
}

impl FromStr for Characteristic {
    type Err = NotInCatalog;

    fn from_str(text: &str) -> Result<Self, NotInCatalog> {
        Characteristic::all().find(|c| c.name() == text).ok_or_else(|| NotInCatalog(text.to_owned()))
    }
}

impl Serialize for Characteristic {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_str(self.name())
    }
}

impl<'de> Deserialize<'de> for Characteristic {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        String::deserialize(deserializer)?.parse().map_err(serde::de::Error::custom)
    }
}

#[cfg(test)]
mod tests {
    use super::super::super::characteristic::Reach;
    use super::*;

    #[test]
    fn every_row_has_a_name_of_its_own_and_can_be_measured() {
        let names: Vec<&str> = Characteristic::all().map(Characteristic::name).collect();
        for (i, characteristic) in Characteristic::all().enumerate() {
            let row = characteristic.row();
            assert!(!names[..i].contains(&row.id), "{} stands twice", row.id);
            assert_eq!(row.id.parse(), Ok(characteristic));
            assert!(!row.at.is_empty() && !row.reads.is_empty() && !row.ended_by.is_empty(), "{}", row.id);
        }
        let named = [
            Characteristic::MAIN_JOURNAL,
            Characteristic::PIN_JOURNAL,
            Characteristic::MAIN_HOUSING,
            Characteristic::ROD_HOUSING,
            Characteristic::MAIN_BEARING,
            Characteristic::ROD_BEARING,
            Characteristic::UPPER_WALL,
        ];
        assert!(named.into_iter().all(|c| c.subject != u8::MAX));
    }

    #[test]
    fn a_place_has_one_characteristic_of_each_role() {
        for kind in [PlaceKind::Main, PlaceKind::Pin, PlaceKind::Rod] {
            let roles: Vec<Role> = Characteristic::of(Place::new(kind, 1)).map(Characteristic::role).collect();
            for (i, role) in roles.iter().enumerate() {
                assert!(!roles[..i].contains(role), "{kind:?} has {role:?} twice");
            }
        }
        assert_eq!(Characteristic::at(Place::rod(1), Role::JOURNAL), None);
        assert_eq!(Characteristic::at(Place::pin(1), Role::HOUSING), None);
    }

    #[test]
    fn roles_of_two_names_are_never_taken_for_one() {
        let mut roles: Vec<Role> = Vec::new();
        for role in Characteristic::all().map(Characteristic::role) {
            assert!(roles.iter().all(|known| (*known == role) == (known.name() == role.name())), "{role:?}");
            roles.push(role);
        }
    }

    #[test]
    fn what_ends_at_the_journal_is_not_the_journal_itself() {
        for row in Characteristic::all().map(Characteristic::row) {
            let on_journal = row.ended_by.iter().any(|(_, reach)| *reach == Reach::OnJournal);
            assert!(!on_journal || row.role != Role::JOURNAL);
        }
    }
}
