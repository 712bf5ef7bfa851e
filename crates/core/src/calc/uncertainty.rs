//! `uncertainty`: contributions of four kinds combined in quadrature, with their shares.
use std::collections::HashSet;

use serde_json::{Value, json};

use super::request::{Fields, number};
use super::{CalcError, Code};
use crate::maths::{combined, half_width, of_resolution, share};
use crate::{Length, Unit};

/// What a contribution's value means.
#[derive(Clone, Copy)]
enum Kind {
    Resolution,
    HalfWidth,
    Expanded,
    Standard,
}

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let parts = parts(&mut f, unit)?;
    let too_long = f.error(Code::OutOfRange, "parts", "the combined uncertainty no longer fits");
    f.finish()?;
    let standard = combined(parts.iter().map(|(_, u)| *u));
    let show = |nm: f64| Length::from_f64(nm).map(|l| number(l, unit));
    let (Some(shown), Some(expanded)) = (show(standard), show(2.0 * standard)) else { return Err(too_long) };
    let shares =
        parts.iter().map(|(name, u)| json!({ "name": name, "standard": show(*u), "share": share(*u, standard) }));
    Ok(json!({ "standard": shown, "expanded": expanded, "shares": shares.collect::<Vec<_>>() }))
}

/// Each part's name and its standard uncertainty in nanometres.
fn parts(f: &mut Fields, unit: Unit) -> Result<Vec<(String, f64)>, CalcError> {
    let kinds = [
        ("resolution", Kind::Resolution),
        ("half_width", Kind::HalfWidth),
        ("expanded", Kind::Expanded),
        ("standard", Kind::Standard),
    ];
    let mut seen = HashSet::new();
    let mut parts = Vec::new();
    for item in f.need("parts")?.list()? {
        let mut p = item.object()?;
        let name = p.need("name")?.text()?;
        let kind = p.need("kind")?.one_of(&kinds)?;
        let value = p.need("value")?.any_number()?;
        if value < 0.0 {
            return Err(p.error(Code::Negative, "value", "an uncertainty cannot be below zero"));
        }
        let sensitivity = p.take("sensitivity").map_or(Ok(1.0), |v| v.any_number())?;
        let count = p.take("count").map_or(Ok(1), |v| v.count())?;
        if !seen.insert(name.clone()) {
            return Err(p.error(Code::Duplicate, "name", format!("\"{name}\" is there twice")));
        }
        let each = match kind {
            Kind::Resolution => of_resolution(value),
            Kind::HalfWidth => half_width(value),
            Kind::Expanded => value / 2.0,
            Kind::Standard => value,
        };
        let standard = each * sensitivity.abs() / (count as f64).sqrt() * unit.nm() as f64;
        if Length::from_f64(standard).is_none() {
            return Err(p.error(Code::OutOfRange, "value", "a length must stay below 100 m"));
        }
        p.finish()?;
        parts.push((name, standard));
    }
    Ok(parts)
}
