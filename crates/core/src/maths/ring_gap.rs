//! End gap of a ring: in another bore, and hot.
//!
//! * A gap follows the bore: `gap + pi (bore - measured in)`, never below nothing.
//! * Hot it closes by `pi D (alpha ring (T ring - 20) - alpha bore (T bore - 20))`.
use std::f64::consts::PI;

use super::Body;
use crate::units::Length;

/// The gap that a ring has in another bore than it was measured in; `None` beyond every length.
pub fn gap_in(bore: Length, gap: Length, measured_in: Length) -> Option<Length> {
    Length::from_f64(gap.as_f64() + PI * (bore - measured_in).as_f64()).map(|gap| gap.max(Length::ZERO))
}

/// What the gap closes when ring and bore are warm, in nanometres.
pub fn gap_closes(bore: Length, ring: Body, wall: Body) -> f64 {
    let grows = |body: Body| body.alpha_per_k * (body.temperature_c - 20.0);
    PI * bore.as_f64() * (grows(ring) - grows(wall))
}
