//! One depth-first search over the seats, for one goal; when a branch is cut is told in [`crate::search`].

use std::collections::HashMap;

use crate::cover::Cover;
use crate::effort::Effort;
use crate::fitting::{Choice, Fitting, Found, Goal, Score, Side, side_bound};

/// One search over the seats.
pub(super) struct Branch<'a, 'b> {
    fitting: &'a Fitting,
    cover: &'b mut Cover,
    effort: &'b mut Effort,
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
    pub best: Option<Found>,
    pub spent: bool,
}

/// With fewer seats left, trying is cheaper than a bound.
const FEW: usize = 3;
/// With more options than that a bound is worth its price near the root only.
const MANY: usize = 600;
/// States remembered at most.
const REMEMBERED: usize = 400_000;

impl<'a, 'b> Branch<'a, 'b> {
    pub fn new(
        fitting: &'a Fitting,
        options: &[Vec<Choice>],
        cover: &'b mut Cover,
        effort: &'b mut Effort,
        goal: Option<Goal>,
        limit: Score,
        best: Option<Found>,
    ) -> Self {
        let most_off = limit.of(Goal::Worst);
        let near = |of_seat: &Vec<Choice>| of_seat.iter().filter(|c| c.off <= most_off).copied().collect();
        let options: Vec<Vec<Choice>> = options.iter().map(near).collect();
        let short = |b: usize| fitting.bins[b].stock == 0;
        let first = |c: &Choice| match goal {
            Some(Goal::Outside) => i64::from(c.outside),
            Some(Goal::Cost) => i64::from(short(c.upper) || short(c.lower)),
            Some(Goal::Mixed) => c.mixed,
            _ => 0,
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
            cover,
            effort,
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

    pub fn descend(&mut self, depth: usize) {
        if !self.effort.take() {
            self.spent = true;
            return;
        }
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
        *mixed += c.mixed;
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
            if by_mixed {
                mixed += there.map(|c| c.mixed).fold(nearest.mixed, i64::min);
            }
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
