//! Standard uncertainties and how they combine: the formulas behind every budget ([`crate::figure::Budget`]).

/// Root of the sum of squares.
pub fn combined(parts: impl Iterator<Item = f64>) -> f64 {
    parts.map(|u| u * u).sum::<f64>().sqrt()
}

/// Share of a contribution, 0 to 1: its square over the sum of squares.
pub fn share(part: f64, combined: f64) -> f64 {
    if combined > 0.0 { (part / combined).powi(2) } else { 0.0 }
}

/// Standard uncertainty of a value known to lie within `+-width`.
pub fn half_width(width: f64) -> f64 {
    width / 3f64.sqrt()
}

/// Standard uncertainty of a value that lies within `+-width`, most likely in the middle.
pub fn triangle(width: f64) -> f64 {
    width / 6f64.sqrt()
}

/// Standard uncertainty of a value shown in steps.
pub fn of_resolution(step: f64) -> f64 {
    step / (2.0 * 3f64.sqrt())
}

/// Standard uncertainty of the value of `n` touches that repeat with a standard deviation `s`.
pub fn of_repeat(s: f64, n: usize) -> f64 {
    let median_cost = match n {
        0..=2 => 1.0,
        3 => 1.16,
        _ => 1.25,
    };
    median_cost * s / (n.max(1) as f64).sqrt()
}

/// Largest angle at which a dial stands to what moves, set by eye: five degrees.
const BY_EYE_DEGREES: f64 = 5.0;

/// Standard uncertainty of a travel read by a dial that is set straight by eye: at an angle `p` it shows
/// `travel / cos p`, anywhere up to five degrees.
///
/// ```
/// use jagged_pin_core::maths::of_angle;
/// // Eleven thou, in tenths: a quarter of a tenth.
/// assert!((of_angle(110.0) - 0.24).abs() < 0.005);
/// ```
pub fn of_angle(travel: f64) -> f64 {
    half_width(travel * (1.0 - BY_EYE_DEGREES.to_radians().cos()))
}
