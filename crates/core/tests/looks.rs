//! Eyes and fingernail: every sign has a consequence, and a measured check confirms it or kills it with its figure.
use jagged_pin_core::Length;
use jagged_pin_core::assess::{CheckSays, ConfirmBy, Hypothesis, Suspicion, evaluate};
use jagged_pin_core::engine::{Figure, Place, Read, Role};
use jagged_pin_core::log::{InspectedPart, Sign};
use jagged_pin_core::maths::TargetRule;
use jagged_pin_core::record::Refusal;
use jagged_pin_workbench::{Bench, patterns, person};

type Outcome = Result<(), Refusal>;

fn t(tenths: i64) -> Length {
    Length::tenths(tenths)
}

/// A six whose upper shells all look as they should.
fn six() -> Result<Bench, Refusal> {
    let known = patterns();
    let mut curlew = known.iter().find(|p| p.id == "curlew-24").unwrap_or(&known[0]).clone();
    curlew.layout = curlew.layout.with_usual_plans();
    let mut bench = Bench::book_in(98, "T-98", &curlew, 0, person("oduya"))?;
    let uppers: Vec<Place> = curlew.layout.all_bearings().collect();
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
    let fine = [Sign::Uniform, Sign::Smooth];
    for sign in Sign::SHELL.into_iter().chain(Sign::JOURNAL).chain(Sign::THRUST) {
        let places = [
            (Place::main(2), InspectedPart::Journal),
            (Place::main(2), InspectedPart::Lower),
            (Place::THRUST, InspectedPart::ThrustRear),
        ];
        for (station, part) in places.into_iter().filter(|(_, part)| sign.can_be_on(*part)) {
            let mut bench = six()?;
            bench.look(station, part, &[sign])?;
            let found = suggested(&bench);
            assert_eq!(found.is_empty(), fine.contains(&sign), "{sign:?} on {part:?}: {found:?}");
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
        let by_housing =
            h.iter().flat_map(|h| &h.confirm).find(|c| c.by == ConfirmBy::HousingSize).and_then(|c| c.tested);
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
