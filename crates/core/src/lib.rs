//! The rules and the arithmetic of Jagged Pin.
//!
//! Four types carry the work. A [`build::Build`] is everything known about one engine build: its
//! [`engine::Layout`], its rules and gauges, and the append-only list of [`log::Fact`]s that people
//! recorded about it. [`assess::evaluate`] is one pure function from a build to an
//! [`assess::Assessment`]: every figure with its uncertainty and state, what to measure next and
//! what still blocks the signature. Every length on the way is a [`units::Length`], a whole number of
//! nanometres. [`sheet::seal_digest`] turns the signed facts into a digest that anybody can compute again.
//!
//! What is measured and judged stands as rows of data in [`engine`]; the formulas that a practitioner could argue about
//! one to a file in [`maths`]; what ends evidence in [`evidence`]; budgets and verdicts in [`figure`]; who may record what
//! in [`record`]. The [`calc`] module makes the single formulas callable with JSON.
//!
//! There is no I/O here, no clock and no randomness: the time and the identifiers come with the facts.

// What people and files state is added and multiplied with a check (see the workspace's `clippy.toml`).
#![cfg_attr(not(test), warn(clippy::arithmetic_side_effects))]

pub mod assess;
pub mod build;
pub mod calc;
pub mod choose;
pub mod engine;
pub mod evidence;
pub mod figure;
pub mod gauge;
pub mod log;
pub mod machining;
pub mod maths;
pub mod record;
pub mod sheet;
pub mod shells;
pub mod subjects;
pub mod units;

pub use build::Build;
pub use units::{Length, Unit};
