//! `compare`: do two values with their expanded uncertainties agree?
use serde_json::{Value, json};

use super::CalcError;
use super::request::{Fields, Sign, number};
use crate::maths::compare;
use crate::{Length, Unit};

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let (a, b) = (side(&mut f, "a", unit)?, side(&mut f, "b", unit)?);
    f.finish()?;
    let c = compare(a, b);
    Ok(json!({ "difference": number(c.difference, unit), "en": c.en, "agree": c.agree }))
}

fn side(f: &mut Fields, name: &str, unit: Unit) -> Result<(Length, Length), CalcError> {
    let mut side = f.need(name)?.object()?;
    let value = side.need("value")?.length(unit, Sign::Any)?;
    let expanded = side.need("expanded")?.length(unit, Sign::NotNegative)?;
    side.finish()?;
    Ok((value, expanded))
}
