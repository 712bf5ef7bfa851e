//! Compression ratio, and what comes off deck or head to change it.
//!
//! `volume = chamber + gasket + deck x bore area + piston + crevice`, `ratio = 1 + swept / volume`. Volumes are in cubic
//! centimetres, lengths in nanometres.
//!
//! ```
//! use jagged_pin_core::maths::{area_cm2, ratio};
//!
//! let bore = 3.25 * 25_400_000.0;
//! let swept = area_cm2(bore) * 3.0 * 2.54;
//! assert!((swept - 407.8298).abs() < 1e-4);
//! assert!((ratio(swept, 43.965_766) - 10.276_077).abs() < 1e-5);
//! ```
use std::f64::consts::PI;

/// Nanometres in a centimetre.
pub const NM_PER_CM: f64 = 1e7;

/// Area of a circle in square centimetres, from its diameter in nanometres.
pub fn area_cm2(diameter: f64) -> f64 {
    let cm = diameter / NM_PER_CM;
    PI * cm * cm / 4.0
}

/// The ratio of a cylinder that leaves `volume`, which is above zero.
pub fn ratio(swept: f64, volume: f64) -> f64 {
    1.0 + swept / volume
}

/// What a doubt of the volume leaves open of the ratio.
pub fn ratio_doubt(swept: f64, volume: f64, doubt: f64) -> f64 {
    swept / (volume * volume) * doubt
}

/// What a volume has too much of for a ratio above one; negative where it has too little.
pub fn excess(swept: f64, volume: f64, target: f64) -> f64 {
    volume - swept / (target - 1.0)
}
