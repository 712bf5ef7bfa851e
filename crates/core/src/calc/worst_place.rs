//! `worst_place`: by how much the worst of several noisy places reads too far out.
use serde_json::{Value, json};

use super::request::{Fields, Sign, number, number_of_f64};
use super::{CalcError, Code};
use crate::Length;
use crate::maths::{Extreme, worst_place};

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let kind = f.need("kind")?.one_of(&[("largest", Extreme::Largest), ("smallest", Extreme::Smallest)])?;
    let values = f.need("values")?.list()?.into_iter().map(|v| v.length(unit, Sign::Positive));
    let values: Vec<Length> = values.collect::<Result<_, _>>()?;
    let in_unit = unit.nm() as f64;
    let standard = f.need("standard")?.number_from_zero()? * in_unit;
    if Length::from_f64(standard).is_none() {
        return Err(f.error(Code::OutOfRange, "standard", "a length must stay below 100 m"));
    }
    let missing = f.error(Code::Empty, "values", "there is no place");
    f.finish()?;
    let worst = match kind {
        Extreme::Largest => values.iter().max(),
        Extreme::Smallest => values.iter().min(),
    };
    let worst = *worst.ok_or(missing)?;
    let found = worst_place(kind, &values.iter().map(|v| v.as_f64()).collect::<Vec<_>>(), standard);
    Ok(json!({
        "worst": number(worst, unit),
        "bias": found.bias.abs() / in_unit,
        "corrected": number_of_f64(worst.as_f64() - found.bias, unit),
        "standard": found.standard / in_unit,
    }))
}
