//! The cheapest purchase that makes up for what the shelf lacks.

use std::collections::HashMap;

/// A set that can be bought.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Set {
    /// Its price in ten-thousandths of the money.
    pub price: i64,
    /// How many shells of each bin it holds.
    pub gives: Vec<u16>,
    /// How many of it there are to buy.
    pub available: u16,
}

/// The least cost with the sets from one on, and how many of that one it takes.
type Cheapest = Option<(i64, u16)>;

/// Cheapest covers by set and by what is lacking: worked out once each.
#[derive(Debug, Default)]
pub(crate) struct Cover {
    known: HashMap<(usize, Vec<u16>), Cheapest>,
}

impl Cover {
    /// What it costs at least to buy what is lacking of each bin; `None` when it cannot be bought.
    pub fn cost(&mut self, sets: &[Set], lacking: &[u16]) -> Option<i64> {
        self.from(sets, 0, lacking).map(|(cost, _)| cost)
    }

    /// How many of each set to buy at that cost.
    pub fn purchase(&mut self, sets: &[Set], lacking: &[u16]) -> Option<Vec<u16>> {
        let mut lacking = lacking.to_vec();
        let mut bought = Vec::with_capacity(sets.len());
        for i in 0..sets.len() {
            let (_, count) = self.from(sets, i, &lacking)?;
            lacking = after(&lacking, &sets[i], count);
            bought.push(count);
        }
        lacking.iter().all(|l| *l == 0).then_some(bought)
    }

    /// The least cost with the sets from `i` on, and how many of set `i` it takes.
    fn from(&mut self, sets: &[Set], i: usize, lacking: &[u16]) -> Cheapest {
        if lacking.iter().all(|l| *l == 0) {
            return Some((0, 0));
        }
        let set = sets.get(i)?;
        let key = (i, lacking.to_vec());
        if let Some(known) = self.known.get(&key) {
            return *known;
        }
        // More of it than the bin that needs most of it are bought for nothing.
        let useful = lacking.iter().zip(&set.gives).map(|(l, g)| if *g > 0 { l.div_ceil(*g) } else { 0 });
        let most = useful.max().unwrap_or(0).min(set.available);
        let mut best: Cheapest = None;
        for count in 0..=most {
            let rest = self.from(sets, i + 1, &after(lacking, set, count));
            if let Some((rest, _)) = rest {
                let cost = rest + set.price * i64::from(count);
                if best.is_none_or(|(least, _)| cost < least) {
                    best = Some((cost, count));
                }
            }
        }
        self.known.insert(key, best);
        best
    }
}

fn after(lacking: &[u16], set: &Set, count: u16) -> Vec<u16> {
    lacking.iter().zip(&set.gives).map(|(l, g)| l.saturating_sub(g.saturating_mul(count))).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn set(price: i64, gives: &[u16], available: u16) -> Set {
        Set { price, gives: gives.to_vec(), available }
    }

    #[test]
    fn one_large_set_may_be_cheaper_than_two_small_ones() {
        let sets = [set(30, &[1, 0], 9), set(30, &[0, 1], 9), set(50, &[2, 2], 9)];
        let mut cover = Cover::default();
        assert_eq!(cover.cost(&sets, &[1, 0]), Some(30));
        assert_eq!(cover.purchase(&sets, &[1, 1]), Some(vec![0, 0, 1]));
        assert_eq!(cover.cost(&sets, &[3, 1]), Some(80));
        assert_eq!(cover.cost(&sets, &[0, 0]), Some(0));
        assert_eq!(cover.cost(&[set(30, &[1, 0], 1)], &[2, 0]), None);
    }

    proptest! {
        #[test]
        fn the_purchase_covers_at_the_cost_and_nothing_covers_for_less(
            sets in prop::collection::vec((0i64..9, prop::collection::vec(0u16..3, 3), 0u16..4), 1..4),
            lacking in prop::collection::vec(0u16..4, 3),
        ) {
            let sets: Vec<Set> = sets.iter().map(|(p, g, a)| set(*p, g, *a)).collect();
            let mut least: Option<i64> = None;
            let mut counts = vec![0u16; sets.len()];
            loop {
                let covered = (0..3).all(|b| {
                    counts.iter().zip(&sets).map(|(c, s)| c * s.gives[b]).sum::<u16>() >= lacking[b]
                });
                let cost: i64 = counts.iter().zip(&sets).map(|(c, s)| i64::from(*c) * s.price).sum();
                if covered && least.is_none_or(|l| cost < l) {
                    least = Some(cost);
                }
                let Some(i) = (0..sets.len()).find(|i| counts[*i] < sets[*i].available) else { break };
                counts[i] += 1;
                counts[..i].fill(0);
            }
            let mut cover = Cover::default();
            prop_assert_eq!(cover.cost(&sets, &lacking), least);
            if let Some(bought) = cover.purchase(&sets, &lacking) {
                let cost: i64 = bought.iter().zip(&sets).map(|(c, s)| i64::from(*c) * s.price).sum();
                prop_assert_eq!(Some(cost), least);
                prop_assert!(bought.iter().zip(&sets).all(|(c, s)| *c <= s.available));
            } else {
                prop_assert_eq!(least, None);
            }
        }
    }
}
