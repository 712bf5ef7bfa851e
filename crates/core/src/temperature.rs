//! The size a warm part has at 20 C, measured with a gauge that may be warm too.
//!
//! `L20 = L (1 + alpha_gauge (T_gauge - 20)) / (1 + alpha_part (T_part - 20))`: a warm steel mic on an
//! equally warm steel crank needs almost no correction.
//!
//! ```
//! use jagged_pin_core::temperature::{at_20, Body};
//! use jagged_pin_core::Length;
//!
//! let gauge = Body { temperature_c: 20.0, alpha_per_k: 11.5e-6 };
//! let crank = Body { temperature_c: 31.0, alpha_per_k: 11.7e-6 };
//! // A journal at 31 C reads 2.6 tenths large.
//! assert_eq!(at_20(Length::tenths(19_998), crank, gauge), Some(Length::from_nm(50_788_384)));
//! ```

use crate::Length;

/// Lowest temperature there is, in degrees Celsius.
pub const ABSOLUTE_ZERO_C: f64 = -273.15;

/// Something with a temperature: a part or a gauge.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Body {
    /// Temperature in degrees Celsius.
    pub temperature_c: f64,
    /// Linear expansion per kelvin.
    pub alpha_per_k: f64,
}

impl Body {
    /// Length of the body now as a multiple of its length at 20 C; `None` where that is not above
    /// zero, or not a number.
    pub fn stretch(self) -> Option<f64> {
        let stretch = 1.0 + self.alpha_per_k * (self.temperature_c - 20.0);
        (self.temperature_c >= ABSOLUTE_ZERO_C && stretch > 0.0 && stretch.is_finite()).then_some(stretch)
    }
}

/// The size at 20 C of a part read as `size`; `None` when a body has no stretch or the result no
/// longer fits.
pub fn at_20(size: Length, part: Body, gauge: Body) -> Option<Length> {
    Length::from_f64(size.as_f64() * gauge.stretch()? / part.stretch()?)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn a_gauge_of_the_same_steel_and_warmth_needs_no_correction(t in -40.0f64..120.0, tenths in 1i64..100_000) {
            let body = Body { temperature_c: t, alpha_per_k: 11.7e-6 };
            prop_assert_eq!(at_20(Length::tenths(tenths), body, body), Some(Length::tenths(tenths)));
        }

        #[test]
        fn a_part_above_20_is_smaller_when_cool(t in 20.1f64..200.0) {
            let gauge = Body { temperature_c: 20.0, alpha_per_k: 11.5e-6 };
            let part = Body { temperature_c: t, alpha_per_k: 21e-6 };
            prop_assert!(at_20(Length::tenths(20_000), part, gauge) < Some(Length::tenths(20_000)));
        }
    }

    #[test]
    fn nothing_is_colder_than_absolute_zero() {
        assert_eq!(Body { temperature_c: -300.0, alpha_per_k: 0.0 }.stretch(), None);
        assert_eq!(Body { temperature_c: 30.0, alpha_per_k: -0.1 }.stretch(), None);
    }
}
