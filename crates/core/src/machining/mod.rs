//! What machining would do for a row of bearings, and the lines of a work order.

mod plans;

pub use plans::{
    BorePlan, BoredTo, ChosenPlan, GrindAgainst, GrindPlan, GroundAt, MOST_POLISHED, Machined, Machining,
    MachiningWish, NoPlan, ToSize, machining_plans, order_items,
};
