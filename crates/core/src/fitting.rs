//! Shells that were fitted, what was predicted of them, and what the gauges said afterwards.
//!
//! Fitting other halves ends what was known of a bearing's bore. What the choice predicted stands in until the
//! bearing is measured again: *predicted*, never judged. It stands as long as nothing else is done to the
//! journal, the housing or the shells. Measured again, prediction and measurement stay side by side:
//!
//! `difference = measured - predicted`, and beyond `sqrt(U_measured^2 + U_predicted^2)` something is not as it
//! was thought: a half of another class, a shell not seated, a gauge that walked.
//!
//! ```
//! use jagged_pin_core::Length;
//! use jagged_pin_core::fitting::differs;
//!
//! let t = Length::tenths;
//! // 2.4 thou predicted, 2.6 measured, each to a tenth: two tenths are more than 1.4.
//! let (difference, combined, agrees) = differs((t(26), t(1)), (t(24), t(1)));
//! assert_eq!((difference, combined.nm(), agrees), (t(2), 3_592, false));
//! ```

use serde::{Deserialize, Serialize};

use crate::Length;
use crate::build::{LONGEST_TEXT, check_text};
use crate::fact::{Fact, Person, Timestamp, What};
use crate::feature::Part;
use crate::layout::Layout;
use crate::stale::Barriers;
use crate::station::{BearingRow, Station};
use crate::target::Target;
use crate::verdict::{Acceptance, Side, State, Window, verdict};

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

/// Difference, combined uncertainty and whether that explains it, of a measured and a predicted clearance with
/// their expanded uncertainties.
pub fn differs(measured: (Length, Length), predicted: (Length, Length)) -> (Length, Length, bool) {
    let difference = measured.0 - predicted.0;
    let combined = Length::from_f64(measured.1.as_f64().hypot(predicted.1.as_f64())).unwrap_or(Length::LIMIT);
    (difference, combined, difference.abs() <= combined)
}

/// The last fitting of a bearing whose prediction still rests on what it was made from.
fn standing<'a>(
    notes: &[&'a Fact],
    layout: &Layout,
    barriers: &Barriers<'_>,
    station: Station,
) -> Option<(&'a Fact, &'a FittedPair)> {
    let (fact, pair) = notes.iter().rev().find_map(|f| match &f.what {
        What::Fitting(fitting) => Some((*f, fitting.pairs.iter().find(|p| p.station == station)?)),
        _ => None,
    })?;
    let moved = barriers.next_at(layout, station, fact.seq).is_some();
    (!moved).then_some((fact, pair))
}

/// What was predicted of a bearing: while nothing is measured the prediction itself, afterwards its check.
pub(crate) fn prediction(
    notes: &[&Fact],
    layout: &Layout,
    barriers: &Barriers<'_>,
    station: Station,
    measured: Option<(Length, Length)>,
    judge: Option<(Target, Acceptance)>,
) -> (Option<Predicted>, Option<PredictionCheck>) {
    let Some((fact, pair)) = standing(notes, layout, barriers, station) else { return (None, None) };
    let (pair, by, at) = (pair.clone(), fact.by.clone(), fact.at);
    if let Some(measured) = measured {
        let (difference, combined, agrees) = differs(measured, (pair.clearance, pair.expanded));
        let (measured, measured_expanded) = measured;
        let check = PredictionCheck { pair, measured, measured_expanded, difference, combined, agrees, at, by };
        return (None, Some(check));
    }
    let predicted = judge.and_then(|(target, acceptance)| {
        let window = Window::between(target.low, target.high)?;
        let v = verdict(pair.clearance, pair.clearance, pair.expanded, window, acceptance);
        Some(Predicted { pair, state: v.state, nearest: v.nearest, seq: fact.seq, by, at })
    });
    (predicted, None)
}

/// The last fitting of a bearing, with its pair.
pub fn last_fitting<'a>(notes: &[&'a Fact], station: Station) -> Option<(&'a Fitting, &'a FittedPair)> {
    notes.iter().rev().find_map(|f| match &f.what {
        What::Fitting(f) => Some((f, f.pairs.iter().find(|p| p.station == station)?)),
        _ => None,
    })
}

/// The halves that are in, by bearing: what set-ups and fittings say, the last word of each bearing. A set-up that
/// repeats what the one before it said says nothing new.
pub fn shells_in(notes: &[&Fact], row: BearingRow) -> Vec<(Station, String, String)> {
    let mut all: Vec<(Station, String, String)> = Vec::new();
    let mut said: Vec<(Station, String, String)> = Vec::new();
    let put = |all: &mut Vec<(Station, String, String)>, new: (Station, String, String)| {
        all.retain(|(s, ..)| *s != new.0);
        all.push(new);
    };
    for fact in notes {
        match &fact.what {
            What::SetUp(s) if s.row == row => {
                let says: Vec<_> = s.shells.iter().map(|s| (s.station, s.upper.clone(), s.lower.clone())).collect();
                says.iter().filter(|new| !said.contains(new)).for_each(|new| put(&mut all, new.clone()));
                said = says;
            }
            What::Fitting(f) if f.row == row => {
                f.pairs.iter().for_each(|p| put(&mut all, (p.station, p.upper.clone(), p.lower.clone())));
            }
            _ => {}
        }
    }
    all
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
