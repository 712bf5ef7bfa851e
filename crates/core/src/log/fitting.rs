//! Shells that were fitted, and what was predicted of them.

use serde::{Deserialize, Serialize};

use crate::engine::{BearingRow, Part, Station};
use crate::units::{LONGEST_TEXT, Length, check_text};

/// Halves that were fitted in one bearing, and what was expected of them.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FittedPair {
    /// The bearing.
    pub station: Station,
    /// The upper: its class, or its mark on the tray.
    pub upper: String,
    /// The lower.
    pub lower: String,
    /// The clearance expected.
    pub clearance: Length,
    /// How sure that is.
    pub expanded: Length,
}

/// Shells were fitted.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Fitting {
    /// The row.
    pub row: BearingRow,
    /// The family they are of; absent for shells measured one by one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub family: Option<String>,
    /// Their undersize; zero for standard.
    pub undersize: Length,
    /// The bearings.
    pub pairs: Vec<FittedPair>,
    /// Minutes that were estimated for it, measuring again included.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub estimated: Option<u16>,
    /// Minutes it took, where they are worth keeping.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub minutes: Option<u16>,
    /// Why, and what was seen.
    pub note: String,
}

/// Longest name of a half.
const LONGEST_MARK: usize = 40;

impl Fitting {
    /// Whether it can be: bearings of one row, each once, with figures.
    pub fn is_sound(&self) -> bool {
        let mark = |m: &str| !m.trim().is_empty() && m.chars().count() <= LONGEST_MARK;
        let pair = |p: &FittedPair| {
            let here = p.station.row() == self.row && !matches!(p.station, Station::Pin(_));
            here && mark(&p.upper) && mark(&p.lower) && p.clearance.in_limits() && p.expanded >= Length::ZERO
        };
        let once = (1..self.pairs.len()).all(|i| self.pairs[..i].iter().all(|p| p.station != self.pairs[i].station));
        let noted = check_text(&self.note, "the note").is_ok() && self.note.chars().count() <= LONGEST_TEXT;
        !self.pairs.is_empty() && self.pairs.iter().all(pair) && once && noted && self.undersize >= Length::ZERO
    }

    /// Whether it ends the evidence about that part of a station.
    pub fn ends(&self, station: Station, part: Part) -> bool {
        matches!(part, Part::Bore | Part::UpperWall | Part::LowerWall | Part::Strip)
            && self.pairs.iter().any(|p| p.station == station)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn fitting(stations: &[Station]) -> Fitting {
        let pair = |station: &Station| FittedPair {
            station: *station,
            upper: "std".into(),
            lower: "+1".into(),
            clearance: Length::tenths(24),
            expanded: Length::tenths(1),
        };
        Fitting {
            row: BearingRow::Mains,
            family: Some("CM".into()),
            undersize: Length::ZERO,
            pairs: stations.iter().map(pair).collect(),
            estimated: None,
            minutes: None,
            note: "tight".into(),
        }
    }

    #[test]
    fn a_bearing_is_fitted_once_and_only_in_its_row() {
        assert!(fitting(&[Station::Main(2), Station::Main(5)]).is_sound());
        assert!(!fitting(&[Station::Main(2), Station::Main(2)]).is_sound());
        assert!(!fitting(&[Station::Rod(2)]).is_sound());
        assert!(!fitting(&[]).is_sound());
        assert!(fitting(&[Station::Main(2)]).ends(Station::Main(2), Part::Bore));
        assert!(!fitting(&[Station::Main(2)]).ends(Station::Main(2), Part::Journal));
        assert!(!fitting(&[Station::Main(2)]).ends(Station::Main(3), Part::Bore));
    }
}
