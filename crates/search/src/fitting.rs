//! What is to be chosen from what: seats, bins, sets, and the bounds that follow from them.
//!
//! A *seat* is a bearing that needs an upper and a lower; a *bin* holds halves that are alike. Twice the
//! clearance of a seat with halves from two bins is a sum, `base + value(upper) + value(lower)`, so
//! every figure is a whole number of half nanometres.

use crate::cover::Set;
use crate::matching::{NOT_ALLOWED, cheapest_in_bins};

/// A bearing that needs two halves. Lengths are half nanometres: twice the figure in nanometres.
#[derive(Debug, Clone)]
pub(crate) struct Seat {
    /// Twice its clearance with halves of value 0.
    pub base: i64,
    /// Twice the lower limit, the aim and the upper limit.
    pub low: i64,
    pub aim: i64,
    pub high: i64,
}

/// Halves that are alike.
#[derive(Debug, Clone)]
pub(crate) struct Bin {
    /// What one of them adds to twice the clearance.
    pub value: i64,
    /// How many lie on the shelf.
    pub stock: u16,
    /// The size class it belongs to, to tell mixed pairs.
    pub class: usize,
}

/// What is to be chosen, from what.
#[derive(Debug, Clone, Default)]
pub(crate) struct Fitting {
    pub seats: Vec<Seat>,
    pub bins: Vec<Bin>,
    /// Bins that serve as uppers, and as lowers; the same ones where halves are interchangeable.
    pub uppers: Vec<usize>,
    pub lowers: Vec<usize>,
    /// Largest difference between the values of a pair.
    pub max_step: Option<i64>,
    pub sets: Vec<Set>,
    /// The pair that stays in a seat, by seat; empty when nothing is locked.
    pub locked: Vec<Option<(usize, usize)>>,
    /// A seat and twice a clearance that it must not have: for the next best answer.
    pub other_than: Option<(usize, i64)>,
    /// The side that is preferred for the half that is farther from standard, of two that differ.
    pub odd: Option<Odd>,
}

/// A side of a pair.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Odd {
    /// The upper.
    Upper,
    /// The lower.
    Lower,
}

/// What is minimised.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Goal {
    /// Seats outside their window.
    Outside,
    /// The largest distance from the aim.
    Worst,
    /// The sum of the distances.
    Total,
    /// What has to be bought.
    Cost,
    /// Pairs of two classes.
    Mixed,
}

/// How good an answer is, in the terms of [`Goal`].
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Score(pub [i64; 5]);

impl Score {
    /// Worse than anything.
    pub const NONE: Score = Score([i64::MAX; 5]);

    pub const fn of(&self, goal: Goal) -> i64 {
        self.0[goal as usize]
    }

    pub fn of_choices(choices: &[Choice], cost: i64) -> Self {
        let count = |f: fn(&Choice) -> bool| choices.iter().map(|c| i64::from(f(c))).sum();
        let worst = choices.iter().map(|c| c.off).max().unwrap_or(0);
        let total = choices.iter().map(|c| c.off).sum();
        Score([count(|c| c.outside), worst, total, cost, choices.iter().map(|c| c.mixed).sum()])
    }

    /// Its values in the order of the goals, for comparing.
    pub fn in_order(&self, goals: &[Goal]) -> Vec<i64> {
        goals.iter().map(|g| self.of(*g)).collect()
    }
}

/// A pair of halves at a seat.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Choice {
    pub upper: usize,
    pub lower: usize,
    /// Twice the clearance.
    pub clearance: i64,
    /// Twice the distance from the aim.
    pub off: i64,
    pub outside: bool,
    /// What mixing costs here: nothing for one class, [`MIXED`] for two, and one more with the odd half on the side that
    /// does not want it.
    pub mixed: i64,
}

/// What a pair of two classes weighs, where a side is preferred for the odd half: more than all seats together could be on
/// the wrong side.
pub(crate) const MIXED: i64 = 1_000;

/// An answer.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Found {
    /// A pair for each seat, in their order.
    pub choices: Vec<Choice>,
    /// How many of each set are bought.
    pub bought: Vec<u16>,
    pub score: Score,
    /// Whether the search ended.
    pub proven: bool,
    /// What the worst distance is at least, proven.
    pub worst_bound: i64,
}

impl Fitting {
    /// A pair in a seat.
    pub fn choice(&self, seat: usize, upper: usize, lower: usize) -> Choice {
        let (s, u, l) = (&self.seats[seat], &self.bins[upper], &self.bins[lower]);
        let clearance = s.base + u.value + l.value;
        let outside = clearance < s.low || clearance > s.high;
        let wrong = match self.odd {
            Some(Odd::Upper) => l.value.abs() > u.value.abs(),
            Some(Odd::Lower) => u.value.abs() > l.value.abs(),
            None => false,
        };
        let mixed = if u.class == l.class { 0 } else { MIXED + i64::from(wrong) };
        Choice { upper, lower, clearance, off: (clearance - s.aim).abs(), outside, mixed }
    }

    /// The pairs that may go into a seat, the one nearest its aim first.
    pub fn choices(&self, seat: usize) -> Vec<Choice> {
        let pair = |upper: usize, lower: usize| {
            let choice = self.choice(seat, upper, lower);
            let clearance = choice.clearance;
            let apart = (self.bins[upper].value - self.bins[lower].value).abs();
            let fits = self.max_step.is_none_or(|most| apart <= most);
            let locked = self.locked.get(seat).copied().flatten();
            let free = locked.is_none_or(|pair| pair == (upper, lower));
            (fits && free && self.other_than != Some((seat, clearance))).then_some(choice)
        };
        let mut choices: Vec<Choice> =
            self.uppers.iter().flat_map(|u| self.lowers.iter().filter_map(move |l| pair(*u, *l))).collect();
        choices.sort_by_key(|c| (c.off, c.mixed));
        choices
    }

    /// As many pairs as the halves `left` make, whatever the seats. Which halves go together depends on
    /// their values only: both sides are gone through by value and paired as soon as two are near enough.
    pub fn pairs(&self, left: &[u16]) -> Vec<(usize, usize)> {
        let halves = |bins: &[usize]| {
            let mut all: Vec<usize> =
                bins.iter().flat_map(|b| std::iter::repeat_n(*b, usize::from(left[*b]))).collect();
            all.sort_by_key(|b| self.bins[*b].value);
            all
        };
        let near = |u: usize, l: usize| {
            self.max_step.is_none_or(|most| (self.bins[u].value - self.bins[l].value).abs() <= most)
        };
        let (uppers, mut pairs, mut i, mut j) = (halves(&self.uppers), Vec::new(), 0, 0);
        if self.uppers == self.lowers {
            while let (Some(u), Some(l)) = (uppers.get(i), uppers.get(i + 1)) {
                let goes = near(*u, *l);
                if goes {
                    pairs.push((*u, *l));
                }
                i += if goes { 2 } else { 1 };
            }
            return pairs;
        }
        let lowers = halves(&self.lowers);
        while let (Some(u), Some(l)) = (uppers.get(i), lowers.get(j)) {
            let goes = near(*u, *l);
            if goes {
                pairs.push((*u, *l));
            }
            let below = self.bins[*u].value < self.bins[*l].value;
            i += usize::from(goes || below);
            j += usize::from(goes || !below);
        }
        pairs
    }

    /// Whether a seat may get any pair that goes together.
    pub fn may_get_any(&self, seat: usize) -> bool {
        self.locked.get(seat).copied().flatten().is_none() && self.other_than.is_none_or(|(other, _)| other != seat)
    }

    /// How many halves of each bin there are when so many of each set are bought; more than could be
    /// used are not counted.
    pub fn with_bought(&self, counts: &[u16]) -> Vec<u16> {
        let most = u16::try_from(2 * self.seats.len()).unwrap_or(u16::MAX);
        let bought = |b: usize| {
            let of_set = |(set, n): (&Set, &u16)| set.gives[b].saturating_mul(*n);
            self.sets.iter().zip(counts).map(of_set).fold(0_u16, u16::saturating_add)
        };
        self.bins.iter().enumerate().map(|(b, bin)| bin.stock.saturating_add(bought(b)).min(most)).collect()
    }

    /// How many halves of each bin can be had: on the shelf and to buy.
    pub fn to_be_had(&self) -> Vec<u16> {
        self.with_bought(&self.sets.iter().map(|s| s.available).collect::<Vec<_>>())
    }
}

/// One half of every pair.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Side {
    Upper,
    Lower,
}

impl Side {
    const fn bin(self, c: &Choice) -> usize {
        match self {
            Side::Upper => c.upper,
            Side::Lower => c.lower,
        }
    }
}

/// The least sum of `weight` when each of `seats` gets a half of one side that is still there, the other
/// half being any. `None` when they do not suffice.
pub(crate) fn side_bound(
    side: Side,
    fitting: &Fitting,
    options: &[Vec<Choice>],
    seats: &[usize],
    left: &[u16],
    weight: impl Fn(&Choice) -> i64,
) -> Option<i64> {
    let bins = match side {
        Side::Upper => &fitting.uppers,
        Side::Lower => &fitting.lowers,
    };
    let mut place_of = vec![usize::MAX; fitting.bins.len()];
    bins.iter().enumerate().for_each(|(place, bin)| place_of[*bin] = place);
    let capacity: Vec<usize> = bins.iter().map(|b| usize::from(left[*b])).collect();
    let mut least = vec![NOT_ALLOWED; seats.len() * bins.len()];
    for (row, seat) in least.chunks_exact_mut(bins.len().max(1)).zip(seats) {
        for c in &options[*seat] {
            let there = left[c.upper] > 0 && left[c.lower] > 0 && (c.upper != c.lower || left[c.upper] > 1);
            if there {
                let known = &mut row[place_of[side.bin(c)]];
                *known = (*known).min(weight(c));
            }
        }
    }
    cheapest_in_bins(&capacity, &least)
}
