//! Targets in requests.
use super::request::{Fields, Found, Sign};
use super::{CalcError, Code};
use crate::Unit;
use crate::maths::Target;

/// A target: `low`, `aim` and `high`, in that order.
pub(super) fn target(found: Found, unit: Unit) -> Result<Target, CalcError> {
    let mut f = found.object()?;
    let mut limit = |name| f.need(name)?.length(unit, Sign::Any);
    let target = Target { low: limit("low")?, aim: limit("aim")?, high: limit("high")? };
    if target.low > target.aim {
        return Err(f.error(Code::Inconsistent, "low", "the lower limit is above the aim"));
    }
    if target.aim > target.high {
        return Err(f.error(Code::Inconsistent, "high", "the upper limit is below the aim"));
    }
    f.finish()?;
    Ok(target)
}

/// The target of a station: its own, or the one of all.
pub(super) fn own_target(f: &mut Fields, of_all: Target, unit: Unit) -> Result<Target, CalcError> {
    f.take("target").map_or(Ok(of_all), |own| target(own, unit))
}
