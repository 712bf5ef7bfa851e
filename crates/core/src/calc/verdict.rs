//! `verdict`: a value, or a smallest and largest one, judged against a window.
use serde_json::{Value, json};

use super::request::{Fields, Sign, number};
use super::{CalcError, Code};
use crate::maths::{Acceptance, State, Window, verdict};
use crate::{Length, Unit};

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let (smallest, largest) = values(&mut f, unit)?;
    let expanded = f.take("expanded").map_or(Ok(Length::ZERO), |v| v.length(unit, Sign::NotNegative))?;
    let limit = |f: &mut Fields, name| f.take(name).map(|v| v.length(unit, Sign::Any)).transpose();
    let (low, high) = (limit(&mut f, "low")?, limit(&mut f, "high")?);
    let ways = [("guarded", Acceptance::Guarded), ("simple", Acceptance::Simple)];
    let acceptance = f.take("acceptance").map_or(Ok(Acceptance::Guarded), |v| v.one_of(&ways))?;
    let window = Window::new(low, high).ok_or_else(|| match low {
        None => f.error(Code::MissingField, "low", "give a low or a high limit, or both"),
        Some(_) => f.error(Code::Inconsistent, "low", "low is above high"),
    })?;
    f.finish()?;
    let v = verdict(smallest, largest, expanded, window, acceptance);
    let mut answer = json!({
        "state": v.state,
        "inside": v.inside,
        "margin": number(v.margin, unit),
        "decidable": v.decidable,
    });
    if v.state == State::Edge {
        answer["side"] = json!(v.nearest);
    }
    Ok(answer)
}

/// Either one value, or a smallest and a largest.
fn values(f: &mut Fields, unit: Unit) -> Result<(Length, Length), CalcError> {
    let mut length = |name: &str| f.take(name).map(|v| v.length(unit, Sign::Any)).transpose();
    match (length("value")?, length("smallest")?, length("largest")?) {
        (Some(v), None, None) => Ok((v, v)),
        (None, Some(s), Some(l)) if s <= l => Ok((s, l)),
        (None, Some(_), Some(_)) => Err(f.error(Code::Inconsistent, "smallest", "smallest is above largest")),
        (None, Some(_), None) => {
            Err(f.error(Code::MissingField, "largest", "\"largest\" is missing beside \"smallest\""))
        }
        (None, None, Some(_)) => {
            Err(f.error(Code::MissingField, "smallest", "\"smallest\" is missing beside \"largest\""))
        }
        (None, None, None) => {
            Err(f.error(Code::MissingField, "value", "give \"value\", or \"smallest\" and \"largest\""))
        }
        (Some(_), _, _) => {
            Err(f.error(Code::Inconsistent, "value", "give \"value\", or \"smallest\" and \"largest\", not both"))
        }
    }
}
