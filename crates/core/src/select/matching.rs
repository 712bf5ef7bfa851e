//! Cheapest assignment of rows to columns (the Hungarian method with shortest augmenting paths), with
//! pairs that are not allowed.
//!
//! `O(rows^2 x columns)`; H. W. Kuhn, "The Hungarian method for the assignment problem", 1955, in the
//! form with potentials.

/// More than any sum of costs that can occur, and small enough not to overflow when a few are added.
const NEVER: i64 = i64::MAX / 4;

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
}
