//! What is weighed, poured or read off a part beside the gauges: one figure each; a later one takes the place of the one before.
use serde::{Deserialize, Serialize};
use thiserror::Error;

use crate::engine::{Characteristic, Place, PlaceKind, Role};
use crate::maths::parse_length;
use crate::units::{Flaw, Length, Unit, Wrong, must};

/// What is noted of a part.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Note {
    /// Weight of a piston with its pin and locks.
    PistonWeight,
    /// Weight of a rod with its bolts.
    RodWeight,
    /// Volume of a piston's crown over a flat one: a dish adds to the room over it, a dome takes away.
    CrownVolume,
    /// Depth of the deepest valve pocket.
    PocketDepth,
    /// Radius of that pocket.
    PocketRadius,
    /// How far the pin stands off the middle of its piston, toward the thrust side.
    PinOffset,
}

/// What a figure counts.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Quantity {
    /// Milligrams; typed and shown in grams.
    Weight,
    /// Cubic millimetres; typed and shown in cubic centimetres.
    Volume,
    /// Nanometres; typed and shown as every length.
    Length,
}

/// What is known about a note.
#[derive(Debug)]
pub struct NoteRow {
    /// Which.
    pub note: Note,
    /// The kind of place its part stands at.
    pub at: PlaceKind,
    /// What is measured of that part: a rework that ends one of them ends the note, and it goes where the part goes.
    pub with: &'static [Role],
    /// What its figure counts.
    pub quantity: Quantity,
    /// The least that anybody believes, in the smallest unit.
    pub least: i64,
    /// The most.
    pub most: i64,
}

const PISTON: &[Role] = &[Role::new("piston")];
/// A rod loses weight wherever it is cut.
const ROD: &[Role] = &[Role::HOUSING, Role::new("rod_eye"), Role::new("rod_width")];

const OF_PISTON: NoteRow = NoteRow {
    note: Note::PistonWeight,
    at: PlaceKind::WristPin,
    with: PISTON,
    quantity: Quantity::Weight,
    least: 1,
    // Ten kilograms.
    most: 10_000_000,
};

/// Everything that is noted, in the order of the work.
pub const NOTES: [NoteRow; 6] = [
    OF_PISTON,
    NoteRow { note: Note::RodWeight, at: PlaceKind::Rod, with: ROD, ..OF_PISTON },
    // A fifth of a litre either way.
    NoteRow { note: Note::CrownVolume, quantity: Quantity::Volume, least: -200_000, most: 200_000, ..OF_PISTON },
    // Forty millimetres.
    NoteRow { note: Note::PocketDepth, quantity: Quantity::Length, least: 0, most: 40_000_000, ..OF_PISTON },
    NoteRow { note: Note::PocketRadius, quantity: Quantity::Length, least: 1, most: 60_000_000, ..OF_PISTON },
    NoteRow { note: Note::PinOffset, quantity: Quantity::Length, least: -5_000_000, most: 5_000_000, ..OF_PISTON },
];

/// A figure was noted.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Noted {
    /// Of what.
    pub note: Note,
    /// Where the part stands.
    pub at: Place,
    /// In the smallest unit of its quantity.
    pub value: i64,
    /// As it was typed.
    pub raw: String,
}

/// A text that is no figure of that kind.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum NoFigure {
    /// Grams.
    #[error("a weight in grams, such as 412.35")]
    Weight,
    /// Cubic centimetres.
    #[error("a volume in cc, such as 2.1, or -3.4 where it stands up")]
    Volume,
    /// A length.
    #[error("a length")]
    Length,
}

/// Longest text worth keeping.
const LONGEST_RAW: usize = 40;

impl Note {
    /// What is known about it.
    pub fn row(self) -> &'static NoteRow {
        // Every note has its row: a test counts them.
        NOTES.iter().find(|row| row.note == self).unwrap_or(&NOTES[0])
    }

    /// What it is measured with at a place: the first tells which part it is of.
    pub fn parts_of(self, at: Place) -> impl Iterator<Item = Characteristic> {
        self.row().with.iter().filter_map(move |role| Characteristic::at(at, *role))
    }

    /// What a typed text means, in the smallest unit of its quantity.
    ///
    /// # Errors
    /// [`NoFigure`] says what is wanted.
    ///
    /// ```
    /// use jagged_pin_core::log::Note;
    /// use jagged_pin_core::Unit;
    /// assert_eq!(Note::PistonWeight.read("412,35", Unit::Inch), Ok(412_350));
    /// assert_eq!(Note::CrownVolume.read("-3.4", Unit::Mm), Ok(-3_400));
    /// assert_eq!(Note::PocketDepth.read(".250", Unit::Inch), Ok(6_350_000));
    /// assert!(Note::RodWeight.read("heavy", Unit::Inch).is_err());
    /// ```
    pub fn read(self, text: &str, unit: Unit) -> Result<i64, NoFigure> {
        // A gram and a cubic centimetre have a thousand parts, as a millimetre has micrometres.
        let thousands = |text: &str| {
            let bare = text.chars().all(|c| c.is_ascii_digit() || ".,-+ ".contains(c));
            let parsed = parse_length(text, Unit::Mm).ok().filter(|_| bare)?;
            (parsed.nm() % 1_000 == 0).then_some(parsed.nm() / 1_000)
        };
        match self.row().quantity {
            Quantity::Weight => thousands(text).ok_or(NoFigure::Weight),
            Quantity::Volume => thousands(text).ok_or(NoFigure::Volume),
            Quantity::Length => parse_length(text, unit).map(Length::nm).map_err(|_| NoFigure::Length),
        }
    }

    /// A figure as it is shown.
    pub fn show(self, value: i64, unit: Unit) -> String {
        let thousandths = |named: &str| {
            let sign = if value < 0 { "-" } else { "" };
            format!("{sign}{}.{:02} {named}", value.unsigned_abs() / 1_000, value.unsigned_abs() % 1_000 / 10)
        };
        match self.row().quantity {
            Quantity::Weight => thousandths("g"),
            Quantity::Volume => thousandths("cc"),
            Quantity::Length => Length::from_nm(value).show(unit),
        }
    }
}

impl Noted {
    /// Checks its place and its figure.
    ///
    /// # Errors
    /// [`Flaw`] names the part that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        let row = self.note.row();
        let here = row.at == self.at.kind() && self.note.parts_of(self.at).next().is_some();
        must(here, Flaw::of("at", Wrong::Elsewhere("pistons are noted at wrist pins, rods at rods")))?;
        let sane = (row.least..=row.most).contains(&self.value) && self.raw.chars().count() <= LONGEST_RAW;
        must(sane, Flaw::of("text", Wrong::Figure("a figure that anybody believes")))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn every_note_has_a_row_of_a_part_that_is_measured_there() {
        for (i, row) in NOTES.iter().enumerate() {
            assert_eq!(row.note.row().note, row.note);
            assert!(NOTES[..i].iter().all(|other| other.note != row.note));
            assert_eq!(row.note.parts_of(Place::new(row.at, 1)).count(), row.with.len(), "{:?}", row.note);
        }
    }

    #[test]
    fn a_note_stands_at_its_part_and_is_believed() {
        let noted = |note, at, value| Noted { note, at, value, raw: "x".into() }.check().is_ok();
        assert!(noted(Note::PistonWeight, Place::wrist_pin(1), 412_350));
        assert!(!noted(Note::PistonWeight, Place::rod(1), 412_350));
        assert!(!noted(Note::PistonWeight, Place::wrist_pin(1), 0));
        assert!(noted(Note::CrownVolume, Place::wrist_pin(1), -3_400));
        assert!(!noted(Note::CrownVolume, Place::wrist_pin(1), 300_000));
        assert_eq!(Note::CrownVolume.show(-3_400, Unit::Mm), "-3.40 cc");
    }

    proptest! {
        #[test]
        fn what_is_shown_of_a_weight_is_what_was_typed(grams in 1_i64..9_000, hundredths in 0_i64..100) {
            let text = format!("{grams}.{hundredths:02}");
            let value = Note::RodWeight.read(&text, Unit::Inch);
            prop_assert_eq!(value, Ok(grams * 1_000 + hundredths * 10));
            prop_assert_eq!(Note::RodWeight.show(value.unwrap_or_default(), Unit::Inch), format!("{text} g"));
        }

        #[test]
        fn no_text_is_too_odd_to_be_refused(text in "\\PC{0,50}") {
            for row in &NOTES {
                let _ = row.note.read(&text, Unit::Inch);
            }
        }
    }
}
