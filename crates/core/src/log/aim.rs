//! An aim as the sum of named terms, so that nothing is counted twice:
//! `aim = max(sheet minimum, factor x bore) + sum of adders`.
use serde::{Deserialize, Serialize};

use crate::units::{Flaw, Length, Wrong, must, must_differ};

/// What a piston is given more room for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Adder {
    /// Boost.
    Boost,
    /// Nitrous oxide.
    Nitrous,
    /// Long full load.
    LongFullLoad,
    /// A coating that the sheet does not reckon with.
    Coating,
    /// A sleeve of another material.
    Sleeve,
    /// Room taken from what would be quiet when cold: noise is not accepted.
    ColdNoise,
}

/// One adder.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Added {
    /// What for.
    pub why: Adder,
    /// How much; below zero where it takes room away.
    pub by: Length,
}

/// What an aim is made of.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AimMade {
    /// The smallest figure of the piston's sheet.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub sheet: Option<Length>,
    /// The shop's factor, in millionths of the bore.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub per_million: Option<i64>,
    /// What the sheet's figure is for already, such as a piston sold for boost.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub covers: Vec<Adder>,
    /// What is added.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub adders: Vec<Added>,
}

/// A tenth of the bore: no factor is larger.
const LARGEST_FACTOR: i64 = 100_000;
/// Most that a single reason adds or takes: a twentieth of an inch.
const LARGEST_ADDER: Length = Length::tenths(500);

impl AimMade {
    /// The aim on a bore of that size, to the nanometre; `None` where neither a sheet nor a factor is given.
    ///
    /// ```
    /// use jagged_pin_core::log::{Added, Adder, AimMade};
    /// use jagged_pin_core::Length;
    ///
    /// let t = Length::tenths;
    /// let coated = vec![Added { why: Adder::Coating, by: t(3) }];
    /// let made = AimMade { sheet: Some(t(30)), per_million: None, covers: vec![], adders: coated };
    /// assert_eq!(made.aim(t(34_750)), Some(t(33)));
    /// ```
    pub fn aim(&self, bore: Length) -> Option<Length> {
        let part = |per_million: i64| Length::from_f64(bore.as_f64() * per_million as f64 / 1e6);
        let base = self.sheet.max(self.per_million.and_then(part))?;
        Some(self.adders.iter().fold(base, |sum, added| sum + added.by))
    }

    /// Checks that it has a base and counts nothing twice.
    ///
    /// # Errors
    /// [`Flaw`] names the line that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        let based = self.sheet.is_some() || self.per_million.is_some();
        must(based, Flaw::of("sheet", Wrong::Figure("a sheet's figure or a factor")))?;
        let small = |l: Length| l > Length::ZERO && l.in_limits();
        must(self.sheet.is_none_or(small), Flaw::of("sheet", Wrong::Figure("above zero")))?;
        let factor = self.per_million.is_none_or(|f| (1..=LARGEST_FACTOR).contains(&f));
        must(factor, Flaw::of("factor", Wrong::Figure("at most a tenth of the bore")))?;
        must_differ(self.adders.iter().map(|added| added.why), "adders")?;
        for (line, added) in self.adders.iter().enumerate() {
            let sized = added.by != Length::ZERO && added.by.abs() <= LARGEST_ADDER;
            must(sized, Flaw::at("adders", line, Wrong::Figure("a twentieth of an inch at most, and not nothing")))?;
            let once = !self.covers.contains(&added.why);
            must(
                once,
                Flaw::at("adders", line, Wrong::Elsewhere("the sheet's figure has it already: it is counted once")),
            )?;
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn t(tenths: i64) -> Length {
        Length::tenths(tenths)
    }

    fn made(covers: &[Adder], adders: &[(Adder, i64)]) -> AimMade {
        let adders = adders.iter().map(|(why, by)| Added { why: *why, by: t(*by) }).collect();
        AimMade { sheet: Some(t(30)), per_million: Some(900), covers: covers.to_vec(), adders }
    }

    #[test]
    fn the_larger_of_sheet_and_factor_is_what_is_added_to() {
        // 0.0009 an inch of 3.475 is 0.00313.
        let aim = made(&[], &[(Adder::Boost, 10), (Adder::ColdNoise, -2)]).aim(t(34_750));
        assert_eq!(aim.map(|a| a - t(8)), Length::from_f64(3.1275e-3 * 25.4e6));
        assert_eq!(AimMade { sheet: None, per_million: None, ..made(&[], &[]) }.aim(t(34_750)), None);
    }

    #[test]
    fn nothing_is_counted_twice() {
        assert!(made(&[Adder::Coating], &[(Adder::Boost, 10)]).check().is_ok());
        assert!(made(&[Adder::Boost], &[(Adder::Boost, 10)]).check().is_err(), "the sheet is for boost already");
        assert!(made(&[], &[(Adder::Boost, 10), (Adder::Boost, 5)]).check().is_err());
        assert!(made(&[], &[(Adder::Boost, 0)]).check().is_err());
        assert!(AimMade { sheet: None, per_million: None, ..made(&[], &[]) }.check().is_err());
    }
}
