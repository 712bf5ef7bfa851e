//! `ring_groove`: rings in their grooves, at the side and at the back, and their gaps.
use serde_json::{Value, json};

use super::request::{Fields, Sign, number, number_of_half};
use super::{CalcError, Code};
use crate::maths::{Acceptance, OneSided, State, Window, back_clearance, below_land, by_blades, one_sided, verdict};
use crate::{Length, Unit};

const fn name(state: State) -> &'static str {
    match state {
        State::In => "in",
        State::Edge => "edge",
        State::Tight => "tight",
        State::Loose => "loose",
    }
}

/// What every ring is worked out with.
#[derive(Clone, Copy)]
struct Around {
    bore: Length,
    expanded: Length,
    unit: Unit,
}

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let bore = f.need("bore")?.length(unit, Sign::Positive)?;
    let expanded = f.take_length("expanded", unit, Sign::NotNegative)?.unwrap_or_default();
    let rings = f.need("rings")?.not_empty()?.named("id")?;
    f.finish()?;
    let around = Around { bore, expanded, unit };
    let rings: Vec<Value> =
        rings.into_iter().map(|(id, fields)| ring(id, fields, around)).collect::<Result<_, CalcError>>()?;
    Ok(json!({ "rings": rings }))
}

fn ring(id: String, mut r: Fields, around: Around) -> Result<Value, CalcError> {
    let Around { expanded, unit, .. } = around;
    let (low, high) = r.need("side")?.pair(["low", "high"], unit, Sign::NotNegative)?;
    let side = Window::between(low, high).ok_or_else(|| r.error(Code::Inconsistent, "side", "upside down"))?;
    let (goes, stops, state) = at_the_side(&mut r, side, around)?;
    let mut states = vec![state];
    let mut shown = json!({
        "id": id, "side_low": number(goes, unit), "side_high": number(stops, unit), "side_state": name(state),
    });
    states.extend(at_the_back(&mut r, around, &mut shown)?);
    let gaps = r.take("gaps").map(|g| g.list()).transpose()?;
    let floor = r.take_length("gap_floor", unit, Sign::NotNegative)?;
    if let Some(gaps) = gaps {
        let gaps: Vec<Length> =
            gaps.into_iter().map(|g| g.length(unit, Sign::NotNegative)).collect::<Result<_, _>>()?;
        let Some(floor) = floor else {
            return Err(r.error(Code::Inconsistent, "gap_floor", "gaps are judged by a gap_floor"));
        };
        let least = gaps.into_iter().min().unwrap_or_default();
        let state = match one_sided(least - floor, expanded) {
            OneSided::In => State::In,
            OneSided::Edge => State::Edge,
            OneSided::Out => State::Tight,
        };
        shown["gap_least"] = number(least, unit);
        shown["gap_state"] = name(state).into();
        states.push(state);
    }
    r.finish()?;
    shown["state"] = State::worst(states).map(name).into();
    Ok(shown)
}

/// The side clearance between two ends, and its state.
fn at_the_side(r: &mut Fields, side: Window, around: Around) -> Result<(Length, Length, State), CalcError> {
    let Around { expanded, unit, .. } = around;
    let (goes, stops) =
        (r.take_length("goes", unit, Sign::NotNegative)?, r.take_length("stops", unit, Sign::NotNegative)?);
    let groove = r.take("groove").map(|g| g.pair(["smallest", "largest"], unit, Sign::Positive)).transpose()?;
    let of_ring = r.take("ring").map(|g| g.pair(["smallest", "largest"], unit, Sign::Positive)).transpose()?;
    let rail = r.take("rail").map(|g| g.pair(["smallest", "largest"], unit, Sign::Positive)).transpose()?;
    let rails = r.take("rails").map(|n| n.count()).transpose()?;
    let expander = r.take_length("expander", unit, Sign::NotNegative)?;
    let by_sizes = groove.is_some() || of_ring.is_some() || rail.is_some();
    if goes.is_some() || stops.is_some() {
        if by_sizes || rails.is_some() || expander.is_some() {
            return Err(r.error(Code::Inconsistent, "goes", "blades or sizes, not both"));
        }
        let need =
            |name: &str| r.error(Code::MissingField, name, "both blades are needed: one that goes, one that stops");
        let (goes, stops) = (goes.ok_or_else(|| need("goes"))?, stops.ok_or_else(|| need("stops"))?);
        if goes >= stops {
            return Err(r.error(Code::Inconsistent, "goes", "the blade that goes is thinner than the one that stops"));
        }
        return Ok((goes, stops, by_blades(goes, stops, expanded, side)));
    }
    let Some(groove) = groove else {
        return Err(r.error(Code::MissingField, "groove", "blades, or the sizes of groove and ring, are needed"));
    };
    if rail.is_none() && (rails.is_some() || expander.is_some()) {
        return Err(r.error(Code::Inconsistent, "rail", "rails and expander belong to a rail"));
    }
    let times = i64::try_from(rails.unwrap_or(2)).ok().filter(|n| *n <= 1_000);
    let times = times.ok_or_else(|| r.error(Code::OutOfRange, "rails", "so many rails do not fit"))?;
    let (thin, thick) = match (of_ring, rail) {
        (Some(ring), None) => ring,
        (None, Some((thin, thick))) => {
            let all = |rail: Length| Length::checked(rail.nm().saturating_mul(times));
            let sum = |rail| Some(all(rail)? + expander.unwrap_or_default());
            let both = sum(thin).zip(sum(thick));
            both.ok_or_else(|| r.error(Code::OutOfRange, "rails", "so many rails do not fit"))?
        }
        (Some(_), Some(_)) => return Err(r.error(Code::Inconsistent, "ring", "a ring or rails, not both")),
        (None, None) => return Err(r.error(Code::MissingField, "ring", "how wide the ring is is needed")),
    };
    let (least, most) = (groove.0 - thick, groove.1 - thin);
    Ok((least, most, verdict(least, most, expanded, side, Acceptance::Guarded).state))
}

/// What is behind a ring, where its sizes are given.
fn at_the_back(r: &mut Fields, around: Around, shown: &mut Value) -> Result<Option<State>, CalcError> {
    let Around { bore, expanded, unit } = around;
    let root = r.take_length("root", unit, Sign::Positive)?;
    let radial = r.take_length("radial", unit, Sign::Positive)?;
    let land = r.take_length("land", unit, Sign::Positive)?;
    let window = r.take("back").map(|b| b.pair(["low", "high"], unit, Sign::NotNegative)).transpose()?;
    let Some(root) = root else {
        return match land.is_some() || window.is_some() || radial.is_some() {
            true => Err(r.error(Code::MissingField, "root", "the ground of the groove is needed")),
            false => Ok(None),
        };
    };
    let Some(radial) = radial else {
        return Err(r.error(Code::Inconsistent, "radial", "how deep the ring is is needed with the root"));
    };
    if root >= bore {
        return Err(r.error(Code::Inconsistent, "root", "the ground of a groove lies inside the bore"));
    }
    let back = back_clearance(bore, root, radial);
    shown["back"] = number_of_half(back.nm(), unit);
    if let Some(land) = land {
        shown["below_land"] = number_of_half(below_land(land, root, radial).nm(), unit);
    }
    let twice = |l: Length| l + l;
    let window = window.and_then(|(low, high)| Window::between(twice(low), twice(high)));
    let state = window.map(|window| verdict(back, back, twice(expanded), window, Acceptance::Guarded).state);
    if let Some(state) = state {
        shown["back_state"] = name(state).into();
    }
    Ok(state)
}
