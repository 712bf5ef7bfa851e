//! `piston_rank`: used pistons in the order in which they are worth using again.
use std::collections::HashMap;

use serde_json::{Value, json};

use super::request::{Fields, Sign, number};
use super::{CalcError, Code};
use crate::Unit;
use crate::maths::{Life, LifeState, Limit, OneSided, Ranked, rank};

/// So many pistons are ranked at most.
const MOST: usize = 1_000;

const fn state_name(state: LifeState) -> &'static str {
    match state {
        LifeState::Proven => "proven",
        LifeState::Edge => "edge",
        LifeState::Open => "open",
        LifeState::Out => "out",
    }
}

const fn life_name(state: OneSided) -> &'static str {
    match state {
        OneSided::In => "proven",
        OneSided::Edge => "edge",
        OneSided::Out => "out",
    }
}

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let limits: Vec<(String, Limit)> = f
        .need("limits")?
        .not_empty()?
        .named("name")?
        .into_iter()
        .map(|(name, fields)| Ok((name, limit(fields, unit)?)))
        .collect::<Result<_, CalcError>>()?;
    let listed = f.need("pistons")?.not_empty()?.named("id")?;
    let need = f.take("need").map(|n| n.count()).transpose()?;
    if listed.len() > MOST {
        return Err(f.error(Code::OutOfRange, "pistons", format!("at most {MOST} are ranked")));
    }
    f.finish()?;
    let pistons: Vec<(String, Vec<Option<Life>>)> = listed
        .into_iter()
        .map(|(id, fields)| Ok((id, lives(fields, &limits, unit)?)))
        .collect::<Result<_, CalcError>>()?;
    let ranked: Vec<Ranked> = pistons.iter().map(|(_, lives)| Ranked::of(lives)).collect();
    let order = rank(&ranked);
    let id = |i: usize| pistons[i].0.as_str();
    let each = pistons.iter().zip(&ranked).enumerate().map(|(i, ((id, lives), ranked))| {
        let value = |((name, _), life): (&(String, Limit), &Option<Life>)| {
            let life = life.as_ref()?;
            Some(json!({
                "name": name, "margin": number(life.margin, unit), "life": life.life, "state": life_name(life.state),
            }))
        };
        json!({
            "id": id,
            "state": state_name(ranked.state),
            "life": ranked.weakest.map(|(_, life)| life),
            "weakest": ranked.weakest.map(|(limit, _)| limits[limit].0.as_str()),
            "values": limits.iter().zip(lives).filter_map(value).collect::<Vec<_>>(),
            "rank": order.iter().position(|j| *j == i).map(|at| at.saturating_add(1)),
        })
    });
    let each: Vec<Value> = each.collect();
    let mut answer = json!({ "pistons": each, "order": order.iter().map(|i| id(*i)).collect::<Vec<_>>() });
    if let Some(need) = need {
        let good = order.iter().filter(|i| ranked[**i].state <= LifeState::Edge);
        let take: Vec<&str> = good.take(usize::try_from(need).unwrap_or(usize::MAX)).map(|i| id(*i)).collect();
        answer["short"] = need.saturating_sub(take.len() as u64).into();
        answer["take"] = take.into();
    }
    Ok(answer)
}

fn limit(mut f: Fields, unit: Unit) -> Result<Limit, CalcError> {
    let (least, most) = (f.take_length("least", unit, Sign::Any)?, f.take_length("most", unit, Sign::Any)?);
    let new = f.need("new")?.length(unit, Sign::Any)?;
    let (at, inside) = match (least, most) {
        (Some(least), None) => (least, new > least),
        (None, Some(most)) => (most, new < most),
        (Some(_), Some(_)) => return Err(f.error(Code::Inconsistent, "least", "a least or a most, not both")),
        (None, None) => return Err(f.error(Code::MissingField, "least", "a least or a most is needed")),
    };
    let limit = Limit::new(at, new).filter(|_| inside);
    let limit = limit.ok_or_else(|| f.error(Code::Inconsistent, "new", "a new piston lies truly inside its limit"))?;
    f.finish()?;
    Ok(limit)
}

/// What a piston has left, limit by limit.
fn lives(mut f: Fields, limits: &[(String, Limit)], unit: Unit) -> Result<Vec<Option<Life>>, CalcError> {
    let mut lives: HashMap<String, Life> = HashMap::new();
    for (name, mut v) in f.take("values").map_or(Ok(Vec::new()), |values| values.named("name"))? {
        let Some((_, limit)) = limits.iter().find(|(known, _)| *known == name) else {
            return Err(v.error(Code::UnknownId, "name", format!("\"{name}\" has no limit")));
        };
        let value = v.need("value")?.length(unit, Sign::Any)?;
        let expanded = v.take_length("expanded", unit, Sign::NotNegative)?.unwrap_or_default();
        v.finish()?;
        lives.insert(name, limit.life(value, expanded));
    }
    f.finish()?;
    Ok(limits.iter().map(|(name, _)| lives.get(name).copied()).collect())
}
