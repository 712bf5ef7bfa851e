//! Formulas over plain figures: the product uses them, the calculators expose them, the worked examples prove them.

mod another_touch;
mod balance;
mod boring;
mod cam_fit;
mod clearance;
mod compare;
mod compression;
mod crosshatch;
mod doubt;
mod effective;
mod end_play;
mod entry;
mod estimate;
mod fillet;
mod flatness;
mod gauge_study;
mod grind;
mod growth;
mod honing;
mod hot_gap;
mod information;
mod kept;
mod odd;
mod oversize;
mod packing;
mod piston;
mod piston_rank;
mod ring_gap;
mod ring_groove;
mod roundness;
mod runout;
mod side_clearance;
mod spring;
mod student;
mod swapped;
mod taper;
mod target;
mod temperature;
mod terms;
mod touching;
mod trend;
mod undersize;
mod verdict;
mod walk;
mod worst_place;

pub use another_touch::{AnotherTouch, MOST_TOUCHES, Touches, another_touch};
pub use balance::{Sensor, Vector, by_trials, moved};
pub use boring::{BoredCylinder, BoredPlace, Boring, WornCylinder, bored, needs, usual_hone_stock};
pub use cam_fit::{CamFit, CamJournal, Fit, Reach, cam_fit};
pub use clearance::{bore_less_journal, direct_clearance, housing_less_walls, zero_drift};
pub use compare::{Comparison, compare};
pub use compression::{NM_PER_CM, area_cm2, excess, ratio, ratio_doubt};
pub use crosshatch::{crosshatch_angle, cycles_for, rpm_for};
pub use doubt::{combined, half_width, of_angle, of_repeat, of_resolution, share, triangle};
pub use effective::{
    Effective, Extreme, PlaceValue, SizeRule, TouchedPlace, ValuedPlace, effective, effective_of, position_value,
};
pub use end_play::{EndPlay, PushedPlace, end_play, usual_square_limit};
pub use entry::{Cell, CellKind, Entry, EntryError, How, parse_entry, parse_length};
pub use estimate::{Estimate, EstimateLine, Task, Times};
pub use fillet::{
    Corner, FilletEdge, FilletRoom, body_room, corner_room, edge_room, fillet, has_margin, least_x,
    usual_fillet_margin, usual_flat_margin,
};
pub use flatness::{FacePoint, Flatness, MOST_POINTS, Straightness, flatness, range, straightness};
pub use gauge_study::{GaugeStudy, gauge_study};
pub use grind::{Grind, GrindObstacle, GroundBearing, GroundPrediction, grind_options, smallest_feasible};
pub use growth::{GrowthAssumptions, housing_growth};
pub use honing::{Caution, MOST_STROKES, Strokes, ToGo, strokes_to_go};
pub use hot_gap::{HotFit, HotRing, hot_piston, hot_ring};
pub use information::{entropy, gain, weighed};
pub(crate) use kept::Kept;
pub use odd::{lean_limit, odd_one};
pub use oversize::{Bar, CleanPlace, CleanUp, Wear, clean_up};
pub use packing::packing;
pub use piston::{PistonToWall, hot_piston_to_wall, piston_to_wall};
pub use piston_rank::{Life, LifeState, Limit, Ranked, rank};
pub use ring_gap::{gap_closes, gap_in};
pub use ring_groove::{back_clearance, below_land, by_blades};
pub use roundness::{EllipseFit, ellipse};
pub use runout::{ClockReading, Throw, Thrown, bow, direction, directions, least_squares, throw};
pub use side_clearance::{
    Face, NarrowedRod, Narrowing, NarrowingPlan, NoNarrowing, RodWidth, Share, Split, facing_passes, narrow,
    side_clearance,
};
pub use spring::{Installed, SpringCard, TestedSpring, shims_for};
pub(crate) use student::student;
pub use swapped::{WithNextBore, swapped_pair};
pub use taper::{Suspect, suspects};
pub use target::{Target, TargetError, TargetRule, TargetSource, parse_proportion};
pub use temperature::{ABSOLUTE_ZERO_C, Alloy, Body, GAUGE_ALPHA, Material, SOAK_LIMIT_MC, Temperatures, at_20};
pub use terms::{Band, Summand, combine_terms};
pub use touching::Touching;
pub use trend::{Trend, TrendPoint, trend};
pub(crate) use undersize::BELONGS_WITHIN;
pub use undersize::{UndersizeClass, common_undersize, identify_undersize};
pub use verdict::{Acceptance, OneSided, Side, State, Verdict, Window, one_sided, verdict};
pub use walk::{Repeated, Walk, walk_among};
pub use worst_place::{WorstPlace, worst_place};
