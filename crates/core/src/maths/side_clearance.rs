//! Side clearance of rods on their pin, and how to narrow rods that are too wide.
//!
//! * `clearance = pin width - sum of rod widths`; blades leave it open between the one that goes and the one that stops.
//! * *Even*: what lacks to the aim is shared equally by the rods, a rod's share by its two sides; what cannot give more
//!   stops there, and the others share the rest.
//! * *Beam*: each beam comes to stand over the middle of its piston. Beside one another, two rods keep a third of the play
//!   between them, so each inner face stands `(bank offset - aim / 3) / 2` from its beam plane and each outer one
//!   `(pin width - aim) / 2` less that; a rod alone stands `(pin width - aim) / 2` to both sides.
//!
//! ```
//! use jagged_pin_core::Length;
//! use jagged_pin_core::maths::{Narrowing, RodWidth, Split, narrow};
//!
//! let t = Length::tenths;
//! let rod = |width| RodWidth { width: t(width), front_max: None, rear_max: None, beam: None };
//! let wanted = Narrowing { aim: t(160), rough: t(200), finish: t(40), split: Split::Even };
//! let plan = narrow(t(18_800), &[rod(9_350), rod(9_340)], wanted).unwrap();
//! assert_eq!(plan.removal.length(), t(50));
//! assert_eq!(plan.rods[0].front.off.length(), Length::from_nm(31_750), "a quarter of five thou");
//! ```
#![allow(
    clippy::arithmetic_side_effects,
    reason = "parts end at 100 m, and denominators at twice the rods by the most passes: far within i128"
)]

use std::cmp::Ordering;

use crate::units::Length;

/// Passes that a plan may have at most.
pub const MOST_PASSES: i128 = 1_000;

/// The clearance of rods with these widths on a pin.
pub fn side_clearance(pin_width: Length, rods: impl IntoIterator<Item = Length>) -> Length {
    rods.into_iter().fold(pin_width, |left, rod| left - rod)
}

/// A length in whole fractions of a nanometre: shares of three rods come out even.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Share {
    parts: i128,
    of: i128,
}

impl Share {
    /// No length.
    pub const ZERO: Share = Share { parts: 0, of: 1 };

    /// `parts` of `of` nanometres in lowest terms, so that long sums stay small; `of` is above zero.
    fn new(parts: i128, of: i128) -> Self {
        let (mut a, mut b) = (parts.abs(), of);
        while b != 0 {
            (a, b) = (b, a % b);
        }
        Share { parts: parts / a, of: of / a }
    }

    fn of(length: Length) -> Self {
        Share::new(i128::from(length.nm()), 1)
    }

    fn plus(self, other: Share) -> Self {
        Share::new(self.parts * other.of + other.parts * self.of, self.of * other.of)
    }

    fn less(self, other: Share) -> Self {
        self.plus(Share::new(-other.parts, other.of))
    }

    fn split(self, among: usize) -> Self {
        Share::new(self.parts, self.of * i128::try_from(among.max(1)).unwrap_or(1))
    }

    /// Whether it is below that length.
    fn compare(self, other: Share) -> Ordering {
        (self.parts * other.of).cmp(&(other.parts * self.of))
    }

    fn min(self, other: Share) -> Self {
        if self.compare(other) == Ordering::Greater { other } else { self }
    }

    fn not_negative(self) -> Self {
        if self.parts < 0 { Share::ZERO } else { self }
    }

    /// So many times it.
    pub fn times(self, n: i64) -> Self {
        Share::new(self.parts * i128::from(n), self.of)
    }

    /// Whether there is any of it.
    pub const fn is_some(self) -> bool {
        self.parts > 0
    }

    /// Rounded to the nanometre, half to even.
    pub fn length(self) -> Length {
        let (whole, rest) = (self.parts.div_euclid(self.of), self.parts.rem_euclid(self.of));
        let up = match (2 * rest).cmp(&self.of) {
            Ordering::Less => false,
            Ordering::Equal => whole % 2 != 0,
            Ordering::Greater => true,
        };
        Length::from_nm(i64::try_from(whole + i128::from(up)).unwrap_or(i64::MAX))
    }
}

/// A rod as it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct RodWidth {
    /// Width of its big end.
    pub width: Length,
    /// What its front face can give at most, if limited.
    pub front_max: Option<Length>,
    /// What its rear face can give at most, if limited.
    pub rear_max: Option<Length>,
    /// From its front face to the plane of its beam.
    pub beam: Option<Length>,
}

/// How a narrowing is split between faces.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Split {
    /// Alike.
    Even,
    /// So that the beams stand over their pistons, with the cylinder axes so far apart.
    Beam {
        /// Along the crank, from the front rod's cylinder to the rear one's.
        bank_offset: Length,
    },
}

/// What a narrowing is for, and how it is cut.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Narrowing {
    /// Clearance wanted.
    pub aim: Length,
    /// Most that a pass takes, above zero.
    pub rough: Length,
    /// What the last pass takes.
    pub finish: Length,
    /// How it is split.
    pub split: Split,
}

/// One face.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Face {
    /// What comes off it.
    pub off: Share,
    /// The cuts, in order, each with what is off after it. A spring pass repeats the last.
    pub passes: Vec<(Share, Share)>,
}

/// One rod of a plan.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NarrowedRod {
    /// Its front face.
    pub front: Face,
    /// Its rear face.
    pub rear: Face,
    /// Its width after that.
    pub width: Share,
}

/// A plan to narrow the rods of a pin.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NarrowingPlan {
    /// What comes off all of them.
    pub removal: Share,
    /// The clearance after that.
    pub clearance: Share,
    /// What then lacks to the aim.
    pub short: Share,
    /// Each rod.
    pub rods: Vec<NarrowedRod>,
}

/// Why there is no plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum NoNarrowing {
    /// More than two rods cannot be split by their beams.
    TooManyForBeams,
    /// The plane of this rod's beam is not known.
    BeamUnknown(usize),
    /// Nothing would be left of this rod.
    NothingLeft(usize),
    /// A face would take more than a thousand passes.
    TooManyPasses,
}

/// How to narrow the rods of a pin, from front to rear, to the clearance wanted.
///
/// # Errors
/// [`NoNarrowing`] where the rods cannot be split that way or nothing would be left of one.
pub fn narrow(pin_width: Length, rods: &[RodWidth], wanted: Narrowing) -> Result<NarrowingPlan, NoNarrowing> {
    let clearance = Share::of(side_clearance(pin_width, rods.iter().map(|r| r.width)));
    let off = match wanted.split {
        Split::Even => even(rods, Share::of(wanted.aim).less(clearance).not_negative()),
        Split::Beam { bank_offset } => by_beam(pin_width, rods, wanted.aim, bank_offset)?,
    };
    let mut narrowed = Vec::with_capacity(rods.len());
    for (i, (rod, [front, rear])) in rods.iter().zip(&off).enumerate() {
        let width = Share::of(rod.width).less(*front).less(*rear);
        if width.parts <= 0 {
            return Err(NoNarrowing::NothingLeft(i));
        }
        let face = |off: Share| Some(Face { off, passes: passes(off, wanted.rough, wanted.finish)? });
        let faces = face(*front).zip(face(*rear)).ok_or(NoNarrowing::TooManyPasses)?;
        narrowed.push(NarrowedRod { front: faces.0, rear: faces.1, width });
    }
    let removal = off.iter().flatten().fold(Share::ZERO, |sum, off| sum.plus(*off));
    let after = clearance.plus(removal);
    let short = Share::of(wanted.aim).less(after).not_negative();
    Ok(NarrowingPlan { removal, clearance: after, short, rods: narrowed })
}

/// Shares `total` equally among those with these limits; who reaches theirs stops there, and the others share the rest.
fn shared(total: Share, limits: &[Option<Share>]) -> Vec<Share> {
    let mut given: Vec<Option<Share>> = vec![None; limits.len()];
    loop {
        let left = given.iter().flatten().fold(total, |left, g| left.less(*g));
        let each = left.split(given.iter().filter(|g| g.is_none()).count());
        let full = |i: usize| limits[i].filter(|limit| limit.compare(each) != Ordering::Greater);
        let reached: Vec<usize> = (0..limits.len()).filter(|i| given[*i].is_none() && full(*i).is_some()).collect();
        if reached.is_empty() {
            return given.into_iter().map(|g| g.unwrap_or(each)).collect();
        }
        for i in reached {
            given[i] = full(i);
        }
    }
}

fn even(rods: &[RodWidth], removal: Share) -> Vec<[Share; 2]> {
    let faces = |r: &RodWidth| [r.front_max.map(Share::of), r.rear_max.map(Share::of)];
    let of_rod: Vec<Option<Share>> = rods
        .iter()
        .map(|r| {
            let [front, rear] = faces(r);
            Some(front?.plus(rear?))
        })
        .collect();
    let halves = rods.iter().zip(shared(removal, &of_rod));
    halves
        .map(|(rod, share)| {
            let sides = shared(share, &faces(rod));
            [sides[0], sides[1]]
        })
        .collect()
}

fn by_beam(
    pin_width: Length,
    rods: &[RodWidth],
    aim: Length,
    bank_offset: Length,
) -> Result<Vec<[Share; 2]>, NoNarrowing> {
    let outer_and_inner = Share::of(pin_width - aim).split(2);
    let inner = Share::of(bank_offset).less(Share::of(aim).split(3)).split(2);
    let outer = outer_and_inner.less(inner);
    let wanted = match rods.len() {
        1 => vec![[outer_and_inner; 2]],
        2 => vec![[outer, inner], [inner, outer]],
        _ => return Err(NoNarrowing::TooManyForBeams),
    };
    let rod = |(i, (rod, [front, rear])): (usize, (&RodWidth, &[Share; 2]))| {
        let beam = rod.beam.ok_or(NoNarrowing::BeamUnknown(i))?;
        let off = |stands: Length, wanted: Share, most: Option<Length>| {
            let beyond = Share::of(stands).less(wanted).not_negative();
            most.map_or(beyond, |most| beyond.min(Share::of(most)))
        };
        Ok([off(beam, *front, rod.front_max), off(rod.width - beam, *rear, rod.rear_max)])
    };
    rods.iter().zip(&wanted).enumerate().map(rod).collect()
}

/// The cuts that take a length away, each with what was taken by then: equal ones of at most `rough`, then the finish; `None`
/// where they are too many.
pub fn facing_passes(off: Length, rough: Length, finish: Length) -> Option<Vec<(Length, Length)>> {
    let cuts = passes(Share::of(off), rough, finish)?;
    Some(cuts.into_iter().map(|(cut, sum)| (cut.length(), sum.length())).collect())
}

/// The cuts that take `off` away: equal ones of at most `rough`, then the finish; `None` where they are too many.
fn passes(off: Share, rough: Length, finish: Length) -> Option<Vec<(Share, Share)>> {
    if !off.is_some() {
        return Some(Vec::new());
    }
    let before = off.less(Share::of(finish));
    if !before.is_some() {
        return Some(vec![(off, off)]);
    }
    let each_at_most = i128::from(rough.nm()) * before.of;
    let cuts = (before.parts + each_at_most - 1).checked_div(each_at_most).filter(|n| *n <= MOST_PASSES)?;
    let cut = Share::new(before.parts, before.of * cuts);
    let rough_cuts = (1..=cuts).map(|n| (cut, Share::new(before.parts * n, before.of * cuts)));
    // A finish of nothing is no cut.
    let last = (finish > Length::ZERO).then(|| (Share::of(finish), off));
    Some(rough_cuts.chain(last).collect())
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    fn rod(width: i64, front_max: Option<i64>, rear_max: Option<i64>) -> RodWidth {
        let nm = Length::from_nm;
        RodWidth { width: nm(width), front_max: front_max.map(nm), rear_max: rear_max.map(nm), beam: None }
    }

    proptest! {
        #[test]
        fn an_even_plan_reaches_the_aim_or_every_limit_and_its_passes_add_up(
            limits in prop::collection::vec((prop::option::of(0_i64..900), prop::option::of(0_i64..900)), 1..5),
            lacks in 0_i64..4_000, rough in 1_i64..700, finish in 0_i64..200,
        ) {
            let rods: Vec<RodWidth> = limits.iter().map(|(f, r)| rod(100_000, *f, *r)).collect();
            let pin = Length::from_nm(100_000 * i64::try_from(rods.len()).unwrap_or(1));
            let nm = Length::from_nm;
            let wanted = Narrowing { aim: nm(lacks), rough: nm(rough), finish: nm(finish), split: Split::Even };
            match narrow(pin, &rods, wanted) {
                Err(NoNarrowing::TooManyPasses) => prop_assert!(lacks / rough > 100),
                Err(other) => prop_assert!(false, "{other:?}"),
                Ok(plan) => {
                    let limit = |r: &RodWidth| Some(r.front_max?.nm() + r.rear_max?.nm());
                    let most = rods.iter().map(limit).sum::<Option<i64>>();
                    prop_assert_eq!(plan.removal.length().nm(), most.map_or(lacks, |m| m.min(lacks)));
                    prop_assert_eq!((plan.clearance.plus(plan.short)).compare(Share::of(wanted.aim)), Ordering::Equal);
                    for (rod, cut) in rods.iter().zip(&plan.rods) {
                        for (face, limit) in [(&cut.front, rod.front_max), (&cut.rear, rod.rear_max)] {
                            prop_assert!(limit.is_none_or(|l| face.off.compare(Share::of(l)) != Ordering::Greater));
                            let sum = face.passes.iter().fold(Share::ZERO, |s, (cut, _)| s.plus(*cut));
                            prop_assert_eq!(sum.length(), face.off.length());
                            let (rough, finish) = (Share::of(wanted.rough), Share::of(wanted.finish));
                            let fine = |c: &Share| c.compare(rough) != Ordering::Greater || c.compare(finish) != Ordering::Greater;
                            prop_assert!(face.passes.iter().all(|(cut, _)| fine(cut)));
                        }
                    }
                }
            }
        }
    }

    #[test]
    fn rods_under_their_pistons_stay_there_however_uneven_the_cut() {
        let t = Length::tenths;
        let rods = [(9_350, 4_666), (9_340, 4_684)].map(|(width, beam)| RodWidth {
            width: t(width),
            front_max: None,
            rear_max: None,
            beam: Some(t(beam)),
        });
        let split = Split::Beam { bank_offset: t(9_420) };
        let wanted = Narrowing { aim: t(160), rough: t(200), finish: t(40), split };
        let plan =
            narrow(t(18_800), &rods, wanted).map(|p| p.rods.iter().map(|r| r.width.length()).collect::<Vec<_>>());
        assert_eq!(plan, Ok(vec![t(9_320); 2]), "both come to 0.9320");
    }
}
