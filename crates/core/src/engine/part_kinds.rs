//! The kinds of part, and the seats of an engine that each fills: a crank has one for the whole engine, a rod one at
//! each big end. A layout names a first part for every seat.
use super::characteristic::PartKind;
use super::layout::Layout;
use super::place::{Place, PlaceKind};

/// What is known about a kind of part.
#[derive(Debug)]
pub struct PartKindRow {
    /// The kind.
    pub kind: PartKind,
    /// What it is called, and what the first one is called where an engine has one.
    pub name: &'static str,
    /// The places that each have one of their own; `None` where an engine has one.
    pub seats: Option<PlaceKind>,
    /// Whether one can be taken out and another one put in as a part by itself.
    pub moves: bool,
}

/// The kinds of part.
pub const PART_KINDS: [PartKindRow; 6] = [
    PartKindRow { kind: PartKind::Crank, name: "crank", seats: None, moves: true },
    PartKindRow { kind: PartKind::Block, name: "block", seats: None, moves: true },
    PartKindRow { kind: PartKind::Rod, name: "rod", seats: Some(PlaceKind::Rod), moves: true },
    // Shells are fitted by class or by their mark on a tray; a fitting says which.
    PartKindRow { kind: PartKind::Shells, name: "shells", seats: Some(PlaceKind::Main), moves: false },
    // An engine without a known cam has no seat for one.
    PartKindRow { kind: PartKind::Cam, name: "cam", seats: None, moves: false },
    PartKindRow { kind: PartKind::Piston, name: "piston", seats: Some(PlaceKind::WristPin), moves: true },
];

/// Where a part stands: at a place, or in the engine as a whole where there is one of its kind.
///
/// ```
/// use jagged_pin_core::engine::{PartKind, Place, Seat};
/// assert_eq!(Seat::of(PartKind::Rod, Place::rod(3)).first_part(), "R3");
/// assert_eq!(Seat::of(PartKind::Crank, Place::pin(2)), Seat::of(PartKind::Crank, Place::main(1)));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Seat {
    /// The kind of part.
    pub kind: PartKind,
    /// The place, where each has one of its own.
    pub place: Option<Place>,
}

impl PartKind {
    /// What is known about it.
    pub fn row(self) -> &'static PartKindRow {
        // The rows stand in the order of the kinds: a test holds every one of them against its kind.
        PART_KINDS.get(self as usize).unwrap_or(&PART_KINDS[0])
    }
}

impl Seat {
    /// The seat of a part that is measured at a place.
    pub fn of(kind: PartKind, place: Place) -> Self {
        Seat { kind, place: kind.row().seats.map(|_| place) }
    }

    /// What the first part on it is called.
    pub fn first_part(self) -> String {
        self.place.map_or_else(|| self.kind.row().name.to_owned(), |place| place.to_string())
    }

    /// Whether an engine has it.
    pub fn is_in(self, layout: &Layout) -> bool {
        match (self.kind.row().seats, self.place) {
            (None, None) => true,
            (Some(kind), Some(place)) => place.kind() == kind && layout.has(place),
            _ => false,
        }
    }
}

impl Layout {
    /// The seats of parts that can be taken out and put in.
    pub fn seats(&self) -> Vec<Seat> {
        let seats = |row: &PartKindRow| -> Vec<Seat> {
            let kind = row.kind;
            match row.seats {
                None => vec![Seat { kind, place: None }],
                Some(at) => self.of_kind(at).map(|place| Seat { kind, place: Some(place) }).collect(),
            }
        };
        PART_KINDS.iter().filter(|row| row.moves).flat_map(seats).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_kind_has_one_row() {
        for (i, row) in PART_KINDS.iter().enumerate() {
            assert_eq!((row.kind as usize, row.kind.row().name), (i, row.name));
            assert!(PART_KINDS[..i].iter().all(|other| other.kind != row.kind && other.name != row.name));
        }
    }
}
