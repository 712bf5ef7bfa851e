//! A figure made of terms: `value = sum of factor x size`, and the band it lies in where a size is known only as a
//! catalogue maximum that may be less by a tolerance.
//!
//! ```
//! use jagged_pin_core::Length;
//! use jagged_pin_core::maths::{Summand, combine_terms};
//!
//! let t = Length::tenths;
//! // Housing less two catalogue walls, each up to 4 tenths thinner, less journal.
//! let wall = |nominal| Summand { factor: -1, value: nominal, less_by: t(4) };
//! let band = combine_terms([Summand::new(1, t(21_250)), wall(t(617)), wall(t(618)), Summand::new(-1, t(19_996))]);
//! assert_eq!((band.low, band.value, band.high), (t(19), t(23), t(27)));
//! ```
use crate::units::Length;

/// One term of a sum.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Summand {
    /// Added or taken off, and how often.
    pub factor: i8,
    /// The size; the maximum where it may be less.
    pub value: Length,
    /// By how much the size may be less; zero for one that was measured.
    pub less_by: Length,
}

impl Summand {
    /// A size that was measured.
    pub const fn new(factor: i8, value: Length) -> Self {
        Summand { factor, value, less_by: Length::ZERO }
    }
}

/// The value of a sum, and where it can lie.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Band {
    /// Best estimate: the middle.
    pub value: Length,
    /// Lower end.
    pub low: Length,
    /// Upper end; equal to the lower one when every size was measured.
    pub high: Length,
}

/// Adds the terms up. Sizes within [`Length::LIMIT`] cannot overflow: a figure has a handful of terms.
pub fn combine_terms(terms: impl IntoIterator<Item = Summand>) -> Band {
    let (mut low, mut high) = (0_i64, 0_i64);
    for term in terms {
        let times = |l: Length| l.nm().saturating_mul(i64::from(term.factor));
        let (most, least) = (times(term.value), times(term.value - term.less_by));
        low = low.saturating_add(most.min(least));
        high = high.saturating_add(most.max(least));
    }
    let (low, high) = (Length::from_nm(low), Length::from_nm(high));
    let value = if low == high { low } else { Length::mean(&[low, high]).unwrap_or(low) };
    Band { value, low, high }
}
