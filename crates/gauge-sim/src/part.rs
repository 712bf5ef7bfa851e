//! A scripted part: what each gauge finds, place after place.
//!
//! ```text
//! # The crank on the bench
//! mic-tenths        2.6238 2.6238 2.6237 2.6238
//! bore-half-tenths  .0023 .0023 .0031 .0030
//! ```
//!
//! A line for each gauge: its short name, then true sizes (for a bore gauge or indicator the true
//! deflections) in the unit its display is switched to, unless one is written with them.
use jagged_pin_core::Length;
use jagged_pin_core::maths::parse_length;

use crate::SimGauge;

/// Puts the gauges that a text names on its part; the others keep theirs.
///
/// # Errors
/// A sentence with the line that is wrong: an unknown gauge, no sizes, or a text that is no size.
pub fn put_on(text: &str, gauges: &mut [SimGauge]) -> Result<(), String> {
    for (i, line) in text.lines().enumerate() {
        let mut words = line.split_whitespace();
        let Some(name) = words.next().filter(|w| !w.starts_with('#')) else { continue };
        let wrong = |why: &str| format!("line {}: {why}", i + 1);
        let gauge = gauges.iter_mut().find(|g| g.id == name);
        let gauge = gauge.ok_or_else(|| wrong(&format!("there is no gauge {name}")))?;
        let size = |w| parse_length(w, gauge.unit).map_err(|e| wrong(&format!("{w}: {e}")));
        let script: Vec<Length> = words.map(size).collect::<Result<_, _>>()?;
        if script.is_empty() {
            return Err(wrong("a gauge needs at least one size"));
        }
        gauge.script = script;
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;
    use jagged_pin_core::Unit;

    fn gauges() -> [SimGauge; 2] {
        [("mic", Unit::Inch), ("bore", Unit::Mm)].map(|(id, unit)| SimGauge::new(id, unit, Length::microns(1), 1))
    }

    #[test]
    fn each_gauge_finds_its_own_line() {
        let mut on = gauges();
        assert_eq!(put_on("# crank\nmic 2.6238 66.645mm\n\nbore 0.061", &mut on), Ok(()));
        assert_eq!(on[0].script, [Length::tenths(26_238), Length::microns(66_645)]);
        assert_eq!(on[1].script, [Length::microns(61)]);
    }

    #[test]
    fn what_is_wrong_is_said_with_its_line() {
        let refused = |text| put_on(text, &mut gauges()).unwrap_err();
        assert_eq!(refused("mic 2.6238\nring 1"), "line 2: there is no gauge ring");
        assert_eq!(refused("mic"), "line 1: a gauge needs at least one size");
        assert!(refused("mic two").starts_with("line 1: two: "));
    }
}
