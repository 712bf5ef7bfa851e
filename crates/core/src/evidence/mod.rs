//! What counts as evidence now: readings sorted to their places, those that something ended, and the sizes they give.

mod checks;
mod endings;
mod hands;
mod inspections;
mod noted;
mod plan;
mod sessions;
mod sizes;
mod slots;
mod taken;
mod walks;

pub use checks::Checks;
pub use endings::{Ending, EndingCause, Endings, thrown_out};
pub use hands::Hand;
pub use inspections::Inspections;
pub use noted::Notes;
pub use plan::touches_left;
pub use sessions::{Session, SessionProof, Sessions, drift_at};
pub use sizes::{EndedSize, Open, PositionAssessment, Size, SizeAssessment};
pub(crate) use sizes::{as_it_was, assess_size, gauge_behind, mean_housing, size_before};
pub(crate) use slots::{Evidence, Plans, SlottedReadings, Spot, material};
pub(crate) use taken::TakenReading;
