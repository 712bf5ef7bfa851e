//! What a difference of several noisy readings tells, by the third reckoning.
//!
//! The largest of several readings less the smallest is too large by about what the noise of as many readings spans: a perfect
//! bore is found out of round, a straight crank bent. That is taken off, and what is left keeps the doubt of the difference.
//!
//! * *Bend*: twice the amplitude of the first harmonic of a turn, `2 E`, with `E^2` less what noise adds to it,
//!   `4 u^2 / n` of `n` clocks. Ovality and single readings do not count as bend.
//! * *Out of round* and *taper*: the largest difference of two places around, or along; noise makes each positive.
//! * *End to end*: the mean at one end less the mean at the other.
use smallvec::SmallVec;

use super::methods::Inputs;
use crate::engine::{Axial, Read, Statistic, Term};
use crate::evidence::{Open, PositionAssessment, Size, SizeAssessment};
use crate::log::Reckoning;
use crate::maths::{ClockReading, Extreme, throw, worst_place};
use crate::units::Length;

/// A span without its noise.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Span {
    /// What is left of it; not negative.
    pub value: Length,
    /// What it was read as.
    pub read: Length,
    /// Its standard uncertainty over that of one place.
    pub picked: f64,
}

/// How far something is from a true cylinder.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct ShapeSpan {
    /// The largest difference, the noise of its readings taken off.
    pub value: Length,
    /// What the hand leaves open of it: expanded uncertainty.
    pub expanded: Length,
}

/// Taper and out-of-round of something that was touched at its places; `None` where it was not, or nobody knows the hand.
pub(crate) fn shape_of(part: &SizeAssessment) -> Option<[ShapeSpan; 2]> {
    let size = part.size.as_ref().filter(|_| part.complete)?;
    let open = size.open?;
    let places: SmallVec<[&PositionAssessment; 8]> = part.positions.iter().filter(|p| !p.advisory).collect();
    let doubt = open.hand.of(size.touches, open.median) * open.hand.reach;
    let told = |span: Span| {
        let expanded = Length::from_f64(2.0 * span.picked * doubt).unwrap_or(Length::LIMIT);
        ShapeSpan { value: span.value, expanded }
    };
    Some([told(taper(&places, doubt)), told(out_of_round(&places, doubt))])
}

impl Inputs<'_> {
    /// What a term that takes a difference of its own places tells; `None` of other terms, and by the reckonings of before.
    pub(super) fn span(&self, term: &Term, size: &Size, open: &Open) -> Option<Span> {
        if self.rules.reckoning < Reckoning::Third {
            return None;
        }
        let part = self.part(term.role, term.read)?;
        let places: SmallVec<[&PositionAssessment; 8]> = part.positions.iter().filter(|p| !p.advisory).collect();
        let doubt = open.hand.of(size.touches, open.median);
        match term.statistic {
            Statistic::Travel if term.read == Read::Turn => bend(&places, doubt),
            Statistic::Travel => end_to_end(&places, doubt),
            Statistic::OutOfRound => Some(out_of_round(&places, doubt)),
            Statistic::Taper => Some(taper(&places, doubt)),
            _ => None,
        }
    }
}

fn bend(places: &[&PositionAssessment], doubt: f64) -> Option<Span> {
    let read =
        |p: &&PositionAssessment| Some(ClockReading { angle: f64::from(p.position.angle), value: p.value?.as_f64() });
    let clock: SmallVec<[ClockReading; 12]> = places.iter().filter_map(read).collect();
    let off = throw(&clock)?.eccentricity();
    let per_place = (2.0 / clock.len().max(1) as f64).sqrt();
    let noise = 2.0 * (per_place * doubt).powi(2);
    Some(Span {
        value: Length::from_f64(2.0 * (off * off - noise).max(0.0).sqrt())?,
        read: Length::from_f64(2.0 * off)?,
        picked: 2.0 * per_place,
    })
}

fn out_of_round(places: &[&PositionAssessment], doubt: f64) -> Span {
    largest_pair(places, doubt, |a, b| a.position.axial == b.position.axial && a.position.track == b.position.track)
}

fn taper(places: &[&PositionAssessment], doubt: f64) -> Span {
    largest_pair(places, doubt, |a, b| {
        a.position.angle == b.position.angle
            && a.position.axial != b.position.axial
            && a.position.track == b.position.track
    })
}

/// The largest difference of two places that belong together.
fn largest_pair(
    places: &[&PositionAssessment],
    doubt: f64,
    belong: impl Fn(&PositionAssessment, &PositionAssessment) -> bool,
) -> Span {
    let mut differences: SmallVec<[Length; 16]> = SmallVec::new();
    for (i, a) in places.iter().enumerate() {
        let pairs = places.iter().skip(i.saturating_add(1)).filter(|b| belong(a, b));
        differences.extend(pairs.filter_map(|b| Some((a.value? - b.value?).abs())));
    }
    without_noise(&differences, doubt, std::f64::consts::SQRT_2)
}

fn end_to_end(places: &[&PositionAssessment], doubt: f64) -> Option<Span> {
    let at = |axial: Axial| -> SmallVec<[Length; 8]> {
        places.iter().filter(|p| p.position.axial == axial).filter_map(|p| p.value).collect()
    };
    let (front, rear) = (at(Axial::Front), at(Axial::Rear));
    let apart = Length::mean(&front)? - Length::mean(&rear)?;
    let per_place = (1.0 / front.len().max(1) as f64 + 1.0 / rear.len().max(1) as f64).sqrt();
    Some(without_noise(&[apart.abs()], doubt, per_place))
}

/// The largest of some differences, each with `times` the doubt of a place, without what noise adds to it: a difference may
/// as well lie the other way round.
fn without_noise(differences: &[Length], doubt: f64, times: f64) -> Span {
    let read = differences.iter().copied().max().unwrap_or_default();
    let either_way: SmallVec<[f64; 32]> = differences.iter().flat_map(|d| [d.as_f64(), -d.as_f64()]).collect();
    let worst = worst_place(Extreme::Largest, &either_way, doubt * times);
    let value = read - Length::from_f64(worst.bias).unwrap_or_default();
    Span { value: value.max(Length::ZERO), read, picked: times }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn t(n: i64) -> Length {
        Length::tenths(n)
    }

    #[test]
    fn noise_alone_is_no_difference_and_a_large_one_stays() {
        let noise = without_noise(&[t(1), t(1), t(1)], 2_540.0, 1.0);
        assert!(noise.value < t(1), "{noise:?}");
        let plain = without_noise(&[t(30)], 2_540.0, 1.0);
        assert!((plain.value - t(30)).abs() < Length::from_nm(5), "{plain:?}");
        assert_eq!(without_noise(&[t(3), t(1)], 0.0, 1.0).value, t(3), "what is not doubtful stays as it was read");
    }
}
