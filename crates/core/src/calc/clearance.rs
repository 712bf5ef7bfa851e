//! `clearance`: by the direct, subtract or components method, with the band where walls have one.
use serde_json::{Value, json};

use super::CalcError;
use super::request::{Fields, Sign, number};
use crate::Length;
use crate::maths::{Band, bore_less_journal, direct_clearance, housing_less_walls, zero_drift};

#[derive(Clone, Copy)]
enum Way {
    Direct,
    Subtract,
    Components,
}

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let ways = [("direct", Way::Direct), ("subtract", Way::Subtract), ("components", Way::Components)];
    let way = f.need("method")?.one_of(&ways)?;
    let size = |f: &mut Fields, name: &str| f.need(name)?.length(unit, Sign::Positive);
    let measured = |value| Band { value, low: value, high: value };
    let found: Band = match way {
        Way::Direct => {
            let (reference, journal) = (size(&mut f, "reference")?, size(&mut f, "journal")?);
            let dial = f.need("dial")?.length(unit, Sign::Any)?;
            let close_error = f.take("close_error").map_or(Ok(Length::ZERO), |v| v.length(unit, Sign::Any))?;
            let elapsed = f.take("elapsed_fraction").map_or(Ok(0.0), |v| v.number_within(0.0, 1.0))?;
            measured(direct_clearance(dial, reference, journal, zero_drift(close_error, elapsed)))
        }
        Way::Subtract => measured(bore_less_journal(size(&mut f, "bore")?, size(&mut f, "journal")?)),
        Way::Components => {
            let (housing, journal) = (size(&mut f, "housing")?, size(&mut f, "journal")?);
            let (upper, lower) = (size(&mut f, "wall_upper")?, size(&mut f, "wall_lower")?);
            let tolerance = f.take("wall_tolerance").map_or(Ok(Length::ZERO), |v| v.length(unit, Sign::NotNegative))?;
            housing_less_walls(housing, journal, upper, lower, tolerance)
        }
    };
    f.finish()?;
    Ok(json!({
        "clearance": number(found.value, unit),
        "low": number(found.low, unit),
        "high": number(found.high, unit),
    }))
}
