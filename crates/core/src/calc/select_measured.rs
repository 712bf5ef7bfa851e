//! `select_measured`: which measured shells of a tray go into which housing.
use jagged_pin_search::BRANCHES_PER_MS;
use jagged_pin_search::by_class::SelectError;
use jagged_pin_search::one_by_one::{Housing, Pick, Tray, select};
use serde_json::{Value, json};

use super::request::{Fields, Sign, nm, number_of_nm};
use super::target::{own_target, target};
use super::{CalcError, Code};
use crate::maths::Target;
use crate::{Length, Unit};

/// More housings, and more halves of one side, than anybody lays out at once.
const MOST: (usize, usize) = (32, 256);
/// Time given unless said otherwise, and at most, in milliseconds.
const TIME_LIMIT: (u64, u64) = (2_000, 60_000);

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let of_all = target(f.need("target")?, unit)?;
    let (ids, places): (Vec<String>, Vec<Housing>) = stations(&mut f, of_all, unit)?.into_iter().unzip();
    let (upper_ids, uppers) = walls(&mut f, "uppers", unit)?;
    let (lower_ids, lowers) = walls(&mut f, "lowers", unit)?;
    let ms = f.take("time_limit_ms").map(|t| t.count()).transpose()?.unwrap_or(TIME_LIMIT.0).min(TIME_LIMIT.1);
    f.finish()?;
    let scarce = if uppers.len() < places.len() { "uppers" } else { "lowers" };
    let tray = Tray { places, uppers: nm(&uppers), lowers: nm(&lowers) };
    let best = select(&tray, ms.saturating_mul(BRANCHES_PER_MS)).map_err(|e| match e {
        SelectError::NotEnough { missing } => CalcError::not_enough(missing, scarce, e.to_string()),
        SelectError::Locked => CalcError::new(Code::Inconsistent, "", e.to_string()),
    })?;
    let pair = |(id, p): (&String, &Pick)| {
        json!({
            "station": id,
            "upper": upper_ids[p.upper],
            "lower": lower_ids[p.lower],
            "clearance": number_of_nm(p.clearance, unit),
            "inside": p.inside,
        })
    };
    Ok(json!({
        "pairs": ids.iter().zip(&best.picks).map(pair).collect::<Vec<_>>(),
        "outside": best.quality.outside,
        "worst_deviation": number_of_nm(best.quality.worst, unit),
        "total_deviation": number_of_nm(best.quality.total, unit),
        "proven": best.proven,
        "gap": number_of_nm(best.gap, unit),
    }))
}

fn stations(f: &mut Fields, of_all: Target, unit: Unit) -> Result<Vec<(String, Housing)>, CalcError> {
    let list = f.need("stations")?.listed()?;
    if list.len() > MOST.0 {
        return Err(f.error(Code::OutOfRange, "stations", format!("at most {} stations at once", MOST.0)));
    }
    let station = |(id, mut s): (String, Fields)| {
        let base = s.need("base")?.length(unit, Sign::Any)?;
        let target = own_target(&mut s, of_all, unit)?;
        s.finish()?;
        Ok((id, Housing { base: base.nm(), target: target.into() }))
    };
    list.into_iter().map(station).collect()
}

fn walls(f: &mut Fields, name: &str, unit: Unit) -> Result<(Vec<String>, Vec<Length>), CalcError> {
    let list = f.need(name)?.listed()?;
    if list.len() > MOST.1 {
        return Err(f.error(Code::OutOfRange, name, format!("at most {} shells of a side at once", MOST.1)));
    }
    let item = |(id, mut s): (String, Fields)| {
        let wall = s.need("wall")?.length(unit, Sign::Positive)?;
        s.finish()?;
        Ok((id, wall))
    };
    list.into_iter().map(item).collect::<Result<Vec<_>, _>>().map(|all| all.into_iter().unzip())
}
