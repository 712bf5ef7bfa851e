//! Runout by the clock: the throw of a station apart from its form, and the bow of a shaft along its length.
//!
//! Readings around a station are fitted by `c + a cos t + b sin t` (least squares). Its *eccentricity* `sqrt(a^2 + b^2)` is
//! half of what bend alone shows on the indicator; what is left over is form, and four times the amplitude of its second
//! harmonic is what a mic finds out of round. Along the shaft a straight line between the ends stands for how it lies on
//! its blocks: the *bow* is what a station's throw differs from that line.
//!
//! ```
//! use jagged_pin_core::maths::{ClockReading, throw};
//!
//! let clock = [(0.0, 10.0), (90.0, 4.0), (180.0, -6.0), (270.0, 2.0)];
//! let read = clock.map(|(angle, value)| ClockReading { angle, value });
//! let found = throw(&read).unwrap();
//! assert!((found.eccentricity() - 8.062).abs() < 1e-3);
//! assert!((found.form.unwrap() - 1.0).abs() < 1e-9);
//! ```

/// What an indicator showed at one clock.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ClockReading {
    /// In degrees.
    pub angle: f64,
    /// In any unit.
    pub value: f64,
}

/// How a station runs out, in the unit of its readings.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Throw {
    /// The mean.
    pub mean: f64,
    /// Amplitudes of cosine and sine.
    pub by: [f64; 2],
    /// What the readings range over beside the throw; unknown of three directions.
    pub form: Option<f64>,
    /// What a mic would find out of round; unknown of less than five directions.
    pub oval: Option<f64>,
}

impl Throw {
    /// How far the station stands off its axis: half of what bend shows on the indicator.
    pub fn eccentricity(&self) -> f64 {
        self.by[0].hypot(self.by[1])
    }
}

/// The direction of a vector in degrees, from 0 up to 360.
pub fn direction([x, y]: [f64; 2]) -> f64 {
    let degrees = y.atan2(x).to_degrees().rem_euclid(360.0);
    // A direction a hair below zero rounds up to a whole turn.
    if degrees >= 360.0 { 0.0 } else { degrees }
}

/// How many different directions these angles are, with `turn` degrees to the turn.
pub fn directions(angles: impl IntoIterator<Item = f64>, turn: f64) -> usize {
    let mut seen: Vec<f64> = angles.into_iter().map(|a| a.rem_euclid(turn)).collect();
    seen.sort_by(f64::total_cmp);
    seen.dedup();
    seen.len()
}

/// Least squares: the factors of `columns` that come nearest to `values`; `None` where they cannot be told apart.
pub fn least_squares<const N: usize>(columns: &[[f64; N]], values: &[f64]) -> Option<[f64; N]> {
    let mut matrix = [[0.0; N]; N];
    let mut right = [0.0; N];
    for (row, value) in columns.iter().zip(values) {
        for (i, a) in row.iter().enumerate() {
            right[i] += a * value;
            for (j, b) in row.iter().enumerate() {
                matrix[i][j] += a * b;
            }
        }
    }
    for i in 0..N {
        let pivot = (i..N).max_by(|a, b| matrix[*a][i].abs().total_cmp(&matrix[*b][i].abs()))?;
        matrix.swap(i, pivot);
        right.swap(i, pivot);
        let (row, of_row) = (matrix[i], right[i]);
        if row[i].abs() < 1e-12 * columns.len() as f64 {
            return None;
        }
        for (j, (other, of_other)) in matrix.iter_mut().zip(&mut right).enumerate() {
            if j != i {
                let times = other[i] / row[i];
                other.iter_mut().zip(&row).for_each(|(cell, above)| *cell -= times * above);
                *of_other -= times * of_row;
            }
        }
    }
    let mut solved = right;
    solved.iter_mut().enumerate().for_each(|(i, value)| *value /= matrix[i][i]);
    Some(solved)
}

fn span(values: impl IntoIterator<Item = f64>) -> f64 {
    let ends = values.into_iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(lo, hi), v| (lo.min(v), hi.max(v)));
    (ends.1 - ends.0).max(0.0)
}

/// The throw of a station; `None` of less than three directions.
pub fn throw(readings: &[ClockReading]) -> Option<Throw> {
    let different = directions(readings.iter().map(|r| r.angle), 360.0);
    if different < 3 {
        return None;
    }
    let harmonic = |n: f64| readings.iter().map(move |r| (n * r.angle).to_radians().sin_cos());
    let first: Vec<[f64; 3]> = harmonic(1.0).map(|(sin, cos)| [1.0, cos, sin]).collect();
    let values: Vec<f64> = readings.iter().map(|r| r.value).collect();
    let [mean, a, b] = least_squares(&first, &values)?;
    let residuals: Vec<f64> =
        first.iter().zip(&values).map(|([_, cos, sin], v)| v - mean - a * cos - b * sin).collect();
    // At uneven clocks a pure oval has a mean of its own.
    let second: Vec<[f64; 3]> = harmonic(2.0).map(|(sin, cos)| [1.0, cos, sin]).collect();
    let oval = || least_squares(&second, &residuals).map(|[_, a, b]| 4.0 * a.hypot(b));
    Some(Throw {
        mean,
        by: [a, b],
        form: (different > 3).then(|| span(residuals.iter().copied())),
        oval: if different >= 5 { oval() } else { None },
    })
}

/// What a station's throw differs from a straight line between two others.
fn off_line((at, by): (f64, [f64; 2]), first: (f64, [f64; 2]), last: (f64, [f64; 2])) -> [f64; 2] {
    let share = (at - first.0) / (last.0 - first.0);
    [0, 1].map(|i| by[i] - first.1[i] - share * (last.1[i] - first.1[i]))
}

/// Where a station stands along a shaft, and how far its axis is thrown there.
pub type Thrown = (f64, [f64; 2]);

/// How far a station is thrown off the line through both ends, and off the line through its neighbours where it has two.
pub type Bowed = ([f64; 2], Option<[f64; 2]>);

/// The bow of a shaft at each of its stations: off the line through both ends, and off the line through its neighbours for
/// the inner ones. Stations stand in any order, no two at one place; `None` of less than three.
pub fn bow(stations: &[Thrown]) -> Option<Vec<Bowed>> {
    let mut order: Vec<usize> = (0..stations.len()).collect();
    order.sort_by(|a, b| stations[*a].0.total_cmp(&stations[*b].0));
    let (first, last) = (stations[*order.first()?], stations[*order.last()?]);
    if stations.len() < 3 {
        return None;
    }
    let mut found = vec![([0.0; 2], None); stations.len()];
    for (place, i) in order.iter().enumerate() {
        let beside = |step: usize| order.get(step).map(|j| stations[*j]);
        let neighbours = place.checked_sub(1).and_then(beside).zip(beside(place + 1));
        let step = neighbours.map(|(before, after)| off_line(stations[*i], before, after));
        let outer = place == 0 || place + 1 == order.len();
        found[*i] = (if outer { [0.0; 2] } else { off_line(stations[*i], first, last) }, step);
    }
    Some(found)
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    fn clock(angles: &[f64], of: impl Fn(f64) -> f64) -> Vec<ClockReading> {
        angles.iter().map(|angle| ClockReading { angle: *angle, value: of(angle.to_radians()) }).collect()
    }

    proptest! {
        #[test]
        fn throw_and_ovality_are_told_apart_at_any_start_of_the_clock(
            start in 0.0f64..90.0, mean in -50.0f64..50.0, throw_by in 0.1f64..20.0, towards in 0.0f64..360.0,
            oval in 0.0f64..10.0, long in 0.0f64..180.0,
        ) {
            let angles: Vec<f64> = (0..8).map(|i| start + 45.0 * f64::from(i)).collect();
            let of = |t: f64| mean + throw_by * (t - towards.to_radians()).cos()
                + oval / 4.0 * (2.0 * (t - long.to_radians())).cos();
            let found = throw(&clock(&angles, of));
            prop_assert!(found.is_some());
            if let Some(found) = found {
                prop_assert!((found.eccentricity() - throw_by).abs() < 1e-6);
                let off = (direction(found.by) - towards).abs();
                prop_assert!(off.min(360.0 - off) < 1e-4);
                prop_assert!((found.oval.unwrap_or(-1.0) - oval).abs() < 1e-6);
            }
        }

        #[test]
        fn a_shaft_that_lies_askew_is_not_bowed(slope in -3.0f64..3.0, at in prop::collection::btree_set(-50i16..50, 3..7)) {
            let stations: Vec<Thrown> = at.into_iter().map(f64::from).map(|x| (x, [1.0 + slope * x, -slope * x])).collect();
            for (bow, step) in bow(&stations).unwrap_or_default() {
                prop_assert!(bow[0].hypot(bow[1]) < 1e-9);
                prop_assert!(step.is_none_or(|s| s[0].hypot(s[1]) < 1e-9));
            }
        }
    }

    #[test]
    fn two_directions_say_nothing_and_three_no_form() {
        assert!(throw(&clock(&[0.0, 90.0, 360.0], f64::cos)).is_none(), "0 and 360 are one direction");
        let three = throw(&clock(&[0.0, 120.0, 240.0], f64::cos));
        assert!(three.is_some_and(|t| t.form.is_none() && t.oval.is_none()));
        assert!(bow(&[(0.0, [0.0; 2]), (1.0, [1.0; 2])]).is_none());
    }
}
