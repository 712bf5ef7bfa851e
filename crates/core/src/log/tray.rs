//! Shells of a tray, measured one by one.
use serde::{Deserialize, Serialize};

use crate::engine::BearingRow;
use crate::shells::Half;
use crate::units::{Flaw, Length, Wrong, must, must_be_text, must_count, must_differ};

/// One half on the tray.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TrayShell {
    /// What is scribed on its back.
    pub mark: String,
    /// Upper or lower.
    pub half: Half,
    /// Its wall at the middle.
    pub wall: Length,
}

/// A tray for a row of bearings.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Tray {
    /// The row.
    pub row: BearingRow,
    /// The gauge the walls were measured with, by its identifier in the build.
    pub gauge: String,
    /// The halves.
    pub shells: Vec<TrayShell>,
}

/// Most halves of one kind on a tray: what the choice is made for.
pub const MOST_ON_A_TRAY: usize = 64;

/// Longest mark of a half.
const LONGEST_MARK: usize = 20;

impl Tray {
    /// Checks that marks are unique, sides and walls valid, at most 64 of a side.
    ///
    /// # Errors
    /// [`Flaw`] names the part and the line that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        for (line, s) in self.shells.iter().enumerate() {
            must_be_text(&s.mark, "shells", Some(line), LONGEST_MARK)?;
            must(s.half != Half::Either, Flaw::at("shells", line, Wrong::Figure("an upper or a lower")))?;
            let wall = s.wall > Length::ZERO && s.wall <= Length::microns(20_000);
            must(wall, Flaw::at("shells", line, Wrong::Figure("a wall of up to 20 mm")))?;
        }
        must_differ(self.shells.iter().map(|s| s.mark.as_str()), "shells")?;
        for half in [Half::Upper, Half::Lower] {
            let count = self.shells.iter().filter(|s| s.half == half).count();
            must_count(count, "shells", 0, MOST_ON_A_TRAY)?;
        }
        Ok(())
    }
}
