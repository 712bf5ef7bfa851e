//! `assign`: which row goes with which column, such as rods with pins.
use jagged_pin_search::assignment::assign;
use serde_json::{Value, json};

use super::request::{Fields, Found, Sign, nm, number, number_of_nm};
use super::target::target;
use super::{CalcError, Code};
use crate::{Length, Unit};

/// More parts than any engine has.
const MOST: usize = 64;

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let target = target(f.need("target")?, unit)?;
    let (row_ids, rows) = sizes(&mut f, "rows", unit)?;
    let (column_ids, columns) = sizes(&mut f, "columns", unit)?;
    if rows.len() != columns.len() {
        return Err(f.error(Code::Inconsistent, "columns", "there must be as many columns as rows"));
    }
    let fixed = fixed(&mut f, &row_ids, &column_ids)?;
    f.finish()?;
    let best = assign(target.into(), &nm(&rows), &nm(&columns), &fixed)
        .ok_or_else(|| CalcError::new(Code::Inconsistent, "fixed", "what is fixed leaves no pairs for the others"))?;
    let pair = |(r, c): (usize, &usize)| {
        let clearance = rows[r] - columns[*c];
        let inside = (target.low..=target.high).contains(&clearance);
        json!({ "row": row_ids[r], "column": column_ids[*c], "clearance": number(clearance, unit), "inside": inside })
    };
    Ok(json!({
        "pairs": best.columns.iter().enumerate().map(pair).collect::<Vec<_>>(),
        "outside": best.quality.outside,
        "worst_deviation": number_of_nm(best.quality.worst, unit),
        "total_deviation": number_of_nm(best.quality.total, unit),
    }))
}

fn sizes(f: &mut Fields, name: &str, unit: Unit) -> Result<(Vec<String>, Vec<Length>), CalcError> {
    let list = f.need(name)?.listed()?;
    if list.len() > MOST {
        return Err(f.error(Code::OutOfRange, name, format!("at most {MOST} are paired at once")));
    }
    let item = |(id, mut s): (String, Fields)| {
        let size = s.need("size")?.length(unit, Sign::Positive)?;
        s.finish()?;
        Ok((id, size))
    };
    list.into_iter().map(item).collect::<Result<Vec<_>, _>>().map(|all| all.into_iter().unzip())
}

fn fixed(f: &mut Fields, rows: &[String], columns: &[String]) -> Result<Vec<(usize, usize)>, CalcError> {
    let Some(found) = f.take("fixed") else { return Ok(Vec::new()) };
    let mut fixed: Vec<(usize, usize)> = Vec::new();
    for pair in found.list_or_none()? {
        let path = pair.path.clone();
        let both: Result<[Found; 2], _> = pair.list()?.try_into();
        let [row, column] =
            both.map_err(|_| CalcError::new(Code::WrongType, path, "a row and its column are needed here"))?;
        let (row_path, column_path) = (row.path.clone(), column.path.clone());
        let place = |found: Found, ids: &[String]| {
            let path = found.path.clone();
            let id = found.text()?;
            let unknown = || CalcError::new(Code::UnknownId, path, format!("there is no \"{id}\""));
            ids.iter().position(|known| *known == id).ok_or_else(unknown)
        };
        let (row, column) = (place(row, rows)?, place(column, columns)?);
        let twice = |path| Err(CalcError::new(Code::Duplicate, path, "this one is fixed twice"));
        if fixed.iter().any(|(r, _)| *r == row) {
            return twice(row_path);
        }
        if fixed.iter().any(|(_, c)| *c == column) {
            return twice(column_path);
        }
        fixed.push((row, column));
    }
    Ok(fixed)
}
