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
    /// Roughness Ra of a journal, a wall or a face, by a roughness gauge or a comparator.
    Roughness,
    /// Hardness of a journal, Rockwell C.
    Hardness,
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
    /// Nanometres; typed and shown in millionths of an inch, or in micrometres.
    Roughness,
    /// Tenths of a degree Rockwell C.
    Hardness,
}

impl Quantity {
    /// What a bare figure is typed in on a build of that unit; absent where that is the unit itself.
    pub const fn unit(self, unit: Unit) -> Option<&'static str> {
        match (self, unit) {
            (Quantity::Weight, _) => Some("g"),
            (Quantity::Volume, _) => Some("cc"),
            (Quantity::Length, _) => None,
            (Quantity::Roughness, Unit::Inch) => Some("\u{b5}in"),
            (Quantity::Roughness, Unit::Mm) => Some("\u{b5}m"),
            (Quantity::Hardness, _) => Some("HRC"),
        }
    }
}

/// What is known about a note.
#[derive(Debug)]
pub struct NoteRow {
    /// Which.
    pub note: Note,
    /// The kinds of place that it is noted at: where its part stands.
    pub at: &'static [PlaceKind],
    /// What is measured of that part, at one of those places or another: a rework that ends one of them ends the note, and it goes
    /// where the part goes.
    pub with: &'static [Role],
    /// What its figure counts.
    pub quantity: Quantity,
    /// The least that anybody believes, in the smallest unit.
    pub least: i64,
    /// The most.
    pub most: i64,
}

const PISTON: &[Role] = &[Role::new("piston")];
/// What is gauged of a face.
const FACE: Role = Role::new("face_gap");
/// A rod loses weight wherever it is cut.
const ROD: &[Role] = &[Role::HOUSING, Role::new("rod_eye"), Role::new("rod_width")];

const OF_PISTON: NoteRow = NoteRow {
    note: Note::PistonWeight,
    at: &[PlaceKind::WristPin],
    with: PISTON,
    quantity: Quantity::Weight,
    least: 1,
    // Ten kilograms.
    most: 10_000_000,
};

/// Everything that is noted, in the order of the work.
pub const NOTES: [NoteRow; 8] = [
    OF_PISTON,
    NoteRow { note: Note::RodWeight, at: &[PlaceKind::Rod], with: ROD, ..OF_PISTON },
    // A fifth of a litre either way.
    NoteRow { note: Note::CrownVolume, quantity: Quantity::Volume, least: -200_000, most: 200_000, ..OF_PISTON },
    // Forty millimetres.
    NoteRow { note: Note::PocketDepth, quantity: Quantity::Length, least: 0, most: 40_000_000, ..OF_PISTON },
    NoteRow { note: Note::PocketRadius, quantity: Quantity::Length, least: 1, most: 60_000_000, ..OF_PISTON },
    NoteRow { note: Note::PinOffset, quantity: Quantity::Length, least: -5_000_000, most: 5_000_000, ..OF_PISTON },
    NoteRow {
        note: Note::Roughness,
        at: &[PlaceKind::Main, PlaceKind::Pin, PlaceKind::Cylinder, PlaceKind::Deck, PlaceKind::Head],
        with: &[Role::JOURNAL, Role::new("cylinder"), FACE],
        quantity: Quantity::Roughness,
        // From a mirror to a face as it comes from the saw: fifty micrometres.
        least: 1,
        most: 50_000,
    },
    NoteRow {
        note: Note::Hardness,
        at: &[PlaceKind::Main, PlaceKind::Pin],
        with: &[Role::JOURNAL],
        quantity: Quantity::Hardness,
        // The scale says nothing beyond 10 and 70.
        least: 100,
        most: 700,
    },
];

/// A figure was noted.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Noted {
    /// What was noted.
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
    /// Millionths of an inch.
    #[error("Ra in millionths of an inch, such as 8, or in micrometres, such as 0.2 um")]
    Microinches,
    /// Micrometres.
    #[error("Ra in micrometres, such as 0.2, or in millionths of an inch, such as 8 uin")]
    Micrometres,
    /// Rockwell C.
    #[error("degrees Rockwell C, such as 52 or 52.5")]
    Hardness,
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
    /// assert_eq!(Note::Roughness.read("8", Unit::Inch), Ok(203));
    /// assert_eq!(Note::Roughness.read("0.2 um", Unit::Inch), Ok(200));
    /// assert_eq!(Note::Hardness.read("52.5", Unit::Mm), Ok(525));
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
            Quantity::Roughness => {
                let wanted = if unit == Unit::Inch { NoFigure::Microinches } else { NoFigure::Micrometres };
                let (bare, unit) = Self::unit_of_roughness(text, unit);
                let thousandths = thousands(bare).ok_or(wanted)?;
                match unit {
                    Unit::Mm => Ok(thousandths),
                    // 25.4 nm each.
                    Unit::Inch => {
                        let nm = Length::from_f64(thousandths as f64 * MICROINCH / 1_000.0).ok_or(wanted)?;
                        Ok(nm.nm())
                    }
                }
            }
            Quantity::Hardness => {
                let hundredths = thousands(text).filter(|n| n % 100 == 0).ok_or(NoFigure::Hardness)?;
                Ok(hundredths / 100)
            }
        }
    }

    /// The figure without the unit that was typed behind it, and which it is: a millionth of an inch goes with inches, a
    /// micrometre with millimetres.
    fn unit_of_roughness(text: &str, usual: Unit) -> (&str, Unit) {
        let text = text.trim();
        let named = [("uin", Unit::Inch), ("\u{b5}in", Unit::Inch), ("um", Unit::Mm), ("\u{b5}m", Unit::Mm)];
        let found = named.iter().find_map(|(name, unit)| Some((text.strip_suffix(name)?.trim_end(), *unit)));
        found.unwrap_or((text, usual))
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
            Quantity::Roughness => show_roughness(Length::from_nm(value), unit),
            Quantity::Hardness => format!("{}.{} HRC", value / 10, value.unsigned_abs() % 10),
        }
    }
}

/// A millionth of an inch, in nanometres.
const MICROINCH: f64 = 25.4;

/// A roughness as it is read aloud: millionths of an inch with half of one where it is there, or micrometres with two decimals.
///
/// ```
/// use jagged_pin_core::log::show_roughness;
/// use jagged_pin_core::{Length, Unit};
/// assert_eq!(show_roughness(Length::from_nm(203), Unit::Inch), "8 \u{b5}in");
/// assert_eq!(show_roughness(Length::from_nm(203), Unit::Mm), "0.20 \u{b5}m");
/// ```
pub fn show_roughness(roughness: Length, unit: Unit) -> String {
    match unit {
        Unit::Inch => {
            let halves = (roughness.as_f64() / MICROINCH * 2.0).round() as i64;
            let half = if halves % 2 == 0 { "" } else { ".5" };
            format!("{}{half} \u{b5}in", halves / 2)
        }
        Unit::Mm => format!("{:.2} \u{b5}m", roughness.as_f64() / 1_000.0),
    }
}

impl Noted {
    /// Checks its place and its figure.
    ///
    /// # Errors
    /// [`Flaw`] names the part that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        let row = self.note.row();
        let here = row.at.contains(&self.at.kind()) && self.note.parts_of(self.at).next().is_some();
        let elsewhere = "pistons are noted at wrist pins, rods at rods, hardness at journals, roughness at journals, walls and faces";
        must(here, Flaw::of("at", Wrong::Elsewhere(elsewhere)))?;
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
            let parts = || row.at.iter().flat_map(|kind| row.note.parts_of(Place::new(*kind, 1)));
            assert!(row.at.iter().all(|kind| row.note.parts_of(Place::new(*kind, 1)).next().is_some()));
            assert!(row.with.iter().all(|role| parts().any(|c| c.role() == *role)), "{:?}", row.note);
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
        assert!(noted(Note::Roughness, Place::pin(1), 203) && noted(Note::Roughness, Place::cylinder(1), 500));
        assert!(!noted(Note::Roughness, Place::rod(1), 203) && !noted(Note::Hardness, Place::cylinder(1), 520));
        assert_eq!(Note::Hardness.show(525, Unit::Inch), "52.5 HRC");
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
        fn a_roughness_is_shown_as_it_was_typed(halves in 1_i64..400, hundredths in 1_i64..500) {
            let half = if halves % 2 == 0 { "" } else { ".5" };
            let text = format!("{}{half}", halves / 2);
            let value = Note::Roughness.read(&text, Unit::Inch).unwrap_or_default();
            prop_assert_eq!(Note::Roughness.show(value, Unit::Inch), format!("{text} \u{b5}in"));
            let text = format!("{}.{:02}", hundredths / 100, hundredths % 100);
            let value = Note::Roughness.read(&text, Unit::Mm).unwrap_or_default();
            prop_assert_eq!(Note::Roughness.show(value, Unit::Mm), format!("{text} \u{b5}m"));
            // The unit typed behind it wins.
            prop_assert_eq!(Note::Roughness.read(&format!("{text} um"), Unit::Inch), Ok(value));
        }

        #[test]
        fn no_text_is_too_odd_to_be_refused(text in "\\PC{0,50}") {
            for row in &NOTES {
                let _ = row.note.read(&text, Unit::Inch);
            }
        }
    }
}
