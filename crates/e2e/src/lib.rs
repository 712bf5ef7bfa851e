//! Drives the real interface: headless Chromium against a real server over a real MariaDB.
//!
//! A [`Rig`] is one server with its own database and the demo shop; a [`Page`] is one browser on it. Both
//! are taken down when dropped. Pages wait on states the interface shows, never on time.

mod page;
mod process;
mod rig;
mod template;

pub use page::{Page, Size};
pub use process::{Running, binary, wait_for_port};
pub use rig::Rig;

/// What went wrong in a browser run, in words.
pub type Failure = Box<dyn std::error::Error + Send + Sync>;
/// The outcome of a step.
pub type Step<T = ()> = Result<T, Failure>;
