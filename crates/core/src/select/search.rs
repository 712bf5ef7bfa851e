//! Exact choice of halves for seats, stage by stage.
//!
//! A *seat* is a bearing that needs an upper and a lower; a *bin* holds halves that are alike. Twice the
//! clearance of a seat with halves from two bins is a sum, `base + value(upper) + value(lower)`, so
//! every figure is a whole number of half nanometres. Goals are reached one after the other: the best
//! value of each becomes a limit for the next, which makes the answer the lexicographic optimum.
//!
//! Each goal is a depth-first branch and bound over the seats. A branch is cut when
//! * it cannot stay within the limits, or improve on what is known, even if every seat left took its
//!   best halves that are still there;
//! * the halves left cannot serve the seats left: an assignment of seats to uppers alone, or to lowers
//!   alone, is a relaxation ([`super::matching`]), and its cost a bound;
//! * what the shelf lacks cannot be bought, or not for the cost that is left ([`super::cover`]);
//! * the same halves were used up before by the same seats at no worse a price (dominance).
//!
//! Nothing is cut otherwise, so a search that ends has proven its answer.

use std::cmp::Reverse;
use std::collections::{BinaryHeap, HashMap};

use super::cover::{Cover, Set};
use super::inside::Inside;
use super::matching::cheapest;

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

    fn of_choices(choices: &[Choice], cost: i64) -> Self {
        let count = |f: fn(&Choice) -> bool| choices.iter().map(|c| i64::from(f(c))).sum();
        let worst = choices.iter().map(|c| c.off).max().unwrap_or(0);
        let total = choices.iter().map(|c| c.off).sum();
        Score([count(|c| c.outside), worst, total, cost, count(|c| c.mixed)])
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
    pub mixed: bool,
}

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

/// The best answer for the goals in their order, or `None` when the halves do not suffice. `effort` is
/// what may be spent on it, in branches; what is left of it stays there.
pub(crate) fn solve(fitting: &Fitting, goals: &[Goal], effort: &mut u64) -> Option<Found> {
    solve_beyond(fitting, goals, Score([0; 5]), effort)
}

/// The same when no answer is better than `beyond`, which a wider choice had: as soon as a goal reaches
/// it, with all goals before it equal, nothing needs searching.
pub(crate) fn solve_beyond(fitting: &Fitting, goals: &[Goal], beyond: Score, effort: &mut u64) -> Option<Found> {
    let options: Vec<Vec<Choice>> = (0..fitting.seats.len()).map(|s| fitting.choices(s)).collect();
    let cover = Cover::default();
    let mut solver = Solver { fitting, options, cover, limit: Score::NONE, beyond, effort, spent: false };
    let mut best = solver.first()?;
    let mut worst_bound = 0;
    for goal in goals {
        if *goal == Goal::Worst {
            worst_bound = solver.narrow_worst(&mut best);
        } else {
            solver.improve(*goal, &mut best);
        }
        solver.limit.0[*goal as usize] = best.score.of(*goal);
        if best.score.of(*goal) != solver.beyond.of(*goal) {
            solver.beyond = Score([0; 5]);
        }
        if *goal == Goal::Worst {
            let worst = best.score.of(Goal::Worst);
            solver.options.iter_mut().for_each(|o| o.retain(|c| c.off <= worst));
        }
    }
    best.proven = !solver.spent;
    best.worst_bound = if best.proven { best.score.of(Goal::Worst) } else { worst_bound };
    Some(best)
}

impl Fitting {
    /// A pair in a seat.
    pub fn choice(&self, seat: usize, upper: usize, lower: usize) -> Choice {
        let (s, u, l) = (&self.seats[seat], &self.bins[upper], &self.bins[lower]);
        let clearance = s.base + u.value + l.value;
        let outside = clearance < s.low || clearance > s.high;
        Choice { upper, lower, clearance, off: (clearance - s.aim).abs(), outside, mixed: u.class != l.class }
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

struct Solver<'a> {
    fitting: &'a Fitting,
    /// What each seat may still get.
    options: Vec<Vec<Choice>>,
    cover: Cover,
    /// What later goals must not spoil.
    limit: Score,
    /// What no answer can be better than.
    beyond: Score,
    effort: &'a mut u64,
    spent: bool,
}

impl Solver<'_> {
    fn branch(&mut self, goal: Option<Goal>, limit: Score, best: Option<Found>) -> Option<Found> {
        let mut branch = Branch::new(self, goal, limit, best);
        branch.descend(0);
        let found = branch.best.take();
        let spent = branch.spent;
        self.spent |= spent;
        found
    }

    /// Any answer at all.
    fn first(&mut self) -> Option<Found> {
        self.branch(None, self.limit, None)
    }

    /// The best answer for one goal within the limits.
    fn improve(&mut self, goal: Goal, best: &mut Found) {
        if self.at_its_bound(goal, best) {
            return;
        }
        match goal {
            Goal::Outside => return self.bring_inside(best),
            // Nothing is known of the distances yet: what is bought decides, not which seat gets it.
            Goal::Cost if self.limit.of(Goal::Worst) == i64::MAX => return self.buy_least(best),
            _ => {}
        }
        if let Some(found) = self.branch(Some(goal), self.limit, Some(best.clone())) {
            *best = found;
        }
    }

    /// As many seats inside as can be.
    fn bring_inside(&mut self, best: &mut Found) {
        let most = best.score.of(Goal::Outside);
        let mut inside = Inside::new(self.fitting, &self.options, self.fitting.to_be_had(), self.effort);
        let found = inside.fewer_outside(most, self.beyond.of(Goal::Outside));
        self.spent |= inside.spent;
        if let Some(answer) = found.and_then(|choices| self.answer(choices)) {
            *best = answer;
        }
    }

    /// The cheapest purchase with which as few seats are outside as can be: purchases are gone through by
    /// their cost, and the first one that does is taken.
    fn buy_least(&mut self, best: &mut Found) {
        let sets = &self.fitting.sets;
        let outside = self.limit.of(Goal::Outside);
        let mut waiting = BinaryHeap::from([Reverse((0_i64, 0_usize, vec![0_u16; sets.len()]))]);
        while let Some(Reverse((cost, last, counts))) = waiting.pop() {
            if cost >= best.score.of(Goal::Cost) {
                return;
            }
            let left = self.fitting.with_bought(&counts);
            if self.fitting.pairs(&left).len() >= self.fitting.seats.len() {
                let mut inside = Inside::new(self.fitting, &self.options, left, self.effort);
                let found = inside.fewer_outside(outside.saturating_add(1), outside);
                self.spent |= inside.spent;
                if let Some(answer) = found.and_then(|choices| self.answer(choices)) {
                    *best = answer;
                    return;
                }
            }
            if *self.effort == 0 {
                self.spent = true;
                return;
            }
            *self.effort -= 1;
            // Each purchase is reached once: by adding sets in their order.
            for (i, set) in sets.iter().enumerate().skip(last) {
                if counts[i] < set.available {
                    let mut more = counts.clone();
                    more[i] += 1;
                    waiting.push(Reverse((cost + set.price, i, more)));
                }
            }
        }
    }

    /// Choices with what has to be bought for them.
    fn answer(&mut self, choices: Vec<Choice>) -> Option<Found> {
        let mut lacking: Vec<u16> = vec![0; self.fitting.bins.len()];
        choices.iter().flat_map(|c| [c.upper, c.lower]).for_each(|b| lacking[b] += 1);
        lacking.iter_mut().zip(&self.fitting.bins).for_each(|(l, b)| *l = l.saturating_sub(b.stock));
        let cost = self.cover.cost(&self.fitting.sets, &lacking)?;
        let bought = self.cover.purchase(&self.fitting.sets, &lacking)?;
        let score = Score::of_choices(&choices, cost);
        Some(Found { choices, bought, score, proven: false, worst_bound: 0 })
    }

    /// Whether an answer is as good as the relaxation, so that nothing needs searching.
    fn at_its_bound(&self, goal: Goal, best: &Found) -> bool {
        let value = best.score.of(goal);
        let weight: fn(&Choice) -> i64 = match goal {
            Goal::Outside => |c| i64::from(c.outside),
            Goal::Total => |c| c.off,
            Goal::Mixed => |c| i64::from(c.mixed),
            Goal::Worst | Goal::Cost => return value == self.beyond.of(goal),
        };
        value == self.beyond.of(goal)
            || [Side::Upper, Side::Lower].into_iter().any(|side| self.relaxed(side, weight) >= Some(value))
    }

    /// The cheapest way to give every seat a half of one side, whatever the other side is.
    fn relaxed(&self, side: Side, weight: impl Fn(&Choice) -> i64) -> Option<i64> {
        let to_be_had = self.fitting.to_be_had();
        let all: Vec<usize> = (0..self.options.len()).collect();
        side_bound(side, self.fitting, &self.options, &all, &to_be_had, weight)
    }

    /// Narrows the worst distance by halving the list of distances that occur. Gives the proven bound.
    fn narrow_worst(&mut self, best: &mut Found) -> i64 {
        let beyond = self.beyond.of(Goal::Worst);
        let floor =
            self.options.iter().map(|o| o.iter().map(|c| c.off).min().unwrap_or(0)).max().unwrap_or(0).max(beyond);
        let worst = best.score.of(Goal::Worst);
        let mut steps: Vec<i64> =
            self.options.iter().flatten().map(|c| c.off).filter(|off| (floor..worst).contains(off)).collect();
        steps.sort_unstable();
        steps.dedup();
        // Below `low` nothing is possible; from `high` on it is.
        let (mut low, mut high) = (0, steps.len());
        // The floor itself is often reached.
        let mut probe = 0;
        while low < high {
            let most = steps[probe];
            let limit = Score([self.limit.0[0], most, self.limit.0[2], self.limit.0[3], self.limit.0[4]]);
            match self.within(limit) {
                Some(found) => {
                    let reached = found.score.of(Goal::Worst);
                    high = steps.partition_point(|s| *s < reached);
                    *best = found;
                }
                // Not found within the effort is not the same as proven impossible.
                None if *self.effort == 0 => return steps[low],
                None => low = probe + 1,
            }
            probe = low + (high.saturating_sub(low)) / 2;
        }
        best.score.of(Goal::Worst)
    }

    /// Any answer within a limit.
    fn within(&mut self, limit: Score) -> Option<Found> {
        let most = limit.of(Goal::Worst);
        let kept = self.options.clone();
        self.options.iter_mut().for_each(|o| o.retain(|c| c.off <= most));
        let possible = self.options.iter().all(|o| !o.is_empty())
            && self.relaxed(Side::Upper, |_| 0).is_some()
            && self.relaxed(Side::Lower, |_| 0).is_some();
        let found = if possible { self.branch(None, limit, None) } else { None };
        self.options = kept;
        found
    }
}

/// One half of every pair.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Side {
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
pub(super) fn side_bound(
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
    // A column for each half, as many as could be used.
    let mut column_of = vec![usize::MAX; fitting.bins.len()];
    let mut columns = Vec::new();
    for bin in bins {
        column_of[*bin] = columns.len();
        columns.extend(std::iter::repeat_n(*bin, usize::from(left[*bin]).min(seats.len())));
    }
    let mut least = vec![vec![None; fitting.bins.len()]; seats.len()];
    for (row, seat) in least.iter_mut().zip(seats) {
        for c in &options[*seat] {
            let there = left[c.upper] > 0 && left[c.lower] > 0 && (c.upper != c.lower || left[c.upper] > 1);
            if there {
                let known = &mut row[side.bin(c)];
                let w = weight(c);
                if known.is_none_or(|k| w < k) {
                    *known = Some(w);
                }
            }
        }
    }
    cheapest(seats.len(), columns.len(), |r, c| least[r][columns[c]]).map(|(sum, _)| sum)
}

/// One search over the seats.
struct Branch<'a, 'b> {
    fitting: &'a Fitting,
    cover: &'b mut Cover,
    effort: &'b mut u64,
    goal: Option<Goal>,
    limit: Score,
    /// Seats in the order they are filled: the one with the fewest options first.
    order: Vec<usize>,
    /// By seat, what it may get, the nearest its aim first.
    options: Vec<Vec<Choice>>,
    /// By seat, the order in which its options are tried.
    trials: Vec<Vec<usize>>,
    left: Vec<u16>,
    lacking: Vec<u16>,
    /// Whether a bin may run short, so that its use tells states apart.
    scarce: Vec<bool>,
    taken: Vec<Choice>,
    /// The score of what is taken, but for its cost.
    so_far: Score,
    /// By what is left, what it was reached with before, in the terms that still matter.
    seen: HashMap<Vec<u16>, Vec<[i64; 3]>>,
    best: Option<Found>,
    spent: bool,
}

/// With fewer seats left, trying is cheaper than a bound.
const FEW: usize = 3;
/// With more options than that a bound is worth its price near the root only.
const MANY: usize = 600;
/// States remembered at most.
const REMEMBERED: usize = 400_000;

impl<'a, 'b> Branch<'a, 'b> {
    fn new(solver: &'b mut Solver<'a>, goal: Option<Goal>, limit: Score, best: Option<Found>) -> Self {
        let fitting = solver.fitting;
        let most_off = limit.of(Goal::Worst);
        let near = |of_seat: &Vec<Choice>| of_seat.iter().filter(|c| c.off <= most_off).copied().collect();
        let options: Vec<Vec<Choice>> = solver.options.iter().map(near).collect();
        let short = |b: usize| fitting.bins[b].stock == 0;
        let first = |c: &Choice| match goal {
            Some(Goal::Outside) => c.outside,
            Some(Goal::Cost) => short(c.upper) || short(c.lower),
            Some(Goal::Mixed) => c.mixed,
            _ => false,
        };
        let trial = |of_seat: &Vec<Choice>| {
            let mut trial: Vec<usize> = (0..of_seat.len()).collect();
            trial.sort_by_key(|i| (first(&of_seat[*i]), *i));
            trial
        };
        let trials = options.iter().map(trial).collect();
        let mut order: Vec<usize> = (0..options.len()).collect();
        order.sort_by_key(|s| (options[*s].len(), *s));
        let most = u16::try_from(2 * fitting.seats.len()).unwrap_or(u16::MAX);
        Branch {
            fitting,
            cover: &mut solver.cover,
            effort: solver.effort,
            goal,
            limit,
            order,
            left: fitting.to_be_had(),
            lacking: vec![0; fitting.bins.len()],
            scarce: fitting.bins.iter().map(|b| b.stock < most).collect(),
            taken: Vec::with_capacity(options.len()),
            so_far: Score([0; 5]),
            options,
            trials,
            seen: HashMap::new(),
            best,
            spent: false,
        }
    }

    /// What a goal must come below to be worth a branch.
    fn most(&self, goal: Goal) -> i64 {
        let limit = self.limit.of(goal);
        match (&self.best, self.goal) {
            (Some(best), Some(g)) if g == goal => limit.min(best.score.of(goal).saturating_sub(1)),
            _ => limit,
        }
    }

    /// Whether nothing more is wanted: any answer was.
    fn satisfied(&self) -> bool {
        self.spent || (self.goal.is_none() && self.best.is_some())
    }

    fn descend(&mut self, depth: usize) {
        if *self.effort == 0 {
            self.spent = true;
            return;
        }
        *self.effort -= 1;
        let Some(cost) = self.cover.cost(&self.fitting.sets, &self.lacking) else { return };
        if cost > self.most(Goal::Cost) {
            return;
        }
        let mut so_far = self.so_far;
        so_far.0[Goal::Cost as usize] = cost;
        if depth == self.order.len() {
            return self.keep(so_far);
        }
        if !self.may_still_be_better(depth, &so_far)
            || self.was_no_worse_before(&so_far)
            || !self.halves_suffice(depth, &so_far)
        {
            return;
        }
        let seat = self.order[depth];
        for trial in 0..self.trials[seat].len() {
            let c = self.options[seat][self.trials[seat][trial]];
            if self.left[c.upper] == 0 || self.left[c.lower] == 0 || (c.upper == c.lower && self.left[c.upper] < 2) {
                continue;
            }
            let before = self.so_far;
            self.take(c);
            self.descend(depth + 1);
            self.give_back(c);
            self.so_far = before;
            if self.satisfied() {
                return;
            }
        }
    }

    fn take(&mut self, c: Choice) {
        for bin in [c.upper, c.lower] {
            self.left[bin] -= 1;
        }
        self.taken.push(c);
        self.count_lacking(c);
        let [outside, worst, total, _, mixed] = &mut self.so_far.0;
        *outside += i64::from(c.outside);
        *worst = (*worst).max(c.off);
        *total += c.off;
        *mixed += i64::from(c.mixed);
    }

    fn give_back(&mut self, c: Choice) {
        self.taken.pop();
        for bin in [c.upper, c.lower] {
            self.left[bin] += 1;
        }
        self.count_lacking(c);
    }

    fn count_lacking(&mut self, c: Choice) {
        for bin in [c.upper, c.lower] {
            let used = self.taken.iter().map(|t| u16::from(t.upper == bin) + u16::from(t.lower == bin)).sum::<u16>();
            self.lacking[bin] = used.saturating_sub(self.fitting.bins[bin].stock);
        }
    }

    fn keep(&mut self, score: Score) {
        let within = [Goal::Outside, Goal::Worst, Goal::Total, Goal::Cost, Goal::Mixed];
        if within.into_iter().any(|g| score.of(g) > self.most(g)) {
            return;
        }
        let Some(bought) = self.cover.purchase(&self.fitting.sets, &self.lacking) else { return };
        let mut choices = self.taken.clone();
        for (place, choice) in self.order.iter().zip(&self.taken) {
            choices[*place] = *choice;
        }
        self.best = Some(Found { choices, bought, score, proven: false, worst_bound: 0 });
    }

    /// The best that each seat left could still get, against the limits.
    fn may_still_be_better(&self, depth: usize, so_far: &Score) -> bool {
        let [mut outside, mut worst, mut total, _, mut mixed] = so_far.0;
        let by_mixed = self.most(Goal::Mixed) < i64::MAX;
        for seat in &self.order[depth..] {
            let mut there = self.options[*seat].iter().filter(|c| self.left[c.upper] > 0 && self.left[c.lower] > 0);
            // They are sorted: the first one that is there is the nearest.
            let Some(nearest) = there.next() else { return false };
            worst = worst.max(nearest.off);
            total += nearest.off;
            outside += i64::from(nearest.outside && there.clone().all(|c| c.outside));
            mixed += i64::from(by_mixed && nearest.mixed && there.all(|c| c.mixed));
        }
        let bounds = [(Goal::Outside, outside), (Goal::Worst, worst), (Goal::Total, total), (Goal::Mixed, mixed)];
        bounds.into_iter().all(|(goal, bound)| bound <= self.most(goal))
    }

    /// Whether uppers alone, and lowers alone, could serve the seats left within what is left of the limits.
    fn halves_suffice(&self, depth: usize, so_far: &Score) -> bool {
        let rest = &self.order[depth..];
        let short = |b: &usize| usize::from(self.left[*b]) < rest.len();
        let many = rest.iter().map(|s| self.options[*s].len()).sum::<usize>() > MANY && depth > 1;
        if rest.len() < FEW || many || !self.fitting.uppers.iter().chain(&self.fitting.lowers).any(short) {
            return true;
        }
        let fits = |side, goal: Goal, weight: fn(&Choice) -> i64| {
            let most = self.most(goal);
            let bound = side_bound(side, self.fitting, &self.options, rest, &self.left, weight);
            bound.is_some_and(|b| most == i64::MAX || so_far.of(goal) + b <= most)
        };
        let by_total = self.most(Goal::Total) < i64::MAX;
        [Side::Upper, Side::Lower].into_iter().all(|side| {
            if by_total {
                fits(side, Goal::Total, |c| c.off)
            } else {
                fits(side, Goal::Outside, |c| i64::from(c.outside))
            }
        })
    }

    /// Whether these seats used up the same halves before at no worse a price; otherwise remembers it.
    fn was_no_worse_before(&mut self, so_far: &Score) -> bool {
        let mut key: Vec<u16> = Vec::with_capacity(self.left.len() + 1);
        key.push(u16::try_from(self.taken.len()).unwrap_or(u16::MAX));
        key.extend(self.left.iter().zip(&self.scarce).filter(|(_, scarce)| **scarce).map(|(left, _)| *left));
        // What nothing limits and nobody asks for tells no states apart; the worst distance is limited by
        // the options, and the cost follows from what is left.
        let matters = |goal| self.goal == Some(goal) || self.limit.of(goal) < i64::MAX;
        let price = [Goal::Outside, Goal::Total, Goal::Mixed].map(|g| if matters(g) { so_far.of(g) } else { 0 });
        let no_worse = |known: &[i64; 3]| known.iter().zip(&price).all(|(k, p)| k <= p);
        if let Some(known) = self.seen.get_mut(&key) {
            if known.iter().any(no_worse) {
                return true;
            }
            known.retain(|k| !k.iter().zip(&price).all(|(k, p)| p <= k));
            known.push(price);
        } else if self.seen.len() < REMEMBERED {
            self.seen.insert(key, vec![price]);
        }
        false
    }
}
