//! A row of stations at a glance: the straight line through it, and the one that does not belong.
//!
//! Least squares of clearance over station number. A slope, or one bad neighbour, points at the tunnel
//! or a bent crank; an isolated station at its own cap, shell or journal.
//!
//! ```
//! use jagged_pin_core::maths::{TrendPoint, trend};
//! use jagged_pin_core::Length;
//!
//! let at = |n: i64| TrendPoint { station: n as u8, value: Length::tenths(20 + 2 * n), expanded: Length::tenths(1) };
//! let row = trend(&[at(1), at(2), at(3), at(4)]).unwrap();
//! assert_eq!(row.slope, Length::tenths(2));
//! assert_eq!(row.odd, None);
//! ```
use serde::Serialize;

use crate::units::Length;

/// One station of a row.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct TrendPoint {
    /// Place number from the front.
    pub station: u8,
    /// Its clearance.
    pub value: Length,
    /// Its expanded uncertainty.
    pub expanded: Length,
}

/// The line through a row.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Trend {
    /// Change from one station to the next, toward the rear.
    pub slope: Length,
    /// Value of the line at each station asked for, in their order.
    pub line: Vec<Length>,
    /// Distance of each station from the line, in the same order.
    pub residuals: Vec<Length>,
    /// Rear end of the line less its front end.
    pub rise: Length,
    /// Twice the standard error of that rise, from the scatter around the line.
    pub doubt: Length,
    /// Index of the station that stands out: the others lie on a line within twice their uncertainty,
    /// and it is beyond its own uncertainty and twice as far from that line as any of them.
    pub odd: Option<usize>,
}

/// Slope and intercept by least squares; `None` below two different stations.
fn fit(points: impl Iterator<Item = TrendPoint> + Clone) -> Option<(f64, f64)> {
    let n = points.clone().count() as f64;
    let mean_x = points.clone().map(|p| f64::from(p.station)).sum::<f64>() / n;
    let mean_y = points.clone().map(|p| p.value.as_f64()).sum::<f64>() / n;
    let sxx: f64 = points.clone().map(|p| (f64::from(p.station) - mean_x).powi(2)).sum();
    let sxy: f64 = points.map(|p| (f64::from(p.station) - mean_x) * (p.value.as_f64() - mean_y)).sum();
    (sxx > 0.0).then(|| (sxy / sxx, mean_y - sxy / sxx * mean_x))
}

/// The straight line through three or more stations; `None` for fewer, where a line says nothing.
pub fn trend(points: &[TrendPoint]) -> Option<Trend> {
    if points.len() < 3 {
        return None;
    }
    let (slope, base) = fit(points.iter().copied())?;
    let line: Vec<Length> =
        points.iter().map(|p| Length::from_f64(base + slope * f64::from(p.station))).collect::<Option<_>>()?;
    let residuals: Vec<Length> = points.iter().zip(&line).map(|(p, l)| p.value - *l).collect();
    let rise = *line.last()? - *line.first()?;
    let doubt = Length::from_f64(2.0 * rise_error(points, &residuals))?;
    Some(Trend { slope: Length::from_f64(slope)?, line, residuals, rise, doubt, odd: odd_one(points) })
}

/// Standard error of the rise of a fitted line: `s / sqrt(Sxx)` times the distance between its ends,
/// with `s^2` the sum of squared residuals over `n - 2`.
fn rise_error(points: &[TrendPoint], residuals: &[Length]) -> f64 {
    let n = points.len() as f64;
    let mean = points.iter().map(|p| f64::from(p.station)).sum::<f64>() / n;
    let sxx: f64 = points.iter().map(|p| (f64::from(p.station) - mean).powi(2)).sum();
    let squares: f64 = residuals.iter().map(|r| r.as_f64().powi(2)).sum();
    let ends = points.first().zip(points.last()).map_or(0.0, |(a, b)| f64::from(b.station) - f64::from(a.station));
    (squares / (n - 2.0)).sqrt() / sxx.sqrt() * ends
}

/// The station that the others, taken by themselves, do not explain.
fn odd_one(points: &[TrendPoint]) -> Option<usize> {
    // With three points the other two always lie on a line.
    if points.len() < 4 {
        return None;
    }
    let stands_out = |i: usize| {
        let others = || points.iter().enumerate().filter(move |(j, _)| *j != i).map(|(_, p)| *p);
        let (slope, base) = fit(others())?;
        let off = |p: TrendPoint| (p.value.as_f64() - base - slope * f64::from(p.station)).abs();
        let rest = others().map(off).fold(0.0, f64::max);
        let own = off(points[i]);
        let doubt = others().map(|p| p.expanded.as_f64()).fold(0.0, f64::max);
        if rest > 2.0 * doubt {
            return None;
        }
        (own > points[i].expanded.as_f64() && own > 2.0 * rest).then_some((i, own))
    };
    (0..points.len()).filter_map(stands_out).max_by(|a, b| a.1.total_cmp(&b.1)).map(|(i, _)| i)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn row(tenths: &[i64]) -> Vec<TrendPoint> {
        let point = |(i, t): (usize, &i64)| TrendPoint {
            station: i as u8 + 1,
            value: Length::tenths(*t),
            expanded: Length::tenths(1),
        };
        tenths.iter().enumerate().map(point).collect()
    }

    #[test]
    fn one_loose_main_among_even_ones_is_named() {
        let t = trend(&row(&[25, 25, 24, 25, 33, 25, 25]));
        assert_eq!(t.and_then(|t| t.odd), Some(4));
    }

    #[test]
    fn a_row_that_climbs_has_a_slope_and_no_odd_one() {
        let t = trend(&row(&[20, 22, 24, 26, 28]));
        assert_eq!(t.map(|t| (t.slope, t.odd)), Some((Length::tenths(2), None)));
    }

    #[test]
    fn where_nothing_lies_on_a_line_no_single_one_is_odd() {
        let t = trend(&row(&[25, 19, 24, 26, 31, 21]));
        assert_eq!(t.as_ref().and_then(|t| t.odd), None);
        assert!(t.is_some_and(|t| t.rise.abs() < t.doubt));
    }

    #[test]
    fn two_stations_make_no_trend() {
        assert_eq!(trend(&row(&[25, 26])), None);
    }

    proptest! {
        #[test]
        fn what_is_left_of_the_line_balances(tenths in prop::collection::vec(10i64..50, 3..12)) {
            let t = trend(&row(&tenths));
            prop_assert!(t.is_some());
            if let Some(t) = t {
                let sum: i64 = t.residuals.iter().map(|r| r.nm()).sum();
                // Each residual is rounded to the nanometre.
                prop_assert!(sum.unsigned_abs() <= tenths.len() as u64);
            }
        }
    }
}
