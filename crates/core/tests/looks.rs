//! Eyes and fingernail: every sign has a consequence, and a measured check confirms it or kills it with its figure.
mod six;

use jagged_pin_core::Length;
use jagged_pin_core::assess::{Cause, CheckSays, Hypothesis, Suspicion, evaluate};
use jagged_pin_core::engine::{BearingRow, Figure, Layout, Place, PlaceKind, Read, Role, Scope};
use jagged_pin_core::figure::Finding;
use jagged_pin_core::log::{Befell, Check, CheckFound, InspectedPart, LOOKS, Rules, Sign, Work};
use jagged_pin_core::maths::{State, TargetRule};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::sheet::Needs;
use jagged_pin_workbench::Bench;

type Outcome = Result<(), Refusal>;

fn t(tenths: i64) -> Length {
    Length::tenths(tenths)
}

/// A six whose upper shells all look as they should.
fn six() -> Result<Bench, Refusal> {
    let mut bench = six::opened(98)?;
    let uppers: Vec<Place> = bench.build().layout.all_bearings().collect();
    for bearing in uppers {
        bench.look(bearing, InspectedPart::Upper, &[Sign::Uniform])?;
    }
    Ok(bench)
}

fn suggested(bench: &Bench) -> Vec<Hypothesis> {
    evaluate(bench.build()).hypotheses
}

fn of(bench: &Bench, suspicion: Suspicion) -> Option<Hypothesis> {
    suggested(bench).into_iter().find(|h| h.suspicion == suspicion)
}

#[test]
fn every_sign_has_a_consequence() -> Outcome {
    for row in &LOOKS {
        let there = six()?.build().layout.places().find(|place| row.part.is_at(*place));
        let Some(station) = there else { panic!("a six has no {:?}", row.part) };
        for sign in row.signs {
            let mut bench = six()?;
            bench.look(station, row.part, &[*sign])?;
            let found = suggested(&bench);
            assert_eq!(found.is_empty(), sign.is_good(), "{sign:?} on {:?}: {found:?}", row.part);
            assert!(found.iter().all(|h| !h.causes.is_empty() && !h.confirm.is_empty()));
        }
    }
    Ok(())
}

#[test]
fn most_shells_are_enough_for_a_pattern() -> Outcome {
    let mut bench = six()?;
    for n in 1..=7 {
        bench.look(Place::main(n), InspectedPart::Lower, &[Sign::Underlayer])?;
        let through = of(&bench, Suspicion::TightOrWrongUndersize).map(|h| h.stations.len());
        // Thirteen bearings were looked at: seven are most of them.
        assert_eq!(through, (n == 7).then_some(7), "{n}");
    }
    Ok(())
}

#[test]
fn a_measured_housing_confirms_or_kills_with_its_figure() -> Outcome {
    let seam = |first: &str, rest: &str| -> Result<Option<Hypothesis>, Refusal> {
        let mut bench = six()?;
        bench.look(Place::main(3), InspectedPart::Lower, &[Sign::Seam])?;
        assert_eq!(of(&bench, Suspicion::CapShiftedOrCrush).map(|h| h.says), Some(None), "nothing is measured yet");
        bench.take("bore-tenths");
        bench.size(Place::main(3), Role::HOUSING, &[first, rest, rest, rest, rest, rest])?;
        Ok(of(&bench, Suspicion::CapShiftedOrCrush))
    };
    let told = |h: Option<Hypothesis>| {
        let by_housing = h.iter().flat_map(|h| &h.confirm).find(|c| c.by == Check::HousingSize).and_then(|c| c.tested);
        (h.as_ref().and_then(|h| h.says), by_housing.map(|t| (t.says, t.at, t.value)))
    };
    assert_eq!(
        told(seam("2.8151", "51")?),
        (Some(CheckSays::Kills), Some((CheckSays::Kills, Place::main(3), t(28_151))))
    );
    assert_eq!(
        told(seam("2.8158", "58")?),
        (Some(CheckSays::Confirms), Some((CheckSays::Confirms, Place::main(3), t(28_158))))
    );
    Ok(())
}

#[test]
fn the_thrust_is_looked_at_and_its_end_play_decides() -> Outcome {
    let mut bench = six()?;
    bench.look(Place::THRUST, InspectedPart::ThrustFront, &[Sign::Smooth])?;
    bench.look(Place::THRUST, InspectedPart::ThrustRear, &[Sign::Polished, Sign::Scored])?;
    let window = TargetRule::Range { low: t(50), aim: None, high: t(80) };
    bench.figure_target(Figure::END_PLAY, jagged_pin_core::engine::BearingRow::Mains, window, "race")?;
    assert_eq!(of(&bench, Suspicion::ThrustLoad).and_then(|h| h.says), None);
    let pushed = |bench: &mut Bench, travel: &str| {
        bench.pushes(Place::THRUST, Role::TRAVEL, &[&[travel, travel], &[travel, travel]])
    };
    let taken = pushed(&mut bench, "0 65 0")?;
    let thrust = of(&bench, Suspicion::ThrustLoad);
    assert_eq!(
        thrust.map(|h| (h.says, h.stations)),
        Some((None, vec![Place::THRUST])),
        "the load may still be constant"
    );
    bench.strike(&taken, "the base had moved")?;
    pushed(&mut bench, "0 110 0")?;
    assert_eq!(of(&bench, Suspicion::ThrustLoad).and_then(|h| h.says), Some(CheckSays::Confirms));
    Ok(())
}

#[test]
fn one_bearing_alone_is_looked_for_at_its_cap_and_its_shell() -> Outcome {
    let mut bench = six()?;
    bench.look(Place::main(5), InspectedPart::Lower, &[Sign::EdgeRear])?;
    let alone = of(&bench, Suspicion::OneBearing);
    assert_eq!(alone.as_ref().map(|h| h.stations.clone()), Some(vec![Place::main(5)]));
    bench.size(Place::main(5), Role::LOWER_WALL, &[".0942 .0942", ".0943 .0943", ".0946 .0946"])?;
    let wall = of(&bench, Suspicion::OneBearing).and_then(|h| h.confirm.iter().find_map(|c| c.tested));
    assert_eq!(wall.map(|w| (w.says, w.value)), Some((CheckSays::Confirms, t(4))), "the shell itself tapers");
    // A second one of the row: it is no longer one alone.
    bench.look(Place::main(2), InspectedPart::Lower, &[Sign::EdgeRear])?;
    assert_eq!(of(&bench, Suspicion::OneBearing), None);
    bench.journal(Place::main(1), ["2.6238", "38", "38", "38"])?;
    bench.bore(Place::main(1), Read::Dial, &["24"])?;
    Ok(())
}

#[test]
fn a_check_that_was_done_elsewhere_shifts_the_weights_and_the_next_one_tells_most_per_minute() -> Outcome {
    let mut bench = six()?;
    for n in [3, 4, 5] {
        bench.look(Place::main(n), InspectedPart::Lower, &[Sign::Wiped])?;
    }
    let heavy = of(&bench, Suspicion::CrankOrTunnel);
    let next = heavy.as_ref().and_then(|h| h.next).map(|n| (n.check, n.centibits, n.minutes));
    assert_eq!(next, Some((Check::StraightEdge, 47, 10)));

    bench.checked(Check::StraightEdge, None, CheckFound::Good, "edge turned end for end, nothing under 0.001")?;
    let after = of(&bench, Suspicion::CrankOrTunnel);
    let share = |cause| after.iter().flat_map(|h| &h.causes).find(|c| c.cause == cause).map(|c| c.share);
    assert!(share(Cause::CrookedTunnel).is_some_and(|s| s < 8), "{after:?}");
    assert_eq!(
        after.as_ref().and_then(|h| h.next).map(|n| n.check),
        Some(Check::HousingSize),
        "a quarter of a bit in twenty minutes"
    );
    assert_eq!(after.as_ref().and_then(|h| h.says), None, "two causes are left");

    bench.checked(Check::Runout, None, CheckFound::Bad, "crank shop, on the mains")?;
    let after = of(&bench, Suspicion::CrankOrTunnel);
    assert_eq!(after.and_then(|h| h.says), Some(CheckSays::Confirms));
    // A crank that was straightened runs otherwise now.
    bench.work(Work::CrankStraightened, Scope::Crank, "press")?;
    let found =
        of(&bench, Suspicion::CrankOrTunnel).into_iter().flat_map(|h| h.confirm).find(|c| c.by == Check::Runout);
    assert_eq!(found.map(|c| c.found), Some(None));
    Ok(())
}

#[test]
fn what_befell_a_cylinder_forces_its_checks_until_they_are_done() -> Outcome {
    let mut bench = six()?;
    bench.look(Place::rod(3), InspectedPart::Rod, &[Sign::Smooth])?;
    bench.befell(Befell::Hydrolock, Some(Place::cylinder(3)), "ford, third stage")?;
    let open = |bench: &Bench| -> Vec<String> {
        let forced = evaluate(bench.build()).forced;
        let names = forced.iter().filter(|f| f.is_open()).map(|f| format!("{:?}{:?}{:?}", f.check, f.look, f.left));
        names.collect()
    };
    assert_eq!(
        open(&bench),
        [
            "Some(RodAlignment)None[]",
            "Some(Fasteners)None[]",
            "NoneSome(Rod)[Place { kind: Rod, number: 3 }]",
            "NoneSome(Piston)[Place { kind: WristPin, number: 3 }]",
        ],
        "what was seen before it befell says nothing"
    );
    let blocked =
        |bench: &Bench| evaluate(bench.build()).sign_off.blocks.iter().filter(|b| b.needs == Needs::Check).count();
    assert_eq!(blocked(&bench), 4);
    bench.look(Place::rod(3), InspectedPart::Rod, &[Sign::Smooth])?;
    bench.look(Place::wrist_pin(3), InspectedPart::Piston, &[Sign::Smooth])?;
    bench.checked(Check::RodAlignment, Some(Place::cylinder(3)), CheckFound::Bad, "2 thou in 6 in")?;
    bench.checked(Check::Fasteners, None, CheckFound::Good, "lengths against the log")?;
    assert_eq!(open(&bench), ["Some(RodAlignment)None[]"], "what came out badly stays in the way");
    bench.checked(Check::RodAlignment, Some(Place::cylinder(3)), CheckFound::Good, "another rod, 0.0003 in 6 in")?;
    assert_eq!((open(&bench).len(), blocked(&bench)), (0, 0));
    Ok(())
}

#[test]
fn what_overheated_is_measured_again() -> Outcome {
    let mut bench = six()?;
    bench.take("bore-tenths");
    bench.size(Place::cylinder(2), Role::new("cylinder"), &["3.4750", "50", "50", "50", "50", "50"])?;
    let taken = |bench: &Bench| {
        let assessed = evaluate(bench.build());
        let wall = assessed.figure(Figure::PISTON_TO_WALL, Place::cylinder(2)).cloned();
        wall.map(|f| f.part(Role::new("cylinder"), Read::Size).taken)
    };
    assert!(taken(&bench).is_some_and(|n| n > 0));
    bench.befell(Befell::Overheated, None, "hose off on the second day")?;
    assert_eq!(taken(&bench), Some(0));
    Ok(())
}

#[test]
fn what_befell_an_engine_asks_for_figures_that_nobody_ever_measured() -> Outcome {
    let asked =
        |bench: &Bench, figure: Figure, at: Place| evaluate(bench.build()).figure(figure, at).is_some_and(|f| f.asked);
    let face: Figure = "face_flatness".parse().map_err(|_| Refusal::NoTarget)?;
    for (befell, figure, at) in [
        (Befell::Hydrolock, Figure::MAIN_RUNOUT, Place::main(2)),
        (Befell::Overheated, face, Place::new(PlaceKind::Deck, 1)),
        (Befell::Overheated, Figure::PISTON_TO_WALL, Place::cylinder(2)),
        (Befell::Debris, Figure::PISTON_TO_WALL, Place::cylinder(2)),
    ] {
        let mut bench = six()?;
        assert!(!asked(&bench, figure, at), "{figure:?}");
        bench.befell(befell, None, "as told")?;
        assert!(asked(&bench, figure, at), "{figure:?} after {befell:?}");
        let blocks = evaluate(bench.build()).sign_off.blocks;
        assert!(blocks.iter().any(|b| (b.figure, b.station) == (figure, at)), "{befell:?}");
    }
    Ok(())
}

#[test]
fn a_journal_that_stops_the_work_is_crack_tested_before_anybody_signs() -> Outcome {
    let mut bench = six()?;
    let open = |bench: &Bench| evaluate(bench.build()).forced.iter().filter(|f| f.is_open()).count();
    bench.look(Place::pin(2), InspectedPart::Journal, &[Sign::CatchesNail])?;
    assert_eq!(open(&bench), 1);
    bench.look(Place::pin(2), InspectedPart::Journal, &[Sign::Felt])?;
    assert_eq!(open(&bench), 0, "looked at again: it does not catch");
    bench.look(Place::pin(2), InspectedPart::Journal, &[Sign::Crack])?;
    bench.work(Work::JournalGround, Scope::Crank, "0.010 under")?;
    assert_eq!(open(&bench), 1, "a grind does not undo a crack");
    bench.checked(Check::CrackTest, None, CheckFound::Good, "magnetic, by the testing house, certificate 118")?;
    assert_eq!(open(&bench), 0);
    bench.work(Work::CrankStraightened, Scope::Crank, "peened at P2")?;
    assert_eq!(open(&bench), 2, "what was straightened is tested again");
    Ok(())
}

#[test]
fn a_part_with_a_sign_that_stops_it_is_condemned_and_blocks_once() -> Outcome {
    let mut bench = six()?;
    bench.look(Place::wrist_pin(4), InspectedPart::Piston, &[Sign::EdgeMelted])?;
    let assessed = evaluate(bench.build());
    assert_eq!(
        assessed.unfit.iter().map(|u| (u.part.clone(), u.sign)).collect::<Vec<_>>(),
        [(Some("W4".into()), Some(Sign::EdgeMelted))]
    );
    let wall = assessed.figure(Figure::PISTON_TO_WALL, Place::cylinder(4)).map(|f| f.moot.len());
    assert_eq!(wall, Some(1));
    bench.look(Place::wrist_pin(4), InspectedPart::Piston, &[Sign::Smooth])?;
    assert!(evaluate(bench.build()).unfit.is_empty());
    Ok(())
}

#[test]
fn every_event_forces_what_it_can_have_harmed_and_nothing_of_another_cylinder() -> Outcome {
    for befell in Befell::ALL {
        let mut bench = six()?;
        bench.befell(befell, Some(Place::cylinder(2)), "as told")?;
        let forced = evaluate(bench.build()).forced;
        let checks: Vec<Check> = forced.iter().filter_map(|f| f.check).collect();
        assert_eq!(checks, befell.checks(), "{befell:?}");
        let looked: Vec<InspectedPart> = forced.iter().filter_map(|f| f.look).collect();
        assert_eq!(looked, befell.looks(), "{befell:?}");
        let left = || forced.iter().flat_map(|f| &f.left);
        assert!(left().all(|p| p.of_cylinder().is_none_or(|n| n == 2)), "{forced:?}");
        assert!(forced.iter().all(jagged_pin_core::assess::Forced::is_open));
        // A build of before is not asked.
        let before = Rules { check_gate: false, ..bench.build().rules_now().clone() };
        bench.rules(before, "as before")?;
        assert!(evaluate(bench.build()).forced.is_empty());
    }
    Ok(())
}

#[test]
fn a_sign_that_stops_what_cannot_be_taken_out_blocks_where_it_is() -> Outcome {
    let mut bench = six()?;
    bench.look(Place::main(2), InspectedPart::Lower, &[Sign::LiningLifted])?;
    let blocks = evaluate(bench.build()).sign_off.blocks;
    let here: Vec<Needs> = blocks.iter().filter(|b| b.station == Place::main(2)).map(|b| b.needs).collect();
    assert!(here.contains(&Needs::Part), "{here:?}");
    bench.look(Place::main(2), InspectedPart::Lower, &[Sign::Uniform])?;
    let blocks = evaluate(bench.build()).sign_off.blocks;
    assert!(blocks.iter().all(|b| b.needs != Needs::Part));
    Ok(())
}

#[test]
fn what_stands_where_nothing_is_asked_for_blocks_too_and_says_where() -> Outcome {
    for (at, part, sign) in [
        (Place::NOSE, InspectedPart::Hub, Sign::RingSlipped),
        (Place::OIL_PUMP, InspectedPart::Pump, Sign::Crack),
        (Place::new(PlaceKind::Head, 1), InspectedPart::Valves, Sign::Burnt),
        (Place::new(PlaceKind::Deck, 1), InspectedPart::Fasteners, Sign::Galled),
    ] {
        let mut bench = six()?;
        let unusable = |bench: &Bench| -> Vec<Finding> {
            let all = evaluate(bench.build()).figures.into_iter().flat_map(|f| f.findings);
            all.filter(|f| matches!(f, Finding::Unusable { .. })).collect()
        };
        assert_eq!(unusable(&bench), []);
        bench.look(at, part, &[sign])?;
        assert_eq!(unusable(&bench), [Finding::Unusable { seen_on: part, sign, at: Some(at) }]);
        let blocks = evaluate(bench.build()).sign_off.blocks;
        assert!(blocks.iter().any(|b| b.needs == Needs::Part), "{part:?}: {blocks:?}");
        bench.look(at, part, &[Sign::Smooth])?;
        assert_eq!(unusable(&bench), [], "another one is fitted and looked at");
    }
    // What has a figure of its own that is asked for is named there.
    let mut bench = six()?;
    bench.look(Place::main(3), InspectedPart::Fasteners, &[Sign::BoltStretched])?;
    let figures = evaluate(bench.build()).figures;
    let stretched = Finding::Unusable { seen_on: InspectedPart::Fasteners, sign: Sign::BoltStretched, at: None };
    assert!(figures.iter().any(|f| f.station == Place::main(3) && f.findings.contains(&stretched)));
    Ok(())
}

#[test]
fn a_two_stroke_on_rollers_has_neither_valves_nor_pump_nor_shells() -> Outcome {
    let plain = six::opened(98)?.build().layout.clone();
    let rollers = Layout { rollers: true, cam: None, ..plain.clone() };
    for part in [InspectedPart::Valves, InspectedPart::Pump, InspectedPart::Upper] {
        assert!(!part.places(&plain).is_empty() && part.places(&rollers).is_empty(), "{part:?}");
    }
    for part in [InspectedPart::Hub, InspectedPart::SealLand] {
        assert_eq!(part.places(&rollers), [Place::NOSE, Place::FLANGE]);
    }
    Ok(())
}

#[test]
fn a_worn_hub_is_looked_into_by_the_runout_of_its_own_end() -> Outcome {
    let mut bench = six()?;
    bench.look(Place::NOSE, InspectedPart::Hub, &[Sign::Fretted])?;
    let by = |bench: &Bench| {
        let hub = of(bench, Suspicion::HubLoose)?;
        hub.confirm.iter().find(|c| c.by == Check::Runout).map(|c| (c.at, c.tested.map(|t| t.says)))
    };
    assert_eq!(by(&bench), Some((Some(Place::NOSE), None)));
    let ends: Figure = "end_runout".parse().map_err(|_| Refusal::NoTarget)?;
    let window = TargetRule::Range { low: t(0), aim: None, high: t(10) };
    bench.figure_target(ends, BearingRow::Mains, window, "race")?;
    let clock: Vec<&[&str]> = vec![&["2", "2"]; 8];
    bench.pushes(Place::NOSE, Role::new("main_turn"), &clock)?;
    assert_eq!(by(&bench), Some((Some(Place::NOSE), Some(CheckSays::Kills))));
    Ok(())
}

#[test]
fn what_a_check_found_is_what_was_held_against_the_limit() -> Outcome {
    let mut bench = six()?;
    let (b2, w2) = (Place::cylinder(2), Place::wrist_pin(2));
    bench.look(b2, InspectedPart::Bore, &[Sign::ScoredOneSide])?;
    let wall: Figure = "piston_to_wall".parse().map_err(|_| Refusal::NoTarget)?;
    let window = TargetRule::Range { low: t(30), aim: None, high: t(36) };
    bench.figure_target(wall, BearingRow::Rods, window, "sheet")?;
    bench.take("bore-tenths");
    bench.take("mic-four-tenths");
    bench.size(w2, Role::new("piston"), &["3.4716 16"])?;
    // Wide enough on the whole, and tight along the crank at its top.
    let wide = "3.4750 50";
    bench.size(b2, Role::new("cylinder"), &[wide, "3.4740 40", wide, wide, wide, wide])?;
    let judged = evaluate(bench.build()).figure(wall, b2).and_then(|f| f.judged.clone());
    let found = of(&bench, Suspicion::ScuffedWall)
        .and_then(|h| h.confirm.iter().find(|c| c.by == Check::PistonToWall).and_then(|c| c.tested));
    assert_eq!(judged.map(|j| (j.smallest, j.worst)), Some((t(24), t(24))));
    assert_eq!(found.map(|f| (f.says, f.at, f.value)), Some((CheckSays::Confirms, b2, t(24))));
    // A gap that is wide by now neither confirms that it was too small nor takes it back.
    bench.work(Work::CylinderHoned, Scope::One(b2), "until the marks were gone")?;
    bench.size(b2, Role::new("cylinder"), &["3.4770 70"; 6])?;
    let wide = evaluate(bench.build()).figure(wall, b2).and_then(|f| f.judged.clone());
    assert_eq!(wide.map(|j| j.state), Some(State::Loose));
    bench.look(w2, InspectedPart::Piston, &[Sign::ScuffedBoth])?;
    let found = of(&bench, Suspicion::ScuffedWall)
        .map(|h| (h.says, h.confirm.iter().find(|c| c.by == Check::PistonToWall).and_then(|c| c.tested), h.next));
    let (says, tested, next) = found.ok_or(Refusal::NoSuchReading)?;
    assert_eq!((says, tested.map(|t| t.says)), (None, Some(CheckSays::LeavesOpen)));
    assert!(next.is_some_and(|next| next.check != Check::PistonToWall), "{next:?}: it was measured already");
    Ok(())
}

#[test]
fn the_first_of_all_checks_is_named_once() -> Outcome {
    let mut bench = six()?;
    bench.look(Place::main(3), InspectedPart::Lower, &[Sign::Seam])?;
    bench.look(Place::pin(2), InspectedPart::Journal, &[Sign::OilStain])?;
    bench.look(Place::cylinder(1), InspectedPart::Bore, &[Sign::Pits])?;
    let all = suggested(&bench);
    let first: Vec<Suspicion> = all.iter().filter(|h| h.next.is_some_and(|n| n.first)).map(|h| h.suspicion).collect();
    assert_eq!(first.len(), 1, "{first:?}");
    let per_minute = |h: &Hypothesis| h.next.map_or(0, |n| u32::from(n.centibits) * 1_000 / u32::from(n.minutes));
    let most = all.iter().map(per_minute).max();
    let named = all.iter().find(|h| h.next.is_some_and(|n| n.first)).map(per_minute);
    assert_eq!(named, most);
    Ok(())
}

#[test]
fn two_signs_of_one_suspicion_ask_for_each_check_once() -> Outcome {
    let mut bench = six()?;
    bench.look(Place::rod(2), InspectedPart::Upper, &[Sign::EdgeFront])?;
    bench.look(Place::rod(2), InspectedPart::Lower, &[Sign::EdgeRear])?;
    bench.look(Place::rod(4), InspectedPart::Rod, &[Sign::BentMarks])?;
    let bent = of(&bench, Suspicion::BentRod);
    let checks: Vec<Check> = bent.iter().flat_map(|h| &h.confirm).map(|c| c.by).collect();
    assert_eq!(checks, [Check::RodAlignment, Check::BearingTaper, Check::CrownHeight]);
    assert_eq!(bent.map(|h| h.stations), Some(vec![Place::rod(2), Place::rod(4)]));
    Ok(())
}
