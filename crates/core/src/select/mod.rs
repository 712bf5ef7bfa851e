//! Choosing parts that fit: shells by size class, shells measured one by one, and which part goes with
//! which. Everything is exact and proven; how, is told in `search`.

pub mod assign;
mod branch;
mod cover;
mod fitting;
mod inside;
mod matching;
pub mod measured;
mod search;
pub mod shells;

use crate::Length;
use crate::target::Target;
use fitting::{Found, Goal, Seat};

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
    pub worst: Length,
    /// The sum of the distances.
    pub total: Length,
}

impl Quality {
    fn of(found: &Found) -> Self {
        let outside = usize::try_from(found.score.of(Goal::Outside)).unwrap_or(usize::MAX);
        Quality { outside, worst: halved(found.score.of(Goal::Worst)), total: halved(found.score.of(Goal::Total)) }
    }
}

/// A whole number of half nanometres as a length, half to even.
fn halved(twice: i64) -> Length {
    let (whole, odd) = (twice.div_euclid(2), twice.rem_euclid(2));
    Length::from_nm(whole + i64::from(odd == 1 && whole % 2 != 0))
}

/// A seat whose clearance would be `base` with halves of value 0.
fn seat(base: Length, target: Target) -> Seat {
    let twice = |l: Length| 2 * l.nm();
    Seat { base: twice(base), low: twice(target.low), aim: twice(target.aim), high: twice(target.high) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn half_nanometres_go_to_the_even_neighbour() {
        let halves: Vec<i64> = [-3, -2, -1, 0, 1, 2, 3, 5].into_iter().map(|t| halved(t).nm()).collect();
        assert_eq!(halves, [-2, -1, 0, 0, 0, 1, 2, 2]);
    }
}
