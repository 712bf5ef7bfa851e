//! `balance`: correction weights in one plane or two.
use serde_json::{Value, json};

use super::request::{Fields, Found, Sign};
use super::{CalcError, Code};
use crate::maths::{Sensor, Vector, by_trials, direction, moved};
use crate::{Length, Unit};

/// Planes that can be weighted, at most.
const MOST_PLANES: usize = 2;

/// Below a millionth of a gram a correction has no direction.
const LEAST: f64 = 1e-6;

struct Plane {
    id: String,
    weight: Vector,
    /// Radius it was shown or tried at, and the one it is corrected at.
    radius: Option<(Length, Length)>,
    /// Where it was shown, and where it is corrected.
    at: Option<(Length, Length)>,
}

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let trial = f.need("method")?.one_of(&[("direct", false), ("trial", true)])?;
    let mut planes: Vec<Plane> = Vec::new();
    for (id, p) in f.need("planes")?.listed()? {
        planes.push(plane(p, id, trial, unit)?);
    }
    if planes.len() > MOST_PLANES {
        return Err(f.error(Code::OutOfRange, "planes", "one plane or two can be balanced"));
    }
    let fitted = if trial { tried(&mut f, &planes)? } else { shown(&f, &planes)? };
    f.finish()?;
    let each = planes.iter().zip(fitted).map(|(plane, correction)| {
        let grams = correction.amount();
        let add = (grams >= LEAST).then(|| direction([correction.x, correction.y]));
        let remove = add.map(|angle| (angle + 180.0) % 360.0);
        json!({ "id": plane.id, "grams": grams, "add_angle": add, "remove_angle": remove })
    });
    Ok(json!({ "corrections": each.collect::<Vec<_>>() }))
}

fn plane(mut p: Fields, id: String, trial: bool, unit: Unit) -> Result<Plane, CalcError> {
    let grams = p.need("grams")?;
    let grams = if trial { grams.positive_number()? } else { grams.number_from_zero()? };
    let weight = Vector::polar(grams, p.need("angle")?.angle()?);
    let mut pair =
        |one: &str, other: &str, sign| match (p.take_length(one, unit, sign)?, p.take_length(other, unit, sign)?) {
            (Some(a), Some(b)) => Ok(Some((a, b))),
            (None, None) => Ok(None),
            (None, Some(_)) => Err(p.error(Code::Inconsistent, one, format!("\"{other}\" is given without \"{one}\""))),
            (Some(_), None) => {
                Err(p.error(Code::Inconsistent, other, format!("\"{one}\" is given without \"{other}\"")))
            }
        };
    let radius = pair("radius", "fit_radius", Sign::Positive)?;
    let at = if trial { None } else { pair("at", "fit_at", Sign::Any)? };
    p.finish()?;
    Ok(Plane { id, weight, radius, at })
}

/// What a weight at one radius weighs at the other.
fn at_fit_radius(weight: Vector, plane: &Plane) -> Vector {
    plane.radius.map_or(weight, |(from, to)| weight.times(from.as_f64() / to.as_f64()))
}

/// The opposite of what was shown, from the planes that can be weighted.
fn shown(f: &Fields, planes: &[Plane]) -> Result<Vec<Vector>, CalcError> {
    let plain = || planes.iter().map(|p| at_fit_radius(p.weight, p).times(-1.0)).collect();
    let places: Vec<(Length, Length)> = planes.iter().filter_map(|p| p.at).collect();
    let wrong = |message| Err(f.error(Code::Inconsistent, "planes", message));
    match (planes, places.as_slice()) {
        (_, []) => Ok(plain()),
        ([a, b], [from, to]) => {
            if from.1 == to.1 {
                return wrong("both corrections stand at one place: they hold no couple");
            }
            // Force and couple are of moments: of weights only where all are at one radius.
            let moment = |p: &Plane| match p.radius {
                Some((shown_at, _)) => p.weight.times(shown_at.as_f64()),
                None => p.weight,
            };
            if a.radius.is_some() != b.radius.is_some() {
                return wrong("give the radius of both planes, or of none");
            }
            let [front, rear] =
                moved([moment(a), moment(b)], [from.0.as_f64(), to.0.as_f64()], [from.1.as_f64(), to.1.as_f64()]);
            let fitted = |p: &Plane, v: Vector| p.radius.map_or(v, |(_, to)| v.times(1.0 / to.as_f64())).times(-1.0);
            Ok(vec![fitted(a, front), fitted(b, rear)])
        }
        _ => wrong("where both planes stand is needed, or of none"),
    }
}

fn tried(f: &mut Fields, planes: &[Plane]) -> Result<Vec<Vector>, CalcError> {
    let mut sensors: Vec<Sensor> = Vec::new();
    for (_, mut s) in f.need("sensors")?.listed()? {
        let initial = vector(s.need("initial")?)?;
        let trials = s.need("trials")?.list()?.into_iter().map(vector).collect::<Result<Vec<_>, _>>()?;
        if trials.len() != planes.len() {
            return Err(s.error(
                Code::Inconsistent,
                "trials",
                "there is one reading for the trial weight of each plane",
            ));
        }
        s.finish()?;
        sensors.push(Sensor { initial, trials });
    }
    if sensors.len() != planes.len() {
        return Err(f.error(Code::Inconsistent, "sensors", "as many sensors as planes are needed"));
    }
    let weights: Vec<Vector> = planes.iter().map(|p| p.weight).collect();
    let unable = || f.error(Code::Inconsistent, "sensors", "the trial weights do not tell the planes apart");
    let corrections = by_trials(&weights, &sensors).ok_or_else(unable)?;
    let finite = corrections.iter().all(|c| c.amount().is_finite());
    let fitted = planes.iter().zip(corrections).map(|(p, c)| at_fit_radius(c, p)).collect();
    if finite { Ok(fitted) } else { Err(unable()) }
}

fn vector(found: Found) -> Result<Vector, CalcError> {
    let mut v = found.object()?;
    let vector = Vector::polar(v.need("amount")?.number_from_zero()?, v.need("angle")?.angle()?);
    v.finish()?;
    Ok(vector)
}
