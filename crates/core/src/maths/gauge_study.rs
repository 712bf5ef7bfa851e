//! A gauge study: how much of what is read comes from the gauge, from the people and from the parts.
//!
//! Crossed analysis of variance of every part measured by every person the same number of times. Sums of squares are added
//! up in whole numbers, so that no scatter at all is exactly none.
#![allow(
    clippy::arithmetic_side_effects,
    reason = "values end at 100 m and counts at some thousands, so sums of their squares stay far within i128"
)]

use statrs::distribution::{ContinuousCDF, FisherSnedecor};

/// What a study found; standard deviations in the unit of the values.
#[derive(Debug, Clone, PartialEq)]
pub struct GaugeStudy {
    /// Of one person on one part.
    pub repeatability: f64,
    /// Between people.
    pub person: f64,
    /// Of people with certain parts.
    pub interaction: f64,
    /// Between parts.
    pub part: f64,
    /// Interaction against repeatability; unknown without any scatter.
    pub f: Option<f64>,
    /// How likely so much interaction is by chance.
    pub p: f64,
    /// Whether interaction was taken for chance.
    pub pooled: bool,
    /// Each person's offset from the mean of all, and own repeatability.
    pub people: Vec<(f64, f64)>,
}

impl GaugeStudy {
    /// Of people in all.
    pub fn reproducibility(&self) -> f64 {
        self.person.hypot(self.interaction)
    }

    /// Of gauge and people.
    pub fn gauge(&self) -> f64 {
        self.reproducibility().hypot(self.repeatability)
    }

    /// Of everything.
    pub fn total(&self) -> f64 {
        self.gauge().hypot(self.part)
    }

    /// How many sizes of part the gauge tells apart; unknown of a gauge without any scatter.
    pub fn distinct(&self) -> Option<u64> {
        let gauge = self.gauge();
        (gauge > 0.0).then(|| (1.41 * self.part / gauge).floor() as u64)
    }
}

/// Studies `values[part][person][repeat]`: at least two of each, as many for all. `None` of anything else.
pub fn gauge_study(values: &[Vec<Vec<i64>>], alpha: f64) -> Option<GaugeStudy> {
    let (parts, people) = (values.len(), values.first()?.len());
    let repeats = values.first()?.first()?.len();
    let even = values.iter().all(|of| of.len() == people && of.iter().all(|cell| cell.len() == repeats));
    if !even || parts < 2 || people < 2 || repeats < 2 {
        return None;
    }
    let first = values[0][0][0];
    let off = |v: &i64| i128::from(*v) - i128::from(first);
    let cells: Vec<Vec<i128>> = values.iter().map(|of| of.iter().map(|c| c.iter().map(off).sum()).collect()).collect();
    let square = |n: i128| n * n;
    let by_part: i128 = cells.iter().map(|of| square(of.iter().sum())).sum();
    let person = |j: usize| cells.iter().map(|of| of[j]).sum::<i128>();
    let by_person: i128 = (0..people).map(|j| square(person(j))).sum();
    let by_cell: i128 = cells.iter().flatten().map(|c| square(*c)).sum();
    let each: i128 = values.iter().flatten().flatten().map(|v| square(off(v))).sum();
    let total: i128 = cells.iter().flatten().sum();
    let [a, b, n] = [parts, people, repeats].map(|n| n as i128);
    // Every sum of squares, times the number of readings.
    let ss_part = a * by_part - square(total);
    let ss_person = b * by_person - square(total);
    let ss_interaction = a * b * by_cell - square(total) - ss_part - ss_person;
    let ss_error = a * b * n * each - a * b * by_cell;
    let readings = (a * b * n) as f64;
    let mean = |ss: i128, freedom: i128| ss as f64 / readings / freedom as f64;
    let of_interaction = (a - 1) * (b - 1);
    let of_error = a * b * (n - 1);
    let (ms_interaction, ms_plain) = (mean(ss_interaction, of_interaction), mean(ss_error, of_error));
    let f = (ss_error > 0).then(|| ms_interaction / ms_plain);
    let p = match f {
        None => f64::from(u8::from(ss_interaction == 0)),
        Some(f) => FisherSnedecor::new(of_interaction as f64, of_error as f64).ok()?.sf(f),
    };
    let pooled = p > alpha;
    let ms_error = if pooled { mean(ss_interaction + ss_error, of_interaction + of_error) } else { ms_plain };
    let against = if pooled { ms_error } else { ms_interaction };
    let root = |square: f64| square.max(0.0).sqrt();
    let grand = total as f64 / readings;
    let people = (0..people).map(|j| {
        let offset = person(j) as f64 / (a * n) as f64 - grand;
        let within = values.iter().map(|of| {
            let sum: i128 = of[j].iter().map(off).sum();
            n * of[j].iter().map(|v| square(off(v))).sum::<i128>() - square(sum)
        });
        (offset, root(within.sum::<i128>() as f64 / n as f64 / (a * (n - 1)) as f64))
    });
    Some(GaugeStudy {
        repeatability: root(ms_error),
        person: root((mean(ss_person, b - 1) - against) / (a * n) as f64),
        interaction: if pooled { 0.0 } else { root((ms_interaction - ms_error) / n as f64) },
        part: root((mean(ss_part, a - 1) - against) / (b * n) as f64),
        f,
        p,
        pooled,
        people: people.collect(),
    })
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    proptest! {
        #[test]
        fn a_shift_of_everything_changes_nothing_and_a_larger_scale_scales(
            values in prop::collection::vec(prop::collection::vec(prop::collection::vec(-500i64..500, 3), 2), 4),
            shift in -1_000_000i64..1_000_000,
        ) {
            let map = |by: fn(i64, i64) -> i64, n: i64| -> Vec<Vec<Vec<i64>>> {
                values.iter().map(|p| p.iter().map(|c| c.iter().map(|v| by(*v, n)).collect()).collect()).collect()
            };
            let plain = gauge_study(&values, 0.05);
            let shifted = gauge_study(&map(|v, n| v + n, shift), 0.05);
            let scaled = gauge_study(&map(|v, n| v * n, 7), 0.05);
            prop_assert!(plain.is_some());
            if let (Some(plain), Some(shifted), Some(scaled)) = (plain, shifted, scaled) {
                prop_assert!((plain.gauge() - shifted.gauge()).abs() < 1e-6 && plain.pooled == shifted.pooled);
                prop_assert!((7.0 * plain.total() - scaled.total()).abs() < 1e-6);
                let offsets: f64 = plain.people.iter().map(|(offset, _)| offset).sum();
                prop_assert!(offsets.abs() < 1e-6 && (0.0..=1.0).contains(&plain.p));
            }
        }
    }

    #[test]
    fn no_scatter_at_all_is_none() {
        let study = gauge_study(&[vec![vec![6, 6], vec![7, 7]], vec![vec![3, 3], vec![4, 4]]], 0.05);
        assert!(study.is_some_and(|s| s.repeatability == 0.0 && s.f.is_none() && s.p == 1.0 && s.people[0].0 == -0.5));
        assert!(gauge_study(&[vec![vec![6], vec![7]], vec![vec![3], vec![4]]], 0.05).is_none(), "once is no study");
    }
}
