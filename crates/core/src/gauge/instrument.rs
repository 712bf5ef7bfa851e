//! Gauges: what each can measure, what the shop allows it, and whether it is good enough for a window.
//!
//! The ten-to-one rule: a gauge decides a window when its step is at most a tenth of the window's width.
//! Down to a quarter it is coarse and said to be so; beyond a quarter it is too coarse, and nothing is
//! proven in with it.
//!
//! ```
//! use jagged_pin_core::gauge::{GaugeFit, gauge_fit};
//! use jagged_pin_core::Length;
//!
//! let (six_tenths, t) = (Length::tenths(6), Length::from_nm);
//! assert_eq!(gauge_fit(t(1_270), six_tenths), GaugeFit::Fine);      // half tenths: 12 to 1
//! assert_eq!(gauge_fit(t(2_540), six_tenths), GaugeFit::Coarse);    // tenths: 6 to 1
//! assert_eq!(gauge_fit(t(12_700), six_tenths), GaugeFit::TooCoarse); // a caliper's half thou
//! ```
use serde::{Deserialize, Serialize};

use crate::engine::GaugeUse;
use crate::units::{Day, Flaw, LONGEST_GAUGE, LONGEST_TEXT, Length, Wrong, must, must_be_text};

/// Kinds of instrument.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum GaugeType {
    /// Outside micrometer.
    OutsideMic,
    /// Ball-anvil micrometer, for shell walls.
    BallMic,
    /// Bore gauge.
    BoreGauge,
    /// Dial indicator.
    Indicator,
    /// Caliper.
    Caliper,
    /// Crushed strip; its step is that of its printed widths, its range that of its colour.
    Strip,
    /// Dial indicator on a base, for travels.
    BaseIndicator,
    /// A set of blades; its step is that from blade to blade.
    Blades,
    /// A set of radius gauges; its step is that from one to the next.
    RadiusGauges,
    /// Depth micrometer, or a shadow scale for edges.
    DepthMic,
    /// A telescope gauge that carries the size of a bore to a mic: what it repeats by holds both contacts.
    TransferGauge,
    /// Height gauge on a plate, or a large caliper from centre to centre.
    HeightGauge,
}

impl GaugeType {
    /// What a gauge of that type is put on.
    pub const fn measures(self) -> GaugeUse {
        match self {
            GaugeType::OutsideMic | GaugeType::Caliper => GaugeUse::Outside,
            GaugeType::BoreGauge | GaugeType::Indicator | GaugeType::TransferGauge => GaugeUse::Inside,
            GaugeType::BallMic => GaugeUse::Wall,
            GaugeType::Strip => GaugeUse::Gap,
            GaugeType::BaseIndicator => GaugeUse::Travel,
            GaugeType::Blades => GaugeUse::Blades,
            GaugeType::RadiusGauges => GaugeUse::Radius,
            GaugeType::DepthMic => GaugeUse::Depth,
            GaugeType::HeightGauge => GaugeUse::Height,
        }
    }
}

/// The sizes a gauge reaches.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GaugeRange {
    /// Smallest.
    pub from: Length,
    /// Largest.
    pub to: Length,
}

impl GaugeRange {
    /// Whether it reaches that size.
    pub fn reaches(&self, size: Length) -> bool {
        (self.from..=self.to).contains(&size)
    }
}

/// A gauge as it was when a build was opened or a session with it began: its allowances go into every
/// uncertainty, so a later calibration does not change what was measured before.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Gauge {
    /// Stable short name.
    pub id: String,
    /// Name people read.
    pub name: String,
    /// The number on it, where it has one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub serial: Option<String>,
    /// What it measures.
    pub measures: GaugeUse,
    /// Smallest step it shows.
    pub resolution: Length,
    /// Its repeatability: one standard deviation.
    pub repeatability: Length,
    /// Its calibration: expanded uncertainty, k = 2.
    pub calibration: Length,
    /// Kind of instrument, where it is known.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub kind: Option<GaugeType>,
    /// The sizes it reaches.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub range: Option<GaugeRange>,
    /// When it was calibrated.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub calibrated: Option<Day>,
    /// The last day its calibration holds.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub due: Option<Day>,
    /// What one person reads otherwise than another with gauges of its kind, as a study of hands found: one standard
    /// deviation.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub between_people: Option<Length>,
}

/// Whether a gauge's step suits a window.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum GaugeFit {
    /// A tenth of the window or finer.
    Fine,
    /// Between a tenth and a quarter: usable, and said.
    Coarse,
    /// Coarser than a quarter: it must not decide this window.
    TooCoarse,
}

/// Steps of a gauge in a window, in tenths of a step: 60 means 6 to 1.
pub fn steps_in_tenths(resolution: Length, width: Length) -> i64 {
    width.nm().saturating_mul(10).checked_div(resolution.nm()).unwrap_or(i64::MAX)
}

/// Judges a gauge's step against the width of a window.
pub fn gauge_fit(resolution: Length, width: Length) -> GaugeFit {
    let steps = |n: i128| i128::from(resolution.nm()).saturating_mul(n) <= i128::from(width.nm());
    if steps(10) {
        GaugeFit::Fine
    } else if steps(4) {
        GaugeFit::Coarse
    } else {
        GaugeFit::TooCoarse
    }
}

impl Gauge {
    /// Whether its calibration no longer holds on that day.
    pub fn past_due(&self, on: Option<Day>) -> bool {
        self.due.zip(on).is_some_and(|(due, on)| on > due)
    }

    /// Checks its name and its figures.
    ///
    /// # Errors
    /// [`Flaw`] names the part and the line that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        let within = |l: Length| (Length::ZERO..=Length::LIMIT).contains(&l);
        must_be_text(&self.id, "id", None, LONGEST_GAUGE)?;
        must_be_text(&self.name, "name", None, LONGEST_TEXT)?;
        self.serial.as_deref().map_or(Ok(()), |s| must_be_text(s, "serial", None, LONGEST_GAUGE))?;
        let step = self.resolution > Length::ZERO && within(self.resolution);
        must(step, Flaw::of("resolution", Wrong::Figure("above zero")))?;
        must(within(self.repeatability), Flaw::of("repeatability", Wrong::Figure("zero or more")))?;
        let people = self.between_people.is_none_or(within);
        must(people, Flaw::of("between_people", Wrong::Figure("zero or more")))?;
        must(within(self.calibration), Flaw::of("calibration", Wrong::Figure("zero or more")))?;
        let range = self.range.is_none_or(|r| within(r.from) && within(r.to) && r.from < r.to);
        must(range, Flaw::of("range", Wrong::Figure("from small to large")))?;
        let due = self.calibrated.zip(self.due).is_none_or(|(on, due)| on <= due);
        must(due, Flaw::of("due", Wrong::Figure("after the day of calibration")))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn caliper() -> Gauge {
        Gauge {
            id: "c".into(),
            name: "Caliper".into(),
            serial: None,
            measures: GaugeUse::Outside,
            resolution: Length::from_nm(12_700),
            repeatability: Length::ZERO,
            calibration: Length::ZERO,
            kind: Some(GaugeType::Caliper),
            range: None,
            calibrated: "2026-01-10".parse().ok(),
            due: "2026-11-23".parse().ok(),
            between_people: None,
        }
    }

    #[test]
    fn a_transfer_gauge_gives_sizes_of_bores_like_every_gauge_that_goes_into_them() {
        let transfer =
            Gauge { measures: GaugeType::TransferGauge.measures(), kind: Some(GaugeType::TransferGauge), ..caliper() };
        assert_eq!(transfer.measures, GaugeType::BoreGauge.measures());
        let read: Result<Gauge, _> = serde_json::to_string(&transfer).and_then(|text| serde_json::from_str(&text));
        assert_eq!(read.ok(), Some(transfer));
    }

    #[test]
    fn a_gauge_is_good_up_to_and_with_its_due_day() {
        let on = |day: &str| caliper().past_due(day.parse().ok());
        assert_eq!([on("2026-11-23"), on("2026-11-24")], [false, true]);
        assert!(!Gauge { due: None, ..caliper() }.past_due("2030-01-01".parse().ok()));
    }

    #[test]
    fn ten_to_one_is_fine_and_four_to_one_is_the_floor() {
        let fit_of = |step: i64| gauge_fit(Length::from_nm(step), Length::from_nm(20_000));
        assert_eq!([fit_of(2_000), fit_of(2_001)], [GaugeFit::Fine, GaugeFit::Coarse]);
        assert_eq!([fit_of(5_000), fit_of(5_001)], [GaugeFit::Coarse, GaugeFit::TooCoarse]);
    }

    #[test]
    fn a_gauge_that_cannot_be_is_told() {
        assert_eq!(caliper().check(), Ok(()));
        assert!(Gauge { due: "2026-01-09".parse().ok(), ..caliper() }.check().is_err());
        assert!(Gauge { resolution: Length::ZERO, ..caliper() }.check().is_err());
        let upside_down = GaugeRange { from: Length::tenths(20), to: Length::tenths(10) };
        assert!(Gauge { range: Some(upside_down), ..caliper() }.check().is_err());
    }
}
