//! Cheapest assignment of rows to columns (the Hungarian method with shortest augmenting paths), with
//! pairs that are not allowed.
//!
//! `O(rows^2 x columns)`; H. W. Kuhn, "The Hungarian method for the assignment problem", 1955, in the
//! form with potentials.

/// More than any sum of costs that can occur, and small enough not to overflow when a few are added.
pub(crate) const NEVER: i64 = i64::MAX / 4;

/// The least sum of costs when every row gets a column of its own, and which column each row gets.
/// `cost` is `None` where a row cannot have a column. `None` when there is no such assignment.
pub(crate) fn cheapest(
    rows: usize,
    columns: usize,
    cost: impl Fn(usize, usize) -> Option<i64>,
) -> Option<(i64, Vec<usize>)> {
    if rows > columns {
        return None;
    }
    // Potentials of rows and columns; column 0 stands for "not yet assigned".
    let (mut of_row, mut of_column) = (vec![0_i64; rows + 1], vec![0_i64; columns + 1]);
    let mut row_of = vec![0_usize; columns + 1];
    let mut came_by = vec![0_usize; columns + 1];
    for row in 1..=rows {
        row_of[0] = row;
        let mut column = 0;
        let mut least = vec![NEVER; columns + 1];
        let mut done = vec![false; columns + 1];
        loop {
            done[column] = true;
            let from = row_of[column];
            let (mut step, mut next) = (NEVER, 0);
            for to in (1..=columns).filter(|to| !done[*to]) {
                if let Some(cost) = cost(from - 1, to - 1) {
                    let reduced = cost - of_row[from] - of_column[to];
                    if reduced < least[to] {
                        least[to] = reduced;
                        came_by[to] = column;
                    }
                }
                if least[to] < step {
                    step = least[to];
                    next = to;
                }
            }
            if step == NEVER {
                return None;
            }
            for to in 0..=columns {
                if done[to] {
                    of_row[row_of[to]] += step;
                    of_column[to] -= step;
                } else if least[to] < NEVER {
                    least[to] -= step;
                }
            }
            column = next;
            if row_of[column] == 0 {
                break;
            }
        }
        while column != 0 {
            let before = came_by[column];
            row_of[column] = row_of[before];
            column = before;
        }
    }
    let mut assigned = vec![0; rows];
    for column in 1..=columns {
        if row_of[column] > 0 {
            assigned[row_of[column] - 1] = column - 1;
        }
    }
    let sum = assigned.iter().enumerate().map(|(r, c)| cost(r, *c)).sum::<Option<i64>>()?;
    Some((sum, assigned))
}

/// A pair that is not allowed, in [`cheapest_in_bins`].
pub(crate) const NOT_ALLOWED: i64 = NEVER;

/// The least sum of costs when every row gets a place in a bin, of which there are as many as `capacity` says: the
/// same as [`cheapest`] with a column for every place, without looking at equal places one by one. `costs` holds a
/// row after the other, [`NOT_ALLOWED`] where a row cannot have a bin. `None` when there is no such assignment.
///
/// Rows come in one by one, each by the shortest path to a bin with room: a row that is in a full bin may make way
/// for another by moving on. What is assigned is the cheapest for its rows after every step, so that no path is
/// shorter than the cheapest bin of the new row; where that one has room, nothing needs searching.
pub(crate) fn cheapest_in_bins(capacity: &[usize], costs: &[i64]) -> Option<i64> {
    let bins = capacity.len();
    let mut sum = 0;
    let mut bin_of: Vec<usize> = Vec::with_capacity(costs.len() / bins.max(1));
    let (mut used, mut near, mut came_by) = (vec![0_usize; bins], vec![0_i64; bins], vec![0_usize; bins]);
    for (row, own) in costs.chunks_exact(bins.max(1)).enumerate() {
        near.copy_from_slice(own);
        came_by.fill(row);
        let cheapest = (0..bins).min_by_key(|b| near[*b]).filter(|b| near[*b] < NEVER)?;
        if used[cheapest] >= capacity[cheapest] {
            settle(capacity, costs, &used, &bin_of, &mut near, &mut came_by);
        }
        let with_room = (0..bins).filter(|b| used[*b] < capacity[*b]);
        let mut to = with_room.min_by_key(|b| near[*b]).filter(|b| near[*b] < NEVER)?;
        sum += near[to];
        used[to] += 1;
        bin_of.push(usize::MAX);
        // Everybody on the path moves on by one.
        loop {
            let mover = came_by[to];
            let from = std::mem::replace(&mut bin_of[mover], to);
            if mover == row {
                break;
            }
            to = from;
        }
    }
    Some(sum)
}

/// Shortest ways to every bin over rows that make way in full ones.
fn settle(
    capacity: &[usize],
    costs: &[i64],
    used: &[usize],
    bin_of: &[usize],
    near: &mut [i64],
    came_by: &mut [usize],
) {
    let bins = capacity.len();
    loop {
        let mut shorter = false;
        for (row, from) in bin_of.iter().copied().enumerate() {
            if used[from] < capacity[from] || near[from] >= NEVER {
                continue;
            }
            let own = &costs[row * bins..(row + 1) * bins];
            for (to, cost) in own.iter().enumerate().filter(|(_, cost)| **cost < NEVER) {
                let way = near[from] + cost - own[from];
                if way < near[to] {
                    near[to] = way;
                    came_by[to] = row;
                    shorter = true;
                }
            }
        }
        if !shorter {
            return;
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// Every assignment tried.
    fn exhaustive(costs: &[Vec<Option<i64>>], row: usize, taken: &mut Vec<bool>) -> Option<i64> {
        let Some(of_row) = costs.get(row) else { return Some(0) };
        let mut best: Option<i64> = None;
        for (column, cost) in of_row.iter().enumerate() {
            let Some(cost) = cost.filter(|_| !taken[column]) else { continue };
            taken[column] = true;
            let sum = exhaustive(costs, row + 1, taken).map(|rest| rest + cost);
            taken[column] = false;
            best = [best, sum].into_iter().flatten().min();
        }
        best
    }

    #[test]
    fn each_row_gets_what_leaves_the_least_in_all() {
        let costs = [[4, 1, 3], [2, 0, 5], [3, 2, 2]];
        let found = cheapest(3, 3, |r, c| Some(costs[r][c]));
        assert_eq!(found, Some((5, vec![1, 0, 2])));
        assert_eq!(cheapest(2, 1, |_, _| Some(1)), None);
        assert_eq!(cheapest(2, 2, |_, c| (c == 0).then_some(1)), None);
    }

    proptest! {
        #[test]
        fn no_other_assignment_is_cheaper(
            costs in (1usize..5, 0usize..3).prop_flat_map(|(rows, more)| {
                let cell = prop::option::weighted(0.8, -20i64..100);
                prop::collection::vec(prop::collection::vec(cell, rows + more), rows)
            })
        ) {
            let (rows, columns) = (costs.len(), costs[0].len());
            let best = exhaustive(&costs, 0, &mut vec![false; columns]);
            let found = cheapest(rows, columns, |r, c| costs[r][c]);
            prop_assert_eq!(found.as_ref().map(|f| f.0), best);
        }
    }

    proptest! {
        #[test]
        fn places_in_bins_are_columns_that_are_alike(
            capacity in prop::collection::vec(0usize..4, 1..6),
            costs in prop::collection::vec(prop::collection::vec(prop::option::weighted(0.8, -20i64..20), 5), 0..8),
        ) {
            let bins = capacity.len();
            let columns: Vec<usize> =
                capacity.iter().enumerate().flat_map(|(b, n)| std::iter::repeat_n(b, *n)).collect();
            let by_column = cheapest(costs.len(), columns.len(), |r, c| costs[r][columns[c]]).map(|(sum, _)| sum);
            let flat: Vec<i64> =
                costs.iter().flat_map(|row| row[..bins].iter().map(|c| c.unwrap_or(NOT_ALLOWED))).collect();
            prop_assert_eq!(cheapest_in_bins(&capacity, &flat), by_column);
        }
    }
}
