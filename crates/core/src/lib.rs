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

pub mod advice;
pub mod assess;
pub mod assessment;
pub mod bench;
pub mod blind;
mod blind_touch;
pub mod build;
pub mod calc;
pub mod clearance;
pub mod compare;
pub mod day;
pub mod effective;
pub mod entry;
pub mod estimate;
pub mod fact;
pub mod family;
pub mod family_check;
pub mod feature;
mod features;
mod findings;
pub mod fitting;
pub mod foresee;
pub mod gauge;
pub mod gauge_line;
pub mod grind;
pub mod growth;
pub mod hot;
pub mod hypotheses;
pub mod layout;
pub mod length;
pub mod look;
pub mod machining;
pub mod marry;
mod methods;
pub mod money;
pub mod order;
pub mod part_number;
pub mod pick;
pub mod plan;
pub mod prediction_record;
pub mod propose;
pub mod record;
pub mod roles;
pub mod rules;
pub mod seal;
pub mod select;
pub mod session;
pub mod set_up;
pub mod shell;
pub mod signoff;
pub mod stale;
pub mod standing;
pub mod station;
pub mod suspicion;
pub mod table;
pub mod target;
pub mod temperature;
mod touches;
pub mod tray;
pub mod trend;
pub mod uncertainty;
pub mod verdict;
pub mod work;
pub mod would;

pub use build::Build;
pub use length::{Length, Unit};
