//! What is done to a part ends the evidence about it, in whatever order things happen.

use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{BearingRow, Place, PlaceKind, Read, Role, Scope};
use jagged_pin_core::evidence::EndingCause;
use jagged_pin_core::log::{CapSeat, FastenerKind, SetUp, TorqueStep, TorqueUnit, What, Work, WorkEvent};
use jagged_pin_core::maths::State;
use jagged_pin_core::record::{Refusal, impact};
use jagged_pin_core::sheet::Needs;
use jagged_pin_core::{Build, Length};
use jagged_pin_workbench::{Bench, patterns, person, torqued};
use proptest::prelude::*;

type Outcome = Result<(), Refusal>;

const M: fn(u8) -> Place = Place::main;
const R: fn(u8) -> Place = Place::rod;

/// A four with one rod to a pin: five mains, four pins, four rods, in inches.
fn bench() -> Bench {
    let known = patterns();
    let curlew = known.iter().find(|p| p.id == "curlew-24").unwrap_or(&known[0]);
    let mut bench = Bench::book_in(92, "T-92", curlew, 0, person("oduya")).unwrap_or_else(|e| unreachable!("{e}"));
    bench.take("bore-tenths");
    bench
}

fn measure(bench: &mut Bench, main: u8) -> Outcome {
    bench.journal(M(main), ["2.6238", "38", "38", "38"])?;
    bench.bore(M(main), Read::Dial, &["23", "23", "31", "31"]).map(drop)
}

fn studs() -> SetUp {
    let step = TorqueStep::Torque { tenths: 650, unit: TorqueUnit::PoundFoot };
    torqued(BearingRow::Mains, "set 12", vec![step])
}

fn judged(build: &Build, station: Place) -> Option<State> {
    evaluate(build).station(station).and_then(|s| s.judged.as_ref()).map(|j| j.state)
}

#[test]
fn a_polished_journal_no_longer_proves_its_clearance() -> Outcome {
    let mut bench = bench();
    measure(&mut bench, 4)?;
    assert_eq!(judged(bench.build(), M(4)), Some(State::In));
    bench.event(WorkEvent {
        work: Work::JournalPolished,
        on: Scope::One(M(4)),
        grits: vec![800, 1200, 1500],
        minutes: Some(25),
        ticks: vec![],
        note: "to take the blue off".into(),
    })?;
    let a = evaluate(bench.build());
    let m4 = a.station(M(4)).cloned();
    let stale = m4.as_ref().and_then(|s| s.stale.as_ref());
    assert_eq!(m4.as_ref().map(|s| s.judged.is_none()), Some(true));
    assert_eq!(stale.map(|s| (s.was.state, s.was.clearance - s.was.correction)), Some((State::In, Length::tenths(25))));
    let again = stale.map(|s| s.again.iter().map(|a| (a.station, a.part, a.touches)).collect::<Vec<_>>());
    // Four places by two touches; the bore itself still stands.
    assert_eq!(again, Some(vec![(M(4), Role::JOURNAL, 8)]));
    let needs = a.sign_off.blocks.iter().find(|b| b.station == M(4)).map(|b| b.needs);
    assert_eq!(needs, Some(Needs::MeasureAgain));
    bench.journal(M(4), ["2.6237", "37", "37", "37"])?;
    let fresh = evaluate(bench.build()).station(M(4)).and_then(|s| s.judged.clone());
    assert_eq!(fresh.map(|j| j.clearance - j.correction), Some(Length::tenths(26)));
    Ok(())
}

#[test]
fn a_ground_pin_ends_both_rods_that_run_on_it() -> Outcome {
    let known = patterns();
    let v6 = known.iter().find(|p| p.id == "whimbrel-31").unwrap_or(&known[0]);
    let mut bench = Bench::book_in(93, "T-93", v6, 0, person("oduya"))?;
    bench.take("bore-tenths");
    let mut both = ["96 96"; 8];
    both[0] = "2.2496 96";
    bench.size(Place::pin(2), Role::JOURNAL, &both)?;
    for rod in [3, 4] {
        bench.bore(R(rod), Read::Dial, &["21", "21", "29", "29"])?;
    }
    assert_eq!([3, 4].map(|r| judged(bench.build(), R(r))), [Some(State::In); 2]);
    bench.work(Work::JournalGround, Scope::Pins, "ten under")?;
    let a = evaluate(bench.build());
    let stale = [3, 4].map(|r| a.station(R(r)).is_some_and(|s| s.stale.is_some() && s.judged.is_none()));
    assert_eq!(stale, [true; 2]);
    // Each waits for its own track of one and the same journal.
    let pin = a.wanted.iter().filter(|w| w.station == Place::pin(2));
    assert_eq!(pin.map(|w| (w.track, w.left)).collect::<Vec<_>>(), [(Some(1), 8), (Some(2), 8)]);
    Ok(())
}

#[test]
fn bolts_for_studs_end_every_main_bore_and_say_so() -> Outcome {
    let mut bench = bench();
    bench.set_up(studs())?;
    measure(&mut bench, 1)?;
    measure(&mut bench, 2)?;
    bench.set_up(studs())?;
    assert_eq!(judged(bench.build(), M(1)), Some(State::In), "the same set-up again ends nothing");
    bench.set_up(SetUp { fastener: FastenerKind::Bolts, as_finished: false, ..studs() })?;
    let a = evaluate(bench.build());
    for main in [1, 2] {
        let because = a.station(M(main)).and_then(|s| s.stale.as_ref()).map(|s| s.because[0].cause.clone());
        assert!(matches!(because, Some(EndingCause::SetUp { row: BearingRow::Mains, .. })));
    }
    Ok(())
}

#[test]
fn a_turned_cap_ends_its_own_bore_only() -> Outcome {
    let mut bench = bench();
    bench.set_up(studs())?;
    measure(&mut bench, 2)?;
    measure(&mut bench, 3)?;
    let turned = CapSeat { station: M(3), cap: 3, forward: false };
    bench.set_up(SetUp { caps: vec![turned], ..studs() })?;
    assert_eq!([2, 3].map(|m| judged(bench.build(), M(m))), [Some(State::In), None]);
    Ok(())
}

#[test]
fn evidence_that_ended_twice_names_the_deed_that_ended_it_first() -> Outcome {
    let mut bench = bench();
    measure(&mut bench, 3)?;
    bench.work(Work::CapDeburred, Scope::One(M(3)), "dinged")?;
    bench.work(Work::TunnelHoned, Scope::Mains, "line honed")?;
    let stale = evaluate(bench.build()).station(M(3)).and_then(|s| s.stale.clone());
    let causes = stale.map(|s| s.because.iter().map(|b| b.cause.clone()).collect::<Vec<_>>());
    assert!(matches!(causes.as_deref(), Some([EndingCause::Work { event }]) if event.work == Work::CapDeburred));
    Ok(())
}

#[test]
fn work_is_refused_on_what_it_is_not_done_to() {
    let mut bench = bench();
    let refused = |r: Outcome| r.map_err(|e| e.code());
    assert_eq!(refused(bench.work(Work::TunnelHoned, Scope::One(M(2)), "x")), Err("work_elsewhere"));
    assert_eq!(refused(bench.work(Work::RodResized, Scope::One(M(2)), "x")), Err("work_elsewhere"));
    assert_eq!(refused(bench.work(Work::CapDeburred, Scope::One(M(9)), "x")), Err("no_such_station"));
    assert_eq!(refused(bench.work(Work::CapDeburred, Scope::One(M(2)), " ")), Err("unsound"));
}

/// Something that happens to the engine.
#[derive(Debug, Clone)]
enum Deed {
    Touch { station: Place, part: Role },
    Work { work: Work, on: Scope },
    SetUp { row: bool, lubricant: u8, turned: Option<u8> },
}

fn deed() -> impl Strategy<Value = Deed> {
    let station = prop_oneof![(1u8..=7).prop_map(M), (1u8..=6).prop_map(Place::pin), (1u8..=6).prop_map(R)];
    let part = prop::sample::select(vec![
        Role::JOURNAL,
        Role::HOUSING,
        Role::BORE,
        Role::UPPER_WALL,
        Role::LOWER_WALL,
        Role::STRIP,
    ]);
    let on = prop_oneof![
        2 => station.clone().prop_map(Scope::One),
        1 => prop::sample::select(vec![Scope::Mains, Scope::Pins, Scope::Rods, Scope::Crank]),
    ];
    let work = prop::sample::select(Work::ALL.to_vec());
    prop_oneof![
        8 => (station, part).prop_map(|(station, part)| Deed::Touch { station, part }),
        3 => (work, on).prop_map(|(work, on)| Deed::Work { work, on }),
        1 => (any::<bool>(), 0u8..2, prop::option::of(1u8..=6))
            .prop_map(|(row, lubricant, turned)| Deed::SetUp { row, lubricant, turned }),
    ]
}

fn attempt(bench: &mut Bench, deed: &Deed) -> Outcome {
    match deed {
        Deed::Touch { station, part } if *part == Role::BORE => {
            bench.bore(*station, Read::Dial, &["22", "22", "30", "30"]).map(drop)
        }
        Deed::Touch { station, part } => {
            let main = station.kind() == PlaceKind::Main;
            let text = match (part.name(), main) {
                ("journal", true) => "2.6238",
                ("journal", false) => "2.1238",
                ("housing", true) => "2.8150",
                ("housing", false) => "2.2490",
                ("strip", _) => "0.0025",
                (_, true) => "0.0942",
                (_, false) => "0.0612",
            };
            bench.size(*station, *part, &[text; 6]).map(drop)
        }
        Deed::Work { work, on } => bench.work(*work, *on, "done"),
        Deed::SetUp { row, lubricant, turned } => {
            let (row, place) = if *row { (BearingRow::Mains, M) } else { (BearingRow::Rods, R) };
            let caps = turned.map(|n| CapSeat { station: place(n), cap: n, forward: false });
            let caps = caps.into_iter().collect();
            bench.set_up(SetUp { row, lubricant: format!("oil {lubricant}"), caps, ..studs() })
        }
    }
}

/// Written out apart from the product's own table: what a deed ends, in the words of the trade.
fn ends(work: &WorkEvent, station: Place, part: Role) -> bool {
    use Work::{
        CapDeburred, CapReplaced, CapTurned, JournalGround, JournalPolished, JournalWelded, RodResized, ShellsCoated,
        ShellsFitted, ShellsNarrowed, TunnelHoned,
    };
    let here = match work.on {
        Scope::One(s) => s == station,
        Scope::Mains => station.kind() == PlaceKind::Main,
        Scope::Pins => station.kind() == PlaceKind::Pin,
        Scope::Rods => station.kind() == PlaceKind::Rod,
        Scope::Crank => station.kind() != PlaceKind::Rod,
        Scope::Cylinders | Scope::Block => false,
    };
    here && match work.work {
        JournalPolished | JournalGround | JournalWelded => part == Role::JOURNAL,
        CapDeburred | CapReplaced | CapTurned | TunnelHoned | RodResized => part == Role::HOUSING || part == Role::BORE,
        ShellsFitted | ShellsCoated | ShellsNarrowed => {
            part == Role::BORE || part == Role::UPPER_WALL || part == Role::LOWER_WALL
        }
        // Along the axis, the cam and the top end are told in tests of their own; a crank that is straightened keeps its
        // sizes.
        _ => false,
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    #[test]
    fn no_evidence_older_than_what_ended_it_ever_counts(deeds in prop::collection::vec(deed(), 1..40)) {
        let mut bench = bench();
        for deed in &deeds {
            // A pin has no housing, a tunnel is not one main: that is refused. Everything else happens.
            let refused = attempt(&mut bench, deed).err().map(|e| e.code());
            prop_assert!(matches!(refused, None | Some("no_such_feature" | "work_elsewhere")), "{deed:?}: {refused:?}");
        }
        let build = bench.finish();
        let a = evaluate(&build);
        for s in a.bearings() {
            for m in &s.measured {
                let (part, feature) = (m.role, &m.size);
                let place = if part == Role::JOURNAL { s.journal_at } else { s.station };
                let last = build.facts.iter().rev().find(|f| matches!(&f.what, What::Work(w) if ends(w, place, part)));
                let Some(barrier) = last.map(|f| f.seq) else { continue };
                for id in feature.positions.iter().flat_map(|p| &p.touches) {
                    let seq = build.facts.iter().find(|f| f.id == *id).map(|f| f.seq);
                    prop_assert!(seq > Some(barrier), "{place} {part:?}: {seq:?} counts after {barrier}");
                }
            }
        }
        prop_assert_eq!(build.check(), Ok(()));
    }
}

#[test]
fn what_a_deed_would_end_is_said_before_it_is_done() -> Outcome {
    let mut bench = bench();
    measure(&mut bench, 4)?;
    let event = WorkEvent {
        work: Work::JournalPolished,
        on: Scope::One(M(4)),
        grits: vec![],
        minutes: None,
        ticks: vec![],
        note: "x".into(),
    };
    let before = bench.build().clone();
    let foretold = impact(&before, person("oduya"), What::Work(event.clone()))?;
    let ended: Vec<_> = foretold.ended.iter().map(|e| (e.station, e.part, e.readings)).collect();
    assert_eq!((ended, foretold.clearances), (vec![(M(4), Role::JOURNAL, 4)], vec![M(4)]));
    assert_eq!(*bench.build(), before, "asking changes nothing");
    let refused = impact(&before, person("oduya"), What::Work(WorkEvent { on: Scope::One(R(1)), ..event }));
    assert_eq!(refused.map_err(|e| e.code()), Err("work_elsewhere"));
    Ok(())
}
