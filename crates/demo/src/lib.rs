//! Saltmarsh Lane Engines: the invented shop that Jagged Pin shows itself with.
//!
//! [`people`] are its accounts, [`patterns`] the engine layouts it knows, [`families`] and
//! [`shelf`] its shells, [`builds`] what stands on its floor. The builds are made the way people make them: texts typed at the bench, through the same core
//! functions, so that they can hold nothing the product would refuse.

mod bench_work;
mod days;
mod engines;
mod shells;
mod shop;
mod stories;
mod vintage;

pub use bench_work::Bench;
pub use engines::{Pattern, patterns};
pub use shells::{families, shelf};
pub use shop::{DemoPerson, gauges, people, person};
pub use stories::{builds, mains_only};
