//! A build as the shop works on it: measured, judged, decided, signed, changed.

mod stock;

use jagged_pin_core::assess::{Assessment, evaluate};
use jagged_pin_core::build::BuildError;
use jagged_pin_core::engine::{Figure, Method, Place, Read};
use jagged_pin_core::figure::Finding;
use jagged_pin_core::log::{InspectedPart, SignerRole, What};
use jagged_pin_core::maths::{State, TargetRule};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::sheet::{Needs, Next, SealStatus};
use jagged_pin_core::{Build, Length};
use jagged_pin_workbench::{Bench, patterns, person};
use proptest::prelude::*;

type Outcome = Result<(), Box<dyn std::error::Error>>;

fn demo(code: &str) -> Build {
    stock::build(code).cloned().unwrap_or_else(|| unreachable!("the demo has {code}"))
}

fn bench(pattern: &str) -> Bench {
    let known = patterns();
    let mut pattern = known.iter().find(|p| p.id == pattern).unwrap_or(&known[0]).clone();
    // Mains only: the rods have their own tests.
    pattern.layout.rods = None;
    let mut bench = Bench::book_in(90, "T-90", &pattern, 0, person("oduya"))
        .unwrap_or_else(|e| unreachable!("{e}"))
        .without_gates();
    bench.take("bore-tenths");
    bench
}

fn main(number: u8) -> Place {
    Place::main(number)
}

fn state(a: &Assessment, number: u8) -> Option<State> {
    a.bearings().find(|s| s.station == main(number)).and_then(|s| s.judged.as_ref()).map(|j| j.state)
}

/// Journals at 2.6238 and bores at the given dial, zeroed at 2.6240, on every main from the front.
fn measured(dials: &[&str]) -> Result<Bench, Refusal> {
    let mut bench = bench("curlew-24");
    for (number, dial) in (1..).zip(dials) {
        bench.journal(main(number), ["2.6238 38", "38 38", "38 38", "38 38"])?;
        bench.bore(main(number), Read::Dial, &[&format!("{dial} {dial}"), &format!("{dial} {dial}")])?;
    }
    Ok(bench)
}

#[test]
fn a_station_is_open_until_every_place_that_counts_was_touched() -> Outcome {
    let mut bench = bench("curlew-24");
    bench.journal(main(1), ["2.6238", "38", "38", ""])?;
    bench.bore(main(1), Read::Dial, &["23", "23"])?;
    let a = evaluate(&bench.clone().finish());
    assert_eq!(state(&a, 1), None);
    assert_eq!(
        a.figures[0].methods.first().map(|m| (m.complete, m.clearance - m.correction)),
        Some((false, Length::tenths(25)))
    );
    bench.journal(main(1), ["", "", "", "38"])?;
    assert_eq!(state(&evaluate(&bench.finish()), 1), Some(State::In));
    Ok(())
}

#[test]
fn more_touches_prove_more() -> Outcome {
    let mut bench = bench("curlew-24");
    bench.journal(main(1), ["2.6238", "38", "38", "38"])?;
    bench.bore(main(1), Read::Dial, &["23", "23"])?;
    let expanded = |b: &Bench| evaluate(&b.clone().finish()).figures[0].judged.as_ref().map(|j| j.expanded);
    let once = expanded(&bench);
    bench.journal(main(1), ["38", "38", "38", "38"])?;
    bench.bore(main(1), Read::Dial, &["23", "23"])?;
    assert!(expanded(&bench) < once);
    Ok(())
}

#[test]
fn a_third_touch_is_asked_for_only_where_two_differ_by_more_than_a_step() -> Outcome {
    let mut bench = bench("curlew-24");
    bench.journal(main(1), ["2.6238 36", "38 37", "38", ""])?;
    let a = evaluate(&bench.finish());
    let left: Vec<u8> = a.figures[0].journal().positions.iter().map(|p| p.left).collect();
    assert_eq!(left, [1, 0, 1, 2]);
    let first = a.wanted.first().map(|w| (w.station.number(), a.figures[0].journal().positions[0].touches.len() + 1));
    assert_eq!(first, Some((1, 3)));
    Ok(())
}

#[test]
fn the_plan_goes_along_the_journals_and_then_along_the_bearings() {
    let a = evaluate(&demo("SL-046"));
    let asked = || a.wanted.iter().filter(|w| w.asked);
    let order: Vec<(bool, Place)> = asked().map(|w| (w.characteristic.row().reads_apart, w.station)).collect();
    // Mains sort before pins, and those before rods.
    assert!(order.is_sorted());
    // Seven journals and six pins of 4 places x 2; bores by either method: 2 x 2 and 2 advisory.
    assert_eq!(asked().map(|w| w.left).sum::<usize>(), 13 * 8 + 13 * 2 * 6);
}

#[test]
fn direct_is_preferred_and_both_methods_stay_in_view() {
    let a = evaluate(&demo("SL-041"));
    let m4 = &a.figures[3];
    assert_eq!(m4.judged.as_ref().map(|j| j.method), Some(Method::DIRECT));
    assert_eq!(m4.agreements.iter().map(|g| g.agree).collect::<Vec<_>>(), [true, true, true]);
    assert!(m4.methods[0].budget.expanded < m4.methods[1].budget.expanded);
}

#[test]
fn methods_that_disagree_are_said_to_and_never_averaged() -> Outcome {
    let mut bench = measured(&["23"])?;
    bench.bore(main(1), Read::Size, &["2.6268 68", "68 68"])?;
    let a = evaluate(&bench.finish());
    assert_eq!(a.figures[0].judged.as_ref().map(|j| j.clearance - j.correction), Some(Length::tenths(25)));
    assert!(a.figures[0].findings.contains(&Finding::MethodsDisagree {
        of: Method::DIRECT,
        with: Method::SUBTRACT,
        difference: Length::tenths(-5)
    }));
    Ok(())
}

#[test]
fn a_bore_that_narrows_toward_the_parting_line_is_remarked_on() -> Outcome {
    let mut bench = measured(&["23"])?;
    bench.bore(main(1), Read::Dial, &["", "", "22", "21"])?;
    let a = evaluate(&bench.finish());
    assert!(a.figures[0].findings.iter().any(|f| matches!(f, Finding::ReliefNotPositive { .. })));
    Ok(())
}

#[test]
fn the_zero_of_the_bore_gauge_may_move_between_two_touches() -> Outcome {
    let mut bench = bench("curlew-24");
    bench.journal(main(1), ["2.6238", "38", "38", "38"])?;
    bench.bore(main(1), Read::Dial, &["23"])?;
    bench.zero_at("2.6230");
    bench.bore(main(1), Read::Dial, &["", "33"])?;
    let judged = evaluate(&bench.finish()).figures[0].judged.clone();
    assert_eq!(judged.map(|j| j.clearance - j.correction), Some(Length::tenths(25)));
    Ok(())
}

#[test]
fn a_new_target_judges_everything_anew() -> Outcome {
    let mut bench = measured(&["23", "17"])?;
    assert_eq!(state(&evaluate(&bench.clone().finish()), 2), Some(State::Tight));
    let t = Length::tenths;
    let rule = TargetRule::PerDiameter { per_million: 750, adder: t(0), below: t(3), above: t(5) };
    bench.target(None, rule, "thin oil, light street use")?;
    let a = evaluate(&bench.clone().finish());
    // Three quarters of a thou per inch of 2.6240 is 0.001968: from 0.001668 to 0.002468.
    assert_eq!((state(&a, 1), state(&a, 2)), (Some(State::Edge), Some(State::In)));
    bench.target(Some(main(1)), TargetRule::Range { low: t(22), aim: None, high: t(28) }, "front main runs hotter")?;
    let a = evaluate(&bench.finish());
    assert_eq!((state(&a, 1), a.figures[0].target.as_ref().map(|t| t.own)), (Some(State::In), Some(true)));
    Ok(())
}

#[test]
fn struck_readings_count_no_more_and_cannot_be_struck_twice() -> Outcome {
    let mut bench = bench("curlew-24");
    bench.journal(main(1), ["2.6238", "38", "38", "38"])?;
    let wrong = bench.bore(main(1), Read::Dial, &["29", "23"])?;
    bench.strike(&wrong[..1], "dirt in the bore")?;
    assert_eq!(state(&evaluate(&bench.clone().finish()), 1), None);
    assert_eq!(bench.strike(&wrong[..1], "again"), Err(Refusal::AlreadyStruck));
    assert_eq!(bench.strike(&wrong[1..], "  "), Err(Refusal::NoReason));
    assert_eq!(bench.strike(&[uuid::Uuid::nil()], "somebody else's"), Err(Refusal::NoSuchReading));
    Ok(())
}

#[test]
fn what_blocks_is_listed_with_what_would_lift_it() {
    let a = evaluate(&demo("SL-041"));
    let blocks: Vec<(Place, Needs)> = a.sign_off.blocks.iter().map(|b| (b.station, b.needs)).collect();
    let expected = [
        (main(2), Needs::LeadConcession),
        (main(5), Needs::Concession),
        (main(6), Needs::Acknowledgement),
        (main(7), Needs::Measure),
        (Place::rod(2), Needs::MeasureAgain),
        (Place::rod(4), Needs::Measure),
        (Place::rod(5), Needs::Measure),
        (Place::rod(6), Needs::Measure),
    ];
    assert_eq!(blocks, expected);
    assert_eq!(a.sign_off.next, Next::Measure { station: main(7), open: 5 });
}

#[test]
fn a_concession_holds_for_its_figure_and_lapses_with_it() -> Outcome {
    let mut bench = measured(&["20"])?;
    bench.concede(main(1), "half a tenth, oil pressure will tell")?;
    assert!(evaluate(&bench.clone().finish()).figures[0].concession.is_some());
    // Another look at the journal changes nothing, and the acceptance stands.
    bench.look(main(1), InspectedPart::Journal, &[])?;
    assert!(evaluate(&bench.clone().finish()).figures[0].concession.is_some());
    bench.bore(main(1), Read::Dial, &["18 18 18"])?;
    let a = evaluate(&bench.finish());
    assert!(a.figures[0].concession.is_none());
    assert!(a.figures[0].findings.iter().any(|f| matches!(f, Finding::ConcessionLapsed { .. })));
    Ok(())
}

#[test]
fn a_decision_that_is_next_names_its_figure_and_what_was_kept_without_is_still_read() -> Outcome {
    let next = evaluate(&measured(&["30", "23", "23", "23", "23", "23", "23"])?.finish()).sign_off.next;
    let (station, needs) = (main(1), Needs::Concession);
    assert_eq!(next, Next::Decide { station, needs, figure: Some(Figure::OIL_CLEARANCE) });
    let kept: Next = serde_json::from_str(r#"{"kind":"decide","station":"M1","needs":"concession"}"#)?;
    assert_eq!(kept, Next::Decide { station, needs, figure: None });
    Ok(())
}

#[test]
fn a_station_that_is_in_has_nothing_to_concede() -> Outcome {
    let mut bench = measured(&["23"])?;
    assert_eq!(bench.concede(main(1), "why not"), Err(Refusal::NothingToConcede(main(1))));
    assert_eq!(bench.concede(main(2), "not measured"), Err(Refusal::NothingToConcede(main(2))));
    Ok(())
}

/// Seven mains in, ready to be signed.
fn ready() -> Result<Bench, Refusal> {
    measured(&["23"; 7])
}

#[test]
fn two_different_people_close_the_seal_and_a_later_reading_breaks_it() -> Outcome {
    let mut bench = ready()?;
    bench.sign(SignerRole::Assembler)?;
    assert_eq!(bench.sign(SignerRole::Assembler), Err(Refusal::AlreadySigned(SignerRole::Assembler)));
    assert_eq!(bench.sign(SignerRole::Checker), Err(Refusal::SamePerson));
    bench.hand_over(person("kell"), 5);
    bench.sign(SignerRole::Checker)?;
    let sealed = evaluate(&bench.clone().finish()).sign_off;
    assert_eq!((sealed.status, sealed.revision, sealed.signatures.len()), (SealStatus::Sealed, 1, 2));
    assert_eq!(bench.sign(SignerRole::Checker), Err(Refusal::AlreadySealed));

    bench.bore(main(1), Read::Dial, &["23"])?;
    let broken = evaluate(&bench.clone().finish()).sign_off;
    assert_eq!((broken.status, broken.revision, broken.signatures.len()), (SealStatus::Ready, 2, 0));
    assert_eq!(broken.broken.map(|b| b.signatures), Some(sealed.signatures));

    bench.sign(SignerRole::Checker)?;
    bench.hand_over(person("oduya"), 1);
    bench.sign(SignerRole::Assembler)?;
    let again = evaluate(&bench.clone().finish()).sign_off;
    assert_eq!((again.status, again.revision, again.broken), (SealStatus::Sealed, 2, None));
    assert_eq!(bench.finish().check(), Ok(()));
    Ok(())
}

#[test]
fn half_a_signature_lapses_when_something_is_recorded() -> Outcome {
    let mut bench = ready()?;
    bench.sign(SignerRole::Assembler)?;
    bench.bore(main(2), Read::Dial, &["23"])?;
    let sheet = evaluate(&bench.finish()).sign_off;
    assert_eq!((sheet.signatures.len(), sheet.broken.is_none()), (0, true));
    assert_eq!(sheet.next, Next::Sign { role: SignerRole::Assembler });
    Ok(())
}

#[test]
fn a_sheet_that_is_blocked_cannot_be_signed() -> Outcome {
    let mut bench = measured(&["23", "17"])?;
    assert!(matches!(bench.sign(SignerRole::Assembler), Err(Refusal::Blocked(blocks)) if blocks.len() == 6));
    Ok(())
}

#[test]
fn a_build_survives_its_own_json_and_keeps_its_assessment_and_its_seal() -> Outcome {
    for build in stock::builds() {
        let read: Build = serde_json::from_str(&serde_json::to_string(&build)?)?;
        assert_eq!(read.check(), Ok(()));
        assert_eq!(evaluate(&read), evaluate(build));
    }
    Ok(())
}

#[test]
fn a_file_that_was_tampered_with_says_where() -> Outcome {
    let sealed = serde_json::to_value(demo("SL-042"))?;
    let tampered = |change: &dyn Fn(&mut serde_json::Value)| -> Result<Result<(), BuildError>, serde_json::Error> {
        let mut copy = sealed.clone();
        change(&mut copy);
        serde_json::from_value::<Build>(copy).map(|b| b.check())
    };
    let at = |r: Result<(), BuildError>| match r {
        Err(BuildError::Fact { seq, .. }) => Some(seq),
        _ => None,
    };
    let facts = sealed["facts"].as_array().into_iter().flatten();
    let of_kind = |kind: &str| facts.clone().position(|f| f["what"]["kind"] == kind).unwrap_or_default();
    let (reading, signature) = (of_kind("reading"), of_kind("signature"));
    // A journal made a micron larger: the first signature no longer matches.
    let larger = tampered(&|b| b["facts"][reading]["what"]["measure"]["size"] = 59_992_000.into())?;
    assert_eq!(at(larger), u32::try_from(signature + 1).ok());
    let renumbered = tampered(&|b| b["facts"][4]["seq"] = 9.into())?;
    assert_eq!(at(renumbered), Some(9));
    let elsewhere = tampered(&|b| b["facts"][reading]["what"]["station"] = "M6".into())?;
    assert_eq!(at(elsewhere), u32::try_from(reading + 1).ok());
    let moved_limit = tampered(&|b| b["facts"][0]["what"]["rule"]["low"] = 95_000.into())?;
    assert_eq!(at(moved_limit), Some(1));
    assert_eq!(tampered(&|b| b["code"] = "../etc".into())?, Err(BuildError::Code));
    assert!(tampered(&|b| b["colour"] = "blue".into()).is_err());
    Ok(())
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    #[test]
    fn a_bore_made_wider_never_reads_tighter(dials in prop::collection::vec(10i64..36, 7), wider in 1i64..6) {
        let clearances = |off: i64| -> Option<Vec<Length>> {
            let texts: Vec<String> = dials.iter().map(|d| (d + off).to_string()).collect();
            let texts: Vec<&str> = texts.iter().map(String::as_str).collect();
            let build = measured(&texts).ok()?.finish();
            evaluate(&build).bearings().map(|s| s.judged.as_ref().map(|j| j.clearance)).collect()
        };
        let (before, after) = (clearances(0), clearances(wider));
        prop_assert!(before.is_some() && after.is_some());
        for (b, a) in before.iter().flatten().zip(after.iter().flatten()) {
            prop_assert_eq!(*a - *b, Length::tenths(wider));
        }
    }

    #[test]
    fn striking_everything_at_a_station_opens_it_and_nothing_else(number in 1u8..=7) {
        let mut bench = measured(&["23"; 7]).map_err(|e| TestCaseError::fail(e.to_string()))?;
        let build = bench.clone().finish();
        let here: Vec<_> = build.readings().filter(|(_, r)| r.station.number() == number).map(|(f, _)| f.id).collect();
        bench.strike(&here, "wrong crank on the stand").map_err(|e| TestCaseError::fail(e.to_string()))?;
        let build = bench.finish();
        let a = evaluate(&build);
        for s in a.bearings() {
            prop_assert_eq!(s.judged.is_none(), s.station == main(number));
        }
        // Nothing was lost: every reading is still among the facts.
        let kept = build.facts.iter().filter(|f| matches!(f.what, What::Reading(_))).count();
        prop_assert_eq!(kept, 7 * 12);
    }
}
