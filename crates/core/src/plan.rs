//! What to touch next: every journal along the crank first, then every bearing.
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
use crate::feature::{Feature, Method, Position, Station};

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
    feature: Feature,
    method: Option<Method>,
    assessed: &FeatureAssessment,
) -> impl Iterator<Item = Wanted> + '_ {
    assessed.positions.iter().flat_map(move |p| {
        let taken = u8::try_from(p.touches.len()).unwrap_or(u8::MAX);
        (1..=p.left).map(move |n| Wanted {
            station,
            feature,
            method,
            position: p.position,
            touch: taken.saturating_add(n),
        })
    })
}

/// Every touch still wanted on a crank, in the order of the work. Bores are listed by both methods: one
/// of them is enough, and whoever measures picks it.
pub fn still_wanted(stations: &[StationAssessment]) -> Vec<Wanted> {
    let journals = stations.iter().flat_map(|s| of_feature(s.station, Feature::MainJournal, None, &s.journal));
    let bearings = stations.iter().flat_map(|s| {
        let direct = of_feature(s.station, Feature::MainBearing, Some(Method::Direct), &s.bore_direct);
        direct.chain(of_feature(s.station, Feature::MainBearing, Some(Method::Subtract), &s.bore_subtract))
    });
    journals.chain(bearings).collect()
}
