//! At the bench: what a cell expects, and the reading that typed or sent text becomes.

use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::admission::no_such_station;
use super::refusal::Refusal;
use crate::assess::Assessment;
use crate::build::Build;
use crate::engine::{Feature, Method, Part, Position, Station};
use crate::evidence::Sessions;
use crate::figure::StationAssessment;
use crate::gauge::{Gauge, GaugeUse};
use crate::log::{GaugeCheck, Measure, Reading, Source};
use crate::maths::{Cell, CellKind, Entry, EntryError, Temperatures, parse_entry};
use crate::units::{Length, Unit};

/// A cell of the bench and what was typed into it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct TypedEntry {
    /// Where on the engine.
    pub station: Station,
    /// On which feature.
    pub feature: Feature,
    /// Where on the feature.
    pub position: Position,
    /// For a bore or a housing: on the dial, or as a size.
    pub method: Method,
    /// For a dial: the size it was zeroed at, as typed.
    pub reference: Option<String>,
    /// The gauge.
    pub gauge: String,
    /// The text.
    pub text: String,
    /// Unit of a bare figure.
    pub unit: Unit,
    /// How it came in.
    pub source: Source,
    /// Temperatures noted with it.
    pub temperatures: Option<Temperatures>,
    /// The blind request it answers.
    pub blind: Option<Uuid>,
}

/// A reading that was understood, and how.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct UnderstoodEntry {
    /// The reading it would be.
    pub reading: Reading,
    /// How the text was read.
    pub entry: Entry,
}

/// Reads what was typed at the bench. With `force` the sanity band is not applied. A gauge that was
/// checked into a session brings the session with it.
///
/// # Errors
/// [`Refusal`] when the cell does not exist or the text cannot be taken.
pub fn understand_entry(
    build: &Build,
    assessed: &Assessment,
    typed: &TypedEntry,
    force: bool,
) -> Result<UnderstoodEntry, Refusal> {
    let TypedEntry { station, feature, position, method, .. } = *typed;
    if !build.layout.has(station) {
        return Err(no_such_station(build, station));
    }
    let part = feature.part();
    let bearing = assessed.station(build.layout.bearing_on(station)).ok_or_else(|| no_such_station(build, station))?;
    if Feature::at(station, part) != Some(feature) {
        return Err(Refusal::NoSuchFeature(station));
    }
    let expected = expected(bearing, part, method, position).ok_or(Refusal::NoSuchPosition)?;
    let sessions = Sessions::of(&build.notes());
    let session = sessions.running(&typed.gauge);
    let gauge = session.map(|s| &s.gauge).or_else(|| build.gauge(&typed.gauge));
    let gauge = gauge.ok_or_else(|| Refusal::UnknownGauge(typed.gauge.clone()))?;
    let dial = method == Method::Direct && matches!(part, Part::Bore | Part::Housing);
    let reference = if dial { Some(reference(build, bearing, typed)?) } else { None };

    let rules = &assessed.rules;
    let (kind, band) = match reference {
        Some(_) => (CellKind::Dial, rules.dial_band),
        None => (CellKind::Size, rules.size_band),
    };
    let cell = Cell {
        kind,
        unit: typed.unit,
        expected: Some(reference.map_or(expected, |r| expected - r)),
        resolution: resolution(gauge, typed.unit),
        band,
    };
    let (entry, forced) = match parse_entry(&typed.text, &cell) {
        Err(EntryError::OutOfBand { .. }) if force => {
            (parse_entry(&typed.text, &Cell { band: Length::LIMIT, ..cell })?, true)
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
        source: typed.source,
        forced,
        session: session.map(|s| s.id),
        temperatures: typed.temperatures.filter(|t| t.part_mc.is_some() || t.gauge_mc.is_some()),
        blind: typed.blind,
    };
    Ok(UnderstoodEntry { reading, entry })
}

/// Reads a check of a gauge on a standard: for a bore gauge what is shown is its dial, for others a size.
///
/// # Errors
/// [`Refusal`] when a text cannot be taken.
pub fn understand_check(gauge: &Gauge, unit: Unit, standard: &str, shown: &str) -> Result<GaugeCheck, Refusal> {
    let standard = crate::maths::parse_length(standard, unit).map_err(Refusal::Reference)?;
    let resolution = resolution(gauge, unit);
    let read = if gauge.measures == GaugeUse::Inside {
        let cell = Cell { resolution, ..Cell::new(CellKind::Dial, unit) };
        standard + parse_entry(shown, &cell)?.value
    } else {
        let cell = Cell { resolution, ..Cell::new(CellKind::Size, unit).expecting(standard) };
        parse_entry(shown, &cell)?.value
    };
    Ok(GaugeCheck { standard, shown: read, raw: shown.trim().to_owned() })
}

/// A tail only makes sense in the unit whose decimals the gauge shows.
fn resolution(gauge: &Gauge, unit: Unit) -> Length {
    let counts = gauge.resolution.to_decimal(unit).scale() <= unit.dial_step().to_decimal(unit).scale() + 1;
    if counts { gauge.resolution } else { unit.dial_step() }
}

fn expected(s: &StationAssessment, part: Part, method: Method, position: Position) -> Option<Length> {
    s.feature(part, method).positions.iter().find(|p| p.position == position).map(|p| p.expected)
}

fn reference(build: &Build, s: &StationAssessment, typed: &TypedEntry) -> Result<Length, Refusal> {
    let text = typed.reference.as_deref().map(str::trim).filter(|t| !t.is_empty()).ok_or(Refusal::NoReference)?;
    let row = s.station.row();
    let usual = match typed.feature.part() {
        Part::Housing => build.layout.nominals(row).map_or(build.layout.journal(row), |n| n.housing),
        _ => s.journal.size.as_ref().map_or(build.layout.journal(row), |j| j.effective),
    };
    let cell = Cell { band: build.rules_now().size_band, ..Cell::new(CellKind::Size, typed.unit).expecting(usual) };
    parse_entry(text, &cell).map(|e| e.value).map_err(Refusal::Reference)
}
