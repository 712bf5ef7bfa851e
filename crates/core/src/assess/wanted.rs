//! What to touch next: every journal along the crank first, then every pin, then bearing by bearing.

use serde::Serialize;

use crate::engine::{Feature, Method, Part, Position, Station};
use crate::evidence::FeatureAssessment;
use crate::figure::StationAssessment;
use crate::log::Rules;

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
