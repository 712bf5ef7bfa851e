//! Cold and hot side by side, for mains in a housing that opens more than its journal grows: aluminium and
//! magnesium blocks.
//!
//! Two schools. The **allowance** is the builder's own figure for how much the housing opens; it comes with a target
//! that is stated hot. The **expansion** is arithmetic ([`crate::growth`]) with every assumption in view: an
//! estimate.
//!
//! `hot = cold + growth`

use serde::Serialize;

use crate::Length;
use crate::assessment::{Expansion, TargetInForce};
use crate::build::Build;
use crate::growth::{Assumptions, growth};
use crate::station::Station;
use crate::target::TargetRule;
use crate::temperature::Material;

/// How much a main opens when hot, by both schools.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Growth {
    /// The builder's allowance, where one is stated.
    pub allowance: Option<Length>,
    /// By arithmetic.
    pub expansion: Expansion,
}

/// A clearance hot, by both schools.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Hot {
    /// By the allowance.
    pub allowance: Option<Length>,
    /// By arithmetic.
    pub expansion: Length,
}

impl Growth {
    /// A cold clearance, hot.
    pub fn of(&self, cold: Length) -> Hot {
        Hot { allowance: self.allowance.map(|a| cold + a), expansion: cold + self.expansion.growth }
    }
}

/// How much the housing of a main opens; absent for rods and for iron blocks, which hardly do.
pub fn growth_at(build: &Build, station: Station, target: Option<&TargetInForce>) -> Option<Growth> {
    let opens = matches!(build.layout.block, Material::Aluminium | Material::Magnesium);
    if !opens || !matches!(station, Station::Main(_)) {
        return None;
    }
    let allowance = target.and_then(|t| match t.rule {
        TargetRule::Hot { growth, .. } => Some(growth),
        _ => None,
    });
    let assumptions = Assumptions::usual(build.layout.block);
    let expansion = Expansion { growth: growth(build.layout.journal(station.row()), assumptions), assumptions };
    Some(Growth { allowance, expansion })
}
