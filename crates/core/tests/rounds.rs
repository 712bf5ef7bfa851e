//! In rounds: one touch at each place, the repeats on the way back, more only where another may decide, and a gauge that walks.
#![allow(clippy::panic, clippy::unwrap_used, reason = "tests")]

mod six;

use jagged_pin_core::assess::{Assessment, Pass, Wanted, along, around, evaluate};
use jagged_pin_core::engine::{Characteristic, Figure, Place, Read, Role};
use jagged_pin_core::figure::Judged;
use jagged_pin_core::log::Rules;
use jagged_pin_core::maths::{AnotherTouch, State, TargetRule};
use jagged_pin_core::{Build, Length, Unit};
use jagged_pin_workbench::Bench;

const M: fn(u8) -> Place = Place::main;

type Outcome = Result<(), Box<dyn std::error::Error>>;

fn t(tenths: i64) -> Length {
    Length::tenths(tenths)
}

/// A six of seven mains to 22 to 28 tenths, whose places are touched in rounds.
fn in_rounds() -> Result<Bench, Box<dyn std::error::Error>> {
    let mut bench = six::opened(98)?;
    bench.target(None, TargetRule::Range { low: t(22), aim: None, high: t(28) }, "endurance")?;
    bench.rules(Rules { rounds: true, ..Rules::standard(Unit::Inch) }, "in rounds")?;
    Ok(bench)
}

fn journals(assessed: &Assessment) -> Vec<Wanted> {
    let of_mains = |w: &&Wanted| w.characteristic.role() == Role::JOURNAL && w.station.row() == M(1).row();
    assessed.wanted.iter().filter(of_mains).copied().collect()
}

fn judged(build: &Build, at: Place) -> Result<Judged, &'static str> {
    evaluate(build).figure(Figure::OIL_CLEARANCE, at).and_then(|f| f.judged.clone()).ok_or("it is judged")
}

#[test]
fn the_repeats_of_three_places_are_asked_for_on_the_way_back() -> Outcome {
    let mut bench = in_rounds()?;
    let assessed = evaluate(bench.build());
    let way: Vec<(Option<Pass>, u8, usize)> =
        journals(&assessed).iter().map(|w| (w.pass, w.station.number(), w.left)).collect();
    let there = (1..=7).map(|n| (Some(Pass::There), n, 4));
    let back = [7, 4, 1].map(|n| (Some(Pass::Back), n, 4));
    assert_eq!(way, there.chain(back).collect::<Vec<_>>());
    // What was touched once is left for the way back alone.
    bench.journal(M(1), ["2.6240"; 4])?;
    let left = journals(&evaluate(bench.build()));
    assert!(left.iter().all(|w| (w.pass, w.station) != (Some(Pass::There), M(1))));
    assert!(left.iter().any(|w| (w.pass, w.station, w.left) == (Some(Pass::Back), M(1), 4)));
    Ok(())
}

#[test]
fn without_rounds_nothing_changes() -> Outcome {
    let mut bench = in_rounds()?;
    bench.rules(Rules::standard(Unit::Inch), "at once")?;
    let way: Vec<(Option<Pass>, u8, usize)> =
        journals(&evaluate(bench.build())).iter().map(|w| (w.pass, w.station.number(), w.left)).collect();
    assert_eq!(way, (1..=7).map(|n| (None, n, 8)).collect::<Vec<_>>());
    Ok(())
}

/// A row of which every journal was touched once, and every bore with that many tenths on the dial.
fn touched_once(bench: &mut Bench, dials: [&str; 7]) -> Outcome {
    for (n, dial) in (1..).zip(dials) {
        bench.journal(M(n), ["2.6240", "40", "40", "40"])?;
        bench.bore(M(n), Read::Dial, &[dial, dial])?;
    }
    Ok(())
}

#[test]
fn nothing_more_is_asked_of_what_is_proven_and_what_may_be_decided_is_touched_again() -> Outcome {
    let mut bench = in_rounds()?;
    touched_once(&mut bench, ["25", "25", "23", "25", "22", "34", "25"])?;
    let left = |bench: &Bench, n: u8, role: Role, read: Read| -> usize {
        let assessed = evaluate(bench.build());
        let figure = assessed.figure(Figure::OIL_CLEARANCE, M(n)).unwrap();
        figure.part(role, read).positions.iter().filter(|p| !p.advisory).map(|p| usize::from(p.left)).sum()
    };
    assert_eq!(judged(bench.build(), M(2))?.state, State::In);
    assert_eq!(left(&bench, 2, Role::JOURNAL, Read::Size), 0);
    assert_eq!(judged(bench.build(), M(6))?.state, State::Loose);
    assert_eq!(left(&bench, 6, Role::BORE, Read::Dial), 0);
    // A tenth inside may be decided; at the limit no number of touches decides anything.
    let open = judged(bench.build(), M(3))?;
    let more = open.another.ok_or("it lies on the edge")?;
    assert_eq!((open.state, more.does), (State::Edge, AnotherTouch::MayDecide), "{open:?}");
    assert!(more.endless < more.once_more && more.once_more < open.expanded);
    assert!(left(&bench, 3, Role::JOURNAL, Read::Size) > 0 && left(&bench, 3, Role::BORE, Read::Dial) > 0);
    let at_limit = judged(bench.build(), M(5))?;
    assert_eq!(at_limit.another.map(|m| m.does), Some(AnotherTouch::CannotDecide), "{at_limit:?}");
    assert_eq!(left(&bench, 5, Role::JOURNAL, Read::Size), 0);
    // It ends: touched again as long as it is asked for, no place is touched more than five times.
    for _ in 0..6 {
        if left(&bench, 3, Role::BORE, Read::Dial) + left(&bench, 3, Role::JOURNAL, Read::Size) == 0 {
            break;
        }
        bench.journal(M(3), ["40"; 4])?;
        bench.bore(M(3), Read::Dial, &["23", "23"])?;
    }
    let figure = evaluate(bench.build()).figure(Figure::OIL_CLEARANCE, M(3)).cloned().ok_or("there")?;
    assert!(figure.journal().positions.iter().all(|p| p.left == 0 || p.advisory));
    assert!(figure.journal().positions.iter().all(|p| p.touches.len() <= 5));
    Ok(())
}

#[test]
fn only_the_places_that_can_be_the_worst_are_touched_again() -> Outcome {
    let mut bench = in_rounds()?;
    // The rear of this journal is six tenths thinner: its front has the least room.
    bench.journal(M(2), ["2.6240", "40", "34", "34"])?;
    bench.bore(M(2), Read::Dial, &["23", "17"])?;
    let figure = evaluate(bench.build()).figure(Figure::OIL_CLEARANCE, M(2)).cloned().ok_or("there")?;
    let another = figure.judged.as_ref().and_then(|j| j.another).map(|a| a.does);
    assert_eq!(another, Some(AnotherTouch::MayDecide), "{:?}", figure.judged);
    let left: Vec<u8> = figure.journal().positions.iter().map(|p| p.left).collect();
    assert_eq!(left.get(..4), Some([1, 1, 0, 0].as_slice()), "the thick end alone");
    Ok(())
}

/// A mic that reads a tenth more with every few journals it goes on, there and back again; nobody checks it out.
fn walked(rounds: bool) -> Result<Bench, Box<dyn std::error::Error>> {
    let mut bench = in_rounds()?;
    bench.rules(Rules { rounds, ..Rules::standard(Unit::Inch) }, "so")?;
    bench.take("mic-tenths");
    bench.open_session("mic-tenths", Some(("2.0000in", "2.0000in")))?;
    let there = (1..=7).zip([0, 0, 1, 1, 1, 2, 2]);
    for (n, by) in there.chain([(7, 2), (4, 3), (1, 3)]) {
        let text = format!("2.62{:02}", 40 + by);
        bench.journal(M(n), [text.as_str(); 4])?;
    }
    Ok(bench)
}

#[test]
fn a_gauge_that_walks_is_found_on_the_way_back_and_what_it_walked_is_taken_off() -> Outcome {
    let sizes = |rounds: bool| -> Result<Vec<Length>, Box<dyn std::error::Error>> {
        let assessed = evaluate(walked(rounds)?.build());
        let size = |n: u8| assessed.figure(Figure::OIL_CLEARANCE, M(n)).and_then(|f| f.journal().size.clone());
        Ok((1..=7).filter_map(size).map(|s| s.effective).collect())
    };
    let (in_rounds, at_once) = (sizes(true)?, sizes(false)?);
    let off = |sizes: &[Length]| sizes.iter().map(|s| (*s - t(26_240)).abs()).max().unwrap_or_default();
    assert!(off(&at_once) >= t(1) + Length::from_nm(1_270), "{at_once:?}");
    assert!(off(&in_rounds) < Length::from_nm(2_000), "{in_rounds:?}");
    Ok(())
}

#[test]
fn a_reading_that_is_put_on_top_tells_the_same_of_a_walk_as_the_whole_build() -> Outcome {
    let bench = walked(true)?;
    let journal = Characteristic::at(M(4), Role::JOURNAL).ok_or("it has one")?;
    let same = |record: &dyn Fn(&mut Bench) -> Outcome| -> Outcome {
        let mut with = bench.clone();
        record(&mut with)?;
        let fact = with.build().facts.last().cloned().ok_or("it was recorded")?;
        let at = (M(4), journal, (Read::Size, None));
        let on_top = along(bench.build(), 1, |along| {
            along.keep(fact);
            along.around(at)
        });
        assert!(on_top.is_some() && on_top == around(with.build(), at));
        Ok(())
    };
    // One that shows more of the walk, and a push that counts for nothing.
    same(&|bench| bench.journal(M(2), ["43", "", "", ""]).map(drop).map_err(Into::into))?;
    let void = |bench: &mut Bench| bench.pushes(Place::THRUST, Role::TRAVEL, &[&["0 90 12"]]).map(drop);
    same(&|bench| void(bench).map_err(Into::into))
}
