//! `grind_plan`: the size to grind a crank to, for each undersize.
use serde_json::{Value, json};

use super::CalcError;
use super::identify_class::undersizes;
use super::request::{Fields, Sign, number};
use super::target::target;
use crate::Unit;
use crate::maths::{Grind, GrindObstacle, GroundBearing, grind_options, smallest_feasible};

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let target = target(f.need("target")?, unit)?;
    let tolerance = f.need("tolerance")?.length(unit, Sign::NotNegative)?;
    let stations = stations(&mut f, unit)?;
    let undersizes = undersizes(&mut f, unit)?;
    f.finish()?;
    let (ids, bearings): (Vec<String>, Vec<GroundBearing>) = stations.into_iter().unzip();
    let options = grind_options(target, tolerance, &bearings, &undersizes);
    let chosen = smallest_feasible(&options).map(|o| number(o.undersize, unit));
    let options: Vec<Value> = options.iter().map(|o| option(o, &ids, unit)).collect();
    Ok(json!({ "options": options, "chosen": chosen }))
}

fn stations(f: &mut Fields, unit: Unit) -> Result<Vec<(String, GroundBearing)>, CalcError> {
    let station = |(id, mut s): (String, Fields)| {
        let over_std = s.need("bearing_id_std")?.length(unit, Sign::Positive)?;
        let smallest = s.need("smallest")?.length(unit, Sign::Positive)?;
        let clean_up = s.need("clean_up")?.length(unit, Sign::NotNegative)?;
        s.finish()?;
        Ok((id, GroundBearing { over_std, smallest, clean_up }))
    };
    f.need("stations")?.listed()?.into_iter().map(station).collect()
}

fn option(grind: &Grind, ids: &[String], unit: Unit) -> Value {
    let show = |l| number(l, unit);
    let bearing = |(id, b): (&String, &crate::maths::GroundPrediction)| {
        let (clearance, low, high) = (show(b.clearance), show(b.low), show(b.high));
        json!({ "id": id, "clearance": clearance, "low": low, "high": high, "inside": b.inside })
    };
    let stations: Vec<Value> = ids.iter().zip(&grind.bearings).map(bearing).collect();
    let mut option = json!({
        "undersize": show(grind.undersize),
        "size": show(grind.size),
        "feasible": grind.feasible(),
        "stations": stations,
    });
    if let Some(against) = grind.against {
        option["reason"] = match against {
            GrindObstacle::DoesNotCleanUp => {
                "the journals clean up only below the size that the clearance wants".into()
            }
            GrindObstacle::OneSizeDoesNotServe => {
                "no one size keeps every bearing in its window at both ends of the tolerance".into()
            }
        };
    }
    option
}
