//! `flatness`: how flat a face is, by least squares and between two planes.
use serde_json::{Value, json};

use super::request::{Fields, Sign, number, number_of_f64};
use super::{CalcError, Code};
use crate::Length;
use crate::maths::{FacePoint, MOST_POINTS, flatness, range};

/// A plane has three unknowns: from four points on it can be missed.
const FEWEST: usize = 4;

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let mut points: Vec<FacePoint> = Vec::new();
    for found in f.need("points")?.list()? {
        let mut p = found.object()?;
        let mut coordinate = |name| p.need(name)?.length(unit, Sign::Any);
        let (x, y, z) = (coordinate("x")?.nm(), coordinate("y")?.nm(), coordinate("z")?.as_f64());
        if points.iter().any(|known| known.x == x && known.y == y) {
            return Err(p.error(Code::Duplicate, "x", "this place is there twice"));
        }
        p.finish()?;
        points.push(FacePoint { x, y, z });
    }
    super::too_few_or_many(&f, points.len(), FEWEST, MOST_POINTS)?;
    let span = f.take_length("span", unit, Sign::Positive)?;
    let on_a_line = f.error(Code::Inconsistent, "points", "all points lie on one line: that is no face");
    f.finish()?;
    let found = flatness(&points, span.map(Length::nm)).ok_or(on_a_line)?;
    let each = points.iter().zip(&found.residuals).map(|(p, off)| {
        let at = |nm| number(Length::from_nm(nm), unit);
        json!({ "x": at(p.x), "y": at(p.y), "residual": number_of_f64(*off, unit) })
    });
    let mut answer = json!({
        "least_squares": number_of_f64(range(&found.residuals), unit),
        "minimum_zone": number_of_f64(found.minimum_zone, unit),
        "slope_x": found.slope[0],
        "slope_y": found.slope[1],
        "points": each.collect::<Vec<_>>(),
    });
    if let Some(zone) = found.span_zone {
        answer["span_zone"] = number_of_f64(zone, unit);
    }
    Ok(answer)
}
