//! What people record: facts and their payloads. Data only; what follows from them is worked out in the rooms above.

mod blind;
mod decision;
mod ends;
mod fact;
mod fasteners;
mod fitting;
mod import;
mod inspection;
mod order;
mod part;
mod reading;
mod rules;
mod set_up;
mod sitting;
mod stamps;
mod torque;
mod tray;
mod work;

pub use blind::BlindRequest;
pub use decision::{Concession, Lifted, PlanChange, RulesChange, Signature, SignerRole, TargetChange, WearRange};
pub use ends::Ends;
pub use fact::{Fact, What};
pub use fasteners::{FastenerGroup, FastenerKind, Lubricated, MoreFasteners, Washers, tightening_order};
pub use fitting::{FittedPair, Fitting};
pub use import::{Imported, is_digest};
pub use inspection::{InspectedPart, Inspection, Sign};
pub use order::{Job, OrderItem, OrderMoved, OrderStep, WorkOrder, may_follow};
pub use part::{Assignment, Condemnation, Part, PartMove};
pub use reading::{Measure, Reading, Source, Strike};
pub use rules::{NOTED_DOUBT_MK, OddHalf, Reckoning, Rules, ShapeLimits, USUAL_DOUBT_MK};
pub use set_up::{CapSeat, SetUp, SetUpChange, ShellsIn};
pub use sitting::{GaugeCheck, SessionClosed, SessionOpened, ZeroSource};
pub use stamps::{Stamp, Stamps};
pub use torque::{TorqueStep, TorqueUnit};
pub use tray::{MOST_ON_A_TRAY, Tray, TrayShell};
pub use work::{Work, WorkEvent};
