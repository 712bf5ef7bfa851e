//! A request to measure a place again without seeing what was found there first.
use serde::{Deserialize, Serialize};

use crate::engine::{Characteristic, Place};
use crate::units::Person;

/// Somebody is asked to measure a place again without seeing the first values.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct BlindRequest {
    /// Who is asked.
    pub whom: Person,
    /// Where.
    pub station: Place,
    /// What.
    #[serde(rename = "feature")]
    pub characteristic: Characteristic,
}
