//! What the gauges leave open: contributions combined in quadrature, shown as `U = 2 u`.
//!
//! * resolution `r`: the value lies anywhere in one step, `r / (2 sqrt 3)`;
//! * repeatability `s`: `s / sqrt n` for the mean of `n` touches; a median of three costs a factor
//!   1.16, of more up to 1.25;
//! * calibration, an expanded uncertainty at k = 2: half of it.
//!
//! How a clearance is obtained decides what counts. By the **direct** method the mic only carries the
//! size across, so its scale cancels: left are its feel on the journal, the zeroing of the bore gauge in
//! it, and the bore gauge's resolution and repeat. By **subtract** both instruments count in full.
//!
//! ```
//! use jagged_pin_core::uncertainty::{resolution, Budget, Part, PartSource};
//!
//! let part = |source, standard| Part { source, standard };
//! let budget = Budget::combine(vec![
//!     part(PartSource::JournalResolution, 3_000.0),
//!     part(PartSource::BoreRepeat, 4_000.0),
//! ]);
//! assert_eq!(budget.expanded.nm(), 10_000);
//! assert!((budget.share(&budget.parts[1]) - 0.64).abs() < 1e-9);
//! assert!((resolution(2_540.0) - 733.2).abs() < 0.1);
//! ```

use serde::Serialize;

use crate::Length;
use crate::gauge::GaugeKind;

/// Where a contribution comes from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum PartSource {
    /// The step of the gauge on the journal.
    JournalResolution,
    /// The feel of the gauge on the journal.
    JournalRepeat,
    /// The scale of the gauge on the journal.
    JournalCalibration,
    /// The step of the bore gauge.
    BoreResolution,
    /// The feel of the bore gauge in the bore.
    BoreRepeat,
    /// Setting the bore gauge to zero in the locked mic.
    BoreZeroing,
    /// The scale of the bore gauge and its setting.
    BoreCalibration,
}

/// One contribution: a standard uncertainty in nanometres.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Part {
    /// Where it comes from.
    pub source: PartSource,
    /// Standard uncertainty, nm.
    pub standard: f64,
}

/// Contributions and what they come to.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Budget {
    /// The contributions.
    pub parts: Vec<Part>,
    /// Combined standard uncertainty, nm.
    pub standard: f64,
    /// `U = 2 u`, about 95 %.
    pub expanded: Length,
}

impl Budget {
    /// Adds contributions in quadrature.
    pub fn combine(parts: Vec<Part>) -> Self {
        let standard = combined(parts.iter().map(|p| p.standard));
        let expanded = Length::from_f64(2.0 * standard).unwrap_or(Length::LIMIT);
        Budget { parts, standard, expanded }
    }

    /// The share of a part in the sum of squares, 0 to 1; 0 when everything is zero.
    pub fn share(&self, part: &Part) -> f64 {
        share(part.standard, self.standard)
    }
}

/// Standard uncertainties added in quadrature.
pub fn combined(parts: impl Iterator<Item = f64>) -> f64 {
    parts.map(|u| u * u).sum::<f64>().sqrt()
}

/// Share of a standard uncertainty in the combined one, as a part of the sum of squares; 0 when that
/// is zero.
pub fn share(part: f64, combined: f64) -> f64 {
    if combined > 0.0 { (part / combined).powi(2) } else { 0.0 }
}

/// Standard uncertainty of a value that lies anywhere within `width` of the middle: a rectangle.
pub fn half_width(width: f64) -> f64 {
    width / 3f64.sqrt()
}

/// Standard uncertainty of a figure read in steps of `step`.
pub fn resolution(step: f64) -> f64 {
    step / (2.0 * 3f64.sqrt())
}

/// Standard uncertainty of a position value from `n` touches, each repeating within `s` (one standard
/// deviation). No touch counts as one.
pub fn repeat(s: f64, n: usize) -> f64 {
    let median_cost = match n {
        0..=2 => 1.0,
        3 => 1.16,
        _ => 1.25,
    };
    median_cost * s / (n.max(1) as f64).sqrt()
}

/// A gauge and how many touches its figure rests on.
#[derive(Debug, Clone, Copy)]
pub struct Touched<'a> {
    /// The kind of gauge used.
    pub gauge: &'a GaugeKind,
    /// Touches behind the figure.
    pub touches: usize,
}

impl Touched<'_> {
    fn part(&self, source: PartSource) -> Part {
        let s = self.gauge.repeatability.as_f64();
        let standard = match source {
            PartSource::JournalResolution | PartSource::BoreResolution => resolution(self.gauge.resolution.as_f64()),
            PartSource::JournalRepeat | PartSource::BoreRepeat => repeat(s, self.touches),
            PartSource::BoreZeroing => s,
            PartSource::JournalCalibration | PartSource::BoreCalibration => self.gauge.calibration.as_f64() / 2.0,
        };
        Part { source, standard }
    }
}

/// Budget of a clearance by the direct (transfer) method.
pub fn direct(journal: Touched<'_>, bore: Touched<'_>) -> Budget {
    Budget::combine(vec![
        journal.part(PartSource::JournalRepeat),
        bore.part(PartSource::BoreZeroing),
        bore.part(PartSource::BoreResolution),
        bore.part(PartSource::BoreRepeat),
    ])
}

/// Budget of a clearance from two sizes measured apart.
pub fn subtract(journal: Touched<'_>, bore: Touched<'_>) -> Budget {
    Budget::combine(vec![
        journal.part(PartSource::JournalCalibration),
        journal.part(PartSource::JournalResolution),
        journal.part(PartSource::JournalRepeat),
        bore.part(PartSource::BoreCalibration),
        bore.part(PartSource::BoreResolution),
        bore.part(PartSource::BoreRepeat),
    ])
}

/// Expanded uncertainty of what two budgets do not share, for comparing two methods that stand on the
/// same journal readings: the journal's contributions are left out.
pub fn without_journal(budget: &Budget) -> Length {
    use PartSource::{JournalCalibration, JournalRepeat, JournalResolution};
    let own = |p: &&Part| !matches!(p.source, JournalResolution | JournalRepeat | JournalCalibration);
    Budget::combine(budget.parts.iter().filter(own).copied().collect()).expanded
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::gauge::GaugeUse;
    use proptest::prelude::*;

    fn gauge() -> GaugeKind {
        GaugeKind {
            id: "g".into(),
            name: "Gauge".into(),
            measures: GaugeUse::Inside,
            resolution: Length::tenths(1),
            repeatability: Length::from_nm(762),
            calibration: Length::tenths(1),
        }
    }

    #[test]
    fn zeroed_together_proves_a_tenth_and_zeroed_apart_less() {
        let (g, n) = (gauge(), 2);
        let touched = || Touched { gauge: &g, touches: n };
        // 538.8^2 + 762^2 + 733.2^2 + 538.8^2 = 1303.4^2, doubled.
        assert_eq!(direct(touched(), touched()).expanded.nm(), 2_607);
        // Two calibrations of 1270 on top of 733.2 and 538.8 each: 2209.5^2, doubled.
        assert_eq!(subtract(touched(), touched()).expanded.nm(), 4_419);
        assert_eq!(without_journal(&direct(touched(), touched())).nm(), 2_374);
    }

    #[test]
    fn the_second_touch_helps_and_a_median_pays_for_its_calm() {
        assert!(repeat(100.0, 2) < repeat(100.0, 1));
        assert!((repeat(100.0, 3) - 66.97).abs() < 0.01);
        assert_eq!(repeat(100.0, 0), 100.0);
    }

    proptest! {
        #[test]
        fn shares_add_up_to_one(parts in prop::collection::vec(0.1f64..9_000.0, 1..8)) {
            let parts = parts.into_iter().map(|standard| Part { source: PartSource::BoreRepeat, standard }).collect();
            let budget = Budget::combine(parts);
            let sum: f64 = budget.parts.iter().map(|p| budget.share(p)).sum();
            prop_assert!((sum - 1.0).abs() < 1e-9);
        }
    }
}
