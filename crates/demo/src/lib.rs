//! Saltmarsh Lane Engines: the invented shop that Jagged Pin shows itself with.
//!
//! [`people`] are its accounts, [`patterns`] the engine layouts it knows, [`families`] and
//! [`shelf`] its shells, [`builds`] what stands on its floor. The builds are made the way people make them: texts typed at the bench, through the same core
//! functions, so that they can hold nothing the product would refuse.

mod block;
mod days;
mod pictures;
mod stories;
mod top_end;
mod two_stroke;
mod vintage;

pub use jagged_pin_workbench::{
    Bench, DemoPerson, Pattern, families, gauges, patterns, people, person, shelf, washer_boxes,
};
pub use pictures::{DemoPicture, pictures};
pub use stories::{builds, mains_only};
