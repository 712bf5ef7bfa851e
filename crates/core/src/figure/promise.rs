//! What fitted shells promise of a bearing, and the promise against what was measured. Plain data.
use serde::Serialize;

use crate::log::FittedPair;
use crate::maths::{Side, State};
use crate::units::{Length, Person, Timestamp};

/// What is expected of a bearing until it is measured again.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Predicted {
    /// The halves that are in, and what they promise.
    pub pair: FittedPair,
    /// The state it would be in.
    pub state: State,
    /// The limit that is nearest.
    pub nearest: Side,
    /// Place of the fitting in the build's order.
    pub seq: u32,
    /// Who fitted them.
    pub by: Person,
    /// When.
    pub at: Timestamp,
}

/// A prediction against what was measured afterwards.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PredictionCheck {
    /// The halves, and what they promised.
    pub pair: FittedPair,
    /// What was measured.
    pub measured: Length,
    /// How sure that is.
    pub measured_expanded: Length,
    /// Measured less predicted.
    pub difference: Length,
    /// What both leave open together.
    pub combined: Length,
    /// Whether they agree within that.
    pub agrees: bool,
    /// When they were fitted.
    pub at: Timestamp,
    /// Who fitted them.
    pub by: Person,
}
