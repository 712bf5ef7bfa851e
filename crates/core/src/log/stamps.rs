//! Stamps read off the backs of old shells.

use serde::{Deserialize, Serialize};

use crate::engine::Station;

/// What is stamped on the backs of the shells that came out of a bearing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Stamp {
    /// The bearing.
    pub station: Station,
    /// As it can be read.
    pub text: String,
}

/// Stamps of a row; the last word of each bearing counts.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Stamps {
    /// The bearings.
    pub stamps: Vec<Stamp>,
}

impl Stamps {
    /// Whether they can be: bearings, each once, with a text.
    pub fn is_sound(&self) -> bool {
        let stamp = |s: &Stamp| {
            let text = s.text.trim();
            !matches!(s.station, Station::Pin(_)) && !text.is_empty() && text.chars().count() <= 40
        };
        let once = (1..self.stamps.len()).all(|i| self.stamps[..i].iter().all(|s| s.station != self.stamps[i].station));
        !self.stamps.is_empty() && self.stamps.iter().all(stamp) && once
    }
}
