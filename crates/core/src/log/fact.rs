//! Facts: what people recorded about a build, append-only, each with who and when.
//!
//! A fact is never changed or removed. A wrong reading is struck by another fact; a target is replaced by a later one;
//! a seal is broken by whatever comes after it.
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::blind::BlindRequest;
use super::check::CheckDone;
use super::decision::{Concession, Lifted, PlanChange, RulesChange, Signature, TargetChange};
use super::fitting::Fitting;
use super::gauge_point::GaugePoint;
use super::grid::BridgeGrid;
use super::import::Imported;
use super::inspection::Inspection;
use super::loosened::Loosened;
use super::mishap::Mishap;
use super::noted::Noted;
use super::order::{OrderMoved, WorkOrder};
use super::part::{Assignment, Condemnation, Part};
use super::picture::Picture;
use super::reading::{Reading, Strike};
use super::set_up::SetUp;
use super::sitting::{SessionClosed, SessionOpened};
use super::stamps::Stamps;
use super::strokes::StrokesDone;
use super::tray::Tray;
use super::trial::Trial;
use super::washers::WashersIn;
use super::work::WorkEvent;
use crate::units::{Person, Timestamp};

/// One fact of a build.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Fact {
    /// Identifier made by whoever recorded it: recording it twice does it once.
    pub id: Uuid,
    /// Place in the build's order, from 1, without gaps.
    pub seq: u32,
    /// When it was kept.
    pub at: Timestamp,
    /// Who recorded it.
    pub by: Person,
    /// What was recorded.
    pub what: What,
}

/// The kinds of fact.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum What {
    /// A target was set.
    Target(TargetChange),
    /// A gauge was read.
    Reading(Reading),
    /// A reading was struck.
    Strike(Strike),
    /// A station outside its target, or on its edge, was accepted.
    Concession(Concession),
    /// Somebody signed.
    Signature(Signature),
    /// A sitting with a gauge began.
    SessionOpened(SessionOpened),
    /// A sitting with a gauge ended.
    SessionClosed(SessionClosed),
    /// Something was done to a part.
    Work(WorkEvent),
    /// A row of bearings was set up.
    SetUp(SetUp),
    /// Somebody looked at a part.
    #[serde(rename = "look")]
    Inspection(Inspection),
    /// Somebody was asked to measure again without seeing.
    Blind(BlindRequest),
    /// The rules of the build were changed.
    Rules(RulesChange),
    /// The plan of a feature was changed.
    Plan(PlanChange),
    /// Shells were fitted, with what was predicted of them.
    Fitting(Fitting),
    /// The stamps of the old shells were read.
    Stamps(Stamps),
    /// Shells of a tray were measured one by one.
    Tray(Tray),
    /// A work order was written.
    Order(WorkOrder),
    /// A work order was sent, came back or was withdrawn.
    OrderMoved(OrderMoved),
    /// A part was entered that the layout did not name.
    Part(Part),
    /// Parts were put somewhere.
    Assigned(Assignment),
    /// A part was condemned, or taken up again.
    Condemned(Condemnation),
    /// What stands before it was read from a file.
    Imported(Imported),
    /// Thrust washers were fitted, with the end play they promise.
    Washers(WashersIn),
    /// A picture was taken.
    Picture(Picture),
    /// The cam was turned in its bearings.
    Trial(Trial),
    /// Strokes were made under a hone or a file.
    Strokes(StrokesDone),
    /// A check was done by eye or hand, or elsewhere.
    Checked(CheckDone),
    /// Something befell the engine.
    Mishap(Mishap),
    /// A bridge was set on a grid over a face.
    Grid(BridgeGrid),
    /// A part was weighed, or its volume poured.
    Noted(Noted),
    /// Where pistons are measured was said.
    GaugePoint(GaugePoint),
}

impl What {
    /// Whether it is an entry that somebody made and can strike again.
    pub const fn can_be_struck(&self) -> bool {
        matches!(self, What::Reading(_) | What::Strokes(_) | What::Trial(_) | What::Grid(_) | What::Picture(_))
    }

    /// How the kind of fact is written in data.
    pub const fn kind(&self) -> &'static str {
        match self {
            What::Target(_) => "target",
            What::Reading(_) => "reading",
            What::Strike(_) => "strike",
            What::Concession(_) => "concession",
            What::Signature(_) => "signature",
            What::SessionOpened(_) => "session_opened",
            What::SessionClosed(_) => "session_closed",
            What::Work(_) => "work",
            What::SetUp(_) => "set_up",
            What::Inspection(_) => "look",
            What::Blind(_) => "blind",
            What::Rules(_) => "rules",
            What::Plan(_) => "plan",
            What::Fitting(_) => "fitting",
            What::Stamps(_) => "stamps",
            What::Tray(_) => "tray",
            What::Order(_) => "order",
            What::OrderMoved(_) => "order_moved",
            What::Part(_) => "part",
            What::Assigned(_) => "assigned",
            What::Condemned(_) => "condemned",
            What::Imported(_) => "imported",
            What::Washers(_) => "washers",
            What::Picture(_) => "picture",
            What::Trial(_) => "trial",
            What::Strokes(_) => "strokes",
            What::Checked(_) => "checked",
            What::Mishap(_) => "mishap",
            What::Grid(_) => "grid",
            What::Noted(_) => "noted",
            What::GaugePoint(_) => "gauge_point",
        }
    }

    /// What is tight and would not be any more because of it; empty for most facts.
    pub fn lifted(&self) -> &[Lifted] {
        match self {
            What::Target(t) => &t.lifted,
            What::Rules(r) => &r.lifted,
            What::Plan(p) => &p.lifted,
            What::GaugePoint(g) => &g.lifted,
            _ => &[],
        }
    }

    /// What it asks less of than before; empty for most facts.
    pub fn loosened(&self) -> &[Loosened] {
        match self {
            What::Rules(r) => &r.loosened,
            _ => &[],
        }
    }

    /// The same, with what it asks less of.
    #[must_use]
    pub fn loosening(mut self, all: Vec<Loosened>) -> What {
        if let What::Rules(r) = &mut self {
            r.loosened = all;
        }
        self
    }

    /// The same, with what it lifts.
    #[must_use]
    pub fn lifting(mut self, all: Vec<Lifted>) -> What {
        match &mut self {
            What::Target(t) => t.lifted = all,
            What::Rules(r) => r.lifted = all,
            What::Plan(p) => p.lifted = all,
            What::GaugePoint(g) => g.lifted = all,
            _ => {}
        }
        self
    }

    /// Whether it is what was sent: what it lifts was worked out here.
    pub fn is_as_sent(&self, sent: &What) -> bool {
        match self.lifted() {
            [] => self == sent,
            _ => self.clone().lifting(Vec::new()).loosening(Vec::new()) == *sent,
        }
    }
}
