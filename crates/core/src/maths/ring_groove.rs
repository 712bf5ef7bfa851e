//! A ring in its groove: side clearance, and what is behind it.
//!
//! * Between blades the clearance is at least the one that goes and less than the one that stops: that interval is judged by
//!   its ends, each with the doubt of the blades.
//! * Back clearance is `(bore - root) / 2 - radial`: a ring that bottoms in its groove seizes. The same to the land says how
//!   far it stands back.
use super::{State, Window};
use crate::units::Length;

/// Judges the interval between a blade that goes and one that stops, each known to `doubt`.
pub fn by_blades(goes: Length, stops: Length, doubt: Length, window: Window) -> State {
    let (low, high) = (window.low(), window.high());
    let inside = low.is_none_or(|low| goes - doubt >= low) && high.is_none_or(|high| stops + doubt <= high);
    if inside {
        State::In
    } else if low.is_some_and(|low| stops + doubt <= low) {
        State::Tight
    } else if high.is_some_and(|high| goes - doubt > high) {
        State::Loose
    } else {
        State::Edge
    }
}

/// Twice the room behind a ring of that depth in a bore: a half is exact in whole nanometres.
pub fn back_clearance(bore: Length, root: Length, radial: Length) -> Length {
    bore - root - radial - radial
}

/// Twice what a ring in the ground of its groove stands below the land; negative where it stands proud.
pub fn below_land(land: Length, root: Length, radial: Length) -> Length {
    back_clearance(land, root, radial)
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    fn t(n: i64) -> Length {
        Length::tenths(n)
    }

    proptest! {
        #[test]
        fn what_blades_prove_is_true_of_every_gap_between_them(
            goes in 1i64..60, more in 1i64..20, doubt in 0i64..4, low in 0i64..60, width in 1i64..40, part in 0.0f64..1.0,
        ) {
            let (stops, high) = (goes + more, low + width);
            let Some(window) = Window::between(t(low), t(high)) else { return Ok(()) };
            // The gap lies anywhere between the blades as they truly are.
            let (least, most) = ((goes - doubt) as f64, (stops + doubt) as f64);
            let gap = least + (most - least) * part;
            match by_blades(t(goes), t(stops), t(doubt), window) {
                State::In => prop_assert!(low as f64 <= gap && gap <= high as f64),
                State::Tight => prop_assert!(gap <= low as f64),
                State::Loose => prop_assert!(gap > high as f64),
                State::Edge => {}
            }
        }
    }

    #[test]
    fn a_blade_on_each_limit_decides_when_the_blades_are_true() {
        let window = Window::between(t(10), t(25)).unwrap();
        assert_eq!(by_blades(t(15), t(25), Length::ZERO, window), State::In);
        assert_eq!(by_blades(t(15), t(25), t(1), window), State::Edge);
        assert_eq!(by_blades(t(5), t(10), Length::ZERO, window), State::Tight);
        assert_eq!(by_blades(t(26), t(30), Length::ZERO, window), State::Loose);
    }

    #[test]
    fn behind_a_ring_is_half_of_what_the_diameters_leave() {
        assert_eq!(back_clearance(t(34_500), t(30_850), t(1_700)), t(250), "twice twelve and a half thou");
        assert_eq!(below_land(t(34_370), t(30_850), t(1_700)), t(120));
    }
}
