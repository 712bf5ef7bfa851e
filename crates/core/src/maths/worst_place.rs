//! The worst of several noisy places reads worse than the part is.
//!
//! Four places of one true size, each read with a standard deviation `u`, show a largest that lies about `u` above it. With
//! `M` the largest of independent normal values around what was read, `bias = E[M] - largest` and the doubt of the corrected
//! value is the standard deviation of `M`. Places that lie well below the largest add nothing. For the smallest everything
//! is mirrored. It takes off two fifths of the bias where all places are alike, more where they differ, and never overdoes
//! it by more than a tenth of `u` (a parametric bootstrap, worked out by integration).
//!
//! ```
//! use jagged_pin_core::maths::{Extreme, worst_place};
//!
//! // Two of four places equal, read to 1 016 nm: what M comes to stands 577 nm above the worst.
//! let nm = |tenths: f64| tenths * 2_540.0;
//! let values = [nm(19_996.0), nm(19_997.0), nm(19_995.0), nm(19_997.0)];
//! let worst = worst_place(Extreme::Largest, &values, 1_016.0);
//! assert!((worst.bias - 576.8).abs() < 0.1, "{worst:?}");
//! assert!((worst.standard - 834.1).abs() < 0.1);
//! // Nothing is doubtful: nothing is biased.
//! assert_eq!(worst_place(Extreme::Smallest, &values, 0.0).bias, 0.0);
//! ```
use std::rc::Rc;

use smallvec::SmallVec;
use statrs::function::erf::erfc;

use super::{Extreme, Kept};

/// What picking the worst of several places does to it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WorstPlace {
    /// By how much the worst reads too far out, in the unit of the values: to be taken off the largest (then it is not
    /// negative) or off the smallest (not positive).
    pub bias: f64,
    /// Standard deviation of the corrected value.
    pub standard: f64,
}

/// A place so many standard deviations behind the worst is never the worst.
const REACH: f64 = 8.0;

/// From where to where the worst of several can lie, in standard deviations around what was read: beyond, less than one part in
/// ten million is left to count.
const FROM: f64 = -5.0;
const TO: f64 = 6.0;

/// Points of the integration for each standard deviation; the trapezoidal rule is exact to many digits from three on.
const POINTS: f64 = 4.0;

/// Points of the whole integration.
const STEPS: usize = ((TO - FROM) * POINTS) as usize + 1;

/// One place at one point of the integration.
#[derive(Debug, Clone, Copy)]
struct There {
    /// How likely it lies below.
    below: f64,
    /// Its density.
    density: f64,
    /// The density over how likely it lies below; zero where it never does.
    rate: f64,
}

/// One place at every point.
type Curve = [There; STEPS];

fn z_at(step: usize) -> f64 {
    step as f64 / POINTS + FROM
}

/// The curve of a place that lies `d` standard deviations behind the worst.
fn curve(d: f64) -> Rc<Curve> {
    thread_local! {
        // Gauges show steps and hands are few, so the same distances come again at most places and in every evaluation: more
        // are kept than a big build has.
        static KNOWN: Kept<u64, Rc<Curve>, 128> = const { Kept::new() };
    }
    let at = |step| {
        let (below, density) = (below(z_at(step) + d), density(z_at(step) + d));
        There { below, density, rate: if below > 0.0 { density / below } else { 0.0 } }
    };
    KNOWN.with(|known| known.get(d.to_bits(), || Rc::new(std::array::from_fn(at))))
}

/// What the places make of one point of the integration.
#[derive(Debug, Clone, Copy)]
struct Point {
    /// How likely all of them lie below it.
    all: f64,
    /// The sum of their densities, each over how likely it lies below.
    each: f64,
}

/// Adds places that read alike: `all` is how likely they lie below a point together, `each` the sum of their rates there.
fn add(points: &mut [Point; STEPS], curve: &Curve, all: impl Fn(f64) -> f64, each: impl Fn(&There) -> f64) {
    for (point, there) in points.iter_mut().zip(curve) {
        point.all *= all(there.below);
        point.each += each(there);
    }
}

fn density(z: f64) -> f64 {
    (-z * z / 2.0).exp() / (2.0 * std::f64::consts::PI).sqrt()
}

fn below(z: f64) -> f64 {
    erfc(-z / std::f64::consts::SQRT_2) / 2.0
}

/// The bias of the worst of `values`, each with standard deviation `standard` of its own, and the doubt left.
pub fn worst_place(extreme: Extreme, values: &[f64], standard: f64) -> WorstPlace {
    let sign = match extreme {
        Extreme::Largest => 1.0,
        Extreme::Smallest => -1.0,
    };
    let largest = values.iter().map(|v| sign * v).fold(f64::NEG_INFINITY, f64::max);
    if standard <= 0.0 || !standard.is_finite() || !largest.is_finite() {
        return WorstPlace { bias: 0.0, standard: 0.0 };
    }
    // Distances below the largest in standard deviations; a place far below it never is the worst.
    let behind = || values.iter().map(|v| (largest - sign * v) / standard).filter(|d| *d < REACH);
    if behind().count() < 2 {
        return WorstPlace { bias: 0.0, standard };
    }
    // Places that were read alike are reckoned once.
    let mut curves: SmallVec<[(f64, Rc<Curve>, i32); 8]> = SmallVec::new();
    for d in behind() {
        match curves.iter_mut().find(|(known, ..)| known.total_cmp(&d).is_eq()) {
            Some((.., times)) => *times = times.saturating_add(1),
            None => curves.push((d, curve(d), 1)),
        }
    }
    // The density of the worst at every point: that of each place while all others lie below it.
    let mut points = [Point { all: 1.0, each: 0.0 }; STEPS];
    for (_, curve, times) in &curves {
        match times {
            1 => add(&mut points, curve, |under| under, |at| at.rate),
            2 => add(&mut points, curve, |under| under * under, |at| 2.0 * at.rate),
            _ => {
                let n = f64::from(*times);
                // Not so many times the rate: what was sealed means the same to the last digit.
                let each = |at: &There| if at.below > 0.0 { n * at.density / at.below } else { 0.0 };
                let all = |under: f64| if *times == 3 { under * (under * under) } else { under.powi(*times) };
                add(&mut points, curve, all, each);
            }
        }
    }
    let (mut mean, mut square) = (0.0, 0.0);
    for (step, Point { all, each }) in points.iter().enumerate() {
        let (z, weight) = (z_at(step), all * each / POINTS);
        mean += z * weight;
        square += z * z * weight;
    }
    let spread = (square - mean * mean).max(0.0).sqrt();
    WorstPlace { bias: sign * mean * standard, standard: spread * standard }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn equal_places_give_the_expected_extremes_of_a_normal_sample() {
        // Expected largest of 2, 3 and 4 standard normal values: 0.5642, 0.8463, 1.0294.
        for (n, expected) in [(1, 0.0), (2, 0.5642), (3, 0.8463), (4, 1.0294)] {
            let worst = worst_place(Extreme::Largest, &vec![10.0; n], 1.0);
            assert!((worst.bias - expected).abs() < 1e-4, "{n}: {worst:?}");
        }
    }

    #[test]
    fn places_well_apart_leave_nothing_to_correct() {
        let worst = worst_place(Extreme::Smallest, &[82_010_000.0, 82_014_000.0], 1_000.0);
        assert!((worst.bias + 0.978).abs() < 0.001 && (worst.standard - 998.04).abs() < 0.01, "{worst:?}");
        assert_eq!(worst_place(Extreme::Largest, &[5.0], 2.0), WorstPlace { bias: 0.0, standard: 2.0 });
        assert_eq!(worst_place(Extreme::Largest, &[], 2.0), WorstPlace { bias: 0.0, standard: 0.0 });
    }

    proptest! {
        #[test]
        fn the_smallest_mirrors_the_largest_and_neither_overdoes_it(
            values in prop::collection::vec(-5_000.0f64..5_000.0, 1..6), standard in 1.0f64..2_000.0,
        ) {
            let mirrored: Vec<f64> = values.iter().map(|v| -v).collect();
            let (largest, smallest) = (worst_place(Extreme::Largest, &values, standard), worst_place(Extreme::Smallest, &mirrored, standard));
            prop_assert!((largest.bias + smallest.bias).abs() < 1e-6);
            prop_assert!(largest.bias >= -1e-9 && largest.bias <= 1.2 * standard);
            prop_assert!(largest.standard > 0.0 && largest.standard <= standard * (1.0 + 1e-9));
        }
    }
}
