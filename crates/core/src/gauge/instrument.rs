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

use crate::engine::Part;
use crate::units::{Day, LONGEST_GAUGE, Length, check_text};

/// What a gauge can be put on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum GaugeUse {
    /// Shafts: a mic, a caliper.
    Outside,
    /// Holes: a bore gauge.
    Inside,
    /// Shell walls: a ball-anvil mic.
    Wall,
    /// Gaps: a crushed strip.
    Gap,
}

impl GaugeUse {
    /// Whether it can be put on that part.
    pub const fn fits(self, part: Part) -> bool {
        matches!(
            (self, part),
            (GaugeUse::Outside, Part::Journal)
                | (GaugeUse::Inside, Part::Housing | Part::Bore)
                | (GaugeUse::Wall, Part::UpperWall | Part::LowerWall)
                | (GaugeUse::Gap, Part::Strip)
        )
    }
}

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

/// Judges a gauge's step against the width of a window.
pub fn gauge_fit(resolution: Length, width: Length) -> GaugeFit {
    let steps = |n: i64| i128::from(resolution.nm()) * i128::from(n) <= i128::from(width.nm());
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

    /// Whether its figures make sense: a name, a step above zero, nothing beyond bounds.
    pub fn is_sound(&self) -> bool {
        let within = |l: Length| (Length::ZERO..=Length::LIMIT).contains(&l);
        (1..=LONGEST_GAUGE).contains(&self.id.chars().count())
            && check_text(&self.name, "a gauge's name").is_ok()
            && self.resolution > Length::ZERO
            && [self.resolution, self.repeatability, self.calibration].into_iter().all(within)
            && self.range.is_none_or(|r| within(r.from) && within(r.to) && r.from < r.to)
            && self.calibrated.zip(self.due).is_none_or(|(on, due)| on <= due)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn caliper() -> Gauge {
        Gauge {
            id: "c".into(),
            name: "Caliper".into(),
            measures: GaugeUse::Outside,
            resolution: Length::from_nm(12_700),
            repeatability: Length::ZERO,
            calibration: Length::ZERO,
            kind: Some(GaugeType::Caliper),
            range: None,
            calibrated: "2026-01-10".parse().ok(),
            due: "2026-11-23".parse().ok(),
        }
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
        assert!(caliper().is_sound());
        assert!(!Gauge { due: "2026-01-09".parse().ok(), ..caliper() }.is_sound());
        assert!(!Gauge { resolution: Length::ZERO, ..caliper() }.is_sound());
        let upside_down = GaugeRange { from: Length::tenths(20), to: Length::tenths(10) };
        assert!(!Gauge { range: Some(upside_down), ..caliper() }.is_sound());
    }
}
