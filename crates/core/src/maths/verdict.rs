//! Judging a number against a window, with the uncertainty the gauges leave.
//!
//! Window `[low, high]`, value `v`, expanded uncertainty `U` (the decision rule of ISO 14253-1):
//! *in* when `low + U <= v <= high - U`; *tight* when `v < low - U`; *loose* when `v > high + U`;
//! *edge* for anything else. With simple acceptance `U` counts as nothing for the state.
//!
//! ```
//! use jagged_pin_core::maths::{Acceptance, State, Window, verdict};
//! use jagged_pin_core::Length;
//!
//! let t = Length::tenths;
//! let window = Window::between(t(15), t(25)).unwrap();
//! assert_eq!(verdict(t(17), t(17), t(2), window, Acceptance::Guarded).state, State::In);
//! assert_eq!(verdict(t(14), t(14), t(2), window, Acceptance::Guarded).state, State::Edge);
//! assert_eq!(verdict(t(14), t(14), t(2), window, Acceptance::Simple).state, State::Tight);
//! ```
use serde::{Deserialize, Serialize};

use crate::units::Length;

/// The judgement of a measured value.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum State {
    /// Proven inside the window.
    In,
    /// A limit lies within the uncertainty of the value: proven neither way.
    Edge,
    /// Proven below the window.
    Tight,
    /// Proven above the window.
    Loose,
}

impl State {
    /// The worst of some: tight, loose, edge, in.
    pub fn worst(states: impl IntoIterator<Item = State>) -> Option<State> {
        states.into_iter().min_by_key(|state| match state {
            State::Tight => 0,
            State::Loose => 1,
            State::Edge => 2,
            State::In => 3,
        })
    }
}

/// The limit a margin was measured to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Side {
    /// The lower limit.
    Low,
    /// The upper limit.
    High,
}

/// Whether uncertainty guards the limits.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Acceptance {
    /// A value must be inside by its uncertainty (the default).
    Guarded,
    /// A value must be inside; the uncertainty is not counted.
    Simple,
}

/// The limits a value is judged against: at least one of them.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Window {
    low: Option<Length>,
    high: Option<Length>,
}

impl Window {
    /// A window from its limits; `None` when both are missing or they stand the wrong way round.
    pub fn new(low: Option<Length>, high: Option<Length>) -> Option<Self> {
        match (low, high) {
            (None, None) => None,
            (Some(l), Some(h)) if l > h => None,
            _ => Some(Window { low, high }),
        }
    }

    /// A window with both limits.
    pub fn between(low: Length, high: Length) -> Option<Self> {
        Self::new(Some(low), Some(high))
    }

    /// The lower limit, where it has one.
    pub const fn low(&self) -> Option<Length> {
        self.low
    }

    /// The upper limit, where it has one.
    pub const fn high(&self) -> Option<Length> {
        self.high
    }
}

/// A judged value.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Verdict {
    /// The state.
    pub state: State,
    /// The limit that `margin` was measured to; the low one when both are as near.
    pub nearest: Side,
    /// Whether the value itself lies within the limits, uncertainty aside.
    pub inside: bool,
    /// Distance to the nearest limit, negative outside.
    pub margin: Length,
    /// Whether any value could be proven in: the window is at least `2 U` wide.
    pub decidable: bool,
}

/// Judges the range from `smallest` to `largest` (the same number twice for a single value).
///
/// Tight is judged on the smallest, loose on the largest; the worse state wins in the order tight,
/// loose, edge, in.
pub fn verdict(smallest: Length, largest: Length, expanded: Length, window: Window, acceptance: Acceptance) -> Verdict {
    let guard = match acceptance {
        Acceptance::Guarded => expanded,
        Acceptance::Simple => Length::ZERO,
    };
    // A missing limit is out of reach of any length.
    let above_low = window.low.map_or(Length::LIMIT + Length::LIMIT, |low| smallest - low);
    let below_high = window.high.map_or(Length::LIMIT + Length::LIMIT, |high| high - largest);
    let (nearest, margin) = if above_low <= below_high { (Side::Low, above_low) } else { (Side::High, below_high) };
    let state = if above_low < -guard {
        State::Tight
    } else if below_high < -guard {
        State::Loose
    } else if margin < guard {
        State::Edge
    } else {
        State::In
    };
    let decidable = match (window.low, window.high) {
        (Some(low), Some(high)) => high - low >= expanded + expanded,
        _ => true,
    };
    Verdict { state, nearest, inside: margin >= Length::ZERO, margin, decidable }
}

/// The judgement of a margin to a single limit.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum OneSided {
    /// Proven on the right side of its limit: the limit belongs inside.
    In,
    /// The limit lies within the uncertainty.
    Edge,
    /// Proven beyond it.
    Out,
}

/// Judges a margin, positive inside, with the expanded uncertainty of what it was taken from.
pub fn one_sided(margin: Length, expanded: Length) -> OneSided {
    if margin >= expanded {
        OneSided::In
    } else if margin < -expanded {
        OneSided::Out
    } else {
        OneSided::Edge
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn t(n: i64) -> Length {
        Length::tenths(n)
    }

    fn judge(v: i64, u: i64) -> Option<Verdict> {
        Window::between(t(22), t(28)).map(|w| verdict(t(v), t(v), t(u), w, Acceptance::Guarded))
    }

    #[test]
    fn three_tenths_under_with_one_tenth_of_doubt_is_tight() {
        let v = judge(19, 1);
        assert_eq!(v.map(|v| (v.state, v.margin, v.inside)), Some((State::Tight, t(-3), false)));
    }

    #[test]
    fn exactly_u_outside_is_still_edge_and_exactly_u_inside_is_in() {
        let state = |v| judge(v, 1).map(|v| v.state);
        assert_eq!([state(21), state(22), state(23)], [Some(State::Edge), Some(State::Edge), Some(State::In)]);
        assert_eq!([state(27), state(29), state(30)], [Some(State::In), Some(State::Edge), Some(State::Loose)]);
    }

    #[test]
    fn a_window_narrower_than_twice_the_doubt_proves_nothing_in() {
        let v = judge(25, 4);
        assert_eq!(v.map(|v| (v.state, v.decidable)), Some((State::Edge, false)));
    }

    #[test]
    fn a_maximum_only_cannot_be_tight() {
        let w = Window::new(None, Some(t(3)));
        let v = w.map(|w| verdict(t(-500), t(-500), t(1), w, Acceptance::Guarded));
        assert_eq!(v.map(|v| (v.state, v.nearest, v.decidable)), Some((State::In, Side::High, true)));
    }

    #[test]
    fn a_single_limit_belongs_inside_and_its_doubt_to_the_edge() {
        let states = [2, 1, 0, -1, -2].map(|margin| one_sided(t(margin), t(1)));
        assert_eq!(states, [OneSided::In, OneSided::In, OneSided::Edge, OneSided::Edge, OneSided::Out]);
        assert_eq!(one_sided(Length::ZERO, Length::ZERO), OneSided::In);
    }

    #[test]
    fn limits_the_wrong_way_round_are_no_window() {
        assert!(Window::between(t(28), t(22)).is_none());
        assert!(Window::new(None, None).is_none());
    }

    proptest! {
        #[test]
        fn more_doubt_never_proves_more(v in 0i64..60, u in 0i64..10, more in 0i64..10) {
            let (sure, unsure) = (judge(v, u), judge(v, u + more));
            if let (Some(sure), Some(unsure)) = (sure, unsure) {
                prop_assert!(unsure.state == sure.state || unsure.state == State::Edge);
                prop_assert_eq!(unsure.margin, sure.margin);
            }
        }

        #[test]
        fn the_state_follows_the_value_along_the_scale(v in 0i64..60, u in 0i64..4) {
            let rank = |v: i64| judge(v, u).map(|v| match (v.state, v.nearest) {
                (State::Tight, _) => 0, (State::Edge, Side::Low) => 1, (State::In, _) => 2,
                (State::Edge, Side::High) => 3, (State::Loose, _) => 4,
            });
            prop_assert!(rank(v) <= rank(v + 1));
        }
    }
}
