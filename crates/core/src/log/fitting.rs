//! Shells that were fitted, and what was predicted of them.
use serde::{Deserialize, Serialize};

use super::ends::Ends;
use crate::engine::{BearingRow, Place, Scope, Tag};
use crate::units::{Flaw, LONGEST_TEXT, Length, Wrong, must, must_be_text, must_count, must_differ};

/// Halves that were fitted in one bearing, and what was expected of them.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FittedPair {
    /// The bearing.
    pub station: Place,
    /// The upper: its class, or its mark on the tray.
    pub upper: String,
    /// The lower.
    pub lower: String,
    /// The clearance expected.
    pub clearance: Length,
    /// How sure that is.
    pub expanded: Length,
}

impl FittedPair {
    /// The same halves without what was expected of them, for somebody who must not see it.
    pub fn without_promise(&self) -> Self {
        FittedPair { clearance: Length::ZERO, expanded: Length::ZERO, ..self.clone() }
    }

    /// Whether anything is promised: nothing is without a doubt.
    pub fn promises(&self) -> bool {
        self.expanded > Length::ZERO
    }
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
/// More bearings than any row has.
const MOST_PAIRS: usize = 64;

impl Fitting {
    /// Checks that it names bearings of one row, each once, with figures.
    ///
    /// # Errors
    /// [`Flaw`] names the part and the line that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        must_count(self.pairs.len(), "pairs", 1, MOST_PAIRS)?;
        for (line, p) in self.pairs.iter().enumerate() {
            let here = p.station.row() == self.row && p.station.is_bearing();
            must(here, Flaw::at("pairs", line, Wrong::Elsewhere("a bearing of the row does")))?;
            must_be_text(&p.upper, "pairs", Some(line), LONGEST_MARK)?;
            must_be_text(&p.lower, "pairs", Some(line), LONGEST_MARK)?;
            let figures = p.clearance.in_limits() && p.expanded >= Length::ZERO && p.expanded.in_limits();
            must(figures, Flaw::at("pairs", line, Wrong::Figure("a clearance and how sure it is")))?;
        }
        must_differ(self.pairs.iter().map(|p| p.station), "pairs")?;
        must(self.undersize >= Length::ZERO, Flaw::of("undersize", Wrong::Figure("zero or more")))?;
        must_be_text(&self.note, "note", None, LONGEST_TEXT)
    }

    /// What it ends, bearing by bearing.
    pub fn ends(&self) -> Vec<Ends> {
        self.pairs.iter().map(|p| Ends { scope: Scope::One(p.station), tags: &[Tag::Shells] }).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn fitting(stations: &[Place]) -> Fitting {
        let pair = |station: &Place| FittedPair {
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
        assert_eq!(fitting(&[Place::main(2), Place::main(5)]).check(), Ok(()));
        assert_eq!(fitting(&[Place::main(2), Place::main(2)]).check(), Err(Flaw::at("pairs", 1, Wrong::Twice)));
        let rod = fitting(&[Place::main(2), Place::rod(2)]).check();
        assert_eq!(rod.map_err(|f| (f.part, f.line)), Err(("pairs", Some(1))));
        assert!(fitting(&[]).check().is_err());
        let ends = fitting(&[Place::main(2)]).ends();
        assert_eq!(ends, [Ends { scope: Scope::One(Place::main(2)), tags: &[Tag::Shells] }]);
    }
}
