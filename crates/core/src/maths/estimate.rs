//! How long a plan takes: minutes per set of readings, per polishing step and per swap of shells, from the shop's
//! own figures.
//!
//! ```
//! use jagged_pin_core::maths::{Estimate, Task, Times};
//!
//! // Three bearings swapped and measured again at 18 minutes each.
//! let estimate = Estimate::of(&Times::USUAL, &[(Task::Swap, 3)]);
//! assert_eq!(estimate.minutes, 54);
//! ```
use serde::{Deserialize, Serialize};

/// The shop's figures, in minutes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Times {
    /// One feature measured at all its places.
    pub reading_set: u16,
    /// One grit on one journal.
    pub polish_step: u16,
    /// One bearing opened, its halves changed, torqued and measured again.
    pub swap: u16,
}

impl Times {
    /// What a shop starts with.
    pub const USUAL: Times = Times { reading_set: 4, polish_step: 8, swap: 18 };

    /// Whether each is believable: a minute to a working day.
    pub fn are_believable(&self) -> bool {
        [self.reading_set, self.polish_step, self.swap].into_iter().all(|m| (1..=480).contains(&m))
    }
}

/// A piece of work that is estimated.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Task {
    /// A set of readings.
    ReadingSet,
    /// A polishing step.
    PolishStep,
    /// Shells swapped and the bearing measured again.
    Swap,
}

/// One line of an estimate.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct EstimateLine {
    /// What.
    pub task: Task,
    /// How often.
    pub count: usize,
    /// Minutes each.
    pub each: u16,
}

/// How long a plan takes.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Estimate {
    /// What it consists of.
    pub lines: Vec<EstimateLine>,
    /// Minutes together.
    pub minutes: u16,
}

impl Estimate {
    /// The estimate of so many tasks; those that are not done are left out.
    pub fn of(times: &Times, tasks: &[(Task, usize)]) -> Self {
        let each = |task: Task| match task {
            Task::ReadingSet => times.reading_set,
            Task::PolishStep => times.polish_step,
            Task::Swap => times.swap,
        };
        let done = tasks.iter().filter(|(_, count)| *count > 0);
        let lines: Vec<EstimateLine> =
            done.map(|(task, count)| EstimateLine { task: *task, count: *count, each: each(*task) }).collect();
        let minutes = lines.iter().map(|l| l.count.saturating_mul(usize::from(l.each))).sum::<usize>();
        Estimate { lines, minutes: u16::try_from(minutes).unwrap_or(u16::MAX) }
    }
}
