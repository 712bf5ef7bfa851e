//! What the third reckoning changes, and that what was opened before keeps its own.
#![allow(clippy::panic, clippy::unwrap_used, reason = "tests")]

mod six;

use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{BearingRow, Figure, Place, Read, Role, Scope};
use jagged_pin_core::figure::{FigureAssessment, Judged};
use jagged_pin_core::log::{Reckoning, Rules, Work};
use jagged_pin_core::maths::{State, TargetRule};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::{Build, Length, Unit};
use jagged_pin_workbench::Bench;

const M: fn(u8) -> Place = Place::main;

type Outcome = Result<(), Box<dyn std::error::Error>>;

fn t(tenths: i64) -> Length {
    Length::tenths(tenths)
}

fn named(id: &str) -> Result<Figure, Refusal> {
    id.parse().map_err(|_| Refusal::NoTarget)
}

/// The same history as a build that is reckoned otherwise.
fn by(bench: &Bench, reckoning: Reckoning) -> Result<Build, Refusal> {
    let mut bench = bench.clone();
    bench.rules(Rules { reckoning, ..Rules::standard(Unit::Inch) }, "as it was")?;
    Ok(bench.build().clone())
}

fn figure(build: &Build, figure: Figure, place: Place) -> Result<FigureAssessment, &'static str> {
    evaluate(build).figure(figure, place).cloned().ok_or("there is no such figure")
}

fn judged(build: &Build, of: Figure, place: Place) -> Result<Judged, &'static str> {
    figure(build, of, place)?.judged.ok_or("it is judged")
}

/// A six whose mains are to have 22 to 28 tenths.
fn to_22_and_28() -> Result<Bench, Box<dyn std::error::Error>> {
    let mut bench = six::opened(97)?;
    let window = TargetRule::Range { low: t(22), aim: None, high: t(28) };
    bench.figure_target(Figure::OIL_CLEARANCE, BearingRow::Mains, window, "endurance")?;
    Ok(bench)
}

#[test]
fn a_journal_that_tapers_is_loose_at_its_thin_end() -> Outcome {
    let mut bench = to_22_and_28()?;
    // A journal that is seven tenths thinner behind, in a bore that is the same at both ends.
    bench.journal(M(4), ["2.6238", "38", "31", "31"])?;
    bench.bore(M(4), Read::Dial, &["24 24", "24 24"])?;
    let f = figure(bench.build(), Figure::OIL_CLEARANCE, M(4))?;
    let j = f.judged.clone().ok_or("it is judged")?;
    assert_eq!(j.state, State::Loose, "{j:?}");
    assert!(j.largest > j.smallest + t(5) && j.worst == j.largest);
    let ends: Vec<_> = f.methods[0].ends.iter().map(|e| (e.clearance, e.widest)).collect();
    assert_eq!(ends.len(), 2);
    assert!((ends[1].0 - ends[0].0 - t(7)).abs() < Length::from_nm(800), "{ends:?}");
    // As it was judged before, its thick end stood for both.
    let before = by(&bench, Reckoning::Second)?;
    assert_eq!(judged(&before, Figure::OIL_CLEARANCE, M(4))?.state, State::In);
    Ok(())
}

#[test]
fn a_bearing_that_is_alike_at_both_ends_reads_what_was_read() -> Outcome {
    let mut bench = to_22_and_28()?;
    bench.journal(M(2), ["2.6238", "38", "38", "38"])?;
    bench.bore(M(2), Read::Dial, &["23 23", "23 23"])?;
    let j = judged(bench.build(), Figure::OIL_CLEARANCE, M(2))?;
    assert_eq!((j.smallest, j.largest, j.correction), (j.clearance, j.clearance, Length::ZERO));
    Ok(())
}

#[test]
fn a_single_limit_is_judged_by_the_uncertainty_alone() -> Outcome {
    let mut bench = six::opened(97)?;
    let round = named("cylinder_round")?;
    bench.figure_target(round, BearingRow::Rods, TargetRule::Range { low: t(0), aim: None, high: t(3) }, "race")?;
    bench.take("bore-tenths");
    let bore = Place::cylinder(1);
    bench.size(bore, Role::new("cylinder"), &["3.4752 52", "51 51", "52 52", "51 51", "52 52", "51 51"])?;
    let j = judged(bench.build(), round, bore)?;
    assert_eq!(j.state, State::In, "two tenths and more are left: {j:?}");
    assert!(j.decidable);
    let before = by(&bench, Reckoning::Second)?;
    assert_eq!(judged(&before, round, bore)?.state, State::Edge, "a tenth gauge is too coarse for three");
    Ok(())
}

#[test]
fn noise_is_neither_bend_nor_ovality() -> Outcome {
    let mut bench = six::opened(97)?;
    let runout = named("main_runout")?;
    bench.figure_target(runout, BearingRow::Mains, TargetRule::Range { low: t(0), aim: None, high: t(5) }, "race")?;
    // An oval journal that runs straight: six tenths of travel and no bend.
    let oval = ["6", "3", "0", "3", "6", "3", "0", "3"].map(|shown| [shown; 2]);
    let clock: Vec<&[&str]> = oval.iter().map(<[&str; 2]>::as_slice).collect();
    bench.pushes(M(4), Role::new("main_turn"), &clock)?;
    assert_eq!(judged(bench.build(), runout, M(4))?.clearance, Length::ZERO);
    assert_eq!(judged(&by(&bench, Reckoning::Second)?, runout, M(4))?.clearance, t(6));
    Ok(())
}

#[test]
fn what_was_last_judged_is_shown_and_not_what_was_before_the_shells_were_changed() -> Outcome {
    let mut bench = to_22_and_28()?;
    bench.journal(M(3), ["2.6238", "38", "38", "38"])?;
    bench.size(M(3), Role::UPPER_WALL, &[".0942 .0942", ".0942 .0942"])?;
    bench.bore(M(3), Read::Dial, &["17 17", "17 17"])?;
    bench.work(Work::ShellsFitted, Scope::One(M(3)), "a thou thinner")?;
    bench.bore(M(3), Read::Dial, &["26 26", "26 26"])?;
    assert!(judged(bench.build(), Figure::OIL_CLEARANCE, M(3))?.clearance > t(25));
    bench.work(Work::JournalGround, Scope::One(M(3)), "ten under")?;
    let stale = figure(bench.build(), Figure::OIL_CLEARANCE, M(3))?.stale.ok_or("it is stale")?;
    assert!((stale.was.clearance - stale.was.correction - t(28)).abs() < t(1), "{:?}", stale.was);
    Ok(())
}

#[test]
fn an_acceptance_holds_while_only_a_doubt_that_all_share_moves() -> Outcome {
    let mut bench = to_22_and_28()?;
    bench.journal(M(2), ["2.6238", "38", "37", "38"])?;
    bench.bore(M(2), Read::Dial, &["20 20", "20 20"])?;
    bench.concede(M(2), "the customer's wish")?;
    assert!(figure(bench.build(), Figure::OIL_CLEARANCE, M(2))?.concession.is_some());
    // Another bearing shows that the hand repeats otherwise than it seemed.
    bench.journal(M(5), ["2.6238", "37", "38", "37"])?;
    bench.bore(M(5), Read::Dial, &["24 25", "25 24"])?;
    assert!(figure(bench.build(), Figure::OIL_CLEARANCE, M(2))?.concession.is_some());
    Ok(())
}
