//! What a check tells of several possible causes, in bits.
//!
//! * Entropy `H(w) = - sum w log2 w` over weights that add up to one.
//! * A check comes out badly with probability `P(+|h)` under cause `h`. What it tells: `G = H(w) - sum over outcomes P(o) H(w|o)`.
//! * What it found multiplies every weight by the probability of that finding, and the weights are made to add up to one again.

/// Entropy of weights in bits; weights of zero add nothing.
pub fn entropy(weights: &[f64]) -> f64 {
    weights.iter().filter(|w| **w > 0.0).map(|w| -w * w.log2()).sum()
}

/// Weights after a check: `bad` says how it came out, `outcomes` how probable a bad outcome is under each cause. As they were
/// where nothing would be left of any.
pub fn weighed(weights: &[f64], outcomes: &[f64], bad: bool) -> Vec<f64> {
    let product: Vec<f64> = weights.iter().zip(outcomes).map(|(w, p)| w * if bad { *p } else { 1.0 - p }).collect();
    let whole: f64 = product.iter().sum();
    if whole > 0.0 { product.iter().map(|w| w / whole).collect() } else { weights.to_vec() }
}

/// What a check is expected to tell, in bits; never below zero.
///
/// ```
/// use jagged_pin_core::maths::gain;
/// // A bent crank, a crooked tunnel or a wrong size: the straight edge tells 0.47 bits.
/// let told = gain(&[0.45, 0.35, 0.20], &[0.10, 0.90, 0.15]);
/// assert!((told - 0.47).abs() < 0.005, "{told}");
/// ```
pub fn gain(weights: &[f64], outcomes: &[f64]) -> f64 {
    let bad: f64 = weights.iter().zip(outcomes).map(|(w, p)| w * p).sum();
    let after = |came_out| entropy(&weighed(weights, outcomes, came_out));
    (entropy(weights) - bad * after(true) - (1.0 - bad) * after(false)).max(0.0)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn a_check_that_comes_out_alike_under_every_cause_tells_nothing() {
        assert!(gain(&[0.5, 0.3, 0.2], &[0.4, 0.4, 0.4]) < 1e-12);
        assert!((gain(&[0.5, 0.5], &[1.0, 0.0]) - 1.0).abs() < 1e-12, "a sure check of two tells one bit");
    }

    proptest! {
        #[test]
        fn nothing_tells_more_than_there_is_to_know(
            parts in prop::collection::vec((1u32..100, 1u32..100), 2..6),
        ) {
            let whole: f64 = parts.iter().map(|(w, _)| f64::from(*w)).sum();
            let weights: Vec<f64> = parts.iter().map(|(w, _)| f64::from(*w) / whole).collect();
            let outcomes: Vec<f64> = parts.iter().map(|(_, p)| f64::from(*p) / 100.0).collect();
            let told = gain(&weights, &outcomes);
            prop_assert!(told <= entropy(&weights) + 1e-9);
            for bad in [true, false] {
                let after = weighed(&weights, &outcomes, bad);
                prop_assert!((after.iter().sum::<f64>() - 1.0).abs() < 1e-9);
            }
        }
    }
}
