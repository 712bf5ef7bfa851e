//! Lays siege to the running product, as it is started by whoever uses it: processes are killed at random moments of the
//! first start, of changes of the tables, of work, of imports and of the end; strangers storm the door; connections hang or
//! take no answer; rows are changed behind sealed sheets. Afterwards it is counted what was lost, what went unnoticed, and how
//! often somebody would have had to lend a hand.
//!
//! A short siege is a test; the long one is `cargo run --release -p jagged-pin-siege -- 200`.

mod besieged;
mod crush;
mod ends;
mod hand;
mod imports;
mod starts;
mod storms;
mod tampering;
mod work;

pub use besieged::{Besieged, Killed};
pub use crush::{Crushed, Load, crush};
pub use ends::{ends, interrupts};
pub use imports::cut_imports;
pub use starts::{first_starts, tables, upgrades};
pub use storms::{Storm, storm};
pub use tampering::{Tampered, tampering};
pub use work::work;

/// What went wrong with the siege itself, in words.
pub type Failure = Box<dyn std::error::Error + Send + Sync>;
/// The outcome of a step.
pub type Step<T = ()> = Result<T, Failure>;

/// What a campaign came to.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Tally {
    /// Times that something was done to it.
    pub times: usize,
    /// Times that it did not come up again by itself.
    pub hands: usize,
    /// Processes that were left running.
    pub left: usize,
    /// Readings that were acknowledged.
    pub acknowledged: usize,
    /// Of those, how many are gone.
    pub lost: usize,
    /// Of those, how many are there twice.
    pub doubled: usize,
    /// The longest it took, ms: to come up again, or to end.
    pub longest_ms: u128,
    /// What was said where it did not.
    pub said: Vec<String>,
}

impl Tally {
    /// Whether nothing was lost and nobody had to lend a hand.
    pub fn held(&self) -> bool {
        self.times > 0 && [self.hands, self.left, self.lost, self.doubled] == [0; 4]
    }
}
