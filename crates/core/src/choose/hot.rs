//! Cold and hot side by side, for mains in a housing that opens more than its journal grows: aluminium and
//! magnesium blocks.
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

/// How much the housing of a main opens; absent for rods and for iron blocks, which hardly do.
pub fn hot_growth_at(build: &Build, station: Place, target: Option<&TargetInForce>) -> Option<HotGrowth> {
    let opens = matches!(build.layout.block, Material::Aluminium | Material::Magnesium);
    if !opens || station.kind() != PlaceKind::Main {
        return None;
    }
    let allowance = target.and_then(|t| match t.rule {
        TargetRule::Hot { growth, .. } => Some(growth),
        _ => None,
    });
    let assumptions = GrowthAssumptions::usual(build.layout.block);
    let expansion = Expansion { growth: housing_growth(build.layout.journal(station.row()), assumptions), assumptions };
    Some(HotGrowth { allowance, expansion })
}
