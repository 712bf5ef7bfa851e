//! Student's t: what a scatter that was found from few values costs.
use statrs::distribution::{ContinuousCDF, StudentsT};

use super::Kept;

/// The quantile of Student's t with so many degrees of freedom, at least one: a search, and every evaluation asks for the same
/// few again.
pub(crate) fn student(probability: f64, degrees: f64) -> f64 {
    thread_local! {
        // Three series of each row of a few engines.
        static KNOWN: Kept<(f64, f64), f64, 16> = const { Kept::new() };
    }
    let t = || StudentsT::new(0.0, 1.0, degrees).map_or(f64::INFINITY, |t| t.inverse_cdf(probability));
    KNOWN.with(|known| known.get((probability, degrees), t))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn few_degrees_cost_much_and_many_come_to_the_normal_distribution() {
        // Tables: 12.706 with one degree of freedom, 2.228 with ten, 1.960 with any number.
        for (degrees, t) in [(1.0, 12.706), (10.0, 2.228), (1e6, 1.960)] {
            assert!((student(0.975, degrees) - t).abs() < 1e-3, "{degrees}");
        }
    }
}
