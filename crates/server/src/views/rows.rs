//! Readings and gauges of a build as rows of text.
use std::collections::HashSet;

use jagged_pin_core::Length;
use jagged_pin_core::assess::Assessment;
use jagged_pin_core::build::Build;
use jagged_pin_core::engine::Limits;
use jagged_pin_core::figure::{FigureAssessment, Judged, TargetInForce};
use jagged_pin_core::gauge::Gauge;
use jagged_pin_core::log::{Fact, Measure};
use jagged_pin_core::sheet::NotChecked;
use jagged_pin_core::units::Timestamp;
use serde::Serialize;
use uuid::Uuid;

/// Headings of exported readings; `{u}` stands for the build's unit.
pub(crate) const READING_HEADINGS: [&str; 19] = [
    "station",
    "characteristic",
    "axial",
    "angle",
    "read",
    "reference_{u}",
    "gauge",
    "dial_{u}",
    "size_{u}",
    "as_entered",
    "source",
    "by",
    "at",
    "struck",
    "stale",
    "part_c",
    "gauge_c",
    "track",
    "part",
];

/// What stands in the columns of [`READING_HEADINGS`] for every reading of a build.
pub(crate) fn reading_rows(build: &Build, assessed: &Assessment) -> Vec<[String; 19]> {
    let measured = assessed.figures.iter().flat_map(|f| &f.measured);
    let counts: HashSet<Uuid> =
        measured.flat_map(|m| m.size.positions.iter().flat_map(|p| p.touches.iter().copied())).collect();
    let struck = build.struck();
    let show = |l: Length| l.to_decimal(build.unit).to_string();
    let degrees = |mc: Option<i32>| mc.map(|t| (f64::from(t) / 1_000.0).to_string()).unwrap_or_default();
    let row = |(fact, r): (&Fact, &jagged_pin_core::log::Reading)| {
        let (dial, reference) = match r.measure {
            Measure::Dial { dial, reference } => (show(dial), show(reference)),
            _ => (String::new(), String::new()),
        };
        let gone = struck.contains(&fact.id);
        let yes = |is: bool| if is { "yes".to_owned() } else { String::new() };
        [
            r.station.to_string(),
            r.characteristic.name().into(),
            word(r.position.axial),
            r.position.angle.to_string(),
            word(r.measure.read()),
            reference,
            r.gauge.clone(),
            dial,
            show(r.measure.size()),
            r.raw.clone(),
            word(r.source),
            fact.by.name.clone(),
            when(fact.at),
            yes(gone),
            yes(!gone && r.blind.is_none() && !counts.contains(&fact.id)),
            degrees(r.temperatures.and_then(|t| t.part_mc)),
            degrees(r.temperatures.and_then(|t| t.gauge_mc)),
            r.position.track.map_or_else(String::new, |track| track.to_string()),
            r.part.clone().unwrap_or_default(),
        ]
    };
    build.readings().map(row).collect()
}

/// Headings of the figures that are no oil clearance; `{u}` stands for the build's unit.
pub(crate) const FIGURE_HEADINGS: [&str; 11] = [
    "place",
    "figure",
    "method",
    "value_{u}",
    "smallest_{u}",
    "largest_{u}",
    "expanded_uncertainty_{u}",
    "low_{u}",
    "high_{u}",
    "state",
    "concession",
];

/// What stands in the columns of [`FIGURE_HEADINGS`].
pub(crate) fn figure_rows(build: &Build, assessed: &Assessment) -> Vec<[String; 11]> {
    let show = |l: Length| l.to_decimal(build.unit).to_string();
    let row = |f: &FigureAssessment| {
        let judged = |what: fn(&Judged) -> Length| f.judged.as_ref().map(|j| show(what(j))).unwrap_or_default();
        let limit = |what: fn(&TargetInForce) -> Length| f.target.as_ref().map(|t| show(what(t))).unwrap_or_default();
        let limits = f.figure.row().limits;
        let low = if limits == Limits::Maximum { String::new() } else { limit(|t| t.window.low) };
        let high = if limits == Limits::Minimum { String::new() } else { limit(|t| t.window.high) };
        [
            f.station.to_string(),
            f.figure.name().into(),
            f.judged.as_ref().map(|j| j.method.name().to_owned()).unwrap_or_default(),
            judged(|j| j.clearance),
            judged(|j| j.smallest),
            judged(|j| j.largest),
            judged(|j| j.expanded),
            low,
            high,
            f.judged.as_ref().map_or_else(|| "open".to_owned(), |j| word(j.state)),
            f.concession.as_ref().map(|c| c.reason.clone()).unwrap_or_default(),
        ]
    };
    assessed.figures.iter().filter(|f| !f.figure.row().fitted && f.asked).map(row).collect()
}

/// A name as it is written in data.
pub(crate) fn word(name: impl Serialize) -> String {
    serde_json::to_value(name).ok().and_then(|v| v.as_str().map(str::to_owned)).unwrap_or_default()
}

/// A moment as spreadsheets read it, in UTC.
fn when(at: Timestamp) -> String {
    let moment = time::OffsetDateTime::from_unix_timestamp(at.0.div_euclid(1_000)).ok();
    let text = moment.and_then(|m| m.format(&time::format_description::well_known::Rfc3339).ok());
    text.unwrap_or_default()
}

/// What the sheet says nothing about, for its spreadsheet.
pub(crate) fn unchecked_rows(assessed: &Assessment) -> Vec<[String; 3]> {
    let row = |n: &NotChecked| {
        let (what, which) = match n {
            NotChecked::Figure { figure, .. } => ("figure", figure.name().to_owned()),
            NotChecked::Part { role, .. } => ("size", role.name().to_owned()),
            NotChecked::Relief { .. } => ("relief", String::new()),
            NotChecked::Unproven { .. } => ("gauge check", String::new()),
            NotChecked::Look { part, .. } => ("look", word(part)),
            NotChecked::Sampled { .. } => ("left out of a sample", String::new()),
            NotChecked::SetUp { row } => ("set-up", word(row)),
        };
        let places: Vec<String> = n.places().iter().map(ToString::to_string).collect();
        [what.to_owned(), which, places.join(" ")]
    };
    assessed.not_checked.iter().map(row).collect()
}

/// The gauges of a build for its spreadsheet.
pub(crate) fn gauge_rows(build: &Build) -> Vec<[String; 7]> {
    let show = |l: Length| l.to_decimal(build.unit).to_string();
    let row = |g: &Gauge| {
        let day = |d: Option<jagged_pin_core::units::Day>| d.map(|d| d.to_string()).unwrap_or_default();
        [
            g.id.clone(),
            g.name.clone(),
            g.serial.clone().unwrap_or_default(),
            show(g.resolution),
            show(g.calibration),
            day(g.calibrated),
            day(g.due),
        ]
    };
    build.gauges.iter().map(row).collect()
}
