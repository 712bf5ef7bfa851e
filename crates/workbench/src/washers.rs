//! The thrust washers on the demo shop's shelf.
use jagged_pin_core::shells::{Half, OnShelf, ThrustLayout, ThrustSide, WasherBox, WasherClass};
use jagged_pin_core::{Length, Unit};

/// What lies of one thickness: its name, how much over the standard one, part number, price of a half, halves, place.
type Known = (&'static str, i64, &'static str, Option<i64>, u16, &'static str);

/// The boxes of thrust washers, each with its shelf.
pub fn washer_boxes() -> Vec<(WasherBox, Vec<OnShelf>)> {
    let inch = made(
        ("CT", "Curlew thrust, M4", Unit::Inch, Length::tenths(900)),
        Length::tenths(1),
        &[("+2", 20, "CT-2", Some(80_000), 2, "T1"), ("+5", 50, "CT-5", Some(80_000), 4, "T2")],
    );
    let metric = made(
        ("DT", "Dunlin thrust, M3", Unit::Mm, Length::microns(2_310)),
        Length::from_nm(2_500),
        &[("+50", 20, "DT-050", Some(65_000), 4, "T4"), ("+125", 50, "DT-125", None, 2, "T5")],
    );
    vec![inch, metric]
}

fn made(
    (id, name, unit, standard): (&str, &str, Unit, Length),
    step: Length,
    known: &[Known],
) -> (WasherBox, Vec<OnShelf>) {
    let steps = |n: i64| Length::from_nm(step.nm().saturating_mul(n));
    let class = |(id, over, part_number, price, ..): &Known| WasherClass {
        id: (*id).into(),
        thickness: standard + steps(*over),
        side: None,
        part_number: (*part_number).into(),
        price: *price,
    };
    let shelf = known.iter().map(|(class, _, _, _, count, place)| OnShelf {
        half: Half::Either,
        class: (*class).into(),
        undersize: Length::ZERO,
        count: *count,
        place: (*place).into(),
    });
    let washers = WasherBox {
        id: id.into(),
        name: name.into(),
        unit,
        layout: ThrustLayout::Saddle,
        loaded: ThrustSide::Rear,
        standard,
        grading: Length::from_nm(step.nm() * 3 / 2),
        halves: 2,
        lap_front: steps(10),
        lap_rear: Length::ZERO,
        lap_step: step,
        classes: known.iter().map(class).collect(),
    };
    (washers, shelf.collect())
}
