//! `spring`: rates and loads of valve springs, and the shims that bring them to their card.
use serde_json::{Value, json};

use super::request::{Fields, Sign, number_of_f64, number_of_nm};
use super::{CalcError, Code};
use crate::maths::{SpringCard, TestedSpring, shims_for};
use crate::{Length, Unit};

/// Thicknesses that are looked through, at most: every pair of them is.
const MOST_SHIMS: usize = 200;

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let card = card(f.need("card")?.object()?, unit)?;
    let mut springs: Vec<(String, TestedSpring)> = Vec::new();
    for (id, mut s) in f.need("springs")?.listed()? {
        let height = s.need("height")?.length(unit, Sign::Positive)?.nm();
        let (long, short) = tests(&mut s, unit)?;
        s.finish()?;
        springs.push((id, TestedSpring { height, long, short }));
    }
    let shims = f.take("shims").map_or(Ok(Vec::new()), |s| s.list_or_none())?;
    if shims.len() > MOST_SHIMS {
        return Err(f.error(Code::OutOfRange, "shims", "no box holds so many thicknesses"));
    }
    let shims = shims.into_iter().map(|s| s.length(unit, Sign::Positive).map(Length::nm));
    let shims: Vec<i64> = shims.collect::<Result<_, _>>()?;
    f.finish()?;
    let each = springs.iter().map(|(id, spring)| {
        let fitted = shims_for(spring, &card, &shims);
        let (before, after) = (spring.installed(&card, 0), spring.installed(&card, fitted.iter().sum()));
        json!({
            "id": id,
            "rate": spring.rate() * unit.nm() as f64,
            "seat": before.seat,
            "open": before.open,
            "bind": number_of_nm(before.bind, unit),
            "shim_wanted": number_of_f64(spring.shim_wanted(&card), unit),
            "shims": fitted.iter().map(|nm| number_of_nm(*nm, unit)).collect::<Vec<_>>(),
            "seat_after": after.seat,
            "open_after": after.open,
            "bind_after": number_of_nm(after.bind, unit),
            "inside": card.is_inside(&after),
        })
    });
    Ok(json!({ "springs": each.collect::<Vec<_>>() }))
}

fn card(mut c: Fields, unit: Unit) -> Result<SpringCard, CalcError> {
    let mut seat = c.need("seat")?.object()?;
    let mut load = |name| seat.need(name)?.number_from_zero();
    let of_seat = [load("low")?, load("aim")?, load("high")?];
    if !of_seat.is_sorted() {
        return Err(seat.error(Code::Inconsistent, "aim", "the aim of the seat load lies between its limits"));
    }
    seat.finish()?;
    let mut open = c.need("open")?.object()?;
    let of_open = [open.need("low")?.number_from_zero()?, open.need("high")?.number_from_zero()?];
    if !of_open.is_sorted() {
        return Err(open.error(Code::Inconsistent, "high", "the highest open load is below the lowest"));
    }
    open.finish()?;
    let usual = match unit {
        Unit::Inch => Length::tenths(600),
        Unit::Mm => Length::microns(1_500),
    };
    let card = SpringCard {
        seat: of_seat,
        open: of_open,
        lift: c.need("lift")?.length(unit, Sign::Positive)?.nm(),
        coil_bind: c.need("coil_bind")?.length(unit, Sign::Positive)?.nm(),
        bind_margin: c.take_length("bind_margin", unit, Sign::NotNegative)?.unwrap_or(usual).nm(),
    };
    c.finish()?;
    Ok(card)
}

/// A height in nanometres and the load there.
type Test = (i64, f64);

/// Both tests, the longer height first.
fn tests(s: &mut Fields, unit: Unit) -> Result<(Test, Test), CalcError> {
    let mut read = Vec::new();
    for found in s.need("test")?.list()? {
        let mut t = found.object()?;
        read.push((t.need("height")?.length(unit, Sign::Positive)?.nm(), t.need("load")?.number_from_zero()?));
        t.finish()?;
    }
    let wrong = |message| Err(s.error(Code::Inconsistent, "test", message));
    let [first, second] = read[..] else { return wrong("a spring is tested at two heights") };
    let (long, short) = if first.0 > second.0 { (first, second) } else { (second, first) };
    if long.0 == short.0 || short.1 <= long.1 {
        return wrong("the load must rise as the height falls");
    }
    Ok((long, short))
}
