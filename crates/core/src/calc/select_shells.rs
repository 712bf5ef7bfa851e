//! `select_shells`: which size classes go into which bearing, and what is bought for it.
use jagged_pin_search::by_class::{
    Bearing, Halves, Objective, Pick, Problem, SelectError, ShellSet, next_best, select,
};
use jagged_pin_search::{Quality, USUAL_EFFORT};
use serde_json::{Map, Value, json};

use super::request::{Fields, Sign, nm, number_of_nm};
use super::target::{own_target, target};
use super::{CalcError, Code};
use crate::maths::Target;
use crate::{Length, Unit};

/// More bearings, and more classes, than any engine and any family has.
const MOST: usize = 32;

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let of_all = target(f.need("target")?, unit)?;
    let (ids, places): (Vec<String>, Vec<Bearing>) = stations(&mut f, of_all, unit)?.into_iter().unzip();
    let (classes, shifts): (Vec<String>, Vec<Length>) = classes(&mut f, unit)?.into_iter().unzip();
    let max_step = f.need("max_step")?.length(unit, Sign::NotNegative)?;
    let alike = f.take("interchangeable").map_or(Ok(false), |i| i.flag())?;
    let mut on_shelf = f.need("stock")?.object()?;
    let stock = halves(&mut on_shelf, &classes, alike)?;
    on_shelf.finish()?;
    let (set_ids, sets): (Vec<String>, Vec<ShellSet>) = sets(&mut f, &classes, alike)?.into_iter().unzip();
    let allowed = [("closest", Objective::Closest), ("thriftiest", Objective::Thriftiest)];
    let objective = f.need("objective")?.one_of(&allowed)?;
    f.finish()?;
    let problem = Problem { places, shifts: nm(&shifts), max_step: max_step.nm(), stock, sets, objective, odd: None };
    let best = select(&problem, USUAL_EFFORT).map_err(|e| match e {
        SelectError::NotEnough { missing } => CalcError::not_enough(missing, "stock", e.to_string()),
        SelectError::Locked => CalcError::new(Code::Inconsistent, "", e.to_string()),
    })?;
    let pair = |i: usize, p: &Pick| {
        json!({
            "station": ids[i],
            "upper": classes[p.upper],
            "lower": classes[p.lower],
            "clearance": number_of_nm(p.clearance, unit),
            "inside": p.inside,
        })
    };
    let quality = |answer: &mut Value, q: Quality, cost: i64, mixed: usize| {
        answer["outside"] = q.outside.into();
        answer["worst_deviation"] = number_of_nm(q.worst, unit);
        answer["total_deviation"] = number_of_nm(q.total, unit);
        answer["cost"] = (cost as f64 / 10_000.0).into();
        answer["mixed"] = mixed.into();
    };
    let other = |a: jagged_pin_search::by_class::Alternative| {
        let differs: Vec<Value> = a.differs.iter().map(|i| pair(*i, &a.picks[*i])).collect();
        let mut answer = json!({ "differs": differs });
        quality(&mut answer, a.quality, a.cost, a.mixed);
        answer
    };
    let bought = set_ids.iter().zip(&best.bought).filter(|(_, n)| **n > 0);
    let mut answer = json!({
        "pairs": best.picks.iter().enumerate().map(|(i, p)| pair(i, p)).collect::<Vec<_>>(),
        "purchases": bought.map(|(id, n)| (id.clone(), (*n).into())).collect::<Map<String, Value>>(),
        "proven": best.proven,
        "gap": number_of_nm(best.gap, unit),
        "binding": best.binding.map(|i| &ids[i]),
        "alternatives": next_best(&problem, USUAL_EFFORT).into_iter().map(other).collect::<Vec<_>>(),
    });
    quality(&mut answer, best.quality, best.cost, best.mixed);
    Ok(answer)
}

fn limited(f: &mut Fields, name: &str) -> Result<Vec<(String, Fields)>, CalcError> {
    let list = f.need(name)?.listed()?;
    let too_many = list.len() > MOST;
    if too_many { Err(f.error(Code::OutOfRange, name, format!("at most {MOST} at once"))) } else { Ok(list) }
}

fn stations(f: &mut Fields, of_all: Target, unit: Unit) -> Result<Vec<(String, Bearing)>, CalcError> {
    let station = |(id, mut s): (String, Fields)| {
        let clearance_std = s.need("clearance_std")?.length(unit, Sign::Any)?;
        let target = own_target(&mut s, of_all, unit)?;
        s.finish()?;
        Ok((id, Bearing { clearance_std: clearance_std.nm(), target: target.into(), locked: None }))
    };
    limited(f, "stations")?.into_iter().map(station).collect()
}

fn classes(f: &mut Fields, unit: Unit) -> Result<Vec<(String, Length)>, CalcError> {
    let class = |(id, mut c): (String, Fields)| {
        let shift = c.need("shift")?.length(unit, Sign::Any)?;
        c.finish()?;
        Ok((id, shift))
    };
    limited(f, "classes")?.into_iter().map(class).collect()
}

/// Numbers of halves: `upper` and `lower`, by class; for one part that serves as either, `upper` alone.
fn halves(f: &mut Fields, classes: &[String], alike: bool) -> Result<Halves, CalcError> {
    let mut side = |name: &str| -> Result<Vec<u16>, CalcError> {
        let mut counts = vec![0; classes.len()];
        let Some(found) = f.take(name) else { return Ok(counts) };
        for (class, count) in found.object()?.rest() {
            let path = count.path.clone();
            let unknown = || CalcError::new(Code::UnknownClass, path.clone(), format!("there is no class \"{class}\""));
            let place = classes.iter().position(|c| *c == class).ok_or_else(unknown)?;
            counts[place] = count.whole()?;
            if alike && name == "lower" && counts[place] > 0 {
                let message = "halves that serve as either are counted under \"upper\" alone";
                return Err(CalcError::new(Code::Inconsistent, path, message));
            }
        }
        Ok(counts)
    };
    let (upper, lower) = (side("upper")?, side("lower")?);
    Ok(if alike { Halves::Alike(upper) } else { Halves::Apart { upper, lower } })
}

fn sets(f: &mut Fields, classes: &[String], alike: bool) -> Result<Vec<(String, ShellSet)>, CalcError> {
    let Some(found) = f.take("purchase") else { return Ok(Vec::new()) };
    let list = found.with_ids()?;
    if list.len() > MOST {
        return Err(f.error(Code::OutOfRange, "purchase", format!("at most {MOST} sets at once")));
    }
    let set = |(id, mut s): (String, Fields)| {
        let price = s.need("price")?.price()?;
        let available = s.take("available").map(|a| a.whole()).transpose()?;
        let holds = halves(&mut s, classes, alike)?;
        s.finish()?;
        Ok((id, ShellSet { price, holds, available }))
    };
    list.into_iter().map(set).collect()
}
