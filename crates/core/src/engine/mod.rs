//! The engine: its places, its layout, and the catalogue of what can be measured and judged there.

mod catalog;
mod characteristic;
mod figure;
mod layout;
mod part_kinds;
mod place;
mod place_kinds;
mod shop_preset;

pub use catalog::{Characteristic, Figure, MOST_POSITIONS, Method, NotInCatalog, Plan, PlanError};
pub use characteristic::{
    Axial, CharacteristicRow, CutIn, Expects, GaugeUse, PartKind, Planned, Position, Reach, Read, Role, Tag,
};
pub use figure::{
    Asked, Believable, Closes, Doubt, EndFormula, FigureRow, Group, Input, Judges, Limits, MethodRow, Preset,
    PresetLimits, Statistic, Term, Transfer, Wanting,
};
pub use layout::{
    Cam, Crank, Cylinders, JOURNAL_RANGE, Layout, LayoutError, MOST_MAINS, Nominals, Rods, Wall, usual_undersizes,
};
pub use part_kinds::{PART_KINDS, PartKindRow, Seat};
pub use place::{BearingRow, Place, PlaceKind};
pub(crate) use place_kinds::PlaceNumbers;
pub use place_kinds::{NoSuchName, PLACE_KINDS, PlaceKindRow, Scope};
pub use shop_preset::ShopPreset;
