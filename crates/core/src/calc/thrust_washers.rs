//! `thrust_washers`: which washers bring end play to its aim, proven best, and what they do to the crank's place.
use jagged_pin_search::washers::{Aim, Choice, Facing, Fitted, MOST_LAP_STEPS, Play, Thrust, Washer, washers};
use serde_json::{Map, Value, json};

use super::request::{Fields, Sign, number_of_half, number_of_nm};
use super::target::target;
use super::{CalcError, Code};
use crate::{Length, Unit};

/// Alternatives that are named, at most.
const MOST_ALTERNATIVES: usize = 3;

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let smallest = f.need("end_play")?.length(unit, Sign::NotNegative)?;
    let largest = f.take_length("largest", unit, Sign::NotNegative)?.unwrap_or(smallest);
    if largest < smallest {
        return Err(f.error(Code::Inconsistent, "largest", "the largest play is below the smallest"));
    }
    let target = target(f.need("target")?, unit)?;
    let thrust = f.need("layout")?.one_of(&[("saddle", Thrust::Saddle), ("collar", Thrust::Collar)])?;
    let fitted = sides(f.need("fitted")?.object()?, |f, name| Ok(f.need(name)?.length(unit, Sign::Positive)?.nm()))?;
    let stock = stock(&mut f, unit)?;
    let halves = f.take("halves").map_or(Ok(2), |h| h.count())?;
    let lap_step = f.take_length("lap_step", unit, Sign::Positive)?.unwrap_or_else(|| usual_lap_step(unit));
    let lap_steps = match f.take("max_lap") {
        None => [0, 0],
        Some(laps) => sides(laps.object()?, |f, name| lap_steps(f, name, lap_step, unit))?,
    };
    let asked = Play {
        play: [smallest.nm(), largest.nm()],
        target: target.into(),
        thrust,
        fitted,
        stock: &stock.iter().map(|(_, w)| *w).collect::<Vec<_>>(),
        halves,
        lap_steps,
        lap_step: lap_step.nm(),
        stands: f.take_length("stands", unit, Sign::Any)?.unwrap_or_default().nm(),
        room: [
            f.take_length("max_rearward", unit, Sign::NotNegative)?.map(Length::nm),
            f.take_length("max_forward", unit, Sign::NotNegative)?.map(Length::nm),
        ],
        aim: f.need("objective")?.one_of(&[
            ("closest", Aim::Closest),
            ("thriftiest", Aim::Thriftiest),
            ("fewest", Aim::Fewest),
        ])?,
    };
    let nothing = f.error(Code::Empty, "stock", "there is nothing to choose from");
    f.finish()?;
    let found = washers(&asked);
    let (best, others) = found.split_first().ok_or(nothing)?;
    let mut answer = show(best, &stock, unit);
    let alternatives = others.iter().take(MOST_ALTERNATIVES).map(|c| Value::Object(show(c, &stock, unit)));
    answer.insert("alternatives".to_owned(), alternatives.collect::<Vec<_>>().into());
    answer.insert("proven".to_owned(), true.into());
    Ok(Value::Object(answer))
}

/// Thicknesses that are looked through, at most: every pair of them is.
const MOST_STOCK: usize = 200;

/// Lapping by hand goes by tenths, or by a four-hundredth of a millimetre.
fn usual_lap_step(unit: Unit) -> Length {
    match unit {
        Unit::Inch => Length::tenths(1),
        Unit::Mm => Length::from_nm(2_500),
    }
}

/// What stands under `front` and `rear`.
fn sides<T>(mut f: Fields, read: impl Fn(&mut Fields, &str) -> Result<T, CalcError>) -> Result<[T; 2], CalcError> {
    let both = [read(&mut f, "front")?, read(&mut f, "rear")?];
    f.finish()?;
    Ok(both)
}

fn lap_steps(f: &mut Fields, name: &str, step: Length, unit: Unit) -> Result<u16, CalcError> {
    let most = f.take_length(name, unit, Sign::NotNegative)?.unwrap_or_default();
    let steps = most.nm().checked_div(step.nm()).and_then(|n| u16::try_from(n).ok()).filter(|n| *n <= MOST_LAP_STEPS);
    steps.ok_or_else(|| f.error(Code::OutOfRange, name, "that is more than a hundred steps of lapping"))
}

fn stock(f: &mut Fields, unit: Unit) -> Result<Vec<(String, Washer)>, CalcError> {
    let mut stock = Vec::new();
    let Some(listed) = f.take("stock") else { return Ok(stock) };
    let listed = listed.with_ids()?;
    if listed.len() > MOST_STOCK {
        return Err(f.error(Code::OutOfRange, "stock", "no shelf holds so many thicknesses"));
    }
    for (id, mut w) in listed {
        let washer = Washer {
            thickness: w.need("thickness")?.length(unit, Sign::Positive)?.nm(),
            side: w.take("side").map(|s| s.one_of(&[("front", Facing::Front), ("rear", Facing::Rear)])).transpose()?,
            count: w.need("count")?.whole()?.into(),
            price: w.take("price").map(|p| p.price()).transpose()?,
        };
        w.finish()?;
        stock.push((id, washer));
    }
    Ok(stock)
}

fn show(choice: &Choice, stock: &[(String, Washer)], unit: Unit) -> Map<String, Value> {
    let side = |s: &Fitted| {
        json!({
            "id": s.item.map(|i| stock[i].0.as_str()),
            "lap": number_of_nm(s.lap, unit),
            "thickness": number_of_nm(s.thickness, unit),
            "growth": number_of_nm(s.growth, unit),
        })
    };
    let purchases = choice.bought.iter().map(|(i, halves)| (stock[*i].0.clone(), Value::from(*halves)));
    Map::from_iter(
        [
            ("front", side(&choice.sides[0])),
            ("rear", side(&choice.sides[1])),
            ("end_play", number_of_nm(choice.play[0], unit)),
            ("largest", number_of_nm(choice.play[1], unit)),
            ("deviation", number_of_half(choice.twice_deviation, unit)),
            ("inside", choice.inside.into()),
            ("shift", number_of_half(choice.twice_shift, unit)),
            ("stands", number_of_half(choice.twice_stands, unit)),
            ("sides_changed", choice.sides_changed.into()),
            ("lapped", number_of_nm(choice.lapped(), unit)),
            ("cost", (choice.cost as f64 / 10_000.0).into()),
            ("purchases", Value::Object(purchases.collect())),
        ]
        .map(|(name, value)| (name.to_owned(), value)),
    )
}
