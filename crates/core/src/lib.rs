//! The rules and the arithmetic of Jagged Pin.
//!
//! Four types carry the work. A [`build::Build`] is everything known about one engine build: its
//! [`layout::Layout`], its rules and gauges, and the append-only list of [`fact::Fact`]s that people
//! recorded about it. [`assess::evaluate`] is one pure function from a build to an
//! [`assessment::Assessment`]: every station's clearance, uncertainty and state, what to measure next and
//! what still blocks the signature. Every length on the way is a [`length::Length`], a whole number of
//! nanometres. [`seal`] turns the signed facts into a digest that anybody can compute again.
//!
//! The rules that a practitioner could argue about stand one to a file: [`effective`], [`clearance`],
//! [`uncertainty`], [`verdict`], [`compare`], [`family`], [`temperature`], [`entry`], [`target`], [`trend`],
//! [`plan`], [`record`] and [`signoff`]. The [`calc`] module makes the single ones callable with JSON.
//!
//! There is no I/O here, no clock and no randomness: the time and the identifiers come with the facts.

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
