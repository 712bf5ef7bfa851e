//! `hot_gap`: what is left of ring gaps and of a piston's room when the engine runs.
use serde_json::{Value, json};

use super::body::{NO_SIZE_LEFT, one_sided_name};
use super::request::{Fields, Found, Sign, number, unrounded};
use super::{CalcError, Code};
use crate::maths::{ABSOLUTE_ZERO_C, Alloy, Body, Material, hot_piston, hot_ring};
use crate::{Length, Unit};

/// What materials are called in a request, with their expansion per kelvin.
const MATERIALS: [(&str, f64); 7] = [
    ("iron", Material::Iron.alpha()),
    ("steel", Material::Steel.alpha()),
    ("aluminium", Material::Aluminium.alpha()),
    ("forged_low_silicon", Alloy::ForgedLowSilicon.alpha()),
    ("forged_eutectic", Alloy::ForgedEutectic.alpha()),
    ("hypereutectic", Alloy::Hypereutectic.alpha()),
    ("magnesium", Material::Magnesium.alpha()),
];

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let bore = f.need("bore")?.length(unit, Sign::Positive)?;
    let mut of_wall = f.need("wall")?.object()?;
    let wall = warm(&mut of_wall)?;
    of_wall.finish()?;
    let usual_floor = match unit {
        Unit::Inch => Length::tenths(40),
        Unit::Mm => Length::microns(100),
    };
    let floor = f.take_length("ring_floor", unit, Sign::NotNegative)?.unwrap_or(usual_floor);
    let rings = f.take("rings").map_or(Ok(Vec::new()), |rings| rings.named("id"))?;
    let piston = f.take("piston");
    if rings.is_empty() && piston.is_none() {
        return Err(f.error(Code::MissingField, "rings", "rings, a piston or both are needed"));
    }
    f.finish()?;
    let one = |(id, mut r): (String, Fields)| {
        let gap = r.need("gap")?.length(unit, Sign::NotNegative)?;
        let expanded = r.take_length("expanded", unit, Sign::NotNegative)?.unwrap_or_default();
        let ring = warm(&mut r)?;
        let too_hot = r.error(Code::OutOfRange, "alpha_per_k", "what it closes by no longer fits");
        r.finish()?;
        let hot = hot_ring(bore, (gap, expanded), floor, ring, wall).ok_or(too_hot)?;
        Ok(json!({
            "id": id,
            "closing": unrounded(hot.closing, unit),
            "hot": unrounded(hot.hot, unit),
            "spare": unrounded(hot.spare, unit),
            "state": one_sided_name(hot.state),
            "butts": hot.butts,
            "wanted": unrounded(hot.wanted, unit),
            "butts_at": hot.butts_at,
            "margin_k": hot.butts_at - ring.temperature_c,
        }))
    };
    let rings: Vec<Value> = rings.into_iter().map(one).collect::<Result<_, CalcError>>()?;
    let mut answer = json!({ "rings": rings });
    if let Some(found) = piston {
        answer["piston"] = of_piston(found, (bore, wall), unit)?;
    }
    Ok(answer)
}

fn of_piston(found: Found, bore: (Length, Body), unit: Unit) -> Result<Value, CalcError> {
    let mut p = found.object()?;
    let size = p.need("size")?.length(unit, Sign::Positive)?;
    let expanded = p.take_length("expanded", unit, Sign::NotNegative)?.unwrap_or_default();
    let floor = p.take_length("floor", unit, Sign::Any)?.unwrap_or_default();
    let piston = warm(&mut p)?;
    let too_hot = p.error(Code::OutOfRange, "alpha_per_k", "what has grown no longer fits");
    p.finish()?;
    let hot = hot_piston(bore, (size, piston), (floor, expanded)).ok_or(too_hot)?;
    Ok(json!({
        "cold": number(hot.cold, unit),
        "hot": unrounded(hot.hot, unit),
        "spare": unrounded(hot.spare, unit),
        "state": one_sided_name(hot.state),
        "meets_at": hot.meets_at,
        "margin_k": hot.meets_at - piston.temperature_c,
    }))
}

/// A temperature with a material or an expansion.
fn warm(f: &mut Fields) -> Result<Body, CalcError> {
    let temperature_c = f.need("temperature_c")?.number_within(ABSOLUTE_ZERO_C, f64::MAX)?;
    let (material, alpha) = (f.take("material"), f.take("alpha_per_k"));
    let alpha_per_k = match (material, alpha) {
        (Some(material), None) => material.one_of(&MATERIALS)?,
        (None, Some(alpha)) => alpha.positive_number()?,
        (Some(_), Some(_)) => {
            return Err(f.error(Code::Inconsistent, "material", "material or alpha_per_k, not both"));
        }
        (None, None) => return Err(f.error(Code::MissingField, "material", "a material or alpha_per_k is needed")),
    };
    let body = Body { temperature_c, alpha_per_k };
    if body.stretch().is_none() {
        return Err(f.error(Code::OutOfRange, "temperature_c", NO_SIZE_LEFT));
    }
    Ok(body)
}
