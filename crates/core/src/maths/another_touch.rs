//! What one more touch can do for a verdict that is open: when to stop touching.
//!
//! A figure lies on the edge while a limit is nearer than its expanded uncertainty `U`. More touches take the part of `U` away
//! that repeats leave, and move the value by about half of what they take: with `U_n` left, it may be told from its limit where
//! `|distance| + sqrt(U^2 - U_n^2) / 2 > U_n`. Where not even any number of touches can, none decides it. Another is worth its
//! while where it may tell by itself, takes a twentieth off `U`, and a place that decides has fewer than five.
//!
//! ```
//! use jagged_pin_core::maths::{AnotherTouch, Touches, another_touch};
//! use jagged_pin_core::Length;
//!
//! let t = Length::from_nm;
//! let touches = |fewest| Touches { fewest, once_more: t(3_100), endless: t(2_000) };
//! assert_eq!(another_touch(t(2_900), t(3_500), touches(1)), AnotherTouch::MayDecide);
//! assert_eq!(another_touch(t(2_900), t(3_500), touches(5)), AnotherTouch::TooLittle);
//! // At the limit itself nothing is told, whatever is touched: the gauges leave 3 000 nm.
//! let coarse = Touches { fewest: 1, once_more: t(3_100), endless: t(3_000) };
//! assert_eq!(another_touch(t(0), t(3_500), coarse), AnotherTouch::CannotDecide);
//! ```
use serde::Serialize;

use crate::units::Length;

/// More touches at a place tell next to nothing.
pub const MOST_TOUCHES: usize = 5;

/// What has to be left of an uncertainty at most for another touch to be worth its while.
const WORTH_IT: f64 = 0.95;

/// What one more touch at each place that decides would do for a verdict that is open.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum AnotherTouch {
    /// It may decide.
    MayDecide,
    /// It takes too little off the uncertainty: another gauge, method or person tells more.
    TooLittle,
    /// No number of touches decides it: what gauges and temperatures leave is more than the distance to the limit.
    CannotDecide,
}

/// What more touches would leave of the expanded uncertainty of a figure.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Touches {
    /// The fewest touches at a place that decides, so far.
    pub fewest: usize,
    /// Expanded uncertainty after one more at each.
    pub once_more: Length,
    /// Expanded uncertainty after any number of them.
    pub endless: Length,
}

/// What another touch does for a figure on the edge, `distance` from its nearest limit on either side, with the expanded
/// uncertainty as it is `now`.
pub fn another_touch(distance: Length, now: Length, touches: Touches) -> AnotherTouch {
    let away = distance.abs().as_f64();
    // What is left of the uncertainty, once the value moved by a standard deviation of what is taken off it.
    let may_be_told = |left: Length| {
        let (u, left) = (now.as_f64(), left.as_f64());
        away + (u * u - left * left).max(0.0).sqrt() / 2.0 > left
    };
    if !may_be_told(touches.endless) {
        return AnotherTouch::CannotDecide;
    }
    let tells = touches.once_more.as_f64() <= WORTH_IT * now.as_f64() && may_be_told(touches.once_more);
    if touches.fewest >= MOST_TOUCHES || !tells { AnotherTouch::TooLittle } else { AnotherTouch::MayDecide }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn farther_from_the_limit_never_makes_a_touch_more_useless(
            least in 0i64..5_000, repeats in 0i64..5_000, near in 0i64..5_000, farther in 0i64..5_000, fewest in 1usize..8,
        ) {
            let of = |repeats: f64| Length::from_f64((least as f64).hypot(repeats)).unwrap_or_default();
            let more = Touches { fewest, once_more: of(repeats as f64 / 1.4), endless: Length::from_nm(least) };
            let useful = |d: i64| match another_touch(Length::from_nm(d), of(repeats as f64), more) {
                AnotherTouch::CannotDecide => 0,
                AnotherTouch::TooLittle => 1,
                AnotherTouch::MayDecide => 2,
            };
            prop_assert_eq!(useful(near), useful(-near), "either side of a limit alike");
            prop_assert!(useful(near) <= useful(near + farther));
        }

        #[test]
        fn nothing_more_is_asked_of_a_place_that_was_touched_five_times(u in 1i64..9_000, d in 0i64..9_000) {
            let more = Touches { fewest: 5, once_more: Length::ZERO, endless: Length::ZERO };
            prop_assert!(another_touch(Length::from_nm(d), Length::from_nm(u), more) != AnotherTouch::MayDecide);
        }
    }
}
