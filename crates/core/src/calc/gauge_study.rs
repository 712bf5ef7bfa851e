//! `gauge_study`: what of a reading comes from the gauge, the people and the parts.
use serde_json::{Value, json};

use super::request::{Fields, Sign};
use super::{CalcError, Code};
use crate::Length;
use crate::maths::gauge_study;

/// Interaction is taken for chance where it is likelier than this, unless said otherwise.
const USUAL_ALPHA: f64 = 0.05;

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let (mut parts, mut people): (Vec<String>, Vec<String>) = (Vec::new(), Vec::new());
    let mut cells: Vec<(usize, usize, Vec<i64>)> = Vec::new();
    for found in f.need("readings")?.list()? {
        let mut r = found.object()?;
        let part = place(&mut parts, r.need("part")?.text()?);
        let person = place(&mut people, r.need("person")?.text()?);
        if cells.iter().any(|(known, by, _)| (*known, *by) == (part, person)) {
            return Err(r.error(Code::Duplicate, "part", "what one person read on one part belongs together"));
        }
        let values = r.need("values")?.list()?.into_iter().map(|v| v.length(unit, Sign::Any).map(Length::nm));
        cells.push((part, person, values.collect::<Result<_, _>>()?));
        r.finish()?;
    }
    let alpha = f.take("alpha").map_or(Ok(USUAL_ALPHA), |a| a.number_within(0.0, 1.0))?;
    let tolerance = f.take_length("tolerance", unit, Sign::Positive)?;
    let few = |message: &str| f.error(Code::TooFew, "readings", message);
    if parts.len() < 2 {
        return Err(few("it takes two parts to tell parts apart"));
    }
    if people.len() < 2 {
        return Err(few("it takes two people to tell people apart"));
    }
    let repeats = cells.iter().map(|(_, _, v)| v.len()).min().unwrap_or_default();
    if repeats < 2 {
        return Err(few("everybody reads every part at least twice"));
    }
    if cells.len() != parts.len() * people.len() || cells.iter().any(|(_, _, v)| v.len() != repeats) {
        let message = "everybody reads every part, and as often as every other";
        return Err(f.error(Code::Inconsistent, "readings", message));
    }
    let unable = f.error(Code::OutOfRange, "readings", "these readings cannot be studied");
    f.finish()?;
    let cell = |part: usize, person: usize| {
        let found = cells.iter().find(|(p, by, _)| (*p, *by) == (part, person));
        found.map(|(_, _, values)| values.clone()).unwrap_or_default()
    };
    let values: Vec<Vec<Vec<i64>>> =
        (0..parts.len()).map(|i| (0..people.len()).map(|j| cell(i, j)).collect()).collect();
    let study = gauge_study(&values, alpha).ok_or(unable)?;
    let show = |nm: f64| nm / unit.nm() as f64;
    let each = people.iter().zip(&study.people).map(|(id, (offset, repeatability))| {
        json!({ "id": id, "offset": show(*offset), "repeatability": show(*repeatability) })
    });
    let mut answer = json!({
        "repeatability": show(study.repeatability),
        "person": show(study.person),
        "interaction": show(study.interaction),
        "reproducibility": show(study.reproducibility()),
        "gauge": show(study.gauge()),
        "part": show(study.part),
        "total": show(study.total()),
        "f": study.f,
        "p": study.p,
        "pooled": study.pooled,
        "distinct": study.distinct(),
        "expanded": show(2.0 * study.gauge()),
        "people": each.collect::<Vec<_>>(),
    });
    if let Some(tolerance) = tolerance {
        answer["percent_of_tolerance"] = (600.0 * study.gauge() / tolerance.as_f64()).into();
    }
    Ok(answer)
}

/// Where a name stands in the list, at its end if it is new.
fn place(names: &mut Vec<String>, name: String) -> usize {
    names.iter().position(|known| *known == name).unwrap_or_else(|| {
        names.push(name);
        names.len() - 1
    })
}
