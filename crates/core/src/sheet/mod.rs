//! The sheet: what still blocks it, who has signed, and the seal.

mod seal;
mod signoff;
mod unchecked;

pub use seal::{canonical_json, seal_digest};
pub use signoff::{Block, Broken, Needs, Next, SealStatus, SignOff, Signed, sign_off};
pub use unchecked::NotChecked;
pub(crate) use unchecked::not_checked;
