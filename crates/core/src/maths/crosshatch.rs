//! The angle that honing strokes cross at.
//!
//! `included angle = 2 atan(2 L n / (pi D N))` with the stroke `L`, `n` full up-and-down cycles and `N` turns a minute.
//!
//! ```
//! use jagged_pin_core::maths::{crosshatch_angle, cycles_for, rpm_for};
//!
//! assert!((crosshatch_angle(5.0 / 3.25, 40.0, 100.0) - 42.787).abs() < 1e-3);
//! assert!((cycles_for(5.0 / 3.25, 45.0, 100.0) - 42.292).abs() < 1e-3);
//! assert!((rpm_for(120.0 / 82.0, 60.0, 50.0) - 80.682).abs() < 1e-3);
//! ```
use std::f64::consts::PI;

/// The included angle in degrees, with the stroke as a multiple of the bore.
pub fn crosshatch_angle(stroke_to_bore: f64, cycles_per_min: f64, rpm: f64) -> f64 {
    2.0 * (2.0 * stroke_to_bore * cycles_per_min / (PI * rpm)).atan().to_degrees()
}

/// Cycles a minute for an included angle below 180 degrees.
pub fn cycles_for(stroke_to_bore: f64, angle: f64, rpm: f64) -> f64 {
    (angle / 2.0).to_radians().tan() * PI * rpm / (2.0 * stroke_to_bore)
}

/// Turns a minute for an included angle above zero.
pub fn rpm_for(stroke_to_bore: f64, angle: f64, cycles_per_min: f64) -> f64 {
    2.0 * stroke_to_bore * cycles_per_min / (PI * (angle / 2.0).to_radians().tan())
}
