//! Proposals of shells for the demo's main story.

mod six;
mod stock;

use jagged_pin_core::assess::evaluate;
use jagged_pin_core::choose::{
    NoProposal, PickFrom, Proposal, ProposalWish, ProposedPair, TrayPlace, choose_from_tray, foreign_in, propose,
};
use jagged_pin_core::choose::{Objective, SelectError};
use jagged_pin_core::engine::{BearingRow, Place, Read};
use jagged_pin_core::log::{FittedPair, Fitting, What};
use jagged_pin_core::maths::State;
use jagged_pin_core::record::next_fact;
use jagged_pin_core::shells::{ClassPair, OnShelf, ShellFamily};
use jagged_pin_core::units::Timestamp;
use jagged_pin_core::{Build, Length};

fn t(tenths: i64) -> Length {
    Length::tenths(tenths)
}

fn curlew() -> Option<(Build, ShellFamily, Vec<OnShelf>)> {
    let builds = stock::builds();
    let build = builds.iter().find(|b| b.code == "SL-041")?;
    let family = jagged_pin_workbench::families().into_iter().find(|f| f.id == "CM")?;
    let shelf = jagged_pin_workbench::shelf().into_iter().filter(|(id, _)| *id == "CM").map(|(_, on)| on).collect();
    Some((build.clone(), family, shelf))
}

fn wish() -> ProposalWish {
    ProposalWish {
        row: BearingRow::Mains,
        undersize: t(0),
        objective: Objective::Closest,
        max_step: t(10),
        odd: None,
        fitted: Vec::new(),
        foreign: Vec::new(),
        kept: Vec::new(),
        without: Vec::new(),
        coating: t(0),
        buy: true,
        moved: t(0),
    }
}

fn proposed(change: impl Fn(&mut ProposalWish)) -> Result<Proposal, NoProposal> {
    let Some((build, family, shelf)) = curlew() else { return Err(NoProposal::NothingMeasured) };
    let mut wish = wish();
    change(&mut wish);
    propose(&build, &evaluate(&build), &family, &shelf, &wish)
}

fn at(proposal: &Proposal, station: u8) -> Result<&ProposedPair, NoProposal> {
    let place = proposal.places.iter().find(|p| p.station == Place::main(station));
    place.ok_or(NoProposal::Unknown(format!("M{station}")))
}

#[test]
fn the_tight_the_loose_and_the_edge_get_one_half_each() -> Result<(), NoProposal> {
    let p = proposed(|_| {})?;
    // One thin half lies on the shelf, two are wanted: a set of thin ones is bought.
    assert_eq!((p.outside, p.cost, p.proven, p.open.as_slice()), (0, 1_498_000, true, &[Place::main(7)][..]));
    // M2 at 19 tenths gets a thin half, M5 at 30.5 a thick one, M6 at 22 the other thin one; each moves by
    // half of its class's step.
    for (station, class, by) in [(2, "+1", 5), (5, "-1", -5), (6, "+1", 5)] {
        let place = at(&p, station)?;
        assert!((place.pair.upper == class) != (place.pair.lower == class), "{place:?}");
        assert_eq!(place.clearance - place.measured, t(by));
    }
    for station in [1, 3, 4] {
        assert!(!at(&p, station)?.changes);
    }
    let fetched = |class: &str| p.fetch.iter().filter(|f| f.class == class).map(|f| f.count).sum::<usize>();
    assert_eq!((fetched("+1"), fetched("-1"), fetched("std")), (2, 1, 0));
    let off = |p: &ProposedPair| (p.clearance - p.target.aim).nm().abs();
    assert_eq!(p.places.iter().map(off).max(), Some(p.worst.nm()));
    assert_eq!((p.binding, p.mixed), (Some(Place::main(6)), 3));
    // Seven pairs within a step of each other at each of the six that are measured.
    assert!((p.ways - 7_f64.powi(6)).abs() < 0.5, "{}", p.ways);
    Ok(())
}

#[test]
fn a_pair_that_stays_is_as_sure_as_measured_and_one_that_changes_is_less() -> Result<(), NoProposal> {
    let p = proposed(|_| {})?;
    for place in &p.places {
        assert_eq!(place.changes, place.now != place.pair);
        let same = place.expanded == place.measured_expanded;
        assert_eq!(same, !place.changes, "{place:?}");
        assert!(place.expanded >= place.measured_expanded);
        if !place.changes {
            assert_eq!(place.clearance, place.measured);
        }
    }
    Ok(())
}

#[test]
fn what_is_kept_stays_and_what_is_left_out_is_not_used() -> Result<(), NoProposal> {
    let p = proposed(|w| w.kept = vec![Place::main(2)])?;
    let kept = at(&p, 2)?;
    assert_eq!((kept.clearance, kept.state, kept.changes), (kept.measured, State::Tight, false));
    assert_eq!(p.outside, 1);
    let p = proposed(|w| w.without = vec!["+1".into()])?;
    assert!(p.places.iter().all(|p| p.pair.upper != "+1" && p.pair.lower != "+1"));
    assert!(p.buy.iter().all(|b| !b.part_number.contains('N')));
    // Refusing to mix: a whole thou moves too far for M6, so it stays.
    let p = proposed(|w| w.max_step = t(0))?;
    assert!(p.places.iter().all(|p| p.pair.upper == p.pair.lower) && p.mixed == 0);
    Ok(())
}

#[test]
fn what_is_in_the_engine_counts_as_there() {
    let Some((build, family, _)) = curlew() else { panic!("the demo has SL-041") };
    let none = |change: fn(&mut ProposalWish)| {
        let mut wish = wish();
        wish.buy = false;
        change(&mut wish);
        propose(&build, &evaluate(&build), &family, &[], &wish)
    };
    // An empty shelf and nothing bought: everything stays as it is.
    assert!(none(|_| {}).is_ok_and(|p| p.places.iter().all(|p| !p.changes)));
    let locked = none(|w| w.without = vec!["std".into()]);
    assert_eq!(locked, Err(NoProposal::Select(SelectError::NotEnough { missing: 12 })));
}

#[test]
fn a_family_that_the_crank_does_not_belong_to_is_stopped_with_the_evidence() {
    let wrong = proposed(|w| w.undersize = t(100));
    let said = wrong.err().map(|e| e.to_string()).unwrap_or_default();
    assert!(said.starts_with("M1's journal does not belong to these shells: it is standard"), "{said}");
    let unknown =
        proposed(|w| w.fitted = vec![(Place::main(1), ClassPair { upper: "+9".into(), lower: "std".into() })]);
    assert_eq!(unknown, Err(NoProposal::Unknown("class +9".into())));
}

#[test]
fn a_coating_takes_its_allowance_off_every_pair() -> Result<(), NoProposal> {
    let p = proposed(|w| {
        w.coating = t(-5);
        w.kept = (1..=6).map(Place::main).collect();
    })?;
    let expected: Vec<Length> = p.places.iter().map(|p| p.measured - t(5)).collect();
    assert_eq!(p.places.iter().map(|p| p.clearance).collect::<Vec<_>>(), expected);
    Ok(())
}

#[test]
fn the_least_to_buy_leaves_the_edge_where_it_is() -> Result<(), NoProposal> {
    let thrifty = proposed(|w| w.objective = Objective::Thriftiest)?;
    let closest = proposed(|_| {})?;
    assert_eq!((thrifty.outside, thrifty.cost, closest.cost), (0, 0, 1_498_000));
    assert!(thrifty.worst > closest.worst && !at(&thrifty, 6)?.changes && at(&closest, 6)?.changes);
    assert_eq!(at(&thrifty, 6)?.state, State::Edge, "inside, and not proven so");
    Ok(())
}

#[test]
fn the_pick_list_names_the_shelf_the_engine_and_what_is_bought() -> Result<(), NoProposal> {
    let p = proposed(|_| {})?;
    let from: Vec<(Place, &PickFrom)> = p.picks.iter().map(|l| (l.station, &l.from)).collect();
    let shelf = |place: &str| PickFrom::Shelf { place: place.into() };
    let set = PickFrom::Set { part_number: "CMGN00".into() };
    assert_eq!(from, [(Place::main(2), &shelf("A4")), (Place::main(5), &shelf("A5")), (Place::main(6), &set)]);
    assert_eq!(p.freed.len(), 3);
    assert_eq!(p.picks.len(), p.fetch.iter().map(|f| f.count).sum::<usize>());
    // The thin half that makes M5 loose is what M2 or M6 lacks: it moves, and nothing is bought.
    let swapped = proposed(|w| {
        w.fitted = vec![(Place::main(5), ClassPair { upper: "std".into(), lower: "+1".into() })];
    })?;
    let moved = swapped.picks.iter().filter(|l| l.from == PickFrom::Engine { station: Place::main(5) }).count();
    assert_eq!((moved, swapped.cost), (1, 0), "{:?}", swapped.picks);
    assert!(swapped.freed.iter().all(|f| f.class == "std"), "{:?}", swapped.freed);
    Ok(())
}

#[test]
fn another_target_is_tried_without_being_set() -> Result<(), NoProposal> {
    let (as_set, moved) = (proposed(|_| {})?, proposed(|w| w.moved = t(3))?);
    for (a, b) in as_set.places.iter().zip(&moved.places) {
        assert_eq!(b.target.aim - a.target.aim, t(3));
        assert_eq!(b.target.high - b.target.low, a.target.high - a.target.low);
        assert_eq!(a.measured, b.measured);
    }
    Ok(())
}

#[test]
fn halves_of_another_family_all_come_out() -> Result<(), NoProposal> {
    let Some((build, owner, _)) = curlew() else { panic!("the demo has SL-041") };
    let families = jagged_pin_workbench::families();
    let fine = families.iter().find(|f| f.id == "CX").cloned().unwrap_or_else(|| owner.clone());
    assert_eq!(foreign_in(&build, &owner, &families), [], "what is in is taken for the usual family's");
    let wish = ProposalWish { foreign: foreign_in(&build, &fine, &families), ..wish() };
    assert_eq!(wish.foreign.len(), 7);
    let p = propose(&build, &evaluate(&build), &fine, &[], &wish)?;
    assert!(p.places.iter().all(|place| place.changes && place.now.upper == "CM std"));
    assert!(p.picks.iter().all(|l| matches!(l.from, PickFrom::Set { .. })), "nothing of it lies in this engine");
    // Half steps land nearer than whole ones.
    assert!(p.worst < proposed(|_| {})?.worst);
    Ok(())
}

#[test]
fn what_no_shells_bring_inside_says_what_would() -> Result<(), NoProposal> {
    let p = proposed(|w| w.kept = (1..=6).map(Place::main).collect())?;
    assert_eq!(p.outside, 2);
    let wants: Vec<_> = p.remedies.iter().flat_map(|w| &w.places).map(|w| (w.station, w.wants)).collect();
    assert_eq!(wants.iter().map(|w| w.0).collect::<Vec<_>>(), [Place::main(2), Place::main(5)]);
    // M2 at 19 wants six more to its aim of 25; the gauge's walk is a fraction of a tenth.
    assert!((wants[0].1 - t(6)).abs() < t(1), "{wants:?}");
    // No grind serves them: they differ too much among themselves.
    assert!(p.remedies.is_some_and(|w| w.grind.is_none()));
    assert!(proposed(|_| {})?.remedies.is_none());
    Ok(())
}

#[test]
fn an_aluminium_case_opens_by_both_schools() {
    let builds = stock::builds();
    let four = builds.iter().find(|b| b.code == "SL-042").map(|b| (b, evaluate(b)));
    let family = jagged_pin_workbench::families().into_iter().find(|f| f.id == "DM");
    let Some(((build, assessed), family)) = four.zip(family) else { panic!("the demo has SL-042") };
    let asked = ProposalWish { max_step: family.step(), ..wish() };
    let Ok(p) = propose(build, &assessed, &family, &[], &asked) else { panic!("its mains are measured") };
    let um = Length::microns;
    assert_eq!(p.growth.map(|g| (g.allowance, g.expansion.growth)), Some((Some(um(18)), Length::from_nm(22_320))));
    for place in &p.places {
        assert_eq!(place.hot.and_then(|h| h.allowance), Some(place.clearance + um(18)));
        assert_eq!(place.measured_hot.map(|h| h.expansion), Some(place.measured + Length::from_nm(22_320)));
    }
    // An iron block hardly opens: nothing is shown.
    assert!(proposed(|_| {}).is_ok_and(|p| p.growth.is_none() && p.places.iter().all(|place| place.hot.is_none())));
}

#[test]
fn shells_of_a_tray_are_known_by_their_walls() -> Result<(), String> {
    let said = |e: &dyn std::fmt::Display| e.to_string();
    let builds = stock::build("SL-043");
    let mut build = builds.cloned().ok_or("the demo has SL-043")?;
    let tray = build.facts.iter().find_map(|f| match &f.what {
        What::Tray(tray) => Some(tray.clone()),
        _ => None,
    });
    let chosen = choose_from_tray(&build, &evaluate(&build), &tray.ok_or("it has a tray")?).map_err(|e| said(&e))?;
    let pair = |p: &TrayPlace| FittedPair {
        station: p.station,
        upper: p.upper.mark.clone(),
        lower: p.lower.mark.clone(),
        clearance: p.clearance,
        expanded: p.expanded,
    };
    let fitting = What::Fitting(Fitting {
        row: BearingRow::Mains,
        family: None,
        undersize: t(0),
        pairs: chosen.places.iter().map(pair).collect(),
        estimated: None,
        minutes: None,
        note: "from the tray".into(),
    });
    let by = jagged_pin_workbench::person("wick");
    let fact = next_fact(&build, uuid::Uuid::from_u128(1), Timestamp(1), by, fitting).map_err(|e| said(&e))?;
    build.facts.push(fact);
    let families = jagged_pin_workbench::families();
    let mains = families.iter().find(|f| f.id == "WM").ok_or("the demo has Whimbrel mains")?;
    let foreign = foreign_in(&build, mains, &families);
    assert_eq!(foreign.len(), 4);
    for ((station, named, shift), place) in foreign.iter().zip(&chosen.places) {
        assert_eq!((*station, &named.upper), (place.station, &place.upper.mark));
        // Standard walls are 0.0955 to 0.0952: two in the middle are 0.1907 together.
        assert_eq!(*shift, t(1_907) - place.upper.wall - place.lower.wall);
    }
    Ok(())
}

#[test]
fn a_ground_crank_gets_shells_of_its_undersize_though_standard_ones_are_in() -> Result<(), Box<dyn std::error::Error>> {
    let (_, family, shelf) = curlew().ok_or("the demo has it")?;
    let mut bench = six::opened(83)?;
    // The bore as it was over the standard shells, then the journal as it came back from the wheel.
    for main in 1..=3 {
        bench.bore(Place::main(main), Read::Dial, &["24 24", "24 24"])?;
        bench.journal(Place::main(main), ["2.6140", "40", "40", "40"])?;
    }
    let wish = ProposalWish { undersize: t(100), ..wish() };
    let found = propose(bench.build(), &evaluate(bench.build()), &family, &shelf, &wish)?;
    assert_eq!((found.outside, found.places.len()), (0, 3), "{:?}", found.places);
    for place in &found.places {
        // Twelve and four tenths over the ground journal, ten thou of them taken up by the thicker walls.
        assert!(place.changes && (place.clearance - t(24)).abs() <= t(5), "{place:?}");
    }
    Ok(())
}
