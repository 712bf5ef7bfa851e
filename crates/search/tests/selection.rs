//! The choice of shells against trying everything, and its promises on instances too large for that.

use jagged_pin_search::by_class::{
    Bearing, Halves, Objective, Odd, Pick, Problem, SelectError, Selection, ShellSet, next_best, select,
};
use jagged_pin_search::one_by_one::Tray;
use jagged_pin_search::{Quality, Target, USUAL_EFFORT, one_by_one};
use proptest::prelude::*;

fn t(tenths: i64) -> i64 {
    (tenths) * 2_540
}

fn window() -> Target {
    Target { low: t(17), aim: t(20), high: t(24) }
}

/// Halves on the shelf and in what is bought, by class: uppers and lowers, or both in the first.
fn to_be_had(problem: &Problem, bought: &[u16]) -> (Vec<u32>, Option<Vec<u32>>) {
    let classes = problem.shifts.len();
    let mut upper = vec![0_u32; classes];
    let mut lower = vec![0_u32; classes];
    let mut add = |halves: &Halves, times: u32| match halves {
        Halves::Apart { upper: u, lower: l } => {
            for c in 0..classes {
                upper[c] += u32::from(u[c]) * times;
                lower[c] += u32::from(l[c]) * times;
            }
        }
        Halves::Alike(both) => (0..classes).for_each(|c| upper[c] += u32::from(both[c]) * times),
    };
    add(&problem.stock, 1);
    problem.sets.iter().zip(bought).for_each(|(set, n)| add(&set.holds, u32::from(*n)));
    let apart = matches!(problem.stock, Halves::Apart { .. });
    (upper, apart.then_some(lower))
}

/// What mixing weighs: first whether, then on which side the half that is farther from standard is.
fn mixing(problem: &Problem, u: usize, l: usize) -> i64 {
    let (upper, lower) = (problem.shifts[u].abs(), problem.shifts[l].abs());
    let wrong = match problem.odd {
        Some(Odd::Upper) => lower > upper,
        Some(Odd::Lower) => upper > lower,
        None => false,
    };
    if u == l { 0 } else { 100 + i64::from(wrong) }
}

/// A choice as the objective compares it, in half nanometres and ten-thousandths.
fn judged(problem: &Problem, pairs: &[(usize, usize)], cost: i64) -> [i64; 5] {
    let mut outside = 0;
    let (mut worst, mut total, mut mixed) = (0, 0, 0);
    for (place, (u, l)) in problem.places.iter().zip(pairs) {
        let twice = 2 * place.clearance_std + problem.shifts[*u] + problem.shifts[*l];
        let target = place.target;
        outside += i64::from(twice < 2 * target.low || twice > 2 * target.high);
        let off = (twice - 2 * target.aim).abs();
        worst = worst.max(off);
        total += off;
        mixed += mixing(problem, *u, *l);
    }
    match problem.objective {
        Objective::Closest => [outside, worst, total, cost, mixed],
        Objective::Thriftiest => [outside, cost, worst, total, mixed],
    }
}

/// Every way of buying, and every way of fitting what is then there.
fn exhaustive(problem: &Problem, wanted: &dyn Fn(Vec<i64>) -> bool) -> Option<[i64; 5]> {
    type Left = (Vec<u32>, Option<Vec<u32>>);
    type See<'a> = dyn FnMut(&[(usize, usize)]) + 'a;
    fn fit(problem: &Problem, left: &mut Left, pairs: &mut Vec<(usize, usize)>, see: &mut See<'_>) {
        if pairs.len() == problem.places.len() {
            return see(pairs);
        }
        for u in 0..problem.shifts.len() {
            for l in 0..problem.shifts.len() {
                let apart = (problem.shifts[u] - problem.shifts[l]).abs() <= problem.max_step;
                if !apart || left.0[u] == 0 {
                    continue;
                }
                left.0[u] -= 1;
                let there = left.1.as_ref().unwrap_or(&left.0)[l] > 0;
                if there {
                    left.1.as_mut().unwrap_or(&mut left.0)[l] -= 1;
                    pairs.push((u, l));
                    fit(problem, left, pairs, see);
                    pairs.pop();
                    left.1.as_mut().unwrap_or(&mut left.0)[l] += 1;
                }
                left.0[u] += 1;
            }
        }
    }
    let most: Vec<u16> = problem.sets.iter().map(|s| s.available.unwrap_or(3).min(3)).collect();
    let mut bought = vec![0_u16; most.len()];
    let mut best = None;
    loop {
        let cost = bought.iter().zip(&problem.sets).map(|(n, s)| i64::from(*n) * s.price).sum();
        fit(problem, &mut to_be_had(problem, &bought), &mut Vec::new(), &mut |pairs| {
            let clearance = |(place, (u, l)): (&Bearing, &(usize, usize))| {
                place.clearance_std + ((problem.shifts[*u] + problem.shifts[*l]) / 2)
            };
            if wanted(problem.places.iter().zip(pairs).map(clearance).collect()) {
                let judged = judged(problem, pairs, cost);
                best = Some(best.map_or(judged, |b: [i64; 5]| b.min(judged)));
            }
        });
        let Some(i) = (0..most.len()).find(|i| bought[*i] < most[*i]) else { return best };
        bought[i] += 1;
        bought[..i].fill(0);
    }
}

/// What the answer claims follows from its pairs and its purchases, and nothing is used that is not there.
fn holds(problem: &Problem, selection: &Selection) -> Result<[i64; 5], TestCaseError> {
    let pairs: Vec<(usize, usize)> = selection.picks.iter().map(|p| (p.upper, p.lower)).collect();
    prop_assert_eq!(pairs.len(), problem.places.len());
    let (mut upper, mut lower) = to_be_had(problem, &selection.bought);
    for (u, l) in &pairs {
        prop_assert!((problem.shifts[*u] - problem.shifts[*l]).abs() <= problem.max_step);
        prop_assert!(upper[*u] > 0, "an upper that is not there");
        upper[*u] -= 1;
        let side = lower.as_mut().unwrap_or(&mut upper);
        prop_assert!(side[*l] > 0, "a lower that is not there");
        side[*l] -= 1;
    }
    let cost: i64 = selection.bought.iter().zip(&problem.sets).map(|(n, s)| i64::from(*n) * s.price).sum();
    prop_assert_eq!(cost, selection.cost);
    for (n, s) in selection.bought.iter().zip(&problem.sets) {
        prop_assert!(s.available.is_none_or(|a| *n <= a));
    }
    for (place, pick) in problem.places.iter().zip(&selection.picks) {
        prop_assert!(place.locked.is_none_or(|pair| pair == (pick.upper, pick.lower)));
        let inside = (place.target.low..=place.target.high).contains(&pick.clearance);
        prop_assert_eq!(pick.inside, inside);
    }
    let judged = judged(problem, &pairs, cost);
    prop_assert_eq!(selection.quality.outside as i64, judged[0]);
    prop_assert_eq!(selection.mixed as i64, judged[4] / 100);
    Ok(judged)
}

fn halves(classes: usize, most: u16) -> impl Strategy<Value = Vec<u16>> {
    prop::collection::vec(0..=most, classes)
}

fn problems(places: std::ops::Range<usize>, classes: usize, most: u16) -> impl Strategy<Value = Problem> {
    let sides = (halves(classes, most), halves(classes, most), any::<bool>());
    let set = (0i64..40, halves(classes, 2), halves(classes, 2), 0u16..3);
    let sets = prop::collection::vec(set, 0..3);
    let places = prop::collection::vec(8i64..32, places);
    let odd = prop_oneof![Just(None), Just(Some(Odd::Upper)), Just(Some(Odd::Lower))];
    (places, sides, sets, 0i64..3, any::<bool>(), odd).prop_map(
        move |(places, (upper, lower, alike), sets, step, closest, odd)| {
            let halves =
                |upper: Vec<u16>, lower| if alike { Halves::Alike(upper) } else { Halves::Apart { upper, lower } };
            let shifts = (0..classes).map(|c| t(5 * (c as i64 - classes as i64 / 2))).collect();
            let place = |c: i64| Bearing { clearance_std: t(c), target: window(), locked: None };
            let set = |(price, upper, lower, available)| ShellSet {
                price,
                holds: halves(upper, lower),
                available: Some(available),
            };
            Problem {
                places: places.into_iter().map(place).collect(),
                shifts,
                max_step: t(5 * step),
                sets: sets.into_iter().map(set).collect(),
                stock: halves(upper, lower),
                objective: if closest { Objective::Closest } else { Objective::Thriftiest },
                odd,
            }
        },
    )
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(256))]

    #[test]
    fn nothing_tried_is_better_than_what_is_chosen(problem in problems(1..4, 3, 3)) {
        match (select(&problem, USUAL_EFFORT), exhaustive(&problem, &|_| true)) {
            (Ok(selection), Some(best)) => {
                prop_assert!(selection.proven);
                prop_assert_eq!(holds(&problem, &selection)?, best);
            }
            (Err(_), None) => {}
            (got, best) => prop_assert!(false, "{got:?} against {best:?}"),
        }
    }

    #[test]
    fn the_next_best_differs_and_nothing_between_was_passed_over(problem in problems(1..4, 3, 3)) {
        let Ok(best) = select(&problem, USUAL_EFFORT) else { return Ok(()) };
        let clearances = |picks: &[Pick]| picks.iter().map(|p| p.clearance).collect::<Vec<_>>();
        let other = next_best(&problem, USUAL_EFFORT).first().map(|other| {
            let pairs: Vec<(usize, usize)> = other.picks.iter().map(|p| (p.upper, p.lower)).collect();
            (clearances(&other.picks), judged(&problem, &pairs, other.cost))
        });
        prop_assert!(other.as_ref().is_none_or(|(c, _)| *c != clearances(&best.picks)));
        prop_assert_eq!(other.map(|(_, j)| j), exhaustive(&problem, &|c| c != clearances(&best.picks)));
    }

    #[test]
    fn what_is_chosen_of_much_keeps_every_promise(problem in problems(7..10, 7, 6)) {
        if let Ok(selection) = select(&problem, USUAL_EFFORT) {
            prop_assert!(selection.proven);
            let best = holds(&problem, &selection)?;
            for other in &next_best(&problem, USUAL_EFFORT) {
                let pairs: Vec<(usize, usize)> = other.picks.iter().map(|p| (p.upper, p.lower)).collect();
                prop_assert!(judged(&problem, &pairs, other.cost) >= best);
                prop_assert!(!other.differs.is_empty());
            }
        }
    }

    #[test]
    fn a_lock_is_kept_and_never_makes_it_better(problem in problems(3..6, 3, 4), seat in 0usize..3, pair in (0usize..3, 0usize..3)) {
        let mut locked = problem.clone();
        locked.places[seat].locked = Some(pair);
        if let (Ok(free), Ok(held)) = (select(&problem, USUAL_EFFORT), select(&locked, USUAL_EFFORT)) {
            prop_assert!(holds(&locked, &held)? >= holds(&problem, &free)?);
        }
    }
}

#[test]
fn what_is_missing_is_counted_in_halves() {
    let place = Bearing { clearance_std: t(20), target: window(), locked: None };
    let missing = |places: usize, stock: Halves, step: i64| {
        let problem = Problem {
            places: vec![place; places],
            shifts: vec![t(0), t(10), t(20)],
            max_step: t(step),
            stock,
            sets: Vec::new(),
            objective: Objective::Closest,
            odd: None,
        };
        match select(&problem, USUAL_EFFORT) {
            Err(SelectError::NotEnough { missing }) => missing,
            _ => 0,
        }
    };
    let apart = |upper: [u16; 3], lower: [u16; 3]| Halves::Apart { upper: upper.to_vec(), lower: lower.to_vec() };
    assert_eq!(missing(3, apart([1, 0, 0], [3, 0, 0]), 10), 2);
    assert_eq!(missing(3, apart([1, 0, 0], [1, 0, 0]), 10), 4);
    // A thick upper and a thin lower cannot go together: one more half is needed.
    assert_eq!(missing(2, apart([2, 0, 0], [1, 0, 1]), 10), 1);
    assert_eq!(missing(3, Halves::Alike(vec![3, 0, 0]), 10), 3);
    assert_eq!(missing(2, Halves::Alike(vec![3, 0, 1]), 10), 1);
    assert_eq!(missing(2, Halves::Alike(vec![3, 1, 0]), 10), 0);
}

#[test]
fn an_effort_that_is_spent_is_admitted_with_its_gap() {
    // Walls and housings in steps of 10 nm, scattered: nothing fits exactly, and much fits nearly.
    let scattered = |n: i64, from: i64, by: i64| (0..n).map(move |i| from + 10 * (i * by % 761));
    let place = |base| one_by_one::Housing { base, target: window() };
    let tray = Tray {
        places: scattered(8, 3_178_000, 337).map(place).collect(),
        uppers: scattered(32, 1_562_000, 211).collect(),
        lowers: scattered(32, 1_562_000, 457).collect(),
    };
    let choose = |effort| one_by_one::select(&tray, effort).map_err(|e| e.to_string());
    let (hurried, thorough) = (choose(12), choose(USUAL_EFFORT));
    let (Ok(hurried), Ok(thorough)) = (hurried, thorough) else { panic!("a tray this large suffices") };
    assert!(!hurried.proven && thorough.proven);
    let in_order = |q: Quality| (q.outside, q.worst, q.total);
    assert!(in_order(hurried.quality) >= in_order(thorough.quality));
    assert!(hurried.quality.worst - hurried.gap <= thorough.quality.worst);
    assert_eq!(thorough.gap, t(0));
}

/// Every way of giving each housing an upper and a lower of its own.
fn every_tray(tray: &Tray) -> Option<[i64; 3]> {
    fn fit(tray: &Tray, seat: usize, used: &mut (Vec<bool>, Vec<bool>), so_far: [i64; 3], best: &mut Option<[i64; 3]>) {
        let Some(place) = tray.places.get(seat) else {
            *best = Some(best.map_or(so_far, |b| b.min(so_far)));
            return;
        };
        for u in 0..tray.uppers.len() {
            for l in 0..tray.lowers.len() {
                if used.0[u] || used.1[l] {
                    continue;
                }
                let clearance = place.base - tray.uppers[u] - tray.lowers[l];
                let off = (clearance - place.target.aim).abs();
                let outside = i64::from(clearance < place.target.low || clearance > place.target.high);
                let next = [so_far[0] + outside, so_far[1].max(off), so_far[2] + off];
                (used.0[u], used.1[l]) = (true, true);
                fit(tray, seat + 1, used, next, best);
                (used.0[u], used.1[l]) = (false, false);
            }
        }
    }
    let mut best = None;
    fit(tray, 0, &mut (vec![false; tray.uppers.len()], vec![false; tray.lowers.len()]), [0; 3], &mut best);
    best
}

fn trays(places: std::ops::Range<usize>, halves: std::ops::Range<usize>) -> impl Strategy<Value = Tray> {
    let walls = prop::collection::vec(0i64..90, halves);
    (prop::collection::vec(0i64..120, places), walls.clone(), walls).prop_map(|(bases, uppers, lowers)| {
        // Steps of a tenth of a micrometre, so that hardly two are alike.
        let nm = |nm: i64| nm;
        let place = |b: i64| one_by_one::Housing { base: nm(3_175_000 + 100 * b), target: window() };
        let walls = |w: Vec<i64>| w.into_iter().map(|w| nm(1_562_000 + 100 * w)).collect();
        Tray { places: bases.into_iter().map(place).collect(), uppers: walls(uppers), lowers: walls(lowers) }
    })
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(128))]

    #[test]
    fn no_other_halves_of_the_tray_fit_better(tray in trays(1..4, 1..6)) {
        match (one_by_one::select(&tray, USUAL_EFFORT), every_tray(&tray)) {
            (Ok(s), Some(best)) => {
                let Quality { outside, worst, total } = s.quality;
                prop_assert!(s.proven);
                prop_assert_eq!([outside as i64, worst, total], best);
            }
            (Err(SelectError::NotEnough { .. }), None) => {}
            (got, best) => prop_assert!(false, "{got:?} against {best:?}"),
        }
    }

    #[test]
    fn every_half_of_a_large_tray_is_used_once_and_adds_up(tray in trays(6..9, 16..33)) {
        let s = one_by_one::select(&tray, USUAL_EFFORT).map_err(|e| TestCaseError::fail(e.to_string()))?;
        let mut used = (vec![false; tray.uppers.len()], vec![false; tray.lowers.len()]);
        let mut total = 0;
        for (place, pick) in tray.places.iter().zip(&s.picks) {
            prop_assert!(!std::mem::replace(&mut used.0[pick.upper], true));
            prop_assert!(!std::mem::replace(&mut used.1[pick.lower], true));
            let clearance = place.base - tray.uppers[pick.upper] - tray.lowers[pick.lower];
            prop_assert_eq!(clearance, pick.clearance);
            let off = (clearance - place.target.aim).abs();
            prop_assert!(off <= s.quality.worst);
            total += off;
        }
        prop_assert_eq!(total, s.quality.total);
        prop_assert!(s.proven);
    }
}
