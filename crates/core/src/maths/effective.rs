//! The size that counts: from the touches at a feature's positions to one effective size.
//!
//! * Position value: one reading is itself, two are their mean, three or more their median.
//! * Effective size by the *worst* rule: the largest journal, the smallest bore, which is the least
//!   clearance that exists. By the *mean* rule: the average of the positions.
//! * Taper: over all angles, the largest difference between axial positions.
//! * Out-of-round: over all axial positions, the largest difference between angles.
//! * Relief of a bore over shells: mean away from the vertical less mean at the vertical. Shells thin
//!   toward the parting line, so it must come out positive.
//!
//! ```
//! use jagged_pin_core::maths::{Extreme, SizeRule, TouchedPlace, effective};
//! use jagged_pin_core::Length;
//!
//! // Bore over shells, vertical front and rear, and one touch at 45 degrees.
//! let t = Length::tenths;
//! let places = [
//!     TouchedPlace { axial: "front", angle: 0, readings: vec![t(20_018)] },
//!     TouchedPlace { axial: "rear", angle: 0, readings: vec![t(20_020)] },
//!     TouchedPlace { axial: "front", angle: 45, readings: vec![t(20_026)] },
//! ];
//! let size = effective(Extreme::Smallest, SizeRule::Worst, Some(&[0]), &places).unwrap();
//! assert_eq!(size.effective, t(20_018));
//! assert_eq!(size.taper, t(2));
//! assert_eq!(size.relief, Some(t(7)));
//! ```
use serde::{Deserialize, Serialize};

use crate::units::Length;

/// Which of the values at its places is the worst, and so the size that counts.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Extreme {
    /// A shaft or a wall: the largest.
    Largest,
    /// A hole or a gap: the smallest.
    Smallest,
}

/// Which of the position values is taken as the size of the whole feature.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum SizeRule {
    /// Largest journal, smallest bore (the default).
    Worst,
    /// Average of the positions.
    Mean,
}

/// One touched place: where along the axis, at what angle from vertical, and what was read there.
#[derive(Debug, Clone, PartialEq)]
pub struct TouchedPlace<X, A> {
    /// Axial place, such as front or rear of the oil hole.
    pub axial: X,
    /// Angle from vertical in degrees.
    pub angle: A,
    /// The readings in the order taken; never empty.
    pub readings: Vec<Length>,
}

impl<X, A> TouchedPlace<X, A> {
    /// What its touches come to; `None` of no readings.
    pub fn value(&self) -> Option<PlaceValue> {
        let spread = Length::span(self.readings.iter().copied());
        Some(PlaceValue { value: position_value(&self.readings)?, spread })
    }
}

/// What one place came to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct PlaceValue {
    /// The value by the rule for repeats.
    pub value: Length,
    /// Largest less smallest of the repeats.
    pub spread: Length,
}

/// The size of one feature.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Effective {
    /// The size that counts.
    pub effective: Length,
    /// Smallest position value, over all positions.
    pub smallest: Length,
    /// Largest position value, over all positions.
    pub largest: Length,
    /// Largest difference along the axis at one angle.
    pub taper: Length,
    /// Largest difference around the circumference at one axial place.
    pub out_of_round: Length,
    /// Mean at the other angles less mean at the effective ones, where there are others.
    pub relief: Option<Length>,
    /// Largest spread of repeats at one position.
    pub max_spread: Length,
    /// Index of the place whose value is the effective one (worst rule), or the first that counts.
    pub deciding: usize,
}

/// Value of one position: one reading is itself, two are their mean, three or more their median.
/// `None` of no readings.
pub fn position_value(readings: &[Length]) -> Option<Length> {
    match readings {
        [] => None,
        [one] => Some(*one),
        [_, _] => Length::mean(readings),
        _ => Length::median(readings),
    }
}

/// A place with the value that its touches came to.
#[derive(Debug, Clone, Copy)]
pub struct ValuedPlace<X, A> {
    /// Axial place.
    pub axial: X,
    /// Angle from vertical in degrees.
    pub angle: A,
    /// What it came to.
    pub value: PlaceValue,
    /// Whether it counts for the effective size; else it gives the relief.
    pub counts: bool,
}

/// Works out the size of a feature from its touched places; the value of each by [`position_value`].
///
/// `angles` limits what counts for the effective size, the taper and the out-of-round; the others
/// then give the relief. `None` when no place counts, or a place has no readings.
pub fn effective<X: PartialEq, A: PartialEq>(
    kind: Extreme,
    rule: SizeRule,
    angles: Option<&[A]>,
    places: &[TouchedPlace<X, A>],
) -> Option<Effective> {
    let valued = places.iter().map(|place| {
        let TouchedPlace { axial, angle, .. } = place;
        let counts = angles.is_none_or(|a| a.contains(angle));
        Some(ValuedPlace { axial, angle, value: place.value()?, counts })
    });
    effective_of(kind, rule, &valued.collect::<Option<Vec<_>>>()?)
}

/// The same of places whose values are known.
pub fn effective_of<X: PartialEq, A: PartialEq>(
    kind: Extreme,
    rule: SizeRule,
    places: &[ValuedPlace<X, A>],
) -> Option<Effective> {
    let counting = || places.iter().filter(|p| p.counts);
    let indexed = || places.iter().enumerate().filter(|(_, p)| p.counts);
    let (deciding, worst) = match kind {
        Extreme::Largest => indexed().rev().max_by_key(|(_, p)| p.value.value),
        Extreme::Smallest => indexed().min_by_key(|(_, p)| p.value.value),
    }?;
    let mean = Length::mean_of(counting().map(|p| p.value.value))?;
    let away = Length::mean_of(places.iter().filter(|p| !p.counts).map(|p| p.value.value));
    let spans = |same: fn(&ValuedPlace<X, A>, &ValuedPlace<X, A>) -> bool| {
        let span_with = |p| Length::span(counting().filter(|q| same(p, q)).map(|q| q.value.value));
        counting().map(span_with).max().unwrap_or_default()
    };
    let every = || places.iter().map(|p| p.value.value);
    Some(Effective {
        effective: match rule {
            SizeRule::Worst => worst.value.value,
            SizeRule::Mean => mean,
        },
        smallest: every().min()?,
        largest: every().max()?,
        taper: spans(|p, q| p.angle == q.angle),
        out_of_round: spans(|p, q| p.axial == q.axial),
        relief: away.map(|away| away - mean),
        max_spread: places.iter().map(|p| p.value.spread).max()?,
        deciding,
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn place(axial: &'static str, angle: i32, tenths: &[i64]) -> TouchedPlace<&'static str, i32> {
        TouchedPlace { axial, angle, readings: tenths.iter().copied().map(Length::tenths).collect() }
    }

    #[test]
    fn the_largest_place_counts_on_a_journal_and_the_smallest_in_a_bore() {
        let places = [place("front", 0, &[19_996]), place("rear", 0, &[19_999])];
        let size = |kind| effective(kind, SizeRule::Worst, None, &places).map(|e| e.effective);
        assert_eq!(size(Extreme::Largest), Some(Length::tenths(19_999)));
        assert_eq!(size(Extreme::Smallest), Some(Length::tenths(19_996)));
    }

    #[test]
    fn one_wild_touch_of_three_does_not_move_the_median() {
        let places = [place("front", 0, &[19_996, 19_996, 19_990])];
        let size = effective(Extreme::Largest, SizeRule::Worst, None, &places);
        assert_eq!(size.as_ref().map(|e| e.effective), Some(Length::tenths(19_996)));
        assert_eq!(size.map(|e| e.max_spread), Some(Length::tenths(6)));
    }

    #[test]
    fn a_place_without_readings_gives_no_size() {
        assert_eq!(effective(Extreme::Smallest, SizeRule::Mean, None, &[place("front", 0, &[])]), None);
        assert_eq!(effective(Extreme::Smallest, SizeRule::Mean, Some(&[0]), &[place("front", 45, &[1])]), None);
    }

    proptest! {
        #[test]
        fn the_mean_rule_never_leaves_the_ends_and_the_worst_rule_is_one_of_them(
            sizes in prop::collection::vec(prop::collection::vec(19_900i64..20_100, 1..5), 1..7)
        ) {
            let places: Vec<_> = sizes.iter().enumerate()
                .map(|(i, s)| TouchedPlace { axial: i / 2, angle: i % 2, readings: s.iter().copied().map(Length::tenths).collect() })
                .collect();
            for (kind, rule) in [(Extreme::Largest, SizeRule::Worst), (Extreme::Smallest, SizeRule::Worst), (Extreme::Largest, SizeRule::Mean)] {
                let e = effective(kind, rule, None, &places);
                prop_assert!(e.is_some());
                if let Some(e) = e {
                    prop_assert!(e.smallest <= e.effective && e.effective <= e.largest);
                    prop_assert!(e.taper <= e.largest - e.smallest && e.out_of_round <= e.largest - e.smallest);
                    if rule == SizeRule::Worst {
                        let end = if kind == Extreme::Largest { e.largest } else { e.smallest };
                        prop_assert_eq!(e.effective, end);
                        prop_assert_eq!(places[e.deciding].value().map(|p| p.value), Some(end));
                    }
                }
            }
        }

        #[test]
        fn shrinking_every_reading_shrinks_the_size_alike(sizes in prop::collection::vec(19_900i64..20_100, 1..7), by in 1i64..50) {
            let places = |off: i64| sizes.iter().enumerate()
                .map(|(i, s)| TouchedPlace { axial: i, angle: 0, readings: vec![Length::tenths(s - off)] }).collect::<Vec<_>>();
            let size = |off| effective(Extreme::Smallest, SizeRule::Worst, None, &places(off)).map(|e| (e.effective, e.taper));
            prop_assert_eq!(size(by).map(|(e, t)| (e + Length::tenths(by), t)), size(0));
        }
    }
}
