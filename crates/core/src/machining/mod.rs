//! What machining would do for a row of bearings, and the lines of a work order.

mod block;
mod bores;
mod boring;
mod cam;
mod clean_up;
mod cylinder_orders;
mod fillet;
mod grid;
mod narrowing;
mod plans;
mod polish_log;
mod straightness;
mod strokes;
mod trials;

pub use block::{
    BlockCut, BlockPlan, CutChanges, DeckPlan, IndexAt, LeastAt, StackAt, StackPart, StrokeAt, TunnelAt, block_plan,
};
pub use bores::{BoresPlan, CylinderPlan, DepthRound, OneSize, PistonAssignment, PistonTo, WallGap, plan_bores};
pub use boring::{
    BoringPlan, BoringStage, BoringTool, BoringWish, CylinderWorn, Damage, OversizeOption, WallLeft, damage_seen,
    plan_boring,
};
pub use cam::{CamJournalPlan, CamOutcome, CamPlan, fit_cam};
pub use clean_up::{Allowed, AllowedFrom};
pub use cylinder_orders::{bore_items, hone_items};
pub use fillet::{BodyEdge, Edge, FilletPlan, FilletWish, NarrowingCost, NoFillet, plan_fillet};
pub use grid::{GridFace, grid_faces};
pub use narrowing::{FacePlan, FacingPass, NarrowingWish, NoRodNarrowing, RodNarrowing, RodPlan, narrow_rods};

pub use plans::{
    BorePlan, BoredTo, ChosenPlan, GrindAgainst, GrindPlan, GroundAt, Machined, Machining, MachiningWish, NoPlan,
    Resized, ToSize, booked_per_grit, clean_ups, machining_plans, order_items,
};
pub use polish_log::{LearnedPolish, Polished, learned, polish_log};
pub use straightness::{MainThrow, Packing, Straightness, straightness};
pub use strokes::{StrokeEntry, StrokeLog, StrokesLeft, stroke_logs};
pub use trials::{DragSays, TrialRead, trials};
