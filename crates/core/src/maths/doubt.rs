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
