//! `piston_fit`: piston-to-wall cold and hot, and the bore for a piston.
use serde_json::{Value, json};

use super::body::body;
use super::request::{Fields, Sign, number};
use super::{CalcError, Code};
use crate::Unit;
use crate::maths::{PistonToWall, hot_piston_to_wall, piston_to_wall};

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let mut bore = f.need("bore")?.object()?;
    let smallest = bore.need("smallest")?.length(unit, Sign::Positive)?;
    let largest = bore.need("largest")?.length(unit, Sign::Positive)?;
    if largest < smallest {
        return Err(bore.error(Code::Inconsistent, "largest", "the bore's largest place is below its smallest"));
    }
    bore.finish()?;
    let piston = f.need("piston")?.length(unit, Sign::Positive)?;
    let piston_low = f.take_length("piston_low", unit, Sign::Positive)?;
    let aim = f.take_length("aim", unit, Sign::NotNegative)?;
    let allowance = f.take_length("allowance", unit, Sign::NotNegative)?;
    let cold = piston_to_wall(smallest, largest, piston);
    let mut answer = both(cold, unit);
    if let Some(aim) = aim {
        answer["finished_bore"] = number(piston + aim, unit);
    }
    if let Some(low) = piston_low {
        answer["worn_skirt"] = (piston < low).into();
    }
    if let Some(off) = allowance {
        answer["hot_allowance"] = both(PistonToWall { tight: cold.tight - off, loose: cold.loose - off }, unit);
    }
    if let Some(expansion) = f.take("expansion") {
        let mut e = expansion.object()?;
        let wall = body(&mut e, "bore_temperature_c", "bore_alpha_per_k")?;
        let skirt = body(&mut e, "skirt_temperature_c", "skirt_alpha_per_k")?;
        let too_long = e.error(Code::OutOfRange, "bore_alpha_per_k", "what has grown no longer fits");
        e.finish()?;
        let hot = hot_piston_to_wall((smallest, largest, wall), (piston, skirt)).ok_or(too_long)?;
        answer["hot_expansion"] = both(hot, unit);
    }
    f.finish()?;
    Ok(answer)
}

fn both(fit: PistonToWall, unit: Unit) -> Value {
    json!({ "tight": number(fit.tight, unit), "loose": number(fit.loose, unit) })
}
