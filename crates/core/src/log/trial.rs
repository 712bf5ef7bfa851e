//! A trial of the cam in its bearings: the torque that turns it, clock by clock.
use serde::{Deserialize, Serialize};

use crate::units::{Flaw, LONGEST_TEXT, Wrong, must, must_be_text, must_count};

/// What it took at one clock.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TorqueAt {
    /// Degrees of the cam, 0 to 359.
    pub angle: u16,
    /// Thousandths of a newton metre.
    pub torque: u32,
}

/// The cam was turned in its bearings.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Trial {
    /// The torque clock by clock.
    pub turn: Vec<TorqueAt>,
    /// Whether the bearings were oiled; else only wiped with a film.
    pub oiled: bool,
    /// What was done before, and what was seen.
    pub note: String,
}

/// A hundred newton metres: no hand turns a cam with more.
const MOST_TORQUE: u32 = 100_000;

impl Trial {
    /// Checks its figures and its note.
    ///
    /// # Errors
    /// [`Flaw`] names the line that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        must_be_text(&self.note, "note", None, LONGEST_TEXT)?;
        must_count(self.turn.len(), "turn", 4, 24)?;
        for (line, at) in self.turn.iter().enumerate() {
            let sound = at.angle < 360 && at.torque <= MOST_TORQUE;
            must(sound, Flaw::at("turn", line, Wrong::Figure("0 to 100 N m at 0 to 359 degrees")))?;
            let before = self.turn.iter().take(line).any(|other| other.angle == at.angle);
            must(!before, Flaw::at("turn", line, Wrong::Figure("another clock than before")))?;
        }
        Ok(())
    }
}
