//! Packing under the smaller of two seats of unequal size, so that a crank lies level on its blocks:
//! `dh = (D1 - D2) / (2 sin v)`, `v` half of the angle of the V.
use crate::units::Length;

/// The packing under the smaller seat; `None` for a V that is none, or a packing beyond every length.
///
/// ```
/// use jagged_pin_core::Length;
/// use jagged_pin_core::maths::packing;
///
/// let um = Length::microns;
/// // Seats of 55 and 45 mm in a V of 90 degrees: 7.071 mm.
/// assert_eq!(packing(um(55_000), um(45_000), 90.0).map(|dh| dh.nm() / 1_000), Some(7_071));
/// assert_eq!(packing(um(55_000), um(45_000), 0.0), None);
/// ```
pub fn packing(larger: Length, smaller: Length, v_degrees: f64) -> Option<Length> {
    let half = (v_degrees / 2.0).to_radians().sin();
    let is_v = v_degrees > 0.0 && v_degrees < 180.0;
    Length::from_f64((larger - smaller).as_f64() / (2.0 * half)).filter(|_| is_v)
}
