//! Builds made the way people make them: texts typed at a bench, through the core's own functions, so that they can
//! hold nothing the product would refuse.
//!
//! [`Bench`] is a build in somebody's hands, [`patterns`] are engines to build, [`people`] and [`gauges`] those of an
//! invented shop. The demo tells its stories with them, and tests their cases.

mod bench;
mod engines;
mod set_ups;
mod shells;
mod shop;
mod washers;

pub use bench::Bench;
pub use engines::{Pattern, patterns};
pub use set_ups::torqued;
pub use shells::{families, shelf};
pub use shop::{DemoPerson, gauges, people, person};
pub use washers::washer_boxes;
