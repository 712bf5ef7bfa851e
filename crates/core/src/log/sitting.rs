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

/// What a bore gauge was zeroed in: it decides how much of a clearance the zero leaves open.
///
/// Variance of the clearance, with feel `s`, step `r` and calibration `C` of the mic on the journal (J), the bore gauge (B) and
/// a ring (R), `n` touches:
///
/// | zeroed in | variance |
/// |---|---|
/// | the mic locked on this journal | `s_J^2/n + s_B^2 + r_B^2/12 + s_B^2/n` |
/// | the same mic by its scale | the same `+ 2 r_J^2/12` |
/// | a ring or gauge block | locked `+ r_J^2/12 + (C_J/2)^2 + (C_R/2)^2` |
/// | another mic | locked `+ 2 r_J^2/12 + 2 (C_J/2)^2` |
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum ZeroSource {
    /// The mic just taken off this journal, spindle locked: the only one that carries the size across.
    Locked,
    /// The same mic as on the journals, set by its scale, or locked on another journal of the row.
    SameMic,
    /// A setting ring or a gauge block.
    Ring,
    /// Another mic.
    OtherMic,
}

impl ZeroSource {
    /// Whether the size came from the mic that the journals were read with.
    pub const fn set_by_the_mic(self) -> bool {
        matches!(self, ZeroSource::Locked | ZeroSource::SameMic)
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
    /// For a bore gauge: what it was zeroed in.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub zero: Option<ZeroSource>,
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
