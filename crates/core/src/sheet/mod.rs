//! The sheet: what still blocks it, who has signed, and the seal.

mod away;
mod block;
mod key;
mod ledger;
mod proof;
mod seal;
mod signoff;
mod unchecked;
mod unclean;

pub use block::{Block, Needs};
pub use key::{NotAKey, SealKey};
pub use ledger::{Ledger, LedgerEntry, LedgerFault, LedgerKind, LedgerLine};
pub use proof::{SealFault, SealFlaw, SealProof, last_signature, missing, prove, prove_seals};
pub use seal::{canonical_json, seal_digest};
pub(crate) use signoff::sign_off;
pub use signoff::{Broken, ImportedBy, LiftedBy, Next, SealStatus, SignOff, Signed};
pub use unchecked::NotChecked;
pub(crate) use unchecked::not_checked;
