//! Valve springs: rate from two tests, loads as installed, and which shims bring the seat load to its aim.
//!
//! A spring is taken for straight between its tests. Shims shorten it by their thickness: more load, less room to coil bind.
#![allow(clippy::arithmetic_side_effects, reason = "heights end at 100 m, so differences of two stay far within i64")]

use std::cmp::Ordering;

/// What differs by less than this part counts as equal: loads are floats.
const SAME: f64 = 1e-9;

/// What the card says.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SpringCard {
    /// Seat load: lowest, wanted, highest.
    pub seat: [f64; 3],
    /// Open load: lowest, highest.
    pub open: [f64; 2],
    /// Lift in nanometres.
    pub lift: i64,
    /// Height at coil bind in nanometres.
    pub coil_bind: i64,
    /// Room to coil bind wanted, in nanometres.
    pub bind_margin: i64,
}

/// A spring as tested and as it will be installed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct TestedSpring {
    /// Installed height in nanometres.
    pub height: i64,
    /// Height and load of one test.
    pub long: (i64, f64),
    /// Height and load of the other: shorter, and more.
    pub short: (i64, f64),
}

/// How a spring stands with shims under it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Installed {
    /// Load on the seat.
    pub seat: f64,
    /// Load open.
    pub open: f64,
    /// Room to coil bind, in nanometres.
    pub bind: i64,
}

impl TestedSpring {
    /// Load for a nanometre.
    pub fn rate(&self) -> f64 {
        (self.short.1 - self.long.1) / (self.long.0 - self.short.0) as f64
    }

    /// As it stands with shims of that thickness.
    pub fn installed(&self, card: &SpringCard, shims: i64) -> Installed {
        let height = self.height - shims;
        let seat = self.long.1 + self.rate() * (self.long.0 - height) as f64;
        Installed { seat, open: seat + self.rate() * card.lift as f64, bind: height - card.lift - card.coil_bind }
    }

    /// The shim that would bring the seat load to its aim, in nanometres; negative where it is too much already.
    pub fn shim_wanted(&self, card: &SpringCard) -> f64 {
        (card.seat[1] - self.installed(card, 0).seat) / self.rate()
    }
}

fn compare(a: f64, b: f64) -> Ordering {
    if (a - b).abs() <= SAME * (1.0 + a.abs().max(b.abs())) { Ordering::Equal } else { a.total_cmp(&b) }
}

fn within(value: f64, low: f64, high: f64) -> bool {
    compare(value, low) != Ordering::Less && compare(value, high) != Ordering::Greater
}

impl SpringCard {
    /// How many of seat and open load lie outside.
    pub fn outside(&self, at: &Installed) -> usize {
        let seat = within(at.seat, self.seat[0], self.seat[2]);
        let open = within(at.open, self.open[0], self.open[1]);
        usize::from(!seat) + usize::from(!open)
    }

    /// Whether both loads lie inside and there is room to coil bind.
    pub fn is_inside(&self, at: &Installed) -> bool {
        self.outside(at) == 0 && at.bind >= self.bind_margin
    }
}

/// The shims to put under a spring: none, or one or two of those there are that leave room to coil bind. Fewest loads
/// outside first, then the seat nearest to its aim, then fewest and thinnest.
pub fn shims_for(spring: &TestedSpring, card: &SpringCard, shims: &[i64]) -> Vec<i64> {
    let ones = shims.iter().map(|s| vec![*s]);
    let twos = shims.iter().enumerate().flat_map(|(i, a)| shims[i..].iter().map(move |b| vec![*a.min(b), *a.max(b)]));
    let leaves_room = |s: &Vec<i64>| spring.installed(card, s.iter().sum()).bind >= card.bind_margin;
    let choices = std::iter::once(Vec::new()).chain(ones.chain(twos).filter(leaves_room));
    let better = |a: &Vec<i64>, b: &Vec<i64>| {
        let at = |s: &Vec<i64>| spring.installed(card, s.iter().sum());
        let off = |s: &Vec<i64>| (at(s).seat - card.seat[1]).abs();
        (card.outside(&at(a)).cmp(&card.outside(&at(b))))
            .then_with(|| compare(off(a), off(b)))
            .then_with(|| a.len().cmp(&b.len()))
            .then_with(|| a.iter().sum::<i64>().cmp(&b.iter().sum()))
    };
    choices.min_by(better).unwrap_or_default()
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    proptest! {
        #[test]
        fn no_other_shims_would_do_better(
            height in 1_600i64..1_800, rate in 1i32..5, bind_margin in 0i64..200,
            shims in prop::collection::vec(5i64..80, 0..4),
        ) {
            let card = SpringCard { seat: [110.0, 115.0, 120.0], open: [280.0, 310.0], lift: 500, coil_bind: 1_050, bind_margin };
            let load = 114.0;
            let spring = TestedSpring { height, long: (1_700, load), short: (1_200, load + 88.0 * f64::from(rate)) };
            let chosen = shims_for(&spring, &card, &shims);
            let at = |s: &[i64]| spring.installed(&card, s.iter().sum());
            prop_assert!(chosen.is_empty() || at(&chosen).bind >= bind_margin);
            for (i, a) in shims.iter().enumerate() {
                for other in [vec![], vec![*a], vec![*a, shims[(i + 1) % shims.len()]], vec![*a, *a]] {
                    if other.is_empty() || at(&other).bind >= bind_margin {
                        prop_assert!(card.outside(&at(&chosen)) <= card.outside(&at(&other)), "{chosen:?} {other:?}");
                    }
                }
            }
        }
    }

    #[test]
    fn a_shim_lifts_both_loads_and_eats_the_room() {
        let card = SpringCard {
            seat: [110.0, 115.0, 120.0],
            open: [280.0, 310.0],
            lift: 500,
            coil_bind: 1_050,
            bind_margin: 60,
        };
        let spring = TestedSpring { height: 1_730, long: (1_700, 114.0), short: (1_200, 290.0) };
        let (before, after) = (spring.installed(&card, 0), spring.installed(&card, 30));
        assert!((after.seat - before.seat - 10.56).abs() < 1e-9 && after.bind == before.bind - 30);
        assert_eq!(shims_for(&spring, &card, &[15, 30]), [30]);
    }
}
