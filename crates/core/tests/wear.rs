//! What a factory's wear range says of a figure outside its window: run on by choice, or rework; never an aim.
mod six;

use jagged_pin_core::Length;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{BearingRow, Figure, Place, Role};
use jagged_pin_core::figure::Finding;
use jagged_pin_core::log::{TargetChange, WearRange, What};
use jagged_pin_core::maths::{State, TargetRule, TargetSource};
use jagged_pin_core::record::Refusal;
use proptest::prelude::*;

fn t(tenths: i64) -> Length {
    Length::tenths(tenths)
}

/// How the rod side of the first pin is judged between two blades, and what the wear range says of it.
fn judged(between: [i64; 2], wear: Option<[i64; 2]>) -> Result<(Option<State>, Option<Finding>), Refusal> {
    let mut bench = six::opened(95)?;
    let change = TargetChange {
        figure: Some(Figure::ROD_SIDE),
        station: None,
        row: BearingRow::Rods,
        kind: None,
        rule: Some(TargetRule::Range { low: t(100), aim: None, high: t(160) }),
        made_of: None,
        wear: wear.map(|[low, high]| WearRange { low: t(low), high: t(high) }),
        source: TargetSource::MakersSheet,
        reason: "the factory's book".into(),
        lifted: Vec::new(),
    };
    bench.record(What::Target(change))?;
    let shown = format!("{} {}", between[0], between[1]);
    bench.pushes(Place::side(1), Role::new("side_gap"), &[&[&shown, &shown], &[&shown, &shown]])?;
    let figure = evaluate(bench.build()).figure(Figure::ROD_SIDE, Place::side(1)).cloned();
    let said = figure.iter().flat_map(|f| &f.findings);
    let worn =
        said.filter(|f| matches!(f, Finding::WithinWear | Finding::BeyondWear { .. })).cloned().collect::<Vec<_>>();
    assert!(worn.len() < 2, "one thing is said of wear: {worn:?}");
    Ok((figure.and_then(|f| f.judged).map(|j| j.state), worn.into_iter().next()))
}

#[test]
fn a_used_part_outside_the_window_runs_on_by_choice_inside_the_range_only() -> Result<(), Refusal> {
    let range = Some([80, 200]);
    assert_eq!(judged([120, 130], range)?, (Some(State::In), None), "nothing is said of what is in");
    assert_eq!(judged([180, 190], range)?, (Some(State::Loose), Some(Finding::WithinWear)));
    assert_eq!(judged([180, 190], None)?, (Some(State::Loose), None), "nobody knows a range");
    let (state, beyond) = judged([250, 260], range)?;
    assert_eq!(state, Some(State::Loose));
    assert!(matches!(beyond, Some(Finding::BeyondWear { by }) if by >= t(50)), "{beyond:?}");
    let (state, under) = judged([50, 60], range)?;
    assert_eq!(state, Some(State::Tight));
    assert!(matches!(under, Some(Finding::BeyondWear { .. })), "{under:?}");
    Ok(())
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]
    #[test]
    fn wear_speaks_where_the_window_does_and_nowhere_else(passes in 30i64..300, low in 40i64..100, high in 160i64..260) {
        let (state, said) = judged([passes, passes + 10], Some([low, high])).unwrap_or_default();
        let outside = matches!(state, Some(State::Tight | State::Loose));
        prop_assert_eq!(said.is_some(), outside, "{:?}", state);
        if let Some(Finding::BeyondWear { by }) = said {
            prop_assert!(by > Length::ZERO && (passes < low || passes + 10 > high));
        }
    }
}
