//! `compression`: ratios, and what comes off deck or head to change them.
use serde_json::{Map, Value, json};

use super::request::{Fields, Sign, number, number_of_f64};
use super::{CalcError, Code};
use crate::maths::{NM_PER_CM, area_cm2, excess, ratio, ratio_doubt};
use crate::{Length, Unit};

/// A cylinder's volume, apart from what the deck adds.
struct Cylinder {
    id: String,
    volume: f64,
    deck: Length,
}

/// What is wanted of the ratio.
struct Wanted {
    target: f64,
    chamber_area: Option<f64>,
}

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let mut size = |name| f.need(name)?.length(unit, Sign::Positive);
    let (bore, stroke, gasket_bore) = (size("bore")?, size("stroke")?, size("gasket_bore")?);
    let gasket_thickness = f.need("gasket_thickness")?.length(unit, Sign::NotNegative)?;
    let area = area_cm2(bore.as_f64());
    let along = |length: Length| length.as_f64() / NM_PER_CM;
    let swept = area * along(stroke);
    let gasket = area_cm2(gasket_bore.as_f64()) * along(gasket_thickness);
    let cylinders = cylinders(&mut f, (area, gasket), unit)?;
    let chamber_area = f.take("chamber_area").map(|a| a.positive_number()).transpose()?;
    let target = f.take("target").map(|t| t.any_number()).transpose()?;
    if target.is_some_and(|t| t <= 1.0) {
        return Err(f.error(Code::NotPositive, "target", "a compression ratio lies above 1"));
    }
    let wanted = target.map(|target| Wanted { target, chamber_area });
    let min_quench = f.take_length("min_quench", unit, Sign::NotNegative)?;
    let doubt = f.take("expanded").map_or(Ok(0.0), |e| doubt(e.object()?, area, unit))?;
    let too_large = f.error(Code::OutOfRange, "bore", "no engine is that large");
    f.finish()?;
    let ratios: Vec<f64> = cylinders.iter().map(|c| ratio(swept, c.volume)).collect();
    let off_deck = |c: &Cylinder, w: &Wanted| excess(swept, c.volume, w.target) / area * NM_PER_CM;
    let cut = wanted.as_ref().map(|w| {
        let least = cylinders.iter().map(|c| off_deck(c, w)).fold(f64::INFINITY, f64::min);
        let quench = |c: &Cylinder| min_quench.map(|min| (c.deck + gasket_thickness - min).as_f64());
        cylinders.iter().filter_map(quench).fold(least, f64::min).max(0.0)
    });
    let fits = [swept, gasket].iter().chain(&ratios).all(|n| n.is_finite());
    if !fits || cut.is_some_and(|nm| Length::from_f64(nm).is_none()) {
        return Err(too_large);
    }
    let each = cylinders.iter().zip(&ratios).map(|(c, ratio_now)| {
        let mut shown = Map::from_iter([
            ("id".to_owned(), c.id.clone().into()),
            ("volume".to_owned(), c.volume.into()),
            ("ratio".to_owned(), (*ratio_now).into()),
            ("expanded".to_owned(), ratio_doubt(swept, c.volume, doubt).into()),
        ]);
        if let Some((w, cut)) = wanted.as_ref().zip(cut) {
            let too_much = excess(swept, c.volume, w.target);
            shown.insert("excess".to_owned(), too_much.into());
            shown.insert("off_deck".to_owned(), number_of_f64(off_deck(c, w), unit));
            if let Some(chamber) = w.chamber_area {
                shown.insert("off_head".to_owned(), number_of_f64(too_much / chamber * NM_PER_CM, unit));
            }
            let after = ratio(swept, c.volume - area * cut / NM_PER_CM);
            shown.insert("ratio_after".to_owned(), after.into());
        }
        Value::Object(shown)
    });
    let mut answer = json!({
        "swept": swept,
        "gasket": gasket,
        "displacement": swept * cylinders.len() as f64,
        "spread": crate::maths::range(&ratios),
        "cylinders": each.collect::<Vec<_>>(),
    });
    if let Some(cut) = cut {
        answer["deck_cut"] = Length::from_f64(cut).map_or(Value::Null, |cut| number(cut, unit));
    }
    Ok(answer)
}

fn cylinders(f: &mut Fields, (area, gasket): (f64, f64), unit: Unit) -> Result<Vec<Cylinder>, CalcError> {
    let mut cylinders = Vec::new();
    for (id, mut c) in f.need("cylinders")?.listed()? {
        let chamber = c.need("chamber")?.positive_number()?;
        let deck = c.need("deck")?.length(unit, Sign::Any)?;
        let piston = c.take("piston").map_or(Ok(0.0), |p| p.any_number())?;
        let crevice = c.take("crevice").map_or(Ok(0.0), |p| p.number_from_zero())?;
        let volume = chamber + gasket + area * deck.as_f64() / NM_PER_CM + piston + crevice;
        if !(volume > 0.0 && volume.is_finite()) {
            return Err(c.error(Code::OutOfRange, "chamber", "no volume is left above the piston"));
        }
        c.finish()?;
        cylinders.push(Cylinder { id, volume, deck });
    }
    Ok(cylinders)
}

/// What the doubts of volumes and deck leave open of a volume together.
fn doubt(mut e: Fields, area: f64, unit: Unit) -> Result<f64, CalcError> {
    let chamber = e.take("chamber").map_or(Ok(0.0), |n| n.number_from_zero())?;
    let piston = e.take("piston").map_or(Ok(0.0), |n| n.number_from_zero())?;
    let deck = e.take_length("deck", unit, Sign::NotNegative)?.unwrap_or_default();
    e.finish()?;
    Ok(chamber.hypot(piston).hypot(area * deck.as_f64() / NM_PER_CM))
}
