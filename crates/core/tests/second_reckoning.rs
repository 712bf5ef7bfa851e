//! The second reckoning: what a bore gauge was zeroed in, what may be typed beside it, and what a deed ends.
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{BearingRow, Method, Place, Read, Role, Scope};
use jagged_pin_core::figure::{DoubtSource, FigureAssessment, Finding, Improvement, MethodResult};
use jagged_pin_core::log::{
    CapSeat, FastenerKind, FittedPair, Fitting, Reckoning, Rules, SetUp, ShellsIn, TorqueStep, TorqueUnit, Work,
    ZeroSource,
};
use jagged_pin_core::maths::{State, TargetRule};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::{Build, Length};
use jagged_pin_workbench::{Bench, patterns, person};

type Outcome = Result<(), Box<dyn std::error::Error>>;

const M: fn(u8) -> Place = Place::main;

fn t(n: i64) -> Length {
    Length::tenths(n)
}

fn bench_of(pattern: &str) -> Result<Bench, Refusal> {
    let known = patterns();
    let pattern = known.iter().find(|p| p.id == pattern).unwrap_or(&known[0]);
    Bench::book_in(95, "T-95", pattern, 0, person("oduya"))
}

fn six() -> Result<Bench, Refusal> {
    bench_of("curlew-24")
}

fn at(build: &Build, place: Place) -> Result<FigureAssessment, &'static str> {
    evaluate(build).station(place).cloned().ok_or("there is such a bearing")
}

fn by(figure: &FigureAssessment, method: Method) -> Result<MethodResult, &'static str> {
    figure.methods.iter().find(|m| m.method == method).cloned().ok_or("the method has figures")
}

/// M1 with a journal of 2.6238 and a dial of 25 on a gauge zeroed at its size.
fn zeroed_in(zero: Option<ZeroSource>) -> Result<MethodResult, Box<dyn std::error::Error>> {
    let mut bench = six()?;
    bench.take("bore-tenths");
    bench.journal(M(1), ["2.6238 38", "38 38", "38 38", "38 38"])?;
    if let Some(zero) = zero {
        bench.zeroed_in(zero);
    }
    bench.zero_at("2.6238 in");
    bench.bore(M(1), Read::Dial, &["25 25", "25 25"])?;
    Ok(by(&at(bench.build(), M(1))?, Method::DIRECT)?)
}

#[test]
fn what_the_gauge_was_zeroed_in_decides_what_a_dial_proves() -> Outcome {
    let mut proven = Vec::new();
    for zero in [ZeroSource::Locked, ZeroSource::SameMic, ZeroSource::Ring, ZeroSource::OtherMic] {
        let direct = zeroed_in(Some(zero))?;
        assert_eq!(direct.zero, Some(zero));
        proven.push(direct.budget.expanded);
        let calibrated = direct.budget.parts.iter().any(|p| p.source == DoubtSource::Calibration);
        assert_eq!(calibrated, !zero.set_by_the_mic(), "{zero:?}: only the mic's own scale cancels");
        let locks = direct.advice.iter().any(|a| a.better == Improvement::TransferMethod);
        assert_eq!(locks, zero != ZeroSource::Locked, "{zero:?}: locking it on the journal would prove more");
    }
    assert!(proven.windows(2).all(|w| w[0] < w[1]), "{proven:?}");
    // Where nobody said, it counts as set by the mic's scale.
    assert_eq!(zeroed_in(None)?.zero, Some(ZeroSource::SameMic));
    Ok(())
}

#[test]
fn a_mic_locked_on_another_journal_carries_that_size_and_not_this_one() -> Outcome {
    let mut bench = six()?;
    bench.take("bore-tenths");
    bench.zeroed_in(ZeroSource::Locked);
    for (main, journal) in [(1, "2.6238 38"), (2, "2.6235 35")] {
        bench.journal(M(main), [journal; 4])?;
        // Both dials from the lock on M1.
        bench.zero_at("2.6238 in");
        bench.bore(M(main), Read::Dial, &["25 25", "25 25"])?;
    }
    let (one, two) = (at(bench.build(), M(1))?, at(bench.build(), M(2))?);
    assert_eq!(by(&one, Method::DIRECT)?.zero, Some(ZeroSource::Locked));
    assert_eq!(by(&two, Method::DIRECT)?.zero, Some(ZeroSource::SameMic));
    assert!(by(&one, Method::DIRECT)?.budget.expanded < by(&two, Method::DIRECT)?.budget.expanded);
    Ok(())
}

#[test]
fn a_mic_a_tenth_over_cancels_where_it_set_the_gauge_and_counts_elsewhere() -> Outcome {
    let clearances = |zero| -> Result<[Length; 2], Box<dyn std::error::Error>> {
        let mut bench = six()?;
        bench.zeroed_in(zero);
        bench.open_session("mic-tenths", Some(("2.0000 in", "2.0001")))?;
        bench.journal(M(1), ["2.6239 39", "39 39", "39 39", "39 39"])?;
        bench.take("bore-tenths");
        bench.zero_at("2.6240 in");
        bench.bore(M(1), Read::Dial, &["23 23", "23 23"])?;
        bench.bore(M(1), Read::Size, &["2.6263 63", "63 63"])?;
        let m1 = at(bench.build(), M(1))?;
        let as_read = |m: MethodResult| m.clearance - m.correction;
        Ok([as_read(by(&m1, Method::DIRECT)?), as_read(by(&m1, Method::SUBTRACT)?)])
    };
    // The dial of 23 over 2.6240 on a journal read as 2.6239: 24. The true journal is a tenth smaller: 25 by sizes.
    assert_eq!(clearances(ZeroSource::SameMic)?, [t(24), t(25)]);
    // A ring is what it says, so that the mic's tenth goes off the journal alone.
    assert_eq!(clearances(ZeroSource::Ring)?, [t(25), t(25)]);
    Ok(())
}

#[test]
fn a_reference_that_differs_from_the_check_in_is_asked_about() -> Outcome {
    let mut bench = six()?;
    bench.journal(M(1), ["2.6238", "38", "38", "38"])?;
    bench.open_session("bore-tenths", Some(("2.6240 in", "0")))?;
    bench.zero_at("2.6230 in");
    let refused = bench.bore(M(1), Read::Dial, &["23"]);
    let differs = Refusal::ReferenceDiffers { reference: "2.6230 in".into(), standard: "2.6240 in".into() };
    assert_eq!(refused, Err(differs.clone()));
    assert!(differs.can_be_forced(), "whoever set it anew says so");
    bench.zero_at("2.6240 in");
    bench.bore(M(1), Read::Dial, &["23"])?;
    Ok(())
}

#[test]
fn a_ring_of_55_is_55_and_not_the_last_digits_of_something() -> Outcome {
    let mut bench = bench_of("dunlin-16")?;
    bench.journal(M(1), ["59.991", "991", "991", "991"])?;
    bench.zero_at("60");
    bench.bore(M(1), Read::Dial, &["44"])?;
    let reading = bench.build().readings().last().map(|(_, r)| r.measure.size());
    assert_eq!(reading, Some(Length::from_nm(60_044_000)));
    Ok(())
}

#[test]
fn one_digit_is_enough_only_next_to_something_measured() -> Outcome {
    let mut bench = six()?;
    assert_eq!(bench.journal(M(1), ["7", "", "", ""]), Err(Refusal::LoneDigit));
    bench.journal(M(1), ["37", "", "", ""])?;
    bench.journal(M(1), ["", "8", "", ""])?;
    // The row is known now, so that the next journal may be typed like that.
    bench.journal(M(2), ["6", "", "", ""])?;
    let second = bench.build().readings().last().map(|(_, r)| r.measure.size());
    assert_eq!(second, Some(t(26_236)));
    Ok(())
}

fn set_up(caps: Vec<CapSeat>, shells: &[(u8, &str)]) -> SetUp {
    let shells =
        shells.iter().map(|(main, upper)| ShellsIn { station: M(*main), upper: (*upper).into(), lower: "std".into() });
    SetUp {
        row: BearingRow::Mains,
        fastener: FastenerKind::Studs,
        fasteners: "set 12".into(),
        washers: None,
        as_finished: true,
        lubricant: "moly paste".into(),
        lubricated: None,
        steps: vec![TorqueStep::Torque { tenths: 650, unit: TorqueUnit::PoundFoot }],
        groups: Vec::new(),
        drawn_square: true,
        washers_chamfer_up: true,
        caps,
        shells: shells.collect(),
    }
}

fn measured(bench: &mut Bench, main: u8) -> Result<(), Refusal> {
    bench.journal(M(main), ["2.6238 38", "38 38", "38 38", "38 38"])?;
    bench.zero_at("2.6240 in");
    bench.bore(M(main), Read::Dial, &["23 23", "23 23"]).map(drop)
}

fn judged(bench: &Bench, main: u8) -> Option<State> {
    at(bench.build(), M(main)).ok()?.judged.map(|j| j.state)
}

#[test]
fn a_cap_that_sits_elsewhere_is_missing_where_it_came_from() -> Outcome {
    let mut bench = six()?;
    bench.set_up(set_up(Vec::new(), &[]))?;
    for main in 1..=3 {
        measured(&mut bench, main)?;
    }
    bench.set_up(set_up(vec![CapSeat { station: M(1), cap: 2, forward: true }], &[]))?;
    assert_eq!([judged(&bench, 1), judged(&bench, 2)], [None, None], "main 2 cannot wear the cap that is on main 1");
    assert!(judged(&bench, 3).is_some());
    Ok(())
}

#[test]
fn shells_that_a_set_up_does_not_name_are_not_forgotten() -> Outcome {
    let ended_by = |reckoning| -> Result<bool, Box<dyn std::error::Error>> {
        let mut bench = six()?;
        bench.rules(Rules { reckoning, ..bench.build().rules_now().clone() }, "as it was opened")?;
        bench.set_up(set_up(Vec::new(), &[(1, "std"), (2, "std")]))?;
        measured(&mut bench, 2)?;
        bench.set_up(set_up(Vec::new(), &[(1, "std")]))?;
        bench.set_up(set_up(Vec::new(), &[(1, "std"), (2, "+1")]))?;
        Ok(judged(&bench, 2).is_none())
    };
    assert!(ended_by(Reckoning::Third)?, "another upper is in");
    assert!(!ended_by(Reckoning::Second)?, "builds of before forgot what stood in between");
    Ok(())
}

#[test]
fn other_shells_in_a_set_up_have_other_walls_and_what_was_fitted_is_known() -> Outcome {
    let mut bench = six()?;
    bench.set_up(set_up(Vec::new(), &[(1, "std"), (2, "std")]))?;
    for main in 1..=2 {
        measured(&mut bench, main)?;
        bench.size(M(main), Role::UPPER_WALL, &[".0942"])?;
    }
    let pair = FittedPair { station: M(2), upper: "+1".into(), lower: "std".into(), clearance: t(25), expanded: t(2) };
    bench.fit(Fitting {
        row: BearingRow::Mains,
        family: None,
        undersize: Length::ZERO,
        pairs: vec![pair],
        estimated: None,
        minutes: None,
        note: "nearer the aim".into(),
    })?;
    bench.zero_at("2.6240 in");
    bench.bore(M(2), Read::Dial, &["23 23", "23 23"])?;
    // It repeats for M2 what was fitted, and names another upper for M1.
    bench.set_up(set_up(Vec::new(), &[(1, "+1"), (2, "+1")]))?;
    let m1 = at(bench.build(), M(1))?;
    assert!(m1.judged.is_none() && m1.part(Role::UPPER_WALL, Read::Size).stale.is_some());
    assert!(judged(&bench, 2).is_some(), "nothing changed at M2");
    Ok(())
}

#[test]
fn a_crank_that_is_straightened_keeps_its_sizes() -> Outcome {
    let mut bench = six()?;
    measured(&mut bench, 1)?;
    let window = TargetRule::Range { low: t(50), aim: None, high: t(80) };
    bench.figure_target(jagged_pin_core::engine::Figure::END_PLAY, BearingRow::Mains, window, "the middle held")?;
    bench.pushes(Place::THRUST, Role::TRAVEL, &[&["0 65 0", "0 65 0"], &["0 66 0", "0 66 0"]])?;
    bench.work(Work::CrankStraightened, Scope::Crank, "pressed at the third web")?;
    assert!(judged(&bench, 1).is_some());
    let play = evaluate(bench.build()).station(Place::THRUST).and_then(|f| f.judged.clone());
    assert_eq!(play, None, "it lies otherwise along the axis");
    Ok(())
}

#[test]
fn what_a_stale_figure_was_stays_what_it_was() -> Outcome {
    let mut bench = six()?;
    measured(&mut bench, 1)?;
    let was = at(bench.build(), M(1))?.judged.map(|j| (j.state, j.clearance - j.correction));
    bench.work(Work::CapDeburred, Scope::One(M(1)), "a burr at the parting line")?;
    bench.work(Work::JournalPolished, Scope::One(M(1)), "a blue line")?;
    bench.journal(M(1), ["2.6235 35", "35 35", "35 35", "35 35"])?;
    let stale = at(bench.build(), M(1))?.stale.map(|s| (s.was.state, s.was.clearance - s.was.correction));
    assert_eq!(stale, was, "the journal of today was never in that bore");
    Ok(())
}

#[test]
fn an_acceptance_ends_with_the_evidence_it_was_given_for() -> Outcome {
    let mut bench = six()?;
    bench.journal(M(1), ["2.6238 38", "38 38", "38 38", "38 38"])?;
    bench.zero_at("2.6240 in");
    bench.bore(M(1), Read::Dial, &["20 20", "20 20"])?;
    bench.concede(M(1), "oil pressure will tell")?;
    let conceded = |b: &Bench| at(b.build(), M(1)).is_ok_and(|f| f.concession.is_some());
    assert!(conceded(&bench));
    bench.work(Work::CapDeburred, Scope::One(M(1)), "a burr at the parting line")?;
    bench.bore(M(1), Read::Dial, &["20 20", "20 20"])?;
    assert!(!conceded(&bench), "it measures the same again, and is another piece of evidence");
    Ok(())
}

#[test]
fn aluminium_beside_steel_wants_its_temperature_noted() -> Outcome {
    let mut bench = bench_of("dunlin-16")?;
    bench.journal(M(1), ["59.991 991", "991 991", "991 991", "991 991"])?;
    bench.zero_at("60.000 mm");
    bench.bore(M(1), Read::Dial, &["52 52", "52 52"])?;
    let m1 = at(bench.build(), M(1))?;
    assert!(m1.findings.contains(&Finding::RoomUnknown { part: Role::BORE }), "{:?}", m1.findings);
    let direct = by(&m1, Method::DIRECT)?;
    let warmth = direct.budget.parts.iter().find(|p| p.source == DoubtSource::Temperature);
    // Four kelvin of a room nobody looked at, on 60 mm of aluminium beside steel.
    assert!(warmth.is_some_and(|p| p.standard > 2_000.0), "{warmth:?}");
    let mut iron = six()?;
    measured(&mut iron, 1)?;
    let remarks = at(iron.build(), M(1))?.findings;
    assert!(!remarks.iter().any(|f| matches!(f, Finding::RoomUnknown { .. })));
    Ok(())
}

#[test]
fn a_bore_that_these_parts_cannot_make_is_asked_about() -> Outcome {
    let mut bench = six()?;
    bench.journal(M(1), ["2.6238 38", "38 38", "38 38", "38 38"])?;
    bench.zero_at("2.6240 in");
    // Housing and walls leave 2.2 to 3.8 thou; a dial of 63 micrometres, read as tenths, would be 6.5.
    let beyond = bench.bore(M(1), Read::Dial, &["63"]);
    assert_eq!(beyond.err().map(|r| (r.code(), r.can_be_forced())), Some(("beyond_parts", true)));
    // Loose or tight by a class of shells is believed, and what only informs is not judged.
    bench.bore(M(1), Read::Dial, &["40", "12", "58", "57"])?;
    Ok(())
}
