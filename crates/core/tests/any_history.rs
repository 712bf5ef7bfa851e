//! Whatever people do at the bench in whatever order: what was admitted stays consistent.

mod histories;
mod stock;
use std::collections::BTreeSet;

use histories::history;
use histories::later::history_of_today;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{Place, Read};
use jagged_pin_core::evidence::Notes;
use jagged_pin_core::log::{SignerRole, What};
use jagged_pin_core::machining::{damage_seen, grid_faces, hone_items, plan_bores};
use jagged_pin_core::maths::{State, TargetRule};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::sheet::{Needs, SealStatus};
use jagged_pin_core::{Build, Length};
use jagged_pin_workbench::{Bench, patterns, person};
use proptest::prelude::*;
use uuid::Uuid;

/// Something that somebody does.
#[derive(Debug, Clone)]
enum Deed {
    Journal { main: u8, tenths: i64 },
    Bore { main: u8, dial: i64, direct: bool },
    Strike { nth: usize },
    Target { main: Option<u8>, low: i64, wide: i64 },
    Concede { main: u8 },
    Sign { checker: bool, by: usize },
}

fn deed() -> impl Strategy<Value = Deed> {
    let main = 1u8..=4;
    prop_oneof![
        6 => (main.clone(), 26_235i64..26_242).prop_map(|(main, tenths)| Deed::Journal { main, tenths }),
        6 => (main.clone(), 17i64..32, any::<bool>()).prop_map(|(main, dial, direct)| Deed::Bore { main, dial, direct }),
        2 => (0usize..200).prop_map(|nth| Deed::Strike { nth }),
        1 => (prop::option::of(main.clone()), 15i64..28, -2i64..12).prop_map(|(main, low, wide)| Deed::Target { main, low, wide }),
        3 => main.prop_map(|main| Deed::Concede { main }),
        3 => (any::<bool>(), 0usize..3).prop_map(|(checker, by)| Deed::Sign { checker, by }),
    ]
}

/// Does it; refusals are part of life.
fn attempt(bench: &mut Bench, deed: &Deed) -> Result<(), Refusal> {
    let main = |n: u8| Ok::<Place, Refusal>(Place::main(n));
    let t = Length::tenths;
    match *deed {
        Deed::Journal { main, tenths } => {
            let text = t(tenths).show(jagged_pin_core::Unit::Inch);
            let text = text.trim_end_matches(" in");
            bench.journal(Place::main(main), [text; 4]).map(drop)
        }
        Deed::Bore { main, dial, direct } => {
            let (read, text) = match direct {
                true => (Read::Dial, dial.to_string()),
                false => (Read::Size, format!("2.6{:03}", 240 + dial)),
            };
            bench.bore(Place::main(main), read, &[&text, &text]).map(drop)
        }
        Deed::Strike { nth } => {
            let build = bench.clone().finish();
            let ids: Vec<Uuid> = build.readings().map(|(f, _)| f.id).collect();
            let reading = ids.get(nth % ids.len().max(1)).copied().unwrap_or_default();
            bench.strike(&[reading], "a slip")
        }
        Deed::Target { main: None, low, wide } => {
            bench.target(None, TargetRule::Range { low: t(low), aim: None, high: t(low + wide) }, "agreed anew")
        }
        Deed::Target { main: Some(n), low, wide } => bench.target(
            Some(main(n)?),
            TargetRule::Range { low: t(low), aim: None, high: t(low + wide) },
            "this main only",
        ),
        Deed::Concede { main: n } => bench.concede(main(n)?, "seen and accepted"),
        Deed::Sign { checker, by } => {
            bench.hand_over(person(["oduya", "kell", "harrow"][by % 3]), 1);
            bench.sign(if checker { SignerRole::Checker } else { SignerRole::Assembler })
        }
    }
}

/// A V6 with its four mains, after everything that was tried.
fn worked(deeds: &[Deed]) -> Option<Build> {
    let known = patterns();
    let curlew = known.iter().find(|p| p.id == "curlew-24")?;
    let mut pattern = known.iter().find(|p| p.id == "whimbrel-31")?.clone();
    pattern.layout.main_journal = curlew.layout.main_journal;
    pattern.target = curlew.target;
    pattern.layout.main_nominals = curlew.layout.main_nominals.clone();
    pattern.layout.rods = None;
    let mut bench = Bench::book_in(91, "T-91", &pattern, 0, person("harrow")).ok()?.without_gates();
    bench.take("bore-tenths");
    for deed in deeds {
        // Most are admitted, some are not; either way the build must stay sound.
        let _ = attempt(&mut bench, deed);
    }
    Some(bench.finish())
}

#[test]
fn the_histories_of_today_hold_every_later_kind_of_fact() {
    let kinds: BTreeSet<&str> = (0..60)
        .filter_map(|seed| history_of_today(seed, &histories::deeds(seed)))
        .flat_map(|build| build.facts.into_iter().map(|f| f.what.kind()))
        .collect();
    for kind in ["picture", "trial", "strokes", "checked", "mishap", "grid", "noted", "gauge_point", "look", "work"] {
        assert!(kinds.contains(kind), "no history has a {kind}: {kinds:?}");
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    #[test]
    fn every_history_is_consistent_and_survives_its_own_file(
        engine in 0u64..5,
        deeds in prop::collection::vec(any::<u64>(), 0..40),
    ) {
        let build = history(engine, &deeds);
        prop_assert!(build.is_some());
        if let Some(build) = build {
            prop_assert_eq!(build.check(), Ok(()));
            let text = serde_json::to_string(&build).unwrap_or_default();
            let read: Result<Build, _> = serde_json::from_str(&text);
            prop_assert!(read.is_ok_and(|b| b == build));
        }
    }

    #[test]
    fn whatever_is_looked_at_weighed_or_befalls_an_engine_its_record_stays_sound(
        engine in 0u64..5,
        deeds in prop::collection::vec(any::<u64>(), 0..60),
    ) {
        let Some(build) = history_of_today(engine, &deeds) else { return Err(TestCaseError::fail("no build")) };
        prop_assert_eq!(build.check(), Ok(()));
        let text = serde_json::to_string(&build).unwrap_or_default();
        let read: Result<Build, _> = serde_json::from_str(&text);
        prop_assert!(read.is_ok_and(|b| b == build));

        let a = evaluate(&build);
        // What is asked for is asked for at a place the engine has, each thing once.
        for (i, f) in a.forced.iter().enumerate() {
            prop_assert!(f.at.is_none_or(|at| build.layout.has(at)), "{:?}", f);
            prop_assert!(!a.forced[..i].contains(f), "{:?} is asked for twice", f);
        }
        for h in &a.hypotheses {
            // Whatever the checks said, what may be behind it comes to the whole, and a next check tells something.
            let shares: u32 = h.causes.iter().map(|c| u32::from(c.share)).sum();
            prop_assert!(h.causes.is_empty() || (97..=103).contains(&shares), "{:?}", h);
            prop_assert!(h.next.as_ref().is_none_or(|n| n.centibits > 0 && n.minutes > 0), "{:?}", h);
        }
        for (at, _, noted) in Notes::of_build(&build).all() {
            prop_assert!(build.layout.has(at) && noted.check().is_ok());
        }
        for face in grid_faces(&build, &a.figures) {
            prop_assert!(face.minimum_zone <= face.least_squares && face.minimum_zone >= Length::ZERO);
        }
        // A honer is never asked to take less than they can hold, nor to make a bore smaller.
        let tolerance = Length::tenths(1);
        if let Some(plan) = plan_bores(&build, &a.figures, tolerance, &[]) {
            for item in hone_items(&plan, build.unit) {
                prop_assert!(item.from.is_some_and(|from| item.to - from > tolerance), "{:?}", item);
            }
        }
        for damage in damage_seen(&build) {
            prop_assert!(damage.depth > Length::ZERO && build.layout.has(damage.at));
        }
    }

    #[test]
    fn a_seal_never_stands_over_something_that_blocks(deeds in prop::collection::vec(deed(), 0..60)) {
        let Some(build) = worked(&deeds) else { return Err(TestCaseError::fail("no build")) };
        let a = evaluate(&build);
        let sheet = &a.sign_off;
        if sheet.status == SealStatus::Sealed {
            prop_assert!(sheet.blocks.is_empty());
            prop_assert_eq!(sheet.signatures.len(), 2);
            prop_assert_ne!(sheet.signatures[0].by.id, sheet.signatures[1].by.id);
        }
        // Every main is either among the blocks, or in, or accepted.
        for s in a.bearings() {
            let blocked = sheet.blocks.iter().find(|b| b.station == s.station);
            let fine = s.judged.as_ref().is_some_and(|j| j.state == State::In) || s.concession.is_some();
            prop_assert_eq!(blocked.is_none(), fine);
            if blocked.is_some_and(|b| b.needs == Needs::Measure) {
                prop_assert!(s.judged.is_none());
            }
        }
    }

    #[test]
    fn struck_readings_and_what_they_said_change_nothing(deeds in prop::collection::vec(deed(), 1..30)) {
        let Some(build) = worked(&deeds) else { return Err(TestCaseError::fail("no build")) };
        let struck = build.struck();
        let mut without = build.clone();
        without.facts.retain(|f| !struck.contains(&f.id) && !matches!(f.what, What::Strike(_)));
        let figures = |b: &Build| evaluate(b).bearings().map(|s| s.judged.clone()).collect::<Vec<_>>();
        prop_assert_eq!(figures(&build), figures(&without));
    }

    #[test]
    fn nobody_can_change_a_sealed_record_unnoticed(nth in 0usize..70, nudge in 1i64..50) {
        let sealed = stock::build("SL-042");
        let mut value = serde_json::to_value(sealed).unwrap_or_default();
        let facts = value["facts"].as_array_mut().into_iter().flatten();
        let mut readings = facts.filter(|f| f["what"]["kind"] == "reading");
        let Some(fact) = readings.nth(nth) else { return Err(TestCaseError::fail("not that many readings")) };
        let measure = &mut fact["what"]["measure"];
        let field = if measure["kind"] == "dial" { "dial" } else { "size" };
        let was = measure[field].as_i64().unwrap_or(0);
        measure[field] = (was + nudge).into();
        let changed: Result<Build, _> = serde_json::from_value(value);
        prop_assert!(changed.is_ok_and(|b| b.check().is_err()));
    }
}
