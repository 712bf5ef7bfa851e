//! Blades are typed as they are stamped, mics are misread by a turn, and what nobody believes is asked about.
mod six;

use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{BearingRow, Figure, Place, Role};
use jagged_pin_core::log::{Stroked, StrokesDone, What};
use jagged_pin_core::maths::TargetRule;
use jagged_pin_core::record::Refusal;
use jagged_pin_core::{Length, Unit};
use jagged_pin_workbench::Bench;

type Outcome = Result<(), Box<dyn std::error::Error>>;

const GAP: Role = Role::new("side_gap");

fn t(tenths: i64) -> Length {
    Length::tenths(tenths)
}

fn sides(low: i64, high: i64) -> Result<Bench, Refusal> {
    let mut bench = six::opened(86)?;
    let window = TargetRule::Range { low: t(low), aim: None, high: t(high) };
    bench.figure_target(Figure::ROD_SIDE, BearingRow::Rods, window, "oil")?;
    Ok(bench)
}

fn between(bench: &Bench, place: Place) -> Option<(Length, Length)> {
    let a = evaluate(bench.build());
    a.figure(Figure::ROD_SIDE, place)?.judged.as_ref().map(|j| (j.smallest, j.largest))
}

#[test]
fn the_same_blades_are_meant_however_they_are_typed() -> Outcome {
    let mut bench = sides(80, 140)?;
    for (pin, text) in (1..).zip(["10 11", ".010 .011", "100 110", "10/11"]) {
        bench.pushes(Place::side(pin), GAP, &[&[text], &[text]])?;
        assert_eq!(between(&bench, Place::side(pin)), Some((t(100), t(110))), "{text}");
    }
    bench.pushes(Place::side(5), GAP, &[&["9.5 10"], &["9.5 10"]])?;
    assert_eq!(between(&bench, Place::side(5)), Some((t(95), t(100))), "a half thou behind its point");
    assert_eq!(bench.build().check(), Ok(()), "a file of it can be read in again");
    Ok(())
}

#[test]
fn what_could_be_either_is_what_lies_nearer_to_the_aim() -> Outcome {
    let mut bench = sides(30, 70)?;
    bench.pushes(Place::side(1), GAP, &[&["40 50"], &["40 50"]])?;
    bench.pushes(Place::side(2), GAP, &[&["4 5"], &["4 5"]])?;
    assert_eq!(between(&bench, Place::side(1)), Some((t(40), t(50))));
    assert_eq!(between(&bench, Place::side(2)), between(&bench, Place::side(1)));
    Ok(())
}

#[test]
fn a_blade_that_the_set_has_not_is_asked_about() -> Outcome {
    let mut bench = sides(80, 140)?;
    let refused = bench.pushes(Place::side(1), GAP, &[&["10.3 11"], &["10 11"]]);
    assert_eq!(refused.err(), Some(Refusal::NoSuchBlade { step: t(10).show(Unit::Inch) }));
    Ok(())
}

#[test]
fn one_turn_of_the_thimble_is_not_kept_silently() -> Outcome {
    let mut bench = six::opened(85)?;
    let first = |text: &'static str| [text, "", "", ""];
    let turn = bench.journal(Place::main(1), first("2.6488"));
    assert!(matches!(turn, Err(Refusal::OneTurn { .. })), "{turn:?}");
    let back = bench.journal(Place::main(1), first("2.5990"));
    assert!(matches!(back, Err(Refusal::OneTurn { .. })), "{back:?}");
    let over = bench.journal(Place::main(1), first("2.6340"));
    assert!(matches!(over, Err(Refusal::OverDrawing { .. })), "{over:?}");
    assert!(bench.journal(Place::main(1), ["2.6138", "38", "38", "38"]).is_ok(), "ten under is ground");
    Ok(())
}

#[test]
fn a_stroke_that_was_mistyped_is_struck_and_a_million_are_not_kept() -> Outcome {
    let mut bench = six::opened(84)?;
    let done = |strokes: u32, size: Length| {
        let (at, on, raw) = (Place::cylinder(1), Stroked::Bore, String::new());
        What::Strokes(StrokesDone { at, on, strokes, size, raw, part_mc: None, note: String::new() })
    };
    assert!(bench.record(done(1_000_000, t(34_750))).is_err());
    assert!(bench.record(done(20, t(347_500))).is_err(), "a decimal point");
    bench.record(done(0, t(34_740)))?;
    let slip = bench.record(done(20, t(34_700)))?;
    bench.strike(&[slip], "read the wrong way")?;
    let logs = jagged_pin_core::machining::stroke_logs(bench.build(), &evaluate(bench.build()).figures, None);
    assert_eq!(logs.first().map(|log| log.entries.len()), Some(1));
    Ok(())
}
