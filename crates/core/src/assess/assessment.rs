//! [`Assessment`]: what can be said about a build. Plain data; [`crate::assess::evaluate`] fills it.

use serde::Serialize;

use super::blind::BlindTouch;
use super::hypotheses::Hypothesis;
use super::orders::OrderStatus;
use super::wanted::Wanted;
use crate::engine::{BearingRow, Station};
use crate::evidence::Session;
use crate::figure::{StationAssessment, TargetInForce};
use crate::log::Rules;
use crate::maths::Trend;
use crate::sheet::SignOff;
use crate::units::Length;

/// Everything that follows from a build.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Assessment {
    /// Sequence number of the last fact it rests on.
    pub seq: u32,
    /// The rules in force.
    pub rules: Rules,
    /// The main bearings as a row.
    pub mains: Row,
    /// The big ends as a row.
    pub rods: Row,
    /// Every bearing: mains, then rods, from the front.
    pub stations: Vec<StationAssessment>,
    /// Touches still wanted, in the order of the work.
    pub wanted: Vec<Wanted>,
    /// Sittings with gauges, in the order opened.
    pub sessions: Vec<Session>,
    /// What the wear patterns suggest.
    pub hypotheses: Vec<Hypothesis>,
    /// Blind second touches asked for.
    pub blind: Vec<BlindTouch>,
    /// Work orders, the first first.
    pub orders: Vec<OrderStatus>,
    /// How far the sheet is.
    pub sign_off: SignOff,
}

impl Assessment {
    /// What is known about a bearing.
    pub fn station(&self, station: Station) -> Option<&StationAssessment> {
        self.stations.iter().find(|s| s.station == station)
    }

    /// A row of bearings.
    pub fn row(&self, row: BearingRow) -> &Row {
        match row {
            BearingRow::Mains => &self.mains,
            BearingRow::Rods => &self.rods,
        }
    }
}

/// The bearings of one row together.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Row {
    /// Target of the row; absent only before one was ever set.
    pub target: Option<TargetInForce>,
    /// Stations that have a judged clearance.
    pub measured: usize,
    /// Largest less smallest clearance, with two or more.
    pub spread: Option<Length>,
    /// The line through the measured stations, with three or more.
    pub trend: Option<RowTrend>,
    /// Undersize that all measured journals belong to, where it is the same for all.
    pub undersize: Option<Length>,
    /// Whether the measured journals belong to different undersizes, or some to none.
    pub mixed_undersizes: bool,
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
