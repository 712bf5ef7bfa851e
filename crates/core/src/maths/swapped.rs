//! Whether two neighbours of a row look as if their bores had been written down at each other's bearings.
//!
//! Shells that were matched to their bearings leave about one clearance along a row. Two bores that were exchanged then show one
//! neighbour tight by what the other is loose. With the clearances `c` of the others (their mean, and their scatter `s`, never
//! less than what a value leaves open for itself) the contrast of a pair is
//!
//! ```text
//! z = ((c1 - mean) - (c2 - mean)) / sqrt 2,    beyond t(1 - a / 2(n - 1); n - 3) s
//! ```
//!
//! where `a` is the share of false alarms in one row and `n - 1` the pairs it has. It is said only where exchanging the bores
//! brings the pair to within a third of that, so that two bearings which are really apart are left alone.
use super::student;

/// The clearance of a bearing as it was written down, and as it would be with its neighbour's bore.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WithNextBore {
    /// As written down.
    pub written: f64,
    /// With the bore of the bearing behind it.
    pub next: f64,
    /// With the bore of the bearing before it.
    pub before: f64,
}

/// What the exchange may leave of the contrast that it explains.
const LEAVES: f64 = 1.0 / 3.0;

/// The first of the two neighbours whose bores look exchanged; `open` is what a clearance leaves open for itself, as a standard
/// uncertainty, and `false_alarms` the share of sound rows of which it may be said, 0 to 1. Rows of fewer than five say nothing.
///
/// ```
/// use jagged_pin_core::maths::{WithNextBore, swapped_pair};
///
/// // Bores and journals in tenths: the third and the fourth bore stand in each other's cells.
/// let (bores, journals) = ([30.0, 27.0, 34.0, 28.0, 30.0, 31.0, 29.0], [5.0, 2.0, 3.0, 9.0, 5.0, 6.0, 4.0]);
/// let bore = |i: usize| bores.get(i).copied().unwrap_or(f64::NAN);
/// let row: Vec<WithNextBore> = (0..7)
///     .map(|i: usize| WithNextBore {
///         written: bore(i) - journals[i],
///         next: bore(i + 1) - journals[i],
///         before: bore(i.wrapping_sub(1)) - journals[i],
///     })
///     .collect();
/// assert_eq!(swapped_pair(&row, 0.4, 0.02), Some(2));
/// ```
pub fn swapped_pair(row: &[WithNextBore], open: f64, false_alarms: f64) -> Option<usize> {
    let pairs = row.len().checked_sub(1).filter(|_| row.len() > 4)?;
    let degrees = row.len() as f64 - 3.0;
    let limit = student(1.0 - false_alarms / (2.0 * pairs as f64), degrees);
    let contrast = |(i, pair): (usize, &[WithNextBore])| {
        let &[first, second] = pair else { return None };
        let others = || row.iter().enumerate().filter(|(j, _)| *j != i && *j != i + 1).map(|(_, w)| w.written);
        let mean = others().sum::<f64>() / (degrees + 1.0);
        let squares: f64 = others().map(|c| (c - mean) * (c - mean)).sum();
        let scatter = (squares / degrees).sqrt().max(open);
        let apart = (first.written - second.written) / 2f64.sqrt();
        let exchanged = (first.next - second.before) / 2f64.sqrt();
        let explained = exchanged.abs() <= LEAVES * apart.abs();
        explained.then_some((i, apart.abs() / scatter))
    };
    let found = row.windows(2).enumerate().filter_map(contrast).max_by(|a, b| a.1.total_cmp(&b.1));
    found.filter(|(_, apart)| *apart > limit).map(|(i, _)| i)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn row(bores: &[f64], journals: &[f64]) -> Vec<WithNextBore> {
        let bore = |i: usize| bores.get(i).copied().unwrap_or(f64::NAN);
        let one = |(i, journal): (usize, &f64)| WithNextBore {
            written: bore(i) - journal,
            next: bore(i + 1) - journal,
            before: bore(i.wrapping_sub(1)) - journal,
        };
        journals.iter().enumerate().map(one).collect()
    }

    #[test]
    fn a_bearing_that_is_apart_by_itself_is_nobody_s_neighbour() {
        let journals = [0.0; 7];
        // One bore is four tenths large: no exchange would bring both to the rest.
        assert_eq!(swapped_pair(&row(&[25.0, 25.5, 29.0, 25.0, 25.5, 25.0, 25.5], &journals), 0.4, 0.02), None);
        assert_eq!(swapped_pair(&row(&[25.0, 29.0, 21.0, 25.0], &[0.0; 4]), 0.4, 0.02), None, "a row of four");
    }

    proptest! {
        #[test]
        fn matched_bores_are_found_in_each_other_s_cells_and_nowhere_else(
            journals in prop::collection::vec(-4i8..=4, 7),
            noise in prop::collection::vec(-0.3f64..0.3, 7),
            at in 0usize..6,
        ) {
            let journals: Vec<f64> = journals.into_iter().map(f64::from).collect();
            let mut bores: Vec<f64> = journals.iter().zip(&noise).map(|(j, n)| 25.0 + j + n).collect();
            prop_assert_eq!(swapped_pair(&row(&bores, &journals), 0.4, 0.02), None);
            prop_assume!((journals[at] - journals[at + 1]).abs() >= 4.0);
            bores.swap(at, at + 1);
            prop_assert_eq!(swapped_pair(&row(&bores, &journals), 0.4, 0.02), Some(at));
        }
    }
}
