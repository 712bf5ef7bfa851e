//! `hone_passes`: strokes to the goal, learned from those made, and never past it.
use rust_decimal::Decimal;
use serde_json::{Map, Value};

use super::request::{Fields, Sign, number, number_of_f64};
use super::{CalcError, Code};
use crate::maths::{Caution, MOST_STROKES, Strokes, ToGo, strokes_to_go};
use crate::{Length, Unit};

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let size = f.need("size")?.length(unit, Sign::Positive)?;
    let goal = f.need("goal")?.length(unit, Sign::Positive)?;
    let log = f.need("log")?;
    let to_go = passes(&mut f, log, (size, goal), unit)?;
    f.finish()?;
    Ok(Value::Object(show(&to_go, unit)))
}

/// What a log says of the way from one size to another; takes `caution` beside it.
pub(super) fn passes(
    f: &mut Fields,
    log: super::request::Found,
    (size, goal): (Length, Length),
    unit: Unit,
) -> Result<ToGo, CalcError> {
    let path = log.path.clone();
    let mut entries = Vec::new();
    for found in log.list()? {
        let mut e = found.object()?;
        let strokes = e.need("strokes")?.count()?;
        let strokes = u32::try_from(strokes).ok().filter(|n| *n <= MOST_STROKES);
        let strokes = strokes.ok_or_else(|| e.error(Code::OutOfRange, "strokes", "nobody made a million strokes"))?;
        let removed = e.need("removed")?.length(unit, Sign::NotNegative)?;
        e.finish()?;
        entries.push(Strokes { strokes, removed });
    }
    let caution = f.take("caution").map(|c| c.positive_number()).transpose()?;
    if caution.is_some_and(|c| c > 1.0) {
        return Err(f.error(Code::OutOfRange, "caution", "caution is a part of the way: at most 1"));
    }
    let caution = caution.map(fraction);
    strokes_to_go(size, goal, &entries, caution)
        .ok_or_else(|| CalcError::new(Code::Inconsistent, path, "the log removed nothing, so no rate is known"))
}

/// The fraction that was written: 0.8 is eight tenths, whatever a float makes of it.
fn fraction(part: f64) -> Caution {
    let exact = part.to_string().parse::<Decimal>().ok().filter(|d| d.scale() <= 15);
    let exact = exact.and_then(|d| Some((u64::try_from(d.mantissa()).ok()?, 10_u64.checked_pow(d.scale())?)));
    // Less than a part in ten million million is no caution that anybody means.
    exact.map_or(Caution { parts: 0, of: 1 }, |(parts, of)| Caution { parts, of })
}

/// The fields of an answer.
pub(super) fn show(to_go: &ToGo, unit: Unit) -> Map<String, Value> {
    let rate = |nm: f64| Value::from(nm / unit.nm() as f64);
    let fields = [
        ("to_go", number(to_go.to_go, unit)),
        ("rate", rate(to_go.rate)),
        ("fastest", rate(to_go.fastest)),
        ("strokes_left", to_go.strokes_left.into()),
        ("next_strokes", to_go.next_strokes.into()),
        ("predicted", number_of_f64(to_go.predicted, unit)),
        ("at_most", number_of_f64(to_go.at_most, unit)),
        ("done", (to_go.next_strokes == 0).into()),
    ];
    fields.map(|(name, value)| (name.to_owned(), value)).into_iter().collect()
}
