//! The targets in force: those of the rows, and those of single stations.
use std::collections::BTreeMap;

use serde::Serialize;

use crate::build::Build;
use crate::engine::{BearingRow, Figure, Place, PlaceKind};
use crate::log::{AimMade, Fact, TargetChange, WearRange, What};
use crate::maths::{GrowthAssumptions, Target, TargetRule, TargetSource, housing_growth};
use crate::units::{Length, Person, Timestamp};

/// The targets in force, by figure: those of the rows, of one kind of place, and of single places.
pub(crate) struct Targets {
    rows: BTreeMap<(Figure, BearingRow), TargetInForce>,
    kinds: BTreeMap<(Figure, PlaceKind), TargetInForce>,
    own: BTreeMap<(Figure, Place), TargetInForce>,
}

impl Targets {
    pub fn of(build: &Build, notes: &[&Fact]) -> Self {
        let mut targets = Targets { rows: BTreeMap::new(), kinds: BTreeMap::new(), own: BTreeMap::new() };
        for fact in notes {
            let What::Target(change) = &fact.what else { continue };
            let figure = change.of();
            let row = change.station.map_or(change.row, Place::row);
            let in_force = change.rule.and_then(|rule| in_force(build, fact, change, figure, row, rule));
            match (change.station, in_force) {
                (Some(place), Some(target)) => {
                    targets.own.insert((figure, place), target);
                }
                (Some(place), None) => {
                    targets.own.remove(&(figure, place));
                }
                (None, Some(target)) => match change.kind {
                    Some(kind) => {
                        targets.kinds.insert((figure, kind), target);
                    }
                    None => {
                        targets.rows.insert((figure, row), target);
                        // What is said of the whole row is said of each kind of place along it.
                        targets.kinds.retain(|(of, kind), _| *of != figure || kind.row().row != row);
                    }
                },
                (None, None) => {
                    if let Some(kind) = change.kind {
                        targets.kinds.remove(&(figure, kind));
                    }
                }
            }
        }
        targets
    }

    /// The target of a figure at a place.
    pub fn at(&self, figure: Figure, place: Place) -> Option<&TargetInForce> {
        let own = self.own.get(&(figure, place));
        own.or_else(|| self.kinds.get(&(figure, place.kind()))).or_else(|| self.of_row(figure, place.row()))
    }

    /// The target of a figure for a whole row.
    pub fn of_row(&self, figure: Figure, row: BearingRow) -> Option<&TargetInForce> {
        self.rows.get(&(figure, row))
    }
}

fn in_force(
    build: &Build,
    fact: &Fact,
    change: &TargetChange,
    figure: Figure,
    row: BearingRow,
    rule: TargetRule,
) -> Option<TargetInForce> {
    let shaft = build.layout.shaft_of(figure, row);
    let expansion = matches!(rule, TargetRule::Hot { .. }).then(|| {
        let assumptions = match (row, build.layout.rods.as_ref()) {
            (BearingRow::Rods, Some(rods)) => GrowthAssumptions::of_rod(rods.material),
            _ => GrowthAssumptions::usual(build.layout.block),
        };
        Expansion { growth: housing_growth(shaft, assumptions), assumptions }
    });
    Some(TargetInForce {
        window: rule.resolve_within(shaft, &figure.believed(shaft)).ok()?,
        rule,
        source: change.source,
        wear: change.wear,
        made_of: change.made_of.clone(),
        reason: change.reason.clone(),
        by: fact.by.clone(),
        at: fact.at,
        own: change.station.is_some(),
        version: fact.seq,
        expansion,
    })
}

/// A target and where it comes from.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TargetInForce {
    /// The window and the aim.
    pub window: Target,
    /// As it was stated.
    pub rule: TargetRule,
    /// Whose figure it is.
    pub source: TargetSource,
    /// The factory's wear range, which is no target.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub wear: Option<WearRange>,
    /// What its aim is a sum of.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub made_of: Option<AimMade>,
    /// Why it was set.
    pub reason: String,
    /// Who set it.
    pub by: Person,
    /// When.
    pub at: Timestamp,
    /// Whether it is this station's own.
    pub own: bool,
    /// Sequence number of the change: its version.
    pub version: u32,
    /// For a target stated hot: what expansion arithmetic says of the growth, beside the allowance.
    pub expansion: Option<Expansion>,
}

/// Growth by expansion arithmetic, with what it assumes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Expansion {
    /// The estimated growth.
    pub growth: Length,
    /// What it rests on.
    pub assumptions: GrowthAssumptions,
}
