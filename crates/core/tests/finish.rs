//! Roughness and hardness: where they are noted, what ends them, and what the rules say of a surface that is too rough.
mod six;

use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{BearingRow, Figure, Place, PlaceKind, Scope};
use jagged_pin_core::evidence::Notes;
use jagged_pin_core::figure::Finding;
use jagged_pin_core::log::{FinishLimits, Note, Noted, Rules, What, Work};
use jagged_pin_core::maths::TargetRule;
use jagged_pin_core::{Build, Length, Unit};
use jagged_pin_workbench::Bench;
use proptest::prelude::*;

type Outcome = Result<(), Box<dyn std::error::Error>>;

const DECK: Place = Place::new(PlaceKind::Deck, 1);

fn noted(note: Note, at: Place, raw: &str) -> What {
    let value = note.read(raw, Unit::Inch).unwrap_or_default();
    What::Noted(Noted { note, at, value, raw: raw.into() })
}

/// Where something is said to be too rough: the place of the figure and of the surface, what it has and what it may have.
fn rough(build: &Build) -> Vec<(Place, Place, Length, Length)> {
    let of = |finding: &Finding| match finding {
        Finding::Rough { at, roughness, limit } => Some((*at, *roughness, *limit)),
        _ => None,
    };
    let all = evaluate(build).figures;
    let said = all.iter().flat_map(|f| f.findings.iter().filter_map(of).map(|(at, r, l)| (f.station, at, r, l)));
    said.collect()
}

fn opened() -> Result<Bench, Box<dyn std::error::Error>> {
    let mut bench = six::opened(97)?;
    let flat = "face_flatness".parse::<Figure>()?;
    let rule = TargetRule::Range { low: Length::ZERO, aim: None, high: Length::tenths(30) };
    bench.figure_target(flat, BearingRow::Mains, rule, "the gasket's sheet")?;
    Ok(bench)
}

#[test]
fn a_journal_rougher_than_the_rules_is_named_at_every_bearing_on_it_until_it_is_polished() -> Outcome {
    let mut bench = opened()?;
    bench.record(noted(Note::Roughness, Place::main(4), "8"))?;
    bench.record(noted(Note::Roughness, Place::pin(2), "12"))?;
    bench.record(noted(Note::Hardness, Place::pin(2), "52.5"))?;
    let (has, may) = (Length::from_nm(305), FinishLimits::USUAL.journal);
    assert_eq!(rough(bench.build()), [(Place::rod(2), Place::pin(2), has, may)], "8 is in, 12 is not");
    bench.work(Work::JournalPolished, Scope::One(Place::pin(2)), "800")?;
    assert_eq!(rough(bench.build()), [], "what was read before the polish says nothing of it");
    let notes = Notes::of_build(bench.build());
    assert_eq!((notes.value(Place::pin(2), Note::Roughness), notes.value(Place::pin(2), Note::Hardness)), (None, None));
    assert_eq!(notes.value(Place::main(4), Note::Roughness), Some(203));
    bench.record(noted(Note::Roughness, Place::pin(2), "5"))?;
    assert_eq!(rough(bench.build()), []);
    Ok(())
}

#[test]
fn a_face_is_held_against_its_own_limit_and_the_rules_may_move_it() -> Outcome {
    let mut bench = opened()?;
    bench.record(noted(Note::Roughness, DECK, "50"))?;
    bench.record(noted(Note::Roughness, Place::cylinder(3), "30"))?;
    assert_eq!(rough(bench.build()), [], "a composite gasket bears sixty, and a wall has no limit here");
    let thin = FinishLimits { face: Length::from_nm(762), ..FinishLimits::USUAL };
    let rules = Rules { finish: Some(thin), ..bench.build().rules_now().clone() };
    bench.rules(rules, "a thin metal gasket")?;
    assert_eq!(rough(bench.build()), [(DECK, DECK, Length::from_nm(1_270), thin.face)]);
    bench.work(Work::FaceMachined, Scope::One(DECK), "0.004 off")?;
    assert_eq!(rough(bench.build()), []);
    let never = Rules { finish: Some(FinishLimits { journal: Length::ZERO, ..thin }), ..Rules::standard(Unit::Inch) };
    assert!(bench.rules(never, "no surface is that smooth").is_err());
    assert!(bench.record(noted(Note::Hardness, DECK, "52")).is_err(), "a face has no hardness here");
    Ok(())
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(32))]
    #[test]
    fn a_surface_is_named_exactly_where_it_is_rougher_than_it_may_be(tenths in 5i64..400, limit in 20i64..300) {
        let mut bench = six::opened(97)?;
        let limits = FinishLimits { journal: Length::from_nm(limit), ..FinishLimits::USUAL };
        let rules = Rules { finish: Some(limits), ..bench.build().rules_now().clone() };
        bench.rules(rules, "as the builder wants it")?;
        let value = Note::Roughness.read(&format!("{}.{}", tenths / 10, tenths % 10), Unit::Inch).unwrap_or_default();
        bench.record(What::Noted(Noted { note: Note::Roughness, at: Place::main(2), value, raw: "typed".into() }))?;
        prop_assert_eq!(!rough(bench.build()).is_empty(), value > limit);
    }
}
