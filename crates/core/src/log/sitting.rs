//! A sitting with a gauge: checked when it begins and when it ends.
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::gauge::Gauge;
use crate::units::Length;

/// A gauge put on something whose size is known.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GaugeCheck {
    /// The known size: of a standard, or the reference a bore gauge was set to.
    pub standard: Length,
    /// The size the gauge showed; for a dial, reference and deflection together.
    pub shown: Length,
    /// Text exactly as entered.
    pub raw: String,
}

impl GaugeCheck {
    /// How far the gauge was off: positive when it shows too much.
    pub fn error(&self) -> Length {
        self.shown - self.standard
    }
}

/// A sitting with a gauge begins. The gauge is copied as it is that day.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct SessionOpened {
    /// The gauge.
    pub gauge: Gauge,
    /// The open check; without one its readings are unproven.
    pub check: Option<GaugeCheck>,
}

/// A sitting ends.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct SessionClosed {
    /// The session.
    pub session: Uuid,
    /// The close check; without one nobody knows whether the gauge walked.
    pub check: Option<GaugeCheck>,
}
