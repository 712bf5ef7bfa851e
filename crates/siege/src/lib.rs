//! Lays siege to the running product, as it is started by whoever uses it: processes are killed at random moments of the
//! first start, of changes of the tables, of work and of the end; strangers storm the door; connections hang. Afterwards it
//! is counted what was lost, and how often somebody would have had to lend a hand.
//!
//! A short siege is a test; the long one is `cargo run --release -p jagged-pin-siege -- 200`.

mod besieged;
mod ends;
mod starts;
mod storms;
mod work;

pub use besieged::{Besieged, Killed};
pub use ends::{ends, interrupts};
pub use starts::{first_starts, tables, upgrades};
pub use storms::{Storm, storm};
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
