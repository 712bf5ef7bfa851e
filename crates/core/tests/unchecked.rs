//! What a sheet says nothing about stands on it by name: whatever is neither asked for nor measured nor looked at.
mod six;

use jagged_pin_core::assess::{Assessment, evaluate};
use jagged_pin_core::engine::{BearingRow, Figure, Place, Role, Wanting};
use jagged_pin_core::log::{InspectedPart, LOOKS, Rules, Sign};
use jagged_pin_core::maths::TargetRule;
use jagged_pin_core::record::Refusal;
use jagged_pin_core::sheet::NotChecked;
use jagged_pin_core::{Build, Length};
use jagged_pin_workbench::Bench;

type Outcome = Result<(), Refusal>;

fn named(id: &str) -> Result<Figure, Refusal> {
    id.parse().map_err(|_| Refusal::NoTarget)
}

fn unchecked(assessed: &Assessment, figure: Figure) -> Vec<Place> {
    let of = |n: &NotChecked| match n {
        NotChecked::Figure { figure: f, places } if *f == figure => Some(places.clone()),
        _ => None,
    };
    assessed.not_checked.iter().find_map(of).unwrap_or_default()
}

fn part(assessed: &Assessment, role: Role) -> Vec<Place> {
    let of = |n: &NotChecked| match n {
        NotChecked::Part { role: r, places } if *r == role => Some(places.clone()),
        _ => None,
    };
    assessed.not_checked.iter().find_map(of).unwrap_or_default()
}

fn window(bench: &mut Bench, figure: &str) -> Outcome {
    let rule = TargetRule::Range { low: Length::tenths(10), aim: None, high: Length::tenths(100) };
    bench.figure_target(named(figure)?, BearingRow::Rods, rule, "race")
}

/// Every figure of every place is either asked for or named, never both: nothing is passed over in silence.
fn says_all(build: &Build) -> Assessment {
    let assessed = evaluate(build);
    for figure in Figure::all_in(&build.layout) {
        if figure.row().wanted == Wanting::Always {
            continue;
        }
        let left = unchecked(&assessed, figure);
        let for_others = figure.row().wanted == Wanting::ForOthers;
        for place in build.layout.places().filter(|place| figure.is_at(*place)) {
            let assessed = assessed.figure(figure, place);
            // What other figures are made of is known without being asked for.
            let known = for_others && assessed.is_some_and(|f| f.methods.iter().any(|m| m.complete));
            let asked = assessed.is_some_and(|f| f.asked);
            assert_ne!(asked || known, left.contains(&place), "{figure:?} at {place}");
        }
    }
    assessed
}

#[test]
fn a_figure_that_nobody_asks_for_is_named_until_somebody_does() -> Outcome {
    let mut bench = six::opened(97)?;
    // Wanted once begun, and wanted with a target only: both are named.
    for figure in ["piston_to_wall", "pin_in_rod", "piston_size", "end_runout"] {
        assert!(!unchecked(&says_all(bench.build()), named(figure)?).is_empty(), "{figure}");
    }
    for figure in ["piston_to_wall", "pin_in_rod", "piston_size"] {
        window(&mut bench, figure)?;
        assert_eq!(unchecked(&says_all(bench.build()), named(figure)?), [], "{figure}");
    }
    Ok(())
}

#[test]
fn of_a_row_that_is_sampled_nothing_is_claimed_between_its_ends() -> Outcome {
    let mut bench = six::opened(97)?;
    let asked = |bench: &Bench| -> Vec<u8> {
        let all = evaluate(bench.build()).figures;
        let mains = all.iter().filter(|f| f.figure == Figure::OIL_CLEARANCE && f.row == BearingRow::Mains && f.asked);
        mains.map(|f| f.station.number()).collect()
    };
    let left_out = |bench: &Bench| -> Vec<Vec<Place>> {
        let of = |n: NotChecked| if let NotChecked::Sampled { places } = n { Some(places) } else { None };
        evaluate(bench.build()).not_checked.into_iter().filter_map(of).collect()
    };
    assert_eq!((asked(&bench).len(), left_out(&bench).len()), (7, 0));
    let sampled = Rules { sampled: vec![BearingRow::Mains], ..bench.build().rules_now().clone() };
    bench.rules(sampled, "a touring engine, ends only")?;
    assert_eq!(asked(&bench), [1, 7]);
    assert_eq!(left_out(&bench), [(2..7).map(Place::main).collect::<Vec<_>>()]);
    let blocks = evaluate(bench.build()).sign_off.blocks;
    assert!(!blocks.iter().any(|b| b.station == Place::main(3)), "nobody asks for it");
    let mains = evaluate(bench.build()).rows.into_iter().find(|r| r.row == BearingRow::Mains);
    assert!(mains.is_some_and(|r| r.trend.is_none() && r.spread.is_none()));
    // Somebody looks at one of those between after all: then it counts.
    bench.take("mic-tenths");
    bench.journal(Place::main(3), ["2.6238 2.6238", "2.6238 2.6238", "2.6238 2.6238", "2.6238 2.6238"])?;
    assert_eq!(asked(&bench), [1, 3, 7]);
    Ok(())
}

#[test]
fn a_figure_that_was_begun_at_one_place_is_named_at_the_others() -> Outcome {
    let mut bench = six::opened(97)?;
    let ends = named("end_runout")?;
    let clock: Vec<&[&str]> = vec![&["2", "2"]; 8];
    bench.pushes(Place::NOSE, Role::new("main_turn"), &clock)?;
    assert_eq!(unchecked(&says_all(bench.build()), ends), [Place::FLANGE]);
    Ok(())
}

#[test]
fn journals_that_were_not_measured_whole_are_named() -> Outcome {
    let mut bench = six::opened(97)?;
    let mains = |bench: &Bench| {
        let journals = part(&evaluate(bench.build()), Role::JOURNAL);
        journals.into_iter().filter(|place| place.row() == BearingRow::Mains).collect::<Vec<_>>()
    };
    assert_eq!(mains(&bench).len(), 7);
    bench.take("mic-tenths");
    bench.journal(Place::main(2), ["2.6240 40", "40 40", "40 40", "40 40"])?;
    assert!(!mains(&bench).contains(&Place::main(2)));
    bench.size(Place::main(3), Role::JOURNAL, &["2.6240 40"])?;
    assert!(mains(&bench).contains(&Place::main(3)), "one place of four is no size");
    Ok(())
}

#[test]
fn parts_that_were_looked_at_are_not_named_any_more() -> Outcome {
    let mut bench = six::opened(97)?;
    let left = |bench: &Bench, part: InspectedPart| {
        let of = |n: &NotChecked| match n {
            NotChecked::Look { part: p, places } if *p == part => Some(places.clone()),
            _ => None,
        };
        evaluate(bench.build()).not_checked.iter().find_map(of).unwrap_or_default()
    };
    for row in &LOOKS {
        let there = row.part.places(&bench.build().layout);
        assert_eq!(left(&bench, row.part), there, "{:?}", row.part);
        for place in there {
            bench.look(place, row.part, &[row.signs[0]])?;
        }
        assert_eq!(left(&bench, row.part), [], "{:?}", row.part);
    }
    // A look that is taken back is none.
    bench.look(Place::OIL_PUMP, InspectedPart::Pump, &[])?;
    assert_eq!(left(&bench, InspectedPart::Pump), [Place::OIL_PUMP]);
    bench.look(Place::OIL_PUMP, InspectedPart::Pump, &[Sign::Scored])?;
    assert_eq!(left(&bench, InspectedPart::Pump), []);
    Ok(())
}

#[test]
fn an_engine_on_rollers_is_not_said_to_lack_shells() -> Outcome {
    let mut build = six::opened(97)?.build().clone();
    build.layout.rollers = true;
    let assessed = says_all(&build);
    let of_shells = Figure::all().filter(|figure| figure.is_of_shells());
    for figure in of_shells {
        assert_eq!(unchecked(&assessed, figure), [], "{figure:?}");
    }
    assert!(!unchecked(&assessed, named("main_runout")?).is_empty());
    Ok(())
}
