//! Chance, the same on every machine for one seed.

/// Draws from one seed.
#[derive(Debug)]
pub struct Chance(fastrand::Rng);

impl Chance {
    /// Begins at a seed.
    pub fn seeded(seed: u64) -> Self {
        Chance(fastrand::Rng::with_seed(seed))
    }

    /// A normal value around zero.
    pub fn normal(&mut self, deviation: f64) -> f64 {
        // Box and Muller: the logarithm wants a value above zero.
        let (u, v) = (1.0 - self.0.f64(), self.0.f64());
        deviation * (-2.0 * u.ln()).sqrt() * (2.0 * std::f64::consts::PI * v).cos()
    }

    /// Anywhere between two ends.
    pub fn between(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * self.0.f64()
    }

    /// One of `n`, from zero.
    pub fn below(&mut self, n: usize) -> usize {
        self.0.usize(0..n.max(1))
    }

    /// True in so many of a hundred cases.
    pub fn percent(&mut self, percent: f64) -> bool {
        self.0.f64() * 100.0 < percent
    }
}
