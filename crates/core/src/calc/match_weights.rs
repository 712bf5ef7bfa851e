//! `match_weights` and `bob_weight`: parts brought to the lightest, and what hangs on a pin while the crank is balanced.
use rust_decimal::Decimal;
use serde_json::{Map, Value, json};

use super::request::{Fields, Found};
use super::{CalcError, Code};

/// What is weighed, by the name of the pan, in grams.
type Weights = Vec<(String, Decimal)>;

fn show(grams: Decimal) -> Value {
    grams.normalize().to_string().parse::<f64>().map_or(Value::Null, Value::from)
}

fn named(found: Found, read: impl Fn(Found) -> Result<Decimal, CalcError>) -> Result<Weights, CalcError> {
    found.object()?.rest().into_iter().map(|(name, value)| Ok((name, read(value)?))).collect()
}

fn of<'a>(weights: &'a Weights, name: &str) -> Option<&'a Decimal> {
    weights.iter().find(|(known, _)| known == name).map(|(_, grams)| grams)
}

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    f.unit()?;
    let mut parts: Vec<(String, Weights)> = Vec::new();
    for (id, mut p) in f.need("parts")?.listed()? {
        let weights = named(p.need("weights")?, Found::grams)?;
        if weights.is_empty() {
            return Err(p.error(Code::Empty, "weights", "nothing was weighed"));
        }
        let alike = parts.first().is_none_or(|(_, first)| {
            first.len() == weights.len() && weights.iter().all(|(name, _)| of(first, name).is_some())
        });
        if !alike {
            return Err(p.error(Code::Inconsistent, "weights", "other weights than those of the first part"));
        }
        p.finish()?;
        parts.push((id, weights));
    }
    let tolerance = f.take("tolerance").map_or(Ok(Decimal::ZERO), Found::grams_from_zero)?;
    let limits = f.take("limits").map_or(Ok(Weights::new()), |l| named(l, Found::grams_from_zero))?;
    let unknown = limits.iter().find(|(name, _)| parts.iter().any(|(_, w)| of(w, name).is_none()));
    if let Some((name, _)) = unknown {
        let path = format!("limits.{name}");
        return Err(CalcError::new(Code::UnknownId, path, format!("no part has a weight \"{name}\"")));
    }
    f.finish()?;
    let lightest = |name: &str| parts.iter().filter_map(|(_, w)| of(w, name)).min().copied().unwrap_or_default();
    let names = || parts.iter().take(1).flat_map(|(_, w)| w.iter().map(|(name, _)| name.clone()));
    let mut over = Vec::new();
    let each: Vec<Value> = parts
        .iter()
        .map(|(id, weights)| {
            let remove: Weights = weights
                .iter()
                .map(|(name, grams)| (name.clone(), grams.checked_sub(lightest(name)).unwrap_or_default()))
                .map(|(name, off)| (name, if off <= tolerance { Decimal::ZERO } else { off }))
                .collect();
            if remove.iter().any(|(name, off)| of(&limits, name).is_some_and(|limit| off > limit)) {
                over.push(id.clone());
            }
            let total: Decimal = remove.iter().map(|(_, off)| *off).sum();
            let remove: Map<String, Value> = remove.into_iter().map(|(name, off)| (name, show(off))).collect();
            json!({ "id": id, "remove": remove, "total": show(total) })
        })
        .collect();
    let lightest: Map<String, Value> = names().map(|name| (name.clone(), show(lightest(&name)))).collect();
    Ok(json!({ "lightest": lightest, "parts": each, "over": over }))
}

/// `bob_weight`, for one pin.
pub(super) fn bob_weight(mut f: Fields) -> Result<Value, CalcError> {
    f.unit()?;
    let factor = f.need("factor")?.decimal_within(Decimal::ZERO, Decimal::ONE)?;
    let (mut rotating, mut reciprocating) = (Decimal::ZERO, Decimal::ZERO);
    let mut seen: Vec<String> = Vec::new();
    for found in f.need("parts")?.list()? {
        let mut p = found.object()?;
        let name = p.need("name")?.text()?;
        if seen.contains(&name) {
            return Err(p.error(Code::Duplicate, "name", format!("\"{name}\" is there twice")));
        }
        seen.push(name);
        let grams = p.need("grams")?.grams()?;
        let count = p.take("count").map_or(Ok(1), |c| c.count())?;
        let turns = p.need("motion")?.one_of(&[("rotating", true), ("reciprocating", false)])?;
        let too_heavy = p.error(Code::OutOfRange, "grams", "no crank carries that");
        p.finish()?;
        let sum = if turns { &mut rotating } else { &mut reciprocating };
        let more = grams.checked_mul(Decimal::from(count)).and_then(|g| g.checked_add(*sum));
        *sum = more.filter(|g| *g <= Found::HEAVIEST).ok_or(too_heavy)?;
    }
    f.finish()?;
    let bob = factor.checked_mul(reciprocating).and_then(|share| share.checked_add(rotating));
    let bob = bob.ok_or_else(|| CalcError::new(Code::OutOfRange, "factor", "no crank carries that"))?;
    Ok(json!({
        "rotating": show(rotating),
        "reciprocating": show(reciprocating),
        "bob_weight": show(bob),
    }))
}
