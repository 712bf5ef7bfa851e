//! What to touch next: every journal along the crank first, then every pin, then bearing by bearing.
//!
//! * A position that counts wants the shop's number of touches (two by default), and one more while
//!   the first two differ by more than a step of the gauge.
//! * An advisory position wants one.
//!
//! ```
//! use jagged_pin_core::plan::touches_left;
//! use jagged_pin_core::Length;
//!
//! let t = Length::tenths;
//! assert_eq!(touches_left(2, false, 1, t(0), t(1)), 1);
//! assert_eq!(touches_left(2, false, 2, t(1), t(1)), 0);
//! assert_eq!(touches_left(2, false, 2, t(2), t(1)), 1);
//! assert_eq!(touches_left(2, false, 3, t(2), t(1)), 0);
//! ```

use serde::Serialize;

use crate::Length;
use crate::assessment::{FeatureAssessment, StationAssessment};
use crate::feature::{Feature, Method, Part, Position, Station};
use crate::rules::Rules;

/// A touch that is still wanted.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Wanted {
    /// Where on the engine.
    pub station: Station,
    /// On which feature.
    pub feature: Feature,
    /// For a bore, by which method.
    pub method: Option<Method>,
    /// Where on the feature.
    pub position: Position,
    /// Which touch there, from 1.
    pub touch: u8,
}

/// Touches that ask for a third when they differ.
const PAIR: usize = 2;

/// Touches still wanted at a position with `taken` of them spreading over `spread`.
pub fn touches_left(wanted: u8, advisory: bool, taken: usize, spread: Length, step: Length) -> u8 {
    let base = if advisory { 1 } else { usize::from(wanted) };
    let another = usize::from(taken == PAIR && spread > step);
    u8::try_from(base.saturating_sub(taken).max(another)).unwrap_or(u8::MAX)
}

/// The touches a feature still wants, position by position.
fn of_feature(
    station: Station,
    part: Part,
    method: Option<Method>,
    assessed: &FeatureAssessment,
) -> impl Iterator<Item = Wanted> + '_ {
    let feature = Feature::at(station, part);
    assessed.positions.iter().flat_map(move |p| {
        let taken = u8::try_from(p.touches.len()).unwrap_or(u8::MAX);
        (1..=p.left).filter_map(move |n| {
            let touch = taken.saturating_add(n);
            Some(Wanted { station, feature: feature?, method, position: p.position, touch })
        })
    })
}

/// Whether a housing or a wall is wanted at all: when clearances are made of it, when it was begun, or
/// when what was known of it ended.
fn is_wanted(rules: &Rules, f: &FeatureAssessment) -> bool {
    rules.preferred == Method::Components || f.stale.is_some() || f.taken > 0
}

/// Every touch still wanted, in the order of the work: journals, pins, then bearing by bearing. Bores are
/// listed by both methods: one of them is enough, and whoever measures picks it.
pub fn still_wanted(rules: &Rules, stations: &[StationAssessment]) -> Vec<Wanted> {
    let first_on_its_journal =
        |i: usize| stations.get(..i).is_none_or(|before| before.iter().all(|b| b.journal_at != stations[i].journal_at));
    let own = stations.iter().enumerate().filter(|(i, _)| first_on_its_journal(*i)).map(|(_, s)| s);
    let journals = own.flat_map(|s| of_feature(s.journal_at, Part::Journal, None, &s.journal));
    let bearings = stations.iter().flat_map(|s| {
        let features = s.features().into_iter().filter(|(part, _, f)| match part {
            Part::Journal | Part::Strip => false,
            Part::Bore => rules.preferred != Method::Components || f.taken > 0,
            Part::Housing | Part::UpperWall | Part::LowerWall => is_wanted(rules, f),
        });
        features.flat_map(|(part, method, f)| of_feature(s.station, part, method, f))
    });
    journals.chain(bearings).collect()
}
