//! Bearing shells as a shop buys and keeps them: families, markings, part numbers, pairs.

mod family;
mod marking;
mod pair;
mod part_number;
mod washers;

pub use family::{Half, MoveKind, Offer, OnShelf, ShellClass, ShellFamily};
pub use marking::{ShellTrait, Suffix, SuffixMeaning};
pub use pair::ClassPair;
pub(crate) use pair::class_by;
pub use part_number::{
    DecodedNumber, NumberConflict, NumberGroup, decode_part_number, number_conflicts, stamped_undersize,
};
pub use washers::{ThrustLayout, ThrustSide, WasherBox, WasherClass};
