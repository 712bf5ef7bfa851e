//! Whatever people do at the bench in whatever order: what was admitted stays consistent.

mod histories;
mod stock;
use histories::history;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{Place, Read};
use jagged_pin_core::log::{SignerRole, What};
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
    let mut bench = Bench::book_in(91, "T-91", &pattern, 0, person("harrow")).ok()?;
    bench.take("bore-tenths");
    for deed in deeds {
        // Most are admitted, some are not; either way the build must stay sound.
        let _ = attempt(&mut bench, deed);
    }
    Some(bench.finish())
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
