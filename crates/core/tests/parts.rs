//! Evidence belongs to the part: it goes where the part goes, and a candidate is measured beside what stands.
use jagged_pin_core::assess::{Assessment, evaluate};
use jagged_pin_core::build::with_part_in;
use jagged_pin_core::choose::{CrankNeed, cranks, rods_to_pins};
use jagged_pin_core::engine::{BearingRow, Figure, PartKind, Place, Read, Role, Scope};
use jagged_pin_core::evidence::EndingCause;
use jagged_pin_core::log::{Assignment, Condemnation, PartMove, What, Work};
use jagged_pin_core::record::{Refusal, admit, impact};
use jagged_pin_core::sheet::Needs;
use jagged_pin_core::{Build, Length};
use jagged_pin_workbench::{Bench, patterns, person};

type Outcome = Result<(), Box<dyn std::error::Error>>;

const M: fn(u8) -> Place = Place::main;
const P: fn(u8) -> Place = Place::pin;
const R: fn(u8) -> Place = Place::rod;

fn t(n: i64) -> Length {
    Length::tenths(n)
}

fn booked_in(pattern: &str) -> Result<Bench, Refusal> {
    let known = patterns();
    let pattern = known.iter().find(|p| p.id == pattern).unwrap_or(&known[0]);
    Ok(Bench::book_in(90, "T-90", pattern, 0, person("harrow"))?.without_gates())
}

/// A six whose first two rods are measured, R1 a tenth and a half wider than R2.
fn two_rods() -> Result<Bench, Refusal> {
    let mut bench = booked_in("curlew-24")?;
    bench.journal(P(1), ["2.1239 39", "39 39", "39 39", "39 39"])?;
    bench.journal(P(2), ["2.1236 36", "36 36", "36 36", "36 36"])?;
    bench.take("bore-tenths");
    bench.size(R(1), Role::HOUSING, &["2.2493 93", "93 93", "93 93", "93 93", "93 93", "93 93"])?;
    bench.size(R(2), Role::HOUSING, &["2.2489 89", "89 89", "89 89", "89 89", "89 89", "89 89"])?;
    bench.zero_at("2.1240 in");
    bench.take("bore-half-tenths");
    bench.bore(R(1), Read::Dial, &["24 24", "24 24", "31", "31"])?;
    Ok(bench)
}

fn swapped(bench: &mut Bench) -> Result<(), Refusal> {
    bench.assign(&[("R1", Some(R(2))), ("R2", Some(R(1)))], "the wide rod to the thick pin")
}

fn housing(a: &Assessment, at: Place) -> Option<Length> {
    a.station(at)?.housing().size.as_ref().map(|s| s.effective)
}

#[test]
fn what_was_read_of_a_rod_goes_where_the_rod_goes() -> Outcome {
    let mut bench = two_rods()?;
    let before = evaluate(bench.build());
    assert_eq!([housing(&before, R(1)), housing(&before, R(2))], [Some(t(22_493)), Some(t(22_489))]);
    assert!(before.station(R(1)).is_some_and(|s| s.judged.is_some()));
    swapped(&mut bench)?;
    let after = evaluate(bench.build());
    assert_eq!([housing(&after, R(1)), housing(&after, R(2))], [Some(t(22_489)), Some(t(22_493))]);
    // The bore was read on another pin: the pair is no longer together, and what it showed is shown where the rod is.
    let stale = after.station(R(2)).and_then(|s| s.stale.clone()).ok_or("what was judged before")?;
    assert!(matches!(stale.because[0].cause, EndingCause::Assigned { .. }));
    assert!(after.station(R(1)).is_some_and(|s| s.judged.is_none() && s.stale.is_none()));
    let named = after.station(R(2)).map(|s| s.parts.iter().map(|p| p.part.clone()).collect::<Vec<_>>());
    assert_eq!(named, Some(vec![Some("R1".to_owned())]));
    Ok(())
}

#[test]
fn a_deed_ends_what_is_known_of_the_part_that_stood_there() -> Outcome {
    let mut bench = two_rods()?;
    swapped(&mut bench)?;
    // The rod at R2 is the one that came as R1.
    bench.work(Work::RodResized, Scope::One(R(2)), "honed")?;
    let a = evaluate(bench.build());
    assert_eq!([housing(&a, R(1)), housing(&a, R(2))], [Some(t(22_489)), None]);
    bench.assign(&[("R1", Some(R(1))), ("R2", Some(R(2)))], "back again")?;
    let back = evaluate(bench.build());
    assert_eq!(
        [housing(&back, R(1)), housing(&back, R(2))],
        [None, Some(t(22_489))],
        "it stays ended wherever it goes"
    );
    // Read again where it stands, it counts there.
    bench.take("bore-tenths");
    bench.size(R(1), Role::HOUSING, &["2.2495 95", "95 95", "95 95", "95 95", "95 95", "95 95"])?;
    assert_eq!(housing(&evaluate(bench.build()), R(1)), Some(t(22_495)));
    Ok(())
}

#[test]
fn what_an_assignment_would_end_is_said_before_it_is_done() -> Outcome {
    let bench = two_rods()?;
    let moves = [("R1", R(2)), ("R2", R(1))].map(|(part, place)| PartMove { part: part.into(), place: Some(place) });
    let what = What::Assigned(Assignment { moves: moves.to_vec(), reason: "to see".into() });
    let found = impact(bench.build(), person("harrow"), what)?;
    assert_eq!(found.clearances, [R(1)]);
    Ok(())
}

#[test]
fn rods_to_pins_names_the_rods_that_stand_there_and_where_each_would_go() -> Outcome {
    let mut bench = two_rods()?;
    let plan = |bench: &Bench| rods_to_pins(bench.build(), &evaluate(bench.build()), &[]);
    let first = plan(&bench).ok_or("two rods are known")?;
    let moves = |plan: &jagged_pin_core::choose::RodAssignment| {
        plan.rods.iter().map(|r| (r.part.clone(), r.to)).collect::<Vec<_>>()
    };
    assert_eq!(moves(&first), [("R1".to_owned(), R(1)), ("R2".to_owned(), R(2))], "each suits its pin already");
    swapped(&mut bench)?;
    let second = plan(&bench).ok_or("two rods are known")?;
    assert_eq!(moves(&second), [("R2".to_owned(), R(2)), ("R1".to_owned(), R(1))], "and would go back");
    Ok(())
}

/// A six with a second crank beside it, measured at its first two mains.
fn with_candidate() -> Result<Bench, Refusal> {
    let mut bench = booked_in("curlew-24")?;
    for n in 1..=7 {
        bench.journal(M(n), ["2.6238 38", "38 38", "38 38", "38 38"])?;
    }
    bench.part(PartKind::Crank, "crank B", "from the breaker, out of a sister engine", "B stamped on the front web")?;
    bench.measure_candidate(Some("crank B"));
    for n in 1..=7 {
        let last = if n == 3 { "2.6122 22" } else { "2.6138 38" };
        bench.journal(M(n), [last, last, last, last])?;
    }
    bench.measure_candidate(None);
    Ok(bench)
}

#[test]
fn a_candidate_crank_is_measured_beside_the_one_that_stands() -> Outcome {
    let bench = with_candidate()?;
    let a = evaluate(bench.build());
    let journal = |a: &Assessment, n| a.station(M(n)).and_then(|s| s.journal().size.as_ref().map(|z| z.effective));
    assert_eq!(journal(&a, 3), Some(t(26_238)), "nothing of it counts for the engine");
    let as_if = with_part_in(bench.build(), "crank B").ok_or("it is a candidate")?;
    assert_eq!(journal(&evaluate(&as_if), 3), Some(t(26_122)));
    let all = cranks(bench.build());
    let seen: Vec<_> = all.iter().map(|c| (c.part.as_str(), c.stands, c.rows[0].needs)).collect();
    // One journal of the other crank is eighteen tenths under its class: it is ground to the next one that cleans it.
    let (undersize, size) = (t(200), t(26_240) - t(200));
    let expected = [
        ("crank", true, CrankNeed::Shells { undersize: Length::ZERO }),
        ("crank B", false, CrankNeed::Grind { undersize, size }),
    ];
    assert_eq!(seen, expected);
    assert_eq!(all[1].rows[1].needs, CrankNeed::Measure { open: 6 });
    assert_eq!(all[1].rows[0].spread, Some(t(16)));
    Ok(())
}

#[test]
fn the_crank_that_is_chosen_brings_its_evidence_and_the_other_one_keeps_its_own() -> Outcome {
    let mut bench = with_candidate()?;
    bench.zero_at("2.6240 in");
    bench.bore(M(1), Read::Dial, &["23 23", "23 23", "30", "30"])?;
    assert!(evaluate(bench.build()).station(M(1)).is_some_and(|s| s.judged.is_some()));
    bench.assign(&[("crank B", None)], "straighter, and it takes ten under")?;
    let chosen = evaluate(bench.build());
    let m1 = chosen.station(M(1)).ok_or("M1")?;
    assert_eq!(m1.journal().size.as_ref().map(|s| s.effective), Some(t(26_138)));
    assert!(m1.judged.is_none() && m1.stale.is_some(), "the bore was read against the other crank");
    bench.assign(&[("crank", None)], "the first one after all")?;
    let back = evaluate(bench.build());
    assert_eq!(back.station(M(1)).and_then(|s| s.journal().size.clone()).map(|s| s.effective), Some(t(26_238)));
    assert!(back.station(M(1)).is_some_and(|s| s.judged.is_none()), "a pair that was parted is measured again");
    Ok(())
}

#[test]
fn what_a_condemned_part_would_still_have_to_prove_is_moot() -> Outcome {
    let mut bench = two_rods()?;
    let open = evaluate(bench.build()).sign_off.blocks.len();
    bench.condemn("crank", "cracked at the fillet of P4")?;
    let a = evaluate(bench.build());
    let needs: Vec<_> = a.sign_off.blocks.iter().map(|b| b.needs).collect();
    assert_eq!(needs, [Needs::Part], "{open} open figures rest on it");
    assert!(a.wanted.iter().all(|w| w.characteristic.row().part != PartKind::Crank));
    assert!(a.wanted.iter().any(|w| w.characteristic.row().part == PartKind::Block), "the block is not condemned");
    let refused = bench.assign(&[("crank", None)], "in again");
    assert_eq!(refused, Err(Refusal::PartCondemned("crank".into())));
    // One rod: its own figure only.
    let mut bench = two_rods()?;
    bench.condemn("R2", "bent")?;
    let a = evaluate(bench.build());
    let part: Vec<_> = a.sign_off.blocks.iter().filter(|b| b.needs == Needs::Part).map(|b| b.station).collect();
    assert_eq!(part, [R(2)]);
    bench.part(PartKind::Rod, "spare", "from the rack", "")?;
    bench.assign(&[("spare", Some(R(2)))], "in place of the bent one")?;
    let a = evaluate(bench.build());
    assert!(a.station(R(2)).is_some_and(|s| s.moot.is_empty() && s.housing().size.is_none()));
    assert!(a.station(R(2)).is_some_and(|s| s.journal().size.is_some()), "the pin is as it was");
    Ok(())
}

#[test]
fn parts_that_cannot_be_are_refused() -> Outcome {
    let bench = with_candidate()?;
    let says = |what: &What| admit(bench.build(), &person("harrow"), what);
    let assigned = |moves: &[(&str, Option<Place>)]| {
        let one = |(part, place): &(&str, Option<Place>)| PartMove { part: (*part).into(), place: *place };
        says(&What::Assigned(Assignment { moves: moves.iter().map(one).collect(), reason: "so".into() }))
    };
    assert_eq!(assigned(&[("R1", Some(R(1)))]), Err(Refusal::NothingMoves));
    assert_eq!(assigned(&[("R1", Some(M(1)))]), Err(Refusal::PartElsewhere("R1".into())));
    assert_eq!(assigned(&[("R1", None)]), Err(Refusal::PartElsewhere("R1".into())));
    assert_eq!(assigned(&[("crank B", Some(M(1)))]), Err(Refusal::PartElsewhere("crank B".into())));
    assert_eq!(assigned(&[("R1", Some(R(3))), ("R2", Some(R(3)))]), Err(Refusal::PartElsewhere("R2".into())));
    assert_eq!(assigned(&[("R9", Some(R(3)))]), Err(Refusal::NoSuchPart("R9".into())));
    assert!(matches!(assigned(&[("R1", Some(R(2))), ("R1", Some(R(3)))]), Err(Refusal::Flawed(_))));
    let condemned =
        |part: &str, lifted| says(&What::Condemned(Condemnation { part: part.into(), lifted, reason: "so".into() }));
    assert_eq!(condemned("R1", true), Err(Refusal::NothingMoves));
    assert_eq!(condemned("R9", false), Err(Refusal::NoSuchPart("R9".into())));
    let taken = bench.clone().part(PartKind::Crank, "crank", "another", "");
    assert_eq!(taken, Err(Refusal::PartNamed("crank".into())));
    assert!(matches!(bench.clone().part(PartKind::Shells, "set", "", ""), Err(Refusal::Flawed(_))));
    Ok(())
}

#[test]
fn a_build_with_parts_is_replayed_and_sealed_as_any_other() -> Outcome {
    let mut bench = with_candidate()?;
    bench.assign(&[("crank B", None)], "straighter")?;
    let build = bench.finish();
    build.check()?;
    let text = serde_json::to_string(&build)?;
    let again: Build = serde_json::from_str(&text)?;
    assert_eq!(again, build);
    assert!(text.contains("crank B"));
    Ok(())
}

/// A V6 whose first pin is touched on both tracks, the front one three tenths and a half larger.
fn v6() -> Result<Bench, Refusal> {
    let mut bench = booked_in("whimbrel-31")?;
    let front = ["2.2496 96", "96 96", "96 96", "96 96"];
    let rear = ["2.2493 93", "93 92", "93 93", "93 93"];
    bench.size(P(1), Role::JOURNAL, &[front, rear].concat())?;
    Ok(bench)
}

#[test]
fn each_rod_of_a_shared_pin_runs_on_its_own_track() -> Outcome {
    let bench = v6()?;
    let a = evaluate(bench.build());
    let journal = |n| a.station(R(n)).and_then(|s| s.journal().size.as_ref().map(|z| z.effective));
    assert_eq!([journal(1), journal(2), journal(3)], [Some(t(22_496)), Some(t(22_493)), None]);
    assert!(a.figure(Figure::TRACK_STEP, P(1)).is_none(), "nobody gave it a maximum");
    let wanted = a.wanted.iter().filter(|w| w.station == P(2)).map(|w| w.track).collect::<Vec<_>>();
    assert_eq!(wanted, [Some(1), Some(2)]);
    Ok(())
}

#[test]
fn the_step_between_tracks_has_a_maximum_and_the_scale_of_the_mic_cancels() -> Outcome {
    use jagged_pin_core::maths::{State, TargetRule};
    let mut bench = v6()?;
    let most = |tenths| TargetRule::Range { low: Length::ZERO, aim: Some(Length::ZERO), high: t(tenths) };
    bench.figure_target(Figure::TRACK_STEP, BearingRow::Rods, most(3), "one size for both rods")?;
    let judged = |b: &Bench| {
        let a = evaluate(b.build());
        a.figure(Figure::TRACK_STEP, P(1)).and_then(|f| f.judged.clone())
    };
    let found = judged(&bench).ok_or("a step")?;
    assert_eq!((found.clearance, found.state), (t(3), State::Edge));
    // Two readings of one mic: no calibration, and what each leaves open twice.
    assert!(found.expanded > Length::from_nm(1_270) && found.expanded < t(2), "{:?}", found.expanded);
    bench.figure_target(Figure::TRACK_STEP, BearingRow::Rods, most(6), "a truck")?;
    assert_eq!(judged(&bench).map(|j| j.state), Some(State::In), "no step is too small");
    let block = evaluate(bench.build()).sign_off.blocks.iter().filter(|b| b.figure == Figure::TRACK_STEP).count();
    assert_eq!(block, 2, "the other two pins are open");
    Ok(())
}
