//! A share of many trials, with its confidence interval.
use std::fmt;

/// How often something held.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct Share {
    /// Trials in which it held.
    pub held: u32,
    /// All trials.
    pub of: u32,
}

impl Share {
    /// Counts one trial.
    pub fn count(&mut self, held: bool) {
        self.held += u32::from(held);
        self.of += 1;
    }

    /// Percent; zero of no trials.
    pub fn percent(self) -> f64 {
        100.0 * f64::from(self.held) / f64::from(self.of.max(1))
    }

    /// Half the width of the 95 per cent interval, in percent: 1.96 standard errors.
    pub fn give_or_take(self) -> f64 {
        let p = self.percent() / 100.0;
        196.0 * (p * (1.0 - p) / f64::from(self.of.max(1))).sqrt()
    }
}

impl fmt::Display for Share {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:5.1} \u{b1}{:.1} % of {}", self.percent(), self.give_or_take(), self.of)
    }
}
