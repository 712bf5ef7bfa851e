//! Facts: what people recorded about a build, append-only, each with who and when.
//!
//! A fact is never changed or removed. A wrong reading is struck by another fact; a target is replaced
//! by a later one; a seal is broken by whatever comes after it.

use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::Length;
use crate::blind::BlindRequest;
use crate::family_check::Stamps;
use crate::feature::{Feature, FeaturePlan, Method, Position};
use crate::fitting::Fitting;
use crate::look::Look;
use crate::order::{OrderMoved, WorkOrder};
use crate::rules::Rules;
use crate::session::{SessionClosed, SessionOpened};
use crate::set_up::SetUp;
use crate::station::{BearingRow, Station};
use crate::target::{Target, TargetRule, TargetSource};
use crate::temperature::Temperatures;
use crate::tray::Tray;
use crate::verdict::State;
use crate::work::WorkEvent;

/// A moment: milliseconds since 1970-01-01 UTC.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(value_type = i64))]
pub struct Timestamp(pub i64);

/// Who recorded a fact, by the name they had then.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Person {
    /// Identifier of the person.
    pub id: Uuid,
    /// Name at the time.
    pub name: String,
}

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
    Look(Look),
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
}

impl What {
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
            What::Look(_) => "look",
            What::Blind(_) => "blind",
            What::Rules(_) => "rules",
            What::Plan(_) => "plan",
            What::Fitting(_) => "fitting",
            What::Stamps(_) => "stamps",
            What::Tray(_) => "tray",
            What::Order(_) => "order",
            What::OrderMoved(_) => "order_moved",
        }
    }
}

/// The build's rules from now on.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct RulesChange {
    /// The rules.
    pub rules: Rules,
    /// Why.
    pub reason: String,
}

/// The positions of one feature from now on.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct PlanChange {
    /// The feature and its positions.
    pub plan: FeaturePlan,
    /// Why.
    pub reason: String,
}

/// A touch of the gauge.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Reading {
    /// Where on the engine.
    pub station: Station,
    /// On which feature.
    pub feature: Feature,
    /// Where on the feature.
    pub position: Position,
    /// What was read.
    pub measure: Measure,
    /// The kind of gauge, by its identifier in the build.
    pub gauge: String,
    /// Text exactly as entered.
    pub raw: String,
    /// How it came in.
    pub source: Source,
    /// Kept although it lay outside the sanity band.
    pub forced: bool,
    /// The sitting it belongs to, if the gauge was checked into one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub session: Option<Uuid>,
    /// Temperatures noted with it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub temperatures: Option<Temperatures>,
    /// The blind request it answers.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub blind: Option<Uuid>,
}

/// How a reading came in.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Source {
    /// Typed at the bench.
    Typed,
    /// Sent by a gauge.
    Gauge,
    /// Read from a file.
    Imported,
}

/// What a gauge showed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Measure {
    /// A size.
    Size {
        /// The size.
        size: Length,
    },
    /// A dial read on a gauge that was zeroed at a reference.
    Dial {
        /// Deflection from zero.
        dial: Length,
        /// The size the gauge was zeroed at.
        reference: Length,
    },
}

impl Measure {
    /// The size it amounts to: for a dial, reference and deflection together.
    pub fn size(self) -> Length {
        match self {
            Measure::Size { size } => size,
            Measure::Dial { dial, reference } => reference + dial,
        }
    }

    /// Whether it was read on a zeroed dial.
    pub const fn is_dial(self) -> bool {
        matches!(self, Measure::Dial { .. })
    }

    /// The method a bearing reading of this form belongs to.
    pub const fn method(self) -> Method {
        match self {
            Measure::Size { .. } => Method::Subtract,
            Measure::Dial { .. } => Method::Direct,
        }
    }
}

/// A reading declared wrong; it stays visible and counts no more.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Strike {
    /// The reading.
    pub reading: Uuid,
    /// Why.
    pub reason: String,
}

/// The oil clearance target of a row of bearings, or of one of its stations.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct TargetChange {
    /// The one station it is for; for the whole row when absent.
    pub station: Option<Station>,
    /// The row it is for when it is not for one station.
    #[serde(default, skip_serializing_if = "BearingRow::is_mains")]
    pub row: BearingRow,
    /// The target; absent to let a station follow the build again.
    pub rule: Option<TargetRule>,
    /// Where it comes from.
    pub source: TargetSource,
    /// Why.
    pub reason: String,
}

/// A signed acceptance. It holds for exactly the figure, the state and the window it was given for.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Concession {
    /// The station.
    pub station: Station,
    /// Its state then: edge, tight or loose.
    pub state: State,
    /// Its clearance then.
    pub clearance: Length,
    /// Its window then.
    pub target: Target,
    /// Why it is acceptable.
    pub reason: String,
}

/// What a signer signs as.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum SignerRole {
    /// The one who assembled and measured.
    Assembler,
    /// The second pair of eyes.
    Checker,
}

/// A signature under everything recorded before it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Signature {
    /// Signed as.
    pub role: SignerRole,
    /// Revision of the sheet, from 1.
    pub revision: u32,
    /// SHA-256, in hex, of the canonical record up to and with this signature.
    pub digest: String,
}
