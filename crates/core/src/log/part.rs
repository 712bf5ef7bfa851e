//! Parts by name: one that was entered, where parts were put, and one that was condemned.
use serde::{Deserialize, Serialize};

use crate::engine::{PartKind, Place};
use crate::units::{Flaw, LONGEST_TEXT, Wrong, must, must_be_text, must_count, must_differ};

/// A part that the layout did not name: another crank, a spare rod.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Part {
    /// What it is called in this build.
    pub tag: String,
    /// What it is.
    #[serde(rename = "part_kind")]
    pub kind: PartKind,
    /// Where it comes from.
    pub provenance: String,
    /// What is stamped, cast or painted on it; empty where nothing is.
    pub marks: String,
}

/// Where one part is put.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PartMove {
    /// The part.
    pub part: String,
    /// The place; absent where an engine has one of its kind.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub place: Option<Place>,
}

/// Parts were put somewhere. What stood there and is not put elsewhere in the same go is out.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Assignment {
    /// Part by part.
    pub moves: Vec<PartMove>,
    /// Why, in the words of whoever decided it.
    pub reason: String,
}

/// A part was condemned, or taken up again.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Condemnation {
    /// The part.
    pub part: String,
    /// Whether a condemnation is taken back.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub lifted: bool,
    /// Why, in the words of whoever decided it.
    pub reason: String,
}

/// Longest name of a part.
const LONGEST_TAG: usize = 24;
/// Longest marks.
const LONGEST_MARKS: usize = 120;
/// Most parts of one go.
const MOST_MOVES: usize = 64;

impl Part {
    /// Checks its texts.
    ///
    /// # Errors
    /// [`Flaw`] names the part that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        must_be_text(&self.tag, "tag", None, LONGEST_TAG)?;
        must_be_text(&self.provenance, "provenance", None, LONGEST_TEXT)?;
        let marked = self.marks.is_empty() || must_be_text(&self.marks, "marks", None, LONGEST_MARKS).is_ok();
        must(marked, Flaw::of("marks", Wrong::Text { most: LONGEST_MARKS }))?;
        must(self.kind.row().moves, Flaw::of("kind", Wrong::Elsewhere("shells are fitted, not entered as a part")))
    }
}

impl Assignment {
    /// Checks that it moves each part and fills each seat once.
    ///
    /// # Errors
    /// [`Flaw`] names the line that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        must_count(self.moves.len(), "moves", 1, MOST_MOVES)?;
        must_differ(self.moves.iter().map(|m| m.part.as_str()), "moves")?;
        must_be_text(&self.reason, "reason", None, LONGEST_TEXT)
    }
}
