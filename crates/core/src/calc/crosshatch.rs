//! `crosshatch`: the angle of honing, or the strokes or turns for an angle.
use serde_json::{Value, json};

use super::request::{Fields, Sign, number};
use super::{CalcError, Code};
use crate::maths::{crosshatch_angle, cycles_for, rpm_for};
use crate::{Length, Unit};

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let bore = f.need("bore")?.length(unit, Sign::Positive)?;
    let stroke = stroke(&mut f, unit)?;
    let mut speed = |name| f.take(name).map(|n| n.positive_number()).transpose();
    let (cycles, rpm, angle) = (speed("cycles_per_min")?, speed("rpm")?, speed("angle")?);
    if angle.is_some_and(|a| a >= 180.0) {
        return Err(f.error(Code::OutOfRange, "angle", "the included angle lies below 180 degrees"));
    }
    let two = f.error(Code::Inconsistent, "angle", "give two of cycles_per_min, rpm and angle");
    let no_number = f.error(Code::OutOfRange, "bore", "no machine runs like that");
    f.finish()?;
    let to_bore = stroke.as_f64() / bore.as_f64();
    let (angle, cycles, rpm) = match (cycles, rpm, angle) {
        (Some(cycles), Some(rpm), None) => (crosshatch_angle(to_bore, cycles, rpm), cycles, rpm),
        (None, Some(rpm), Some(angle)) => (angle, cycles_for(to_bore, angle, rpm), rpm),
        (Some(cycles), None, Some(angle)) => (angle, cycles, rpm_for(to_bore, angle, cycles)),
        _ => return Err(two),
    };
    if ![angle, cycles, rpm].iter().all(|n| n.is_finite()) {
        return Err(no_number);
    }
    Ok(json!({ "stroke": number(stroke, unit), "angle": angle, "cycles_per_min": cycles, "rpm": rpm }))
}

/// The stroke as given, or from the bore, the overtravel at each end and the stones.
fn stroke(f: &mut Fields, unit: Unit) -> Result<Length, CalcError> {
    let stroke = f.take_length("stroke", unit, Sign::Positive)?;
    let length = f.take_length("bore_length", unit, Sign::Positive)?;
    if let Some(stroke) = stroke {
        let twice = |name: &str, f: &mut Fields| f.take(name).is_some();
        if length.is_some() || twice("overtravel", f) || twice("stone_length", f) {
            return Err(f.error(Code::Inconsistent, "stroke", "the stroke is given, and what it follows from as well"));
        }
        return Ok(stroke);
    }
    let Some(length) = length else {
        return Err(f.error(Code::MissingField, "stroke", "\"stroke\" is missing, or \"bore_length\""));
    };
    let over = f.need("overtravel")?.length(unit, Sign::Any)?;
    let stones = f.need("stone_length")?.length(unit, Sign::Positive)?;
    let stroke = length + over + over - stones;
    if stroke <= Length::ZERO {
        return Err(f.error(Code::Inconsistent, "stone_length", "the stones fill the bore: nothing is left to stroke"));
    }
    Ok(stroke)
}
