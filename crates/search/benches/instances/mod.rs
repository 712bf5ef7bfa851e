//! Instances of the choice of shells: the same every time, from a small generator of its own.

use jagged_pin_search::by_class::{Bearing, Halves, Objective, Problem, ShellSet};
use jagged_pin_search::one_by_one::Tray;
use jagged_pin_search::{Target, one_by_one};

/// A xorshift generator: instances must not change with a library.
pub struct Dice(pub u64);

impl Dice {
    /// A number below `n`.
    pub fn throw(&mut self, n: u64) -> u64 {
        self.0 ^= self.0 << 13;
        self.0 ^= self.0 >> 7;
        self.0 ^= self.0 << 17;
        self.0 % n
    }

    /// A count up to `most`.
    fn count(&mut self, most: u64) -> u16 {
        u16::try_from(self.throw(most + 1)).unwrap_or(0)
    }
}

const T: i64 = 2_540;

pub fn window() -> Target {
    Target { low: (22) * 2_540, aim: (25) * 2_540, high: (28) * 2_540 }
}

/// Nine stations a thou around the aim, seven classes half a thou apart, a shelf with standard halves for
/// all and a few of the others, and six sets to buy.
pub fn by_class(dice: &mut Dice, objective: Objective) -> Problem {
    let place = |dice: &mut Dice| {
        let clearance_std = 15 * T + T / 2 * dice.throw(41) as i64;
        Bearing { clearance_std, target: window(), locked: None }
    };
    let side = |dice: &mut Dice| (0..7).map(|c| if c == 3 { 9 } else { dice.count(3) }).collect();
    let set = |dice: &mut Dice| {
        let mut holds = vec![0; 7];
        holds[dice.throw(7) as usize] = 1 + dice.count(6);
        let price = 245_000 + 1_000 * dice.throw(100) as i64;
        ShellSet { price, holds: Halves::Apart { upper: holds.clone(), lower: holds }, available: Some(2) }
    };
    Problem {
        places: (0..9).map(|_| place(dice)).collect(),
        shifts: (-3..=3).map(|c| (5 * c) * 2_540).collect(),
        max_step: (10) * 2_540,
        stock: Halves::Apart { upper: side(dice), lower: side(dice) },
        sets: (0..6).map(|_| set(dice)).collect(),
        objective,
        odd: None,
    }
}

/// Eight housings and a tray of 32 uppers and 32 lowers, walls in steps of `grain` nanometres over three
/// tenths.
pub fn by_wall(dice: &mut Dice, grain: i64) -> Tray {
    let wall = |dice: &mut Dice| 2_395_220 - grain * dice.throw((3 * T / grain) as u64 + 1) as i64;
    // Housing less journal for the aim with walls from the middle, a tenth and a half to either side.
    let middle = 2 * 2_395_220 - 3 * T + 25 * T;
    let base = |dice: &mut Dice| middle - 3 * T / 2 + grain * dice.throw((3 * T / grain) as u64 + 1) as i64;
    Tray {
        places: (0..8).map(|_| one_by_one::Housing { base: (base(dice)), target: window() }).collect(),
        uppers: (0..32).map(|_| wall(dice)).collect(),
        lowers: (0..32).map(|_| wall(dice)).collect(),
    }
}
