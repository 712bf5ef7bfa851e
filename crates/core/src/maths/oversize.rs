//! The smallest oversize that will clean up every cylinder, probably.
//!
//! A place worn on one side needs `2 size - unworn + 2 damage + 2 error`: the bar runs on the old centre but for its error.
//! Worn all round it needs `size + 2 damage + 2 error`. What is measured at the place is doubtful for itself; the unworn
//! bore and the bar are doubtful for all places of the cylinder together. A cylinder comes clean with the probability that
//! all of its places, normal and independent but for that common part, need no more than the bar is set to.
use super::combined;
use crate::units::Length;

/// How a bore wore.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Wear {
    /// On one side of its old centre.
    OneSided,
    /// As much all round, so that its centre stayed where it was.
    Even,
}

/// How well the bar finds the old centre, and the expanded uncertainty of that.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Bar {
    /// How far its centre may stand off the old one.
    pub error: Length,
    /// Expanded uncertainty of that.
    pub expanded: Length,
}

/// A place of a cylinder as it was measured.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct CleanPlace {
    /// Size and its expanded uncertainty.
    pub size: (Length, Length),
    /// Depth of damage and its expanded uncertainty.
    pub damage: (Length, Length),
}

/// What the places of one cylinder need; doubts in nanometres.
#[derive(Debug, Clone, PartialEq)]
pub struct CleanUp {
    /// The largest need, and the number of its place: the first of equals.
    pub needs: Length,
    /// The place it comes from.
    pub decides: usize,
    /// Expanded uncertainty there.
    pub expanded: f64,
    /// Need and standard uncertainty of each place by itself.
    places: Vec<(Length, f64)>,
    /// Standard uncertainty that all places share.
    common: f64,
}

/// What a cylinder needs, from the bore where it never wore with its doubt; `None` without a place.
pub fn clean_up(wear: Wear, unworn: (Length, Length), bar: Bar, places: &[CleanPlace]) -> Option<CleanUp> {
    let twice = |l: Length| l + l;
    let one_sided = wear == Wear::OneSided;
    let need = |p: &CleanPlace| {
        let worn = if one_sided { p.size.0 - unworn.0 } else { Length::ZERO };
        p.size.0 + worn + twice(p.damage.0) + twice(bar.error)
    };
    let own = |p: &CleanPlace| {
        let size = p.size.1.as_f64();
        combined([if one_sided { size } else { size / 2.0 }, p.damage.1.as_f64()].into_iter())
    };
    let unworn_doubt = if one_sided { unworn.1.as_f64() / 2.0 } else { 0.0 };
    let common = combined([unworn_doubt, bar.expanded.as_f64()].into_iter());
    let places: Vec<(Length, f64)> = places.iter().map(|p| (need(p), own(p))).collect();
    let most = places.iter().map(|(need, _)| *need).max()?;
    let decides = places.iter().position(|(need, _)| *need == most)?;
    let expanded = 2.0 * common.hypot(places.get(decides)?.1);
    Some(CleanUp { needs: most, decides, expanded, places, common })
}

/// So many standard deviations from its middle nothing of a normal value is left to count.
const REACH: f64 = 8.5;

/// Panels of Simpson's rule between two points where the integrand changes its scale.
const PANELS: u32 = 64;

impl CleanUp {
    /// How likely a bar set to that size cleans all places, to a millionth.
    pub fn probability(&self, bore_to: Length) -> f64 {
        let room: Vec<(f64, f64)> = self.places.iter().map(|(need, own)| ((bore_to - *need).as_f64(), *own)).collect();
        let total = |own: f64| self.common.hypot(own);
        if room.iter().all(|(room, own)| *room >= REACH * total(*own)) {
            return 1.0;
        }
        if room.iter().any(|(room, own)| *room < -REACH * total(*own)) {
            return 0.0;
        }
        let clean_at = |shared: f64| room.iter().map(|(room, own)| below(room - shared, *own)).product::<f64>();
        if self.common <= 0.0 {
            return clean_at(0.0);
        }
        // A place is clean up to a shared error of its room: there the integrand falls, over as much as its own doubt.
        let falls = room.iter().flat_map(|(room, own)| [-REACH, 0.0, REACH].map(|z| (room + z * own) / self.common));
        let mut points: Vec<f64> = falls.chain([-REACH, REACH]).map(|z| z.clamp(-REACH, REACH)).collect();
        points.sort_by(f64::total_cmp);
        points.dedup();
        let density = |z: f64| (-z * z / 2.0).exp() / (2.0 * std::f64::consts::PI).sqrt();
        let at = |z: f64| density(z) * clean_at(z * self.common);
        points.windows(2).map(|ends| simpson(ends[0], ends[1], at)).sum::<f64>().clamp(0.0, 1.0)
    }
}

/// How likely a normal value with that standard deviation around zero is no more than `room`.
fn below(room: f64, standard: f64) -> f64 {
    if standard > 0.0 {
        statrs::function::erf::erfc(-room / standard / std::f64::consts::SQRT_2) / 2.0
    } else {
        f64::from(u8::from(room >= 0.0))
    }
}

/// Simpson's rule. Where a factor jumps, it does so at an end: what lies between is smooth.
fn simpson(from: f64, to: f64, of: impl Fn(f64) -> f64) -> f64 {
    let panels = 2 * PANELS;
    let step = (to - from) / f64::from(panels);
    // An end may be the jump itself: a hair inside, the value is that of the piece.
    let hair = step * 1e-9;
    let at = |i: u32| match i {
        0 => of(from + hair),
        i if i == panels => of(to - hair),
        i => of(from + step * f64::from(i)),
    };
    let weight = |i: u32| match i {
        0 => 1.0,
        i if i == panels => 1.0,
        i if i % 2 == 1 => 4.0,
        _ => 2.0,
    };
    (0..=panels).map(|i| weight(i) * at(i)).sum::<f64>() * step / 3.0
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    fn place(size: i64, expanded: i64) -> CleanPlace {
        CleanPlace { size: (Length::tenths(size), Length::tenths(expanded)), damage: Default::default() }
    }

    fn of(places: &[CleanPlace], unworn: (i64, i64), bar: i64) -> Option<CleanUp> {
        let bar = Bar { error: Length::ZERO, expanded: Length::tenths(bar) };
        clean_up(Wear::OneSided, (Length::tenths(unworn.0), Length::tenths(unworn.1)), bar, places)
    }

    #[test]
    fn a_bore_worn_on_one_side_needs_its_wear_twice() {
        let found = of(&[place(34_472, 0), place(34_460, 0)], (34_450, 0), 0);
        assert_eq!(found.as_ref().map(|f| (f.needs, f.decides)), Some((Length::tenths(34_494), 0)));
        let chances = [34_493, 34_494].map(|to| found.as_ref().map(|f| f.probability(Length::tenths(to))));
        assert_eq!(chances, [Some(0.0), Some(1.0)], "without doubt it is one or the other");
    }

    #[test]
    fn at_its_very_need_a_bore_comes_clean_in_half_of_all_cases() {
        for (own, unworn, bar) in [(2, 0, 0), (0, 2, 0), (0, 0, 3), (2, 1, 3)] {
            let found = of(&[place(34_472, own)], (34_450, unworn), bar);
            let chance = found.map_or(0.0, |f| f.probability(f.needs));
            assert!((chance - 0.5).abs() < 1e-7, "{own} {unworn} {bar}: {chance}");
        }
    }

    #[test]
    fn two_alike_places_are_likelier_clean_together_the_more_they_share() {
        let chance = |own, bar| {
            let found = of(&[place(34_472, own), place(34_472, own)], (34_450, 0), bar);
            found.map_or(0.0, |f| f.probability(f.needs))
        };
        assert!((chance(2, 0) - 0.25).abs() < 1e-9, "independent: a quarter");
        assert!((chance(0, 2) - 0.5).abs() < 1e-7, "one doubt for both: a half");
        assert!((chance(2, 2) - 1.0 / 3.0).abs() < 1e-7, "half shared: a third");
    }

    proptest! {
        #[test]
        fn a_larger_bore_is_never_less_likely_clean(
            sizes in prop::collection::vec((34_450i64..34_500, 0i64..6), 1..5), unworn in 0i64..4, bar in 0i64..6, at in 34_440i64..34_560,
        ) {
            let places: Vec<CleanPlace> = sizes.into_iter().map(|(size, expanded)| place(size, expanded)).collect();
            let found = of(&places, (34_450, unworn), bar);
            let chance = |to: i64| found.as_ref().map_or(0.0, |f| f.probability(Length::tenths(to)));
            prop_assert!(chance(at + 1) + 1e-7 >= chance(at));
            prop_assert!((0.0..=1.0).contains(&chance(at)));
        }
    }
}
