//! What the figures of cylinders betray: a catalogue size believed, directions exchanged, a plate forgotten. And what they do not.
mod six;

use jagged_pin_core::Length;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{BearingRow, Figure, Place, Role};
use jagged_pin_core::figure::Finding;
use jagged_pin_core::maths::TargetRule;
use jagged_pin_core::record::Refusal;
use jagged_pin_workbench::Bench;
use proptest::prelude::*;

type Outcome = Result<(), Refusal>;

fn t(tenths: i64) -> Length {
    Length::tenths(tenths)
}

fn six() -> Result<Bench, Refusal> {
    let mut bench = six::opened(96)?;
    let window = TargetRule::Range { low: t(30), aim: Some(t(33)), high: t(36) };
    bench.figure_target(Figure::PISTON_TO_WALL, BearingRow::Rods, window, "the sheet")?;
    Ok(bench)
}

/// Touches twice alike at each place, in tenths over 3.4700 in: top, middle and bottom, across and along at each.
fn bore(bench: &mut Bench, n: u8, places: [i64; 6]) -> Outcome {
    bench.take("bore-tenths");
    let twice = places.map(|over| format!("3.47{over:02} 3.47{over:02}"));
    let texts = twice.each_ref().map(String::as_str);
    bench.size(Place::cylinder(n), Role::new("cylinder"), &texts).map(drop)
}

fn pistons(bench: &mut Bench, sizes: &[&str]) -> Outcome {
    bench.take("mic-four-tenths");
    for (n, size) in (1..).zip(sizes) {
        bench.size(Place::wrist_pin(n), Role::new("piston"), &[size])?;
    }
    Ok(())
}

/// Cylinders at which something of that sort is said.
fn said(bench: &Bench, of: fn(&Finding) -> bool) -> Vec<u8> {
    let figures = evaluate(bench.build()).figures;
    let walls = figures.iter().filter(|f| f.figure == Figure::PISTON_TO_WALL);
    walls.filter(|f| f.findings.iter().any(of)).map(|f| f.station.number()).collect()
}

#[test]
fn pistons_that_all_read_what_the_box_says_were_hardly_measured() -> Outcome {
    let copied: fn(&Finding) -> bool = |f| matches!(f, Finding::ReadOffTheBox { .. });
    // 3.4717 is the bore as it is called less the aim.
    let mut bench = six()?;
    let four = "3.4717 17 17 17";
    pistons(&mut bench, &[four, four, four, four])?;
    assert_eq!(said(&bench, copied), [1, 2, 3, 4]);
    // Good pistons are matched at their sheet's figure, and two touches of each agree more often than not.
    let mut bench = six()?;
    pistons(&mut bench, &["3.4717 3.4717", "3.4717 3.4717", "3.4717 3.4717", "3.4717 3.4717"])?;
    assert!(said(&bench, copied).is_empty());
    // Alike, but no printed figure; and spread as a hand spreads.
    for sizes in [
        ["3.4715 3.4715", "3.4715 3.4715", "3.4715 3.4715", "3.4715 3.4715"],
        ["3.4717 3.4716", "3.4717 3.4717", "3.4716 3.4717", "3.4718 3.4717"],
    ] {
        let mut bench = six()?;
        pistons(&mut bench, &sizes)?;
        assert!(said(&bench, copied).is_empty(), "{sizes:?}");
    }
    Ok(())
}

#[test]
fn a_cylinder_that_is_wide_the_other_way_was_touched_with_the_names_exchanged() -> Outcome {
    let exchanged: fn(&Finding) -> bool = |f| matches!(f, Finding::DirectionsExchanged { .. });
    let mut bench = six()?;
    for n in [1, 2, 4] {
        bore(&mut bench, n, [55, 51, 53, 50, 52, 50])?;
    }
    assert!(said(&bench, exchanged).is_empty());
    bore(&mut bench, 3, [51, 55, 50, 53, 50, 52])?;
    assert_eq!(said(&bench, exchanged), [3]);
    // Two of each kind betray nothing: who is right?
    let mut bench = six()?;
    for n in [1, 2] {
        bore(&mut bench, n, [55, 51, 53, 50, 52, 50])?;
        bore(&mut bench, n + 2, [51, 55, 50, 53, 50, 52])?;
    }
    assert!(said(&bench, exchanged).is_empty());
    Ok(())
}

#[test]
fn a_piston_far_under_its_set_was_touched_across_the_pin_or_near_the_crown() -> Outcome {
    let apart: fn(&Finding) -> bool = |f| matches!(f, Finding::PistonApart { .. });
    let sized = |third: &str, fourth: &str| -> Result<Vec<u8>, Refusal> {
        let mut bench = six()?;
        pistons(&mut bench, &["3.4716 16", "3.4718 18", third, fourth])?;
        Ok(said(&bench, apart))
    };
    assert_eq!(sized("3.4660 3.4660", "3.4717 17")?, [3]);
    assert_eq!(sized("3.4700 3.4700", "3.4717 17")?, Vec::<u8>::new(), "worn, and no more than that");
    assert_eq!(sized("3.4660 3.4660", "3.4690 3.4690")?, Vec::<u8>::new(), "no set: nobody knows which is which");
    Ok(())
}

#[test]
fn a_top_narrower_than_all_below_it_was_touched_in_the_ridge() -> Outcome {
    let ridge: fn(&Finding) -> bool = |f| matches!(f, Finding::TouchedInTheRidge { .. });
    for (places, expected) in [
        ([44, 43, 51, 50, 50, 49], vec![2]),
        // Narrower one way only, and as a bore wears: widest at its top.
        ([52, 43, 51, 50, 50, 49], vec![]),
        ([56, 55, 51, 50, 50, 49], vec![]),
    ] {
        let mut bench = six()?;
        bore(&mut bench, 2, places)?;
        assert_eq!(said(&bench, ridge), expected, "{places:?}");
    }
    Ok(())
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(32))]
    #[test]
    fn a_gap_is_said_to_follow_its_bore_from_a_blade_on(top in 0i64..20, middle in 0i64..20) {
        let mut bench = six()?;
        bore(&mut bench, 2, [50 + top, 50 + top, 50 + middle, 50 + middle, 50, 50])?;
        bench.pushes(Place::cylinder(2), Role::new("top_ring_gap"), &[&["150 160", "150 160"]])?;
        let figures = evaluate(bench.build()).figures;
        let of = |name: &str| figures.iter().find(|f| f.figure.name() == name && f.station == Place::cylinder(2));
        let said = |name| {
            let by = |f: &Finding| if let Finding::GapFollowsTaper { by } = f { Some(*by) } else { None };
            of(name).and_then(|f| f.findings.iter().find_map(by))
        };
        let expected = Length::from_f64(std::f64::consts::PI * t(top.max(middle)).as_f64()).filter(|by| *by >= t(10));
        prop_assert_eq!((said("top_ring_gap"), said("second_ring_gap")), (expected, None));
    }
}

#[test]
fn touches_of_a_gap_that_shut_each_other_out_tell_of_ends_that_are_not_parallel() -> Outcome {
    for (touches, expected) in [
        ("150 160, 130 140", Some(t(20))),
        ("150 160, 150 160", None),
        // A gap at the edge of a blade: sticks in one touch and passes in the next.
        ("150 160, 140 150", None),
        ("150 160", None),
    ] {
        let mut bench = six()?;
        let touches: Vec<&str> = touches.split(", ").collect();
        bench.pushes(Place::cylinder(2), Role::new("top_ring_gap"), &[&touches])?;
        let figures = evaluate(bench.build()).figures;
        let by = |f: &Finding| if let Finding::GapEndsApart { by } = f { Some(*by) } else { None };
        let all = figures.iter().flat_map(|f| f.findings.iter().filter_map(by).map(|by| (f.figure.name(), by)));
        let said: Vec<(&str, Length)> = all.collect();
        assert_eq!(said, expected.map(|by| ("top_ring_gap", by)).into_iter().collect::<Vec<_>>(), "{touches:?}");
    }
    Ok(())
}

#[test]
fn a_bore_out_of_round_at_its_top_alone_was_read_without_the_plate() -> Outcome {
    let forgotten: fn(&Finding) -> bool = |f| matches!(f, Finding::PlateForgotten { .. });
    let mut bench = six()?;
    for n in [1, 2, 3] {
        bore(&mut bench, n, [50, 49, 49, 49, 49, 48])?;
    }
    bore(&mut bench, 5, [54, 49, 50, 49, 49, 49])?;
    assert_eq!(said(&bench, forgotten), [5]);
    // Out of round all the way down is wear.
    let mut bench = six()?;
    for n in [1, 2, 3] {
        bore(&mut bench, n, [50, 49, 49, 49, 49, 48])?;
    }
    bore(&mut bench, 5, [54, 49, 53, 49, 53, 49])?;
    assert!(said(&bench, forgotten).is_empty());
    Ok(())
}
