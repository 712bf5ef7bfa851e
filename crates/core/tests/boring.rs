//! Worn cylinders: the next oversize, the logs of hone and file, and the steps that end nothing.
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{Axial, BearingRow, Figure, Place, PlaceKind, Position, Role, Scope};
use jagged_pin_core::log::{
    InspectedPart, Inspection, Job, Mark, OrderStep, Sign, Stroked, StrokesDone, Tick, What, Work, WorkEvent, WorkOrder,
};
use jagged_pin_core::machining::{
    BoringPlan, BoringTool, BoringWish, Damage, bore_items, damage_seen, hone_items, learned, plan_bores, plan_boring,
    polish_log, stroke_logs,
};
use jagged_pin_core::maths::{State, TargetRule};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::sheet::{Needs, Next};
use jagged_pin_core::{Build, Length, Unit};
use jagged_pin_workbench::{Bench, patterns, person};
use proptest::prelude::*;

type Outcome = Result<(), Refusal>;

fn t(tenths: i64) -> Length {
    Length::tenths(tenths)
}

fn bore(n: u8) -> Place {
    Place::new(PlaceKind::Cylinder, n)
}

/// A six that is opened today, with the first cylinder's six places as given.
fn bench(sizes: [&str; 6]) -> Result<Bench, Refusal> {
    let known = patterns();
    let pattern = known.iter().find(|p| p.id == "curlew-24").unwrap_or(&known[0]);
    let mut bench = Bench::book_in(1, "BORE", pattern, 0, person("oduya"))?;
    bench.take("bore-tenths");
    let texts = sizes.map(|s| format!("{s} {s}"));
    bench.size(bore(1), Role::new("cylinder"), &texts.each_ref().map(String::as_str))?;
    Ok(bench)
}

fn wish() -> BoringWish {
    BoringWish {
        unworn: Some(t(34_452)),
        damage: Vec::new(),
        walls: vec![(bore(1), t(1_850))],
        least_wall: t(1_200),
        oversizes: [300, 100, 200].map(t).to_vec(),
        location: t(5),
        hone_stock: t(50),
        plate: t(0),
    }
}

fn plan(build: &Build, wish: &BoringWish) -> Option<BoringPlan> {
    plan_boring(build, &evaluate(build).figures, wish)
}

const WORN: [&str; 6] = ["3.4498", "3.4470", "3.4480", "3.4465", "3.4460", "3.4455"];

#[test]
fn wear_is_one_sided_and_a_pit_decides_where_it_is() -> Outcome {
    let bench = bench(WORN)?;
    // 3.4498 + 0.0046 + 0.0010.
    let plain = plan(bench.build(), &wish());
    let first = plain.as_ref().and_then(|p| p.cylinders.first());
    assert_eq!(first.and_then(|c| c.needs), Some(t(34_554)));
    assert_eq!(plain.as_ref().map(|p| (p.chosen, p.open.len())), Some((None, 5)), "the others are not measured");
    // A pit of six thou where the size is 3.4470: 3.4470 + 0.0018 + 0.0120 + 0.0010.
    let near = Some(Position::at(Axial::Front, 90));
    let pitted = BoringWish { damage: vec![Damage { at: bore(1), near, depth: t(60) }], ..wish() };
    let pitted = plan(bench.build(), &pitted);
    let first = pitted.as_ref().and_then(|p| p.cylinders.first());
    assert_eq!(first.map(|c| (c.needs, c.decided_at)), Some((Some(t(34_618)), near)));
    Ok(())
}

#[test]
fn a_pit_that_a_look_says_the_depth_of_needs_no_typing() -> Outcome {
    let mut bench = bench(WORN)?;
    let mark = |clock, depth| Mark { sign: Sign::Pits, along: Some(Axial::Front), clock: Some(clock), depth };
    let look = |marks| Inspection { station: bore(1), part: InspectedPart::Bore, signs: vec![Sign::Pits], marks };
    bench.record(What::Inspection(look(vec![mark(280, Some(t(60))), mark(10, None)])))?;
    let seen = [Damage { at: bore(1), near: Some(Position::at(Axial::Front, 90)), depth: t(60) }];
    assert_eq!(damage_seen(bench.build()), seen);
    let first = |bench: &Bench, wish: &BoringWish| {
        plan(bench.build(), wish).and_then(|p| p.cylinders.first().map(|c| (c.needs, c.seen)))
    };
    assert_eq!(first(&bench, &wish()), Some((Some(t(34_618)), Some(t(60)))));
    // What is typed beside it counts where it is deeper.
    let deeper = BoringWish { damage: vec![Damage { depth: t(80), ..seen[0] }], ..wish() };
    assert_eq!(first(&bench, &deeper), Some((Some(t(34_658)), Some(t(60)))));
    // Bored, the wall is another one.
    bench.work(Work::CylinderBored, Scope::One(bore(1)), "to the next size")?;
    assert_eq!(damage_seen(bench.build()), []);
    Ok(())
}

#[test]
fn a_honer_is_told_each_bore_and_what_comes_back_is_held_against_it() -> Outcome {
    let mut bench = bench(["3.4740"; 6])?;
    let wall = TargetRule::Range { low: t(30), aim: Some(t(33)), high: t(36) };
    bench.figure_target(Figure::PISTON_TO_WALL, BearingRow::Rods, wall, "sheet and coating")?;
    bench.take("mic-four-tenths");
    for (n, piston) in [(1, "3.4716 3.4716"), (2, "3.4719 3.4719")] {
        bench.size(Place::wrist_pin(n), Role::new("piston"), &[piston])?;
    }
    let of = |bench: &Bench| plan_bores(bench.build(), &evaluate(bench.build()).figures, t(1), &[]);
    let items = of(&bench).map(|p| hone_items(&p, Unit::Inch)).unwrap_or_default();
    // Only the cylinder that is measured: what is taken off the others nobody knows.
    let told: Vec<_> = items.iter().map(|i| (i.station, i.job, i.from, i.to, i.plus)).collect();
    assert_eq!(told, [(bore(1), Job::HoneCylinder, Some(t(34_740)), t(34_749), t(1))]);
    assert!(items[0].why.contains("3.4716"), "{}", items[0].why);

    let order = WorkOrder {
        number: "BORE-1".into(),
        shop: "the honer".into(),
        items,
        fillet: None,
        finish: "45 degrees included".into(),
        note: "plate on".into(),
        clean_up: Vec::new(),
    };
    // The block goes with its cylinder: only what is not made of it can be measured meanwhile.
    let to_measure = |bench: &Bench| match evaluate(bench.build()).sign_off.next {
        Next::Measure { station, .. } | Next::Await { station } => Some((station.kind(), station.number())),
        _ => None,
    };
    let id = bench.order(order)?;
    assert_eq!(to_measure(&bench), Some((PlaceKind::Main, 1)));
    bench.move_order(id, OrderStep::Sent, "with the pistons")?;
    assert_eq!(to_measure(&bench), Some((PlaceKind::Rod, 1)));
    bench.move_order(id, OrderStep::Returned, "cool")?;
    assert_eq!(to_measure(&bench), Some((PlaceKind::Main, 1)));
    let state = |bench: &Bench| {
        let orders = evaluate(bench.build()).orders;
        orders.first().and_then(|o| o.items.first().map(|i| (i.state, i.largest, o.accepted)))
    };
    assert_eq!(state(&bench), Some((None, None, false)), "it is measured again before anything is said");
    bench.take("bore-tenths");
    bench.size(bore(1), Role::new("cylinder"), &["3.4752 3.4752"; 6])?;
    assert_eq!(state(&bench), Some((Some(State::Loose), Some(t(34_752)), false)));

    // Whoever honed it, grit is washed out before anything is signed.
    let washes = |bench: &Bench| {
        let blocks = evaluate(bench.build()).sign_off.blocks;
        blocks.iter().any(|b| b.needs == Needs::Clean && b.station == bore(1))
    };
    assert!(washes(&bench));
    bench.event(WorkEvent {
        work: Work::CylinderWashed,
        on: Scope::Cylinders,
        grits: Vec::new(),
        minutes: None,
        ticks: Work::CylinderWashed.ticks().to_vec(),
        note: "hot, brush".into(),
    })?;
    assert!(!washes(&bench));
    Ok(())
}

#[test]
fn the_smallest_oversize_that_cleans_all_is_chosen_with_its_stages_and_its_wall() -> Outcome {
    let mut bench = bench(WORN)?;
    for n in 2..=6 {
        bench.size(bore(n), Role::new("cylinder"), &["3.4460 3.4460"; 6])?;
    }
    let found = plan(bench.build(), &wish());
    let chosen = found.as_ref().and_then(|p| p.options.iter().find(|o| Some(o.oversize) == p.chosen));
    let nominal = bench.build().layout.cylinders.as_ref().map(|c| c.bore).unwrap_or_default();
    assert_eq!(chosen.map(|o| o.finished - nominal), chosen.map(|o| o.oversize));
    assert_eq!(found.as_ref().and_then(|p| p.decided_by), Some(bore(1)));
    let tools = found.as_ref().map(|p| p.stages.iter().map(|s| s.tool).collect::<Vec<_>>());
    use BoringTool::{Bar, FinishStone, Plateau, RoughStone};
    assert_eq!(tools, Some(vec![Bar, RoughStone, FinishStone, Plateau]));
    let ends = found.as_ref().and_then(|p| Some((p.stages.first()?.to, p.stages.last()?.to)));
    assert_eq!(ends, chosen.map(|o| (o.finished - t(50), o.finished)));
    // Half of what comes off the diameter comes off the wall; a thin one rules the size out.
    let thin = BoringWish { walls: vec![(bore(1), t(1_260))], ..wish() };
    let thin = plan(bench.build(), &thin);
    assert!(thin.as_ref().is_some_and(|p| p.options.iter().any(|o| o.thin.iter().any(|w| w.at == bore(1)))));
    // Whoever bores is told every cylinder, the size and how.
    let items = found.as_ref().map(|p| bore_items(p, t(2), Unit::Inch)).unwrap_or_default();
    assert_eq!(items.len(), 6);
    assert!(items.iter().all(|i| i.job == Job::BoreCylinder && Some(i.to) == chosen.map(|c| c.finished)));
    assert!(items[0].why.contains("B1 decides"), "{}", items[0].why);
    Ok(())
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]
    #[test]
    fn nothing_smaller_than_what_is_chosen_would_do(
        worn in prop::collection::vec(0i64..90, 6), oversizes in prop::collection::vec(1i64..700, 1..8), pit in 0i64..40
    ) {
        let text = |w: &i64| format!("{:.4}", 3.4452 + *w as f64 / 10_000.0);
        let sizes: Vec<String> = worn.iter().map(text).collect();
        let bench = bench(std::array::from_fn(|i| sizes[i].as_str()));
        let mut bench = bench.map_err(|e| TestCaseError::fail(e.to_string()))?;
        for n in 2..=6 {
            bench.size(bore(n), Role::new("cylinder"), &["3.4453 3.4453"; 6]).map_err(|e| TestCaseError::fail(e.to_string()))?;
        }
        let damage = vec![Damage { at: bore(1), near: None, depth: t(pit) }];
        let wish = BoringWish { oversizes: oversizes.iter().map(|o| t(*o)).collect(), damage, walls: vec![], ..wish() };
        let found = plan(bench.build(), &wish).ok_or_else(|| TestCaseError::fail("no cylinders"))?;
        let needs = found.needs.unwrap_or_default();
        let nominal = bench.build().layout.cylinders.as_ref().map(|c| c.bore).unwrap_or_default();
        let beyond = |o: Length| nominal + o - wish.hone_stock - needs;
        // What is chosen cleans as measured; what is eight tenths beyond that does so whatever the gauges leave open.
        prop_assert!(found.chosen.is_none_or(|o| beyond(o) >= Length::ZERO), "{:?}", found.chosen);
        let smaller = wish.oversizes.iter().filter(|o| found.chosen.is_none_or(|chosen| **o < chosen));
        prop_assert!(smaller.clone().all(|o| beyond(*o) < t(8)), "{:?} of {:?}", found.chosen, wish.oversizes);
        // No place needs more than the one that is said to decide.
        let largest = worn.iter().max().copied().unwrap_or_default();
        prop_assert!(needs >= t(34_452 + 2 * largest + 2 * pit + 10));
    }
}

fn strokes(on: Stroked, strokes: u32, tenths: i64, part_mc: Option<i32>) -> What {
    let size = t(tenths);
    What::Strokes(StrokesDone { at: bore(1), on, strokes, size, raw: "as read".into(), part_mc, note: String::new() })
}

#[test]
fn the_log_of_the_hone_learns_its_rate_and_never_goes_past() -> Outcome {
    let mut bench = bench(WORN)?;
    bench.record(strokes(Stroked::Bore, 0, 34_500, None))?;
    bench.record(strokes(Stroked::Bore, 20, 34_504, None))?;
    // Ten kelvin warm: 3.4508 will be a good three tenths less.
    bench.record(strokes(Stroked::Bore, 20, 34_512, Some(30_000)))?;
    let logs = stroke_logs(bench.build(), &evaluate(bench.build()).figures, None);
    let log = logs.first().filter(|l| l.on == Stroked::Bore);
    let entries = log.map(|l| l.entries.as_slice()).unwrap_or_default();
    assert_eq!(entries.iter().map(|e| e.removed).collect::<Vec<_>>()[..2], [None, Some(t(4))]);
    let cooled = entries.last().map(|e| (t(34_512) - e.cool).nm()).unwrap_or_default();
    assert!((8_000..12_000).contains(&cooled), "{cooled}");
    assert_eq!(log.and_then(|l| l.goal), None, "its piston is not measured: nobody knows where it ends");
    // Recorded as honed, the log begins anew.
    bench.work(Work::CylinderHoned, Scope::One(bore(1)), "to size")?;
    assert!(stroke_logs(bench.build(), &evaluate(bench.build()).figures, None).is_empty());
    let main = StrokesDone { at: Place::main(1), ..done() };
    assert!(bench.record(What::Strokes(main)).is_err(), "nobody hones a main stroke by stroke here");
    Ok(())
}

fn done() -> StrokesDone {
    StrokesDone {
        at: bore(1),
        on: Stroked::Bore,
        strokes: 1,
        size: t(34_500),
        raw: String::new(),
        part_mc: None,
        note: String::new(),
    }
}

#[test]
fn the_file_is_told_how_many_turns_are_left_before_the_next_look() -> Outcome {
    let mut bench = bench(WORN)?;
    let gap = |build: &Build| {
        let figures = evaluate(build).figures;
        let of_gap = figures
            .iter()
            .find(|f| f.station == bore(1) && f.measured.iter().any(|m| m.role == Role::new("top_ring_gap")));
        of_gap.and_then(|f| f.target.as_ref()).map(|t| t.window.aim)
    };
    let Some(aim) = gap(bench.build()) else { return Ok(()) };
    let start = aim - t(40);
    for (n, size) in [(0, start), (10, start + t(10)), (10, start + t(18))] {
        bench.record(What::Strokes(StrokesDone { on: Stroked::TopRing, strokes: n, size, ..done() }))?;
    }
    let logs = stroke_logs(bench.build(), &evaluate(bench.build()).figures, None);
    let log = logs.iter().find(|l| l.on == Stroked::TopRing);
    assert_eq!(log.and_then(|l| l.to_go), Some(t(22)));
    let next = log.and_then(|l| l.left).map(|l| l.next).unwrap_or_default();
    // The fastest took a tenth a turn: four fifths of 22.
    assert_eq!(next, 17);
    Ok(())
}

#[test]
fn what_was_honed_signs_only_washed_and_a_step_is_ticked_whole() -> Outcome {
    let mut bench = bench(WORN)?;
    let needs_clean = |b: &Bench| {
        let blocks = evaluate(b.build()).sign_off.blocks;
        blocks.iter().any(|block| block.needs == Needs::Clean && block.station == bore(1))
    };
    let window = TargetRule::Range { low: t(1), aim: None, high: t(60) };
    bench.figure_target(Figure::PISTON_TO_WALL, BearingRow::Rods, window, "wide")?;
    bench.work(Work::CylinderHoned, Scope::One(bore(1)), "to size")?;
    bench.take("bore-tenths");
    bench.size(bore(1), Role::new("cylinder"), &WORN.map(|s| format!("{s} {s}")).each_ref().map(String::as_str))?;
    let washed = |ticks: Vec<Tick>| WorkEvent {
        work: Work::CylinderWashed,
        on: Scope::One(bore(1)),
        grits: vec![],
        minutes: None,
        ticks,
        note: "hot".into(),
    };
    bench.take("mic-four-tenths");
    bench.size(Place::new(PlaceKind::WristPin, 1), Role::new("piston"), &["3.4450 3.4450"])?;
    assert!(needs_clean(&bench), "{:?}", evaluate(bench.build()).sign_off.blocks);
    let refused = bench.event(washed(vec![Tick::Scrubbed, Tick::Oiled]));
    assert!(matches!(refused, Err(Refusal::NotTicked(Tick::WhiteCloth))), "{refused:?}");
    bench.event(washed(vec![Tick::Scrubbed, Tick::WhiteCloth, Tick::Oiled]))?;
    assert!(!needs_clean(&bench));
    Ok(())
}

#[test]
fn a_polish_that_was_measured_before_and_after_teaches_what_a_grit_takes() -> Outcome {
    let mut bench = bench(WORN)?;
    let at = Place::main(2);
    bench.take("mic-tenths");
    bench.journal(at, ["2.6238 2.6238", "2.6238 2.6238", "2.6238 2.6238", "2.6238 2.6238"])?;
    bench.event(WorkEvent {
        work: Work::JournalPolished,
        on: Scope::One(at),
        grits: vec![800, 1200],
        minutes: Some(20),
        ticks: vec![],
        note: "tight".into(),
    })?;
    let open = polish_log(bench.build());
    assert_eq!((open.len(), open[0].before, open[0].after), (1, Some(t(26_238)), None));
    assert_eq!(learned(&open), None, "nothing was measured since");
    bench.journal(at, ["2.6236 2.6236", "2.6236 2.6236", "2.6236 2.6236", "2.6236 2.6236"])?;
    let log = polish_log(bench.build());
    assert_eq!((log[0].after, log[0].removed()), (Some(t(26_236)), Some(t(2))));
    let learned = learned(&log);
    assert_eq!(learned.map(|l| (l.per_grit, l.polishes, l.passes(t(3)))), Some((t(1), 1, 3)));
    Ok(())
}
