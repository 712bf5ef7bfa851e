//! Readings and gauges of a build as rows of text.
use jagged_pin_core::Length;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::build::Build;
use jagged_pin_core::gauge::Gauge;
use jagged_pin_core::log::{Fact, Measure};
use jagged_pin_core::units::Timestamp;
use uuid::Uuid;

/// Headings of exported readings; `{u}` stands for the build's unit.
pub(crate) const READING_HEADINGS: [&str; 17] = [
    "station",
    "feature",
    "axial",
    "angle",
    "method",
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
];

/// What stands in the columns of [`READING_HEADINGS`] for every reading of a build.
pub(crate) fn reading_rows(build: &Build) -> Vec<[String; 17]> {
    let assessed = evaluate(build);
    let counts: std::collections::HashSet<Uuid> = assessed
        .stations
        .iter()
        .flat_map(|s| s.features())
        .flat_map(|(_, _, f)| f.positions.iter().flat_map(|p| p.touches.iter().copied()))
        .collect();
    let struck = build.struck();
    let show = |l: Length| l.to_decimal(build.unit).to_string();
    let degrees = |mc: Option<i32>| mc.map(|t| (f64::from(t) / 1_000.0).to_string()).unwrap_or_default();
    let row = |(fact, r): (&Fact, &jagged_pin_core::log::Reading)| {
        let (dial, reference) = match r.measure {
            Measure::Dial { dial, reference } => (show(dial), show(reference)),
            Measure::Size { .. } => (String::new(), String::new()),
        };
        let gone = struck.contains(&fact.id);
        let yes = |is: bool| if is { "yes".to_owned() } else { String::new() };
        let method = if r.measure.is_dial() { "direct" } else { "subtract" };
        [
            r.station.to_string(),
            r.feature.name().into(),
            r.position.axial.name().into(),
            r.position.angle.to_string(),
            method.into(),
            reference,
            r.gauge.clone(),
            dial,
            show(r.measure.size()),
            r.raw.clone(),
            serde_json::to_value(r.source).ok().and_then(|v| v.as_str().map(str::to_owned)).unwrap_or_default(),
            fact.by.name.clone(),
            when(fact.at),
            yes(gone),
            yes(!gone && r.blind.is_none() && !counts.contains(&fact.id)),
            degrees(r.temperatures.and_then(|t| t.part_mc)),
            degrees(r.temperatures.and_then(|t| t.gauge_mc)),
        ]
    };
    build.readings().map(row).collect()
}

/// A moment as spreadsheets read it, in UTC.
fn when(at: Timestamp) -> String {
    let moment = time::OffsetDateTime::from_unix_timestamp(at.0.div_euclid(1_000)).ok();
    let text = moment.and_then(|m| m.format(&time::format_description::well_known::Rfc3339).ok());
    text.unwrap_or_default()
}

/// The gauges of a build for its spreadsheet.
pub(crate) fn gauge_rows(build: &Build) -> Vec<[String; 6]> {
    let show = |l: Length| l.to_decimal(build.unit).to_string();
    let row = |g: &Gauge| {
        let day = |d: Option<jagged_pin_core::units::Day>| d.map(|d| d.to_string()).unwrap_or_default();
        [g.id.clone(), g.name.clone(), show(g.resolution), show(g.calibration), day(g.calibrated), day(g.due)]
    };
    build.gauges.iter().map(row).collect()
}
