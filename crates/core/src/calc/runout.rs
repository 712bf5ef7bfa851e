//! `runout`: throw, form and bow from an indicator read around the clock.
use serde_json::{Map, Value, json};

use super::request::{Fields, Found, Sign, number, number_of_f64};
use super::{CalcError, Code};
use crate::maths::{ClockReading, Throw, Thrown, bow, direction, throw};
use crate::{Length, Unit};

/// Below a nanometre nothing has a direction.
const LEAST: f64 = 1.0;

struct Station {
    id: String,
    at: Option<Length>,
    values: Vec<Length>,
    throw: Throw,
}

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let mut stations: Vec<Station> = Vec::new();
    for (id, mut s) in f.need("stations")?.listed()? {
        let at = s.take_length("at", unit, Sign::Any)?;
        if at.is_some() && stations.iter().any(|known| known.at == at) {
            return Err(s.error(Code::Duplicate, "at", "two stations stand at one place along the shaft"));
        }
        let few = s.error(Code::TooFew, "readings", "it takes readings in three directions to tell throw from mean");
        let readings = clock(s.need("readings")?, unit)?;
        s.finish()?;
        let plain: Vec<ClockReading> = readings.iter().map(|(r, _)| *r).collect();
        let throw = throw(&plain).ok_or(few)?;
        stations.push(Station { id, at, values: readings.into_iter().map(|(_, v)| v).collect(), throw });
    }
    f.finish()?;
    let placed = stations.iter().any(|s| s.at.is_some());
    if let Some(i) = stations.iter().position(|s| placed && s.at.is_none()) {
        let message = "where this station stands along the shaft is missing: say it of all stations, or of none";
        return Err(CalcError::new(Code::MissingField, format!("stations[{i}].at"), message));
    }
    let along: Vec<(usize, Thrown)> =
        stations.iter().enumerate().filter_map(|(i, s)| s.at.map(|at| (i, (at.as_f64(), s.throw.by)))).collect();
    let bows = bow(&along.iter().map(|(_, thrown)| *thrown).collect::<Vec<_>>());
    let bow_of = |i: usize| along.iter().position(|(j, _)| *j == i).and_then(|k| bows.as_ref().map(|b| b[k]));
    let each = stations.iter().enumerate().map(|(i, s)| show(s, bow_of(i), unit));
    let mut answer = json!({ "stations": each.collect::<Vec<_>>() });
    let mut worst: Option<(f64, &str)> = None;
    for (i, s) in stations.iter().enumerate() {
        let size = bow_of(i).map(|([x, y], _)| x.hypot(y));
        if let Some(size) = size.filter(|size| worst.is_none_or(|(most, _)| *size > most)) {
            worst = Some((size, &s.id));
        }
    }
    if let Some((_, id)) = worst {
        answer["worst"] = id.into();
    }
    Ok(answer)
}

fn clock(found: Found, unit: Unit) -> Result<Vec<(ClockReading, Length)>, CalcError> {
    let mut read: Vec<(ClockReading, Length)> = Vec::new();
    for reading in found.list()? {
        let mut r = reading.object()?;
        let angle = r.need("angle")?.angle()?;
        let value = r.need("value")?.length(unit, Sign::Any)?;
        if read.iter().any(|(known, _)| known.angle == angle) {
            return Err(r.error(Code::Duplicate, "angle", format!("{angle} degrees is there twice")));
        }
        r.finish()?;
        read.push((ClockReading { angle, value: value.as_f64() }, value));
    }
    Ok(read)
}

fn angle_of(vector: [f64; 2]) -> Value {
    if vector[0].hypot(vector[1]) < LEAST { Value::Null } else { direction(vector).into() }
}

fn show(s: &Station, bow: Option<([f64; 2], Option<[f64; 2]>)>, unit: Unit) -> Value {
    let length = |v: [f64; 2]| number_of_f64(v[0].hypot(v[1]), unit);
    let mut shown = Map::from_iter([
        ("id".to_owned(), s.id.clone().into()),
        ("tir".to_owned(), number(Length::span(s.values.iter().copied()), unit)),
        ("eccentricity".to_owned(), length(s.throw.by)),
        ("high_angle".to_owned(), angle_of(s.throw.by)),
        ("form".to_owned(), s.throw.form.map_or(Value::Null, |nm| number_of_f64(nm, unit))),
        ("oval".to_owned(), s.throw.oval.map_or(Value::Null, |nm| number_of_f64(nm, unit))),
    ]);
    if let Some((bow, step)) = bow {
        shown.insert("bow".to_owned(), length(bow));
        shown.insert("bow_angle".to_owned(), angle_of(bow));
        if let Some(step) = step {
            shown.insert("step".to_owned(), length(step));
        }
    }
    Value::Object(shown)
}
