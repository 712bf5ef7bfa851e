//! One reading.

use jagged_pin_core::Length;
use jagged_pin_core::engine::{Feature, Method, Part, Position, Station};
use jagged_pin_core::log::{Fact, Measure, Reading, Source};
use jagged_pin_core::maths::Temperatures;
use jagged_pin_core::units::{Person, Timestamp};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

/// One reading.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReadingView {
    /// Identifier.
    pub id: Uuid,
    /// Place in the build's order.
    pub seq: u32,
    /// When it was taken.
    pub at: Timestamp,
    /// By whom.
    pub by: Person,
    /// Where on the engine.
    pub station: Station,
    /// On which feature.
    pub feature: Feature,
    /// For a bore or a housing, on the dial or as a size.
    pub method: Option<Method>,
    /// Where on the feature.
    pub position: Position,
    /// The size it amounts to.
    pub size: Length,
    /// For a dial, its deflection.
    pub dial: Option<Length>,
    /// For a dial, the size it was zeroed at.
    pub reference: Option<Length>,
    /// The kind of gauge.
    pub gauge: String,
    /// Text as entered.
    pub raw: String,
    /// How it came in.
    pub source: Source,
    /// Kept outside the sanity band.
    pub forced: bool,
    /// Temperatures noted with it.
    pub temperatures: Option<Temperatures>,
    /// The session it belongs to.
    pub session: Option<Uuid>,
    /// If it was struck: why, by whom, when.
    pub struck: Option<StruckView>,
}

/// Why a reading no longer counts.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct StruckView {
    /// The reason.
    pub reason: String,
    /// Who struck it.
    pub by: Person,
    /// When.
    pub at: Timestamp,
}

pub(crate) fn reading_view(fact: &Fact, r: &Reading, struck: Option<StruckView>) -> ReadingView {
    let (dial, reference) = match r.measure {
        Measure::Size { .. } => (None, None),
        Measure::Dial { dial, reference } => (Some(dial), Some(reference)),
    };
    ReadingView {
        id: fact.id,
        seq: fact.seq,
        at: fact.at,
        by: fact.by.clone(),
        station: r.station,
        feature: r.feature,
        method: matches!(r.feature.part(), Part::Bore | Part::Housing).then(|| r.measure.method()),
        position: r.position,
        size: r.measure.size(),
        dial,
        reference,
        gauge: r.gauge.clone(),
        raw: r.raw.clone(),
        source: r.source,
        forced: r.forced,
        temperatures: r.temperatures,
        session: r.session,
        struck,
    }
}
