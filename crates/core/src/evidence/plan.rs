//! How many touches a place still wants.
//!
//! * A position that counts wants the shop's number of touches (two by default), and one more while the first two
//!   differ by more than a step of the gauge.
//! * An advisory position wants one.
//!
//! ```
//! use jagged_pin_core::evidence::touches_left;
//! use jagged_pin_core::Length;
//!
//! let t = Length::tenths;
//! assert_eq!(touches_left(2, false, 1, t(0), t(1)), 1);
//! assert_eq!(touches_left(2, false, 2, t(1), t(1)), 0);
//! assert_eq!(touches_left(2, false, 2, t(2), t(1)), 1);
//! assert_eq!(touches_left(2, false, 3, t(2), t(1)), 0);
//! ```
use crate::units::Length;

/// Touches that ask for a third when they differ.
const PAIR: usize = 2;

/// Touches still wanted at a position with `taken` of them spreading over `spread`.
pub fn touches_left(wanted: u8, advisory: bool, taken: usize, spread: Length, step: Length) -> u8 {
    let base = if advisory { 1 } else { usize::from(wanted) };
    let another = usize::from(taken == PAIR && spread > step);
    u8::try_from(base.saturating_sub(taken).max(another)).unwrap_or(u8::MAX)
}
