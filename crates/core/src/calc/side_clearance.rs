//! `side_clearance`: from blades or widths, and how to narrow rods that are too wide.
use serde_json::{Map, Value, json};

use super::request::{Fields, Sign, number};
use super::{CalcError, Code};
use crate::maths::{Face, Narrowing, NoNarrowing, RodWidth, Share, Split, narrow, side_clearance};
use crate::{Length, Unit};

/// What a slide's dial counts for one of axial travel.
type Dial = i64;

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    if f.need("method")?.one_of(&[("feeler", true), ("widths", false)])? { feeler(f, unit) } else { widths(f, unit) }
}

fn feeler(mut f: Fields, unit: Unit) -> Result<Value, CalcError> {
    let goes = f.need("goes")?.length(unit, Sign::NotNegative)?;
    let stops = f.need("stops")?.length(unit, Sign::NotNegative)?;
    if goes >= stops {
        return Err(f.error(Code::Inconsistent, "stops", "the blade that stops is thicker than the one that goes"));
    }
    f.finish()?;
    let middle = Length::mean(&[goes, stops]).unwrap_or(goes);
    Ok(json!({ "clearance": number(middle, unit), "low": number(goes, unit), "high": number(stops, unit) }))
}

fn widths(mut f: Fields, unit: Unit) -> Result<Value, CalcError> {
    let pin_width = f.need("pin_width")?.length(unit, Sign::Positive)?;
    let mut rods: Vec<(String, RodWidth)> = Vec::new();
    for (id, mut r) in f.need("rods")?.listed()? {
        let rod = RodWidth {
            width: r.need("width")?.length(unit, Sign::Positive)?,
            front_max: r.take_length("front_max", unit, Sign::NotNegative)?,
            rear_max: r.take_length("rear_max", unit, Sign::NotNegative)?,
            beam: r.take_length("beam", unit, Sign::Positive)?,
        };
        if rod.beam.is_some_and(|beam| beam > rod.width) {
            return Err(r.error(Code::Inconsistent, "beam", "the beam stands beyond the rod's rear face"));
        }
        r.finish()?;
        rods.push((id, rod));
    }
    let plan = f.take("plan").map(|p| planned(p.object()?, pin_width, &rods, unit)).transpose()?;
    f.finish()?;
    let clearance = number(side_clearance(pin_width, rods.iter().map(|(_, r)| r.width)), unit);
    let mut answer = json!({ "clearance": clearance, "low": clearance, "high": clearance });
    if let Some(plan) = plan {
        answer["plan"] = plan;
    }
    Ok(answer)
}

fn planned(mut p: Fields, pin_width: Length, rods: &[(String, RodWidth)], unit: Unit) -> Result<Value, CalcError> {
    let aim = p.need("aim")?.length(unit, Sign::NotNegative)?;
    let rough = p.need("rough")?.length(unit, Sign::Positive)?;
    let finish = p.need("finish")?.length(unit, Sign::NotNegative)?;
    let dial: Dial = p.take("dial").map_or(Ok(1), |d| d.one_of(&[("travel", 1), ("diameter", 2)]))?;
    let by_beam = p.take("split").map_or(Ok(false), |s| s.one_of(&[("even", false), ("beam", true)]))?;
    let offset = p.take_length("bank_offset", unit, Sign::NotNegative)?;
    let split = match (by_beam, offset, rods.len()) {
        (false, Some(_), _) => {
            let message = "cylinder axes matter only where the split is by \"beam\"";
            return Err(p.error(Code::Inconsistent, "bank_offset", message));
        }
        (false, None, _) => Split::Even,
        (true, Some(bank_offset), _) => Split::Beam { bank_offset },
        (true, None, 1) => Split::Beam { bank_offset: Length::ZERO },
        (true, None, _) => {
            let message = "how far apart the cylinder axes of two rods stand is needed";
            return Err(p.error(Code::MissingField, "bank_offset", message));
        }
    };
    let refused = |why| match why {
        NoNarrowing::TooManyForBeams => {
            p.error(Code::Inconsistent, "split", "one rod or two can be split by their beams")
        }
        NoNarrowing::BeamUnknown(i) => {
            CalcError::new(Code::MissingField, format!("rods[{i}].beam"), "where this rod's beam stands is needed")
        }
        NoNarrowing::NothingLeft(i) => {
            let message = format!("nothing would be left of rod {}", rods[i].0);
            p.error(Code::OutOfRange, "aim", message)
        }
        NoNarrowing::TooManyPasses => p.error(Code::OutOfRange, "rough", "that is more than a thousand passes"),
    };
    let widths: Vec<RodWidth> = rods.iter().map(|(_, r)| *r).collect();
    let plan = narrow(pin_width, &widths, Narrowing { aim, rough, finish, split }).map_err(refused)?;
    p.finish()?;
    let show = |share: Share| number(share.length(), unit);
    let face = |face: &Face| -> Value {
        let pass = |(cut, sum): &(Share, Share)| json!({ "cut": show(*cut), "dial": show(sum.times(dial)) });
        face.passes.iter().map(pass).collect::<Vec<_>>().into()
    };
    let each = rods.iter().zip(&plan.rods).map(|((id, _), rod)| {
        Value::Object(Map::from_iter([
            ("id".to_owned(), id.clone().into()),
            ("front".to_owned(), show(rod.front.off)),
            ("rear".to_owned(), show(rod.rear.off)),
            ("width".to_owned(), show(rod.width)),
            ("front_passes".to_owned(), face(&rod.front)),
            ("rear_passes".to_owned(), face(&rod.rear)),
        ]))
    });
    Ok(json!({
        "removal": show(plan.removal),
        "clearance": show(plan.clearance),
        "short": show(plan.short),
        "rods": each.collect::<Vec<_>>(),
    }))
}
