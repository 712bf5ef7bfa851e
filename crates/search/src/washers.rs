//! Which thrust washers, lapped by how much, bring end play to its aim without walking the crank away.
//!
//! Each side keeps its washer or takes halves of one stock item; either may be lapped by whole steps. With the growth of
//! a side its thickness less the fitted one, play loses both growths and the crank moves by half their difference. For one
//! choice of items everything but the place of the crank follows from the steps lapped together and from which sides are
//! lapped at all, so for each sum of steps only few splits can be best: proven without trying them all.
use std::cmp::Ordering;

use crate::Target;

/// Steps that a side may be lapped, at most.
pub const MOST_LAP_STEPS: u16 = 100;

/// A side of the thrust bearing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Facing {
    /// Toward the front of the engine.
    Front,
    /// Toward its rear.
    Rear,
}

/// What the washers stand between.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Thrust {
    /// Washers on a saddle between two cheeks of the crank: a thicker front one pushes the crank forward.
    Saddle,
    /// A collar of the crank between two washers: a thicker front one pushes it back.
    Collar,
}

/// What is made better first, among what is inside.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Aim {
    /// Nearest to the aim, then the cheapest, then the fewest sides changed.
    Closest,
    /// The cheapest, then nearest to the aim.
    Thriftiest,
    /// The fewest sides changed, then nearest to the aim.
    Fewest,
}

/// Halves of one thickness.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Washer {
    /// Thickness in nanometres.
    pub thickness: i64,
    /// The only side it fits, if only one.
    pub side: Option<Facing>,
    /// Halves on the shelf.
    pub count: u64,
    /// What one more half costs; none are sold without.
    pub price: Option<i64>,
}

/// What is asked.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Play<'a> {
    /// Smallest and largest play measured.
    pub play: [i64; 2],
    /// The window, and what is wanted in it.
    pub target: Target,
    /// What the washers stand between.
    pub thrust: Thrust,
    /// Thickness of the fitted washers, front and rear.
    pub fitted: [i64; 2],
    /// What else there is.
    pub stock: &'a [Washer],
    /// Halves that one side takes.
    pub halves: u64,
    /// Steps that each side may be lapped.
    pub lap_steps: [u16; 2],
    /// One step of lapping.
    pub lap_step: i64,
    /// How far forward of its middle the crank stands.
    pub stands: i64,
    /// How far it may stand rearward and forward; no limit where none is given.
    pub room: [Option<i64>; 2],
    /// What is made better first.
    pub aim: Aim,
}

/// One side of a choice.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Fitted {
    /// Which of the stock, or the washer that is there.
    pub item: Option<usize>,
    /// What is lapped off.
    pub lap: i64,
    /// Thickness after that.
    pub thickness: i64,
    /// How much thicker than the one that is there.
    pub growth: i64,
}

/// A choice with what comes of it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Choice {
    /// Front and rear.
    pub sides: [Fitted; 2],
    /// Smallest and largest play.
    pub play: [i64; 2],
    /// Twice the distance of their middle from the aim.
    pub twice_deviation: i64,
    /// Whether both are in the window.
    pub inside: bool,
    /// Twice the way the crank moves forward.
    pub twice_shift: i64,
    /// Twice how far forward of its middle it stands then.
    pub twice_stands: i64,
    /// Sides with another washer or lapped.
    pub sides_changed: u8,
    /// What is bought: which of the stock, and how many halves.
    pub bought: Vec<(usize, u64)>,
    /// What that costs.
    pub cost: i64,
}

impl Choice {
    /// What is lapped off both sides.
    pub fn lapped(&self) -> i64 {
        self.sides[0].lap + self.sides[1].lap
    }

    fn compare(&self, other: &Choice, aim: Aim) -> Ordering {
        let outside = |c: &Choice| !c.inside;
        let by = |c: &Choice| {
            let (deviation, cost, sides) = (c.twice_deviation, c.cost, i64::from(c.sides_changed));
            match aim {
                Aim::Closest => [deviation, cost, sides],
                Aim::Thriftiest => [cost, deviation, sides],
                Aim::Fewest => [sides, deviation, cost],
            }
        };
        let then = |c: &Choice| {
            let choice = c.sides.map(|s| s.item.map_or(0, |i| i + 1));
            (c.lapped(), c.twice_stands.abs(), choice, c.sides[0].lap)
        };
        outside(self)
            .cmp(&outside(other))
            .then_with(|| by(self).cmp(&by(other)))
            .then_with(|| then(self).cmp(&then(other)))
    }
}

/// The best choice of each pair of items that can be had, the best of all first. There always is one: to leave all as it is.
pub fn washers(asked: &Play<'_>) -> Vec<Choice> {
    let fits = |side: Facing| {
        let stocked = asked.stock.iter().enumerate().filter(move |(_, w)| w.side.is_none_or(|s| s == side));
        std::iter::once(None).chain(stocked.map(|(i, _)| Some(i)))
    };
    let pairs = fits(Facing::Front).flat_map(|front| fits(Facing::Rear).map(move |rear| [front, rear]));
    let mut best: Vec<Choice> = pairs.filter_map(|items| asked.best_of(items)).collect();
    best.sort_by(|a, b| a.compare(b, asked.aim));
    best
}

impl Play<'_> {
    fn best_of(&self, items: [Option<usize>; 2]) -> Option<Choice> {
        let (bought, cost) = self.bought(items)?;
        let most = self.lap_steps.map(i64::from);
        let splits = (0..=most[0] + most[1]).flat_map(|sum| self.splits(items, sum, most));
        let choices = splits.filter_map(|steps| self.choice(items, steps, &bought, cost));
        choices.min_by(|a, b| a.compare(b, self.aim))
    }

    /// The splits of `sum` steps that may be best: all off one side, or both lapped with the crank as near its middle as
    /// the splits allow.
    fn splits(&self, items: [Option<usize>; 2], sum: i64, most: [i64; 2]) -> impl Iterator<Item = [i64; 2]> + use<> {
        let (low, high) = ((sum - most[1]).max(0), sum.min(most[0]));
        // The crank stands at `there + toward * front steps`: the split with nothing off the front, and one step of it.
        let (none, one) = (self.twice_stands(items, [0, sum]), self.twice_stands(items, [1, sum - 1]));
        let toward = one - none;
        let nearest = |wanted: i64| -> [i64; 3] {
            let at = (wanted - none).checked_div(toward).unwrap_or(low);
            [at - 1, at, at + 1]
        };
        let inner = (low.max(1), high.min(sum - 1));
        let mut front: Vec<i64> = vec![low, high];
        // The middle, and where it stands as far out as it may: the best allowed one is next to one of them.
        let wanted = [Some(0), self.room[0].map(|r| -2 * r), self.room[1].map(|r| 2 * r)];
        let near = wanted.into_iter().flatten().flat_map(nearest);
        if inner.0 <= inner.1 {
            front.extend([inner.0, inner.1]);
            front.extend(near.map(|f| f.clamp(inner.0, inner.1)));
        }
        front.sort_unstable();
        front.dedup();
        front.into_iter().map(move |f| [f, sum - f])
    }

    fn sides(&self, items: [Option<usize>; 2], steps: [i64; 2]) -> [Fitted; 2] {
        [0, 1].map(|side| {
            let lap = steps[side] * self.lap_step;
            let thickness = items[side].map_or(self.fitted[side], |i| self.stock[i].thickness) - lap;
            Fitted { item: items[side], lap, thickness, growth: thickness - self.fitted[side] }
        })
    }

    fn twice_stands(&self, items: [Option<usize>; 2], steps: [i64; 2]) -> i64 {
        let [front, rear] = self.sides(items, steps);
        2 * self.stands + self.twice_shift(front.growth, rear.growth)
    }

    const fn twice_shift(&self, front: i64, rear: i64) -> i64 {
        match self.thrust {
            Thrust::Saddle => front - rear,
            Thrust::Collar => rear - front,
        }
    }

    /// What has to be bought for both sides; `None` where it cannot.
    fn bought(&self, [front, rear]: [Option<usize>; 2]) -> Option<(Vec<(usize, u64)>, i64)> {
        let needs = match (front, rear) {
            (Some(f), Some(r)) if f == r => vec![(f, 2 * self.halves)],
            _ => [front, rear].into_iter().flatten().map(|i| (i, self.halves)).collect(),
        };
        let (mut bought, mut cost) = (Vec::new(), 0_i64);
        for (item, needed) in needs {
            let missing = needed.saturating_sub(self.stock[item].count);
            if missing > 0 {
                let price = self.stock[item].price?;
                cost = cost.saturating_add(price.saturating_mul(i64::try_from(missing).ok()?));
                bought.push((item, missing));
            }
        }
        Some((bought, cost))
    }

    fn choice(&self, items: [Option<usize>; 2], steps: [i64; 2], bought: &[(usize, u64)], cost: i64) -> Option<Choice> {
        let sides = self.sides(items, steps);
        let grown = sides[0].growth + sides[1].growth;
        let play = self.play.map(|p| p - grown);
        let twice_shift = self.twice_shift(sides[0].growth, sides[1].growth);
        let twice_stands = 2 * self.stands + twice_shift;
        let as_it_is = items == [None, None] && steps == [0, 0];
        let rearward = self.room[0].is_some_and(|r| twice_stands < -2 * r);
        let forward = self.room[1].is_some_and(|r| twice_stands > 2 * r);
        let nothing_left = play[0] <= 0 || sides.iter().any(|s| s.thickness <= 0);
        if !as_it_is && (rearward || forward || nothing_left) {
            return None;
        }
        let changed = sides.iter().filter(|s| s.item.is_some() || s.lap > 0).count();
        Some(Choice {
            sides,
            play,
            twice_deviation: (play[0] + play[1] - 2 * self.target.aim).abs(),
            inside: play[0] >= self.target.low && play[1] <= self.target.high,
            twice_shift,
            twice_stands,
            sides_changed: u8::try_from(changed).unwrap_or(2),
            bought: bought.to_vec(),
            cost,
        })
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    /// Everything tried: every pair of items with every lap of both sides.
    fn by_trying(asked: &Play<'_>) -> Vec<Choice> {
        let items = || std::iter::once(None).chain((0..asked.stock.len()).map(Some));
        let fits = |item: Option<usize>, side| item.is_none_or(|i| asked.stock[i].side.is_none_or(|s| s == side));
        let mut best = Vec::new();
        for front in items().filter(|i| fits(*i, Facing::Front)) {
            for rear in items().filter(|i| fits(*i, Facing::Rear)) {
                let Some((bought, cost)) = asked.bought([front, rear]) else { continue };
                let steps = (0..=asked.lap_steps[0]).flat_map(|f| (0..=asked.lap_steps[1]).map(move |r| [f, r]));
                let tried = steps.filter_map(|s| asked.choice([front, rear], s.map(i64::from), &bought, cost));
                best.extend(tried.min_by(|a, b| a.compare(b, asked.aim)));
            }
        }
        best.sort_by(|a, b| a.compare(b, asked.aim));
        best
    }

    fn stock() -> impl Strategy<Value = Vec<Washer>> {
        let side = prop::sample::select(vec![None, Some(Facing::Front), Some(Facing::Rear)]);
        let one = (85_i64..98, side, 0_u64..5, prop::option::of(0_i64..9));
        let washer = |(thickness, side, count, price)| Washer { thickness, side, count, price };
        prop::collection::vec(one.prop_map(washer), 0..6)
    }

    proptest! {
        #[test]
        fn nothing_that_can_be_tried_is_better(
            stock in stock(), play in 0_i64..16, wider in 0_i64..3, aim in 3_i64..9, laps in (0_u16..9, 0_u16..9),
            stands in -3_i64..4, room in (prop::option::of(0_i64..5), prop::option::of(0_i64..5)),
            collar: bool, goal in prop::sample::select(vec![Aim::Closest, Aim::Thriftiest, Aim::Fewest]),
        ) {
            let asked = Play {
                play: [play, play + wider],
                target: Target { low: aim - 2, aim, high: aim + 2 },
                thrust: if collar { Thrust::Collar } else { Thrust::Saddle },
                fitted: [90, 91],
                stock: &stock,
                halves: 2,
                lap_steps: [laps.0, laps.1],
                lap_step: 1,
                stands,
                room: [room.0, room.1],
                aim: goal,
            };
            prop_assert_eq!(washers(&asked), by_trying(&asked));
        }
    }

    #[test]
    fn a_stock_of_twelve_a_side_with_a_hundred_steps_each_has_a_proven_best() {
        let one = |i: i64| Washer { thickness: 90_000 + 1_270 * i, side: None, count: 4, price: None };
        let stock: Vec<Washer> = (0..12).map(one).collect();
        let asked = Play {
            play: [11_000, 11_300],
            target: Target { low: 5_000, aim: 6_500, high: 8_000 },
            thrust: Thrust::Saddle,
            fitted: [90_000, 90_000],
            stock: &stock,
            halves: 2,
            lap_steps: [MOST_LAP_STEPS, MOST_LAP_STEPS],
            lap_step: 7,
            stands: -2_000,
            room: [Some(500), Some(500)],
            aim: Aim::Closest,
        };
        let best = washers(&asked);
        assert!(best[0].inside && best[0].twice_deviation <= 7, "{:?}", best[0]);
        assert!(best[0].twice_stands.abs() <= 1_000);
    }
}
