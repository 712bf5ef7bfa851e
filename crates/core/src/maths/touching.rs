//! What several touches of one place leave open, by a hand that repeats with `s` on a gauge of step `r`.
//!
//! Touches differ by the hand and by the step they are rounded to. A hand that wanders over several steps averages the
//! rounding out with itself; a steady hand rounds the same way every time, and what the step hides stays however often it
//! is touched:
//!
//! * hidden `h^2 = sum over k of r^2 / (2 pi^2 k^2) exp(-4 pi^2 k^2 s^2 / r^2)`: `r^2 / 12` for a steady hand, hardly anything
//!   from half a step on;
//! * seen among repeats `v = s^2 + r^2 / 12 - h^2`;
//! * the mean of `n` touches: `u^2 = h^2 + v / n`.
//!
//! The median of three or more costs the factor of [`super::of_repeat`] on the hand's part and stays on a step, which is why a
//! place counts with the mean of its touches unless they lie farther apart than hand and step explain.
//!
//! ```
//! use jagged_pin_core::maths::Touching;
//!
//! // Three tenths of a step, the usual hand: two touches leave 0.30 of a step, three 0.24, one 0.42.
//! let hand = Touching { s: 0.3, step: 1.0 };
//! let two_decimals = |u: f64| (u * 100.0).round() / 100.0;
//! assert_eq!([1, 2, 3].map(|n| two_decimals(hand.of_mean(n))), [0.42, 0.30, 0.24]);
//! // A steady hand gains nothing by touching again.
//! let steady = Touching { s: 0.0, step: 1.0 };
//! assert!((steady.of_mean(1) - steady.of_mean(5)).abs() < 1e-9);
//! ```
use statrs::function::erf::erf;

use super::doubt::of_repeat;

/// A hand on a gauge.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Touching {
    /// How the hand repeats: one standard deviation without the gauge's rounding.
    pub s: f64,
    /// Step of the gauge, in the same unit.
    pub step: f64,
}

/// Most terms of the sum; each further one is smaller by a power of ten or more, but for a steady hand.
const TERMS: i32 = 40;

/// What a term adds less of than this is lost in rounding, and so are all after it.
const LOST: f64 = 1e-18;

impl Touching {
    /// Variance that the step hides from every repeat.
    pub fn hidden(self) -> f64 {
        let Touching { s, step } = self;
        if step <= 0.0 {
            return 0.0;
        }
        if s <= 0.0 {
            return step * step / 12.0;
        }
        let pi2 = std::f64::consts::PI.powi(2);
        let term = |k: i32| {
            let k2 = f64::from(k).powi(2);
            (-4.0 * pi2 * k2 * (s / step).powi(2)).exp() / (2.0 * pi2 * k2)
        };
        let mut sum = 0.0;
        for more in (1..=TERMS).map(term) {
            sum += more;
            if more <= LOST * sum {
                break;
            }
        }
        step * step * f64::min(sum, 1.0 / 12.0)
    }

    /// How likely two touches of one place show the same figure, wherever it lies between two steps of the gauge: with
    /// `a = s sqrt(2) / step`, `erf(1 / (a sqrt 2)) - a sqrt(2 / pi) (1 - exp(-1 / (2 a^2)))`; always where the hand is steady.
    pub fn alike(self) -> f64 {
        let a = self.s * std::f64::consts::SQRT_2 / self.step.max(f64::MIN_POSITIVE);
        if a <= 0.0 {
            return 1.0;
        }
        let within = erf(1.0 / (a * std::f64::consts::SQRT_2));
        let lost = a * (2.0 / std::f64::consts::PI).sqrt() * (1.0 - (-1.0 / (2.0 * a * a)).exp());
        (within - lost).clamp(0.0, 1.0)
    }

    /// Variance that shows among repeats.
    pub fn seen(self) -> f64 {
        (self.s * self.s + self.step * self.step / 12.0 - self.hidden()).max(0.0)
    }

    /// The hand behind a variance that was seen among repeats on a gauge of that step.
    pub fn behind(seen: f64, step: f64) -> Self {
        // What is seen grows with the hand: halve the bracket until the rest is nothing.
        let (mut low, mut high) = (0.0, seen.max(0.0).sqrt() + step);
        for _ in 0..40 {
            let middle = (low + high) / 2.0;
            if (Touching { s: middle, step }).seen() < seen { low = middle } else { high = middle }
        }
        Touching { s: (low + high) / 2.0, step }
    }

    /// Standard uncertainty of the mean of `n` touches.
    pub fn of_mean(self, n: usize) -> f64 {
        (self.hidden() + self.seen() / n.max(1) as f64).sqrt()
    }

    /// Standard uncertainty of the median of `n` touches, three or more.
    pub fn of_median(self, n: usize) -> f64 {
        of_repeat(self.s, n).hypot(self.step / 12f64.sqrt())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn touches_are_alike_as_often_as_a_hand_over_a_step_makes_them() {
        let alike = |s: f64| Touching { s, step: 1.0 }.alike();
        assert_eq!(alike(0.0), 1.0);
        // Three tenths of a step: two of three pairs; a whole step: a quarter.
        assert!((alike(0.3) - 0.665).abs() < 0.005, "{}", alike(0.3));
        assert!((alike(1.0) - 0.27).abs() < 0.01, "{}", alike(1.0));
    }

    proptest! {
        #[test]
        fn the_hand_is_found_again_from_what_it_shows(s in 0.05f64..5.0) {
            let found = Touching::behind(Touching { s, step: 1.0 }.seen(), 1.0);
            prop_assert!((found.s - s).abs() < 1e-3, "{found:?}");
        }

        #[test]
        fn another_touch_never_makes_the_mean_worse(s in 0.0f64..3.0, n in 1usize..9) {
            let hand = Touching { s, step: 1.0 };
            prop_assert!(hand.of_mean(n + 1) <= hand.of_mean(n));
            prop_assert!(hand.hidden() <= 1.0 / 12.0 + 1e-12 && hand.of_mean(n) <= hand.of_median(n.max(3)) + hand.of_mean(1));
        }
    }
}
