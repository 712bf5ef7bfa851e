//! `fillet`: the room of a shell's edge beside the fillet of its journal, and what narrowing clears it.
use serde_json::{Value, json};

use super::request::{Fields, Sign, number, number_of_f64};
use super::{CalcError, Code};
use crate::maths::{Corner, FilletEdge, fillet, usual_fillet_margin};
use crate::{Length, Unit};

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let radius = f.need("radius")?.length(unit, Sign::Positive)?;
    let mut depth = |name| f.need(name)?.length(unit, Sign::NotNegative);
    let (inset, chamfer_axial, chamfer_radial) = (depth("inset")?, depth("chamfer_axial")?, depth("chamfer_radial")?);
    if (chamfer_axial == Length::ZERO) != (chamfer_radial == Length::ZERO) {
        let missing = if chamfer_axial == Length::ZERO { "chamfer_axial" } else { "chamfer_radial" };
        return Err(f.error(Code::Inconsistent, missing, "a chamfer has two sizes above zero, or none"));
    }
    let film = f.take_length("film", unit, Sign::NotNegative)?.unwrap_or_default();
    let margin = f.take_length("margin", unit, Sign::NotNegative)?.unwrap_or_else(|| usual_fillet_margin(unit));
    let axial_margin = f.take_length("axial_margin", unit, Sign::NotNegative)?;
    f.finish()?;
    let room = fillet(radius, FilletEdge { inset, chamfer_axial, chamfer_radial, film }, margin, axial_margin);
    Ok(json!({
        "corners": [corner("edge", room.edge, unit), corner("chamfer", room.flat, unit)],
        "margin": room.least().map(|nm| number_of_f64(nm, unit)),
        "clear": room.clear,
        "extra_inset": number(room.extra_inset, unit),
    }))
}

fn corner(name: &str, (at, room): (Corner, Option<f64>), unit: Unit) -> Value {
    let margin = room.map(|nm| number_of_f64(nm, unit));
    json!({ "name": name, "x": number(at.x, unit), "y": number(at.y, unit), "margin": margin })
}
