//! Shells by size class: which pair goes into which bearing, and what has to be bought for it.
//!
//! `clearance(upper, lower) = clearance_std + (shift(upper) + shift(lower)) / 2`, where the shift of a
//! class is the change of clearance when both halves are of it. Halves of different classes may be mixed
//! up to a step; the ledge at the parting line is then half the difference in radius, inside the relief.
//!
//! ```
//! use jagged_pin_search::by_class::{Halves, Objective, Bearing, Problem, select};
//! use jagged_pin_search::Target;
//!
//! let t = |tenths: i64| tenths * 2_540;
//! let target = Target { low: t(17), aim: t(20), high: t(24) };
//! let place = |clearance_std| Bearing { clearance_std, target, locked: None };
//! let problem = Problem {
//!     places: vec![place(t(20)), place(t(14)), place(t(26))],
//!     shifts: vec![t(-10), t(0), t(10)],
//!     max_step: t(10),
//!     stock: Halves::Apart { upper: vec![0, 2, 1], lower: vec![1, 3, 0] },
//!     sets: Vec::new(),
//!     objective: Objective::Closest,
//!     odd: None,
//! };
//! // The tight one gets a thin upper, the loose one a thick lower: each is a tenth off its aim.
//! let selection = select(&problem, 10_000).unwrap();
//! assert_eq!((selection.quality.outside, selection.quality.worst, selection.quality.total), (0, t(1), t(2)));
//! assert_eq!((selection.mixed, selection.cost, selection.proven), (2, 0, true));
//! ```

use thiserror::Error;

use crate::cover::Set;
use crate::effort::Effort;
pub use crate::fitting::Odd;
use crate::fitting::{Bin, Choice, Fitting, Found, Goal, MIXED, Score};
use crate::search::{solve, solve_beyond};
use crate::{Quality, Target, halved, seat};

/// A bearing that needs a pair.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Bearing {
    /// Its clearance with standard halves above and below.
    pub clearance_std: i64,
    /// Its target.
    pub target: Target,
    /// The classes that stay there, upper and lower.
    pub locked: Option<(usize, usize)>,
}

/// Numbers of halves, by class.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Halves {
    /// Uppers and lowers differ, as on grooved mains.
    Apart {
        /// Uppers.
        upper: Vec<u16>,
        /// Lowers.
        lower: Vec<u16>,
    },
    /// One part serves as either.
    Alike(Vec<u16>),
}

impl Halves {
    /// Puts a pair on the shelf.
    pub fn add_pair(&mut self, (upper, lower): (usize, usize)) {
        let one_more = |counts: &mut Vec<u16>, class: usize| {
            if let Some(count) = counts.get_mut(class) {
                *count = count.saturating_add(1);
            }
        };
        match self {
            Halves::Apart { upper: uppers, lower: lowers } => {
                one_more(uppers, upper);
                one_more(lowers, lower);
            }
            Halves::Alike(both) => [upper, lower].into_iter().for_each(|class| one_more(both, class)),
        }
    }

    /// Takes all of a class off the shelf but what some pairs hold.
    pub fn leave_only(&mut self, class: usize, pairs: impl Iterator<Item = (usize, usize)>) {
        let (mut upper, mut lower) = (0, 0);
        for (u, l) in pairs {
            upper += u16::from(u == class);
            lower += u16::from(l == class);
        }
        match self {
            Halves::Apart { upper: uppers, lower: lowers } => {
                uppers.get_mut(class).into_iter().for_each(|n| *n = upper);
                lowers.get_mut(class).into_iter().for_each(|n| *n = lower);
            }
            Halves::Alike(both) => both.get_mut(class).into_iter().for_each(|n| *n = upper + lower),
        }
    }
}

/// A set of shells that can be bought.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ShellSet {
    /// Its price, in ten-thousandths of the money.
    pub price: i64,
    /// What it holds.
    pub holds: Halves,
    /// How many there are; `None` when as many as one likes.
    pub available: Option<u16>,
}

/// What is best.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Objective {
    /// Fewest outside, least worst distance, least total, then least cost and fewest mixed pairs.
    Closest,
    /// Fewest outside, least cost, then as the closest.
    Thriftiest,
}

impl Objective {
    const fn goals(self) -> [Goal; 5] {
        match self {
            Objective::Closest => [Goal::Outside, Goal::Worst, Goal::Total, Goal::Cost, Goal::Mixed],
            Objective::Thriftiest => [Goal::Outside, Goal::Cost, Goal::Worst, Goal::Total, Goal::Mixed],
        }
    }
}

/// What is to be chosen from what.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Problem {
    /// The bearings.
    pub places: Vec<Bearing>,
    /// The shift of each class.
    pub shifts: Vec<i64>,
    /// Largest difference between the shifts of a pair.
    pub max_step: i64,
    /// What lies on the shelf.
    pub stock: Halves,
    /// What can be bought.
    pub sets: Vec<ShellSet>,
    /// What is best.
    pub objective: Objective,
    /// Where the odd half of a mixed pair belongs, if all else is equal.
    pub odd: Option<Odd>,
}

/// The pair of a bearing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Pick {
    /// Class of the upper.
    pub upper: usize,
    /// Class of the lower.
    pub lower: usize,
    /// The clearance it gives; a half nanometre goes to the even neighbour.
    pub clearance: i64,
    /// Whether that is inside the window.
    pub inside: bool,
}

/// Another choice: what is next best.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Alternative {
    /// Its pairs.
    pub picks: Vec<Pick>,
    /// How good it is.
    pub quality: Quality,
    /// What it costs, in ten-thousandths.
    pub cost: i64,
    /// Pairs of two classes in it.
    pub mixed: usize,
    /// Places whose clearance differs from the best choice's.
    pub differs: Vec<usize>,
}

/// The best choice.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Selection {
    /// A pair for each bearing, in their order.
    pub picks: Vec<Pick>,
    /// How good it is.
    pub quality: Quality,
    /// How many of each set are bought, in their order.
    pub bought: Vec<u16>,
    /// What that costs, in ten-thousandths.
    pub cost: i64,
    /// Pairs of two classes.
    pub mixed: usize,
    /// Whether nothing better exists; false only when the effort ran out.
    pub proven: bool,
    /// How much the worst distance might still shrink; zero when proven.
    pub gap: i64,
    /// Pairs for each bearing multiplied: the ways that were weighed against each other.
    pub ways: u128,
    /// The bearing that keeps the worst distance from shrinking.
    pub binding: Option<usize>,
}

/// Why nothing can be chosen.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum SelectError {
    /// Too few halves, even when everything is bought that can be.
    #[error("{missing} {} missing, even when everything is bought that can be", if *.missing == 1 { "half is" } else { "halves are" })]
    NotEnough {
        /// How many halves are missing at least.
        missing: usize,
    },
    /// There are enough, but not with what is locked and in the sets that can be bought.
    #[error("what is locked, and what the sets hold, leaves no pair for every bearing: release a lock")]
    Locked,
}

/// Alternatives that are told.
const TOLD: usize = 3;

/// The best pairs, proven. `effort` is what the search may cost, in branches.
///
/// # Errors
/// [`SelectError`] when there are not enough halves.
pub fn select(problem: &Problem, effort: u64) -> Result<Selection, SelectError> {
    let fitting = fitting(problem);
    let missing = missing(problem, &fitting);
    if missing > 0 {
        return Err(SelectError::NotEnough { missing });
    }
    let goals = problem.objective.goals();
    let mut left = Effort::of(effort);
    let best = solve(&fitting, &goals, &mut left).ok_or(SelectError::Locked)?;
    let quality = Quality::of(&best);
    let worst = best.score.of(Goal::Worst);
    Ok(Selection {
        picks: picks(problem, &best),
        quality,
        cost: best.score.of(Goal::Cost),
        mixed: mixed(best.score),
        proven: best.proven,
        gap: halved(worst - best.worst_bound),
        ways: (0..fitting.seats.len()).fold(1_u128, |n, s| n.saturating_mul(fitting.choices(s).len() as u128)),
        binding: best.choices.iter().position(|c| c.off == worst),
        bought: best.bought,
    })
}

/// Pairs of two classes.
fn mixed(score: Score) -> usize {
    usize::try_from(score.of(Goal::Mixed) / MIXED).unwrap_or(0)
}

/// The number of bins of one half, by class: uppers first, then lowers, or one for both.
fn fitting(problem: &Problem) -> Fitting {
    let classes = problem.shifts.len();
    let alike = matches!(problem.stock, Halves::Alike(_));
    let in_bins = |halves: &Halves| -> Vec<u16> {
        match halves {
            Halves::Apart { upper, lower } if !alike => upper.iter().chain(lower).copied().collect(),
            Halves::Apart { upper, lower } => upper.iter().zip(lower).map(|(u, l)| u.saturating_add(*l)).collect(),
            Halves::Alike(both) => both.clone(),
        }
    };
    let stock = in_bins(&problem.stock);
    let bin = |(i, stock): (usize, &u16)| {
        let class = i % classes.max(1);
        Bin { value: problem.shifts[class], stock: *stock, class }
    };
    let uppers: Vec<usize> = (0..classes).collect();
    let lowers = if alike { uppers.clone() } else { (classes..2 * classes).collect() };
    // More of a set than there are halves in the engine helps nobody.
    let most = u16::try_from(2 * problem.places.len()).unwrap_or(u16::MAX);
    let set = |s: &ShellSet| Set {
        price: s.price,
        gives: in_bins(&s.holds),
        available: s.available.unwrap_or(most).min(most),
    };
    let lower_bin = |class: usize| if alike { class } else { classes + class };
    Fitting {
        seats: problem.places.iter().map(|p| seat(p.clearance_std, p.target)).collect(),
        bins: stock.iter().enumerate().map(bin).collect(),
        max_step: Some(problem.max_step),
        sets: problem.sets.iter().map(set).collect(),
        locked: problem.places.iter().map(|p| p.locked.map(|(u, l)| (u, lower_bin(l)))).collect(),
        uppers,
        lowers,
        other_than: None,
        odd: problem.odd,
    }
}

/// How many halves would have to be there besides: a half left alone needs one more, and what is missing
/// beyond those two.
fn missing(problem: &Problem, fitting: &Fitting) -> usize {
    let to_be_had = fitting.to_be_had();
    let pairs = fitting.pairs(&to_be_had).len();
    let halves: usize = to_be_had.iter().map(|n| usize::from(*n)).sum();
    let rest = problem.places.len().saturating_sub(pairs);
    let alone = halves.saturating_sub(2 * pairs);
    rest + rest.saturating_sub(alone)
}

fn picks(problem: &Problem, found: &Found) -> Vec<Pick> {
    let classes = problem.shifts.len().max(1);
    let pick = |c: &Choice| Pick {
        upper: c.upper % classes,
        lower: c.lower % classes,
        clearance: halved(c.clearance),
        inside: !c.outside,
    };
    found.choices.iter().map(pick).collect()
}

/// What comes next, the best first, at most three: for each bearing the best choice that gives it another
/// clearance. Nothing that differs in a clearance is better than the first of them. One that could not be
/// proven within the effort is left out.
pub fn next_best(problem: &Problem, effort: u64) -> Vec<Alternative> {
    let goals = problem.objective.goals();
    let mut fitting = fitting(problem);
    let mut left = Effort::of(effort);
    let Some(best) = solve(&fitting, &goals, &mut left).filter(|b| b.proven) else { return Vec::new() };
    let mut others: Vec<Found> = Vec::new();
    for (i, chosen) in best.choices.iter().enumerate() {
        fitting.other_than = Some((i, chosen.clearance));
        let Some(found) = solve_beyond(&fitting, &goals, best.score, &mut left).filter(|f| f.proven) else { continue };
        let clearances = |f: &Found| f.choices.iter().map(|c| c.clearance).collect::<Vec<_>>();
        if others.iter().all(|o| clearances(o) != clearances(&found)) {
            others.push(found);
        }
    }
    others.sort_by_key(|f| f.score.in_order(&goals));
    others.truncate(TOLD);
    let alternative = |f: Found| {
        let differs = f.choices.iter().zip(&best.choices).enumerate();
        Alternative {
            picks: picks(problem, &f),
            quality: Quality::of(&f),
            cost: f.score.of(Goal::Cost),
            mixed: mixed(f.score),
            differs: differs.filter(|(_, (a, b))| a.clearance != b.clearance).map(|(i, _)| i).collect(),
        }
    };
    others.into_iter().map(alternative).collect()
}
