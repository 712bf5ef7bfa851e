//! A piston in its bore, cold and hot.
//!
//! Tight is the smallest bore less the piston, loose the largest less the piston. Hot by allowance, something is taken off
//! both; hot by expansion, each size grows to `size (1 + alpha (T - 20))`.
use super::Body;
use crate::units::Length;

/// Piston-to-wall at the tightest and the loosest place.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct PistonToWall {
    /// At the smallest place of the bore.
    pub tight: Length,
    /// At the largest.
    pub loose: Length,
}

/// The fit of a piston in a bore between these sizes.
pub fn piston_to_wall(smallest: Length, largest: Length, piston: Length) -> PistonToWall {
    PistonToWall { tight: smallest - piston, loose: largest - piston }
}

/// The same hot, by expansion; `None` where a body would shrink to nothing or outgrow every length.
pub fn hot_piston_to_wall(bore: (Length, Length, Body), skirt: (Length, Body)) -> Option<PistonToWall> {
    let grown = |size: Length, body: Body| Length::from_f64(size.as_f64() * body.stretch()?);
    let piston = grown(skirt.0, skirt.1)?;
    Some(piston_to_wall(grown(bore.0, bore.2)?, grown(bore.1, bore.2)?, piston))
}
