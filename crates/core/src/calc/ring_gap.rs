//! `ring_gap`: the gap wanted, filing to it, and what is left of it hot.
use serde_json::{Value, json};

use super::body::body;
use super::hone_passes::{passes, show};
use super::request::{Fields, Sign, number, number_of_f64};
use super::{CalcError, Code};
use crate::Length;
use crate::maths::{gap_closes, gap_in};

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let bore = f.need("bore")?.length(unit, Sign::Positive)?;
    let factor = f.need("factor")?.number_from_zero()?;
    let too_wide = f.error(Code::OutOfRange, "factor", "a gap must stay below 100 m");
    let by_factor = Length::from_f64(factor * bore.as_f64()).ok_or_else(|| too_wide.clone())?;
    let adders = f.take("adders").map_or(Ok(Vec::new()), |a| a.list_or_none())?;
    let adders: Vec<Length> = adders.into_iter().map(|a| a.length(unit, Sign::Any)).collect::<Result<_, _>>()?;
    let wanted = adders.into_iter().fold(by_factor, |sum, a| sum + a);
    if !wanted.in_limits() {
        return Err(too_wide);
    }
    if wanted < Length::ZERO {
        return Err(f.error(Code::Inconsistent, "adders", "they take off more than the factor gives"));
    }
    let mut answer = json!({ "wanted": number(wanted, unit) });
    let given = f.take_length("gap", unit, Sign::NotNegative)?;
    let elsewhere = f.take_length("measured_in", unit, Sign::Positive)?;
    let gap = match (given, elsewhere) {
        (Some(gap), Some(other)) => Some(gap_in(bore, gap, other).ok_or(too_wide)?),
        (gap, None) => gap,
        (None, Some(_)) => return Err(f.error(Code::MissingField, "gap", "which gap was measured in another bore?")),
    };
    if let Some(gap) = gap {
        answer["gap"] = number(gap, unit);
        answer["to_go"] = number(wanted - gap, unit);
        answer["over"] = (gap > wanted).into();
    }
    if let Some(log) = f.take("log") {
        let Some(gap) = gap else {
            return Err(f.error(Code::MissingField, "gap", "filing is reckoned from the gap as it is"));
        };
        let filed = show(&passes(&mut f, log, (gap, wanted), unit)?, unit);
        filed.into_iter().for_each(|(name, value)| answer[name] = value);
    } else {
        f.take("caution");
    }
    if let Some(hot) = f.take("hot") {
        let mut h = hot.object()?;
        let ring = body(&mut h, "ring_temperature_c", "ring_alpha_per_k")?;
        let wall = body(&mut h, "bore_temperature_c", "bore_alpha_per_k")?;
        let too_hot = h.error(Code::OutOfRange, "ring_alpha_per_k", "what has grown no longer fits");
        h.finish()?;
        let closing = gap_closes(bore, ring, wall);
        let left = gap.unwrap_or(wanted).as_f64() - closing;
        if Length::from_f64(left).is_none() {
            return Err(too_hot);
        }
        answer["closing"] = number_of_f64(closing, unit);
        answer["hot_gap"] = number_of_f64(left, unit);
        answer["butts"] = (left <= 0.0).into();
    }
    f.finish()?;
    Ok(answer)
}
