//! Thrust washers that were fitted, what they promise of the end play, and how they face.
use serde::{Deserialize, Serialize};

use super::ends::Ends;
use super::fitting::FittedPair;
use crate::engine::{Place, Scope, Tag};
use crate::units::{Flaw, LONGEST_TEXT, Length, Wrong, must, must_be_text};

/// The washer of one side.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WasherIn {
    /// Its thickness.
    pub thickness: Length,
    /// How much thicker than the one before it.
    pub growth: Length,
    /// What was lapped off its steel back.
    #[serde(default, skip_serializing_if = "is_nothing")]
    pub lap: Length,
}

#[expect(clippy::trivially_copy_pass_by_ref, reason = "the form that serde calls")]
fn is_nothing(length: &Length) -> bool {
    *length == Length::ZERO
}

/// Thrust washers were fitted.
///
/// A washer the wrong way round, its steel to the crank, shows in no figure: how each faces is looked at and ticked, or they
/// are not fitted.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WashersIn {
    /// The box they are from.
    pub from: String,
    /// The front side.
    pub front: WasherIn,
    /// The rear side.
    pub rear: WasherIn,
    /// Both sides by name, the front one as the upper, and the end play they promise.
    pub promise: FittedPair,
    /// How far the crank moved forward; back where it is negative.
    pub shift: Length,
    /// Steel backs to the housing, linings to the crank, on both sides.
    pub backs_to_housing: bool,
    /// Grooves open to the oil, tangs in their slots, no half in the other's place.
    pub grooves_open: bool,
    /// Why, and what was seen.
    pub note: String,
}

impl WashersIn {
    /// Checks its figures, and that both were looked at.
    ///
    /// # Errors
    /// [`Flaw`] names the part that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        must_be_text(&self.from, "from", None, LONGEST_TEXT)?;
        must_be_text(&self.note, "note", None, LONGEST_TEXT)?;
        for (part, side) in [("front", &self.front), ("rear", &self.rear)] {
            let fits = side.thickness > Length::ZERO && side.lap >= Length::ZERO && side.growth.in_limits();
            must(fits, Flaw::of(part, Wrong::Figure("a washer with a thickness")))?;
        }
        let promised = self.promise.clearance > Length::ZERO && self.promise.expanded >= Length::ZERO;
        must(promised, Flaw::of("promise", Wrong::Figure("an end play above zero, and how sure it is")))?;
        let here = self.promise.station == Place::THRUST;
        must(here, Flaw::of("promise", Wrong::Elsewhere("the thrust does")))?;
        let looked = Wrong::Figure("looked at and ticked: a washer the wrong way round shows in no figure");
        must(self.backs_to_housing, Flaw::of("backs_to_housing", looked))?;
        must(self.grooves_open, Flaw::of("grooves_open", looked))
    }

    /// What it ends.
    pub fn ends(&self) -> Ends {
        Ends { scope: Scope::One(Place::THRUST), tags: &[Tag::Thrust] }
    }
}
