//! Readings in rows: exported, and read from a file after a look at what it would mean.
use std::sync::Arc;

use axum::Json;
use axum::extract::State;
use axum::response::Response;
use jagged_pin_core::assess::{Assessment, Wanted};
use jagged_pin_core::build::Build;
use jagged_pin_core::engine::{Position, Read};
use jagged_pin_core::log::{Fact, What};
use jagged_pin_core::record::{MOST_ROWS, RowRead, TextRow, came_from, read_rows};
use jagged_pin_core::{Length, Unit};
use jagged_pin_store::{Recorded, Sent};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::clock;
use crate::http::answers::{answer, download, exportable, find};
use crate::http::auth::Who;
use crate::http::cells::{bare, delimiter, guarded};
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;
use crate::views::rows::{READING_HEADINGS, reading_rows, word};

/// Columns that a file of readings needs, in any order; others are passed over.
const COLUMNS: [&str; 8] = ["station", "characteristic", "axial", "angle", "read", "reference", "gauge", "reading"];
/// Columns of the template: a file may leave out the track, as files of an earlier version do, and may name a part.
const TEMPLATE: [&str; 9] =
    ["station", "characteristic", "axial", "angle", "track", "read", "reference", "gauge", "reading"];

/// What some columns were called by an earlier version, whose files are read as well.
const FORMERLY: [(&str, &str); 2] = [("characteristic", "feature"), ("read", "method")];

type Csv = csv::Writer<Vec<u8>>;

fn written(csv: Csv) -> Result<String, Problem> {
    csv.into_inner().ok().and_then(|bytes| String::from_utf8(bytes).ok()).ok_or(Problem::Internal)
}

fn put<I: IntoIterator<Item = String>>(csv: &mut Csv, row: I) -> Result<(), Problem> {
    csv.write_record(row.into_iter().map(guarded)).map_err(|_| Problem::Internal)
}

/// The touches a template asks for: what can be read in two ways is asked for once, on the dial.
fn template(assessed: &Assessment) -> Vec<(Wanted, Position)> {
    let once = |w: &&Wanted| w.asked && (!w.characteristic.row().reads_apart || w.read == Read::Dial);
    let measured = || assessed.figures.iter().flat_map(|f| &f.measured);
    let touches = |w: &Wanted| {
        let w = *w;
        let touches = measured().find(|m| w.is_of(m)).map_or_else(Vec::new, |m| w.touches(m));
        touches.into_iter().map(move |position| (w, position))
    };
    assessed.wanted.iter().filter(once).flat_map(touches).collect()
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
    put(&mut csv, TEMPLATE.map(str::to_owned))?;
    for (w, position) in template(&state.evaluated.whole(&build).assessment) {
        let row = w.characteristic.row();
        let gauge = build.gauges.iter().find(|g| w.characteristic.fits(g.measures)).map_or("", |g| g.id.as_str());
        let dial = w.read == Read::Dial;
        let reference = if dial { build.layout.journal(w.station.row()).show(build.unit) } else { String::new() };
        let (axial, angle) = (word(position.axial), position.angle.to_string());
        let track = position.track.map_or_else(String::new, |track| track.to_string());
        let place = [w.station.to_string(), row.id.into(), axial, angle, track];
        let how = [word(w.read), reference, gauge.into(), String::new()];
        put(&mut csv, place.into_iter().chain(how))?;
    }
    Ok(download("text/csv; charset=utf-8", &format!("{}-readings-template.csv", build.code), written(csv)?))
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
    for row in reading_rows(&build, &state.evaluated.whole(&build).assessment) {
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
    /// The file: separated by commas, semicolons or tabs, with a heading line.
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
    // The reader counts a line of two end marks late.
    let text = text.replace("\r\n", "\n");
    let mut csv = csv::ReaderBuilder::new()
        .delimiter(delimiter(&text))
        .flexible(true)
        .trim(csv::Trim::All)
        .from_reader(text.as_bytes());
    let headings = csv.headers().map_err(wrong)?.clone();
    let at = |name: &str| headings.iter().position(|h| h.trim_start_matches('\u{feff}').eq_ignore_ascii_case(name));
    let formerly = |name: &str| FORMERLY.into_iter().find(|(now, _)| *now == name).and_then(|(_, then)| at(then));
    let column = |name: &str| at(name).or_else(|| formerly(name));
    let missing: Vec<&str> = COLUMNS.into_iter().filter(|c| column(c).is_none()).collect();
    if !missing.is_empty() {
        let list = missing.join(", ");
        return Err(Problem::field("csv", format!("the heading line lacks {list}: take the template as a start")));
    }
    let mut rows = Vec::new();
    for record in csv.records() {
        let record = record.map_err(wrong)?;
        let cell = |name: &str| column(name).and_then(|i| record.get(i)).map(bare).unwrap_or_default().to_owned();
        rows.push(TextRow {
            line: record.position().map_or(0, csv::Position::line),
            station: cell("station"),
            characteristic: cell("characteristic"),
            axial: cell("axial"),
            angle: cell("angle"),
            track: cell("track"),
            part: cell("part"),
            read: cell("read"),
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
    // Each row is judged on top of the ones before it.
    let read = state.limits.work_out(move || read_rows(&build, &by, &texts, file.unit, file.id, clock::now())).await?;
    let unit = file.unit;
    let row = |r: &RowRead| {
        let text = rows.iter().find(|t| t.line == r.line).cloned().unwrap_or_default();
        let ok = r.read.as_ref().ok().map(|(_, u)| u);
        PreviewRow {
            line: r.line,
            place: format!("{} {} {} {}", text.station, text.characteristic.replace('_', " "), text.axial, text.angle),
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
    let rows = Arc::new(rows_of(&file.csv)?);
    let build = state.store.build(find(&state, &name).await?).await?;
    let by = who.account.person;
    let (viewer, id, at) = (by.id, file.id, build.seq());
    let sent = Sent { id, by: viewer };
    if let Some(last) = last_of_file(&build, sent, &rows, &file)? {
        return Ok(answer(&state, &Recorded { before: last, build, seq: last, again: true }, viewer));
    }
    let (texts, on, whose) = (Arc::clone(&rows), Arc::clone(&build), by.clone());
    let read = state.limits.work_out(move || read_rows(&on, &whose, &texts, file.unit, id, clock::now())).await?;
    let same = move |known: &Fact| matches!(&known.what, What::Reading(_));
    let decide = move |build: &Build| -> Result<Vec<Fact>, Problem> {
        // Somebody recorded something since: the rows may mean something else on top of that.
        let read = if build.seq() == at {
            read
        } else {
            tokio::task::block_in_place(|| read_rows(build, &by, &rows, file.unit, id, clock::now()))
        };
        if let Some((line, why)) = read.iter().find_map(|r| r.read.as_ref().err().map(|why| (r.line, why)))
            && !file.only_good
        {
            return Err(Problem::field("csv", format!("line {line}: {why}")));
        }
        Ok(read.into_iter().filter_map(|r| r.read.ok()).map(|(fact, _)| fact).collect())
    };
    let recorded = state.store.record_all(build.id, sent, same, decide).await?;
    Ok(answer(&state, &recorded, viewer))
}

/// Number of the last reading of a file that was kept before under the same identifier; an error where that was another file.
fn last_of_file(build: &Build, sent: Sent, rows: &[TextRow], file: &ReadingsFile) -> Result<Option<u32>, Problem> {
    let Some(first) = build.facts.iter().position(|f| f.id == sent.id) else { return Ok(None) };
    // The readings of one file are numbered on from the first.
    let kept: Vec<&Fact> = build
        .facts
        .iter()
        .skip(first)
        .enumerate()
        .take_while(|(n, f)| f.id.as_u128() == sent.id.as_u128().wrapping_add(*n as u128))
        .map(|(_, f)| f)
        .collect();
    let mut rows = rows.iter().filter(|r| !r.reading.trim().is_empty());
    let all = file.only_good || kept.len() == rows.clone().count();
    let is_next = |f: &&Fact| match &f.what {
        What::Reading(r) if f.by.id == sent.by => rows.any(|row| came_from(build, r, row, file.unit)),
        _ => false,
    };
    let same = all && kept.iter().all(is_next);
    if same { Ok(kept.last().map(|f| f.seq)) } else { Err(Problem::IdReused) }
}
