//! The log of a stone or a file: strokes made, and what it measures then.
use serde::{Deserialize, Serialize};

use crate::engine::{Place, PlaceKind};
use crate::maths::{MOST_STROKES, Temperatures};
use crate::units::{Flaw, LONGEST_TEXT, Length, Wrong, must, must_be_text_or_none};

/// What is worked stroke by stroke.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Stroked {
    /// A cylinder under the hone.
    Bore,
    /// The ends of its top ring under the file.
    TopRing,
    /// The ends of its second ring.
    SecondRing,
}

/// Some strokes, and the size after them.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StrokesDone {
    /// The cylinder.
    pub at: Place,
    /// What is worked there.
    pub on: Stroked,
    /// Strokes, or turns of the file, since the entry before; none for what it measured before the first.
    pub strokes: u32,
    /// The bore, or the gap, after them.
    pub size: Length,
    /// As it was typed.
    pub raw: String,
    /// How warm the part was, in thousandths of a degree; absent where it was cool.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub part_mc: Option<i32>,
    /// The stone, and what was seen.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
}

/// Longest text of a size.
const LONGEST_RAW: usize = 60;

impl StrokesDone {
    /// Checks its place and its figures.
    ///
    /// # Errors
    /// [`Flaw`] names the part that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        let cylinder = self.at.kind() == PlaceKind::Cylinder;
        must(cylinder, Flaw::of("at", Wrong::Elsewhere("strokes are counted at a cylinder")))?;
        must(self.strokes <= MOST_STROKES, Flaw::of("strokes", Wrong::Figure("a million at most")))?;
        must(self.size > Length::ZERO && self.size.in_limits(), Flaw::of("size", Wrong::Figure("above zero")))?;
        must(self.raw.chars().count() <= LONGEST_RAW, Flaw::of("size", Wrong::Text { most: LONGEST_RAW }))?;
        let warm = Temperatures { part_mc: self.part_mc, gauge_mc: None };
        must(warm.are_plausible(), Flaw::of("temperature", Wrong::Figure("a temperature of a shop")))?;
        must_be_text_or_none(&self.note, "note", LONGEST_TEXT)
    }
}
