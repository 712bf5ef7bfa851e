//! Sessions, methods side by side, temperatures, blind touches: what makes a figure believable.

use jagged_pin_core::assess::{Assessment, Suspicion, evaluate, evaluate_as_seen};
use jagged_pin_core::build::redacted;
use jagged_pin_core::engine::{Characteristic, Method, Place, Read, Role, Scope};
use jagged_pin_core::evidence::SessionProof;
use jagged_pin_core::figure::{ChosenBecause, DoubtSource, FigureAssessment, Finding, MethodResult};
use jagged_pin_core::log::{InspectedPart, Reckoning, Rules, RulesChange, Sign, What, Work};
use jagged_pin_core::maths::{SizeRule, State, Suspect};
use jagged_pin_core::record::{Refusal, TextRow, next_fact};
use jagged_pin_core::sheet::Needs;
use jagged_pin_core::units::Timestamp;
use jagged_pin_core::{Build, Length, Unit};
use jagged_pin_workbench::{Bench, patterns, person};
use uuid::Uuid;

type Outcome = Result<(), Refusal>;

const M: fn(u8) -> Place = Place::main;

fn bench() -> Bench {
    let known = patterns();
    let curlew = known.iter().find(|p| p.id == "curlew-24").unwrap_or(&known[0]);
    let mut bench = Bench::book_in(94, "T-94", curlew, 0, person("oduya")).unwrap_or_else(|e| unreachable!("{e}"));
    bench.take("bore-tenths");
    bench
}

fn journal(bench: &mut Bench, main: u8) -> Outcome {
    bench.journal(M(main), ["2.6238 38", "38 38", "38 38", "38 38"]).map(drop)
}

fn station(a: &Assessment, at: Place) -> &FigureAssessment {
    a.station(at).unwrap_or_else(|| unreachable!("the engine has {at}"))
}

fn with_rules(bench: Bench, rules: Rules) -> Result<Build, Refusal> {
    let mut build = bench.finish();
    let what = What::Rules(RulesChange {
        rules,
        reason: "agreed with the customer".into(),
        lifted: Vec::new(),
        loosened: Vec::new(),
    });
    let fact = next_fact(&build, Uuid::from_u128(7), Timestamp(i64::MAX / 2), person("harrow"), what)?;
    build.facts.push(fact);
    Ok(build)
}

#[test]
fn a_session_that_walked_a_little_is_corrected_by_the_time_that_had_passed() -> Outcome {
    let mut bench = bench();
    journal(&mut bench, 1)?;
    let session = bench.open_session("bore-tenths", Some(("2.6240 in", "0")))?;
    let first = bench.bore(M(1), Read::Dial, &["25", "25"])?;
    bench.close_session(session, Some(("2.6240 in", "1")))?;
    let values = |a: &Assessment| -> Vec<Length> {
        station(a, M(1)).bore(Read::Dial).positions.iter().filter_map(|p| p.value).collect()
    };
    let tenths = |n: i64| Length::tenths(26_240 + n);
    assert_eq!(first.len(), 2);
    // By the first reckoning: opened, two touches, closed, nine seconds apart each, so a third and two thirds of a tenth.
    let before = Rules { reckoning: Reckoning::First, ..Rules::standard(Unit::Inch) };
    let a = evaluate(&with_rules(bench.clone(), before)?);
    assert_eq!(a.sessions[0].proof, SessionProof::Corrected);
    assert_eq!(values(&a), [tenths(25) - Length::from_nm(847), tenths(25) - Length::from_nm(1_693)]);
    // A check is a touch like any other: two of them cannot tell a tenth from none, so nothing is taken off.
    let a = evaluate(bench.build());
    assert_eq!((a.sessions[0].proof, values(&a)), (SessionProof::Held, vec![tenths(25), tenths(25)]));
    let walk = |a: &Assessment| {
        let parts = station(a, M(1)).methods.first().map(|m| m.budget.parts.clone()).unwrap_or_default();
        parts.iter().find(|p| p.source == DoubtSource::Walk && p.of == Role::BORE).map(|p| p.standard)
    };
    // Nothing was taken off, and the way in between is unknown: anywhere up to a tenth to either side.
    assert_eq!(walk(&a).map(f64::round), Some((2_540.0 / 3f64.sqrt()).round()));
    Ok(())
}

#[test]
fn a_session_that_walked_too_far_is_repeated() -> Outcome {
    let mut bench = bench();
    journal(&mut bench, 1)?;
    let session = bench.open_session("bore-tenths", Some(("2.6240 in", "0")))?;
    bench.bore(M(1), Read::Dial, &["23 23", "23 23"])?;
    assert_eq!(station(&evaluate(bench.build()), M(1)).judged.as_ref().map(|j| j.state), Some(State::In));
    bench.close_session(session, Some(("2.6240 in", "-2")))?;
    let a = evaluate(bench.build());
    assert_eq!(a.sessions[0].proof, SessionProof::ThrownOut);
    assert!(station(&a, M(1)).judged.is_none() && station(&a, M(1)).stale.is_some());
    Ok(())
}

#[test]
fn a_gauge_is_checked_in_once_and_only_when_it_is_zeroed() -> Outcome {
    let mut bench = bench();
    let refused = |r: Result<Uuid, Refusal>| r.map_err(|e| e.code());
    assert_eq!(refused(bench.open_session("bore-tenths", Some(("2.6240 in", "2")))), Err("not_zeroed"));
    let session = bench.open_session("bore-tenths", None)?;
    assert_eq!(refused(bench.open_session("bore-tenths", None)), Err("session_open"));
    journal(&mut bench, 1)?;
    bench.bore(M(1), Read::Dial, &["25", "25"])?;
    let unproven = Finding::Unproven { part: Role::BORE };
    assert!(station(&evaluate(bench.build()), M(1)).findings.contains(&unproven));
    bench.close_session(session, None)?;
    assert_eq!(bench.close_session(session, None), Err(Refusal::NoSuchSession));
    Ok(())
}

#[test]
fn a_caliper_must_not_decide_and_a_gauge_past_due_is_named() -> Outcome {
    let mut bench = bench();
    // The caliper was due in October; the bench works in January 1970 by its clock, so only its step counts.
    bench.take("caliper-half-thou");
    bench.journal(M(1), ["2.6240 2.6240", "2.6240", "2.6240", "2.6240"])?;
    bench.bore(M(1), Read::Dial, &["25 25", "25 25"])?;
    let a = evaluate(bench.build());
    let m1 = station(&a, M(1));
    assert_eq!(m1.judged.as_ref().map(|j| (j.state, j.decidable)), Some((State::Edge, false)));
    // Six tenths of window, half a thou a step: 1.2 to 1.
    let coarse = Finding::TooCoarse { part: Role::JOURNAL, gauge: "Caliper, half thou".into(), ratio_tenths: 12 };
    assert!(m1.findings.contains(&coarse));
    Ok(())
}

#[test]
fn components_by_the_book_are_a_band_and_by_the_mic_a_figure() -> Outcome {
    let mut bench = bench();
    journal(&mut bench, 4)?;
    bench.size(M(4), Role::HOUSING, &["2.8150", "50", "50", "50", "50", "50"])?;
    let components = |b: &Bench| {
        station(&evaluate(b.build()), M(4)).methods.iter().find(|m| m.method == Method::COMPONENTS).cloned()
    };
    // 2.8150 - 2 x 0.0943 - 2.6238 = 0.0026; walls may be three tenths thinner each.
    let by_book = components(&bench);
    let t = Length::tenths;
    let as_read = |m: &MethodResult| (m.low - m.correction, m.clearance - m.correction, m.high - m.correction);
    assert_eq!(by_book.as_ref().map(as_read), Some((t(26), t(29), t(32))));
    assert!(by_book.is_some_and(|m| m.budget.parts.iter().any(|p| p.source == DoubtSource::Catalogue)));
    bench.size(M(4), Role::UPPER_WALL, &["0.0942"])?;
    bench.size(M(4), Role::LOWER_WALL, &["0.0942"])?;
    assert_eq!(components(&bench).as_ref().map(as_read), Some((t(28), t(28), t(28))));
    Ok(())
}

#[test]
fn by_the_rule_of_the_mean_components_pick_no_end() -> Outcome {
    let mut bench = bench();
    journal(&mut bench, 4)?;
    // Four tenths wider at the front: the mean of all places, not the narrow rear.
    bench.size(M(4), Role::HOUSING, &["2.8154", "54", "54", "2.8150", "50", "50"])?;
    let rules = Rules { effective: SizeRule::Mean, ..Rules::standard(Unit::Inch) };
    let a = evaluate(&with_rules(bench, rules)?);
    let components = station(&a, M(4)).methods.iter().find(|m| m.method == Method::COMPONENTS);
    // 2.8152 - 2 x 0.0943 - 2.6238.
    assert_eq!(components.map(|m| (m.low, m.correction)), Some((Length::tenths(28), Length::ZERO)));
    Ok(())
}

#[test]
fn the_book_judges_nothing_unless_the_rules_say_so() -> Outcome {
    let mut bench = bench();
    journal(&mut bench, 4)?;
    bench.size(M(4), Role::HOUSING, &["2.8146", "46", "46", "46", "46", "46"])?;
    bench.size(M(4), Role::STRIP, &["0.0025", "0.0025"])?;
    assert_eq!(station(&evaluate(bench.build()), M(4)).judged, None);
    let rules = Rules { preferred: Method::COMPONENTS, ..Rules::standard(Unit::Inch) };
    let a = evaluate(&with_rules(bench.clone(), rules)?);
    let judged = station(&a, M(4)).judged.as_ref();
    assert_eq!(judged.map(|j| (j.method, j.because)), Some((Method::COMPONENTS, ChosenBecause::Preferred)));
    let rules = Rules { strip_judges: true, ..Rules::standard(Unit::Inch) };
    let a = evaluate(&with_rules(bench, rules)?);
    let judged = station(&a, M(4)).judged.as_ref();
    assert_eq!(judged.map(|j| (j.method, j.because)), Some((Method::STRIP, ChosenBecause::ProvesMost)));
    Ok(())
}

#[test]
fn disagreement_names_what_could_explain_it_by_share() -> Outcome {
    let mut bench = bench();
    journal(&mut bench, 1)?;
    bench.bore(M(1), Read::Dial, &["25 25", "25 25"])?;
    bench.bore(M(1), Read::Size, &["2.6271 71", "71 71"])?;
    let a = evaluate(bench.build());
    let agreement = &station(&a, M(1)).agreements[0];
    assert!(!agreement.agree && agreement.en.is_some_and(|en| en > 1.0));
    let before = Rules { reckoning: Reckoning::First, ..Rules::standard(Unit::Inch) };
    let by_size = evaluate(&with_rules(bench.clone(), before)?);
    let suspects = &station(&by_size, M(1)).agreements[0].suspects;
    let shares: Vec<f64> = suspects.iter().map(|s| s.contribution.share).collect();
    assert!(shares.is_sorted_by(|a, b| a >= b) && (shares.iter().sum::<f64>() - 1.0).abs() < 1e-9);
    // The mic's scale is in the subtraction only, and so is the gauge's.
    assert_eq!(suspects[0].contribution.source, DoubtSource::Calibration);
    // One bearing of one row: what may be wrong everywhere is not told from what is wrong here.
    assert!(agreement.suspects.iter().any(|s| s.everywhere) && agreement.suspects.iter().any(|s| !s.everywhere));
    // A mic over, a bore gauge under and a wrong zero do the same to a row: they are named together, one after the other.
    let tied: Vec<usize> = (0..).zip(&agreement.suspects).filter(|(_, s)| s.tied).map(|(i, _)| i).collect();
    assert!(tied.len() >= 2 && tied.windows(2).all(|w| w[1] == w[0] + 1), "{:?}", agreement.suspects);
    assert!(suspects.iter().all(|s| !s.tied), "by the rules of before nothing is tied");
    Ok(())
}

#[test]
fn a_bearing_that_tapers_more_than_its_parts_is_looked_at_for_dirt_first() -> Outcome {
    let mut bench = bench();
    journal(&mut bench, 3)?;
    bench.bore(M(3), Read::Dial, &["27 27", "19 19", "34", "34"])?;
    let taper = |b: &Bench| {
        station(&evaluate(b.build()), M(3)).findings.iter().find_map(|f| match f {
            Finding::TaperOverBearing { taper, suspects, .. } => Some((*taper, suspects.clone())),
            _ => None,
        })
    };
    let found = taper(&bench);
    assert_eq!(found.as_ref().map(|(taper, _)| *taper), Some(Length::tenths(8)));
    let suspects = found.map(|(_, s)| s).unwrap_or_default();
    use Suspect::{Burr, Dirt, HousingUnknown, MisSeatedShell, Shell};
    assert_eq!(suspects, [Dirt, Burr, MisSeatedShell, HousingUnknown, Shell]);
    // A housing that tapers as much explains it.
    bench.size(M(3), Role::HOUSING, &["2.8154", "54", "54", "2.8147", "47", "47"])?;
    assert_eq!(taper(&bench), None);
    Ok(())
}

#[test]
fn a_journal_ground_under_is_known_by_its_size_and_its_walls_grow_with_it() -> Outcome {
    let mut bench = bench();
    bench.journal(M(1), ["2.6138", "38", "38", "38"])?;
    bench.size(M(1), Role::HOUSING, &["2.8150", "50", "50", "50", "50", "50"])?;
    let a = evaluate(bench.build());
    let m1 = station(&a, M(1));
    let class = m1.class.map(|c| (c.undersize, c.worn));
    assert_eq!(class, Some((Some(Length::tenths(100)), Some(Length::tenths(2)))));
    // Walls of ten under are five thou thicker each: the same band as for a standard journal.
    let components = m1.methods.iter().find(|m| m.method == Method::COMPONENTS).map(|m| m.low - m.correction);
    assert_eq!(components, Some(Length::tenths(26)));
    assert!(a.hypotheses.iter().any(|h| h.suspicion == Suspicion::RegroundBefore));
    assert_eq!((a.rows[0].undersize, a.rows[0].mixed_undersizes), (Some(Length::tenths(100)), false));
    bench.journal(M(2), ["2.6238", "2.6238", "2.6238", "2.6238"])?;
    assert!(evaluate(bench.build()).rows[0].mixed_undersizes);
    Ok(())
}

#[test]
fn a_nail_that_catches_stops_the_sheet_until_the_journal_is_ground() -> Outcome {
    let mut bench = bench();
    bench.look(M(2), InspectedPart::Journal, &[Sign::CatchesNail])?;
    let needs = |b: &Bench| evaluate(b.build()).sign_off.blocks.iter().find(|b| b.station == M(2)).map(|b| b.needs);
    assert_eq!(needs(&bench), Some(Needs::Grinder));
    let stop = evaluate(bench.build()).hypotheses.into_iter().find(|h| h.suspicion == Suspicion::StopJournal);
    assert_eq!(stop.map(|h| h.stations), Some(vec![M(2)]));
    bench.work(Work::JournalGround, Scope::Mains, "ten under")?;
    assert_eq!(needs(&bench), Some(Needs::Measure));
    Ok(())
}

#[test]
fn wear_patterns_suggest_what_the_trade_would_suspect() -> Outcome {
    let mut bench = bench();
    let suspicions = |b: &Bench| evaluate(b.build()).hypotheses.iter().map(|h| h.suspicion).collect::<Vec<_>>();
    for (rod, sign) in (1..).zip([Sign::EdgeFront, Sign::EdgeRear, Sign::EdgeFront]) {
        bench.look(Place::rod(rod), InspectedPart::Upper, &[sign])?;
    }
    assert_eq!(suspicions(&bench), [Suspicion::BentRod]);
    for rod in 1..=4 {
        bench.look(Place::rod(rod), InspectedPart::Upper, &[Sign::BothEdges])?;
    }
    assert_eq!(suspicions(&bench), [Suspicion::ShellsOnFillet]);
    bench.look(M(2), InspectedPart::Upper, &[Sign::Wiped])?;
    bench.look(M(3), InspectedPart::Lower, &[Sign::Wiped])?;
    assert!(suspicions(&bench).contains(&Suspicion::CrankOrTunnel));
    Ok(())
}

#[test]
fn whoever_measures_blind_reads_everything_else_as_everybody_does() -> Result<(), Box<dyn std::error::Error>> {
    let mut bench = bench();
    // The second main is read by a restless hand: what is known of the hand changes without it.
    for (main, places) in [(1, ["2.6238 38", "38 38", "38 38", "38 38"]), (2, ["2.6236 41", "36 40", "41 36", "40 36"])]
    {
        bench.journal(M(main), places)?;
    }
    bench.bore(M(1), Read::Dial, &["22 22", "22 22"])?;
    bench.ask_blind(person("kell"), M(2), Role::JOURNAL)?;
    let whole = evaluate(bench.build());
    let (seen, shown) = evaluate_as_seen(bench.build(), person("kell").id).ok_or("a journal is hidden")?;
    let doubt = |a: &Assessment| station(a, M(1)).judged.as_ref().map(|j| (j.clearance, j.expanded, j.state));
    assert_eq!(doubt(&shown), doubt(&whole));
    assert_ne!(doubt(&evaluate(&seen)), doubt(&whole), "left out before, it changed its neighbour");
    assert!(station(&shown, M(2)).journal().size.is_none(), "what is hidden stays hidden");
    assert_eq!(evaluate_as_seen(bench.build(), person("wick").id), None);
    Ok(())
}

#[test]
fn a_blind_touch_sees_nothing_of_the_first_and_is_compared_when_done() -> Outcome {
    let mut bench = bench();
    journal(&mut bench, 2)?;
    assert_eq!(bench.ask_blind(person("oduya"), M(2), Role::JOURNAL), Err(Refusal::OwnReadings(person("oduya").name)));
    assert_eq!(bench.ask_blind(person("kell"), M(3), Role::JOURNAL), Err(Refusal::NothingToCompare));
    bench.ask_blind(person("kell"), M(2), Role::JOURNAL)?;
    let seen = redacted(bench.build(), person("kell").id);
    let hidden = seen.as_ref().map(|b| b.readings().filter(|(_, r)| r.station == M(2)).count());
    assert_eq!(hidden, Some(0));
    assert!(seen.is_some_and(|b| evaluate(&b).station(M(2)).is_some_and(|s| s.journal().size.is_none())));
    assert!(redacted(bench.build(), person("wick").id).is_none());
    bench.hand_over(person("kell"), 5);
    bench.journal(M(2), ["2.6241 41", "41", "41", ""])?;
    assert!(redacted(bench.build(), person("kell").id).is_some());
    bench.journal(M(2), ["", "", "", "41"])?;
    assert!(redacted(bench.build(), person("kell").id).is_none());
    let a = evaluate(bench.build());
    let touch = &a.blind[0];
    // Three tenths apart with one mic of a tenth: feel and step do not explain that.
    assert_eq!(touch.comparison.map(|c| (c.difference, c.agree)), Some((Length::tenths(-3), false)));
    assert_eq!(touch.characteristic, Characteristic::MAIN_JOURNAL);
    let needs = a.sign_off.blocks.iter().find(|b| b.station == M(2)).map(|b| b.needs);
    assert_eq!(needs, Some(Needs::Settle));
    // The first values alone count for the size.
    assert_eq!(station(&a, M(2)).journal().size.as_ref().map(|s| s.effective), Some(Length::tenths(26_238)));
    Ok(())
}

#[test]
fn rows_of_a_file_mean_what_they_would_mean_typed_one_after_the_other() {
    let bench = bench();
    let row = |line, station: &str, feature: &str, reading: &str| TextRow {
        line,
        station: station.into(),
        characteristic: feature.into(),
        axial: "front".into(),
        angle: "0".into(),
        track: String::new(),
        part: String::new(),
        read: if feature == "main_bearing" { "direct".into() } else { String::new() },
        reference: "2.6240".into(),
        gauge: if feature == "main_bearing" { "bore-tenths".into() } else { "mic-tenths".into() },
        reading: reading.into(),
    };
    let rows = [
        row(2, "M1", "main_journal", "2.6139"),
        row(3, "M2", "main_journal", "38"),
        row(4, "M2", "main_journal", ""),
        row(5, "M9", "main_journal", "38"),
        row(6, "M1", "main_bearing", "-79"),
        row(7, "M1", "main_bore", "23"),
    ];
    let read = jagged_pin_core::record::read_rows(
        bench.build(),
        &person("wick"),
        &rows,
        Unit::Inch,
        Uuid::from_u128(1_000),
        Timestamp(5),
    );
    let sizes: Vec<_> = read.iter().map(|r| r.read.as_ref().map(|(_, u)| u.reading.measure.size()).ok()).collect();
    let t = Length::tenths;
    // The second tail follows the first full entry: ten under, like the first journal.
    assert_eq!(sizes, [Some(t(26_139)), Some(t(26_138)), None, Some(t(26_161)), None]);
    assert_eq!(read.iter().map(|r| r.line).collect::<Vec<_>>(), [2, 3, 5, 6, 7], "a row without a reading is left out");
    let ids: Vec<_> = read.iter().filter_map(|r| r.read.as_ref().ok()).map(|(f, _)| f.id.as_u128()).collect();
    assert_eq!(ids, [1_000, 1_001, 1_002]);
    let why = read.iter().filter_map(|r| r.read.as_ref().err());
    assert!(why.clone().any(|w| w.contains("M9")) && why.clone().any(|w| w.contains("main_bore")));
}
