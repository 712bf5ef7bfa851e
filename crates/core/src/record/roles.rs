//! What a role allows a person to do. Which roles there are is the shop's data.
use serde::{Deserialize, Serialize};

use crate::log::{SignerRole, What};
use crate::maths::State;

/// What an account may do, from its role.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Capabilities {
    /// Open and import builds.
    pub open_builds: bool,
    /// Record and strike readings.
    pub measure: bool,
    /// Set targets.
    pub set_targets: bool,
    /// Acknowledge an edge and concede what is loose.
    pub concede: bool,
    /// Concede what is tight: a tight bearing can seize.
    pub concede_tight: bool,
    /// Sign as assembler.
    pub sign_assembler: bool,
    /// Sign as checker.
    pub sign_checker: bool,
    /// Correct the count of a shelf.
    pub correct_shelf: bool,
    /// Strike what somebody else read.
    pub strike_others: bool,
    /// Change what the shop decides for itself: what the roles allow, and the windows its targets start from.
    pub run_shop: bool,
}

impl Capabilities {
    /// Whether these allow the fact to be recorded.
    pub fn allow(&self, what: &What) -> bool {
        match what {
            // What lifts a tight bearing, or switches off what would block, is the lead's, whichever way it does.
            _ if !what.lifted().is_empty() || !what.loosened().is_empty() => self.set_targets && self.concede_tight,
            What::Reading(_)
            | What::Strike(_)
            | What::SessionOpened(_)
            | What::SessionClosed(_)
            | What::Work(_)
            | What::SetUp(_)
            | What::Inspection(_)
            | What::Fitting(_)
            | What::Stamps(_)
            | What::Tray(_)
            | What::Washers(_)
            | What::Picture(_)
            | What::Trial(_)
            | What::Strokes(_)
            | What::Checked(_)
            | What::Mishap(_)
            | What::Grid(_)
            | What::Noted(_)
            | What::GaugePoint(_)
            | What::Part(_) => self.measure,
            What::Target(_) | What::Rules(_) | What::Plan(_) => self.set_targets,
            // Whoever may accept a figure may have it looked at again.
            // So may an order, which spends money and takes metal off.
            // So may a part that is put in, or condemned.
            What::Blind(_) | What::Order(_) | What::OrderMoved(_) | What::Assigned(_) | What::Condemned(_) => {
                self.concede
            }
            What::Concession(c) if c.state == State::Tight || c.gate.is_some() => self.concede_tight,
            What::Concession(_) => self.concede,
            What::Signature(s) => self.may_sign(s.role),
            What::Imported(_) => self.open_builds,
        }
    }

    /// Whether these allow signing as `role`.
    pub fn may_sign(&self, role: SignerRole) -> bool {
        match role {
            SignerRole::Assembler => self.sign_assembler,
            SignerRole::Checker => self.sign_checker,
        }
    }
}
