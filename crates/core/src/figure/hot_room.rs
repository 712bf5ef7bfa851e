//! What is left when the engine is hot: of ring gaps and of pistons in their bores.
//!
//! * A ring closes by `pi B (a_ring dT_ring - a_bore dT_bore)`; what is left of the smallest gap less its doubt stays above the
//!   floor, or the work stops: butted rings break pistons.
//! * A piston by **allowance**: it closes by what the builder says; by **expansion**: each size grows by itself. Skirts flex, so
//!   that the latter is an estimate.
//!
//! By the third reckoning a ring lies in the wall it runs on, iron liners in most light blocks, and a piston grows as its own
//! alloy does: where nobody said which, nothing is estimated.
use serde::Serialize;

use crate::engine::{Closes, Figure, Layout};
use crate::log::{HotRunning, Reckoning};
use crate::maths::{Alloy, Body, gap_closes, hot_piston_to_wall};
use crate::units::Length;

/// By which school it is reckoned.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum HotBy {
    /// The builder's own figure.
    Allowance,
    /// Expansion arithmetic.
    Expansion,
}

/// What is left hot.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HotRoom {
    /// By which school.
    pub by: HotBy,
    /// What it closes by.
    pub closes: Length,
    /// What is left at the tightest place, the doubt taken off.
    pub left: Length,
    /// What has to be left.
    pub floor: Length,
    /// Whether less is left: nobody signs that.
    pub stops: bool,
    /// Whether it is an estimate that stops nothing: skirts flex, and by arithmetic alone good pistons have no room.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub estimate: bool,
}

/// Expansion of a ring of iron, per kelvin.
const RING_ALPHA: f64 = 11.0e-6;

/// What a figure leaves hot at its smallest, less what the gauges leave open, by every school that has its figures; nothing
/// for what does not close.
pub(crate) fn hot_rooms(
    layout: &Layout,
    figure: Figure,
    (smallest, expanded): (Length, Length),
    (hot, reckoning): (HotRunning, Reckoning),
) -> Vec<HotRoom> {
    let body = |c: i16, alpha_per_k: f64| Body { temperature_c: f64::from(c), alpha_per_k };
    let Some((closes, bore)) = figure.row().hot.zip(layout.cylinders.as_ref().map(|c| c.bore)) else {
        return Vec::new();
    };
    let (of_wall, alloy) = match reckoning {
        Reckoning::First | Reckoning::Second => (layout.block, Some(Alloy::ForgedLowSilicon)),
        Reckoning::Third => (layout.wall_material(), layout.cylinders.as_ref().and_then(|c| c.alloy)),
    };
    let wall = body(hot.bore_c, of_wall.alpha());
    let tightest = smallest - expanded;
    let room = |by, closes: Length, floor: Length| {
        let left = tightest - closes;
        HotRoom { by, closes, left, floor, stops: left < floor, estimate: false }
    };
    if closes == Closes::Piston {
        let grown = alloy.and_then(|alloy| {
            let skirt = (bore - smallest, body(hot.skirt_c, alloy.alpha()));
            hot_piston_to_wall((bore, bore, wall), skirt).map(|hot| smallest - hot.tight)
        });
        let estimate =
            |closes| HotRoom { stops: false, estimate: true, ..room(HotBy::Expansion, closes, Length::ZERO) };
        let by_arithmetic = grown.map(estimate);
        let allowed = hot.piston_closes.map(|closes| room(HotBy::Allowance, closes, Length::ZERO));
        return allowed.into_iter().chain(by_arithmetic).collect();
    }
    let gap = Length::from_f64(gap_closes(bore, body(hot.ring_c, RING_ALPHA), wall));
    gap.map(|closes| room(HotBy::Expansion, closes, hot.ring_floor)).into_iter().collect()
}
