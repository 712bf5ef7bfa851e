//! The pair proposed for a bearing, and what has to be bought for it.
use serde::Serialize;

use super::hot::HotClearance;
use crate::engine::Place;
use crate::maths::{Side, State, Target};
use crate::shells::ClassPair;
use crate::units::Length;

/// A bearing before and after.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ProposedPair {
    /// The bearing.
    pub station: Place,
    /// What was measured.
    pub measured: Length,
    /// How sure that is.
    pub measured_expanded: Length,
    /// Its state as measured.
    pub was: State,
    /// The limit that was nearest.
    pub was_nearest: Side,
    /// Its window and aim.
    pub target: Target,
    /// Halves in now.
    pub now: ClassPair,
    /// Halves proposed.
    pub pair: ClassPair,
    /// Whether that is another pair.
    pub changes: bool,
    /// The clearance expected.
    pub clearance: Length,
    /// How sure that is.
    pub expanded: Length,
    /// The state expected.
    pub state: State,
    /// The limit that is nearest.
    pub nearest: Side,
    /// The expected clearance hot, where the housing opens.
    pub hot: Option<HotClearance>,
    /// The measured one hot.
    pub measured_hot: Option<HotClearance>,
}

/// A set to buy.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ToBuy {
    /// Role number.
    pub part_number: String,
    /// How many sets.
    pub sets: u16,
    /// What they cost together, in ten-thousandths.
    pub price: i64,
}
