//! One build: its facts, what a person may see of it, what is fitted, what stands where, and how far its orders are.

mod elsewhere;
mod fitted;
mod model;
mod orders;
mod redaction;
mod standing;

pub use elsewhere::from_elsewhere;
pub use fitted::{fitted_in, last_fitting, shells_in};
pub(crate) use model::struck_among;
pub use model::{Build, BuildError, LONGEST_CODE};
pub use orders::{last_step, order_of};
pub(crate) use redaction::{is_answered_by, requests, without};
pub use redaction::{is_done, open_request, open_requests, redacted};
pub use standing::{Standing, with_part_in};
