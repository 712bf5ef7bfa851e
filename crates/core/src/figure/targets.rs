//! The targets in force: those of the rows, and those of single stations.

use crate::build::Build;
use crate::engine::Station;
use crate::log::{Fact, TargetChange, What};
use crate::maths::{GrowthAssumptions, Target, TargetRule, TargetSource, housing_growth};
use crate::units::{Length, Person, Timestamp};
use serde::Serialize;
use std::collections::HashMap;

/// The targets in force: those of the rows, and those of single stations.
pub(crate) struct Targets {
    pub rows: [Option<TargetInForce>; 2],
    pub own: HashMap<Station, TargetInForce>,
}

impl Targets {
    pub fn of(build: &Build, notes: &[&Fact]) -> Self {
        let mut targets = Targets { rows: [None, None], own: HashMap::new() };
        for fact in notes {
            let What::Target(change) = &fact.what else { continue };
            let TargetChange { station, row, rule, source, reason } = change;
            let row = station.map_or(*row, Station::row);
            let shaft = build.layout.journal(row);
            let in_force = rule.and_then(|rule| {
                let window = rule.resolve(shaft).ok()?;
                let (reason, by) = (reason.clone(), fact.by.clone());
                let own = station.is_some();
                let expansion = matches!(rule, TargetRule::Hot { .. }).then(|| {
                    let assumptions = GrowthAssumptions::usual(build.layout.block);
                    Expansion { growth: housing_growth(shaft, assumptions), assumptions }
                });
                let (source, version) = (*source, fact.seq);
                Some(TargetInForce { window, rule, source, reason, by, at: fact.at, own, version, expansion })
            });
            match (station, in_force) {
                (Some(s), Some(t)) => drop(targets.own.insert(*s, t)),
                (Some(s), None) => drop(targets.own.remove(s)),
                (None, Some(t)) => targets.rows[row as usize] = Some(t),
                (None, None) => {}
            }
        }
        targets
    }

    pub fn at(&self, station: Station) -> Option<&TargetInForce> {
        self.own.get(&station).or(self.rows[station.row() as usize].as_ref())
    }
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
