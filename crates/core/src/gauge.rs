//! Kinds of gauge, and what the shop allows each of them by default.

use serde::{Deserialize, Serialize};

use crate::Length;

/// What a gauge can be put on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum GaugeUse {
    /// Shafts: a mic, a caliper.
    Outside,
    /// Holes: a bore gauge.
    Inside,
}

/// A kind of gauge with the shop's default allowances; set-up of a build, copied from the shop when
/// the build is opened.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GaugeKind {
    /// Stable short name.
    pub id: String,
    /// Name people read.
    pub name: String,
    /// What it measures.
    pub measures: GaugeUse,
    /// Smallest step it shows.
    pub resolution: Length,
    /// Shop default of its repeatability: one standard deviation.
    pub repeatability: Length,
    /// Shop default of its calibration: expanded uncertainty, k = 2.
    pub calibration: Length,
}
