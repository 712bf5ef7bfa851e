//! The engine: its places, its layout, and what can be measured where.

mod characteristic;
mod layout;
mod place;

pub use characteristic::{Axial, Feature, FeaturePlan, MOST_POSITIONS, Method, Part, Planned, Position};
pub use layout::{Crank, JOURNAL_RANGE, Layout, LayoutError, MOST_MAINS, Nominals, Rods, usual_undersizes};
pub use place::{BearingRow, Scope, Station};
