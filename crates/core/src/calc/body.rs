//! Warm bodies in requests.
use super::request::Fields;
use super::{CalcError, Code};
use crate::maths::{ABSOLUTE_ZERO_C, Body, OneSided};

/// What is said of a body that would have no size left.
pub(super) const NO_SIZE_LEFT: &str = "1 + alpha (T - 20) must be above zero: check temperature and expansion";

/// The temperature and the expansion under these two names; what is warm must still have a size.
pub(super) fn body(f: &mut Fields, temperature: &str, alpha: &str) -> Result<Body, CalcError> {
    let body = Body {
        temperature_c: f.need(temperature)?.number_within(ABSOLUTE_ZERO_C, f64::MAX)?,
        alpha_per_k: f.need(alpha)?.any_number()?,
    };
    if body.stretch().is_none() {
        return Err(f.error(Code::OutOfRange, alpha, NO_SIZE_LEFT));
    }
    Ok(body)
}

/// What the judgement of a single limit is called in an answer.
pub(super) const fn one_sided_name(state: OneSided) -> &'static str {
    match state {
        OneSided::In => "in",
        OneSided::Edge => "edge",
        OneSided::Out => "out",
    }
}
