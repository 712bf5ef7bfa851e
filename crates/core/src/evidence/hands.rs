//! How each hand repeats on each gauge, as the touches of this build show it.
//!
//! Two touches of one place by one person differ by hand and step alone. All such differences of a gauge in one person's
//! hand are pooled: squares `SS` over `n` degrees of freedom, one less than the touches at each place. The shop's own figure
//! for the gauge counts like eight degrees of freedom. Where `SS` is more than chance allows (beyond the 95th percentile of
//! chi-square for what was declared), the declared figure is contradicted and what was found stands alone, with the
//! factor of Student's t for its few degrees; else both are pooled, so that a steady hand proves itself better.
use std::cell::RefCell;
use std::collections::BTreeMap;
use std::sync::{PoisonError, RwLock};

use statrs::distribution::{ChiSquared, ContinuousCDF, StudentsT};
use uuid::Uuid;

use crate::gauge::Gauge;
use crate::maths::Touching;
use crate::units::Length;

/// Degrees of freedom that the shop's figure counts for.
const DECLARED: f64 = 8.0;

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
}

impl Hand {
    /// The hand as the shop declares it for a gauge.
    pub fn declared(gauge: &Gauge) -> Self {
        let touching = Touching { s: gauge.repeatability.as_f64(), step: gauge.resolution.as_f64() };
        Hand { touching, reach: 1.0, found: 0, contradicts: false }
    }

    /// Standard uncertainty of the value of a place from `n` touches, in nanometres.
    pub fn of(&self, n: usize, median: bool) -> f64 {
        if median { self.touching.of_median(n) } else { self.touching.of_mean(n) }
    }

    /// How far repeats may lie apart before one of them is a slip.
    pub fn slip_limit(&self) -> Length {
        let two_steps = 2.0 * self.touching.step;
        Length::from_f64((SLIP * self.touching.seen().sqrt()).max(two_steps)).unwrap_or(Length::LIMIT)
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
    static KNOWN: RwLock<BTreeMap<u32, (f64, f64)>> = RwLock::new(BTreeMap::new());
    if let Some(known) = KNOWN.read().unwrap_or_else(PoisonError::into_inner).get(&degrees) {
        return *known;
    }
    let n = f64::from(degrees);
    let limit = ChiSquared::new(n).map_or(f64::INFINITY, |chi| chi.inverse_cdf(0.95));
    let t = StudentsT::new(0.0, 1.0, n).map_or(1.96, |t| t.inverse_cdf(0.975));
    KNOWN.write().unwrap_or_else(PoisonError::into_inner).insert(degrees, (limit, t));
    (limit, t)
}

/// A person on a gauge as it was then: its repeatability and its step.
type Known = (String, Uuid, [Length; 2]);

/// Every hand of a build.
#[derive(Debug, Default)]
pub struct Hands<'a> {
    found: BTreeMap<(&'a str, Uuid), Repeats>,
    /// Hands that were asked for: every place asks again, and each takes a search to work out.
    known: RefCell<BTreeMap<Known, Hand>>,
}

/// Largest less smallest, and the squares around the mean.
fn scatter(values: &[f64]) -> (f64, f64) {
    let mean = values.iter().sum::<f64>() / values.len().max(1) as f64;
    let (low, high) = values.iter().fold((f64::MAX, f64::MIN), |(l, h), v| (l.min(*v), h.max(*v)));
    (high - low, values.iter().map(|v| (v - mean).powi(2)).sum())
}

impl<'a> Hands<'a> {
    /// From what was read at one place by one person with one gauge, place by place.
    pub fn of(places: impl IntoIterator<Item = (&'a str, Uuid, Vec<f64>)>) -> Self {
        let mut groups: BTreeMap<(&'a str, Uuid), Vec<Vec<f64>>> = BTreeMap::new();
        for (gauge, person, values) in places.into_iter().filter(|(.., v)| v.len() > 1) {
            groups.entry((gauge, person)).or_default().push(values);
        }
        let found = groups.into_iter().map(|(whose, places)| (whose, pooled(&places))).collect();
        Hands { found, known: RefCell::default() }
    }

    /// How a person's hand repeats on a gauge.
    pub fn hand(&self, gauge: &Gauge, person: Uuid) -> Hand {
        let Some(found) = self.found.get(&(gauge.id.as_str(), person)) else { return Hand::declared(gauge) };
        let whose = (gauge.id.clone(), person, [gauge.repeatability, gauge.resolution]);
        *self.known.borrow_mut().entry(whose).or_insert_with(|| combine(Hand::declared(gauge), *found))
    }
}

/// Pools the repeats of many places, slips left out: what is far beyond the usual spread of this very hand.
fn pooled(places: &[Vec<f64>]) -> Repeats {
    let mut spreads: Vec<f64> = places.iter().map(|p| scatter(p).0).collect();
    spreads.sort_by(f64::total_cmp);
    let above: Vec<f64> = spreads.iter().copied().filter(|s| *s > 0.0).collect();
    // The median spread of two touches is 0.95 of a standard deviation; of a step's rounding half of them may be zero.
    let usual = above.get(above.len() / 2).copied().unwrap_or_default();
    let (mut all, mut degrees) = (0.0, 0_u32);
    for place in places {
        let (spread, squares) = scatter(place);
        if spread <= SLIP * usual {
            all += squares;
            degrees = degrees.saturating_add(u32::try_from(place.len()).unwrap_or(1).saturating_sub(1));
        }
    }
    Repeats::of(all, degrees)
}

/// What was declared and what was found, combined.
fn combine(declared: Hand, found: Repeats) -> Hand {
    let Repeats { squares, degrees, limit, t } = found;
    if degrees == 0 {
        return declared;
    }
    let (expected, n) = (declared.touching.seen(), f64::from(degrees));
    let step = declared.touching.step;
    if squares > limit * expected {
        let touching = Touching::behind(squares / n, step);
        return Hand { touching, reach: t / 1.96, found: degrees, contradicts: true };
    }
    let both = (DECLARED * expected + squares) / (DECLARED + n);
    Hand { touching: Touching::behind(both, step), found: degrees, ..declared }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn declared() -> Hand {
        Hand { touching: Touching { s: 0.3, step: 1.0 }, reach: 1.0, found: 0, contradicts: false }
    }

    fn places(twice: &[(f64, f64)]) -> Vec<Vec<f64>> {
        twice.iter().map(|(a, b)| vec![*a, *b]).collect()
    }

    #[test]
    fn a_hand_far_worse_than_declared_replaces_what_was_declared() {
        let wild = places(&[(0.0, 2.0), (5.0, 4.0), (1.0, 3.0), (2.0, 2.0), (7.0, 5.0), (3.0, 4.0)]);
        let hand = combine(declared(), pooled(&wild));
        assert!(hand.contradicts && hand.found == 6, "{hand:?}");
        assert!(hand.touching.s > 0.9 && hand.reach > 1.2);
    }

    #[test]
    fn a_steady_hand_proves_itself_better_and_one_difference_proves_nothing() {
        let calm = combine(declared(), pooled(&places(&[(1.0, 1.0); 30])));
        assert!(!calm.contradicts && calm.touching.s < 0.2, "{calm:?}");
        let once = combine(declared(), pooled(&places(&[(1.0, 2.0)])));
        assert!(!once.contradicts && (once.touching.s - 0.3).abs() < 0.1, "{once:?}");
        assert_eq!(combine(declared(), Repeats::default()), declared());
    }

    #[test]
    fn one_slip_among_many_touches_does_not_make_a_bad_hand() {
        let mut touched = places(&[(1.0, 1.0), (2.0, 3.0), (4.0, 4.0), (4.0, 5.0), (1.0, 1.0), (1.0, 2.0)]);
        let without = pooled(&touched);
        touched.push(vec![3.0, 13.0, 3.0]);
        assert_eq!(pooled(&touched).squares, without.squares);
    }
}
