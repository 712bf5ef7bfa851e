//! The pick list: whatever is proposed, every half comes from somewhere, and nothing is taken twice.

use jagged_pin_core::Length;
use jagged_pin_core::choose::{PickFrom, ProposedPair, pick_list};
use jagged_pin_core::engine::Place;
use jagged_pin_core::maths::{Side, State, Target};
use jagged_pin_core::shells::{ClassPair, Half, OnShelf, ShellFamily, Suffix, SuffixMeaning, decode_part_number};
use jagged_pin_workbench::families;
use proptest::prelude::*;

const CLASSES: [&str; 3] = ["-1", "std", "+1"];

fn pair(upper: usize, lower: usize) -> ClassPair {
    ClassPair { upper: CLASSES[upper].into(), lower: CLASSES[lower].into() }
}

fn proposed(station: u8, now: (usize, usize), then: (usize, usize)) -> ProposedPair {
    let t = Length::tenths;
    ProposedPair {
        station: Place::main(station),
        measured: t(25),
        measured_expanded: t(1),
        was: State::In,
        was_nearest: Side::Low,
        target: Target { low: t(22), aim: t(25), high: t(28) },
        now: pair(now.0, now.1),
        pair: pair(then.0, then.1),
        changes: now != then,
        clearance: t(25),
        expanded: t(1),
        state: State::In,
        nearest: Side::Low,
        hot: None,
        measured_hot: None,
    }
}

fn family(alike: bool) -> ShellFamily {
    let found = families().into_iter().find(|f| f.alike == alike && f.classes.len() == 3);
    found.unwrap_or_else(|| unreachable!("the demo has such a family"))
}

/// The kinds of half a family keeps apart.
fn kind(alike: bool, half: Half) -> Half {
    if alike { Half::Either } else { half }
}

type Extreme = Vec<(Half, &'static str, usize)>;

fn count<'a>(halves: impl Iterator<Item = (Half, &'a str)> + Clone) -> Extreme {
    let of = |half: Half, class: &'static str| halves.clone().filter(|h| *h == (half, class)).count();
    let all = [Half::Upper, Half::Lower, Half::Either];
    all.into_iter().flat_map(|h| CLASSES.map(|c| (h, c, of(h, c)))).collect()
}

proptest! {
    #[test]
    fn every_half_comes_from_one_place_and_no_place_gives_more_than_it_has(
        alike in any::<bool>(),
        seats in prop::collection::vec(((0usize..3, 0usize..3), (0usize..3, 0usize..3)), 1..8),
        stock in prop::collection::vec(0u16..4, 6),
    ) {
        let family = family(alike);
        let places: Vec<ProposedPair> = (1..).zip(&seats).map(|(n, (now, then))| proposed(n, *now, *then)).collect();
        let on = |(i, n): (usize, &u16)| OnShelf {
            half: if alike { Half::Either } else { [Half::Upper, Half::Lower][i / 3] },
            class: CLASSES[i % 3].into(),
            undersize: Length::ZERO,
            count: *n,
            place: format!("A{i}"),
        };
        let shelf: Vec<OnShelf> = stock.iter().enumerate().take(if alike { 3 } else { 6 }).map(on).collect();
        let (lines, freed) = pick_list(&family, &shelf, Length::ZERO, &places, &[]);

        // One line for every half that changes, in bench order.
        let changing: Vec<(Place, Half, &str)> = places.iter().flat_map(|p| {
            let halves = [(Half::Upper, &p.now.upper, &p.pair.upper), (Half::Lower, &p.now.lower, &p.pair.lower)];
            halves.into_iter().filter(|(_, now, then)| now != then).map(move |(h, _, then)| (p.station, h, then.as_str()))
        }).collect();
        let told: Vec<(Place, Half, &str)> = lines.iter().map(|l| (l.station, l.half, l.class.as_str())).collect();
        prop_assert_eq!(&told, &changing);

        // The shelf gives no more than lies there, and nothing is bought while it lies there.
        let from_shelf = lines.iter().filter(|l| matches!(l.from, PickFrom::Shelf { .. }));
        let taken = count(from_shelf.map(|l| (kind(alike, l.half), l.class.as_str())));
        let bought = lines.iter().filter(|l| matches!(l.from, PickFrom::Set { .. }));
        let bought = count(bought.map(|l| (kind(alike, l.half), l.class.as_str())));
        for ((half, class, n), (_, _, lacking)) in taken.iter().zip(&bought) {
            let here = shelf.iter().filter(|s| (s.half, s.class.as_str()) == (*half, *class)).map(|s| usize::from(s.count));
            let here: usize = here.sum();
            prop_assert!(*n <= here);
            prop_assert!(*lacking == 0 || *n == here);
        }

        // What comes out goes into another bearing or stays out: every half once.
        let moved = lines.iter().filter(|l| matches!(l.from, PickFrom::Engine { .. }));
        let out = count(
            moved.map(|l| (kind(alike, l.half), l.class.as_str()))
                .chain(freed.iter().map(|f| (kind(alike, f.half), f.class.as_str()))),
        );
        let came_out = count(places.iter().flat_map(|p| {
            let halves = [(Half::Upper, &p.now.upper, &p.pair.upper), (Half::Lower, &p.now.lower, &p.pair.lower)];
            halves.into_iter().filter(|(_, now, then)| now != then).map(|(h, now, _)| (kind(alike, h), now.as_str()))
        }));
        prop_assert_eq!(out, came_out);
    }

    #[test]
    fn no_other_way_to_take_a_number_apart_leaves_less_unread(
        number in "[AB12]{0,9}",
        table in prop::collection::vec("[AB12]{1,3}", 0..5),
    ) {
        /// The least that stays unread, by trying every way.
        fn least(rest: &str, table: &[String]) -> usize {
            let Some(first) = rest.chars().next() else { return 0 };
            let skipped = 1 + least(&rest[first.len_utf8()..], table);
            let taken = table.iter().filter(|t| rest.starts_with(t.as_str())).map(|t| least(&rest[t.len()..], table));
            taken.chain([skipped]).min().unwrap_or(skipped)
        }
        let suffixes: Vec<Suffix> =
            table.iter().map(|t| Suffix { letters: t.clone(), means: SuffixMeaning::Coated }).collect();
        let decoded = decode_part_number(&format!("Q{number}"), "Q", &suffixes);
        prop_assert_eq!(decoded.as_ref().map(|d| d.unread.len()), Some(least(&number, &table)));
        let put_together: Option<String> = decoded.map(|d| d.groups.iter().map(|g| g.letters.as_str()).collect());
        prop_assert_eq!(put_together, Some(number));
    }
}
