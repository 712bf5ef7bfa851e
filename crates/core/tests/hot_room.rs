//! Pistons and rings where they get hot: an aim as a sum of named terms, what is left of a gap, and a piston that its own sheet
//! condemns.
mod six;

use jagged_pin_core::Length;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{BearingRow, Cylinders, Figure, Place, Role};
use jagged_pin_core::figure::{FigureAssessment, HotBy};
use jagged_pin_core::log::{Added, Adder, AimMade, HotRunning, Rules, TargetChange, What};
use jagged_pin_core::maths::{Alloy, TargetRule, TargetSource};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::sheet::Needs;
use jagged_pin_workbench::{Bench, patterns, person};

type Outcome = Result<(), Refusal>;

fn t(tenths: i64) -> Length {
    Length::tenths(tenths)
}

fn six() -> Result<Bench, Refusal> {
    six::opened(97)
}

/// The six with pistons of an alloy.
fn six_of(alloy: Option<Alloy>) -> Result<Bench, Refusal> {
    let mut pattern = patterns().into_iter().find(|p| p.id == "curlew-24").ok_or(Refusal::NoTarget)?;
    pattern.layout.cylinders = pattern.layout.cylinders.map(|c| Cylinders { alloy, ..c });
    Bench::book_in(96, "T-96", &pattern, 0, person("oduya"))
}

fn figure(name: &str) -> Figure {
    Figure::all().find(|f| f.name() == name).unwrap_or(Figure::OIL_CLEARANCE)
}

fn of(bench: &Bench, name: &str, n: u8) -> Option<FigureAssessment> {
    let place = if name == "piston_size" { Place::wrist_pin(n) } else { Place::cylinder(n) };
    evaluate(bench.build()).figure(figure(name), place).cloned()
}

fn ring(bench: &mut Bench, n: u8, between: &str) -> Outcome {
    bench.take("blades");
    bench.pushes(Place::cylinder(n), Role::new("top_ring_gap"), &[&[between, between]]).map(drop)
}

fn needs(bench: &Bench, name: &str) -> Vec<Needs> {
    let of_figure = figure(name);
    evaluate(bench.build()).sign_off.blocks.iter().filter(|b| b.figure == of_figure).map(|b| b.needs).collect()
}

#[test]
fn a_ring_that_would_close_stops_the_work_whatever_its_window_says() -> Outcome {
    let mut bench = six()?;
    let wide = TargetRule::Range { low: t(70), aim: None, high: t(200) };
    bench.figure_target(figure("top_ring_gap"), BearingRow::Rods, wide, "wide open")?;
    ring(&mut bench, 1, "150 160")?;
    ring(&mut bench, 2, "90 100")?;
    // pi 3.4750 (11.0e-6 x 130 - 10.8e-6 x 80): six thou close.
    let sound = of(&bench, "top_ring_gap", 1).map(|f| f.hot).unwrap_or_default();
    assert_eq!(sound.iter().map(|h| (h.by, h.stops)).collect::<Vec<_>>(), [(HotBy::Expansion, false)]);
    assert!(sound.iter().all(|h| (h.closes - t(62)).abs() <= t(1)), "{sound:?}");
    let butts = of(&bench, "top_ring_gap", 2).map(|f| f.hot).unwrap_or_default();
    assert!(butts.iter().all(|h| h.stops && h.left < t(40)), "{butts:?}");
    assert!(needs(&bench, "top_ring_gap").contains(&Needs::HotRoom));
    // A shop that reckons otherwise says so in its rules.
    let cool = HotRunning { ring_floor: Length::ZERO, ..HotRunning::USUAL };
    bench.rules(Rules { hot: Some(cool), ..bench.build().rules_now().clone() }, "alcohol, short runs")?;
    assert!(!needs(&bench, "top_ring_gap").contains(&Needs::HotRoom));
    Ok(())
}

/// Six places of a bore and a piston, in tenths over 3.47 in.
fn measured(bench: &mut Bench, n: u8, bore: i64, piston: i64) -> Outcome {
    let text = |tenths: i64| format!("{:.4}", tenths as f64 / 1e4);
    bench.take("bore-tenths");
    let bore = text(bore);
    bench.size(Place::cylinder(n), Role::new("cylinder"), &[bore.as_str(); 6])?;
    bench.take("mic-four-tenths");
    bench.size(Place::wrist_pin(n), Role::new("piston"), &[&text(piston)]).map(drop)
}

#[test]
fn a_piston_is_reckoned_hot_by_both_schools() -> Outcome {
    let mut bench = six()?;
    let mut forged = six_of(Some(Alloy::ForgedLowSilicon))?;
    let window = TargetRule::Range { low: t(30), aim: Some(t(33)), high: t(36) };
    bench.figure_target(Figure::PISTON_TO_WALL, BearingRow::Rods, window, "the sheet")?;
    measured(&mut bench, 1, 34_750, 34_717)?;
    forged.figure_target(Figure::PISTON_TO_WALL, BearingRow::Rods, window, "the sheet")?;
    measured(&mut forged, 1, 34_750, 34_717)?;
    let rooms = |bench: &Bench| of(bench, "piston_to_wall", 1).map(|f| f.hot).unwrap_or_default();
    let schools = |bench: &Bench| -> Vec<(HotBy, bool)> { rooms(bench).iter().map(|h| (h.by, h.stops)).collect() };
    assert_eq!(schools(&bench), [], "nobody said of which alloy they are: nothing is estimated");
    let mut bench = forged;
    assert_eq!(schools(&bench), [(HotBy::Expansion, false)], "an estimate stops nothing");
    // By arithmetic alone a good piston has no room: that is said to be an estimate, and the builder's own figure is none.
    assert!(rooms(&bench).iter().all(|h| h.estimate && h.left < Length::ZERO), "{:?}", rooms(&bench));
    let allowance = |closes| HotRunning { piston_closes: Some(t(closes)), ..HotRunning::USUAL };
    bench.rules(Rules { hot: Some(allowance(20)), ..bench.build().rules_now().clone() }, "closes by two thou")?;
    assert_eq!(schools(&bench), [(HotBy::Allowance, false), (HotBy::Expansion, false)]);
    assert_eq!(rooms(&bench).iter().map(|h| h.estimate).collect::<Vec<_>>(), [false, true]);
    bench.rules(Rules { hot: Some(allowance(40)), ..bench.build().rules_now().clone() }, "closes by four thou")?;
    assert_eq!(schools(&bench)[0], (HotBy::Allowance, true));
    Ok(())
}

#[test]
fn a_piston_under_its_own_sheet_is_condemned_and_blocks_once() -> Outcome {
    let mut bench = six()?;
    let window = TargetRule::Range { low: t(30), aim: Some(t(33)), high: t(36) };
    bench.figure_target(Figure::PISTON_TO_WALL, BearingRow::Rods, window, "the sheet")?;
    let sheet = TargetRule::Range { low: t(34_710), aim: None, high: t(34_730) };
    bench.figure_target(figure("piston_size"), BearingRow::Rods, sheet, "printed on its box")?;
    measured(&mut bench, 1, 34_750, 34_717)?;
    measured(&mut bench, 2, 34_735, 34_702)?;
    let assessed = evaluate(bench.build());
    let unfit: Vec<_> =
        assessed.unfit.iter().map(|u| (u.part.as_deref(), u.figure.map(|f| f.name()), u.value)).collect();
    assert_eq!(unfit, [(Some("W2"), Some("piston_size"), Some(t(34_702)))]);
    // A bore honed to it would have been in: it is moot.
    let wall = of(&bench, "piston_to_wall", 2);
    assert!(wall.as_ref().is_some_and(|f| f.judged.is_some() && f.moot.len() == 1));
    let parts = assessed.sign_off.blocks.iter().filter(|b| b.needs == Needs::Part).count();
    assert_eq!(parts, 1);
    assert!(of(&bench, "piston_to_wall", 1).is_some_and(|f| f.moot.is_empty()));
    Ok(())
}

#[test]
fn an_aim_is_the_sum_of_what_it_is_made_of() -> Outcome {
    let mut bench = six()?;
    let made = |by| AimMade {
        sheet: Some(t(30)),
        per_million: None,
        covers: Vec::new(),
        adders: vec![Added { why: Adder::Coating, by: t(by) }],
    };
    let change = |made_of, aim| {
        What::Target(TargetChange {
            figure: Some(Figure::PISTON_TO_WALL),
            station: None,
            row: BearingRow::Rods,
            kind: None,
            rule: Some(TargetRule::Range { low: t(30), aim: Some(t(aim)), high: t(36) }),
            source: TargetSource::MakersSheet,
            made_of: Some(made_of),
            wear: None,
            reason: "sheet and coating".into(),
            lifted: Vec::new(),
        })
    };
    assert!(bench.record(change(made(3), 34)).is_err(), "three and thirty are not thirty-four");
    bench.record(change(made(3), 33))?;
    let target = of(&bench, "piston_to_wall", 1).and_then(|f| f.target);
    assert_eq!(target.map(|t| (t.window.aim, t.made_of)), Some((t(33), Some(made(3)))));
    Ok(())
}
