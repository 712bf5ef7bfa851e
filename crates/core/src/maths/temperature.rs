//! The size a warm part has at 20 C, measured with a gauge that may be warm too.
//!
//! `L20 = L (1 + alpha_gauge (T_gauge - 20)) / (1 + alpha_part (T_part - 20))`: a warm steel mic on an
//! equally warm steel crank needs almost no correction.
//!
//! ```
//! use jagged_pin_core::maths::{Body, at_20};
//! use jagged_pin_core::Length;
//!
//! let gauge = Body { temperature_c: 20.0, alpha_per_k: 11.5e-6 };
//! let crank = Body { temperature_c: 31.0, alpha_per_k: 11.7e-6 };
//! // A journal at 31 C reads 2.6 tenths large.
//! assert_eq!(at_20(Length::tenths(19_998), crank, gauge), Some(Length::from_nm(50_788_384)));
//! ```
use serde::{Deserialize, Serialize};

use crate::units::Length;

/// Expansion of a steel gauge per kelvin.
pub const GAUGE_ALPHA: f64 = 11.5e-6;

/// What a part is made of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Material {
    /// Cast iron.
    #[default]
    Iron,
    /// Aluminium alloy of blocks.
    Aluminium,
    /// Magnesium alloy.
    Magnesium,
    /// Steel of cranks and rods.
    Steel,
}

impl Material {
    /// Linear expansion per kelvin.
    pub const fn alpha(self) -> f64 {
        match self {
            Material::Iron => 10.8e-6,
            Material::Aluminium => 21.0e-6,
            Material::Magnesium => 26.0e-6,
            Material::Steel => 11.7e-6,
        }
    }

    /// Density in grams a cubic centimetre.
    pub const fn density(self) -> f64 {
        match self {
            Material::Iron => 7.2,
            Material::Aluminium => 2.8,
            Material::Magnesium => 1.8,
            Material::Steel => 7.85,
        }
    }

    pub(crate) fn is_iron(&self) -> bool {
        *self == Material::Iron
    }
}

/// What a piston is made of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Alloy {
    /// Cast with more silicon than dissolves: grows least.
    Hypereutectic,
    /// Forged with as much silicon as just dissolves: grows a little more.
    ForgedEutectic,
    /// Forged, of low silicon: grows most.
    ForgedLowSilicon,
}

impl Alloy {
    /// Linear expansion per kelvin.
    pub const fn alpha(self) -> f64 {
        match self {
            Alloy::Hypereutectic => 18.5e-6,
            Alloy::ForgedEutectic => 19.4e-6,
            Alloy::ForgedLowSilicon => 22.3e-6,
        }
    }
}

/// Temperatures noted with a reading, in thousandths of a degree Celsius.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Temperatures {
    /// Of the part.
    pub part_mc: Option<i32>,
    /// Of the gauge.
    pub gauge_mc: Option<i32>,
}

/// Role and gauge further apart than this, in thousandths of a kelvin, have to be corrected for.
pub const SOAK_LIMIT_MC: i32 = 3_000;

/// What a workshop has: -40 to 200 degrees.
const PLAUSIBLE_MC: std::ops::RangeInclusive<i32> = -40_000..=200_000;

/// The reference temperature.
const REFERENCE_MC: i32 = 20_000;

impl Temperatures {
    /// Whether a thermometer in a workshop could show them.
    pub fn are_plausible(&self) -> bool {
        [self.part_mc, self.gauge_mc].into_iter().flatten().all(|t| PLAUSIBLE_MC.contains(&t))
    }

    /// The size at 20 C, when both are known; the size as it was read otherwise.
    pub fn correct(&self, size: Length, part: Material) -> Length {
        let body = |mc: i32, alpha_per_k| Body { temperature_c: f64::from(mc) / 1_000.0, alpha_per_k };
        let both = self.part_mc.zip(self.gauge_mc);
        both.and_then(|(p, g)| at_20(size, body(p, part.alpha()), body(g, GAUGE_ALPHA))).unwrap_or(size)
    }

    /// Whether the part should soak: it is known to be warm or cold, and not enough is known to correct
    /// for it.
    pub fn let_it_soak(&self) -> bool {
        let off = |t: i32| t.saturating_sub(REFERENCE_MC).saturating_abs() > SOAK_LIMIT_MC;
        match (self.part_mc, self.gauge_mc) {
            (Some(_), Some(_)) | (None, None) => false,
            (Some(one), None) | (None, Some(one)) => off(one),
        }
    }
}

/// Lowest temperature there is, in degrees Celsius.
pub const ABSOLUTE_ZERO_C: f64 = -273.15;

/// Something with a temperature: a part or a gauge.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Body {
    /// Temperature in degrees Celsius.
    pub temperature_c: f64,
    /// Linear expansion per kelvin.
    pub alpha_per_k: f64,
}

impl Body {
    /// Length of the body now as a multiple of its length at 20 C; `None` where that is not above
    /// zero, or not a number.
    pub fn stretch(self) -> Option<f64> {
        let stretch = 1.0 + self.alpha_per_k * (self.temperature_c - 20.0);
        (self.temperature_c >= ABSOLUTE_ZERO_C && stretch > 0.0 && stretch.is_finite()).then_some(stretch)
    }
}

/// The size at 20 C of a part read as `size`; `None` when a body has no stretch or the result no
/// longer fits.
pub fn at_20(size: Length, part: Body, gauge: Body) -> Option<Length> {
    Length::from_f64(size.as_f64() * gauge.stretch()? / part.stretch()?)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn a_gauge_of_the_same_steel_and_warmth_needs_no_correction(t in -40.0f64..120.0, tenths in 1i64..100_000) {
            let body = Body { temperature_c: t, alpha_per_k: 11.7e-6 };
            prop_assert_eq!(at_20(Length::tenths(tenths), body, body), Some(Length::tenths(tenths)));
        }

        #[test]
        fn a_part_above_20_is_smaller_when_cool(t in 20.1f64..200.0) {
            let gauge = Body { temperature_c: 20.0, alpha_per_k: 11.5e-6 };
            let part = Body { temperature_c: t, alpha_per_k: 21e-6 };
            prop_assert!(at_20(Length::tenths(20_000), part, gauge) < Some(Length::tenths(20_000)));
        }
    }

    #[test]
    fn a_warm_part_is_corrected_when_both_temperatures_are_known_and_soaks_otherwise() {
        let noted = |part_mc, gauge_mc| Temperatures { part_mc, gauge_mc };
        let size = Length::tenths(19_998);
        // The worked example above: 31 C on a crank, gauge at 20 C.
        assert_eq!(noted(Some(31_000), Some(20_000)).correct(size, Material::Steel), Length::from_nm(50_788_384));
        assert_eq!(noted(Some(31_000), None).correct(size, Material::Steel), size);
        assert!(noted(Some(31_000), None).let_it_soak());
        assert!(!noted(Some(31_000), Some(20_000)).let_it_soak());
        assert!(!noted(Some(22_900), None).let_it_soak());
        assert!(!noted(Some(1_000_000), None).are_plausible());
    }

    #[test]
    fn nothing_is_colder_than_absolute_zero() {
        assert_eq!(Body { temperature_c: -300.0, alpha_per_k: 0.0 }.stretch(), None);
        assert_eq!(Body { temperature_c: 30.0, alpha_per_k: -0.1 }.stretch(), None);
    }
}
