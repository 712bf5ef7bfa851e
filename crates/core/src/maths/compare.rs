//! Do two measurements of one thing agree?
//!
//! `En = |a - b| / sqrt(Ua^2 + Ub^2)`; at or below 1 they agree. With no uncertainty on either side
//! they agree only when equal, and there is no `En`.
//!
//! ```
//! use jagged_pin_core::maths::compare;
//! use jagged_pin_core::Length;
//!
//! let um = Length::microns;
//! let c = compare((um(60), um(8)), (um(50), um(6)));
//! assert_eq!((c.difference, c.en, c.agree), (um(10), Some(1.0), true));
//! ```
use crate::units::Length;

/// How two values with their expanded uncertainties stand to each other.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Comparison {
    /// First less second.
    pub difference: Length,
    /// The ratio of difference to combined uncertainty; `None` when both uncertainties are zero.
    pub en: Option<f64>,
    /// Whether the difference is explained by the uncertainties.
    pub agree: bool,
}

/// Compares two `(value, expanded uncertainty)` pairs. Uncertainties must not be negative.
pub fn compare(a: (Length, Length), b: (Length, Length)) -> Comparison {
    let difference = a.0 - b.0;
    let square = |l: Length| i128::from(l.nm()).saturating_pow(2);
    let combined = square(a.1).saturating_add(square(b.1));
    Comparison {
        difference,
        en: (combined > 0).then(|| difference.as_f64().abs() / (combined as f64).sqrt()),
        // Squares are whole numbers, so exactly 1 agrees whatever a float would make of it.
        agree: square(difference) <= combined,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn it_does_not_matter_who_is_named_first(a in -900i64..900, b in -900i64..900, ua in 0i64..90, ub in 0i64..90) {
            let (a, b) = ((Length::from_nm(a), Length::from_nm(ua)), (Length::from_nm(b), Length::from_nm(ub)));
            let (x, y) = (compare(a, b), compare(b, a));
            prop_assert_eq!((x.difference, x.en, x.agree), (-y.difference, y.en, y.agree));
            if let Some(en) = x.en {
                prop_assert!((en <= 1.0 + 1e-9) == x.agree || (en - 1.0).abs() < 1e-9);
            }
        }
    }

    #[test]
    fn without_doubt_only_equal_values_agree() {
        let z = Length::ZERO;
        assert!(compare((Length::tenths(21), z), (Length::tenths(21), z)).agree);
        let c = compare((Length::tenths(21), z), (Length::tenths(22), z));
        assert_eq!((c.en, c.agree), (None, false));
    }
}
