//! Choices: which shells, which rod on which pin, and what would help where none fits.

mod candidates;
mod crank_check;
mod hot;
mod pick;
mod proposal;
mod proposed;
mod remedies;
mod rods;
mod track_record;
mod tray;
mod washers;

pub use jagged_pin_search::by_class::{Objective, Odd, SelectError};
pub use jagged_pin_search::unless_given_up;

pub use candidates::{Candidate, CandidateJournal, CandidateRow, CrankNeed, cranks};
pub use crank_check::{FamilyCheck, JournalCheck, Says, family_check};
pub use hot::{HotClearance, HotGrowth, hot_growth_at};
pub use pick::{Freed, PickFrom, PickLine, pick_list};
pub use proposal::{NextBest, NoProposal, PairAt, Proposal, ProposalWish, ToFetch, foreign_in, propose};
pub use proposed::{ProposedPair, ToBuy};
pub use remedies::{GrindRemedy, HousingRemedy, Remedies, USUAL_GRIND_TOLERANCE};
pub use rods::{AssignedRod, RodAssignment, rods_to_pins};
pub use track_record::{FittingRecord, prediction_record};
pub use tray::{NoTrayChoice, TrayPlace, TrayProposal, choose_from_tray};
pub use washers::{
    NoWashers, RoomLeft, ThrustNeed, TightPlan, WasherAim, WasherChoice, WasherProposal, WasherSide, WasherWish,
    WashersToBuy, propose_washers, thrust_need, washers_in,
};
