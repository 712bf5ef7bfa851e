//! What a shop decides once for a build: which size counts, how limits are guarded, how many touches.

use serde::{Deserialize, Serialize};

use crate::effective::Rule;
use crate::entry::{Cell, CellKind};
use crate::verdict::Acceptance;
use crate::{Length, Unit};

/// The rules of one build.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Rules {
    /// Which of the places counts.
    pub effective: Rule,
    /// Whether the uncertainty guards the limits.
    pub acceptance: Acceptance,
    /// Touches wanted at each place before the next one, 1 to 9.
    pub touches: u8,
    /// Largest believable distance of a size from the expected one.
    pub size_band: Length,
    /// Largest believable distance of a dial from the expected one.
    pub dial_band: Length,
}

impl Rules {
    /// The rules a shop starts with: worst place, guarded limits, two touches.
    pub fn standard(unit: Unit) -> Self {
        Rules {
            effective: Rule::Worst,
            acceptance: Acceptance::Guarded,
            touches: 2,
            size_band: Cell::new(CellKind::Size, unit).band,
            dial_band: Cell::new(CellKind::Dial, unit).band,
        }
    }
}
