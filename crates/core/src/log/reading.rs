//! Readings: a touch of the gauge, and one that was struck.
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::sitting::ZeroSource;
use crate::engine::{Characteristic, Place, Position, Read};
use crate::maths::Temperatures;
use crate::units::{Length, Timestamp};

/// A touch of the gauge.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Reading {
    /// Where on the engine.
    pub station: Place,
    /// On what.
    #[serde(rename = "feature")]
    pub characteristic: Characteristic,
    /// Where on it.
    pub position: Position,
    /// The part, where it is not the one that stood at the place: a candidate that is measured beside it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub part: Option<String>,
    /// What was read.
    pub measure: Measure,
    /// The kind of gauge, by its identifier in the build.
    pub gauge: String,
    /// Text exactly as entered.
    pub raw: String,
    /// How it came in.
    pub source: Source,
    /// Kept although it lay outside the sanity band.
    pub forced: bool,
    /// When it was taken, where it waited before it was kept.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub taken: Option<Timestamp>,
    /// The sitting it belongs to, if the gauge was checked into one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub session: Option<Uuid>,
    /// Temperatures noted with it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub temperatures: Option<Temperatures>,
    /// The blind request it answers.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub blind: Option<Uuid>,
    /// For a dial: what the gauge was zeroed in, where somebody said so.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub zero: Option<ZeroSource>,
}

impl Reading {
    /// What the gauge was zeroed in: as said with the reading, else with its sitting; where nobody said, in the mic by its
    /// scale, as most shops do.
    pub fn zeroed_in(&self, sitting: Option<ZeroSource>) -> ZeroSource {
        self.zero.or(sitting).unwrap_or(ZeroSource::SameMic)
    }
}

/// How a reading came in.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Source {
    /// Typed at the bench.
    Typed,
    /// Sent by a gauge.
    Gauge,
    /// Read from a file.
    Imported,
}

/// What a gauge showed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Measure {
    /// A size.
    Size {
        /// The size.
        size: Length,
    },
    /// A dial read on a gauge that was zeroed at a reference.
    Dial {
        /// Deflection from zero.
        dial: Length,
        /// The size the gauge was zeroed at.
        reference: Length,
    },
    /// A part pushed one way, the other, and the first way again, with a dial on it.
    Travel {
        /// What the dial showed at the first end.
        first: Length,
        /// At the other end.
        second: Length,
        /// At the first end again.
        again: Length,
    },
    /// Blades: the gap lies between two of them.
    Blades {
        /// The largest that passes.
        passes: Length,
        /// The smallest that does not.
        refuses: Length,
    },
    /// What an indicator shows at one clock of a part that is turned.
    Turn {
        /// More or less than where it began.
        shown: Length,
    },
}

impl Measure {
    /// The size it amounts to: for a dial, reference and deflection together; for a travel, from end to end; for blades,
    /// half way between them.
    #[inline]
    pub fn size(self) -> Length {
        match self {
            Measure::Size { size } => size,
            Measure::Dial { dial, reference } => reference + dial,
            Measure::Travel { first, second, .. } => (second - first).abs(),
            Measure::Turn { shown } => shown,
            Measure::Blades { passes, refuses } => Length::mean(&[passes, refuses]).unwrap_or(passes),
        }
    }

    /// How the gauge was read.
    pub const fn read(self) -> Read {
        match self {
            Measure::Size { .. } => Read::Size,
            Measure::Dial { .. } => Read::Dial,
            Measure::Travel { .. } => Read::Travel,
            Measure::Blades { .. } => Read::Blades,
            Measure::Turn { .. } => Read::Turn,
        }
    }

    /// Whether it counts for nothing, read on a dial of that step: a push that did not come back to where it began. The
    /// base moved, oil was squeezed, or something was in the way.
    ///
    /// ```
    /// use jagged_pin_core::Length;
    /// use jagged_pin_core::log::Measure;
    ///
    /// let t = Length::tenths;
    /// let pair = |again| Measure::Travel { first: t(0), second: t(111), again: t(again) };
    /// assert_eq!(pair(1).size(), t(111));
    /// assert!(!pair(1).is_void(t(1)) && pair(-2).is_void(t(1)));
    /// ```
    pub fn is_void(self, step: Length) -> bool {
        matches!(self, Measure::Travel { first, again, .. } if (again - first).abs() > step)
    }
}

/// A reading declared wrong; it stays visible and counts no more.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Strike {
    /// The reading.
    pub reading: Uuid,
    /// Why, in the words of whoever decided it.
    pub reason: String,
}
