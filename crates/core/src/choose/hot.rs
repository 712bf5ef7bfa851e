//! Cold and hot side by side, for bearings in a housing that opens more than its journal grows: mains in aluminium and
//! magnesium blocks, aluminium rods.
//!
//! Two schools. The **allowance** is the builder's own figure for how much the housing opens; it comes with a target
//! that is stated hot. The **expansion** is arithmetic ([`crate::maths`]) with every assumption in view: an
//! estimate.
//!
//! `hot = cold + growth`
use serde::Serialize;

use crate::build::Build;
use crate::engine::{Place, PlaceKind};
use crate::figure::{Expansion, TargetInForce};
use crate::maths::{GrowthAssumptions, Material, TargetRule, housing_growth};
use crate::units::Length;

/// How much a main opens when hot, by both schools.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HotGrowth {
    /// The builder's allowance, where one is stated.
    pub allowance: Option<Length>,
    /// By arithmetic.
    pub expansion: Expansion,
}

/// A clearance hot, by both schools.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HotClearance {
    /// By the allowance.
    pub allowance: Option<Length>,
    /// By arithmetic.
    pub expansion: Length,
}

impl HotGrowth {
    /// A cold clearance, hot.
    pub fn of(&self, cold: Length) -> HotClearance {
        HotClearance { allowance: self.allowance.map(|a| cold + a), expansion: cold + self.expansion.growth }
    }
}

/// How much the housing of a main or a rod opens; absent for iron blocks and steel rods, which hardly do.
pub fn hot_growth_at(build: &Build, station: Place, target: Option<&TargetInForce>) -> Option<HotGrowth> {
    let layout = &build.layout;
    let assumptions = match station.kind() {
        PlaceKind::Main => GrowthAssumptions::usual(layout.block),
        PlaceKind::Rod => GrowthAssumptions::of_rod(layout.rods.as_ref()?.material),
        _ => return None,
    };
    if !matches!(assumptions.block, Material::Aluminium | Material::Magnesium) {
        return None;
    }
    let allowance = target.and_then(|t| match t.rule {
        TargetRule::Hot { growth, .. } => Some(growth),
        _ => None,
    });
    let expansion = Expansion { growth: housing_growth(layout.journal(station.row()), assumptions), assumptions };
    Some(HotGrowth { allowance, expansion })
}
