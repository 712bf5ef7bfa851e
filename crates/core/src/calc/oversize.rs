//! `oversize`: the smallest oversize that will clean up every cylinder, probably.
use serde_json::{Value, json};

use super::request::{Fields, Found, Sign, number, unrounded};
use super::{CalcError, Code};
use crate::maths::{Bar, CleanPlace, CleanUp, Wear, clean_up, usual_hone_stock};
use crate::{Length, Unit};

/// So many cylinders, places of one and oversizes are worked out at most.
const MOST: usize = 100;

/// Probabilities so near are equal.
const ALIKE: f64 = 1e-9;

/// A cylinder by its name, with what its places need and what those are called.
struct Cylinder {
    id: String,
    places: Vec<String>,
    clean_up: CleanUp,
}

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let standard = f.need("standard")?.length(unit, Sign::Positive)?;
    let present = f.take_length("present", unit, Sign::NotNegative)?.unwrap_or_default();
    let hone_stock = f.take_length("hone_stock", unit, Sign::Positive)?.unwrap_or_else(|| usual_hone_stock(unit));
    let wears = [("one_sided", Wear::OneSided), ("even", Wear::Even)];
    let wear = f.take("wear").map_or(Ok(Wear::OneSided), |w| w.one_of(&wears))?;
    let not_sure = f.error(Code::OutOfRange, "sure", "how sure it must be lies between 0 and 1");
    let sure = f.take("sure").map_or(Ok(0.95), Found::any_number)?;
    if !(sure > 0.0 && sure < 1.0) {
        return Err(not_sure);
    }
    let mut assumed: Vec<String> = Vec::new();
    let bar = match f.take("bar") {
        Some(found) => {
            let mut b = found.object()?;
            let error = b.need("error")?.length(unit, Sign::NotNegative)?;
            let expanded = b.take_length("expanded", unit, Sign::NotNegative)?.unwrap_or_default();
            b.finish()?;
            Bar { error, expanded }
        }
        None => {
            assumed.push("bar".to_owned());
            Bar { error: usual_bar_error(unit), expanded: Length::ZERO }
        }
    };
    let mut cylinders: Vec<Cylinder> = Vec::new();
    for (i, (id, c)) in few(f.need("cylinders")?.not_empty()?.named("id")?, "cylinders")?.into_iter().enumerate() {
        let at = Around { nominal: standard + present, wear, bar, unit };
        cylinders.push(cylinder(&format!("cylinders[{i}]"), (id, c), at, &mut assumed)?);
    }
    let mut oversizes: Vec<Length> = Vec::new();
    for found in few(f.need("oversizes")?.list()?, "oversizes")? {
        let path = found.path.clone();
        let oversize = found.length(unit, Sign::NotNegative)?;
        if oversizes.contains(&oversize) {
            return Err(CalcError::new(Code::Duplicate, path, "this oversize is there twice"));
        }
        oversizes.push(oversize);
    }
    f.finish()?;
    let mut chosen: Option<Length> = None;
    let mut options = Vec::new();
    for oversize in oversizes {
        let bore_to = standard + oversize - hone_stock;
        let each: Vec<(&str, f64)> =
            cylinders.iter().map(|c| (c.id.as_str(), c.clean_up.probability(bore_to))).collect();
        let enough = |probability: f64| probability >= sure - ALIKE;
        let all: f64 = each.iter().map(|(_, p)| p).product();
        if enough(all) && chosen.is_none_or(|best| oversize < best) {
            chosen = Some(oversize);
        }
        options.push(json!({
            "oversize": number(oversize, unit),
            "bore_to": number(bore_to, unit),
            "probability": all,
            "cylinders": each.iter().map(|(id, p)| json!({ "id": id, "probability": p })).collect::<Vec<_>>(),
            "short": each.iter().filter(|(_, p)| !enough(*p)).map(|(id, _)| *id).collect::<Vec<_>>(),
        }));
    }
    let needs = cylinders.iter().map(|c| {
        json!({
            "id": c.id,
            "needs": number(c.clean_up.needs, unit),
            "expanded": unrounded(c.clean_up.expanded, unit),
            "decides": c.places.get(c.clean_up.decides),
        })
    });
    Ok(json!({
        "cylinders": needs.collect::<Vec<_>>(),
        "options": options,
        "chosen": chosen.map(|l| number(l, unit)),
        "assumed": assumed,
    }))
}

/// How far a bar's centre may stand off the old one, where nobody says it.
const fn usual_bar_error(unit: Unit) -> Length {
    match unit {
        Unit::Inch => Length::tenths(5),
        Unit::Mm => Length::from_nm(12_500),
    }
}

/// Refuses lists that would take long.
fn few<T>(list: Vec<T>, path: &str) -> Result<Vec<T>, CalcError> {
    if list.len() > MOST {
        return Err(CalcError::new(Code::OutOfRange, path, format!("at most {MOST} are worked out")));
    }
    Ok(list)
}

/// What all cylinders are worked out with.
#[derive(Clone, Copy)]
struct Around {
    /// The bore where it never wore, unless it was measured.
    nominal: Length,
    wear: Wear,
    bar: Bar,
    unit: Unit,
}

fn cylinder(
    path: &str,
    (id, mut c): (String, Fields),
    around: Around,
    assumed: &mut Vec<String>,
) -> Result<Cylinder, CalcError> {
    let unit = around.unit;
    let unworn = match c.take("unworn") {
        Some(found) => {
            let mut u = found.object()?;
            let size = u.need("size")?.length(unit, Sign::Positive)?;
            let expanded = u.take_length("expanded", unit, Sign::NotNegative)?.unwrap_or_default();
            u.finish()?;
            (size, expanded)
        }
        None => {
            if around.wear == Wear::OneSided {
                assumed.push(format!("{path}.unworn"));
            }
            (around.nominal, Length::ZERO)
        }
    };
    let mut names = Vec::new();
    let mut places = Vec::new();
    let listed = c.need("places")?.not_empty()?.named("id")?;
    for (j, (name, mut p)) in few(listed, &format!("{path}.places"))?.into_iter().enumerate() {
        let mut length = |name: &str, sign| p.take_length(name, unit, sign);
        let (size, expanded) = (length("size", Sign::Positive)?, length("expanded", Sign::NotNegative)?);
        let (damage, doubt) = (length("damage", Sign::NotNegative)?, length("damage_expanded", Sign::NotNegative)?);
        let Some(size) = size else {
            return Err(p.error(Code::MissingField, "size", "\"size\" is missing"));
        };
        let damage = damage.unwrap_or_default();
        if damage == Length::ZERO && doubt.is_some_and(|doubt| doubt > Length::ZERO) {
            return Err(p.error(Code::Inconsistent, "damage_expanded", "there is a doubt of damage, but no damage"));
        }
        let (worn, doubt_of_size) = (size - unworn.0, expanded.unwrap_or_default() + unworn.1);
        if around.wear == Wear::OneSided && worn < -doubt_of_size {
            return Err(p.error(
                Code::Inconsistent,
                "size",
                "a worn place is not smaller than the bore where it never wore",
            ));
        }
        p.finish()?;
        let missing = [("expanded", expanded.is_none()), ("damage_expanded", damage > Length::ZERO && doubt.is_none())];
        assumed.extend(missing.iter().filter(|(_, absent)| *absent).map(|(n, _)| format!("{path}.places[{j}].{n}")));
        names.push(name);
        places.push(CleanPlace {
            size: (size, expanded.unwrap_or_default()),
            damage: (damage, doubt.unwrap_or_default()),
        });
    }
    let none = c.error(Code::Empty, "places", "this list must not be empty");
    c.finish()?;
    let clean_up = clean_up(around.wear, unworn, around.bar, &places).ok_or(none)?;
    Ok(Cylinder { id, places: names, clean_up })
}
