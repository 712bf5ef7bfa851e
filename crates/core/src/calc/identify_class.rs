//! `identify_class`: the undersize that measured journals belong to.
use serde_json::{Value, json};

use super::request::{Fields, Sign, number};
use super::{CalcError, Code};
use crate::maths::{UndersizeClass, common_undersize, identify_undersize};
use crate::{Length, Unit};

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let measured = measured(&mut f, unit)?;
    let nominal = f.need("nominal")?.length(unit, Sign::Positive)?;
    let undersizes = undersizes(&mut f, unit)?;
    let belongs_within = f.need("belongs_within")?.length(unit, Sign::NotNegative)?;
    f.finish()?;
    let classes: Vec<Option<UndersizeClass>> =
        measured.iter().map(|(_, size)| identify_undersize(*size, nominal, &undersizes, belongs_within)).collect();
    let show = |l: Option<Length>| l.map(|l| number(l, unit));
    let common = common_undersize(&classes);
    let each = measured.iter().zip(&classes).map(|((id, _), class)| {
        json!({ "id": id, "undersize": show(class.map(|c| c.undersize)), "worn": show(class.map(|c| c.worn)) })
    });
    Ok(json!({
        "classes": each.collect::<Vec<_>>(),
        "all_same": common.is_some(),
        "undersize": show(common),
    }))
}

fn measured(f: &mut Fields, unit: Unit) -> Result<Vec<(String, Length)>, CalcError> {
    let item = |(id, mut m): (String, Fields)| {
        let size = m.need("size")?.length(unit, Sign::Positive)?;
        m.finish()?;
        Ok((id, size))
    };
    f.need("measured")?.listed()?.into_iter().map(item).collect()
}

pub(super) fn undersizes(f: &mut Fields, unit: Unit) -> Result<Vec<Length>, CalcError> {
    let mut undersizes: Vec<Length> = Vec::new();
    for item in f.need("undersizes")?.list()? {
        let path = item.path.clone();
        let undersize = item.length(unit, Sign::NotNegative)?;
        if undersizes.contains(&undersize) {
            return Err(CalcError::new(Code::Duplicate, path, "this undersize is there twice"));
        }
        undersizes.push(undersize);
    }
    Ok(undersizes)
}
