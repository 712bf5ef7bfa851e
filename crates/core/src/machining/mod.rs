//! What machining would do for a row of bearings, and the lines of a work order.

mod cam;
mod narrowing;
mod plans;

pub use cam::{CamJournalPlan, CamPlan, PolishReach, fit_cam};
pub use narrowing::{FacePlan, FacingPass, NarrowingWish, NoRodNarrowing, RodNarrowing, RodPlan, narrow_rods};

pub use plans::{
    BorePlan, BoredTo, ChosenPlan, GrindAgainst, GrindPlan, GroundAt, Machined, Machining, MachiningWish, NoPlan,
    Resized, ToSize, booked_per_grit, machining_plans, order_items,
};
