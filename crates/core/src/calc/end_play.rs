//! `end_play`: from pushed travels to the play that counts, and what the caps and the clock say.
use serde_json::{Value, json};

use super::request::{Fields, Sign, number};
use super::{CalcError, Code};
use crate::Length;
use crate::maths::{PushedPlace, end_play};

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let mut places: Vec<PushedPlace> = Vec::new();
    for position in f.need("positions")?.list()? {
        let mut p = position.object()?;
        let angle = p.need("angle")?.angle()?;
        let torqued = p.need("caps")?.one_of(&[("torqued", true), ("loose", false)])?;
        let readings = p.need("readings")?.list()?.into_iter().map(|r| r.length(unit, Sign::NotNegative));
        let readings: Vec<Length> = readings.collect::<Result<_, _>>()?;
        if readings.is_empty() {
            return Err(p.error(Code::Empty, "readings", "no push was read here"));
        }
        if places.iter().any(|known| known.angle == angle && known.torqued == torqued) {
            let message = format!("{angle} degrees is there twice: put its readings together");
            return Err(p.error(Code::Duplicate, "angle", message));
        }
        p.finish()?;
        places.push(PushedPlace { angle, torqued, readings });
    }
    let limit = match f.take("square_limit") {
        Some(limit) => limit.length(unit, Sign::NotNegative)?,
        None => crate::maths::usual_square_limit(unit),
    };
    let missing = f.error(Code::Empty, "positions", "no position was pushed");
    f.finish()?;
    let found = end_play(&places, limit).ok_or(missing)?;
    let show = |l: Length| number(l, unit);
    let each = places.iter().zip(&found.places).map(|(p, v)| {
        let caps = if p.torqued { "torqued" } else { "loose" };
        json!({ "angle": p.angle, "caps": caps, "value": show(v.value), "spread": show(v.spread) })
    });
    Ok(json!({
        "end_play": show(found.smallest),
        "largest": show(found.largest),
        "range": show(found.largest - found.smallest),
        "first_look": found.first_look,
        "square": found.square,
        "torque_change": found.torque_change.map(show),
        "positions": each.collect::<Vec<_>>(),
    }))
}
