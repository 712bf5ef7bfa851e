//! `bore_plan`: the smallest oversize that cleans every cylinder.
use std::collections::HashMap;

use serde_json::{Value, json};

use super::request::{Fields, Sign, number};
use super::{CalcError, Code};
use crate::maths::{BoredCylinder, BoredPlace, Boring, WornCylinder, bored, usual_hone_stock};
use crate::{Length, Unit};

/// An oversize of the catalogue: how much, its piston, and the pistons of single cylinders that were measured.
struct Oversize {
    oversize: Length,
    piston: Length,
    measured: HashMap<String, Length>,
}

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let mut cylinders: Vec<(String, WornCylinder)> = Vec::new();
    for (id, mut c) in f.need("cylinders")?.listed()? {
        cylinders.push((id, cylinder(&mut c, unit)?));
        c.finish()?;
    }
    let sizes = sizes(&mut f, &cylinders, unit)?;
    let work = Boring {
        aim: f.need("aim")?.length(unit, Sign::NotNegative)?,
        finish_stock: f.take_length("finish_stock", unit, Sign::NotNegative)?.unwrap_or_default(),
        hone_stock: f.take_length("hone_stock", unit, Sign::NotNegative)?.unwrap_or_else(|| usual_hone_stock(unit)),
        plate_distortion: f.take_length("plate_distortion", unit, Sign::NotNegative)?.unwrap_or_default(),
    };
    f.finish()?;
    let mut chosen: Option<Length> = None;
    let mut options = Vec::new();
    for size in &sizes {
        let one = |(id, c): &(String, WornCylinder)| {
            bored(c, size.measured.get(id).copied().unwrap_or(size.piston), work).map(|b| (id.clone(), b))
        };
        let each: Vec<(String, BoredCylinder)> = cylinders.iter().filter_map(one).collect();
        let named = |which: fn(&BoredCylinder) -> bool| -> Vec<&str> {
            each.iter().filter(|(_, b)| which(b)).map(|(id, _)| id.as_str()).collect()
        };
        let (misses, thin) = (named(|b| !b.cleans), named(|b| b.thin));
        let feasible = misses.is_empty() && thin.is_empty();
        if feasible && chosen.is_none_or(|best| size.oversize < best) {
            chosen = Some(size.oversize);
        }
        let show = |l: Length| number(l, unit);
        let cylinder = |(id, b): &(String, BoredCylinder)| {
            json!({
                "id": id,
                "needs": show(b.needs),
                "finished": show(b.finished),
                "bore_to": show(b.bore_to),
                "cleans": b.cleans,
            })
        };
        options.push(json!({
            "oversize": show(size.oversize),
            "feasible": feasible,
            "misses": misses,
            "thin": thin,
            "cylinders": each.iter().map(cylinder).collect::<Vec<_>>(),
        }));
    }
    Ok(json!({ "options": options, "chosen": chosen.map(|l| number(l, unit)) }))
}

fn cylinder(c: &mut Fields, unit: Unit) -> Result<WornCylinder, CalcError> {
    let place = |found: super::request::Found| {
        let mut p = found.object()?;
        let place = BoredPlace {
            size: p.need("size")?.length(unit, Sign::Positive)?,
            damage: p.take_length("damage", unit, Sign::NotNegative)?.unwrap_or_default(),
        };
        p.finish()?;
        Ok(place)
    };
    Ok(WornCylinder {
        places: c.need("places")?.list()?.into_iter().map(place).collect::<Result<_, CalcError>>()?,
        unworn: c.take_length("unworn", unit, Sign::Positive)?,
        wear_offset: c.take_length("wear_offset", unit, Sign::NotNegative)?,
        plate: c.take("plate").map_or(Ok(true), |p| p.flag())?,
        max_bore: c.take_length("max_bore", unit, Sign::Positive)?,
    })
}

fn sizes(f: &mut Fields, cylinders: &[(String, WornCylinder)], unit: Unit) -> Result<Vec<Oversize>, CalcError> {
    let mut sizes: Vec<Oversize> = Vec::new();
    for found in f.need("sizes")?.list()? {
        let mut s = found.object()?;
        let oversize = s.need("oversize")?.length(unit, Sign::NotNegative)?;
        if sizes.iter().any(|known| known.oversize == oversize) {
            return Err(s.error(Code::Duplicate, "oversize", "this oversize is there twice"));
        }
        let piston = s.need("piston")?.length(unit, Sign::Positive)?;
        let mut measured = HashMap::new();
        for (id, size) in s.take("measured").map_or(Ok(Vec::new()), |m| Ok(m.object()?.rest()))? {
            if !cylinders.iter().any(|(known, _)| *known == id) {
                let message = format!("there is no cylinder \"{id}\"");
                return Err(CalcError::new(Code::UnknownId, size.path, message));
            }
            measured.insert(id, size.length(unit, Sign::Positive)?);
        }
        s.finish()?;
        sizes.push(Oversize { oversize, piston, measured });
    }
    Ok(sizes)
}
