//! Used pistons in the order in which they are worth using again.
//!
//! A limit is a least or a most; `life = margin / (new - limit)` is 1 for a new piston and 0 for one at its limit. A piston is
//! worth as much as its smallest life; what is proven within its limits comes first.
use super::{OneSided, one_sided};
use crate::units::Length;

/// A limit of wear, with the size of a new piston truly inside.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Limit {
    /// The limit itself.
    pub at: Length,
    /// The size of a new one: above a least, below a most.
    pub new: Length,
}

impl Limit {
    /// A limit with the size of a new piston truly inside; `None` where both are the same.
    pub fn new(at: Length, new: Length) -> Option<Self> {
        (at != new).then_some(Limit { at, new })
    }

    /// What a size has left to this limit, with its expanded uncertainty.
    pub fn life(self, size: Length, expanded: Length) -> Life {
        let least = self.at < self.new;
        let margin = if least { size - self.at } else { self.at - size };
        let whole = (self.new - self.at).abs();
        Life { margin, life: margin.as_f64() / whole.as_f64(), state: one_sided(margin, expanded) }
    }
}

/// What one size has left.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Life {
    /// Distance to the limit, negative beyond it.
    pub margin: Length,
    /// 1 for new, 0 at the limit.
    pub life: f64,
    /// The margin judged by its doubt.
    pub state: OneSided,
}

/// How far a piston is proven.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum LifeState {
    /// Within every limit.
    Proven,
    /// A limit lies within the doubt of a size.
    Edge,
    /// A limit is not measured.
    Open,
    /// Beyond a limit.
    Out,
}

/// A piston with what it has left.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Ranked {
    /// How far it is proven.
    pub state: LifeState,
    /// Its smallest life and the number of that limit, the first of equals; absent where nothing was measured.
    pub weakest: Option<(usize, f64)>,
}

/// Lives so near are the same: they are quotients of measured lengths.
const ALIKE: f64 = 1e-9;

/// Whether one life is truly longer than another.
fn longer(a: f64, b: f64) -> bool {
    a > b + ALIKE * b.abs().max(1.0)
}

impl Ranked {
    /// What a piston has left by all its limits, in their order; `None` where one was not measured.
    pub fn of(lives: &[Option<Life>]) -> Self {
        let known = || lives.iter().flatten();
        let any = |state| known().any(|life| life.state == state);
        let state = if any(OneSided::Out) {
            LifeState::Out
        } else if lives.iter().any(Option::is_none) {
            LifeState::Open
        } else if any(OneSided::Edge) {
            LifeState::Edge
        } else {
            LifeState::Proven
        };
        let measured = lives.iter().enumerate().filter_map(|(i, life)| Some((i, life.as_ref()?.life)));
        let weakest = measured.fold(None, |weakest: Option<(usize, f64)>, (i, life)| match weakest {
            Some((_, least)) if !longer(least, life) => weakest,
            _ => Some((i, life)),
        });
        Ranked { state, weakest }
    }

    fn before(&self, other: &Ranked) -> bool {
        let life = |r: &Ranked| r.weakest.map(|(_, life)| life);
        if self.state != other.state {
            return self.state < other.state;
        }
        match (life(self), life(other)) {
            (Some(a), Some(b)) => longer(a, b),
            (a, b) => a.is_some() && b.is_none(),
        }
    }
}

/// The numbers of the pistons in the order of their worth; equals stay as they are listed.
pub fn rank(pistons: &[Ranked]) -> Vec<usize> {
    let mut order: Vec<usize> = Vec::with_capacity(pistons.len());
    for (i, piston) in pistons.iter().enumerate() {
        let after = order.iter().rposition(|j| !piston.before(&pistons[*j]));
        order.insert(after.map_or(0, |at| at.saturating_add(1)), i);
    }
    order
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    fn t(n: i64) -> Length {
        Length::tenths(n)
    }

    #[test]
    fn new_is_one_and_the_limit_is_nothing_either_way() {
        for (limit, [new, at, beyond]) in
            [(Limit::new(t(100), t(120)), [t(120), t(100), t(99)]), (Limit::new(t(64), t(60)), [t(60), t(64), t(65)])]
        {
            let life = |size| limit.map(|l| (l.life(size, Length::ZERO).life, l.life(size, Length::ZERO).state));
            assert_eq!([life(new), life(at)], [Some((1.0, OneSided::In)), Some((0.0, OneSided::In))]);
            assert!(life(beyond).is_some_and(|(life, state)| life < 0.0 && state == OneSided::Out));
        }
        assert_eq!(Limit::new(t(5), t(5)), None);
    }

    proptest! {
        #[test]
        fn the_order_has_everybody_once_and_never_the_worse_before_the_better(
            sizes in prop::collection::vec(prop::option::of(90i64..125), 0..8), expanded in 0i64..6,
        ) {
            let limit = Limit { at: t(100), new: t(120) };
            let of = |size: &Option<i64>| Ranked::of(&[size.map(|s| limit.life(t(s), t(expanded)))]);
            let pistons: Vec<Ranked> = sizes.iter().map(of).collect();
            let order = rank(&pistons);
            let mut all = order.clone();
            all.sort_unstable();
            prop_assert_eq!(all, (0..sizes.len()).collect::<Vec<_>>());
            for pair in order.windows(2) {
                prop_assert!(!pistons[pair[1]].before(&pistons[pair[0]]));
            }
        }
    }
}
