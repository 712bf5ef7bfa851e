//! How much a housing opens when it is hot, by expansion arithmetic: an estimate that stands beside the
//! builder's allowance, which judges.
//!
//! `growth = D (a_housing (T_housing - 20) - a_journal (T_journal - 20))`, and
//! `a_housing = f a_block + (1 - f) a_cap` for a housing of which the share `f` is block.
//!
//! ```
//! use jagged_pin_core::maths::{GrowthAssumptions, housing_growth};
//! use jagged_pin_core::Length;
//! use jagged_pin_core::maths::Material;
//!
//! // A 60 mm main, half aluminium block and half steel cap, everything at 100 C.
//! let hot = GrowthAssumptions { block: Material::Aluminium, cap: Material::Steel, block_share: 50, housing_c: 100, journal_c: 100 };
//! // 60 mm x 80 K x (16.35e-6 - 11.7e-6) = 22.3 micrometres.
//! assert_eq!(housing_growth(Length::microns(60_000), hot), Length::from_nm(22_320));
//! ```
use serde::Serialize;

use super::temperature::Material;
use crate::units::Length;

/// What an estimate of growth rests on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GrowthAssumptions {
    /// What the block is made of.
    pub block: Material,
    /// What the caps are made of.
    pub cap: Material,
    /// The share of the housing that behaves like the block, in percent.
    pub block_share: u8,
    /// Housing temperature in degrees Celsius.
    pub housing_c: i16,
    /// Journal temperature in degrees Celsius.
    pub journal_c: i16,
}

impl GrowthAssumptions {
    /// What is assumed of a main housing unless somebody knows better: half block, half steel cap,
    /// both at 100 C.
    pub fn usual(block: Material) -> Self {
        let cap = if block == Material::Iron { Material::Iron } else { Material::Steel };
        GrowthAssumptions { block, cap, block_share: 50, housing_c: 100, journal_c: 100 }
    }

    /// What is assumed of a rod's big end: of one material all round, both at 100 C.
    pub fn of_rod(rod: Material) -> Self {
        GrowthAssumptions { block: rod, cap: rod, block_share: 100, housing_c: 100, journal_c: 100 }
    }
}

/// How much wider a housing of that diameter opens than its journal grows.
pub fn housing_growth(diameter: Length, a: GrowthAssumptions) -> Length {
    let share = f64::from(a.block_share.min(100)) / 100.0;
    let housing = share * a.block.alpha() + (1.0 - share) * a.cap.alpha();
    let above = |c: i16| f64::from(c) - 20.0;
    let per_unit = housing * above(a.housing_c) - Material::Steel.alpha() * above(a.journal_c);
    Length::from_f64(diameter.as_f64() * per_unit).unwrap_or_default()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn an_iron_block_hardly_opens_and_a_pure_aluminium_one_opens_most() {
        let d = Length::tenths(26_240);
        let iron = housing_growth(d, GrowthAssumptions::usual(Material::Iron));
        assert!(iron.abs() < Length::tenths(2), "{iron:?}");
        let half = GrowthAssumptions::usual(Material::Aluminium);
        assert!(housing_growth(d, GrowthAssumptions { block_share: 100, ..half }) > housing_growth(d, half));
    }
}
