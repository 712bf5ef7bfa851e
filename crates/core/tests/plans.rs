//! Plans beside other shells: the crank check, trays, machining, and the work orders that come of them.

mod stock;

use jagged_pin_core::assess::{Assessment, evaluate};
use jagged_pin_core::choose::{Says, choose_from_tray, family_check, rods_to_pins};
use jagged_pin_core::engine::{BearingRow, Place, Role};
use jagged_pin_core::log::{InspectedPart, Inspection, Job, Mark, OrderStep, Sign, Tray, TrayShell, What};
use jagged_pin_core::machining::{
    AllowedFrom, BorePlan, ChosenPlan, GrindAgainst, Machining, MachiningWish, NoPlan, booked_per_grit, clean_ups,
    machining_plans, order_items,
};
use jagged_pin_core::maths::State;
use jagged_pin_core::record::{Refusal, admit};
use jagged_pin_core::shells::{Half, ShellFamily};
use jagged_pin_core::{Build, Length, Unit};
use jagged_pin_workbench::{Bench, families, patterns, person};
use proptest::prelude::*;

type Outcome = Result<(), Refusal>;

fn t(tenths: i64) -> Length {
    Length::tenths(tenths)
}

fn demo(code: &str) -> (Build, Assessment) {
    let build = stock::build(code).cloned().unwrap_or_else(|| unreachable!("the demo has {code}"));
    let assessed = evaluate(&build);
    (build, assessed)
}

fn family(id: &str) -> Option<ShellFamily> {
    families().into_iter().find(|f| f.id == id)
}

fn wish(row: BearingRow) -> MachiningWish {
    MachiningWish { row, tolerance: t(2), runout: None, damage: Vec::new(), without: Vec::new(), booked_per_grit: None }
}

fn plan(code: &str, id: &str, wish: &MachiningWish) -> Result<Machining, NoPlan> {
    let (build, assessed) = demo(code);
    machining_plans(&build, &assessed, family(id).as_ref(), wish)
}

/// Grind until clean and bore to fit, where a journal is measured.
fn bore(plan: &Machining) -> &BorePlan {
    plan.bore.as_ref().unwrap_or_else(|| unreachable!("a journal is measured"))
}

/// What is typed at the eight places of a pin that two rods share.
fn both_tracks<'a>(first: &'a str, rest: &'a str) -> [&'a str; 8] {
    [first, rest, rest, rest, rest, rest, rest, rest]
}

#[test]
fn catalogue_measurement_and_stamp_stand_side_by_side() {
    let (build, assessed) = demo("SL-041");
    let check = family("CM").map(|f| family_check(&build, &assessed, &f));
    let Some(check) = check else { panic!("the demo has Curlew mains") };
    assert_eq!((check.undersize, check.mixed), (Some(t(0)), false));
    let says: Vec<Says> = check.journals.iter().map(|j| j.says).collect();
    assert_eq!(says, [[Says::Agrees; 6].as_slice(), &[Says::Open]].concat());
    assert_eq!(check.journals[6].stamped, Some(t(100)), "its old shells were stamped ten under");
    assert_eq!(check.journals[4].worn, Some(t(3)));

    // Of a family of another size, every measured journal says stop.
    let other = family("CM").map(|f| ShellFamily { journal: f.journal + t(60), ..f });
    let stops = other.map(|f| family_check(&build, &assessed, &f));
    let stops = stops.map(|c| c.journals.iter().filter(|j| j.says == Says::NotOfFamily).count());
    assert_eq!(stops, Some(6));
}

#[test]
fn a_stamp_that_says_otherwise_loses_against_the_measurement() -> Outcome {
    let known = patterns();
    let curlew = known.iter().find(|p| p.id == "curlew-24").unwrap_or(&known[0]);
    let mut bench = Bench::book_in(95, "T-95", curlew, 0, person("oduya"))?;
    bench.journal(Place::main(1), ["2.6138", "38", "38", "38"])?;
    bench.stamps(&[(Place::main(1), "STD")])?;
    let seen = |bench: &Bench| {
        let f = family("CM");
        f.map(|f| family_check(bench.build(), &evaluate(bench.build()), &f))
    };
    let first = seen(&bench).map(|c| (c.journals[0].says, c.journals[0].undersize, c.undersize));
    assert_eq!(first, Some((Says::StampDiffers, Some(t(100)), Some(t(100)))));
    // A second journal that is standard: the crank is mixed.
    bench.journal(Place::main(2), ["2.6238", "38", "38", "38"])?;
    assert_eq!(seen(&bench).map(|c| (c.mixed, c.undersize)), Some((true, None)));
    Ok(())
}

#[test]
fn the_mains_differ_too_much_for_one_ground_size_and_the_pins_do_not() -> Result<(), NoPlan> {
    let mains = plan("SL-041", "CM", &wish(BearingRow::Mains))?;
    assert!(mains.grinds.iter().all(|g| g.against == Some(GrindAgainst::OneSizeDoesNotServe)));
    assert!(mains.spread > mains.room, "{:?} against {:?}", mains.spread, mains.room);
    assert_eq!((mains.room, mains.open.as_slice()), (t(2), &[Place::main(7)][..]));

    // Two rods are known over shells; the rest are ground with them, and left out of the clearances.
    let rods = plan("SL-041", "CR", &wish(BearingRow::Rods))?;
    assert_eq!((rods.bearings.len(), rods.grinds[0].bearings.len()), (6, 2));
    let chosen = rods.grinds.iter().find(|g| g.chosen);
    assert_eq!(chosen.map(|g| g.undersize), Some(t(100)), "standard does not clean up, ten under does");
    assert!(chosen.is_some_and(|g| g.bearings.iter().all(|b| b.inside)));
    // One that is put right another way does not count, and its pin is ground all the same.
    let without = plan("SL-041", "CR", &MachiningWish { without: vec![Place::rod(1)], ..wish(BearingRow::Rods) })?;
    assert_eq!((without.bearings.len(), without.grinds[0].bearings.len()), (6, 1));
    Ok(())
}

#[test]
fn damage_and_runout_come_off_before_a_journal_is_clean() -> Result<(), NoPlan> {
    let clean = |depth: i64, runout: i64| {
        let damage = vec![(Place::pin(3), t(depth))];
        plan("SL-044", "none", &MachiningWish { runout: Some(t(runout)), damage, ..wish(BearingRow::Rods) })
    };
    let (bare, scored) = (clean(0, 0)?, clean(20, 0)?);
    assert_eq!(bore(&bare).size - bore(&scored).size, t(40), "a score two thou deep takes four off the diameter");
    assert_eq!(bore(&scored).decided_by, Place::pin(3));
    assert_eq!(bore(&bare).size - bore(&clean(0, 5)?).size, t(5));
    // Nothing is known over shells of a poured engine: nothing to grind to but clean.
    assert!(bare.grinds.is_empty());
    assert!(bore(&bare).bores.iter().all(|b| b.to - bore(&bare).size == bare.target.aim));
    Ok(())
}

#[test]
fn a_plan_allows_for_what_was_seen_and_ordered_until_something_else_is_typed() -> Result<(), NoPlan> {
    let (mut build, _) = demo("SL-044");
    let ask = |build: &Build, wish: &MachiningWish| machining_plans(build, &evaluate(build), None, wish);
    let typed = MachiningWish { runout: Some(t(5)), damage: vec![(Place::main(2), t(20))], ..wish(BearingRow::Mains) };
    let as_typed = ask(&build, &typed)?;
    // The order that stands was written before orders kept what they allow for.
    let kept = clean_ups(&as_typed, &ChosenPlan::BoreToFit);
    for fact in &mut build.facts {
        if let What::Order(order) = &mut fact.what {
            order.clean_up.clone_from(&kept);
        }
    }
    let again = ask(&build, &wish(BearingRow::Mains))?;
    let second = again.bearings.iter().find(|b| b.journal_at == Place::main(2)).ok_or(NoPlan::NothingMeasured)?;
    assert_eq!((second.damage.by, second.damage.from), (t(20), AllowedFrom::Ordered));
    assert_eq!((second.runout.by, second.runout.from), (t(5), AllowedFrom::Ordered));
    let size = |m: &Machining| m.bore.as_ref().map(|b| b.size);
    assert_eq!(size(&again), size(&as_typed), "the same size, whoever asks again");
    let none = MachiningWish { runout: Some(t(0)), damage: vec![(Place::main(2), t(0))], ..wish(BearingRow::Mains) };
    let none = ask(&build, &none)?;
    assert!(size(&none) > size(&again), "what is typed counts, none as well");
    assert_eq!(clean_ups(&none, &ChosenPlan::BoreToFit), []);
    Ok(())
}

#[test]
fn a_mark_with_a_depth_and_a_turned_main_are_allowed_for() -> Outcome {
    let known = patterns();
    let curlew = known.iter().find(|p| p.id == "curlew-24").unwrap_or(&known[0]);
    let mut bench = Bench::book_in(88, "T-88", curlew, 0, person("harrow"))?;
    for n in 1..=7 {
        bench.journal(Place::main(n), ["2.6238 38", "38 38", "38 38", "38 38"])?;
    }
    let mark = Mark { sign: Sign::Groove, along: None, clock: None, depth: Some(t(15)) };
    bench.record(What::Inspection(Inspection {
        station: Place::main(4),
        part: InspectedPart::Journal,
        signs: vec![Sign::Groove],
        marks: vec![mark],
    }))?;
    let plan = machining_plans(bench.build(), &evaluate(bench.build()), None, &wish(BearingRow::Mains));
    let fourth = plan.ok().and_then(|m| m.bearings.into_iter().find(|b| b.station == Place::main(4)));
    assert_eq!(fourth.map(|b| (b.damage.by, b.damage.from, b.clean_up)), Some((t(15), AllowedFrom::Found, t(30))));
    Ok(())
}

#[test]
fn a_polish_takes_little() -> Result<(), NoPlan> {
    let mains = plan("SL-041", "CM", &wish(BearingRow::Mains))?;
    let polish: Vec<(Place, bool)> = mains.polish.iter().map(|p| (p.station, p.possible)).collect();
    assert_eq!(polish, [(Place::main(2), false), (Place::main(6), true)], "six tenths is a grind, not a polish");
    // Three grits and a paste where lines are felt or nobody looked.
    let m6 = &mains.polish[1];
    assert_eq!(usize::from(m6.minutes), usize::from(mains.per_grit) * (m6.ladder.len() + 1));
    assert!(m6.ladder.windows(2).all(|w| w[0] < w[1]) && mains.polish_limit > t(0));
    assert!(mains.polish.iter().all(|p| p.possible == (p.from - p.to <= t(3))));
    let items =
        order_items(&mains, &ChosenPlan::Polish { stations: vec![Place::main(2), Place::main(6)] }, Unit::Inch)?;
    let told: Vec<(Place, Job)> = items.iter().map(|i| (i.station, i.job)).collect();
    assert_eq!(told, [(Place::main(6), Job::Polish)]);
    let nothing = order_items(&mains, &ChosenPlan::Polish { stations: vec![Place::main(2)] }, Unit::Inch);
    assert_eq!(nothing, Err(NoPlan::NoSuchPlan));
    Ok(())
}

#[test]
fn one_housing_out_of_tolerance_brings_the_whole_set_to_the_maker_s_size() -> Outcome {
    let known = patterns();
    let curlew = known.iter().find(|p| p.id == "curlew-24").unwrap_or(&known[0]);
    let mut bench = Bench::book_in(97, "T-97", curlew, 0, person("oduya"))?;
    bench.take("bore-tenths");
    let planned =
        |bench: &Bench| machining_plans(bench.build(), &evaluate(bench.build()), None, &wish(BearingRow::Rods));
    let housing = |bench: &mut Bench, rod: u8, first: &str| {
        let rest = &first[first.len() - 2..];
        bench.size(Place::rod(rod), Role::HOUSING, &[first, rest, rest, rest, rest, rest])
    };
    for rod in 1..=3 {
        housing(&mut bench, rod, "2.2487")?;
    }
    // All in their tolerance of half a thou: nothing to plan, and no journal is measured.
    assert_eq!(planned(&bench).err(), Some(NoPlan::NothingMeasured));
    housing(&mut bench, 4, "2.2480")?;
    housing(&mut bench, 5, "2.2497")?;
    let Ok(plan) = planned(&bench) else { panic!("a housing alone has a plan") };
    // A seat smaller by d is shorter by pi d / 2 around half of it: the half stands out by as much.
    assert!(plan.resize.iter().all(|r| {
        let off = r.crush.as_f64() - (r.from - r.to).as_f64() * std::f64::consts::PI / 2.0;
        r.crush != Length::ZERO && off.abs() < 1.0
    }));
    let told: Vec<_> = plan.resize.iter().map(|r| (r.station, r.from, r.to, r.beyond, r.cut_cap)).collect();
    let r = Place::rod;
    let nominal = t(22_490);
    assert_eq!(
        told,
        [
            (r(1), t(22_487), nominal, t(0), false),
            (r(2), t(22_487), nominal, t(0), false),
            (r(3), t(22_487), nominal, t(0), false),
            // Too much crush; and one that is too large is made smaller at its cap first.
            (r(4), t(22_480), nominal, t(-5), false),
            (r(5), t(22_497), nominal, t(2), true),
        ]
    );
    let stations = plan.resize.iter().map(|p| p.station).collect();
    let items = order_items(&plan, &ChosenPlan::Resize { stations }, Unit::Inch).unwrap_or_default();
    assert!(items.len() == 5 && items.iter().all(|i| i.job == Job::ResizeHousing && i.to == nominal));
    assert!(items[4].why.starts_with("cut the cap"));
    Ok(())
}

#[test]
fn a_polish_is_estimated_by_what_was_booked() {
    use jagged_pin_core::engine::Scope;
    use jagged_pin_core::log::{Work, WorkEvent};
    let polish = |grits: &[u16], minutes: u16| WorkEvent {
        work: Work::JournalPolished,
        on: Scope::One(Place::main(2)),
        grits: grits.to_vec(),
        minutes: Some(minutes),
        ticks: vec![],
        note: "taken to finish".into(),
    };
    let booked = [polish(&[600, 1000], 40), polish(&[1000], 25), polish(&[600, 1000, 2000], 60)];
    let two = booked_per_grit(booked[..2].iter().map(|e| (e, 1)));
    assert_eq!(two, None, "two polishes are no habit");
    assert_eq!(booked_per_grit(booked.iter().map(|e| (e, 1))), Some(20));
    // Seven journals in one go take a seventh each; a polish without grits or minutes says nothing.
    let crank = polish(&[1000], 140);
    let silent = WorkEvent { minutes: None, ..polish(&[1000], 0) };
    let no_grits = polish(&[], 30);
    let all = booked.iter().chain([&silent, &no_grits]).map(|e| (e, 1)).chain([(&crank, 7)]).collect::<Vec<_>>();
    assert_eq!(booked_per_grit(all.into_iter()), Some(20));
}

#[test]
fn grinding_orders_one_line_a_pin_and_boring_one_line_a_bearing_more() -> Result<(), NoPlan> {
    let rods = plan("SL-041", "CR", &wish(BearingRow::Rods))?;
    let grind = order_items(&rods, &ChosenPlan::Grind { undersize: t(100) }, Unit::Inch)?;
    assert_eq!(grind.len(), 6);
    assert!(grind.iter().all(|i| i.job == Job::Grind && (i.plus, i.minus) == (t(2), t(2))));
    let bore = order_items(&rods, &ChosenPlan::BoreToFit, Unit::Inch)?;
    assert_eq!(bore.iter().filter(|i| i.job == Job::BoreBearing && i.from.is_none()).count(), 6);
    // M7 is not measured: a crank is ground as a whole.
    let mains = plan("SL-041", "CM", &wish(BearingRow::Mains))?;
    assert_eq!(order_items(&mains, &ChosenPlan::BoreToFit, Unit::Inch), Err(NoPlan::NotWhole(Place::main(7))));
    let none = order_items(&rods, &ChosenPlan::Grind { undersize: t(77) }, Unit::Inch);
    assert_eq!(none, Err(NoPlan::NoSuchPlan));
    Ok(())
}

#[test]
fn what_comes_back_is_stale_and_measured_against_the_order() -> Outcome {
    let known = patterns();
    let v6 = known.iter().find(|p| p.id == "whimbrel-31").unwrap_or(&known[0]);
    let mut bench = Bench::book_in(96, "T-96", v6, 0, person("harrow"))?;
    let pin = Place::pin;
    for n in 1..=3 {
        bench.size(pin(n), Role::JOURNAL, &both_tracks("2.2496", "96"))?;
    }
    let plan = machining_plans(bench.build(), &evaluate(bench.build()), None, &wish(BearingRow::Rods));
    let items = plan.and_then(|p| order_items(&p, &ChosenPlan::BoreToFit, Unit::Inch)).unwrap_or_default();
    let grinds = items.into_iter().filter(|i| i.job == Job::Grind).collect();
    let (_, v6_demo) = demo("SL-043");
    let template = v6_demo.orders[0].order.clone();
    let order = bench.order(jagged_pin_core::log::WorkOrder { items: grinds, ..template })?;
    // A crank that was not sent does not come back.
    assert_eq!(bench.move_order(order, OrderStep::Returned, "here"), Err(Refusal::OrderElsewhere));
    bench.move_order(order, OrderStep::Sent, "in its box")?;
    let away = evaluate(bench.build());
    assert!(away.bearings().all(|s| s.journal().stale.is_none()), "nothing was done yet");
    bench.move_order(order, OrderStep::Returned, "ground")?;
    let back = evaluate(bench.build());
    assert_eq!(back.bearings().filter(|s| s.journal().stale.is_some()).count(), 6, "both rods of every pin");
    assert!(back.orders[0].items.iter().all(|i| i.state.is_none()));

    // Wanted 2.2494 +/- 0.0002: one on size, one a thou large, one a thou small.
    let to = back.orders[0].items[0].item.to;
    assert_eq!(to, t(22_494));
    bench.size(pin(1), Role::JOURNAL, &both_tracks("2.2494 94", "94 94"))?;
    bench.size(pin(2), Role::JOURNAL, &both_tracks("2.2504 04", "04 04"))?;
    bench.size(pin(3), Role::JOURNAL, &both_tracks("2.2484 84", "84 84"))?;
    let measured = evaluate(bench.build());
    let states: Vec<_> = measured.orders[0].items.iter().map(|i| i.state).collect();
    assert_eq!(states, [Some(State::In), Some(State::Loose), Some(State::Tight)]);
    assert!(!measured.orders[0].accepted);
    Ok(())
}

#[test]
fn an_order_of_another_build_is_not_moved() {
    let (build, assessed) = demo("SL-043");
    let (other, _) = demo("SL-041");
    let order = assessed.orders[0].id;
    let moved = |step| What::OrderMoved(jagged_pin_core::log::OrderMoved { order, step, note: "so".into() });
    assert_eq!(admit(&other, &person("harrow"), &moved(OrderStep::Sent)), Err(Refusal::NoSuchOrder));
    assert_eq!(admit(&build, &person("harrow"), &moved(OrderStep::Returned)), Err(Refusal::OrderElsewhere));
}

#[test]
fn a_tray_gives_every_housing_its_own_pair() {
    let (build, assessed) = demo("SL-043");
    let tray = build.facts.iter().find_map(|f| match &f.what {
        What::Tray(tray) => Some(tray.clone()),
        _ => None,
    });
    let Some(tray) = tray else { panic!("the demo has a tray") };
    let Ok(chosen) = choose_from_tray(&build, &assessed, &tray) else { panic!("it serves four mains") };
    assert!(chosen.proven && chosen.open.is_empty());
    assert_eq!((chosen.places.len(), chosen.spare.len()), (4, 4));
    let mut marks: Vec<&str> =
        chosen.places.iter().flat_map(|p| [p.upper.mark.as_str(), p.lower.mark.as_str()]).collect();
    marks.sort_unstable();
    marks.dedup();
    assert_eq!(marks.len(), 8);
    for p in &chosen.places {
        assert_eq!(p.clearance, p.housing - p.journal - p.upper.wall - p.lower.wall);
        assert!(p.expanded > t(1), "two gauges and two walls leave more open than a tenth");
        assert!((p.clearance - p.target.aim).abs() <= chosen.worst);
    }
    // Without a lower for the fourth housing there is no choice.
    let mut lowers = 0;
    let short = tray
        .shells
        .iter()
        .filter(|s| {
            s.half == Half::Upper || {
                lowers += 1;
                lowers < 4
            }
        })
        .cloned()
        .collect();
    assert!(choose_from_tray(&build, &assessed, &Tray { shells: short, ..tray.clone() }).is_err());
    let twice = TrayShell { mark: "A1".into(), ..tray.shells[3].clone() };
    let flaw = Tray { shells: vec![tray.shells[0].clone(), twice], ..tray }.check();
    assert_eq!(flaw.map_err(|f| (f.part, f.line)), Err(("shells", Some(1))));
}

#[test]
fn rods_that_are_married_stay_and_the_rest_are_no_worse() {
    let (build, assessed) = demo("SL-041");
    let Some(free) = rods_to_pins(&build, &assessed, &[]) else { panic!("rods and pins are measured") };
    assert_eq!(free.open, [Place::rod(6)]);
    assert!(free.outside[1] <= free.outside[0]);
    let Some(married) = rods_to_pins(&build, &assessed, &[Place::rod(4)]) else { panic!("still measured") };
    let fourth = married.rods.iter().find(|r| r.rod == Place::rod(4));
    assert!(fourth.is_some_and(|r| r.fixed && r.pin == Place::pin(4)));
    assert!((married.outside[1], married.worst[1]) >= (free.outside[1], free.worst[1]));
    // R4's housing is a thou small: by catalogue walls it is tight on every pin.
    assert!(fourth.is_some_and(|r| !r.over_shells && !r.inside));
}

#[test]
fn housings_of_a_tray_are_measured_before_it_serves() {
    let (build, assessed) = demo("SL-041");
    let shell = |(mark, half): (&str, Half)| TrayShell { mark: mark.into(), half, wall: t(942) };
    let tray = Tray {
        row: BearingRow::Mains,
        gauge: "ball-tenths".into(),
        shells: [("A1", Half::Upper), ("B1", Half::Lower)].map(shell).to_vec(),
    };
    let chosen = choose_from_tray(&build, &assessed, &tray).ok();
    // Only M4's housing was measured.
    assert_eq!(chosen.as_ref().map(|c| (c.places.len(), c.open.len())), Some((1, 6)));
    let m4 = assessed.station(Place::main(4)).map(|s| s.housing().complete);
    assert_eq!(m4, Some(true));
}

proptest! {
    #[test]
    fn a_chosen_grind_serves_every_bearing_whatever_the_grinder_makes_of_it(
        tolerance in 0i64..4,
        runout in 0i64..6,
        depth in 0i64..30,
    ) {
        let damage = vec![(Place::pin(1), t(depth))];
        let wish = MachiningWish { tolerance: t(tolerance), runout: Some(t(runout)), damage, row: BearingRow::Rods, without: Vec::new(), booked_per_grit: None };
        let plan = plan("SL-041", "CR", &wish);
        prop_assert!(plan.is_ok());
        for m in plan.iter() {
            for g in m.grinds.iter().filter(|g| g.against.is_none()) {
                for b in &g.bearings {
                    prop_assert!(m.target.low <= b.low && b.high <= m.target.high);
                }
                for b in &m.bearings {
                    prop_assert!(g.size + t(tolerance) <= b.smallest - b.clean_up);
                }
            }
            prop_assert!(tolerance > 2 || m.grinds.iter().any(|g| g.chosen), "one of them does");
            let smallest = m.grinds.iter().filter(|g| g.against.is_none()).map(|g| g.undersize).min();
            prop_assert_eq!(m.grinds.iter().find(|g| g.chosen).map(|g| g.undersize), smallest);
        }
    }

    #[test]
    fn bearings_bored_to_fit_leave_the_aim_over_a_journal_that_is_clean(
        tolerance in 0i64..4,
        runout in 0i64..6,
        depths in prop::collection::vec(0i64..30, 4),
    ) {
        let damage = (1..).map(Place::pin).zip(depths.iter().map(|d| t(*d))).collect();
        let wish = MachiningWish { tolerance: t(tolerance), runout: Some(t(runout)), damage, ..wish(BearingRow::Rods) };
        let plan = plan("SL-044", "none", &wish);
        prop_assert!(plan.is_ok());
        for m in plan.iter() {
            for b in &m.bearings {
                prop_assert!(bore(m).size + t(tolerance) <= b.smallest - b.clean_up, "{b:?}");
            }
            // No larger: the journal that decides is just clean.
            let decides = m.bearings.iter().find(|b| b.journal_at == bore(m).decided_by);
            prop_assert_eq!(decides.map(|b| b.smallest - b.clean_up), Some(bore(m).size + t(tolerance)));
            prop_assert!(bore(m).bores.iter().all(|b| b.to == bore(m).size + m.target.aim));
        }
    }
}
