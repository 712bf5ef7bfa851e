//! What is left of a ring's gap and of a piston's room when the engine runs, and how much hotter it may get.
//!
//! All sizes at 20 degrees. A gap closes by `pi B (a_ring (T_ring - 20) - a_wall (T_wall - 20))`
//! ([`gap_closes`](super::gap_closes)); a piston and its bore each grow to `size (1 + a (T - 20))`.
use std::f64::consts::PI;

use super::{Body, OneSided, gap_closes, one_sided};
use crate::units::Length;

/// The reference temperature in degrees Celsius.
const REFERENCE_C: f64 = 20.0;

/// A ring when the engine runs; lengths in nanometres.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct HotRing {
    /// What its gap closes by; negative where it opens.
    pub closing: f64,
    /// What is left of the gap.
    pub hot: f64,
    /// What that is more than the floor.
    pub spare: f64,
    /// The spare judged by the doubt of the gap.
    pub state: OneSided,
    /// Whether the ends touch, to the nanometre.
    pub butts: bool,
    /// The smallest cold gap that is proven to leave the floor.
    pub wanted: f64,
    /// The temperature of the ring at which its ends touch, the wall as it is; in degrees Celsius.
    pub butts_at: f64,
}

/// A ring with that gap and its doubt in a bore, warm; `None` where what it closes by is beyond every length.
pub fn hot_ring(bore: Length, gap: (Length, Length), floor: Length, ring: Body, wall: Body) -> Option<HotRing> {
    let (gap, expanded) = gap;
    let closing = gap_closes(bore, ring, wall);
    let hot = gap.as_f64() - closing;
    let spare = hot - floor.as_f64();
    let grown = gap.as_f64() / (PI * bore.as_f64()) + wall.alpha_per_k * (wall.temperature_c - REFERENCE_C);
    Some(HotRing {
        closing,
        hot,
        spare,
        state: one_sided(Length::from_f64(spare)?, expanded),
        butts: Length::from_f64(hot)? <= Length::ZERO,
        wanted: (floor + expanded).as_f64() + closing,
        butts_at: REFERENCE_C + grown / ring.alpha_per_k,
    })
}

/// A piston in its bore when the engine runs; lengths in nanometres.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct HotFit {
    /// The room when both are cold.
    pub cold: Length,
    /// What is left of it.
    pub hot: f64,
    /// What that is more than the floor.
    pub spare: f64,
    /// The spare judged by the doubt of the cold room.
    pub state: OneSided,
    /// The temperature of the piston at which it meets the wall, the wall as it is; in degrees Celsius.
    pub meets_at: f64,
}

/// A piston of that size in a bore, warm; `None` where either would shrink to nothing or outgrow every length.
pub fn hot_piston(
    (bore, wall): (Length, Body),
    (size, piston): (Length, Body),
    (floor, expanded): (Length, Length),
) -> Option<HotFit> {
    let grown_bore = bore.as_f64() * wall.stretch()?;
    let hot = grown_bore - size.as_f64() * piston.stretch()?;
    let spare = hot - floor.as_f64();
    Some(HotFit {
        cold: bore - size,
        hot,
        spare,
        state: one_sided(Length::from_f64(spare)?, expanded),
        meets_at: REFERENCE_C + (grown_bore / size.as_f64() - 1.0) / piston.alpha_per_k,
    })
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    fn warm(temperature_c: f64, alpha_per_k: f64) -> Body {
        Body { temperature_c, alpha_per_k }
    }

    proptest! {
        #[test]
        fn at_the_temperature_that_is_named_nothing_is_left(
            gap in 20i64..400, wall_c in 60.0f64..140.0, ring_c in 80.0f64..300.0, piston_c in 80.0f64..250.0,
        ) {
            let (bore, wall) = (Length::tenths(34_750), warm(wall_c, 10.8e-6));
            let ring = hot_ring(bore, (Length::tenths(gap), Length::ZERO), Length::ZERO, warm(ring_c, 11.7e-6), wall);
            let at = ring.map_or(0.0, |r| r.butts_at);
            let there = hot_ring(bore, (Length::tenths(gap), Length::ZERO), Length::ZERO, warm(at, 11.7e-6), wall);
            prop_assert!(there.is_some_and(|r| r.hot.abs() < 1e-3));
            let size = bore - Length::tenths(gap);
            let none = (Length::ZERO, Length::ZERO);
            let piston = hot_piston((bore, wall), (size, warm(piston_c, 19.4e-6)), none);
            let meets = piston.map_or(0.0, |p| p.meets_at);
            let met = hot_piston((bore, wall), (size, warm(meets, 19.4e-6)), none);
            prop_assert!(met.is_some_and(|p| p.hot.abs() < 1e-3));
        }

        #[test]
        fn the_gap_that_is_wanted_is_proven(floor in 0i64..80, expanded in 0i64..20, ring_c in 80.0f64..300.0) {
            let (bore, wall, ring) = (Length::tenths(34_750), warm(100.0, 10.8e-6), warm(ring_c, 11.7e-6));
            let (floor, expanded) = (Length::tenths(floor), Length::tenths(expanded));
            let wanted = hot_ring(bore, (Length::ZERO, expanded), floor, ring, wall).map_or(0.0, |r| r.wanted);
            let gap = Length::from_nm(wanted.ceil() as i64);
            let state = |gap| hot_ring(bore, (gap, expanded), floor, ring, wall).map(|r| r.state);
            prop_assert_eq!(state(gap), Some(OneSided::In));
            prop_assert_eq!(state(gap - Length::from_nm(2)).is_some_and(|s| s > OneSided::In), true);
        }
    }
}
