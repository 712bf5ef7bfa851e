//! At the bench: what a cell expects, and the reading that typed text becomes.

use serde::{Deserialize, Serialize};

use crate::assessment::{Assessment, StationAssessment};
use crate::build::Build;
use crate::entry::{Cell, CellKind, Entry, EntryError, parse};
use crate::fact::{Measure, Reading, Source};
use crate::feature::{Feature, Method, Position, Station};
use crate::record::Refusal;
use crate::{Length, Unit};

/// A cell of the bench and what was typed into it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Typed {
    /// Where on the engine.
    pub station: Station,
    /// On which feature.
    pub feature: Feature,
    /// Where on the feature.
    pub position: Position,
    /// For a bore: on the dial, or as a size.
    pub method: Method,
    /// For a dial: the size it was zeroed at, as typed.
    pub reference: Option<String>,
    /// The kind of gauge.
    pub gauge: String,
    /// The text.
    pub text: String,
    /// Unit of a bare figure.
    pub unit: Unit,
}

/// A reading that was understood, and how.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Understood {
    /// The reading it would be.
    pub reading: Reading,
    /// How the text was read.
    pub entry: Entry,
}

/// Reads what was typed at the bench. With `force` the sanity band is not applied.
///
/// # Errors
/// [`Refusal`] when the cell does not exist or the text cannot be taken.
pub fn understand(build: &Build, assessed: &Assessment, typed: &Typed, force: bool) -> Result<Understood, Refusal> {
    let Typed { station, feature, position, method, .. } = *typed;
    let mains = build.layout.mains;
    let found = assessed.stations.iter().find(|s| s.station == station);
    let found = found.ok_or(Refusal::NoSuchStation { station, mains })?;
    let expected = expected(found, feature, method, position).ok_or(Refusal::NoSuchPosition)?;
    let gauge = build.gauge(&typed.gauge).ok_or_else(|| Refusal::UnknownGauge(typed.gauge.clone()))?;
    let dial = feature == Feature::MainBearing && method == Method::Direct;
    let reference = if dial { Some(reference(build, found, typed)?) } else { None };

    let (kind, band) = match reference {
        Some(_) => (CellKind::Dial, build.rules.dial_band),
        None => (CellKind::Size, build.rules.size_band),
    };
    let resolution =
        if gauge_counts_in(gauge.resolution, typed.unit) { gauge.resolution } else { typed.unit.dial_step() };
    let expected = reference.map_or(expected, |r| expected - r);
    let cell = Cell { kind, unit: typed.unit, expected: Some(expected), resolution, band };
    let (entry, forced) = match parse(&typed.text, &cell) {
        Err(EntryError::OutOfBand { .. }) if force => {
            (parse(&typed.text, &Cell { band: Length::LIMIT, ..cell })?, true)
        }
        other => (other?, false),
    };
    let measure = match reference {
        Some(reference) => Measure::Dial { dial: entry.value, reference },
        None => Measure::Size { size: entry.value },
    };
    let reading = Reading {
        station,
        feature,
        position,
        measure,
        gauge: typed.gauge.clone(),
        raw: typed.text.clone(),
        source: Source::Typed,
        forced,
    };
    Ok(Understood { reading, entry })
}

/// A tail only makes sense in the unit whose decimals the gauge shows.
fn gauge_counts_in(resolution: Length, unit: Unit) -> bool {
    resolution.to_decimal(unit).scale() <= unit.dial_step().to_decimal(unit).scale() + 1
}

fn expected(s: &StationAssessment, feature: Feature, method: Method, position: Position) -> Option<Length> {
    let assessed = match (feature, method) {
        (Feature::MainJournal, _) => &s.journal,
        (Feature::MainBearing, Method::Direct) => &s.bore_direct,
        (Feature::MainBearing, Method::Subtract) => &s.bore_subtract,
    };
    assessed.positions.iter().find(|p| p.position == position).map(|p| p.expected)
}

fn reference(build: &Build, s: &StationAssessment, typed: &Typed) -> Result<Length, Refusal> {
    let text = typed.reference.as_deref().map(str::trim).filter(|t| !t.is_empty()).ok_or(Refusal::NoReference)?;
    let journal = s.journal.size.as_ref().map_or(build.layout.main_journal, |j| j.effective);
    let cell = Cell { band: build.rules.size_band, ..Cell::new(CellKind::Size, typed.unit).expecting(journal) };
    parse(text, &cell).map(|e| e.value).map_err(Refusal::Reference)
}
