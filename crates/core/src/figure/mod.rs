//! Figures judged against targets: methods, uncertainty, verdict, prediction, and what would prove more.

mod advice;
mod blades;
mod both_ends;
mod by_end;
mod concession;
mod context;
mod hot_room;
mod judgement;
mod methods;
mod prediction;
mod promise;
mod result;
mod spans;
mod targets;
mod uncertainty;

pub use advice::{Advice, Improvement, InReach, Warmth, advise};
pub use blades::{BladeAdvice, next_blade};
pub(crate) use concession::{concession, covers};
pub(crate) use context::{Context, UsualSizes};
pub(crate) use hot_room::hot_rooms;
pub use hot_room::{HotBy, HotRoom};
pub(crate) use judgement::{judge, stale_judged, too_coarse};
pub(crate) use methods::{Inputs, agreements, judged_method, pulled, warmth};
pub use prediction::differs;
pub(crate) use prediction::{prediction, shared_with_promise};
pub use promise::{Predicted, PredictionCheck};
pub use result::{
    Agreement, Alike, ChosenBecause, ConcessionInForce, EndClearance, FigureAssessment, Finding, GateShut,
    JournalClass, Judged, MeasureAgain, Measured, MethodResult, MoreTouches, StaleJudged, StandsHere, SuspectPart,
};
pub(crate) use spans::shape_of;
pub(crate) use targets::Targets;
pub use targets::{Expansion, TargetInForce};
pub use uncertainty::{Basis, Budget, Contribution, DoubtSource, Known, MeasuredBy, of_size};
