//! The cam: each journal by its own nominal, what a turn shows, what is polished, and what binds in spite of its size.
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{BearingRow, Cam, Figure, Layout, Place, Role, Scope};
use jagged_pin_core::log::{TorqueAt, Trial, What, Work};
use jagged_pin_core::machining::{CamOutcome, CamPlan, DragSays, fit_cam};
use jagged_pin_core::maths::{State, TargetRule};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::{Build, Length};
use jagged_pin_workbench::{Bench, patterns, person};

type Outcome = Result<(), Box<dyn std::error::Error>>;

const C: fn(u8) -> Place = Place::cam;
const JOURNAL: Role = Role::new("cam_journal");
const BEARING: Role = Role::new("cam_bearing");
const TURN: Role = Role::new("cam_turn");

fn t(n: i64) -> Length {
    Length::tenths(n)
}

fn with_cam() -> Result<Bench, Refusal> {
    let known = patterns();
    let pattern = known.iter().find(|p| p.id == "curlew-24").unwrap_or(&known[0]);
    let mut bench = Bench::book_in(99, "T-99", pattern, 0, person("harrow"))?;
    let window = TargetRule::Range { low: t(15), aim: Some(t(20)), high: t(30) };
    bench.figure_target(Figure::CAM_CLEARANCE, BearingRow::Mains, window, "usual")?;
    bench.take("mic-two-tenths");
    bench.take("bore-tenths");
    Ok(bench)
}

/// Journal and bearing of one place, the same wherever it is touched.
fn sized(bench: &mut Bench, n: u8, journal: &str, bearing: &str) -> Outcome {
    bench.size(C(n), JOURNAL, &[journal; 4])?;
    bench.size(C(n), BEARING, &[bearing; 4])?;
    Ok(())
}

fn state(build: &Build, n: u8) -> Option<State> {
    evaluate(build).figure(Figure::CAM_CLEARANCE, C(n))?.judged.as_ref().map(|j| j.state)
}

fn plan(build: &Build) -> Result<CamPlan, &'static str> {
    fit_cam(build, &evaluate(build).figures).ok_or("it has a cam")
}

#[test]
fn the_last_digits_are_of_the_journals_own_nominal() -> Outcome {
    let mut bench = with_cam()?;
    // 1.9863 of 1.9863 and 1.9161 of 1.9161: two digits are enough for each.
    sized(&mut bench, 1, "63 63", "1.9880 80")?;
    sized(&mut bench, 4, "61 61", "1.9180 80")?;
    let figures = evaluate(bench.build());
    let size = |n| Some(figures.figure(Figure::CAM_CLEARANCE, C(n))?.measured[0].size.size.as_ref()?.effective);
    assert_eq!((size(1), size(4)), (Some(t(19_863)), Some(t(19_161))));
    assert_eq!(state(bench.build(), 1), Some(State::In));
    Ok(())
}

#[test]
fn a_bent_journal_binds_and_a_tight_one_is_polished_to_its_aim() -> Outcome {
    let mut bench = with_cam()?;
    sized(&mut bench, 2, "1.9768 68", "1.9775 75")?;
    sized(&mut bench, 3, "1.9664 64", "1.9677 77")?;
    let clock: Vec<[&str; 2]> = ["6", "4", "0", "-4", "-6", "-4", "0", "4"].map(|shown| [shown; 2]).to_vec();
    let places: Vec<&[&str]> = clock.iter().map(<[&str; 2]>::as_slice).collect();
    bench.pushes(C(2), TURN, &places)?;
    let plan = plan(bench.build())?;
    assert_eq!((plan.most, plan.open.as_slice()), (t(10), [C(1), C(4)].as_slice()));
    let [bent, tight] = &plan.journals[..] else { return Err("two are measured".into()) };
    // Of twelve tenths of travel the bend is eleven and six tenths; the rest is form.
    assert_eq!((bent.at, bent.claim), (C(2), Some(t(8))));
    assert!(bent.runout.is_some_and(|bend| (bend - t(12)).abs() < t(1)), "{:?}", bent.runout);
    // Nothing is polished that a press may move.
    assert_eq!((bent.outcome, bent.removal, bent.after), (CamOutcome::Straighten, Length::ZERO, bent.clearance));
    assert_eq!((tight.outcome, tight.runout, tight.claim), (CamOutcome::PolishToAim, None, None));
    assert!((tight.after - t(20)).abs() < t(1) && tight.removal > t(5), "{tight:?}");
    // Polishing it ends its size and its turn, and leaves the bush as it is.
    bench.work(Work::JournalPolished, Scope::One(C(2)), "until it suits its own bush")?;
    let after = evaluate(bench.build());
    let figure = after.figure(Figure::CAM_CLEARANCE, C(2)).ok_or("it is there")?;
    let stale: Vec<bool> = figure.measured.iter().map(|m| m.size.stale.is_some()).collect();
    assert_eq!(stale, [true, false, true]);
    Ok(())
}

#[test]
fn a_drag_that_comes_and_goes_is_a_bend_and_an_even_one_is_size() -> Outcome {
    let mut bench = with_cam()?;
    let turned = |torques: [u32; 8], oiled| {
        let turn = (0_u16..).zip(torques).map(|(i, torque)| TorqueAt { angle: i * 45, torque }).collect();
        What::Trial(Trial { turn, oiled, note: "as it went in".into() })
    };
    bench.record(turned([2_600, 2_100, 1_200, 800, 900, 1_400, 2_200, 2_700], false))?;
    bench.record(turned([900; 8], true))?;
    bench.record(turned([240, 250, 240, 230, 240, 250, 240, 230], true))?;
    let trials = plan(bench.build())?.trials;
    let said: Vec<DragSays> = trials.iter().map(|t| t.says).collect();
    assert_eq!(said, [DragSays::Bent, DragSays::TightAllAlong, DragSays::Light]);
    let bent = &trials[0];
    assert!((bent.mean - 1_737.5).abs() < 0.1 && (bent.ratio - 0.57).abs() < 0.01, "{bent:?}");
    assert_eq!(bent.clock, 332, "it drags most before the top");
    let twice = Trial { turn: vec![TorqueAt { angle: 0, torque: 1 }; 4], oiled: true, note: "x".into() };
    assert!(bench.record(What::Trial(twice)).is_err(), "four times the same clock");
    Ok(())
}

#[test]
fn what_a_turn_shows_may_be_less_than_nothing_and_a_cam_must_make_sense() -> Outcome {
    let mut bench = with_cam()?;
    bench.pushes(C(1), TURN, &[&["-3", "-3"]])?;
    assert!(bench.pushes(C(1), TURN, &[&["three"]]).is_err());
    assert!(bench.pushes(C(5), TURN, &[&["0"]]).is_err(), "it has four journals");
    let six = Layout { cam: None, ..bench.build().layout.clone() };
    assert!(!six.has(C(1)) && six.check().is_ok());
    let wrong =
        |journals: Vec<Length>, hardened| Layout { cam: Some(Cam { journals, hardened }), ..six.clone() }.check();
    assert!(
        wrong(vec![], t(10)).is_err() && wrong(vec![t(19_000)], t(0)).is_err() && wrong(vec![t(1)], t(10)).is_err()
    );
    assert!(wrong(vec![t(19_000)], t(10)).is_ok());
    Ok(())
}
