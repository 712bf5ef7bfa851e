//! [`Assessment`]: what can be said about a build. Plain data; [`crate::assess::evaluate`] fills it.
use serde::Serialize;

use super::blind::BlindTouch;
use super::condemned::Unfit;
use super::forced::Forced;
use super::hypotheses::Hypothesis;
use super::orders::OrderStatus;
use super::wanted::Wanted;
use crate::engine::{BearingRow, Figure, Place};
use crate::evidence::Session;
use crate::figure::{FigureAssessment, TargetInForce};
use crate::log::Rules;
use crate::maths::Trend;
use crate::sheet::{NotChecked, SignOff};
use crate::units::Length;

/// Everything that follows from a build.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Assessment {
    /// Sequence number of the last fact it rests on.
    pub seq: u32,
    /// The rules in force.
    pub rules: Rules,
    /// The rows of bearings this engine has.
    pub rows: Vec<Row>,
    /// Every figure, in the order of the work: the oil clearance of mains, then of rods, from the front.
    pub figures: Vec<FigureAssessment>,
    /// Touches still wanted, in the order of the work.
    pub wanted: Vec<Wanted>,
    /// Sittings with gauges, in the order opened.
    pub sessions: Vec<Session>,
    /// What the wear patterns suggest.
    pub hypotheses: Vec<Hypothesis>,
    /// Checks and looks that something forces, done or open.
    pub forced: Vec<Forced>,
    /// Parts that what was found condemns.
    pub unfit: Vec<Unfit>,
    /// Blind second touches asked for.
    pub blind: Vec<BlindTouch>,
    /// Work orders, the first first.
    pub orders: Vec<OrderStatus>,
    /// Whether end play was never measured on this crank: before anything is machined or balanced on it, it should be. A crank
    /// that turns out too wide or too narrow at its thrust can be sent back only while nothing was done to it.
    pub end_play_first: bool,
    /// How far the sheet is.
    pub sign_off: SignOff,
    /// What the sheet says nothing about.
    pub not_checked: Vec<NotChecked>,
}

impl Assessment {
    /// What is known about a figure of a place.
    pub fn figure(&self, figure: Figure, place: Place) -> Option<&FigureAssessment> {
        self.figures.iter().find(|f| (f.figure, f.station) == (figure, place))
    }

    /// What is known about the oil clearance of every bearing: mains, then rods, from the front.
    pub fn bearings(&self) -> impl Iterator<Item = &FigureAssessment> {
        self.figures.iter().filter(|f| f.figure == Figure::OIL_CLEARANCE)
    }

    /// The same of one row.
    pub fn bearings_of(&self, row: BearingRow) -> impl Iterator<Item = &FigureAssessment> {
        self.bearings().filter(move |f| f.row == row)
    }

    /// What is known about the oil clearance of a bearing.
    pub fn station(&self, place: Place) -> Option<&FigureAssessment> {
        self.figure(Figure::OIL_CLEARANCE, place)
    }

    /// A row of bearings, if this engine has it.
    pub fn row(&self, row: BearingRow) -> Option<&Row> {
        self.rows.iter().find(|r| r.row == row)
    }

    /// The target of a row of bearings.
    pub fn row_target(&self, row: BearingRow) -> Option<&TargetInForce> {
        self.row(row).and_then(|r| r.target.as_ref())
    }
}

/// The bearings of one row together.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Row {
    /// Which row.
    pub row: BearingRow,
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
    pub stations: Vec<Place>,
    /// Slope, residuals and the odd one.
    pub fit: Trend,
    /// The station that stands out, if one does.
    pub odd: Option<Place>,
    /// Whether the rise is more than the scatter, and the uncertainty of the end stations, explain.
    pub leans: bool,
}
