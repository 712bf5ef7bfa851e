//! How each hand repeats on each gauge, as the touches of this build show it.
//!
//! Two touches of one place by one person differ by hand and step alone. All such differences of a gauge in one person's
//! hand are pooled: squares `SS` over `n` degrees of freedom, one less than the touches at each place. The shop's own figure
//! for the gauge counts like eight degrees of freedom. Where `SS` is more than chance allows (beyond the 95th percentile of
//! chi-square for what was declared), the declared figure is contradicted and what was found stands alone, with the
//! factor of Student's t for its few degrees; else both are pooled, so that a steady hand proves itself better.
use statrs::distribution::{ChiSquared, ContinuousCDF};
use uuid::Uuid;

use crate::gauge::Gauge;
use crate::log::Reckoning;
use crate::maths::{Kept, Touching, student};
use crate::units::Length;

/// Degrees of freedom that the shop's figure counts for: by the third reckoning half as many, since a hand may be three times
/// worse than anybody declared.
const fn declared_for(reckoning: Reckoning) -> f64 {
    match reckoning {
        Reckoning::First | Reckoning::Second => 8.0,
        Reckoning::Third => 4.0,
    }
}

/// 97.5th percentile of a normal value.
const NORMAL: f64 = 1.96;

/// Repeats that lie farther apart than so many standard deviations are a slip and say nothing about the hand.
const SLIP: f64 = 5.0;

/// One person's hand on one gauge.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Hand {
    /// How it repeats, without the gauge's rounding.
    pub touching: Touching,
    /// What a small sample costs: Student's t over the normal 1.96; 1 where the shop's figure went in.
    pub reach: f64,
    /// Degrees of freedom that were found in this build.
    pub found: u32,
    /// Whether what was found contradicts the shop's figure.
    pub contradicts: bool,
    /// Variance that the step hides from every repeat: every budget asks for it again, and it is a sum of exponentials.
    pub hidden: f64,
    /// Variance that shows among repeats.
    pub seen: f64,
}

impl Hand {
    /// A hand that touches like that, as far as the shop's figure goes.
    fn of_touching(touching: Touching) -> Self {
        let (hidden, seen) = (touching.hidden(), touching.seen());
        Hand { touching, reach: 1.0, found: 0, contradicts: false, hidden, seen }
    }

    /// The hand as the shop declares it for a gauge.
    pub fn declared(gauge: &Gauge) -> Self {
        Hand::of_touching(Touching { s: gauge.repeatability.as_f64(), step: gauge.resolution.as_f64() })
    }

    /// Standard uncertainty of the value of a place from `n` touches, in nanometres.
    pub fn of(&self, n: usize, median: bool) -> f64 {
        if median { self.touching.of_median(n) } else { (self.hidden + self.seen / n.max(1) as f64).sqrt() }
    }

    /// How far repeats may lie apart before one of them is a slip.
    pub fn slip_limit(&self) -> Length {
        let two_steps = 2.0 * self.touching.step;
        Length::from_f64((SLIP * self.seen.sqrt()).max(two_steps)).unwrap_or(Length::LIMIT)
    }
}

/// Squares of the differences among repeats, their degrees of freedom, and what those make of them: worked out once, as every
/// place asks for its hand.
#[derive(Debug, Clone, Copy, Default)]
struct Repeats {
    squares: f64,
    degrees: u32,
    /// 95th percentile of chi-square.
    limit: f64,
    /// 97.5th percentile of Student's t.
    t: f64,
}

impl Repeats {
    fn of(squares: f64, degrees: u32) -> Self {
        let (limit, t) = percentiles(degrees);
        Repeats { squares, degrees, limit, t }
    }
}

/// The 95th percentile of chi-square and the 97.5th of Student's t. Each is a search that takes as long as a hundred readings,
/// and every evaluation asks for the same few again.
fn percentiles(degrees: u32) -> (f64, f64) {
    thread_local! {
        static KNOWN: Kept<u32, (f64, f64), 32> = const { Kept::new() };
    }
    let found = || {
        let limit = ChiSquared::new(f64::from(degrees)).map_or(f64::INFINITY, |chi| chi.inverse_cdf(0.95));
        (limit, student(0.975, f64::from(degrees)))
    };
    KNOWN.with(|known| known.get(degrees, found))
}

/// One person on one gauge, and the gauge as it was then: its repeatability and its step.
#[derive(Debug)]
struct Held {
    /// Whose repeats are pooled, by number: the gauge's repeats tell of the same hand after it was declared anew.
    pool: usize,
    as_it_was: [Length; 2],
    declared: Hand,
    /// What follows from both.
    hand: Hand,
}

/// Every hand of a build. Each is known by its number, which every touch carries along.
#[derive(Debug, Default)]
pub(crate) struct Hands<'a> {
    reckoning: Reckoning,
    /// Gauge and person.
    pools: Vec<((&'a str, Uuid), Repeats)>,
    held: Vec<Held>,
}

/// How the touches of one place by one hand lie around their mean.
struct Scatter {
    /// Largest less smallest.
    spread: f64,
    /// Squares around the mean.
    squares: f64,
    /// Touches.
    count: u32,
}

impl Scatter {
    fn of(values: impl Iterator<Item = f64> + Clone) -> Self {
        let (mut count, mut sum, mut low, mut high) = (0_u32, 0.0, f64::MAX, f64::MIN);
        for v in values.clone() {
            (count, sum) = (count.saturating_add(1), sum + v);
            // A reading is a number, always: what the library does for others takes as long as all the rest.
            low = if v < low { v } else { low };
            high = if v > high { v } else { high };
        }
        let mean = sum / f64::from(count.max(1));
        Scatter { spread: high - low, squares: values.map(|v| (v - mean) * (v - mean)).sum(), count }
    }
}

impl<'a> Hands<'a> {
    /// No hands yet.
    pub fn of(reckoning: Reckoning) -> Self {
        Hands { reckoning, ..Hands::default() }
    }

    /// The number of a person's hand on a gauge, as the reading names it, and on the gauge as it was then.
    pub fn number(&mut self, of: (&'a str, Uuid), gauge: &Gauge) -> u32 {
        let as_it_was = [gauge.repeatability, gauge.resolution];
        let is_it = |held: &Held| {
            held.as_it_was == as_it_was && self.pools.get(held.pool).is_some_and(|(known, _)| *known == of)
        };
        let number = self.held.iter().position(is_it).unwrap_or_else(|| self.hold(of, gauge));
        u32::try_from(number).unwrap_or(u32::MAX)
    }

    fn hold(&mut self, of: (&'a str, Uuid), gauge: &Gauge) -> usize {
        let pool = self.pools.iter().position(|(known, _)| *known == of).unwrap_or_else(|| {
            self.pools.push((of, Repeats::default()));
            self.pools.len() - 1
        });
        let declared = Hand::declared(gauge);
        let found = self.pools.get(pool).map(|(_, found)| *found).unwrap_or_default();
        let hand = combine(declared, found, self.reckoning);
        self.held.push(Held { pool, as_it_was: [gauge.repeatability, gauge.resolution], declared, hand });
        self.held.len() - 1
    }

    /// How the hand of that number repeats.
    pub fn get(&self, number: u32) -> Option<Hand> {
        self.held.get(number as usize).map(|held| held.hand)
    }

    /// Learns every hand from what was read at each place, with the number of the hand.
    pub fn learn<P: Iterator<Item = (u32, Length)> + Clone>(&mut self, places: impl Iterator<Item = P>) {
        let mut pools: Vec<Vec<Scatter>> = Vec::new();
        pools.resize_with(self.pools.len(), Vec::new);
        let mut others: Vec<(usize, f64)> = Vec::new();
        let pool_of = |n: u32| self.held.get(n as usize).map(|held| held.pool);
        let mut keep = |pool: usize, of_hand: Scatter| {
            if let Some(known) = pools.get_mut(pool).filter(|_| of_hand.count > 1) {
                known.push(of_hand);
            }
        };
        for place in places {
            let Some((first, _)) = place.clone().next() else { continue };
            // Mostly one hand touched a place.
            if place.clone().all(|(n, _)| n == first) {
                if let Some(pool) = pool_of(first) {
                    keep(pool, Scatter::of(place.map(|(_, read)| read.as_f64())));
                }
                continue;
            }
            others.clear();
            others.extend(place.filter_map(|(n, read)| Some((pool_of(n)?, read.as_f64()))));
            while let Some((pool, _)) = others.first().copied() {
                keep(pool, Scatter::of(others.iter().filter(|(p, _)| *p == pool).map(|(_, read)| *read)));
                others.retain(|(p, _)| *p != pool);
            }
        }
        for ((_, found), scatters) in self.pools.iter_mut().zip(&pools) {
            *found = pooled(scatters);
        }
        for held in &mut self.held {
            let found = self.pools.get(held.pool).map(|(_, found)| *found).unwrap_or_default();
            held.hand = combine(held.declared, found, self.reckoning);
        }
    }
}

/// Pools the repeats of many places, slips left out: what is far beyond the usual spread of this very hand.
fn pooled(places: &[Scatter]) -> Repeats {
    let mut above: Vec<f64> = places.iter().map(|p| p.spread).filter(|s| *s > 0.0).collect();
    let middle = above.len() / 2;
    // The median spread of two touches is 0.95 of a standard deviation; of a step's rounding half of them may be zero.
    let usual = if above.is_empty() { 0.0 } else { *above.select_nth_unstable_by(middle, f64::total_cmp).1 };
    let (mut all, mut degrees) = (0.0, 0_u32);
    for place in places.iter().filter(|place| place.spread <= SLIP * usual) {
        all += place.squares;
        degrees = degrees.saturating_add(place.count.saturating_sub(1));
    }
    if degrees == 0 { Repeats::default() } else { Repeats::of(all, degrees) }
}

/// The hand behind a variance that was seen, on a gauge of that step. It is a search, and a touch changes what is known of one
/// hand only: those of the others are asked for again by every evaluation.
fn behind(seen: f64, step: f64) -> Touching {
    thread_local! {
        // More hands than a shop has on one build.
        static KNOWN: Kept<(f64, f64), Touching, 32> = const { Kept::new() };
    }
    KNOWN.with(|known| known.get((seen, step), || Touching::behind(seen, step)))
}

/// What was declared and what was found, combined.
///
/// By the third reckoning the factor of Student's t stays, for eight degrees and what was found: a hand of which hardly anything
/// was seen may be worse than it looks.
fn combine(declared: Hand, found: Repeats, reckoning: Reckoning) -> Hand {
    let Repeats { squares, degrees, limit, t } = found;
    let reach = match reckoning {
        Reckoning::First | Reckoning::Second => 1.0,
        Reckoning::Third => percentiles(degrees.saturating_add(8)).1 / NORMAL,
    };
    if degrees == 0 {
        return Hand { reach, ..declared };
    }
    let (expected, n) = (declared.seen, f64::from(degrees));
    let step = declared.touching.step;
    if squares > limit * expected {
        let touching = behind(squares / n, step);
        return Hand { reach: t / NORMAL, found: degrees, contradicts: true, ..Hand::of_touching(touching) };
    }
    let weight = declared_for(reckoning);
    let both = (weight * expected + squares) / (weight + n);
    Hand { reach, found: degrees, ..Hand::of_touching(behind(both, step)) }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn declared() -> Hand {
        Hand::of_touching(Touching { s: 0.3, step: 1.0 })
    }

    fn places(twice: &[(f64, f64)]) -> Vec<Scatter> {
        twice.iter().map(|(a, b)| Scatter::of([*a, *b].into_iter())).collect()
    }

    #[test]
    fn a_hand_far_worse_than_declared_replaces_what_was_declared() {
        let wild = places(&[(0.0, 2.0), (5.0, 4.0), (1.0, 3.0), (2.0, 2.0), (7.0, 5.0), (3.0, 4.0)]);
        let hand = combine(declared(), pooled(&wild), Reckoning::Second);
        assert!(hand.contradicts && hand.found == 6, "{hand:?}");
        assert!(hand.touching.s > 0.9 && hand.reach > 1.2);
    }

    #[test]
    fn a_steady_hand_proves_itself_better_and_one_difference_proves_nothing() {
        let calm = combine(declared(), pooled(&places(&[(1.0, 1.0); 30])), Reckoning::Second);
        assert!(!calm.contradicts && calm.touching.s < 0.2, "{calm:?}");
        let once = combine(declared(), pooled(&places(&[(1.0, 2.0)])), Reckoning::Second);
        assert!(!once.contradicts && (once.touching.s - 0.3).abs() < 0.1, "{once:?}");
        assert_eq!(combine(declared(), Repeats::default(), Reckoning::Second), declared());
    }

    #[test]
    fn one_slip_among_many_touches_does_not_make_a_bad_hand() {
        let mut touched = places(&[(1.0, 1.0), (2.0, 3.0), (4.0, 4.0), (4.0, 5.0), (1.0, 1.0), (1.0, 2.0)]);
        let without = pooled(&touched);
        touched.push(Scatter::of([3.0, 13.0, 3.0].into_iter()));
        assert_eq!(pooled(&touched).squares, without.squares);
    }

    #[test]
    fn a_hand_of_which_little_was_seen_reaches_farther() {
        let reach = |n: usize| {
            let found = if n == 0 { Repeats::default() } else { pooled(&places(&vec![(1.0, 1.5); n])) };
            combine(declared(), found, Reckoning::Third).reach
        };
        assert!((reach(0) - 1.177).abs() < 0.001, "as Student's t of eight degrees has it");
        assert!(reach(0) > reach(2) && reach(2) > reach(20) && reach(20) < 1.06);
    }
}
