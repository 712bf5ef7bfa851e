//! Targets: the window and the aim a clearance is judged against.
//!
//! * **range**: low and high given; the aim is their middle unless given.
//! * **hot**: given for the running engine; the cold window is the hot one less the housing's growth.
//! * **per diameter**: `aim = k x shaft diameter + adder`, window from `aim - below` to `aim + above`
//!   (trade rule of thumb: k = 0.001 in per inch; window -0.0003 / +0.0005 in).
//!
//! ```
//! use jagged_pin_core::maths::TargetRule;
//! use jagged_pin_core::Length;
//!
//! let t = Length::tenths;
//! // A thou per inch of a 2.500 journal, half a thou more for high output.
//! let rule = TargetRule::PerDiameter { per_million: 1_000, adder: t(5), below: t(3), above: t(5) };
//! let target = rule.resolve(t(25_000)).unwrap();
//! assert_eq!((target.low, target.aim, target.high), (t(27), t(30), t(35)));
//! ```
use std::ops::RangeInclusive;

use rust_decimal::Decimal;
use serde::{Deserialize, Serialize};
use thiserror::Error;

use crate::units::Length;

/// Where a target comes from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum TargetSource {
    /// The maker's or supplier's sheet.
    MakersSheet,
    /// The builder's own rule.
    BuildersRule,
    /// The customer's rule book.
    RuleBook,
}

/// How a target is stated.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum TargetRule {
    /// Limits given; the aim is the middle unless given.
    Range {
        /// Lower limit.
        low: Length,
        /// Aim, where it is not the middle.
        aim: Option<Length>,
        /// Upper limit.
        high: Length,
    },
    /// In proportion to the shaft.
    PerDiameter {
        /// Millionths of the shaft diameter: 1 000 is a thou per inch.
        per_million: i64,
        /// Added to the proportion.
        adder: Length,
        /// Window below the aim.
        below: Length,
        /// Window above the aim.
        above: Length,
    },
    /// Stated for the running engine; cold, everything is less by what the housing opens.
    Hot {
        /// Lower limit, hot.
        low: Length,
        /// Aim, hot, where it is not the middle.
        aim: Option<Length>,
        /// Upper limit, hot.
        high: Length,
        /// The builder's allowance for the growth of the housing.
        growth: Length,
    },
}

/// A target worked out for one shaft: `low <= aim <= high`.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Target {
    /// Lower limit.
    pub low: Length,
    /// What the builder wants.
    pub aim: Length,
    /// Upper limit.
    pub high: Length,
}

impl From<Target> for jagged_pin_search::Target {
    fn from(target: Target) -> Self {
        jagged_pin_search::Target { low: target.low.nm(), aim: target.aim.nm(), high: target.high.nm() }
    }
}

/// Why a target is refused.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum TargetError {
    /// The limits stand the wrong way round.
    #[error("low is above high: give the smaller limit as low")]
    LowAboveHigh,
    /// No room between the limits.
    #[error("low and high are the same: nothing can be proven between them")]
    NoWidth,
    /// The aim is not between the limits.
    #[error("the aim lies outside low to high: move the aim or the limits")]
    AimOutside,
    /// An oil clearance below nothing.
    #[error("an oil clearance cannot be aimed below zero")]
    Negative,
    /// A clearance no plain bearing has.
    #[error("the upper limit is over a fiftieth of the journal: is the figure in the right unit?")]
    TooLarge,
}

/// Largest believable oil clearance as a fraction of the shaft: one fiftieth, twenty times the usual
/// thou per inch. A figure in the wrong unit lands beyond it.
const LARGEST_FRACTION: i64 = 50;

/// Reads a proportion such as `0.00105` (inch per inch, or mm per mm) as millionths; `None` when it
/// is no number, has more than six decimals, or is not between 0 and 1.
///
/// ```
/// use jagged_pin_core::maths::parse_proportion;
/// assert_eq!(parse_proportion("0.00105"), Some(1_050));
/// assert_eq!(parse_proportion(",001"), Some(1_000));
/// assert_eq!(parse_proportion("2"), None);
/// ```
pub fn parse_proportion(text: &str) -> Option<i64> {
    let number: Decimal = format!("0{}", text.trim().replace(',', ".")).parse().ok()?;
    let millionths = number.checked_mul(Decimal::from(1_000_000))?;
    let whole = millionths.normalize().scale() == 0 && millionths <= Decimal::from(1_000_000);
    if whole { i64::try_from(millionths).ok() } else { None }
}

impl TargetRule {
    /// Works the rule out for the oil clearance on a shaft.
    ///
    /// # Errors
    /// As [`TargetRule::resolve_within`].
    pub fn resolve(&self, shaft: Length) -> Result<Target, TargetError> {
        self.resolve_within(shaft, &(Length::ZERO..=Length::from_nm(shaft.nm() / LARGEST_FRACTION)))
    }

    /// Works the rule out for a shaft, and believes no limit outside `believed`.
    ///
    /// # Errors
    /// [`TargetError`] when the limits and the aim are out of order or beyond belief.
    pub fn resolve_within(&self, shaft: Length, believed: &RangeInclusive<Length>) -> Result<Target, TargetError> {
        let given = match *self {
            TargetRule::Range { low, aim, high } => [low, aim.unwrap_or_default(), high],
            TargetRule::PerDiameter { adder, below, above, .. } => [adder, below, above],
            TargetRule::Hot { low, aim, high, growth } => [low, aim.unwrap_or_default().max(growth), high],
        };
        if !given.into_iter().all(Length::in_limits) {
            return Err(TargetError::TooLarge);
        }
        let target = match *self {
            TargetRule::Range { low, aim, high } => {
                let middle = Length::mean(&[low, high]).unwrap_or(low);
                Target { low, aim: aim.unwrap_or(middle), high }
            }
            TargetRule::PerDiameter { per_million, adder, below, above } => {
                let part = i128::from(shaft.nm()).saturating_mul(i128::from(per_million));
                let part = Length::from_f64(part as f64 / 1e6).ok_or(TargetError::TooLarge)?;
                let aim = part + adder;
                Target { low: aim - below, aim, high: aim + above }
            }
            TargetRule::Hot { low, aim, high, growth } => {
                let aim = aim.unwrap_or(Length::mean(&[low, high]).unwrap_or(low));
                Target { low: low - growth, aim: aim - growth, high: high - growth }
            }
        };
        if target.low > target.high {
            Err(TargetError::LowAboveHigh)
        } else if target.aim < target.low || target.aim > target.high {
            Err(TargetError::AimOutside)
        } else if target.low < *believed.start() {
            Err(TargetError::Negative)
        } else if target.high > *believed.end() {
            Err(TargetError::TooLarge)
        } else {
            Ok(target)
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn range(low: i64, aim: Option<i64>, high: i64) -> Result<Target, TargetError> {
        let t = Length::tenths;
        TargetRule::Range { low: t(low), aim: aim.map(t), high: t(high) }.resolve(t(26_240))
    }

    #[test]
    fn the_aim_is_the_middle_unless_given() {
        assert_eq!(range(22, None, 28).map(|t| t.aim), Ok(Length::tenths(25)));
        assert_eq!(range(22, Some(24), 28).map(|t| t.aim), Ok(Length::tenths(24)));
    }

    #[test]
    fn a_target_out_of_order_or_in_the_wrong_unit_is_refused() {
        assert_eq!(range(28, None, 22), Err(TargetError::LowAboveHigh));
        assert_eq!(range(22, Some(29), 28), Err(TargetError::AimOutside));
        assert_eq!(range(-1, None, 28), Err(TargetError::Negative));
        // 0.055 to 0.071 mm typed as inches.
        assert_eq!(range(550, None, 710), Err(TargetError::TooLarge));
        let endless = Length::from_nm(i64::MAX);
        let rule = TargetRule::PerDiameter { per_million: 1_000, adder: endless, below: endless, above: endless };
        assert_eq!(rule.resolve(Length::tenths(26_240)), Err(TargetError::TooLarge));
    }

    #[test]
    fn a_hot_target_is_judged_cold_less_the_growth() {
        let um = Length::microns;
        let rule = TargetRule::Hot { low: um(70), aim: None, high: um(90), growth: um(18) };
        let expected = Target { low: um(52), aim: um(62), high: um(72) };
        assert_eq!(rule.resolve(um(60_000)), Ok(expected));
        let too_much = TargetRule::Hot { low: um(10), aim: None, high: um(90), growth: um(18) };
        assert_eq!(too_much.resolve(um(60_000)), Err(TargetError::Negative));
    }

    proptest! {
        #[test]
        fn whatever_is_resolved_is_in_order(k in 0i64..5_000, adder in -10i64..20, below in -5i64..10, above in -5i64..10) {
            let t = Length::tenths;
            let rule = TargetRule::PerDiameter { per_million: k, adder: t(adder), below: t(below), above: t(above) };
            if let Ok(target) = rule.resolve(t(26_240)) {
                prop_assert!(Length::ZERO <= target.low && target.low <= target.aim && target.aim <= target.high);
            }
        }
    }
}
