//! Readings in rows: exported, and read from a file after a look at what it would mean.

use axum::Json;
use axum::extract::{Path, State};
use axum::response::Response;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::build::Build;
use jagged_pin_core::fact::{Fact, Measure, Timestamp, What};
use jagged_pin_core::feature::{Method, Part};
use jagged_pin_core::gauge::Gauge;
use jagged_pin_core::table::{MOST_ROWS, RowRead, TextRow, read};
use jagged_pin_core::{Length, Unit};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::builds::{answer, find};
use super::files::{download, exportable};
use crate::auth::Who;
use crate::clock;
use crate::extract::Body;
use crate::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::view::RecordedView;

/// Columns that a file of readings needs, in any order; others are passed over.
const COLUMNS: [&str; 8] = ["station", "feature", "axial", "angle", "method", "reference", "gauge", "reading"];

type Csv = csv::Writer<Vec<u8>>;

fn written(csv: Csv) -> Result<String, Problem> {
    csv.into_inner().ok().and_then(|bytes| String::from_utf8(bytes).ok()).ok_or(Problem::Internal)
}

fn put<I: IntoIterator<Item = String>>(csv: &mut Csv, row: I) -> Result<(), Problem> {
    csv.write_record(row).map_err(|_| Problem::Internal)
}

/// A row a touch that is still wanted, with an empty column for the reading: to be filled in elsewhere and
/// read back.
#[utoipa::path(get, path = "/api/v1/builds/{build}/readings-template.csv",
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = String, content_type = "text/csv"), (status = "4XX", body = ProblemBody)))]
pub(super) async fn readings_template(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
) -> Result<Response, Problem> {
    let build = exportable(&state, &who, &name).await?;
    let mut csv = Csv::from_writer(Vec::new());
    put(&mut csv, COLUMNS.map(str::to_owned))?;
    for w in evaluate(&build).wanted.iter().filter(|w| w.method != Some(Method::Subtract)) {
        let part = w.feature.part();
        let dial = part == Part::Bore;
        let gauge = build.gauges.iter().find(|g| g.measures.fits(part)).map_or("", |g| g.id.as_str());
        let reference = if dial { build.layout.journal(w.station.row()).show(build.unit) } else { String::new() };
        let method = if dial { "direct" } else { "subtract" };
        let position = w.position;
        put(
            &mut csv,
            [
                w.station.to_string(),
                w.feature.name().into(),
                position.axial.name().into(),
                position.angle.to_string(),
                method.into(),
                reference,
                gauge.into(),
                String::new(),
            ],
        )?;
    }
    Ok(download("text/csv; charset=utf-8", &format!("{}-readings-template.csv", build.code), written(csv)?))
}

/// Headings of exported readings; `{u}` stands for the build's unit.
pub(super) const READING_HEADINGS: [&str; 17] = [
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
pub(super) fn reading_rows(build: &Build) -> Vec<[String; 17]> {
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
    let row = |(fact, r): (&Fact, &jagged_pin_core::fact::Reading)| {
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

/// Every reading of a build, a row each, struck and stale ones marked.
#[utoipa::path(get, path = "/api/v1/builds/{build}/readings.csv",
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = String, content_type = "text/csv"), (status = "4XX", body = ProblemBody)))]
pub(super) async fn readings_csv(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
) -> Result<Response, Problem> {
    let build = exportable(&state, &who, &name).await?;
    let mut csv = Csv::from_writer(Vec::new());
    put(&mut csv, READING_HEADINGS.map(|h| h.replace("{u}", build.unit.symbol())))?;
    for row in reading_rows(&build) {
        put(&mut csv, row)?;
    }
    Ok(download("text/csv; charset=utf-8", &format!("{}-readings.csv", build.code), written(csv)?))
}

/// A file of readings.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct ReadingsFile {
    /// Made by the client: identifier of the first reading; sending the file twice keeps it once.
    id: Uuid,
    /// The file: comma-separated, with a heading line.
    csv: String,
    /// Unit of bare figures.
    unit: Unit,
    /// Lines to keep although others are wrong; without it a file with a wrong row is refused as a whole.
    #[serde(default)]
    only_good: bool,
}

/// What a file of readings would mean.
#[derive(Serialize, ToSchema)]
pub(super) struct ReadingsPreview {
    /// Row by row.
    rows: Vec<PreviewRow>,
    /// Rows that would be kept.
    good: usize,
    /// Rows that are wrong.
    bad: usize,
}

/// One row of a file.
#[derive(Serialize, ToSchema)]
struct PreviewRow {
    /// Line of the file.
    line: u64,
    /// The columns that say where, as they stand in the file.
    place: String,
    /// The reading as it stands in the file.
    reading: String,
    /// The gauge.
    gauge: String,
    /// What would be kept: the figure as read aloud.
    shown: Option<String>,
    /// The size it amounts to.
    size: Option<Length>,
    /// What is wrong with it.
    problem: Option<String>,
}

fn rows_of(text: &str) -> Result<Vec<TextRow>, Problem> {
    let wrong = |e: csv::Error| Problem::field("csv", format!("this is no comma-separated file: {e}"));
    let mut csv = csv::ReaderBuilder::new().flexible(true).trim(csv::Trim::All).from_reader(text.as_bytes());
    let headings = csv.headers().map_err(wrong)?.clone();
    let column = |name: &str| headings.iter().position(|h| h.trim_start_matches('\u{feff}').eq_ignore_ascii_case(name));
    let missing: Vec<&str> = COLUMNS.into_iter().filter(|c| column(c).is_none()).collect();
    if !missing.is_empty() {
        let list = missing.join(", ");
        return Err(Problem::field("csv", format!("the heading line lacks {list}: take the template as a start")));
    }
    let mut rows = Vec::new();
    for record in csv.records() {
        let record = record.map_err(wrong)?;
        let cell = |name: &str| column(name).and_then(|i| record.get(i)).unwrap_or_default().to_owned();
        rows.push(TextRow {
            line: record.position().map_or(0, csv::Position::line),
            station: cell("station"),
            feature: cell("feature"),
            axial: cell("axial"),
            angle: cell("angle"),
            method: cell("method"),
            reference: cell("reference"),
            gauge: cell("gauge"),
            reading: cell("reading"),
        });
        if rows.len() > MOST_ROWS {
            return Err(Problem::field("csv", format!("a file has at most {MOST_ROWS} rows: split it")));
        }
    }
    Ok(rows)
}

/// Says row by row what a file of readings would keep and what is wrong; keeps nothing.
#[utoipa::path(post, path = "/api/v1/builds/{build}/readings/preview", request_body = ReadingsFile,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = ReadingsPreview), (status = "4XX", body = ProblemBody)))]
pub(super) async fn preview_readings(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(file): Body<ReadingsFile>,
) -> Result<Json<ReadingsPreview>, Problem> {
    who.must(|c| c.measure, "somebody who may measure")?;
    let rows = rows_of(&file.csv)?;
    let build = state.store.build(find(&state, &name).await?).await?;
    let by = who.account.person;
    let texts = rows.clone();
    // Each row is judged on top of the ones before it: not on a thread that answers others.
    let read = tokio::task::spawn_blocking(move || read(&build, &by, &texts, file.unit, file.id, clock::now()));
    let read = read.await.map_err(|_| Problem::Internal)?;
    let unit = file.unit;
    let row = |r: &RowRead| {
        let text = rows.iter().find(|t| t.line == r.line).cloned().unwrap_or_default();
        let ok = r.read.as_ref().ok().map(|(_, u)| u);
        PreviewRow {
            line: r.line,
            place: format!("{} {} {} {}", text.station, text.feature.replace('_', " "), text.axial, text.angle),
            reading: text.reading,
            gauge: text.gauge,
            shown: ok.map(|u| u.entry.value.show(unit)),
            size: ok.map(|u| u.reading.measure.size()),
            problem: r.read.as_ref().err().cloned(),
        }
    };
    let good = read.iter().filter(|r| r.read.is_ok()).count();
    let preview = ReadingsPreview { rows: read.iter().map(row).collect(), good, bad: read.len() - good };
    Ok(Json(preview))
}

/// Keeps the readings of a file: all of them at once, or none.
#[utoipa::path(post, path = "/api/v1/builds/{build}/readings/import", request_body = ReadingsFile,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn import_readings(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(file): Body<ReadingsFile>,
) -> Result<Json<RecordedView>, Problem> {
    who.must(|c| c.measure, "somebody who may measure")?;
    let rows = rows_of(&file.csv)?;
    let build = find(&state, &name).await?;
    let by = who.account.person;
    let (viewer, id) = (by.id, file.id);
    let same = move |known: &Fact| matches!(&known.what, What::Reading(_)) && known.by.id == viewer;
    let decide = move |build: &Build| -> Result<Vec<Fact>, Problem> {
        let read = tokio::task::block_in_place(|| read(build, &by, &rows, file.unit, file.id, clock::now()));
        if let Some((line, why)) = read.iter().find_map(|r| r.read.as_ref().err().map(|why| (r.line, why)))
            && !file.only_good
        {
            return Err(Problem::field("csv", format!("line {line}: {why}")));
        }
        Ok(read.into_iter().filter_map(|r| r.read.ok()).map(|(fact, _)| fact).collect())
    };
    let recorded = state.store.record_all(build, id, same, decide).await?;
    Ok(answer(&state, &recorded, viewer))
}

/// The gauges of a build for its spreadsheet.
pub(super) fn gauge_rows(build: &Build) -> Vec<[String; 6]> {
    let show = |l: Length| l.to_decimal(build.unit).to_string();
    let row = |g: &Gauge| {
        let day = |d: Option<jagged_pin_core::day::Day>| d.map(|d| d.to_string()).unwrap_or_default();
        [g.id.clone(), g.name.clone(), show(g.resolution), show(g.calibration), day(g.calibrated), day(g.due)]
    };
    build.gauges.iter().map(row).collect()
}
