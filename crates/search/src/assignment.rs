//! Which part goes with which: rods to pins, pistons to bores.
//!
//! `clearance = row - column`. Fewest outside the window, then the least worst distance from the aim, then
//! the least sum; pairs that are already married stay together, and of orders that are equally good the one that moves
//! fewest is taken. Each step is an assignment solved exactly: how many must lie outside; the smallest distance at
//! which that is still possible, by halving the list of distances; the least sum within it.
//!
//! ```
//! use jagged_pin_search::assignment::assign;
//! use jagged_pin_search::Target;
//!
//! let t = |tenths: i64| tenths * 2_540;
//! let target = Target { low: t(17), aim: t(20), high: t(23) };
//! let bores = [t(20_020), t(20_024), t(20_017)];
//! let pins = [t(19_998), t(20_003), t(20_000)];
//! let best = assign(target, &bores, &pins, &[]).unwrap();
//! assert_eq!((best.quality.outside, best.quality.worst, best.quality.total), (0, t(1), t(2)));
//! assert_eq!(best.columns, [2, 1, 0]);
//! ```

use crate::matching::{NEVER, cheapest};
use crate::{Quality, Target};

/// The most that all costs together may come to.
const DEAREST: i64 = NEVER / 4;

/// The best assignment.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Assignment {
    /// The column of each row.
    pub columns: Vec<usize>,
    /// How good it is.
    pub quality: Quality,
}

/// The best assignment of rows to as many columns, and among equally good ones one that leaves most rows at the column
/// of their own number, where they are now. `fixed` pairs a row with its column; no row and no column may stand in it
/// twice.
///
/// `None` when there are not as many columns as rows, or the fixed pairs contradict each other.
pub fn assign(target: Target, rows: &[i64], columns: &[i64], fixed: &[(usize, usize)]) -> Option<Assignment> {
    let rows: Vec<[i64; 2]> = rows.iter().map(|row| [*row, *row]).collect();
    assign_with(target, &rows, columns, fixed, |_, _| 0)
}

/// The same for rows with two sides, the smallest and the largest of each, with a second wish. A pair is inside when both of its
/// sides are, and as far off as the worse of them. Among all assignments that are equally good, one with the least sum of what `wish` says
/// of row and column, zero or more, and only then the fewest moved. A wish of figures too large to be held beside the
/// distances is left out.
///
/// `None` as for [`assign`].
pub fn assign_with(
    target: Target,
    rows: &[[i64; 2]],
    columns: &[i64],
    fixed: &[(usize, usize)],
    wish: impl Fn(usize, usize) -> i64,
) -> Option<Assignment> {
    if rows.len() != columns.len() {
        return None;
    }
    let sides = |r: usize, c: usize| rows[r].map(|side| side - columns[c]);
    let off = |r: usize, c: usize| sides(r, c).into_iter().map(|side| (side - target.aim).abs()).max().unwrap_or(0);
    let outside = |r: usize, c: usize| i64::from(sides(r, c).iter().any(|s| *s < target.low || *s > target.high));
    let married = |r: usize, c: usize| fixed.iter().all(|(fr, fc)| (*fr == r) == (*fc == c));
    let fewest = |most: i64| {
        cheapest(rows.len(), columns.len(), |r, c| (married(r, c) && off(r, c) <= most).then(|| outside(r, c)))
    };
    let (least_outside, _) = fewest(i64::MAX)?;
    let mut steps: Vec<i64> = (0..rows.len()).flat_map(|r| (0..columns.len()).map(move |c| off(r, c))).collect();
    steps.sort_unstable();
    steps.dedup();
    let possible = |most: &i64| fewest(*most).is_some_and(|(outside, _)| outside == least_outside);
    let worst = steps[steps.partition_point(|most| !possible(most))..].first().copied().unwrap_or_default();
    // Outside first: one more of them costs more than all distances together.
    let all = worst.saturating_mul(i64::try_from(rows.len()).unwrap_or(i64::MAX)).saturating_add(1);
    let weight = |r: usize, c: usize| (married(r, c) && off(r, c) <= worst).then(|| outside(r, c) * all + off(r, c));
    // The wish after that, and what moves last: all of each together costs less than one step of what comes before it.
    let n = i64::try_from(rows.len()).unwrap_or(i64::MAX).max(1);
    let moved = |r: usize, c: usize| i64::from(r != c);
    let wished = |r: usize, c: usize| wish(r, c).saturating_mul(n.saturating_add(1)).saturating_add(moved(r, c));
    let each = (0..rows.len()).filter_map(|r| (0..columns.len()).map(|c| wished(r, c)).max());
    let dearest = each.fold(0_i64, i64::saturating_add).saturating_add(1);
    let held = all.saturating_mul(2).saturating_mul(dearest) <= DEAREST / n;
    let last = |r: usize, c: usize, cost: i64| {
        if held { cost * dearest + wished(r, c) } else { cost * n.saturating_add(1) + moved(r, c) }
    };
    let (_, columns) = cheapest(rows.len(), columns.len(), |r, c| weight(r, c).map(|cost| last(r, c, cost)))?;
    let total = columns.iter().enumerate().map(|(r, c)| off(r, *c)).sum();
    let quality = Quality { outside: usize::try_from(least_outside).unwrap_or(0), worst: (worst), total: (total) };
    Some(Assignment { columns, quality })
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// The best of all orders, tried one after the other.
    fn exhaustive(target: Target, rows: &[i64], columns: &[i64], fixed: &[(usize, usize)], wish: &[i64]) -> [i64; 5] {
        fn permute(left: &mut Vec<usize>, taken: &mut Vec<usize>, see: &mut impl FnMut(&[usize])) {
            if left.is_empty() {
                return see(taken);
            }
            for i in 0..left.len() {
                taken.push(left.remove(i));
                permute(left, taken, see);
                left.insert(i, taken.pop().unwrap_or_default());
            }
        }
        let mut best = [i64::MAX; 5];
        permute(&mut (0..columns.len()).collect(), &mut Vec::new(), &mut |order| {
            if fixed.iter().any(|(r, c)| order[*r] != *c) {
                return;
            }
            let clearances = order.iter().enumerate().map(|(r, c)| rows[r] - columns[*c]);
            let offs: Vec<i64> = clearances.clone().map(|c| (c - target.aim).abs()).collect();
            let outside = clearances.filter(|c| *c < target.low || *c > target.high).count() as i64;
            let wished = order.iter().enumerate().map(|(r, c)| wish[r * rows.len() + c]).sum();
            let moved = order.iter().enumerate().filter(|(r, c)| r != *c).count() as i64;
            best = best.min([outside, offs.iter().copied().max().unwrap_or(0), offs.iter().sum(), wished, moved]);
        });
        best
    }

    #[test]
    fn sixteen_parts_that_are_all_alike_stay_where_they_are() {
        let t = |tenths: i64| tenths * 2_540;
        let target = Target { low: t(17), aim: t(20), high: t(23) };
        let (rows, columns) = ([t(20_020); 16], [t(20_000); 16]);
        let all_stay: Vec<usize> = (0..16).collect();
        assert_eq!(assign(target, &rows, &columns, &[]).map(|a| a.columns), Some(all_stay));
        // Two that have to change places take nobody else with them.
        let mut swapped = rows;
        (swapped[3], swapped[9]) = (t(20_024), t(20_016));
        let mut pins = columns;
        (pins[9], pins[3]) = (t(20_004), t(19_996));
        let found = assign(target, &swapped, &pins, &[]).map(|a| a.columns).unwrap_or_default();
        let moved: Vec<usize> = found.iter().enumerate().filter(|(r, c)| r != *c).map(|(r, _)| r).collect();
        assert_eq!(moved, [3, 9]);
    }

    proptest! {
        #[test]
        fn no_order_of_the_parts_is_better(
            sizes in prop::collection::vec((0i64..40, 0i64..40), 1..6),
            marry in any::<bool>(),
            window in (0i64..10, 0i64..10),
            // Few sizes, so that many orders are equally good.
            coarse in 1i64..30,
            wish in prop::collection::vec(0i64..50_000, 25),
        ) {
            let t = |tenths: i64| tenths * 2_540;
            let target = Target { low: t(20 - window.0), aim: t(20), high: t(20 + window.1) };
            let rows: Vec<i64> = sizes.iter().map(|s| t(20_020 + s.0 / coarse)).collect();
            let columns: Vec<i64> = sizes.iter().map(|s| t(20_000 + s.1 / coarse)).collect();
            let fixed = if marry { vec![(0, sizes.len() - 1)] } else { Vec::new() };
            let of = |r: usize, c: usize| wish[r * rows.len() + c];
            let as_figures = |a: Assignment, of: &dyn Fn(usize, usize) -> i64| {
                let q = a.quality;
                let wished = a.columns.iter().enumerate().map(|(r, c)| of(r, *c)).sum();
                let moved = a.columns.iter().enumerate().filter(|(r, c)| r != *c).count() as i64;
                [q.outside as i64, q.worst, q.total, wished, moved]
            };
            let sides: Vec<[i64; 2]> = rows.iter().map(|row| [*row, *row]).collect();
            let found = assign_with(target, &sides, &columns, &fixed, of).map(|a| as_figures(a, &of));
            prop_assert_eq!(found, Some(exhaustive(target, &rows, &columns, &fixed, &wish)));
            let plain = assign(target, &rows, &columns, &fixed).map(|a| as_figures(a, &|_, _| 0));
            prop_assert_eq!(plain, Some(exhaustive(target, &rows, &columns, &fixed, &[0; 25])));
        }
    }

    #[test]
    fn a_pair_is_inside_only_where_both_of_its_sides_are() {
        let target = Target { low: 30, aim: 33, high: 36 };
        // The wide place of the first bore wants the larger piston, though its tight place would take either.
        let bores = [[34_032, 34_038], [34_031, 34_033]];
        let pistons = [34_000, 34_002];
        let found = assign_with(target, &bores, &pistons, &[], |_, _| 0);
        assert_eq!(found.map(|a| (a.columns, a.quality.outside)), Some((vec![1, 0], 0)));
    }
}
