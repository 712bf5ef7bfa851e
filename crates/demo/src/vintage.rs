//! An engine with poured bearings: nothing on a shelf fits it. Its crank is ground until it is clean, and each bearing
//! is poured and bored to its journal.
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{BearingRow, Place};
use jagged_pin_core::log::{InspectedPart, OrderStep, Sign, WorkOrder};
use jagged_pin_core::machining::{ChosenPlan, MachiningWish, clean_ups, machining_plans, order_items};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::{Build, Length};

use crate::days::{DAY, MORNING};
use jagged_pin_workbench::Bench;
use jagged_pin_workbench::Pattern;
use jagged_pin_workbench::person;

/// A story that asks for a plan there is none of: a mistake in this crate.
const NO_PLAN: Refusal = Refusal::NothingToCompare;

/// The four of 1928 for a vintage sprint car: mains worn and one of them scored; its mains are at the grinder, its pins
/// are measured and not ordered yet.
pub(crate) fn sl_044(turnstone: &Pattern) -> Result<Build, Refusal> {
    let mut bench = Bench::book_in(44, "SL-044", turnstone, MORNING - 3 * DAY, person("harrow"))?;
    bench.hand_over(person("wick"), 24 * 60);
    bench.look(Place::main(2), InspectedPart::Journal, &[Sign::Groove])?;
    for n in 1..=3 {
        bench.look(Place::main(n), InspectedPart::Lower, &[Sign::Wiped])?;
    }
    let mic = bench.open_session("mic-tenths", Some(("2.0000 in", "2.0000")))?;
    bench.journal(Place::main(1), ["2.2488 88", "86 86", "87 87", "85 85"])?;
    bench.journal(Place::main(2), ["2.2479 79", "77 76 77", "78 78", "75 75"])?;
    bench.journal(Place::main(3), ["2.2486 86", "85 85", "86 86", "84 84"])?;
    bench.journal(Place::pin(1), ["2.1238 38", "36 36", "37 37", "36 36"])?;
    bench.journal(Place::pin(2), ["2.1239 39", "38 38", "38 38", "37 37"])?;
    bench.journal(Place::pin(3), ["2.1237 37", "35 35", "36 36", "35 35"])?;
    bench.journal(Place::pin(4), ["2.1239 39", "37 37", "38 38", "37 37"])?;
    bench.close_session(mic, Some(("2.0000 in", "2.0000")))?;
    bench.hand_over(person("harrow"), 45);
    let wish = MachiningWish {
        row: BearingRow::Mains,
        tolerance: Length::tenths(2),
        runout: Some(Length::tenths(5)),
        damage: vec![(Place::main(2), Length::tenths(20))],
        without: Vec::new(),
        booked_per_grit: None,
    };
    let assessed = evaluate(bench.build());
    let plan = machining_plans(bench.build(), &assessed, None, &wish).map_err(|_| NO_PLAN)?;
    let items = order_items(&plan, &ChosenPlan::BoreToFit, turnstone.unit).map_err(|_| NO_PLAN)?;
    let clean_up = clean_ups(&plan, &ChosenPlan::BoreToFit);
    let order = bench.order(WorkOrder {
        number: "SL-044-1".into(),
        shop: "the grinder, then the white-metal shop".into(),
        items,
        fillet: Some(Length::tenths(1_250)),
        finish: "0.2 um Ra or better".into(),
        note: "grind until clean and tell us the size before anything is poured; pour, then line bore".into(),
        clean_up,
    })?;
    bench.move_order(order, OrderStep::Sent, "block and crank, crated")?;
    Ok(bench.finish())
}
