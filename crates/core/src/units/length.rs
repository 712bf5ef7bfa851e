//! [`Length`]: a length as a whole number of nanometres, and the two units people write it in.
use std::cmp::Ordering;
use std::fmt;
use std::ops::{Add, Neg, Sub};

use rust_decimal::{Decimal, RoundingStrategy};
use serde::{Deserialize, Serialize};

/// The unit a person reads and writes lengths in.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Unit {
    /// Inches; bench talk is in thou (0.001 in) and tenths (0.0001 in).
    #[serde(rename = "in")]
    Inch,
    /// Millimetres; bench talk is in micrometres.
    #[serde(rename = "mm")]
    Mm,
}

impl Unit {
    /// Nanometres in one of this unit: exact for both, 1 in = 25 400 000 nm.
    pub const fn nm(self) -> i64 {
        match self {
            Unit::Inch => 25_400_000,
            Unit::Mm => 1_000_000,
        }
    }

    /// The step a bench dial counts in: one tenth (2 540 nm) or one micrometre.
    pub const fn dial_step(self) -> Length {
        match self {
            Unit::Inch => Length::from_nm(2_540),
            Unit::Mm => Length::from_nm(1_000),
        }
    }

    /// How the unit is written behind a number: `in` or `mm`.
    pub const fn symbol(self) -> &'static str {
        match self {
            Unit::Inch => "in",
            Unit::Mm => "mm",
        }
    }

    /// Decimals that tell every nanometre apart: 9 for inches, 6 for millimetres.
    const fn exact_decimals(self) -> u32 {
        match self {
            Unit::Inch => 9,
            Unit::Mm => 6,
        }
    }

    /// Decimals a size is shown with at the bench: 4 for inches, 3 for millimetres.
    const fn shown_decimals(self) -> u32 {
        match self {
            Unit::Inch => 4,
            Unit::Mm => 3,
        }
    }
}

impl fmt::Display for Unit {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.symbol())
    }
}

/// A signed length in whole nanometres.
///
/// A tenth of a thou is 2 540 nm, so inch and metric figures are exact and mix without error. The
/// value stays within [`Length::LIMIT`] of zero wherever it comes from outside, so sums of a few such
/// lengths are far from any end; a sum that nobody foresaw stops at the end instead of ending the program.
///
/// ```
/// use jagged_pin_core::{Length, Unit};
///
/// let bore = Length::from_decimal("2.6260".parse().unwrap(), Unit::Inch).unwrap();
/// let journal = Length::from_decimal("2.6238".parse().unwrap(), Unit::Inch).unwrap();
/// assert_eq!((bore - journal).show(Unit::Inch), "0.0022 in");
/// assert_eq!((bore - journal).nm(), 55_880);
/// assert_eq!((bore - journal).show(Unit::Mm), "0.0559 mm");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(value_type = i64))]
pub struct Length(#[serde(deserialize_with = "in_limits")] i64);

/// Whatever is read from outside lies in the limits, or is not read.
fn in_limits<'de, D: serde::Deserializer<'de>>(from: D) -> Result<i64, D::Error> {
    let nm = i64::deserialize(from)?;
    Length::checked(nm).map(Length::nm).ok_or_else(|| serde::de::Error::custom("a length beyond 100 m"))
}

impl Length {
    /// No length at all.
    pub const ZERO: Length = Length(0);
    /// 100 m: nothing in an engine shop is larger.
    pub const LIMIT: Length = Length(100_000_000_000);

    /// A length of `nm` nanometres.
    pub const fn from_nm(nm: i64) -> Self {
        Length(nm)
    }

    /// A length of `nm` nanometres from outside; `None` beyond [`Length::LIMIT`].
    pub fn checked(nm: i64) -> Option<Self> {
        Some(Length(nm)).filter(|length| length.in_limits())
    }

    /// A whole number of tenths (0.0001 in, 2 540 nm each).
    pub const fn tenths(tenths: i64) -> Self {
        Length(tenths.saturating_mul(2_540))
    }

    /// A whole number of micrometres.
    pub const fn microns(um: i64) -> Self {
        Length(um.saturating_mul(1_000))
    }

    /// The length in nanometres.
    pub const fn nm(self) -> i64 {
        self.0
    }

    /// The length as a float of nanometres, for statistics only.
    pub const fn as_f64(self) -> f64 {
        self.0 as f64
    }

    /// Rounds a float of nanometres half to even; `None` beyond [`Length::LIMIT`] or not finite.
    pub fn from_f64(nm: f64) -> Option<Self> {
        let rounded = nm.round_ties_even();
        (rounded.abs() <= Self::LIMIT.as_f64()).then_some(Length(rounded as i64))
    }

    /// Reads a decimal number of `unit`, rounded half to even to the nanometre; `None` beyond
    /// [`Length::LIMIT`].
    pub fn from_decimal(value: Decimal, unit: Unit) -> Option<Self> {
        let nm = value.checked_mul(Decimal::from(unit.nm()))?;
        let nm = nm.round_dp_with_strategy(0, RoundingStrategy::MidpointNearestEven);
        let nm = i64::try_from(nm).ok()?;
        (nm.abs() <= Self::LIMIT.0).then_some(Length(nm))
    }

    /// The length as a number of `unit`. A unit is never zero nanometres, so there always is one.
    fn in_unit(self, unit: Unit) -> Decimal {
        Decimal::from(self.0).checked_div(Decimal::from(unit.nm())).unwrap_or_default()
    }

    /// The length in `unit` with as many decimals as tell every nanometre apart, zeros trimmed.
    pub fn to_decimal(self, unit: Unit) -> Decimal {
        self.in_unit(unit)
            .round_dp_with_strategy(unit.exact_decimals(), RoundingStrategy::MidpointNearestEven)
            .normalize()
    }

    /// The length as read aloud: inches to 4 decimals, 5 when a half tenth or less is there;
    /// millimetres to 3, 4 when needed.
    pub fn show(self, unit: Unit) -> String {
        let exact = self.in_unit(unit);
        let shown = unit.shown_decimals();
        let places = if exact.round_dp(shown) == exact { shown } else { shown.saturating_add(1) };
        let rounded = exact.round_dp_with_strategy(places, RoundingStrategy::MidpointNearestEven);
        format!("{rounded:.prec$} {unit}", prec = places as usize)
    }

    /// Whether it lies within [`Length::LIMIT`] of zero, as everything from outside must.
    pub fn in_limits(self) -> bool {
        (-Self::LIMIT..=Self::LIMIT).contains(&self)
    }

    /// Distance from zero.
    pub const fn abs(self) -> Self {
        Length(self.0.saturating_abs())
    }

    /// The mean, rounded half to even to the nanometre; `None` of nothing.
    pub fn mean(values: &[Length]) -> Option<Length> {
        // Every band and every gap has two ends.
        if let [a, b] = values
            && let Some(sum) = a.0.checked_add(b.0)
        {
            let half = sum.div_euclid(2);
            return half.checked_add(i64::from(sum % 2 != 0 && half % 2 != 0)).map(Length);
        }
        Length::mean_of(values.iter().copied())
    }

    /// The same of values that stand in no row.
    pub fn mean_of(values: impl IntoIterator<Item = Length>) -> Option<Length> {
        // As many values of 63 bits as an `i64` counts make no more than 126 bits: nothing wraps.
        let add = |(sum, count): (i128, i64), v: Length| (sum.wrapping_add(i128::from(v.0)), count.saturating_add(1));
        let (sum, count) = values.into_iter().fold((0, 0), add);
        if count == 0 {
            return None;
        }
        // What anybody measures adds up to a machine's own numbers, which divide ten times as fast.
        let (quotient, rest) = match i64::try_from(sum) {
            Ok(sum) => (sum.div_euclid(count), sum.rem_euclid(count)),
            Err(_) => {
                let count = i128::from(count);
                (i64::try_from(sum.div_euclid(count)).ok()?, i64::try_from(sum.rem_euclid(count)).ok()?)
            }
        };
        let up = match rest.saturating_mul(2).cmp(&count) {
            Ordering::Less => false,
            Ordering::Equal => quotient % 2 != 0,
            Ordering::Greater => true,
        };
        quotient.checked_add(i64::from(up)).map(Length)
    }

    /// The middle of the values in order of size, or the mean of the middle two; `None` of nothing.
    pub fn median(values: &[Length]) -> Option<Length> {
        if values.is_empty() {
            return None;
        }
        let mut sorted = values.to_vec();
        let (below, middle, _) = sorted.select_nth_unstable(values.len() / 2);
        match below.iter().max() {
            Some(before) if values.len().is_multiple_of(2) => Length::mean(&[*before, *middle]),
            _ => Some(*middle),
        }
    }

    /// Largest less smallest; zero of nothing.
    pub fn span(values: impl IntoIterator<Item = Length>) -> Length {
        let none = (Length(i64::MAX), Length(i64::MIN));
        let (lo, hi) = values.into_iter().fold(none, |(lo, hi), v| (lo.min(v), hi.max(v)));
        if lo > hi { Length::ZERO } else { hi - lo }
    }
}

impl Add for Length {
    type Output = Length;
    fn add(self, other: Length) -> Length {
        Length(self.0.saturating_add(other.0))
    }
}

impl Sub for Length {
    type Output = Length;
    fn sub(self, other: Length) -> Length {
        Length(self.0.saturating_sub(other.0))
    }
}

impl Neg for Length {
    type Output = Length;
    fn neg(self) -> Length {
        Length(self.0.saturating_neg())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn nm(values: &[i64]) -> Vec<Length> {
        values.iter().copied().map(Length::from_nm).collect()
    }

    #[test]
    fn a_half_tenth_takes_a_fifth_decimal_and_a_whole_one_does_not() {
        assert_eq!(Length::from_nm(54_610).show(Unit::Inch), "0.00215 in");
        assert_eq!(Length::tenths(26_238).show(Unit::Inch), "2.6238 in");
        assert_eq!(Length::microns(38).show(Unit::Mm), "0.038 mm");
        assert_eq!(Length::from_nm(-7_620).show(Unit::Inch), "-0.0003 in");
    }

    #[test]
    fn a_tie_between_two_nanometres_goes_to_the_even_one() {
        assert_eq!(Length::mean(&nm(&[1, 2])), Some(Length::from_nm(2)));
        assert_eq!(Length::mean(&nm(&[2, 3])), Some(Length::from_nm(2)));
        assert_eq!(Length::mean(&nm(&[-1, -2])), Some(Length::from_nm(-2)));
        assert_eq!(Length::mean(&[]), None);
    }

    #[test]
    fn nothing_longer_than_the_shop_is_a_length() {
        assert!(Length::from_decimal(Decimal::from(4_000), Unit::Inch).is_none());
        assert!(Length::from_decimal(Decimal::MAX, Unit::Inch).is_none());
        assert!(Length::from_f64(f64::NAN).is_none());
        assert!(Length::from_f64(f64::INFINITY).is_none());
    }

    proptest! {
        #[test]
        fn a_printed_length_reads_back_to_the_same_nanometre(n in -100_000_000_000i64..=100_000_000_000) {
            let length = Length::from_nm(n);
            for unit in [Unit::Inch, Unit::Mm] {
                prop_assert_eq!(Length::from_decimal(length.to_decimal(unit), unit), Some(length));
            }
        }

        #[test]
        fn mean_and_median_lie_between_the_ends(mut values in prop::collection::vec(-1_000_000i64..1_000_000, 1..9)) {
            let lengths = nm(&values);
            values.sort_unstable();
            let (low, high) = (Length::from_nm(values[0]), Length::from_nm(values[values.len() - 1]));
            for middle in [Length::mean(&lengths), Length::median(&lengths)] {
                let middle = middle.unwrap_or(Length::LIMIT);
                prop_assert!(low <= middle && middle <= high);
            }
            prop_assert_eq!(Length::span(lengths), high - low);
        }

        #[test]
        fn two_values_have_the_mean_that_any_number_has(a in -1_000_000i64..1_000_000, b in -1_000_000i64..1_000_000) {
            let both = nm(&[a, b]);
            prop_assert_eq!(Length::mean(&both), Length::mean_of(both));
        }
    }
}
