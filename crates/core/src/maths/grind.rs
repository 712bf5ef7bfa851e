//! The grind plan: to which size all mains, or all pins, are ground for an undersize of shells.
//!
//! `clearance = bearing - undersize - size`, with the bearing's inside diameter over standard shells. A
//! crank is ground to one size: it begins in the middle of the bearings' wishes
//! (`bearing - undersize - aim`), moves to where even the grinder's tolerance keeps every bearing in its window,
//! and no further up than what cleans up every journal at the grinder's upper limit.
//!
//! ```
//! use jagged_pin_core::Length;
//! use jagged_pin_core::maths::{GroundBearing, grind_options};
//! use jagged_pin_core::maths::Target;
//!
//! let t = Length::tenths;
//! let target = Target { low: t(16), aim: t(20), high: t(25) };
//! let bearings = [
//!     GroundBearing { over_std: t(20_021), smallest: t(19_991), clean_up: t(10) },
//!     GroundBearing { over_std: t(20_019), smallest: t(19_990), clean_up: t(12) },
//! ];
//! let ten = &grind_options(target, t(2), &bearings, &[t(100)])[0];
//! assert_eq!((ten.size, ten.feasible()), (t(19_900), true));
//! assert_eq!(ten.bearings[0].clearance, t(21));
//! ```
use super::target::Target;
use crate::units::Length;

/// A bearing of the crank that is to be ground.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct GroundBearing {
    /// Inside diameter over standard shells.
    pub over_std: Length,
    /// Smallest measured diameter of its journal.
    pub smallest: Length,
    /// What must come off the diameter to clean it up.
    pub clean_up: Length,
}

/// What a size does to one bearing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct GroundPrediction {
    /// Clearance at the size.
    pub clearance: Length,
    /// Clearance at the grinder's upper limit.
    pub low: Length,
    /// Clearance at the grinder's lower limit.
    pub high: Length,
    /// Whether all of that is inside the window.
    pub inside: bool,
}

/// Why an undersize does not do.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum GrindObstacle {
    /// The journals do not clean up at the size that the clearance wants: too much has to come off.
    DoesNotCleanUp,
    /// The bearings differ so much, or the grinder's tolerance is so wide, that one size does not serve all.
    OneSizeDoesNotServe,
}

/// Grinding for one undersize.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Grind {
    /// The undersize.
    pub undersize: Length,
    /// The size to grind to.
    pub size: Length,
    /// What is against it, if anything.
    pub against: Option<GrindObstacle>,
    /// What it does to each bearing, in their order.
    pub bearings: Vec<GroundPrediction>,
}

impl Grind {
    /// Whether every bearing stays in its window whatever the grinder makes of the tolerance.
    pub fn feasible(&self) -> bool {
        self.against.is_none()
    }
}

/// The options for each undersize, in their order. `tolerance` is the grinder's, to either side; there
/// must be a bearing.
pub fn grind_options(
    target: Target,
    tolerance: Length,
    bearings: &[GroundBearing],
    undersizes: &[Length],
) -> Vec<Grind> {
    undersizes.iter().map(|u| option(target, tolerance, bearings, *u)).collect()
}

/// The smallest undersize that does.
pub fn smallest_feasible(options: &[Grind]) -> Option<&Grind> {
    options.iter().filter(|o| o.feasible()).min_by_key(|o| o.undersize)
}

fn option(target: Target, tolerance: Length, bearings: &[GroundBearing], undersize: Length) -> Grind {
    let bores = || bearings.iter().map(|b| b.over_std - undersize);
    let (smallest, largest) = (bores().min().unwrap_or_default(), bores().max().unwrap_or_default());
    let middle = Length::mean(&[smallest - target.aim, largest - target.aim]).unwrap_or_default();
    let (from, to) = (largest - target.high + tolerance, smallest - target.low - tolerance);
    let serves = from <= to;
    let wanted = if serves { middle.clamp(from, to) } else { middle };
    let clean = bearings.iter().map(|b| b.smallest - b.clean_up).min().unwrap_or(wanted) - tolerance;
    let size = wanted.min(clean);
    let predicted = |bore: Length| {
        let clearance = bore - size;
        let (low, high) = (clearance - tolerance, clearance + tolerance);
        GroundPrediction { clearance, low, high, inside: low >= target.low && high <= target.high }
    };
    let bearings: Vec<GroundPrediction> = bores().map(predicted).collect();
    let against = if bearings.iter().all(|b| b.inside) {
        None
    } else if serves {
        Some(GrindObstacle::DoesNotCleanUp)
    } else {
        Some(GrindObstacle::OneSizeDoesNotServe)
    };
    Grind { undersize, size, against, bearings }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn what_is_feasible_cleans_up_and_serves_at_both_ends_of_the_tolerance(
            bearings in prop::collection::vec((0i64..10, 0i64..30, 0i64..15), 1..8),
            tolerance in 0i64..4,
        ) {
            let t = Length::tenths;
            let target = Target { low: t(16), aim: t(20), high: t(25) };
            let bearings: Vec<GroundBearing> = bearings
                .into_iter()
                .map(|(b, s, c)| GroundBearing { over_std: t(20_015 + b), smallest: t(19_970 + s), clean_up: t(c) })
                .collect();
            let all = grind_options(target, t(tolerance), &bearings, &[t(200), t(100), t(0)]);
            for grind in &all {
                for end in [grind.size - t(tolerance), grind.size + t(tolerance)] {
                    for b in &bearings {
                        prop_assert!(end <= b.smallest - b.clean_up);
                        let clearance = b.over_std - grind.undersize - end;
                        prop_assert!(!grind.feasible() || (target.low..=target.high).contains(&clearance));
                    }
                }
            }
            let smaller = |u: Length| all.iter().any(|o| o.feasible() && o.undersize < u);
            prop_assert!(smallest_feasible(&all).is_none_or(|c| c.feasible() && !smaller(c.undersize)));
        }

        #[test]
        fn what_is_not_feasible_has_no_size_that_serves(
            bores in prop::collection::vec(0i64..14, 1..6),
            tolerance in 0i64..5,
            clean in -20i64..20,
        ) {
            let t = Length::tenths;
            let target = Target { low: t(16), aim: t(20), high: t(25) };
            let bearings: Vec<GroundBearing> = bores
                .iter()
                .map(|b| GroundBearing { over_std: t(20_015 + b), smallest: t(20_000 + clean), clean_up: t(0) })
                .collect();
            let grind = &grind_options(target, t(tolerance), &bearings, &[t(0)])[0];
            let serves = |size: i64| bores.iter().all(|b| {
                let clearance = 20_015 + b - size;
                size + tolerance <= 20_000 + clean && clearance - tolerance >= 16 && clearance + tolerance <= 25
            });
            prop_assert_eq!(grind.feasible(), (19_950..20_030).any(serves));
        }
    }
}
