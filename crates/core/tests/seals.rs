//! What a seal notices, what came from elsewhere, and what only the lead may lift.

mod stock;

use jagged_pin_core::assess::evaluate;
use jagged_pin_core::build::BuildError;
use jagged_pin_core::engine::{Place, Read};
use jagged_pin_core::log::{Fact, Imported, Measure, RulesChange, SignerRole, What};
use jagged_pin_core::maths::{Acceptance, TargetRule};
use jagged_pin_core::record::{Capabilities, Refusal, next_fact};
use jagged_pin_core::sheet::{
    Ledger, LedgerEntry, LedgerKind, LedgerLine, SealFlaw, SealKey, SealStatus, prove, seal_digest,
};
use jagged_pin_core::units::Timestamp;
use jagged_pin_core::{Build, Length};
use jagged_pin_workbench::{Bench, patterns, person};
use proptest::prelude::*;
use uuid::Uuid;

type Outcome = Result<(), Box<dyn std::error::Error>>;

const BEFORE: Timestamp = Timestamp(0);

fn key() -> SealKey {
    SealKey::new([9; 32], BEFORE)
}

/// A sealed build of the demo with the shop's marks on its signatures.
fn sealed() -> Build {
    let mut build = stock::build("SL-042").cloned().unwrap_or_else(|| unreachable!("the demo has it"));
    build.facts.iter_mut().for_each(|fact| key().put_on(fact));
    build
}

fn first(build: &Build, kind: &str) -> usize {
    build.facts.iter().position(|f| f.what.kind() == kind).unwrap_or_else(|| unreachable!("it has a {kind}"))
}

/// Makes the digests again as somebody can who writes into the database and has no key.
fn reseal(build: &mut Build) {
    let mut so_far = build.without_facts();
    for fact in &mut build.facts {
        let digest = seal_digest(&so_far, fact);
        if let What::Signature(s) = &mut fact.what {
            s.digest = digest;
        }
        so_far.facts.push(fact.clone());
    }
}

type Change = fn(&mut Build);

/// What can be done to a sealed build behind its back.
const TAMPERINGS: [(&str, Change); 11] = [
    ("a size", |b| {
        let at = first(b, "reading");
        if let What::Reading(r) = &mut b.facts[at].what {
            r.measure = Measure::Size { size: r.measure.size() - Length::tenths(10) };
        }
    }),
    ("whose reading it is", |b| {
        let at = first(b, "reading");
        b.facts[at].by = person("harrow");
    }),
    ("a name under a reading", |b| {
        let at = first(b, "reading");
        b.facts[at].by.name = "Somebody Else".into();
    }),
    ("the signer", |b| {
        let assembler = b.facts[first(b, "signature")].by.clone();
        if let Some(last) = b.facts.iter_mut().rev().find(|f| matches!(f.what, What::Signature(_))) {
            last.by = assembler;
        }
    }),
    ("all digests", |b| {
        for fact in &mut b.facts {
            if let What::Signature(s) = &mut fact.what {
                s.digest = "0".repeat(64);
            }
        }
    }),
    ("a reading is gone", |b| {
        let at = first(b, "reading");
        b.facts.remove(at);
    }),
    ("the last fact is gone", |b| {
        b.known_to = b.seq();
        b.facts.pop();
    }),
    ("a reading is added", |b| {
        let at = first(b, "reading");
        let more = Fact { id: Uuid::from_u128(5), ..b.facts[at].clone() };
        b.facts.insert(at, more);
    }),
    ("the engine", |b| b.engine.push_str(" II")),
    ("the rules", |b| b.rules.acceptance = Acceptance::Simple),
    ("every mark", |b| {
        for fact in &mut b.facts {
            if let What::Signature(s) = &mut fact.what {
                s.mark = None;
            }
        }
    }),
];

#[test]
fn a_build_that_nobody_touched_proves_whole_with_its_key_and_without() {
    let build = sealed();
    assert_eq!(evaluate(&build).sign_off.status, SealStatus::Sealed);
    for key in [Some(key()), None] {
        let proof = prove(&build, key.as_ref());
        assert!(proof.holds() && proof.before_key.is_empty(), "{proof:?}");
    }
}

#[test]
fn every_way_to_change_a_sealed_build_is_noticed() {
    for (what, change) in TAMPERINGS {
        let mut build = sealed();
        change(&mut build);
        assert!(!prove(&build, Some(&key())).holds(), "{what}");
    }
}

#[test]
fn whoever_makes_the_digests_again_lacks_the_key() {
    // Digests that were made again are those of before where nothing else was changed.
    for (what, change) in TAMPERINGS.into_iter().filter(|(what, _)| *what != "all digests") {
        let mut build = sealed();
        change(&mut build);
        reseal(&mut build);
        let proof = prove(&build, Some(&key()));
        assert!(!proof.holds(), "{what}");
    }
}

#[test]
fn a_seal_of_before_the_key_holds_and_says_so() {
    let build = stock::build("SL-042").cloned().unwrap_or_else(|| unreachable!("the demo has it"));
    let late = SealKey::new([9; 32], Timestamp(i64::MAX));
    let proof = prove(&build, Some(&late));
    assert!(proof.holds());
    assert_eq!(proof.before_key.len(), 2);
    // Made since, without a mark: by somebody who has no key.
    let flaws = prove(&build, Some(&key())).faults;
    assert!(flaws.iter().all(|f| matches!(f.flaw, SealFlaw::NotOurs { .. })) && flaws.len() == 2, "{flaws:?}");
}

#[test]
fn the_ledger_knows_which_seals_there_were_before_the_key() {
    let genuine = stock::build("SL-042").cloned().unwrap_or_else(|| unreachable!("the demo has it"));
    let late = SealKey::new([9; 32], Timestamp(i64::MAX));
    let mut lines: Vec<LedgerLine> = Vec::new();
    let mut put = |entry| {
        let before = lines.last().map_or((0, ""), |l| (l.number, l.link.as_str()));
        lines.push(LedgerLine::after(before, entry, &late));
    };
    for fact in &genuine.facts {
        let What::Signature(s) = &fact.what else { continue };
        let (about, text) = (genuine.id, s.digest.clone());
        put(LedgerEntry { kind: LedgerKind::TakenOver, about, seq: fact.seq, text, at: fact.at });
        let named = LedgerEntry::about(fact.by.id, LedgerKind::Named, fact.at);
        put(LedgerEntry { text: fact.by.name.clone(), ..named });
    }
    let ledger = Ledger::of(&lines, &late);
    assert_eq!((ledger.faults.len(), ledger.taken_over, ledger.signatures_of(genuine.id)), (0, 2, 2));
    let called = |_| None;
    assert_eq!(ledger.faults_of(&genuine, &late, called), []);
    // A size that was changed, under digests that were made again and bear no mark: by its own facts it was before the key.
    let mut forged = genuine.clone();
    let (_, change) = TAMPERINGS[0];
    change(&mut forged);
    reseal(&mut forged);
    assert!(prove(&forged, Some(&late)).holds());
    let flaws: Vec<SealFlaw> = ledger.faults_of(&forged, &late, called).into_iter().map(|f| f.flaw).collect();
    assert!(flaws.iter().any(|f| matches!(f, SealFlaw::NotInLedger { .. })), "{flaws:?}");
    assert!(flaws.contains(&SealFlaw::SignatureGone), "{flaws:?}");
    let renamed = ledger.faults_of(&genuine, &late, |_| Some("Somebody Else".into()));
    assert!(renamed.len() == 2 && renamed.iter().all(|f| matches!(f.flaw, SealFlaw::Renamed { .. })), "{renamed:?}");
}

/// What becomes of a build that was read from a file here.
fn imported(mut build: Build, ours: u32) -> Result<Build, Refusal> {
    let what = What::Imported(Imported { file: "a".repeat(64), facts: build.seq(), ours });
    let fact = next_fact(&build, Uuid::from_u128(8), Timestamp(build.opened_at.0 + 1), person("wick"), what)?;
    build.facts.push(fact);
    Ok(build)
}

#[test]
fn signatures_of_a_file_are_not_this_shops_unless_they_carry_its_mark() -> Outcome {
    let sheet = evaluate(&imported(sealed(), 0)?).sign_off;
    assert_ne!(sheet.status, SealStatus::Sealed);
    assert_eq!((sheet.signatures.len(), sheet.elsewhere.len()), (0, 2));
    assert_eq!(sheet.imported.map(|i| i.by.name), Some(person("wick").name));

    let own = sealed();
    let ours = key().marked_up_to(&own.facts);
    assert_eq!(ours, own.seq());
    let sheet = evaluate(&imported(own, ours)?).sign_off;
    assert_eq!((sheet.status, sheet.signatures.len(), sheet.elsewhere.len()), (SealStatus::Sealed, 2, 0));
    assert_eq!(SealKey::new([1; 32], BEFORE).marked_up_to(&sealed().facts), 0);
    Ok(())
}

#[test]
fn an_acceptance_of_a_file_lifts_nothing_here() -> Outcome {
    let mut bench = seven("20")?;
    for number in 1..=7 {
        bench.concede(Place::main(number), "half a tenth, oil pressure will tell")?;
    }
    let build = bench.finish();
    assert!(evaluate(&build).sign_off.blocks.is_empty());
    let here = evaluate(&imported(build, 0)?);
    assert_eq!(here.sign_off.blocks.len(), 7);
    let shown = here.bearings().filter_map(|f| f.concession.as_ref()).filter(|c| c.elsewhere).count();
    assert_eq!(shown, 7, "it is still shown, as what the file says");
    Ok(())
}

/// Seven mains with bores at that dial over 2.6240 and journals at 2.6238.
fn seven(dial: &str) -> Result<Bench, Refusal> {
    let known = patterns();
    let mut pattern = known.iter().find(|p| p.id == "curlew-24").unwrap_or(&known[0]).clone();
    pattern.layout.rods = None;
    let mut bench = Bench::book_in(91, "T-91", &pattern, 1_000, person("oduya"))?.without_gates();
    bench.take("bore-tenths");
    for number in 1..=7 {
        bench.journal(Place::main(number), ["2.6238 38", "38 38", "38 38", "38 38"])?;
        bench.bore(Place::main(number), Read::Dial, &[&format!("{dial} {dial}"), &format!("{dial} {dial}")])?;
    }
    Ok(bench)
}

fn range(low: i64, high: i64) -> TargetRule {
    let [low, high] = [low, high].map(Length::tenths);
    TargetRule::Range { low, aim: None, high }
}

#[test]
fn a_target_that_lifts_what_is_tight_is_the_leads_and_keeps_what_it_was() -> Outcome {
    let mut bench = seven("12")?;
    let before = evaluate(bench.build());
    let was = before.bearings().next().and_then(|f| f.judged.clone()).ok_or("judged")?;
    bench.target(Some(Place::main(1)), range(2, 28), "the maker's sheet")?;
    let build = bench.build();
    let what = &build.facts.last().ok_or("a fact")?.what;
    let [lifted] = what.lifted() else { return Err(format!("{:?}", what.lifted()).into()) };
    assert_eq!((lifted.station, lifted.value), (Place::main(1), was.clearance));
    let assembler = Capabilities { set_targets: true, concede: true, ..Capabilities::default() };
    assert!(!assembler.allow(what));
    assert!(Capabilities { concede_tight: true, ..assembler }.allow(what));
    assert_eq!(evaluate(build).sign_off.lifted.len(), 1);
    // What was sent is still known as that.
    let sent = what.clone().lifting(Vec::new());
    assert!(what.is_as_sent(&sent) && *what != sent);

    // A narrower window lifts nothing, and neither does one elsewhere.
    bench.target(Some(Place::main(2)), range(24, 28), "closer")?;
    assert!(bench.build().facts.last().is_some_and(|f| f.what.lifted().is_empty()));
    Ok(())
}

#[test]
fn rules_that_lift_what_is_tight_are_the_leads_as_well() -> Outcome {
    let mut bench = seven("12")?;
    let tight = |b: &Build| {
        evaluate(b).bearings().filter(|f| f.judged.as_ref().is_some_and(|j| j.margin < Length::ZERO)).count()
    };
    assert_eq!(tight(bench.build()), 7);
    // The touches that are wanted judge no differently: nothing is lifted.
    let rules = jagged_pin_core::log::Rules { touches: 1, ..bench.build().rules.clone() };
    bench.record(What::Rules(RulesChange {
        rules,
        reason: "a quick look".into(),
        lifted: Vec::new(),
        loosened: Vec::new(),
    }))?;
    assert!(bench.build().facts.last().is_some_and(|f| f.what.lifted().is_empty()));
    Ok(())
}

#[test]
fn what_was_typed_and_what_was_understood_agree_in_every_file() -> Outcome {
    let now = Timestamp(4_000_000_000_000);
    for build in stock::builds() {
        assert_eq!(build.check_file(Some(now), &|| true), Ok(()), "{}", build.code);
    }
    let mut forged = stock::build("SL-041").cloned().ok_or("the demo has it")?;
    let at = first(&forged, "reading");
    if let What::Reading(r) = &mut forged.facts[at].what {
        r.raw = "24".into();
        r.measure = Measure::Size { size: r.measure.size() + Length::tenths(3) };
    }
    let refused = forged.check_file(Some(now), &|| true);
    assert!(matches!(&refused, Err(BuildError::Fact { seq, .. }) if *seq as usize == at + 1), "{refused:?}");
    Ok(())
}

#[test]
fn a_file_that_nobody_waits_for_is_not_looked_at_to_its_end() -> Outcome {
    let build = stock::build("SL-041").ok_or("the demo has it")?;
    let looked_at = std::cell::Cell::new(0);
    let wanted = || {
        looked_at.set(looked_at.get() + 1);
        looked_at.get() <= 5
    };
    assert_eq!(build.check_file(Some(Timestamp(4_000_000_000_000)), &wanted), Err(BuildError::GivenUp));
    assert_eq!(looked_at.get(), 6);
    Ok(())
}

#[test]
fn times_of_a_file_are_not_ahead_of_ours() {
    let build = stock::build("SL-041").cloned().unwrap_or_else(|| unreachable!("the demo has it"));
    let day_before = Timestamp(build.opened_at.0 - 2 * 24 * 60 * 60 * 1_000);
    assert_eq!(build.check_file(Some(day_before), &|| true), Err(BuildError::Time));
    let while_open = Timestamp(build.opened_at.0);
    assert!(matches!(build.check_file(Some(while_open), &|| true), Err(BuildError::Ahead { .. })));
    assert_eq!(build.check_file(None, &|| true), Ok(()), "whoever knows that the clock was wrong takes it");
}

#[test]
fn signing_as_both_shows_where_somebody_wrote_it_in() -> Outcome {
    let mut bench = seven("23")?;
    bench.sign(SignerRole::Assembler)?;
    let mut build = bench.finish();
    let mut second = build.facts.last().cloned().ok_or("signed")?;
    second.seq += 1;
    second.id = Uuid::from_u128(6);
    build.facts.push(second);
    reseal(&mut build);
    build.facts.iter_mut().for_each(|fact| key().put_on(fact));
    let faults = prove(&build, Some(&key())).faults;
    assert!(faults.iter().any(|f| matches!(f.flaw, SealFlaw::SamePerson { .. })), "{faults:?}");
    Ok(())
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    #[test]
    fn lengths_and_times_from_outside_are_read_within_their_limits_or_not_at_all(x in any::<i64>()) {
        let length: Result<Length, _> = serde_json::from_str(&x.to_string());
        prop_assert_eq!(length.ok(), Some(Length::from_nm(x)).filter(|l| l.in_limits()));
        let time: Result<Timestamp, _> = serde_json::from_str(&x.to_string());
        prop_assert_eq!(time.ok(), Timestamp::checked(x));
    }
}
