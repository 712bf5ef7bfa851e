//! `temperature`: the size at 20 C of a part measured warm or cold.
use serde_json::{Value, json};

use super::body::{NO_SIZE_LEFT, body};
use super::request::{Fields, Sign, number};
use super::{CalcError, Code};
use crate::maths::{ABSOLUTE_ZERO_C, Body, at_20};

/// Expansion of a steel gauge per kelvin, where the request does not give its own.
const STEEL_GAUGE_PER_K: f64 = 11.5e-6;

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let size = f.need("size")?.length(unit, Sign::Positive)?;
    let part = body(&mut f, "temperature_c", "alpha_per_k")?;
    let gauge_c = f.take("gauge_temperature_c").map_or(Ok(20.0), |v| v.number_within(ABSOLUTE_ZERO_C, f64::MAX))?;
    let gauge_alpha = f.take("gauge_alpha_per_k").map_or(Ok(STEEL_GAUGE_PER_K), |v| v.any_number())?;
    let gauge = Body { temperature_c: gauge_c, alpha_per_k: gauge_alpha };
    if gauge.stretch().is_none() {
        return Err(f.error(Code::OutOfRange, "gauge_alpha_per_k", NO_SIZE_LEFT));
    }
    let too_long = f.error(Code::OutOfRange, "size", "the corrected length no longer fits");
    f.finish()?;
    let size_at_20 = at_20(size, part, gauge).ok_or(too_long)?;
    Ok(json!({ "size_at_20": number(size_at_20, unit) }))
}
