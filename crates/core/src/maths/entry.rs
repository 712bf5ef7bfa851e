//! What a person typed into a reading cell, and what it means. The one parser of the product.
//!
//! * Full entry: `2.6238`, `.0024`; a comma works as decimal point.
//! * A unit wins over the cell: `66.645mm`, `2.4 thou`, `24t` (tenths), `38um`, `1.2in`, `1.2"`.
//! * **Tail entry**: in a size cell with an expected size, digits without a point are the *last* digits
//!   at the gauge's resolution. The candidate nearest to the expected size wins; an exact tie is refused.
//! * **Dial entry**: a dial cell takes signed tenths, or micrometres in a metric cell.
//! * A value further from the expected one than the sanity band is refused, never silently kept.
//!
//! ```
//! use jagged_pin_core::maths::{Cell, CellKind, EntryError, How, parse_entry};
//! use jagged_pin_core::{Length, Unit};
//!
//! let t = Length::tenths;
//! let cell = Cell::new(CellKind::Size, Unit::Inch).expecting(t(26_240));
//! assert_eq!(parse_entry("38", &cell).map(|e| (e.value, e.how)), Ok((t(26_238), How::Tail)));
//! assert_eq!(parse_entry("6", &cell).map(|e| e.value), Ok(t(26_236)));
//! assert!(matches!(parse_entry("5", &cell), Err(EntryError::AmbiguousTail { .. })));
//!
//! let dial = Cell::new(CellKind::Dial, Unit::Inch);
//! assert_eq!(parse_entry("18.5", &dial).map(|e| e.value), Ok(Length::from_nm(46_990)));
//! ```
use std::cmp::Ordering;

use rust_decimal::Decimal;
use serde::{Deserialize, Serialize};
use thiserror::Error;

use crate::units::{Length, Unit};

/// What kind of figure a cell holds.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum CellKind {
    /// The size of something: above zero.
    Size,
    /// The deflection of a dial from its zero: signed.
    Dial,
    /// How far something stands below something else: zero where it is level, less where it stands proud.
    Level,
}

/// How the text was read.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum How {
    /// As a whole figure in the cell's unit.
    Full,
    /// As the last digits of the expected size.
    Tail,
    /// As tenths or micrometres on a dial.
    Dial,
    /// As a figure in the unit that was typed behind it.
    Unit,
}

/// The cell that text is typed into.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Cell {
    /// Size or dial.
    pub kind: CellKind,
    /// The unit of a bare figure.
    pub unit: Unit,
    /// The size or dial reading expected there.
    pub expected: Option<Length>,
    /// The gauge's resolution: tail digits stand at its last decimal.
    pub resolution: Length,
    /// Largest believable distance from what is expected; exactly at it is kept.
    pub band: Length,
}

impl Cell {
    /// A cell with the default resolution (0.0001 in, 0.001 mm) and sanity band (sizes 0.030 in or
    /// 0.75 mm, dials 0.010 in or 0.25 mm), expecting nothing.
    pub fn new(kind: CellKind, unit: Unit) -> Self {
        let band = match (kind, unit) {
            (CellKind::Size | CellKind::Level, Unit::Inch) => Length::tenths(300),
            (CellKind::Size | CellKind::Level, Unit::Mm) => Length::microns(750),
            (CellKind::Dial, Unit::Inch) => Length::tenths(100),
            (CellKind::Dial, Unit::Mm) => Length::microns(250),
        };
        Cell { kind, unit, expected: None, resolution: unit.dial_step(), band }
    }

    /// The same cell expecting `size`.
    pub fn expecting(self, size: Length) -> Self {
        Cell { expected: Some(size), ..self }
    }
}

/// Text that was understood.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Entry {
    /// The length it means.
    pub value: Length,
    /// The way it was read.
    pub how: How,
}

/// Why text was not taken. Each says what was typed and what to do.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum EntryError {
    /// No figure this parser knows.
    #[error(
        "\"{text}\" is not a figure: type digits with at most one point or comma, and a unit if you like (mm, um, thou, t, in)"
    )]
    NotANumber {
        /// What was typed.
        text: String,
    },
    /// Two sizes with these last digits are equally near to the expected one.
    #[error("\"{text}\" could be {lower} or {upper}: type one more digit")]
    AmbiguousTail {
        /// What was typed.
        text: String,
        /// The candidate below, as shown.
        lower: String,
        /// The candidate above, as shown.
        upper: String,
    },
    /// A bare figure in a dial cell that looks like inches or millimetres.
    #[error(
        "\"{text}\" looks like a figure in {unit}, but a dial is read in {step}: type {step}, or put the unit behind the figure"
    )]
    AmbiguousUnit {
        /// What was typed.
        text: String,
        /// The cell's unit.
        unit: Unit,
        /// What the dial counts in.
        step: &'static str,
    },
    /// Too far from what is expected there.
    #[error(
        "{value} is {away} away from the expected {expected}, more than the sanity band of {band}: read the gauge again, or force it"
    )]
    OutOfBand {
        /// What was understood, as shown.
        value: String,
        /// Distance from what was expected, as shown.
        away: String,
        /// What was expected, as shown.
        expected: String,
        /// The band, as shown.
        band: String,
    },
    /// A size that is zero or less.
    #[error("\"{text}\" is no size: a size is above zero")]
    NotPositive {
        /// What was typed.
        text: String,
    },
    /// Longer than 100 m.
    #[error("\"{text}\" is longer than anything measured here")]
    OutOfRange {
        /// What was typed.
        text: String,
    },
}

/// A figure as typed, before the cell gives it a meaning.
struct Figure {
    negative: bool,
    digits: Decimal,
    digit_count: u32,
    has_point: bool,
    unit: Option<Length>,
}

/// Longest text worth reading; a figure of nanometres up to 100 m needs far less.
const LONGEST: usize = 40;

fn figure(text: &str) -> Option<Figure> {
    let text = text.trim();
    if text.len() > LONGEST {
        return None;
    }
    let (negative, rest) = match text.strip_prefix(['-', '\u{2212}']) {
        Some(rest) => (true, rest),
        None => (false, text.strip_prefix('+').unwrap_or(text)),
    };
    let end = rest.find(|c: char| !c.is_ascii_digit() && c != '.' && c != ',').unwrap_or(rest.len());
    let (number, suffix) = rest.split_at(end);
    let number = number.replace(',', ".");
    let digit_count = number.bytes().filter(u8::is_ascii_digit).count();
    if digit_count == 0 || number.matches('.').count() > 1 {
        return None;
    }
    // rust_decimal wants digits on both sides of the point.
    let digits = format!("0{}", number.strip_suffix('.').unwrap_or(&number)).parse().ok()?;
    let unit = match suffix.trim_start().to_lowercase().as_str() {
        "" => None,
        "mm" => Some(Length::from_nm(1_000_000)),
        "um" | "\u{b5}m" | "\u{3bc}m" => Some(Length::microns(1)),
        "thou" => Some(Length::tenths(10)),
        "t" => Some(Length::tenths(1)),
        "in" | "\"" => Some(Length::from_nm(Unit::Inch.nm())),
        _ => return None,
    };
    Some(Figure {
        negative,
        digits,
        digit_count: u32::try_from(digit_count).ok()?,
        has_point: number.contains('.'),
        unit,
    })
}

impl Figure {
    /// The figure counted in `step`s.
    fn times(&self, step: Length) -> Option<Length> {
        // One "millimetre" of a step scale is a million of its nanometres; reuse the exact rounding.
        let scaled = self.digits.checked_mul(Decimal::from(step.nm()))?;
        let length = of_nm(scaled)?;
        Some(if self.negative { -length } else { length })
    }
}

/// Reads `text` as typed into `cell`.
///
/// # Errors
/// [`EntryError`] says why it is refused. A forced entry is one read with a wider [`Cell::band`].
pub fn parse_entry(text: &str, cell: &Cell) -> Result<Entry, EntryError> {
    let typed = || text.trim().to_owned();
    let Some(figure) = figure(text) else {
        return Err(EntryError::NotANumber { text: typed() });
    };
    let out_of_range = || EntryError::OutOfRange { text: typed() };
    let bare_digits = figure.unit.is_none() && !figure.has_point && !figure.negative;
    let (value, how) = match (figure.unit, cell.kind, cell.expected) {
        (Some(unit), _, _) => (figure.times(unit).ok_or_else(out_of_range)?, How::Unit),
        (None, CellKind::Dial, _) => {
            if !figure.digits.is_zero() && figure.digits < Decimal::new(1, 1) {
                let step = match cell.unit {
                    Unit::Inch => "tenths",
                    Unit::Mm => "um",
                };
                return Err(EntryError::AmbiguousUnit { text: typed(), unit: cell.unit, step });
            }
            (figure.times(cell.unit.dial_step()).ok_or_else(out_of_range)?, How::Dial)
        }
        (None, CellKind::Size, Some(expected)) if bare_digits => (tail(&figure, expected, cell, text)?, How::Tail),
        // The last digits of what stands proud, or level, are no tail of anything.
        (None, CellKind::Level, Some(expected))
            if bare_digits && expected > Length::ZERO && !figure.digits.is_zero() =>
        {
            (tail(&figure, expected, cell, text)?, How::Tail)
        }
        (None, CellKind::Size | CellKind::Level, _) => {
            (figure.times(Length::from_nm(cell.unit.nm())).ok_or_else(out_of_range)?, How::Full)
        }
    };
    if cell.kind == CellKind::Size && value <= Length::ZERO {
        return Err(EntryError::NotPositive { text: typed() });
    }
    let centre = match cell.kind {
        CellKind::Size | CellKind::Level => cell.expected,
        CellKind::Dial => Some(cell.expected.unwrap_or_default()),
    };
    match centre {
        Some(expected) if (value - expected).abs() > cell.band => {
            let show = |l: Length| l.show(cell.unit);
            Err(EntryError::OutOfBand {
                value: show(value),
                away: show((value - expected).abs()),
                expected: show(expected),
                band: show(cell.band),
            })
        }
        _ => Ok(Entry { value, how }),
    }
}

/// Reads a length typed outside a measuring cell, such as a limit of a target: a figure of `unit`, or
/// with its own unit behind it. It may be zero or negative; no tail, no band.
///
/// ```
/// use jagged_pin_core::{Length, Unit};
/// use jagged_pin_core::maths::parse_length;
/// assert_eq!(parse_length(".0022", Unit::Inch), Ok(Length::tenths(22)));
/// assert_eq!(parse_length("2.2 thou", Unit::Mm), Ok(Length::tenths(22)));
/// ```
///
/// # Errors
/// [`EntryError::NotANumber`] or [`EntryError::OutOfRange`].
pub fn parse_length(text: &str, unit: Unit) -> Result<Length, EntryError> {
    let typed = || text.trim().to_owned();
    let figure = figure(text).ok_or_else(|| EntryError::NotANumber { text: typed() })?;
    let step = figure.unit.unwrap_or(Length::from_nm(unit.nm()));
    figure.times(step).ok_or_else(|| EntryError::OutOfRange { text: typed() })
}

/// A length of so many nanometres, rounded half to even.
fn of_nm(nm: Decimal) -> Option<Length> {
    Length::from_decimal(nm.checked_div(Decimal::from(Unit::Mm.nm()))?, Unit::Mm)
}

/// The two sizes around `expected` whose last digits at the resolution are the typed ones, and which of them is nearer;
/// all in nanometres. `None` of figures beyond all sizes.
fn around(figure: &Figure, expected: Length, cell: &Cell) -> Option<(Decimal, Decimal, Ordering)> {
    // The last decimal of the resolution: 0.0001 and 0.0002 count in the fourth, 0.00005 in the fifth.
    let decimals = cell.resolution.to_decimal(cell.unit).scale();
    let step = Decimal::from(cell.unit.nm()).checked_div(Decimal::from(10_i64.pow(decimals.min(9))))?;
    let modulus = Decimal::try_from_i128_with_scale(10_i128.checked_pow(figure.digit_count)?, 0).ok()?;
    let (modulus, base) = (modulus.checked_mul(step)?, figure.digits.checked_mul(step)?);
    let expected = Decimal::from(expected.nm());
    let laps = expected.checked_sub(base)?.checked_div(modulus)?.floor();
    let below = base.checked_add(laps.checked_mul(modulus)?)?;
    let above = below.checked_add(modulus)?;
    let nearer = expected.checked_sub(below)?.cmp(&above.checked_sub(expected)?);
    Some((below, above, nearer))
}

/// The size nearest to `expected` whose last digits at the resolution are the typed ones.
fn tail(figure: &Figure, expected: Length, cell: &Cell, text: &str) -> Result<Length, EntryError> {
    let out_of_range = || EntryError::OutOfRange { text: text.trim().to_owned() };
    let (below, above, nearer) = around(figure, expected, cell).ok_or_else(out_of_range)?;
    // A tail never stands for a negative size.
    if below < Decimal::ZERO {
        return of_nm(above).ok_or_else(out_of_range);
    }
    match nearer {
        Ordering::Less => of_nm(below).ok_or_else(out_of_range),
        Ordering::Greater => of_nm(above).ok_or_else(out_of_range),
        Ordering::Equal => {
            let show = |nm| of_nm(nm).map(|l| l.show(cell.unit)).unwrap_or_default();
            Err(EntryError::AmbiguousTail { text: text.trim().to_owned(), lower: show(below), upper: show(above) })
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn size(expected: i64) -> Cell {
        Cell::new(CellKind::Size, Unit::Inch).expecting(Length::tenths(expected))
    }

    fn read(text: &str, cell: &Cell) -> Result<String, EntryError> {
        parse_entry(text, cell).map(|e| e.value.show(cell.unit))
    }

    #[test]
    fn every_way_of_writing_the_same_clearance_means_the_same() {
        let cell = Cell::new(CellKind::Dial, Unit::Inch);
        for text in ["24", "2.4 thou", "24t", "24T", ".0024in", "0,0024 \"", "60.96um", "0.06096 mm", "60.96\u{b5}m"] {
            assert_eq!(read(text, &cell), Ok("0.0024 in".into()), "{text}");
        }
    }

    #[test]
    fn a_half_tenth_gauge_counts_its_tail_in_the_fifth_decimal() {
        let cell = Cell { resolution: Length::from_nm(1_270), ..size(20_000) };
        assert_eq!(read("995", &cell), Ok("1.99995 in".into()));
    }

    #[test]
    fn a_tail_of_a_metric_journal_counts_in_microns() {
        let cell = Cell::new(CellKind::Size, Unit::Mm).expecting(Length::from_nm(60_000_000));
        assert_eq!(read("991", &cell), Ok("59.991 mm".into()));
    }

    #[test]
    fn a_tail_never_stands_for_a_negative_size() {
        assert_eq!(read("9", &size(2)), Ok("0.0009 in".into()));
        assert!(matches!(parse_entry("0", &size(0)), Err(EntryError::NotPositive { .. })));
    }

    #[test]
    fn an_inch_figure_typed_at_a_dial_is_questioned_and_a_zero_is_not() {
        let cell = Cell::new(CellKind::Dial, Unit::Inch);
        assert!(matches!(parse_entry("0.0021", &cell), Err(EntryError::AmbiguousUnit { .. })));
        assert_eq!(read("0", &cell), Ok("0.0000 in".into()));
        assert_eq!(read("0.1", &cell), Ok("0.00001 in".into()));
    }

    #[test]
    fn exactly_at_the_band_is_kept_and_a_hair_beyond_is_not() {
        assert_eq!(read("2.6540", &size(26_240)), Ok("2.6540 in".into()));
        assert!(matches!(parse_entry("2.6541", &size(26_240)), Err(EntryError::OutOfBand { .. })));
    }

    #[test]
    fn what_is_no_figure_is_quoted_back() {
        for text in
            ["", ".", "1e3", "2.6.2", "--3", "2.6 cm", "NaN", "12 34", "1234567890123456789012345678901234567890123"]
        {
            let refused = matches!(parse_entry(text, &size(26_240)), Err(EntryError::NotANumber { .. }));
            assert!(refused, "{text}");
        }
        assert!(matches!(parse_entry("-2.6", &size(26_240)), Err(EntryError::NotPositive { .. })));
        assert!(matches!(
            parse_entry("99999999999999999", &Cell::new(CellKind::Size, Unit::Inch)),
            Err(EntryError::OutOfRange { .. })
        ));
    }

    proptest! {
        #[test]
        fn the_last_two_digits_are_enough_within_half_a_hundred(expected in 10_000i64..40_000, off in -49i64..50) {
            let value = expected + off;
            let text = format!("{:02}", value % 100);
            prop_assert_eq!(parse_entry(&text, &size(expected)).map(|e| e.value), Ok(Length::tenths(value)));
        }

        #[test]
        fn a_shown_size_is_understood_as_itself(tenths in 1i64..100_000) {
            let value = Length::tenths(tenths);
            let cell = Cell::new(CellKind::Size, Unit::Inch);
            prop_assert_eq!(parse_entry(&value.show(Unit::Inch), &cell).map(|e| e.value), Ok(value));
        }

        #[test]
        fn no_figure_is_too_long_for_an_answer(
            digits in "[0-9]{1,40}", point in 0usize..40, sign in "[+-]?", unit in "(mm|um|t|thou|in)?",
            expected in -100_000_000_000i64..100_000_000_000,
        ) {
            let (whole, rest) = digits.split_at(point.min(digits.len()));
            let text = format!("{sign}{whole}.{rest}{unit}");
            for text in [format!("{sign}{digits}{unit}"), text] {
                for (kind, unit) in [(CellKind::Size, Unit::Inch), (CellKind::Dial, Unit::Mm)] {
                    let cell = Cell::new(kind, unit).expecting(Length::from_nm(expected));
                    prop_assert!(parse_entry(&text, &cell).is_ok_and(|e| e.value.in_limits()) || parse_entry(&text, &cell).is_err());
                    prop_assert!(parse_length(&text, unit).map_or(true, Length::in_limits));
                }
            }
        }

        #[test]
        fn no_text_makes_the_parser_panic(text in ".{0,50}", dial: bool) {
            let kind = if dial { CellKind::Dial } else { CellKind::Size };
            let cell = Cell::new(kind, Unit::Inch).expecting(Length::tenths(20_000));
            if let Ok(entry) = parse_entry(&text, &cell) {
                prop_assert!((entry.value - Length::tenths(20_000)).abs() <= cell.band);
            }
        }
    }
}
