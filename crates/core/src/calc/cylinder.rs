//! `cylinder`: sizes, taper and out-of-round of a bore, with the ellipse of each level.
use serde_json::{Value, json};

use super::effective::places;
use super::request::{Fields, number, number_of_f64};
use super::{CalcError, Code};
use crate::maths::{Extreme, SizeRule, effective, ellipse};
use crate::{Length, Unit};

/// Below a nanometre nothing has a long axis.
const LEAST: f64 = 1.0;

/// A level: its name, and what was found there at which angle.
type Level<'a> = (&'a str, Vec<(f64, Length)>);

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let places = places(&mut f, unit)?;
    if let Some(i) = places.iter().position(|p| !(-360.0..=360.0).contains(&p.angle)) {
        let path = format!("positions[{i}].angle");
        return Err(CalcError::new(Code::OutOfRange, path, "a direction lies within a turn either way"));
    }
    let missing = f.error(Code::Empty, "positions", "no position counts");
    f.finish()?;
    let size = effective(Extreme::Smallest, SizeRule::Worst, None, &places).ok_or(missing)?;
    let mut levels: Vec<Level<'_>> = Vec::new();
    for (place, found) in places.iter().filter_map(|place| Some((place, place.value()?))) {
        match levels.iter_mut().find(|(axial, _)| *axial == place.axial) {
            Some((_, at)) => at.push((place.angle, found.value)),
            None => levels.push((&place.axial, vec![(place.angle, found.value)])),
        }
    }
    Ok(json!({
        "smallest": number(size.smallest, unit),
        "largest": number(size.largest, unit),
        "taper": number(size.taper, unit),
        "out_of_round": number(size.out_of_round, unit),
        "max_spread": number(size.max_spread, unit),
        "levels": levels.iter().map(|l| show(l, unit)).collect::<Vec<_>>(),
    }))
}

fn show((axial, found): &Level<'_>, unit: Unit) -> Value {
    let values: Vec<Length> = found.iter().map(|(_, v)| *v).collect();
    let smallest = values.iter().min().copied().unwrap_or_default();
    let round = Length::span(values.iter().copied());
    let mut shown = json!({
        "axial": axial,
        "smallest": number(smallest, unit),
        "largest": number(smallest + round, unit),
        "mean": number(Length::mean(&values).unwrap_or_default(), unit),
        "out_of_round": number(round, unit),
    });
    let diameters: Vec<(f64, f64)> = found.iter().map(|(angle, v)| (*angle, v.as_f64())).collect();
    if let Some(fit) = ellipse(&diameters) {
        shown["fit"] = json!({
            "mean": number_of_f64(fit.mean, unit),
            "ovality": number_of_f64(fit.ovality, unit),
            "long_axis": (fit.ovality >= LEAST).then_some(fit.long_axis),
            "residual": number_of_f64(fit.residual, unit),
        });
    }
    shown
}
