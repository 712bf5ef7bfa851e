//! The line protocol of gauges that talk: one reading a line, with a number and a checksum, so that a
//! repeated or a garbled line is known as such.
//!
//! ```text
//! DATA mic-tenths 17 2.6238 in 08
//! ```
//!
//! `DATA`, the gauge, the count of its readings, the figure, its unit, and the checksum: two hexadecimal
//! digits, the sum of all bytes before the last blank, modulo 256.
//!
//! ```
//! use jagged_pin_core::gauge::{LineError, SentFigure, read_line};
//! use jagged_pin_core::Unit;
//!
//! let sent = SentFigure { gauge: "mic-tenths".into(), count: 17, figure: "2.6238".into(), unit: Unit::Inch };
//! let line = sent.to_string();
//! assert_eq!(line, "DATA mic-tenths 17 2.6238 in 08");
//! assert_eq!(read_line(&line), Ok(sent));
//! assert_eq!(read_line(&line.replace("2.6238", "2.6239")), Err(LineError::Checksum));
//! assert_eq!(read_line("DA\u{fffd}A mic"), Err(LineError::Form));
//! ```
use std::fmt;

use thiserror::Error;

use crate::units::Unit;

/// Longest line a gauge sends.
pub const LONGEST_LINE: usize = 80;

/// A reading that a gauge sent.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SentFigure {
    /// The gauge.
    pub gauge: String,
    /// How many readings it has sent, with this one.
    pub count: u32,
    /// The figure as it stands on its display.
    pub figure: String,
    /// The unit it is switched to.
    pub unit: Unit,
}

/// Why a line is no reading.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum LineError {
    /// It has another form.
    #[error("the line from the gauge was garbled: press its button again")]
    Form,
    /// Its checksum is not that of its bytes.
    #[error("the line from the gauge was damaged on the way: press its button again")]
    Checksum,
}

/// Sum of the bytes, modulo 256.
fn checksum(text: &str) -> u8 {
    text.bytes().fold(0, u8::wrapping_add)
}

impl fmt::Display for SentFigure {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let body = format!("DATA {} {} {} {}", self.gauge, self.count, self.figure, self.unit.symbol());
        write!(f, "{body} {:02X}", checksum(&body))
    }
}

/// Reads a line, without its end.
///
/// # Errors
/// [`LineError`] when it is no reading.
pub fn read_line(line: &str) -> Result<SentFigure, LineError> {
    if line.len() > LONGEST_LINE || !line.is_ascii() {
        return Err(LineError::Form);
    }
    let (body, sum) = line.rsplit_once(' ').ok_or(LineError::Form)?;
    let words: Vec<&str> = body.split(' ').collect();
    let ["DATA", gauge, count, figure, unit] = words.as_slice() else { return Err(LineError::Form) };
    if u8::from_str_radix(sum, 16).ok() != Some(checksum(body)) {
        return Err(LineError::Checksum);
    }
    let figure_like = |c: char| c.is_ascii_digit() || matches!(c, '.' | '-' | '+');
    if figure.is_empty() || !figure.chars().all(figure_like) {
        return Err(LineError::Form);
    }
    let unit = match *unit {
        "in" => Unit::Inch,
        "mm" => Unit::Mm,
        _ => return Err(LineError::Form),
    };
    let count = count.parse().map_err(|_| LineError::Form)?;
    Ok(SentFigure { gauge: (*gauge).into(), count, figure: (*figure).into(), unit })
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn one_wrong_character_never_passes_for_another_figure(at in 0usize..40, with in 0x21u8..0x7f) {
            let sent = SentFigure { gauge: "bore-tenths".into(), count: 3, figure: "0.0021".into(), unit: Unit::Inch };
            let line = sent.to_string();
            let mut bytes = line.clone().into_bytes();
            let at = at % bytes.len();
            bytes[at] = with;
            let damaged = String::from_utf8(bytes).unwrap_or_default();
            prop_assert!(damaged == line || read_line(&damaged).is_err());
        }

        #[test]
        fn no_bytes_make_it_panic(text in ".{0,100}") {
            let _ = read_line(&text);
        }
    }
}
