//! [`Assessment`]: what can be said about a build. Plain data; [`crate::assess::evaluate`] fills it.

use serde::Serialize;
use uuid::Uuid;

use crate::Length;
use crate::fact::{Person, Timestamp};
use crate::feature::{Axial, Feature, Method, Position, Station};
use crate::plan::Wanted;
use crate::signoff::SignOff;
use crate::target::{Target, TargetRule, TargetSource};
use crate::trend::Trend;
use crate::uncertainty::Budget;
use crate::verdict::{Side, State};

/// Everything that follows from a build.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Assessment {
    /// Sequence number of the last fact it rests on.
    pub seq: u32,
    /// Target of the build as a whole; absent only before one was ever set.
    pub target: Option<TargetInForce>,
    /// Every main, from the front.
    pub stations: Vec<StationAssessment>,
    /// The judged stations as a row.
    pub row: Row,
    /// Touches still wanted, in the order of the work.
    pub wanted: Vec<Wanted>,
    /// How far the sheet is.
    pub sign_off: SignOff,
}

/// The judged stations of a crank together.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Row {
    /// Stations that have a judged clearance.
    pub measured: usize,
    /// Largest less smallest clearance, with two or more.
    pub spread: Option<Length>,
    /// The line through the measured stations, with three or more.
    pub trend: Option<RowTrend>,
}

/// A trend with the stations it runs through.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RowTrend {
    /// The stations, from the front.
    pub stations: Vec<Station>,
    /// Slope, residuals and the odd one.
    pub fit: Trend,
    /// The station that stands out, if one does.
    pub odd: Option<Station>,
    /// Whether the rise is more than the scatter, and the uncertainty of the end stations, explain.
    pub leans: bool,
}

/// A target and where it comes from.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TargetInForce {
    /// The window and the aim.
    pub window: Target,
    /// As it was stated.
    pub rule: TargetRule,
    /// Whose figure it is.
    pub source: TargetSource,
    /// Why it was set.
    pub reason: String,
    /// Who set it.
    pub by: Person,
    /// When.
    pub at: Timestamp,
    /// Whether it is this station's own.
    pub own: bool,
    /// Sequence number of the change: its version.
    pub version: u32,
}

/// What is known about one station.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StationAssessment {
    /// The station.
    pub station: Station,
    /// Whether it carries thrust.
    pub thrust: bool,
    /// Its target.
    pub target: Option<TargetInForce>,
    /// The journal.
    pub journal: FeatureAssessment,
    /// The bore read on a dial set at a reference.
    pub bore_direct: FeatureAssessment,
    /// The bore read as a size.
    pub bore_subtract: FeatureAssessment,
    /// Clearance by each method that has figures, the preferred first.
    pub methods: Vec<MethodResult>,
    /// Whether the two methods agree, where both are complete.
    pub agreement: Option<Agreement>,
    /// The judged figure; absent while the station is open.
    pub judged: Option<Judged>,
    /// The acceptance in force, if one was given for exactly this figure.
    pub concession: Option<ConcessionInForce>,
    /// What a practised eye would remark on.
    pub findings: Vec<Finding>,
}

/// One feature measured one way.
#[derive(Debug, Clone, PartialEq, Serialize, Default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FeatureAssessment {
    /// Its positions in the order of the plan.
    pub positions: Vec<PositionAssessment>,
    /// Touches taken that count.
    pub taken: usize,
    /// Touches taken and still wanted together.
    pub planned: usize,
    /// Whether every position that counts was touched.
    pub complete: bool,
    /// The size, as soon as a position that counts was touched.
    pub size: Option<FeatureSize>,
}

/// The size of a feature.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FeatureSize {
    /// The size that counts.
    pub effective: Length,
    /// Smallest position.
    pub smallest: Length,
    /// Largest position.
    pub largest: Length,
    /// Largest difference along the axis.
    pub taper: Length,
    /// Largest difference around.
    pub out_of_round: Length,
    /// For bores: how much wider toward the parting line.
    pub relief: Option<Length>,
    /// Largest spread of repeats.
    pub max_spread: Length,
    /// Gauge behind the deciding position.
    pub gauge: String,
    /// Touches behind the effective size.
    pub touches: usize,
}

/// One position of a feature.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PositionAssessment {
    /// Where.
    pub position: Position,
    /// Informs only; does not count for the size.
    pub advisory: bool,
    /// The readings that count, in the order taken.
    pub touches: Vec<Uuid>,
    /// Their value.
    pub value: Option<Length>,
    /// Largest less smallest of them.
    pub spread: Length,
    /// Touches still wanted here.
    pub left: u8,
    /// What a gauge is expected to show here next, as a size.
    pub expected: Length,
}

/// A clearance by one method.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MethodResult {
    /// The method.
    pub method: Method,
    /// Whether journal and bore are complete, so that it may be judged.
    pub complete: bool,
    /// Effective bore less effective journal.
    pub clearance: Length,
    /// What the gauges leave open.
    pub budget: Budget,
    /// Front and rear of the bearing by themselves, against the effective journal.
    pub ends: Vec<EndClearance>,
}

/// Clearance at one end of a bearing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct EndClearance {
    /// Which end.
    pub axial: Axial,
    /// The clearance there.
    pub clearance: Length,
}

/// Whether two methods agree, the journal they share left out.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Agreement {
    /// Direct less subtract.
    pub difference: Length,
    /// Difference over combined uncertainty; absent without any uncertainty.
    pub en: Option<f64>,
    /// At or below 1.
    pub agree: bool,
}

/// A judged clearance.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Judged {
    /// The method it comes from.
    pub method: Method,
    /// The clearance.
    pub clearance: Length,
    /// Its expanded uncertainty.
    pub expanded: Length,
    /// The state.
    pub state: State,
    /// The limit the margin was measured to.
    pub nearest: Side,
    /// Inside the limits, uncertainty aside.
    pub inside: bool,
    /// Distance to the nearest limit, negative outside.
    pub margin: Length,
    /// Whether these gauges can prove anything in this window.
    pub decidable: bool,
}

/// An acceptance that holds now.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ConcessionInForce {
    /// Why.
    pub reason: String,
    /// Who accepted it.
    pub by: Person,
    /// When.
    pub at: Timestamp,
}

/// Something worth a remark at a station.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Finding {
    /// Three or more touches at one place still differ by more than the gauge's step.
    RepeatsSpread {
        /// On which feature.
        feature: Feature,
        /// Where.
        position: Position,
        /// By how much.
        spread: Length,
    },
    /// The bore is not wider toward the parting line than at the vertical: the shell is wrong or
    /// mis-seated, or the cap is shifted.
    ReliefNotPositive {
        /// The relief found.
        relief: Length,
    },
    /// Direct and subtract do not agree.
    MethodsDisagree {
        /// By how much.
        difference: Length,
    },
    /// No value could be proven inside: the gauges leave more open than the window is wide.
    Undecidable,
    /// The target differs from that of an acceptance given before, or the figure was measured again.
    ConcessionLapsed {
        /// The reason it had been given for.
        reason: String,
    },
}
