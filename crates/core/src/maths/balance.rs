//! Correction weights of a rotor, from its unbalance as shown or from trial weights.
//!
//! Vectors are complex numbers. With trial weights `W_j`, one at a time, and what each sensor showed before (`V_i`) and with
//! them (`V_ij`), `k_ij = (V_ij - V_i) / W_j` is what a gram in plane j does at sensor i; the corrections solve
//! `sum over j of k_ij C_j = -V_i`. An unbalance as shown is corrected by its opposite, moved to the planes that can be
//! weighted with the same force and the same couple.
#![allow(
    clippy::arithmetic_side_effects,
    reason = "vectors of floats: a sum or product of them is a float, never a panic"
)]

use std::ops::{Add, Mul, Sub};

/// A vector in a plane of balance.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Vector {
    /// Towards 0 degrees.
    pub x: f64,
    /// Towards 90 degrees.
    pub y: f64,
}

impl Vector {
    /// An amount at an angle in degrees.
    pub fn polar(amount: f64, degrees: f64) -> Self {
        let (sin, cos) = degrees.to_radians().sin_cos();
        Vector { x: amount * cos, y: amount * sin }
    }

    /// Its amount.
    pub fn amount(self) -> f64 {
        self.x.hypot(self.y)
    }

    /// So many times it.
    pub fn times(self, n: f64) -> Self {
        Vector { x: self.x * n, y: self.y * n }
    }

    fn over(self, other: Vector) -> Self {
        let size = other.x * other.x + other.y * other.y;
        Vector { x: (self.x * other.x + self.y * other.y) / size, y: (self.y * other.x - self.x * other.y) / size }
    }
}

impl Add for Vector {
    type Output = Vector;
    fn add(self, other: Vector) -> Vector {
        Vector { x: self.x + other.x, y: self.y + other.y }
    }
}

impl Sub for Vector {
    type Output = Vector;
    fn sub(self, other: Vector) -> Vector {
        Vector { x: self.x - other.x, y: self.y - other.y }
    }
}

impl Mul for Vector {
    type Output = Vector;
    fn mul(self, other: Vector) -> Vector {
        Vector { x: self.x * other.x - self.y * other.y, y: self.x * other.y + self.y * other.x }
    }
}

/// What a sensor showed before, and with each trial weight.
#[derive(Debug, Clone, PartialEq)]
pub struct Sensor {
    /// Before.
    pub initial: Vector,
    /// With the trial weight of each plane, in their order.
    pub trials: Vec<Vector>,
}

/// Parts of the products of a determinant below which planes are not told apart.
const TOLD_APART: f64 = 1e-9;

/// The weights that bring every sensor to rest, one plane or two with as many sensors; `None` where the trial weights do
/// not tell the planes apart.
pub fn by_trials(weights: &[Vector], sensors: &[Sensor]) -> Option<Vec<Vector>> {
    let effect = |i: usize, j: usize| (sensors[i].trials[j] - sensors[i].initial).over(weights[j]);
    let right = |i: usize| sensors[i].initial.times(-1.0);
    match (weights, sensors) {
        ([_], [_]) => {
            let k = effect(0, 0);
            (k.amount() > 0.0).then(|| vec![right(0).over(k)])
        }
        ([_, _], [_, _]) => {
            let [a, b, c, d] = [effect(0, 0), effect(0, 1), effect(1, 0), effect(1, 1)];
            let (det, size) = (a * d - b * c, (a * d).amount() + (b * c).amount());
            let (r, s) = (right(0), right(1));
            (det.amount() > TOLD_APART * size).then(|| vec![(r * d - b * s).over(det), (a * s - r * c).over(det)])
        }
        _ => None,
    }
}

/// The same force and the same couple from two other planes: what stood at `at` moved to `to`, which differ.
pub fn moved(vectors: [Vector; 2], at: [f64; 2], to: [f64; 2]) -> [Vector; 2] {
    let apart = to[1] - to[0];
    let share = |from: [f64; 2]| (vectors[0].times(from[0]) + vectors[1].times(from[1])).times(1.0 / apart);
    [share(at.map(|a| to[1] - a)), share(at.map(|a| a - to[0]))]
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    fn vector() -> impl Strategy<Value = Vector> {
        (0.5f64..20.0, 0.0f64..360.0).prop_map(|(amount, angle)| Vector::polar(amount, angle))
    }

    fn near(a: Vector, b: Vector) -> bool {
        (a - b).amount() < 1e-6 * (1.0 + a.amount())
    }

    proptest! {
        #[test]
        fn trial_weights_find_the_unbalance_of_a_rotor(
            unbalance in [vector(), vector()], weights in [vector(), vector()], k in [[vector(), vector()], [vector(), vector()]],
        ) {
            // A rotor of which every gram in a plane does what `k` says at a sensor.
            let shown = |i: usize, more: [Vector; 2]| {
                k[i][0] * (unbalance[0] + more[0]) + k[i][1] * (unbalance[1] + more[1])
            };
            let none = Vector::default();
            let sensor = |i| Sensor {
                initial: shown(i, [none; 2]),
                trials: vec![shown(i, [weights[0], none]), shown(i, [none, weights[1]])],
            };
            let det = k[0][0] * k[1][1] - k[0][1] * k[1][0];
            prop_assume!(det.amount() > 0.01 * (k[0][0] * k[1][1]).amount());
            let found = by_trials(&weights, &[sensor(0), sensor(1)]);
            prop_assert!(found.is_some());
            for (correction, unbalance) in found.unwrap_or_default().into_iter().zip(unbalance) {
                prop_assert!((correction + unbalance).amount() < 1e-4 * (1.0 + unbalance.amount()), "{correction:?}");
            }
        }

        #[test]
        fn other_planes_give_the_same_force_and_couple(
            vectors in [vector(), vector()], at in [-20.0f64..20.0, -20.0f64..20.0], to in [-20.0f64..-1.0, 1.0f64..20.0],
        ) {
            let found = moved(vectors, at, to);
            prop_assert!(near(found[0] + found[1], vectors[0] + vectors[1]));
            let couple = |v: [Vector; 2], at: [f64; 2]| v[0].times(at[0]) + v[1].times(at[1]);
            prop_assert!((couple(found, to) - couple(vectors, at)).amount() < 1e-6);
        }
    }
}
