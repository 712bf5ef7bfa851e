//! A gauge that walks between the touches of one place: found in the repeats, and taken off.
//!
//! Where a place is touched again a while later, on the way back, a gauge that walks shows by the slope of the touches around the
//! mean of their place over the time between them, `b = Sum(t r) / Sum(t t)`. Its standard uncertainty is `s / sqrt(Sum(t t))`,
//! with the scatter around the slope and the shop's own figure for the hand pooled in `s`. A slope counts beyond Student's t, and
//! only where it is known well enough to be told for the whole sitting: repeats that follow each other at once show a hand.
use super::student;

/// Degrees of freedom that the declared variance counts for.
const DECLARED: f64 = 4.0;

/// Repeats that a slope takes at least: with fewer a hand and a walk look alike.
const LEAST_REPEATS: f64 = 6.0;

/// What the touches of one place by one hand come to, times and values around their means.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
pub struct Repeated {
    /// Times by times.
    times: f64,
    /// Times by values.
    both: f64,
    /// Values by values.
    values: f64,
    /// Touches beyond the first.
    degrees: f64,
}

impl Repeated {
    /// Of a place that was touched at these times, in any unit of time, with these values.
    pub fn of(touches: &[(f64, f64)]) -> Self {
        let n = touches.len().max(1) as f64;
        let mean = |of: fn(&(f64, f64)) -> f64| touches.iter().map(of).sum::<f64>() / n;
        let (at, value) = (mean(|t| t.0), mean(|t| t.1));
        touches.iter().fold(Repeated { degrees: n - 1.0, ..Repeated::default() }, |sum, (t, v)| Repeated {
            times: sum.times + (t - at) * (t - at),
            both: sum.both + (t - at) * (v - value),
            values: sum.values + (v - value) * (v - value),
            ..sum
        })
    }
}

/// How a gauge walks.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Walk {
    /// By how much it reads more per unit of time.
    pub slope: f64,
    /// Its standard uncertainty.
    pub standard: f64,
}

/// The walk that shows among the places of a sitting that took `long`, of a hand whose repeats vary by `declared` as the shop has
/// it (a variance); `None` while none shows, or none that is known within a `step` of the gauge at its end.
pub fn walk_among(places: impl Iterator<Item = Repeated>, declared: f64, (long, step): (f64, f64)) -> Option<Walk> {
    let sum = places.fold(Repeated::default(), |a, b| Repeated {
        times: a.times + b.times,
        both: a.both + b.both,
        values: a.values + b.values,
        degrees: a.degrees + b.degrees,
    });
    if sum.degrees < LEAST_REPEATS || sum.times <= 0.0 {
        return None;
    }
    let slope = sum.both / sum.times;
    let (left, degrees) = ((sum.values - slope * sum.both).max(0.0), DECLARED + sum.degrees - 1.0);
    let standard = ((DECLARED * declared + left) / degrees / sum.times).sqrt();
    let is_known = standard * long <= step;
    (is_known && slope.abs() > student(0.975, degrees) * standard).then_some(Walk { slope, standard })
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// Places one after the other and back again, each touched twice, by a gauge that walks by `slope` from one touch to the next.
    fn there_and_back(sizes: &[f64], slope: f64) -> Vec<Repeated> {
        let n = sizes.len();
        let touch = |at: usize, size: f64| (at as f64, size + slope * at as f64);
        sizes
            .iter()
            .enumerate()
            .map(|(i, size)| Repeated::of(&[touch(i, *size), touch(2 * n - 1 - i, *size)]))
            .collect()
    }

    proptest! {
        #[test]
        fn a_steady_walk_is_found_whatever_the_sizes(sizes in prop::collection::vec(-50.0..50.0f64, 6..12), slope in 0.3..2.0f64) {
            let walk = walk_among(there_and_back(&sizes, slope).into_iter(), 0.1, (1.0, 1.0));
            prop_assert!(walk.is_some_and(|w| (w.slope - slope).abs() < 1e-9));
        }
    }

    #[test]
    fn nothing_is_found_where_both_touches_follow_each_other() {
        let each_at_once = (0..8).map(|i| Repeated::of(&[(f64::from(i), 0.0), (f64::from(i) + 0.01, 0.3)]));
        assert_eq!(walk_among(each_at_once, 0.1, (8.0, 1.0)), None, "three tenths of a step in no time are the hand");
        assert_eq!(
            walk_among(there_and_back(&[1.0, 2.0, 3.0], 1.0).into_iter(), 0.1, (6.0, 1.0)),
            None,
            "three repeats are too few"
        );
        assert_eq!(walk_among(there_and_back(&[1.0; 8], 0.0).into_iter(), 0.1, (16.0, 1.0)), None);
    }
}
