//! Removing material by strokes without going past the goal: honing a bore, filing a ring's gap, polishing.
//!
//! The rate is learned from the log: the median says how much a stroke takes, the fastest entry how much it may take. The
//! next strokes go a cautious part of the way, reckoned by the fastest: half after one entry, four fifths from then on.
//!
//! ```
//! use jagged_pin_core::Length;
//! use jagged_pin_core::maths::{Strokes, strokes_to_go};
//!
//! let t = Length::tenths;
//! let log = [Strokes { strokes: 10, removed: t(4) }, Strokes { strokes: 10, removed: t(5) }];
//! let next = strokes_to_go(t(32_480), t(32_500), &log, None).unwrap();
//! assert_eq!((next.strokes_left, next.next_strokes), (Some(45), 32));
//! assert!(next.at_most <= t(32_500).as_f64());
//! ```
#![allow(
    clippy::arithmetic_side_effects,
    reason = "sizes end at 100 m and strokes at a million, so products of two of them stay far within i128"
)]

use std::cmp::Ordering;

use crate::units::Length;

/// Strokes that one entry may have.
pub const MOST_STROKES: u32 = 1_000_000;

/// One entry of the log.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Strokes {
    /// Strokes made, from 1 to [`MOST_STROKES`].
    pub strokes: u32,
    /// What they took, not below zero.
    pub removed: Length,
}

/// A part of a whole as a fraction: `parts / of`, not above one.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Caution {
    /// Above zero.
    pub parts: u64,
    /// Not below `parts`.
    pub of: u64,
}

impl Caution {
    const fn usual(entries: usize) -> Self {
        if entries < 2 { Caution { parts: 1, of: 2 } } else { Caution { parts: 4, of: 5 } }
    }
}

/// What is still to be done.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ToGo {
    /// From the size to the goal; negative past it.
    pub to_go: Length,
    /// Nanometres a stroke, in the middle.
    pub rate: f64,
    /// Nanometres a stroke, at the fastest.
    pub fastest: f64,
    /// Strokes to the goal by the rate; unknown where that is zero.
    pub strokes_left: Option<u64>,
    /// Strokes to be made before the next look.
    pub next_strokes: u64,
    /// The size after those by the rate, in nanometres.
    pub predicted: f64,
    /// The size after those at the fastest, in nanometres: never past the goal.
    pub at_most: f64,
}

/// A rate as a fraction, so that floors and ceilings are exact.
#[derive(Debug, Clone, Copy)]
struct Rate {
    nm: i128,
    strokes: i128,
}

impl Rate {
    fn compare(&self, other: &Rate) -> Ordering {
        (self.nm * other.strokes).cmp(&(other.nm * self.strokes))
    }

    fn as_f64(self) -> f64 {
        self.nm as f64 / self.strokes as f64
    }
}

fn whole(n: i128) -> u64 {
    u64::try_from(n.max(0)).unwrap_or(u64::MAX)
}

/// What is to go from `size` up to `goal`; `None` of an empty log or one that removed nothing.
pub fn strokes_to_go(size: Length, goal: Length, log: &[Strokes], caution: Option<Caution>) -> Option<ToGo> {
    let of = |entry: &Strokes| Rate { nm: entry.removed.nm().into(), strokes: entry.strokes.max(1).into() };
    let mut rates: Vec<Rate> = log.iter().map(of).collect();
    rates.sort_by(Rate::compare);
    let fastest = *rates.last().filter(|rate| rate.nm > 0)?;
    let upper = rates[rates.len() / 2];
    let lower = rates[(rates.len() - 1) / 2];
    let rate =
        Rate { nm: upper.nm * lower.strokes + lower.nm * upper.strokes, strokes: 2 * upper.strokes * lower.strokes };
    let to_go = goal - size;
    let left = i128::from(to_go.nm());
    let strokes_left = match (left <= 0, rate.nm > 0) {
        (true, _) => Some(0),
        (false, true) => Some(whole((left * rate.strokes + rate.nm - 1) / rate.nm)),
        (false, false) => None,
    };
    let caution = caution.unwrap_or_else(|| Caution::usual(log.len()));
    let cautious = (i128::from(caution.parts) * left.max(0)).checked_mul(fastest.strokes);
    let next_strokes = cautious.map_or(0, |n| whole(n / (i128::from(caution.of) * fastest.nm)));
    let after = |rate: Rate| size.as_f64() + next_strokes as f64 * rate.as_f64();
    Some(ToGo {
        to_go,
        rate: rate.as_f64(),
        fastest: fastest.as_f64(),
        strokes_left,
        next_strokes,
        predicted: after(rate),
        at_most: after(fastest),
    })
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    proptest! {
        #[test]
        fn the_next_strokes_never_go_past_the_goal_and_get_there_in_the_end(
            log in prop::collection::vec((1u32..200, 1i64..2_000, 0i64..100), 1..6), to_go in 0i64..500_000,
        ) {
            // At least a nanometre a stroke: a size is kept in whole ones, so that less would never show in it.
            let entry = |(strokes, each, more)| {
                Strokes { strokes, removed: Length::from_nm(i64::from(strokes) * each + more) }
            };
            let log: Vec<Strokes> = log.into_iter().map(entry).collect();
            let goal = Length::from_nm(82_550_000);
            let mut size = goal - Length::from_nm(to_go);
            for _ in 0..200 {
                let next = strokes_to_go(size, goal, &log, None);
                prop_assert!(next.is_some());
                let Some(next) = next else { break };
                prop_assert!(next.at_most <= goal.as_f64() + 1e-3 && next.predicted <= next.at_most + 1e-3);
                if next.next_strokes == 0 {
                    // Less than a cautious stroke is left.
                    prop_assert!((goal - size).as_f64() * 0.5 < next.fastest);
                    return Ok(());
                }
                size = Length::from_nm(next.at_most.floor() as i64);
            }
            prop_assert!(false, "it never arrives");
        }
    }

    #[test]
    fn strokes_that_took_nothing_tell_no_rate() {
        let entry = |strokes, nm| Strokes { strokes, removed: Length::from_nm(nm) };
        let goal = Length::from_nm(1_000);
        assert!(strokes_to_go(Length::ZERO, goal, &[entry(10, 0)], None).is_none());
        assert!(strokes_to_go(Length::ZERO, goal, &[], None).is_none());
        // Most strokes took nothing: nobody can say how many are left, and the fastest still holds one back.
        let slow = strokes_to_go(Length::ZERO, goal, &[entry(5, 0), entry(5, 0), entry(5, 50)], None);
        assert_eq!(slow.map(|s| (s.strokes_left, s.next_strokes)), Some((None, 80)));
    }
}
