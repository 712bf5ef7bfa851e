//! `parse_entry`: what a text typed into a size or dial cell means.
use serde_json::{Value, json};

use super::request::{Fields, Sign, number};
use super::{CalcError, Code};
use crate::maths::{Cell, CellKind, EntryError, parse_entry};

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let text = f.need("text")?.text()?;
    let kind = f.need("cell")?.one_of(&[("size", CellKind::Size), ("dial", CellKind::Dial)])?;
    let mut cell = Cell::new(kind, unit);
    let sign = if kind == CellKind::Dial { Sign::Any } else { Sign::NotNegative };
    cell.expected = f.take("expected").map(|v| v.length(unit, sign)).transpose()?;
    if let Some(resolution) = f.take("resolution") {
        cell.resolution = resolution.length(unit, Sign::Positive)?;
    }
    if let Some(band) = f.take("sanity_band") {
        cell.band = band.length(unit, Sign::NotNegative)?;
    }
    f.finish()?;
    let entry = parse_entry(&text, &cell).map_err(|e| CalcError::new(code(&e), "text", message(&e)))?;
    Ok(json!({
        "value": number(entry.value, unit),
        "understood": entry.value.show(unit),
        "how": entry.how,
    }))
}

/// Here a wider band is the only way to force a figure.
fn message(error: &EntryError) -> String {
    match error {
        EntryError::OutOfBand { .. } => format!("{error} with a wider sanity_band"),
        other => other.to_string(),
    }
}

fn code(error: &EntryError) -> Code {
    match error {
        EntryError::NotANumber { .. } => Code::NotANumber,
        EntryError::AmbiguousTail { .. } => Code::AmbiguousTail,
        EntryError::AmbiguousUnit { .. } => Code::AmbiguousUnit,
        EntryError::OutOfBand { .. } => Code::OutOfBand,
        EntryError::NotPositive { .. } => Code::NotPositive,
        EntryError::OutOfRange { .. } => Code::OutOfRange,
    }
}
