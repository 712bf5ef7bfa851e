//! What may be recorded: typed text becomes a reading, a fact is admitted or refused, a build from a file is replayed.

mod admission;
mod agreement;
mod before;
mod belief;
mod impact;
mod lifting;
mod refusal;
mod replay;
mod roles;
mod rows;
mod typed;

pub use admission::{MOST_FACTS, admit, concession_now, next_fact, remark_accepted_now, signature_now};
pub use impact::{EndedEvidence, Impact, impact};
pub use refusal::Refusal;
pub use roles::Capabilities;
pub use rows::{MOST_ROWS, RowRead, TextRow, came_from, read_rows};
pub use typed::{TypedEntry, UnderstoodEntry, understand_check, understand_entry};
