//! As many seats inside their window as can be.
//!
//! A seat gets a pair that brings it inside, or is *skipped*: what it gets then does not matter, as long
//! as enough pairs are left for all that were skipped. So the pairs that leave it outside need not be
//! tried one by one.

use std::collections::HashMap;

use crate::effort::Effort;
use crate::fitting::{Choice, Fitting, Side, side_bound};

/// The search. A branch is cut when the seats left cannot all come inside with what is left often enough to
/// beat the best known (seen from uppers alone, and from lowers alone), when the halves left do not make a
/// pair for every seat still without one, and when the same halves were left before with no more skipped.
pub(super) struct Inside<'a> {
    fitting: &'a Fitting,
    /// By seat, the pairs that bring it inside; for one that cannot be skipped, all of them.
    options: Vec<Vec<Choice>>,
    /// All options of each seat, for the bounds.
    all: &'a [Vec<Choice>],
    order: Vec<usize>,
    left: Vec<u16>,
    taken: Vec<(usize, Choice)>,
    skipped: Vec<usize>,
    seen: HashMap<Vec<u16>, i64>,
    best: i64,
    found: Option<Vec<Choice>>,
    floor: i64,
    effort: &'a mut Effort,
    pub spent: bool,
}

impl<'a> Inside<'a> {
    pub fn new(fitting: &'a Fitting, all: &'a [Vec<Choice>], left: Vec<u16>, effort: &'a mut Effort) -> Self {
        let inside = |(seat, of_seat): (usize, &Vec<Choice>)| {
            let skippable = fitting.may_get_any(seat);
            of_seat.iter().filter(|c| !skippable || !c.outside).copied().collect()
        };
        let options: Vec<Vec<Choice>> = all.iter().enumerate().map(inside).collect();
        let mut order: Vec<usize> = (0..options.len()).collect();
        order.sort_by_key(|s| (options[*s].len(), *s));
        Inside {
            fitting,
            options,
            all,
            order,
            left,
            taken: Vec::new(),
            skipped: Vec::new(),
            seen: HashMap::new(),
            best: i64::MAX,
            found: None,
            floor: 0,
            effort,
            spent: false,
        }
    }

    /// Choices that leave fewer seats outside than `most`, and as few as can be; none when there are none,
    /// or the effort was spent. Nothing below `floor` is looked for.
    pub fn fewer_outside(&mut self, most: i64, floor: i64) -> Option<Vec<Choice>> {
        self.best = most;
        self.floor = floor;
        self.descend(0, 0);
        self.found.take()
    }

    fn descend(&mut self, depth: usize, outside: i64) {
        if self.spent || self.best <= self.floor || outside >= self.best {
            return;
        }
        if !self.effort.take() {
            self.spent = true;
            return;
        }
        let waiting = self.order.len() - depth + self.skipped.len();
        let pairs = self.fitting.pairs(&self.left);
        if pairs.len() < waiting {
            return;
        }
        let Some(seat) = self.order.get(depth).copied() else { return self.keep(outside, &pairs) };
        if self.was_left_before(depth, outside) || !self.may_beat(depth, outside) {
            return;
        }
        for i in 0..self.options[seat].len() {
            let c = self.options[seat][i];
            if self.left[c.upper] == 0 || self.left[c.lower] == 0 || (c.upper == c.lower && self.left[c.upper] < 2) {
                continue;
            }
            self.left[c.upper] -= 1;
            self.left[c.lower] -= 1;
            self.taken.push((seat, c));
            self.descend(depth + 1, outside + i64::from(c.outside));
            self.taken.pop();
            self.left[c.upper] += 1;
            self.left[c.lower] += 1;
        }
        if self.fitting.may_get_any(seat) {
            self.skipped.push(seat);
            self.descend(depth + 1, outside + 1);
            self.skipped.pop();
        }
    }

    /// Gives the skipped seats what is left, in pairs.
    fn keep(&mut self, outside: i64, pairs: &[(usize, usize)]) {
        let filled = self.skipped.iter().zip(pairs).map(|(seat, (u, l))| (*seat, self.fitting.choice(*seat, *u, *l)));
        let mut all: Vec<(usize, Choice)> = self.taken.iter().copied().chain(filled).collect();
        all.sort_by_key(|(seat, _)| *seat);
        self.best = outside;
        self.found = Some(all.into_iter().map(|(_, c)| c).collect());
    }

    fn may_beat(&self, depth: usize, outside: i64) -> bool {
        let rest = &self.order[depth..];
        [Side::Upper, Side::Lower].into_iter().all(|side| {
            let weight = |c: &Choice| i64::from(c.outside);
            let bound = side_bound(side, self.fitting, self.all, rest, &self.left, weight);
            bound.is_some_and(|b| outside + b < self.best)
        })
    }

    fn was_left_before(&mut self, depth: usize, outside: i64) -> bool {
        let mut key = Vec::with_capacity(self.left.len() + 1);
        key.push(u16::try_from(depth).unwrap_or(u16::MAX));
        key.extend_from_slice(&self.left);
        let known = self.seen.entry(key).or_insert(i64::MAX);
        let no_worse = *known <= outside;
        *known = (*known).min(outside);
        no_worse
    }
}
