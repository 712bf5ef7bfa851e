//! Exact choice of halves for seats ([`crate::fitting`]), stage by stage.
//!
//! Goals are reached one after the other: the best value of each becomes a limit for the next, which makes
//! the answer the lexicographic optimum.
//!
//! Each goal is a depth-first branch and bound over the seats. A branch is cut when
//! * it cannot stay within the limits, or improve on what is known, even if every seat left took its
//!   best halves that are still there;
//! * the halves left cannot serve the seats left: an assignment of seats to uppers alone, or to lowers
//!   alone, is a relaxation ([`crate::matching`]), and its cost a bound;
//! * what the shelf lacks cannot be bought, or not for the cost that is left ([`crate::cover`]);
//! * the same halves were used up before by the same seats at no worse a price (dominance).
//!
//! Nothing is cut otherwise, so a search that ends has proven its answer.

use std::cmp::Reverse;
use std::collections::BinaryHeap;

use crate::branch::Branch;
use crate::cover::Cover;
use crate::effort::Effort;
use crate::fitting::{Choice, Fitting, Found, Goal, Score, Side, side_bound};
use crate::inside::Inside;

/// The best answer for the goals in their order, or `None` when the halves do not suffice. `effort` is
/// what may be spent on it, in branches; what is left of it stays there.
pub(crate) fn solve(fitting: &Fitting, goals: &[Goal], effort: &mut Effort) -> Option<Found> {
    solve_beyond(fitting, goals, Score([0; 5]), effort)
}

/// The same when no answer is better than `beyond`, which a wider choice had: as soon as a goal reaches
/// it, with all goals before it equal, nothing needs searching.
pub(crate) fn solve_beyond(fitting: &Fitting, goals: &[Goal], beyond: Score, effort: &mut Effort) -> Option<Found> {
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

struct Solver<'a> {
    fitting: &'a Fitting,
    /// What each seat may still get.
    options: Vec<Vec<Choice>>,
    cover: Cover,
    /// What later goals must not spoil.
    limit: Score,
    /// What no answer can be better than.
    beyond: Score,
    effort: &'a mut Effort,
    spent: bool,
}

impl Solver<'_> {
    fn branch(&mut self, goal: Option<Goal>, limit: Score, best: Option<Found>) -> Option<Found> {
        let (fitting, options) = (self.fitting, &self.options);
        let mut branch = Branch::new(fitting, options, &mut self.cover, self.effort, goal, limit, best);
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
            if !self.effort.take() {
                self.spent = true;
                return;
            }
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
            Goal::Mixed => |c| c.mixed,
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
                None if self.effort.is_spent() => return steps[low],
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
