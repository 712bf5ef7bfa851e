//! Whether a row leans, and whether one of it stands apart, with the chance of a false alarm held near one in twenty.
//!
//! * **Leaning**: the rise of the least-squares line beyond `t(0.975; n - 2)` standard errors, with the scatter around the line
//!   never taken smaller than what the gauges leave open.
//! * **Standing apart**: each value against the mean (or, in a row that leans, the line) of the *others*, over their scatter:
//!   the externally studentised residual `e / (s sqrt(1 + h))`. The largest is odd beyond `t(1 - a / 2n; n - 1 - p)`, `p` one for a
//!   mean and two for a line, which allows for the choice of the largest of `n`. `a` is the share of false alarms in one series.
//!   Journals and bores are tested apart, because a fault of one of them shows more clearly there than in their difference; by
//!   the third reckoning the clearances are tested as well, because shells that were matched to their journals hide the fault
//!   in both and show it in what they leave.
//!
//! Rows of three say nothing, and rows of four only what is very plain.
use super::student;

/// A point of a row: station number, value.
type Point = (f64, f64);

/// A mean or a line through points.
struct Fitted {
    base: f64,
    slope: f64,
    middle: f64,
    /// Sum of squared distances along the row; infinite for a mean.
    along: f64,
    count: f64,
    /// Sum of squared residuals.
    squares: f64,
}

impl Fitted {
    fn through(points: impl Iterator<Item = Point> + Clone, line: bool) -> Self {
        let count = points.clone().count() as f64;
        let mean = |of: fn(Point) -> f64| points.clone().map(of).sum::<f64>() / count;
        let (middle, base) = (mean(|p| p.0), mean(|p| p.1));
        let along: f64 = points.clone().map(|p| (p.0 - middle).powi(2)).sum();
        let with: f64 = points.clone().map(|p| (p.0 - middle) * (p.1 - base)).sum();
        let slope = if line && along > 0.0 { with / along } else { 0.0 };
        let off = |p: Point| p.1 - base - slope * (p.0 - middle);
        let squares = points.map(|p| off(p).powi(2)).sum();
        Fitted { base, slope, middle, along: if line { along } else { f64::INFINITY }, count, squares }
    }

    fn at(&self, x: f64) -> f64 {
        self.base + self.slope * (x - self.middle)
    }

    /// What the fit itself leaves open at `x`, in squares of the scatter.
    fn leverage(&self, x: f64) -> f64 {
        1.0 / self.count + (x - self.middle).powi(2) / self.along
    }
}

/// By how much the line through a row may rise from its first to its last station before it leans; `None` of fewer than three.
/// `open` is the standard uncertainty that one value has for itself.
pub fn lean_limit(points: &[Point], open: f64) -> Option<f64> {
    let degrees = points.len().checked_sub(2).filter(|n| *n > 0)?;
    let line = Fitted::through(points.iter().copied(), true);
    let scatter = (line.squares / degrees as f64).sqrt().max(open);
    let ends = points.last()?.0 - points.first()?.0;
    (line.along > 0.0).then(|| student(0.975, degrees as f64) * scatter * ends / line.along.sqrt())
}

/// The one of a row that stands apart from the others, with what each value leaves open for itself and the share of false
/// alarms, 0 to 1. `leans` says whether they are held against a line.
///
/// ```
/// use jagged_pin_core::maths::odd_one;
///
/// let row = |values: [f64; 7]| values.iter().enumerate().map(|(i, v)| (i as f64, *v)).collect::<Vec<_>>();
/// // Three tenths among half tenths; and the same among tenths.
/// assert_eq!(odd_one(&row([25.0, 25.5, 25.0, 28.5, 25.0, 25.5, 25.0]), (0.4, 0.04), false), Some(3));
/// assert_eq!(odd_one(&row([24.0, 26.0, 25.0, 28.0, 24.5, 26.5, 25.0]), (0.4, 0.04), false), None);
/// ```
pub fn odd_one(points: &[Point], (open, false_alarms): (f64, f64), leans: bool) -> Option<usize> {
    let fitted = if leans { 2 } else { 1 };
    let degrees = points.len().checked_sub(1 + fitted).filter(|n| *n > 0 && points.len() > 3)?;
    let limit = student(1.0 - false_alarms / (2.0 * points.len() as f64), degrees as f64);
    let apart = |(i, own): (usize, &Point)| {
        let others = points.iter().enumerate().filter(move |(j, _)| *j != i).map(|(_, p)| *p);
        let fit = Fitted::through(others, leans);
        let scatter = (fit.squares / degrees as f64).sqrt().max(open);
        let off = (own.1 - fit.at(own.0)).abs() / (scatter * (1.0 + fit.leverage(own.0)).sqrt());
        (i, off)
    };
    let (which, off) = points.iter().enumerate().map(apart).max_by(|a, b| a.1.total_cmp(&b.1))?;
    (off > limit).then_some(which)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn row(values: &[f64]) -> Vec<Point> {
        values.iter().enumerate().map(|(i, v)| (i as f64, *v)).collect()
    }

    #[test]
    fn a_row_of_three_or_two_says_nothing_of_one_of_them() {
        assert_eq!(odd_one(&row(&[25.0, 25.0, 60.0]), (0.4, 0.04), false), None);
        assert_eq!(odd_one(&[], (0.4, 0.04), false), None);
        assert_eq!(lean_limit(&row(&[25.0, 26.0]), 0.4), None);
    }

    #[test]
    fn a_row_that_rises_evenly_leans_and_has_no_odd_one() {
        let rising = row(&[22.0, 23.0, 24.0, 25.0, 26.0]);
        assert!(lean_limit(&rising, 0.4).is_some_and(|limit| limit < 4.0));
        assert_eq!(odd_one(&rising, (0.4, 0.04), true), None);
        let bent = row(&[22.0, 23.0, 24.0, 30.0, 26.0, 27.0, 28.0]);
        assert_eq!(odd_one(&bent, (0.4, 0.04), true), Some(3));
    }

    proptest! {
        #[test]
        fn what_all_have_in_common_makes_nobody_odd(values in prop::collection::vec(0.0f64..10.0, 4..9), all in -50.0f64..50.0) {
            let shifted: Vec<f64> = values.iter().map(|v| v + all).collect();
            prop_assert_eq!(odd_one(&row(&values), (0.4, 0.04), false), odd_one(&row(&shifted), (0.4, 0.04), false));
            prop_assert_eq!(odd_one(&row(&vec![all; values.len()]), (0.4, 0.04), false), None);
        }
    }
}
