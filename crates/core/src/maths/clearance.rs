//! Oil clearance by the three methods: bore over torqued shells less journal, on diameter.
//!
//! * **direct** (transfer): bore gauge zeroed at reference `R`, dial read in the bore, on a journal of
//!   size `J`: `clearance = dial + R - J - close_error x elapsed_fraction`.
//! * **subtract**: `clearance = bore - journal`.
//! * **components**: `housing - upper wall - lower wall - journal`. Walls given as catalogue maxima
//!   with a tolerance `t` make a band from both maxima to both minima; the estimate is its middle.
//!
//! ```
//! use jagged_pin_core::maths::{direct_clearance, housing_less_walls};
//! use jagged_pin_core::Length;
//!
//! let t = Length::tenths;
//! // Zeroed at 2.0000, used on 1.9996: the dial's 19 tenths are 23 tenths of clearance.
//! assert_eq!(direct_clearance(t(19), t(20_000), t(19_996), Length::ZERO), t(23));
//! let band = housing_less_walls(t(21_250), t(19_996), t(617), t(618), t(4));
//! assert_eq!((band.low, band.value, band.high), (t(19), t(23), t(27)));
//! ```
use super::terms::{Band, Summand, combine_terms};
use crate::units::Length;

/// Clearance read with a bore gauge set at `reference`; `drift` is what the zero had drifted by then.
pub fn direct_clearance(dial: Length, reference: Length, journal: Length, drift: Length) -> Length {
    let terms = [(1, dial), (1, reference), (-1, journal), (-1, drift)];
    combine_terms(terms.map(|(factor, size)| Summand::new(factor, size))).value
}

/// How far a zero had drifted at `elapsed_fraction` (0 to 1) of a session that closed off by
/// `close_error`: linear in time, rounded to the nanometre.
pub fn zero_drift(close_error: Length, elapsed_fraction: f64) -> Length {
    Length::from_f64(close_error.as_f64() * elapsed_fraction).unwrap_or(close_error)
}

/// Clearance from two sizes measured apart.
pub fn bore_less_journal(bore: Length, journal: Length) -> Length {
    combine_terms([Summand::new(1, bore), Summand::new(-1, journal)]).value
}

/// Clearance from a housing, two shell walls at the crown and a journal.
///
/// With a `wall_tolerance` the walls are catalogue maxima, each really between `wall - tolerance` and
/// `wall`.
pub fn housing_less_walls(
    housing: Length,
    journal: Length,
    wall_upper: Length,
    wall_lower: Length,
    wall_tolerance: Length,
) -> Band {
    let wall = |value| Summand { factor: -1, value, less_by: wall_tolerance };
    combine_terms([Summand::new(1, housing), wall(wall_upper), wall(wall_lower), Summand::new(-1, journal)])
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn the_reference_of_the_bore_gauge_never_matters_by_itself(
            bore in 19_000i64..21_000, journal in 19_000i64..21_000, a in 19_000i64..21_000, b in 19_000i64..21_000
        ) {
            let (bore, journal) = (Length::tenths(bore), Length::tenths(journal));
            let read_at = |r: Length| direct_clearance(bore - r, r, journal, Length::ZERO);
            prop_assert_eq!(read_at(Length::tenths(a)), read_at(Length::tenths(b)));
            prop_assert_eq!(read_at(Length::tenths(a)), bore_less_journal(bore, journal));
        }

        #[test]
        fn the_band_of_catalogue_walls_is_twice_the_tolerance_and_centred(t in 0i64..20, wall in 500i64..1_000) {
            let band = housing_less_walls(Length::tenths(22_000), Length::tenths(20_000), Length::tenths(wall), Length::tenths(wall), Length::tenths(t));
            prop_assert_eq!(band.high - band.low, Length::tenths(2 * t));
            prop_assert_eq!(band.value - band.low, band.high - band.value);
        }
    }

    #[test]
    fn a_zero_that_drifted_is_taken_off_in_proportion_to_the_time() {
        assert_eq!(zero_drift(Length::tenths(1), 0.4), Length::from_nm(1_016));
        let c = direct_clearance(
            Length::tenths(19),
            Length::tenths(20_000),
            Length::tenths(19_996),
            zero_drift(Length::tenths(1), 0.4),
        );
        assert_eq!(c, Length::from_nm(57_404));
    }
}
