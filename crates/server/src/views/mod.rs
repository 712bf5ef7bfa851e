//! What the API shows: projections of a build and its assessment.

pub mod build;
pub mod catalog;
pub mod changes;
pub mod decisions;
pub(crate) mod family;
pub mod floor;
pub mod parts;
pub mod picture;
pub mod reading;
pub(crate) mod rows;
pub mod session;
pub(crate) mod washers;
