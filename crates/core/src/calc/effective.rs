//! `effective`: the size that counts, taper, out-of-round and relief from touched positions.
use serde_json::{Value, json};

use super::request::{Fields, Sign, number};
use super::{CalcError, Code};
use crate::maths::{Extreme, SizeRule, TouchedPlace, effective};
use crate::{Length, Unit};

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let kind = f.need("kind")?.one_of(&[("journal", Extreme::Largest), ("bore", Extreme::Smallest)])?;
    let rule = f.need("rule")?.one_of(&[("worst", SizeRule::Worst), ("mean", SizeRule::Mean)])?;
    let angles =
        f.take("effective_angles").map(|a| a.list()?.into_iter().map(|n| n.any_number()).collect()).transpose()?;
    let angles: Option<Vec<f64>> = angles;
    let places = places(&mut f, unit)?;
    let unmeasured = |a: &&f64| !places.iter().any(|p| p.angle == **a);
    if let Some(angle) = angles.iter().flatten().find(unmeasured) {
        let message = format!("nothing was measured at {angle} degrees");
        return Err(f.error(Code::Inconsistent, "effective_angles", message));
    }
    let missing = f.error(Code::Empty, "positions", "no position counts");
    f.finish()?;
    let size = effective(kind, rule, angles.as_deref(), &places).ok_or(missing)?;
    let show = |l: Length| number(l, unit);
    let each = places
        .iter()
        .filter_map(|place| Some((place, place.value()?)))
        .map(|(p, v)| json!({ "axial": p.axial, "angle": p.angle, "value": show(v.value), "spread": show(v.spread) }));
    let mut answer = json!({
        "effective": show(size.effective),
        "smallest": show(size.smallest),
        "largest": show(size.largest),
        "taper": show(size.taper),
        "out_of_round": show(size.out_of_round),
        "max_spread": show(size.max_spread),
        "positions": each.collect::<Vec<_>>(),
    });
    // Without named angles every position counts, and there is nothing to be relieved against.
    if let Some(relief) = size.relief {
        answer["relief"] = show(relief);
    }
    Ok(answer)
}

pub(super) fn places(f: &mut Fields, unit: Unit) -> Result<Vec<TouchedPlace<String, f64>>, CalcError> {
    let mut places: Vec<TouchedPlace<String, f64>> = Vec::new();
    for position in f.need("positions")?.list()? {
        let mut p = position.object()?;
        let axial = p.need("axial")?.text()?;
        if axial.is_empty() {
            return Err(p.error(Code::Empty, "axial", "name the place along the axis"));
        }
        let angle = p.need("angle")?.any_number()?;
        let readings = p.need("readings")?.list()?.into_iter().map(|r| r.length(unit, Sign::Positive));
        let readings = readings.collect::<Result<_, _>>()?;
        if places.iter().any(|known| known.axial == axial && known.angle == angle) {
            let message = format!("{axial} at {angle} degrees is there twice: put its readings together");
            return Err(p.error(Code::Duplicate, "angle", message));
        }
        p.finish()?;
        places.push(TouchedPlace { axial, angle, readings });
    }
    Ok(places)
}
