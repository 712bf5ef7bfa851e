//! Which undersize a journal belongs to, by measurement and not by its stamp.
//!
//! A journal belongs to the class whose size, `nominal - undersize`, is nearest, if it lies within
//! `belongs_within` of it (exactly at that distance belongs); a tie goes to the smaller undersize. What
//! it is short of its class is wear; a journal can be over, too. No class near enough: it does not
//! belong to this family, and shells must not be ordered for it.
//!
//! ```
//! use jagged_pin_core::maths::{UndersizeClass, identify_undersize};
//! use jagged_pin_core::Length;
//!
//! let t = Length::tenths;
//! let undersizes = [t(0), t(100), t(200)];
//! // 1.9896 on a nominal of 2.0000: ten under, worn four tenths.
//! let class = identify_undersize(t(19_896), t(20_000), &undersizes, t(25));
//! assert_eq!(class, Some(UndersizeClass { undersize: t(100), worn: t(4) }));
//! assert_eq!(identify_undersize(t(19_950), t(20_000), &undersizes, t(25)), None);
//! ```
use crate::units::Length;

/// The class of one journal.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct UndersizeClass {
    /// Undersize of the class: 0 for standard.
    pub undersize: Length,
    /// What the journal is short of its class; negative when it is over.
    pub worn: Length,
}

/// The class that a journal of `size` belongs to; `None` when it belongs to none.
pub fn identify_undersize(
    size: Length,
    nominal: Length,
    undersizes: &[Length],
    belongs_within: Length,
) -> Option<UndersizeClass> {
    let class = |undersize: Length| UndersizeClass { undersize, worn: nominal - undersize - size };
    let nearest = undersizes.iter().copied().map(class).min_by_key(|c| (c.worn.abs(), c.undersize))?;
    (nearest.worn.abs() <= belongs_within).then_some(nearest)
}

/// The one undersize that all of them belong to; `None` when one belongs elsewhere or nowhere, or there
/// are none.
pub fn common_undersize(classes: &[Option<UndersizeClass>]) -> Option<Length> {
    let first = classes.first().copied()??.undersize;
    classes.iter().all(|c| c.is_some_and(|c| c.undersize == first)).then_some(first)
}

/// How far from a class size a journal may be and still belong to it: 0.0025 in.
pub(crate) const BELONGS_WITHIN: Length = Length::tenths(25);

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn t(n: i64) -> Length {
        Length::tenths(n)
    }

    #[test]
    fn exactly_at_the_limit_belongs_and_a_tie_goes_to_the_smaller_undersize() {
        let undersizes = [t(200), t(100), t(0)];
        assert_eq!(identify_undersize(t(19_875), t(20_000), &undersizes, t(25)).map(|c| c.undersize), Some(t(100)));
        assert_eq!(identify_undersize(t(19_950), t(20_000), &undersizes, t(50)).map(|c| c.undersize), Some(t(0)));
        assert_eq!(identify_undersize(t(19_874), t(20_000), &undersizes, t(25)), None);
    }

    #[test]
    fn one_odd_journal_spoils_the_common_class() {
        let class = |undersize| Some(UndersizeClass { undersize, worn: t(1) });
        assert_eq!(common_undersize(&[class(t(100)), class(t(100))]), Some(t(100)));
        assert_eq!(common_undersize(&[class(t(100)), class(t(0))]), None);
        assert_eq!(common_undersize(&[class(t(100)), None]), None);
        assert_eq!(common_undersize(&[]), None);
    }

    proptest! {
        #[test]
        fn a_journal_ground_to_a_class_is_found_there(class in 0usize..4, worn in -12i64..25) {
            let undersizes = [t(0), t(100), t(200), t(300)];
            let size = t(26_240) - undersizes[class] - t(worn);
            let found = identify_undersize(size, t(26_240), &undersizes, t(25));
            prop_assert_eq!(found, Some(UndersizeClass { undersize: undersizes[class], worn: t(worn) }));
        }
    }
}
