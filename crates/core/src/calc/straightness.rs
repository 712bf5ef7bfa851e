//! `straightness`: how straight a row of bores is, freed of their sizes.
use serde_json::{Value, json};

use super::request::{Fields, Sign, number_of_f64};
use super::{CalcError, Code};
use crate::Length;
use crate::maths::{MOST_POINTS, range, straightness};

/// A line has two unknowns: from three points on it can be missed.
const FEWEST: usize = 3;

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let mut points: Vec<(i64, f64)> = Vec::new();
    let mut ids = Vec::new();
    let mut sized = None;
    for (id, mut p) in f.need("points")?.listed()? {
        let at = p.need("at")?.length(unit, Sign::Any)?.nm();
        let z = p.need("z")?.length(unit, Sign::Any)?;
        let size = p.take_length("size", unit, Sign::Positive)?;
        if *sized.get_or_insert(size.is_some()) != size.is_some() {
            return Err(p.error(Code::Inconsistent, "size", "give the size of every bore, or of none"));
        }
        if points.iter().any(|(known, _)| *known == at) {
            return Err(p.error(Code::Duplicate, "at", "two points stand at one place"));
        }
        p.finish()?;
        // A gap under a straight edge is half the size larger in a larger bore.
        points.push((at, z.as_f64() - size.map_or(0.0, Length::as_f64) / 2.0));
        ids.push(id);
    }
    super::too_few_or_many(&f, points.len(), FEWEST, MOST_POINTS)?;
    let span = f.take_length("span", unit, Sign::Positive)?;
    let too_few = f.error(Code::TooFew, "points", "it takes three points to miss a line");
    f.finish()?;
    let found = straightness(&points, span.map(Length::nm)).ok_or(too_few)?;
    let show = |nm: f64| number_of_f64(nm, unit);
    let each = ids.iter().zip(found.residuals.iter().zip(&found.from_ends));
    let each = each.map(|(id, (off, ends))| json!({ "id": id, "residual": show(*off), "from_ends": show(*ends) }));
    let mut answer = json!({
        "least_squares": show(range(&found.residuals)),
        "minimum_zone": show(found.minimum_zone),
        "neighbour": show(found.neighbour),
        "points": each.collect::<Vec<_>>(),
    });
    if let Some(zone) = found.span_zone {
        answer["span_zone"] = show(zone);
    }
    Ok(answer)
}
