//! What stands between a request and a handler: who asks, what was sent, and how answers and problems are written.

pub(crate) mod answers;
pub(crate) mod asked_shells;
pub mod auth;
pub(crate) mod bodies;
pub(crate) mod cells;
pub mod extract;
pub(crate) mod fair;
pub mod problem;
mod refused;
pub(crate) mod session_store;
pub mod whence;
