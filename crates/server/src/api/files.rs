//! Open formats in and out: a build as JSON, its bearings as CSV, everything as a spreadsheet.
use std::collections::{HashMap, HashSet};
use std::sync::Arc;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::Response;
use jagged_pin_core::assess::Assessment;
use jagged_pin_core::engine::{Read, Role};
use jagged_pin_core::figure::FigureAssessment;
use jagged_pin_core::log::{Imported, What};
use jagged_pin_core::record::next_fact;
use jagged_pin_core::sheet::SealKey;
use jagged_pin_core::{Build, Length, Unit};
use jagged_pin_store::{Opened, StoreError};
use rust_xlsxwriter::{Format, Workbook, XlsxError};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use super::pictures;
use crate::clock;
use crate::http::answers::{download, exportable};
use crate::http::auth::Who;
use crate::http::cells::guarded;
use crate::http::extract::{JsonBytes, Path, Query, json};
use crate::http::problem::{Problem, ProblemBody};
use crate::limits::Wanted;
use crate::secrets::digest;
use crate::state::AppState;
use crate::views::build::BuildView;
use crate::views::decisions::decision;
use crate::views::picture::PictureFile;
use crate::views::rows;

/// Version of the exported form.
const FORM: &str = "jagged-pin-build/1";

/// An exported build (docs/formats.md).
#[derive(Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct BuildFile {
    /// `jagged-pin-build/1`.
    form: String,
    /// The build and its facts.
    #[schema(value_type = Object)]
    build: Build,
    /// Its pictures; files of before have none.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pictures: Vec<PictureFile>,
}

/// The whole build as a file that another shop can import.
#[utoipa::path(get, path = "/api/v1/builds/{build}/export.json",
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = BuildFile), (status = "4XX", body = ProblemBody)))]
pub(super) async fn export_json(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
) -> Result<Response, Problem> {
    let build = exportable(&state, &who, &name).await?;
    let name = format!("{}.json", build.code);
    let pictures = pictures::exported(&state, &build).await?;
    let file = BuildFile { form: FORM.into(), build: (*build).clone(), pictures };
    let text = serde_json::to_string_pretty(&file).map_err(|_| Problem::Internal)?;
    Ok(download("application/json", &name, text))
}

/// The bearings of a build, a row each.
#[utoipa::path(get, path = "/api/v1/builds/{build}/bearings.csv",
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = String, content_type = "text/csv"), (status = "4XX", body = ProblemBody)))]
pub(super) async fn export_csv(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
) -> Result<Response, Problem> {
    let build = exportable(&state, &who, &name).await?;
    let text = bearings_csv(&build, &state.evaluated.whole(&build).assessment).map_err(|_| Problem::Internal)?;
    Ok(download("text/csv; charset=utf-8", &format!("{}-bearings.csv", build.code), text))
}

/// Columns of the CSV; `{u}` stands for the build's unit.
const COLUMNS: [&str; 21] = [
    "build",
    "station",
    "low_{u}",
    "aim_{u}",
    "high_{u}",
    "journal_{u}",
    "journal_undersize_{u}",
    "journal_taper_{u}",
    "journal_out_of_round_{u}",
    "housing_{u}",
    "upper_wall_{u}",
    "lower_wall_{u}",
    "bore_{u}",
    "bore_taper_{u}",
    "bore_relief_{u}",
    "method",
    "clearance_{u}",
    "expanded_uncertainty_{u}",
    "state",
    "margin_{u}",
    "concession",
];

fn bearings_csv(build: &Build, assessed: &Assessment) -> Result<String, Box<dyn std::error::Error>> {
    let mut csv = csv::Writer::from_writer(Vec::new());
    csv.write_record(COLUMNS.map(|c| c.replace("{u}", build.unit.symbol())))?;
    for s in assessed.bearings() {
        csv.write_record(bearing_row(build, s).into_iter().map(guarded))?;
    }
    Ok(String::from_utf8(csv.into_inner()?)?)
}

fn bearing_row(build: &Build, s: &FigureAssessment) -> Vec<String> {
    let show = |l: Option<Length>| l.map_or_else(String::new, |l| number(l, build.unit));
    let name = |v: Option<serde_json::Value>| v.and_then(|v| v.as_str().map(str::to_owned)).unwrap_or_default();
    let window = s.target.as_ref().map(|t| t.window);
    let journal = s.journal().size.as_ref();
    let judged = s.judged.as_ref();
    let bore = s.bore_in_use().size.as_ref();
    vec![
        build.code.clone(),
        s.station.to_string(),
        show(window.map(|w| w.low)),
        show(window.map(|w| w.aim)),
        show(window.map(|w| w.high)),
        show(journal.map(|j| j.effective)),
        show(s.class.and_then(|c| c.undersize)),
        show(journal.map(|j| j.taper)),
        show(journal.map(|j| j.out_of_round)),
        show(s.housing().size.as_ref().map(|h| h.effective)),
        show(s.part(Role::UPPER_WALL, Read::Size).size.as_ref().map(|w| w.effective)),
        show(s.part(Role::LOWER_WALL, Read::Size).size.as_ref().map(|w| w.effective)),
        show(bore.map(|b| b.effective)),
        show(bore.map(|b| b.taper)),
        show(bore.and_then(|b| b.relief)),
        name(judged.and_then(|j| serde_json::to_value(j.method).ok())),
        show(judged.map(|j| j.clearance)),
        show(judged.map(|j| j.expanded)),
        match judged {
            Some(j) => name(serde_json::to_value(j.state).ok()),
            None if s.stale.is_some() => "stale".into(),
            None => "open".into(),
        },
        show(judged.map(|j| j.margin)),
        s.concession.as_ref().map_or_else(String::new, |c| format!("{}: {}", c.by.name, c.reason)),
    ]
}

/// A figure that spreadsheets read as a number.
fn number(length: Length, unit: Unit) -> String {
    length.to_decimal(unit).to_string()
}

/// The whole build as a spreadsheet: bearings, readings, gauges, and what was done and decided.
#[utoipa::path(get, path = "/api/v1/builds/{build}/build.xlsx",
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = Vec<u8>,
        content_type = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"),
        (status = "4XX", body = ProblemBody)))]
pub(super) async fn export_xlsx(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
) -> Result<Response, Problem> {
    let build = exportable(&state, &who, &name).await?;
    let code = build.code.clone();
    let whole = state.evaluated.whole(&build);
    let made = state.limits.work_out(move || spreadsheet(&whole.build, &whole.assessment)).await?;
    let bytes = made.map_err(|error| {
        tracing::error!(%error, "the spreadsheet could not be made");
        Problem::Internal
    })?;
    Ok(download("application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", &format!("{code}.xlsx"), bytes))
}

fn spreadsheet(build: &Build, assessed: &Assessment) -> Result<Vec<u8>, XlsxError> {
    let mut book = Workbook::new();
    let in_unit =
        |headings: &[&str]| -> Vec<String> { headings.iter().map(|h| h.replace("{u}", build.unit.symbol())).collect() };
    let bearings = assessed.bearings().map(|s| bearing_row(build, s)).collect();
    sheet(&mut book, "Bearings", &in_unit(&COLUMNS), bearings)?;
    let others: Vec<Vec<String>> = rows::figure_rows(build, assessed).into_iter().map(Vec::from).collect();
    if !others.is_empty() {
        sheet(&mut book, "Figures", &in_unit(&rows::FIGURE_HEADINGS), others)?;
    }
    let readings = rows::reading_rows(build, assessed).into_iter().map(Vec::from).collect();
    sheet(&mut book, "Readings", &in_unit(&rows::READING_HEADINGS), readings)?;
    let gauges = rows::gauge_rows(build).into_iter().map(Vec::from).collect();
    let headings = in_unit(&["gauge", "name", "serial", "step_{u}", "calibration_U_{u}", "calibrated", "due"]);
    sheet(&mut book, "Gauges", &headings, gauges)?;
    let unchecked = rows::unchecked_rows(assessed).into_iter().map(Vec::from).collect();
    sheet(&mut book, "Not checked", &in_unit(&["what", "which", "places"]), unchecked)?;
    let record = build.facts.iter().filter_map(|f| decision(build, f)).map(|d| {
        vec![d.seq.to_string(), d.by.name, d.kind, d.station.map(|s| s.to_string()).unwrap_or_default(), d.text]
    });
    sheet(&mut book, "Record", &in_unit(&["seq", "by", "kind", "station", "text"]), record.collect())?;
    book.save_to_buffer()
}

/// Columns of figures by their headings: lengths have their unit in it, and a few are counts.
fn holds_figures(heading: &str) -> bool {
    [Unit::Inch, Unit::Mm].iter().any(|u| heading.ends_with(&format!("_{}", u.symbol())))
        || matches!(heading, "seq" | "angle" | "track")
}

/// One sheet: a frozen heading line, figures as numbers, everything else as text.
fn sheet(book: &mut Workbook, name: &str, headings: &[String], rows: Vec<Vec<String>>) -> Result<(), XlsxError> {
    let bold = Format::new().set_bold();
    let sheet = book.add_worksheet();
    sheet.set_name(name)?.set_freeze_panes(1, 0)?;
    for (column, heading) in (0u16..).zip(headings) {
        sheet.write_with_format(0, column, heading, &bold)?;
    }
    for (line, row) in (1u32..).zip(rows) {
        for ((column, cell), heading) in (0u16..).zip(row).zip(headings) {
            match cell.parse::<f64>() {
                Ok(figure) if figure.is_finite() && holds_figures(heading) => sheet.write(line, column, figure)?,
                // A build that is called 1E5 is a name.
                _ => sheet.write_string(line, column, cell)?,
            };
        }
    }
    sheet.autofit();
    Ok(())
}

/// The largest file of a build: one of the most facts there may be, each with room, and of the most pictures.
pub(super) const LARGEST_FILE: usize = 128 * 1024 * 1024;

/// A file that was read and looked at.
struct Checked {
    build: Build,
    file: String,
    /// How much of it stands under a signature with this shop's mark.
    ours: u32,
    /// Its pictures, by their digests.
    pictures: Vec<(String, Vec<u8>)>,
}

/// Reads a file and works everything out that follows from it, before any of it is kept.
fn checked(bytes: &[u8], key: Option<&SealKey>, ahead: bool, wanted: &Wanted) -> Result<Checked, Problem> {
    let file: BuildFile = json(bytes)?;
    if file.form != FORM {
        return Err(Problem::field("form", format!("this file says \"{}\"; this product reads \"{FORM}\"", file.form)));
    }
    let now = (!ahead).then(clock::now);
    file.build.check_file(now, &|| wanted.still())?;
    let ours = key.map_or(0, |key| key.marked_up_to(&file.build.facts));
    let pictures = pictures::read_in(&file.build, &file.pictures)?;
    Ok(Checked { build: file.build, file: digest(bytes), ours, pictures })
}

/// Refuses a file that gives one of the shop's people a name that they never had.
async fn names_hold(state: &AppState, build: &Build) -> Result<(), Problem> {
    let mut said: HashMap<Uuid, HashSet<&str>> = HashMap::new();
    for person in build.facts.iter().map(|f| &f.by).chain([&build.opened_by]) {
        said.entry(person.id).or_default().insert(&person.name);
    }
    let here = state.store.members_named(&said.keys().copied().collect::<Vec<_>>()).await?;
    let former = state.store.former_names().await?;
    for known in here {
        let had = |name: &str| name == known.name || former.iter().any(|p| p.id == known.id && p.name == name);
        let odd = said.get(&known.id).into_iter().flatten().find(|name| !had(name));
        if let Some(odd) = odd {
            return Err(Problem::AnotherName { said: (*odd).to_owned(), known: known.name });
        }
    }
    Ok(())
}

/// How a file is read in.
#[derive(Debug, Default, Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub(super) struct ImportAsk {
    /// Whether times that are ahead of ours are taken as they are: the clock of that machine was wrong.
    #[serde(default)]
    ahead: bool,
}

/// Imports an exported build: all of it, or nothing. That it was imported, by whom and from which file, is a fact of the
/// build; signatures in the file count as this shop's only where they carry its mark.
#[utoipa::path(post, path = "/api/v1/imports", request_body = BuildFile, params(ImportAsk),
    responses((status = 201, body = BuildView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn import(
    State(state): State<AppState>,
    who: Who,
    Query(ask): Query<ImportAsk>,
    JsonBytes(bytes): JsonBytes,
) -> Result<(StatusCode, Json<BuildView>), Problem> {
    who.must(|c| c.open_builds, "an assembler or the lead")?;
    let key = state.key.clone();
    // A history that no working-out survives must not be kept; a panic there ends with it. Its turn lasts as long as its work.
    let looked =
        state.limits.work_out_while_wanted(move |wanted| checked(&bytes, key.as_ref(), ask.ahead, wanted)).await;
    let looked =
        looked.map_err(|problem| if matches!(problem, Problem::Internal) { Problem::NotWorkable } else { problem });
    let Checked { mut build, file, ours, pictures } = looked??;
    names_hold(&state, &build).await?;
    let by = who.account.person.clone();
    let imported = What::Imported(Imported { file, facts: build.seq(), ours });
    let fact = next_fact(&build, Uuid::new_v4(), clock::now(), by, imported)?;
    build.facts.push(fact);
    match state.store.open_build_with(&build, &pictures).await {
        Ok(Opened::New) => {}
        Ok(Opened::Again) | Err(StoreError::BuildExists) => return Err(Problem::BuildExists(build.code)),
        Err(StoreError::CodeTaken) => return Err(Problem::CodeTaken(build.code)),
        Err(other) => return Err(other.into()),
    }
    tracing::info!(build = build.code, by = who.account.login, "imported");
    state.changes.nudge();
    let kept = state.evaluated.of(&Arc::new(build), who.account.person.id);
    Ok((StatusCode::CREATED, Json(BuildView::of(&kept, &state.gauges(kept.build.unit)))))
}
