//! The catalogue holds together: whatever a row names is there, and everything measured can be reached, gauged and ended.
use std::collections::BTreeSet;

use jagged_pin_core::Length;
use jagged_pin_core::engine::{
    Characteristic, Figure, GaugeUse, Judges, Limits, Place, PlaceKind, PresetLimits, Scope, ShopPreset, Tag,
};
use jagged_pin_core::log::{Job, Work};
use jagged_pin_workbench::{gauges, patterns};

/// An engine that has everything, with two rods on a pin.
fn whole() -> Option<jagged_pin_core::engine::Layout> {
    let known = patterns();
    let six = known.iter().find(|p| p.id == "curlew-24")?.layout.clone();
    let vee = known.iter().find(|p| p.layout.rods_per_pin() == 2)?.layout.clone();
    Some(jagged_pin_core::engine::Layout { cam: six.cam, cylinders: six.cylinders, ..vee })
}

#[test]
fn every_input_of_a_figure_is_measured_somewhere_near_it() {
    let layout = whole().into_iter().next();
    let Some(layout) = layout else { return assert!(layout.is_some(), "the shop knows such engines") };
    for figure in Figure::all() {
        assert!(figure.row().at.is_sorted_by(|a, b| a < b), "{figure:?} is at places out of the order of the work");
        for kind in figure.row().at {
            let place = Place::new(*kind, 1);
            assert!(layout.has(place), "{figure:?} is at {place}, which this engine has");
            let there = figure.inputs().iter().filter(|i| layout.places_with(place, i.role).next().is_some());
            assert!(there.count() > 0, "{figure:?} at {place} has nothing it is made of");
        }
        for method in figure.row().methods {
            for term in method.terms {
                let input = figure.inputs().iter().any(|i| i.role == term.role && i.read == term.read);
                assert!(input, "{figure:?} by {}: {:?} is no input", method.id, term.role);
            }
            if let Judges::Unless(better) = method.judges {
                let there = figure.row().methods.iter().any(|m| m.id == better && m.id != method.id);
                assert!(there, "{figure:?} has no method {better}");
            }
        }
    }
}

#[test]
fn everything_measured_has_places_ways_to_read_it_and_a_gauge_in_the_room() {
    let all = [jagged_pin_core::Unit::Inch, jagged_pin_core::Unit::Mm].map(gauges);
    for characteristic in Characteristic::all() {
        let row = characteristic.row();
        assert!(!row.at.is_empty() && !row.positions.is_empty() && !row.reads.is_empty(), "{characteristic:?}");
        assert!(row.positions.iter().any(|p| !p.advisory), "{characteristic:?} has no place that counts");
        let mut places: Vec<String> = row.positions.iter().map(|p| format!("{:?}", p.position)).collect();
        places.sort_unstable();
        places.dedup();
        assert_eq!(places.len(), row.positions.len(), "{characteristic:?} has a place twice");
        for room in &all {
            assert!(room.iter().any(|g| g.measures == row.gauge), "nothing in the room for {characteristic:?}");
        }
        let made_of = Figure::all().any(|f| f.inputs().iter().any(|i| i.role == row.role));
        assert!(made_of, "no figure is made of {characteristic:?}");
    }
    let uses: BTreeSet<GaugeUse> = Characteristic::all().map(|c| c.row().gauge).collect();
    assert!(uses.len() > 6);
}

#[test]
fn whatever_ends_evidence_is_done_by_some_deed() {
    // What no work and no order says: parts put elsewhere, shells that are only named, another gauge point.
    let mut said: Vec<Tag> = vec![Tag::Pairing, Tag::ShellsNamed, Tag::Straightness, Tag::GaugePoint];
    said.extend(Work::ALL.iter().flat_map(|w| w.changes()));
    said.extend(Job::ALL.iter().flat_map(|j| j.changes()));
    for characteristic in Characteristic::all() {
        for (tag, _) in characteristic.row().ended_by {
            assert!(said.contains(tag), "{characteristic:?} is ended by {tag:?}, which nobody does");
        }
    }
    for work in Work::ALL {
        let (groups, kinds) = work.done_to();
        assert!(!groups.is_empty() || !kinds.is_empty(), "{work:?} is done to nothing");
        assert!(groups.iter().all(|g| !matches!(g, Scope::One(_))));
    }
}

#[test]
fn presets_stand_where_their_figure_is_and_go_from_small_to_large() {
    let all = ShopPreset::usual();
    assert!(all.len() > 60, "{}", all.len());
    for preset in all {
        assert_eq!(preset.check(), Ok(()), "{} {}", preset.figure.name(), preset.name);
        let limits = preset.figure.row().limits;
        match preset.limits {
            PresetLimits::Fixed { low, .. } if limits == Limits::Maximum => assert_eq!(low, Length::ZERO),
            PresetLimits::Fixed { low, high, .. } if limits == Limits::Minimum => {
                assert!(low > Length::ZERO && high > low.max(Length::tenths(1_000)), "{}", preset.name);
            }
            PresetLimits::Fixed { high, .. } => {
                let believed = preset.figure.largest_believable(Length::tenths(20_000));
                assert!(high <= believed, "{} {}: nobody believes it", preset.figure.name(), preset.name);
            }
            PresetLimits::PerShaft { .. } => {
                assert!(matches!(preset.at, PlaceKind::Main | PlaceKind::Rod | PlaceKind::Cylinder), "{}", preset.name);
            }
        }
    }
}
