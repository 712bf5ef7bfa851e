//! The sheet: what still blocks it, who has signed, and the seal.

mod seal;
mod signoff;

pub use seal::{canonical_json, seal_digest};
pub use signoff::{Block, Broken, Needs, Next, SealStatus, SignOff, Signed, sign_off};
