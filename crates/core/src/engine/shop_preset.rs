//! The windows a shop starts its targets from: data of the shop, which begins with what the trade uses.
//!
//! A preset is a start and no more: the maker's sheet wins, and a factory's wear range is none.
use serde::{Deserialize, Serialize};

use super::Figure;
use super::figure::PresetLimits;
use super::place::PlaceKind;
use crate::maths::Target;
use crate::units::{Flaw, LONGEST_TEXT, Length, Wrong, must, must_be_text};

/// A window of the shop for a figure at a kind of place, by the use of the engine.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShopPreset {
    /// What it is a window of.
    pub figure: Figure,
    /// The kind of place it is for.
    pub at: PlaceKind,
    /// What it is for, as the shop calls it: street, endurance.
    pub name: String,
    /// The window.
    pub limits: PresetLimits,
}

impl ShopPreset {
    /// What a shop starts with, before it has said otherwise.
    pub fn usual() -> Vec<ShopPreset> {
        let of = |figure: Figure| {
            let preset =
                move |p: &super::Preset| ShopPreset { figure, at: p.at, name: p.name.into(), limits: p.limits };
            figure.row().presets.iter().map(preset)
        };
        Figure::all().flat_map(of).collect()
    }

    /// The window on a shaft of that size, limits rounded to a tenth of a thou, or to a micrometre where `metric`.
    ///
    /// ```
    /// use jagged_pin_core::engine::{Figure, PlaceKind, ShopPreset};
    /// use jagged_pin_core::Length;
    ///
    /// let street = ShopPreset::usual().into_iter().find(|p| p.figure == Figure::OIL_CLEARANCE).unwrap();
    /// assert_eq!((street.at, street.name.as_str()), (PlaceKind::Main, "street"));
    /// // 0.00085 to 0.00105 an inch on a journal of 2.624 in.
    /// let window = street.window(Length::tenths(26_240), false);
    /// assert_eq!((window.low, window.high), (Length::tenths(22), Length::tenths(28)));
    /// ```
    pub fn window(&self, shaft: Length, metric: bool) -> Target {
        let step = if metric { Length::microns(1) } else { Length::tenths(1) };
        let part = |millionths: f64| {
            let steps = shaft.as_f64() * millionths / 1e6 / step.as_f64();
            Length::from_f64(steps.round() * step.as_f64()).unwrap_or_default()
        };
        match self.limits {
            PresetLimits::Fixed { low, aim, high } => Target { low, aim, high },
            PresetLimits::PerShaft { low, aim, high } => {
                let (low, high) = (f64::from(low), f64::from(high));
                Target { low: part(low), aim: part(aim.map_or(low.midpoint(high), f64::from)), high: part(high) }
            }
        }
    }

    /// Checks that it can be worked by.
    ///
    /// # Errors
    /// [`Flaw`] names what cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        must_be_text(&self.name, "name", None, LONGEST_TEXT)?;
        must(self.figure.row().at.contains(&self.at), Flaw::of("at", Wrong::Figure("where the figure is")))?;
        let sound = match self.limits {
            PresetLimits::Fixed { low, aim, high } => {
                *self.figure.believed(Length::LIMIT).start() <= low
                    && low <= aim
                    && aim <= high
                    && low < high
                    && high <= Length::LIMIT
            }
            PresetLimits::PerShaft { low, aim, high } => {
                low < high && high <= MOST_MILLIONTHS && aim.is_none_or(|aim| (low..=high).contains(&aim))
            }
        };
        must(sound, Flaw::of("limits", Wrong::Figure("from small to large")))
    }
}

/// A fiftieth of the shaft: more is no clearance.
const MOST_MILLIONTHS: u32 = 20_000;

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    #[test]
    fn what_a_shop_starts_with_can_be_worked_by() {
        let usual = ShopPreset::usual();
        assert!(usual.len() >= 11);
        for preset in &usual {
            assert_eq!(preset.check(), Ok(()), "{}", preset.name);
        }
        let elsewhere = ShopPreset { at: PlaceKind::Pin, ..usual[0].clone() };
        assert!(elsewhere.check().is_err());
        let narrow =
            ShopPreset { limits: PresetLimits::PerShaft { low: 900, aim: None, high: 900 }, ..usual[0].clone() };
        assert!(narrow.check().is_err());
    }

    proptest! {
        #[test]
        fn a_window_in_proportion_is_in_order_on_any_shaft(tenths in 4_000_i64..98_000, low in 0_u32..5_000, more in 1_u32..5_000, metric: bool) {
            let limits = PresetLimits::PerShaft { low, aim: None, high: low + more };
            let preset = ShopPreset { figure: Figure::OIL_CLEARANCE, at: PlaceKind::Rod, name: "any".into(), limits };
            let window = preset.window(Length::tenths(tenths), metric);
            prop_assert!(window.low <= window.aim && window.aim <= window.high);
        }
    }
}
