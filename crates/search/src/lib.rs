//! Exact choices among few parts: which pair of halves goes into which place, by class or measured one by one, and
//! which of two rows goes together. Everything is whole numbers (lengths in nanometres, prices in ten-thousandths of
//! the money) and proven; this crate knows no engines. How it searches is told in `search`.

pub mod assignment;
mod branch;
pub mod by_class;
mod cover;
mod effort;
mod fitting;
mod inside;
mod matching;
pub mod one_by_one;
mod search;
pub mod washers;
pub use effort::unless_given_up;
use fitting::{Found, Goal, Seat};

/// A window and what is wanted inside it, in nanometres: `low <= aim <= high`.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Target {
    /// Lower limit.
    pub low: i64,
    /// What is wanted.
    pub aim: i64,
    /// Upper limit.
    pub high: i64,
}

/// Branches that a choice may cost unless said otherwise: some seconds.
pub const USUAL_EFFORT: u64 = 1_000_000;
/// A time limit is kept by counting branches, so that the same request has the same answer everywhere: so
/// many take about a millisecond on a bench computer.
pub const BRANCHES_PER_MS: u64 = 200;

/// How good a choice is, in the order in which it is made better.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Quality {
    /// Places outside their window.
    pub outside: usize,
    /// The largest distance from the aim, half to even in whole nanometres.
    pub worst: i64,
    /// The sum of the distances.
    pub total: i64,
}

impl Quality {
    fn of(found: &Found) -> Self {
        let outside = usize::try_from(found.score.of(Goal::Outside)).unwrap_or(usize::MAX);
        Quality { outside, worst: halved(found.score.of(Goal::Worst)), total: halved(found.score.of(Goal::Total)) }
    }
}

/// A whole number of half nanometres as a length, half to even.
fn halved(twice: i64) -> i64 {
    let (whole, odd) = (twice.div_euclid(2), twice.rem_euclid(2));
    whole + i64::from(odd == 1 && whole % 2 != 0)
}

/// A seat whose clearance would be `base` with halves of value 0.
fn seat(base: i64, target: Target) -> Seat {
    let twice = |l: i64| 2 * l;
    Seat { base: twice(base), low: twice(target.low), aim: twice(target.aim), high: twice(target.high) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn half_nanometres_go_to_the_even_neighbour() {
        let halves: Vec<i64> = [-3, -2, -1, 0, 1, 2, 3, 5].into_iter().map(halved).collect();
        assert_eq!(halves, [-2, -1, 0, 0, 0, 1, 2, 2]);
    }
}
