//! Formulas over plain figures: the product uses them, the calculators expose them, the worked examples prove them.

mod clearance;
mod compare;
mod doubt;
mod effective;
mod end_play;
mod entry;
mod estimate;
mod grind;
mod growth;
mod taper;
mod target;
mod temperature;
mod terms;
mod trend;
mod undersize;
mod verdict;

pub use clearance::{bore_less_journal, direct_clearance, housing_less_walls, zero_drift};
pub use compare::{Comparison, compare};
pub use doubt::{combined, half_width, of_angle, of_repeat, of_resolution, share};
pub use effective::{Effective, Extreme, PlaceValue, SizeRule, TouchedPlace, effective, position_value};
pub use end_play::{EndPlay, PushedPlace, end_play, usual_square_limit};
pub use entry::{Cell, CellKind, Entry, EntryError, How, parse_entry, parse_length};
pub use estimate::{Estimate, EstimateLine, Task, Times};
pub use grind::{Grind, GrindObstacle, GroundBearing, GroundPrediction, grind_options, smallest_feasible};
pub use growth::{GrowthAssumptions, housing_growth};
pub use taper::{Suspect, suspects};
pub use target::{Target, TargetError, TargetRule, TargetSource, parse_proportion};
pub use temperature::{ABSOLUTE_ZERO_C, Body, GAUGE_ALPHA, Material, SOAK_LIMIT_MC, Temperatures, at_20};
pub use terms::{Band, Summand, combine_terms};
pub use trend::{Trend, TrendPoint, trend};
pub(crate) use undersize::BELONGS_WITHIN;
pub use undersize::{UndersizeClass, common_undersize, identify_undersize};
pub use verdict::{Acceptance, Side, State, Verdict, Window, verdict};
