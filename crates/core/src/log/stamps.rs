//! Stamps read off the backs of old shells.
use serde::{Deserialize, Serialize};

use crate::engine::Place;
use crate::units::{Flaw, Wrong, must, must_be_text, must_count, must_differ};

/// What is stamped on the backs of the shells that came out of a bearing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Stamp {
    /// The bearing.
    pub station: Place,
    /// As it can be read.
    pub text: String,
}

/// Stamps of a row; the last word of each bearing counts.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Stamps {
    /// The bearings.
    pub stamps: Vec<Stamp>,
}

/// Longest text of a stamp.
const LONGEST_STAMP: usize = 40;
/// More bearings than any engine has.
const MOST_STAMPS: usize = 128;

impl Stamps {
    /// Checks that they are of bearings, each once, with a text.
    ///
    /// # Errors
    /// [`Flaw`] names the part and the line that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        must_count(self.stamps.len(), "stamps", 1, MOST_STAMPS)?;
        for (line, s) in self.stamps.iter().enumerate() {
            must(s.station.is_bearing(), Flaw::at("stamps", line, Wrong::Elsewhere("a bearing does")))?;
            must_be_text(&s.text, "stamps", Some(line), LONGEST_STAMP)?;
        }
        must_differ(self.stamps.iter().map(|s| s.station), "stamps")
    }
}
