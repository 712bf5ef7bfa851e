//! Diameters around a bore: the ellipse through what a two-point gauge found at one level.
//!
//! A two-point gauge reads a diameter, the same from both ends: directions count by the half turn. Least squares over
//! `d = mean + a cos 2t + b sin 2t` give `ovality = 2 sqrt(a^2 + b^2)` and the direction of the long axis. Odd lobes do not
//! show at two points.
use super::runout::{directions, least_squares};

/// The ellipse nearest to the diameters of one level, in their unit.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct EllipseFit {
    /// Mean diameter.
    pub mean: f64,
    /// Longest less shortest diameter.
    pub ovality: f64,
    /// Direction of the longest, in degrees from 0 up to 180.
    pub long_axis: f64,
    /// The largest distance of a diameter from the ellipse.
    pub residual: f64,
}

/// The ellipse through diameters at these angles in degrees; `None` of less than three directions.
pub fn ellipse(diameters: &[(f64, f64)]) -> Option<EllipseFit> {
    if directions(diameters.iter().map(|(angle, _)| *angle), 180.0) < 3 {
        return None;
    }
    let columns: Vec<[f64; 3]> = diameters
        .iter()
        .map(|(angle, _)| {
            let (sin, cos) = (2.0 * angle).to_radians().sin_cos();
            [1.0, cos, sin]
        })
        .collect();
    let values: Vec<f64> = diameters.iter().map(|(_, d)| *d).collect();
    let [mean, a, b] = least_squares(&columns, &values)?;
    let off = columns.iter().zip(&values).map(|([_, cos, sin], d)| (d - mean - a * cos - b * sin).abs());
    let long_axis = (b.atan2(a).to_degrees() / 2.0).rem_euclid(180.0);
    Some(EllipseFit {
        mean,
        ovality: 2.0 * a.hypot(b),
        long_axis: if long_axis >= 180.0 { 0.0 } else { long_axis },
        residual: off.fold(0.0, f64::max),
    })
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    proptest! {
        #[test]
        fn an_oval_bore_is_found_from_any_directions(
            angles in prop::collection::btree_set(0u16..180, 3..9), mean in 50.0f64..90.0, oval in 0.001f64..0.2,
            long in 0.0f64..180.0, turned: bool,
        ) {
            let angles: Vec<f64> = angles.into_iter().map(f64::from).collect();
            // Directions closer than some degrees tell an ellipse badly.
            prop_assume!(angles[angles.len() - 1] - angles[0] > 60.0);
            let at = |a: &f64| {
                let d = mean + oval / 2.0 * (2.0 * (a - long)).to_radians().cos();
                (if turned { a + 180.0 } else { *a }, d)
            };
            let found = ellipse(&angles.iter().map(at).collect::<Vec<_>>());
            prop_assert!(found.is_some());
            if let Some(found) = found {
                prop_assert!((found.mean - mean).abs() < 1e-6 && (found.ovality - oval).abs() < 1e-6, "{found:?}");
                let off = (found.long_axis - long).abs();
                prop_assert!(off.min(180.0 - off) < 0.01 && found.residual < 1e-6);
            }
        }
    }

    #[test]
    fn half_a_turn_on_is_the_same_diameter() {
        assert!(ellipse(&[(0.0, 82.0), (180.0, 82.0), (90.0, 82.1), (-90.0, 82.1)]).is_none());
    }
}
