//! Shells measured one by one: which of the tray's halves go into which housing.
//!
//! `clearance = housing - journal - upper wall - lower wall`. Halves of one wall are alike, so they are
//! counted together.
//!
//! ```
//! use jagged_pin_search::one_by_one::{Housing, Tray, select};
//! use jagged_pin_search::Target;
//!
//! let t = |tenths: i64| tenths * 2_540;
//! let target = Target { low: t(17), aim: t(20), high: t(24) };
//! let place = |base| Housing { base, target };
//! let tray = Tray {
//!     places: vec![place(t(1_254)), place(t(1_250))],
//!     uppers: vec![t(616), t(618), t(615)],
//!     lowers: vec![t(616), t(615), t(617)],
//! };
//! // 0.1254 - 0.0618 - 0.0616 and 0.1250 - 0.0615 - 0.0615 are both on the aim.
//! let selection = select(&tray, 10_000).unwrap();
//! assert_eq!((selection.quality.worst, selection.proven), (t(0), true));
//! ```

use std::collections::BTreeMap;

use crate::by_class::SelectError;
use crate::effort::Effort;
use crate::fitting::{Bin, Fitting, Goal};
use crate::search::solve;
use crate::{Quality, Target, halved, seat};

/// A housing that needs a pair.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Housing {
    /// Housing less journal.
    pub base: i64,
    /// Its target.
    pub target: Target,
}

/// The housings and the tray.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Tray {
    /// The housings.
    pub places: Vec<Housing>,
    /// Walls of the uppers.
    pub uppers: Vec<i64>,
    /// Walls of the lowers.
    pub lowers: Vec<i64>,
}

/// The pair of a housing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Pick {
    /// Which upper of the tray.
    pub upper: usize,
    /// Which lower of the tray.
    pub lower: usize,
    /// The clearance it gives.
    pub clearance: i64,
    /// Whether that is inside the window.
    pub inside: bool,
}

/// The best choice.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Selection {
    /// A pair for each housing, in their order.
    pub picks: Vec<Pick>,
    /// How good it is.
    pub quality: Quality,
    /// Whether nothing better exists; false only when the effort ran out.
    pub proven: bool,
    /// How much the worst distance might still shrink; zero when proven.
    pub gap: i64,
}

/// Halves by wall, the first of the tray first.
fn by_wall(walls: &[i64]) -> BTreeMap<i64, Vec<usize>> {
    let mut alike: BTreeMap<i64, Vec<usize>> = BTreeMap::new();
    for (i, wall) in walls.iter().enumerate() {
        alike.entry(*wall).or_default().push(i);
    }
    alike
}

/// The best pairs, proven. `effort` is what the search may cost, in branches.
///
/// # Errors
/// [`SelectError::NotEnough`] when there are fewer uppers or lowers than housings.
pub fn select(tray: &Tray, effort: u64) -> Result<Selection, SelectError> {
    let lacks = |walls: &[i64]| tray.places.len().saturating_sub(walls.len());
    let missing = lacks(&tray.uppers) + lacks(&tray.lowers);
    if missing > 0 {
        return Err(SelectError::NotEnough { missing });
    }
    let (uppers, lowers) = (by_wall(&tray.uppers), by_wall(&tray.lowers));
    let bin = |(wall, which): (&i64, &Vec<usize>)| {
        // A thicker wall takes twice as much off twice the clearance.
        Bin { value: -2 * wall, stock: u16::try_from(which.len()).unwrap_or(u16::MAX), class: 0 }
    };
    let fitting = Fitting {
        seats: tray.places.iter().map(|p| seat(p.base, p.target)).collect(),
        bins: uppers.iter().chain(&lowers).map(bin).collect(),
        uppers: (0..uppers.len()).collect(),
        lowers: (uppers.len()..uppers.len() + lowers.len()).collect(),
        ..Fitting::default()
    };
    let mut left = Effort::of(effort);
    let goals = [Goal::Outside, Goal::Worst, Goal::Total];
    let best = solve(&fitting, &goals, &mut left).ok_or(SelectError::Locked)?;
    let mut tray_of: Vec<_> = uppers.into_values().chain(lowers.into_values()).map(Vec::into_iter).collect();
    let mut next = |bin: usize| tray_of[bin].next().unwrap_or_default();
    let mut picks = Vec::with_capacity(best.choices.len());
    for c in &best.choices {
        let (upper, lower) = (next(c.upper), next(c.lower));
        picks.push(Pick { upper, lower, clearance: halved(c.clearance), inside: !c.outside });
    }
    let gap = halved(best.score.of(Goal::Worst) - best.worst_bound);
    Ok(Selection { picks, quality: Quality::of(&best), proven: best.proven, gap })
}
